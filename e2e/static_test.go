package e2e

import (
	"encoding/json"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"cobrik/core/catalogue"
	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/publish"
	"cobrik/demo/demotest"
	"cobrik/service"
	"cobrik/web"
)

// staticFurrow is the demo's design as a catalogue without a server.
func staticFurrow(t testing.TB) (service.Static, []emit.File) {
	t.Helper()
	doc, tokens := demotest.Furrow(t, 1)
	families, _ := demotest.Families(t, doc, tokens)
	s := service.Static{Name: "Furrow", Version: "1.2.0", Tokens: demotest.TokenFiles()}
	for _, f := range families {
		s.Components = append(s.Components, publish.Component{Contract: f.Contract, Shelf: "Plots", Version: "1.0.0"})
	}
	files, err := s.Files(t.Context())
	require.NoError(t, err)
	return s, files
}

// onDisk writes a catalogue with what its pages load.
func onDisk(t *testing.T, files []emit.File) string {
	t.Helper()
	dir := t.TempDir()
	put := func(name string, text []byte) {
		name = filepath.Join(dir, filepath.FromSlash(name))
		require.NoError(t, os.MkdirAll(filepath.Dir(name), 0o755))
		require.NoError(t, os.WriteFile(name, text, 0o644))
	}
	for _, f := range files {
		put(f.Path, []byte(f.Content))
	}
	for _, name := range []string{"site.js", "site.css", "runner.js", "runner.css"} {
		text, err := fs.ReadFile(web.Dist, "dist/site/"+name)
		require.NoError(t, err)
		put("assets/"+name, text)
	}
	put("assets/page.css", nil)
	return dir
}

func TestACatalogueIsReadFromAFolder(t *testing.T) {
	s, files := staticFurrow(t)
	_, again := staticFurrow(t)
	require.Equal(t, files, again, "a catalogue made again is another")
	dir := onDisk(t, files)
	p := openPage(t, &app{url: "file://" + dir})
	goTo := func(path string) {
		p.do(chromedp.Navigate("file://" + dir + "/" + path))
		p.do(chromedp.Reload())
	}
	goTo("index.html")
	p.sees(fmt.Sprintf("%d components", len(s.Components)))
	p.until("pictures that run", `document.querySelectorAll("[role=grid] iframe").length > 3`)
	p.accessible("The catalogue from a folder")

	// By the keyboard alone: to the field, down into the list, into the component, to each of its sheets.
	p.fill("input[placeholder^=Find]", "", "chip")
	p.sees("1 of")
	p.sees("chip: another word for CropTag")
	p.until("its status and version", `/released\s*1\.0\.0/.test(document.querySelector("#entry-crop-tag").innerText)`)
	p.until("the field has the focus", `(document.querySelector("input[placeholder^=Find]").focus(), true)`)
	p.press(kb.ArrowDown)
	p.until("the list has the focus", `document.activeElement.getAttribute("role") === "grid" && document.activeElement.getAttribute("aria-activedescendant") === "entry-crop-tag"`)
	p.press(enter)
	p.until("the component's page", `location.hash === "#/catalogue/crop-tag"`)
	p.until("the specimen, measured", `document.querySelectorAll("[data-mark=dimension]").length === 2`)
	p.accessible("A specimen from a folder")
	evaluate[bool](p, `(() => { const s = document.querySelector("[aria-label=Use] select[aria-label=size]"); s.value = "s"; return s.dispatchEvent(new Event("change", { bubbles: true })) })()`)
	p.until("the specimen to follow", `[...document.querySelectorAll("main svg text")].some((e) => e.textContent === "20")`)
	for key, sees := range map[string]string{"t": "It does nothing by itself", "a": "To assistive technology", "u": "tokens it refers to", "c": "export function CropTag"} {
		p.key(key)
		p.sees(sees)
		p.accessible("A sheet from a folder: " + sees)
	}
	assert.False(t, evaluate[bool](p, `[...document.querySelectorAll("nav a")].some((a) => ["Review", "History"].includes(a.textContent))`), "what a folder cannot do is offered")
	p.click("button", "Dark theme")
	p.accessible("A sheet from a folder, in the dark")
	assert.Empty(t, evaluate[[]string](p, `performance.getEntriesByType("resource").map((e) => e.name).filter((n) => !n.startsWith("file:") && !n.startsWith("data:"))`), "it asks for something outside of its folder")

	// It finds what the server finds, in the same order and for the same reasons.
	var names []string
	var terms [][]catalogue.Term
	for _, c := range s.Components {
		names = append(names, c.Contract.Name)
		terms = append(terms, append(catalogue.Terms(c.Contract), catalogue.ShelfTerms(c.Shelf)...))
	}
	x := catalogue.NewIndex(names, terms)
	asked := []string{"", "card", "cards", "tag ripe", "space.2", "nowhere", "ar", "ard", "Plots", "menu escape"}
	for _, list := range terms {
		asked = append(asked, list[0].Word, list[len(list)/2].Word+" "+list[len(list)-1].Word)
	}
	for _, words := range asked {
		type hit struct {
			Slug string
			Why  []catalogue.Reason
		}
		want := []hit{}
		for _, h := range x.Find(words) {
			want = append(want, hit{contract.Slug(s.Components[h.Component].Contract.Name), h.Why})
		}
		text, err := json.Marshal(words)
		require.NoError(t, err)
		got := evaluate[[]hit](p, `fetch("/api/projects/x/catalogue?words=" + encodeURIComponent(`+string(text)+`)).then((r) => r.json())`)
		got = slices.DeleteFunc(got, func(h hit) bool { // layout primitives are found there, too
			return !slices.ContainsFunc(s.Components, func(c publish.Component) bool { return contract.Slug(c.Contract.Name) == h.Slug })
		})
		assert.Equal(t, want, got, "%q", words)
	}

	goTo("components/plot-card.html")
	p.sees("PlotCard")
	p.accessible("A page that needs no script")
	p.click("a", "See it run, with its cases, states, access and code")
	p.until("the component, running", `location.hash === "#/catalogue/plot-card" && document.querySelectorAll("[data-mark=dimension]").length === 2`)
}

