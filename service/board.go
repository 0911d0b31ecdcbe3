package service

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/check"
	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/layout"
	"cobrik/core/ledger"
	"cobrik/store"
)

// Beside the cases that are drawn, a component has those that people saved by a name, and all other combinations
// of its props and states. They are looked at, and measured where they are saved; the design says nothing of them.

// savedKey begins the key of a case that people gave a name.
const savedKey = "saved "

// savedCases are those that people gave a name, as large as the solver lays them out.
func (w *component) savedCases() (out []draft.Case) {
	for _, s := range w.contract.Cases {
		k := draft.Case{Name: s.Name, Values: w.contract.CaseValues(s.Given), State: s.State, Variant: undrawnVariant(savedKey + s.Name)}
		w.sized(&k)
		out = append(out, k)
	}
	return out
}

// others are the combinations that are neither drawn nor saved: all, or a set that covers every pair.
func (w *component) others() (out []draft.Case) {
	if w.undrawn() || w.primitive {
		return nil
	}
	known := map[string]bool{}
	for _, k := range w.cases() {
		known[k.Key(w.contract)] = true
	}
	for _, k := range variationsOf(w.contract) {
		if key := k.Key(w.contract); !known[key] {
			known[key] = true
			w.sized(&k)
			out = append(out, k)
		}
	}
	return out
}

func undrawnVariant(id string) *design.Variant {
	return &design.Variant{ID: id, Root: &design.Layer{Kind: design.Box}}
}

// keyOf names a case in addresses.
func (w *component) keyOf(k draft.Case) string {
	if _, saved := w.savedOf(k); saved {
		return k.Variant.ID
	}
	return k.Key(w.contract)
}

// savedOf gives the place of a case among those that are saved; false for any other.
func (w *component) savedOf(k draft.Case) (int, bool) {
	name, ok := strings.CutPrefix(k.Variant.ID, savedKey)
	i := slices.IndexFunc(w.contract.Cases, func(s contract.SavedCase) bool { return s.Name == name })
	return i, ok && i >= 0 && !w.isDrawn(k)
}

func (w *component) isDrawn(k draft.Case) bool {
	return w.family != nil && slices.Contains(w.family.Variants, k.Variant)
}

// sized makes a case that is not drawn as large as it is laid out, in as much room as the drawn ones have.
func (w *component) sized(k *draft.Case) {
	room := float64(roomFor)
	if w.family != nil && w.family.Default() != nil {
		room = w.family.Default().Root.Bounds.Width
	}
	tree := contract.Resolve(w.contract, k.Env().At(room), w.tokens)
	if tree.Values["width"].Value != "100%" {
		room = roomFor
	}
	k.Variant.Root.Bounds = design.Rect{Width: room, Height: 40}
	if box := solvedRoot(inContainer(tree.Boxes()), layout.Options{Width: room, Fonts: w.fonts}); box != nil {
		k.Variant.Root.Bounds = design.Rect{Width: max(1, box.Width), Height: max(1, box.Height)}
	}
}

// inContainer puts a component's boxes into what the preview shows it in, which lets it be as wide as it is.
func inContainer(root *layout.Node) *layout.Node {
	return &layout.Node{Name: "container", Label: root.Label, Style: layout.Style{"display": "flex", "align-items": "flex-start"}, Children: []*layout.Node{root}}
}

// solvedRoot lays out what inContainer made, and gives the component's own box; nil when it cannot be laid out.
func solvedRoot(container *layout.Node, o layout.Options) *layout.Box {
	solved, _ := layout.Solve(container, o)
	if solved == nil || len(solved.Children) == 0 {
		return nil
	}
	return solved.Children[0].Box
}

// savedLedger holds the contract of saved cases against what runs; the design says nothing of them.
func (w *component) savedLedger(theme ledger.Theme) *ledger.Ledger {
	return ledger.New(ledger.Agreed{Contract: w.contract, Tokens: w.tokens, Kept: w.kept, Components: w.components, Theme: theme, Undrawn: true}, &design.Family{})
}

// Looked is a case in what it is looked at in, and what is in trouble then.
type Looked struct {
	CaseView
	Troubles []string       `json:"troubles" doc:"Which part, and how: as the solver lays it out, and as its colours contrast"`
	Released map[string]any `json:"released" doc:"What the newest release is rendered with for the same; null where that cannot show it"`
}

// Board is every case of a component at once.
type Board struct {
	Cases    []Looked `json:"cases" doc:"Those drawn, those saved, then the others: all, or a set in which every two values stand together"`
	Combined int      `json:"combined" doc:"How many combinations there are"`
	Release  string   `json:"release" doc:"The newest; empty for none"`
}

