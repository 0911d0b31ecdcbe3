package service

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"cobrik/core/content"
	"cobrik/core/problem"
	"cobrik/core/trial"
	"cobrik/store"
)

// ContentView is what pages are filled with.
type ContentView struct {
	Sources []ContentSource     `json:"sources"`
	Host    string              `json:"host" doc:"Address of the content host; empty for none"`
	Offers  []ContentCollection `json:"offers" doc:"Collections of the content host"`
	Trouble string              `json:"trouble" doc:"Why the content host did not answer; empty for nothing"`
}

// ContentSource is a file of records.
type ContentSource struct {
	Name     string          `json:"name"`
	Records  int             `json:"records"`
	Fields   []content.Field `json:"fields"`
	Problems problem.List    `json:"problems" doc:"Why it cannot be read, and where its schema is not kept"`
	Schema   bool            `json:"schema" doc:"It has a JSON Schema"`
	Host     string          `json:"host" doc:"The collection it is read from; empty for a file"`
	Fetched  *time.Time      `json:"fetched,omitempty"`
	Pages    []string        `json:"pages" doc:"Names of the pages that show it"`
}

// ContentCollection is what the content host has of one thing.
type ContentCollection struct {
	Name    string `json:"name"`
	Records int    `json:"records"`
	Taken   bool   `json:"taken" doc:"It is a source already"`
}

// Content lists the sources of records, and what the content host has.
func (s *Service) Content(ctx context.Context) (ContentView, error) {
	out := ContentView{Sources: []ContentSource{}, Offers: []ContentCollection{}}
	rows, err := s.store.ContentSources(ctx)
	if err != nil {
		return out, err
	}
	pages, err := s.store.TrialOutlines(ctx)
	if err != nil {
		return out, err
	}
	shown := map[string][]string{}
	for _, p := range pages {
		list, _ := trial.Parse(p.Outline)
		for _, name := range trial.Sources(list) {
			shown[name] = append(shown[name], p.Name)
		}
	}
	taken := map[string]bool{}
	for _, r := range rows {
		one, err := s.contentSource(r)
		if err != nil {
			return out, err
		}
		one.Pages = append(one.Pages, shown[r.Name]...)
		out.Sources = append(out.Sources, one)
		taken[r.Host] = true
	}
	if s.content == nil {
		return out, nil
	}
	out.Host = s.content.base
	offers, err := s.content.collections(ctx)
	if err != nil {
		out.Trouble = err.Error()
		return out, nil
	}
	for _, o := range offers {
		o.Taken = taken[o.Name]
		out.Offers = append(out.Offers, o)
	}
	return out, nil
}

func (s *Service) contentSource(r store.ContentSource) (ContentSource, error) {
	return recalled(&s.memo, fmt.Sprint("content view ", s.store.Scope.Project, " ", r.Name, " ", r.Updated.UnixNano()), func() (ContentSource, error) {
		out := ContentSource{Name: r.Name, Fields: []content.Field{}, Problems: problem.List{}, Schema: len(r.Schema) > 0, Host: r.Host, Fetched: r.Fetched, Pages: []string{}}
		source, found := content.Read(r.Name, r.Content)
		out.Problems = append(out.Problems, found...)
		if source == nil {
			return out, nil
		}
		out.Records, out.Fields = len(source.Records), append(out.Fields, source.Fields...)
		if len(r.Schema) > 0 {
			out.Problems = append(out.Problems, content.Validate(r.Name+" schema", r.Schema, r.Name, r.Content)...)
		}
		return out, nil
	})
}

// PutContent keeps a file of records: CSV or JSON; a JSON Schema, named *.schema.json, goes to the source of its name.
func (s *Service) PutContent(ctx context.Context, file string, text []byte) (ContentView, error) {
	file = filepath.Base(strings.ReplaceAll(file, "\\", "/"))
	if base, is := strings.CutSuffix(file, ".schema.json"); is {
		return s.putSchema(ctx, file, base, text)
	}
	switch strings.ToLower(filepath.Ext(file)) {
	case ".csv", ".json":
	default:
		return ContentView{}, invalid(nil, "%s is neither CSV nor JSON: records come as *.csv or *.json.", file)
	}
	source, found := content.Read(file, text)
	if source == nil {
		return ContentView{}, invalid(found, "%s cannot be read: %s", file, found[0].Message)
	}
	if err := s.store.PutContentSource(ctx, store.ContentSource{Name: file, Content: text}); err != nil {
		return ContentView{}, err
	}
	return s.Content(ctx)
}

