package service

import (
	"cobrik/core/css"
	"cobrik/core/draft"
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/layout"
	"cobrik/core/survey"
	"cobrik/store"
)

// LayoutView is the layout facet of a contract: its containers as the solver
// lays them out in one case, beside the design.
type LayoutView struct {
	Case     string         `json:"case"`
	Width    float64        `json:"width" doc:"px of the container it was laid out in"`
	Drawn    float64        `json:"drawn" doc:"px the case was drawn at; residuals are told there alone"`
	Picture  string         `json:"picture" doc:"As drawn; at another width the drawing as the contract lays it out; SVG"`
	Size     design.Rect    `json:"size" doc:"Of the picture"`
	Residual float64        `json:"residual" doc:"px between a drawn and a solved edge, the furthest of all"`
	Parts    []PartLayout   `json:"parts" doc:"Parents first; hidden ones left out"`
	Strips   []layout.Strip `json:"strips" doc:"Measured room: paddings and what is between neighbours"`
	Kinds    []string       `json:"kinds" doc:"What a container can be made"`
	Columns  []string       `json:"columns" doc:"Shares that a split's columns often have"`
	Points   []float64      `json:"points" doc:"Switch points of the contract, px"`
	Below    float64        `json:"below" doc:"px of the narrowest switch point that the width lies under; 0 for none"`
	BelowKey string         `json:"belowKey" doc:"The condition of that switch point, as an edit takes it"`
	Notes    []string       `json:"notes" doc:"What of a drawing without flow could not be read"`
}

// PartLayout is a part as it is laid out.
type PartLayout struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Depth int    `json:"depth"`
	contract.Arrangement
	Sizings  []string      `json:"sizings" doc:"How it can be sized"`
	Box      design.Rect   `json:"box" doc:"Solved, from the root"`
	Residual *float64      `json:"residual,omitempty" doc:"px between the drawn and the solved edges, the furthest; absent at widths it was not drawn at"`
	Declared []LayoutValue `json:"declared" doc:"Gap and paddings of a container, and what moves a part from its place"`
	Key      string        `json:"key,omitempty" doc:"Names the container when another reading is taken"`
	Others   []OtherKind   `json:"others" doc:"Readings that lost, where it was drawn without flow"`
}

// LayoutValue is what a container says of its room.
type LayoutValue struct {
	Property   string `json:"property"`
	Value      string `json:"value" doc:"In px"`
	Expression string `json:"expression" doc:"As written"`
	When       string `json:"when" doc:"Key of the condition it is said under"`
	Label      string `json:"label" doc:"The same condition in words"`
}

// OtherKind is another way to read a container.
type OtherKind struct {
	Kind string `json:"kind"`
	Why  string `json:"why"`
	Open bool   `json:"open" doc:"It can be taken"`
}

// Layout gives the layout facet of a component's case in a container of a width;
// as drawn when the width is 0.
func (s *Service) Layout(ctx context.Context, slug, key string, width float64) (LayoutView, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return LayoutView{}, err
	}
	k, err := w.caseNamed(key)
	if err != nil {
		return LayoutView{}, err
	}
	return s.layoutOf(w, k, width)
}

// caseNamed finds a drawn case by its key; the default case when it is empty.
func (w *component) caseNamed(key string) (draft.Case, error) {
	for _, k := range w.cases() {
		if key == "" && w.isDefault(k) || key != "" && k.Key(w.contract) == key {
			return k, nil
		}
	}
	for _, k := range append(w.savedCases(), w.others()...) {
		if key != "" && w.keyOf(k) == key {
			return k, nil
		}
	}
	if w.gone() {
		return draft.Case{}, invalid(nil, "The design no longer has the drawing %s came from.", w.contract.Name)
	}
	return draft.Case{}, notFound("%s has no case %q.", w.contract.Name, key)
}

// widest is the px a container is laid out in at most.
const widest = 20_000

// containerWidth is the width asked for; the one the case was drawn at when that
// is 0.
func containerWidth(k draft.Case, asked float64) (float64, error) {
	if asked == 0 {
		return k.Variant.Root.Bounds.Width, nil
	}
	if !(asked >= 1 && asked <= widest) { // not a number, too
		return 0, invalid(nil, "A width is between 1 and %d px.", widest)
	}
	return asked, nil
}

