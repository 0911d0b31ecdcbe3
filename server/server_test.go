package server_test

import (
	"bytes"
	"context"
	"errors"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/emit/compile"
	"cobrik/core/problem"
	"cobrik/server"
	"cobrik/service"
	"cobrik/store/storetest"
)

func TestMain(m *testing.M) { storetest.Main(m) }

var options = server.Options{App: "http://127.0.0.1:7180", Preview: "http://127.0.0.1:7181", Log: slog.New(slog.DiscardHandler)}

func application(t *testing.T) http.Handler {
	t.Helper()
	db, scope := storetest.Database(t)
	ctx, cancel := context.WithCancel(context.Background())
	t.Cleanup(cancel)
	return server.New(service.NewProjects(db, scope.Actor, service.Hosts{}, nil), server.Listen(ctx, db, options.Log), options)
}

func ask(h http.Handler, method, target string, body io.Reader, headers ...string) *httptest.ResponseRecorder {
	r := httptest.NewRequest(method, target, body)
	for i := 0; i+1 < len(headers); i += 2 {
		r.Header.Set(headers[i], headers[i+1])
	}
	w := httptest.NewRecorder()
	h.ServeHTTP(w, r)
	return w
}

const app = "http://127.0.0.1:7180"

func TestOnlyCobriksOwnPagesMayWrite(t *testing.T) {
	h := application(t)
	draft := func(headers ...string) int {
		return ask(h, "POST", app+"/api/projects/untitled/components", strings.NewReader(`{"document":"d","family":"f"}`), append(headers, "Content-Type", "application/json")...).Code
	}
	assert.Equal(t, http.StatusNotFound, draft("Origin", app), "the own page is refused")
	assert.Equal(t, http.StatusNotFound, draft("Origin", "http://localhost:7180"))
	assert.Equal(t, http.StatusForbidden, draft("Origin", "null"), "a component in the preview can write")
	assert.Equal(t, http.StatusForbidden, draft("Origin", "http://127.0.0.1:7181"))
	assert.Equal(t, http.StatusForbidden, draft("Origin", "https://elsewhere.example"))
	assert.Equal(t, http.StatusMisdirectedRequest, ask(h, "GET", "http://rebound.example/api/projects/untitled/project", nil).Code, "another name pointed here is answered")
}

func TestAnswersCarryThePolicies(t *testing.T) {
	h := application(t)
	for _, path := range []string{"/", "/bench/crop-tag", "/api/projects/untitled/project", "/api/projects/untitled/nothing", "/api/nothing", "/api/projects/nobodys/project"} {
		w := ask(h, "GET", app+path, nil)
		policy := w.Header().Get("Content-Security-Policy")
		assert.Contains(t, policy, "default-src 'none'", path)
		assert.Contains(t, policy, "frame-src http://127.0.0.1:7181", path)
		assert.NotContains(t, policy, "script-src 'self' 'unsafe", path)
		assert.Equal(t, "nosniff", w.Header().Get("X-Content-Type-Options"))
	}
	assert.Equal(t, http.StatusOK, ask(h, "GET", app+"/bench/anything", nil).Code, "a deep link is not served the page")
	assert.Equal(t, http.StatusNotFound, ask(h, "GET", app+"/api/projects/untitled/nothing", nil).Code)
}

// An upload of 200 MB is answered, not stored and not read to its end.
func TestA200MBUploadIsRefused(t *testing.T) {
	read := &counting{left: 200 << 20}
	w := ask(application(t), "POST", app+"/api/projects/untitled/sources?file=big.json", read, "Content-Type", "application/octet-stream")
	assert.Equal(t, http.StatusRequestEntityTooLarge, w.Code, w.Body.String())
	assert.Contains(t, w.Body.String(), "larger than 32 MB")
	assert.Less(t, (200<<20)-read.left, 40<<20, "the whole upload was read")
}

type counting struct{ left int }

func (c *counting) Read(p []byte) (int, error) {
	if c.left == 0 {
		return 0, io.EOF
	}
	n := min(len(p), c.left)
	copy(p, bytes.Repeat([]byte(" "), n))
	c.left -= n
	return n, nil
}

func TestProblemsReachTheCaller(t *testing.T) {
	w := ask(application(t), "POST", app+"/api/projects/untitled/sources?file=x.tokens.json", strings.NewReader(`{"a":{"$value":"{b}"}}`), "Content-Type", "application/octet-stream")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "a → b points at a token that is not there")
	assert.Contains(t, w.Body.String(), `"pointer":"/a/$value"`)
	w = ask(application(t), "POST", app+"/api/projects/untitled/components", strings.NewReader(`{"document":4}`), "Content-Type", "application/json")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), `"message"`)
}

func TestThePreviewIsIsolated(t *testing.T) {
	h := server.Preview(func(context.Context, string, string, service.Wanted) (service.Built, error) {
		return service.Built{Name: "Tag", Build: "1", Bundle: compile.Bundle{JS: "globalThis.cobrikComponent={}", CSS: ".a{}"}}, nil
	}, options)
	w := ask(h, "GET", "http://127.0.0.1:7181/c/plots/tag/1/", nil)
	require.Equal(t, http.StatusOK, w.Code)
	policy := w.Header().Get("Content-Security-Policy")
	for _, want := range []string{"default-src 'none'", "connect-src 'none'", "sandbox allow-scripts", "frame-ancestors http://127.0.0.1:7180"} {
		assert.Contains(t, policy, want)
	}
	assert.NotContains(t, policy, "unsafe", "code of an attribute or a string would run")
	assert.Contains(t, ask(h, "GET", "http://127.0.0.1:7181/c/plots/tag/1/component.js", nil).Body.String(), `cobrikRun(globalThis.cobrikComponent["Tag"])`)
	assert.Contains(t, ask(h, "GET", "http://127.0.0.1:7181/c/plots/tag/2/component.js", nil).Body.String(), "out of date", "an old page runs new code")
	assert.Equal(t, http.StatusNotFound, ask(h, "GET", "http://127.0.0.1:7181/api/projects/untitled/project", nil).Code, "the API is on the preview origin")
}

