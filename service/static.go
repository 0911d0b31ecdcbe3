package service

import (
	"context"
	"encoding/json"
	"fmt"
	"html"
	"net/url"
	"runtime"

	"golang.org/x/sync/errgroup"

	"cobrik/core/catalogue"
	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/emit"
	"cobrik/core/font"
	"cobrik/core/primitive"
	"cobrik/core/publish"
	"cobrik/core/sheet"
	"cobrik/core/token"
	"cobrik/store"
)

// Static is a catalogue without a server: contracts and tokens as they lie on a disk. Uses are tied to the components among
// them.
type Static struct {
	Name       string // of the library
	Version    string
	Components []publish.Component // in the order of their names
	Tokens     []token.File        // with a resolver document and a project file, where there are any
}

// Files writes the catalogue, without the views and the style sheets that every one is shown with: pages, the answers that
// these ask for, and each component compiled in a page of its own. The same library gives the same bytes.
func (c Static) Files(ctx context.Context) ([]emit.File, error) {
	var stored []store.TokenFile
	for _, f := range c.Tokens {
		stored = append(stored, store.TokenFile{Name: f.Name, Content: f.Text})
	}
	l, err := openLibrary(ctx, store.TokenRevision{}, stored)
	if err != nil {
		return nil, err
	}
	if found := l.problems(); found.Failed() {
		return nil, invalid(found, "The tokens have errors: %s", found[0].Message)
	}
	site := staticSite{Static: c, library: l, fonts: font.Shipped()}
	return site.files(ctx)
}

type staticSite struct {
	Static
	library *library
	fonts   *font.Library
	list    []*component
	beside  []usesOf
}

func (s *staticSite) files(ctx context.Context) ([]emit.File, error) {
	taken := map[string]string{}
	for _, p := range s.Components {
		c := p.Contract
		c.Timed(s.library.tokens())
		w := &component{row: store.Component{ID: 1, Slug: contract.Slug(c.Name), Name: c.Name, Shelf: p.Shelf}, contract: c}
		if p.Version != "" {
			w.row.Version = &p.Version
		}
		s.list, s.beside = append(s.list, w), append(s.beside, usesOf{c.Name, w.row.Slug, c.Components()})
		if other, ok := taken[w.row.Slug]; ok {
			return nil, invalid(nil, "%s and %s would have one address, %s. Call one of them otherwise.", other, c.Name, w.row.Slug)
		}
		taken[w.row.Slug] = c.Name
	}
	for _, c := range primitive.Contracts(s.library.tokens()) {
		if slug := contract.Slug(c.Name); taken[slug] == "" {
			s.list = append(s.list, &component{row: store.Component{Slug: slug, Name: c.Name}, contract: c, primitive: true})
		}
	}
	answers := map[string]any{}
	entries, prims := make([]Entry, len(s.Components)), []Primitive{}
	pages := make([][]emit.File, len(s.list))
	work, ctx := errgroup.WithContext(ctx)
	work.SetLimit(runtime.GOMAXPROCS(0))
	for i, w := range s.list {
		w.library, w.tokens, w.fonts, w.build = s.library, s.library.tokens(), s.fonts, "static"
		w.doc, w.components = &design.Document{}, draft.Components(func(string) *contract.Contract { return nil })
		work.Go(func() error {
			if err := ctx.Err(); err != nil {
				return err
			}
			entry, files, err := s.component(w)
			pages[i] = files
			if i < len(entries) {
				entries[i] = entry
			}
			return err
		})
	}
	if err := work.Wait(); err != nil {
		return nil, err
	}
	users := map[string]int{}
	for _, b := range s.beside {
		for name := range counts(b.uses) {
			users[name]++
		}
	}
	index := catalogueIndex{Fields: catalogue.Fields, Weights: catalogue.Weights()}
	var terms [][]catalogue.Term
	for i, w := range s.list {
		index.Slugs = append(index.Slugs, w.row.Slug)
		terms = append(terms, append(catalogue.Terms(w.contract), catalogue.ShelfTerms(w.row.Shelf)...))
		index.Names = append(index.Names, w.contract.Name)
		if i < len(entries) {
			entries[i].UsedBy = users[w.contract.Name]
			continue
		}
		prims = append(prims, primitiveOf(w.contract))
	}
	index.Words = catalogue.NewIndex(index.Names, terms).Words
	answers["GET /components"], answers["GET /primitives"] = entries, prims
	answers["GET /project"] = map[string]any{"name": s.Name, "version": s.Version, "preview": "frames"}
	text, err := json.Marshal(map[string]any{"answers": answers, "index": index})
	if err != nil {
		return nil, err
	}
	out := publish.Library{Name: s.Name, Version: s.Version, Components: s.Components}.Pages()
	out = append(out, emit.File{Path: "data/index.js", Content: "globalThis.cobrikSite = " + string(text) + ";\n"})
	for _, files := range pages {
		out = append(out, files...)
	}
	return out, nil
}

