package survey_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"

	"cobrik/core/design"
)

// A made document holds copies of components, each by a recipe of its own, and says which layers are copies of what and what each says.
type made struct {
	doc   *design.Document
	truth []*repeated
}

// repeated is one component and its copies.
type repeated struct {
	recipe recipe
	copies []madeCopy
}

// madeCopy is one copy: the leaves it is made of, and what each field says in it.
type madeCopy struct {
	id     string
	leaves []string
	says   map[string]any // by the name of the field; nil where it is not there
}

// recipe is how a component is drawn: fields one after another, on a box or on nothing.
type recipe struct {
	name     string
	fields   []field
	row      bool
	ground   bool
	width    float64
	pad, gap float64
	radius   float64
	tones    []tone // at least two where copies differ in tone
}

type tone struct{ name, ground, ink string }

type field struct {
	kind     string // title, text, small, number, picture, icon, tag, tags
	name     string
	size     float64
	weight   float64
	w, h     float64
	optional bool
	fixed    bool // the same in all copies
	follows  bool // its colour follows the tone
}

// noise is what is done to copies that were alike.
type noise struct {
	rename, reorder, optional, jitter, recolor, ungroup bool
}

type maker struct {
	*rand.Rand
	noise
	n      int
	assets []string
}

func (m *maker) id(kind string) string {
	m.n++
	return fmt.Sprintf("%s-%d", kind, m.n)
}

func (m *maker) chance(share float64) bool { return m.Float64() < share }

func pick[T any](m *maker, of ...T) T { return of[m.IntN(len(of))] }

var vocabulary = strings.Fields("amber birch canal dusk ember fallow garden harvest iris juniper kiln larch meadow nettle orchard pear quince rowan sorrel thyme umber violet willow yarrow zinnia")

func (m *maker) words(n int) string {
	out := make([]string, n)
	for i := range out {
		out[i] = pick(m, vocabulary...)
	}
	return strings.ToUpper(out[0][:1]) + strings.Join(out, " ")[1:]
}

func (m *maker) colour() string {
	return fmt.Sprintf("#%02x%02x%02x", m.IntN(256), m.IntN(256), m.IntN(256))
}

// recipe draws up a component that has a prop of several kinds.
func (m *maker) recipe(name string) recipe {
	r := recipe{name: name, row: m.chance(0.35), ground: m.chance(0.7), width: float64(180 + 20*m.IntN(10)), pad: float64(8 + 4*m.IntN(4)), gap: float64(4 + 4*m.IntN(3)), radius: float64(4 * m.IntN(4))}
	kinds := []string{"title", "text", "small", "number", "picture", "icon", "tag", "tags", "text", "small"}
	for _, i := range m.Perm(len(kinds))[:3+m.IntN(4)] {
		f := field{kind: kinds[i], weight: 400, fixed: m.chance(0.12), follows: m.chance(0.3)}
		f.name = fmt.Sprintf("%s%d", strings.ToUpper(f.kind[:1])+f.kind[1:], len(r.fields)+1)
		switch f.kind {
		case "title":
			f.size, f.weight = float64(17+m.IntN(8)), 600
		case "text":
			f.size = float64(14 + m.IntN(3))
		case "small", "number", "tag", "tags":
			f.size = float64(10 + m.IntN(4))
			f.weight = pick(m, 400.0, 500, 700)
		case "picture":
			f.w, f.h = float64(64+8*m.IntN(10)), float64(64+8*m.IntN(6))
		case "icon":
			f.w = float64(16 + 4*m.IntN(3))
			f.h = f.w
		}
		r.fields = append(r.fields, f)
	}
	if m.noise.optional { // one layer of each may be missing
		i := m.IntN(len(r.fields))
		r.fields[i].optional = r.fields[i].kind != "tags"
	}
	if len(r.fields) > 0 && m.chance(0.5) && r.ground {
		r.tones = []tone{{"", m.colour(), m.colour()}, {"", m.colour(), m.colour()}, {"", m.colour(), m.colour()}}[:2+m.IntN(2)]
	}
	return r
}

// kinds counts the fields of each kind and size.
func (r recipe) kinds() map[string]int {
	out := map[string]int{}
	for _, f := range r.fields {
		out[fmt.Sprint(f.kind, f.size, f.w)]++
	}
	return out
}

// unlike tells whether two recipes make things that nobody would take for the same: under half of their fields are.
func (r recipe) unlike(other recipe) bool {
	a, b := r.kinds(), other.kinds()
	common := 0
	for k, n := range a {
		common += min(n, b[k])
	}
	return 2*common < min(len(r.fields), len(other.fields))
}

func (m *maker) unlikeRecipes(n int) (out []recipe) {
	for len(out) < n {
		r := m.recipe(fmt.Sprintf("Piece %c", 'A'+len(out)))
		if !slices.ContainsFunc(out, func(o recipe) bool { return !r.unlike(o) }) {
			out = append(out, r)
		}
	}
	return out
}

