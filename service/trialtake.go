package service

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/problem"
	"cobrik/core/survey"
	"cobrik/core/trial"
	"cobrik/store"
)

// TakenPage is a page of the design that became one on trial.
type TakenPage struct {
	Slug  string   `json:"slug"`
	Name  string   `json:"name"`
	Needs []string `json:"needs" doc:"What is left to do, in sentences"`
}

// designOf is what pages of a document are taken over from, with the reading that knows what on them is a copy of what.
func (s *Service) designOf(ctx context.Context, document string) (trial.Design, *surveyed, error) {
	r, err := s.read(ctx, document)
	if err != nil {
		return trial.Design{}, nil, err
	}
	if r.under != nil {
		return trial.Design{}, nil, invalid(nil, "%s is being read; take its pages over when that is done.", r.doc.Name)
	}
	l, err := s.library(ctx)
	if err != nil {
		return trial.Design{}, nil, err
	}
	var failed error
	d := trial.Design{Document: r.doc, Components: s.components(ctx, document, &failed), Tokens: l.tokens(), Fonts: s.fonts}
	byID := map[int64]*contract.Contract{}
	for _, row := range r.rows {
		c, err := contractOf(row)
		if err != nil {
			return d, nil, err
		}
		if _, err := s.link(ctx, c); err != nil {
			return d, nil, err
		}
		byID[row.ID] = c
	}
	known := map[string]bool{}
	add := func(k trial.Copy) {
		if k.Component != nil && !known[k.Layers[0]] {
			known[k.Layers[0]] = true
			d.Copies = append(d.Copies, k)
		}
	}
	copies, err := s.store.Copies(ctx)
	if err != nil {
		return d, nil, err
	}
	bySlug := map[string]*contract.Contract{}
	for _, row := range r.rows {
		bySlug[row.Slug] = byID[row.ID]
	}
	for _, k := range copies {
		if k.Document == document {
			add(trial.Copy{Layers: k.Layers, Component: bySlug[k.Slug], Said: k.Said})
		}
	}
	for _, row := range r.rows { // the drawing that a component was drafted from, of a page
		if c := byID[row.ID]; row.Document == document && c.Origin != nil && c.Origin.Layer != "" {
			add(trial.Copy{Layers: append([]string{c.Origin.Layer}, c.Origin.With...), Component: c, Said: map[string]any{}})
		}
	}
	d.Finds = map[string]string{}
	for _, f := range r.reading.Finds {
		if f.Kind != survey.Copies {
			for _, m := range f.Members {
				if m.Page != "" && f.Kind == survey.Repeat {
					d.Finds[m.Layers[0]] = f.Name
				}
			}
			continue
		}
		of := d.Components(f.Family)
		for _, m := range f.Members {
			if m.Page != "" {
				add(trial.Copy{Layers: m.Layers, Component: of})
			}
		}
	}
	contracts := make([]*contract.Contract, 0, len(byID))
	for _, row := range r.rows {
		contracts = append(contracts, byID[row.ID])
	}
	d.Like = func(l *design.Layer) (out []trial.Near) {
		for _, n := range survey.Like(r.doc, l, contracts) {
			if len(out) < 3 && n.Likeness >= leastNear {
				out = append(out, trial.Near{Name: n.Name, Likeness: n.Likeness})
			}
		}
		return out
	}
	return d, r, failed
}

// leastNear is how like a component has to be to be named as a candidate for a gap.
const leastNear = 0.3

