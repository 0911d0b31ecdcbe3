package server_test

import (
	"bufio"
	"context"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/font"
	"cobrik/demo"
	"cobrik/notice"
	"cobrik/server"
	"cobrik/service"
	"cobrik/standin"
	"cobrik/store/storetest"
)

// The design host says that it moved, signed: it is asked, its revision is kept, and every window hears of it.
func TestWindowsHearOfWhatTheDesignHostSays(t *testing.T) {
	db, scope := storetest.Database(t)
	var app http.Handler
	front := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) { app.ServeHTTP(w, r) }))
	t.Cleanup(front.Close)
	host, err := standin.NewHost(map[string][][]byte{demo.Document: demo.Revisions()}, "", standin.Notify{URL: front.URL + "/api/projects/hollowbeck/notices", Secret: "between us"})
	require.NoError(t, err)
	hosts := httptest.NewServer(host.Handler())
	t.Cleanup(hosts.Close)
	address := service.Hosts{Design: hosts.URL}
	s := service.New(db.In(scope), address, font.Shipped())
	require.NoError(t, s.Seed(t.Context(), demo.Project, map[string][]byte{demo.Document + ".design.json": demo.Revisions()[0]}, standin.ETag, nil))
	ctx, cancel := context.WithCancel(t.Context())
	t.Cleanup(cancel)
	projects := service.NewProjects(db, scope.Actor, address, font.Shipped())
	stop, err := projects.Work(ctx, slog.New(slog.DiscardHandler))
	require.NoError(t, err)
	t.Cleanup(stop)
	events := server.Listen(ctx, db, slog.New(slog.DiscardHandler))
	app = server.New(projects, events, server.Options{App: front.URL, Preview: front.URL, Secret: "between us", Log: slog.New(slog.DiscardHandler)})

	request, err := http.NewRequestWithContext(ctx, http.MethodGet, front.URL+"/api/projects/hollowbeck/events", nil)
	require.NoError(t, err)
	window, err := http.DefaultClient.Do(request)
	require.NoError(t, err)
	t.Cleanup(func() { _ = window.Body.Close() })
	heard := make(chan string, 100)
	go func() {
		for lines := bufio.NewScanner(window.Body); lines.Scan(); {
			if subject, ok := strings.CutPrefix(lines.Text(), "data: "); ok {
				heard <- subject
			}
		}
	}()
	published, err := http.Post(hosts.URL+"/documents/"+demo.Document+"/publish", "application/json", nil)
	require.NoError(t, err)
	require.Equal(t, http.StatusOK, published.StatusCode)
	_ = published.Body.Close()
	begun := time.Now()
	for kept := false; !kept; {
		select {
		case subject := <-heard:
			if strings.HasPrefix(subject, "sources") { // one may tell of the host being asked as the program begins
				p, err := s.Project(t.Context())
				require.NoError(t, err)
				kept = strings.Contains(p.Design, "revision 2")
			}
		case <-time.After(30 * time.Second):
			require.Fail(t, "no window heard of it")
		}
	}
	t.Logf("heard after %v", time.Since(begun))
}

func TestOnlyWhoHasTheSecretGivesNotice(t *testing.T) {
	db, scope := storetest.Database(t)
	o := options
	o.Secret = "between us"
	ctx, cancel := context.WithCancel(t.Context())
	t.Cleanup(cancel)
	h := server.New(service.NewProjects(db, scope.Actor, service.Hosts{}, nil), server.Listen(ctx, db, options.Log), o)
	send := func(h http.Handler, secret, content string) int {
		r := httptest.NewRequest(http.MethodPost, "/api/projects/untitled/notices", strings.NewReader(content))
		r.Host = "127.0.0.1:7180"
		if secret != "" {
			notice.Sign(r, []byte(content), secret, time.Now())
		}
		w := httptest.NewRecorder()
		h.ServeHTTP(w, r)
		return w.Code
	}
	assert.Equal(t, http.StatusNoContent, send(h, "between us", `{"id":"furrow"}`))
	assert.Equal(t, http.StatusUnauthorized, send(h, "a guess", `{"id":"furrow"}`))
	assert.Equal(t, http.StatusUnauthorized, send(h, "", `{"id":"furrow"}`))
	assert.Equal(t, http.StatusRequestEntityTooLarge, send(h, "between us", strings.Repeat("x", 65<<10)))
	assert.Equal(t, http.StatusUnauthorized, send(application(t), "between us", `{}`), "without a secret of its own nobody is believed")
}
