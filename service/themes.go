package service

import (
	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/ledger"
	"cobrik/core/token"
)

// LookTheme is a theme that components are looked at in.
type LookTheme struct {
	Name       string            `json:"name"`
	Attributes map[string]string `json:"attributes" doc:"Of the element around that puts what is in it into the theme"`
}

// themeViews lists the themes, the default first.
func (l *library) lookThemes() []LookTheme {
	out := make([]LookTheme, len(l.themes))
	for i, t := range l.themes {
		out[i] = LookTheme{themeName(t), map[string]string{}}
		for _, c := range t {
			out[i].Attributes["data-"+c.Modifier] = c.Context
		}
	}
	return out
}

// theme finds a theme by its name; the default when it is empty.
func (l *library) theme(name string) (int, error) {
	if name == "" {
		return 0, nil
	}
	for i, t := range l.themes {
		if themeName(t) == name {
			return i, nil
		}
	}
	return 0, notFound("There is no theme %q.", name)
}

// ledgerTheme gives a theme as a ledger asks for it.
func (l *library) ledgerTheme(theme int) ledger.Theme {
	return ledger.Theme{Choices: choicesOf(l.themes[theme]), Tokens: l.sets[theme]}
}

func choicesOf(t token.Theme) map[string]string {
	out := map[string]string{}
	for _, c := range t {
		out[c.Modifier] = c.Context
	}
	return out
}

// drawnIn gives a drawing as it is in a theme.
func (w *component) drawnIn(root *design.Layer, theme int) *design.Layer {
	if theme == 0 {
		return root
	}
	return draft.InTheme(root, w.library.sets[theme])
}

// envIn is the world of a case in a theme.
func (w *component) envIn(k draft.Case, theme int) contract.Env {
	env := k.Env()
	env.Theme = choicesOf(w.library.themes[theme])
	return env
}

// measuredIn gives what was measured in a theme, by case.
func measuredIn(all []ledger.Measurement, theme string, first bool) map[string]*ledger.Measurement {
	out := map[string]*ledger.Measurement{}
	for i := range all {
		if all[i].Theme == theme || all[i].Theme == "" && first {
			out[all[i].Case] = &all[i]
		}
	}
	return out
}
