package survey

import "cobrik/core/design"

// Section is a large piece of a page, and the components it is like.
type Section struct {
	Page    string `json:"page"`
	Layer   string `json:"layer"`
	Name    string `json:"name"`
	Nearest []Near `json:"nearest"`
}

// sections are what a page holds first: of a page with one frame that covers it, what is in that.
func (o *outline) sections() []Section {
	out := []Section{}
	for _, r := range o.roots {
		if r.page == nil {
			continue
		}
		holds := r.top
		for len(holds.children) == 1 && covers(holds.children[0], r.page) {
			holds = holds.children[0]
		}
		list := append([]*shape{}, holds.children...)
		sortByPlace(list)
		for _, s := range list {
			if len(s.children) == 0 {
				continue
			}
			out = append(out, Section{Page: r.page.ID, Layer: s.id(), Name: nameOfLayer(s), Nearest: nearest(o.drawnTree(s), o.known, ofFind)})
		}
	}
	return out
}

// nameOfLayer is what a shape's layer is called; of loose layers the first.
func nameOfLayer(s *shape) string {
	var l *design.Layer
	if l = s.outer; l == nil {
		l = s.loose[0]
	}
	return l.Name
}
