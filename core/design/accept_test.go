package design

import (
	"bytes"
	"encoding/json"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/problem"
)

// whole holds every member a design document may have.
const whole = `{
 "format": "cobrik.design/1", "id": "d", "name": "Bed", "note": "n", "author": "Ines, plot 41",
 "assets": [{"id": "a", "source": "data:image/png;base64,AA", "width": 4, "height": 2}],
 "pages": [{"id": "p", "name": "Plots", "width": 390, "height": 800, "background": "#ffffff", "layers": [
  {"id": "u", "name": "Use", "kind": "instance", "bounds": {"x": 1, "y": -2.5, "width": 10, "height": 0},
   "instance": {"family": "f", "choices": {"Size": "s"}, "exposes": ["Size"], "overrides": [{"layer": "Label", "text": "Größe \"x\" \u00e9", "hidden": true, "asset": "a", "alt": "A bed"}]}}]}],
 "families": [{"id": "f", "name": "Tag", "description": "", "do": ["Name one thing"], "dont": ["Shout"], "axes": [{"name": "Size", "values": ["s", "m"], "default": "s"}],
  "variants": [{"id": "v", "choices": {"Size": "s"}, "root":
   {"id": "r", "name": "Root", "kind": "box", "bounds": {"x": 0, "y": 0, "width": 9, "height": 9}, "hidden": false, "opacity": 0.5, "rotation": -12, "clip": true, "blend": "multiply", "fill": "#123",
    "fills": [{"color": "#1238", "token": "t.a"}, {"gradient": {"kind": "linear", "angle": 45, "stops": [{"at": 0, "color": "red", "token": "t.b"}, {"at": 1, "color": "#000"}]}},
     {"gradient": {"kind": "radial", "center": [0.5, 0], "radii": [1, 0.5], "stops": [{"at": 0, "color": "red"}, {"at": 0.5, "color": "#000"}]}}],
    "shadows": [{"x": 1, "y": -1, "blur": 3, "spread": -2, "color": "#0004", "inset": true}], "limits": {"minWidth": 1, "maxWidth": 2, "minHeight": 1, "maxHeight": 2},
    "flatten": "svg", "repeats": false, "link": "/a", "slot": {"accepts": ["Tag"]},
    "stroke": {"color": "red", "width": 1, "sides": [1, 0, 1, 0]}, "radius": [1, 2, 3, 4], "tokens": {"gap": "space.2"}, "sizing": {"width": "fill", "height": "content"},
    "flow": {"direction": "grid", "columns": "1fr 2fr", "gap": -4, "across": 3, "padding": [1, 2], "align": "center", "distribute": "end", "wrap": true},
    "place": {"self": "start", "offset": {"x": 1, "y": 2}, "pins": {"horizontal": "left", "vertical": "center"}}, "alt": "a", "children": [
     {"id": "t", "name": "Label", "kind": "text", "bounds": {"x": 0, "y": 0, "width": 1, "height": 1},
      "text": {"content": "Sown\n", "fontFamily": "Hanken Grotesk", "fontSize": 12, "fontWeight": 400, "lineHeight": 16, "letterSpacing": -0.2, "align": "end",
       "runs": [{"text": "Sown", "strong": true, "emphasis": true, "code": true, "link": "#"}, {"text": "\n"}]}},
     {"id": "i", "name": "Icon", "kind": "vector", "bounds": {"x": 0, "y": 0, "width": 1, "height": 1},
      "vector": {"viewBox": [0, 0, 16, 16], "paths": [{"d": "M0 0L1 1Z", "fill": "none", "stroke": {"color": "#000", "width": 2, "cap": "round", "join": "bevel"}}]}},
     {"id": "g", "name": "Photo", "kind": "image", "bounds": {"x": 0, "y": 0, "width": 1, "height": 1}, "image": {"asset": "a", "fit": "contain"}}]}}]}]
}`

