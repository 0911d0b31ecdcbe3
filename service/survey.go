package service

import (
	"context"
	"fmt"
	"slices"

	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/font"
	"cobrik/core/survey"
	"cobrik/store"
)

// Survey is the reading of a design's pages and families.
type Survey struct {
	Document string              `json:"document"`
	Name     string              `json:"name"`
	Revision int                 `json:"revision"`
	Pages    []SurveyPage        `json:"pages"`
	Finds    []SurveyFind        `json:"finds" doc:"The largest first"`
	Families []SurveyFamily      `json:"families"`
	Doubts   []SurveyDoubt       `json:"doubts"`
	Rules    []SurveyRule        `json:"rules" doc:"That doubts come of"`
	Widths   []survey.PageWidths `json:"widths"`
	Sections []SurveySection     `json:"sections" doc:"The large pieces of pages"`
	Since    *SurveySince        `json:"since,omitempty" doc:"Of a revision that is not the first"`
	Order    []SurveyPiece       `json:"order" doc:"Each after those it is made of"`
	Cycles   [][]string          `json:"cycles"`
	Reading  *UnderWay           `json:"reading,omitempty" doc:"Of a long document that is not read yet"`
}

// SurveySince says what is not as it was in the revision before.
type SurveySince struct {
	Revision int `json:"revision"`
	survey.Since
}

// SurveyPage is one page.
type SurveyPage struct {
	ID     string     `json:"id"`
	Name   string     `json:"name"`
	Width  float64    `json:"width"`
	Height float64    `json:"height"`
	Layers int        `json:"layers"`
	Loose  []PageItem `json:"loose" doc:"Groups and boxes drawn without flow"`
}

// PageItem is a drawing without flow on a page, which can become a component.
type PageItem struct {
	ID        string      `json:"id"`
	Name      string      `json:"name"`
	Unnamed   bool        `json:"unnamed" doc:"The name is one a drawing program gives by itself"`
	Box       design.Rect `json:"box"`
	Layers    int         `json:"layers" doc:"In it, itself counted"`
	Depth     int         `json:"depth" doc:"How many others it lies in"`
	Component string      `json:"component" doc:"Slug of the component drafted from it; empty when there is none"`
}

// SurveyFamily is a family with its axes and drawn variants.
type SurveyFamily struct {
	ID          string             `json:"id"`
	Name        string             `json:"name"`
	Description string             `json:"description"`
	Axes        []SurveyAxis       `json:"axes"`
	Variants    []SurveyVariant    `json:"variants"`
	Uses        []survey.FamilyUse `json:"uses" doc:"On pages and in other families"`
	Component   string             `json:"component" doc:"Slug of the component drafted from it; empty when there is none"`
}

// SurveyAxis is one axis of a family.
type SurveyAxis struct {
	Name    string   `json:"name"`
	Values  []string `json:"values"`
	Default string   `json:"default"`
}

// SurveyVariant is one drawn variant.
type SurveyVariant struct {
	ID      string   `json:"id"`
	Choices []string `json:"choices" doc:"A value an axis, in their order"`
	Picture string   `json:"picture" doc:"SVG"`
	Width   float64  `json:"width"`
	Height  float64  `json:"height"`
}

// SurveyFind is one thing that repeats.
type SurveyFind struct {
	ID         string         `json:"id"`
	Kind       string         `json:"kind" enum:"repeat,list,copies"`
	Name       string         `json:"name" doc:"Proposed, as a component's"`
	Family     string         `json:"family" doc:"Name of the family that copies are of"`
	Inside     string         `json:"inside" doc:"Id of the find that all of its copies are in"`
	Members    []SurveyMember `json:"members"`
	Likeness   float64        `json:"likeness" doc:"Of the copy that is least like the others, 0 to 1"`
	Shows      []string       `json:"shows" doc:"Names of its props"`
	Nearest    []SurveyNear   `json:"nearest"`
	Component  string         `json:"component" doc:"Slug of the component that its copies are uses of; empty when there is none"`
	Draftable  bool           `json:"draftable" doc:"One of its copies is on a page"`
	OnPages    []string       `json:"onPages" doc:"Ids of the pages its copies are on"`
	InFamilies []string       `json:"inFamilies" doc:"Names of the families its copies are in"`
}

