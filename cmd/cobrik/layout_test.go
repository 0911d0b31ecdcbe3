package main_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func save(t *testing.T, name, text string) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), name)
	require.NoError(t, os.WriteFile(file, []byte(text), 0o644))
	return file
}

func TestLayoutSolve(t *testing.T) {
	file := save(t, "row.json", `{"style":{"display":"flex","gap":"10px","width":"50vw"},"children":[{"style":{"flex":1,"height":"20px"}},{"text":"rota","style":{"font-size":"20px","line-height":"24px"}}]}`)
	out, errs, ok := run(t, "layout", "solve", file, "--width", "400", "--json")
	require.True(t, ok, errs)
	var n struct {
		Box      struct{ X, Y, Width, Height float64 }
		Children []struct {
			Box struct{ X, Width, Height float64 }
		}
	}
	require.NoError(t, json.Unmarshal([]byte(out), &n))
	assert.Equal(t, 200.0, n.Box.Width)
	assert.Equal(t, 24.0, n.Box.Height)
	assert.Equal(t, n.Children[0].Box.Width+10, n.Children[1].Box.X)
	again := save(t, "again.json", out)
	_, errs, ok = run(t, "layout", "solve", again)
	assert.True(t, ok, "what is printed is read again: %s", errs)

	_, errs, ok = run(t, "layout", "solve", save(t, "bad.json", "{\n \"style\": {\"width\": \"-4px\"}}"))
	assert.False(t, ok)
	assert.Contains(t, errs, "bad.json:2:")
	assert.Contains(t, errs, "negative")
	_, _, ok = run(t, "layout", "solve", file, "--width", "-1")
	assert.False(t, ok)
}

// The demo's pages hold groups nobody made into a family, without any flow.
func TestLayoutInferReadsTheDemosPages(t *testing.T) {
	for _, page := range []string{"plots", "plots-narrow", "tool-shed"} {
		out, errs, ok := run(t, "layout", "infer", furrow+"furrow-3.design.json", "--layer", page, "--json")
		require.True(t, ok, errs)
		var answer struct {
			Inference struct {
				Root     struct{ Kind string }
				Residual float64
				Untidy   []string
			}
			Tree json.RawMessage
		}
		require.NoError(t, json.Unmarshal([]byte(out), &answer))
		assert.Equal(t, "stack", answer.Inference.Root.Kind)
		for _, u := range answer.Inference.Untidy { // the cards' pictures lie over their 1 px line
			assert.Contains(t, u, "Picture", page)
		}
		assert.LessOrEqual(t, answer.Inference.Residual, 1.0, page)
		_, errs, ok = run(t, "layout", "sweep", save(t, "tree.json", string(answer.Tree)), "--json")
		assert.True(t, ok, errs)
	}
	_, errs, ok := run(t, "layout", "infer", furrow+"furrow-3.design.json", "--layer", "nothing")
	assert.False(t, ok)
	assert.Contains(t, errs, "plots-narrow", "it says what there is")
}

func TestFromSVGToContainers(t *testing.T) {
	svg := save(t, "bar.svg", `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="48"><rect id="bar" width="300" height="48" fill="#fff"/>
		<rect id="logo" x="12" y="12" width="24" height="24" fill="red"/><circle id="menu" cx="276" cy="24" r="12"/><script>1</script></svg>`)
	doc := filepath.Join(t.TempDir(), "bar.design.json")
	out, errs, ok := run(t, "design", "import", svg, "--out", doc)
	require.True(t, ok, errs)
	assert.Contains(t, out, doc)
	assert.Contains(t, errs, "scripts are never kept")
	for _, file := range []string{svg, doc} {
		out, errs, ok = run(t, "layout", "infer", file)
		require.True(t, ok, errs)
		assert.Contains(t, out, "row, space between, padding 12")
		assert.Contains(t, out, "furthest from its place: 0 px")
	}
	out, errs, ok = run(t, "design", "draw", svg)
	require.True(t, ok, errs)
	assert.Contains(t, out, "<svg")
}

func TestLayoutOfAContract(t *testing.T) {
	drafted, errs, ok := run(t, append([]string{"contract", "draft", furrow + "furrow-3.design.json", "--family", "ToolRow"}, tokens...)...)
	require.True(t, ok, errs)
	file := save(t, "tool-row.json", drafted)
	out, errs, ok := run(t, append([]string{"layout", "solve", file}, tokens...)...)
	require.True(t, ok, errs)
	assert.Contains(t, out, "dueNote")
	out, errs, ok = run(t, append([]string{"layout", "sweep", file}, tokens...)...)
	require.True(t, ok, errs)
	assert.Contains(t, out, "wider than its container")
}

func TestLayoutSweep(t *testing.T) {
	file := save(t, "wide.json", `{"name":"row","style":{"display":"flex"},"children":[{"style":{"flex":"none","width":"300px"}},{"style":{"flex":"none","width":"100px"}}]}`)
	out, errs, ok := run(t, "layout", "sweep", file)
	require.True(t, ok, errs)
	assert.Contains(t, out, "160 to 399 px  row: row that should wrap")
	assert.Contains(t, out, "switch at 400 px")
}
