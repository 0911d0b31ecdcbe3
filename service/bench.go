package service

import (
	"context"
	"errors"
	"fmt"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/emit/ir"
	"cobrik/core/font"
	"cobrik/core/ledger"
	"cobrik/core/sheet"
	"cobrik/core/token"
	"cobrik/store"
)

// component is one component with all that is computed from.
type component struct {
	row      store.Component
	contract *contract.Contract
	base     *contract.Contract // what was agreed while parts of it wait; nil for itself
	library  *library
	tokens   *token.Set // of the default theme
	build    string     // names contract and tokens: what is compiled from
	doc      *design.Document
	origin   contract.Origin
	family   *design.Family // nil when the newest revision has it no more
	design   int            // the newest revision's number
	kept     []ledger.Decision
	module   *ir.Module

	fonts      *font.Library
	variations []draft.Case // of one without a drawing, once they were asked for
	components draft.Components
	primitive  bool // a layout primitive: nothing of it is stored
}

func (s *Service) component(ctx context.Context, slug string) (*component, error) {
	row, err := s.store.Component(ctx, slug)
	if errors.Is(err, store.ErrNotFound) {
		return nil, notFound("There is no component %q.", slug)
	}
	if err != nil {
		return nil, err
	}
	return s.componentOf(ctx, row)
}

func (s *Service) componentOf(ctx context.Context, row store.Component) (*component, error) {
	c, err := contractOf(row)
	if err != nil {
		return nil, err
	}
	w := &component{row: row, contract: c}
	inside, err := s.link(ctx, c)
	if err != nil {
		return nil, err
	}
	if w.base, err = baseOf(row); err != nil {
		return nil, err
	}
	if w.base != nil {
		if _, err := s.link(ctx, w.base); err != nil {
			return nil, err
		}
	}
	if w.library, err = s.library(ctx); err != nil {
		return nil, err
	}
	c.Timed(w.library.tokens())
	w.tokens, w.build = w.library.tokens(), fmt.Sprintf("%d.%s", row.Revision, w.library.name())
	w.fonts = s.fonts
	if w.undrawn() {
		w.doc, w.components = &design.Document{}, func(string) *contract.Contract { return nil }
		rows, err := s.store.Decisions(ctx, row.ID)
		w.kept = ledgerDecisions(rows)
		if inside != "" {
			w.build += "-" + inside
		}
		return w, err
	}
	if w.doc, w.design, err = s.document(ctx, row.Document); err != nil {
		return nil, err
	}
	w.origin = contract.Origin{Document: row.Document, Family: row.SourceID}
	if c.Origin != nil {
		w.origin = *c.Origin
	}
	if inside != "" {
		w.build += "-" + inside
	}
	var failed error
	w.components = s.components(ctx, row.Document, &failed)
	w.family, _ = draft.Source(w.doc, w.origin, s.fonts, w.components)
	if failed != nil {
		return nil, failed
	}
	rows, err := s.store.Decisions(ctx, row.ID)
	w.kept = ledgerDecisions(rows)
	return w, err
}

func ledgerDecisions(rows []store.Decision) []ledger.Decision {
	out := make([]ledger.Decision, len(rows))
	for i, d := range rows {
		out[i] = ledger.Decision{Outcome: ledger.Outcome(d.Outcome), Move: d.Move, When: d.Condition, Said: d.Said, Reason: d.Reason}
	}
	return out
}

func (w *component) ledger() *ledger.Ledger { return w.ledgerOf(w.contract, w.kept) }

// moves are what the design wants of the contract; a design that no longer has the drawing
// wants nothing of it.
func (w *component) moves() []ledger.Move {
	if w.family == nil {
		return nil
	}
	return w.ledger().Moves()
}

// ledgerOf compares the design with the contract, or with what an edit makes of it.
func (w *component) ledgerOf(c *contract.Contract, kept []ledger.Decision) *ledger.Ledger {
	return w.ledgerIn(c, kept, ledger.Theme{})
}

