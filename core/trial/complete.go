package trial

import (
	"slices"
	"sort"
	"strings"
	"unicode"

	"cobrik/core/content"
	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/layout"
	"cobrik/core/token"
)

// RowCompletion is one way to go on in a row.
type RowCompletion struct {
	Text   string `json:"text" doc:"What stands before the cursor when it is taken"`
	Label  string `json:"label" doc:"As it is read"`
	Detail string `json:"detail" doc:"A version, a purpose, a token's value"`
	Kind   string `json:"kind" enum:"component,primitive,element,word,prop,option,property,field,token,source"`
	Slug   string `json:"slug" doc:"Of a component"`
}

// Offer is a component that can be used.
type Offer struct {
	Name, Slug, Version, Purpose string
}

// Known is what completion chooses from.
type Known struct {
	Offers    []Offer
	Component func(name string) *contract.Contract
	Tokens    *token.Set
	Sources   map[string]*content.Source
	Pictures  []string
}

// mostOffered bounds how many ways are offered.
const mostOffered = 40

// Complete lists how a row of an outline could go on behind what is typed up to the cursor, the likeliest first. The line is from 1.
func Complete(outline string, line int, typed string, k Known) []RowCompletion {
	lines := strings.Split(outline, "\n")
	c := completer{Known: k}
	if line >= 1 && line <= len(lines) {
		c.around(lines[:line-1], len(lines[line-1])-len(strings.TrimLeft(lines[line-1], " ")))
	}
	body := strings.TrimLeft(typed, " ")
	c.before = typed[:len(typed)-len(body)]
	c.row(body)
	if len(c.out) > mostOffered {
		c.out = c.out[:mostOffered]
	}
	return append([]RowCompletion{}, c.out...)
}

type completer struct {
	Known
	before string // what stands before the word that is completed
	within []*Row // the rows around, the innermost first
	out    []RowCompletion
}

// around reads the rows that a row of an indent stands in.
func (c *completer) around(above []string, indent int) {
	for i := len(above) - 1; i >= 0 && indent > 0; i-- {
		body := strings.TrimLeft(above[i], " ")
		if at := len(above[i]) - len(body); body != "" && at < indent {
			indent = at
			rows, _ := Parse(body)
			if len(rows) > 0 {
				c.within = append(c.within, rows[0])
			}
		}
	}
}

func (c *completer) offer(kind, before, word, label, detail string) {
	c.out = append(c.out, RowCompletion{Text: c.before + before + word, Label: label, Detail: detail, Kind: kind})
}

// ranks words by how they fit what is typed: those that begin so, those with a word in them that does, those that hold it.
func rank(word, typed string) int {
	w, t := strings.ToLower(word), strings.ToLower(typed)
	switch {
	case strings.HasPrefix(w, t):
		return 0
	case slices.ContainsFunc(contract.Words(word), func(one string) bool { return strings.HasPrefix(one, t) }):
		return 1
	case strings.Contains(w, t):
		return 2
	}
	return -1
}

// words offers those of a list that fit, the best first.
func (c *completer) words(kind, before, typed string, list []string, tail string, detail func(string) string) {
	type ranked struct {
		word string
		rank int
	}
	var fit []ranked
	for _, w := range list {
		if r := rank(w, typed); r >= 0 {
			fit = append(fit, ranked{w, r})
		}
	}
	sort.SliceStable(fit, func(i, k int) bool { return fit[i].rank < fit[k].rank })
	for _, f := range fit {
		d := ""
		if detail != nil {
			d = detail(f.word)
		}
		c.offer(kind, before, f.word+tail, f.word, d)
	}
}

func (c *completer) row(body string) {
	for _, head := range []string{"each ", "with "} {
		if rest, ok := strings.CutPrefix(body, head); ok {
			c.records(head, rest)
			return
		}
	}
	if rest, ok := strings.CutPrefix(body, "to "); ok {
		for _, r := range c.within {
			if of := c.component(r.Head); r.Kind == UseRow && of != nil {
				c.words("word", "to ", rest, slotsOf(of), "", nil)
				return
			}
		}
		return
	}
	head, rest, more := strings.Cut(body, " ")
	if !more {
		c.head(head)
		return
	}
	if head == "below" || head == "from" || head == "in" {
		c.width(body)
		return
	}
	c.argument(head+" ", rest, &Row{Head: head, Kind: kindOf(head)})
}

