package trial

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/content"
	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// World is what a page is made from.
type World struct {
	Name      string                               // of the page, as a component is named
	Component func(name string) *contract.Contract // linked, and of the page alone; nil for none
	Tokens    *token.Set
	Sources   map[string]*content.Source // by the names that rows call them
	Locale    string                     // of numbers and dates that become text, BCP 47; as they are written when empty
	Pictures  map[string]contract.ImageValue
	Lifted    bool // texts and values that rows say are props of the page, too: another text is no other code
}

// Page is an outline that was made a component of.
type Page struct {
	Contract *contract.Contract
	Values   contract.Values // what it is shown with: what its records say
	Rows     []*Row
	Pieces   []Piece
	Warnings []Warning
	Found    problem.List // by line; a row with an error is left out
}

// Piece is a part of a page that one looks at: a use, a text or picture, a gap.
type Piece struct {
	Part      string // its id
	Line      int    // of its row
	Component string // of a use; empty for others
	Name      string // the head of its row, or what a gap is called
	Gap       bool
	Source    string // of the record it stands in; empty for none
	Each      bool   // it is there for each record of the source
	Record    int    // else the record it is there for, from 0
	Filled    bool   // something stands in its slots: what it says is not its own alone
}

// Warning is something that goes wrong with what records say, told before it does.
type Warning struct {
	Line      int    `json:"line" doc:"Of the row"`
	Component string `json:"component" doc:"That is given it; empty for an element"`
	Source    string `json:"source"`
	content.Warning
}

// Compile makes a component of a page's rows. Rows that cannot be shown are left out, with those inside of them, and told.
func Compile(w World, rows []*Row) *Page {
	return compile(w, rows, map[int]bool{}, 0)
}

// mostAttempts bounds how often a page is made again without the rows that a check of the whole finds wrong.
const mostAttempts = 4

func compile(w World, rows []*Row, without map[int]bool, attempt int) *Page {
	c := &compiler{World: w, without: without, page: &Page{Rows: rows, Values: contract.Values{}}, lines: map[string]int{}, taken: map[string]bool{}, known: map[string]*contract.Contract{}, props: map[string]bool{}}
	root := &contract.Part{ID: "root", Name: "root", Element: "div", Style: c.rootStyle()}
	c.page.Contract = &contract.Contract{Format: contract.Format, Name: w.Name, Purpose: "A page on trial.", Props: []contract.Prop{}, Root: root}
	c.taken["root"] = true
	root.Children = c.rows(rows, nil)
	c.page.Contract.Rules = append(c.page.Contract.Rules, c.hides...)
	c.fill()
	c.forecast()
	var wrong problem.List
	for _, p := range c.page.Contract.Check(w.Tokens) {
		p.Line = c.lineAt(p.Pointer)
		p.Pointer = ""
		switch {
		case p.Rule == "use-required":
			p.Severity = problem.Warning // it is shown as it is without
			c.page.Found = append(c.page.Found, p)
		case p.Severity == problem.Error:
			wrong = append(wrong, p)
		}
	}
	if len(wrong) == 0 {
		return c.page
	}
	more := maps.Clone(without)
	for _, p := range wrong {
		more[p.Line] = true
	}
	if attempt >= mostAttempts || len(more) == len(without) || more[0] {
		c.page.Found = append(c.page.Found, wrong...)
		c.page.Contract.Root.Children, c.page.Contract.Rules, c.page.Contract.Props, c.page.Pieces = nil, nil, []contract.Prop{}, nil
		return c.page
	}
	page := compile(w, rows, more, attempt+1)
	page.Found = append(page.Found, wrong...)
	slices.SortStableFunc(page.Found, func(a, b problem.Problem) int { return a.Line - b.Line })
	return page
}

type compiler struct {
	World
	page    *Page
	without map[int]bool // lines of rows that are left out
	lines   map[string]int
	taken   map[string]bool // names of parts
	known   map[string]*contract.Contract
	scopes  []*scope
	bounds  []bound
	props   map[string]bool // ids of the page's props
	hides   []contract.Rule // that take versions away; they come after all others
}

func (c *compiler) fail(r *Row, a *Arg, fix, format string, args ...any) {
	p := problem.Problem{Line: r.Line, Column: 1, Rule: "row", Severity: problem.Error, Fix: fix, Message: fmt.Sprintf(format, args...)}
	if a != nil {
		p.Column = a.At + 1
	}
	c.page.Found = append(c.page.Found, p)
}

// rootStyle is the page's own: it is as wide as there is room, and its texts are in the design's typeface.
func (c *compiler) rootStyle() contract.Style {
	out := contract.Style{"width": "100%"}
	for _, t := range c.Tokens.All() {
		if t.Type == "fontFamily" && t.Value != "" && t.Deprecated == "" {
			out["font-family"] = "{" + t.Path + "}"
			break
		}
	}
	return out
}

