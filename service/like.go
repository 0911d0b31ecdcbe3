package service

import (
	"context"
	"fmt"
	"path/filepath"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/problem"
	"cobrik/core/survey"
)

// LikeHit is a component that a drawing is like.
type LikeHit struct {
	Slug     string   `json:"slug"`
	Name     string   `json:"name"`
	Likeness float64  `json:"likeness" doc:"Of the structures, 0 to 1"`
	Matches  int      `json:"matches" doc:"Things that both have"`
	Missing  []string `json:"missing" doc:"Parts that only the component has"`
	Extra    int      `json:"extra" doc:"Layers that it has nothing for"`
}

// Like is what a drawing is like, and the drawing as it was read.
type Like struct {
	Drawn DrawnPicture `json:"drawn"`
	Name  string       `json:"name"`
	Hits  []LikeHit    `json:"hits" doc:"The nearest first; empty for nothing like it"`
}

// LikeDrawing ranks the components that the drawing in a file is like.
func (s *Service) LikeDrawing(ctx context.Context, file string, text []byte) (Like, error) {
	read := func() (*design.Document, problem.List) { return design.ImportSVG(file, text, s.fonts) }
	if !strings.EqualFold(filepath.Ext(file), ".svg") {
		read = func() (*design.Document, problem.List) { return design.Read(file, text) }
	}
	doc, found := read()
	if doc == nil || found.Failed() {
		return Like{}, invalid(found, "%s could not be read: %s", file, found[0].Message)
	}
	if len(doc.Pages) == 0 {
		return Like{}, invalid(nil, "%s has no page.", file)
	}
	page := doc.Pages[0]
	if len(page.Layers) == 0 {
		return Like{}, invalid(nil, "Nothing is drawn in %s.", file)
	}
	layer := &design.Layer{ID: page.ID, Name: page.Name, Kind: design.Group, Bounds: design.Rect{Width: page.Width, Height: page.Height}, Children: page.Layers}
	return s.like(ctx, doc, layer)
}

// LikeLayers ranks the components that layers of a document are like, read as one drawing.
func (s *Service) LikeLayers(ctx context.Context, document string, layers []string) (Like, error) {
	doc, _, err := s.document(ctx, document)
	if err != nil {
		return Like{}, err
	}
	layer := doc.Together(layers...)
	if layer == nil {
		return Like{}, notFound("The document %s has no such layers, or not on one page.", doc.Name)
	}
	return s.like(ctx, doc, layer)
}

func (s *Service) like(ctx context.Context, doc *design.Document, layer *design.Layer) (Like, error) {
	rows, err := s.store.Components(ctx)
	if err != nil {
		return Like{}, err
	}
	var known []*contract.Contract
	slugs := map[string]string{}
	for _, row := range rows {
		c, err := contractOf(row)
		if err != nil {
			return Like{}, err
		}
		known, slugs[c.Name] = append(known, c), row.Slug
	}
	out := Like{Name: layer.Name, Hits: []LikeHit{}, Drawn: DrawnPicture{doc.Draw(layer), layer.Bounds.Width, layer.Bounds.Height}}
	if out.Name == "" {
		out.Name = fmt.Sprintf("%s of %s", counted(len(layer.Children), "layer"), doc.Name)
	}
	for _, n := range survey.Like(doc, layer, known) {
		out.Hits = append(out.Hits, LikeHit{slugs[n.Name], n.Name, n.Likeness, n.Matches, n.Missing, len(n.Extra)})
	}
	return out, nil
}
