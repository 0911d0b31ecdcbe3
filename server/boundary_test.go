package server_test

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/server"
	"cobrik/service"
)

// Every answer that is no success carries its status, for whoever reads bodies alone.
func status(t *testing.T, text string) int {
	t.Helper()
	var body struct {
		Status  int
		Message string
	}
	require.NoError(t, json.Unmarshal([]byte(text), &body), text)
	assert.NotEmpty(t, body.Message)
	return body.Status
}

// What an address does not do is 405, with what it does; HEAD is answered as GET is.
func TestMethodsThatAreNotDone(t *testing.T) {
	h := application(t)
	for _, c := range [][2]string{{"DELETE", "/api/projects/untitled/project"}, {"PUT", "/api/projects/untitled/components"}, {"GET", "/api/projects/untitled/host/fetch"},
		{"PATCH", "/api/projects/untitled/icons/leaf"}, {"POST", "/bench/tag"}, {"DELETE", "/"}, {"POST", "/api/projects/untitled/components/tag/files.zip"}} {
		w := ask(h, c[0], app+c[1], strings.NewReader("{}"), "Content-Type", "application/json", "Origin", app)
		assert.Equal(t, http.StatusMethodNotAllowed, w.Code, "%v: %s", c, w.Body)
		assert.Equal(t, http.StatusMethodNotAllowed, status(t, w.Body.String()), c)
		assert.NotEmpty(t, w.Header().Get("Allow"), c)
	}
	assert.Equal(t, http.StatusOK, ask(h, "HEAD", app+"/api/projects/untitled/project", nil).Code)
	preview := server.Preview(nil, options)
	assert.Equal(t, http.StatusMethodNotAllowed, ask(preview, "POST", options.Preview+"/c/untitled/tag/1/", nil).Code)
}

func TestBodiesCarryTheirStatus(t *testing.T) {
	h := application(t)
	for path, want := range map[string]int{"/api/nothing": 404, "/api/projects/untitled/nothing": 404, "/api/projects/nobodys/project": 404, "/api/projects/untitled/components/nobody": 404} {
		w := ask(h, "GET", app+path, nil)
		assert.Equal(t, want, w.Code, path)
		assert.Equal(t, want, status(t, w.Body.String()), path)
	}
	w := ask(h, "GET", "http://rebound.example/", nil)
	assert.Equal(t, w.Code, status(t, w.Body.String()))
	w = ask(h, "POST", app+"/api/projects/untitled/components", strings.NewReader("{}"), "Origin", "https://elsewhere.example")
	assert.Equal(t, w.Code, status(t, w.Body.String()))
}

// NUL and what is not UTF-8 are the sender's mistake, wherever they stand.
func TestCharactersThatCannotBeKept(t *testing.T) {
	h := application(t)
	const at = app + "/api/projects/untitled"
	for _, path := range []string{"/components/a%00b", "/components/a%ffb", "/find?words=%00", "/find?words=%c3%28", "/find?%00=x", "/tokens/one?path=%00", "/sources/%00/rests", "/icons?x=%ff", "/loose?document=%00&layer=a"} {
		w := ask(h, "GET", at+path, nil)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, "%s: %s", path, w.Body)
	}
	assert.Equal(t, http.StatusUnprocessableEntity, ask(h, "GET", app+"/api/projects/%00/project", nil).Code)
	for path, body := range map[string]string{
		"/components":          `{"document":"%s","family":"f"}`,
		"/starts":              `{"name":"%s","start":"blank"}`,
		"/icons/%s":            `{"name":"%s","words":""}`,
		"/tokens":              `{"revision":0,"edits":[{"kind":"set","path":"%s","text":"1px"}]}`,
		"/here":                `{"window":"w","name":"%s","view":"x"}`,
		"/tokens/files/remove": `{"revision":0,"name":"%s"}`,
	} {
		for _, bad := range []string{`\u0000`, `a\\\u0000`, "a\x00b", "a\xffb"} {
			target := at + strings.ReplaceAll(path, "%s", "leaf")
			w := ask(h, "POST", target, strings.NewReader(strings.ReplaceAll(body, "%s", bad)), "Content-Type", "application/json", "Origin", app)
			assert.Equal(t, http.StatusUnprocessableEntity, w.Code, "%s with %q: %s", path, bad, w.Body)
		}
	}
	for name, text := range map[string]string{
		"a%00.design.json": `{}`,
		"a.design.json":    `{"format":"cobrik.design/1","id":"d","name":"a\u0000b","pages":[],"families":[]}`,
		"b.design.json":    `{"format":"cobrik.design/1","id":"d","name":"d","note":"a\u0000b","pages":[],"families":[]}`,
		"a.tokens.json":    "{\"a\x00\":{\"$type\":\"number\",\"$value\":1}}",
		"c.svg":            "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"9\" height=\"9\"><title>a\x00</title><rect width=\"9\" height=\"9\"/></svg>",
	} {
		w := ask(h, "POST", at+"/sources?file="+name, strings.NewReader(text), "Content-Type", "application/octet-stream", "Origin", app)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, "%s: %s", name, w.Body)
	}
	// A backslash and the letters u0000 are a text as any other.
	w := ask(h, "POST", at+"/starts", strings.NewReader(`{"name":"Tag\\u0000","start":"blank"}`), "Content-Type", "application/json", "Origin", app)
	assert.Equal(t, http.StatusOK, w.Code, w.Body)
}

