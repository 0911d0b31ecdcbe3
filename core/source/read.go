package source

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/problem"
	"cobrik/core/source/syntax"
	"cobrik/core/token"
)

// Options say what is known beside the code.
type Options struct {
	// Token gives the path of the token that a custom property is; false for one that is none. The
	// name has its two hyphens.
	Token func(property string) (path string, ok bool)
	// Tokens are those that values refer to; nil where nothing is known of them.
	Tokens *token.Set
	// Component gives the contract of a component that is used, by its name; nil for an unknown one.
	Component func(name string) *contract.Contract
	// Modifiers of the themes; each is chosen by an attribute of its name, "theme" by data-theme.
	Modifiers []string
}

// Reading is what the code of one component says. The contract holds all that a contract can; it is
// not checked.
type Reading struct {
	Contract *contract.Contract
	File     string
	Sheets   []string             // the style sheets that its classes are of
	Unread   problem.List         // what could not be read, each with its place
	Unsure   map[Subject]string   // why a fact may be meant otherwise
	Places   map[Subject]Position // where a fact is said

	classes map[string]string  // what parts are called by, by their ids
	code    map[Subject]string // pieces of code that say what no contract holds
	unread  map[Subject]string // pieces that were not read
}

// Facts lists what the code says, by key: what a contract says of code, and pieces of code that no contract holds.
func (r *Reading) Facts() []Fact {
	out := Facts(r.Contract)
	silent := map[Subject]bool{{Property: "purpose"}: r.Contract.Purpose == ""} // what would be said of them is said nowhere
	r.Contract.EachProp(func(id string, p *contract.Prop) { silent[ofProp(id, "purpose")] = p.Purpose == "" })
	out = slices.DeleteFunc(out, func(f Fact) bool {
		return silent[f.About] || f.About.Kind == OfPart && f.About.Property == "class"
	})
	for id, class := range r.classes {
		out = append(out, Fact{ofPart(id, "class"), class})
	}
	for about, text := range r.code {
		out = append(out, Fact{about, text})
	}
	slices.SortFunc(out, func(a, b Fact) int { return compareSubjects(a.About, b.About) })
	return out
}

// Position is a place in a file: line and column from 1, the column in bytes.
type Position struct {
	File   string `json:"file"`
	Line   int    `json:"line"`
	Column int    `json:"column"`
}

// reader reads one component.
type reader struct {
	code    *Code
	m       *module
	o       Options
	f       *function
	out     *contract.Contract
	reading *Reading
	silent  bool

	native    string
	omitted   []string
	untyped   bool
	spread    *contract.Part // the element that takes the attributes of a use
	names     map[string]bool
	has       map[*contract.Part][]class
	at        map[*contract.Part]*syntax.Node
	inline    map[*contract.Part][]declaration
	anonymous map[*contract.Part]bool // parts without a class
	places    map[*contract.Part]string
	parents   map[*contract.Part]*contract.Part
	following map[*syntax.Node]bool                  // what is being followed, so that nothing goes round
	later     map[*contract.Part]map[string]Position // of parts whose names are not known yet
	hears     []hearing
	kept      []keptPiece
	classOf   map[*contract.Part]string // what parts are called by
	declared  map[string]*syntax.Node   // where props are, by their ids from outside
	itemAt    map[string]*syntax.Node
	elements  []string // that a use may make of the root
}