// component gives the component of a name, once.
func (c *compiler) component(name string) *contract.Contract {
	of, known := c.known[name]
	if !known {
		of = c.World.Component(name)
		c.known[name] = of
	}
	return of
}

// part makes a part of a name that is free.
func (c *compiler) part(r *Row, called string) *contract.Part {
	id := contract.Free(contract.Identifier(called, "part"), "", func(n string) bool { return c.taken[n] })
	c.taken[id] = true
	c.lines[id] = r.Line
	return &contract.Part{ID: id, Name: id}
}

// lineAt gives the line of the row that a place in the contract was made from; 0 for none.
func (c *compiler) lineAt(pointer string) int {
	steps := strings.Split(strings.TrimPrefix(pointer, "/"), "/")
	if len(steps) == 0 {
		return 0
	}
	if steps[0] == "rules" && len(steps) > 1 {
		if i, err := strconv.Atoi(steps[1]); err == nil && i < len(c.page.Contract.Rules) {
			return c.lines[c.page.Contract.Rules[i].Part]
		}
	}
	if steps[0] == "props" && len(steps) > 1 {
		i, err := strconv.Atoi(steps[1])
		if err != nil || i >= len(c.page.Contract.Props) {
			return 0
		}
		for _, s := range c.scopes {
			if s.prop == c.page.Contract.Props[i].ID {
				return s.row.Line
			}
		}
		return 0
	}
	at, line := c.page.Contract.Root, 0
	for i := 1; i+1 < len(steps) && steps[i] == "children"; i += 2 {
		k, err := strconv.Atoi(steps[i+1])
		if err != nil || k >= len(at.Children) {
			break
		}
		at = at.Children[k]
		if l := c.lines[at.ID]; l > 0 {
			line = l
		}
	}
	return line
}

// rows makes parts of rows that stand beside each other. What widths say of the row around is that row's affair; versions stand
// where their rows do.
func (c *compiler) rows(list []*Row, in []*scope) (out []*contract.Part) {
	c.covered(list)
	for _, r := range list {
		if c.without[r.Line] {
			continue
		}
		switch {
		case r.Kind != WidthRow:
			out = append(out, c.row(r, in)...)
		case r.None:
		case len(r.Children) > 0:
			if len(r.Args) > 0 || r.Head != "" {
				c.fail(r, nil, "say what is otherwise in a row of its own", "a version holds rows, and is given nothing")
			}
			parts := c.rows(r.Children, in)
			for _, p := range parts {
				c.hide(p.ID, r)
			}
			out = append(out, parts...)
		}
	}
	return out
}

// piece notes a part that one looks at, with the record it stands in.
func (c *compiler) piece(p Piece, in []*scope) {
	if len(in) > 0 {
		s := in[len(in)-1]
		p.Source, p.Each, p.Record = s.row.Source, s.list, s.at
	}
	c.page.Pieces = append(c.page.Pieces, p)
}

// hide takes a part away beyond a row's widths.
func (c *compiler) hide(part string, r *Row) {
	for _, beyond := range []contract.Range{{Below: r.Range.From}, {From: r.Range.Below}} {
		if beyond != (contract.Range{}) {
			c.hides = append(c.hides, contract.Rule{Part: part, When: r.when(beyond), Set: contract.Style{"display": "none"}})
		}
	}
}

// when asks for a range of what the row asks of.
func (r *Row) when(of contract.Range) contract.When {
	switch r.In {
	case "":
		return contract.Of(contract.Viewport{Range: of})
	case nearest:
		return contract.Of(contract.Container{Range: of})
	}
	return contract.Of(contract.Container{Range: of, Name: r.In})
}

// row makes the parts of one row.
func (c *compiler) row(r *Row, in []*scope) []*contract.Part {
	switch r.Kind {
	case PrimitiveRow:
		return c.primitive(r, in)
	case ElementRow:
		return c.element(r, in)
	case UseRow:
		return c.use(r, in)
	case GapRow:
		return c.gap(r, in)
	case EachRow:
		return c.each(r, in)
	case WithRow:
		s := c.scope(r)
		if s == nil {
			return nil
		}
		if len(s.source.Records) == 0 {
			c.fail(r, nil, "", "%s holds no record", r.Source)
			return nil
		}
		if r.At > len(s.source.Records) {
			c.fail(r, nil, "", "%s holds no record %d, but %d", r.Source, r.At, len(s.source.Records))
			return nil
		}
		s.at = r.At - 1
		return c.rows(r.Children, append(in[:len(in):len(in)], s))
	case SlotRow:
		c.fail(r, nil, "put it into the use of a component", "there is no component whose slot %s it would be", r.Head)
	}
	return nil
}

