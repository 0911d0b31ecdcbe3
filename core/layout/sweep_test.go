package layout

import (
	"encoding/json"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func parse(t testing.TB, text string) *Node {
	t.Helper()
	n, found := Read("tree.json", []byte(text))
	require.NotNil(t, n, found.Error())
	return n
}

const bar = `{"name":"bar","style":{"display":"flex","gap":"8px","padding":"0 16px"},"children":[
	{"name":"logo","style":{"flex":"none","width":"120px","height":"40px"}},
	{"name":"search","style":{"flex":"1 1 200px","min-width":"200px","height":"40px"}},
	{"name":"menu","target":true,"style":{"flex":"none","width":"20px","height":"40px"}}]}`

// Each trouble is found at the very width it begins: compared with every whole
// width laid out.
func TestSweepFindsWhatEveryWidthShows(t *testing.T) {
	for _, text := range []string{
		bar,
		`{"name":"note","children":[{"text":"wheelbarrows behind the canal","style":{"padding":"0 40%"}}]}`,
		`{"name":"fluid","children":[{"text":"small","style":{"font-size":"2vw"}}]}`,
		`{"name":"cut","style":{"display":"flex"},"children":[{"text":"one long line of text","style":{"white-space":"nowrap","overflow":"hidden","min-width":0}},{"style":{"width":"200px","flex":"none","height":"10px"}}]}`,
		`{"name":"over","style":{"display":"grid","grid-template-columns":"1fr 1fr"},"children":[{"style":{"height":"10px"},"children":[{"style":{"width":"150px","height":"10px"}}]},{"style":{"height":"10px","margin-left":"calc(100px - 20vw)"}}]}`,
		`{"name":"turn","style":{"display":"flex","flex-direction":"column"},"at":[{"from":500,"style":{"flex-direction":"row"}}],"children":[{"style":{"flex":"none","width":"280px","height":"9px"}},{"style":{"flex":"none","width":"280px","height":"9px"}}]}`,
	} {
		n := parse(t, text)
		w := SweepOptions{Options: testOptions()}
		got, found := Sweep(n, w)
		require.NotNil(t, got, found.Error())
		require.NotEmpty(t, got.Bands, text)
		all := sweeper{root: n, w: SweepOptions{Options: testOptions(), From: 160, To: 1600, Drawn: 1600, MinText: 12}, at: map[float64]map[trouble]string{}, paths: pathsOf(n)}
		drawn, _ := solve(n, Options{Width: 1600, Fonts: testOptions().Fonts})
		all.meant = overlaps(drawn, nil)
		for width := 160.0; width <= 1600; width++ {
			all.look(width)
		}
		assert.Equal(t, all.report().Bands, got.Bands, text)
		assert.Less(t, got.Solves, 200, "found by halving, not by every width")
	}
}

func TestSweepSaysWhatToDo(t *testing.T) {
	got, _ := Sweep(parse(t, bar), SweepOptions{Options: testOptions()})
	kinds := map[string]Band{}
	for _, b := range got.Bands {
		kinds[b.Kind] = b
	}
	// 120 + 200 + 20 px of boxes, two gaps, two paddings.
	assert.Equal(t, 387.0, kinds[SpillingRow].To)
	assert.Equal(t, "bar", kinds[SpillingRow].Part)
	assert.Equal(t, 1600.0, kinds[SmallTarget].To)
	assert.Contains(t, kinds[SmallTarget].Reason, "20 by 40")
	require.NotEmpty(t, got.Proposals)
	assert.Equal(t, 388.0, got.Proposals[0].At)
	text, err := json.Marshal(got)
	require.NoError(t, err)
	assert.Contains(t, string(text), `"kind":"row that should wrap"`)
}

func TestSweepOfARangeThatIsNone(t *testing.T) {
	for _, w := range []SweepOptions{{From: 400, To: 300}, {From: -1, To: 300}, {From: 1, To: math.Inf(1)}, {From: nan, To: 300}} {
		got, found := Sweep(parse(t, bar), w)
		assert.Nil(t, got)
		assert.True(t, found.Failed())
	}
}

func BenchmarkSweep(b *testing.B) {
	n := parse(b, bar)
	n.Children = append(n.Children, slices.Repeat(n.Children[:1], 1)...)
	page := &Node{Name: "page", Style: Style{"display": "flex", "flex-direction": "column", "gap": "8px"}}
	for range 6 {
		page.Children = append(page.Children, parse(b, bar), parse(b, `{"style":{"display":"grid","grid-template-columns":"repeat(auto-fill, minmax(200px, 1fr))"},"children":[{"text":"potatoes"},{"text":"beans"},{"text":"squash"}]}`))
	}
	for b.Loop() {
		if s, found := Sweep(page, SweepOptions{Options: testOptions()}); s == nil {
			b.Fatal(found)
		}
	}
}

// What is pinned at both ends comes together where it is narrow; what lies over something as drawn is meant to.
func TestSweepFindsPinnedSiblingsThatMeet(t *testing.T) {
	n := parse(t, `{"name":"bar","style":{"position":"relative","height":"40px"},"children":[
		{"name":"base","style":{"width":"100%","height":"40px"}},
		{"name":"left","style":{"position":"absolute","left":"8px","top":"4px","width":"200px","height":"30px"}},
		{"name":"right","style":{"position":"absolute","right":"8px","top":"4px","width":"120px","height":"30px"}}]}`)
	got, found := Sweep(n, SweepOptions{Options: testOptions()})
	require.NotNil(t, got, found.Error())
	require.Len(t, got.Bands, 1, "%+v", got.Bands)
	assert.Equal(t, Overlapping, got.Bands[0].Kind)
	assert.Equal(t, 335.0, got.Bands[0].To, "8 + 200 + 120 + 8 px are needed")
	assert.Contains(t, got.Bands[0].Node+got.Bands[0].Reason, "right")
	assert.Contains(t, got.Bands[0].Node+got.Bands[0].Reason, "left")
}

// What can be scrolled to is not lost, but what is hidden is.
func TestSweepLeavesScrollContainersAlone(t *testing.T) {
	for overflow, troubled := range map[string]bool{`"overflow-x":"auto"`: false, `"overflow":"scroll"`: false, `"overflow":"auto hidden"`: false, `"overflow-x":"hidden"`: true, `"overflow":"hidden auto"`: true, `"overflow-y":"auto"`: false} {
		n := parse(t, `{"name":"strip","style":{`+overflow+`},"children":[{"name":"row","style":{"display":"flex","gap":"8px"},"children":[
			{"name":"a","style":{"flex":"none","width":"150px","height":"20px"}},{"name":"b","style":{"flex":"none","width":"150px","height":"20px"}},
			{"name":"words","text":"one long line of words","style":{"flex":"none","white-space":"nowrap","width":"60px"}}]}]}`)
		got, found := Sweep(n, SweepOptions{Options: testOptions()})
		require.NotNil(t, got, found.Error())
		assert.Equal(t, troubled, len(got.Bands) > 0, "%s: %+v", overflow, got.Bands)
	}
}
