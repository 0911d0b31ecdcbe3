package ir

import (
	"maps"
	"math"
	"regexp"
	"slices"
	"strings"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/css"
)

// Lower turns a contract into a module.
func Lower(c *contract.Contract) *Module { return lower(c, false) }

// ForcedStates is the attribute of the root that holds the states it is to be shown in.
const ForcedStates = "data-states"

// ForcedValues is the attribute of the root that holds what its behaviour is to keep, as JSON.
const ForcedValues = "data-values"

// Watched is the attribute of the root by which it is told apart when its behaviour says what it hears.
const Watched = "data-watched"

// LowerForced is Lower with states told by an attribute, too, not by what people do alone, to
// look at each.
func LowerForced(c *contract.Contract) *Module { return lower(c, true) }

func lower(c *contract.Contract, forced bool) *Module {
	return lowerWith(c, forced, map[string]*Module{})
}

func lowerWith(c *contract.Contract, forced bool, inside map[string]*Module) *Module {
	l := lowering{c: c, classes: classesOf(c), forced: forced, named: map[string]bool{}, inside: inside}
	m := &Module{Name: c.Name, Purpose: c.Purpose, Apart: c.Apart, Classes: l.classes.order}
	if c.Deprecated != nil {
		m.Deprecated = c.Deprecated.String()
	}
	for _, p := range c.Props {
		prop := Prop{Prop: p, Key: p.ID, Purpose: purposeOf(c, p)}
		if list, ok := p.Type.(contract.List); ok {
			for _, item := range list.Items {
				prop.Items = append(prop.Items, Prop{Prop: item, Key: p.ID + "." + item.ID, Purpose: purposeOf(c, item)})
			}
		}
		m.Props = append(m.Props, prop)
	}
	if chart := behaviour.Of(c); chart != nil {
		if flat, found := chart.Flatten(); found == nil { // a check says what else it cannot be
			l.does, m.Does, m.Asks = flat, flat, chart.Props(c)
			for _, id := range flat.Parts() {
				l.named[id] = true
			}
			if flat.Wide || flat.Crosses() {
				l.named[c.Root.ID] = true
			}
			l.layers = layersOf(c, flat)
			for _, one := range l.layers {
				l.named[one.Part] = true
			}
			if !forced {
				m.Layers = l.layers
			}
		}
	}
	c.Walk(func(p, _ *contract.Part) {
		for _, a := range p.Attributes {
			l.named[a.Part] = true
		}
	})
	m.Root = l.element(c.Root, nil)
	m.Root.Root, m.Root.As = true, c.Root.As
	if l.does != nil {
		m.Root.Hears = append(m.Root.Hears, l.does.At("")...)
	}
	m.Root.Attributes = append(m.Root.Attributes, l.native()...)
	m.Root.Classes = append([]Class{{Name: l.classes.parts[c.Root.ID]}}, l.conditional("")...)
	if around := l.classes.container; around != "" {
		m.Root = &Element{Tag: "div", Classes: []Class{{Name: around}}, Children: []Node{m.Root}}
	}
	m.Root.Outer = true
	m.Rules = l.rules()
	return m
}

type lowering struct {
	c       *contract.Contract
	classes *classes
	forced  bool
	named   map[string]bool    // ids of the parts that attributes refer to
	inside  map[string]*Module // components that are used, by name
	does    *behaviour.Flat
	layers  []Layer
}

// node lowers a part with what decides whether, and how often, it is there.
func (l *lowering) node(p, parent *contract.Part) Node {
	n := l.shown(p, parent)
	var outer, inner []contract.Term // those of the item are asked for each
	for _, t := range p.ShownWhen.Terms() {
		if list, _, _ := strings.Cut(contract.PropOf(t), "."); p.Repeat != "" && list == p.Repeat && list != contract.PropOf(t) {
			inner = append(inner, t)
		} else {
			outer = append(outer, t)
		}
	}
	if len(inner) > 0 {
		n = If{When: inner, Then: n}
	}
	if p.Repeat != "" {
		n = For{p.Repeat, n}
	}
	if len(outer) > 0 {
		n = If{When: outer, Then: n}
	}
	return n
}

