// Package server puts the use cases on HTTP: the API, described by OpenAPI 3.1
// out of the Go types, live events, the application, and the preview origin.
package server

import (
	"io/fs"
	"log/slog"
	"mime"
	"net/http"
	"net/url"
	"path"
	"regexp"
	"strings"
	"sync"
	"time"
	"unicode/utf8"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"

	"cobrik/core/publish"
	"cobrik/service"
	"cobrik/store"
	"cobrik/web"
)

// Options of the servers. Addresses are origins: "http://127.0.0.1:7180".
type Options struct {
	App     string // the application's origin
	Preview string // the preview's origin: another one on purpose
	Dev     string // where a development server has the application's pages, too; empty for nowhere
	Secret  string // what a design host signs its notices with; none are taken without one
	Log     *slog.Logger
}

// New gives the application's handler. Changes are told to browsers through
// the events hub.
func New(p *service.Projects, events *Events, o Options) http.Handler {
	gin.SetMode(gin.ReleaseMode)
	r := gin.New()
	r.HandleMethodNotAllowed = true
	r.NoMethod(noSuchMethod)
	r.Use(recovered(o.Log), logged(o.Log), guarded(o), sound, gzip.Gzip(gzip.DefaultCompression, gzip.WithExcludedPathsRegexs([]string{"/events$"})))
	r.Any("/api/projects/:project/*operation", (&projects{all: p, events: events, o: o, open: map[*service.Service]http.Handler{}}).serve)
	r.NoRoute(application(p))
	return r
}

// projects serves each project's operations, under /api/projects/{project}.
type projects struct {
	all    *service.Projects
	events *Events
	o      Options

	mu   sync.Mutex
	open map[*service.Service]http.Handler
}

func (p *projects) serve(c *gin.Context) {
	s, err := p.all.At(c, c.Param("project"))
	if err != nil {
		fail(c, err)
		return
	}
	if c.Request.Method == http.MethodHead { // as GET; the answer's body is not sent (RFC 9110, 9.3.2)
		c.Request.Method = http.MethodGet
	}
	http.StripPrefix("/api/projects/"+c.Param("project"), p.handler(s)).ServeHTTP(c.Writer, c.Request)
}

func (p *projects) handler(s *service.Service) http.Handler {
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.open[s] == nil {
		r := gin.New()
		r.HandleMethodNotAllowed = true
		r.NoMethod(noSuchMethod)
		r.Use(byWindow, p.byName)
		API(r, s, p.o)
		r.GET("/events", func(c *gin.Context) { p.events.serve(c, s.ID()) })
		r.GET("/components/:slug/files.zip", func(c *gin.Context) { sendZip(c, s) })
		r.GET("/library/:file", func(c *gin.Context) { sendLibrary(c, s) })
		r.GET("/components/:slug/behaviour.scxml", func(c *gin.Context) { sendSCXML(c, s) })
		r.POST("/notices", func(c *gin.Context) { noticed(c, s, p.o.Secret) })
		r.NoRoute(noSuchAddress)
		p.open[s] = r
	}
	return p.open[s]
}

// windowNames are what a window calls itself.
var windowNames = regexp.MustCompile(`^[A-Za-z0-9.-]{1,60}$`)

// byWindow lets changes be told as those of the window that asks for them.
func byWindow(c *gin.Context) {
	if name := c.GetHeader("Cobrik-Window"); windowNames.MatchString(name) {
		c.Request = c.Request.WithContext(store.By(c.Request.Context(), name))
	}
}

// longestName bounds what people call themselves, in letters.
const longestName = 60

// byName lets what is written say who did it: the name that people give themselves in a window, percent-encoded (RFC 3986, 2.1).
// Nobody proves it; a team that shares a server trusts each other.
func (p *projects) byName(c *gin.Context) {
	name, err := url.PathUnescape(c.GetHeader("Cobrik-Name"))
	name = strings.TrimSpace(name)
	if err != nil || name == "" || !keepable(name) || utf8.RuneCountInString(name) > longestName || c.Request.Method == http.MethodGet {
		return
	}
	person, err := p.all.Person(c.Request.Context(), name)
	if err != nil {
		fail(c, err)
		return
	}
	c.Request = c.Request.WithContext(store.As(c.Request.Context(), person))
}

func noSuchAddress(c *gin.Context) {
	answerTrouble(c, http.StatusNotFound, "There is no such address.")
}

// fail answers what a plain handler could not do.
func fail(c *gin.Context, err error) {
	t := trouble(err)
	if t.Status == http.StatusServiceUnavailable {
		c.Header("Retry-After", retryAfter)
	}
	c.JSON(t.Status, t)
}

// API registers every operation of a project and gives the OpenAPI description with them.
func API(r *gin.Engine, s *service.Service, o Options) huma.API {
	config := huma.DefaultConfig("Cobrik", "1")
	config.Servers = []*huma.Server{{URL: "/api/projects/{project}", Variables: map[string]*huma.ServerVariable{
		"project": {Default: "untitled", Description: "The project's part of its pages' addresses"},
	}}}
	config.DocsPath = ""
	config.SchemasPath = ""
	config.OpenAPIPath = "/openapi"
	config.CreateHooks = nil // no $schema members in answers
	api := humagin.New(r, config)
	register(api, s, o)
	return api
}

