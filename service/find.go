package service

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
)

// Hit is something that has a name.
type Hit struct {
	Kind   string `json:"kind" enum:"component,prop,option,part,case,release,shelf,icon,token,group,theme,output,page,family,find,layer,source,trial"`
	Name   string `json:"name"`
	Of     string `json:"of" doc:"What it belongs to, or is for"`
	Slug   string `json:"slug,omitempty" doc:"Of the component"`
	Status string `json:"status,omitempty" doc:"Of a component: draft, released or primitive"`
	Part   string `json:"part,omitempty" doc:"Its id"`
	Case   string `json:"case,omitempty" doc:"Its key"`
	Type   string `json:"type,omitempty" doc:"Of a token"`
	Value  string `json:"value,omitempty" doc:"Of a token, in the first theme"`
	Page   string `json:"page,omitempty" doc:"The id of the page it is on"`
	Find   string `json:"find,omitempty" doc:"Its id"`
	Source string `json:"source,omitempty" doc:"Id of the design document it is in"`

	rank int // better first
}

// hitKinds in the order they are shown, and how many of each at most.
var hitKinds = []string{"component", "prop", "option", "part", "case", "release", "shelf", "icon", "token", "group", "theme", "output", "page", "family", "find", "layer", "source", "trial"}

const hitsOfAKind = 6

// Find gives what has all the words in its name, or in the name of what it belongs to: at least one of them in its
// own. Of each kind the nearest come first.
func (s *Service) Find(ctx context.Context, words string) ([]Hit, error) {
	f := finder{words: strings.Fields(strings.ToLower(words)), hits: map[string][]Hit{}}
	if len(f.words) == 0 {
		return []Hit{}, nil
	}
	if err := f.components(ctx, s); err != nil {
		return nil, err
	}
	l, err := s.library(ctx)
	if err != nil {
		return nil, err
	}
	icons, err := s.libraryIcons(ctx)
	if err != nil {
		return nil, err
	}
	for _, i := range icons {
		f.offer(Hit{Kind: "icon", Name: i.Name, Of: i.words})
	}
	for _, path := range l.paths() {
		t := l.tokens().Get(path)
		if t == nil { // another theme's
			continue
		}
		f.offer(Hit{Kind: "token", Name: path, Of: t.Description, Type: t.Type, Value: t.Value})
	}
	for _, g := range l.groups() {
		f.offer(Hit{Kind: "group", Name: g.Path, Of: counted(g.Tokens, "token")})
	}
	if len(l.themes) > 1 {
		for _, t := range l.themes {
			f.offer(Hit{Kind: "theme", Name: themeName(t), Of: t.String()})
		}
	}
	for _, o := range l.project.All() {
		f.offer(Hit{Kind: "output", Name: o.File, Of: o.About()})
	}
	for _, file := range l.stored {
		f.offer(Hit{Kind: "source", Name: file.Name, Of: "token files"})
	}
	pages, err := s.store.TrialOutlines(ctx)
	if err != nil {
		return nil, err
	}
	for _, p := range pages {
		f.offer(Hit{Kind: "trial", Name: p.Name, Of: "a page on trial", Slug: p.Slug})
	}
	docs, err := s.allDocuments(ctx)
	if err != nil {
		return nil, err
	}
	for _, doc := range docs {
		f.offer(Hit{Kind: "source", Name: doc.Name, Of: "design documents"})
		f.document(doc)
		r, err := s.read(ctx, doc.ID)
		if err != nil {
			return nil, err
		}
		for _, one := range r.reading.Finds {
			f.offer(Hit{Kind: "find", Name: one.Name, Of: fmt.Sprintf("%d times in %s", len(one.Members), doc.Name), Find: one.ID, Source: doc.ID})
		}
	}
	out := []Hit{}
	for _, kind := range hitKinds {
		list := f.hits[kind]
		slices.SortStableFunc(list, func(a, b Hit) int { return a.rank - b.rank })
		out = append(out, list[:min(len(list), hitsOfAKind)]...)
	}
	return out, nil
}