// Read reads a component of a file by the name it is known by outside; nil where the file has none
// of that name.
func (c *Code) Read(file, name string, o Options) *Reading {
	m := c.module(file)
	if m == nil {
		return nil
	}
	local := m.localOf(name)
	f := m.component(local)
	if f == nil {
		return nil
	}
	if o.Token == nil {
		o.Token = func(string) (string, bool) { return "", false }
	}
	if o.Component == nil {
		o.Component = func(string) *contract.Contract { return nil }
	}
	out := &contract.Contract{Format: contract.Format, Name: name, Purpose: f.doc}
	r := &reader{code: c, m: m, o: o, f: f, out: out,
		reading: &Reading{Contract: out, File: file, Unsure: map[Subject]string{}, Places: map[Subject]Position{}, classes: map[string]string{}, code: map[Subject]string{}, unread: map[Subject]string{}},
		names:   map[string]bool{}, has: map[*contract.Part][]class{}, at: map[*contract.Part]*syntax.Node{}, inline: map[*contract.Part][]declaration{},
		anonymous: map[*contract.Part]bool{}, places: map[*contract.Part]string{}, parents: map[*contract.Part]*contract.Part{}, following: map[*syntax.Node]bool{}, classOf: map[*contract.Part]string{}, declared: map[string]*syntax.Node{}, itemAt: map[string]*syntax.Node{}}
	if words, tags := r.documentation(local); tags != nil {
		out.Purpose = words
		if reason, is := tags["deprecated"]; is {
			out.Deprecated = &contract.Deprecation{Why: reason}
		}
	}
	s := r.props()
	r.body(s)
	if out.Root == nil {
		r.unread(f.body, "element", "no element that the component gives back could be read")
		out.Root = &contract.Part{ID: "root", Name: "root", Element: "div"}
	}
	r.settle()
	r.styles()
	r.implied()
	return r.reading
}

func (r *reader) documentation(local string) (string, map[string]string) {
	comment := commentBefore(r.m.bound[local])
	if comment == nil {
		return "", nil
	}
	return documentation(comment.Text())
}

// unread tells of a piece of code that is not read.
func (r *reader) unread(n *syntax.Node, rule, what string) {
	if r.silent {
		return
	}
	p := n.Problem(problem.Warning, "unread-"+rule, "not read: "+what, "")
	if !slices.Contains(r.reading.Unread, p) {
		r.reading.Unread = append(r.reading.Unread, p)
		about := Subject{Property: codeOf + what}
		r.reading.unread[about] += meaningOf(n)
		r.place(about, n)
	}
}

// Tokens that nothing stands between and what follows, or what comes before.
var (
	tightBefore = []string{"(", "[", ".", "!", "...", "?.", "${"}
	tightBehind = []string{")", "]", ".", ",", ";", "(", "[", "?."}
)

// meaningOf is a piece of code on one line, however it is laid out, without comments.
func meaningOf(n *syntax.Node) string {
	var b strings.Builder
	last := ""
	n.Walk(func(n *syntax.Node) bool {
		whole := n.Is("string", "template_string", "jsx_text", "regex")
		if n.Kind == "comment" || len(n.Children) > 0 && !whole {
			return n.Kind != "comment"
		}
		text := strings.Join(strings.Fields(n.Text()), " ")
		if text == "" {
			return false
		}
		if b.Len() > 0 && !slices.Contains(tightBefore, last) && !slices.Contains(tightBehind, text) {
			b.WriteByte(' ')
		}
		b.WriteString(text)
		last = text
		return false
	})
	return b.String()
}

// unsure tells why a fact may be meant otherwise.
func (r *reader) unsure(about Subject, why string) {
	if !r.silent {
		r.reading.Unsure[about] = why
	}
}

func (r *reader) place(about Subject, n *syntax.Node) {
	if n == nil || r.silent {
		return
	}
	file, line, column := n.Place()
	r.reading.Places[about] = Position{file, line, column}
}

// props reads what the component is given, and what names mean in its function.
func (r *reader) props() *scope {
	s := &scope{names: map[string]meaning{}}
	typed := shape{}
	if r.f.typed != nil {
		typed = r.shape(r.f.typed, r.m, 0)
	} else {
		r.untyped = true
	}
	r.native, r.omitted = typed.native, typed.omitted
	for _, m := range typed.members {
		if p, ok := r.prop(m, 0); ok {
			r.addProp(p, m.at)
		}
	}
	r.out.Apart = typed.apart
	r.takeAs()
	switch pattern := r.f.props; {
	case pattern.Is("object_pattern"):
		r.destructured(pattern, s, "")
	case pattern.Is("identifier"):
		s.names[pattern.Text()] = meaning{kind: propsWhole}
	}
	if d := r.m.bound[r.out.Name+".defaultProps"]; d != nil {
		names, values, whole := entries(d)
		if !whole {
			r.unread(d, "default", "some of the defaults")
		}
		for _, name := range names {
			r.begins(name, values[name], s)
		}
	}
	return s
}

