package platform

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/color"
	"cobrik/core/token"
)

// Item is one value on its way to a file: a token, or a part of one that was
// taken apart.
type Item struct {
	Token  *token.Token
	Part   string   // "fontSize", "2.color"; empty for a whole token
	Words  []string // the names its name is made of
	Name   string
	Value  *token.Value
	beside bool // it stands beside the whole token that it is a part of
}

// key names an item among all of a set's.
func key(path, part string) string { return path + parting + part }

// parting stands in no path.
const parting = "\x00"

// Transform is one step. Those that do not concern an item leave it as it is.
type Transform struct {
	ID    string `json:"id"`
	About string `json:"about" doc:"What it does, in a sentence"`
	apply func(p *Platform, item Item) []Item
}

// Transforms lists every transform.
func Transforms() []Transform { return transforms }

func transformNamed(id string) (Transform, bool) {
	for _, t := range transforms {
		if t.ID == id {
			return t, true
		}
	}
	return Transform{}, false
}

var transforms = []Transform{
	{"name-kebab", "Names in small letters, parted by hyphens: tag-ink-base", naming(kebab)},
	{"name-camel", "Names in one word, further words beginning large: tagInkBase", naming(camel)},
	{"name-constant", "Names in large letters, parted by underscores: TAG_INK_BASE", naming(func(w []string) string { return strings.ToUpper(snake(w)) })},
	{"name-snake", "Names in small letters, parted by underscores: tag_ink_base", naming(snake)},
	{"name-path", "Names as the token's path: tag.inkBase", naming(func(w []string) string { return strings.Join(w, ".") })},
	{"name-prefix", "Puts the platform's prefix before the name as it is by then", func(p *Platform, item Item) []Item {
		item.Name = p.Prefix + item.Name
		return []Item{item}
	}},
	{"size-rem", "Px to rem, by the base font size", measures("px", func(p *Platform, n float64) token.Measure {
		return token.Measure{Number: n / p.base(), Unit: "rem"}
	})},
	{"size-px", "Rem to px, by the base font size", measures("rem", func(p *Platform, n float64) token.Measure {
		return token.Measure{Number: n * p.base(), Unit: "px"}
	})},
	{"size-whole", "Lengths to whole numbers of their unit", func(p *Platform, item Item) []Item {
		return mapped(item, func(v *token.Value) *token.Value {
			if m, ok := v.Literal.(token.Measure); ok && v.Type == "dimension" {
				v.Literal = token.Measure{Number: math.Round(m.Number), Unit: m.Unit}
			}
			return v
		})
	}},
	{"color-hex", "Colours as hex; what sRGB cannot show is mapped into it", colors("hex")},
	{"color-rgb", "Colours as rgb()", colors("rgb")},
	{"color-hsl", "Colours as hsl()", colors("hsl")},
	{"color-oklch", "Colours as oklch(), which holds every colour", colors("oklch")},
	{"duration-ms", "Durations in milliseconds", measures("s", func(_ *Platform, n float64) token.Measure { return token.Measure{Number: n * 1000, Unit: "ms"} })},
	{"duration-s", "Durations in seconds", measures("ms", func(_ *Platform, n float64) token.Measure { return token.Measure{Number: n / 1000, Unit: "s"} })},
	{"parts-shadow", "Each shadow as its parts: colour, offsets, blur, spread", parts("shadow")},
	{"parts-typography", "Typography as its parts: family, size, weight, spacing, line", parts("typography")},
	{"parts-all", "Every composite as its parts", parts("border", "transition", "shadow", "gradient", "typography")},
}

func mapped(item Item, change func(*token.Value) *token.Value) []Item {
	item.Value = item.Value.Map(change)
	return []Item{item}
}

func naming(name func(words []string) string) func(*Platform, Item) []Item {
	return func(_ *Platform, item Item) []Item {
		item.Name = name(item.Words)
		return []Item{item}
	}
}

func measures(unit string, change func(*Platform, float64) token.Measure) func(*Platform, Item) []Item {
	return func(p *Platform, item Item) []Item {
		return mapped(item, func(v *token.Value) *token.Value {
			if m, ok := v.Literal.(token.Measure); ok && m.Unit == unit {
				v.Literal = change(p, m.Number)
			}
			return v
		})
	}
}

func colors(form string) func(*Platform, Item) []Item {
	return func(_ *Platform, item Item) []Item {
		return mapped(item, func(v *token.Value) *token.Value {
			if _, ok := v.Literal.(color.Color); ok {
				v.Form = form
			}
			return v
		})
	}
}

// parts takes composites apart. A part of a composite that is an alias refers
// to that part of what it points at.
func parts(types ...string) func(*Platform, Item) []Item {
	return func(_ *Platform, item Item) []Item {
		for _, t := range types {
			if item.Value.Type == t {
				return apart(item, item.Value, "", "")
			}
		}
		return []Item{item}
	}
}

// apart takes one value apart. below is the token that v stands for a part of,
// rel that part's name; both are empty while v is said here.
func apart(item Item, v *token.Value, below, rel string) []Item {
	if v.To != nil && !strings.Contains(v.Alias, parting) {
		below, rel = v.Alias, ""
	}
	end := v.End()
	var out []Item
	each := func(name string, piece *token.Value) {
		one := item
		one.Part = dotted(item.Part, name)
		one.Words = append(slices.Clone(item.Words), name)
		one.Value = piece
		if below != "" {
			one.Value = &token.Value{Type: piece.Type, Alias: key(below, dotted(rel, name)), To: piece}
		}
		if piece.End().Parts != nil && piece.Type != "strokeStyle" {
			out = append(out, apart(one, one.Value, below, dotted(rel, name))...)
			return
		}
		out = append(out, one)
	}
	for _, p := range end.Parts {
		each(p.Name, p.Value)
	}
	for i, piece := range end.Items {
		each(strconv.Itoa(i+1), piece)
	}
	return out
}

func dotted(part, name string) string { return strings.TrimPrefix(part+"."+name, ".") }
