// Package draft turns drawings into contracts: which layers of a family's variants
// correspond, what a layer says in CSS, the fewest rules that give every variant
// back, and the readings of what was drawn without flow.
package draft

import (
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
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
	d := drafter{family: f, tokens: tokens, components: components, lists: map[string]string{}, icons: map[string]string{}}
	base := f.Default()
	for _, v := range f.Variants {
		if v != base {
			correspond(base.Root, v.Root, v.ID, &d.found)
		}
	}
	d.contract = &contract.Contract{Format: contract.Format, Name: contract.ComponentName(f.Name), Purpose: f.Description, Do: f.Do, Dont: f.Dont, Origin: &contract.Origin{Document: doc.ID, Family: f.ID}}
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
	d.unexpressed()
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
	icons      map[string]string // ids of the props that pick drawings, by the layer's path
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
		if path, off, is := iconAxis(d.family, a); is {
			d.iconProp(&p, a, path, off)
			d.contract.Props = append(d.contract.Props, p)
			continue
		}
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
		p.Content = vectorOf(shown(d.family, l, path))
		if icon := d.icons[path]; icon != "" {
			p.Content = contract.IconOf{Prop: icon}
		}
	case design.Image:
		picture := flatPictureOf(l)
		if picture.Source != "" {
			p.Element = "img"
		}
		p.Content = picture
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