func (r *reader) addProp(p contract.Prop, at *syntax.Node) {
	r.out.Props = append(r.out.Props, p)
	r.declared[p.ID] = at
	for _, of := range []string{"name", "type", "default", "required", "purpose"} {
		r.place(ofProp(p.ID, of), at)
	}
	if list, ok := p.Type.(contract.List); ok {
		for _, item := range list.Items {
			r.declared[p.ID+"."+item.ID] = r.itemAt[item.ID]
			for _, of := range []string{"name", "type", "default", "required", "purpose"} {
				r.place(ofProp(p.ID+"."+item.ID, of), at)
			}
		}
	}
}

// destructured binds the names of an object pattern: props, and what is left of them.
func (r *reader) destructured(pattern *syntax.Node, s *scope, list string) {
	for _, c := range pattern.Inner() {
		switch c.Kind {
		case "shorthand_property_identifier_pattern":
			r.bindProp(c.Text(), c.Text(), nil, c, s, list)
		case "object_assignment_pattern":
			name := c.Child("left").Text()
			r.bindProp(name, name, c.Child("right"), c, s, list)
		case "pair_pattern":
			name, value := memberName(c.Child("key")), c.Child("value")
			switch {
			case value.Is("identifier"):
				r.bindProp(name, value.Text(), nil, c, s, list)
			case value.Is("assignment_pattern"):
				r.bindProp(name, value.Child("left").Text(), value.Child("right"), c, s, list)
			default:
				r.unread(c, "prop", "the members of "+name)
			}
		case "rest_pattern":
			if id := c.First("identifier"); id != nil {
				s.names[id.Text()] = meaning{kind: restProps}
			}
		default:
			r.unread(c, "prop", shortened(c.Text()))
		}
	}
}

// bindProp binds a local name to a prop, and reads the prop's default.
func (r *reader) bindProp(name, local string, begins *syntax.Node, at *syntax.Node, s *scope, list string) {
	if list != "" {
		if id := list + "." + name; r.out.Prop(id) != nil {
			s.names[local] = meaning{kind: propValue, prop: id}
			if begins != nil {
				r.stands(id, begins, s)
			}
		}
		return
	}
	switch {
	case r.out.Prop(name) != nil:
	case name == "as":
		s.names[local] = meaning{kind: rootTag, value: begins}
		return
	case name == "className" || name == "class":
		s.names[local] = meaning{kind: classGiven}
		return
	case name == "ref" || name == "style" || name == "key":
		s.names[local] = meaning{kind: machinery}
		return
	case r.untyped || r.native != "":
		r.discover(name, local, begins, at)
	}
	if r.out.Prop(name) == nil {
		return
	}
	s.names[local] = meaning{kind: propValue, prop: name}
	if begins != nil {
		r.begins(name, begins, s)
	}
}

// discover makes a prop of a name that no type declares: one of the element's own attributes, or of code without types.
func (r *reader) discover(name, local string, begins *syntax.Node, at *syntax.Node) {
	k := r.nativeKind(name)
	if r.untyped && r.native == "" {
		k = r.kindByUse(name, local, begins)
		if k.typed == nil {
			r.unread(at, "prop", name+": "+k.why)
			return
		}
		r.unsure(ofProp(name, "type"), "the code has no types; it is read by how it is used")
	}
	r.addProp(contract.Prop{ID: name, Name: name, Type: k.typed}, at)
}