// catalogueIndex is what a page without a server is searched by.
type catalogueIndex struct {
	Names   []string                       `json:"names"`
	Slugs   []string                       `json:"slugs"`
	Fields  []catalogue.Field              `json:"fields"`
	Weights []float64                      `json:"weights"`
	Words   map[string][]catalogue.Posting `json:"words"`
}

// component writes what is asked of one: answers, and the page in which it runs.
func (s *staticSite) component(w *component) (Entry, []emit.File, error) {
	slug := w.row.Slug
	findings := sheet.Findings(w.contract, w.review(w.contract))
	st := w.standing(map[string]int{}, findings)
	entry := Entry{Slug: slug, Name: w.contract.Name, Purpose: w.contract.Purpose, Shelf: w.row.Shelf, Status: draftStatus, Width: st.size.Width, Height: st.size.Height,
		Fills: st.fills, Build: w.build, Shown: st.shown, Props: st.props, Cases: st.cases, Errors: len(st.errors), Warnings: len(st.warnings)}
	if w.row.Version != nil {
		entry.Status, entry.Version = releasedStatus, *w.row.Version
	}
	if w.contract.Deprecated != nil {
		entry.Status, entry.Deprecated = deprecatedStatus, w.contract.Deprecated.String()
	}
	answers := map[string]any{}
	at := "GET /components/" + url.PathEscape(slug)
	bench := w.bench(0)
	bench.Tokens = []TokenPick{} // to pick from, where it is edited
	for _, p := range pieces(w.contract.Name, s.slugs(), s.usersOf) {
		bench.UsedBy = append(bench.UsedBy, p.Name)
	}
	answers[at], answers[at+"/about"] = bench, w.about(s.beside)
	if !w.primitive {
		answers[at+"/behaviour"] = w.behaviourView(w.contract)
	}
	built := w.built()
	if built.Problems.Failed() {
		return entry, nil, invalid(built.Problems, "%s does not compile: %s", w.contract.Name, built.Problems[0].Message)
	}
	answers[at+"/files"] = shownFiles(built.Files)
	text, err := json.Marshal(answers)
	if err != nil {
		return entry, nil, err
	}
	frame := fmt.Sprintf(`<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="cobrik-app" content="*">
<title>%[1]s, running</title>
<link rel="stylesheet" href="../assets/runner.css">
<link rel="stylesheet" href="%[2]s.css">
<body>
<script src="../assets/runner.js"></script>
<script src="%[2]s.js"></script>
</body>
</html>
`, html.EscapeString(w.contract.Name), html.EscapeString(url.PathEscape(slug)))
	return entry, []emit.File{
		{Path: "data/" + slug + ".js", Content: fmt.Sprintf("globalThis.cobrikComponentData(%q, %s);\n", slug, text)},
		{Path: "frames/" + slug + ".html", Content: frame},
		{Path: "frames/" + slug + ".css", Content: built.Bundle.CSS},
		{Path: "frames/" + slug + ".js", Content: built.Script()},
	}, nil
}

func (s *staticSite) slugs() map[string]string {
	out := map[string]string{}
	for _, b := range s.beside {
		out[b.name] = b.slug
	}
	return out
}

// usersOf counts how often a component stands in those that use it themselves.
func (s *staticSite) usersOf(name string) map[string]int {
	out := map[string]int{}
	for _, b := range s.beside {
		if n := counts(b.uses)[name]; n > 0 {
			out[b.name] = n
		}
	}
	return out
}
