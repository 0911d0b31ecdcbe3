package check

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"cobrik/core/color"
	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/layout"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// contrast finds texts that cannot be read on what is behind them (WCAG 2.2, 1.4.3), and graphics
// that say something and cannot be told from it (1.4.11): in every case, state and theme, what is
// not opaque composited. Where the component has no opaque ground
// of its own, nothing is known of what is behind it.
func (k *checker) contrast() {
	if k.c.RoomOf != "" { // bars are not to be read
		return
	}
	worst := map[string]*reading{}
	var order []string
	telling := tellingGraphics(k.c)
	for _, w := range k.envs {
		if outOfUse(k.c, w.env) {
			continue
		}
		eachContrast(w.tree, telling, func(r *contract.Resolved, ratio, needs float64) { k.read(worst, &order, r, w, ratio, needs) })
	}
	for _, part := range order {
		b := worst[part]
		rule := "contrast"
		if k.c.Part(contract.PartOf(part)).Element == "svg" {
			rule = "contrast-graphic"
		}
		k.say(problem.Error, rule, k.at[contract.PartOf(part)], part, nil, fmt.Sprintf("darken one, lighten the other: %.1f is needed", b.needs),
			"%s has a contrast of %.2f, %s%s", k.named(part), b.ratio, b.where, others(b.also))
	}
}

// eachContrast visits every text and telling graphic of a component in one environment with the least
// contrast that it may have there, and what it needs.
func eachContrast(tree *contract.Resolved, telling map[string]bool, visit func(r *contract.Resolved, ratio, needs float64)) {
	var walk func(r *contract.Resolved, grounds []color.Color, alpha float64)
	walk = func(r *contract.Resolved, grounds []color.Color, alpha float64) {
		if !r.Shown || r.Values["display"].Value == "none" {
			return
		}
		alpha *= opacity(r)
		grounds = behind(r, grounds, alpha)
		if r.Part.IsText() && len(grounds) > 0 && strings.TrimSpace(r.Text) != "" {
			if ratio, ok := leastContrast(r.Values["color"].Value, alpha, grounds); ok {
				visit(r, ratio, textNeeds(r))
			}
		}
		if telling[r.Part.ID] && len(grounds) > 0 {
			best, known := 0.0, false
			for _, ink := range inksOf(r) {
				ratio, ok := leastContrast(ink, alpha, grounds)
				best, known = max(best, ratio), known || ok
			}
			if known {
				visit(r, best, color.NonText)
			}
		}
		if r.Inside != nil {
			walk(r.Inside, grounds, alpha)
			return
		}
		for _, child := range slices.Concat(r.Filled, r.Children) {
			walk(child, grounds, alpha)
		}
	}
	walk(tree, nil, 1)
}

// Contrast is the least contrast that a part has in any case and state of a component, on what is behind it.
type Contrast struct {
	Part         string // its id
	Ratio, Needs float64
	Where        string // the case and the state, in words; empty for every one
}

// TooFaint tells whether it is less than is needed.
func (c Contrast) TooFaint() bool { return tooFaint(c.Ratio, c.Needs) }

// Contrasts lists the contrast of every text and telling graphic of a component in a theme (WCAG 2.2, 1.4.3 and 1.4.11), in
// the order of the parts.
func Contrasts(c *contract.Contract, theme Theme) []Contrast {
	k := &checker{c: c, o: Options{Themes: []Theme{theme}}, at: pointers(c), seen: map[string]bool{}}
	k.worlds()
	least := map[string]Contrast{}
	telling := tellingGraphics(c)
	for _, w := range k.envs {
		if outOfUse(c, w.env) {
			continue
		}
		eachContrast(w.tree, telling, func(r *contract.Resolved, ratio, needs float64) {
			if was, ok := least[r.Part.ID]; c.Part(r.Part.ID) == r.Part && (!ok || ratio < was.Ratio) {
				least[r.Part.ID] = Contrast{r.Part.ID, ratio, needs, w.said(c)}
			}
		})
	}
	var out []Contrast
	c.Walk(func(p, _ *contract.Part) {
		if one, ok := least[p.ID]; ok {
			out = append(out, one)
		}
	})
	return out
}

