package service

import (
	"context"
	"maps"
	"slices"

	"cobrik/core/catalogue"
	"cobrik/core/check"
	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/survey"
)

// About is what a component's page says of it beside what the bench knows.
type About struct {
	Owner      string               `json:"owner"`
	Links      []contract.Reference `json:"links" doc:"What to read of it elsewhere"`
	Notes      []contract.Block     `json:"notes" doc:"Rich text"`
	Deprecated string               `json:"deprecated" doc:"Why the contract says that it is not to be used any longer; empty for one that is"`
	Instead    string               `json:"instead" doc:"Slug of what is used instead; empty for none that is there"`
	Effects    []PropEffect         `json:"effects" doc:"What each prop changes"`
	Contrasts  []ThemeContrast      `json:"contrasts"`
	Keys       []catalogue.PartKeys `json:"keys" doc:"What parts hear by their elements alone"`
	Tokens     []TokenSays          `json:"tokens" doc:"Those it refers to"`
	Pages      []survey.PageUses    `json:"pages" doc:"Of the design, that use it"`
	Trials     []TrialUses          `json:"trials" doc:"Pages on trial that use it"`
	Document   string               `json:"document" doc:"Id of the design document it is drawn in; empty for none"`
	MadeOf     []Piece              `json:"madeOf" doc:"Components inside of it, at any level, outermost first"`
	UsedBy     []Piece              `json:"usedBy" doc:"Components that it is inside of, nearest first"`
	Examples   []MeantCase          `json:"examples" doc:"Saved cases that show how it is meant to be used, and how it is not"`
}

// PropEffect is what a prop changes.
type PropEffect struct {
	Prop  string       `json:"prop" doc:"Its id"`
	Parts []PartEffect `json:"parts"`
	Cases int          `json:"cases" doc:"Of all cases, in how many it is not as by default"`
}

// PartEffect is what is changed of a part.
type PartEffect struct {
	Part string   `json:"part" doc:"Its id"`
	Name string   `json:"name"`
	What []string `json:"what"`
}

// ThemeContrast is the least contrast of a part in a theme, over all cases and states.
type ThemeContrast struct {
	Theme string  `json:"theme"`
	Part  string  `json:"part"`
	Ratio float64 `json:"ratio"`
	Needs float64 `json:"needs"`
	Fails bool    `json:"fails"`
	Where string  `json:"where" doc:"The case and the state in which it is that little"`
}

// TokenSays is a token that a component refers to, and where.
type TokenSays struct {
	Path  string   `json:"path"`
	Type  string   `json:"type"`
	Value string   `json:"value" doc:"In the first theme"`
	Where []string `json:"where" doc:"Part and property"`
}

// Piece is a component that another is made of, or that is made of it.
type Piece struct {
	Name  string `json:"name"`
	Slug  string `json:"slug"`
	Level int    `json:"level" doc:"How far it is from it; 1 for next to it"`
	Times int    `json:"times" doc:"How often it stands in what is next to it"`
}

// MeantCase is a case that is an example.
type MeantCase struct {
	Meant string   `json:"meant" enum:"do,dont"`
	Case  CaseView `json:"case"`
}

// About reads what a component's page says of it.
func (s *Service) About(ctx context.Context, slug string) (About, error) {
	w, err := s.looked(ctx, slug)
	if err != nil {
		return About{}, err
	}
	heads, err := s.store.Heads(ctx)
	if err != nil {
		return About{}, err
	}
	beside := make([]usesOf, len(heads))
	for i, h := range heads {
		beside[i] = usesOf{h.Name, h.Slug, h.Uses}
	}
	out := w.about(beside)
	out.Trials, err = s.trialsOf(ctx, w.contract.Name)
	return out, err
}

// usesOf is a component by its name, with the names of those it uses itself.
type usesOf struct {
	name, slug string
	uses       []string
}

