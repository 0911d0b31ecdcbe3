package css

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
)

// Facet groups properties by what they are about.
type Facet string

const (
	Size  Facet = "size"
	Space Facet = "space"
	Paint Facet = "paint"
	Type  Facet = "type"
)

// Property is what Cobrik knows of a CSS property.
type Property struct {
	Name      string
	Facet     Facet
	Initial   string // canonical form of what a part has when nothing is said
	Inherited bool   // CSS inherits it from the parent
	Fact      bool   // a design states it too; false for the means of a layout

	takes   string // Value Definition Syntax
	grammar *grammar
	sides   bool              // one to four values, of which CSS repeats those left out
	alias   map[string]string // keywords that mean another word here
	rank    int
}

// definitions are the specifications' own names for parts of a grammar.
var definitions = map[string]string{
	// CSS Sizing 3, 3
	"extent": "fit-content | min-content | max-content | <length-percentage [0,∞]>",
	"size":   "auto | <extent>",
	// CSS Grid 2, 7.2 and 8.4
	"track-breadth": "<length-percentage [0,∞]> | <flex> | min-content | max-content | auto",
	"track-size":    "<track-breadth> | minmax( [ <length-percentage [0,∞]> | min-content | max-content | auto ] , <track-breadth> ) | fit-content( <length-percentage [0,∞]> )",
	"track-repeat":  "repeat( [ <count> | auto-fill | auto-fit ] , <track-size>+ )",
	"grid-line":     "auto | <integer> | [ span && <integer> ]",
	// CSS Anchor Positioning 1, 3.1
	"area": "center | start | end | span-start | span-end | self-start | self-end | top | bottom | left | right | span-top | span-bottom | span-left | span-right | span-all | block-start | block-end | inline-start | inline-end | span-block-start | span-block-end | span-inline-start | span-inline-end",
	// CSS Fonts 4, 2.1
	"family": "<string> | serif | sans-serif | monospace | cursive | fantasy | system-ui | <family-start> <family-word>*",
	// CSS Backgrounds 3, 4 and 6.1
	"line-style": "none | dotted | dashed | solid | double | groove | ridge | inset | outset",
	"shadow":     "<color>? && [ <length>{2,2} [ <length [0,∞]> <length>? ]? ] && inset?",
	// CSS Images 3, 3.1 to 3.4
	"gradient":    "linear-gradient( [ <line> , ]? <color-stops> ) | radial-gradient( [ <ending> , ]? <color-stops> )",
	"line":        "<angle> | <zero> | to [ [ left | right ] || [ top | bottom ] ]",
	"ending":      "[ [ circle | ellipse ] || [ closest-side | closest-corner | farthest-side | farthest-corner | <length-percentage [0,∞]>{1,2} ] ]? [ at [ left | center | right | top | bottom | <length-percentage> ]{1,2} ]?",
	"color-stops": "[ <color> && <length-percentage>{0,2} ]#",
	// CSS Easing 2, 2
	"easing": "linear | ease | ease-in | ease-out | ease-in-out | step-start | step-end | cubic-bezier( <number> , <number> , <number> , <number> ) | steps( <integer> [ , <custom-ident> ]? ) | linear( [ <number> && <percentage>{0,2} ]# ) | <curve>",
	// CSS Transitions 1, 2.5
	"transition": "[ none | <custom-ident> ] || <time> || <easing> || <time>",
	// CSS Transforms 1, 12 (the functions of two dimensions)
	"transform-function": "translate( <length-percentage> [ , <length-percentage> ]? ) | translatex( <length-percentage> ) | translatey( <length-percentage> ) | scale( <number> [ , <number> ]? ) | scalex( <number> ) | scaley( <number> ) | rotate( [ <angle> | <zero> ] ) | skew( [ <angle> | <zero> ] [ , [ <angle> | <zero> ] ]? ) | skewx( [ <angle> | <zero> ] ) | skewy( [ <angle> | <zero> ] )",
}

// tokenTypes are the types of design token that can stand for a type of CSS.
var tokenTypes = map[string][]string{
	"length": {"dimension"}, "length-percentage": {"dimension"}, "number": {"number"}, "color": {"color"}, "time": {"duration"}, "curve": {"cubicBezier"}, // a token alone is a curve
	"string": {"fontFamily"}, "family-word": {"fontFamily"}, "font-weight": {"fontWeight", "number"}, "count": {"number"},
}