// SurveyNear is a component that a find is like.
type SurveyNear struct {
	survey.Near
	Component string `json:"component" doc:"Slug of it, or of what was drafted from the family; empty when there is none"`
}

// SurveySection is a large piece of a page, and the components it is like.
type SurveySection struct {
	Page    string       `json:"page"`
	Layer   string       `json:"layer"`
	Name    string       `json:"name"`
	Nearest []SurveyNear `json:"nearest"`
}

// SurveyMember is one copy.
type SurveyMember struct {
	ID       string      `json:"id" doc:"Of the first of its layers"`
	Page     string      `json:"page" doc:"Id; empty in a family"`
	Layers   []string    `json:"layers"`
	Box      design.Rect `json:"box"`
	Likeness float64     `json:"likeness" doc:"To the copy that stands for all, 0 to 1"`
	Changes  int         `json:"changes" doc:"Layers put in, taken out or changed from that"`

	Component string   `json:"component" doc:"Slug of the component that it is a use of; empty when there is none"`
	Joined    bool     `json:"joined" doc:"People said that it is one of the copies"`
	Made      []string `json:"made" doc:"Ids of layers of which people said that they are one thing"`
}

// SurveyPiece is one thing of the plan.
type SurveyPiece struct {
	survey.Piece
	State     string `json:"state" enum:"missing,ready,in work,released" doc:"Ready when all it is made of is there"`
	Component string `json:"component" doc:"Slug; empty when there is none"`
	Draftable bool   `json:"draftable" doc:"It is ready, and there is a drawing to draft it from"`
}

// Surveys reads the newest revision of every document.
func (s *Service) Surveys(ctx context.Context) ([]Survey, error) {
	docs, err := s.store.Documents(ctx)
	if err != nil {
		return nil, err
	}
	out := []Survey{}
	for _, d := range docs {
		one, err := s.survey(ctx, d.ID)
		if err != nil {
			return nil, err
		}
		out = append(out, one)
	}
	return out, nil
}

// surveyed is a document with what a survey found in it.
type surveyed struct {
	doc     *design.Document
	number  int
	rows    []store.Component
	off     []string
	reading survey.Reading
	under   *UnderWay // the reading is not that of now
}

// read surveys the newest revision of a document against the components, tokens and starts there are.
func (s *Service) read(ctx context.Context, document string) (*surveyed, error) {
	doc, number, err := s.document(ctx, document)
	if err != nil {
		return nil, err
	}
	return s.readRevision(ctx, doc, number)
}

