package service

import (
	"cobrik/core/css"
	"context"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/jsontree"
	"cobrik/core/problem"
	"cobrik/core/token"
	"cobrik/core/token/output"
	"cobrik/store"
)

// TokensView is all tokens with their value in every theme.
type TokensView struct {
	Revision int          `json:"revision" doc:"Number of this revision; an edit carries it"`
	Note     string       `json:"note" doc:"What made this revision"`
	CanUndo  bool         `json:"canUndo"`
	CanRedo  bool         `json:"canRedo"`
	Themes   []ThemeView  `json:"themes" doc:"The default first; without a resolver document there is one without choices"`
	Files    []string     `json:"files" doc:"Token files, in the order they are read"`
	Rows     []TokenRow   `json:"rows"`
	Problems problem.List `json:"problems"`
}

// ThemeView is one theme.
type ThemeView struct {
	Name    string         `json:"name"`
	Choices []token.Choice `json:"choices"`
	File    string         `json:"file" doc:"File that holds what only this theme has; empty when several or none do"`
}

// TokenRow is one token.
type TokenRow struct {
	Path        string       `json:"path"`
	Group       string       `json:"group" doc:"Its outermost group"`
	Type        string       `json:"type"`
	CSSName     string       `json:"cssName"`
	Description string       `json:"description"`
	Deprecated  string       `json:"deprecated"`
	Values      []TokenValue `json:"values" doc:"One a theme"`
	Users       int          `json:"users" doc:"Tokens that refer to it in the default theme"`
	UsedBy      []string     `json:"usedBy" doc:"Components whose contract refers to it"`
}

// TokenValue is a token's value in one theme.
type TokenValue struct {
	Value string `json:"value" doc:"Resolved, as CSS; empty when it cannot be"`
	Alias string `json:"alias" doc:"Token it points at; empty for none"`
	File  string `json:"file"`
}

// contractUses is a component with every value that its contract says.
type contractUses struct {
	slug, name string
	row        store.Component
	contract   *contract.Contract
	uses       []contract.ValueSite
}

func (s *Service) contractUses(ctx context.Context) ([]contractUses, error) {
	rows, err := s.store.Components(ctx)
	if err != nil {
		return nil, err
	}
	var out []contractUses
	for _, row := range rows {
		c, err := contractOf(row)
		if err != nil {
			return nil, err
		}
		out = append(out, contractUses{row.Slug, row.Name, row, c, c.ValueSites()})
	}
	return out, nil
}

// Tokens lists all tokens in the order of their files.
func (s *Service) Tokens(ctx context.Context) (TokensView, error) {
	l, err := s.library(ctx)
	if err != nil {
		return TokensView{}, err
	}
	components, err := s.contractUses(ctx)
	if err != nil {
		return TokensView{}, err
	}
	found, err := s.tokenProblems(ctx, l, components)
	if err != nil {
		return TokensView{}, err
	}
	usedBy := map[string][]string{}
	for _, c := range components {
		for _, path := range c.contract.Tokens() {
			usedBy[path] = append(usedBy[path], c.name)
		}
	}
	out := TokensView{Revision: l.state.Number, Note: l.state.Note, CanUndo: l.state.UndoTo != nil && *l.state.UndoTo > 0, CanRedo: l.state.RedoTo != nil,
		Files: []string{}, Rows: []TokenRow{}, Problems: listed(found)}
	for i, t := range l.themes {
		out.Themes = append(out.Themes, ThemeView{themeName(t), append([]token.Choice{}, t...), l.ownFile(i)})
	}
	for _, f := range l.files {
		if kindOf(f.Text) == "tokens" {
			out.Files = append(out.Files, f.Name)
		}
	}
	for _, path := range l.paths() {
		row := TokenRow{Path: path, Group: token.Group(path), CSSName: token.CSSName(path), UsedBy: append([]string{}, usedBy[path]...), Users: len(l.sets[0].Users(path))}
		for _, set := range l.sets {
			t := set.Get(path)
			if t == nil {
				row.Values = append(row.Values, TokenValue{})
				continue
			}
			if row.Type == "" {
				row.Type, row.Description, row.Deprecated = t.Type, t.Description, t.Deprecated
			}
			if row.Description == "" {
				row.Description = t.Description
			}
			row.Values = append(row.Values, TokenValue{t.Value, t.Alias, t.File})
		}
		out.Rows = append(out.Rows, row)
	}
	return out, nil
}

// tokenProblems lists what is wrong with the tokens. A core token that a
// contract or a layer refers to has somebody who does.
func (s *Service) tokenProblems(ctx context.Context, l *library, components []contractUses) (problem.List, error) {
	layers, err := s.bindings(ctx)
	if err != nil {
		return nil, err
	}
	used := map[string]bool{}
	for _, b := range layers {
		used[b.path] = true
	}
	for _, c := range components {
		for _, path := range c.contract.Tokens() {
			used[path] = true
		}
	}
	var out problem.List
	for _, p := range l.problems() {
		if path := strings.Join(jsontree.Steps(p.Pointer), "."); p.Rule != "token-unused" || !used[path] {
			out = append(out, p)
		}
	}
	return out, nil
}