func (w *component) ledgerIn(c *contract.Contract, kept []ledger.Decision, theme ledger.Theme) *ledger.Ledger {
	family, base := w.family, w.base
	if family == nil {
		family = &design.Family{}
	}
	if base == nil && c != w.contract {
		base = w.contract
	}
	return ledger.New(ledger.Agreed{Contract: c, Base: base, Tokens: w.tokens, Kept: kept, Components: w.components, Theme: theme, Undrawn: w.undrawn()}, family)
}

// agreedOf gives what is agreed once an edit is made; nil when that is the whole of it.
func (w *component) agreedOf(c *contract.Contract, kept []ledger.Decision) []byte {
	if w.family == nil {
		return w.row.Agreed
	}
	if agreed := w.ledgerOf(c, kept).Settled(); agreed != nil {
		return agreed.JSON()
	}
	return nil
}

func (w *component) cases() []draft.Case {
	if w.undrawn() {
		return w.varied()
	}
	if w.family == nil {
		return nil
	}
	return draft.Cases(w.contract, w.family)
}

// Bench is one component at work.
type Bench struct {
	Slug     string      `json:"slug"`
	Name     string      `json:"name"`
	Purpose  string      `json:"purpose"`
	Do       []string    `json:"do" doc:"How it is meant to be used"`
	Dont     []string    `json:"dont" doc:"How it is not"`
	Revision int         `json:"revision" doc:"Of the contract; an edit carries it"`
	Note     string      `json:"note" doc:"What made this revision"`
	CanUndo  bool        `json:"canUndo"`
	CanRedo  bool        `json:"canRedo"`
	Undoes   string      `json:"undoes" doc:"What undo takes back, in words"`
	Redoes   string      `json:"redoes" doc:"What redo does again"`
	Version  string      `json:"version" doc:"Newest release; empty for none"`
	Status   string      `json:"status" enum:"draft,released,primitive"`
	Shelf    string      `json:"shelf"`
	Agreed   int         `json:"agreed" doc:"Design revision the contract was last agreed at"`
	Design   int         `json:"design" doc:"Newest design revision"`
	Waiting  int         `json:"waiting" doc:"Moves of the design nobody has decided"`
	Undrawn  bool        `json:"undrawn" doc:"It began without a drawing: design says nothing of it"`
	RoomOf   string      `json:"roomOf,omitempty" doc:"The component whose room it keeps while that loads"`
	Gone     bool        `json:"gone" doc:"The newest revision no longer has the family"`
	Build    string      `json:"build" doc:"Names what is compiled; changes when contract or tokens do"`
	Props    []PropView  `json:"props"`
	Parts    []PartView  `json:"parts"`
	Cases    []CaseView  `json:"cases"`
	Combined int         `json:"combined" doc:"How many combinations its props and states have; of one without a drawing, its cases are all of them, or a set that covers every pair"`
	Theme    string      `json:"theme" doc:"Name of the theme its cases are shown in"`
	Themes   []LookTheme `json:"themes" doc:"The one it was drawn in first"`
	States   []string    `json:"states" doc:"Those that something of it is otherwise in"`
	Uses     []string    `json:"uses" doc:"Names of the components it is made of"`
	UsedBy   []string    `json:"usedBy" doc:"Names of the components that use it, at any level"`
	Held     []string    `json:"held" doc:"What nobody who uses it can give to the components inside: tag › size"`
	Measure  []string    `json:"measure" doc:"CSS properties to measure"`
	Tokens   []TokenPick `json:"tokens" doc:"Tokens to pick from"`
}

// PropView is a prop.
type PropView struct {
	ID         string   `json:"id"`
	Name       string   `json:"name"`
	Kind       string   `json:"kind" enum:"text,rich text,flag,choice,number,image,link,icon,slot,list,event"`
	Purpose    string   `json:"purpose"`
	Options    []string `json:"options" doc:"Of a choice, or names of an icon's drawings"`
	Default    any      `json:"default" doc:"As a use of it would give it; null for none"`
	Shown      any      `json:"shown" doc:"What it is looked at with: its example, else the default"`
	Control    string   `json:"control" enum:"options,switch,text,rich text,number,image,address,icon,items,none"`
	Required   bool     `json:"required"`
	Deprecated string   `json:"deprecated"`
}