// Words that mean the same to a flex container (CSS Box Alignment 3, 4 and 9).
var (
	flexItems   = map[string]string{"normal": "stretch", "start": "flex-start", "end": "flex-end", "left": "flex-start", "right": "flex-end"}
	flexContent = map[string]string{"normal": "flex-start", "start": "flex-start", "end": "flex-end", "left": "flex-start", "right": "flex-end"}
	noSpace     = map[string]string{"normal": "0px"}
)

const (
	lengths1To2 = "<length-percentage [0,∞]>{1,2}"
	lengths1To4 = "<length-percentage [0,∞]>{1,4}"
	inset       = "auto | <length-percentage>"
	positional  = "auto | stretch | center | flex-start | flex-end | baseline | start | end"
	distributed = "normal | flex-start | center | flex-end | space-between | space-around | space-evenly | start | end"
)

// BlendModes are the ways to blend with what lies behind (Compositing 1, 6 and 8).
var BlendModes = []string{"normal", "multiply", "screen", "overlay", "darken", "lighten", "color-dodge", "color-burn", "hard-light", "soft-light", "difference", "exclusion", "hue", "saturation", "color", "luminosity", "plus-lighter"}

// table lists the properties in the order style sheets and ledgers show them; a
// shorthand stands before what it sets.
var table = []Property{
	{Name: "display", Facet: Space, Initial: "block", takes: "block | inline | inline-block | flex | inline-flex | grid | inline-grid | none | contents"},
	{Name: "position", Facet: Space, Initial: "static", takes: "static | relative | absolute | sticky"},
	{Name: "inset", Facet: Size, Initial: "auto", takes: "[ auto | <length-percentage> ]{1,4}", sides: true},
	{Name: "left", Facet: Size, Initial: "auto", takes: inset},
	{Name: "top", Facet: Size, Initial: "auto", takes: inset},
	{Name: "right", Facet: Size, Initial: "auto", takes: inset},
	{Name: "bottom", Facet: Size, Initial: "auto", takes: inset},
	{Name: "position-area", Facet: Space, Initial: "none", takes: "none | <area>{1,2}"},
	{Name: "position-try-fallbacks", Facet: Space, Initial: "none", takes: "none | [ [ flip-block || flip-inline || flip-start ] | <area>{1,2} ]#"},
	{Name: "margin-block", Facet: Space, Initial: "0px", takes: "[ auto | <length-percentage> ]{1,2}", sides: true},
	{Name: "margin-inline", Facet: Space, Initial: "0px", takes: "[ auto | <length-percentage> ]{1,2}", sides: true},
	{Name: "margin-left", Facet: Space, Initial: "0px", takes: inset},
	{Name: "margin-top", Facet: Space, Initial: "0px", takes: inset},
	{Name: "box-sizing", Facet: Size, Initial: "content-box", takes: "content-box | border-box"},
	{Name: "flex", Facet: Size, Initial: "0 1 auto", takes: "none | [ <number [0,∞]>{1,2} || <size> ]"},
	{Name: "align-self", Facet: Space, Initial: "auto", takes: positional, alias: flexItems},
	{Name: "justify-self", Facet: Space, Initial: "auto", takes: positional},
	{Name: "grid-area", Facet: Space, Initial: "auto", takes: "<grid-line> [ / <grid-line> ]{0,3}"},
	{Name: "grid-auto-flow", Facet: Space, Initial: "row", takes: "[ row | column ] || dense"},
	{Name: "grid-auto-columns", Facet: Space, Initial: "auto", takes: "<track-size>+"},
	{Name: "grid-template-columns", Facet: Space, Initial: "none", takes: "none | [ <track-size> | <track-repeat> ]+"},
	{Name: "flex-direction", Facet: Space, Initial: "row", Fact: true, takes: "row | column | row-reverse | column-reverse"},
	{Name: "flex-wrap", Facet: Space, Initial: "nowrap", Fact: true, takes: "nowrap | wrap | wrap-reverse"},
	{Name: "align-items", Facet: Space, Initial: "stretch", Fact: true, takes: "stretch | center | flex-start | flex-end | baseline | normal | start | end", alias: flexItems},
	{Name: "align-content", Facet: Space, Initial: "normal", takes: "stretch | " + distributed},
	{Name: "justify-content", Facet: Space, Initial: "flex-start", Fact: true, takes: distributed, alias: flexContent},
	{Name: "gap", Facet: Space, Initial: "0px", Fact: true, takes: "[ normal | <length-percentage [0,∞]> ]{1,2}", sides: true, alias: noSpace},
	{Name: "row-gap", Facet: Space, Initial: "0px", takes: "normal | <length-percentage [0,∞]>", alias: noSpace},
	{Name: "column-gap", Facet: Space, Initial: "0px", takes: "normal | <length-percentage [0,∞]>", alias: noSpace},
	{Name: "padding-block", Facet: Space, Initial: "0px", Fact: true, takes: lengths1To2, sides: true},
	{Name: "padding-inline", Facet: Space, Initial: "0px", Fact: true, takes: lengths1To2, sides: true},
	{Name: "width", Facet: Size, Initial: "auto", Fact: true, takes: "<size>"},
	{Name: "height", Facet: Size, Initial: "auto", Fact: true, takes: "<size>"},
	{Name: "min-width", Facet: Size, Initial: "auto", takes: "<size>"},
	{Name: "min-height", Facet: Size, Initial: "auto", takes: "<size>"},
	{Name: "max-width", Facet: Size, Initial: "none", takes: "none | <extent>"},
	{Name: "max-height", Facet: Size, Initial: "none", takes: "none | <extent>"},
	{Name: "aspect-ratio", Facet: Size, Initial: "auto", takes: "auto || [ <number [0,∞]> [ / <number [0,∞]> ]? ]"},
	{Name: "overflow", Facet: Paint, Initial: "visible", Fact: true, takes: "visible | hidden | clip | auto | scroll"},
	{Name: "container-type", Facet: Size, Initial: "normal", takes: "normal | size | inline-size"},
	{Name: "container-name", Facet: Size, Initial: "none", takes: "none | <custom-ident>+"},
	{Name: "object-fit", Facet: Paint, Initial: "fill", Fact: true, takes: "fill | contain | cover | none | scale-down"},
	{Name: "background-color", Facet: Paint, Initial: "#00000000", Fact: true, takes: "<color>"},
	{Name: "background-image", Facet: Paint, Initial: "none", Fact: true, takes: "none | <gradient>#"},
	{Name: "border-width", Facet: Paint, Initial: "0px", Fact: true, takes: "<length [0,∞]>{1,4}", sides: true},
	{Name: "border-style", Facet: Paint, Initial: "none", takes: "<line-style>"},
	{Name: "border-color", Facet: Paint, Initial: "currentcolor", Fact: true, takes: "<color>"},
	{Name: "border-radius", Facet: Paint, Initial: "0px", Fact: true, takes: lengths1To4, sides: true},
	{Name: "outline", Facet: Paint, Initial: "none", takes: "<length [0,∞]> || <line-style> || <color>"},
	{Name: "outline-offset", Facet: Paint, Initial: "0px", takes: "<length>"},
	{Name: "box-shadow", Facet: Paint, Initial: "none", Fact: true, takes: "none | <shadow>#"},
	{Name: "opacity", Facet: Paint, Initial: "1", Fact: true, takes: "<number>"},
	{Name: "mix-blend-mode", Facet: Paint, Initial: "normal", Fact: true, takes: strings.Join(BlendModes, " | ")},
	{Name: "rotate", Facet: Paint, Initial: "none", Fact: true, takes: "none | <angle>"},
	{Name: "transform", Facet: Paint, Initial: "none", takes: "none | <transform-function>+"},
	{Name: "fill", Facet: Paint, Initial: "#000000", Fact: true, takes: "<color>"},
	{Name: "color", Facet: Paint, Initial: "#000000", Inherited: true, Fact: true, takes: "<color>"},
	{Name: "font-family", Facet: Type, Initial: "", Inherited: true, Fact: true, takes: "<family>#"},
	{Name: "font-size", Facet: Type, Initial: "16px", Inherited: true, Fact: true, takes: "<length-percentage [0,∞]>"},
	{Name: "font-weight", Facet: Type, Initial: "400", Inherited: true, Fact: true, takes: "normal | bold | <font-weight>", alias: map[string]string{"normal": "400", "bold": "700"}},
	{Name: "font-style", Facet: Type, Initial: "normal", Inherited: true, Fact: true, takes: "normal | italic"},
	{Name: "line-height", Facet: Type, Initial: "normal", Inherited: true, Fact: true, takes: "normal | <number [0,∞]> | <length-percentage [0,∞]>"},
	{Name: "letter-spacing", Facet: Type, Initial: "0px", Inherited: true, Fact: true, takes: "normal | <length>", alias: noSpace},
	{Name: "text-align", Facet: Type, Initial: "start", Inherited: true, Fact: true, takes: "start | center | end | left | right", alias: map[string]string{"left": "start", "right": "end"}},
	{Name: "text-decoration-line", Facet: Type, Initial: "none", Fact: true, takes: "none | underline | line-through"},
	{Name: "white-space", Facet: Type, Initial: "normal", Inherited: true, takes: "normal | nowrap | pre | pre-line | pre-wrap"},
	{Name: "cursor", Facet: Paint, Initial: "auto", Inherited: true, takes: "auto | default | pointer | text | move | grab | grabbing | not-allowed | wait | progress | help | none | col-resize | row-resize | ew-resize | ns-resize | crosshair | zoom-in | zoom-out"},
	{Name: "transition", Facet: Paint, Initial: "none", takes: "<transition>#"},
	{Name: "animation", Facet: Paint, Initial: "none", takes: "none | [ breathe || <time> || <easing> ]"},
}

