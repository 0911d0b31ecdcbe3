package service_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/demo"
	"cobrik/service"
)

// tokensLevel is a project whose token files are in a repository, and a developer's clone of it.
func tokensLevel(t *testing.T) (s *service.Service, work string) {
	t.Helper()
	s = drafted(t)
	bare, work := repositoryOf(t)
	_, err := s.SetTarget(t.Context(), service.TargetEdit{Path: bare, Folder: "src/components", Tokens: "tokens", Author: "Furrow", Email: "furrow@hollowbeck.invalid"})
	require.NoError(t, err)
	written(t, s)
	git(t, work, "pull", "-q", "--ff-only", "origin", "main")
	return s, work
}

func written(t *testing.T, s *service.Service) {
	t.Helper()
	plan, err := s.PlanWrite(t.Context(), service.WriteRequest{})
	require.NoError(t, err)
	require.Empty(t, plan.Blocked)
	_, err = s.Write(t.Context(), service.WriteRequest{Hash: plan.Hash, Forward: true})
	require.NoError(t, err)
}

func tokensOf(t *testing.T, s *service.Service) (service.CodeTokens, map[string]service.CodeToken) {
	t.Helper()
	view, err := s.Code(t.Context())
	require.NoError(t, err)
	out := map[string]service.CodeToken{}
	for _, m := range view.Tokens.List {
		name := m.Path
		if name == "" {
			name = m.File
		}
		out[name] = m
	}
	return view.Tokens, out
}

// The project edits one token, a developer another: both have both in the end, token by token.
func TestTokensOfBothSidesMeet(t *testing.T) {
	s, work := tokensLevel(t)
	view, _ := tokensOf(t, s)
	require.Empty(t, view.List, "level to begin with")
	text, err := os.ReadFile(filepath.Join(work, "tokens", "core.tokens.json"))
	require.NoError(t, err)
	assert.Equal(t, string(demo.Tokens("core.tokens.json")), string(text), "what is written first is written as it is")

	develop(t, work, "tokens/core.tokens.json", tokenLine(t, string(text), `"1":`), strings.Replace(tokenLine(t, string(text), `"1":`), "4", "5", 1))
	edited, err := s.EditTokens(t.Context(), view.Revision, []service.TokenEdit{{Kind: "set", Path: "space.2", Text: "9px"}})
	require.NoError(t, err)
	_, err = s.ReadTarget(t.Context())
	require.NoError(t, err)
	view, by := tokensOf(t, s)
	require.Len(t, view.List, 2, "%+v", view.List)
	assert.Equal(t, "code", by["space.1"].Side)
	assert.Equal(t, "contract", by["space.2"].Side)
	p, err := s.Project(t.Context())
	require.NoError(t, err)
	all, err := s.Sync(t.Context())
	require.NoError(t, err)
	waiting := 1
	for _, c := range all {
		waiting += c.Waiting
	}
	assert.Equal(t, waiting, p.Sync, "one token waits, and what the project's edit moved of contracts")

	_, err = s.DecideTokens(t.Context(), service.TokenDecisionRequest{Revision: edited.Revision - 1, Take: []string{by["space.1"].Key}})
	assert.Equal(t, service.Conflict, failure(t, err).Kind)
	_, err = s.DecideTokens(t.Context(), service.TokenDecisionRequest{Revision: edited.Revision, Take: []string{by["space.2"].Key}})
	assert.Contains(t, failure(t, err).Message, "no such move of the repository")
	taken, err := s.DecideTokens(t.Context(), service.TokenDecisionRequest{Revision: edited.Revision, Take: []string{by["space.1"].Key}})
	require.NoError(t, err)
	assert.Equal(t, edited.Revision+1, taken.Revision)
	got, err := s.TokenFileText(t.Context(), "core.tokens.json")
	require.NoError(t, err)
	assert.Contains(t, tokenLine(t, string(got.Text), `"1":`), "5")
	written(t, s)
	view, _ = tokensOf(t, s)
	assert.Empty(t, view.List, "level again")
	git(t, work, "pull", "-q", "--ff-only", "origin", "main")
	text, err = os.ReadFile(filepath.Join(work, "tokens", "core.tokens.json"))
	require.NoError(t, err)
	mine, err := s.TokenFileText(t.Context(), "core.tokens.json")
	require.NoError(t, err)
	assert.JSONEq(t, string(mine.Text), string(text))
}

