package css_test

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/accessibility"
	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/draft"
	sheet "cobrik/core/emit/css"
	"cobrik/core/emit/emittest"
	"cobrik/core/emit/ir"
	"cobrik/core/token/platform"
	"cobrik/demo/demotest"
	"cobrik/web/reference"
)

// caseOfFamily is one case of the demo, as it stands on the page.
type caseOfFamily struct {
	demotest.Drafted
	draft.Case
}

// standing writes every case of every family of the demo for one page, on the ground it is drawn for.
func standing(t *testing.T) (style, body string, cases []caseOfFamily) {
	doc, tokens := demotest.Furrow(t, 2)
	families, _ := demotest.Families(t, doc, tokens)
	properties := platform.PropertiesOf(tokens)
	var css, html strings.Builder
	css.WriteString(properties.Sheet(nil) + "body { background: var(--page-ground); color: var(--page-ink) } .hidden { display: none }\n")
	for _, f := range families {
		m := ir.Lower(f.Contract)
		css.WriteString(emittest.HashedSheet(m, sheet.Module(m, properties)))
		for _, k := range draft.Cases(f.Contract, f.Family) {
			if k.State == "disabled" {
				continue // WCAG 2.2, 1.4.3: inactive components have no requirement
			}
			fmt.Fprintf(&html, `<div class="case" style="width: %gpx; min-height: 240px">%s</div>`, k.Variant.Root.Bounds.Width, emittest.Hashed(m, k.Values))
			cases = append(cases, caseOfFamily{f, k})
		}
	}
	return css.String(), html.String(), cases
}

// pageRules ask for what a page has, not a component.
var pageRules = []string{"region", "landmark-one-main", "page-has-heading-one", "bypass", "document-title", "html-has-lang", "landmark-unique", "landmark-no-duplicate-banner",
	"landmark-no-duplicate-main", "landmark-main-is-top-level", "landmark-banner-is-top-level", "heading-order"}

// What is emitted of the demo stops nobody who uses a screen reader or needs contrast: axe-core
// finds nothing, in no case.
func TestEmittedComponentsPassAxe(t *testing.T) {
	style, body, cases := standing(t)
	axe, err := os.ReadFile("../../../web/node_modules/axe-core/axe.min.js")
	require.NoError(t, err)
	disabled := make([]string, len(pageRules))
	for i, r := range pageRules {
		disabled[i] = fmt.Sprintf(`%q: { enabled: false }`, r)
	}
	found := reference.InChromium[[]string](t, style, body, `(() => { `+string(axe)+`; return axe.run({ rules: { `+strings.Join(disabled, ", ")+` } }).then((r) =>
		r.violations.flatMap((v) => v.nodes.map((n) => v.id + ": " + n.html.slice(0, 200) + " " + (n.any[0]?.message ?? "")))) })()`)
	assert.Empty(t, found)
	require.Greater(t, len(cases), 70)
	broken := reference.InChromium[[]string](t, style, `<div class="case"><button></button><img src="data:,"></div>`, `(() => { `+string(axe)+`; return axe.run().then((r) => r.violations.map((v) => v.id)) })()`)
	assert.Subset(t, broken, []string{"button-name", "image-alt"}, "axe-core finds nothing at all")
}

// The accessibility tree has what contracts say: a link, a button, a heading of its level, an image
// by its text, the items of a list (HTML-AAM 1.0).
func TestTheAccessibilityTreeHasTheParts(t *testing.T) {
	style, body, cases := standing(t)
	type thing struct{ role, name string }
	var want []thing
	var walk func(r *contract.Resolved)
	text := func(r *contract.Resolved) string {
		var out []string
		r.Walk(func(r *contract.Resolved) {
			if r.Shown && r.Text != "" {
				out = append(out, r.Text)
			}
		})
		return strings.Join(out, " ")
	}
	walk = func(r *contract.Resolved) {
		if !r.Shown || r.Values["display"].Value == "none" {
			return
		}
		if r.Inside != nil {
			walk(r.Inside)
			return
		}
		switch e := r.Part.Element; {
		case e == "a" && r.Part.Attributes["href"] != (contract.Attribute{}):
			want = append(want, thing{"link", text(r)})
		case e == "button":
			want = append(want, thing{"button", text(r)})
		case contract.IsHeading(e):
			want = append(want, thing{"heading", ""}, thing{"heading " + e[1:], text(r)})
		case r.Image != nil:
			want = append(want, thing{"image", r.Image.Alt})
		case e == "nav":
			want = append(want, thing{"navigation", ""})
		case e == "li":
			want = append(want, thing{"listitem", ""})
		}
		for _, c := range slices.Concat(r.Filled, r.Children) {
			walk(c)
		}
	}
	_, tokens := demotest.Furrow(t, 2)
	for _, k := range cases {
		for _, v := range k.Values {
			rich, _ := v.(contract.RichValue)
			for _, block := range rich {
				for _, run := range block.Runs {
					if run.Link != "" {
						want = append(want, thing{"link", run.Text})
					}
				}
			}
		}
		env := k.Case.Env()
		env.States = nil // nobody brings them about on this page
		walk(contract.Resolve(k.Contract, env, tokens))
	}
	var got []thing
	reference.OnPage(t, style, body, func(ctx context.Context) {
		tree, err := chromedp.Run(ctx, func(ctx context.Context, target *chromedp.Target) (accessibility.GetFullAXTreeResult, error) {
			return cdp.Call(ctx, target, accessibility.GetFullAXTree, accessibility.GetFullAXTreeParams{})
		})
		require.NoError(t, err)
		for _, n := range tree.Nodes {
			one := thing{said(t, n.Role), said(t, n.Name)}
			if n.Ignored || !slices.ContainsFunc(want, func(w thing) bool { return w.role == one.role }) {
				continue
			}
			if one.role == "heading" {
				for _, p := range n.Properties {
					if p.Name == "level" {
						one.role += " " + said(t, p.Value)
					}
				}
			}
			if one.role == "listitem" || one.role == "navigation" {
				one.name = ""
			}
			got = append(got, one)
		}
	})
	want = slices.DeleteFunc(want, func(w thing) bool { return w.role == "heading" })
	assert.Greater(t, len(want), 90)
	assert.ElementsMatch(t, want, got)
}

// said gives a value of the tree as text.
func said(t *testing.T, v *accessibility.Value) string {
	if v == nil {
		return ""
	}
	var out any
	require.NoError(t, json.Unmarshal(v.Value, &out))
	return fmt.Sprint(out)
}
