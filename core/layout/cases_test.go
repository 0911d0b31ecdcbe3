package layout

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// cases are trees made by hand for sentences the random ones seldom meet. A
// case says where some boxes are; the browser is asked about all of them.
var cases = []struct {
	says string // the sentence, and where it stands
	tree string
	want map[string][4]float64 // by path: x, y, width, height
}{
	{"Two columns of 50% and a gap overflow by the gap (common practice, no source)",
		`{"style":{"display":"flex","width":"600px","gap":"1rem"},"children":[{"style":{"flex":"none","width":"50%"}},{"style":{"flex":"none","width":"50%"}}]}`,
		map[string][4]float64{"1": {316, 0, 300, 0}}},
	{"Two columns of 1fr do not (common practice, no source)",
		`{"style":{"display":"grid","width":"600px","grid-template-columns":"1fr 1fr","gap":"1rem"},"children":[{},{}]}`,
		map[string][4]float64{"1": {308, 0, 292, 0}}},
	{"An em follows the box's own font size, a rem does not (CSS Values 4, 6.1)",
		`{"style":{"display":"flex","width":"max-content","font-size":"1.2rem","padding":"1em 2em","gap":".5em"},"children":[{"style":{"width":"1rem","height":"1em"}},{"style":{"width":"1rem"}}]}`,
		map[string][4]float64{"": {0, 0, 38.4*2 + 16*2 + 9.6, 19.2 * 3}, "1": {38.4 + 16 + 9.6, 19.2, 16, 19.2}}},
	{"A marker centred on a track sits at calc(50% - 8px) (common practice, no source)",
		`{"style":{"position":"relative","width":"200px","height":"8px"},"children":[{"style":{"position":"absolute","width":"16px","height":"16px","left":"calc(50% - 8px)","top":"calc(50% - 8px)"}}]}`,
		map[string][4]float64{"0": {92, -4, 16, 16}}},
	{"Overlapping pictures are a negative margin (common practice, no source)",
		`{"style":{"display":"flex","width":"200px"},"children":[{"style":{"width":"40px","height":"40px"}},{"style":{"width":"40px","margin-left":"-12px"}},{"style":{"width":"40px","margin-left":"-12px"}}]}`,
		map[string][4]float64{"1": {28, 0, 40, 40}, "2": {56, 0, 40, 40}}},
	{"Space between keeps both ends (CSS Box Alignment 3, 4.2)",
		`{"style":{"display":"flex","width":"500px","justify-content":"space-between"},"children":[{"style":{"width":"50px"}},{"style":{"width":"70px"}},{"style":{"width":"60px"}}]}`,
		map[string][4]float64{"0": {0, 0, 50, 0}, "1": {210, 0, 70, 0}, "2": {440, 0, 60, 0}}},
	{"Flex factors below 1 take only their part (CSS Flexbox 1, 9.7, 4)",
		`{"style":{"display":"flex","width":"400px"},"children":[{"style":{"flex":"0.25 1 100px"}},{"style":{"flex":"0.25 1 100px"}}]}`,
		map[string][4]float64{"0": {0, 0, 150, 0}, "1": {150, 0, 150, 0}}},
	{"An item does not shrink under its content (CSS Flexbox 1, 4.5)",
		`{"style":{"display":"flex","width":"100px"},"children":[{"style":{"width":"90px"},"children":[{"style":{"width":"80px"}}]},{"style":{"width":"90px"}}]}`,
		map[string][4]float64{"0": {0, 0, 80, 0}, "1": {80, 0, 20, 0}}},
	{"Shares below 1fr leave room (CSS Grid 2, 12.7.1)",
		`{"style":{"display":"grid","width":"400px","grid-template-columns":"0.25fr 0.25fr"},"children":[{},{}]}`,
		map[string][4]float64{"1": {100, 0, 100, 0}}},
	{"Margins of neighbours collapse to the larger (CSS 2.2, 8.3.1)",
		`{"style":{"width":"100px"},"children":[{"style":{"height":"10px","margin-bottom":"20px"}},{"style":{"height":"10px","margin-top":"12px"}}]}`,
		map[string][4]float64{"": {0, 0, 100, 40}, "1": {0, 30, 100, 10}}},
	{"A margin above the first child leaves its parent, unless padding holds it (CSS 2.2, 8.3.1)",
		`{"style":{"width":"100px"},"children":[{"children":[{"style":{"height":"10px","margin-top":"8px"}}]},{"style":{"padding-top":"1px"},"children":[{"style":{"height":"10px","margin-top":"8px"}}]}]}`,
		map[string][4]float64{"0/0": {0, 0, 100, 10}, "1/0": {0, 19, 100, 10}}},
	{"auto-fill makes as many tracks as fit (CSS Grid 2, 7.2.3.2)",
		`{"style":{"display":"grid","width":"500px","grid-template-columns":"repeat(auto-fill, minmax(120px, 1fr))","gap":"10px"},"children":[{},{},{}]}`,
		map[string][4]float64{"2": {510.0/3*2 + 0, 0, (500.0 - 20) / 3, 0}}},
	{"auto-fit collapses empty ones (CSS Grid 2, 7.2.3.2)",
		`{"style":{"display":"grid","width":"500px","grid-template-columns":"repeat(auto-fit, minmax(100px, 1fr))"},"children":[{},{}]}`,
		map[string][4]float64{"1": {250, 0, 250, 0}}},
	{"A ratio makes the height of a stretched item of a column (CSS Sizing 4, 5.1)",
		`{"style":{"display":"grid","width":"320px","grid-template-columns":"1fr 1fr"},"children":[{"style":{"aspect-ratio":"16 / 9"}},{"style":{"aspect-ratio":"16 / 9","align-self":"start"}}]}`,
		map[string][4]float64{"0": {0, 0, 160, 90}, "1": {160, 0, 160, 90}}},
	{"In a right-to-left row the first item is at the right (CSS Writing Modes 4, 2.1)",
		`{"style":{"display":"flex","direction":"rtl","width":"200px"},"children":[{"style":{"width":"50px"}},{"style":{"width":"30px"}}]}`,
		map[string][4]float64{"0": {150, 0, 50, 0}, "1": {120, 0, 30, 0}}},
	{"In vertical-rl lines follow from right to left (CSS Writing Modes 4, 3.1)",
		`{"style":{"writing-mode":"vertical-rl","width":"200px","height":"100px"},"children":[{"style":{"width":"50px"}},{"style":{"width":"30px"}}]}`,
		map[string][4]float64{"0": {150, 0, 50, 100}, "1": {120, 0, 30, 100}}},
	{"cqw is of the nearest size container (CSS Containment 3, 4)",
		`{"style":{"width":"400px"},"children":[{"style":{"container-type":"inline-size","width":"50%"},"children":[{"style":{"width":"25cqw","height":"10px"}}]}]}`,
		map[string][4]float64{"0/0": {0, 0, 50, 10}}},
	{"vw is of the viewport (CSS Values 4, 6.1.2)",
		`{"style":{"width":"50vw"},"children":[{"style":{"width":"10vw","height":"5vh"}}]}`,
		map[string][4]float64{"": {0, 0, 512, 40}, "0": {0, 0, 102.4, 40}}},
	{"A border has whole pixels (CSS Values 4, 5.2)",
		`{"style":{"width":"100px","border":"1.7px solid","box-sizing":"border-box"},"children":[{"style":{"height":"10px"}}]}`,
		map[string][4]float64{"0": {1, 1, 98, 10}}},
	{"clamp() between percentages (CSS Values 4, 10.3)",
		`{"style":{"width":"400px"},"children":[{"style":{"width":"clamp(10%, 100px, 20%)","height":"max(5px, 0px)"}}]}`,
		map[string][4]float64{"0": {0, 0, 80, 5}}},
	{"Text that may not wrap overflows (CSS Text 3, 3)",
		`{"style":{"width":"40px"},"children":[{"style":{"white-space":"nowrap","line-height":"20px"},"text":"watering rota"}]}`,
		map[string][4]float64{"0": {0, 0, 40, 20}}},
}