// kindByUse tells what a prop without a type holds, by its default and by what is done with it.
func (r *reader) kindByUse(name, local string, begins *syntax.Node) kindRead {
	native := r.nativeKind(name)
	if native.typed.Kind() != contract.TextKind {
		return native
	}
	var options []string
	texts, flags, lists := 0, 0, 0
	r.f.body.Walk(func(n *syntax.Node) bool {
		if !n.Is("identifier") || n.Text() != local {
			return true
		}
		up := n.Parent
		switch {
		case up.Is("binary_expression") && (up.Child("operator").Text() == "===" || up.Child("operator").Text() == "!=="):
			for _, side := range up.Inner() {
				if v, ok := constant(side); ok {
					if text, is := v.(string); is {
						options = append(options, text)
					}
				}
			}
		case up.Is("binary_expression") && up.Child("operator").Text() == "&&" && up.Child("left") == n, up.Is("ternary_expression") && up.Child("condition") == n, up.Is("unary_expression"):
			flags++
		case up.Is("jsx_expression"):
			texts++
		case up.Is("subscript_expression") && up.Child("index") == n:
			names, _, _ := r.table(up.Child("object"), nil)
			options = append(options, names...)
		case up.Is("member_expression") && up.Child("property").Text() == "map":
			lists++
		}
		return true
	})
	if v, ok := constant(begins); begins != nil && ok {
		switch v := v.(type) {
		case bool:
			return kindRead{typed: contract.Flag{}}
		case float64:
			return kindRead{typed: contract.Number{}}
		case string:
			if options != nil {
				return kindRead{typed: contract.Choice{Options: distinct(append([]string{v}, options...))}}
			}
		}
	}
	switch {
	case lists > 0:
		return kindRead{why: "a list of what no type tells"}
	case len(options) > 0:
		return kindRead{typed: contract.Choice{Options: distinct(options)}}
	case flags > 0 && texts == 0:
		return kindRead{typed: contract.Flag{}}
	}
	return native
}

// begins reads a prop's default.
func (r *reader) begins(name string, n *syntax.Node, s *scope) {
	p := r.out.Prop(name)
	if p == nil {
		return
	}
	v, ok := r.valueOf(p, n, s)
	if !ok {
		r.unread(n, "default", "the default of "+name+": "+shortened(n.Text()))
		return
	}
	if v == nil {
		return
	}
	r.place(ofProp(p.ID, "default"), n)
	setDefault(p, v)
	p.Required = false
}

// valueOf reads an expression as a value of a prop; a nil value for nothing.
func (r *reader) valueOf(p *contract.Prop, n *syntax.Node, s *scope) (contract.Value, bool) {
	n = bare(n)
	for range 8 {
		m, ok := r.means(n, s)
		if !ok || m.kind != constValue {
			break
		}
		n, s = bare(m.value), m.in
	}
	v, isConstant := constant(n)
	if _, none := v.(nothing); isConstant && none {
		return nil, true
	}
	text, isText := v.(string)
	switch t := p.Type.(type) {
	case contract.Text:
		return contract.TextValue(text), isText
	case contract.Link:
		return contract.LinkValue(text), isText
	case contract.Flag:
		flag, is := v.(bool)
		return contract.FlagValue(flag), is
	case contract.Number:
		x, is := v.(float64)
		return contract.NumberValue(x), is
	case contract.Choice:
		if n.Is("member_expression") { // an enumeration's
			if in, declared := r.moduleOf(n).typeNamed(n.Child("object").Text()); declared.Is("enum_declaration") {
				_ = in
				for _, c := range declared.Child("body").Inner() {
					if c.Child("name").Text() == n.Child("property").Text() {
						if word, ok := constant(c.Child("value")); ok {
							text, isText = word.(string)
						}
					}
				}
			}
		}
		return contract.OptionValue(text), isText && slices.Contains(t.Options, text)
	case contract.Icon:
		return contract.IconValue(text), isText && slices.Contains(t.Names(), text)
	case contract.Slot, contract.Rich:
		return r.richOf(n)
	case contract.List:
		return r.listOf(t, n, s)
	case contract.Image:
		return r.imageOf(n)
	}
	return nil, false
}

