package e2e

import (
	"cobrik/core/css"
	"cobrik/core/draft"
	"cobrik/core/emit/ir"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	sheet "cobrik/core/emit/css"
	"cobrik/core/emit/emittest"
	"cobrik/core/token/output"
	"cobrik/demo/demotest"
)

// The emitted style sheet in Chromium against contract.Resolve: random rules in
// random order on CropTag, every case, every property a rule sets. What the
// ledger calls the contract's value must be what the browser paints.
func TestTheEmittedCascadeIsTheContracts(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 2)
	f := doc.FamilyNamed("CropTag")
	random := rand.New(rand.NewPCG(20, 26))
	type stand struct{ html, want string }
	var sheets []string
	var stands []stand
	for round := range 60 {
		c, found := draft.OfFamily(doc, f, tokens, nil)
		require.Empty(t, found)
		for range random.IntN(12) {
			c.Rules = append(c.Rules, randomRule(random, c))
		}
		random.Shuffle(len(c.Rules), func(i, j int) { c.Rules[i], c.Rules[j] = c.Rules[j], c.Rules[i] })
		require.Empty(t, c.Check(tokens))
		m := ir.Lower(c)
		sheets = append(sheets, scoped(sheet.Module(m, output.PropertiesOf(tokens)), round))
		for _, k := range draft.Cases(c, f) {
			env := contract.Env{Props: k.Values, Theme: map[string]string{"theme": []string{"day", "dusk"}[random.IntN(2)]}, Direction: []string{"ltr", "rtl"}[random.IntN(2)]}
			html := fmt.Sprintf(`<div class="r%d"><div data-theme="%s" dir="%s">%s</div></div>`, round, env.Theme["theme"], env.Direction, emittest.Markup(m, k.Values))
			tree := contract.Resolve(c, env, tokens)
			values := map[string]string{}
			for _, place := range cascadePlaces {
				values[place.part+" "+place.property] = tree.Find(place.part).Values[place.property].Value
			}
			want, err := json.Marshal(values)
			require.NoError(t, err)
			stands = append(stands, stand{html, string(want)})
		}
	}
	var body strings.Builder
	for _, s := range stands {
		body.WriteString(s.html)
	}
	file := filepath.Join(t.TempDir(), "cascade.html")
	require.NoError(t, os.WriteFile(file, []byte("<!doctype html><style>"+output.PropertiesOf(tokens).Sheet(nil)+strings.Join(sheets, "\n")+"</style><body>"+body.String()), 0o644))

	p := openPage(t, &app{})
	p.do(chromedp.Navigate("file://" + file))
	places, err := json.Marshal(placeList())
	require.NoError(t, err)
	got := evaluate[[][]string](p, fmt.Sprintf(`[...document.body.children].map((d) => %s.map(([part, property]) => {
		const e = d.querySelector("[data-part=" + part + "]");
		return e ? getComputedStyle(e).getPropertyValue(property) : null;
	}))`, places))
	require.Len(t, got, len(stands))
	for i, s := range stands {
		var want map[string]string
		require.NoError(t, json.Unmarshal([]byte(s.want), &want))
		for j, place := range cascadePlaces {
			if got[i][j] == "" { // the part is not shown
				continue
			}
			is := css.CanonicalText(place.property, got[i][j], 0)
			assert.Equal(t, want[place.part+" "+place.property], is, "%s: %s · %s", s.html, place.part, place.property)
		}
		if t.Failed() {
			t.FailNow()
		}
	}
}

var cascadePlaces = []struct{ part, property string }{
	{"root", "background-color"}, {"root", "padding-inline"}, {"root", "gap"}, {"root", "color"}, {"root", "font-size"},
	{"icon", "fill"}, {"icon", "width"}, {"label", "color"}, {"label", "font-size"}, {"label", "font-weight"},
}

func placeList() [][2]string {
	var out [][2]string
	for _, p := range cascadePlaces {
		out = append(out, [2]string{p.part, p.property})
	}
	return out
}

func randomRule(random *rand.Rand, c *contract.Contract) contract.Rule {
	r := contract.Rule{Set: contract.Style{}}
	for r.When.Always() {
		for _, p := range c.Props[:3] {
			if values := p.Type.Nameable(); random.IntN(2) == 0 {
				r.When = r.When.With(contract.PropIs{Prop: p.ID, Value: values[random.IntN(len(values))]})
			}
		}
	}
	if random.IntN(4) == 0 {
		r.When = r.When.With(contract.Theme{Modifier: "theme", Context: []string{"day", "dusk"}[random.IntN(2)]})
	}
	if random.IntN(4) == 0 {
		r.When = r.When.With(contract.Direction{Is: []string{"ltr", "rtl"}[random.IntN(2)]})
	}
	place := cascadePlaces[random.IntN(len(cascadePlaces))]
	r.Part = place.part
	switch place.property {
	case "background-color", "color", "fill":
		r.Set[place.property] = []string{fmt.Sprintf("#%06x", random.IntN(1<<24)), "{soil.300}", "currentColor"}[random.IntN(3)]
		if place.property == "color" && r.Set["color"] == "currentColor" {
			r.Set["color"] = "{leaf.700}" // color: currentColor is inherit: nobody writes it
		}
	case "font-weight":
		r.Set[place.property] = css.FormatNumber(float64(100 + 100*random.IntN(8)))
	default:
		r.Set[place.property] = css.FormatNumber(float64(1+random.IntN(40))) + "px"
	}
	return r
}

// scoped nests a style sheet under a class (CSS Nesting 1), which adds the same
// weight to each of its rules.
func scoped(sheet string, round int) string { return fmt.Sprintf(".r%d {\n%s\n}", round, sheet) }
