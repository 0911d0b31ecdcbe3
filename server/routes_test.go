package server_test

import (
	"archive/zip"
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"mime"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/font"
	"cobrik/demo"
	"cobrik/demo/demotest"
	"cobrik/server"
	"cobrik/service"
	"cobrik/standin"
	"cobrik/store"
	"cobrik/store/storetest"
)

// drafted is the application with one component of the demo, crop-tag, and what it stands on.
func drafted(t *testing.T) (http.Handler, *store.Database, store.Scope) {
	t.Helper()
	db, scope := storetest.Database(t)
	s := service.New(db.In(scope), service.Hosts{}, font.Shipped())
	require.NoError(t, s.Seed(t.Context(), demo.Project, map[string][]byte{"furrow.design.json": demo.Revisions()[0]}, standin.ETag, demotest.TokenFiles()))
	ctx, cancel := context.WithCancel(context.Background())
	t.Cleanup(cancel)
	h := server.New(service.NewProjects(db, scope.Actor, service.Hosts{}, font.Shipped()), server.Listen(ctx, db, options.Log), options)
	w := post(h, "/api/projects/hollowbeck/components", map[string]any{"document": "furrow", "family": "crop-tag"})
	require.Equal(t, http.StatusOK, w.Code, w.Body)
	return h, db, scope
}

func post(h http.Handler, path string, body any) *httptest.ResponseRecorder {
	text, err := json.Marshal(body)
	if err != nil {
		panic(err)
	}
	return ask(h, "POST", app+path, bytes.NewReader(text), "Origin", app, "Content-Type", "application/json")
}

func read[T any](t *testing.T, h http.Handler, path string) T {
	t.Helper()
	w := ask(h, "GET", app+path, nil)
	require.Equal(t, http.StatusOK, w.Code, "%s: %s", path, w.Body)
	var out T
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &out))
	return out
}

func valuesAt(property string) string {
	return "/api/projects/hollowbeck/components/crop-tag/values?" + url.Values{"part": {"root"}, "property": {property}}.Encode()
}

// A rule is edited by its condition's key, as the API gave it, and no other changes.
func TestARuleIsEditedByItsKey(t *testing.T) {
	h, _, _ := drafted(t)
	before := read[service.Values](t, h, valuesAt("background-color"))
	require.Greater(t, len(before.Declared), 2, "the demo's tag has a ground for each tone")
	assert.Contains(t, before.Types, "color")
	for _, d := range before.Declared[1:] {
		key, err := contract.ParseWhen(d.When)
		require.NoError(t, err, "%s is no key", d.When)
		assert.False(t, key.Always())
		assert.NotEmpty(t, d.Label)
		assert.NotEqual(t, d.When, d.Label, "people are shown a key")
	}
	rule := before.Declared[1]
	edit := func(revision int, when, value string) *httptest.ResponseRecorder {
		return post(h, "/api/projects/hollowbeck/components/crop-tag/edit", map[string]any{"revision": revision,
			"edits": []map[string]any{{"part": "root", "property": "background-color", "when": when, "value": value}}})
	}
	w := edit(1, rule.When, "#102030")
	require.Equal(t, http.StatusOK, w.Code, w.Body)
	after := read[service.Values](t, h, valuesAt("background-color"))
	want := append([]service.DeclaredValue{}, before.Declared...)
	want[1].Value = "#102030"
	assert.Equal(t, want, after.Declared)

	// Whoever read the revision before is told what came first, and nothing is written.
	w = edit(1, rule.When, "#405060")
	require.Equal(t, http.StatusConflict, w.Code, w.Body)
	var trouble server.Trouble
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &trouble))
	require.NotNil(t, trouble.Current)
	assert.Equal(t, 2, trouble.Current.Revision)
	assert.NotEmpty(t, trouble.Current.Changes)
	assert.Equal(t, after, read[service.Values](t, h, valuesAt("background-color")))

	for when, value := range map[string]string{
		"[": "#000000", `[{"prop":"nothing","is":"ripe"}]`: "#000000", rule.Label: "#000000", rule.When: "grid-area: ((",
	} {
		w := edit(2, when, value)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, "%s as %s: %s", when, value, w.Body)
		assert.Regexp(t, `"fix"|expected `, w.Body.String(), "no way out is told")
	}
	assert.Equal(t, http.StatusNotFound, ask(h, "GET", app+valuesAt("blurple"), nil).Code)
	assert.Equal(t, after, read[service.Values](t, h, valuesAt("background-color")), "a refused edit left something")
}

// The download is a zip with a name of its own, its files those the code view shows.
func TestTheDownloadHasAName(t *testing.T) {
	h, _, _ := drafted(t)
	w := ask(h, "GET", app+"/api/projects/hollowbeck/components/crop-tag/files.zip", nil)
	require.Equal(t, http.StatusOK, w.Code)
	kind, name, err := mime.ParseMediaType(w.Header().Get("Content-Disposition")) // RFC 6266
	require.NoError(t, err)
	assert.Equal(t, "attachment", kind)
	assert.Equal(t, "crop-tag.zip", name["filename"])
	z, err := zip.NewReader(bytes.NewReader(w.Body.Bytes()), int64(w.Body.Len()))
	require.NoError(t, err)
	files := read[[]struct{ Path string }](t, h, "/api/projects/hollowbeck/components/crop-tag/files")
	require.NotEmpty(t, files)
	require.Len(t, z.File, len(files))
	for i, f := range files {
		assert.Equal(t, "crop-tag/"+f.Path, z.File[i].Name)
	}
	gone := ask(h, "GET", app+"/api/projects/hollowbeck/components/nothing/files.zip", nil)
	assert.Equal(t, http.StatusNotFound, gone.Code)
	assert.Contains(t, gone.Header().Get("Content-Type"), "json")
}

