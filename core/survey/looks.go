package survey

import (
	"cmp"
	"math"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/color"
	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
)

// What differs in how copies look becomes choices: values that move together are one.

// look notes the properties in which copies differ. Where a thing stands, and how large it is where that follows from what it says or from what holds it, is no
// difference.
func (p *proposer) look(s *spot) {
	if s.of != nil || s.unlike {
		return
	}
	note := func(property string, say func(i int, c *shape) string) {
		p.note(s, property, false, say)
	}
	length := func(property string, say func(i int, c *shape) float64) {
		p.note(s, property, true, func(i int, c *shape) string { return strconv.FormatFloat(say(i, c), 'f', 3, 64) })
	}
	kinds := s.kinds()
	paint := func(l *design.Layer, property, drawn string) string {
		if path := l.Tokens[property]; path != "" {
			return "{" + path + "}"
		}
		return drawn
	}
	switch {
	case kinds == 1<<words:
		note("color", func(_ int, c *shape) string { return paint(c.layer, "color", c.layer.Fill) })
		length("font-size", func(_ int, c *shape) float64 { return c.layer.Text.FontSize })
		note("font-weight", func(_ int, c *shape) string { return css.FormatNumber(c.layer.Text.FontWeight) })
		note("font-style", func(_ int, c *shape) string { return cmp.Or(c.layer.Text.Style, "normal") })
		note("text-decoration-line", func(_ int, c *shape) string { return cmp.Or(c.layer.Text.Line, "none") })
	case kinds == 1<<use:
		return
	case kinds&^(1<<holder|1<<block) == 0:
		note("background-color", func(_ int, c *shape) string {
			return cmp.Or(paint(ground(c), "background-color", fillOf(ground(c))), "none")
		})
		note("border-color", func(_ int, c *shape) string {
			if l := ground(c); l.Stroke != nil {
				return paint(l, "border-color", l.Stroke.Color)
			}
			return "none"
		})
		length("border-radius", func(_ int, c *shape) float64 {
			return min(ground(c).Corners()[0], min(c.box.Width, c.box.Height)/2)
		})
		note("box-shadow", func(_ int, c *shape) string { return yes(len(ground(c).Shadows) > 0) })
		if kinds == 1<<block && s.around != nil {
			p.sizes(s, length)
		}
	case kinds == 1<<drawing:
		if !s.differs(paths) {
			note("fill", func(_ int, c *shape) string { return paint(c.layer, "fill", fillOf(c.layer)) })
			if s.around != nil {
				p.sizes(s, length)
			}
		}
	}
	note("opacity", func(_ int, c *shape) string {
		if l := ground(c); l.Opacity != nil {
			return css.FormatNumber(*l.Opacity)
		}
		return "1"
	})
}

// ground is the layer that paints a shape; an empty one for what was gathered of loose layers with nothing behind them.
func ground(s *shape) *design.Layer {
	if s.layer == nil {
		return &design.Layer{}
	}
	return s.layer
}

func fillOf(l *design.Layer) string {
	if l.Fill == "" && len(l.Fills) > 0 {
		return "a gradient"
	}
	return l.Fill
}

// sizes notes how large a thing is that says nothing: not on an axis on which it reaches, or keeps its distance from, both edges of what holds it.
func (p *proposer) sizes(s *spot, length func(property string, say func(i int, c *shape) float64)) {
	stretched := func(size, room func(design.Rect) float64) bool {
		var least, most float64
		first := true
		for i, c := range s.cells {
			if c == nil {
				continue
			}
			left := room(s.around.cells[i].box) - size(c.box)
			if first {
				least, most, first = left, left, false
			}
			least, most = min(least, left), max(most, left)
		}
		return most-least <= near
	}
	width := func(b design.Rect) float64 { return b.Width }
	height := func(b design.Rect) float64 { return b.Height }
	if slices.ContainsFunc(p.props, func(q Prop) bool { return q.Kind == string(contract.NumberKind) && q.Layer == s.model.id() }) {
		return // a share says it
	}
	if !stretched(width, width) {
		length("width", func(_ int, c *shape) float64 { return c.box.Width })
	}
	if !stretched(height, height) {
		length("height", func(_ int, c *shape) float64 { return c.box.Height })
	}
}