func at(n *Node, path string) *Node {
	for step := range strings.SplitSeq(path, "/") {
		if step != "" {
			n = n.Children[int(step[0]-'0')]
		}
	}
	return n
}

func TestSentencesOfTheSpecifications(t *testing.T) {
	var trees []*Node
	for _, c := range cases {
		n := new(Node)
		require.NoError(t, json.Unmarshal([]byte(c.tree), n))
		trees = append(trees, n)
		solved, found := Solve(n, testOptions())
		require.Empty(t, found, c.says)
		for path, want := range c.want {
			b := at(solved, path).Box
			assert.InDeltaSlice(t, want[:], []float64{b.X, b.Y, b.Width, b.Height}, 0.01, "%s, at %q", c.says, path)
		}
	}
	for i, boxes := range openBrowser(t).measure(trees) {
		d := compare(trees[i], boxes)
		assert.LessOrEqual(t, d.distance, 0.5, "%s: %s", cases[i].says, d.where)
	}
}

// The numbers shown for overflow are those a page scrolls by.
func TestOverflowIsWhatABrowserScrollsBy(t *testing.T) {
	var trees []*Node
	for _, text := range []string{
		`{"style":{"width":"100px","height":"50px","overflow":"hidden"},"children":[{"style":{"width":"130px","height":"70px"}}]}`,
		`{"style":{"width":"40px","overflow":"hidden"},"children":[{"style":{"white-space":"nowrap"},"text":"watering rota"}]}`,
		`{"style":{"width":"100px","height":"20px","overflow":"clip"},"children":[{"style":{"overflow":"hidden","height":"30px"},"children":[{"style":{"height":"90px"}}]}]}`,
	} {
		n := new(Node)
		require.NoError(t, json.Unmarshal([]byte(text), n))
		trees = append(trees, n)
	}
	for i, boxes := range openBrowser(t).measure(trees) {
		solved, found := Solve(trees[i], testOptions())
		require.Empty(t, found)
		require.NotNil(t, solved.Box.Overflow)
		assert.InDelta(t, boxes[0].ScrollX, solved.Box.Overflow.X, 1)
		assert.InDelta(t, boxes[0].ScrollY, solved.Box.Overflow.Y, 1)
	}
}

