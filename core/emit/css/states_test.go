package css_test

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
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

// stateful is a component with a rule for every state, each of which sets a property of its
// own, and flags for those that data sets.
func stateful(element string) *contract.Contract {
	c := &contract.Contract{Format: contract.Format, Name: "Stateful", Root: &contract.Part{ID: "root", Name: "root", Element: element, Style: contract.Style{"width": "80px", "height": "40px"}}}
	for i, state := range contract.States {
		c.Rules = append(c.Rules, contract.Rule{Part: "root", When: contract.Of(contract.InState{State: state}), Set: contract.Style{ownProperty[i]: "7px"}})
		switch state {
		case "hover", "active", "focus-visible":
		default:
			name := contract.Identifier(state, "x")
			c.Props = append(c.Props, contract.Prop{ID: name, Name: name, Type: contract.Flag{}})
		}
	}
	return c
}

// ownProperty is the property that a state's rule sets.
var ownProperty = []string{"margin-left", "margin-top", "row-gap", "column-gap", "min-width", "min-height", "letter-spacing", "left", "top", "right", "bottom", "max-height"}

// A component looks in a state that is forced on it as it looks when people, keys or data
// bring the state about (Selectors 4, 9; WAI-ARIA 1.2, 6.6).
func TestForcedStatesLookAsTheBrowsersOwn(t *testing.T) {
	reference.NeedChromium(t)
	require.Len(t, ownProperty, len(contract.States))
	ctx := reference.Browser(t, []chromedp.ExecAllocatorOption{
		chromedp.Flag("blink-settings", "primaryHoverType=2,availableHoverTypes=2,primaryPointerType=4,availablePointerTypes=4"), // a mouse, which the machine may not have
	}, chromedp.Navigate("about:blank"))
	ctx, end := context.WithTimeout(ctx, time.Minute)
	defer end()
	for _, element := range []string{"button", "div"} {
		c := stateful(element)
		require.Empty(t, c.Check(token.Empty()))
		none := output.PropertiesOf(token.Empty())
		var body strings.Builder
		fmt.Fprintf(&body, `<style>body { margin: 0 } div, button { box-sizing: content-box }</style><style>.natural { %s }</style><style>.forced { %s }</style>`, sheet.Module(ir.Lower(c), none), sheet.Module(ir.LowerForced(c), none))
		natural := func(state string) {
			values := contract.Values{}
			if p := c.Prop(contract.Identifier(state, "x")); p != nil {
				values[p.ID] = contract.FlagValue(true)
			}
			markup := emittest.Markup(ir.Lower(c), values)
			if state == "focus-visible" && element == "div" {
				markup = strings.Replace(markup, "<div", `<div tabindex="0"`, 1)
			}
			fmt.Fprintf(&body, `<div class="natural" data-of="%s">%s</div>`, state, markup)
		}
		for _, state := range append([]string{""}, contract.States...) {
			natural(state)
			forced := ir.LowerForced(c)
			forced.Root.Attributes = append(forced.Root.Attributes, ir.Attribute{Name: ir.ForcedStates, Value: state})
			fmt.Fprintf(&body, `<div class="forced" data-of="%s">%s</div>`, state, emittest.Markup(forced, nil))
		}
		text, err := json.Marshal(body.String())
		require.NoError(t, err)
		require.NoError(t, chromedp.Do(ctx, chromedp.EmulateViewport(800, 3000), chromedp.Navigate("data:text/html,<!DOCTYPE html><body>")))
		_, err = chromedp.Run(ctx, chromedp.Evaluate[bool](`(document.body.innerHTML = `+string(text)+`, true)`))
		require.NoError(t, err)
		look := func(kind, state string) map[string]string {
			out, err := chromedp.Run(ctx, chromedp.Evaluate[map[string]string](fmt.Sprintf(`(() => { const s = getComputedStyle(document.querySelector(".%s[data-of='%s'] [data-part]")); return Object.fromEntries(%s.map((p) => [p, s.getPropertyValue(p)])) })()`, kind, state, properties())))
			require.NoError(t, err)
			return out
		}
		middle := func(state string) (x, y float64) {
			at, err := chromedp.Run(ctx, chromedp.Evaluate[[2]float64](fmt.Sprintf(`(() => { const b = document.querySelector(".natural[data-of='%s'] [data-part]").getBoundingClientRect(); return [b.x + 40, b.y + 20] })()`, state)))
			require.NoError(t, err)
			return at[0], at[1]
		}
		plain := look("natural", "")
		for i, state := range contract.States {
			want := look("forced", state)
			require.Equal(t, "7px", want[ownProperty[i]], "%s: forcing %s does nothing", element, state)
			x, y := middle(state)
			release := func() {}
			switch state {
			case "hover":
				require.NoError(t, chromedp.Do(ctx, chromedp.MouseEvent("mouseMoved", x, y)))
				release = func() { require.NoError(t, chromedp.Do(ctx, chromedp.MouseEvent("mouseMoved", 700, 10))) }
			case "active":
				require.NoError(t, chromedp.Do(ctx, chromedp.MouseEvent("mousePressed", x, y, chromedp.ButtonLeft, chromedp.ClickCount(1))))
				release = func() {
					require.NoError(t, chromedp.Do(ctx, chromedp.MouseEvent("mouseReleased", x, y, chromedp.ButtonLeft, chromedp.ClickCount(1)), chromedp.MouseEvent("mouseMoved", 700, 10)))
				}
			case "focus-visible":
				_, err := chromedp.Run(ctx, chromedp.Evaluate[bool](`(document.querySelector(".natural[data-of='focus-visible'] [data-part]").focus({ focusVisible: true }), true)`))
				require.NoError(t, err)
			}
			got := look("natural", state)
			release()
			if state == "active" { // whoever presses with a mouse is over it, too
				assert.Equal(t, "7px", got[ownProperty[0]], "pressed, and not hovered")
				got[ownProperty[0]] = want[ownProperty[0]]
			}
			assert.Equal(t, want, got, "%s: %s", element, state)
			assert.NotEqual(t, plain, got, "%s: %s does nothing", element, state)
		}
	}
}

func properties() string {
	text, err := json.Marshal(ownProperty)
	if err != nil {
		panic(err) // strings
	}
	return string(text)
}
