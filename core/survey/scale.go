// Package survey reads what a design's pages and families hold.
package survey

import (
	"cobrik/core/css"
	"cobrik/core/draft"
	"math"
	"slices"
	"sort"
	"strings"

	"cobrik/core/color"
	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/token"
)

// Scale is a kind of value that tokens are made for.
type Scale string

const (
	Colors    Scale = "colour"
	Spaces    Scale = "space"
	Radii     Scale = "radius"
	Lines     Scale = "line"
	TypeSizes Scale = "type size"
	Leading   Scale = "line height"
	Tracking  Scale = "letter spacing"
)

// scales says which properties share a scale. Sizes and places of layers have
// none: they follow from content and container.
var scales = map[string]Scale{
	"color": Colors, "background-color": Colors, "border-color": Colors, "fill": Colors,
	"gap": Spaces, "padding-block": Spaces, "padding-inline": Spaces,
	"border-radius": Radii, "border-width": Lines,
	"font-size": TypeSizes, "line-height": Leading, "letter-spacing": Tracking,
}

// Raw is one value that layers use without a token.
type Raw struct {
	Scale   Scale
	Value   string // comparable form: hex or px
	Uses    []RawUse
	Nearest *token.Token // nil when no token of the scale is there
	// Distance to the nearest token: CIEDE2000 for colours, px else. 0 means that
	// a token has the value and the layer was not bound to it.
	Distance float64
}

// RawUse is one layer's use of a raw value.
type RawUse struct {
	Where    string // page, or family and variant
	Layer    string
	Name     string
	Property string
}

// OffScale lists every raw colour and length that layers use, with the nearest
// token, the most used first.
func OffScale(doc *design.Document, tokens *token.Set) []Raw {
	type used struct {
		of  *Raw
		use RawUse
	}
	found, known := map[string]*Raw{}, map[used]bool{}
	var order []*Raw
	look := func(where string, root *design.Layer) {
		var walk func(l, parent *design.Layer)
		walk = func(l, parent *design.Layer) {
			style := draft.StyleOf(l, parent)
			for _, property := range style.Properties() {
				scale, ok := scales[property]
				if !ok || len(css.RefsIn(style[property])) > 0 {
					continue
				}
				for _, value := range values(property, style[property]) {
					key := string(scale) + value
					if found[key] == nil {
						found[key] = &Raw{Scale: scale, Value: value}
						order = append(order, found[key])
					}
					use := RawUse{where, l.ID, l.Name, property}
					if one := (used{found[key], use}); !known[one] {
						known[one] = true
						found[key].Uses = append(found[key].Uses, use)
					}
				}
			}
			for _, c := range l.Children {
				walk(c, l)
			}
		}
		walk(root, nil)
	}
	for _, p := range doc.Pages {
		for _, l := range p.Layers {
			look(p.Name, l)
		}
	}
	for _, f := range doc.Families {
		for _, v := range f.Variants {
			look(f.Name, v.Root)
		}
	}
	rows := make([]Raw, len(order))
	graded := map[Scale][]graded{}
	for i, r := range order {
		if _, read := graded[r.Scale]; !read {
			graded[r.Scale] = onScaleOf(r.Scale, tokens)
		}
		r.Nearest, r.Distance = nearestOf(graded[r.Scale], r.Scale, r.Value)
		rows[i] = *r
	}
	sort.SliceStable(rows, func(i, j int) bool { return len(rows[i].Uses) > len(rows[j].Uses) })
	return rows
}

// values parts a property's value into those that could be tokens; nothing and
// currentColor need none.
func values(property, value string) []string {
	var out []string
	for word := range strings.FieldsSeq(css.CanonicalText(property, value, 0)) {
		if word != "0px" && word != "currentcolor" && word != "normal" && !slices.Contains(out, word) {
			out = append(out, word)
		}
	}
	return out
}

// hints are words in a token's path that tell the scale it belongs to, in the
// order in which they speak for it.
var hints = map[Scale][]string{
	Spaces: {"space", "gap", "pad", "gutter"}, Radii: {"radius", "corner", "round"}, Lines: {"line.", "stroke", "border", "edge"},
	TypeSizes: {"type.size", "font-size", "text-size", "size"}, Leading: {"type.line", "line-height", "leading"}, Tracking: {"tracking", "letter"},
}

