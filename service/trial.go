package service

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"maps"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/content"
	"cobrik/core/contract"
	"cobrik/core/emit/ir"
	"cobrik/core/problem"
	"cobrik/core/trial"
	"cobrik/store"
)

// TrialPrefix stands before a page's slug where components are named by theirs, in the preview's addresses.
const TrialPrefix = "page~"

// usualWidths are the widths that a page is looked at before people choose others, px: common practice, no source.
var usualWidths = []float64{1440, 768, 390}

// TrialPage is a page on trial.
type TrialPage struct {
	Slug      string               `json:"slug"`
	Name      string               `json:"name"`
	Component string               `json:"component" doc:"Its name in code"`
	Outline   string               `json:"outline"`
	Revision  int                  `json:"revision" doc:"An edit carries it"`
	Undoes    string               `json:"undoes" doc:"What undo takes back; empty for nothing"`
	Redoes    string               `json:"redoes" doc:"What redo does again; empty for nothing"`
	Build     string               `json:"build" doc:"Names what is compiled"`
	Props     map[string]any       `json:"props" doc:"What it is rendered with: what its records say"`
	Pieces    []TrialPiece         `json:"pieces" doc:"Parts one looks at, where they stand"`
	Problems  problem.List         `json:"problems" doc:"By line; a row with an error is left out"`
	Warnings  []trial.Warning      `json:"warnings" doc:"What goes wrong with what records say"`
	Groups    []trial.VersionGroup `json:"groups" doc:"Versions for widths"`
	Uses      []TrialUse           `json:"uses" doc:"The components it uses"`
	Sources   []string             `json:"sources" doc:"The files of records it shows"`
	Needs     []string             `json:"needs" doc:"What was left to do when it was taken over"`
	Gaps      int                  `json:"gaps"`
	Widths    []float64            `json:"widths" doc:"px it is looked at"`
	Document  string               `json:"document" doc:"The design it was taken over from; empty for none"`
	Drawn     []TrialDrawing       `json:"drawn" doc:"The widths it is drawn at, the widest first"`
	Themes    []LookTheme          `json:"themes"`
	Switches  []float64            `json:"switches" doc:"px at which something of it is otherwise, the narrowest first"`
}

// TrialPiece is a part of a page that one looks at, as often as it is there.
type TrialPiece struct {
	Key       string `json:"key"`
	Line      int    `json:"line"`
	Name      string `json:"name"`
	Component string `json:"component" doc:"Slug of the component of a use; empty for others"`
	Gap       bool   `json:"gap"`
	Path      []int  `json:"path" doc:"Child indexes from the root"`
	Source    string `json:"source" doc:"Of the record it shows; empty for none"`
	Record    int    `json:"record" doc:"Which, from 0"`
}

// TrialUse is a component that a page uses.
type TrialUse struct {
	Slug    string `json:"slug"`
	Name    string `json:"name"`
	Pinned  string `json:"pinned" doc:"The released version that it uses; empty for the component as it is at work"`
	Newest  string `json:"newest" doc:"The newest release; empty for none"`
	Moved   bool   `json:"moved" doc:"The component at work is otherwise than the newest release"`
	Uses    int    `json:"uses" doc:"Rows"`
	Missing bool   `json:"missing" doc:"There is no such component"`
}

// TrialDrawing is a drawing of a page.
type TrialDrawing struct {
	Page   string  `json:"page"`
	Name   string  `json:"name"`
	Width  float64 `json:"width"`
	Height float64 `json:"height"`
}

// trialled is a page with all that is computed of it.
type trialled struct {
	row    store.TrialPage
	pins   map[string]string
	rows   []*trial.Row
	found  problem.List // of reading the outline
	page   *trial.Page
	lib    *library
	build  string // names its code
	state  string // names all that it is made from
	byName map[string]*usedComponent
	world  trial.World
}

// usedComponent is a component that a page uses, or could.
type usedComponent struct {
	row      store.Component
	pinned   string
	contract *contract.Contract
	state    string // names it
}

func (s *Service) trialRow(ctx context.Context, slug string) (store.TrialPage, error) {
	row, err := s.store.TrialPage(ctx, slug)
	if errors.Is(err, store.ErrNotFound) {
		return row, notFound("There is no page on trial %q.", slug)
	}
	return row, err
}

// trial reads a page and makes it.
func (s *Service) trial(ctx context.Context, slug string) (*trialled, error) {
	row, err := s.trialRow(ctx, slug)
	if err != nil {
		return nil, err
	}
	return s.trialOf(ctx, row, nil)
}