var byName = func() map[string]*Property {
	out := make(map[string]*Property, len(table))
	for i := range table {
		p := &table[i]
		p.rank, p.grammar = i, define(p.takes)
		out[p.Name] = p
	}
	return out
}()

// PropertyNamed finds a property; false when Cobrik does not know it.
func PropertyNamed(name string) (Property, bool) {
	p, ok := byName[name]
	if !ok {
		return Property{}, false
	}
	return *p, true
}

// PropertyNames lists all properties in the order style sheets show them.
func PropertyNames() []string {
	out := make([]string, len(table))
	for i, p := range table {
		out[i] = p.Name
	}
	return out
}

// FactProperties lists the properties a design and a browser both state, in
// ledger order.
func FactProperties() []string {
	return slices.DeleteFunc(PropertyNames(), func(name string) bool { return !byName[name].Fact })
}

// CompareProperties orders property names as style sheets show them; unknown ones come
// last, by name.
func CompareProperties(a, b string) int {
	rank := func(name string) int {
		if p, ok := byName[name]; ok {
			return p.rank
		}
		return len(table)
	}
	return cmp.Or(cmp.Compare(rank(a), rank(b)), strings.Compare(a, b))
}

// TokenTypes lists the types of design token the property takes; empty when it takes
// none.
func (p Property) TokenTypes() []string {
	var out []string
	for _, t := range p.grammar.types() {
		for _, kind := range tokenTypes[t] {
			if !slices.Contains(out, kind) {
				out = append(out, kind)
			}
		}
	}
	switch p.Name { // whole values, too, and colours within functions
	case "box-shadow":
		out = append(out, "shadow")
	case "background-image":
		out = append(out, "gradient", "color")
	case "transition":
		out = append(out, "transition")
	}
	return out
}

