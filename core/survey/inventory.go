package survey

import (
	"cobrik/core/design"
	"cobrik/core/draft"
)

// Inventory is what one page holds. Boxes are in the page's px.
type Inventory struct {
	Loose  []Area // drawn without flow, the outer first; each can become a component
	Layers int
}

// Area is a layer at its place on the page.
type Area struct {
	Layer  *design.Layer
	Box    design.Rect
	Layers int // in it, itself counted
	Depth  int // how many other loose ones it lies in
}

// ReadPage takes the inventory of a page.
func ReadPage(p *design.Page) Inventory {
	var out Inventory
	var walk func(l *design.Layer, x, y float64, shown bool, depth int)
	walk = func(l *design.Layer, x, y float64, shown bool, depth int) {
		x, y = x+l.Bounds.X, y+l.Bounds.Y
		shown = shown && !l.Hidden
		box := design.Rect{X: x, Y: y, Width: l.Bounds.Width, Height: l.Bounds.Height}
		out.Layers++
		if draft.Flowless(l) && shown {
			one := Area{Layer: l, Box: box, Depth: depth}
			l.Walk(func(*design.Layer, float64, float64) { one.Layers++ })
			out.Loose = append(out.Loose, one)
			depth++
		}
		for _, c := range l.Children {
			walk(c, x, y, shown, depth)
		}
	}
	for _, top := range p.Layers {
		walk(top, 0, 0, true, 0)
	}
	return out
}

// Uses counts the instances of each family, by id, on the pages.
func Uses(doc *design.Document) map[string]int {
	uses := map[string]int{}
	for _, p := range doc.Pages {
		for _, top := range p.Layers {
			top.Walk(func(l *design.Layer, _, _ float64) {
				if l.Kind == design.Instance {
					uses[l.Instance.Family]++
				}
			})
		}
	}
	return uses
}

// WithoutComponent counts the families nothing is drafted from; drafted has the
// ids of families and layers that have a component.
func WithoutComponent(doc *design.Document, drafted map[string]bool) int {
	n := 0
	for _, f := range doc.Families {
		if !drafted[f.ID] {
			n++
		}
	}
	return n
}

// PageUses are the uses of a family on one page.
type PageUses struct {
	Page string `json:"page"` // its id
	Name string `json:"name"`
	Uses int    `json:"uses"`
}

// UsesOf counts a family's uses on each page that has any, in their order.
func UsesOf(doc *design.Document, family string) []PageUses {
	out := []PageUses{}
	for _, p := range doc.Pages {
		if n := Uses(&design.Document{Pages: []*design.Page{p}})[family]; n > 0 {
			out = append(out, PageUses{p.ID, p.Name, n})
		}
	}
	return out
}