// A value that cannot be read is named with its place, and nothing is solved.
func TestWrongInputIsNamed(t *testing.T) {
	for _, c := range []struct{ file, says string }{
		{`{"style":{"width":"-4px"}}`, "negative"},
		{`{"style":{"width":"NaN"}}`, "not a length"},
		{`{"style":{"width":"Infinity"}}`, "not a length"},
		{`{"style":{"width":"12"}}`, "no unit"},
		{`{"style":{"width":"calc(1px + 2)"}}`, "mixes a length and a number"},
		{`{"style":{"width":"calc(1px / 0)"}}`, "by 0"},
		{`{"style":{"flex-grow":-1}}`, "flex factor"},
		{`{"style":{"display":"table"}}`, "not laid out"},
		{`{"style":{"grid-template-columns":"repeat(auto-fill, 1fr)"}}`, "fixed size"},
		{`{"style":{"grid-row":"0"}}`, "grid line"},
		{`{"style":{"padding":"var(--space)"}}`, "outside"},
		{`{"style":{"display":"none"}}`, "not displayed"},
		{`{"styles":{}}`, "styles"},
		{`{"children":[null]}`, "null"},
		{`{"style":{"width":"` + strings.Repeat("calc(", 200) + "1px" + strings.Repeat(")", 200) + `"}}`, "nested"},
		{`{"style":{"width":"calc(` + strings.Repeat("1px + ", 2000) + `1px)"}}`, "bytes"},
		{strings.Repeat(`{"children":[`, 5000) + strings.Repeat(`]}`, 5000), "deeper"},
	} {
		n, found := Read("tree.json", []byte(c.file))
		if n != nil {
			var solved *Node
			solved, found = Solve(n, testOptions())
			assert.Nil(t, solved)
		}
		require.NotEmpty(t, found, c.file)
		assert.Contains(t, found.Error(), c.says)
	}
	_, found := Solve(&Node{}, Options{Width: nan})
	assert.True(t, found.Failed())
}

