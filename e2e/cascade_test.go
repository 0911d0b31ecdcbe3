package e2e

import (
	"cobrik/core/css"
	"cobrik/core/draft"
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
	"cobrik/core/emit"
	sheet "cobrik/core/emit/css"
	"cobrik/core/token/platform"
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
		c, found := draft.OfFamily(doc, f, tokens)
		require.Empty(t, found)
		for range random.IntN(12) {
			c.Rules = append(c.Rules, randomRule(random, c))
		}
		random.Shuffle(len(c.Rules), func(i, j int) { c.Rules[i], c.Rules[j] = c.Rules[j], c.Rules[i] })
		require.Empty(t, c.Check(tokens))
		names := emit.Classes(c)
		sheets = append(sheets, scoped(sheet.Module(c), round))
		for _, k := range draft.Cases(c, f) {
			classes := []string{names.Part("root")}
			for _, p := range c.Props {
				if class := names.Value(p.Name, k.Values[p.Name]); class != "" {
					classes = append(classes, class)
				}
			}
			html := fmt.Sprintf(`<div class="r%d"><span class="%s"><svg class="%s"></svg><span class="%s"></span></span></div>`,
				round, strings.Join(classes, " "), names.Part("icon"), names.Part("label"))
			tree := contract.Resolve(c, k.Values, tokens)
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
	require.NoError(t, os.WriteFile(file, []byte("<!doctype html><style>"+platform.Sheet(tokens)+strings.Join(sheets, "\n")+"</style><body>"+body.String()), 0o644))

	p := openPage(t, &app{})
	p.do(chromedp.Navigate("file://" + file))
	places, err := json.Marshal(placeList())
	require.NoError(t, err)
	got := evaluate[[][]string](p, fmt.Sprintf(`[...document.body.children].map((d) => %s.map(([path, property]) => {
		let e = d.firstElementChild;
		if (path) e = e.children[path - 1];
		return getComputedStyle(e).getPropertyValue(property);
	}))`, places))
	require.Len(t, got, len(stands))
	for i, s := range stands {
		var want map[string]string
		require.NoError(t, json.Unmarshal([]byte(s.want), &want))
		for j, place := range cascadePlaces {
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

func placeList() [][2]any {
	children := map[string]int{"root": 0, "icon": 1, "label": 2}
	var out [][2]any
	for _, p := range cascadePlaces {
		out = append(out, [2]any{children[p.part], p.property})
	}
	return out
}

func randomRule(random *rand.Rand, c *contract.Contract) contract.Rule {
	r := contract.Rule{When: contract.Condition{Props: map[string]contract.Value{}}, Set: contract.Style{}}
	for len(r.When.Props) == 0 {
		for _, p := range c.Props[:3] {
			if random.IntN(2) == 0 {
				continue
			}
			r.When.Props[p.Name] = contract.FlagValue(random.IntN(2) == 0)
			if p.Kind == contract.Choice {
				r.When.Props[p.Name] = contract.Value(p.Options[random.IntN(len(p.Options))])
			}
		}
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
