package standin_test

import (
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/standin"
)

func host(t *testing.T, state string) http.Handler {
	t.Helper()
	h, err := standin.NewHost(map[string][][]byte{"d": {[]byte("one"), []byte("two")}}, state)
	require.NoError(t, err)
	return h.Handler()
}

func ask(h http.Handler, method, path, etag string) *httptest.ResponseRecorder {
	r := httptest.NewRequest(method, path, nil)
	if etag != "" {
		r.Header.Set("If-None-Match", etag)
	}
	w := httptest.NewRecorder()
	h.ServeHTTP(w, r)
	return w
}

// RFC 9110, 8.8.3 and 13.1.2: the entity tag changes with the text, and a
// request that has it is answered 304 without a body.
func TestDocumentsAreServedByEntityTag(t *testing.T) {
	h := host(t, "")
	first := ask(h, "GET", "/documents/d", "")
	assert.Equal(t, "one", first.Body.String())
	etag := first.Header().Get("ETag")
	assert.Regexp(t, `^"[0-9a-f]+"$`, etag)
	again := ask(h, "GET", "/documents/d", etag)
	assert.Equal(t, http.StatusNotModified, again.Code)
	assert.Empty(t, again.Body.String())
	assert.Equal(t, http.StatusOK, ask(h, "POST", "/documents/d/publish", "").Code)
	assert.Equal(t, "two", ask(h, "GET", "/documents/d", etag).Body.String())
	assert.Equal(t, http.StatusConflict, ask(h, "POST", "/documents/d/publish", "").Code, "there is no third revision")
	assert.Equal(t, http.StatusNotFound, ask(h, "GET", "/documents/x", "").Code)
	assert.Equal(t, http.StatusNotFound, ask(h, "POST", "/documents/x/publish", "").Code)
	assert.JSONEq(t, `[{"id":"d","revision":2,"prepared":2}]`, ask(h, "GET", "/documents", "").Body.String())
}

// A demo that is started again must not fall back to the first revision.
func TestWhatIsPublishedStaysPublished(t *testing.T) {
	state := filepath.Join(t.TempDir(), "host.json")
	ask(host(t, state), "POST", "/documents/d/publish", "")
	assert.Equal(t, "two", ask(host(t, state), "GET", "/documents/d", "").Body.String())
}
