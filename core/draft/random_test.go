package draft_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/font"
	"cobrik/core/layout"
	"cobrik/core/ledger"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// painter draws random families of everything that a design document holds, with names as people
// and programs give them.
type painter struct {
	r     *rand.Rand
	count int
	asset design.Asset
	used  []*design.Family // that may be used
}

func (p *painter) chance(of int) bool { return p.r.IntN(of) == 0 }

var oddNames = []string{"Label", "Text 12", "Größe", "label", "Group 4", "default", "Title bar", "Name", "constructor", "icon/left", "Card header", "Menu", "Note", "サイズ", "Button", "2XL", "children", "List"}

func (p *painter) name() string { return oddNames[p.r.IntN(len(oddNames))] }

// base of a layer that all variants share; what differs is decided by the choices.
func (p *painter) layer(kind design.Kind) *design.Layer {
	p.count++
	return &design.Layer{ID: fmt.Sprintf("l%d", p.count), Name: p.name(), Kind: kind}
}

var phrases = []string{"Sown", "Water the beds", "Plot 41", "Ines", "due on Sunday", "3", "Größe & Co", "a <b> c"}

func (p *painter) text() *design.Layer {
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

func (p *painter) leaf() *design.Layer {
	switch p.r.IntN(6) {
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
		if len(p.used) > 0 {
			f := p.used[p.r.IntN(len(p.used))]
			v := f.Variants[p.r.IntN(len(f.Variants))]
			for v.Choices["Screen"] == "narrow" || v.Choices["State"] == "hover" { // the solver does not follow switch points inside a use, and a component comes into its states by itself
				v = f.Variants[p.r.IntN(len(f.Variants))]
			}
			l := p.layer(design.Instance)
			l.Instance, l.Bounds = &design.InstanceContent{Family: f.ID, Choices: v.Choices}, design.Rect{Width: v.Root.Bounds.Width, Height: v.Root.Bounds.Height}
			if v.Root.Sizing.Width == "fill" {
				l.Sizing.Width = "fixed"
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

func (p *painter) box(depth int) *design.Layer {
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
func (p *painter) copied(l *design.Layer, name string) *design.Layer {
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

// family draws one: each variant is the base with what the choices change.
func (p *painter) family(n int) *design.Family {
	f := &design.Family{ID: fmt.Sprintf("f%d", n), Name: fmt.Sprintf("Thing %d", n)}
	for i, a := range []design.Axis{axis("Size", "m", "s"), axis("Tone", "calm", "loud", "Größe 2"), axis("On", "off", "on"), axis("State", "default", "hover", "disabled"), axis("Screen", "wide", "narrow")} {
		if p.chance(2 + i/3) {
			f.Axes = append(f.Axes, a)
		}
	}
	base := p.box(2)
	wide := false
	for _, a := range f.Axes {
		wide = wide || a.Name == "Screen"
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
	fonts := font.Shipped()
	drawn := drawnFamily(f.Name, f.Axes, func(choices map[string]string) *design.Layer {
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

// Families of everything at once, under names as they come: they are drafted, or it is said why
// not; what is drafted is what was drawn, in every case: no move, no fact that differs, every part
// where it was drawn.
func TestRandomFamiliesAreDraftedAsDrawn(t *testing.T) {
	drafted, refused, facts := 0, map[string]int{}, 0
	kinds := map[contract.Kind]int{}
	uses, widths, untold := 0, 0, 0
	for seed := range uint64(60) {
		p := &painter{r: rand.New(rand.NewPCG(seed, 27)), asset: design.Asset{ID: "a", Source: "data:image/png;base64,AA", Width: 40, Height: 20}}
		doc := &design.Document{ID: "d", Name: "D"}
		known := map[string]*contract.Contract{}
		components := func(family string) *contract.Contract { return known[family] }
		for n := range 3 {
			f := p.family(n)
			doc.Families = append(doc.Families, f)
			c, source, found := draft.Of(doc, contract.Origin{Family: f.ID}, "", token.Empty(), font.Shipped(), components)
			if c == nil {
				for _, problem := range found {
					if problem.Severity == "error" {
						refused[problem.Rule]++
					}
				}
				continue
			}
			drafted++
			known[f.ID] = c
			p.used = append(p.used, f)
			at := fmt.Sprintf("seed %d, family %d", seed, n)
			require.Empty(t, c.Check(token.Empty()), at)
			again, problems := contract.Read("c", c.JSON(), token.Empty())
			require.NotNil(t, again, "%s: %s", at, problems)
			for _, prop := range c.Props {
				kinds[prop.Kind()]++
			}
			uses, widths = uses+len(c.UsedParts()), widths+len(c.Widths)
			if slices.ContainsFunc(found, func(p problem.Problem) bool { return p.Rule == "instance-override" }) {
				untold++ // said to be drawn as no prop of the used component can have it
				continue
			}
			l := ledger.New(ledger.Agreed{Contract: c, Tokens: token.Empty(), Components: components}, source)
			require.Empty(t, l.Moves(), "%s: it has moved before anything did", at)
			for _, k := range draft.Cases(c, source) {
				for _, fact := range l.Facts(k, nil) {
					facts++
					require.Equal(t, ledger.Agree, fact.Verdict, "%s, %s: %s %s: drawn %v, agreed %v", at, k.Name, fact.Part, fact.Property, fact.Design, fact.Contract)
				}
				assertPlaces(t, at+", "+k.Name, c, k)
			}
		}
	}
	t.Logf("%d drafted, %d facts, %d uses; %d with what no prop tells; refused: %v; props: %v", drafted, facts, uses, untold, refused, kinds)
	assert.Greater(t, drafted, 120)
	assert.Greater(t, uses, 40)
	assert.Greater(t, widths, 40)
	for _, kind := range []contract.Kind{contract.TextKind, contract.RichKind, contract.FlagKind, contract.ChoiceKind, contract.ImageKind, contract.LinkKind, contract.SlotKind, contract.ListKind} {
		assert.Greater(t, kinds[kind], 5, "hardly any %s", kind)
	}
}

// assertPlaces holds a case's solved boxes to where its layers were drawn.
func assertPlaces(t *testing.T, at string, c *contract.Contract, k draft.Case) {
	t.Helper()
	tree := contract.Resolve(c, k.Env(), token.Empty())
	width := 4000.0
	if len(c.Widths) > 0 {
		width = k.Width
	}
	solved, found := layout.Solve(tree.Boxes(), layout.Options{Width: width, Fonts: font.Shipped()})
	require.NotNil(t, solved, found)
	parts := map[string]*contract.Resolved{}
	tree.Walk(func(r *contract.Resolved) { parts[r.Key()] = r })
	places := map[*design.Layer][2]float64{}
	k.Variant.Root.Walk(func(l *design.Layer, x, y float64) { places[l] = [2]float64{x, y} })
	var walk func(n *layout.Node)
	walk = func(n *layout.Node) {
		if n.Box == nil || parts[n.Name] == nil {
			return
		}
		l, _ := draft.ItemLayer(k.Variant.Root, c, parts[n.Name])
		require.NotNil(t, l, "%s: %s", at, n.Name)
		x, y := places[l][0], places[l][1]
		off := max(math.Abs(n.Box.X-x), math.Abs(n.Box.Y-y), math.Abs(n.Box.Width-l.Bounds.Width), math.Abs(n.Box.Height-l.Bounds.Height))
		require.LessOrEqual(t, off, 0.5, "%s: %s is at %v, drawn at %g %g %g %g", at, n.Name, *n.Box, x, y, l.Bounds.Width, l.Bounds.Height)
		for _, child := range n.Children {
			walk(child)
		}
	}
	walk(solved)
}