// PartView is a part and where it stands in the rendered tree.
type PartView struct {
	ID      string               `json:"id"`
	Name    string               `json:"name"`
	Element string               `json:"element" doc:"The component of a use"`
	Depth   int                  `json:"depth"`
	Role    string               `json:"role,omitempty" doc:"In the accessibility tree, of the case that is looked at first (WAI-ARIA 1.2)"`
	Called  string               `json:"called,omitempty" doc:"Its accessible name there"`
	Changed []contract.Influence `json:"changed" doc:"What changes it"`
}

// CaseView is a drawn case.
type CaseView struct {
	Key       string                 `json:"key"`
	Name      string                 `json:"name"`
	Drawn     bool                   `json:"drawn"`
	Saved     bool                   `json:"saved" doc:"People gave it its name"`
	Look      contract.Look          `json:"look" doc:"What it is looked at in"`
	LookWords string                 `json:"lookWords" doc:"The same in words; empty for nothing in particular"`
	Default   bool                   `json:"default"`
	New       []string               `json:"new" doc:"Axis values the contract does not have yet"`
	Props     map[string]any         `json:"props" doc:"What the component is rendered with"`
	States    []string               `json:"states" doc:"The states it is shown in, though nobody brings them about"`
	Choices   []string               `json:"choices" doc:"A value an axis, in their order"`
	Picture   string                 `json:"picture" doc:"The variant as drawn, SVG; empty for one that is not drawn"`
	Width     float64                `json:"width" doc:"Of the drawn variant, px"`
	Height    float64                `json:"height"`
	Fills     bool                   `json:"fills" doc:"The component fills its container's width"`
	Container float64                `json:"container" doc:"px of the container it is laid out in; 0 for as drawn"`
	Boxes     map[string]design.Rect `json:"boxes" doc:"Drawn box of each part, relative to the root"`
	Paths     map[string][]int       `json:"paths" doc:"Child indexes from the root to each rendered part"`
}

// TokenPick is a token as one picks it.
type TokenPick struct {
	Path  string `json:"path"`
	Type  string `json:"type"`
	Value string `json:"value"`
}

// Bench reads a component for the bench.
func (s *Service) Bench(ctx context.Context, slug, theme string) (Bench, error) {
	w, err := s.looked(ctx, slug)
	if err != nil {
		return Bench{}, err
	}
	in, err := w.library.theme(theme)
	if err != nil {
		return Bench{}, err
	}
	users, err := s.users(ctx, w.contract.Name)
	if err != nil {
		return Bench{}, err
	}
	out := w.bench(in)
	out.UsedBy = namesOf(users)
	return out, nil
}

