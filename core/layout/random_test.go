package layout

import (
	"fmt"
	"math/rand/v2"
	"strings"
)

// generator makes random trees out of the features asked for. The same seed
// makes the same tree.
type generator struct {
	*rand.Rand
	flex, grid, block, absolute, text, modes bool
	left                                     int // nodes that may still be made
}

func newGenerator(seed uint64, feature string) *generator {
	g := &generator{Rand: rand.New(rand.NewPCG(seed, 7)), left: 14}
	for f := range strings.FieldsSeq(feature) {
		switch f {
		case "flex":
			g.flex = true
		case "grid":
			g.grid = true
		case "block":
			g.block = true
		case "absolute":
			g.absolute = true
		case "text":
			g.text = true
		case "modes":
			g.modes = true
		}
	}
	return g
}

func (g *generator) chance(p float64) bool        { return g.Float64() < p }
func (g *generator) pick(values ...string) string { return values[g.IntN(len(values))] }
func (g *generator) px(low, high int) string      { return fmt.Sprintf("%dpx", low+g.IntN(high-low+1)) }
func (g *generator) percent(low, high int) string { return fmt.Sprintf("%d%%", low+g.IntN(high-low+1)) }
func (g *generator) set(s map[string]string, p float64, property string, value func() string) {
	if g.chance(p) {
		s[property] = value()
	}
}

func (g *generator) tree() *Node {
	n := g.node(nil, 0)
	n.Style["position"] = "relative"
	delete(n.Style, "top")
	delete(n.Style, "left")
	delete(n.Style, "bottom")
	delete(n.Style, "right")
	for p := range n.Style {
		if strings.HasPrefix(p, "margin") {
			delete(n.Style, p)
		}
	}
	n.Style["width"] = g.px(80, 500)
	return n
}

func (g *generator) length() string {
	switch g.IntN(10) {
	case 0, 1:
		return g.percent(10, 110)
	case 2:
		return fmt.Sprintf("calc(%s + %s)", g.percent(10, 60), g.px(-10, 30))
	case 3:
		return fmt.Sprintf("%dem", 1+g.IntN(5))
	case 4:
		return fmt.Sprintf("min(%s, %s)", g.percent(30, 100), g.px(20, 120))
	}
	return g.px(0, 140)
}

func (g *generator) size() string {
	if g.chance(0.12) {
		return g.pick("min-content", "max-content", "fit-content")
	}
	return g.length()
}

var words = strings.Fields("plot shed canal seed swap watering rota squash bean marrow Ines allotment society 140 gardens, tool-shed; potatoes wheelbarrows behind the old canal AVAILABLE now today")

func (g *generator) words() string {
	out := make([]string, 1+g.IntN(9))
	for i := range out {
		out[i] = words[g.IntN(len(words))]
	}
	return strings.Join(out, " ")
}