// about says it of a component among others.
func (w *component) about(beside []usesOf) About {
	c := w.contract
	out := About{Owner: c.Owner, Links: append([]contract.Reference{}, c.Links...), Notes: append([]contract.Block{}, c.Notes...), Effects: w.effects(), Contrasts: w.contrasts(),
		Keys: catalogue.NativeKeys(c), Tokens: w.tokensSaid(), Pages: []survey.PageUses{}, Trials: []TrialUses{}, MadeOf: []Piece{}, UsedBy: []Piece{}, Examples: []MeantCase{}}
	if w.family != nil {
		out.Pages, out.Document = survey.UsesOf(w.doc, w.family.ID), w.row.Document
	}
	slugs, uses := map[string]string{}, map[string][]string{}
	users := map[string]map[string]int{}
	for _, h := range beside {
		slugs[h.name], uses[h.name] = h.slug, h.uses
		for name, n := range counts(h.uses) {
			if users[name] == nil {
				users[name] = map[string]int{}
			}
			users[name][h.name] = n
		}
	}
	if c.Deprecated != nil {
		out.Deprecated, out.Instead = c.Deprecated.String(), slugs[c.Deprecated.Instead]
	}
	out.MadeOf = append(out.MadeOf, pieces(c.Name, slugs, func(name string) map[string]int { return counts(uses[name]) })...)
	out.UsedBy = append(out.UsedBy, pieces(c.Name, slugs, func(name string) map[string]int { return users[name] })...)
	for i, k := range w.savedCases() {
		if meant := c.Cases[i].Meant; meant != "" {
			out.Examples = append(out.Examples, MeantCase{meant, w.caseView(k, 0)})
		}
	}
	return out
}

// counts tells how often each name is among some.
func counts(names []string) map[string]int {
	out := map[string]int{}
	for _, n := range names {
		out[n]++
	}
	return out
}

// pieces follows from a component to those next to it, level by level, each once.
func pieces(of string, slugs map[string]string, next func(name string) map[string]int) (out []Piece) {
	seen := map[string]bool{of: true}
	level := []string{of}
	for depth := 1; len(level) > 0; depth++ {
		var further []string
		for _, name := range level {
			beside := next(name)
			for _, to := range slices.Sorted(maps.Keys(beside)) {
				if !seen[to] && slugs[to] != "" {
					seen[to] = true
					further = append(further, to)
					out = append(out, Piece{to, slugs[to], depth, beside[to]})
				}
			}
		}
		level = further
	}
	return out
}

// effects lists what each prop changes: the other way round than parts tell it.
func (w *component) effects() []PropEffect {
	out := []PropEffect{}
	cases := w.cases()
	for _, p := range w.contract.Props {
		e := PropEffect{Prop: p.ID, Parts: []PartEffect{}}
		w.contract.Walk(func(part, _ *contract.Part) {
			for _, in := range w.contract.Influences(part) {
				if in.Prop == p.ID {
					e.Parts = append(e.Parts, PartEffect{part.ID, part.Name, append([]string{}, in.What...)})
				}
			}
		})
		for _, k := range cases {
			if v := k.Values[p.ID]; len(k.New) == 0 && v != nil && !contract.Equal(v, p.Default()) {
				e.Cases++
			}
		}
		out = append(out, e)
	}
	return out
}

func (w *component) contrasts() []ThemeContrast {
	out := []ThemeContrast{}
	for i, t := range w.library.themes {
		name := themeName(t)
		for _, c := range check.Contrasts(w.contract, check.Theme{Name: name, Choices: choicesOf(t), Tokens: w.library.sets[i]}) {
			out = append(out, ThemeContrast{name, c.Part, round2(c.Ratio), c.Needs, c.TooFaint(), c.Where})
		}
	}
	return out
}

func (w *component) tokensSaid() []TokenSays {
	at := map[string]int{}
	out := []TokenSays{}
	for _, path := range w.contract.Tokens() {
		one := TokenSays{Path: path, Where: []string{}}
		if t := w.tokens.Get(path); t != nil {
			one.Type, one.Value = t.Type, t.Value
		}
		at[path] = len(out)
		out = append(out, one)
	}
	for _, site := range w.contract.ValueSites() {
		name := site.Part
		if p := w.contract.Part(site.Part); p != nil {
			name = p.Name
		}
		for _, path := range css.RefsIn(site.Value) {
			if i, ok := at[path]; ok {
				if said := name + " · " + site.Property; !slices.Contains(out[i].Where, said) {
					out[i].Where = append(out[i].Where, said)
				}
			}
		}
	}
	return out
}
