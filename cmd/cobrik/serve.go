package main

import (
	"cmp"
	"cobrik/core/font"
	"cobrik/web"
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"cobrik/core/contract"
	"cobrik/demo"
	"cobrik/demo/story"
	"cobrik/server"
	"cobrik/service"
	"cobrik/standin"
	"cobrik/store"
	"cobrik/store/cluster"
)

type serveFlags struct {
	app, preview, dev, host, data string
	content                       string
	hosts                         service.Hosts
	secret                        string
	databasePort                  int
	verbose, fresh                bool
}

func (f *serveFlags) add(c *cobra.Command) {
	c.Flags().StringVar(&f.app, "app", "127.0.0.1:7180", "address of the application")
	c.Flags().StringVar(&f.preview, "preview", "127.0.0.1:7181", "address of the preview origin")
	c.Flags().StringVar(&f.dev, "dev", "", "address of a development server that has the application's pages, too")
	c.Flags().IntVar(&f.databasePort, "database-port", 7183, "port of the private PostgreSQL server; DATABASE_URL names one of your own instead")
	c.Flags().StringVar(&f.data, "data", dataDir(), "folder of the private database")
	c.Flags().BoolVar(&f.verbose, "verbose", false, "log every request")
}

// dataDir is where data goes by default. As root the server runs as the user
// postgres, who cannot enter root's home.
func dataDir() string {
	if os.Getuid() == 0 {
		return "/var/lib/cobrik"
	}
	if home, err := os.UserHomeDir(); err == nil {
		return filepath.Join(home, ".local", "share", "cobrik")
	}
	return "cobrik-data"
}

func serveCommand() *cobra.Command {
	var f serveFlags
	c := &cobra.Command{
		Use:   "serve",
		Short: "Serve the application",
		Long: `Starts a private PostgreSQL server on loopback, or uses the one DATABASE_URL
names, brings its tables up to date and serves the application and the preview
origin until interrupted.`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error { return serve(cmd.Context(), f, false) },
	}
	f.add(c)
	c.Flags().StringVar(&f.hosts.Design, "host-url", "", "address of a design host, such as http://127.0.0.1:7182")
	c.Flags().StringVar(&f.secret, "notice-secret", "", "what a design host signs its notices with, better given as COBRIK_NOTICE_SECRET; none are taken without one")
	c.Flags().StringVar(&f.hosts.Content, "content-url", "", "address of a content host, such as http://127.0.0.1:7184")
	return c
}

func demoCommand() *cobra.Command {
	var f serveFlags
	c := &cobra.Command{
		Use:   "demo",
		Short: "Serve the application with the Furrow demo and a simulated design host",
		Args:  cobra.NoArgs,
		RunE:  func(cmd *cobra.Command, _ []string) error { return serve(cmd.Context(), f, true) },
	}
	f.add(c)
	c.Flags().BoolVar(&f.fresh, "fresh", false, "begin with the sources alone, not in the middle of the demo's story")
	c.Flags().StringVar(&f.host, "host", "127.0.0.1:7182", "address of the simulated design host")
	c.Flags().StringVar(&f.content, "content", "127.0.0.1:7184", "address of the simulated content host")
	return c
}

func serve(ctx context.Context, f serveFlags, withDemo bool) error {
	if err := web.Built(); err != nil {
		return err
	}
	level := slog.LevelInfo
	if f.verbose {
		level = slog.LevelDebug
	}
	log := slog.New(slog.NewTextHandler(os.Stderr, &slog.HandlerOptions{Level: level}))
	slog.SetDefault(log)
	url, stopDatabase, err := database(ctx, f, withDemo)
	if err != nil {
		return err
	}
	defer stopDatabase()
	db, err := store.Open(ctx, url)
	if errors.Is(err, store.ErrOlder) {
		return fmt.Errorf("%w; to start anew, remove %s or name another folder with --data (a database of your own: name an empty one)", err, f.data)
	}
	if err != nil {
		return err
	}
	defer db.Close()
	scope, err := db.First(ctx)
	if err != nil {
		return err
	}
	ctx, cancel := context.WithCancel(ctx)
	defer cancel() // before Close: the listener for live events holds a connection until then

	group := servers{log: log, failed: make(chan error, 4)}
	defer group.stop()
	f.secret = cmp.Or(f.secret, os.Getenv("COBRIK_NOTICE_SECRET"))
	if withDemo {
		f.secret = rand.Text()
		if f.hosts, err = startHosts(&group, f); err != nil {
			return err
		}
	}
	fonts := font.Shipped()
	projects := service.NewProjects(db, scope.Actor, f.hosts, fonts)
	if withDemo {
		if err := story.Begin(ctx, service.New(db.In(scope), f.hosts, fonts), f.fresh); err != nil {
			return err
		}
		if !f.fresh {
			s := service.New(db.In(scope), f.hosts, fonts)
			if err := errors.Join(story.Code(ctx, s, filepath.Join(f.data, "hollowbeck-app.git")), story.Weeks(ctx, s)); err != nil {
				return err
			}
		}
	}
	stopWork, err := projects.Work(ctx, log)
	if err != nil {
		return err
	}
	defer stopWork()
	options := server.Options{App: "http://" + f.app, Preview: "http://" + f.preview, Secret: f.secret, Log: log}
	if f.dev != "" {
		options.Dev = "http://" + f.dev
	}
	events := server.Listen(ctx, db, log)
	if err := group.start("application", f.app, server.New(projects, events, options)); err != nil {
		return err
	}
	if err := group.start("preview", f.preview, server.Preview(projects.Build, options)); err != nil {
		return err
	}
	fmt.Printf("\n  Cobrik is at %s\n\n", options.App)
	select {
	case err := <-group.failed:
		return err
	case <-ctx.Done():
		log.Info("stopping")
		return nil
	}
}