// TakeTrials makes pages on trial of those of a design, of all when none are named: one of several that draw the same page at
// several widths. A page that was taken over before is left as it is.
func (s *Service) TakeTrials(ctx context.Context, document string, pages []string) ([]TakenPage, error) {
	d, r, err := s.designOf(ctx, document)
	if err != nil {
		return nil, err
	}
	existing, err := s.store.TrialPages(ctx)
	if err != nil {
		return nil, err
	}
	slugs := map[string]bool{}
	taken := map[string]bool{}
	for _, t := range existing {
		slugs[t.Slug] = true
		if t.Document != document {
			continue
		}
		var drawn []string
		if err := json.Unmarshal(t.Drawn, &drawn); err != nil {
			return nil, err
		}
		for _, id := range drawn {
			taken[id] = true
		}
	}
	out := []TakenPage{}
	var added []store.NewTrialPage
	for _, group := range widthsOf(r) {
		if len(pages) > 0 && !slices.ContainsFunc(group, func(p *design.Page) bool { return slices.Contains(pages, p.ID) }) || slices.ContainsFunc(group, func(p *design.Page) bool { return taken[p.ID] }) {
			continue
		}
		made := trial.Take(d, group)
		name := nameOfPages(r, group)
		slug := contract.Free(contract.Slug(name), "", func(n string) bool { return slugs[n] })
		slugs[slug] = true
		page := store.NewTrialPage{Slug: slug, Name: name, Document: document}
		for _, p := range group {
			page.Drawn = append(page.Drawn, p.ID)
			page.Widths = append(page.Widths, p.Width)
		}
		if len(page.Widths) == 1 {
			page.Widths = append(page.Widths, 390)
		}
		page.Outline, page.Step = trial.Text(made.Rows), "taken over"
		if page.Pins, err = s.pinned(ctx, []byte("{}"), page.Outline); err != nil {
			return nil, err
		}
		if page.Pictures, err = json.Marshal(made.Pictures); err != nil {
			return nil, err
		}
		if page.Needs, err = json.Marshal(made.Needs); err != nil {
			return nil, err
		}
		added = append(added, page)
		out = append(out, TakenPage{slug, name, made.Needs})
	}
	if len(added) == 0 {
		return nil, invalid(nil, "All of these pages are on trial already.")
	}
	if err := s.store.AddTrialPages(ctx, added...); errors.Is(err, store.ErrTaken) {
		return nil, &Failure{Kind: Conflict, Message: "Somebody else took them over meanwhile."}
	} else if err != nil {
		return nil, err
	}
	return out, nil
}

// widthsOf groups the pages of a design that draw the same at several widths, the widest first.
func widthsOf(r *surveyed) (out [][]*design.Page) {
	byID := map[string]*design.Page{}
	for _, p := range r.doc.Pages {
		byID[p.ID] = p
	}
	grouped := map[string]bool{}
	byFirst := map[string][]*design.Page{}
	for _, w := range r.reading.Widths {
		var group []*design.Page
		for _, id := range slices.Backward(w.Pages) {
			group = append(group, byID[id])
			grouped[id] = true
		}
		byFirst[group[0].ID] = group
	}
	for _, p := range r.doc.Pages {
		if group := byFirst[p.ID]; group != nil {
			out = append(out, group)
		} else if !grouped[p.ID] {
			out = append(out, []*design.Page{p})
		}
	}
	return out
}

func nameOfPages(r *surveyed, group []*design.Page) string {
	for _, w := range r.reading.Widths {
		if slices.Contains(w.Pages, group[0].ID) && len(group) > 1 && w.Name != "" {
			return w.Name
		}
	}
	if name := strings.TrimSpace(group[0].Name); contract.Slug(name) != "" {
		return name
	}
	return "Page"
}

