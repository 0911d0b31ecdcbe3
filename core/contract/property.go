package contract

import (
	"maps"
	"slices"
)

// Facet groups facts by what they are about.
type Facet string

const (
	Shape   Facet = "shape"
	Props   Facet = "props"
	Size    Facet = "size"
	Space   Facet = "space"
	Paint   Facet = "paint"
	Type    Facet = "type"
	Content Facet = "content"
)

// Facets in the order a ledger shows them.
var Facets = []Facet{Shape, Props, Size, Space, Paint, Type, Content}

type valueKind int

const (
	keyword valueKind = iota
	length            // px, em, rem, %; auto and the like as keywords
	lengths           // one or more lengths
	paint             // a colour
	number
	weight
	family
	lineHeight
	free // any CSS value: compared as text
)

// Property is what Cobrik knows of a CSS property.
type Property struct {
	Name      string
	Facet     Facet
	Initial   string // comparable form of what a part has when nothing is said
	Inherited bool   // CSS inherits it from the parent
	Fact      bool   // a design states it too; false for the means of a layout

	kind     valueKind
	keywords []string // allowed besides the kind's own values
	hints    []string // words in a token's path that fit this property
}

// properties in the order style sheets and ledgers show them.
var properties = []Property{
	{Name: "display", Facet: Space, Initial: "block", kind: keyword, keywords: []string{"block", "inline", "inline-block", "flex", "inline-flex", "grid", "inline-grid", "none", "contents"}},
	{Name: "position", Facet: Space, Initial: "static", kind: keyword, keywords: []string{"static", "relative", "absolute", "sticky"}},
	{Name: "left", Facet: Size, Initial: "auto", kind: length, keywords: []string{"auto"}},
	{Name: "top", Facet: Size, Initial: "auto", kind: length, keywords: []string{"auto"}},
	{Name: "right", Facet: Size, Initial: "auto", kind: length, keywords: []string{"auto"}},
	{Name: "bottom", Facet: Size, Initial: "auto", kind: length, keywords: []string{"auto"}},
	{Name: "margin-left", Facet: Space, Initial: "0px", kind: length, keywords: []string{"auto"}, hints: []string{"gap", "space"}},
	{Name: "margin-top", Facet: Space, Initial: "0px", kind: length, keywords: []string{"auto"}, hints: []string{"gap", "space"}},
	{Name: "box-sizing", Facet: Size, Initial: "content-box", kind: keyword, keywords: []string{"content-box", "border-box"}},
	{Name: "flex", Facet: Size, Initial: "0 1 auto", kind: free},
	{Name: "align-self", Facet: Space, Initial: "auto", kind: keyword, keywords: []string{"auto", "stretch", "center", "flex-start", "flex-end", "baseline"}},
	{Name: "justify-self", Facet: Space, Initial: "auto", kind: keyword, keywords: []string{"auto", "stretch", "center", "start", "end"}},
	{Name: "grid-area", Facet: Space, Initial: "auto", kind: free},
	{Name: "grid-template-columns", Facet: Space, Initial: "none", kind: free},
	{Name: "flex-direction", Facet: Space, Initial: "row", Fact: true, kind: keyword, keywords: []string{"row", "column", "row-reverse", "column-reverse"}},
	{Name: "flex-wrap", Facet: Space, Initial: "nowrap", Fact: true, kind: keyword, keywords: []string{"nowrap", "wrap", "wrap-reverse"}},
	{Name: "align-items", Facet: Space, Initial: "stretch", Fact: true, kind: keyword, keywords: []string{"stretch", "center", "flex-start", "flex-end", "baseline", "normal", "start", "end"}},
	{Name: "justify-content", Facet: Space, Initial: "flex-start", Fact: true, kind: keyword, keywords: []string{"flex-start", "center", "flex-end", "space-between", "space-around", "space-evenly", "normal", "start", "end"}},
	{Name: "gap", Facet: Space, Initial: "0px", Fact: true, kind: lengths, keywords: []string{"normal"}, hints: []string{"gap", "space", "gutter"}},
	{Name: "padding-block", Facet: Space, Initial: "0px", Fact: true, kind: lengths, hints: []string{"pad", "space", "inset"}},
	{Name: "padding-inline", Facet: Space, Initial: "0px", Fact: true, kind: lengths, hints: []string{"pad", "space", "inset"}},
	{Name: "width", Facet: Size, Initial: "auto", Fact: true, kind: length, keywords: []string{"auto", "fit-content", "min-content", "max-content"}, hints: []string{"width", "icon"}},
	{Name: "height", Facet: Size, Initial: "auto", Fact: true, kind: length, keywords: []string{"auto", "fit-content", "min-content", "max-content"}, hints: []string{"height", "icon"}},
	{Name: "min-width", Facet: Size, Initial: "auto", kind: length, keywords: []string{"auto"}},
	{Name: "max-width", Facet: Size, Initial: "none", kind: length, keywords: []string{"none", "fit-content", "min-content", "max-content"}, hints: []string{"width"}},
	{Name: "overflow", Facet: Paint, Initial: "visible", Fact: true, kind: keyword, keywords: []string{"visible", "hidden", "clip", "auto", "scroll"}},
	{Name: "background-color", Facet: Paint, Initial: "#00000000", Fact: true, kind: paint, hints: []string{"ground", "background", "surface", "fill"}},
	{Name: "border-width", Facet: Paint, Initial: "0px", Fact: true, kind: lengths, hints: []string{"line", "border", "stroke"}},
	{Name: "border-style", Facet: Paint, Initial: "none", kind: keyword, keywords: []string{"none", "solid", "dashed", "dotted", "double"}},
	{Name: "border-color", Facet: Paint, Initial: "currentcolor", Fact: true, kind: paint, hints: []string{"line", "border", "edge", "stroke"}},
	{Name: "border-radius", Facet: Paint, Initial: "0px", Fact: true, kind: lengths, hints: []string{"radius", "corner", "round"}},
	{Name: "opacity", Facet: Paint, Initial: "1", Fact: true, kind: number, hints: []string{"opacity", "alpha"}},
	{Name: "rotate", Facet: Paint, Initial: "none", Fact: true, kind: free},
	{Name: "fill", Facet: Paint, Initial: "#000000", Fact: true, kind: paint, hints: []string{"icon", "ink", "fill", "text"}},
	{Name: "color", Facet: Paint, Initial: "#000000", Inherited: true, Fact: true, kind: paint, hints: []string{"ink", "text", "foreground"}},
	{Name: "font-family", Facet: Type, Initial: "", Inherited: true, Fact: true, kind: family, hints: []string{"family", "font", "type"}},
	{Name: "font-size", Facet: Type, Initial: "16px", Inherited: true, Fact: true, kind: length, hints: []string{"text", "type", "font"}},
	{Name: "font-weight", Facet: Type, Initial: "400", Inherited: true, Fact: true, kind: weight, hints: []string{"weight", "type", "font"}},
	{Name: "line-height", Facet: Type, Initial: "normal", Inherited: true, Fact: true, kind: lineHeight, hints: []string{"line", "leading"}},
	{Name: "letter-spacing", Facet: Type, Initial: "0px", Inherited: true, Fact: true, kind: length, keywords: []string{"normal"}, hints: []string{"tracking", "letter"}},
	{Name: "text-align", Facet: Type, Initial: "start", Inherited: true, Fact: true, kind: keyword, keywords: []string{"start", "center", "end", "left", "right"}},
	{Name: "white-space", Facet: Type, Initial: "normal", Inherited: true, kind: keyword, keywords: []string{"normal", "nowrap", "pre", "pre-line", "pre-wrap"}},
}

var propertyOrder = func() map[string]int {
	order := make(map[string]int, len(properties))
	for i, p := range properties {
		order[p.Name] = i
	}
	return order
}()

// PropertyNamed finds a property; false when Cobrik does not know it.
func PropertyNamed(name string) (Property, bool) {
	i, ok := propertyOrder[name]
	if !ok {
		return Property{}, false
	}
	return properties[i], true
}

// FactProperties lists the properties a design and a browser both state, in
// ledger order.
func FactProperties() []string {
	var names []string
	for _, p := range properties {
		if p.Fact {
			names = append(names, p.Name)
		}
	}
	return names
}

// Properties lists a style's properties in the order style sheets show them.
func (s Style) Properties() []string { return SortProperties(slices.Collect(maps.Keys(s))) }

// SortProperties puts property names in the order style sheets show them.
func SortProperties(names []string) []string {
	slices.SortFunc(names, func(a, b string) int { return propertyOrder[a] - propertyOrder[b] })
	return names
}