// noise is how far lengths may be apart that were meant the same, px.
const noise = 2.5

// note keeps a property in which copies differ. Lengths that are nearly the same are.
func (p *proposer) note(s *spot, property string, lengths bool, say func(i int, c *shape) string) {
	t := trait{at: s, layer: s.model.id(), property: property, values: make([]string, len(s.cells)), lengths: lengths}
	for i, c := range s.cells {
		if c != nil {
			t.values[i] = say(i, c)
		}
	}
	tolerance := noise
	if property == "font-size" {
		tolerance = 0.5
	}
	if lengths {
		t.round(tolerance)
	}
	distinct := map[string]bool{}
	for _, v := range t.values {
		if v != "" {
			distinct[v] = true
		}
	}
	if len(distinct) > 1 && !(lengths && len(distinct) > 4) { // a length of its own in each copy follows from something else
		p.traits = append(p.traits, t)
	}
}

// round gives lengths that are within a tolerance of the next one value.
func (t *trait) round(tolerance float64) {
	var sorted []float64
	for _, v := range t.values {
		if n, err := strconv.ParseFloat(v, 64); err == nil {
			sorted = append(sorted, n)
		}
	}
	slices.Sort(sorted)
	start := map[float64]float64{}
	for i, n := range sorted {
		start[n] = n
		if i > 0 && n-sorted[i-1] <= tolerance {
			start[n] = start[sorted[i-1]]
		}
	}
	for i, v := range t.values {
		if n, err := strconv.ParseFloat(v, 64); err == nil {
			t.values[i] = css.FormatNumber(math.Round(start[n]*100)/100) + "px"
		}
	}
}

// choices makes as few choices as explain all the traits: the ones with most values first, and each that follows from another belongs to it. A trait that is
// there just where a flag is belongs to that.
func (p *proposer) choices() {
	slices.SortStableFunc(p.traits, func(a, b trait) int { return b.count() - a.count() })
	type choice struct {
		parts []int // by copy; -1 where the thing is not there
		many  int
		prop  int
	}
	var made []choice
	for i := range p.props {
		if q := p.props[i]; q.Kind == string(contract.FlagKind) {
			parts := make([]int, len(p.ids))
			for j, id := range p.ids {
				parts[j] = -1
				if v, ok := q.Values[id].(bool); ok {
					parts[j] = 0
					if v {
						parts[j] = 1
					}
				}
			}
			made = append(made, choice{parts, 2, i})
		}
	}
	for _, t := range p.traits {
		parts, options := t.parts()
		explained := false
		for _, c := range made {
			if follows(parts, c.parts) && (c.many == len(options) || c.many < len(p.ids)) {
				p.props[c.prop].Explain = append(p.props[c.prop].Explain, p.explained(t))
				explained = true
				break
			}
		}
		if explained {
			continue
		}
		names := t.options(options)
		q := p.add(t.at, t.name(p), "Choice", contract.ChoiceKind, func(i int) any {
			if parts[i] < 0 {
				return nil
			}
			return names[parts[i]]
		})
		q.Options = names
		q.Explain = []Explained{p.explained(t)}
		made = append(made, choice{parts, len(options), len(p.props) - 1})
	}
}

// explained says a trait as a difference that a prop stands for.
func (p *proposer) explained(t trait) Explained {
	out := Explained{Layer: t.layer, Property: t.property, Layers: map[string]string{}, Values: map[string]string{}}
	for i, c := range t.at.cells {
		if c != nil {
			out.Layers[p.ids[i]], out.Values[p.ids[i]] = c.id(), t.values[i]
		}
	}
	return out
}

