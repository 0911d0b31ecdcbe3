package source

import (
	"cobrik/core/contract"
	"cobrik/core/source/syntax"
)

// richOf reads JSX, or a string, as rich text; false where it holds anything else (HTML, 4.4 and 4.5).
func (r *reader) richOf(n *syntax.Node) (contract.Value, bool) {
	n = bare(n)
	if v, ok := constant(n); ok {
		text, is := v.(string)
		return contract.Plain(text), is
	}
	list := []*syntax.Node{n}
	if n.Is("jsx_fragment") || n.Is("jsx_element") && tagOf(n) == nil {
		list = insideOf(n)
	}
	var out contract.RichValue
	var line []contract.Run
	for _, c := range list {
		if block, is := blockTags[tagText(c)]; is {
			if tagText(c) == "ul" || tagText(c) == "ol" {
				for _, item := range insideOf(c) {
					if blank(item) {
						continue
					}
					runs, ok := runsOf(insideOf(item), contract.Run{})
					if tagText(item) != "li" || !ok {
						return nil, false
					}
					out = append(out, contract.Block{Kind: "item", Runs: runs})
				}
				continue
			}
			runs, ok := runsOf(insideOf(c), contract.Run{})
			if !ok {
				return nil, false
			}
			block.Runs = runs
			out = append(out, block)
			continue
		}
		if blank(c) {
			continue
		}
		runs, ok := runsOf([]*syntax.Node{c}, contract.Run{})
		if !ok {
			return nil, false
		}
		line = append(line, runs...)
	}
	if len(line) > 0 {
		if len(out) > 0 {
			return nil, false
		}
		out = contract.RichValue{{Runs: line}}
	}
	return out, len(out) > 0
}

var blockTags = map[string]contract.Block{"p": {Kind: "paragraph"}, "ul": {Kind: "item"}, "ol": {Kind: "item"},
	"h1": {Kind: "heading", Level: 1}, "h2": {Kind: "heading", Level: 2}, "h3": {Kind: "heading", Level: 3}, "h4": {Kind: "heading", Level: 4}, "h5": {Kind: "heading", Level: 5}, "h6": {Kind: "heading", Level: 6}}

func tagText(n *syntax.Node) string {
	if !n.Is("jsx_element", "jsx_self_closing_element") {
		return ""
	}
	return tagOf(n).Text()
}

// insideOf lists what stands between an element's tags.
func insideOf(n *syntax.Node) (out []*syntax.Node) {
	for _, c := range n.Children {
		if c.Named && c.Field != "open_tag" && c.Field != "close_tag" && c.Field != "name" && c.Field != "attribute" && c.Kind != "comment" {
			out = append(out, c)
		}
	}
	return out
}

func blank(n *syntax.Node) bool {
	return n.Is("jsx_text") && jsxText(n.Text()) == "" || n.Is("jsx_expression") && len(n.Inner()) == 0
}

// runsOf reads runs of one look, and those inside of them of further looks.
func runsOf(list []*syntax.Node, look contract.Run) (out []contract.Run, ok bool) {
	add := func(text string) {
		one := look
		one.Text = text
		out = append(out, one)
	}
	joined := "" // text and entities beside each other
	flush := func() {
		if words := jsxText(joined); words != "" {
			add(words)
		}
		joined = ""
	}
	for _, c := range list {
		if c.Is("jsx_text", "html_character_reference") {
			joined += c.Text()
			continue
		}
		flush()
		inner := look
		switch tagText(c) {
		case "":
			v, is := constant(c)
			text, isText := v.(string)
			if !is || !isText {
				return nil, false
			}
			add(text)
			continue
		case "strong", "b":
			inner.Strong = true
		case "em", "i":
			inner.Emphasis = true
		case "code":
			inner.Code = true
		case "a":
			given, others := constants(c.Child("open_tag"))
			if len(others) > 0 || len(given) != 1 {
				return nil, false
			}
			inner.Link = given["href"]
		default:
			return nil, false
		}
		more, ok := runsOf(insideOf(c), inner)
		if !ok {
			return nil, false
		}
		out = append(out, more...)
	}
	flush()
	return out, true
}
