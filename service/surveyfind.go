package service

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/survey"
	"cobrik/store"
)

// OpenFind is a find with its copies drawn, and what each says.
type OpenFind struct {
	Copies []FindCopy `json:"copies" doc:"In the order of the find's members, the first 200"`
	Props  []FindProp `json:"props"`
}

// FindCopy is one copy, drawn.
type FindCopy struct {
	ID      string  `json:"id"`
	Picture string  `json:"picture" doc:"SVG"`
	Width   float64 `json:"width"`
	Height  float64 `json:"height"`
}

// FindProp is a prop that is proposed, with what each copy says of it.
type FindProp struct {
	Name     string        `json:"name"`
	Kind     string        `json:"kind"`
	Kinds    []string      `json:"kinds" doc:"That it may be, the proposed first"`
	Options  []string      `json:"options"`
	Says     []string      `json:"says" doc:"By copy; nothing where the thing is not there"`
	Merges   []string      `json:"merges" doc:"Names of props that it can become one with"`
	Explains []string      `json:"explains" doc:"CSS properties that differ with it"`
	Layers   []string      `json:"layers" doc:"By copy, the layer that says it; empty where there is none"`
	Boxes    []design.Rect `json:"boxes" doc:"By copy, where that is in the copy's picture; of no size where there is none"`
}

// mostOpened bounds the copies of a find that are drawn: who looks at more looks at the picture.
const mostOpened = 200

// OpenFind draws the copies of a find.
func (s *Service) OpenFind(ctx context.Context, document, find string) (OpenFind, error) {
	r, f, err := s.findOf(ctx, document, find)
	if err != nil {
		return OpenFind{}, err
	}
	out := OpenFind{Copies: []FindCopy{}, Props: []FindProp{}}
	members := f.Members[:min(len(f.Members), mostOpened)]
	layers := map[string]*design.Layer{}
	for _, family := range r.doc.Families {
		for _, v := range family.Variants {
			v.Root.Walk(func(l *design.Layer, _, _ float64) { layers[l.ID] = l })
		}
	}
	places := make([]map[string]design.Rect, len(members)) // of layers in each copy
	for i, m := range members {
		l := r.doc.Together(m.Layers...)
		if m.Page == "" {
			l = layers[m.ID]
		}
		one := FindCopy{ID: m.ID}
		places[i] = map[string]design.Rect{}
		if l != nil {
			one.Picture, one.Width, one.Height = r.doc.Draw(l), l.Bounds.Width, l.Bounds.Height
			l.Walk(func(c *design.Layer, x, y float64) {
				places[i][c.ID] = design.Rect{X: x, Y: y, Width: c.Bounds.Width, Height: c.Bounds.Height}
			})
		}
		out.Copies = append(out.Copies, one)
	}
	names := map[string]string{} // of layers, by id
	r.doc.EachLayer(func(l *design.Layer) { names[l.ID] = l.Name })
	for _, p := range f.Props {
		one := FindProp{Name: p.Name, Kind: p.Kind, Kinds: p.Kinds(), Options: append([]string{}, p.Options...), Says: []string{}, Merges: []string{}, Explains: []string{}, Layers: []string{}, Boxes: []design.Rect{}}
		for _, other := range f.Props {
			if other.Name != p.Name && other.CanMerge(p) {
				one.Merges = append(one.Merges, other.Name)
			}
		}
		for _, e := range p.Explain {
			if e.Property != "" && !slices.Contains(one.Explains, e.Property) {
				one.Explains = append(one.Explains, e.Property)
			}
		}
		for i, m := range members {
			says := said(p.Values[m.ID])
			if kind := contract.Kind(p.Kind); kind == contract.SlotKind || kind == contract.IconKind || kind == contract.ImageKind {
				says = cmp.Or(names[says], says) // a layer, else an asset
			}
			one.Says = append(one.Says, says)
			one.Layers = append(one.Layers, p.Layers[m.ID])
			one.Boxes = append(one.Boxes, places[i][p.Layers[m.ID]])
		}
		out.Props = append(out.Props, one)
	}
	return out, nil
}

// said writes a value for people.
func said(v any) string {
	switch v := v.(type) {
	case nil:
		return ""
	case bool:
		if v {
			return "yes"
		}
		return "no"
	case []any:
		words := make([]string, len(v))
		for i, item := range v {
			words[i] = said(item)
		}
		return strings.Join(words, ", ")
	case map[string]any:
		var words []string
		for _, name := range slices.Sorted(maps.Keys(v)) {
			words = append(words, said(v[name]))
		}
		return strings.Join(words, " · ")
	}
	return fmt.Sprint(v)
}

func (s *Service) findOf(ctx context.Context, document, find string) (*surveyed, *survey.Find, error) {
	r, err := s.read(ctx, document)
	if err != nil {
		return nil, nil, err
	}
	f := r.reading.Find(find)
	if f == nil && r.under != nil {
		return nil, nil, invalid(nil, "%s is being read; there are no finds yet.", r.doc.Name)
	}
	if f == nil {
		return nil, nil, notFound("There is no find %q in %s as it is now.", find, r.doc.Name)
	}
	return r, f, nil
}