func (g *generator) node(parent map[string]string, depth int) *Node {
	g.left--
	s := map[string]string{}
	n := &Node{Style: s}
	var kinds []string
	if g.block {
		kinds = append(kinds, "block")
	}
	if g.flex {
		kinds = append(kinds, "flex", "flex")
	}
	if g.grid {
		kinds = append(kinds, "grid", "grid")
	}
	if len(kinds) == 0 {
		kinds = []string{"block"}
	}
	s["display"] = kinds[g.IntN(len(kinds))]
	g.set(s, 0.4, "width", g.size)
	g.set(s, 0.35, "height", g.length)
	g.set(s, 0.12, "min-width", g.length)
	g.set(s, 0.12, "max-width", g.length)
	g.set(s, 0.1, "min-height", g.length)
	g.set(s, 0.1, "max-height", g.length)
	g.set(s, 0.3, "padding", func() string { return g.pick("4px", "8px 12px", "0 0 10px", "5%", "1px 2px 3px 4px") })
	g.set(s, 0.3, "margin", func() string {
		return g.pick("4px", "8px 12px", "-6px", "10px 0", "0 auto", "auto", "3% 5px", "0 0 14px", "-4px 0 6px", "auto 0 0 auto")
	})
	g.set(s, 0.15, "border", func() string { return g.pick("1px solid red", "3px solid", "2px dashed blue") })
	g.set(s, 0.5, "box-sizing", func() string { return "border-box" })
	g.set(s, 0.08, "overflow", func() string { return g.pick("hidden", "clip") })
	g.set(s, 0.1, "position", func() string { return "relative" })
	// A ratio together with a percentage height or in a grid sized by its
	// content is browsers' own business: see docs/layout.md.
	leaf := depth > 1 && g.chance(0.3)
	if h := s["height"]; leaf && !g.grid && (h == "" || strings.HasSuffix(h, "px") && !strings.Contains(h, "(")) {
		g.set(s, 0.06, "aspect-ratio", func() string { return g.pick("1", "16 / 9", "0.5") })
	}
	if s["position"] == "relative" {
		g.set(s, 0.6, "left", g.length)
		g.set(s, 0.4, "top", g.length)
	}
	if g.modes {
		g.set(s, 0.15, "direction", func() string { return g.pick("rtl", "ltr") })
		g.set(s, 0.12, "writing-mode", func() string { return g.pick("vertical-rl", "vertical-lr", "horizontal-tb") })
	}
	switch parent["display"] {
	case "flex":
		g.set(s, 0.4, "flex", func() string {
			return g.pick("1", "none", "auto", "2 1 40px", "0 0 50%", "1 0 auto", "0.3", "1 1 content", "3 2 0")
		})
		g.set(s, 0.1, "flex-shrink", func() string { return g.pick("0", "0.5", "3") })
		g.set(s, 0.2, "align-self", func() string { return g.alignSelf() })
		g.set(s, 0.1, "order", func() string { return g.pick("-1", "1", "2") })
	case "grid":
		g.set(s, 0.2, "align-self", func() string { return g.alignSelf() })
		g.set(s, 0.2, "justify-self", g.justify)
		g.set(s, 0.2, "grid-column", func() string { return g.pick("1", "2", "span 2", "1 / 3", "-2", "1 / -1", "span 3", "3") })
		g.set(s, 0.15, "grid-row", func() string { return g.pick("1", "2", "span 2", "2 / 4", "-1") })
		g.set(s, 0.08, "order", func() string { return g.pick("-1", "1") })
	}
	if g.absolute && parent != nil && g.chance(0.3) {
		s["position"] = "absolute"
		for _, side := range []string{"left", "top", "right", "bottom"} {
			delete(s, side)
			g.set(s, 0.4, side, func() string { return g.pick("0", "10px", "-8px", "25%", "calc(50% - 8px)", "100%") })
		}
	}
	switch s["display"] {
	case "flex":
		g.flexContainer(s)
	case "grid":
		g.gridContainer(s)
	}
	if g.text && (g.chance(0.3) || g.left < 1) {
		n.Text = g.words()
		g.textStyle(s)
	}
	if depth < 4 && !leaf {
		for range g.IntN(5 - depth/2) {
			if g.left > 0 {
				n.Children = append(n.Children, g.node(s, depth+1))
			}
		}
	}
	return n
}

func (g *generator) alignSelf() string {
	return g.pick("start", "end", "center", "stretch", "flex-start", "flex-end", "baseline", "self-end", "self-start", "safe center", "last baseline")
}

// justify is alignSelf without baselines, which mean little along a line.
func (g *generator) justify() string {
	return g.pick("start", "end", "center", "stretch", "flex-start", "flex-end", "self-end", "self-start", "left", "right", "safe center")
}

func (g *generator) contentAlign() string {
	return g.pick("start", "end", "center", "space-between", "space-around", "space-evenly", "flex-start", "flex-end", "stretch", "safe end")
}

