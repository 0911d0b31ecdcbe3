package ir

import (
	"fmt"

	"cobrik/core/contract"
)

// Rich writes rich text as elements: paragraphs, headings, lists of what follows each other,
// and runs in them (HTML, 4.4 and 4.5).
func Rich(v contract.RichValue) (out []Node) {
	if v.Inline() {
		return runs(v[0].Runs)
	}
	var list *Element
	for _, b := range v {
		if b.Kind != "item" {
			list = nil
		}
		switch b.Kind {
		case "heading":
			out = append(out, &Element{Tag: fmt.Sprintf("h%d", b.Level), Children: runs(b.Runs)})
		case "item":
			if list == nil {
				list = &Element{Tag: "ul"}
				out = append(out, list)
			}
			list.Children = append(list.Children, &Element{Tag: "li", Children: runs(b.Runs)})
		default:
			out = append(out, &Element{Tag: "p", Children: runs(b.Runs)})
		}
	}
	return out
}

func runs(list []contract.Run) (out []Node) {
	for _, r := range list {
		var n Node = Fixed{r.Text}
		wrap := func(tag string, attributes ...Attribute) {
			n = &Element{Tag: tag, Attributes: attributes, Children: []Node{n}}
		}
		if r.Code {
			wrap("code")
		}
		if r.Emphasis {
			wrap("em")
		}
		if r.Strong {
			wrap("strong")
		}
		if r.Link != "" {
			wrap("a", Attribute{Name: "href", Value: r.Link})
		}
		out = append(out, n)
	}
	return out
}
