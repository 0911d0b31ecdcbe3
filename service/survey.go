package service

import (
	"context"
	"errors"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/font"
	"cobrik/core/survey"
	"cobrik/store"
)

// Survey is the reading of a design's pages and families.
type Survey struct {
	Document string         `json:"document"`
	Name     string         `json:"name"`
	Revision int            `json:"revision"`
	Pages    []SurveyPage   `json:"pages"`
	Families []SurveyFamily `json:"families"`
}

// SurveyPage is one page, drawn.
type SurveyPage struct {
	ID      string     `json:"id"`
	Name    string     `json:"name"`
	Width   float64    `json:"width"`
	Height  float64    `json:"height"`
	Picture string     `json:"picture" doc:"SVG"`
	Uses    []PageUse  `json:"uses" doc:"Instances of families on the page"`
	Layers  int        `json:"layers"`
	Unnamed []PageArea `json:"unnamed" doc:"Groups and boxes with a default-looking name"`
	Loose   []PageItem `json:"loose" doc:"Groups and boxes drawn without flow"`
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

// PageUse is an instance on a page, at its place in the page's px.
type PageUse struct {
	Family string      `json:"family"`
	Box    design.Rect `json:"box"`
}

// PageArea is a layer at its place on the page.
type PageArea struct {
	Name string      `json:"name"`
	Box  design.Rect `json:"box"`
}

// SurveyFamily is a family with its axes and drawn variants.
type SurveyFamily struct {
	ID          string          `json:"id"`
	Name        string          `json:"name"`
	Description string          `json:"description"`
	Axes        []SurveyAxis    `json:"axes"`
	Variants    []SurveyVariant `json:"variants"`
	Uses        int             `json:"uses" doc:"Instances of it on the pages"`
	Component   string          `json:"component" doc:"Slug of the component drafted from it; empty when there is none"`
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

// Surveys reads the newest revision of every document.
func (s *Service) Surveys(ctx context.Context) ([]Survey, error) {
	docs, err := s.store.Documents(ctx)
	if err != nil {
		return nil, err
	}
	components, err := s.store.Components(ctx)
	if err != nil {
		return nil, err
	}
	out := []Survey{}
	for _, d := range docs {
		doc, number, err := s.document(ctx, d.ID)
		if err != nil {
			return nil, err
		}
		out = append(out, surveyOf(doc, number, components))
	}
	return out, nil
}

func surveyOf(doc *design.Document, revision int, components []store.Component) Survey {
	out := Survey{Document: doc.ID, Name: doc.Name, Revision: revision, Pages: []SurveyPage{}, Families: []SurveyFamily{}}
	uses := survey.Uses(doc)
	drafted := map[string]string{}
	for _, c := range components {
		if c.Document == doc.ID {
			drafted[c.SourceID] = c.Slug
		}
	}
	for _, p := range doc.Pages {
		page := SurveyPage{ID: p.ID, Name: p.Name, Width: p.Width, Height: p.Height, Picture: doc.DrawPage(draft.Shown(doc, p, font.Shipped())), Uses: []PageUse{}, Unnamed: []PageArea{}, Loose: []PageItem{}}
		found := survey.ReadPage(doc, p)
		page.Layers = found.Layers
		for _, u := range found.Uses {
			page.Uses = append(page.Uses, PageUse(u))
		}
		for _, a := range found.Unnamed {
			page.Unnamed = append(page.Unnamed, PageArea{a.Layer.Name, a.Box})
		}
		for _, a := range found.Loose {
			page.Loose = append(page.Loose, PageItem{ID: a.Layer.ID, Name: a.Layer.Name, Unnamed: a.Layer.HasDefaultName(), Box: a.Box,
				Layers: a.Layers, Depth: a.Depth, Component: drafted[a.Layer.ID]})
		}
		out.Pages = append(out.Pages, page)
	}
	for _, f := range doc.Families {
		one := SurveyFamily{ID: f.ID, Name: f.Name, Description: f.Description, Uses: uses[f.ID], Axes: []SurveyAxis{}, Component: drafted[f.ID]}
		for _, a := range f.Axes {
			one.Axes = append(one.Axes, SurveyAxis{a.Name, a.Values, a.Default})
		}
		for _, v := range f.Variants {
			variant := SurveyVariant{ID: v.ID, Choices: []string{}, Picture: doc.Draw(v.Root), Width: v.Root.Bounds.Width, Height: v.Root.Bounds.Height}
			for _, a := range f.Axes {
				variant.Choices = append(variant.Choices, v.Choices[a.Name])
			}
			one.Variants = append(one.Variants, variant)
		}
		out.Families = append(out.Families, one)
	}
	return out
}

// Drafted is a component made from a drawing.
type Drafted struct {
	Slug   string   `json:"slug"`
	Inside []string `json:"inside" doc:"Names of the components drafted with it, as it uses them"`
}

// Draft computes a contract from a family of the newest revision and keeps it
// as a new component.
func (s *Service) Draft(ctx context.Context, document, family string) (Drafted, error) {
	doc, number, err := s.document(ctx, document)
	if err != nil {
		return Drafted{}, err
	}
	if doc.Family(family) == nil {
		return Drafted{}, notFound("There is no family %q in %s.", family, doc.Name)
	}
	return s.draft(ctx, doc, contract.Origin{Document: document, Family: family, Revision: number}, "")
}

// DraftLayer computes a contract from a layer of a page that was drawn without
// flow, and keeps it as a new component of a name.
func (s *Service) DraftLayer(ctx context.Context, document, layer, name string) (Drafted, error) {
	doc, number, err := s.document(ctx, document)
	if err != nil {
		return Drafted{}, err
	}
	if l, _ := doc.Layer(layer); l == nil {
		return Drafted{}, notFound("There is no layer %q on a page of %s.", layer, doc.Name)
	}
	return s.draft(ctx, doc, contract.Origin{Document: document, Layer: layer, Revision: number}, name)
}

func (s *Service) draft(ctx context.Context, doc *design.Document, o contract.Origin, name string) (Drafted, error) {
	l, err := s.library(ctx)
	if err != nil {
		return Drafted{}, err
	}
	var failed error
	known := s.components(ctx, doc.ID, &failed)
	var roots []*design.Layer
	if f := doc.Family(o.Family); f != nil {
		roots = draft.Roots(f)
	} else if layer := draft.Drawing(doc, o); layer != nil {
		roots = []*design.Layer{layer}
	}
	added, components, _, err := s.draftInside(ctx, doc, roots, o.Revision, l, known)
	if err = errors.Join(err, failed); err != nil {
		return Drafted{}, err
	}
	c, _, found := draft.Of(doc, survey.ReadBy(o, l.tokens()), name, l.tokens(), s.fonts, components)
	if c == nil {
		return Drafted{}, invalid(found, "It could not be drafted: %s", howMany(found))
	}
	slug := slugOf(c.Name)
	out := Drafted{Slug: slug, Inside: []string{}}
	for _, a := range added {
		out.Inside = append(out.Inside, a.Name)
	}
	added = append(added, store.NewComponent{Slug: slug, Name: c.Name, Document: o.Document, Source: o.Family + o.Layer, Contract: c.JSON(), Tokens: l.number()}) // one of document and source is empty
	err = s.store.AddComponents(ctx, added...)
	if errors.Is(err, store.ErrMoved) {
		return Drafted{}, staleTokens()
	}
	if errors.Is(err, store.ErrTaken) {
		return Drafted{}, nameTaken(c.Name)
	}
	return out, err
}
