package ir

import (
	"math"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
)

// Lower turns a contract into a module.
func Lower(c *contract.Contract) *Module { return lower(c, false) }

// ForcedStates is the attribute of the root that holds the states it is to be shown in.
const ForcedStates = "data-states"

// LowerForced is Lower with states told by an attribute instead of by what people do, to
// look at each.
func LowerForced(c *contract.Contract) *Module { return lower(c, true) }

func lower(c *contract.Contract, forced bool) *Module {
	l := lowering{c, classesOf(c), forced}
	m := &Module{Name: c.Name, Purpose: c.Purpose, Classes: l.classes.order}
	for _, p := range c.Props {
		m.Props = append(m.Props, Prop{p, purposeOf(c, p)})
	}
	m.Root = l.element(c.Root)
	m.Root.Root = true
	m.Root.Attributes = append(m.Root.Attributes, l.native()...)
	m.Root.Classes = append([]Class{{Name: l.classes.parts[c.Root.ID]}}, l.values()...)
	if around := l.classes.container; around != "" {
		m.Root = &Element{Tag: "div", Classes: []Class{{Name: around}}, Children: []Node{m.Root}}
	}
	m.Rules = l.rules()
	return m
}

type lowering struct {
	c       *contract.Contract
	classes *classes
	forced  bool
}

func (l *lowering) node(p *contract.Part) Node {
	e := l.element(p)
	if p.ShownWhen.Always() {
		return e
	}
	out := If{Then: e}
	for _, t := range p.ShownWhen.Terms() {
		if is, ok := t.(contract.PropIs); ok { // Check lets no other be
			out.When = append(out.When, is)
		}
	}
	return out
}

func (l *lowering) element(p *contract.Part) *Element {
	e := &Element{Tag: p.Element, Part: p.ID}
	if class := l.classes.parts[p.ID]; class != "" {
		e.Classes = []Class{{Name: class}}
	}
	if p.Element == "button" { // HTML, 4.10.6: a button submits its form unless told
		e.Attributes = append(e.Attributes, Attribute{Name: "type", Value: "button"})
	}
	switch content := p.Content.(type) {
	case contract.TextOf:
		e.Children = append(e.Children, Text{content.Prop})
	case contract.FixedText:
		e.Children = append(e.Children, Fixed{content.Text})
	case contract.Picture:
		e.Attributes = append(e.Attributes, shows(content.Alt)...)
	case *contract.Vector:
		e.Attributes = append(e.Attributes, vectorAttributes(p, content)...)
		for _, path := range content.Paths {
			e.Children = append(e.Children, pathElement(path))
		}
	}
	for _, child := range p.Children {
		e.Children = append(e.Children, l.node(child))
	}
	return e
}

// shows says what a picture shows, or that it is decoration (WAI-ARIA 1.2, img and aria-hidden).
func shows(label string) []Attribute {
	if label == "" {
		return []Attribute{{Name: "aria-hidden", Value: "true"}}
	}
	return []Attribute{{Name: "role", Value: "img"}, {Name: "aria-label", Value: label}}
}

func vectorAttributes(p *contract.Part, v *contract.Vector) []Attribute {
	box := make([]string, 4)
	for i, n := range v.ViewBox {
		box[i] = css.FormatNumber(n)
	}
	out := []Attribute{{Name: "viewBox", Value: strings.Join(box, " ")}}
	if stretched(p, v) {
		out = append(out, Attribute{Name: "preserveAspectRatio", Value: "none"})
	}
	return append(out, shows(v.Label)...)
}

// stretched tells whether a drawing's box may have another shape than its view
// box: a design stretches it, SVG by itself would leave room (SVG 2, 8.6).
func stretched(p *contract.Part, v *contract.Vector) bool {
	width, height := p.Style["width"], p.Style["height"]
	if width == height && width != "" && width != "100%" {
		return v.ViewBox[2] != v.ViewBox[3]
	}
	w, wide := css.Pixels(width)
	h, high := css.Pixels(height)
	return !wide || !high || math.Abs(w*v.ViewBox[3]-h*v.ViewBox[2]) > 0.01*h*v.ViewBox[2]
}

func pathElement(p contract.Path) *Element {
	e := &Element{Tag: "path", Attributes: []Attribute{{Name: "d", Value: p.D}}}
	add := func(name, value string) {
		if value != "" {
			e.Attributes = append(e.Attributes, Attribute{Name: name, Value: value})
		}
	}
	add("fill", p.Fill)
	if p.Stroke.Width > 0 {
		add("stroke", p.Stroke.Color)
		add("stroke-width", css.FormatNumber(p.Stroke.Width))
		add("stroke-linecap", p.Stroke.Cap)
		add("stroke-linejoin", p.Stroke.Join)
	}
	return e
}

// attributes of the element itself: flags of these names are them, too (HTML Living
// Standard, the attributes' index).
var flagAttributes = map[string][]string{
	"":         {"hidden", "inert"},
	"button":   {"disabled"},
	"fieldset": {"disabled"},
}

// stateAttributes say a state that a flag sets (WAI-ARIA 1.2, 6.6; data-empty is ours).
var stateAttributes = map[string]string{
	"disabled": "aria-disabled", "checked": "aria-checked", "selected": "aria-selected", "expanded": "aria-expanded", "current": "aria-current", "invalid": "aria-invalid",
	"read-only": "aria-readonly", "loading": "aria-busy", "empty": "data-empty",
}

// native gives the root the attributes that flags of their names stand for.
func (l *lowering) native() (out []Attribute) {
	for _, p := range l.c.Props {
		switch {
		case p.Kind() == contract.FlagKind && (slices.Contains(flagAttributes[""], p.Name) || slices.Contains(flagAttributes[l.c.Root.Element], p.Name)):
			out = append(out, Attribute{Name: p.Name, Prop: p.ID})
		case stateAttributes[l.c.StateOf(p)] != "":
			out = append(out, Attribute{Name: stateAttributes[l.c.StateOf(p)], Prop: p.ID})
		}
	}
	return out
}

// values are the classes the root has by the values of props.
func (l *lowering) values() (out []Class) {
	for _, p := range l.c.Props {
		if names := l.classes.values[p.ID]; len(names) > 0 {
			out = append(out, Class{Prop: p.ID, Values: names})
		}
	}
	return out
}