func (r *reader) listOf(t contract.List, n *syntax.Node, s *scope) (contract.Value, bool) {
	if !n.Is("array") {
		return nil, false
	}
	out := contract.ListValue{}
	for _, e := range n.Inner() {
		names, values, whole := entries(e)
		if !whole {
			return nil, false
		}
		item := contract.Values{}
		for _, name := range names {
			at := slices.IndexFunc(t.Items, func(q contract.Prop) bool { return q.Name == name })
			if at < 0 {
				return nil, false
			}
			q := &t.Items[at]
			v, ok := r.valueOf(q, values[name], s)
			if !ok {
				return nil, false
			}
			if v != nil {
				item[q.ID] = v
			}
		}
		out = append(out, item)
	}
	return out, true
}

func (r *reader) imageOf(n *syntax.Node) (contract.Value, bool) {
	_, values, whole := entries(n)
	if !whole {
		return nil, false
	}
	var out contract.ImageValue
	for name, text := range map[string]*string{"src": &out.Source, "alt": &out.Alt} {
		v, ok := constant(values[name])
		if word, is := v.(string); ok && is {
			*text = word
		} else {
			return nil, false
		}
	}
	for name, number := range map[string]*float64{"width": &out.Width, "height": &out.Height} {
		v, ok := constant(values[name])
		if x, is := v.(float64); ok && is {
			*number = x
		} else {
			return nil, false
		}
	}
	return out, true
}

// plainName is a name that stands as it is.
var plainName = regexp.MustCompile(`^[\p{L}$][\p{L}\p{Nd}\p{Mn}\p{Mc}$]*$`)

// partName makes a part's id of what it is called, unlike all others.
func (r *reader) partName(want string) string {
	if !plainName.MatchString(want) {
		want = contract.Identifier(want, "part")
	}
	id := contract.Free(want, "", func(name string) bool { return r.names[name] })
	r.names[id] = true
	return id
}

// settleKinds tells kinds apart that one type stands for, by what is done with the props: an address from a text,
// rich text from a slot, an icon from a choice.
func (r *reader) settleKinds() {
	shown := map[string]bool{}
	links := map[string]bool{}
	r.out.Walk(func(p, _ *contract.Part) {
		if t, ok := p.Content.(contract.TextOf); ok {
			shown[t.Prop] = true
		}
		for name, a := range p.Attributes {
			if kind, _, ok := contract.AttributeOf(p.Element, name); a.Prop != "" && ok && kind == contract.LinkAttribute {
				links[a.Prop] = true
			}
		}
	})
	r.out.EachProp(func(id string, p *contract.Prop) {
		if t, ok := p.Type.(contract.Text); ok && links[id] && !shown[id] {
			p.Type = contract.Link{Initial: t.Initial}
		}
	})
}

// jsxNames are the names of attributes that JSX spells otherwise than HTML and SVG, all but by capitals.
var jsxNames = map[string]string{"className": "class", "htmlFor": "for", "defaultValue": "value", "defaultChecked": "checked", "acceptCharset": "accept-charset", "httpEquiv": "http-equiv"}

// attributeName spells the name of an attribute in JSX as HTML and SVG do.
func attributeName(jsx string) string {
	if html := jsxNames[jsx]; html != "" {
		return html
	}
	if strings.HasPrefix(jsx, "aria-") || strings.HasPrefix(jsx, "data-") || slices.Contains([]string{"viewBox", "preserveAspectRatio", "gradientUnits", "gradientTransform"}, jsx) {
		return jsx
	}
	for _, word := range []string{"stroke", "fill", "clip", "font", "text", "stop"} {
		if rest, is := strings.CutPrefix(jsx, word); is && rest != "" && isCapital(rest) {
			return word + "-" + strings.ToLower(rest)
		}
	}
	return strings.ToLower(jsx)
}

// String tells what was read in a line.
func (r *Reading) String() string {
	rules := 0
	for _, rule := range r.Contract.Rules {
		rules += len(rule.Set)
	}
	parts := 0
	r.Contract.Walk(func(*contract.Part, *contract.Part) { parts++ })
	return fmt.Sprintf("%s: %d props, %d parts, %d values under conditions, %d pieces not read", r.Contract.Name, len(r.Contract.Props), parts, rules, len(r.Unread))
}