func TestAnUploadHasAName(t *testing.T) {
	h := application(t)
	for _, query := range []string{"", "?file=", "?file=%2F", "?file=."} {
		w := ask(h, "POST", app+"/api/projects/untitled/sources"+query, strings.NewReader(`{}`), "Content-Type", "application/octet-stream", "Origin", app)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, "%q: %s", query, w.Body)
	}
}

// A page elsewhere, under whatever name it points here, is shown no preview.
func TestThePreviewAnswersItsOwnPages(t *testing.T) {
	h := server.Preview(func(context.Context, string, string, service.Wanted) (service.Built, error) {
		return service.Built{Name: "Tag", Build: "1"}, nil
	}, options)
	const path = "/c/plots/tag/1/component.js"
	assert.Equal(t, http.StatusMisdirectedRequest, ask(h, "GET", "http://rebound.example"+path, nil).Code)
	assert.Equal(t, http.StatusMisdirectedRequest, ask(h, "GET", "http://127.0.0.1:7180"+path, nil).Code, "the application's name is not the preview's")
	for origin, want := range map[string]int{"": 200, "null": 200, options.Preview: 200, options.App: 200, "http://localhost:7180": 200, "https://elsewhere.example": 403, "http://127.0.0.1:9": 403} {
		w := ask(h, "GET", options.Preview+path, nil, "Origin", origin)
		assert.Equal(t, want, w.Code, origin)
		if want == 200 {
			assert.Equal(t, origin, w.Header().Get("Access-Control-Allow-Origin"))
		}
	}
	assert.Equal(t, http.StatusOK, ask(h, "GET", "http://localhost:7181"+path, nil).Code)
}

// Whoever hangs up in the middle of a request is told nothing, and no fault of ours is logged.
func TestARequestThatBreaksOff(t *testing.T) {
	h := application(t)
	for _, kind := range []string{"application/json", "application/octet-stream"} {
		for _, path := range []string{"/components", "/sources?file=a.json", "/icons?file=a.svg"} {
			w := ask(h, "POST", app+"/api/projects/untitled"+path, &breaking{strings.NewReader(`{"document":`)}, "Content-Type", kind, "Origin", app)
			assert.Less(t, w.Code, 500, "%s of %s: %s", path, kind, w.Body)
			assert.GreaterOrEqual(t, w.Code, 400)
		}
	}
}

// breaking is a body whose sender goes away.
type breaking struct{ from *strings.Reader }

func (b *breaking) Read(p []byte) (int, error) {
	if b.from.Len() == 0 {
		return 0, fmt.Errorf("connection reset by peer")
	}
	return b.from.Read(p)
}