// Faint is a part that cannot be read on what is behind it.
type Faint struct {
	Part         *contract.Resolved
	Ratio, Needs float64
}

// Unreadable lists the parts of a component that cannot be read in one environment (WCAG 2.2, 1.4.3 and
// 1.4.11); none of one that is out of use.
func Unreadable(c *contract.Contract, env contract.Env, tokens *token.Set) (out []Faint) {
	if outOfUse(c, env) {
		return nil
	}
	eachContrast(contract.Resolve(c, env, tokens), tellingGraphics(c), func(r *contract.Resolved, ratio, needs float64) {
		if tooFaint(ratio, needs) {
			out = append(out, Faint{r, ratio, needs})
		}
	})
	return out
}

// tooFaint allows for what rounding leaves.
func tooFaint(ratio, needs float64) bool { return ratio < needs-0.005 }

// behind gives the colours that may lie behind what a part holds: its own over those behind it, a
// gradient's each. None where no opaque one is known.
func behind(r *contract.Resolved, grounds []color.Color, alpha float64) []color.Color {
	layers := [][]color.Color{nil}
	if own, err := color.Parse(r.Values["background-color"].Value); err == nil {
		layers[0] = []color.Color{own}
	}
	images := gradientColors(r.Values["background-image"].Value)
	slices.Reverse(images) // the last lies lowest
	for _, layer := range append(layers, images...) {
		var over []color.Color
		for _, own := range layer {
			own.Alpha *= alpha
			if own.Alpha >= 1 {
				over = append(over, own)
				continue
			}
			for _, ground := range grounds { // where none is known, what shows through is not
				over = append(over, own.Over(ground))
			}
		}
		if len(layer) > 0 && (len(over) > 0 || len(grounds) > 0) {
			grounds = over
		}
	}
	return grounds
}

// gradientColors gives the colours of each gradient of a background's images.
func gradientColors(text string) (out [][]color.Color) {
	v, err := css.ParseValue(text)
	if err != nil {
		return nil
	}
	list, many := v.(css.List)
	if !many {
		list = css.List{v}
	}
	for _, one := range list {
		f, ok := one.(css.Function)
		if !ok {
			continue
		}
		var colors []color.Color
		for _, arg := range f.Args {
			if c, ok := arg.(css.Color); ok {
				colors = append(colors, c.Color)
			}
		}
		out = append(out, colors)
	}
	return out
}

// reading is the least contrast of a part, and where.
type reading struct {
	ratio, needs float64
	where        string
	also         int // other worlds in which it is too little
}

// textNeeds is the contrast that a text needs by its size (WCAG 2.2, 1.4.3).
func textNeeds(r *contract.Resolved) float64 {
	size, _ := css.Pixels(r.Values["font-size"].Value)
	bold := r.Values["font-weight"].Value >= "700" && len(r.Values["font-weight"].Value) == 3
	if size >= 24 || bold && size >= 18.66 { // large scale: 18 pt, or 14 pt bold
		return color.NonText
	}
	return color.TextAA
}

// leastContrast is the least contrast of an ink on what may lie behind it; false when it is no
// colour.
func leastContrast(text string, alpha float64, grounds []color.Color) (float64, bool) {
	ink, err := color.Parse(text)
	if err != nil {
		return 0, false
	}
	ink.Alpha *= alpha
	least := math.Inf(1)
	for _, ground := range grounds {
		least = min(least, color.Contrast(ink, ground))
	}
	return least, true
}