// paths lists the tokens of all themes, those of the default theme first.
func (l *library) paths() []string {
	var out []string
	seen := map[string]bool{}
	for _, set := range l.sets {
		for _, t := range set.All() {
			if !seen[t.Path] {
				seen[t.Path] = true
				out = append(out, t.Path)
			}
		}
	}
	return out
}

// ownFile finds the one file that gives tokens in a theme and none in the
// default theme.
func (l *library) ownFile(theme int) string {
	if theme == 0 {
		return ""
	}
	standard := map[string]bool{}
	for _, t := range l.sets[0].All() {
		standard[t.File] = true
	}
	own := ""
	for _, t := range l.sets[theme].All() {
		if standard[t.File] || t.File == own {
			continue
		}
		if own != "" {
			return ""
		}
		own = t.File
	}
	return own
}

// TokenDetail is all there is to say of one token.
type TokenDetail struct {
	Path      string         `json:"path"`
	Type      string         `json:"type"`
	Themes    []TokenInTheme `json:"themes"`
	Users     []string       `json:"users" doc:"Tokens that refer to it, in any theme"`
	Rests     int            `json:"rests" doc:"Tokens that rest on it, however far, in any theme"`
	Contracts []ContractUse  `json:"contracts"`
	Layers    []LayerUse     `json:"layers" doc:"Layers of the design that are bound to it; the first hundred"`
	Bindings  int            `json:"bindings" doc:"How many layers are bound to it"`
	Outputs   []OutputEnd    `json:"outputs"`
}

// TokenInTheme is a token in one theme.
type TokenInTheme struct {
	Theme string      `json:"theme"`
	Text  string      `json:"text" doc:"What it says itself, as one types it"`
	File  string      `json:"file"`
	Chain []ChainLink `json:"chain" doc:"The tokens walked to the value, nearest first"`
	Value string      `json:"value"`
}

// ChainLink is one token of a chain.
type ChainLink struct {
	Path  string `json:"path"`
	Value string `json:"value"`
}

// ContractUse is one place where a contract refers to a token.
type ContractUse struct {
	Slug     string `json:"slug"`
	Name     string `json:"name"`
	Part     string `json:"part"`
	Property string `json:"property"`
	When     string `json:"when" doc:"The rule's conditions as words; empty for the part's own style"`
}

// LayerUse is one binding of a layer.
type LayerUse struct {
	Document string `json:"document"`
	Where    string `json:"where" doc:"Page or family"`
	Layer    string `json:"layer"`
	Name     string `json:"name"`
	Property string `json:"property"`
}

// OutputEnd is what a token comes to in an output.
type OutputEnd struct {
	File  string   `json:"file"`
	Lines []string `json:"lines" doc:"A line a name; none when it is left out"`
}

// Token reads one token.
func (s *Service) Token(ctx context.Context, path string) (TokenDetail, error) {
	l, err := s.library(ctx)
	if err != nil {
		return TokenDetail{}, err
	}
	out := TokenDetail{Path: path, Users: []string{}, Contracts: []ContractUse{}, Layers: []LayerUse{}, Outputs: []OutputEnd{}}
	rests := map[string]bool{}
	for i, set := range l.sets {
		t := set.Get(path)
		if t == nil {
			out.Themes = append(out.Themes, TokenInTheme{Theme: themeName(l.themes[i]), Chain: []ChainLink{}})
			continue
		}
		if out.Type == "" {
			out.Type = t.Type
			for _, o := range l.project.All() {
				out.Outputs = append(out.Outputs, OutputEnd{o.File, append([]string{}, output.Ends(&o, set, path)...)})
			}
		}
		one := TokenInTheme{Theme: themeName(l.themes[i]), Text: t.Text(), File: t.File, Value: t.Value, Chain: []ChainLink{}}
		for _, p := range t.Chain() {
			one.Chain = append(one.Chain, ChainLink{p, set.Get(p).Value})
		}
		out.Themes = append(out.Themes, one)
		for _, u := range set.Users(path) {
			if !slices.Contains(out.Users, u.Path) {
				out.Users = append(out.Users, u.Path)
			}
		}
		for _, d := range set.Dependents(path) {
			rests[d.Path] = true
		}
	}
	if out.Type == "" && !slices.Contains(l.paths(), path) {
		return out, notFound("There is no token %q.", path)
	}
	out.Rests = len(rests)
	components, err := s.contractUses(ctx)
	if err != nil {
		return out, err
	}
	for _, c := range components {
		for _, u := range c.uses {
			if slices.Contains(css.RefsIn(u.Value), path) {
				out.Contracts = append(out.Contracts, ContractUse{c.slug, c.name, c.contract.Part(u.Part).Name, u.Property, c.contract.Words(u.When)})
			}
		}
	}
	layers, err := s.bindings(ctx)
	for _, b := range layers {
		if b.path == path {
			if out.Bindings++; len(out.Layers) < 100 {
				out.Layers = append(out.Layers, b.LayerUse)
			}
		}
	}
	return out, err
}
