package service

import (
	"cobrik/core/css"
	"cobrik/core/draft"
	"cobrik/core/emit/ir"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/ledger"
	"cobrik/core/problem"
	"cobrik/core/token"
	"cobrik/store"
)

// slugOf names a component in addresses: its words, in letters of any script.
func slugOf(name string) string { return strings.Join(contract.Words(name), "-") }

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

	components draft.Components
	primitive  bool // a layout primitive: nothing of it is stored
}

func (s *Service) component(ctx context.Context, slug string) (*component, error) {
	row, err := s.store.Component(ctx, slug)
	if errors.Is(err, store.ErrNotFound) {
		return nil, notFound("there is no component %q", slug)
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
	w.tokens, w.build = w.library.tokens(), fmt.Sprintf("%d.%s", row.Revision, w.library.name())
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
	return ledger.New(ledger.Agreed{Contract: c, Base: base, Tokens: w.tokens, Kept: kept, Components: w.components, Theme: theme}, family)
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
	if w.family == nil {
		return nil
	}
	return draft.Cases(w.contract, w.family)
}

// Bench is one component at work.
type Bench struct {
	Slug       string      `json:"slug"`
	Name       string      `json:"name"`
	Purpose    string      `json:"purpose"`
	Do         []string    `json:"do" doc:"How it is meant to be used"`
	Dont       []string    `json:"dont" doc:"How it is not"`
	Revision   int         `json:"revision" doc:"Of the contract; an edit carries it"`
	Note       string      `json:"note" doc:"What made this revision"`
	CanUndo    bool        `json:"canUndo"`
	CanRedo    bool        `json:"canRedo"`
	Version    string      `json:"version" doc:"Newest release; empty for none"`
	Status     string      `json:"status" enum:"draft,released,primitive"`
	Collection string      `json:"collection"`
	Agreed     int         `json:"agreed" doc:"Design revision the contract was last agreed at"`
	Design     int         `json:"design" doc:"Newest design revision"`
	Waiting    int         `json:"waiting" doc:"Moves of the design nobody has decided"`
	Gone       bool        `json:"gone" doc:"The newest revision no longer has the family"`
	Build      string      `json:"build" doc:"Names what is compiled; changes when contract or tokens do"`
	Props      []PropView  `json:"props"`
	Parts      []PartView  `json:"parts"`
	Cases      []CaseView  `json:"cases"`
	Theme      string      `json:"theme" doc:"Name of the theme its cases are shown in"`
	Themes     []LookTheme `json:"themes" doc:"The one it was drawn in first"`
	Uses       []string    `json:"uses" doc:"Names of the components it is made of"`
	UsedBy     []string    `json:"usedBy" doc:"Names of the components that use it, at any level"`
	Held       []string    `json:"held" doc:"What nobody who uses it can give to the components inside: tag › size"`
	Measure    []string    `json:"measure" doc:"CSS properties to measure"`
	Tokens     []TokenPick `json:"tokens" doc:"Tokens to pick from"`
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
	ID      string `json:"id"`
	Name    string `json:"name"`
	Element string `json:"element"`
	Depth   int    `json:"depth"`
}

// CaseView is a drawn case.
type CaseView struct {
	Key       string                 `json:"key"`
	Name      string                 `json:"name"`
	Default   bool                   `json:"default"`
	New       []string               `json:"new" doc:"Axis values the contract does not have yet"`
	Props     map[string]any         `json:"props" doc:"What the component is rendered with"`
	States    []string               `json:"states" doc:"The states it is shown in, though nobody brings them about"`
	Choices   []string               `json:"choices" doc:"A value an axis, in their order"`
	Picture   string                 `json:"picture" doc:"The variant as drawn, SVG"`
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
	out := Bench{
		Slug: slug, Name: w.contract.Name, Purpose: w.contract.Purpose, Do: append([]string{}, w.contract.Do...), Dont: append([]string{}, w.contract.Dont...), Revision: w.row.Revision, Note: w.row.Note,
		CanUndo: w.row.UndoTo != nil, CanRedo: w.row.RedoTo != nil, Status: "draft", Collection: w.row.Collection,
		Design: w.design, Gone: w.family == nil, Build: w.build, Waiting: ledger.Waiting(w.ledger().Moves()),
		Props: propViews(w.contract), Measure: css.FactProperties(), Parts: []PartView{}, Cases: []CaseView{}, Tokens: []TokenPick{},
		Theme: themeName(w.library.themes[in]), Themes: w.library.lookThemes(), Uses: []string{}, Held: []string{},
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
	rows, err := s.users(ctx, w.contract.Name)
	if err != nil {
		return Bench{}, err
	}
	out.Uses, out.UsedBy = append(out.Uses, w.contract.Components()...), namesOf(rows)
	for _, u := range w.contract.Unreachable() {
		out.Held = append(out.Held, u.String())
	}
	depth := map[string]int{}
	w.contract.Walk(func(p, parent *contract.Part) {
		if parent != nil {
			depth[p.ID] = depth[parent.ID] + 1
		}
		out.Parts = append(out.Parts, PartView{p.ID, p.Name, p.Element, depth[p.ID]})
	})
	for _, k := range w.cases() {
		out.Cases = append(out.Cases, w.caseView(k, in))
	}
	for _, t := range w.tokens.All() {
		if t.Value != "" {
			out.Tokens = append(out.Tokens, TokenPick{t.Path, t.Type, t.Value})
		}
	}
	return out, nil
}

func propViews(c *contract.Contract) []PropView {
	out := []PropView{}
	for _, p := range ir.Lower(c).Props {
		options := p.Options()
		if icon, ok := p.Type.(contract.Icon); ok {
			options = icon.Names()
		}
		given := func(v contract.Value) any { return c.Given(contract.Values{p.ID: v})[p.Name] }
		out = append(out, PropView{ID: p.ID, Name: p.Name, Kind: string(p.Kind()), Purpose: p.Purpose, Options: append([]string{}, options...),
			Default: given(p.Default()), Shown: given(p.Shown()), Control: p.Type.Control(), Required: p.Required, Deprecated: p.Deprecated})
	}
	return out
}

func (w *component) caseView(k draft.Case, theme int) CaseView {
	out := CaseView{
		Key: k.Key(w.contract), Name: k.Name, Default: k.Variant == w.family.Default(), New: k.New, Props: w.contract.Given(k.Values), States: append([]string{}, k.Env().States...), Choices: []string{},
		Picture: w.doc.Draw(w.drawnIn(k.Variant.Root, theme)), Width: k.Variant.Root.Bounds.Width, Height: k.Variant.Root.Bounds.Height,
		Boxes: map[string]design.Rect{},
	}
	if out.New == nil {
		out.New = []string{}
	}
	for _, a := range w.family.Axes {
		out.Choices = append(out.Choices, k.Variant.Choices[a.Name])
	}
	boxes := placesOf(k.Variant.Root)
	tree := contract.Resolve(w.contract, w.envIn(k, theme), w.tokens)
	out.Fills = tree.Values["width"].Value == "100%"
	tree.Walk(func(r *contract.Resolved) {
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

// LedgerView is the ledger of all cases.
type LedgerView struct {
	Build    string        `json:"build"`
	Theme    string        `json:"theme"`
	Measured bool          `json:"measured" doc:"The built side is measured from this build"`
	Cases    []CaseLedger  `json:"cases"`
	Facts    int           `json:"facts"`
	Differs  int           `json:"differs"`
	Themes   []ThemeLedger `json:"themes" doc:"What all themes come to, in their order"`
}

// ThemeLedger is what the ledger of a theme comes to.
type ThemeLedger struct {
	Name     string `json:"name"`
	Measured bool   `json:"measured"`
	Facts    int    `json:"facts"`
	Differs  int    `json:"differs"`
}

// CaseLedger is the ledger of one case.
type CaseLedger struct {
	Key      string         `json:"key"`
	Verdict  ledger.Verdict `json:"verdict" enum:"agree,design moved,contract moved,code moved,several moved,missing" doc:"The gravest of its facts"`
	Measured bool           `json:"measured" doc:"False for a case that did not run, though others did"`
	Differs  int            `json:"differs"`
	Facts    []ledger.Fact  `json:"facts"`
}

// Ledger compares all cases in a theme, with what the browser last measured of this build.
func (s *Service) Ledger(ctx context.Context, slug, theme string) (LedgerView, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return LedgerView{}, err
	}
	in, err := w.library.theme(theme)
	if err != nil {
		return LedgerView{}, err
	}
	m, err := s.store.Measurement(ctx, w.row.ID)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return LedgerView{}, err
	}
	var measured []ledger.Measurement
	if err == nil && m.Build == w.build {
		if err := json.Unmarshal(m.Measured, &measured); err != nil {
			return LedgerView{}, err
		}
	}
	return w.ledgerView(measured, in), nil
}

// Measured takes what the browser measured in all themes, keeps it and compares it in one. What
// was measured of another build is refused: the contract changed meanwhile.
func (s *Service) Measured(ctx context.Context, slug, build, theme string, measured []ledger.Measurement) (LedgerView, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return LedgerView{}, err
	}
	if build != w.build {
		return LedgerView{}, &Failure{Kind: Conflict, Message: "The contract or the tokens changed while this was measured."}
	}
	in, err := w.library.theme(theme)
	if err != nil {
		return LedgerView{}, err
	}
	known := map[string]bool{}
	for _, k := range w.cases() {
		known[k.Key(w.contract)] = true
	}
	measured = slices.DeleteFunc(measured, func(m ledger.Measurement) bool { return !known[m.Case] })
	view := w.ledgerView(measured, in)
	facts, differing := 0, 0
	for _, t := range view.Themes {
		facts, differing = facts+t.Facts, differing+t.Differs
	}
	text, err := json.Marshal(measured)
	if err != nil {
		return LedgerView{}, err
	}
	return view, s.store.PutMeasurement(ctx, w.row.ID, store.Measurement{Build: build, Measured: text, Facts: facts, Differing: differing})
}

// gravity orders verdicts for a case's own.
var gravity = []ledger.Verdict{ledger.Agree, ledger.ContractMoved, ledger.DesignMoved, ledger.CodeMoved, ledger.Missing, ledger.SeveralMoved}

func (w *component) ledgerView(measured []ledger.Measurement, theme int) LedgerView {
	out := LedgerView{Build: w.build, Theme: themeName(w.library.themes[theme]), Cases: []CaseLedger{}, Themes: []ThemeLedger{}}
	cases := w.cases()
	for i, t := range w.library.themes {
		byCase := measuredIn(measured, themeName(t), i == 0)
		list := w.caseLedgers(w.ledgerIn(w.contract, w.kept, w.library.ledgerTheme(i)), cases, byCase)
		one := ThemeLedger{Name: themeName(t), Measured: len(byCase) > 0}
		for _, k := range list {
			one.Facts, one.Differs = one.Facts+len(k.Facts), one.Differs+k.Differs
		}
		out.Themes = append(out.Themes, one)
		if i == theme {
			out.Cases, out.Measured, out.Facts, out.Differs = list, one.Measured, one.Facts, one.Differs
		}
	}
	return out
}

// caseLedgers compares every case.
func (w *component) caseLedgers(l *ledger.Ledger, cases []draft.Case, measured map[string]*ledger.Measurement) []CaseLedger {
	out := []CaseLedger{}
	for _, k := range cases {
		one := CaseLedger{Key: k.Key(w.contract), Verdict: ledger.Agree, Facts: []ledger.Fact{}}
		one.Measured = measured[one.Key] != nil
		if len(k.New) > 0 {
			one.Verdict = ledger.DesignMoved
			one.Differs = 1
		} else {
			one.Facts = l.Facts(k, measured[one.Key])
		}
		for _, f := range one.Facts {
			if f.Verdict != ledger.Agree {
				one.Differs++
			}
			if slices.Index(gravity, f.Verdict) > slices.Index(gravity, one.Verdict) {
				one.Verdict = f.Verdict
			}
		}
		out = append(out, one)
	}
	return out
}

// ValueEdit sets one value of a contract.
type ValueEdit struct {
	Part     string `json:"part" doc:"Its id"`
	Property string `json:"property"`
	When     string `json:"when,omitempty" doc:"Key of the rule's condition; empty for the part's own style"`
	Value    string `json:"value" doc:"A CSS value, with {token.path} references; empty removes what is said there"`
}

// Edited is the outcome of an edit.
type Edited struct {
	Revision int      `json:"revision"`
	Reaches  []string `json:"reaches" doc:"Names of the components that use this one, and follow it"`
}

// Edit sets values of a contract that was read at a revision.
func (s *Service) Edit(ctx context.Context, slug string, revision int, edits []ValueEdit) (Edited, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Edited{}, err
	}
	c := w.contract.Clone()
	var found problem.List
	note := ""
	for i, e := range edits {
		at := fmt.Sprintf("/edits/%d", i)
		e.Part = contract.PartOf(e.Part) // an item's is that of all items
		if c.Part(e.Part) == nil {
			found.Errorf("part", at+"/part", "name a part of the contract", "there is no part %q", e.Part)
			continue
		}
		if e.Value != "" {
			if err := contract.CheckValue(e.Property, e.Value, w.tokens); err != nil {
				found.Errorf("value", at+"/value", "", "%s", err)
				continue
			}
		}
		when, err := contract.ParseWhen(e.When)
		if err != nil {
			found.Errorf("when", at+"/when", "send the key of a rule's condition", "%s", err)
			continue
		}
		c.SetValue(e.Part, e.Property, when, e.Value)
		note = fmt.Sprintf("%s · %s", c.Part(e.Part).Name, e.Property)
	}
	found = append(found, c.Check(w.tokens)...)
	if found.Failed() {
		return Edited{}, invalid(found, "Nothing was changed: %s", found[0].Message)
	}
	return s.apply(ctx, w, c, store.Edit{Slug: slug, Read: revision, Note: note})
}

// apply keeps an edit that makes a contract of the component's, or nothing but a release;
// a stale one is answered with the state that came first.
func (s *Service) apply(ctx context.Context, w *component, c *contract.Contract, e store.Edit) (Edited, error) {
	reaches := []string{}
	if c != nil {
		names, found, err := s.reached(ctx, w, c)
		if err != nil {
			return Edited{}, err
		}
		if found.Failed() {
			return Edited{}, invalid(found, "Nothing was changed, for %s uses it: %s", found[0].File, found[0].Message)
		}
		reaches = append(reaches, names...)
		e.Name, e.Contract, e.Agreed = c.Name, c.JSON(), w.agreedOf(c, append(ledgerDecisions(e.Kept), w.kept...))
	}
	n, err := s.store.Apply(ctx, e)
	switch {
	case errors.Is(err, store.ErrStale):
		return Edited{}, s.stale(ctx, e.Slug, e.Contract)
	case errors.Is(err, store.ErrTaken):
		return Edited{}, &Failure{Kind: Conflict, Message: "The version " + e.Release.Version + " is released already."}
	}
	return Edited{n, reaches}, err
}

// Stale shows both versions of a contract that two people changed.
type Stale struct {
	Revision int               `json:"revision" doc:"The contract's revision now"`
	Note     string            `json:"note" doc:"What made it"`
	Changes  []contract.Change `json:"changes" doc:"From how it is now to how this edit would have it"`
}

func (s *Service) stale(ctx context.Context, slug string, mine []byte) error {
	row, err := s.store.Component(ctx, slug)
	if err != nil {
		return err
	}
	now := &Stale{Revision: row.Revision, Note: row.Note, Changes: []contract.Change{}}
	var theirs, ours contract.Contract
	if json.Unmarshal(row.Contract, &theirs) == nil && mine != nil && json.Unmarshal(mine, &ours) == nil {
		_, changes := ledger.Changes(&theirs, &ours)
		now.Changes = append(now.Changes, changes...)
	}
	return &Failure{Kind: Conflict, Message: "Somebody changed this contract since you read it. Nothing of yours was written.", Current: now}
}

// Undo undoes or redoes.
func (s *Service) Undo(ctx context.Context, slug string, revision int, to store.Direction) (Edited, error) {
	n, err := s.store.Undo(ctx, slug, revision, to)
	switch {
	case errors.Is(err, store.ErrStale):
		return Edited{}, s.stale(ctx, slug, nil)
	case errors.Is(err, store.ErrNotFound):
		return Edited{}, invalid(nil, "There is nothing to %s.", to)
	}
	return Edited{n, []string{}}, err
}

// Values lists what a fact's place says under which conditions, for editing.
type Values struct {
	Part     string          `json:"part"`
	Name     string          `json:"name" doc:"The part's"`
	Property string          `json:"property"`
	Declared []DeclaredValue `json:"declared"`
	Types    []string        `json:"types" doc:"Token types the property takes"`
}

// DeclaredValue is one place where a contract sets a property.
type DeclaredValue struct {
	When  string `json:"when" doc:"Key of the condition; empty for the part's own style"`
	Label string `json:"label" doc:"The condition in words; empty for the part's own style"`
	Value string `json:"value"`
}

// ValuesOf lists where a part's property is set, the part's own style first, and
// last the switch points below which it may be.
func (s *Service) ValuesOf(ctx context.Context, slug, part, property string) (Values, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Values{}, err
	}
	p := w.contract.Part(part)
	if p == nil {
		return Values{}, notFound("there is no part %q", part)
	}
	known, ok := css.PropertyNamed(property)
	if !ok {
		return Values{}, notFound("there is no property %q", property)
	}
	out := Values{Part: part, Name: p.Name, Property: property, Declared: []DeclaredValue{{Value: p.Style[property]}}, Types: known.TokenTypes()}
	if out.Types == nil {
		out.Types = []string{}
	}
	for _, r := range w.contract.Rules {
		if v, ok := r.Set[property]; ok && r.Part == part {
			out.Declared = append(out.Declared, DeclaredValue{r.When.Key(), w.contract.Words(r.When), v})
		}
	}
	for _, at := range w.contract.SwitchPoints() {
		below := contract.BelowWidth(at)
		if !slices.ContainsFunc(out.Declared, func(s DeclaredValue) bool { return s.When == below.Key() }) {
			out.Declared = append(out.Declared, DeclaredValue{When: below.Key(), Label: below.String()})
		}
	}
	return out, nil
}