func (m *maker) text(name, content string, f field, ink string) *design.Layer {
	return &design.Layer{ID: m.id("text"), Name: name, Kind: design.Text, Fill: ink, Bounds: design.Rect{Width: math.Round(float64(len(content)) * f.size * 0.5), Height: math.Round(f.size * 1.4)},
		Text: &design.TextContent{Content: content, FontFamily: "Hanken Grotesk", FontSize: f.size, FontWeight: f.weight, LineHeight: math.Round(f.size * 1.4)}}
}

func (m *maker) tag(name, content string, f field, ground, ink string) *design.Layer {
	t := m.text("Label", content, f, ink)
	t.Bounds.X, t.Bounds.Y = 8, 3
	return &design.Layer{ID: m.id("tag"), Name: name, Kind: design.Box, Fill: ground, Radius: []float64{3}, Bounds: design.Rect{Width: t.Bounds.Width + 16, Height: t.Bounds.Height + 6}, Children: []*design.Layer{t}}
}

func (m *maker) icon(name string, side float64, d int) *design.Layer {
	return &design.Layer{ID: m.id("icon"), Name: name, Kind: design.Vector, Fill: "#334433", Bounds: design.Rect{Width: side, Height: side},
		Vector: &design.VectorContent{ViewBox: [4]float64{0, 0, 16, 16}, Paths: []design.Path{{D: fmt.Sprintf("M%d 2h12v%dz", d, d)}}}}
}

// copy draws one copy, with what it says.
func (m *maker) copy(r recipe, width float64, fixed map[string]any) (*design.Layer, madeCopy) {
	c := madeCopy{says: map[string]any{}}
	root := &design.Layer{ID: m.id("copy"), Name: r.name, Kind: design.Group}
	ink := "#222222"
	var is *tone
	if r.ground {
		root.Kind, root.Fill, root.Radius = design.Box, "#fdfcf8", []float64{r.radius}
	}
	if len(r.tones) > 0 {
		i := m.IntN(len(r.tones))
		is = &r.tones[i]
		root.Fill = is.ground
		c.says["tone"] = i
	}
	x, y := r.pad, r.pad
	var far float64
	for _, f := range r.fields {
		if f.optional && m.chance(0.4) {
			c.says[f.name] = nil
			continue
		}
		colour := ink
		if f.follows && is != nil {
			colour = is.ink
		}
		say := func(make func() any) any {
			if !f.fixed {
				return make()
			}
			if fixed[f.name] == nil {
				fixed[f.name] = make()
			}
			return fixed[f.name]
		}
		var l *design.Layer
		var says any
		switch f.kind {
		case "title":
			says = say(func() any { return m.words(2) })
			l = m.text(f.name, says.(string), f, colour)
		case "text":
			says = say(func() any { return m.words(2 + m.IntN(2)) })
			l = m.text(f.name, says.(string), f, colour)
		case "small":
			says = say(func() any { return m.words(1 + m.IntN(2)) })
			l = m.text(f.name, says.(string), f, colour)
		case "number":
			says = say(func() any { return fmt.Sprint(1 + m.IntN(900)) })
			l = m.text(f.name, says.(string), f, colour)
		case "picture":
			says = say(func() any { return pick(m, m.assets...) })
			l = &design.Layer{ID: m.id("image"), Name: f.name, Kind: design.Image, Image: &design.ImageContent{Asset: says.(string)}, Bounds: design.Rect{Width: f.w, Height: f.h}}
			if !r.row {
				l.Bounds.Width = width - 2*r.pad
			}
		case "icon":
			d := say(func() any { return m.IntN(10) })
			l = m.icon(f.name, f.w, d.(int))
			says = d
		case "tag":
			says = say(func() any { return m.words(1) })
			l = m.tag(f.name, says.(string), f, "#dde8d8", colour)
		case "tags":
			l = &design.Layer{ID: m.id("tags"), Name: f.name, Kind: design.Group}
			items, at := []any{}, 0.0
			for range 2 + m.IntN(3) {
				w := m.words(1)
				t := m.tag("Chip", w, f, "#e8e2d8", colour)
				t.Bounds.X = at
				at += t.Bounds.Width + 6
				l.Children = append(l.Children, t)
				l.Bounds.Width, l.Bounds.Height = at-6, t.Bounds.Height
				items = append(items, w)
			}
			says = items
		}
		c.says[f.name] = says
		l.Bounds.X, l.Bounds.Y = x, y
		if r.row {
			x += l.Bounds.Width + r.gap
			far = max(far, l.Bounds.Height)
		} else {
			y += l.Bounds.Height + r.gap
		}
		root.Children = append(root.Children, l)
	}
	root.Bounds = design.Rect{Width: width, Height: y - r.gap + r.pad}
	if r.row {
		root.Bounds.Width = max(width, x)
		root.Bounds.Height = far + 2*r.pad
	}
	if !r.ground { // as large as what it holds
		root.Bounds = extent(root)
	}
	c.id = root.ID
	return root, c
}

