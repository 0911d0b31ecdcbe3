// Package draft turns drawings into contracts: which layers of a family's variants
// correspond, what a layer says in CSS, the fewest rules that give every variant
// back, and the readings of what was drawn without flow.
package draft

import (
	"cmp"
	"maps"
	"math"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/layout"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// OfFamily computes a contract from a drawn family. Props come from the axes, from
// text layers and from layers that some variants hide; parts and layout from
// the default variant's layers and their flow; rules are the fewest differences
// from the default, each attributed to the props that cause it. Values equal to
// a token's become references. Variants whose layers do not correspond are
// reported with both ids; the contract is nil then. Uses of families that have a component become
// uses of that.
func OfFamily(doc *design.Document, f *design.Family, tokens *token.Set, components Components) (*contract.Contract, problem.List) {
	d := drafter{family: f, tokens: tokens, components: components, lists: map[string]string{}}
	base := f.Default()
	for _, v := range f.Variants {
		if v != base {
			correspond(base.Root, v.Root, v.ID, &d.found)
		}
	}
	d.contract = &contract.Contract{Format: contract.Format, Name: contract.ComponentName(f.Name), Purpose: f.Description, Origin: &contract.Origin{Document: doc.ID, Family: f.ID}}
	if d.found.Failed() {
		return nil, d.found
	}
	d.axes()
	d.contract.Root = d.part(base.Root, nil, "")
	Tie(d.contract, f)
	d.layerProps()
	d.uses()
	d.bareLists()
	d.styles()
	d.found = append(d.found, d.contract.Check(tokens)...) // nothing is drafted that could not be emitted
	if d.found.Failed() {
		return nil, d.found
	}
	return d.contract, d.found
}

type drafter struct {
	family     *design.Family
	tokens     *token.Set
	components Components
	contract   *contract.Contract
	names      map[string]bool
	inline     bool              // nothing but phrasing content may stand where it reads
	list       string            // id of the list whose items are being read; empty for none
	lists      map[string]string // the same of each part, by its id
	level      string            // id of the prop that says which level headings have; empty for none
	found      problem.List
}

// flagPairs are the axis values read as a flag: common practice, no source.
var flagPairs = [][2]string{{"on", "off"}, {"true", "false"}, {"yes", "no"}, {"with", "without"}, {"shown", "hidden"}, {"1", "0"}}

func (d *drafter) axes() {
	for _, a := range d.family.Axes {
		if IsStateAxis(a) && !slices.ContainsFunc(d.contract.States, func(s contract.DrawnState) bool { // each state once
			return slices.ContainsFunc(a.Values, func(v string) bool { return StateWord(v) == s.State })
		}) {
			for _, v := range a.Values {
				if v != a.Default {
					AddState(d.contract, a.Name, v)
				}
			}
			continue
		}
		if len(d.contract.Widths) == 0 && widthSpans(a, d.family) != nil {
			d.contract.Widths = drawnWidths(a, d.family, d.tokens)
			continue
		}
		p := d.prop(contract.Identifier(a.Name, "choice"), "Choice")
		p.Axis = a.Name
		if on, off, ok := flagOf(a); ok {
			p.Type, p.On, p.Off = contract.Flag{Initial: a.Default == on}, on, off
			d.contract.Props = append(d.contract.Props, p)
			continue
		}
		choice := contract.Choice{Initial: contract.OptionOf(a.Default)}
		for _, v := range a.Values {
			option := contract.OptionOf(v)
			if slices.Contains(choice.Options, option) {
				d.found.Errorf("axis-options", "", "rename one of its values", "two values of the axis %q would become the option %q", a.Name, option)
			}
			choice.Options = append(choice.Options, option)
		}
		p.Type = choice
		d.contract.Props = append(d.contract.Props, p)
	}
}

func flagOf(a design.Axis) (on, off string, ok bool) {
	if len(a.Values) != 2 {
		return "", "", false
	}
	for _, pair := range flagPairs {
		for i := range 2 {
			if strings.EqualFold(a.Values[i], pair[0]) && strings.EqualFold(a.Values[1-i], pair[1]) {
				return a.Values[i], a.Values[1-i], true
			}
		}
	}
	return "", "", false
}

// prop makes a prop of a name that nothing else has; where that is taken, the suffix
// goes behind it. Its id is its first name.
func (d *drafter) prop(name, suffix string) contract.Prop {
	name = contract.Free(name, suffix, func(name string) bool {
		return contract.IsReserved(name) || slices.ContainsFunc(d.contract.Props, func(p contract.Prop) bool { return strings.EqualFold(p.Name, name) })
	})
	return contract.Prop{ID: name, Name: name}
}

// part makes a part of each layer of the default variant.
func (d *drafter) part(l, parent *design.Layer, path string) *contract.Part {
	if d.names == nil {
		d.names = map[string]bool{}
	}
	name := "root"
	if parent != nil {
		name = contract.Free(contract.Identifier(l.Name, string(l.Kind)), "", func(name string) bool { return name == "root" || d.names[name] })
	}
	d.names[name] = true
	p := &contract.Part{ID: name, Name: name, Element: element(l, parent, d.family.Name, d.inline), Layer: path}
	around := d.inline
	d.inline = around || holdsPhrasing(p.Element)
	defer func() { d.inline = around }()
	switch l.Kind {
	case design.Vector:
		p.Content = vectorOf(l)
	case design.Image:
		p.Content = contract.Picture{Alt: l.Alt}
	case design.Instance:
		if used := d.components.of(l.Instance.Family); used != nil {
			p.Element, p.Content = "", &contract.Use{Component: used.Name}
		}
	}
	if l.Slot != nil {
		d.slot(p, l)
	}
	outer := d.list
	if l.Repeats {
		d.list = d.listProp(p, l)
	}
	d.lists[p.ID] = outer
	for i, step := range steps(l) {
		if l.Repeats && (l.Children[i].Hidden || len(p.Children) > 0) {
			continue // the first that is there stands for all
		}
		p.Children = append(p.Children, d.part(l.Children[i], l, below(path, step)))
	}
	if l.Repeats && len(p.Children) > 0 {
		p.Children[0].Repeat = d.list
	}
	d.list = outer
	return p
}

// listProp adds the prop of a list that a part holds, and gives its id.
func (d *drafter) listProp(p *contract.Part, l *design.Layer) string {
	prop := d.prop(contract.Identifier(l.Name, "items"), "List")
	prop.Type, prop.Part = contract.List{Items: []contract.Prop{}}, p.ID
	d.contract.Props = append(d.contract.Props, prop)
	return prop.ID
}

// slot makes a part a place for whatever a use puts there.
func (d *drafter) slot(p *contract.Part, l *design.Layer) {
	slots := 0
	d.family.Default().Root.Walk(func(c *design.Layer, _, _ float64) {
		if c.Slot != nil {
			slots++
		}
	})
	prop := contract.Prop{ID: "children", Name: "children"}
	if slots > 1 || d.list != "" {
		prop = d.prop(p.Name, "Slot")
	}
	slot := contract.Slot{}
	for _, name := range l.Slot.Accepts {
		slot.Accepts = append(slot.Accepts, contract.ComponentName(name))
	}
	prop.Type = slot
	d.contract.Props = append(d.contract.Props, prop)
	p.Content = contract.SlotOf{Prop: prop.ID}
}

// dataProp adds a prop that a part shows, or is shown by: to the list whose items the part is
// there for, or to the component. It gives the id that the part knows it by.
func (d *drafter) dataProp(p *contract.Part, name, suffix string, make func(*contract.Prop)) string {
	list := d.contract.Prop(d.lists[p.ID])
	if list == nil {
		prop := d.prop(name, suffix)
		prop.Part = p.ID
		make(&prop)
		d.contract.Props = append(d.contract.Props, prop)
		return prop.ID
	}
	l := list.Type.(contract.List)
	name = contract.Free(name, suffix, func(name string) bool {
		return contract.IsReserved(name) || slices.ContainsFunc(l.Items, func(q contract.Prop) bool { return strings.EqualFold(q.Name, name) })
	})
	prop := contract.Prop{ID: name, Name: name, Part: p.ID}
	make(&prop)
	l.Items = append(l.Items, prop)
	list.Type = l
	return list.ID + "." + name
}

// vectorOf takes a layer's drawing over into the contract.
func vectorOf(l *design.Layer) *contract.Vector {
	out := &contract.Vector{ViewBox: l.Vector.ViewBox, Paths: make([]contract.Path, len(l.Vector.Paths)), Label: l.Alt}
	for i, p := range l.Vector.Paths {
		out.Paths[i] = contract.Path{D: p.D, Fill: p.Fill, Stroke: contract.PathStroke(p.Stroke)}
	}
	return out
}

// elementWords are words in names that say which element a layer becomes (common practice, no
// source). The last word of a name counts first.
var elementWords = map[string]string{
	"button": "button", "header": "header", "footer": "footer", "main": "main", "aside": "aside", "figure": "figure", "card": "article", "article": "article",
}

// headingWords name texts that are headings.
var headingWords = []string{"title", "heading", "headline"}

// element picks the HTML element a layer becomes: common practice, no source. Inline tells that
// nothing but phrasing content may stand around it.
func element(l, parent *design.Layer, family string, inline bool) string {
	switch {
	case l.Repeats:
		return "ul"
	case parent != nil && parent.Repeats:
		return "li"
	case l.Link != "" && l.Kind != design.Vector && l.Kind != design.Image:
		return "a"
	case len(l.Children) == 1 && l.Children[0].Repeats && linked(l.Children[0]):
		return "nav"
	}
	name := l.Name
	if parent == nil {
		name = family
	}
	named := contract.Words(name)
	switch l.Kind {
	case design.Text:
		switch {
		case inline:
		case slices.ContainsFunc(named, func(w string) bool { return slices.Contains(headingWords, w) }):
			return "h3"
		case layout.LayerSizing(l).Width == "fill":
			return "p"
		}
		return "span"
	case design.Vector:
		return "svg"
	}
	for _, w := range slices.Backward(named) {
		e := elementWords[w]
		if e == "button" && !interactive(l) || e != "" && e != "button" && !inline {
			return e
		}
	}
	if inline || parent != nil && phrasing(parent) || parent == nil && phrasing(l) {
		return "span"
	}
	return "div"
}

// interactive tells whether a layer holds what people operate by itself.
func interactive(l *design.Layer) (out bool) {
	l.Walk(func(c *design.Layer, _, _ float64) {
		out = out || c != l && (c.Link != "" || c.Slot != nil || c.Kind == design.Instance || slices.Contains(contract.Words(c.Name), "button"))
	})
	return out
}

// holdsPhrasing tells whether an element may hold nothing but phrasing content (HTML, 3.2.5.2.5).
func holdsPhrasing(element string) bool {
	return slices.Contains([]string{"span", "p", "button", "label"}, element) || contract.IsHeading(element)
}

// phrasing tells whether a layer is one line of text and icons, as large as
// its content: phrasing content in HTML's terms.
func phrasing(l *design.Layer) bool {
	if l.Repeats || l.Flow == nil || l.Flow.Direction != "row" || l.Flow.Wrap || layout.LayerSizing(l).Width != "content" {
		return false
	}
	for _, c := range l.Children {
		if c = held(c); c.Kind != design.Text && c.Kind != design.Vector && !phrasing(c) {
			return false
		}
	}
	return true
}

// layerProps makes props of what layers hold, texts, pictures and where they lead, and flags of
// layers that some variants, or some items of a list, hide. A layer whose showing is decided by
// one flag axis alone is shown by that flag; any other gets a flag of its own.
func (d *drafter) layerProps() {
	d.contract.Walk(func(p, _ *contract.Part) {
		base, _ := LayerAt(d.family.Default().Root, p.Layer)
		d.contentProp(p, base)
		if base.Link != "" && p.Element == "a" {
			name := "href"
			if d.lists[p.ID] == "" && p != d.contract.Root {
				name = p.Name + "Href"
			}
			id := d.dataProp(p, name, "Link", func(prop *contract.Prop) { prop.Type = contract.Link{Initial: base.Link} })
			p.Attributes = map[string]contract.Attribute{"href": {Prop: id}}
		}
		d.shownProp(p, base)
		d.levelProp(p)
	})
	for i := range d.contract.Props {
		p := &d.contract.Props[i]
		if part := d.contract.Part(p.Part); p.Kind() == contract.ListKind && part != nil {
			l, _ := LayerAt(d.family.Default().Root, part.Layer)
			p.Example = drawnItems(d.contract, *p, l)
		}
	}
}

// bareLists gives the items of lists that say nothing of their items something to say: whether
// they are there.
func (d *drafter) bareLists() {
	d.contract.Walk(func(p, _ *contract.Part) {
		list := d.contract.Prop(p.Repeat)
		if list == nil || len(list.Type.(contract.List).Items) > 0 {
			return
		}
		id := d.dataProp(p, "shown", "Flag", func(prop *contract.Prop) { prop.Type = contract.Flag{Initial: true} })
		p.ShownWhen = contract.Of(contract.PropIs{Prop: id, Value: contract.FlagValue(true)})
		_, container := LayerAt(d.family.Default().Root, p.Layer)
		list.Example = drawnItems(d.contract, *list, container)
	})
}

// levelProp lets whoever uses the component say which level its headings have: that depends on the
// page.
func (d *drafter) levelProp(p *contract.Part) {
	if !contract.IsHeading(p.Element) {
		return
	}
	if d.level == "" {
		prop := d.prop("level", "OfHeading")
		least, most, initial := 2.0, 6.0, 3.0
		prop.Purpose = "Level of the heading, as the page needs it."
		prop.Type = contract.Number{Initial: &initial, Least: &least, Most: &most, Step: 1}
		d.contract.Props = append(d.contract.Props, prop)
		d.level = prop.ID
	}
	p.Level = d.level
}

// contentProp makes a prop of what a part's layer shows.
func (d *drafter) contentProp(p *contract.Part, base *design.Layer) {
	switch {
	case base.Kind == design.Text:
		drawn := TextOf(base)
		id := d.dataProp(p, p.Name, "Text", func(prop *contract.Prop) {
			rich, styled := drawn.(contract.RichValue)
			prop.Required = d.lists[p.ID] != "" // an item has its own
			switch {
			case styled && prop.Required:
				prop.Type = contract.Rich{Line: true}
			case styled:
				prop.Type = contract.Rich{Initial: rich, Line: true}
			case prop.Required:
				prop.Type = contract.Text{}
			default:
				prop.Type = contract.Text{Initial: drawn.String()}
			}
		})
		p.Content = contract.TextOf{Prop: id}
	case base.Kind == design.Image && base.Image != nil:
		if v := pictureOf(base); v != nil {
			id := d.dataProp(p, p.Name, "Image", func(prop *contract.Prop) {
				prop.Type = contract.Image{Aspect: math.Round(base.Bounds.Width/base.Bounds.Height*1000) / 1000}
				if d.lists[p.ID] == "" {
					prop.Example = v
				}
			})
			p.Element, p.Content = "img", contract.ImageOf{Prop: id}
		}
	case base.Kind == design.Vector:
		d.sameDrawing(base, p.Layer)
	}
}

// shownProp makes a flag of a part that is not always drawn.
func (d *drafter) shownProp(p *contract.Part, base *design.Layer) {
	if list := d.lists[p.ID]; list != "" {
		if d.hiddenInItems(p, list) {
			id := d.dataProp(p, "show"+contract.Capitalized(p.Name), "Flag", func(prop *contract.Prop) { prop.Type = contract.Flag{Initial: !base.Hidden} })
			p.ShownWhen = contract.Of(contract.PropIs{Prop: id, Value: contract.FlagValue(true)})
		}
		return
	}
	var shown, hidden int
	for _, v := range d.family.Variants {
		if l, _ := LayerAt(v.Root, p.Layer); l.Hidden {
			hidden++
		} else {
			shown++
		}
	}
	if hidden == 0 || p.Layer == "" {
		return
	}
	if shown == 0 {
		d.found.Warnf("layer-hidden", "", "show it in a variant, or remove it", "the layer %s is hidden in every variant; its part starts hidden", base.ID)
	}
	if d.hiddenByWidth(p) {
		return // a rule takes it away
	}
	if asked := d.choiceThatShows(p.Layer); asked != nil {
		p.ShownWhen = contract.Of(asked)
		return
	}
	flag := d.flagThatShows(p.Layer)
	if flag == "" {
		flag = d.dataProp(p, "show"+contract.Capitalized(p.Name), "Flag", func(prop *contract.Prop) { prop.Type = contract.Flag{Initial: !base.Hidden} })
	}
	p.ShownWhen = contract.Of(contract.PropIs{Prop: flag, Value: contract.FlagValue(true)})
}

// hiddenByWidth tells whether the width alone decides whether a part's layer is hidden.
func (d *drafter) hiddenByWidth(p *contract.Part) bool {
	if len(d.contract.Widths) == 0 {
		return false
	}
	axis, hidden := d.contract.Widths[0].Axis, map[string]bool{}
	for _, v := range d.family.Variants {
		l, _ := LayerAt(v.Root, p.Layer)
		if was, known := hidden[v.Choices[axis]]; known && was != l.Hidden {
			return false
		}
		hidden[v.Choices[axis]] = l.Hidden
	}
	return true
}

// hiddenInItems tells whether a part's layer is hidden in some items of its list, and not by the
// width alone.
func (d *drafter) hiddenInItems(p *contract.Part, list string) bool {
	var repeated *contract.Part
	d.contract.Walk(func(q, _ *contract.Part) {
		if q.Repeat == list {
			repeated = q
		}
	})
	path, ok := under(p.Layer, repeated.Layer)
	if !ok || path == "" {
		return false
	}
	hidden := map[string]map[bool]bool{} // by width
	for _, v := range d.family.Variants {
		width := d.widthOf(v)
		if hidden[width] == nil {
			hidden[width] = map[bool]bool{}
		}
		_, container := LayerAt(v.Root, repeated.Layer)
		for _, item := range itemsOf(container) {
			l, _ := LayerAt(item, path)
			hidden[width][l == nil || l.Hidden] = true
		}
	}
	some, differs := false, false
	for _, h := range hidden {
		some, differs = some || h[true], differs || h[true] && h[false]
	}
	return some && (differs || len(hidden) == 1)
}

// widthOf gives what a variant chooses of the axis of widths; "" when there is none.
func (d *drafter) widthOf(v *design.Variant) string {
	if len(d.contract.Widths) == 0 {
		return ""
	}
	return v.Choices[d.contract.Widths[0].Axis]
}

// pictureOf gives what an image layer shows as an image's value; nil for nothing that one may be.
func pictureOf(l *design.Layer) contract.Value {
	if l == nil || l.Image == nil || l.Image.Shown == nil {
		return nil
	}
	a := l.Image.Shown
	v := contract.ImageValue{Source: a.Source, Alt: l.Alt, Width: a.Width, Height: a.Height}
	if !(contract.Image{}).Takes(v) {
		return nil
	}
	return v
}

// sameDrawing warns of an icon that is drawn with other paths in some variants:
// a part has one drawing.
func (d *drafter) sameDrawing(base *design.Layer, path string) {
	for _, v := range d.family.Variants {
		if l, _ := LayerAt(v.Root, path); !slices.Equal(l.Vector.Paths, base.Vector.Paths) {
			d.found.Warnf("layer-drawing", "", "draw it alike, or as two layers of which one is hidden", "%s is drawn with other paths than %s; the default's are kept", l.ID, base.ID)
			return
		}
	}
}

// shownIf tells whether a layer is shown in just those variants that are so.
func (d *drafter) shownIf(path string, so func(v *design.Variant) bool) bool {
	return !slices.ContainsFunc(d.family.Variants, func(v *design.Variant) bool {
		l, _ := LayerAt(v.Root, path)
		return l.Hidden == so(v)
	})
}

// flagThatShows finds the flag, drawn as an axis or of a state, that alone decides whether a layer
// is shown.
func (d *drafter) flagThatShows(path string) string {
	for _, p := range d.contract.Props {
		if p.Kind() == contract.FlagKind && p.Axis != "" && d.shownIf(path, func(v *design.Variant) bool { return v.Choices[p.Axis] != p.Off }) {
			return p.ID
		}
	}
	for _, s := range d.contract.States {
		if flag := d.contract.StateFlag(s.State); flag != nil && d.shownIf(path, func(v *design.Variant) bool { return v.Choices[s.Axis] == s.Value }) {
			return flag.ID
		}
	}
	return ""
}

// choiceThatShows finds the option with which alone a layer is shown; nil for none.
func (d *drafter) choiceThatShows(path string) contract.Term {
	for _, p := range d.contract.Props {
		if p.Kind() != contract.ChoiceKind || p.Axis == "" {
			continue
		}
		for _, o := range p.Options() {
			if d.shownIf(path, func(v *design.Variant) bool { return contract.OptionOf(v.Choices[p.Axis]) == o }) {
				return contract.PropIs{Prop: p.ID, Value: contract.OptionValue(o)}
			}
		}
	}
	return nil
}

// styles fills in the parts' styles and the rules.
func (d *drafter) styles() {
	tables := drawnTables(d.contract, d.family, d.tokens, &d.found)
	d.hoist(tables)
	d.contract.Walk(func(p, _ *contract.Part) {
		for _, property := range slices.SortedFunc(maps.Keys(tables[p.ID]), css.CompareProperties) {
			setTable(d.contract, p, property, tables[p.ID][property])
		}
	})
}

// partTables are the tables of a contract: part, property, table.
type partTables map[string]map[string]*table

// drawnTables reads what every variant draws, for every part and property.
func drawnTables(c *contract.Contract, f *design.Family, tokens *token.Set, found *problem.List) partTables {
	cases := Cases(c, f)
	domains := domainsOf(c)
	out := partTables{}
	c.Walk(func(p, _ *contract.Part) {
		styles := make([]contract.Style, len(cases))
		all := map[string]bool{}
		for i, k := range cases {
			l, parent := LayerAt(k.Variant.Root, p.Layer)
			if l == nil {
				styles[i] = contract.Style{}
				continue
			}
			checkBindings(l, StyleOf(l, parent), tokens, found)
			styles[i] = StyleWithTokens(l, parent, c.Name, tokens)
			if l.Hidden && p.Repeat == "" && p.ShownWhen.Always() { // a width takes it away
				styles[i]["display"] = "none"
			}
			for property := range styles[i] {
				all[property] = true
			}
		}
		out[p.ID] = map[string]*table{}
		for property := range all {
			t := &table{domains: domains}
			for i, k := range cases {
				if len(k.New) > 0 {
					continue
				}
				t.cells = append(t.cells, cell{position(domains, k.Cell("")), cmp.Or(styles[i][property], css.InitialText(property))})
			}
			out[p.ID][property] = t
		}
	})
	return out
}

// domainsOf lists the props that rules are found for with their values, defaults
// first, and at last the states that were drawn. Flags that show a layer say so by themselves.
func domainsOf(c *contract.Contract) []domain {
	var out []domain
	for _, p := range c.Props {
		if values := p.Type.Nameable(); values != nil && (p.Axis != "" || p.Kind() != contract.FlagKind) {
			out = append(out, domain{prop: p.ID, values: values})
		}
	}
	if len(c.Widths) > 0 {
		var widths []contract.Range
		for _, w := range c.Widths {
			widths = append(widths, w.Range)
		}
		out = append(out, domain{widths: widths})
	}
	if len(c.States) > 0 {
		states := []string{""}
		for _, s := range c.States {
			states = append(states, s.State)
		}
		out = append(out, domain{states: states})
	}
	return out
}

func position(domains []domain, k Cell) []int {
	at := make([]int, len(domains))
	for i, d := range domains {
		switch {
		case d.states != nil:
			at[i] = max(0, slices.Index(d.states, k.State))
		case d.widths != nil:
			at[i] = max(0, slices.IndexFunc(d.widths, func(r contract.Range) bool { return r.Holds(k.Width) }))
		default:
			at[i] = max(0, slices.Index(d.values, k.Values[d.prop]))
		}
	}
	return at
}

// hoist moves type and colour that every text of the component shares up to the
// root, from where CSS inherits it, and lets icons of the text's colour say so.
func (d *drafter) hoist(tables partTables) {
	var texts, vectors []string
	d.contract.Walk(func(p, _ *contract.Part) {
		switch {
		case p.TextProp() != "":
			texts = append(texts, p.ID)
		case p.Vector() != nil:
			vectors = append(vectors, p.ID)
		}
	})
	if len(texts) == 0 || texts[0] == d.contract.Root.ID {
		return
	}
	for property, first := range tables[texts[0]] {
		if p, _ := css.PropertyNamed(property); !p.Inherited || tables[d.contract.Root.ID][property] != nil {
			continue
		}
		shared := true
		for _, name := range texts[1:] {
			shared = shared && sameCells(first, tables[name][property])
		}
		if !shared {
			continue
		}
		tables[d.contract.Root.ID][property] = first
		if property == "color" {
			for _, name := range vectors {
				if fill := tables[name]["fill"]; sameCells(first, fill) {
					for i := range fill.cells {
						fill.cells[i].value = "currentColor"
					}
				}
			}
		}
	}
	for property := range tables[d.contract.Root.ID] {
		if p, _ := css.PropertyNamed(property); p.Inherited {
			for _, name := range texts {
				delete(tables[name], property)
			}
		}
	}
}

func sameCells(a, b *table) bool {
	return a != nil && b != nil && slices.EqualFunc(a.cells, b.cells, func(x, y cell) bool { return x.value == y.value })
}