func kindOf(head string) RowKind {
	switch {
	case head == "gap":
		return GapRow
	case isPrimitive(head):
		return PrimitiveRow
	case head != "" && unicode.IsUpper([]rune(head)[0]):
		return UseRow
	}
	return ElementRow
}

// head offers what a row can begin with: components first.
func (c *completer) head(typed string) {
	type ranked struct {
		RowCompletion
		rank int
	}
	var fit []ranked
	for _, o := range c.Offers {
		r := rank(o.Name, typed)
		if r < 0 {
			continue
		}
		detail := o.Version
		if detail == "" {
			detail = "at work"
		}
		fit = append(fit, ranked{RowCompletion{Text: c.before + o.Name + " ", Label: o.Name, Detail: detail, Kind: "component", Slug: o.Slug}, r})
	}
	for _, p := range layout.Primitives {
		if r := rank(p.Name, typed); r >= 0 {
			fit = append(fit, ranked{RowCompletion{Text: c.before + p.Name + " ", Label: p.Name, Detail: p.Purpose, Kind: "primitive"}, r})
		}
	}
	extra := []struct{ word, detail string }{{boxHead, "an element that lays nothing out"}, {"each", "what is below is there for each record"}, {"with", "what is below shows one record"},
		{"below", "what is otherwise, or there, below a width"}, {"from", "from a width on"}, {"in", "by the width of a container"}, {"to", "into a slot"}, {"gap", "room for what nothing is there for yet"}}
	for _, e := range extra {
		if r := rank(e.word, typed); r >= 0 {
			fit = append(fit, ranked{RowCompletion{Text: c.before + e.word + " ", Label: e.word, Detail: e.detail, Kind: "word"}, r})
		}
	}
	for _, e := range append([]string{richHead}, contract.Elements...) {
		if r := rank(e, typed); r == 0 && typed != "" && e != "svg" {
			fit = append(fit, ranked{RowCompletion{Text: c.before + e + " ", Label: e, Detail: "element", Kind: "element"}, r})
		}
	}
	sort.SliceStable(fit, func(i, k int) bool { return fit[i].rank < fit[k].rank })
	for _, f := range fit {
		c.out = append(c.out, f.RowCompletion)
	}
}

func (c *completer) component(name string) *contract.Contract {
	if c.Component == nil || name == "" || !unicode.IsUpper([]rune(name)[0]) {
		return nil
	}
	return c.Component(name)
}

// records offers the sources of a row of records.
func (c *completer) records(head, rest string) {
	called, typed, named := strings.Cut(rest, " of ")
	if !named {
		if called = strings.TrimSpace(called); called != "" {
			c.offer("word", head, called+" of ", called+" of …", "a source of records")
		}
		return
	}
	var names []string
	for name := range c.Sources {
		names = append(names, name)
	}
	slices.Sort(names)
	c.words("source", head+called+" of ", typed, names, "", func(name string) string {
		return contract.ListValue(make([]contract.Values, len(c.Sources[name].Records))).String()
	})
}

// width offers what is otherwise at some widths: of the row around.
func (c *completer) width(body string) {
	words := strings.Split(body, " ")
	at := len(words) - 1
	typed := words[at]
	before := strings.TrimSuffix(body, typed)
	if at < 2 && words[0] != "in" || words[0] == "in" && at < 4 {
		if words[0] == "in" && at == 2 {
			c.words("word", before, typed, []string{"below", "from"}, " ", nil)
		}
		return
	}
	if len(c.within) > 0 {
		c.argument(before, typed, c.within[0])
	}
	c.words("word", before, typed, []string{"hidden", "none"}, "", nil)
}