// drawingsOf finds the pages of the design, as it is now, that draw a page; none where it was not drawn, or is drawn no more.
func (s *Service) drawingsOf(ctx context.Context, row store.TrialPage) ([]*design.Page, error) {
	if row.Document == "" {
		return nil, nil
	}
	var ids []string
	if err := json.Unmarshal(row.Drawn, &ids); err != nil {
		return nil, err
	}
	doc, _, err := s.document(ctx, row.Document)
	var missing *Failure
	if errors.As(err, &missing) && missing.Kind == NotFound {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	var out []*design.Page
	for _, id := range ids {
		if i := slices.IndexFunc(doc.Pages, func(p *design.Page) bool { return p.ID == id }); i >= 0 {
			out = append(out, doc.Pages[i])
		}
	}
	return out, nil
}

// TrialDrawn draws the page of the design that a page on trial is held to at a width.
func (s *Service) TrialDrawn(ctx context.Context, slug, page string) (DrawnPicture, error) {
	row, err := s.trialRow(ctx, slug)
	if err != nil {
		return DrawnPicture{}, err
	}
	drawings, err := s.drawingsOf(ctx, row)
	if err != nil {
		return DrawnPicture{}, err
	}
	for _, p := range drawings {
		if p.ID == page {
			doc, _, err := s.document(ctx, row.Document)
			if err != nil {
				return DrawnPicture{}, err
			}
			return DrawnPicture{doc.DrawPage(draft.Shown(doc, p, s.fonts)), p.Width, p.Height}, nil
		}
	}
	return DrawnPicture{}, notFound("The design does not draw %s so any more.", row.Name)
}

// CompareTrial holds a page, as a browser laid it out at the width of one of its drawings, to that drawing. What was measured of another
// build is refused.
func (s *Service) CompareTrial(ctx context.Context, slug, build, page string, built []trial.Built) (trial.PageComparison, error) {
	w, err := s.trial(ctx, slug)
	if err != nil {
		return trial.PageComparison{}, err
	}
	if build != w.build {
		return trial.PageComparison{}, &Failure{Kind: Conflict, Message: "The page changed while this was measured."}
	}
	drawings, err := s.drawingsOf(ctx, w.row)
	if err != nil {
		return trial.PageComparison{}, err
	}
	i := slices.IndexFunc(drawings, func(p *design.Page) bool { return p.ID == page })
	if i < 0 {
		return trial.PageComparison{}, notFound("The design does not draw %s so any more.", w.row.Name)
	}
	d, r, err := s.designOf(ctx, w.row.Document)
	if err != nil {
		return trial.PageComparison{}, err
	}
	pieces, err := recalled(&s.memo, fmt.Sprint("pieces ", s.store.Scope.Project, " ", w.row.Document, " ", r.number, " ", page, " ", rowsKey(r.rows), len(d.Copies)), func() ([]trial.Drawn, error) {
		return trial.Pieces(d, drawings[i]), nil
	})
	if err != nil {
		return trial.PageComparison{}, err
	}
	return trial.Compare(w.page, pieces, built, drawings[i].Width), nil
}

// rowsKey names the state of components.
func rowsKey(rows []store.Component) string {
	var b strings.Builder
	for _, r := range rows {
		fmt.Fprint(&b, r.Slug, ".", r.Revision, " ")
	}
	return b.String()
}

// TrialEntry is a page on trial in the list.
type TrialEntry struct {
	Slug       string    `json:"slug"`
	Name       string    `json:"name"`
	Components []string  `json:"components" doc:"Their names"`
	Uses       int       `json:"uses"`
	Gaps       int       `json:"gaps"`
	Errors     int       `json:"errors" doc:"Rows that cannot be shown, widths that no version is for"`
	Warnings   int       `json:"warnings" doc:"Of what records say"`
	Behind     int       `json:"behind" doc:"Components with a newer release than the one it uses"`
	Drawn      []float64 `json:"drawn" doc:"The widths it is drawn at, px"`
	Sources    []string  `json:"sources"`
}

// Trials lists the pages on trial.
func (s *Service) Trials(ctx context.Context) ([]TrialEntry, error) {
	rows, err := s.store.TrialPages(ctx)
	if err != nil {
		return nil, err
	}
	out := []TrialEntry{}
	for _, row := range rows {
		w, err := s.trialOf(ctx, row, nil)
		if err != nil {
			return nil, err
		}
		e := TrialEntry{Slug: row.Slug, Name: row.Name, Components: append([]string{}, trial.Components(w.rows)...), Drawn: []float64{}, Sources: append([]string{}, trial.Sources(w.rows)...), Warnings: len(w.page.Warnings)}
		trial.Walk(w.rows, func(r, _ *trial.Row) {
			switch r.Kind {
			case trial.UseRow:
				e.Uses++
			case trial.GapRow:
				e.Gaps++
			}
		})
		for _, p := range append(slices.Clone(w.found), w.page.Found...) {
			if p.Severity == problem.Error {
				e.Errors++
			}
		}
		for _, used := range w.byName {
			if used.row.Version != nil && used.pinned != *used.row.Version && used.pinned != "" {
				e.Behind++
			}
		}
		drawings, err := s.drawingsOf(ctx, row)
		if err != nil {
			return nil, err
		}
		for _, p := range drawings {
			e.Drawn = append(e.Drawn, p.Width)
		}
		out = append(out, e)
	}
	return out, nil
}
