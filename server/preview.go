package server

import (
	"context"
	"encoding/json"
	"fmt"
	"html"
	"io/fs"
	"log/slog"
	"net/http"
	"net/url"
	"strings"
	"sync"

	"github.com/gin-gonic/gin"
	"golang.org/x/sync/singleflight"

	"cobrik/service"
	"cobrik/web"
)

// Builder compiles a component of the project at an address for the preview.
type Builder func(ctx context.Context, project, slug string, want service.Wanted) (service.Built, error)

// Preview gives the preview origin's handler. What runs there is sandboxed
// without an origin of its own, may load from this server alone, connect to
// nothing and be framed by the application only.
func Preview(build Builder, o Options) http.Handler {
	gin.SetMode(gin.ReleaseMode)
	r := gin.New()
	r.HandleMethodNotAllowed = true
	r.NoMethod(noSuchMethod)
	r.NoRoute(noSuchAddress)
	r.Use(recovered(o.Log), logged(o.Log), answersTo(origins(o.Preview)), isolated(o), sound)
	p := &previews{build: build, app: o.pages()}
	r.GET("/c/:project/:slug/:build/", p.page)
	r.GET("/c/:project/:slug/:build/component.js", p.script)
	r.GET("/c/:project/:slug/:build/component.css", p.style)
	files, err := fs.Sub(web.Dist, "dist/preview")
	if err != nil {
		panic(err) // the folder is embedded
	}
	r.StaticFS("/runtime", http.FS(files))
	return r
}

func isolated(o Options) gin.HandlerFunc {
	own := strings.Join(origins(o.Preview), " ")
	policy := strings.Join([]string{
		"default-src 'none'", "script-src " + own, "style-src " + own, "font-src " + own, "img-src data:", "connect-src 'none'",
		"base-uri 'none'", "form-action 'none'", "frame-ancestors " + strings.Join(o.pages(), " "), "sandbox allow-scripts",
	}, "; ")
	allowed := map[string]bool{"": true, "null": true} // a sandboxed page has the origin "null"
	for _, origin := range append(origins(o.Preview), o.pages()...) {
		allowed[origin] = true
	}
	return func(c *gin.Context) {
		h := c.Writer.Header()
		h.Set("Content-Security-Policy", policy)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "no-referrer")
		h.Set("Cross-Origin-Resource-Policy", "same-site")
		h.Set("Vary", "Origin")
		origin := c.GetHeader("Origin")
		if !allowed[origin] {
			answerTrouble(c, http.StatusForbidden, "Only Cobrik's own pages are shown previews.")
			return
		}
		if origin != "" {
			h.Set("Access-Control-Allow-Origin", origin)
		}
		c.Next()
	}
}

// previews keeps the last builds: a page asks for script and style of one.
type previews struct {
	build Builder
	app   []string
	mu    sync.Mutex
	kept  []keptBuild        // newest last
	once  singleflight.Group // what several frames ask for at once is compiled once
}

type keptBuild struct {
	project, slug, asked string
	service.Built
}

const keptBuilds = 64

// get gives the build a request names, or the newest where that is another.
func (p *previews) get(c *gin.Context) (service.Built, error) {
	project, slug, build, want := c.Param("project"), c.Param("slug"), c.Param("build"), wanted(c)
	asked := build + wantedQuery(want)
	p.mu.Lock()
	for _, b := range p.kept {
		if b.project == project && b.slug == slug && b.asked == asked {
			p.mu.Unlock()
			return b.Built, nil
		}
	}
	p.mu.Unlock()
	// The first to ask may leave before the others have it.
	made, err, _ := p.once.Do(project+"/"+slug+"/"+asked, func() (any, error) { return p.build(context.WithoutCancel(c), project, slug, want) })
	b, _ := made.(service.Built)
	if err != nil || !current(b, build) {
		return b, err
	}
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.kept = append(p.kept, keptBuild{project, slug, asked, b}); len(p.kept) > keptBuilds {
		p.kept = p.kept[1:]
	}
	return b, nil
}

func wanted(c *gin.Context) service.Wanted {
	return service.Wanted{Build: c.Param("build"), Typed: c.Query("typed"), Release: c.Query("release"), Code: c.Query("code")}
}

// wantedQuery is what an address says of the state it wants; empty for the one that is now.
func wantedQuery(w service.Wanted) string {
	out := url.Values{}
	for name, value := range map[string]string{"typed": w.Typed, "release": w.Release, "code": w.Code} {
		if value != "" {
			out.Set(name, value)
		}
	}
	if len(out) == 0 {
		return ""
	}
	return "?" + out.Encode()
}

// current tells whether a build is of the state that a request names; of one that is typed or released, the
// part before the tilde names that.
func current(b service.Built, asked string) bool {
	of, _, _ := strings.Cut(b.Build, "~")
	return of == asked
}

func (p *previews) page(c *gin.Context) {
	c.Header("Cache-Control", "no-cache")
	query := wantedQuery(wanted(c))
	c.Data(http.StatusOK, "text/html; charset=utf-8", fmt.Appendf(nil, `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="cobrik-app" content="%[1]s">
<title>Preview</title>
<link rel="stylesheet" href="/runtime/style.css" crossorigin>
<link rel="stylesheet" href="component.css%[2]s" crossorigin>
<body>
<script src="/runtime/runner.js" crossorigin></script>
<script src="component.js%[2]s" crossorigin></script>
</body>
</html>
`, html.EscapeString(strings.Join(p.app, " ")), html.EscapeString(query)))
}

// failure is handed to the page in place of a component that cannot run.
type failure struct {
	Message string `json:"message"`
	File    string `json:"file,omitempty"`
	Line    int    `json:"line,omitempty"`
	Column  int    `json:"column,omitempty"`
}

func (p *previews) script(c *gin.Context) {
	b, err := p.get(c)
	var f *failure
	switch {
	case err != nil:
		slog.Warn("preview", "slug", c.Param("slug"), "error", err)
		f = &failure{Message: "The component could not be compiled: " + err.Error()}
	case !current(b, c.Param("build")):
		f = &failure{Message: "This build is out of date; reload to see the newest."}
	case b.Problems.Failed():
		one := b.Problems[0]
		f = &failure{one.Message, one.File, one.Line, one.Column}
	}
	c.Header("Content-Type", "text/javascript; charset=utf-8")
	if f != nil {
		c.Header("Cache-Control", "no-store")
		text, _ := json.Marshal(f) // plain strings and numbers always encode
		c.String(http.StatusOK, "globalThis.cobrikFailed(%s);\n", text)
		return
	}
	c.Header("Cache-Control", "private, max-age=3600")
	c.String(http.StatusOK, "%s", b.Script())
}

func (p *previews) style(c *gin.Context) {
	b, err := p.get(c)
	if err != nil || !current(b, c.Param("build")) {
		c.Header("Cache-Control", "no-store")
		c.Data(http.StatusOK, "text/css; charset=utf-8", nil)
		return
	}
	c.Header("Cache-Control", "private, max-age=3600")
	c.Data(http.StatusOK, "text/css; charset=utf-8", []byte(b.Bundle.CSS))
}
