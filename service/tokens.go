package service

import (
	"context"
	"slices"

	"cobrik/core/token"
)

// TokenView is one token as the list shows it.
type TokenView struct {
	Path        string   `json:"path"`
	Group       string   `json:"group" doc:"Its outermost group"`
	Type        string   `json:"type"`
	Value       string   `json:"value" doc:"Resolved, as CSS; empty when it cannot be"`
	Chain       []string `json:"chain" doc:"Tokens walked to the value, nearest first"`
	CSSName     string   `json:"cssName"`
	Description string   `json:"description"`
	Deprecated  string   `json:"deprecated"`
	File        string   `json:"file"`
	UsedBy      []string `json:"usedBy" doc:"Components whose contract refers to it"`
	Aliases     int      `json:"aliases" doc:"Tokens that point at it"`
}

// TokenList lists all tokens in the order of their files.
func (s *Service) TokenList(ctx context.Context) ([]TokenView, error) {
	set, _, err := s.tokens(ctx)
	if err != nil {
		return nil, err
	}
	rows, err := s.store.Components(ctx)
	if err != nil {
		return nil, err
	}
	uses := map[string][]string{}
	for _, row := range rows {
		w, err := s.workOf(ctx, row)
		if err != nil {
			return nil, err
		}
		for _, path := range w.contract.Tokens() {
			uses[path] = append(uses[path], row.Name)
		}
	}
	pointing := map[string]int{}
	for _, t := range set.All() {
		pointing[t.Alias]++
	}
	out := []TokenView{}
	for _, t := range set.All() {
		out = append(out, TokenView{Path: t.Path, Group: group(t.Path), Type: t.Type, Value: t.Value, Chain: append([]string{}, t.Chain()...),
			CSSName: token.CSSName(t.Path), Description: t.Description, Deprecated: t.Deprecated, File: t.File,
			UsedBy: append([]string{}, slices.Compact(uses[t.Path])...), Aliases: pointing[t.Path]})
	}
	return out, nil
}

func group(path string) string {
	for i, r := range path {
		if r == '.' {
			return path[:i]
		}
	}
	return path
}
