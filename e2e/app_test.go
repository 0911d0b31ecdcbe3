// Package e2e drives the real interface in headless Chromium: a real database,
// the real servers, the simulated design host.
package e2e

import (
	"cobrik/core/font"
	"context"
	"log/slog"
	"net"
	"net/http"
	"os"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"cobrik/demo"
	"cobrik/demo/demotest"
	"cobrik/server"
	"cobrik/service"
	"cobrik/standin"
	"cobrik/store"
	"cobrik/store/storetest"
)

func TestMain(m *testing.M) { storetest.Main(m) }

// app is one running installation with the demo's data.
type app struct {
	url, preview string
	service      *service.Service
	stopHost     func()
	serve        func() (stop func()) // at the same addresses again, once they were stopped
	stop         func()
}

// builds may change what the preview is given to run.
type builds func(*service.Service) server.Builder

func startApp(t testing.TB, change ...builds) *app {
	t.Helper()
	ctx, cancel := context.WithCancel(context.Background())
	db, err := store.Open(ctx, storetest.URL(t))
	require.NoError(t, err)
	scope, err := db.First(ctx)
	require.NoError(t, err)
	t.Cleanup(func() { cancel(); db.Close() }) // the listener holds a connection until its context ends
	log := slog.New(slog.NewTextHandler(os.Stderr, &slog.HandlerOptions{Level: slog.LevelWarn}))

	host, err := standin.NewHost(map[string][][]byte{demo.Document: demo.Revisions()}, "")
	require.NoError(t, err)
	hostListener := listen(t)
	stopHost := serveOn(t, hostListener, host.Handler())

	records, err := standin.NewContent(demo.Collections())
	require.NoError(t, err)
	contentListener := listen(t)
	serveOn(t, contentListener, records.Handler())

	projects := service.NewProjects(db, scope.Actor, service.Hosts{Design: "http://" + hostListener.Addr().String(), Content: "http://" + contentListener.Addr().String()}, font.Shipped())
	stopWork, err := projects.Work(ctx, log)
	require.NoError(t, err)
	t.Cleanup(stopWork)
	first, err := projects.At(ctx, "untitled")
	require.NoError(t, err)
	a := &app{service: first, stopHost: stopHost}
	require.NoError(t, a.service.Seed(ctx, demo.Project, map[string][]byte{"furrow.design.json": demo.Revisions()[0]}, standin.ETag, demotest.TokenFiles()))

	appListener, previewListener := listen(t), listen(t)
	a.url, a.preview = "http://"+appListener.Addr().String(), "http://"+previewListener.Addr().String()
	options := server.Options{App: a.url, Preview: a.preview, Log: log}
	application := server.New(projects, server.Listen(ctx, db, log), options)
	build := projects.Build
	for _, c := range change {
		build = c(a.service)
	}
	preview := server.Preview(build, options)
	on := func(app, shown net.Listener) func() {
		stopApp, stopPreview := serveOn(t, app, application), serveOn(t, shown, preview)
		return func() { stopApp(); stopPreview() }
	}
	a.serve = func() func() {
		again := func(of net.Listener) net.Listener {
			l, err := net.Listen("tcp", of.Addr().String())
			require.NoError(t, err)
			return l
		}
		return on(again(appListener), again(previewListener))
	}
	a.stop = on(appListener, previewListener)
	return a
}

func listen(t testing.TB) net.Listener {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	return l
}

func serveOn(t testing.TB, l net.Listener, h http.Handler) (stop func()) {
	s := &http.Server{Handler: h, ReadHeaderTimeout: 10 * time.Second}
	go func() { _ = s.Serve(l) }() // ends with Close
	stop = func() { _ = s.Close() }
	t.Cleanup(stop)
	return stop
}