// values are what stands in for something else.
var values = []any{nil, true, "", "x", "grid", "box", "text", strings.Repeat("ö", 201), strings.Repeat("y", 20001), -1.0, 0.0, 0.5, 3.0, 361.0, 1e9, 1e300, []any{}, []any{1.0}, []any{"s", "s"}, map[string]any{}, map[string]any{"x": 1.0}}

// some gives one of the values, not shared with any other place.
func some(r *rand.Rand) any {
	text, err := json.Marshal(values[r.IntN(len(values))])
	if err != nil {
		panic(err)
	}
	var v any
	_ = json.Unmarshal(text, &v) // it was written a line above
	return v
}

// mutate changes one place of a JSON value at random and gives it back.
func mutate(r *rand.Rand, v any) any {
	if r.IntN(6) == 0 {
		return some(r)
	}
	switch v := v.(type) {
	case map[string]any:
		names := make([]string, 0, len(v))
		for name := range v {
			names = append(names, name)
		}
		slices.Sort(names)
		switch {
		case r.IntN(8) == 0 || len(names) == 0:
			v[[]string{"surplus", "id", "kind", "flow", "text", "children", "x"}[r.IntN(7)]] = some(r)
		case r.IntN(5) == 0:
			delete(v, names[r.IntN(len(names))])
		default:
			name := names[r.IntN(len(names))]
			v[name] = mutate(r, v[name])
		}
		return v
	case []any:
		switch {
		case len(v) == 0 || r.IntN(8) == 0:
			return append(v, some(r))
		case r.IntN(8) == 0:
			i := r.IntN(len(v))
			return slices.Delete(v, i, i+1)
		}
		i := r.IntN(len(v))
		v[i] = mutate(r, v[i])
		return v
	}
	return some(r)
}

// What is checked while a document is read is what its JSON Schema says: both give one
// answer for thousands of documents with something changed.
func TestReadingChecksWhatTheSchemaSays(t *testing.T) {
	judge := func(text []byte) bool {
		return problem.CheckJSON("d", text, Limits) == nil && schema.Validate("d", text) == nil
	}
	require.True(t, judge([]byte(whole)))
	require.True(t, schema.Accepts([]byte(whole), Limits))
	taken, refused := 0, 0
	for seed := range 8000 {
		r := rand.New(rand.NewPCG(uint64(seed), 7))
		var v any
		require.NoError(t, json.Unmarshal([]byte(whole), &v))
		for range 1 + r.IntN(2) {
			v = mutate(r, v)
		}
		text, err := json.Marshal(v)
		require.NoError(t, err)
		switch r.IntN(12) { // and what is no JSON, or no good one
		case 0:
			text = text[:r.IntN(len(text)+1)]
		case 1:
			text[r.IntN(len(text))] = "\x00\xff\",:{}[]0e"[r.IntN(11)]
		case 2:
			text = bytes.Replace(text, []byte(`"id":`), []byte(`"id":"again","id":`), 1)
		case 3:
			text = append(text, " {}"[r.IntN(3)])
		}
		want := judge(text)
		if want {
			taken++
		} else {
			refused++
		}
		require.Equal(t, want, schema.Accepts(text, Limits), "seed %d: %s%s in %s", seed, problem.CheckJSON("d", text, Limits), schema.Validate("d", text), text)
	}
	assert.Greater(t, taken, 400)
	assert.Greater(t, refused, 3000)

	deep := strings.Replace(whole, `"children": [`, `"children": [`+strings.Repeat(`{"id":"z","name":"z","kind":"box","bounds":{"x":0,"y":0,"width":1,"height":1},"children":[`, 260)+strings.Repeat(`]}`, 260)+`,`, 1)
	assert.False(t, judge([]byte(deep)))
	assert.False(t, schema.Accepts([]byte(deep), Limits), "deeper than the limit")
	assert.False(t, schema.Accepts([]byte(whole), problem.Limits{Bytes: 10, Depth: 512}))
}
