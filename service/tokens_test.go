package service_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/token"
	"cobrik/core/token/output"
	"cobrik/demo"
	"cobrik/service"
	"cobrik/store"
)

// withTag is the demo with a contract drafted from CropTag.
func withTag(t *testing.T) *service.Service {
	t.Helper()
	s := seeded(t, demoHost(t))
	_, err := s.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	return s
}

func values(t *testing.T, s *service.Service, path string) map[string]string {
	t.Helper()
	v, err := s.Tokens(t.Context())
	require.NoError(t, err)
	out := map[string]string{}
	for _, row := range v.Rows {
		if row.Path == path {
			for i, value := range row.Values {
				out[v.Themes[i].Name] = value.Value
			}
		}
	}
	return out
}

func number(t *testing.T, s *service.Service) int {
	t.Helper()
	v, err := s.Tokens(t.Context())
	require.NoError(t, err)
	return v.Revision
}

func TestEveryThemeIsAColumn(t *testing.T) {
	s := withTag(t)
	v, err := s.Tokens(t.Context())
	require.NoError(t, err)
	require.Len(t, v.Themes, 3)
	assert.Equal(t, []string{"day", "dusk", "contrast"}, []string{v.Themes[0].Name, v.Themes[1].Name, v.Themes[2].Name})
	assert.Equal(t, "dusk.tokens.json", v.Themes[1].File, "where an override for dusk belongs")
	assert.GreaterOrEqual(t, len(v.Rows), 150)
	ground := values(t, s, "page.ground")
	assert.Equal(t, "#faf7f2", ground["day"])
	assert.NotEqual(t, ground["day"], ground["dusk"])
	for _, p := range v.Problems {
		assert.NotEqual(t, "/type/size/small", p.Pointer, "a token that layers are bound to is not unused")
	}
	assert.NotEmpty(t, v.Problems)
	d, err := s.Token(t.Context(), "leaf.700")
	require.NoError(t, err)
	assert.Contains(t, d.Users, "tag.growing.ink")
	assert.Greater(t, d.Rests, len(d.Users)-1)
	assert.Len(t, d.Outputs, len(output.Standard()))
	d, err = s.Token(t.Context(), "tag.growing.ink")
	require.NoError(t, err)
	assert.Equal(t, "leaf.700", d.Themes[0].Chain[0].Path)
	assert.NotEmpty(t, d.Contracts)
	assert.Positive(t, d.Bindings)
	_, err = s.Token(t.Context(), "nowhere")
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
}

// Edit, undo, redo; an override for one theme; what was edited meanwhile.
func TestTokensAreEditedWithUndo(t *testing.T) {
	s := withTag(t)
	read := number(t, s)
	set := []service.TokenEdit{{Kind: "set", Path: "leaf.700", Text: "#123456"}}
	got, err := s.EditTokens(t.Context(), read, set)
	require.NoError(t, err)
	assert.Equal(t, read+1, got.Revision)
	assert.Equal(t, "#123456", values(t, s, "tag.growing.ink")["day"], "what points at it follows")
	_, err = s.EditTokens(t.Context(), read, set)
	assert.Equal(t, service.Conflict, failure(t, err).Kind, "an edit made on an older state must not be written")
	_, err = s.UndoTokens(t.Context(), got.Revision, store.Backward)
	require.NoError(t, err)
	assert.Equal(t, "#2f6132", values(t, s, "tag.growing.ink")["day"])
	_, err = s.UndoTokens(t.Context(), number(t, s), store.Forward)
	require.NoError(t, err)
	assert.Equal(t, "#123456", values(t, s, "tag.growing.ink")["day"])
	_, err = s.EditTokens(t.Context(), number(t, s), []service.TokenEdit{{Kind: "set", Path: "card.edge", File: "dusk.tokens.json", Text: "{soil.500}"}})
	require.NoError(t, err)
	edge := values(t, s, "card.edge")
	assert.Equal(t, values(t, s, "soil.500")["day"], edge["dusk"])
	assert.Equal(t, values(t, s, "page.line")["day"], edge["day"])
	_, err = s.EditTokens(t.Context(), number(t, s), []service.TokenEdit{{Kind: "set", Path: "space.7", File: "core.tokens.json", Type: "dimension", Text: "28px", Description: "Seven"}})
	require.NoError(t, err)
	assert.Equal(t, "28px", values(t, s, "space.7")["day"])
	v, err := s.Tokens(t.Context())
	require.NoError(t, err)
	assert.Equal(t, "space.7 added", v.Note)
	for says, edit := range map[string]service.TokenEdit{
		"is not a colour":   {Kind: "set", Path: "leaf.700", Text: "leafy"},
		"not there":         {Kind: "set", Path: "leaf.700", Text: "{leaf.7000}"},
		"in a circle":       {Kind: "set", Path: "leaf.700", Text: "{tag.growing.ink}"},
		"there already":     {Kind: "rename", Path: "leaf.700", To: "leaf.900"},
		"not there ":        {Kind: "remove", Path: "soil.50"},
		"there is no token": {Kind: "rename", Path: "leaf.7000", To: "x"},
	} {
		_, err = s.EditTokens(t.Context(), number(t, s), []service.TokenEdit{edit})
		assert.Contains(t, failure(t, err).Error(), strings.TrimSpace(says), edit)
	}
}

