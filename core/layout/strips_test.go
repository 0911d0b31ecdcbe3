package layout

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func stripsOf(t *testing.T, text string, width float64) []string {
	t.Helper()
	n, found := Read("strips.json", []byte(text))
	require.NotNil(t, n, found)
	solved, found := Solve(n, Options{Width: width})
	require.NotNil(t, solved, found)
	var out []string
	for _, s := range Strips(solved) {
		out = append(out, fmt.Sprintf("%s %s %s %g at %g,%g %gx%g", s.Part, s.Kind, s.Side, s.Size, s.Rect.X, s.Rect.Y, s.Rect.Width, s.Rect.Height))
	}
	return out
}

// Worked by hand: each strip is what one would measure with a ruler on the
// picture.
func TestStripsByHand(t *testing.T) {
	box := func(w, h int, more string) string {
		return fmt.Sprintf(`{"name":"b","style":{"width":"%dpx","height":"%dpx","flex":"none"%s}}`, w, h, more)
	}
	tree := func(style string, children ...string) string {
		return fmt.Sprintf(`{"name":"n","style":{"box-sizing":"border-box",%s},"children":[%s]}`, style, strings.Join(children, ","))
	}
	for _, c := range []struct {
		what, tree string
		want       []string
	}{
		{"a row with a gap and padding", tree(`"display":"flex","gap":"8px","padding":"4px 12px","width":"200px"`, box(20, 10, ""), box(30, 20, "")),
			[]string{"n padding top 4 at 0,0 200x4", "n padding right 12 at 188,4 12x20", "n padding bottom 4 at 0,24 200x4", "n padding left 12 at 0,4 12x20", "n gap across 8 at 32,4 8x20"}},
		{"a border is no padding", tree(`"display":"flex","padding":"5px","border-width":"2px","border-style":"solid","width":"50px"`, box(20, 10, "")),
			[]string{"n padding top 5 at 2,2 46x5", "n padding right 5 at 43,7 5x10", "n padding bottom 5 at 2,17 46x5", "n padding left 5 at 2,7 5x10"}},
		{"space between is room, not gap", tree(`"display":"flex","justify-content":"space-between","gap":"8px","width":"100px"`, box(20, 10, ""), box(30, 10, "")),
			[]string{"n room across 50 at 20,0 50x10"}},
		{"a stack", tree(`"display":"flex","flex-direction":"column","gap":"6px","width":"100px"`, box(20, 10, ""), box(30, 10, ""), box(30, 10, "")),
			[]string{"n gap down 6 at 0,10 100x6", "n gap down 6 at 0,26 100x6"}},
		{"a stack whose children stand side by side of each other in no line", tree(`"display":"flex","flex-direction":"column","width":"100px"`, box(20, 10, ""), box(30, 10, "")), nil},
		{"a row that wraps", tree(`"display":"flex","flex-wrap":"wrap","gap":"4px 10px","width":"100px"`, box(40, 10, ""), box(40, 10, ""), box(40, 12, "")),
			[]string{"n gap across 10 at 40,0 10x10", "n gap down 4 at 0,10 100x4"}},
		{"a grid", tree(`"display":"grid","grid-template-columns":"30px 30px","gap":"5px 7px","width":"100px"`, box(30, 10, ""), box(30, 10, ""), box(30, 10, ""), box(30, 10, "")),
			[]string{"n gap down 5 at 0,10 100x5", "n gap across 7 at 30,0 7x10", "n gap across 7 at 30,15 7x10"}},
		{"equals that overlap", tree(`"display":"flex","width":"100px"`, box(20, 20, ""), box(20, 20, `,"margin-left":"-6px"`)),
			[]string{"n overlap across -6 at 14,0 6x20"}},
		{"what is out of flow counts for nothing", tree(`"display":"flex","position":"relative","gap":"8px","width":"100px"`, box(20, 10, ""), box(9, 9, `,"position":"absolute","right":"0px"`), box(20, 10, "")),
			[]string{"n gap across 8 at 20,0 8x10"}},
		{"right to left", tree(`"display":"flex","direction":"rtl","gap":"8px","width":"100px"`, box(20, 10, ""), box(30, 10, "")),
			[]string{"n gap across 8 at 72,0 8x10"}},
		{"no padding is measured of a leaf without text", `{"name":"leaf","style":{"padding":"4px","width":"10px"}}`, nil},
	} {
		assert.ElementsMatch(t, c.want, stripsOf(t, c.tree, 400), c.what)
	}
}

// Along a row, strips and children together are the whole content box; nothing
// is measured twice or left out.
func TestStripsAddUp(t *testing.T) {
	for seed := range uint64(200) {
		r := rand.New(rand.NewPCG(seed, 9))
		n := &Node{Name: "row", Style: Style{"display": "flex", "width": fmt.Sprintf("%dpx", 300+r.IntN(400)), "gap": fmt.Sprintf("%dpx", r.IntN(20)),
			"justify-content": []string{"space-between", "start"}[r.IntN(2)], "padding": fmt.Sprintf("%dpx", r.IntN(30))}}
		for range 2 + r.IntN(5) {
			n.Children = append(n.Children, &Node{Name: "b", Style: Style{"width": fmt.Sprintf("%dpx", 10+r.IntN(40)), "height": "20px", "flex": []string{"none", "1 1 0"}[r.IntN(2)]}})
		}
		solved, found := Solve(n, Options{Width: 1000})
		require.NotNil(t, solved, found)
		sum := 0.0
		for _, s := range Strips(solved) {
			if s.Side != "top" && s.Side != "bottom" {
				sum += s.Size
			}
			assert.NotEqual(t, LapStrip, s.Kind, "seed %d", seed)
		}
		last := solved.Children[len(solved.Children)-1].Box
		for _, c := range solved.Children {
			sum += c.Box.Width
		}
		end := solved.Box.Content.right() - last.X - last.Width // what is left at the end is between nothing
		assert.InDelta(t, solved.Box.Width, sum+end, 0.3, "seed %d", seed)
	}
}