// Board shows every case of a component, each in what it is looked at in; what is pinned holds for all.
func (s *Service) Board(ctx context.Context, slug string, pinned contract.Look) (Board, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Board{}, err
	}
	if _, err := w.library.theme(pinned.Theme); err != nil {
		return Board{}, err
	}
	if err := pinned.Check(w.contract); err != nil {
		return Board{}, invalid(nil, "%s", sentence(err.Error()))
	}
	text, err := json.Marshal(pinned)
	if err != nil {
		return Board{}, err
	}
	version := ""
	if w.row.Version != nil {
		version = *w.row.Version
	}
	return recalled(&s.memo, fmt.Sprintf("board %s %s %d %s %s", slug, w.build, w.design, version, text), func() (Board, error) {
		out := Board{Cases: []Looked{}, Combined: w.contract.Combinations(), Release: version}
		var older *contract.Contract
		if version != "" {
			was, err := s.release(ctx, w, version)
			if err != nil {
				return Board{}, err
			}
			older = was.contract
		}
		for _, k := range slices.Concat(w.cases(), w.savedCases(), w.others()) {
			one, err := w.lookedAt(k, w.pinned(k, pinned))
			if err != nil {
				return Board{}, err
			}
			if len(k.New) == 0 {
				one.Released = releasedProps(older, w.contract, k.Values)
			}
			out.Cases = append(out.Cases, one)
		}
		return out, nil
	})
}

// pinned is what a case is looked at in: what is pinned, else what it says itself.
func (w *component) pinned(k draft.Case, pin contract.Look) contract.Look {
	own := contract.Look{State: k.State}
	if i, saved := w.savedOf(k); saved {
		own = w.contract.Cases[i].Look
	}
	return contract.Look{Theme: cmp.Or(pin.Theme, own.Theme), State: cmp.Or(pin.State, own.State), Direction: cmp.Or(pin.Direction, own.Direction),
		Text: cmp.Or(pin.Text, own.Text), Width: cmp.Or(pin.Width, own.Width)}
}

// lookedAt lays a case out in what it is looked at in, and tells what is in trouble.
func (w *component) lookedAt(k draft.Case, l contract.Look) (Looked, error) {
	theme, err := w.library.theme(l.Theme)
	if err != nil {
		theme, l.Theme = 0, "" // one that is not there any more
	}
	key := w.keyOf(k) // its own, whatever is pinned
	if k.State = l.State; l.State != "" {
		if flag := w.contract.StateFlag(l.State); flag != nil {
			k.Values = k.Values.With(contract.Values{flag.ID: contract.FlagValue(true)})
		}
	}
	out := Looked{CaseView: w.caseView(k, theme), Troubles: []string{}}
	out.Key, out.Look = key, l
	env := w.envIn(k, theme)
	env.Direction = cmp.Or(l.Direction, "ltr")
	env.RootFont = css.RootFontSize * cmp.Or(l.Text, 100) / 100
	options := layout.Options{Fonts: w.fonts, RootFont: env.RootFont}
	room := cmp.Or(l.Width, out.Width)
	tree := contract.Resolve(w.contract, env.At(room), w.library.sets[theme])
	fills := tree.Values["width"].Value == "100%"
	if out.Fills, out.Container = fills, l.Width; !fills && l.Width == 0 {
		room = widest // it is as wide as its content
	}
	boxes := inContainer(tree.Boxes())
	options.Width = room
	if box := solvedRoot(boxes, options); box != nil && len(k.New) == 0 { // what is new is as drawn
		out.Width, out.Height = max(1, box.Width), max(1, box.Height)
	}
	at := max(1, math.Ceil(cmp.Or(l.Width, out.Width)))
	if swept, _ := layout.Sweep(boxes, layout.SweepOptions{Options: options, From: at, To: at + 1}); swept != nil {
		for _, b := range swept.Bands {
			out.trouble(b.Part + ": " + b.Kind)
		}
	}
	for _, f := range check.Unreadable(w.contract, env.At(room), w.library.sets[theme]) {
		out.trouble(f.Part.Part.Name + ": contrast " + strconv.FormatFloat(f.Ratio, 'f', 2, 64))
	}
	if env.RootFont != css.RootFontSize {
		usual := env.At(room)
		usual.RootFont = 0
		before := map[string]string{}
		contract.Resolve(w.contract, usual, w.library.sets[theme]).Walk(func(r *contract.Resolved) { before[r.Key()] = r.Values["font-size"].Value })
		tree.Walk(func(r *contract.Resolved) {
			if size := r.Values["font-size"].Value; r.Shown && r.Text != "" && size != "" && size == before[r.Key()] {
				out.trouble(r.Part.Name + ": text does not grow, " + size)
			}
		})
	}
	return out, nil
}

