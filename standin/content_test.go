package standin_test

import (
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/standin"
)

func TestACollectionIsServedPageByPage(t *testing.T) {
	c, err := standin.NewContent(map[string][]byte{"notes": []byte(`[{"a":1,"b":2},{"a":3},{"a":4}]`)})
	require.NoError(t, err)
	h := c.Handler()
	set := func(switches string) {
		r := httptest.NewRequest("POST", "/switches", strings.NewReader(switches))
		w := httptest.NewRecorder()
		h.ServeHTTP(w, r)
		require.Equal(t, http.StatusOK, w.Code)
	}
	read := func(path string) (records []map[string]any, next string) {
		w := ask(h, "GET", path, "")
		require.Equal(t, http.StatusOK, w.Code)
		var page struct {
			Records []map[string]any
			Next    string
		}
		require.NoError(t, json.Unmarshal(w.Body.Bytes(), &page))
		return page.Records, page.Next
	}
	set(`{"page": 2, "leave": ["b"]}`)
	records, next := read("/collections/notes")
	assert.Equal(t, []map[string]any{{"a": 1.0}, {"a": 3.0}}, records, "fields that are left out are there")
	records, next = read(next)
	assert.Equal(t, []map[string]any{{"a": 4.0}}, records)
	assert.Empty(t, next, "there is a page behind the last")
	records, next = read("/collections/notes?page=9")
	assert.Empty(t, records)
	assert.Empty(t, next)
	assert.Equal(t, http.StatusNotFound, ask(h, "GET", "/collections/gone", "").Code)
	assert.JSONEq(t, `[{"name":"notes","records":3}]`, ask(h, "GET", "/collections", "").Body.String())
	set(`{"fail": 3, "leave": null}`)
	var codes []int
	for range 6 {
		codes = append(codes, ask(h, "GET", "/collections/notes", "").Code)
	}
	assert.Equal(t, []int{200, 200, 503, 200, 200, 503}, codes)
	assert.JSONEq(t, `{"wait":0,"fail":3,"leave":[],"page":2}`, ask(h, "GET", "/switches", "").Body.String(), "the switches fail, too, or are forgotten")
	_, err = standin.NewContent(map[string][]byte{"bad": []byte(`{}`)})
	assert.Error(t, err)
}
