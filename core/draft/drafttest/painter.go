// Package drafttest draws random families of everything that a design document holds, for tests that
// draft them and look what becomes of them.
package drafttest

import (
	"fmt"
	"math/rand/v2"
	"strings"

	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/font"
)

// Family draws a family of a name: a variant for each combination of its axes' values.
func Family(name string, axes []design.Axis, draw func(choices map[string]string) *design.Layer) *design.Family {
	f := &design.Family{ID: strings.ReplaceAll(strings.ToLower(name), " ", "-"), Name: name, Axes: axes}
	choices := []map[string]string{{}}
	for _, a := range axes {
		var next []map[string]string
		for _, c := range choices {
			for _, v := range a.Values {
				with := map[string]string{a.Name: v}
				for k, v := range c {
					with[k] = v
				}
				next = append(next, with)
			}
		}
		choices = next
	}
	for i, c := range choices {
		root := draw(c)
		root.Walk(func(l *design.Layer, _, _ float64) { l.ID = fmt.Sprintf("%s-%d-%s", f.ID, i, l.ID) })
		f.Variants = append(f.Variants, &design.Variant{ID: fmt.Sprintf("%s-%d", f.ID, i), Choices: c, Root: root})
	}
	return f
}

// Axis is an axis whose default is the first of its values.
func Axis(name string, values ...string) design.Axis {
	return design.Axis{Name: name, Values: values, Default: values[0]}
}

// Painter draws random families, with names as people and programs give them.
type Painter struct {
	Used  []*design.Family // that may be used
	r     *rand.Rand
	count int
	asset design.Asset
}

// NewPainter gives a painter who draws the same for the same seed.
func NewPainter(seed uint64) *Painter {
	return &Painter{r: rand.New(rand.NewPCG(seed, 27)), asset: design.Asset{ID: "a", Source: picture, Width: 40, Height: 20}}
}

// Document draws one of some families, later ones using earlier ones, under names that nobody wrote
// for code.
func (p *Painter) Document(id string, families int) *design.Document {
	doc := &design.Document{Format: design.Format, ID: id, Name: id, Assets: []design.Asset{p.asset}, Pages: []*design.Page{}}
	for n := range families {
		f := p.Family(n)
		f.ID, f.Name = fmt.Sprintf("%s-%d", id, n), fmt.Sprintf("%s %s/%d", p.name(), id, n)
		doc.Families, p.Used = append(doc.Families, f), append(p.Used, f)
	}
	return doc
}

// picture is one of 40 by 20 px.
const picture = "data:image/svg+xml,%3Csvg xmlns='http://www.w3.org/2000/svg' width='40' height='20'/%3E"

func (p *Painter) chance(of int) bool { return p.r.IntN(of) == 0 }

var oddNames = []string{"Label", "Text 12", "Größe", "label", "Group 4", "default", "Title bar", "Name", "constructor", "icon/left", "Card header", "Menu", "Note", "サイズ", "Button", "2XL", "children", "List"}

func (p *Painter) name() string { return oddNames[p.r.IntN(len(oddNames))] }

// base of a layer that all variants share; what differs is decided by the choices.
func (p *Painter) layer(kind design.Kind) *design.Layer {
	p.count++
	return &design.Layer{ID: fmt.Sprintf("l%d", p.count), Name: p.name(), Kind: kind}
}

var phrases = []string{"Sown", "Water the beds", "Plot 41", "Ines", "due on Sunday", "3", "Größe & Co", "a <b> c"}

func (p *Painter) text() *design.Layer {
	l := p.layer(design.Text)
	l.Fill = []string{"#112233", "#445566"}[p.r.IntN(2)]
	size := []float64{12, 14, 16}[p.r.IntN(3)]
	l.Text = &design.TextContent{Content: phrases[p.r.IntN(len(phrases))], FontFamily: "Hanken Grotesk", FontSize: size, FontWeight: []float64{400, 650}[p.r.IntN(2)], LineHeight: size + 6}
	if p.chance(5) {
		l.Link = []string{"#", "/rota"}[p.r.IntN(2)]
	}
	if words := strings.SplitN(l.Text.Content, " ", 2); p.chance(5) && len(words) == 2 {
		l.Text.Runs = []design.Run{{Text: words[0], Emphasis: p.chance(2)}, {Text: " " + words[1]}}
	}
	return l
}