// Percentages that refer to each other end, as in a browser.
func TestCyclicPercentages(t *testing.T) {
	n := &Node{Style: Style{"display": "flex", "width": "fit-content"}, Children: []*Node{{Style: Style{"width": "200%", "height": "100%", "padding": "10%"},
		Children: []*Node{{Style: Style{"width": "50%", "min-width": "110%", "height": "50%"}}}}}}
	d := compare(n, openBrowser(t).measure([]*Node{n})[0])
	assert.LessOrEqual(t, d.distance, 0.5, d.where)
}

// The deepest tree that is read is solved in bounded time: a box is measured a
// few times, not twice a level.
func TestDeepTrees(t *testing.T) {
	n := &Node{Text: "end"}
	for i := range MaxDepth - 1 {
		style := Style{"display": "flex", "padding": "0.5%"}
		if i%2 == 0 {
			style["flex-direction"] = "column"
		}
		if i%5 == 0 {
			style["display"] = "grid"
		}
		n = &Node{Style: style, Children: []*Node{n}}
	}
	solved, found := Solve(n, testOptions())
	require.False(t, found.Failed(), found.Error())
	assert.NotNil(t, solved.Box)
}

func FuzzSolve(f *testing.F) {
	for _, c := range cases {
		f.Add([]byte(c.tree))
	}
	f.Fuzz(func(t *testing.T, text []byte) {
		n, found := Read("tree.json", text)
		if n == nil {
			require.True(t, found.Failed())
			return
		}
		solved, found := Solve(n, testOptions())
		if solved == nil {
			require.True(t, found.Failed())
			return
		}
		_, err := json.Marshal(solved) // every number is finite
		require.NoError(t, err)
	})
}

// A grid that asks for more cells than there is time for is still laid out.
func TestGridsThatAskForTooMuch(t *testing.T) {
	n := &Node{Style: Style{"display": "grid", "grid-auto-flow": "dense"}}
	for range 400 {
		n.Children = append(n.Children, &Node{Style: Style{"grid-row": "span 1000", "grid-column": "span 900"}}, &Node{Style: Style{"grid-row": "-900", "grid-column": "span 2"}})
	}
	solved, found := Solve(n, testOptions())
	require.NotNil(t, solved, found.Error())
}

// expression writes a calculation as CSS Values 4, 10 allows it.
func expression(g *generator, depth int) string {
	if depth == 0 {
		return g.pick("12px", "25%", "1.5em", "2rem", "3vw", "-8px", "1in", "6pt", "2ch", "5vh", "1e1px")
	}
	a, b := expression(g, depth-1), expression(g, depth-1)
	switch g.IntN(6) {
	case 0:
		return "(" + a + " + " + b + ")"
	case 1:
		return "calc(" + a + " - " + b + ")"
	case 2:
		return "min(" + a + ", " + b + ")"
	case 3:
		return "max(" + a + ", " + b + ", 4px)"
	case 4:
		return "clamp(10px, " + a + ", " + b + ")"
	}
	return "(" + a + " * " + g.pick("2", "0.5", "-1") + " / 3)"
}

// A length read wrong moves everything after it.
func TestCalculationsAreAsInTheBrowser(t *testing.T) {
	g := newGenerator(7, "")
	var trees []*Node
	for i := range 200 {
		trees = append(trees, &Node{Style: Style{"width": "400px", "font-size": "20px"}, Children: []*Node{
			{Style: Style{"width": "calc(40px + " + expression(g, 1+i%3) + ")", "height": "1px", "margin-left": "calc(" + expression(g, 1+i%2) + ")"}}}})
	}
	for i, boxes := range openBrowser(t).measure(trees) {
		d := compare(trees[i], boxes)
		assert.LessOrEqual(t, d.distance, 0.1, "%v: %s", trees[i].Children[0].Style, d.where)
	}
}