// extent gives a group the bounds of what it holds, and moves that.
func extent(g *design.Layer) design.Rect {
	x, y := math.Inf(1), math.Inf(1)
	right, bottom := math.Inf(-1), math.Inf(-1)
	for _, c := range g.Children {
		x, y = min(x, c.Bounds.X), min(y, c.Bounds.Y)
		right, bottom = max(right, c.Bounds.X+c.Bounds.Width), max(bottom, c.Bounds.Y+c.Bounds.Height)
	}
	for _, c := range g.Children {
		c.Bounds.X, c.Bounds.Y = c.Bounds.X-x, c.Bounds.Y-y
	}
	return design.Rect{Width: right - x, Height: bottom - y}
}

// disturb does to a copy what noise says.
func (m *maker) disturb(l *design.Layer) {
	l.Walk(func(c *design.Layer, _, _ float64) {
		if m.rename && m.chance(0.5) {
			c.Name = fmt.Sprintf("%s %d", pick(m, "Group", "Rectangle", "Layer", "Frame"), 1+m.IntN(99))
			if m.chance(0.2) {
				c.Name = m.words(2)
			}
		}
		if m.reorder && len(c.Children) > 1 {
			m.Shuffle(len(c.Children), func(i, j int) { c.Children[i], c.Children[j] = c.Children[j], c.Children[i] })
		}
		if m.jitter && c != l {
			shift := func() float64 { return float64(m.IntN(5) - 2) }
			c.Bounds.X += shift()
			c.Bounds.Y += shift()
			if c.Kind != design.Text {
				c.Bounds.Width += shift()
				c.Bounds.Height += shift()
			}
		}
		if m.recolor && m.chance(0.15) && c.Fill != "" {
			c.Fill = m.colour()
		}
	})
}

// document draws pages of copies, in grids of three, each kind on one or two pages, and single things beside them.
func makeDocument(seed uint64, kinds int, n noise) made {
	m := &maker{Rand: rand.New(rand.NewPCG(seed, 7)), noise: n}
	out := made{doc: &design.Document{Format: design.Format, ID: "made", Name: "Made"}}
	for i := range 6 {
		m.assets = append(m.assets, fmt.Sprintf("asset-%d", i))
		out.doc.Assets = append(out.doc.Assets, design.Asset{ID: m.assets[i], Source: "data:image/svg+xml,%3Csvg xmlns=%22http://www.w3.org/2000/svg%22/%3E", Width: 10, Height: 10})
	}
	recipes := m.unlikeRecipes(kinds + 3)
	var pages []*design.Page
	for i := range 3 {
		pages = append(pages, &design.Page{ID: fmt.Sprintf("page-%d", i), Name: fmt.Sprintf("Page %d", i+1), Width: 1440, Height: 0, Layers: nil})
	}
	at := make([]float64, len(pages))
	put := func(page int, l *design.Layer, x, y float64) {
		l.Bounds.X, l.Bounds.Y = x, y
		pages[page].Layers = append(pages[page].Layers, l)
	}
	for _, r := range recipes[:kinds] {
		rep := &repeated{recipe: r}
		fixed := map[string]any{}
		on := m.Perm(len(pages))[:1+m.IntN(2)]
		for _, p := range on {
			width := r.width
			if len(on) > 1 && p == on[1] {
				width += 40
			}
			var high float64
			at[p] += 48
			count := 2 + m.IntN(5)
			across := 3
			if r.row {
				across = 1
			}
			for i := range count {
				if i%across == 0 && i > 0 {
					at[p] += high + 32
					high = 0
				}
				l, c := m.copy(r, width, fixed)
				m.disturb(l)
				high = max(high, l.Bounds.Height)
				x := 60 + float64(i%across)*(width+60)
				ungroup := m.ungroup && len(l.Children) > 1 && r.ground
				leaves := []string{}
				l.Walk(func(d *design.Layer, _, _ float64) {
					if len(d.Children) == 0 {
						leaves = append(leaves, d.ID)
					}
				})
				c.leaves = leaves
				if ungroup {
					inner := l.Children
					l.Children = nil
					c.leaves = append(c.leaves, l.ID)
					put(p, l, x, at[p])
					for _, d := range inner {
						put(p, d, x+d.Bounds.X, at[p]+d.Bounds.Y)
					}
				} else {
					put(p, l, x, at[p])
				}
				rep.copies = append(rep.copies, c)
			}
			at[p] += high
		}
		out.truth = append(out.truth, rep)
	}
	for i, r := range recipes[kinds:] { // each once
		p := i % len(pages)
		l, _ := m.copy(r, r.width, map[string]any{})
		at[p] += 64
		put(p, l, 60, at[p])
		at[p] += l.Bounds.Height
	}
	for i, p := range pages {
		p.Height = at[i] + 60
	}
	out.doc.Pages = pages
	return out
}

// leavesOf lists the leaves of a find's member, sorted.
func leavesOf(doc *design.Document, ids []string) string {
	var out []string
	for _, id := range ids {
		l, _ := doc.Layer(id)
		l.Walk(func(d *design.Layer, _, _ float64) {
			if len(d.Children) == 0 {
				out = append(out, d.ID)
			}
		})
	}
	slices.Sort(out)
	return strings.Join(slices.Compact(out), " ")
}