// graded is a token with its value on a scale.
type graded struct {
	token *token.Token
	px    float64
	color color.Color
	key   string // of the colour
}

// onScaleOf lists the tokens of a scale.
func onScaleOf(scale Scale, tokens *token.Set) (out []graded) {
	for _, t := range tokens.All() {
		if scale == Colors {
			if c, ok := colorOf(t); ok && t.Deprecated == "" {
				out = append(out, graded{token: t, color: c, key: c.Key()})
			}
		} else if n, ok := lengthOn(scale, t); ok {
			out = append(out, graded{token: t, px: n})
		}
	}
	return out
}

// nearestOf finds the token of a scale that is nearest to a value, a core token before the semantic ones that point at it, and how far it is. Tokens on the
// scale are known by their names; with none so named, there is no nearest length.
func nearestOf(list []graded, scale Scale, value string) (*token.Token, float64) {
	var best *token.Token
	least := math.Inf(1)
	try := func(t *token.Token, distance float64) {
		if distance < least-1e-9 || math.Abs(distance-least) <= 1e-9 && best.Alias != "" && t.Alias == "" {
			best, least = t, distance
		}
	}
	if scale == Colors {
		c, err := color.Parse(value)
		if err != nil {
			return nil, 0
		}
		key := c.Key()
		for _, g := range list {
			if alphaOf(g.color) != alphaOf(c) {
				continue
			}
			if g.key == key { // components are written with four decimals
				try(g.token, 0)
			} else {
				try(g.token, color.Difference(c, g.color))
			}
		}
	} else {
		px, ok := css.Pixels(value)
		if !ok {
			return nil, 0
		}
		for _, g := range list {
			try(g.token, math.Abs(g.px-px))
		}
	}
	if best == nil {
		return nil, 0
	}
	return best, least
}

// Lengths lists the lengths of a scale that tokens have, px, ascending; none for colours.
func Lengths(scale Scale, tokens *token.Set) []float64 {
	var out []float64
	if tokens == nil || scale == Colors {
		return nil
	}
	for _, t := range tokens.All() {
		if px, ok := lengthOn(scale, t); ok {
			out = append(out, px)
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// ReadBy gives an origin the scale that what was drawn without flow is read by.
func ReadBy(o contract.Origin, tokens *token.Set) contract.Origin {
	if o.Layer != "" && o.Scale == nil {
		o.Scale = Lengths(Spaces, tokens)
	}
	return o
}

// lengthOn gives a token's length, px; false when it is none of the scale.
func lengthOn(scale Scale, t *token.Token) (float64, bool) {
	if t.Type != "dimension" || t.Value == "" || t.Deprecated != "" || !onScale(scale, t.Path) {
		return 0, false
	}
	return css.Pixels(css.CanonicalText("width", t.Value, 0))
}

func colorOf(t *token.Token) (color.Color, bool) {
	if t.Type != "color" || t.Content == nil {
		return color.Color{}, false
	}
	return t.Content.Color()
}

func alphaOf(c color.Color) int { return int(math.Round(c.Alpha * 255)) }

func onScale(scale Scale, path string) bool {
	path = strings.ToLower(path)
	for _, h := range hints[scale] {
		if strings.Contains(path, h) {
			return true
		}
	}
	return false
}

// Bind replaces a raw value that a contract says, wherever it stands on that
// scale, by a reference to a token, and tells how many values it changed.
func Bind(c *contract.Contract, scale Scale, value, path string) int {
	return c.Rewrite(func(u contract.ValueSite) string {
		if s, ok := scales[u.Property]; !ok || s != scale || u.Value == "" {
			return u.Value
		}
		words := strings.Fields(u.Value)
		changed := false
		for i, w := range words {
			if len(css.RefsIn(w)) == 0 && css.CanonicalText(u.Property, w, 0) == value {
				words[i], changed = "{"+path+"}", true
			}
		}
		if !changed { // a colour as a function has spaces of its own
			if len(css.RefsIn(u.Value)) == 0 && css.CanonicalText(u.Property, u.Value, 0) == value {
				return "{" + path + "}"
			}
			return u.Value
		}
		return strings.Join(words, " ")
	})
}