// trialOf makes a page, with other versions of components than those that are pinned where some are named: empty for one at work.
func (s *Service) trialOf(ctx context.Context, row store.TrialPage, with map[string]string) (*trialled, error) {
	w := &trialled{row: row, pins: map[string]string{}, byName: map[string]*usedComponent{}}
	if err := json.Unmarshal(row.Pins, &w.pins); err != nil {
		return nil, err
	}
	maps.Copy(w.pins, with)
	pictures := map[string]contract.ImageValue{}
	if err := json.Unmarshal(row.Pictures, &pictures); err != nil {
		return nil, err
	}
	w.rows, w.found = trial.Parse(row.Outline)
	var err error
	if w.lib, err = s.library(ctx); err != nil {
		return nil, err
	}
	sources, stamp, err := s.recordsOf(ctx, trialSources(w.rows))
	if err != nil {
		return nil, err
	}
	states := ""
	for _, name := range trial.Components(w.rows) {
		used, err := s.usedIn(ctx, name, w.pins)
		if err != nil {
			return nil, err
		}
		if used != nil {
			w.byName[name] = used
			states += fmt.Sprintf("%s=%s ", name, used.state)
		}
	}
	called := pageName(row.Name)
	for w.byName[called] != nil { // a component of the page may be called so
		called += "OnTrial"
	}
	w.world = trial.World{Name: called, Tokens: w.lib.tokens(), Sources: sources, Pictures: pictures, Lifted: true, Component: func(name string) *contract.Contract {
		if used := w.byName[name]; used != nil {
			return used.contract
		}
		return nil
	}}
	key := fnv.New64a()
	fmt.Fprintf(key, "%s\x00%s\x00%s\x00%s\x00%s\x00%s", row.Name, row.Outline, row.Pictures, w.lib.name(), stamp, states)
	w.state = fmt.Sprintf("%d %x", s.store.Scope.Project, key.Sum64())
	made, err := recalled(&s.memo, "trial made "+w.state, func() (madePage, error) {
		out := madePage{page: trial.Compile(w.world, w.rows), lib: w.lib}
		code := fnv.New64a()
		fmt.Fprintf(code, "%s\x00%s\x00", w.lib.name(), states)
		code.Write(out.page.Contract.JSON())
		out.build = fmt.Sprintf("%x", code.Sum64())
		_, err := recalled(&s.memo, s.trialKey(out.build), func() (madePage, error) { return out, nil }) // for frames that ask for it by name
		return out, err
	})
	if err != nil {
		return nil, err
	}
	w.page, w.build = made.page, made.build
	return w, nil
}

// trialSources are the names under which rows ask for records: files, and lists by their names without an ending.
func trialSources(rows []*trial.Row) map[string]bool {
	out := map[string]bool{}
	for _, name := range trial.Sources(rows) {
		out[name] = true
	}
	trial.Walk(rows, func(r, _ *trial.Row) {
		for _, a := range r.Args {
			if a.Kind == trial.FieldArg {
				out[a.Value] = true
			}
		}
	})
	return out
}

// pageName is what a page is called as a component.
func pageName(name string) string { return contract.ComponentName(name) + "Page" }

// usedIn gives a component as a page has it: at the version that is pinned, else as it is at work; nil for none. What it is made of is
// as it is pinned, too, else at work: a page has one version of each.
func (s *Service) usedIn(ctx context.Context, name string, pins map[string]string) (*usedComponent, error) {
	var states []string
	pinnedOf := func(name string) (*contract.Contract, store.Component, string, error) {
		row, err := s.store.Component(ctx, contract.Slug(name))
		if errors.Is(err, store.ErrNotFound) {
			return nil, row, "", nil
		}
		if err != nil {
			return nil, row, "", err
		}
		version := pins[row.Slug]
		text := row.Contract
		if version != "" {
			if text, err = s.store.ReleasedContract(ctx, row.ID, version); errors.Is(err, store.ErrNotFound) {
				version, text = "", row.Contract
			} else if err != nil {
				return nil, row, "", err
			}
		}
		c := new(contract.Contract)
		if err := json.Unmarshal(text, c); err != nil {
			return nil, row, "", err
		}
		if version == "" {
			states = append(states, fmt.Sprint(row.Slug, ".", row.Revision))
		} else {
			states = append(states, row.Slug+"@"+version)
		}
		return c, row, version, nil
	}
	c, row, version, err := pinnedOf(name)
	if err != nil || c == nil || version == "" && c.Name != name {
		return nil, err
	}
	linker := contract.NewLinker(func(inside string) *contract.Contract {
		of, _, _, failed := pinnedOf(inside)
		if failed != nil {
			err = failed
		}
		return of
	})
	if _, cycle := linker.Link(c); cycle != nil && err == nil {
		err = cycleFailure(cycle)
	}
	c.Name = name // a release may have had another
	return &usedComponent{row, version, c, strings.Join(states, " ")}, err
}

// recordsOf reads the sources that are asked for, and names the state that they are in.
func (s *Service) recordsOf(ctx context.Context, asked map[string]bool) (map[string]*content.Source, string, error) {
	out := map[string]*content.Source{}
	if len(asked) == 0 {
		return out, "", nil
	}
	rows, err := s.store.ContentSources(ctx)
	if err != nil {
		return nil, "", err
	}
	stamp := ""
	for _, r := range rows {
		bare := strings.TrimSuffix(strings.TrimSuffix(r.Name, ".json"), ".csv")
		if !asked[r.Name] && !asked[bare] {
			continue
		}
		stamp += fmt.Sprint(r.Name, " ", r.Updated.UnixNano(), " ")
		source, err := s.source(r)
		if err != nil {
			return nil, "", err
		}
		if source != nil {
			out[r.Name] = source
		}
	}
	return out, stamp, nil
}