// style says CSS properties by what a row is given: those that are none of its own. Others are left to the caller.
func (c *compiler) style(r *Row, args []Arg, into contract.Style, other func(a *Arg) bool) {
	for i := range args {
		a := &args[i]
		if other != nil && other(a) {
			continue
		}
		switch {
		case a.Name == "hidden" && a.Kind == FlagArg:
			into["display"] = "none"
			continue
		case a.Name == "named":
			into["container-type"] = "inline-size"
			if a.Kind != FlagArg {
				if a.Kind != BareArg || a.Value == nearest {
					c.fail(r, a, "name it by a word of its own", "a container cannot be named %q", a.Value)
					continue
				}
				into["container-name"] = css.Ident(a.Value)
			}
			continue
		}
		if _, known := css.PropertyNamed(a.Name); !known {
			c.fail(r, a, c.nearestOf(a.Name, css.PropertyNames()), "%s has no prop %s, and CSS no such property", cmp.Or(r.Head, "the row"), a.Name)
			continue
		}
		value := a.css()
		if err := contract.CheckValue(a.Name, value, c.Tokens); err != nil {
			c.fail(r, a, "", "%s", err)
			continue
		}
		into[a.Name] = value
	}
}

// css is a value as CSS and tokens have it.
func (a Arg) css() string {
	if a.Kind == FieldArg {
		return "{" + a.Value + "}"
	}
	return a.Value
}

func (c *compiler) rule(w *Row, part string, when contract.When, set contract.Style) {
	if len(set) > 0 {
		c.page.Contract.Rules = append(c.page.Contract.Rules, contract.Rule{Part: part, When: when, Set: set})
	}
}

// gap makes a part that keeps the room of something that nothing is there for yet.
func (c *compiler) gap(r *Row, in []*scope) []*contract.Part {
	called := "Gap"
	if r.Said != nil {
		called = r.Said.Value
	}
	p := c.part(r, called)
	p.Element, p.Content = "div", contract.FixedText{Text: called}
	p.Style = contract.Style{"border-width": "1px", "border-style": "dashed", "border-color": "#918473", "color": "#655b4f", "background-color": "#f4efe7", "box-sizing": "border-box", "overflow": "hidden", "font-size": "12px", "line-height": "16px"}
	c.style(r, r.Args, p.Style, func(a *Arg) bool { return a.Name == "like" })
	for _, w := range r.widthRows() {
		c.stands(w, p.ID, "block")
	}
	for _, child := range r.Children {
		if child.Kind != WidthRow && child.Kind != NoteRow {
			c.fail(child, nil, "put it beside the gap, or instead", "a gap holds nothing")
		}
	}
	c.piece(Piece{Part: p.ID, Line: r.Line, Name: called, Gap: true}, in)
	return []*contract.Part{p}
}

// each makes what a row holds, for each record of a source.
func (c *compiler) each(r *Row, in []*scope) []*contract.Part {
	s := c.scope(r)
	if s == nil {
		return nil
	}
	s.prop = c.freeProp(contract.Identifier(strings.TrimSuffix(strings.TrimSuffix(r.Source, ".csv"), ".json"), "records"))
	s.list = true
	parts := c.rows(r.Children, append(in[:len(in):len(in)], s))
	switch len(parts) {
	case 0:
		return nil
	case 1:
		if parts[0].Repeat == "" {
			parts[0].Repeat = s.prop
			return parts
		}
	}
	p := c.part(r, r.Head)
	p.Element, p.Children, p.Repeat = "div", parts, s.prop
	return []*contract.Part{p}
}

// freeProp gives a name that no prop of the page has, and takes it.
func (c *compiler) freeProp(called string) string {
	id := contract.Free(called, "", func(n string) bool { return contract.IsReserved(n) || c.props[strings.ToLower(n)] })
	c.props[strings.ToLower(id)] = true
	return id
}

// lifted makes a value that a row says of a part a prop of the page, where that is asked for.
func (c *compiler) lifted(part string, q contract.Prop, g contract.Given) contract.Given {
	if !c.Lifted || g.Value == nil {
		return g
	}
	v, err := q.Type.Decode(g.Value)
	if err != nil || v == nil {
		return g
	}
	return contract.Given{Prop: c.constant(contract.Prop{Name: part + contract.Capitalized(q.Name), Type: q.Type}, v)}
}

func (c *compiler) nearestOf(word string, among []string) string {
	best, most := "", 0
	for _, one := range among {
		shared := 0
		for shared < len(word) && shared < len(one) && word[shared] == one[shared] {
			shared++
		}
		if shared > most && shared*2 >= len(word) {
			best, most = one, shared
		}
	}
	if best == "" {
		return ""
	}
	return "did you mean " + best + "?"
}