// tellingGraphics are the drawings that say something no text beside them says: those with words of
// their own, and those in a part that people press and that shows no text.
func tellingGraphics(c *contract.Contract) map[string]bool {
	out := map[string]bool{}
	var walk func(p *contract.Part, alone bool)
	walk = func(p *contract.Part, alone bool) {
		if p.Element == "button" || p.Element == "a" || p.Element == "summary" {
			alone = !worded(p)
		}
		v := p.Vector()
		_, icon := p.Content.(contract.IconOf)
		if v != nil && (v.Label != "" || alone) || icon && alone {
			out[p.ID] = true
		}
		for _, child := range p.Children {
			walk(child, alone)
		}
	}
	walk(c.Root, false)
	return out
}

// worded tells whether a part holds a text, or what may hold one.
func worded(p *contract.Part) bool {
	_, slot := p.Content.(contract.SlotOf)
	return p.IsText() || slot || p.Use() != nil || slices.ContainsFunc(p.Children, worded)
}

// inksOf lists the colours that a drawing is drawn in.
func inksOf(r *contract.Resolved) (out []string) {
	v := r.Icon
	if v == nil {
		v = r.Part.Vector()
	}
	add := func(ink string) {
		if strings.EqualFold(ink, "currentcolor") {
			ink = r.Values["color"].Value
		}
		out = append(out, ink)
	}
	for _, p := range v.Paths {
		if p.Fill != "none" {
			add(cmp.Or(p.Fill, r.Values["fill"].Value, "#000000"))
		}
		if p.Stroke.Width > 0 {
			add(p.Stroke.Color)
		}
	}
	return out
}

func (k *checker) read(worst map[string]*reading, order *[]string, r *contract.Resolved, w world, ratio, needs float64) {
	if !tooFaint(ratio, needs) {
		return
	}
	key := r.Key()
	if !strings.Contains(key, "/") { // items are told of as one
		key = r.Part.ID
	}
	b := worst[key]
	switch {
	case b == nil:
		*order = append(*order, key)
		worst[key] = &reading{ratio, needs, w.said(k.c), 0}
	case ratio < b.ratio:
		*b = reading{ratio, needs, w.said(k.c), b.also + 1}
	default:
		b.also++
	}
}

// named gives the name of the part of a key, and where inside of it.
func (k *checker) named(key string) string {
	name := k.c.Part(contract.PartOf(key)).Name
	if _, inside, ok := strings.Cut(key, "/"); ok {
		name += " › " + strings.ReplaceAll(inside, "/", " › ")
	}
	return name
}

func others(n int) string {
	switch n {
	case 0:
		return ""
	case 1:
		return ", and too little in 1 other case"
	}
	return fmt.Sprintf(", and too little in %d other cases", n)
}

// outOfUse tells whether a component is disabled, by the state or by the flag: inactive components have no
// requirement (WCAG 2.2, 1.4.3).
func outOfUse(c *contract.Contract, env contract.Env) bool {
	flag := c.StateFlag("disabled")
	return slices.Contains(env.States, "disabled") || flag != nil && env.Props[flag.ID] == contract.FlagValue(true)
}

func opacity(r *contract.Resolved) float64 {
	if v, ok := r.Values["opacity"]; ok && v.Part == r.Part.ID {
		var n float64
		if _, err := fmt.Sscan(v.Value, &n); err == nil {
			return min(max(n, 0), 1)
		}
	}
	return 1
}

// leastTarget is the least size of what people press, px (WCAG 2.2, 2.5.8).
const leastTarget = 24

// boxes finds what is too small to press, and what paints over rounded corners, as the solver
// lays the component out.
func (k *checker) boxes() {
	for _, w := range k.envs {
		if len(w.env.States) > 0 || w.theme.Name != k.o.Themes[0].Name {
			continue // neither lays out otherwise, as a rule
		}
		width := w.env.Container
		if width == 0 {
			width = 1200
		}
		solved, _ := layout.Solve(w.tree.Boxes(), layout.Options{Width: width, Fonts: k.o.Fonts})
		if solved == nil {
			continue // said by those who solve it
		}
		var walk func(r *contract.Resolved, n *layout.Node)
		walk = func(r *contract.Resolved, n *layout.Node) {
			if n.Box == nil || r.Inside != nil { // taken away, or the component's affair
				return
			}
			for i, child := range r.Below() {
				if n.Children[i].Box != nil && child.Inside == nil {
					k.target(child, n.Children[i], w, flows(r))
				}
				if n.Children[i].Box != nil {
					k.corners(r, n, child, n.Children[i])
				}
				walk(child, n.Children[i])
			}
		}
		k.target(w.tree, solved, w, false)
		walk(w.tree, solved)
	}
}