// source reads a source of records; nil for one that cannot be read.
func (s *Service) source(r store.ContentSource) (*content.Source, error) {
	return recalled(&s.memo, fmt.Sprint("content ", s.store.Scope.Project, " ", r.Name, " ", r.Updated.UnixNano()), func() (*content.Source, error) {
		source, _ := content.Read(r.Name, r.Content)
		return source, nil
	})
}

// Trial reads a page on trial.
func (s *Service) Trial(ctx context.Context, slug string) (TrialPage, error) {
	w, err := s.trial(ctx, slug)
	if err != nil {
		return TrialPage{}, err
	}
	return s.trialView(ctx, w)
}

func (s *Service) trialView(ctx context.Context, w *trialled) (TrialPage, error) {
	out := TrialPage{Slug: w.row.Slug, Name: w.row.Name, Component: w.world.Name, Outline: w.row.Outline, Revision: w.row.Revision, Build: w.build,
		Props: w.page.Contract.Given(w.page.Values), Pieces: []TrialPiece{}, Problems: problem.List{}, Warnings: append([]trial.Warning{}, w.page.Warnings...),
		Groups: append([]trial.VersionGroup{}, trial.Versions(w.rows)...), Uses: []TrialUse{}, Sources: append([]string{}, trial.Sources(w.rows)...), Needs: []string{},
		Widths: []float64{}, Document: w.row.Document, Drawn: []TrialDrawing{}, Themes: w.lib.lookThemes(), Switches: []float64{}}
	if w.row.UndoTo != nil {
		out.Undoes = w.row.Step
	}
	if w.row.RedoTo != nil {
		out.Redoes = w.row.Redone
	}
	out.Problems = append(append(out.Problems, w.found...), w.page.Found...)
	slices.SortStableFunc(out.Problems, func(a, b problem.Problem) int { return a.Line - b.Line })
	if err := errors.Join(json.Unmarshal(w.row.Needs, &out.Needs), json.Unmarshal(w.row.Widths, &out.Widths)); err != nil {
		return out, err
	}
	pieces := map[string]trial.Piece{}
	for _, p := range w.page.Pieces {
		pieces[p.Part] = p
	}
	paths := ir.Lower(w.page.Contract).Paths(w.page.Values)
	for _, key := range slices.Sorted(maps.Keys(paths)) {
		id, at, _ := strings.Cut(key, "[")
		if p, ok := pieces[id]; ok && !strings.Contains(key, "/") { // what is inside of a use is its component's
			slug := ""
			if used := w.byName[p.Component]; used != nil {
				slug = used.row.Slug
			}
			record := p.Record
			if p.Each {
				record, _ = strconv.Atoi(strings.TrimSuffix(at[strings.LastIndexByte(at, '[')+1:], "]")) // the first has no number
			}
			out.Pieces = append(out.Pieces, TrialPiece{key, p.Line, p.Name, slug, p.Gap, paths[key], p.Source, record})
		}
	}
	slices.SortStableFunc(out.Pieces, func(a, b TrialPiece) int { return slices.Compare(a.Path, b.Path) })
	count := map[string]int{}
	trial.Walk(w.rows, func(r, _ *trial.Row) {
		switch r.Kind {
		case trial.UseRow:
			count[r.Head]++
		case trial.GapRow:
			out.Gaps++
		}
	})
	out.Switches = append(out.Switches, trial.Switches(w.rows)...)
	for _, name := range trial.Components(w.rows) {
		use := TrialUse{Name: name, Slug: contract.Slug(name), Uses: count[name]}
		if used := w.byName[name]; used == nil {
			use.Missing = true
		} else {
			use.Slug, use.Pinned = used.row.Slug, used.pinned
			if used.row.Version != nil {
				use.Newest = *used.row.Version
				moved, err := s.movedSince(ctx, used.row)
				if err != nil {
					return out, err
				}
				use.Moved = moved
			}
		}
		out.Uses = append(out.Uses, use)
	}
	drawings, err := s.drawingsOf(ctx, w.row)
	if err != nil {
		return out, err
	}
	for _, p := range drawings {
		out.Drawn = append(out.Drawn, TrialDrawing{p.ID, p.Name, p.Width, p.Height})
	}
	return out, nil
}

// movedSince tells whether a component at work is otherwise than its newest release.
func (s *Service) movedSince(ctx context.Context, row store.Component) (bool, error) {
	if row.Version == nil {
		return false, nil
	}
	text, err := s.store.ReleasedContract(ctx, row.ID, *row.Version)
	if err != nil {
		return false, err
	}
	return recalled(&s.memo, fmt.Sprint("moved ", s.store.Scope.Project, " ", row.Slug, " ", row.Revision, " ", *row.Version), func() (bool, error) {
		var released, now contract.Contract
		if err := errors.Join(json.Unmarshal(text, &released), json.Unmarshal(row.Contract, &now)); err != nil {
			return false, err
		}
		return string(released.JSON()) != string(now.JSON()), nil
	})
}