// shown lowers a part as it is where it is there.
func (l *lowering) shown(p, parent *contract.Part) Node {
	switch content := p.Content.(type) {
	case contract.IconOf:
		out := Choose{Prop: content.Prop}
		if icon, ok := l.c.Prop(content.Prop).Type.(contract.Icon); ok {
			for _, o := range icon.Options {
				drawn := *p
				drawn.Content = &o.Vector
				out.Options = append(out.Options, Option{o.Name, l.element(&drawn, parent)})
			}
		}
		return out
	case *contract.Use:
		return l.use(p, content)
	case contract.ImageOf:
		prop := l.c.Prop(content.Prop)
		if prop.Required {
			return l.element(p, parent)
		}
		out := If{When: []contract.Term{contract.PropSet{Prop: content.Prop, Set: true}}, Then: l.element(p, parent)}
		missing := *p
		missing.Content, missing.Element = nil, "div"
		if parent != nil && !holdsFlow(parent.Element) {
			missing.Element = "span"
		}
		e := l.element(&missing, parent)
		if len(e.Children) == 0 {
			e.Attributes = append(e.Attributes, Attribute{Name: "aria-hidden", Value: "true"})
		}
		out.Else = e
		return out
	}
	return l.element(p, parent)
}

// use lowers a use of another component, which has to be linked.
func (l *lowering) use(p *contract.Part, u *contract.Use) Node {
	if u.Of() == nil { // not linked, or of nothing; a check says so
		return Fixed{}
	}
	out := &Use{Part: p.ID, Module: l.lowered(u.Of()), of: u}
	if l.does != nil {
		out.Says = l.does.SaysOf(p.ID)
	}
	if class := l.classes.parts[p.ID]; class != "" {
		out.Classes = []Class{{Name: class}}
	}
	if p.Repeat != "" {
		out.Classes = append(out.Classes, l.conditional(p.Repeat)...)
	}
	for i := range out.Module.Props {
		prop := &out.Module.Props[i]
		given, ok := u.Given[prop.ID]
		if !ok {
			continue
		}
		g := Given{Prop: prop, From: given.Prop, Value: u.Decoded(prop.ID, given.Value)}
		for _, child := range p.Children {
			if slices.Contains(given.Parts, child.ID) {
				g.Nodes = append(g.Nodes, l.node(child, nil))
			}
		}
		for _, k := range given.Cases {
			g.Cases = append(g.Cases, GivenCase{k.When.Terms(), u.Decoded(prop.ID, k.Value)})
		}
		out.Given = append(out.Given, g)
	}
	return out
}

// lowered lowers a component that is used, once.
func (l *lowering) lowered(c *contract.Contract) *Module {
	if l.inside[c.Name] == nil {
		l.inside[c.Name] = lowerWith(c, l.forced, l.inside)
	}
	return l.inside[c.Name]
}

// holdsFlow tells whether a div may stand in an element (HTML, 3.2.5.2.2).
func holdsFlow(element string) bool {
	return !slices.Contains([]string{"span", "p", "button", "a", "label", "strong", "em", "small", "mark", "abbr", "code", "kbd", "q", "cite", "time", "data", "output", "summary", "legend"}, element) &&
		!contract.IsHeading(element)
}

// plainName is a name that stands as it is in an id.
var plainName = regexp.MustCompile(`^[A-Za-z][A-Za-z0-9_-]*$`)