func (l *Looked) trouble(words string) {
	if !slices.Contains(l.Troubles, words) {
		l.Troubles = append(l.Troubles, words)
	}
}

// releasedProps are the props of a use in an older contract; nil where it does not take the same.
func releasedProps(older, now *contract.Contract, values contract.Values) map[string]any {
	if older == nil {
		return nil
	}
	for id, v := range values {
		if p := older.Prop(id); (p == nil || !p.Type.Takes(v)) && !contract.Equal(v, now.Prop(id).Default()) { // a prop or an option that is new
			return nil
		}
	}
	return older.Given(releasedValues(older, values))
}

// releasedValues are those of values that an older contract takes.
func releasedValues(older *contract.Contract, values contract.Values) contract.Values {
	then := contract.Values{}
	for id, v := range values {
		if p := older.Prop(id); p != nil && p.Type.Takes(v) {
			then[id] = v
		}
	}
	return then
}

// release is a component as a version of it was released: its contract, with what it was made of and the tokens of
// then.
func (s *Service) release(ctx context.Context, w *component, version string) (*component, error) {
	rows, err := s.store.Releases(ctx, w.row.ID)
	if err != nil {
		return nil, err
	}
	for _, r := range rows {
		if r.Version != version {
			continue
		}
		c := new(contract.Contract)
		if err := json.Unmarshal(r.Contract, c); err != nil {
			return nil, err
		}
		if err := s.linkAsOf(ctx, c, r.Released); err != nil {
			return nil, err
		}
		state, err := s.store.TokenRevisionAsOf(ctx, r.Released)
		if err != nil {
			return nil, err
		}
		out := &component{row: w.row, contract: c, fonts: s.fonts, build: releasedBuild + "~" + version}
		if out.library, err = s.libraryAt(ctx, state.Number); err != nil {
			return nil, err
		}
		out.tokens = out.library.tokens()
		return out, nil
	}
	return nil, notFound("%s has no release %s.", w.contract.Name, version)
}

// releasedBuild stands in the preview's addresses where a build is named otherwise.
const releasedBuild = "release"

// BuildRelease compiles a version of a component as it was released.
func (s *Service) BuildRelease(ctx context.Context, slug, version string) (Built, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Built{}, err
	}
	was, err := s.release(ctx, w, version)
	if err != nil {
		return Built{}, err
	}
	return was.built(), nil
}

// SavedAs is the outcome of saving a case.
type SavedAs struct {
	Edited
	Key string `json:"key" doc:"Of the case that is saved"`
}

// SaveCase keeps a case by a name, in what it is looked at in. It touches nothing else, so that it is kept whoever
// edited what meanwhile; a name that another case has is refused.
func (s *Service) SaveCase(ctx context.Context, slug, key, name string, look contract.Look) (SavedAs, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return SavedAs{}, err
	}
	k, err := w.caseNamed(key)
	if err != nil {
		return SavedAs{}, err
	}
	if name = strings.TrimSpace(name); name == "" {
		return SavedAs{}, invalid(nil, "Give the case a name, as in longest title.")
	}
	if slices.ContainsFunc(w.contract.Cases, func(c contract.SavedCase) bool { return c.Name == name }) && key != savedKey+name {
		return SavedAs{}, &Failure{Kind: Conflict, Message: "There is a case " + name + " already. Give this one another name."}
	}
	look = w.pinned(k, look)
	if flag := w.contract.StateFlag(look.State); flag != nil { // the flag says it
		k.Values, look.State = k.Values.With(contract.Values{flag.ID: contract.FlagValue(true)}), ""
	}
	c := w.contract.Clone()
	if err := c.SaveCase(name, k.Values, look); err != nil {
		return SavedAs{}, err
	}
	if found := newErrors(w.contract.Check(w.tokens), c.Check(w.tokens)); len(found) > 0 {
		return SavedAs{}, invalid(found, "%s", sentence(found[0].Message))
	}
	if slices.Equal(c.JSON(), w.contract.JSON()) {
		return SavedAs{w.unedited(), savedKey + name}, nil
	}
	done, err := s.apply(ctx, w, c, store.Edit{Slug: slug, Read: w.row.Revision, Note: "case " + name + " saved"})
	return SavedAs{done, savedKey + name}, err
}
