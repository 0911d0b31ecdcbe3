package react_test

import (
	"context"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/emit/react"
	"cobrik/core/token"
	"cobrik/core/token/output"
)

// A panel goes from nothing to the size of its content, and back, in its transition, though nobody says how large that is; where less motion is asked for, at once.
func TestAPanelUnfolds(t *testing.T) {
	c := stocked(t, "Folded", "disclosure", behaviour.Choices{})
	c.Part("panel").Style = contract.Style{"transition": "height 400ms ease-in, opacity 400ms linear", "padding-block": "10px", "line-height": "30px"}
	files := react.Library("folded", []*contract.Contract{c}, output.PropertiesOf(token.Empty()), react.Options{})
	assertLaidOut(t, files)
	b := openComponents(t, []*contract.Contract{c})
	m := b.mount(c, "ltr")
	panel := m.part("panel")
	type seen struct {
		Height, Opacity float64
		Shown           bool
		Moves           int
	}
	press := func() { evaluate[bool](b, m.part("button")+".click(); true") }
	// at is the panel so many ms into its transitions, which stand still there.
	at := func(ms int) seen {
		return evaluate[seen](b, "new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => { const p = "+panel+"; const moves = p.getAnimations(); for (const a of moves) { a.pause(); a.currentTime = "+quoted(t, ms)+
			"; } const s = getComputedStyle(p); done({ Height: p.getBoundingClientRect().height, Opacity: Number(s.opacity), Shown: s.display !== 'none', Moves: moves.length }) })))")
	}
	over := func() { evaluate[bool](b, "for (const a of "+panel+".getAnimations()) a.finish(); true") }
	require.False(t, at(0).Shown)
	press()
	half := at(200)
	assert.True(t, half.Shown)
	assert.Positive(t, half.Moves, "nothing moves")
	assert.Greater(t, half.Height, 1.0)
	assert.Less(t, half.Height, 45.0)
	assert.InDelta(t, 0.5, half.Opacity, 0.01)
	over()
	whole := at(400)
	assert.InDelta(t, 50, whole.Height, 0.5, "30 px of a line and 20 of padding")
	press()
	half = at(200)
	assert.True(t, half.Shown, "it is gone before it has folded")
	assert.Greater(t, half.Height, 1.0)
	assert.Less(t, half.Height, 49.0)
	over()
	assert.False(t, at(400).Shown)

	require.NoError(t, chromedp.Do(b.ctx, func(ctx context.Context, target *chromedp.Target) (chromedp.Void, error) {
		_, err := cdp.Call(ctx, target, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{Features: []*emulation.MediaFeature{{Name: "prefers-reduced-motion", Value: "reduce"}}})
		return chromedp.Void{}, err
	}))
	press()
	still := at(0)
	assert.Equal(t, 0, still.Moves)
	assert.InDelta(t, 50, still.Height, 0.5)
}