// database gives the address of the database to use and how to leave it.
func database(ctx context.Context, f serveFlags, withDemo bool) (url string, stop func(), err error) {
	if url := os.Getenv("DATABASE_URL"); url != "" {
		return url, func() {}, nil
	}
	c, err := cluster.Start(ctx, cluster.Options{Dir: f.data, Port: f.databasePort, Log: slog.Default()})
	if err != nil {
		return "", nil, err
	}
	stop = func() {
		if err := c.Stop(); err != nil {
			slog.Error("database", "error", err)
		}
	}
	name := "cobrik"
	if withDemo {
		name = "cobrik_demo"
	}
	if err := c.Create(ctx, name); err != nil {
		stop()
		return "", nil, err
	}
	return c.URL(name), stop, nil
}

// startHosts starts the simulated hosts, and gives their addresses.
func startHosts(group *servers, f serveFlags) (out service.Hosts, err error) {
	if err := os.MkdirAll(f.data, 0o750); err != nil {
		return out, err
	}
	host, err := standin.NewHost(map[string][][]byte{demo.Document: demo.Revisions()}, filepath.Join(f.data, "host.json"),
		standin.Notify{URL: "http://" + f.app + "/api/projects/" + contract.Slug(demo.Project) + "/notices", Secret: f.secret})
	if err != nil {
		return out, err
	}
	if err := group.start("design host", f.host, host.Handler()); err != nil {
		return out, err
	}
	records, err := standin.NewContent(demo.Collections())
	if err != nil {
		return out, err
	}
	if err := group.start("content host", f.content, records.Handler()); err != nil {
		return out, err
	}
	return service.Hosts{Design: "http://" + f.host, Content: "http://" + f.content}, nil
}

// servers are the HTTP servers of one process.
type servers struct {
	log    *slog.Logger
	list   []*http.Server
	failed chan error
}

func (g *servers) start(name, address string, h http.Handler) error {
	l, err := listen(address)
	if err != nil {
		return fmt.Errorf("%s: %w; choose another address with its flag (see cobrik help)", name, err)
	}
	s := &http.Server{Handler: h, ReadHeaderTimeout: 10 * time.Second, ReadTimeout: 2 * time.Minute, IdleTimeout: 2 * time.Minute}
	g.list = append(g.list, s)
	go func() {
		if err := s.Serve(l); !errors.Is(err, http.ErrServerClosed) {
			g.failed <- fmt.Errorf("%s: %w", name, err)
		}
	}()
	g.log.Info("listening", "server", name, "address", address)
	return nil
}

// listen takes an address, and waits a little for whoever is about to let go of it.
func listen(address string) (l net.Listener, err error) {
	for range 30 {
		if l, err = net.Listen("tcp", address); !errors.Is(err, syscall.EADDRINUSE) {
			return l, err
		}
		time.Sleep(100 * time.Millisecond)
	}
	return l, err
}

// stop lets requests under way end, up to a few seconds.
func (g *servers) stop() {
	ctx, cancel := context.WithTimeout(context.Background(), 5*time.Second)
	defer cancel()
	for _, s := range g.list {
		if err := s.Shutdown(ctx); err != nil {
			g.log.Warn("stopping", "error", err)
		}
	}
}