func (g *generator) flexContainer(s map[string]string) {
	g.set(s, 0.5, "flex-direction", func() string { return g.pick("row", "column", "column", "row-reverse", "column-reverse") })
	// The width of a wrapping column without height: see docs/layout.md.
	if strings.HasPrefix(s["flex-direction"], "column") && g.chance(0.8) {
		delete(s, "flex-wrap")
	} else {
		g.set(s, 0.3, "flex-wrap", func() string { return g.pick("wrap", "wrap", "wrap-reverse") })
	}
	if s["flex-wrap"] != "" && strings.HasPrefix(s["flex-direction"], "column") {
		s["height"] = g.px(30, 140)
		delete(s, "min-height")
		delete(s, "max-height")
	}
	g.set(s, 0.4, "gap", func() string { return g.pick("4px", "8px 16px", "5%", "10px") })
	g.set(s, 0.4, "justify-content", g.contentAlign)
	g.set(s, 0.4, "align-items", g.alignSelf)
	// Baselines along a column that runs from right to left: see docs/layout.md.
	if g.modes && strings.Contains(s["align-items"], "baseline") {
		s["align-items"] = "center"
	}
	g.set(s, 0.2, "align-content", g.contentAlign)
}

func (g *generator) gridContainer(s map[string]string) {
	track := func() string {
		return g.pick("1fr", "2fr", "40px", "auto", "min-content", "max-content", "minmax(20px, 1fr)", "minmax(10px, 60px)", "25%", "fit-content(50px)", "minmax(0, 1fr)", "minmax(auto, 80px)", "minmax(min-content, 50px)")
	}
	list := func() string {
		if g.chance(0.2) {
			return fmt.Sprintf("repeat(%s, %s)", g.pick("auto-fill", "auto-fit"), g.pick("minmax(60px, 1fr)", "50px", "minmax(30px, auto)", "30px 50px"))
		}
		if g.chance(0.15) {
			return fmt.Sprintf("repeat(%d, %s)", 2+g.IntN(3), track())
		}
		out := make([]string, 1+g.IntN(4))
		for i := range out {
			out[i] = track()
		}
		return strings.Join(out, " ")
	}
	g.set(s, 0.85, "grid-template-columns", list)
	g.set(s, 0.4, "grid-template-rows", list)
	g.set(s, 0.15, "grid-auto-rows", func() string { return g.pick("20px", "1fr", "min-content 30px", "minmax(10px, auto)") })
	g.set(s, 0.1, "grid-auto-columns", func() string { return g.pick("20px", "1fr", "auto 30px") })
	g.set(s, 0.2, "grid-auto-flow", func() string { return g.pick("column", "dense", "row dense", "column dense") })
	g.set(s, 0.5, "gap", func() string { return g.pick("4px", "8px 16px", "5%", "10px") })
	g.set(s, 0.3, "justify-content", g.contentAlign)
	g.set(s, 0.3, "align-content", g.contentAlign)
	g.set(s, 0.25, "align-items", g.alignSelf)
	g.set(s, 0.25, "justify-items", g.justify)
}

func (g *generator) textStyle(s map[string]string) {
	g.set(s, 0.4, "font-size", func() string { return g.pick("12px", "14px", "20px", "1.5em", "1rem") })
	g.set(s, 0.3, "font-weight", func() string { return g.pick("400", "600", "700", "bold") })
	g.set(s, 0.4, "line-height", func() string { return g.pick("1.2", "1.5", "20px", "normal") })
	g.set(s, 0.15, "letter-spacing", func() string { return g.pick("1px", "-0.5px", "0.1em") })
	g.set(s, 0.2, "white-space", func() string { return g.pick("nowrap", "pre-wrap", "normal") })
	g.set(s, 0.15, "overflow-wrap", func() string { return g.pick("anywhere", "break-word") })
	g.set(s, 0.07, "word-break", func() string { return "break-all" })
	g.set(s, 0.15, "font-family", func() string { return "'JetBrains Mono'" })
}
