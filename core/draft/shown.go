package draft

import (
	"math"
	"strings"

	"cobrik/core/design"
	"cobrik/core/font"
)

// Shown gives a page on which uses of families hold what they show, laid out in the room they have
// there. A use that is as large as its variant and says nothing of its own stays as it is.
func Shown(doc *design.Document, page *design.Page, fonts *font.Library) *design.Page {
	e := newExpander(doc, fonts, nil)
	out := *page
	out.Layers = e.shownIn(page.Layers)
	return &out
}

func (e *expander) shownIn(layers []*design.Layer) []*design.Layer {
	out := make([]*design.Layer, len(layers))
	for i, l := range layers {
		switch {
		case l.Kind == design.Instance && e.otherThanDrawn(l):
			if shown := e.instance(l, 0); shown != nil {
				shown.Walk(func(c *design.Layer, _, _ float64) { c.ID = strings.TrimPrefix(c.ID, l.ID+".") }) // as the family has them
				l = holding(l, shown)
			}
		case len(l.Children) > 0:
			inner := *l
			inner.Children = e.shownIn(l.Children)
			l = &inner
		}
		out[i] = l
	}
	return out
}

// otherThanDrawn tells whether a use is not just its family's variant again.
func (e *expander) otherThanDrawn(l *design.Layer) bool {
	f := e.doc.Family(l.Instance.Family)
	if f == nil {
		return false
	}
	v := f.Variant(l.Instance.Choices)
	return v != nil && (len(l.Instance.Overrides) > 0 || math.Abs(v.Root.Bounds.Width-l.Bounds.Width) > sameSize)
}