func (s *Service) survey(ctx context.Context, document string) (Survey, error) {
	r, err := s.read(ctx, document)
	if err != nil {
		return Survey{}, err
	}
	copies, err := s.store.Copies(ctx)
	if err != nil {
		return Survey{}, err
	}
	said, err := s.store.Doubted(ctx)
	if err != nil {
		return Survey{}, err
	}
	doc := r.doc
	out := Survey{Document: doc.ID, Name: doc.Name, Revision: r.number, Pages: []SurveyPage{}, Finds: []SurveyFind{}, Families: []SurveyFamily{}, Widths: r.reading.Widths, Sections: []SurveySection{}, Order: []SurveyPiece{}, Cycles: r.reading.Plan.Cycles, Reading: r.under}
	there := known{map[string]string{}, map[string]store.Component{}}
	for _, c := range r.rows {
		there.named[c.Name] = c
		if c.Document == doc.ID {
			there.drawn[c.SourceID] = c.Slug
		}
	}
	for _, c := range copies {
		if c.Document == doc.ID {
			there.drawn[c.Layer] = c.Slug
		}
	}
	for _, p := range doc.Pages {
		page := SurveyPage{ID: p.ID, Name: p.Name, Width: p.Width, Height: p.Height, Loose: []PageItem{}}
		found := survey.ReadPage(p)
		page.Layers = found.Layers
		for _, a := range found.Loose {
			page.Loose = append(page.Loose, PageItem{ID: a.Layer.ID, Name: a.Layer.Name, Unnamed: a.Layer.HasDefaultName(), Box: a.Box,
				Layers: a.Layers, Depth: a.Depth, Component: there.drawn[a.Layer.ID]})
		}
		out.Pages = append(out.Pages, page)
	}
	for i, f := range doc.Families {
		out.Families = append(out.Families, familyOf(doc, f, r.reading.Families[i].Uses, there.drawn[f.ID]))
	}
	for _, f := range r.reading.Finds {
		out.Finds = append(out.Finds, findOf(doc, f, there))
	}
	for _, one := range r.reading.Sections {
		out.Sections = append(out.Sections, SurveySection{one.Page, one.Layer, one.Name, there.near(one.Nearest)})
	}
	out.Doubts, out.Rules = doubtsOf(r, said)
	out.Order = piecesOf(r, there)
	if r.number > 1 && r.under == nil {
		was, err := recalled(&s.memo, fmt.Sprint("revision ", s.store.Scope.Project, " ", document, " ", r.number-1), func() (*design.Document, error) {
			text, err := s.store.RevisionContent(ctx, document, r.number-1)
			if err != nil {
				return nil, err
			}
			return design.Decode(text)
		})
		if err != nil {
			return Survey{}, err
		}
		before, err := s.readRevision(ctx, was, r.number-1)
		if err != nil {
			return Survey{}, err
		}
		if before.under == nil {
			out.Since = &SurveySince{r.number - 1, survey.Compare(before.reading, r.reading)}
		}
	}
	return out, nil
}

// known are the components there are: their slugs by what they are drawn from, a family or a layer, and themselves by their names.
type known struct {
	drawn map[string]string
	named map[string]store.Component
}

// near says which of the components that something is like are there.
func (k known) near(list []survey.Near) []SurveyNear {
	out := []SurveyNear{}
	for _, n := range list {
		one := SurveyNear{Near: n}
		switch n.Kind {
		case survey.NearFamily:
			one.Component = k.drawn[n.ID]
		case survey.NearContract:
			one.Component = k.named[n.Name].Slug
		}
		if i := slices.IndexFunc(out, func(o SurveyNear) bool { return o.Component != "" && o.Component == one.Component }); i >= 0 {
			continue // a family and what was drafted from it are one component
		}
		out = append(out, one)
	}
	return out
}

func familyOf(doc *design.Document, f *design.Family, uses []survey.FamilyUse, component string) SurveyFamily {
	out := SurveyFamily{ID: f.ID, Name: f.Name, Description: f.Description, Axes: []SurveyAxis{}, Variants: []SurveyVariant{}, Uses: uses, Component: component}
	for _, a := range f.Axes {
		out.Axes = append(out.Axes, SurveyAxis{a.Name, a.Values, a.Default})
	}
	for _, v := range f.Variants {
		variant := SurveyVariant{ID: v.ID, Choices: []string{}, Picture: doc.Draw(v.Root), Width: v.Root.Bounds.Width, Height: v.Root.Bounds.Height}
		for _, a := range f.Axes {
			variant.Choices = append(variant.Choices, v.Choices[a.Name])
		}
		out.Variants = append(out.Variants, variant)
	}
	return out
}

func findOf(doc *design.Document, f survey.Find, there known) SurveyFind {
	out := SurveyFind{ID: f.ID, Kind: f.Kind, Name: f.Name, Inside: f.Inside, Members: []SurveyMember{}, Likeness: f.Likeness, Shows: []string{}, OnPages: []string{}, InFamilies: []string{}}
	if family := doc.Family(f.Family); family != nil {
		out.Family = family.Name
	}
	for _, p := range f.Props {
		out.Shows = append(out.Shows, p.Name)
	}
	for _, m := range f.Members {
		out.Members = append(out.Members, SurveyMember{m.ID, m.Page, m.Layers, m.Box, m.Likeness, len(m.Edits), there.drawn[m.Layers[0]], m.Joined, append([]string{}, m.Made...)})
		if m.Page != "" && !slices.Contains(out.OnPages, m.Page) {
			out.OnPages = append(out.OnPages, m.Page)
		}
		if in := doc.Family(m.Family); in != nil && !slices.Contains(out.InFamilies, in.Name) {
			out.InFamilies = append(out.InFamilies, in.Name)
		}
	}
	if !slices.ContainsFunc(out.Members, func(m SurveyMember) bool { return m.Page != "" && m.Component == "" }) {
		out.Component = out.Members[0].Component
	}
	out.Nearest = there.near(f.Nearest)
	_, out.Draftable = f.Model(nil)
	return out
}