func TestATokenThatContractsUseIsNotRemoved(t *testing.T) {
	s := withTag(t)
	d, err := s.Token(t.Context(), "tag.radius")
	require.NoError(t, err)
	require.NotEmpty(t, d.Contracts)
	_, err = s.EditTokens(t.Context(), number(t, s), []service.TokenEdit{{Kind: "remove", Path: "tag.radius"}})
	assert.Contains(t, failure(t, err).Message, "CropTag")
}

// A dropped file that lacks what a contract refers to is taken, and says so; so
// does a later edit, which may still mend it.
func TestADroppedFileTellsOfContractsItLeavesWrong(t *testing.T) {
	s := withTag(t)
	text := strings.Replace(string(demo.Tokens("semantic.tokens.json")), `"radius": { "$value": "{radius.small}" },`, `"corner": { "$value": "{radius.small}" },`, 1)
	got, err := s.Drop(t.Context(), "semantic.tokens.json", []byte(text))
	require.NoError(t, err)
	assert.True(t, got.Added)
	assert.Contains(t, got.Problems.Error(), "CropTag: border-radius: there is no token tag.radius")
	_, err = s.EditTokens(t.Context(), number(t, s), []service.TokenEdit{{Kind: "rename", Path: "tag.corner", To: "tag.radius"}})
	require.NoError(t, err, "what was wrong before must not keep one from mending it")
	d, err := s.Token(t.Context(), "tag.radius")
	require.NoError(t, err)
	assert.NotEmpty(t, d.Contracts)
}

// Renaming: contracts follow, also when it is undone; the old name can stay.
func TestRenamedTokensAreFollowedByContracts(t *testing.T) {
	s := withTag(t)
	uses := func(path string) int {
		d, err := s.Token(t.Context(), path)
		if err != nil {
			return -1
		}
		return len(d.Contracts)
	}
	before := uses("tag.radius")
	require.Positive(t, before)
	edit := []service.TokenEdit{{Kind: "rename", Path: "tag.radius", To: "tag.corner"}}
	impact, err := s.PreviewTokens(t.Context(), edit)
	require.NoError(t, err)
	assert.Empty(t, impact.Tokens, "a name is no value")
	assert.Empty(t, impact.Components)
	assert.Positive(t, impact.Layers, "the design is bound to the old name")
	_, err = s.EditTokens(t.Context(), number(t, s), edit)
	require.NoError(t, err)
	assert.Equal(t, before, uses("tag.corner"))
	assert.Equal(t, -1, uses("tag.radius"))
	_, err = s.UndoTokens(t.Context(), number(t, s), store.Backward)
	require.NoError(t, err)
	assert.Equal(t, before, uses("tag.radius"))
	_, err = s.UndoTokens(t.Context(), number(t, s), store.Forward)
	require.NoError(t, err)
	assert.Equal(t, before, uses("tag.corner"))
	_, err = s.UndoTokens(t.Context(), number(t, s), store.Backward)
	require.NoError(t, err)
	edit[0].KeepOld = true
	impact, err = s.PreviewTokens(t.Context(), edit)
	require.NoError(t, err)
	assert.Zero(t, impact.Layers)
	_, err = s.EditTokens(t.Context(), number(t, s), edit)
	require.NoError(t, err)
	assert.Equal(t, 0, uses("tag.radius"))
	assert.Equal(t, values(t, s, "tag.corner"), values(t, s, "tag.radius"))
}

