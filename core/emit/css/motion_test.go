package css_test

import (
	"context"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
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

// Who asks for less motion gets none of it, wherever a rule says one (WCAG 2.2, 2.3.3; Media Queries 5, 11.1); the preview shows it as it is said.
func TestLessMotionIsRespected(t *testing.T) {
	c := &contract.Contract{Format: contract.Format, Name: "Moving", Props: []contract.Prop{{ID: "slow", Name: "slow", Type: contract.Flag{Initial: true}}},
		Root:  &contract.Part{ID: "root", Name: "root", Element: "div", Style: contract.Style{"transition": "opacity 1s"}, Children: []*contract.Part{{ID: "still", Name: "still", Element: "p", Style: contract.Style{"transition": "none"}}}},
		Rules: []contract.Rule{{Part: "root", When: contract.Of(contract.PropIs{Prop: "slow", Value: contract.FlagValue(true)}), Set: contract.Style{"transition": "opacity 3s"}}}}
	for _, k := range []struct {
		m         *ir.Module
		asks      string
		transited string
	}{{ir.Lower(c), "no-preference", "3s"}, {ir.Lower(c), "reduce", "0s"}, {ir.LowerForced(c), "reduce", "3s"}} {
		reference.OnPage(t, sheet.Module(k.m, output.PropertiesOf(token.Empty())), emittest.Markup(k.m, nil), func(ctx context.Context) {
			_, err := chromedp.Run(ctx, func(ctx context.Context, t *chromedp.Target) (chromedp.Void, error) {
				_, err := cdp.Call(ctx, t, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{Features: []*emulation.MediaFeature{{Name: "prefers-reduced-motion", Value: k.asks}}})
				return chromedp.Void{}, err
			})
			require.NoError(t, err)
			got, err := chromedp.Run(ctx, chromedp.Evaluate[string](`getComputedStyle(document.querySelector("[data-part=root]")).transitionDuration`))
			require.NoError(t, err)
			assert.Equal(t, k.transited, got, "where %s is asked for", k.asks)
		})
	}
}
