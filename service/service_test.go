package service_test

import (
	"archive/zip"
	"bytes"
	"cobrik/core/font"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/demo"
	"cobrik/demo/demotest"
	"cobrik/service"
	"cobrik/standin"
	"cobrik/store/storetest"
)

func TestMain(m *testing.M) { storetest.Main(m) }

// seeded gives a service with the demo's first revision, and a host to ask.
func seeded(t testing.TB, host http.Handler) *service.Service {
	t.Helper()
	server := httptest.NewServer(host)
	t.Cleanup(server.Close)
	fonts := font.Shipped()
	s := service.New(storetest.Open(t), service.Hosts{Design: server.URL}, fonts)
	require.NoError(t, s.Seed(t.Context(), demo.Project, map[string][]byte{"furrow.design.json": demo.Revisions()[0]}, standin.ETag, demotest.TokenFiles()))
	return s
}

func demoHost(t testing.TB) http.Handler {
	t.Helper()
	h, err := standin.NewHost(map[string][][]byte{demo.Document: demo.Revisions()}, "")
	require.NoError(t, err)
	return h.Handler()
}

func failure(t *testing.T, err error) *service.Failure {
	t.Helper()
	var f *service.Failure
	require.True(t, errors.As(err, &f), "%v", err)
	return f
}

func state(t *testing.T, s *service.Service) string {
	t.Helper()
	sources, err := s.Sources(t.Context())
	require.NoError(t, err)
	sources.Host.Checked = nil
	sources.Host.Failure = ""
	text, err := json.Marshal(sources)
	require.NoError(t, err)
	return string(text)
}

func TestBadFilesLeaveNothingBehind(t *testing.T) {
	s := seeded(t, demoHost(t))
	before := state(t, s)
	valid := string(demo.Revisions()[1])
	for name, c := range map[string]struct {
		file, text string
		kind       service.Kind
	}{
		"truncated design":   {"x.design.json", valid[:5000], service.Invalid},
		"wrong version":      {"x.design.json", strings.Replace(valid, "cobrik.design/1", "cobrik.design/7", 1), service.Invalid},
		"duplicate ids":      {"x.design.json", strings.Replace(valid, `"id": "tool-row"`, `"id": "crop-tag"`, 1), service.Invalid},
		"alias cycle":        {"x.tokens.json", `{"a":{"$value":"{b}"},"b":{"$value":"{a}"}}`, service.Invalid},
		"unknown reference":  {"x.tokens.json", `{"a":{"$value":"{soil.7000}"}}`, service.Invalid},
		"neither":            {"notes.json", `{"hello":{}}`, service.Invalid},
		"not json":           {"x.png", "\x89PNG\r\n", service.Invalid},
		"breaks the others":  {"core.tokens.json", `{"soil":{"$type":"color","50":{"$value":"#ffffff"}}}`, service.Invalid},
		"too large":          {"x.design.json", strings.Repeat(" ", 33<<20), service.TooLarge},
		"path in the name":   {"../../etc/x.tokens.json", `{"a":`, service.Invalid},
		"deeply nested":      {"x.tokens.json", strings.Repeat(`{"a":`, 5000), service.Invalid},
		"deeply nested list": {"x.design.json", strings.Repeat(`[`, 500_000), service.Invalid},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := s.Drop(t.Context(), c.file, []byte(c.text))
			f := failure(t, err)
			assert.Equal(t, c.kind, f.Kind)
			if c.kind == service.Invalid {
				assert.NotEmpty(t, f.Problems)
				assert.NotContains(t, f.Problems[0].File, "/")
			}
			assert.Equal(t, before, state(t, s), "something of the file was kept")
		})
	}
}

func TestDroppedFilesAreTaken(t *testing.T) {
	s := seeded(t, demoHost(t))
	mine := strings.ReplaceAll(string(demo.Revisions()[0]), `"id": "furrow"`, `"id": "mine"`)
	got, err := s.Drop(t.Context(), "mine.json", []byte(mine))
	require.NoError(t, err)
	assert.Equal(t, "design", got.Kind)
	got, err = s.Drop(t.Context(), "mine.json", []byte(mine))
	require.NoError(t, err)
	assert.False(t, got.Added, "the same file became a revision")
	got, err = s.Drop(t.Context(), "brand.tokens.json", []byte(`{"soil":{"800":{"$type":"color","$value":"#112233"}}}`))
	require.NoError(t, err)
	assert.Equal(t, "tokens", got.Kind)
	list, err := s.Tokens(t.Context())
	require.NoError(t, err)
	for _, one := range list.Rows {
		if one.Path == "soil.800" {
			assert.Equal(t, "#112233", one.Values[0].Value, "a file dropped in later comes last")
		}
	}
	got, err = s.Drop(t.Context(), "anything.json", []byte(`{"format":"cobrik.project/1","tokens":{}}`))
	require.NoError(t, err)
	assert.Equal(t, "cobrik.json", got.Name)
}

func TestFetchFollowsTheHostByEntityTag(t *testing.T) {
	host := demoHost(t)
	var asked, unchanged atomic.Int64
	s := seeded(t, http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		asked.Add(1)
		recorder := httptest.NewRecorder()
		host.ServeHTTP(recorder, r)
		if recorder.Code == http.StatusNotModified {
			unchanged.Add(1)
		}
		for k, v := range recorder.Header() {
			w.Header()[k] = v
		}
		w.WriteHeader(recorder.Code)
		_, _ = w.Write(recorder.Body.Bytes())
	}))
	got, err := s.Fetch(t.Context())
	require.NoError(t, err)
	assert.False(t, got.Documents[0].Added)
	assert.Equal(t, int64(1), unchanged.Load(), "RFC 9110, 13.1.2: an unchanged document was sent again")
	require.NoError(t, s.PublishNext(t.Context(), "furrow"))
	got, err = s.Fetch(t.Context())
	require.NoError(t, err)
	assert.Equal(t, service.FetchedDocument{ID: "furrow", Revision: 2, Added: true}, got.Documents[0])
}