// What changes if a token changes: tokens, cases, contrasts.
func TestImpactIsShownBeforeSaving(t *testing.T) {
	s := withTag(t)
	before := number(t, s)
	impact, err := s.PreviewTokens(t.Context(), []service.TokenEdit{{Kind: "set", Path: "leaf.700", Text: "#9fc7a2"}})
	require.NoError(t, err)
	moved := map[string]bool{}
	for _, m := range impact.Tokens {
		moved[m.Path+" "+m.Theme] = true
	}
	assert.True(t, moved["leaf.700 day"] && moved["tag.growing.ink day"] && moved["leaf.700 dusk"])
	assert.False(t, moved["tag.growing.ink dusk"], "dusk points elsewhere")
	require.Len(t, impact.Components, 1)
	assert.Equal(t, "CropTag", impact.Components[0].Name)
	assert.Positive(t, impact.Components[0].Cases)
	assert.Less(t, impact.Components[0].Cases, impact.Components[0].Of, "only the growing tone changes")
	failing := map[string]bool{}
	for _, c := range impact.Contrasts {
		failing[c.Theme+" "+c.Text+" "+c.Ground] = c.Fails
	}
	assert.True(t, failing["day tag.growing.ink tag.growing.ground"], "%v", failing)
	assert.Equal(t, before, number(t, s), "nothing is kept")
	again, err := s.PreviewTokens(t.Context(), []service.TokenEdit{{Kind: "set", Path: "leaf.700", Text: "#2f6132"}})
	require.NoError(t, err)
	assert.Empty(t, again.Components)
}

func TestContrastsOfTheDemo(t *testing.T) {
	list, err := withTag(t).Contrasts(t.Context())
	require.NoError(t, err)
	require.Len(t, list, 3)
	fails := map[string]int{}
	for _, v := range list {
		fails[v.Theme] = v.Fails
		assert.Len(t, v.Pairs, len(v.Texts)*len(v.Grounds))
		assert.Positive(t, v.Meant)
	}
	assert.Positive(t, fails["dusk"], "the demo has a colour that breaks contrast in dusk")
	assert.Zero(t, fails["contrast"], "high contrast has none")
}

