package jsontree_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/jsontree"
	"cobrik/core/problem"
)

var limits = problem.Limits{Bytes: 1 << 20, Depth: 20}

func pretty(n *jsontree.Node) bool { return n.Kind == jsontree.Array }

// RFC 8259: what is read and written is the same value to encoding/json, in the
// same order, laid out or not.
func TestRoundTrip(t *testing.T) {
	for _, text := range []string{
		`{}`, `[]`, `null`, `true`, `-0.5e3`, `"a\"b\u00e9\n"`, `{"b":1,"a":[1,{"c":null}],"é":"x","a/b~c":{"":0}}`,
		"\n[ 1 , 2.50 ,\t\"\\ud83c\\udf31\" ]\n",
	} {
		n, found := jsontree.Read("f", []byte(text), limits)
		require.Empty(t, found, text)
		assert.JSONEq(t, text, string(n.Append(nil, nil)))
		laid := n.Append(nil, pretty)
		assert.JSONEq(t, text, string(laid))
		again, found := jsontree.Read("f", laid, limits)
		require.Empty(t, found)
		assert.Equal(t, string(laid), string(again.Append(nil, pretty)), "writing again must change nothing")
	}
	n, _ := jsontree.Read("f", []byte(`{"z":1.50,"a":2}`), limits)
	assert.Equal(t, `{"z":1.50,"a":2}`, string(n.Append(nil, nil)), "order and digits are the author's")
}

// RFC 6901, section 5: the specification's own examples.
func TestPointersAreRFC6901s(t *testing.T) {
	n, found := jsontree.Read("f", []byte(`{"foo":["bar","baz"],"":0,"a/b":1,"c%d":2,"m~n":8," ":7}`), limits)
	require.Empty(t, found)
	for pointer, want := range map[string]string{"/foo": `["bar","baz"]`, "/foo/0": `"bar"`, "/": "0", "/a~1b": "1", "/c%d": "2", "/m~0n": "8", "/ ": "7"} {
		require.NotNil(t, n.At(pointer), pointer)
		assert.Equal(t, want, string(n.At(pointer).Append(nil, nil)), pointer)
	}
	assert.Same(t, n, n.At(""))
	for _, pointer := range []string{"/foo/2", "/foo/00", "/foo/-1", "/foo/x", "/nothing", "/foo/0/deeper"} {
		assert.Nil(t, n.At(pointer), pointer)
	}
}

func TestOffsetsAreWhereValuesBegin(t *testing.T) {
	text := "{ \"a\" : [ 12, \"x\" ],\n \"b\": {\"c\": true}}"
	n, _ := jsontree.Read("f", []byte(text), limits)
	for pointer, begins := range map[string]string{"": "{", "/a": "[ 12", "/a/0": "12", "/a/1": `"x"`, "/b": `{"c"`, "/b/c": "true"} {
		assert.True(t, strings.HasPrefix(text[n.At(pointer).Offset:], begins), pointer)
	}
}

func TestReadRefusesWithAPlace(t *testing.T) {
	for text, rule := range map[string]string{
		``: "json-syntax", `{`: "json-syntax", `{"a":1,"a":2}`: "json-syntax", `{} {}`: "json-syntax", `[1,]`: "json-syntax",
		strings.Repeat("[", 30) + strings.Repeat("]", 30): "json-depth",
		`"` + strings.Repeat("x", 1<<20) + `"`:            "json-size",
	} {
		n, found := jsontree.Read("f", []byte(text), limits)
		assert.Nil(t, n)
		require.Len(t, found, 1, text[:min(len(text), 20)])
		assert.Equal(t, rule, found[0].Rule)
		assert.Equal(t, "f", found[0].File)
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(`{"a":[1,{"b":"\u0041"}],"c":null}`))
	f.Fuzz(func(t *testing.T, text []byte) {
		n, found := jsontree.Read("f", text, limits)
		if n == nil {
			require.True(t, found.Failed(), "refused without a word")
			return
		}
		var ours, theirs any
		require.NoError(t, json.Unmarshal(n.Append(nil, nil), &ours))
		require.NoError(t, json.Unmarshal(text, &theirs))
		require.Equal(t, theirs, ours)
	})
}
