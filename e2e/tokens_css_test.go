package e2e

import (
	gocontext "context"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/token"
	"cobrik/core/token/output"
	"cobrik/demo/demotest"
)

// propertyOf is a CSS property that takes values of a type, with what has to
// stand around the value.
var propertyOf = map[string][2]string{
	"color": {"color", "%s"}, "dimension": {"margin-left", "%s"}, "fontFamily": {"font-family", "%s"}, "fontWeight": {"font-weight", "%s"},
	"duration": {"transition-duration", "%s"}, "cubicBezier": {"transition-timing-function", "%s"}, "number": {"flex-grow", "%s"},
	"strokeStyle": {"border-top-style", "%s"}, "border": {"border-top", "%s"}, "transition": {"transition", "all %s"},
	"shadow": {"box-shadow", "%s"}, "gradient": {"background-image", "%s"}, "typography": {"font", "%s"},
}

// The style sheet that is written, in Chromium: every token of every theme,
// used through var(), computes to what its resolved value computes to; chosen
// by attribute on the root, on an element inside of another theme, and by the
// user's own preference.
func TestTheWrittenTokensComputeToTheResolvedOnes(t *testing.T) {
	library, found := token.Open(demotest.TokenFiles()...)
	require.Empty(t, found)
	p := openPage(t, &app{})
	for _, form := range []string{"hex", "oklch"} {
		css, err := output.Named(output.Standard(), "css")
		require.NoError(t, err)
		css.Colors = form
		files, found := output.Build(&css, library, library.Themes())
		require.Empty(t, found)
		for _, theme := range library.Themes() {
			set, found := library.Set(theme)
			require.Empty(t, found)
			context := theme[0].Context
			var written, resolved, paths []string
			var body strings.Builder
			for _, tok := range set.All() {
				use := propertyOf[tok.Type]
				v := tok.Content.Flat().Map(func(v *token.Value) *token.Value {
					if v.Type == "color" {
						v.Form = form
					}
					return v
				})
				paths = append(paths, tok.Path)
				written = append(written, use[0]+": "+fmt.Sprintf(use[1], "var("+token.CSSName(tok.Path)+")"))
				resolved = append(resolved, use[0]+": "+fmt.Sprintf(use[1], token.Writer{Wide: true}.CSS(v)))
			}
			for _, one := range append(written, resolved...) {
				fmt.Fprintf(&body, "<p style='%s'></p>", strings.ReplaceAll(one, "'", "&#39;"))
			}
			for name, around := range map[string][2]string{
				"root":       {`<html data-theme="` + context + `">`, ""},
				"inside":     {`<html data-theme="dusk">`, `<div data-theme="` + context + `">`},
				"preference": {"<html>", ""},
			} {
				file := filepath.Join(t.TempDir(), "tokens.html")
				require.NoError(t, os.WriteFile(file, []byte("<!doctype html>"+around[0]+"<style>"+string(files[0].Text)+"</style><body>"+around[1]+body.String()), 0o644))
				p.do(prefer(name == "preference", context), chromedp.Navigate("file://"+file))
				got := evaluate[[]string](p, `[...document.querySelectorAll("p")].map((e) => { const s = getComputedStyle(e);
					return ["color", "marginLeft", "fontFamily", "fontWeight", "fontSize", "lineHeight", "transition", "flexGrow", "borderTop", "boxShadow", "backgroundImage"].map((k) => s[k]).join(" | "); })`)
				require.Len(t, got, 2*len(paths))
				wrong := 0
				for i, path := range paths {
					if got[i] != got[len(paths)+i] && wrong < 5 {
						wrong++
						assert.Equal(t, got[len(paths)+i], got[i], "%s in %s, chosen by %s: a page would show another value", path, theme, name)
					}
				}
			}
		}
	}
	distinct, err := json.Marshal(propertyOf)
	require.NoError(t, err)
	assert.Len(t, propertyOf, len(token.Types), string(distinct))
}

// prefer sets what the user prefers, as the demo's themes are asked for.
func prefer(on bool, context string) chromedp.Action[chromedp.Void] {
	scheme, contrast := "light", "no-preference"
	if on && context == "dusk" {
		scheme = "dark"
	}
	if on && context == "contrast" {
		contrast = "more"
	}
	features := []*emulation.MediaFeature{{Name: "prefers-color-scheme", Value: scheme}, {Name: "prefers-contrast", Value: contrast}}
	return chromedp.Func(func(ctx gocontext.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{Features: features})
		return err
	})
}
