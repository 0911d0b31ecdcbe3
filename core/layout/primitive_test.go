package layout

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func plain(count int) []*Node {
	var out []*Node
	for range count {
		out = append(out, &Node{Style: Style{"height": "10px"}})
	}
	return out
}

// What a primitive stands for, laid out 320 px wide: where its children are.
func TestPrimitives(t *testing.T) {
	for _, c := range []struct {
		name     string
		props    map[string]string
		children int
		want     [][4]float64
	}{
		{"stack", map[string]string{"gap": "8px"}, 2, [][4]float64{{0, 0, 320, 10}, {0, 18, 320, 10}}},
		{"row", map[string]string{"distribute": "space-between"}, 2, [][4]float64{{0, 0, 0, 10}, {320, 0, 0, 10}}},
		{"split", map[string]string{"shares": "1 3"}, 2, [][4]float64{{0, 0, 80, 10}, {80, 0, 240, 10}}},
		{"split", map[string]string{"shares": "2 1", "gap": "20px"}, 2, [][4]float64{{0, 0, 200, 10}, {220, 0, 100, 10}}},
		{"split", map[string]string{"shares": "1 2 1"}, 3, [][4]float64{{0, 0, 80, 10}, {80, 0, 160, 10}, {240, 0, 80, 10}}},
		{"split", map[string]string{"shares": "content 1"}, 2, [][4]float64{{0, 0, 0, 10}, {0, 0, 320, 10}}},
		{"split", nil, 4, [][4]float64{{0, 0, 80, 10}, {80, 0, 80, 10}, {160, 0, 80, 10}, {240, 0, 80, 10}}}, // none given is equal shares
		{"grid", map[string]string{"columns": "3", "gap": "10px"}, 3, [][4]float64{{0, 0, 100, 10}, {110, 0, 100, 10}, {220, 0, 100, 10}}},
		{"grid", map[string]string{"minimum": "100px", "gap": "10px"}, 4, [][4]float64{{0, 0, 100, 10}, {110, 0, 100, 10}, {220, 0, 100, 10}, {0, 20, 100, 10}}},
		{"grid", map[string]string{"minimum": "400px"}, 1, [][4]float64{{0, 0, 320, 10}}},
		{"container", map[string]string{"maximum": "200px", "padding": "10px"}, 1, [][4]float64{{10, 0, 200, 10}}},
		{"overlay", map[string]string{"pin": "top-right", "offset": "4px"}, 2, [][4]float64{{0, 0, 320, 10}, {316, 4, 0, 10}}},
		{"overlay", map[string]string{"pin": "center"}, 2, [][4]float64{{0, 0, 320, 10}, {160, 0, 0, 10}}},
	} {
		n, err := Compose(c.name, c.props, plain(c.children)...)
		require.NoError(t, err)
		solved, found := Solve(n, Options{Width: 320})
		require.Empty(t, found, "%s %v", c.name, c.props)
		for i, want := range c.want {
			b := solved.Children[i].Box
			assert.InDeltaSlice(t, want[:], []float64{b.X, b.Y, b.Width, b.Height}, 0.01, "%s %v, child %d", c.name, c.props, i)
		}
	}
	_, err := Compose("stack", map[string]string{"align": "middle"})
	assert.ErrorContains(t, err, "stretch, start")
	_, err = Compose("pile", nil)
	assert.Error(t, err)
	_, err = Compose("row", map[string]string{"gutter": "1px"})
	assert.Error(t, err)
}

func TestSpacerTakesWhatIsLeft(t *testing.T) {
	spacer, err := Compose("spacer", nil)
	require.NoError(t, err)
	box := &Node{Style: Style{"width": "50px"}}
	row, err := Compose("row", nil, box, spacer, box)
	require.NoError(t, err)
	solved, _ := Solve(row, Options{Width: 320})
	assert.Equal(t, 270.0, solved.Children[2].Box.X)
}

// A style from a width on holds there and not before.
func TestSwitchPoints(t *testing.T) {
	n := &Node{Style: Style{"display": "flex", "flex-direction": "column"}, At: []Switch{{From: 600, Style: Style{"flex-direction": "row"}}},
		Children: []*Node{{Style: Style{"width": "40px", "height": "10px"}}, {Style: Style{"width": "40px", "height": "10px"}}}}
	for width, want := range map[float64]float64{599: 20, 600: 10} {
		solved, found := Solve(n, Options{Width: width})
		require.Empty(t, found)
		assert.Equal(t, want, solved.Box.Height, "at %g px", width)
	}
	inside := &Node{Style: Style{"width": "300px", "container-type": "inline-size"}, Children: []*Node{{Style: Style{"height": "1px"}, At: []Switch{{From: 400, Container: true, Style: Style{"height": "9px"}}}}}}
	solved, _ := Solve(inside, Options{Width: 1000})
	assert.Equal(t, 1.0, solved.Box.Height, "the container is 300 px wide, the viewport 1000")
}

// The documentation names every primitive with its props.
func TestPrimitivesAreDocumented(t *testing.T) {
	text, err := os.ReadFile("../../docs/layout.md")
	require.NoError(t, err)
	rows := map[string]string{}
	for line := range strings.Lines(string(text)) {
		if cells := strings.Split(line, "|"); len(cells) > 3 {
			rows[strings.TrimSpace(cells[1])] = cells[2]
		}
	}
	for _, p := range Primitives {
		require.Contains(t, rows, p.Name)
		for _, prop := range p.Props {
			assert.Contains(t, rows[p.Name], prop.Name, p.Name)
			for _, option := range prop.Options {
				assert.NotEmpty(t, option)
			}
		}
	}
}

// Shares are written as tracks and read back; what is no share, and what is no split, is told.
func TestSharesOfASplit(t *testing.T) {
	for _, shares := range append([]string{"1 1 1 1 1", "content 2 content", "1.5 0.5"}, Shares...) {
		tracks, ok := ColumnsOf(shares)
		require.True(t, ok, shares)
		back, ok := SharesOf(tracks)
		assert.True(t, ok, tracks)
		assert.Equal(t, shares, back)
	}
	for _, wrong := range []string{"", "1", "content content", "0 1", "-1 1", "1/2", "1fr 1fr", "wide 1", "1 1e9", "NaN 1", "inf 1"} {
		_, ok := ColumnsOf(wrong)
		assert.False(t, ok, "%q is taken", wrong)
	}
	for _, tracks := range []string{"none", "1fr", "100px 1fr", "minmax(0, 1fr) 1fr", "repeat(2, 1fr)", "auto auto"} {
		_, ok := SharesOf(tracks)
		assert.False(t, ok, "%s is read as a split", tracks)
	}
}
