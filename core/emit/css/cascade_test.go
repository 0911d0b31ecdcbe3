package css_test

import (
	"fmt"
	"math/rand/v2"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	sheet "cobrik/core/emit/css"
	"cobrik/core/emit/emittest"
	"cobrik/core/emit/ir"
	"cobrik/core/token"
	"cobrik/core/token/output"
	"cobrik/web/reference"
)

// density is a modifier whose name an attribute of HTML may have, and a selector must escape.
const density = "den]{sity.a"

// Rules win as the contract says, the later one first, whatever their selectors weigh: random
// rules of every kind of condition, in random environments, as Chromium cascades them
// (CSS Cascade 5, 6).
func TestRulesWinAsTheContractSays(t *testing.T) {
	random := rand.New(rand.NewPCG(11, 26))
	var css, body strings.Builder
	var want []float64
	var what []string
	for n := range 300 {
		c := ruled(random)
		scope := fmt.Sprintf("s%d", n)
		text := sheet.Module(ir.LowerForced(c), output.PropertiesOf(token.Empty()))
		fmt.Fprintf(&css, ".%s {\n%s\n}\n", scope, text)
		for range 8 {
			env := contract.Env{
				Props: contract.Values{
					"tone":   contract.OptionValue([]string{"plain", "ripe", "dry"}[random.IntN(3)]),
					"strong": contract.FlagValue(random.IntN(2) == 0),
					"count":  contract.NumberValue(random.IntN(4)),
					"label":  contract.TextValue([]string{"", "Leek"}[random.IntN(2)]),
					"links":  contract.ListValue{{"here": contract.FlagValue(random.IntN(2) == 0)}, {"here": contract.FlagValue(random.IntN(2) == 0)}}},
				Container: []float64{300, 500, 900}[random.IntN(3)], Viewport: 1600,
				Direction: []string{"ltr", "rtl"}[random.IntN(2)],
				Theme: map[string]string{
					"theme": []string{"dawn", "dusk"}[random.IntN(2)],
					density: []string{"loose", "tight"}[random.IntN(2)]},
			}
			m := ir.LowerForced(c)
			root := m.Root
			if !root.Root {
				root = root.Children[0].(*ir.Element)
			}
			for _, state := range contract.States {
				if random.IntN(2) == 0 {
					env.States = append(env.States, state)
				}
			}
			root.Attributes = append(root.Attributes, ir.Attribute{Name: ir.ForcedStates, Value: strings.Join(env.States, " ")})
			between, after := "", ""
			if random.IntN(2) == 0 { // the choices stand on two elements, not on one
				between, after = "><div", "</div>"
			}
			fmt.Fprintf(&body, `<div class="%s"><div data-theme="%s"%s data-`+density+`="%s" dir="%s" style="width:%gpx">%s</div>%s</div>`,
				scope, env.Theme["theme"], between, env.Theme[density], env.Direction, env.Container, emittest.Markup(m, env.Props), after)
			resolved := contract.Resolve(c, env, token.Empty())
			var parts []*contract.Resolved
			resolved.Walk(func(r *contract.Resolved) { parts = append(parts, r) })
			require.Len(t, parts, 6)
			for _, part := range parts {
				value, err := strconv.ParseFloat(part.Values["opacity"].Value, 64)
				require.NoError(t, err)
				want = append(want, value)
				what = append(what, fmt.Sprintf("%s of %+v, by the rule of %s\n%s", part.Part.Name, env, c.Words(part.Values["opacity"].When), text))
			}
		}
	}
	got := reference.InChromium[[]float64](t, css.String(), body.String(), `[...document.querySelectorAll("[data-part]")].map((e) => Number(getComputedStyle(e).opacity))`)
	require.Len(t, got, len(want))
	for i := range want {
		if !assert.InDelta(t, want[i], got[i], 1e-6, what[i]) {
			return
		}
	}
	t.Logf("%d values cascade as the contract says", len(want))
}

// ruled is a component of two parts with random rules, each of which sets another opacity.
func ruled(random *rand.Rand) *contract.Contract {
	label := &contract.Part{ID: "label", Name: "label", Element: "span", Style: contract.Style{"opacity": "0.99"}, Content: contract.FixedText{Text: "Leek"}}
	entry := &contract.Part{ID: "entry", Name: "entry", Element: "span", Style: contract.Style{"opacity": "0.97"}, Content: contract.FixedText{Text: "Plots"}}
	item := &contract.Part{ID: "item", Name: "item", Element: "span", Style: contract.Style{"opacity": "0.96"}, Repeat: "links", Children: []*contract.Part{entry}}
	c := &contract.Contract{Format: contract.Format, Name: "Ruled",
		Props: []contract.Prop{
			{ID: "tone", Name: "tone", Type: contract.Choice{Options: []string{"plain", "ripe", "dry"}, Initial: "plain"}},
			{ID: "strong", Name: "strong", Type: contract.Flag{}},
			{ID: "count", Name: "count", Type: contract.Number{}},
			{ID: "label", Name: "label", Type: contract.Text{}},
			{ID: "links", Name: "links", Type: contract.List{Items: []contract.Prop{{ID: "here", Name: "here", Type: contract.Flag{}}}}},
		},
		Root: &contract.Part{ID: "root", Name: "root", Element: "button", Style: contract.Style{"opacity": "0.98"}, Children: []*contract.Part{label, item}}}
	terms := []func() contract.Term{
		func() contract.Term {
			return contract.PropIs{Prop: "tone", Value: contract.OptionValue([]string{"plain", "ripe", "dry"}[random.IntN(3)])}
		},
		func() contract.Term {
			return contract.PropIs{Prop: "strong", Value: contract.FlagValue(random.IntN(2) == 0)}
		},
		func() contract.Term {
			return contract.NumberIs{Prop: "count", Low: contract.Bound{At: float64(random.IntN(3)), Kind: contract.Exclusive}}
		},
		func() contract.Term { return contract.PropSet{Prop: "label", Set: random.IntN(2) == 0} },
		func() contract.Term {
			return contract.InState{State: contract.States[random.IntN(len(contract.States))]}
		},
		func() contract.Term {
			return contract.Theme{Modifier: "theme", Context: []string{"dawn", "dusk"}[random.IntN(2)]}
		},
		func() contract.Term {
			return contract.Theme{Modifier: density, Context: []string{"loose", "tight"}[random.IntN(2)]}
		},
		func() contract.Term { return contract.Direction{Is: []string{"ltr", "rtl"}[random.IntN(2)]} },
		func() contract.Term {
			return contract.Container{Range: contract.Range{From: []float64{0, 400}[random.IntN(2)], Below: []float64{600, 900}[random.IntN(2)]}}
		},
		func() contract.Term {
			return contract.Viewport{Range: []contract.Range{{From: 1200}, {Below: 1200}}[random.IntN(2)]}
		},
	}
	for n := range 2 + random.IntN(7) {
		var when []contract.Term
		for _, i := range random.Perm(len(terms))[:1+random.IntN(3)] {
			when = append(when, terms[i]())
		}
		part := []string{"root", "label", "item", "entry"}[random.IntN(4)]
		if (part == "item" || part == "entry") && random.IntN(2) == 0 {
			when = append(when, contract.PropIs{Prop: "links.here", Value: contract.FlagValue(random.IntN(2) == 0)})
		}
		c.Rules = append(c.Rules, contract.Rule{Part: part, When: contract.Of(when...), Set: contract.Style{"opacity": strconv.FormatFloat(0.1+float64(n)/20, 'f', -1, 64)}})
	}
	return c
}