// argument offers the name or the value of what a row is given. Before is what stands before the rest.
func (c *completer) argument(before, rest string, r *Row) {
	open, at := unclosed(rest)
	if open == '"' || open == '{' {
		c.inside(before+rest[:at+1], rest[at+1:], open)
		return
	}
	cut := strings.LastIndexByte(rest, ' ') + 1
	done, last := rest[:cut], rest[cut:]
	before += done
	name, value, given := strings.Cut(last, "=")
	of := c.component(r.Head)
	if given {
		c.value(before+name+"=", value, name, r, of)
		return
	}
	var names []string
	detail := map[string]string{}
	switch {
	case r.Kind == UseRow && of != nil:
		for _, p := range of.Props {
			if p.Kind() != contract.SlotKind && p.Kind() != contract.EventKind {
				names = append(names, p.Name)
				detail[p.Name] = strings.TrimSpace(string(p.Kind()) + " " + p.Purpose)
			}
		}
	case r.Kind == PrimitiveRow:
		for _, p := range layout.Primitives {
			if p.Name != r.Head {
				continue
			}
			for _, q := range p.Props {
				names = append(names, q.Name)
				detail[q.Name] = q.Purpose
			}
		}
	}
	c.words("prop", before, last, names, "=", func(n string) string { return detail[n] })
	if last == "" {
		return
	}
	var properties []string
	for _, p := range css.PropertyNames() {
		if r.Kind != UseRow || contract.Standing(p) {
			properties = append(properties, p)
		}
	}
	c.words("property", before, last, properties, "=", nil)
	if r.Kind == ElementRow {
		c.words("property", before, last, contract.AttributesOf(r.Head), "=", func(string) string { return "attribute" })
	}
}

// value offers values of a prop or a property.
func (c *completer) value(before, typed, name string, r *Row, of *contract.Contract) {
	if of != nil {
		q := propNamed(of, name)
		if q == nil {
			return
		}
		options := q.Options()
		switch t := q.Type.(type) {
		case contract.Flag:
			options = []string{"true", "false"}
		case contract.Icon:
			options = t.Names()
		case contract.Image:
			options = c.Pictures
		}
		c.words("option", before, typed, options, "", nil)
		if len(options) == 0 && typed == "" {
			c.offer("word", before, `"`, `"…"`, "a text; {…} in it is a field")
		}
		c.fields(before+"{", strings.TrimPrefix(typed, "{"), "}")
		return
	}
	for _, p := range layout.Primitives {
		if p.Name != r.Head {
			continue
		}
		for _, q := range p.Props {
			if q.Name == name {
				c.words("option", before, typed, q.Options, "", nil)
				if len(q.Options) == 0 {
					c.tokens(before+"{", strings.TrimPrefix(typed, "{"), "}", "gap")
				}
			}
		}
	}
	c.tokens(before+"{", strings.TrimPrefix(typed, "{"), "}", name)
}

// inside offers fields, or tokens, where braces are open.
func (c *completer) inside(before, typed string, open byte) {
	if open == '"' {
		at := strings.LastIndexByte(typed, '{')
		if at < 0 || strings.Contains(typed[at:], "}") {
			return
		}
		before, typed = before+typed[:at+1], typed[at+1:]
	}
	c.fields(before, typed, "}")
	if open == '{' {
		c.tokens(before, typed, "}", "")
	}
}

// fields offers those of the records around.
func (c *completer) fields(before, typed, after string) {
	for _, r := range c.within {
		if r.Kind != EachRow && r.Kind != WithRow || c.Sources[r.Source] == nil {
			continue
		}
		for _, f := range c.Sources[r.Source].Fields {
			path := r.Head + "." + f.Path
			if rank(path, typed) >= 0 || rank(f.Path, typed) >= 0 {
				c.offer("field", before, path+after, path, f.Sample)
			}
		}
	}
}

// tokens offers those that a property takes.
func (c *completer) tokens(before, typed, after, property string) {
	p, known := css.PropertyNamed(property)
	for _, t := range c.Tokens.All() {
		if t.Value == "" || t.Deprecated != "" || known && !slices.Contains(p.TokenTypes(), t.Type) || rank(t.Path, typed) < 0 {
			continue
		}
		c.offer("token", before, t.Path+after, t.Path, t.Value)
	}
}

// unclosed tells whether a quote or a brace is open at the end of a text, and where.
func unclosed(text string) (open byte, at int) {
	for i := 0; i < len(text); i++ {
		switch b := text[i]; {
		case open == '"' && b == '\\':
			i++
		case open == '"' && b == '"', open == '{' && b == '}':
			open = 0
		case open == 0 && (b == '"' || b == '{'):
			open, at = b, i
		}
	}
	return open, at
}