// bench is a component for the bench, in a theme; who uses it is not known there.
func (w *component) bench(in int) Bench {
	out := Bench{
		Slug: w.row.Slug, Name: w.contract.Name, Purpose: w.contract.Purpose, Do: append([]string{}, w.contract.Do...), Dont: append([]string{}, w.contract.Dont...), Revision: w.row.Revision, Note: w.row.Note,
		CanUndo: w.row.UndoTo != nil, CanRedo: w.row.RedoTo != nil, Undoes: w.row.Step, Redoes: w.row.Redone, Status: "draft", Shelf: w.row.Shelf,
		Design: w.design, Undrawn: w.undrawn(), RoomOf: w.contract.RoomOf, Gone: w.gone(), Build: w.build, Waiting: ledger.Waiting(w.moves()),
		Props: propViews(w.contract), Measure: css.FactProperties(), Parts: []PartView{}, Cases: []CaseView{}, Tokens: []TokenPick{},
		Theme: themeName(w.library.themes[in]), Themes: w.library.lookThemes(), Uses: []string{}, UsedBy: []string{}, Held: []string{},
	}
	if w.primitive {
		out.Status = primitiveStatus
		sampleContent(w.contract, out.Props)
	}
	if w.contract.Origin != nil {
		out.Agreed = w.contract.Origin.Revision
	}
	if w.row.Version != nil {
		out.Version, out.Status = *w.row.Version, "released"
	}
	out.Uses = append(out.Uses, w.contract.Components()...)
	for _, u := range w.contract.Unreachable() {
		out.Held = append(out.Held, u.String())
	}
	depth := map[string]int{}
	told := contract.Resolve(w.contract, contract.EnvOf(w.contract.Examples()), w.tokens).Accesses()
	w.contract.Walk(func(p, parent *contract.Part) {
		if parent != nil {
			depth[p.ID] = depth[parent.ID] + 1
		}
		view := PartView{ID: p.ID, Name: p.Name, Element: p.Element, Depth: depth[p.ID], Role: told[p.ID].Role, Called: told[p.ID].Name, Changed: append([]contract.Influence{}, w.contract.Influences(p)...)}
		if u := p.Use(); u != nil {
			view.Element = u.Component
		}
		out.Parts = append(out.Parts, view)
	})
	for _, k := range w.cases() {
		out.Cases = append(out.Cases, w.caseView(k, in))
	}
	for _, k := range w.savedCases() {
		out.Cases = append(out.Cases, w.caseView(k, in))
	}
	out.Combined, out.States = w.contract.Combinations(), append([]string{}, w.contract.AskedStates()...)
	for _, t := range w.tokens.All() {
		if t.Value != "" {
			out.Tokens = append(out.Tokens, TokenPick{t.Path, t.Type, t.Value})
		}
	}
	return out
}

func propViews(c *contract.Contract) []PropView {
	out := []PropView{}
	examples := c.Examples()
	for _, p := range ir.Lower(c).Props {
		options := p.Options()
		if icon, ok := p.Type.(contract.Icon); ok {
			options = icon.Names()
		}
		given := func(v contract.Value) any { return c.Given(contract.Values{p.ID: v})[p.Name] }
		out = append(out, PropView{ID: p.ID, Name: p.Name, Kind: string(p.Kind()), Purpose: p.Purpose, Options: append([]string{}, options...),
			Default: given(p.Default()), Shown: given(examples[p.ID]), Control: p.Type.Control(), Required: p.Required, Deprecated: p.Deprecated})
	}
	return out
}

func (w *component) caseView(k draft.Case, theme int) CaseView {
	out := CaseView{
		Key: w.keyOf(k), Name: k.Name, Drawn: w.isDrawn(k), Default: w.isDefault(k), New: k.New, Props: w.contract.Given(k.Values), States: append([]string{}, k.Env().States...), Choices: []string{},
		Width: k.Variant.Root.Bounds.Width, Height: k.Variant.Root.Bounds.Height,
		Boxes: map[string]design.Rect{},
	}
	if out.New == nil {
		out.New = []string{}
	}
	if i, saved := w.savedOf(k); saved {
		out.Saved, out.Look = true, w.contract.Cases[i].Look
		out.LookWords = sheet.LookWords(out.Look)
		out.Container = out.Look.Width
	}
	if out.Drawn {
		out.Picture = w.doc.Draw(w.drawnIn(k.Variant.Root, theme))
		for _, a := range w.family.Axes {
			out.Choices = append(out.Choices, k.Variant.Choices[a.Name])
		}
	}
	boxes := placesOf(k.Variant.Root)
	tree := contract.Resolve(w.contract, w.envIn(k, theme), w.tokens)
	out.Fills = tree.Values["width"].Value == "100%"
	tree.Walk(func(r *contract.Resolved) {
		if !out.Drawn {
			return
		}
		if l, _ := draft.ItemLayer(k.Variant.Root, w.contract, r); l != nil && !l.Hidden {
			out.Boxes[r.Key()] = boxes[l]
		}
	})
	out.Paths = w.lowered().Paths(k.Values)
	return out
}

// lowered is the component as it is emitted.
func (w *component) lowered() *ir.Module {
	if w.module == nil {
		w.module = ir.Lower(w.contract)
	}
	return w.module
}