// A window hears of its own project's changes, by what changed, and of no other's.
func TestAWindowHearsOfItsProjectOnly(t *testing.T) {
	h, db, scope := drafted(t)
	s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		r.Host = "127.0.0.1:7180"
		h.ServeHTTP(w, r)
	}))
	defer s.Close()
	ctx, cancel := context.WithTimeout(t.Context(), 30*time.Second)
	defer cancel()
	request, err := http.NewRequestWithContext(ctx, "GET", s.URL+"/api/projects/hollowbeck/events", nil)
	require.NoError(t, err)
	answer, err := http.DefaultClient.Do(request)
	require.NoError(t, err)
	defer answer.Body.Close()
	assert.Equal(t, "text/event-stream", answer.Header.Get("Content-Type"))
	lines := bufio.NewScanner(answer.Body)
	heard := func() string {
		for lines.Scan() {
			subject, ok := strings.CutPrefix(lines.Text(), "data:")
			if ok && strings.TrimSpace(subject) != "component crop-tag" { // the draft's own may come late
				return strings.TrimSpace(subject)
			}
		}
		require.NoError(t, lines.Err(), "nothing was heard")
		return ""
	}
	second, err := db.AddProject(t.Context(), "Second", "second", scope.Actor)
	require.NoError(t, err)
	told := make(chan struct{})
	go func() { // the server may not listen to the database yet when the first change is made
		defer close(told)
		for read := 0; ctx.Err() == nil; read++ {
			_, _ = db.In(second).PutTokens(ctx, store.NewTokens{Read: read, Files: []store.TokenFile{{Name: "a.json", Content: fmt.Append(nil, read)}}})
			_ = db.In(scope).NoteHost(ctx, "down")
		}
	}()
	for range 3 {
		assert.Equal(t, "sources", heard())
	}
	cancel()
	<-told
}

// What is written is of who the window says it is; who only reads is not known by it, and a name that is none is nobody's.
func TestWhatIsWrittenSaysWhoWroteIt(t *testing.T) {
	h, _, _ := drafted(t)
	ask := func(method, path, name, body string) string {
		t.Helper()
		request := httptest.NewRequest(method, app+"/api/projects/hollowbeck"+path, strings.NewReader(body))
		request.Header.Set("Content-Type", "application/json")
		request.Header.Set("Cobrik-Name", name)
		w := httptest.NewRecorder()
		h.ServeHTTP(w, request)
		require.Equal(t, http.StatusOK, w.Code, w.Body.String())
		return w.Body.String()
	}
	for name, by := range map[string]string{"": "Somebody", "Ines%2C%20plot%2041": "Ines, plot 41", "%F0%9F%8C%B1": "🌱", "%zz": "Somebody", "%00": "Somebody", "%ff": "Somebody", strings.Repeat("a", 61): "Somebody", "%20%20": "Somebody"} {
		said := ask("POST", "/components/crop-tag/comments", name, fmt.Sprintf(`{"place":"component","key":"","words":"all","body":%q}`, "of "+url.PathEscape(name)))
		assert.Contains(t, said, fmt.Sprintf(`"by":%q`, by), "%q", name)
		var all struct {
			Comments []struct{ By string }
		}
		require.NoError(t, json.Unmarshal([]byte(said), &all))
		assert.Equal(t, by, all.Comments[len(all.Comments)-1].By, "%q", name)
	}
}

// A window that names itself is named with what it changes, so that it need not read that again.
func TestAChangeSaysWhichWindowMadeIt(t *testing.T) {
	h, db, scope := drafted(t)
	ctx, cancel := context.WithTimeout(t.Context(), 30*time.Second)
	defer cancel()
	heard := make(chan string, 64)
	go func() { _ = db.Listen(ctx, func(project int64, subject string) { heard <- subject }) }()
	_ = scope
	change := func(window string) {
		t.Helper()
		request := httptest.NewRequest("POST", app+"/api/projects/hollowbeck/components/crop-tag/cases", strings.NewReader(fmt.Sprintf(`{"case":"","name":%q,"look":{}}`, "of "+window)))
		request.Header.Set("Content-Type", "application/json")
		request.Header.Set("Cobrik-Window", window)
		w := httptest.NewRecorder()
		h.ServeHTTP(w, request)
		require.Equal(t, http.StatusOK, w.Code, w.Body.String())
	}
	await := func(want string, window string) {
		t.Helper()
		for n := 0; ; n++ { // the listener may come later than the first change
			change(fmt.Sprint(window, n))
			select {
			case subject := <-heard:
				if strings.HasPrefix(subject, want) {
					return
				}
			case <-time.After(200 * time.Millisecond):
			case <-ctx.Done():
				t.Fatalf("%s was not heard", want)
			}
		}
	}
	await("component crop-tag by window", "window")
	change("two words") // no name of a window
	for subject := range heard {
		if !strings.Contains(subject, " by ") {
			break
		}
	}
}
