package trial_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/trial"
)

func TestARowGoesOn(t *testing.T) {
	w := world(t)
	k := trial.Known{Offers: []trial.Offer{{Name: "Card", Slug: "card", Version: "1.0.0"}, {Name: "NoteCard", Slug: "note-card"}, {Name: "Shell", Slug: "shell"}}, Component: w.Component, Tokens: w.Tokens, Sources: w.Sources, Pictures: []string{"bed"}}
	outline := "stack\n  each plot of plots.csv\n    Card \n    \n  grid\n    below 640 \n"
	for _, one := range []struct {
		line  int
		typed string
		first []string // texts, in this order at the front
		none  string   // is not offered
	}{
		{4, "    ca", []string{"    Card ", "    NoteCard "}, "    Shell "},
		{4, "    car", []string{"    Card "}, ""},
		{4, "    sta", []string{"    stack "}, ""},
		{4, "    h2", []string{"    h2 "}, ""},
		{3, "    Card t", []string{"    Card title=", "    Card tone="}, "    Card foot="},
		{3, "    Card title=A tone=", []string{"    Card title=A tone=plain", "    Card title=A tone=ripe"}, ""},
		{3, "    Card picture=", []string{"    Card picture=bed"}, ""},
		{3, "    Card title={", []string{"    Card title={plot.beds}"}, ""},
		{3, "    Card title={hol", []string{"    Card title={plot.holder}"}, "    Card title={plot.number}"},
		{3, `    Card title="Plot {plot.n`, []string{`    Card title="Plot {plot.number}`}, ""},
		{3, "    Card title=A pad", nil, "    Card title=A padding-inline="},
		{3, "    Card title=A wid", []string{"    Card title=A width="}, "    Card title=A padding-inline="},
		{1, "stack gap={space.4", []string{"stack gap={space.4}"}, ""},
		{1, "stack al", []string{"stack align="}, ""},
		{1, "stack align=", []string{"stack align=stretch"}, ""},
		{6, "    below 640 col", []string{"    below 640 columns="}, ""},
		{6, "    below 640 hid", []string{"    below 640 hidden"}, ""},
		{2, "  each plot of p", []string{"  each plot of plots.csv"}, "  each plot of notes.json"},
		{2, "  each plot", []string{"  each plot of "}, ""},
		{4, "    to ", nil, "    to side"},
		{1, `p "`, nil, ""},
	} {
		got := trial.Complete(outline, one.line, one.typed, k)
		var texts []string
		for _, c := range got {
			texts = append(texts, c.Text)
		}
		require.GreaterOrEqual(t, len(texts), len(one.first), "%q: %v", one.typed, texts)
		if one.first != nil {
			assert.Equal(t, one.first, texts[:len(one.first)], "%q", one.typed)
		}
		if one.none != "" {
			assert.NotContains(t, texts, one.none, "%q", one.typed)
		}
	}
	got := trial.Complete("Card title=A\n  to \n", 2, "  to ", k)
	require.Len(t, got, 2)
	assert.Equal(t, "  to foot", got[1].Text)
	assert.Equal(t, "1.0.0", trial.Complete(outline, 4, "    car", k)[0].Detail, "which version it is goes unsaid")
}
