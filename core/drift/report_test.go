package drift_test

import (
	"encoding/xml"
	"fmt"
	"io"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/drift"
)

func points() []drift.DriftPoint {
	tag := drift.Stand{Slug: "crop-tag", Name: "CropTag", Version: "1.0.0", Facts: 100, Released: true}
	card := drift.Stand{Slug: "plot-card", Name: "Plot<Card>", Facts: 50, Code: 2}
	moved := tag
	moved.Design, moved.Several, moved.Contract = 4, 1, 2
	taken := tag
	taken.Facts, taken.Apart, taken.Released = 102, 1, false
	return []drift.DriftPoint{
		{ID: 1, At: on(1, 8), Why: "begun", Components: []drift.Stand{tag, card}},
		{ID: 2, At: on(2, 8), Why: "Furrow revision 2", Components: []drift.Stand{moved, card}},
		{ID: 3, At: on(4, 8), Why: "decided", Components: []drift.Stand{taken, {Slug: "tool-row", Name: "ToolRow", Facts: 10}}},
	}
}

// The numbers of a report are those of its two ends, by hand.
func TestAReportComparesItsEnds(t *testing.T) {
	r, ok := drift.Reported("Hollowbeck", points(), rulings())
	require.True(t, ok)
	assert.Equal(t, [2]int{1, 2}, r.Level)
	assert.Equal(t, [2]int{2, 0}, r.Open)
	assert.Len(t, r.Way, 3)
	assert.Equal(t, drift.Count{At: on(2, 8), Why: "Furrow revision 2", Level: 0, Of: 2, Design: 4, Contract: 2, Code: 2, Several: 1}, r.Way[1])
	require.Len(t, r.Changes, 3)
	assert.Nil(t, r.Changes[1].To, "PlotCard went")
	assert.Nil(t, r.Changes[2].From, "ToolRow came")
	var decided []int64
	for _, d := range r.Decided {
		decided = append(decided, d.ID)
	}
	assert.Equal(t, []int64{1, 2}, decided, "what was undone is not told")
	md := r.Markdown()
	assert.Contains(t, md, "2 of 2 components are level; 1 of 2 were. 0 moves wait to be decided; 2 did. The contracts say 112 facts.")
	assert.Contains(t, md, "| CropTag | 1.0.0, changed since | 102 (100) | 0 | 0 | 0 | 0 | 1 (0) |")
	assert.Contains(t, md, "| ToolRow | draft | 10 | 0 |")
	assert.Contains(t, md, "1 left in the code, 1 put back in the code, 1 taken from the code")
	html := r.HTML()
	assert.Contains(t, html, `class="moved"><td>CropTag`)
	assert.NotContains(t, html, "<Card>")

	_, ok = drift.Reported("x", nil, nil)
	assert.False(t, ok)
	early, _ := drift.Reported("x", points()[:2], rulings())
	require.Len(t, early.Decided, 1, "what was decided after the last point is not told")
	assert.EqualValues(t, 1, early.Decided[0].ID)
	late, _ := drift.Reported("x", points()[1:], rulings())
	assert.Len(t, late.Decided, 1, "what was decided before the first point is not told")
}

var steps = regexp.MustCompile(`([MHV])([\d.]+)(?: ([\d.]+))?`)

// A line of the plot goes through its numbers: read back from its path, on the scale of its ticks.
func TestThePlotShowsItsNumbers(t *testing.T) {
	for _, most := range []int{1, 3, 4, 7, 40, 999, 123456} {
		ps := points()
		ps[1].Components[0].Design = most
		r, _ := drift.Reported(`A "B" & <C>`, ps, nil)
		svg := r.Plot()
		decoder := xml.NewDecoder(strings.NewReader(svg))
		var paths []string
		scale := map[float64]float64{} // y of a tick to its number
		for {
			token, err := decoder.Token()
			if err == io.EOF {
				break
			}
			require.NoError(t, err, svg)
			e, ok := token.(xml.StartElement)
			if !ok {
				continue
			}
			at := map[string]string{}
			for _, a := range e.Attr {
				at[a.Name.Local] = a.Value
			}
			switch {
			case e.Name.Local == "path" && at["fill"] == "none":
				paths = append(paths, at["d"])
			case e.Name.Local == "text" && at["x"] == "34":
				text, _ := decoder.Token()
				n, err := strconv.ParseFloat(string(text.(xml.CharData)), 64)
				require.NoError(t, err)
				y, _ := strconv.ParseFloat(at["y"], 64)
				scale[y-4] = n
			}
		}
		require.Len(t, paths, 4)
		require.GreaterOrEqual(t, len(scale), 2, "a scale has two ticks at least")
		require.LessOrEqual(t, len(scale), 6)
		var ys, ns []float64
		for y, n := range scale {
			ys, ns = append(ys, y), append(ns, n)
		}
		number := func(y float64) float64 { return ns[0] + (y-ys[0])*(ns[1]-ns[0])/(ys[1]-ys[0]) }
		var got []float64
		var x []float64
		for _, m := range steps.FindAllStringSubmatch(paths[0], -1) {
			n, _ := strconv.ParseFloat(m[2], 64)
			switch m[1] {
			case "M":
				y, _ := strconv.ParseFloat(m[3], 64)
				x, got = append(x, n), append(got, number(y))
			case "H":
				x = append(x, n)
			case "V":
				got = append(got, number(n))
			}
		}
		for i, want := range []int{0, most, 0} {
			assert.InDelta(t, want, got[i], float64(most)/100+.02, "%s: at point %d", fmt.Sprint(most), i)
		}
		assert.InDelta(t, (x[1]-x[0])*2, x[2]-x[1], 0.3, "one day, then two")
	}
}

func TestWhatHappenedIsTold(t *testing.T) {
	last := points()[0]
	for name, c := range map[string]struct {
		change func(p *drift.DriftPoint)
		want   string
	}{
		"a design":      {func(p *drift.DriftPoint) { p.Design = "Furrow revision 3, Gate signs revision 1" }, "Furrow revision 3"},
		"code":          {func(p *drift.DriftPoint) { p.Code = "commit c9aca01" }, "commit c9aca01"},
		"no code":       {func(p *drift.DriftPoint) { p.Code = "" }, "the code is not read any more"},
		"a component":   {func(p *drift.DriftPoint) { p.Components[0].Apart = 1 }, "CropTag"},
		"one that went": {func(p *drift.DriftPoint) { p.Components = p.Components[:1] }, "a component went"},
		"many": {func(p *drift.DriftPoint) {
			for _, name := range []string{"A", "B", "C", "D", "E"} {
				p.Components = append(p.Components, drift.Stand{Slug: name, Name: name})
			}
		}, "A, B, C, 2 more"},
	} {
		last.Design, last.Code = "Furrow revision 2, Gate signs revision 1", "commit 1111111"
		now := points()[0]
		now.Design, now.Code = last.Design, last.Code
		c.change(&now)
		assert.Equal(t, c.want, drift.Why(last, now), name)
	}
}