// pages are the origins the application's pages come from.
func (o Options) pages() []string {
	if o.Dev == "" {
		return origins(o.App)
	}
	return append(origins(o.App), origins(o.Dev)...)
}

// origins gives an origin and, for loopback, the other name people type.
func origins(origin string) []string {
	out := []string{origin}
	if strings.Contains(origin, "127.0.0.1") {
		out = append(out, strings.Replace(origin, "127.0.0.1", "localhost", 1))
	}
	return out
}

// guarded answers only to the application's own name, which keeps other sites'
// names from being pointed here, and takes writes only from its own pages.
func guarded(o Options) gin.HandlerFunc {
	allowed := map[string]bool{}
	for _, origin := range o.pages() {
		allowed[origin] = true
	}
	policy := strings.Join([]string{
		"default-src 'none'", "script-src 'self'", "style-src 'self' 'unsafe-inline'", "img-src 'self' data:", "font-src 'self'",
		"connect-src 'self'", "frame-src " + strings.Join(origins(o.Preview), " "), "base-uri 'none'", "form-action 'none'", "frame-ancestors 'none'",
	}, "; ")
	named := answersTo(o.pages())
	return func(c *gin.Context) {
		if named(c); c.IsAborted() {
			return
		}
		origin := c.GetHeader("Origin")
		if c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead && origin != "" && !allowed[origin] {
			answerTrouble(c, http.StatusForbidden, "Only Cobrik's own pages may change things here.")
			return
		}
		h := c.Writer.Header()
		h.Set("Content-Security-Policy", policy)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "no-referrer")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		c.Next()
	}
}

func logged(log *slog.Logger) gin.HandlerFunc {
	return func(c *gin.Context) {
		start := time.Now()
		c.Next()
		level := slog.LevelDebug
		if c.Writer.Status() >= 500 {
			level = slog.LevelError
		}
		log.Log(c, level, "request", "method", c.Request.Method, "path", c.Request.URL.Path, "status", c.Writer.Status(), "took", time.Since(start))
	}
}

func recovered(log *slog.Logger) gin.HandlerFunc {
	return gin.CustomRecoveryWithWriter(nil, func(c *gin.Context, reason any) {
		log.Error("panic", "path", c.Request.URL.Path, "reason", reason)
		answerTrouble(c, http.StatusInternalServerError, broken)
	})
}

// application serves the built front end; every other path is the page itself,
// whose router reads it. What names no project leads to the first.
func application(projects *service.Projects) gin.HandlerFunc {
	files, err := fs.Sub(web.Dist, "dist/app")
	if err != nil {
		panic(err) // the folder is embedded
	}
	server := http.FileServerFS(files)
	return func(c *gin.Context) {
		p := strings.TrimPrefix(path.Clean(c.Request.URL.Path), "/")
		if strings.HasPrefix(p, "api/") {
			noSuchAddress(c)
			return
		}
		if c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead {
			c.Header("Allow", "GET, HEAD")
			noSuchMethod(c)
			return
		}
		if p == "" {
			first, err := projects.First(c)
			if err != nil {
				fail(c, err)
				return
			}
			c.Redirect(http.StatusFound, "/"+first+"/")
			return
		}
		if _, err := fs.Stat(files, p); err != nil {
			c.Request.URL = &url.URL{Path: "/"}
			c.Header("Cache-Control", "no-cache")
		} else {
			c.Header("Cache-Control", "public, max-age=31536000, immutable") // names hold a hash of the content
		}
		server.ServeHTTP(c.Writer, c.Request)
	}
}

func sendZip(c *gin.Context, s *service.Service) {
	slug := c.Param("slug")
	data, err := s.Zip(c, slug)
	sendFile(c, slug+".zip", "application/zip", data, err)
}

// sendFile answers with a file to be kept, or with what kept it from being made.
func sendFile(c *gin.Context, name, kind string, data []byte, err error) {
	if err != nil {
		fail(c, err)
		return
	}
	c.Header("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": name}))
	c.Data(http.StatusOK, kind, data)
}

// sendLibrary answers with a version of the library as a zip, or as npm installs it.
func sendLibrary(c *gin.Context, s *service.Service) {
	version, packed := strings.CutSuffix(c.Param("file"), ".tgz")
	if !packed {
		version = strings.TrimSuffix(version, ".zip")
	}
	name, files, err := s.LibraryFiles(c, version)
	if err != nil {
		fail(c, err)
		return
	}
	if name += "-" + version; packed {
		data, err := publish.Tarball(files)
		sendFile(c, name+".tgz", "application/gzip", data, err)
		return
	}
	data, err := publish.Zip(name, files)
	sendFile(c, name+".zip", "application/zip", data, err)
}

func sendSCXML(c *gin.Context, s *service.Service) {
	slug := c.Param("slug")
	data, err := s.SCXML(c, slug)
	sendFile(c, slug+".scxml", "application/scxml+xml", data, err)
}
