package layout

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/css"
)

// Primitive is a named way to lay children out, with the CSS it stands for.
// Lengths are CSS values or references to space tokens ("{space.2}"), which
// whoever writes or solves the CSS replaces.
type Primitive struct {
	Name    string
	Purpose string
	Props   []PrimitiveProp
	// compose gives the container's style and, by position, what each of the
	// children needs.
	compose func(props map[string]string) (container Style, each func(i int) Style)
}

// PrimitiveProp is one input of a primitive.
type PrimitiveProp struct {
	Name    string
	Purpose string
	Options []string // empty for a length, or a number
	Default string
}

// Shares are what a split's columns often take of its width, in their order (common practice, no
// source); any other number of shares is as good.
var Shares = []string{"1 1", "1 2", "2 1", "1 3", "3 1", "content 1", "1 content"}

// ColumnsOf gives a split's tracks: a share takes as much of the width as it says, content as much as it
// needs. Shares are at least two, one of them a number; else they are none.
func ColumnsOf(shares string) (tracks string, ok bool) {
	words := strings.Fields(shares)
	for i, w := range words {
		n, err := strconv.ParseFloat(w, 64)
		switch {
		case w == "content":
			words[i] = "auto"
		case err != nil || !(n > 0) || n > 1000:
			return "", false
		default:
			words[i], ok = css.FormatNumber(n)+"fr", true
		}
	}
	return strings.Join(words, " "), ok && len(words) > 1
}

// SharesOf gives the shares that a split's tracks stand for; false for tracks that are no split's.
func SharesOf(tracks string) (shares string, ok bool) {
	words := strings.Fields(tracks)
	for i, w := range words {
		if w == "auto" {
			words[i] = "content"
			continue
		}
		words[i], ok = strings.CutSuffix(w, "fr")
		if !ok {
			return "", false
		}
	}
	shares = strings.Join(words, " ")
	_, ok = ColumnsOf(shares)
	return shares, ok
}

var (
	alignProp      = PrimitiveProp{"align", "where children go across", []string{"stretch", "start", "center", "end", "baseline"}, "stretch"}
	distributeProp = PrimitiveProp{"distribute", "where children go along", []string{"start", "center", "end", "space-between"}, "start"}
	gapProp        = PrimitiveProp{"gap", "gutter between children", nil, "0"}
)

// Primitives are the layout primitives, simple ones first.
var Primitives = []Primitive{
	{"stack", "children one below the other", []PrimitiveProp{gapProp, alignProp, distributeProp},
		func(p map[string]string) (Style, func(int) Style) {
			return Style{"display": "flex", "flex-direction": "column", "gap": p["gap"], "align-items": p["align"], "justify-content": p["distribute"]}, nil
		}},
	{"row", "children side by side", []PrimitiveProp{gapProp, alignProp, distributeProp, {"wrap", "whether they go on in a new line", []string{"no", "yes"}, "no"}},
		func(p map[string]string) (Style, func(int) Style) {
			s := Style{"display": "flex", "gap": p["gap"], "align-items": p["align"], "justify-content": p["distribute"]}
			if p["wrap"] == "yes" {
				s["flex-wrap"] = "wrap"
			}
			return s, nil
		}},
	{"split", "columns that share the width", []PrimitiveProp{{"shares", "what each column takes of it: 1 2, or content 1; equal shares when not given", nil, ""}, gapProp, alignProp},
		func(p map[string]string) (Style, func(int) Style) {
			s := Style{"display": "grid", "grid-auto-flow": "column", "grid-auto-columns": "1fr", "gap": p["gap"], "align-items": p["align"]}
			if columns, ok := ColumnsOf(p["shares"]); ok {
				s["grid-template-columns"] = columns
			}
			return s, nil
		}},
	{"grid", "columns of one width", []PrimitiveProp{{"columns", "how many", nil, ""}, {"minimum", "least width of a column: as many as fit", nil, ""}, gapProp, alignProp},
		func(p map[string]string) (Style, func(int) Style) {
			columns := "minmax(0, 1fr)"
			if p["minimum"] != "" { // a column is never wider than all there is
				columns = fmt.Sprintf("repeat(auto-fill, minmax(min(100%%, %s), 1fr))", p["minimum"])
			} else if p["columns"] != "" {
				columns = fmt.Sprintf("repeat(%s, minmax(0, 1fr))", p["columns"])
			}
			return Style{"display": "grid", "grid-template-columns": columns, "gap": p["gap"], "align-items": p["align"]}, nil
		}},
	{"container", "centred, no wider than a maximum", []PrimitiveProp{{"maximum", "greatest width", nil, "80rem"}, {"padding", "room at both sides; switch points give more where it is wide", nil, "0"}},
		func(p map[string]string) (Style, func(int) Style) {
			return Style{"max-width": p["maximum"], "margin-inline": "auto", "padding-inline": p["padding"]}, nil
		}},
	{"overlay", "layers on one place", []PrimitiveProp{{"pin", "where layers above the first are pinned", []string{"all", "top-left", "top-right", "bottom-left", "bottom-right", "center"}, "all"},
		{"offset", "distance of pinned layers from the edges", nil, "0"}},
		func(p map[string]string) (Style, func(int) Style) {
			return Style{"display": "grid", "position": "relative"}, func(i int) Style {
				if i == 0 || p["pin"] == "all" {
					return Style{"grid-area": "1 / 1"}
				}
				if p["pin"] == "center" {
					return Style{"grid-area": "1 / 1", "place-self": "center"}
				}
				block, inline, _ := strings.Cut(p["pin"], "-")
				return Style{"position": "absolute", block: p["offset"], inline: p["offset"]}
			}
		}},
	{"spacer", "room between children of a row or stack", []PrimitiveProp{{"size", "how much; all there is when not given", nil, ""}},
		func(p map[string]string) (Style, func(int) Style) {
			if p["size"] == "" {
				return Style{"flex": "1 1 0"}, nil
			}
			return Style{"flex": "0 0 " + p["size"]}, nil
		}},
}

// Compose makes a node that lays children out as a primitive does. Props left
// out take their defaults; a style the children have wins over the primitive's.
func Compose(name string, props map[string]string, children ...*Node) (*Node, error) {
	at := slices.IndexFunc(Primitives, func(p Primitive) bool { return p.Name == name })
	if at < 0 {
		return nil, fmt.Errorf("there is no layout primitive %q", name)
	}
	p := Primitives[at]
	full := map[string]string{}
	for _, prop := range p.Props {
		full[prop.Name] = prop.Default
		if v, said := props[prop.Name]; said {
			if len(prop.Options) > 0 && !slices.Contains(prop.Options, v) {
				return nil, fmt.Errorf("%s of %s is %q; it can be %s", prop.Name, name, v, strings.Join(prop.Options, ", "))
			}
			full[prop.Name] = v
		}
	}
	for given := range props {
		if _, known := full[given]; !known {
			return nil, fmt.Errorf("%s has no prop %q", name, given)
		}
	}
	style, each := p.compose(full)
	n := &Node{Name: name, Style: style}
	for i, c := range children {
		if each != nil {
			merged := each(i)
			for property, value := range c.Style {
				merged[property] = value
			}
			copied := *c
			copied.Style = merged
			c = &copied
		}
		n.Children = append(n.Children, c)
	}
	return n, nil
}