func (l *lowering) element(p, parent *contract.Part) *Element {
	e := &Element{Tag: p.Element, Part: p.ID, Level: p.Level, Named: l.named[p.ID]}
	if class := l.classes.parts[p.ID]; class != "" {
		e.Classes = []Class{{Name: class}}
	}
	if p.Repeat != "" {
		e.Classes = append(e.Classes, l.conditional(p.Repeat)...)
	}
	if _, own := p.Attributes["type"]; p.Element == "button" && !own { // HTML, 4.10.6: a button submits its form unless told
		e.Attributes = append(e.Attributes, Attribute{Name: "type", Value: "button"})
	}
	if p.Element == "dialog" && !l.layer(p) {
		e.Attributes = append(e.Attributes, Attribute{Name: "open", Value: "true"})
	}
	if l.does != nil {
		e.Hears, e.Says = l.does.At(p.ID), l.does.SaysOf(p.ID)
	}
	for _, name := range slices.Sorted(maps.Keys(p.Attributes)) {
		a := p.Attributes[name]
		if name == "popover" && !l.layer(p) { // nothing would show it
			continue
		}
		if p.Element == "details" && name == "name" && plainName.MatchString(a.Text) { // those of one name are open one at a time (HTML, 4.11.1), of each instance by itself
			e.Named, a = true, contract.Attribute{Part: a.Text}
		}
		e.Attributes = append(e.Attributes, Attribute{Name: name, Value: a.Text, Prop: a.Prop, Part: a.Part})
	}
	for _, prop := range l.c.Props {
		if event, ok := prop.Type.(contract.Event); ok && prop.Part == p.ID && event.On != contract.Told {
			e.Attributes = append(e.Attributes, Attribute{Name: event.On, Prop: prop.ID, Event: true})
		}
	}
	switch content := p.Content.(type) {
	case contract.TextOf:
		e.Children = append(e.Children, Text{content.Prop})
	case contract.FixedText:
		e.Children = append(e.Children, Fixed{content.Text})
	case contract.Picture:
		if content.Source != "" {
			for _, a := range [][2]string{{"src", content.Source}, {"alt", content.Alt}, {"width", css.FormatNumber(content.Width)}, {"height", css.FormatNumber(content.Height)}} {
				e.Attributes = append(e.Attributes, Attribute{Name: a[0], Value: a[1]})
			}
			return e
		}
		e.Attributes = append(e.Attributes, shows(content.Alt)...)
	case contract.ImageOf:
		for _, member := range []string{"src", "alt", "width", "height"} {
			e.Attributes = append(e.Attributes, Attribute{Name: member, Prop: content.Prop, Of: member})
		}
		return e
	case contract.SlotOf:
		slot := Slot{Prop: content.Prop}
		for _, child := range p.Children {
			slot.Default = append(slot.Default, l.node(child, p))
		}
		e.Children = append(e.Children, slot)
		return e
	case *contract.Vector:
		e.Attributes = append(e.Attributes, vectorAttributes(p, content)...)
		for _, path := range content.Paths {
			e.Children = append(e.Children, pathElement(path))
		}
	}
	if slices.Contains(e.Says, contract.TextSaid) && len(e.Children) == 1 {
		e.Children[0] = Said{p.ID, e.Children[0]}
	}
	for _, child := range p.Children {
		e.Children = append(e.Children, l.node(child, p))
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
	add("fill-rule", p.Rule)
	if p.Stroke.Width > 0 {
		add("stroke", p.Stroke.Color)
		add("stroke-width", css.FormatNumber(p.Stroke.Width))
		add("stroke-linecap", p.Stroke.Cap)
		add("stroke-linejoin", p.Stroke.Join)
		if p.Stroke.Miter != 0 {
			add("stroke-miterlimit", css.FormatNumber(p.Stroke.Miter))
		}
		if p.Stroke.Dash != "" {
			add("stroke-dasharray", p.Stroke.Dash)
			add("stroke-dashoffset", css.FormatNumber(p.Stroke.DashOffset))
		}
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

// Native gives the attributes that a component's root has by flags of their names.
func Native(c *contract.Contract) []Attribute { return (&lowering{c: c}).native() }

// conditional are the classes the root has by the values of props, or an item's part by those
// of the item of a list.
func (l *lowering) conditional(list string) (out []Class) {
	l.c.EachProp(func(id string, _ *contract.Prop) {
		of, _, item := strings.Cut(id, ".")
		if item != (list != "") || item && of != list {
			return
		}
		if names := l.classes.values[id]; len(names) > 0 {
			out = append(out, Class{Prop: id, Values: names})
		}
		for _, r := range l.c.Rules {
			for _, t := range r.When.Terms() {
				name := l.classes.terms[t]
				if name != "" && contract.PropOf(t) != "" && contract.PropOf(t) == id && !slices.ContainsFunc(out, func(c Class) bool { return c.Name == name }) {
					out = append(out, Class{Name: name, While: t})
				}
			}
		}
	})
	if list == "" {
		for _, state := range l.classes.states {
			out = append(out, Class{Name: l.classes.terms[contract.InState{State: state}], While: contract.InState{State: state}})
		}
	}
	return out
}
