package trial

import (
	"reflect"
	"regexp"
	"slices"
	"strings"

	"cobrik/core/content"
	"cobrik/core/contract"
	"cobrik/core/draft"
)

// scope is a record that rows can show: of each the one it is made for, of with one of the source's.
type scope struct {
	row    *Row
	name   string
	source *content.Source
	list   bool
	prop   string // of each: id of the page's list
	at     int    // of with: which record, from 0
	items  []item // of each: what is shown of a record
}

// item is one thing that is shown of every record.
type item struct {
	prop    contract.Prop
	binding content.Binding
}

// bound is one prop that is given something of a source, for what is told of that.
type bound struct {
	row       *Row
	component string
	prop      contract.Prop
	binding   content.Binding
	source    *content.Source
	from, to  int // records
}

// scope begins a scope of a row; nil where there is no such source.
func (c *compiler) scope(r *Row) *scope {
	source := c.Sources[r.Source]
	if source == nil {
		c.fail(r, nil, "add the file in Content, or name another", "there is no source %s", r.Source)
		return nil
	}
	s := &scope{row: r, name: r.Head, source: source}
	c.scopes = append(c.scopes, s)
	return s
}

// fields are the fields in a text.
var fields = regexp.MustCompile(`\{\{|\}\}|\{[^{}]+\}`)

// bind gives what an argument gives for a prop; false, and told, where that is nothing.
func (c *compiler) bind(r *Row, a *Arg, q contract.Prop, in []*scope) (contract.Given, bool) {
	switch q.Kind() {
	case contract.SlotKind:
		c.fail(r, a, "put what stands in it into rows below, after to "+q.Name, "%s is a slot", a.Name)
		return contract.Given{}, false
	case contract.EventKind:
		c.fail(r, a, "leave it to whoever uses the page", "%s is told by the component, and is given nothing", a.Name)
		return contract.Given{}, false
	}
	switch a.Kind {
	case FlagArg:
		if q.Kind() != contract.FlagKind {
			c.fail(r, a, "give it a value, as in "+a.Name+"=…", "%s is a %s, and has no value", a.Name, q.Kind())
			return contract.Given{}, false
		}
		return contract.Given{Value: draft.Encoded(contract.FlagValue(true))}, true
	case JSONArg:
		v, err := q.Type.Decode([]byte(a.Value))
		if err != nil {
			c.fail(r, a, "", "%s: %s", a.Name, err)
			return contract.Given{}, false
		}
		return contract.Given{Value: draft.Encoded(v)}, true
	case FieldArg:
		return c.field(r, a, q, in)
	case TextArg:
		if fields.MatchString(a.Value) {
			return c.template(r, a, q, in)
		}
	}
	v := c.literal(r, a, q)
	if v == nil {
		return contract.Given{}, false
	}
	return contract.Given{Value: draft.Encoded(v)}, true
}

// literal reads a value that is written in the row; nil, and told, where it is none of the prop's.
func (c *compiler) literal(r *Row, a *Arg, q contract.Prop) contract.Value {
	switch q.Kind() {
	case contract.TextKind:
		return contract.TextValue(a.Value)
	case contract.ImageKind:
		if v, ok := c.Pictures[a.Value]; ok {
			return v
		}
	case contract.RichKind:
		if t, ok := q.Type.(contract.Rich); ok && t.Line && !strings.ContainsAny(a.Value, "*_`[<&\\\n") {
			return contract.Plain(a.Value)
		}
	}
	v, notes := content.Convert(q, content.Binding{Text: escaped(a.Value)}, content.Record{})
	if v == nil || !q.Type.Takes(v) {
		fix := ""
		if o := q.Options(); len(o) > 0 {
			fix = "use one of " + strings.Join(o, ", ")
		}
		what := a.Value
		if len(notes) > 0 && notes[0].What != "" && q.Kind() != contract.ChoiceKind {
			what = notes[0].What
		}
		c.fail(r, a, fix, "%s is a %s, and takes no %s", a.Name, q.Kind(), what)
		return nil
	}
	return v
}