// flows tells whether what stands in a part is laid out as boxes, not as words of a line (CSS
// Display 3, 2.7).
func flows(r *contract.Resolved) bool {
	display := r.Values["display"].Value
	return strings.HasSuffix(display, "flex") || strings.HasSuffix(display, "grid")
}

// target finds what is too small to press; a link among the words of a line may be.
func (k *checker) target(r *contract.Resolved, n *layout.Node, w world, boxed bool) {
	inline := !boxed && (r.Part.Element == "a" && strings.HasPrefix(r.Values["display"].Value, "inline") || r.Part.Element == "a" && r.Values["display"].Value == "")
	if !n.Target || inline || n.Box.Width >= leastTarget && n.Box.Height >= leastTarget {
		return
	}
	k.say(problem.Error, "target-size", k.at[r.Part.ID], "", nil, "give it more padding, or a least width and height of 24px",
		"%s is %s by %s px to press, and 24 by 24 is the least (WCAG 2.2, 2.5.8): %s", r.Part.Name, css.FormatNumber(n.Box.Width), css.FormatNumber(n.Box.Height), w.said(k.c))
}

// corners finds a child that paints over its parent's rounded corners: they cut it only where it
// is clipped (CSS Backgrounds 3, 4.3).
func (k *checker) corners(r *contract.Resolved, n *layout.Node, child *contract.Resolved, inner *layout.Node) {
	radius, ok := css.Pixels(strings.Fields(r.Values["border-radius"].Value + " 0px")[0])
	if !ok || radius <= 0 || !paints(child) {
		return
	}
	if o := r.Values["overflow"].Value; o != "" && o != "visible" {
		return
	}
	radius = min(radius, n.Box.Width/2, n.Box.Height/2)
	own, _ := css.Pixels(strings.Fields(child.Values["border-radius"].Value + " 0px")[0])
	own = min(own, inner.Box.Width/2, inner.Box.Height/2)
	for _, corner := range [][2]float64{{0, 0}, {1, 0}, {0, 1}, {1, 1}} {
		// How far the child's outermost point at this corner is from the arc's centre.
		far := func(side int, at, size, outerAt, outerSize float64) float64 {
			inset := at - outerAt
			if side == 1 {
				inset = outerAt + outerSize - at - size
			}
			return radius - inset - own*(1-math.Sqrt2/2)
		}
		x := far(int(corner[0]), inner.Box.X, inner.Box.Width, n.Box.X, n.Box.Width)
		y := far(int(corner[1]), inner.Box.Y, inner.Box.Height, n.Box.Y, n.Box.Height)
		if x > 0 && y > 0 && math.Hypot(x, y) > radius+0.5 {
			id := r.Part.ID
			k.say(problem.Warning, "corner-painted", k.at[child.Part.ID], "", func(c *contract.Contract) { c.SetValue(id, "overflow", contract.When{}, "hidden") },
				"give "+r.Part.Name+" overflow: hidden", "%s paints over the rounded corners of %s", child.Part.Name, r.Part.Name)
			return
		}
	}
}

// paints tells whether a part fills its box with something.
func paints(r *contract.Resolved) bool {
	if r.Image != nil {
		return true
	}
	ground, err := color.Parse(r.Values["background-color"].Value)
	return err == nil && ground.Alpha > 0 || len(gradientColors(r.Values["background-image"].Value)) > 0
}