// The host is not trusted: whatever it sends, what is here stays.
func TestAHostileHostHarmsNothing(t *testing.T) {
	for name, c := range map[string]struct {
		serve http.HandlerFunc
		kind  service.Kind
		says  string
		tries int64
	}{
		"server error": {func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(500) }, service.Unavailable, "500", 3},
		"gone":         {func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(404) }, service.Unavailable, "404", 1},
		"nonsense":     {func(w http.ResponseWriter, _ *http.Request) { fmt.Fprint(w, "<html>") }, service.Invalid, "not taken", 1},
		"endless":      {func(w http.ResponseWriter, _ *http.Request) { _, _ = io.CopyN(w, endless{}, 40<<20) }, service.Unavailable, "more than 32 MB", 1},
		"another document": {func(w http.ResponseWriter, _ *http.Request) {
			fmt.Fprint(w, strings.Replace(string(demo.Revisions()[1]), `"id": "furrow"`, `"id": "other"`, 1))
		}, service.Unavailable, "sent other", 1},
		"cut off": {func(w http.ResponseWriter, _ *http.Request) {
			w.Header().Set("Content-Length", "100000")
			fmt.Fprint(w, "{")
		}, service.Unavailable, "broke off", 3},
	} {
		t.Run(name, func(t *testing.T) {
			var tries atomic.Int64
			s := seeded(t, http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
				tries.Add(1)
				c.serve(w, r)
			}))
			before := state(t, s)
			_, err := s.Fetch(t.Context())
			f := failure(t, err)
			assert.Equal(t, c.kind, f.Kind)
			assert.Contains(t, f.Message, c.says)
			assert.Equal(t, c.tries, tries.Load(), "tries with back-off")
			assert.Equal(t, before, state(t, s))
		})
	}
}

type endless struct{}

func (endless) Read(p []byte) (int, error) { return len(p), nil }

func TestTheDownloadIsTheEmittedCode(t *testing.T) {
	s := seeded(t, demoHost(t))
	_, err := s.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	data, err := s.Zip(t.Context(), "crop-tag")
	require.NoError(t, err)
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	files, err := s.Files(t.Context(), "crop-tag")
	require.NoError(t, err)
	require.Len(t, z.File, len(files))
	for i, f := range files {
		assert.Equal(t, "crop-tag/"+f.Path, z.File[i].Name)
		r, err := z.File[i].Open()
		require.NoError(t, err)
		text, err := io.ReadAll(r)
		require.NoError(t, err)
		assert.Equal(t, f.Content, string(text))
	}
}

func TestDecisionsOnAMovedDesignAreAskedAgain(t *testing.T) {
	s := seeded(t, demoHost(t))
	_, err := s.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	require.NoError(t, s.PublishNext(t.Context(), "furrow"))
	_, err = s.Fetch(t.Context())
	require.NoError(t, err)
	moved, err := s.Sync(t.Context())
	require.NoError(t, err)
	require.Len(t, moved, 1)
	decision := service.Decision{Revision: moved[0].Revision, Design: moved[0].Design}
	for _, m := range moved[0].Moves {
		decision.Take = append(decision.Take, m.Key)
	}
	require.NoError(t, s.PublishNext(t.Context(), "furrow"))
	_, err = s.Fetch(t.Context())
	require.NoError(t, err)
	_, err = s.Decide(t.Context(), "crop-tag", decision)
	assert.Equal(t, service.Conflict, failure(t, err).Kind, "a decision about revision 2 was carried out on revision 3")

	_, err = s.Draft(t.Context(), "furrow", "crop-tag")
	assert.Equal(t, service.Conflict, failure(t, err).Kind)
	_, err = s.Release(t.Context(), "crop-tag", 1, " ", "")
	assert.Contains(t, failure(t, err).Message, "shelf")
	plan, err := s.Release(t.Context(), "crop-tag", 1, "Small", "")
	require.NoError(t, err)
	assert.Equal(t, "1.0.0", plan.Version)
	_, err = s.Release(t.Context(), "crop-tag", 1, "Small", "")
	assert.Contains(t, failure(t, err).Message, "Nothing changed")
}

// What an export cannot say in layers is said, not lost in silence.
func TestADroppedSVGBecomesADocument(t *testing.T) {
	s := seeded(t, demoHost(t))
	got, err := s.Drop(t.Context(), "shed.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20"><title>Shed</title><rect id="wall" width="40" height="20" fill="url(#wood)"/></svg>`))
	require.NoError(t, err)
	assert.Equal(t, "design", got.Kind)
	assert.Equal(t, "Shed", got.Name)
	assert.Contains(t, got.Problems.Error(), "refers to nothing")
	sources, err := s.Sources(t.Context())
	require.NoError(t, err)
	found := false
	for _, d := range sources.Documents {
		found = found || d.ID == "shed.svg" && d.Layers == 1
	}
	assert.True(t, found, "the drawing is not among the sources")
	_, err = s.Drop(t.Context(), "bomb.svg", []byte(`<!DOCTYPE svg [<!ENTITY a "a">]><svg/>`))
	assert.ErrorContains(t, err, "entities")
}