func escaped(text string) string { return strings.NewReplacer("{", "{{", "}", "}}").Replace(text) }

// field gives a field of a record, or a source whole for a list.
func (c *compiler) field(r *Row, a *Arg, q contract.Prop, in []*scope) (contract.Given, bool) {
	path, how, _ := strings.Cut(a.Value, ":")
	path = strings.TrimSpace(path)
	if q.Kind() == contract.ListKind {
		return c.whole(r, a, path, q)
	}
	s, name := c.scopeOf(path, in)
	if s == nil {
		c.fail(r, a, "put it into each … of …, or with … of …", "no record is shown here that %s would be of", path)
		return contract.Given{}, false
	}
	if !c.hasField(r, a, s, name) {
		return contract.Given{}, false
	}
	b := content.Binding{Field: name, Locale: c.Locale}
	c.how(r, a, q, &b, s, strings.TrimSpace(how))
	return c.givenFrom(r, q, b, s)
}

// how reads what is said of a field behind a colon: the style and the language of a date or a number, the options that words of
// a field stand for, the field that says what a picture shows.
func (c *compiler) how(r *Row, a *Arg, q contract.Prop, b *content.Binding, s *scope, how string) {
	if q.Kind() == contract.ImageKind {
		if b.Alt = strings.TrimSpace(strings.TrimPrefix(how, "alt ")); b.Alt == "" {
			b.Alt = content.AltOf(b.Field, s.source)
		}
		return
	}
	if how == "" {
		return
	}
	if o := q.Options(); len(o) > 0 || q.Kind() == contract.IconKind {
		b.Options = map[string]string{}
		for _, pair := range strings.Split(how, ",") {
			from, to, ok := strings.Cut(pair, "=")
			if from, to = strings.TrimSpace(from), strings.TrimSpace(to); !ok || from == "" || to == "" {
				c.fail(r, a, "as in {crop: growing=young, ready=ripe}", "%q says no option for a word", pair)
				return
			}
			b.Options[from] = to
		}
		return
	}
	for _, word := range strings.Fields(how) {
		if slices.Contains(content.DateStyles, word) {
			b.Style = word
		} else if slices.Contains(content.Locales(), word) {
			b.Locale = word
		} else {
			c.fail(r, a, "use one of "+strings.Join(content.DateStyles, ", ")+", or a language such as de", "%q is no style of a date, and no language", word)
		}
	}
}

// scopeOf finds the record that a path is of, and the field in it: of the record that its first word names, else of the innermost.
func (c *compiler) scopeOf(path string, in []*scope) (*scope, string) {
	if first, rest, ok := strings.Cut(path, "."); ok {
		for _, s := range slices.Backward(in) {
			if s.name == first {
				return s, rest
			}
		}
	}
	if len(in) == 0 {
		return nil, ""
	}
	return in[len(in)-1], path
}

func (c *compiler) hasField(r *Row, a *Arg, s *scope, name string) bool {
	names := make([]string, len(s.source.Fields))
	for i, f := range s.source.Fields {
		if names[i] = f.Path; f.Path == name {
			return true
		}
	}
	if len(s.source.Records) == 0 {
		return true
	}
	fix := c.nearestOf(name, names)
	if fix == "" && len(names) <= 12 {
		fix = "it has " + strings.Join(names, ", ")
	}
	c.fail(r, a, fix, "%s has no field %s", s.row.Source, name)
	return false
}