func (s *Service) layoutOf(w *component, k draft.Case, width float64) (LayoutView, error) {
	out := LayoutView{Case: k.Key(w.contract), Drawn: k.Variant.Root.Bounds.Width, Kinds: contract.Kinds, Columns: layout.Shares,
		Points: append([]float64{}, w.contract.SwitchPoints()...), Parts: []PartLayout{}, Notes: []string{}}
	var err error
	if out.Width, err = containerWidth(k, width); err != nil {
		return out, err
	}
	for _, at := range out.Points { // narrowest first
		if out.Below == 0 && out.Width < at {
			out.Below, out.BelowKey = at, contract.BelowWidth(at).Key()
		}
	}
	asDrawn := out.Width == out.Drawn
	tree := w.resolved(k, out.Width)
	solved, found := layout.Solve(tree.Boxes(), layout.Options{Width: out.Width, Fonts: s.fonts})
	if solved == nil {
		return out, invalid(found, "%s cannot be laid out.", w.contract.Name)
	}
	drawing := k.Variant.Root
	if !asDrawn {
		drawing = draft.Redraw(tree, drawing, solved)
	}
	out.Picture, out.Size = w.doc.Draw(drawing), design.Rect{Width: drawing.Bounds.Width, Height: drawing.Bounds.Height}
	places := placesOf(drawing)
	readings := draft.OtherReadings(w.doc, w.origin)
	var walk func(r, parent *contract.Resolved, n *layout.Node, depth int)
	walk = func(r, parent *contract.Resolved, n *layout.Node, depth int) {
		if n.Box == nil { // taken away at this width
			return
		}
		p := PartLayout{ID: r.Part.ID, Name: r.Part.Name, Depth: depth, Arrangement: r.Arrangement(parent), Sizings: r.Sizings(), Declared: []LayoutValue{}, Others: []OtherKind{},
			Box: design.Rect{X: n.Box.X, Y: n.Box.Y, Width: n.Box.Width, Height: n.Box.Height}}
		if l, _ := draft.ItemLayer(drawing, w.contract, r); l != nil && asDrawn {
			off := furthest(places[l], p.Box)
			p.Residual = &off
			out.Residual = max(out.Residual, off)
		}
		p.Declared = roomOf(w.contract, r)
		if len(r.Part.Children) > 0 {
			other := readings[r.Part.Layer]
			p.Key = other.Key
			for _, o := range other.Others {
				p.Others = append(p.Others, OtherKind(o))
			}
		}
		if r.Key() == r.Part.ID { // the first item stands for all
			out.Parts = append(out.Parts, p)
		}
		if r.Inside != nil {
			return // the component's affair
		}
		for i, c := range r.Below() {
			walk(c, r, n.Children[i], depth+1)
		}
	}
	walk(tree, nil, solved, 0)
	out.Strips = layout.Strips(solved)
	return out, nil
}

// resolved gives a case in a container of a width.
func (w *component) resolved(k draft.Case, width float64) *contract.Resolved {
	return contract.Resolve(w.contract, k.Env().At(width), w.tokens)
}

// drawnAt gives a case's drawing, laid out anew by its own flow where the width
// is not the one it was drawn at.
func (s *Service) drawnAt(k draft.Case, width float64) (*design.Layer, error) {
	if width == k.Variant.Root.Bounds.Width {
		return k.Variant.Root, nil
	}
	drawing, found := draft.Reflow(k.Variant.Root, width, s.fonts)
	if drawing == nil {
		return nil, invalid(found, "%s cannot be laid out at %g px.", k.Name, width)
	}
	return drawing, nil
}

func placesOf(root *design.Layer) map[*design.Layer]design.Rect {
	out := map[*design.Layer]design.Rect{}
	root.Walk(func(l *design.Layer, x, y float64) {
		out[l] = design.Rect{X: x, Y: y, Width: l.Bounds.Width, Height: l.Bounds.Height}
	})
	return out
}

// furthest is the largest distance between the edges of two boxes, px.
func furthest(a, b design.Rect) float64 {
	left, top := a.X-b.X, a.Y-b.Y
	most := max(math.Abs(left), math.Abs(top), math.Abs(left+a.Width-b.Width), math.Abs(top+a.Height-b.Height))
	return math.Round(most*100) / 100
}

// roomOf lists what a container says of its gap, paddings and greatest width, and what any part
// says of its distance from where its container puts it.
func roomOf(c *contract.Contract, r *contract.Resolved) []LayoutValue {
	out := []LayoutValue{}
	for _, property := range []string{"gap", "padding-block", "padding-inline", "max-width", "margin-left", "margin-top", "left", "right", "top", "bottom"} {
		known, _ := css.PropertyNamed(property)
		inside := property == "gap" || property == "max-width" || strings.HasPrefix(property, "padding")
		if v, said := r.Values[property]; said && v.Part == r.Part.ID {
			out = append(out, LayoutValue{property, v.Value, v.Expression, v.When.Key(), c.Words(v.When)})
		} else if inside && len(r.Part.Children) > 0 {
			out = append(out, LayoutValue{Property: property, Value: known.Initial, Expression: css.InitialText(property)})
		}
	}
	return out
}

// Arrange is an edit of how a part is laid out.
type Arrange struct {
	Revision int      `json:"revision" doc:"Of the contract that was read"`
	Part     string   `json:"part" maxLength:"80"`
	Also     []string `json:"also,omitempty" maxItems:"500" doc:"Other parts that are laid out so, too"`
	Case     string   `json:"case,omitempty" maxLength:"1000"`
	At       float64  `json:"at,omitempty" minimum:"0" maximum:"20000" doc:"px of the container it was looked at in; as drawn when 0"`
	Below    float64  `json:"below,omitempty" minimum:"0" maximum:"20000" doc:"px: a switch point, under which alone it holds"`
	contract.Arrangement
}

