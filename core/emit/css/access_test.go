package css_test

import (
	"cmp"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/draft"
	sheet "cobrik/core/emit/css"
	"cobrik/core/emit/emittest"
	"cobrik/core/emit/ir"
	"cobrik/core/token"
	"cobrik/core/token/output"
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
	properties := output.PropertiesOf(tokens)
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

// accessible is what an element is in the accessibility tree.
type accessible struct {
	Part, Role, Name string
	Level            int
}

// untoldRoles are those that an element that is nothing in particular has, or that only some
// browsers tell (HTML-AAM 1.0, element roles).
var untoldRoles = []string{"", "generic", "none", "paragraph", "strong", "emphasis", "code", "time", "mark", "blockquote", "search", "term", "definition", "legend", "sectionheader", "sectionfooter", "Figcaption", "LabelText"}

// inTree asks Chromium what each part is in its accessibility tree, in the order of the document;
// what is hidden from it is not among them. The names of groups are left out: nothing uses them.
func inTree(t *testing.T, style, body string) (out []accessible) {
	all := reference.InChromium[[]accessible](t, style, body, `[...document.querySelectorAll("[data-part]")].filter((e) => e.checkVisibility() && !e.closest("[aria-hidden=true], [hidden]") && !(e.localName === "img" && e.alt === "")).map((e) =>
		({ part: e.dataset.part, role: e.computedRole, name: e.computedName.replace(/\s+/g, ""),
			level: e.computedRole === "heading" ? Number(e.ariaLevel ?? (/^h([1-6])$/.exec(e.localName)?.[1] ?? 2)) : 0 }))`)
	chromium := map[string]string{"image": "img"}
	for _, a := range all {
		a.Role = cmp.Or(chromium[a.Role], a.Role)
		if !slices.Contains(untoldRoles, a.Role) {
			out = append(out, a)
		}
	}
	return out
}

// inContract says the same of what a contract resolves to, the inside of uses too.
func inContract(r *contract.Resolved) (out []accessible) {
	told := r.Accesses()
	var walk func(r *contract.Resolved)
	walk = func(r *contract.Resolved) {
		if a, ok := told[r.Key()]; ok && !slices.Contains(untoldRoles, a.Role) {
			out = append(out, accessible{r.Part.ID, a.Role, strings.Join(strings.Fields(a.Name), ""), a.Level})
		}
		if r.Inside != nil {
			if r.Shown && r.Values["display"].Value != "none" {
				out = append(out, inContract(r.Inside)...)
			}
			return
		}
		for _, c := range slices.Concat(r.Filled, r.Children) {
			walk(c)
		}
	}
	walk(r)
	return out
}

// The accessibility tree has what contracts say, in every case of the demo: a link, a button, a
// heading, an image by its text, the items of a list (HTML-AAM 1.0).
func TestTheAccessibilityTreeHasTheParts(t *testing.T) {
	style, body, cases := standing(t)
	_, tokens := demotest.Furrow(t, 2)
	var want []accessible
	for _, k := range cases {
		env := k.Case.Env()
		env.States = nil // nobody brings them about on this page
		want = append(want, inContract(contract.Resolve(k.Contract, env, tokens))...)
	}
	assert.Greater(t, len(want), 90)
	assert.Equal(t, want, inTree(t, style, body))
}

// Of every element that a part may be, with the attributes that say what it is (HTML-AAM 1.0, element roles;
// Accessible Name and Description Computation 1.2).
func TestEachElementIsInTheTreeWhatItsPartIs(t *testing.T) {
	type attributes = map[string]contract.Attribute
	say := func(pairs ...string) attributes {
		out := attributes{}
		for i := 0; i < len(pairs); i += 2 {
			out[pairs[i]] = contract.Attribute{Text: pairs[i+1]}
		}
		return out
	}
	var list []*contract.Part
	part := func(element string, a attributes, children ...*contract.Part) *contract.Part {
		p := &contract.Part{ID: fmt.Sprintf("p%d", len(list)), Element: element, Attributes: a, Children: children}
		list = append(list, p)
		return p
	}
	words := func(element, text string) *contract.Part {
		p := part(element, nil)
		p.Content = contract.FixedText{Text: text}
		return p
	}
	titled := func(element string, a attributes, text string) *contract.Part {
		p := words(element, text)
		p.Attributes = a
		return p
	}
	body := []*contract.Part{part("ul", nil, part("li", nil, words("a", "No address")), words("li", "Beans")), part("fieldset", nil, words("legend", "Days"), words("span", "Mon")),
		part("fieldset", nil, titled("legend", say("hidden", ""), "Never"), words("span", "Tue"))}
	for _, e := range contract.Elements {
		if !slices.Contains([]string{"li", "dt", "dd", "legend", "summary", "figcaption", "label", "input", "textarea", "img", "svg", "hr", "ul", "ol", "dl", "fieldset"}, e) {
			body = append(body, words(e, "Sown in "+e), titled(e, say("aria-label", "Called "+e), "Words"), titled(e, say("title", "Titled "+e), ""), titled(e, say("aria-hidden", "true"), "Gone"))
		}
	}
	for _, kind := range []string{"text", "search", "tel", "url", "email", "number", "range", "checkbox", "radio", "button"} {
		body = append(body, part("input", say("type", kind, "value", "7")), part("label", nil, words("span", "Around "+kind), part("input", say("type", kind, "value", "7"))))
	}
	field, area := part("input", say("placeholder", "A plot")), part("textarea", say("placeholder", "A note"))
	by := part("div", attributes{"aria-labelledby": {Part: field.ID}, "role": {Text: "group"}})
	labelled := titled("button", attributes{}, "Not this")
	label := words("span", "But that")
	labelled.Attributes["aria-labelledby"] = contract.Attribute{Part: label.ID}
	of := titled("label", attributes{"for": {Part: field.ID}}, "Plot")
	leaf, plain := part("svg", nil), part("svg", nil)
	leaf.Content, plain.Content = &contract.Vector{ViewBox: [4]float64{0, 0, 4, 4}, Label: "Leaf"}, &contract.Vector{ViewBox: [4]float64{0, 0, 4, 4}}
	photo, decoration := part("img", nil), part("img", nil)
	photo.Content, decoration.Content = contract.Picture{Source: "data:,", Alt: "A bed", Width: 4, Height: 4}, contract.Picture{Source: "data:,", Width: 4, Height: 4}
	note := part("textarea", nil)
	chosen := words("h3", "Of the level that is asked for")
	chosen.Level = "level"
	inner, drawn := part("svg", nil), part("img", nil)
	inner.Content, drawn.Content = leaf.Content, photo.Content
	gone := titled("span", say("hidden", ""), "Hidden")
	body = append(body, field, area, chosen, part("label", nil, words("span", "Around a note"), note), by, labelled, label, of, leaf, plain, photo, decoration,
		part("button", nil, inner, words("span", "Sow"), drawn, gone, titled("span", say("aria-hidden", "true"), "not said"), titled("strong", say("aria-label", "now"), "!")),
		part("article", nil, words("header", "Of the article"), words("footer", "Of the article, too")), titled("a", say("href", "/rota"), "Rota"), titled("a", say("href", "/rota", "role", "button"), "Rota"),
		titled("div", say("role", "heading", "aria-level", "4"), "Fourth"), titled("div", say("role", "heading"), "Of no level"), titled("h2", say("aria-level", "5"), "Fifth"), part("hr", nil),
		part("details", nil, words("summary", "More")), titled("section", say("aria-label", "Beds"), "A region"), titled("div", say("role", "switch"), "Watered"))
	fifth := 5.0
	c := &contract.Contract{Format: contract.Format, Name: "Everything", Props: []contract.Prop{{ID: "level", Name: "level", Type: contract.Number{Initial: &fifth}}}, Root: &contract.Part{ID: "root", Element: "div", Children: body}}
	m := ir.Lower(c)
	got := inTree(t, "", emittest.Markup(m, c.Defaults()))
	want := inContract(contract.Resolve(c, contract.Env{}, token.Empty()))
	assert.Equal(t, want, got)
	assert.Greater(t, len(want), 80)
}