// givenFrom gives what a binding says of a scope's record.
func (c *compiler) givenFrom(r *Row, q contract.Prop, b content.Binding, s *scope) (contract.Given, bool) {
	from, to := s.at, s.at+1
	if s.list {
		from, to = 0, min(len(s.source.Records), mostRecords)
		if s.row.Most > 0 {
			to = min(to, s.row.Most)
		}
	}
	c.bounds = append(c.bounds, bound{r, c.componentOf(r), q, b, s.source, from, to})
	if !s.list {
		v, _ := content.Convert(q, b, s.source.Records[s.at])
		if v == nil || !q.Type.Takes(v) {
			return contract.Given{}, false
		}
		return contract.Given{Prop: c.constant(contract.Prop{Name: nameOf(q, b), Type: q.Type}, v)}, true
	}
	for _, one := range s.items {
		if sameBinding(one.binding, b) && reflect.DeepEqual(one.prop.Type, q.Type) {
			return contract.Given{Prop: s.prop + "." + one.prop.ID}, true
		}
	}
	id := contract.Free(contract.Identifier(nameOf(q, b), q.Name), "", func(n string) bool {
		return contract.IsReserved(n) || slices.ContainsFunc(s.items, func(o item) bool { return o.prop.ID == n })
	})
	s.items = append(s.items, item{contract.Prop{ID: id, Name: id, Type: q.Type}, b})
	return contract.Given{Prop: s.prop + "." + id}, true
}

func sameBinding(a, b content.Binding) bool { return reflect.DeepEqual(a, b) }

// nameOf is what a prop of the page is called that is given something: as the field, else as the prop.
func nameOf(q contract.Prop, b content.Binding) string {
	if b.Field != "" {
		return b.Field[strings.LastIndex(b.Field, ".")+1:]
	}
	return q.ID
}

// template gives a text with fields in it. Of records that are one for the whole page the words stand in the text; of each, what it is
// made for fills it.
func (c *compiler) template(r *Row, a *Arg, q contract.Prop, in []*scope) (contract.Given, bool) {
	var of *scope
	ok := true
	text := fields.ReplaceAllStringFunc(a.Value, func(piece string) string {
		if piece == "{{" || piece == "}}" {
			return piece
		}
		path := strings.TrimSpace(piece[1 : len(piece)-1])
		s, name := c.scopeOf(path, in)
		switch {
		case s == nil:
			c.fail(r, a, "put it into each … of …, or with … of …; write {{ for a brace", "no record is shown here that %s would be of", path)
			ok = false
		case !c.hasField(r, a, s, name):
			ok = false
		case s.list && of != nil && of != s:
			c.fail(r, a, "show them in texts of their own", "a text shows fields of one list, and here of %s and %s", of.name, s.name)
			ok = false
		case s.list:
			of = s
			return "{" + name + "}"
		default:
			v, _ := content.Convert(contract.Prop{Name: q.Name, Type: contract.Text{}}, content.Binding{Field: name, Locale: c.Locale}, s.source.Records[s.at])
			c.bounds = append(c.bounds, bound{r, c.componentOf(r), contract.Prop{ID: q.ID, Name: q.Name, Type: contract.Text{}}, content.Binding{Field: name, Locale: c.Locale}, s.source, s.at, s.at + 1})
			if v == nil {
				return ""
			}
			return escaped(v.String())
		}
		return ""
	})
	if !ok {
		return contract.Given{}, false
	}
	b := content.Binding{Text: text, Locale: c.Locale}
	if of != nil {
		return c.givenFrom(r, q, b, of)
	}
	v, _ := content.Convert(q, b, content.Record{})
	if v == nil || !q.Type.Takes(v) {
		c.fail(r, a, "", "%s is a %s, and takes no %s", a.Name, q.Kind(), text)
		return contract.Given{}, false
	}
	return contract.Given{Prop: c.constant(contract.Prop{Name: q.ID, Type: q.Type}, v)}, true
}

func (c *compiler) componentOf(r *Row) string {
	if r.Kind == UseRow {
		return r.Head
	}
	return ""
}