// FindDraft is what people ask of a component that is drafted from a find.
type FindDraft struct {
	Document string            `json:"document" maxLength:"120"`
	Find     string            `json:"find" maxLength:"200"`
	Name     string            `json:"name" maxLength:"80" doc:"Of the component"`
	Left     []string          `json:"left,omitempty" maxItems:"5000" doc:"Ids of copies that are none"`
	Renamed  map[string]string `json:"renamed,omitempty" doc:"New names of props, by those that are proposed"`
	Dropped  []string          `json:"dropped,omitempty" maxItems:"500" doc:"Props that are none"`
	Merged   map[string]string `json:"merged,omitempty" doc:"Props by those that they become one with"`
	Kinds    map[string]string `json:"kinds,omitempty" doc:"Other kinds of props, by their names"`
}

// DraftFind computes a contract from the copies of a find, and keeps it as a new component of which the copies are uses.
func (s *Service) DraftFind(ctx context.Context, d FindDraft) (Drafted, error) {
	r, f, err := s.findOf(ctx, d.Document, d.Find)
	if err != nil {
		return Drafted{}, err
	}
	model, ok := f.Model(d.Left)
	if !ok {
		return Drafted{}, invalid(nil, "None of its copies is on a page; draft the family they are in.")
	}
	wish := survey.Wish{Left: d.Left, Renamed: d.Renamed, Dropped: d.Dropped, Merged: d.Merged, Kinds: d.Kinds}
	return s.draft(ctx, r.doc, model.Origin(d.Document, r.number), d.Name, copiesOf(f, wish), func(c *contract.Contract) []string { return f.Extend(r.doc, c, model.ID, wish) })
}

// copiesOf gives the copies of a find that are on pages, with what each says.
func copiesOf(f *survey.Find, w survey.Wish) (out []store.Copy) {
	asked := f.Asked(w)
	for _, m := range f.Members {
		if m.Page == "" || slices.Contains(w.Left, m.ID) {
			continue
		}
		one := store.Copy{Layer: m.Layers[0], Layers: m.Layers, Said: map[string]any{}}
		for _, p := range asked {
			if v := p.Values[m.ID]; v != nil {
				one.Said[cmp.Or(w.Renamed[p.Name], p.Name)] = v
			}
		}
		out = append(out, one)
	}
	return out
}

// TakeAsUses keeps the copies of a find as uses of a component there is.
func (s *Service) TakeAsUses(ctx context.Context, document, find, component string, left []string) error {
	_, f, err := s.findOf(ctx, document, find)
	if err != nil {
		return err
	}
	copies := copiesOf(f, survey.Wish{Left: left})
	if len(copies) == 0 {
		return invalid(nil, "None of its copies is on a page.")
	}
	if err = s.store.AddCopies(ctx, component, copies); errors.Is(err, store.ErrNotFound) {
		return notFound("There is no component %q.", component)
	}
	return err
}

// MarkAsOne makes layers of a page that lie in one container a find, or takes that back; what is like them is found with them.
func (s *Service) MarkAsOne(ctx context.Context, document string, layers []string, one bool) error {
	doc, _, err := s.document(ctx, document)
	if err != nil {
		return err
	}
	if one && !siblings(doc, layers) {
		return invalid(nil, "Only layers that lie in one container can be one thing: mark what holds them, or others.")
	}
	return s.store.Mark(ctx, document, layers, one)
}

// AddCopy makes layers of a page that lie in one container a copy of a find, whatever they look like.
func (s *Service) AddCopy(ctx context.Context, document, find string, layers []string) error {
	r, f, err := s.findOf(ctx, document, find)
	if err != nil {
		return err
	}
	switch {
	case f.Kind == survey.List:
		return invalid(nil, "%s are leaves of one row: draft one of them, or mark what holds them.", f.Name)
	case !siblings(r.doc, layers):
		return invalid(nil, "Only layers that lie in one container can be one copy: mark what holds them, or others.")
	case slices.ContainsFunc(f.Members, func(m survey.Member) bool {
		return slices.ContainsFunc(m.Layers, func(id string) bool { return slices.Contains(layers, id) })
	}):
		return invalid(nil, "They belong to one of its copies.")
	}
	joined, err := s.store.Join(ctx, document, layers, f.Members[0].Layers[0])
	if err != nil {
		return err
	}
	now, err := s.read(ctx, document)
	if err != nil || now.under != nil { // it is known when that is read
		return err
	}
	if slices.ContainsFunc(now.reading.Finds, func(g survey.Find) bool {
		return slices.ContainsFunc(g.Members, func(m survey.Member) bool {
			return m.Joined && (m.Layers[0] == joined.Layer || slices.Contains(m.Made, joined.Layer))
		})
	}) {
		return nil
	}
	return errors.Join(s.LeaveCopy(ctx, document, layers), invalid(nil, "That is no thing of its own that holds others: mark what holds it, or more of what belongs to it."))
}

// LeaveCopy takes back that layers are a copy of something, and, of several, that they are one thing.
func (s *Service) LeaveCopy(ctx context.Context, document string, layers []string) error {
	_, err := s.store.Join(ctx, document, layers, "")
	return err
}

// siblings tells whether layers of a page lie in one container.
func siblings(doc *design.Document, ids []string) bool {
	within := func(list []*design.Layer) (n int) {
		for _, l := range list {
			if slices.Contains(ids, l.ID) {
				n++
			}
		}
		return n
	}
	for _, p := range doc.Pages {
		if within(p.Layers) == len(ids) {
			return true
		}
		for _, top := range p.Layers {
			found := false
			top.Walk(func(l *design.Layer, _, _ float64) { found = found || within(l.Children) == len(ids) })
			if found {
				return true
			}
		}
	}
	return false
}