// Words lists the keywords the property takes.
func (p Property) Words() []string { return p.grammar.words() }

// Parse reads a value as a property takes it; references to tokens may stand for
// values of the types tokens have. The error says what is expected.
func Parse(property, text string) (Value, error) {
	p, ok := byName[property]
	if !ok {
		return nil, fmt.Errorf("the property %q is not one a contract holds", property)
	}
	v, err := ParseValue(text)
	if err != nil {
		return nil, fmt.Errorf("%s: %q is not allowed here: %w; expected %s", property, text, err, p.expects())
	}
	list, many := v.(List)
	if !many {
		list = List{v}
	}
	if !p.grammar.matches(list) && !p.standsFor(list) {
		return nil, fmt.Errorf("%s: %q is not allowed here; expected %s", property, text, p.expects())
	}
	return v, nil
}

// standsFor tells whether the value is one reference to a token that gives the
// whole of it.
func (p *Property) standsFor(list List) bool {
	_, ref := list[0].(Ref)
	return ref && len(list) == 1 && len(p.TokenTypes()) > 0
}

var samples = map[string]string{
	"length": "a length such as 8px or 0.5rem", "length-percentage": "a length such as 8px, 0.5rem or 50%", "number": "a number",
	"color": "a colour such as #4a7c59", "font-weight": "a weight from 1 to 1000", "angle": "an angle such as 45deg",
	"string": `a font's name such as "Hanken Grotesk"`,
}

// expects says in words what the property takes.
func (p *Property) expects() string {
	var out []string
	for _, t := range p.grammar.types() {
		if t == "family-word" || t == "family-start" {
			continue // said with the string
		}
		if samples[t] == "" {
			return p.takes // too much to say in words
		}
		out = append(out, samples[t])
	}
	words := p.grammar.words()
	if len(words) > 1 {
		out = append(out, "one of "+strings.Join(words, ", "))
	} else {
		out = append(out, words...)
	}
	return strings.Join(out, ", or ")
}