// whole gives a list all records of a source, its items' props by the fields that are called like them.
func (c *compiler) whole(r *Row, a *Arg, name string, q contract.Prop) (contract.Given, bool) {
	source := c.Sources[name]
	for _, ending := range []string{".json", ".csv"} {
		if source == nil {
			source = c.Sources[name+ending]
		}
	}
	if source == nil {
		c.fail(r, a, "add the file in Content, or name another", "there is no source %s, and %s is a list", name, a.Name)
		return contract.Given{}, false
	}
	l, _ := q.Type.(contract.List)
	like := &contract.Contract{Props: l.Items}
	bindings := content.Propose(like, source)
	to := min(len(source.Records), mostRecords)
	if l.Most > 0 {
		to = min(to, l.Most)
	}
	var list contract.ListValue
	for i := range to {
		one := content.Given(like, bindings, source.Records[i])
		list = append(list, one)
	}
	for _, p := range l.Items {
		b, said := bindings[p.ID]
		if !said && !p.Required {
			continue
		}
		c.bounds = append(c.bounds, bound{r, c.componentOf(r), p, b, source, 0, to})
	}
	if !q.Type.Takes(list) {
		c.fail(r, a, "give the records the fields "+strings.Join(propNames(like), ", "), "%s takes no records of %s", a.Name, source.Name)
		return contract.Given{}, false
	}
	return contract.Given{Prop: c.constant(contract.Prop{Name: q.Name, Type: q.Type}, list)}, true
}

// mostRecords bounds how many records a page shows: a list takes no more.
const mostRecords = 1000

// fill gives the page's lists what they show of each record.
func (c *compiler) fill() {
	for _, s := range c.scopes {
		if !s.list {
			continue
		}
		l := contract.List{Items: []contract.Prop{}}
		for _, one := range s.items {
			l.Items = append(l.Items, one.prop)
		}
		if len(l.Items) == 0 { // the rows below show nothing of it: there is one for each all the same
			l.Items = append(l.Items, contract.Prop{ID: "record", Name: "record", Type: contract.Number{}})
		}
		n := min(len(s.source.Records), mostRecords)
		if s.row.Most > 0 {
			n = min(n, s.row.Most)
		}
		list := contract.ListValue{}
		for _, r := range s.source.Records[:n] {
			values := contract.Values{}
			for _, one := range s.items {
				if v, _ := content.Convert(one.prop, one.binding, r); v != nil && one.prop.Type.Takes(v) {
					values[one.prop.ID] = v
				}
			}
			list = append(list, values)
		}
		c.page.Contract.Props = append(c.page.Contract.Props, contract.Prop{ID: s.prop, Name: s.prop, Type: l})
		c.page.Values[s.prop] = list
	}
}

// forecast tells what goes wrong with what records say.
func (c *compiler) forecast() {
	empty := map[string]bool{}
	for _, s := range c.scopes {
		if s.list && len(s.source.Records) == 0 && !empty[s.row.Source] {
			empty[s.row.Source] = true
			for _, w := range content.Forecast(&contract.Contract{}, nil, s.source) {
				c.page.Warnings = append(c.page.Warnings, Warning{Line: s.row.Line, Source: s.row.Source, Warning: w})
			}
		}
	}
	for _, b := range c.bounds {
		if len(b.source.Records) == 0 {
			continue
		}
		some := &content.Source{Name: b.source.Name, Records: b.source.Records[b.from:b.to], Fields: b.source.Fields}
		bindings := content.Bindings{b.prop.ID: b.binding}
		if sameBinding(b.binding, content.Binding{}) {
			bindings = nil
		}
		for _, w := range content.Forecast(&contract.Contract{Props: []contract.Prop{b.prop}}, bindings, some) {
			for i := range w.Records {
				w.Records[i] += b.from
			}
			c.page.Warnings = append(c.page.Warnings, Warning{Line: b.row.Line, Component: b.component, Source: b.source.Name, Warning: w})
		}
	}
}