// piecesOf says how far each piece of the plan is.
func piecesOf(r *surveyed, there known) []SurveyPiece {
	out := []SurveyPiece{}
	bySlug := map[string]store.Component{}
	for _, row := range r.rows {
		bySlug[row.Slug] = row
	}
	done := map[string]bool{}
	for _, p := range r.reading.Plan.Pieces {
		one := SurveyPiece{Piece: p, State: "missing"}
		row, known := bySlug[there.drawn[p.ID]]
		drawn := p.Kind == survey.PieceFamily
		if f := r.reading.Find(p.ID); f != nil {
			if !known {
				row, known = bySlug[findOf(r.doc, *f, there).Component]
			}
			_, drawn = f.Model(nil)
		}
		if !known && p.Kind != survey.PiecePage {
			row, known = there.named[p.Name]
		}
		switch {
		case known && row.Version != nil:
			one.State = "released"
		case known:
			one.State = "in work"
		case !slices.ContainsFunc(p.Of, func(id string) bool { return !done[id] }):
			one.State, one.Draftable = "ready", drawn
		}
		if known {
			one.Component, one.Built = row.Slug, true
		}
		done[p.ID] = known || p.Kind == survey.PieceFind && !drawn // what families are made of alone keeps nothing waiting
		out = append(out, one)
	}
	return out
}

// DrawnPage is a page's picture, and what is on it.
type DrawnPage struct {
	Picture string       `json:"picture" doc:"SVG; each layer an element with data-layer"`
	Layers  []DrawnLayer `json:"layers" doc:"Parents first"`
}

// DrawnLayer is one layer of a page.
type DrawnLayer struct {
	ID    string      `json:"id"`
	Name  string      `json:"name"`
	Kind  design.Kind `json:"kind"`
	Depth int         `json:"depth" doc:"How many others it lies in"`
	Box   design.Rect `json:"box" doc:"In px of the page"`
}

// Page draws a page of the newest revision.
func (s *Service) Page(ctx context.Context, document, page string) (DrawnPage, error) {
	doc, number, err := s.document(ctx, document)
	if err != nil {
		return DrawnPage{}, err
	}
	i := slices.IndexFunc(doc.Pages, func(p *design.Page) bool { return p.ID == page })
	if i < 0 {
		return DrawnPage{}, notFound("There is no page %q in %s.", page, doc.Name)
	}
	return recalled(&s.memo, fmt.Sprint("page ", s.store.Scope.Project, " ", document, " ", number, " ", page), func() (DrawnPage, error) {
		out := DrawnPage{Picture: doc.DrawPage(draft.Shown(doc, doc.Pages[i], font.Shipped())), Layers: []DrawnLayer{}}
		var list func(l *design.Layer, x, y float64, depth int)
		list = func(l *design.Layer, x, y float64, depth int) {
			if l.Hidden {
				return
			}
			x, y = x+l.Bounds.X, y+l.Bounds.Y
			out.Layers = append(out.Layers, DrawnLayer{l.ID, l.Name, l.Kind, depth, design.Rect{X: x, Y: y, Width: l.Bounds.Width, Height: l.Bounds.Height}})
			for _, c := range l.Children {
				list(c, x, y, depth+1)
			}
		}
		for _, l := range doc.Pages[i].Layers {
			list(l, 0, 0, 0)
		}
		return out, nil
	})
}