func TestWhatDoesNotCompileIsSaid(t *testing.T) {
	broken := server.Preview(func(context.Context, string, string, service.Wanted) (service.Built, error) {
		return service.Built{Name: "Tag", Build: "1", Problems: problem.List{{Severity: problem.Error, File: "Tag.tsx", Line: 7, Column: 3, Message: "Unexpected </script>"}}}, nil
	}, options)
	script := ask(broken, "GET", "http://127.0.0.1:7181/c/plots/tag/1/component.js", nil).Body.String()
	assert.Contains(t, script, `"file":"Tag.tsx","line":7`)
	assert.NotContains(t, script, "</script>")
	gone := server.Preview(func(context.Context, string, string, service.Wanted) (service.Built, error) {
		return service.Built{}, errors.New("no database")
	}, options)
	assert.Contains(t, ask(gone, "GET", "http://127.0.0.1:7181/c/plots/tag/1/component.js", nil).Body.String(), "cobrikFailed(")
}

// Widths and edits that make no sense are answered with what is wrong, not laid
// out.
func TestLayoutRequestsThatMakeNoSense(t *testing.T) {
	h := application(t)
	for _, path := range []string{"layout", "case"} {
		for _, width := range []string{"-1", "1e9", "Inf", "wide"} {
			w := ask(h, "GET", app+"/api/projects/untitled/components/anything/"+path+"?width="+width, nil)
			assert.Equal(t, http.StatusUnprocessableEntity, w.Code, "%s at %s: %s", path, width, w.Body)
		}
		assert.Equal(t, http.StatusNotFound, ask(h, "GET", app+"/api/projects/untitled/components/anything/"+path+"?width=400", nil).Code)
	}
	write := func(path, body string) int {
		return ask(h, "POST", app+"/api/projects/untitled/components/anything/"+path, strings.NewReader(body), "Origin", app, "Content-Type", "application/json").Code
	}
	for body, want := range map[string]int{
		`{"revision":1,"part":"root","kind":"row"}`:                http.StatusNotFound,
		`{"revision":1,"part":"root","kind":"row","below":-5}`:     http.StatusUnprocessableEntity,
		`{"revision":1,"part":"root","kind":"row","below":1e308}`:  http.StatusUnprocessableEntity,
		`{"revision":1,"part":"root","kind":7}`:                    http.StatusUnprocessableEntity,
		`{"part":"root","kind":"row"}`:                             http.StatusUnprocessableEntity,
		`{"revision":1,"part":"` + strings.Repeat("a", 500) + `"}`: http.StatusUnprocessableEntity,
		`{"revision":1,"part":"root","colour":"red"}`:              http.StatusUnprocessableEntity,
	} {
		assert.Equal(t, want, write("arrange", body), body)
	}
	assert.Equal(t, http.StatusUnprocessableEntity, write("switch", `{"revision":1,"from":0,"to":10}`))
	assert.Equal(t, http.StatusNotFound, write("switch", `{"revision":1,"from":480,"to":0}`))
	assert.Equal(t, http.StatusNotFound, write("reading", `{"revision":1,"key":"k","kind":"row"}`))
	assert.Equal(t, http.StatusNotFound, ask(h, "GET", app+"/api/projects/untitled/survey/containers?document=d&layer=l", nil).Code)
}

// Each project is at its own address and shows nothing of another's; an address without one
// leads to the first.
func TestAProjectIsWhereItsAddressSays(t *testing.T) {
	db, scope := storetest.Database(t)
	_, err := db.AddProject(t.Context(), "Second", "zweites-größeres", scope.Actor)
	require.NoError(t, err)
	h := server.New(service.NewProjects(db, scope.Actor, service.Hosts{}, nil), server.Listen(t.Context(), db, options.Log), options)
	second := app + "/api/projects/" + url.PathEscape("zweites-größeres")
	w := ask(h, "POST", second+"/sources?file=x.tokens.json", strings.NewReader(`{"a":{"$type":"number","$value":4}}`), "Content-Type", "application/octet-stream")
	require.Equal(t, http.StatusOK, w.Code, w.Body)
	for at, tokens := range map[string]string{second: `"tokens":1`, app + "/api/projects/untitled": `"tokens":0`} {
		w := ask(h, "GET", at+"/project", nil)
		require.Equal(t, http.StatusOK, w.Code, "%s: %s", at, w.Body)
		assert.Contains(t, w.Body.String(), tokens, at)
	}
	assert.Contains(t, ask(h, "GET", second+"/project", nil).Body.String(), `"preview":"http://127.0.0.1:7181/c/zweites-größeres"`)

	w = ask(h, "GET", app+"/api/projects/nobodys/project", nil)
	assert.Equal(t, http.StatusNotFound, w.Code)
	assert.Contains(t, w.Body.String(), `no project at \"nobodys\"`)
	w = ask(h, "GET", app+"/", nil)
	assert.Equal(t, http.StatusFound, w.Code)
	assert.Equal(t, "/untitled/", w.Header().Get("Location"))
	_, err = db.AddProject(t.Context(), "Third", "a/b", scope.Actor)
	assert.Error(t, err, "an address of two segments leads nowhere")
}