func (p *Painter) leaf() *design.Layer {
	switch p.r.IntN(7) {
	case 3:
		if !p.chance(2) {
			break
		}
		l, inner := p.layer(design.Group), p.layer(design.Box)
		l.Flatten, l.Sizing = []string{"svg", "png"}[p.count%2], design.Sizing{Width: "fixed", Height: "fixed"}
		l.Bounds.Width, l.Bounds.Height = float64(10+p.r.IntN(30)), float64(10+p.r.IntN(30))
		inner.Fill, inner.Bounds = "#336633", design.Rect{X: 2, Y: 2, Width: 6, Height: 4}
		l.Children = []*design.Layer{inner}
		return l
	case 0:
		l := p.layer(design.Image)
		l.Image, l.Alt = &design.ImageContent{Asset: "a", Fit: []string{"", "contain"}[p.r.IntN(2)], Shown: &p.asset}, "A bed"
		l.Sizing = design.Sizing{Width: "fixed", Height: "fixed"}
		l.Bounds.Width, l.Bounds.Height = float64(20+p.r.IntN(60)), float64(20+p.r.IntN(40))
		return l
	case 1:
		l := p.layer(design.Vector)
		l.Fill, l.Vector = "#336633", &design.VectorContent{ViewBox: [4]float64{0, 0, 16, 16}, Paths: []design.Path{{D: "M0 0H16V16Z"}}}
		l.Sizing = design.Sizing{Width: "fixed", Height: "fixed"}
		l.Bounds.Width, l.Bounds.Height = 16, 16
		return l
	case 2:
		if len(p.Used) > 0 {
			f := p.Used[p.r.IntN(len(p.Used))]
			v := f.Variants[p.r.IntN(len(f.Variants))]
			for v.Choices["Screen"] == "narrow" || v.Choices["State"] == "hover" { // the solver does not follow switch points inside a use, and a component comes into its states by itself
				v = f.Variants[p.r.IntN(len(f.Variants))]
			}
			l := p.layer(design.Instance)
			l.Instance, l.Bounds = &design.InstanceContent{Family: f.ID, Choices: v.Choices}, design.Rect{Width: v.Root.Bounds.Width, Height: v.Root.Bounds.Height}
			if v.Root.Sizing.Width == "fill" {
				l.Sizing.Width = "fixed"
			}
			if p.chance(5) {
				l.Sizing = design.Sizing{Width: "fixed", Height: "fixed"}
				l.Bounds.Width, l.Bounds.Height = l.Bounds.Width+float64(8*p.r.IntN(4)), l.Bounds.Height+float64(8*p.r.IntN(3))
			}
			v.Root.Walk(func(c *design.Layer, _, _ float64) {
				switch yes := true; {
				case c != v.Root && p.chance(12):
					l.Instance.Overrides = append(l.Instance.Overrides, design.Override{Layer: c.Name, Hidden: &yes})
				case c.Text != nil && p.chance(6):
					l.Instance.Overrides = append(l.Instance.Overrides, design.Override{Layer: c.Name, Text: &phrases[p.r.IntN(len(phrases))]})
				}
			})
			for _, a := range f.Axes {
				if p.chance(3) {
					l.Instance.Exposes = append(l.Instance.Exposes, a.Name)
				}
			}
			return l
		}
	}
	return p.text()
}

func (p *Painter) box(depth int) *design.Layer {
	l := p.layer(design.Box)
	l.Fill = []string{"", "#ffffff", "#eeddcc"}[p.r.IntN(3)]
	l.Flow = &design.Flow{Direction: []string{"row", "column"}[p.r.IntN(2)], Gap: float64(4 * p.r.IntN(4)), Align: []string{"start", "center", "end"}[p.r.IntN(3)]}
	if p.chance(2) {
		l.Flow.Padding = []float64{float64(2 * p.r.IntN(5)), float64(4 * p.r.IntN(4))}
	}
	if p.chance(4) {
		l.Stroke = &design.Stroke{Color: "#999999", Width: 1}
	}
	if p.chance(6) {
		l.Radius = []float64{4}
	}
	if p.chance(6) {
		l.Flow.Distribute = "space-between"
	}
	if p.chance(6) {
		l.Sizing.Width = "fill"
	}
	if p.chance(5) {
		l.Fills = []design.Fill{{Color: "#00000010"}, {Gradient: &design.Gradient{Kind: []string{"linear", "radial"}[p.r.IntN(2)], Stops: []design.Stop{{Color: "#ffeedd"}, {At: 1, Color: "#ffffff80"}}}}}[p.r.IntN(2):]
	}
	if p.chance(8) {
		l.Blend = "multiply"
	}
	if p.chance(5) {
		l.Shadows = []design.Shadow{{Y: 1, Blur: 3, Color: "#00000040"}}
	}
	if p.chance(4) { // siblings that repeat
		one := p.box(0)
		one.Children = []*design.Layer{p.text(), p.leaf()}
		for n := range 2 + p.r.IntN(3) {
			l.Children = append(l.Children, p.copied(one, fmt.Sprintf("Row %d", n+1)))
		}
		return l
	}
	for range 1 + p.r.IntN(3) {
		if depth > 0 && p.chance(2) {
			l.Children = append(l.Children, p.box(depth-1))
		} else {
			l.Children = append(l.Children, p.leaf())
		}
	}
	if p.chance(8) {
		l.Slot = &design.SlotContent{}
	}
	return l
}

