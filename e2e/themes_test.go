package e2e

import (
	"fmt"
	"html"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/token"
	"cobrik/core/token/output"
)

// themesOf writes random token files with up to three modifiers of up to three
// contexts; contexts re-point aliases at random.
func themesOf(random *rand.Rand) []token.File {
	var base, alias []string
	for i := range 6 {
		base = append(base, fmt.Sprintf(`"n%d":{"$value":%d}`, i, i+1))
	}
	names := 8
	for i := range names {
		target := fmt.Sprintf("n%d", random.IntN(6))
		if i > 0 && random.IntN(2) == 0 {
			target = fmt.Sprintf("a%d", random.IntN(i)) // through another alias
		}
		alias = append(alias, fmt.Sprintf(`"a%d":{"$value":"{%s}"}`, i, target))
	}
	var modifiers, order []string
	for m := range 1 + random.IntN(3) {
		var contexts []string
		for c := range 2 + random.IntN(2) {
			var over []string
			for i := range names {
				if c > 0 && random.IntN(3) == 0 {
					over = append(over, fmt.Sprintf(`"a%d":{"$value":"{n%d}"}`, i, random.IntN(6)))
				}
			}
			contexts = append(contexts, fmt.Sprintf(`"c%d":[{"$type":"number",%s}]`, c, strings.Join(append(over, `"$description":""`), ",")))
		}
		modifiers = append(modifiers, fmt.Sprintf(`"m%d":{"default":"c0","contexts":{%s}}`, m, strings.Join(contexts, ",")))
		order = append(order, fmt.Sprintf(`{"$ref":"#/modifiers/m%d"}`, m))
	}
	return []token.File{
		{Name: "all.json", Text: []byte(`{"$type":"number",` + strings.Join(append(base, alias...), ",") + "}")},
		{Name: "r.json", Text: []byte(`{"version":"2025.10","modifiers":{` + strings.Join(modifiers, ",") + `},"resolutionOrder":[` + strings.Join(order, ",") + `]}`)},
	}
}

// Overrides of several modifiers at once, in Chromium: whatever is chosen, on the
// root or on an element inside of any other choice, every token has that
// theme's value (CSS Cascade 5, 6.4.4; CSS Variables 1, 2).
func TestOverridesOfSeveralModifiersCascade(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 11))
	p := openPage(t, &app{})
	checked := 0
	for round := range 12 {
		library, found := token.Open(themesOf(random)...)
		require.False(t, found.Failed(), found)
		css, err := output.Named(output.Standard(), "css")
		require.NoError(t, err)
		files, found := output.Build(&css, library, library.Themes())
		require.Empty(t, found)
		attributes := func(theme token.Theme) string {
			var b strings.Builder
			for _, c := range theme {
				fmt.Fprintf(&b, ` data-%s="%s"`, c.Modifier, html.EscapeString(c.Context))
			}
			return b.String()
		}
		var body strings.Builder
		var want []string
		themes := library.Themes()
		for _, theme := range themes {
			set, found := library.Set(theme)
			require.False(t, found.Failed(), found)
			values := make([]string, len(set.All()))
			for i, tok := range set.All() {
				values[i] = tok.Value
			}
			fmt.Fprintf(&body, "<div%s><p%s></p></div><p%s></p>", attributes(themes[random.IntN(len(themes))]), attributes(theme), attributes(theme))
			want = append(want, strings.Join(values, " "), strings.Join(values, " "))
		}
		set, _ := library.Set(library.Default())
		names := make([]string, len(set.All()))
		for i, tok := range set.All() {
			names[i] = token.CSSName(tok.Path)
		}
		file := filepath.Join(t.TempDir(), "themes.html")
		require.NoError(t, os.WriteFile(file, []byte("<!doctype html><html"+attributes(themes[random.IntN(len(themes))])+"><style>"+string(files[0].Text)+"</style><body>"+body.String()), 0o644))
		p.do(chromedp.Navigate("file://" + file))
		got := evaluate[[]string](p, fmt.Sprintf(`[...document.querySelectorAll("p")].map((e) => { const s = getComputedStyle(e); return %s.map((n) => s.getPropertyValue(n).trim()).join(" "); })`, jsList(names)))
		require.Len(t, got, len(want))
		for i := range want {
			checked++
			assert.Equal(t, want[i], got[i], "round %d, %s: a page would show another theme's value", round, themes[i/2])
		}
	}
	assert.Greater(t, checked, 100)
}