func (t trait) count() int {
	distinct := map[string]bool{}
	for _, v := range t.values {
		if v != "" {
			distinct[v] = true
		}
	}
	return len(distinct)
}

// parts numbers the values in the order in which copies have them first.
func (t trait) parts() (parts []int, values []string) {
	parts = make([]int, len(t.values))
	for i, v := range t.values {
		if parts[i] = -1; v == "" {
			continue
		}
		if parts[i] = slices.Index(values, v); parts[i] < 0 {
			parts[i], values = len(values), append(values, v)
		}
	}
	return parts, values
}

// follows tells whether one partition is decided by another.
func follows(parts, by []int) bool {
	is := map[int]int{}
	for i, v := range parts {
		if v < 0 {
			continue
		}
		if was, ok := is[by[i]]; ok && was != v {
			return false
		}
		is[by[i]] = v
	}
	return true
}

// name says what a choice is about.
func (t trait) name(p *proposer) string {
	switch t.property {
	case "color", "background-color", "fill", "opacity":
		return "tone"
	case "border-color":
		return "outline"
	case "font-weight", "font-style", "text-decoration-line", "box-shadow":
		return "emphasis"
	case "border-radius":
		return "shape"
	}
	return "size"
}

// options names the values of a choice: a token by its last word, a length by its rank, a colour by what it is called, anything else by its number.
func (t trait) options(values []string) []string {
	out := make([]string, len(values))
	taken := map[string]bool{}
	ranks := t.ranks(values)
	for i, v := range values {
		name := ""
		switch {
		case strings.HasPrefix(v, "{"):
			path := strings.Split(strings.Trim(v, "{}"), ".")
			name = contract.OptionOf(path[len(path)-1])
			if number.MatchString(name) && len(path) > 1 { // a step of a scale
				name = contract.OptionOf(path[len(path)-2] + " " + name)
			}
		case ranks != nil:
			name = ranks[i]
		case t.property == "font-weight":
			name = "weight" + v
		case strings.HasPrefix(v, "#"):
			name = hueOf(v)
		default:
			name = contract.OptionOf(v)
		}
		name = contract.Free(cmp.Or(name, "option"), "", func(n string) bool { return taken[n] })
		taken[name], out[i] = true, name
	}
	return out
}

// ranks names lengths by their order.
func (t trait) ranks(values []string) []string {
	if !t.lengths {
		return nil
	}
	words := map[int][]string{2: {"small", "large"}, 3: {"small", "medium", "large"}, 4: {"small", "medium", "large", "largest"}}[len(values)]
	if words == nil {
		return nil
	}
	order := make([]int, len(values))
	for i := range order {
		order[i] = i
	}
	slices.SortFunc(order, func(a, b int) int {
		x, _ := css.Pixels(values[a])
		y, _ := css.Pixels(values[b])
		return cmp.Compare(x, y)
	})
	out := make([]string, len(values))
	for rank, i := range order {
		out[i] = words[rank]
	}
	return out
}

// hueOf names a colour by its lightness, where it has little colour, or its hue, in OKLCH degrees.
func hueOf(hex string) string {
	c, err := color.Parse(hex)
	if err != nil {
		return ""
	}
	l := c.To(color.OKLCH)
	light, chroma, hue := l.V[0], l.V[1], l.V[2]
	switch {
	case chroma < 0.03 && light > 0.9:
		return "white"
	case chroma < 0.03 && light < 0.3:
		return "black"
	case chroma < 0.03:
		return "grey"
	}
	for _, h := range []struct {
		below float64
		name  string
	}{{15, "pink"}, {45, "red"}, {75, "orange"}, {115, "yellow"}, {165, "green"}, {215, "teal"}, {275, "blue"}, {330, "purple"}} {
		if hue < h.below {
			return h.name
		}
	}
	return "pink"
}