// tokenLine is the first line of a file with a text in it.
func tokenLine(t *testing.T, text, of string) string {
	t.Helper()
	for line := range strings.SplitSeq(text, "\n") {
		if strings.Contains(line, of) {
			return line
		}
	}
	require.Fail(t, "no line has it", of)
	return ""
}

// A token that both changed waits; put back, the next branch writes the project's, and nothing else of the developer's file is touched.
func TestATokenIsPutBack(t *testing.T) {
	s, work := tokensLevel(t)
	view, _ := tokensOf(t, s)
	name := filepath.Join(work, "tokens", "core.tokens.json")
	text, err := os.ReadFile(name)
	require.NoError(t, err)
	line := tokenLine(t, string(text), `"1":`)
	develop(t, work, "tokens/core.tokens.json", line, strings.Replace(line, "4", "6", 1))
	_, err = s.EditTokens(t.Context(), view.Revision, []service.TokenEdit{{Kind: "set", Path: "space.1", Text: "5px"}})
	require.NoError(t, err)
	_, err = s.ReadTarget(t.Context())
	require.NoError(t, err)
	view, by := tokensOf(t, s)
	require.Equal(t, "several", by["space.1"].Side)
	_, err = s.DecideTokens(t.Context(), service.TokenDecisionRequest{Revision: view.Revision - 1, Back: []string{by["space.1"].Key}})
	assert.Equal(t, service.Conflict, failure(t, err).Kind, "what was read before the project's edit decides nothing")
	request := service.TokenDecisionRequest{Revision: view.Revision, Back: []string{by["space.1"].Key}}
	_, err = s.DecideTokens(t.Context(), request)
	require.NoError(t, err)
	_, by = tokensOf(t, s)
	assert.Equal(t, "back", by["space.1"].Outcome)
	_, err = s.DecideTokens(t.Context(), service.TokenDecisionRequest{Revision: view.Revision, Clear: request.Back})
	require.NoError(t, err)
	_, by = tokensOf(t, s)
	assert.Empty(t, by["space.1"].Outcome)
	_, err = s.DecideTokens(t.Context(), request)
	require.NoError(t, err)
	written(t, s)
	view, _ = tokensOf(t, s)
	assert.Empty(t, view.List)
	git(t, work, "pull", "-q", "--ff-only", "origin", "main")
	assert.Equal(t, "1", strings.Fields(git(t, work, "log", "-1", "--numstat", "--format=", "--", "tokens"))[0], "one line")
}

// A token, or a file, that a developer gave another name is told as that, and what refers to it follows.
func TestRenamesInTheRepositoryAreSeen(t *testing.T) {
	s, work := tokensLevel(t)
	git(t, work, "mv", "tokens/contrast.tokens.json", "tokens/stark.tokens.json")
	for _, file := range []string{"core", "semantic", "dusk"} {
		name := filepath.Join(work, "tokens", file+".tokens.json")
		text, err := os.ReadFile(name)
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(name, []byte(strings.ReplaceAll(strings.Replace(string(text), `"leaf"`, `"fern"`, 1), "{leaf.", "{fern.")), 0o600))
	}
	git(t, work, "commit", "-qam", "Other names")
	git(t, work, "push", "-q", "origin", "HEAD:main")
	_, err := s.ReadTarget(t.Context())
	require.NoError(t, err)
	view, by := tokensOf(t, s)
	require.Equal(t, "file renamed", by["stark.tokens.json"].Kind)
	assert.Equal(t, "contrast.tokens.json", by["stark.tokens.json"].From)
	var take []string
	renamed := 0
	for _, m := range view.List {
		if m.Kind == "token renamed" {
			renamed++
			assert.Equal(t, strings.Replace(m.Path, "fern", "leaf", 1), m.From)
		}
		take = append(take, m.Key)
	}
	require.Positive(t, renamed, "%+v", view.List)
	_, err = s.DecideTokens(t.Context(), service.TokenDecisionRequest{Revision: view.Revision, Take: take})
	require.NoError(t, err)
	view, _ = tokensOf(t, s)
	for _, m := range view.List {
		assert.True(t, m.Side == "contract" || m.File == "stark.tokens.json", "%+v", m) // in the file of another name what the developer changed is seen once it has it here, too
	}
	assert.NotContains(t, string(contractOf(t, s).JSON()), "{leaf.", "the contract follows")
}
