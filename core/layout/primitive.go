package layout

import (
	"fmt"
	"slices"
	"strings"
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

// Fractions of a split: what the first of two columns takes (common practice,
// no source).
var Fractions = []string{"1/4", "1/3", "1/2", "2/3", "3/4", "auto-start", "auto-end"}

var columnsOf = map[string]string{
	"1/4": "1fr 3fr", "1/3": "1fr 2fr", "1/2": "1fr 1fr", "2/3": "2fr 1fr", "3/4": "3fr 1fr", "auto-start": "auto 1fr", "auto-end": "1fr auto",
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
	{"split", "two columns that share the width", []PrimitiveProp{{"fraction", "what the first column takes", nil, "1/2"}, gapProp, alignProp},
		func(p map[string]string) (Style, func(int) Style) {
			columns, known := columnsOf[p["fraction"]]
			if !known {
				columns = columnsOf["1/2"]
			}
			return Style{"display": "grid", "grid-template-columns": columns, "gap": p["gap"], "align-items": p["align"]}, nil
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
