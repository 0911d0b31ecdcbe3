package draft

import (
	"slices"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/layout"
)

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