type finder struct {
	words []string
	hits  map[string][]Hit
}

// offer takes a thing that has the words.
func (f *finder) offer(h Hit) {
	name, all := strings.ToLower(h.Name), strings.ToLower(h.Name+" "+h.Of)
	own := false
	for _, w := range f.words {
		own = own || strings.Contains(name, w)
		if !strings.Contains(all, w) {
			return
		}
	}
	whole := strings.Join(f.words, " ")
	switch {
	case name == whole:
	case strings.HasPrefix(name, f.words[0]):
		h.rank = 1
	case own:
		h.rank = 2
	case h.Kind == "component":
		h.rank = 3 // by its purpose
	default:
		return
	}
	f.hits[h.Kind] = append(f.hits[h.Kind], h)
}

func (f *finder) components(ctx context.Context, s *Service) error {
	rows, err := s.store.Components(ctx)
	if err != nil {
		return err
	}
	shelves := map[string]bool{}
	for _, row := range rows {
		if row.Version != nil && !shelves[row.Shelf] {
			shelves[row.Shelf] = true
			f.offer(Hit{Kind: "shelf", Name: row.Shelf, Of: "the catalogue"})
		}
		c, err := contractOf(row)
		if err != nil {
			return err
		}
		status := "draft"
		if row.Version != nil {
			status = "released"
			f.offer(Hit{Kind: "release", Name: c.Name + " " + *row.Version, Of: row.Shelf, Slug: row.Slug})
		}
		f.contract(c, row.Slug, status)
		if row.Document == "" {
			for _, k := range variationsOf(c) {
				f.offer(Hit{Kind: "case", Name: k.Name, Of: c.Name, Slug: row.Slug, Case: k.Key(c)})
			}
			continue
		}
		doc, _, err := s.document(ctx, row.Document)
		if err != nil {
			return err
		}
		if family := doc.Family(row.SourceID); family != nil {
			for _, k := range draft.Cases(c, family) {
				f.offer(Hit{Kind: "case", Name: k.Name, Of: c.Name, Slug: row.Slug, Case: k.Key(c)})
			}
		}
	}
	primitives, err := s.Primitives(ctx)
	for _, p := range primitives {
		f.offer(Hit{Kind: "component", Name: p.Name, Of: p.Purpose, Slug: p.Slug, Status: primitiveStatus})
	}
	return err
}

func (f *finder) contract(c *contract.Contract, slug, status string) {
	f.offer(Hit{Kind: "component", Name: c.Name, Of: c.Purpose, Slug: slug, Status: status})
	for _, p := range c.Props {
		f.offer(Hit{Kind: "prop", Name: p.Name, Of: c.Name, Slug: slug})
		options := p.Options()
		if icon, ok := p.Type.(contract.Icon); ok {
			options = icon.Names()
		}
		for _, o := range options {
			f.offer(Hit{Kind: "option", Name: o, Of: c.Name + " " + p.Name, Slug: slug})
		}
	}
	c.Walk(func(p, parent *contract.Part) {
		if parent != nil {
			f.offer(Hit{Kind: "part", Name: p.Name, Of: c.Name, Slug: slug, Part: p.ID})
		}
	})
}

func (f *finder) document(doc *design.Document) {
	for _, family := range doc.Families {
		f.offer(Hit{Kind: "family", Name: family.Name, Of: doc.Name, Source: doc.ID})
	}
	for _, page := range doc.Pages {
		f.offer(Hit{Kind: "page", Name: page.Name, Of: doc.Name, Page: page.ID, Source: doc.ID})
		said := map[string]bool{} // a name once a page
		for _, root := range page.Layers {
			root.Walk(func(l *design.Layer, _, _ float64) {
				if !said[l.Name] && len(f.hits["layer"]) < 200 {
					said[l.Name] = true
					f.offer(Hit{Kind: "layer", Name: l.Name, Of: page.Name, Page: page.ID, Source: doc.ID})
				}
			})
		}
	}
}