// Every link of a page leads to a page that is there, or to a component that it holds.
func TestLinksOfAFolderResolve(t *testing.T) {
	s, files := staticFurrow(t)
	there := map[string]bool{}
	for _, f := range files {
		there[f.Path] = true
	}
	for _, name := range []string{"site.js", "site.css", "runner.js", "runner.css", "page.css"} {
		there["assets/"+name] = true
	}
	links := 0
	for _, f := range files {
		if !strings.HasSuffix(f.Path, ".html") {
			continue
		}
		doc, err := html.Parse(strings.NewReader(f.Content))
		require.NoError(t, err)
		base, err := url.Parse("file:///" + f.Path)
		require.NoError(t, err)
		for n := range doc.Descendants() {
			for _, a := range n.Attr {
				if a.Key != "href" && a.Key != "src" {
					continue
				}
				links++
				to, err := base.Parse(a.Val)
				require.NoError(t, err)
				assert.True(t, there[strings.TrimPrefix(to.Path, "/")], "%s leads to %s, which is not there", f.Path, a.Val)
				if slug, ok := strings.CutPrefix(to.Fragment, "/catalogue/"); ok {
					assert.True(t, there["data/"+slug+".js"], "%s leads to %s, of which nothing is known", f.Path, slug)
				}
			}
		}
	}
	assert.Greater(t, links, 5*len(s.Components))
}

// Goal: 200 components in a few seconds.
func BenchmarkStaticCatalogueOf200(b *testing.B) {
	doc, tokens := demotest.Furrow(b, 1)
	families, _ := demotest.Families(b, doc, tokens)
	s := service.Static{Name: "Furrow", Tokens: demotest.TokenFiles()}
	for i := range 200 {
		c := families[i%len(families)].Contract.Clone()
		c.Name = fmt.Sprintf("%s%d", c.Name, i)
		s.Components = append(s.Components, publish.Component{Contract: c})
	}
	for b.Loop() {
		_, err := s.Files(b.Context())
		require.NoError(b, err)
	}
}