func (s *Service) putSchema(ctx context.Context, file, base string, text []byte) (ContentView, error) {
	rows, err := s.store.ContentSources(ctx)
	if err != nil {
		return ContentView{}, err
	}
	i := slices.IndexFunc(rows, func(r store.ContentSource) bool {
		return strings.TrimSuffix(r.Name, filepath.Ext(r.Name)) == base || r.Name == base
	})
	if i < 0 {
		return ContentView{}, invalid(nil, "%s is a schema of %s.json or %s.csv, and there is no such source yet. Add that first.", file, base, base)
	}
	if bad := content.Validate(file, text, rows[i].Name, rows[i].Content); slices.ContainsFunc(bad, func(p problem.Problem) bool { return p.Rule == "schema" && p.File == file }) || problem.CheckJSON(file, text, content.Limits).Failed() {
		return ContentView{}, invalid(bad, "%s is no JSON Schema that can be used.", file)
	}
	if err := s.store.PutContentSchema(ctx, rows[i].Name, text); err != nil {
		return ContentView{}, err
	}
	return s.Content(ctx)
}

// RemoveContent takes a source away. Rows that show it are told of.
func (s *Service) RemoveContent(ctx context.Context, name string) (ContentView, error) {
	if err := s.store.RemoveContentSource(ctx, name); errors.Is(err, store.ErrNotFound) {
		return ContentView{}, notFound("There is no source %q.", name)
	} else if err != nil {
		return ContentView{}, err
	}
	return s.Content(ctx)
}

// FetchContent reads a collection of the content host, page by page, as a source: all of it, or nothing.
func (s *Service) FetchContent(ctx context.Context, collection string) (ContentView, error) {
	if s.content == nil {
		return ContentView{}, invalid(nil, "There is no content host.")
	}
	records, err := s.content.records(ctx, collection)
	if err != nil {
		return ContentView{}, &Failure{Kind: Unavailable, Message: sentence(err.Error()) + " What was read before stays."}
	}
	text, err := json.MarshalIndent(records, "", "  ")
	if err != nil {
		return ContentView{}, err
	}
	name := collection + ".json"
	if source, found := content.Read(name, text); source == nil {
		return ContentView{}, invalid(found, "What the content host sent of %s cannot be read: %s", collection, found[0].Message)
	}
	now := time.Now()
	if err := s.store.PutContentSource(ctx, store.ContentSource{Name: name, Content: text, Host: collection, Fetched: &now}); err != nil {
		return ContentView{}, err
	}
	return s.Content(ctx)
}

// ContentRecords are some records of a source, as they are.
type ContentRecords struct {
	Name    string           `json:"name"`
	From    int              `json:"from"`
	Of      int              `json:"of"`
	Records []map[string]any `json:"records"`
}

// mostShownRecords bounds how many records are shown at once.
const mostShownRecords = 50

// Records reads some records of a source, from one on.
func (s *Service) Records(ctx context.Context, name string, from int) (ContentRecords, error) {
	rows, err := s.store.ContentSources(ctx)
	if err != nil {
		return ContentRecords{}, err
	}
	i := slices.IndexFunc(rows, func(r store.ContentSource) bool { return r.Name == name })
	if i < 0 {
		return ContentRecords{}, notFound("There is no source %q.", name)
	}
	source, err := s.source(rows[i])
	if err != nil || source == nil {
		return ContentRecords{Name: name, Records: []map[string]any{}}, err
	}
	from = max(0, min(from, len(source.Records)))
	out := ContentRecords{Name: name, From: from, Of: len(source.Records), Records: []map[string]any{}}
	for _, r := range source.Records[from:min(len(source.Records), from+mostShownRecords)] {
		out.Records = append(out.Records, r)
	}
	return out, nil
}