// copied is a layer again, under another name and with other words.
func (p *Painter) copied(l *design.Layer, name string) *design.Layer {
	out := *l
	p.count++
	out.ID, out.Name = fmt.Sprintf("l%d", p.count), name
	if l.Text != nil {
		text := *l.Text
		text.Content, text.Runs = phrases[p.r.IntN(len(phrases))], nil
		out.Text = &text
	}
	out.Children = nil
	for _, c := range l.Children {
		out.Children = append(out.Children, p.copied(c, c.Name))
	}
	return &out
}

// Family draws one, of a number: each variant is the base with what the choices change.
func (p *Painter) Family(n int) *design.Family {
	f := &design.Family{ID: fmt.Sprintf("f%d", n), Name: fmt.Sprintf("Thing %d", n), Axes: []design.Axis{}}
	for i, a := range []design.Axis{Axis("Size", "m", "s"), Axis("Tone", "calm", "loud", "Größe 2"), Axis("On", "off", "on"), Axis("State", "default", "hover", "disabled"), Axis("Screen", "wide", "narrow")} {
		if p.chance(2 + i/3) {
			f.Axes = append(f.Axes, a)
		}
	}
	base := p.box(2)
	wide := false
	for _, a := range f.Axes {
		wide = wide || a.Name == "Screen"
	}
	uses := false
	base.Walk(func(l *design.Layer, _, _ float64) { uses = uses || l.Kind == design.Instance })
	if p.chance(5) && !wide && !uses { // a use of one that switches keeps its height, and drafting says so; one in too little room gives way in CSS
		base.Sizing.Height, base.Bounds.Height = "fixed", float64(100+20*p.r.IntN(4))
	}
	changes := map[string]func(l *design.Layer){} // by axis, value and layer
	base.Walk(func(l *design.Layer, _, _ float64) {
		for _, a := range f.Axes {
			for _, v := range a.Values {
				if v == a.Default || !p.chance(6) {
					continue
				}
				pad, fill, words := float64(p.r.IntN(9)), []string{"#aabbcc", "#ddeeff"}[p.r.IntN(2)], phrases[p.r.IntN(len(phrases))]
				hide := l != base && p.chance(4)
				changes[a.Name+v+l.ID] = func(l *design.Layer) {
					switch {
					case hide:
						l.Hidden = true
					case l.Flow != nil:
						flow := *l.Flow
						flow.Padding, l.Flow = []float64{pad, 4}, &flow
					case l.Text != nil && a.Name != "State" && l.Text.Runs == nil:
						text := *l.Text
						text.Content, l.Text = words, &text
					case l.Kind != design.Instance && l.Kind != design.Image:
						l.Fill = fill
					}
				}
			}
		}
	})
	p.icons(f, base, changes)
	fonts := font.Shipped()
	drawn := Family(f.Name, f.Axes, func(choices map[string]string) *design.Layer {
		var copied func(l *design.Layer) *design.Layer
		copied = func(l *design.Layer) *design.Layer {
			out := *l
			for _, a := range f.Axes {
				if change := changes[a.Name+choices[a.Name]+l.ID]; change != nil {
					change(&out)
				}
			}
			out.Children = nil
			for _, c := range l.Children {
				out.Children = append(out.Children, copied(c))
			}
			return &out
		}
		root, room := copied(base), 4000.0
		if wide {
			room = map[string]float64{"wide": 1000, "narrow": 400}[choices["Screen"]]
			root.Sizing.Width = "fill"
		}
		laid, found := draft.Reflow(root, room, fonts)
		if laid == nil {
			panic(found)
		}
		if wide {
			laid.Bounds.Width = room
		}
		return laid
	})
	drawn.ID = f.ID
	return drawn
}

// icons lets an axis pick what one drawing of paths shows, or whether it shows one.
func (p *Painter) icons(f *design.Family, base *design.Layer, changes map[string]func(l *design.Layer)) {
	var vectors []*design.Layer
	base.Walk(func(l *design.Layer, _, _ float64) {
		if l.Vector != nil {
			vectors = append(vectors, l)
		}
	})
	if len(vectors) == 0 || !p.chance(2) {
		return
	}
	at := vectors[p.r.IntN(len(vectors))]
	values := [][]string{{"leaf", "drop"}, {"none", "leaf", "drop"}, {"leaf", "none", "drop"}}[p.r.IntN(3)]
	f.Axes = append(f.Axes, Axis("Icon", values...))
	for _, value := range values {
		before := changes["Icon"+value+at.ID]
		changes["Icon"+value+at.ID] = func(l *design.Layer) {
			if before != nil {
				before(l)
			}
			drawn := *l.Vector
			drawn.Paths = []design.Path{{D: map[string]string{"leaf": "M0 0H16V16Z", "drop": "M8 0L16 16H0Z"}[value]}}
			l.Vector, l.Hidden = &drawn, l.Hidden || value == "none"
		}
	}
}