func TestOffScaleValuesAreBoundInContracts(t *testing.T) {
	s := withTag(t)
	list, err := s.OffScale(t.Context())
	require.NoError(t, err)
	require.NotEmpty(t, list)
	bench, err := s.Bench(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	_, err = s.Edit(t.Context(), "crop-tag", bench.Revision, []service.ValueEdit{{Part: "root", Property: "gap", Value: "7px"}})
	require.NoError(t, err)
	got, err := s.BindRaw(t.Context(), "space", "7px", "space.2")
	require.NoError(t, err)
	assert.Equal(t, service.BindResult{Components: 1, Values: 1}, got)
	said, err := s.ValuesOf(t.Context(), "crop-tag", "root", "gap")
	require.NoError(t, err)
	assert.Equal(t, "{space.2}", said.Declared[0].Value)
	_, err = s.BindRaw(t.Context(), "space", "7px", "space.2")
	assert.Contains(t, failure(t, err).Message, "No contract says 7px")
	_, err = s.BindRaw(t.Context(), "space", "8px", "nowhere")
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
}

// Outputs are changed, renamed, added, removed and as they were shipped again; what cannot
// be written is refused and changes nothing.
func TestOutputsAreKept(t *testing.T) {
	s := seeded(t, demoHost(t))
	ctx := t.Context()
	view := func() service.OutputsView {
		t.Helper()
		v, err := s.Outputs(ctx)
		require.NoError(t, err)
		return v
	}
	v := view()
	assert.False(t, v.Own)
	require.Len(t, v.Outputs, len(output.Standard()))
	assert.Equal(t, "CSS, every theme in one file", v.Outputs[0].About)
	assert.Contains(t, v.Groups, service.TokenGroup{Path: "tag.growing", Tokens: 3})
	css := v.Outputs[0].Output
	css.Lengths, css.Whole = "rem", true
	built, err := s.BuildTokens(ctx, css, "tokens.css", "card.pad")
	require.NoError(t, err)
	assert.Equal(t, []output.Step{{Says: "as written", Lines: []string{"{space.4}"}}, {Says: "leads to", Lines: []string{"16px"}}, {Says: "in rem, root 16 px", Lines: []string{"1rem"}},
		{Says: "named", Lines: []string{"--card-pad"}}, {Says: "line", Lines: []string{"--card-pad: var(--space-4);"}}}, built.Way)
	assert.Contains(t, built.Files[0].Text, `[data-theme="dusk"]`)
	line := built.Files[0].Lines[0]
	assert.Contains(t, strings.Split(built.Files[0].Text, "\n")[line.Number-1], token.CSSName(line.Path))

	_, err = s.SaveOutput(ctx, v.Revision, "tokens.css", css)
	require.NoError(t, err)
	_, err = s.SaveOutput(ctx, v.Revision, "tokens.css", css)
	assert.Equal(t, service.Conflict, failure(t, err).Kind, "somebody else's edit would be lost")
	v = view()
	assert.True(t, v.Own)
	assert.Len(t, v.Outputs, len(output.Standard()), "a change to one output took the others away")
	assert.Equal(t, css, v.Outputs[0].Output)

	renamed := css
	renamed.File = "styles/web.css"
	_, err = s.SaveOutput(ctx, v.Revision, "tokens.css", renamed)
	require.NoError(t, err)
	v = view()
	assert.Equal(t, "styles/web.css", v.Outputs[0].Output.File, "a new name is a further output")
	_, err = s.SaveOutput(ctx, v.Revision, "", output.Output{File: "more.json", Language: "json"})
	require.NoError(t, err)
	v = view()
	assert.Equal(t, "more.json", v.Outputs[len(v.Outputs)-1].Output.File)
	for says, o := range map[string]output.Output{"Two outputs are written to Tokens.kt.": {File: "Tokens.kt", Language: "css"}, "Lengths cannot be rem in Swift": {File: "x", Language: "swift", Lengths: "rem"}} {
		_, err = s.SaveOutput(ctx, v.Revision, "", o)
		assert.Contains(t, failure(t, err).Message, says)
	}
	_, err = s.SaveOutput(ctx, v.Revision, "nowhere", css)
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
	_, err = s.RemoveOutput(ctx, v.Revision, "nowhere")
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
	for _, o := range v.Outputs[1:] {
		_, err = s.RemoveOutput(ctx, v.Revision, o.Output.File)
		require.NoError(t, err)
		v = view()
	}
	require.Len(t, v.Outputs, 1)
	_, err = s.RemoveOutput(ctx, v.Revision, "styles/web.css")
	assert.Contains(t, failure(t, err).Message, "is the last output")
	_, err = s.RestoreOutputs(ctx, v.Revision)
	require.NoError(t, err)
	v = view()
	assert.False(t, v.Own)
	assert.Equal(t, "tokens.css", v.Outputs[0].Output.File)
	_, err = s.UndoTokens(ctx, v.Revision, store.Backward)
	require.NoError(t, err)
	assert.Len(t, view().Outputs, 1, "restoring cannot be undone")
	twice, err := s.BuildTokens(ctx, css, "", "card.pad")
	require.NoError(t, err)
	assert.Empty(t, twice.Problems, "the only output is styles/web.css")
	css.File = "STYLES/web.css"
	twice, err = s.BuildTokens(ctx, css, "", "card.pad")
	require.NoError(t, err)
	require.Len(t, twice.Problems, 1)
	assert.Equal(t, "Two outputs are written to STYLES/web.css.", twice.Problems[0].Message)
	assert.Empty(t, twice.Files)
	odd, err := s.BuildTokens(ctx, output.Output{File: "x", Language: "css", Colors: "beige"}, "", "card.pad")
	require.NoError(t, err)
	assert.Equal(t, `Colours cannot be "beige".`, odd.Problems[0].Message)
	assert.Empty(t, odd.Way)
}
