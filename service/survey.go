package service

import (
	"context"

	"cobrik/core/contract"
	"cobrik/core/design"
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
	uses := map[string]int{}
	for _, p := range doc.Pages {
		page := SurveyPage{ID: p.ID, Name: p.Name, Width: p.Width, Height: p.Height, Picture: doc.DrawPage(p), Uses: []PageUse{}, Unnamed: []PageArea{}}
		for _, top := range p.Layers {
			top.Walk(func(l *design.Layer, x, y float64) {
				page.Layers++
				box := design.Rect{X: top.Bounds.X + x, Y: top.Bounds.Y + y, Width: l.Bounds.Width, Height: l.Bounds.Height}
				if l.Kind == design.Instance {
					uses[l.Instance.Family]++
					name := l.Instance.Family
					if f := doc.Family(name); f != nil {
						name = f.Name
					}
					page.Uses = append(page.Uses, PageUse{name, box})
				} else if l.HasDefaultName() {
					page.Unnamed = append(page.Unnamed, PageArea{l.Name, box})
				}
			})
		}
		out.Pages = append(out.Pages, page)
	}
	for _, f := range doc.Families {
		one := SurveyFamily{ID: f.ID, Name: f.Name, Description: f.Description, Uses: uses[f.ID], Axes: []SurveyAxis{}}
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
		for _, c := range components {
			if c.Document == doc.ID && c.Family == f.ID {
				one.Component = c.Slug
			}
		}
		out.Families = append(out.Families, one)
	}
	return out
}

// Drafted is a component made from a family.
type Drafted struct {
	Slug string `json:"slug"`
}

// Draft computes a contract from a family of the newest revision and keeps it
// as a new component.
func (s *Service) Draft(ctx context.Context, document, family string) (Drafted, error) {
	doc, number, err := s.document(ctx, document)
	if err != nil {
		return Drafted{}, err
	}
	f := doc.Family(family)
	if f == nil {
		return Drafted{}, notFound("there is no family %q in %s", family, doc.Name)
	}
	tokens, _, err := s.tokens(ctx)
	if err != nil {
		return Drafted{}, err
	}
	c, found := contract.Draft(doc, f, tokens)
	if c == nil {
		return Drafted{}, invalid(found, "%s could not be drafted: %s", f.Name, howMany(found))
	}
	c.Origin.Revision = number
	slug := slugOf(c.Name)
	err = s.store.AddComponent(ctx, slug, c.Name, document, family, c.JSON())
	if err == store.ErrTaken {
		return Drafted{}, &Failure{Kind: Conflict, Message: "There is a component " + c.Name + " already."}
	}
	return Drafted{slug}, err
}