// Arrange lays a part out in another way.
func (s *Service) Arrange(ctx context.Context, slug string, a Arrange) (Edited, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Edited{}, err
	}
	k, err := w.caseNamed(a.Case)
	if err != nil {
		return Edited{}, err
	}
	view, err := s.layoutOf(w, k, a.At)
	if err != nil {
		return Edited{}, err
	}
	at := contract.EditSite{Env: k.Env().At(view.Width), Below: a.Below, Sizes: map[string][2]float64{}}
	for _, p := range view.Parts {
		at.Sizes[p.ID] = [2]float64{p.Box.Width, p.Box.Height}
	}
	c := w.contract.Clone()
	var names []string
	for _, part := range append([]string{a.Part}, a.Also...) {
		if found := c.Arrange(part, a.Arrangement, at, w.tokens); found.Failed() {
			return Edited{}, invalid(found, "Nothing was changed: %s", found[0].Message)
		}
		names = append(names, c.Part(part).Name)
	}
	name := strings.Join(names, ", ")
	note := name + " · layout"
	if a.Below > 0 {
		note = fmt.Sprintf("%s · below %g px", name, a.Below)
	}
	return s.apply(ctx, w, c, store.Edit{Slug: slug, Read: a.Revision, Note: note})
}

// Reading takes another reading of a container that was drawn without flow.
func (s *Service) Reading(ctx context.Context, slug string, revision int, key, kind string) (Edited, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Edited{}, err
	}
	c, found := draft.Reread(w.contract, w.doc, key, kind, w.tokens, s.fonts, w.components)
	if c == nil {
		return Edited{}, invalid(found, "Nothing was changed: %s", found[0].Message)
	}
	// What is read anew is agreed as it was drawn.
	w.contract, w.base, w.origin = c, nil, *c.Origin
	w.family, _ = draft.Source(w.doc, w.origin, s.fonts, w.components)
	return s.apply(ctx, w, c, store.Edit{Slug: slug, Read: revision, Note: "read as " + kind})
}

// MoveSwitch moves a switch point to another width, or removes it when that is 0.
func (s *Service) MoveSwitch(ctx context.Context, slug string, revision int, from, to float64) (Edited, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Edited{}, err
	}
	if !slices.Contains(w.contract.SwitchPoints(), from) {
		return Edited{}, notFound("%s has no switch point at %g px.", w.contract.Name, from)
	}
	c := w.contract.Clone()
	c.MoveSwitch(from, to)
	note := fmt.Sprintf("switch point %g px removed", from)
	if to > 0 {
		note = fmt.Sprintf("switch point %g px moved to %g px", from, to)
	}
	return s.apply(ctx, w, c, store.Edit{Slug: slug, Read: revision, Note: note})
}

// CaseAt gives a case as it is in a theme, in a container of a width.
func (s *Service) CaseAt(ctx context.Context, slug, key, theme string, width float64) (CaseView, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return CaseView{}, err
	}
	k, err := w.caseNamed(key)
	if err != nil {
		return CaseView{}, err
	}
	in, err := w.library.theme(theme)
	if err != nil {
		return CaseView{}, err
	}
	asked := width
	width, err = containerWidth(k, width)
	if err != nil {
		return CaseView{}, err
	}
	if !w.isDrawn(k) { // there is nothing to lay out anew
		out := w.caseView(k, in)
		out.Container = asked
		return out, nil
	}
	drawing, err := s.drawnAt(k, width)
	if err != nil {
		return CaseView{}, err
	}
	out := w.caseView(k, in)
	out.Container = width
	out.Picture, out.Width, out.Height = w.doc.Draw(w.drawnIn(drawing, in)), drawing.Bounds.Width, drawing.Bounds.Height
	places := placesOf(drawing)
	contract.Resolve(w.contract, k.Env().At(width), w.tokens).Walk(func(r *contract.Resolved) {
		if _, shown := out.Boxes[r.Key()]; !shown {
			return
		}
		if l, _ := draft.ItemLayer(drawing, w.contract, r); l != nil {
			out.Boxes[r.Key()] = places[l]
		}
	})
	return out, nil
}

// Containers reads a layer of a page that was drawn without flow, or several as one drawing, as it would be
// drafted.
func (s *Service) Containers(ctx context.Context, document string, layers []string) (LayoutView, error) {
	doc, number, err := s.document(ctx, document)
	if err != nil {
		return LayoutView{}, err
	}
	l, err := s.library(ctx)
	if err != nil {
		return LayoutView{}, err
	}
	o := survey.ReadBy(contract.Origin{Document: document, Layer: layers[0], With: layers[1:], Revision: number}, l.tokens())
	c, family, found := draft.Of(doc, o, "", l.tokens(), s.fonts, nil)
	if c == nil {
		return LayoutView{}, invalid(found, "The layer could not be read: %s", howMany(found))
	}
	w := &component{contract: c, library: l, tokens: l.tokens(), doc: doc, family: family, origin: o}
	out, err := s.layoutOf(w, w.cases()[0], 0)
	for _, p := range found {
		out.Notes = append(out.Notes, p.Message)
	}
	return out, err
}
