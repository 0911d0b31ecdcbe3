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
	"cobrik/core/emit/ir"
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
		Height, Opacity, Padding float64
		Shown                    bool
		Moves                    int
	}
	press := func() { evaluate[bool](b, m.part("button")+".click(); true") }
	// at is the panel so many ms into its transitions, which stand still there.
	at := func(ms int) seen {
		return evaluate[seen](b, "new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => { const p = "+panel+"; const moves = p.getAnimations(); for (const a of moves) { a.pause(); a.currentTime = "+quoted(t, ms)+
			"; } const s = getComputedStyle(p); done({ Height: p.getBoundingClientRect().height, Opacity: Number(s.opacity), Padding: parseFloat(s.paddingTop), Shown: s.display !== 'none', Moves: moves.length }) })))")
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
	assert.Greater(t, half.Padding, 0.5, "the padding comes at once")
	assert.Less(t, half.Padding, 9.5, "the padding comes at once")
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

// What is hidden stays as long as the longest of what moves, with its delay; the padding goes with the height.
func TestWhatIsHiddenStaysUntilAllIsOver(t *testing.T) {
	for transition, want := range map[string]string{
		"opacity 100ms, height 0.4s ease-in":            "padding-block 0.4s ease-in, display 0.4s ease-in allow-discrete",
		"height 100ms, opacity 50ms linear 90ms":        "padding-block 100ms, display 50ms linear 90ms allow-discrete",
		"color 900ms, opacity 200ms":                    "display 200ms allow-discrete",
		"opacity 900ms, height {motion.calm} {curve.a}": "padding-block {motion.calm} {curve.a}, display {motion.calm} {curve.a} allow-discrete",
	} {
		c := stocked(t, "Folded", "disclosure", behaviour.Choices{})
		c.Part("panel").Style = contract.Style{"transition": transition}
		var got string
		for _, r := range ir.Lower(c).Rules {
			if moves := r.Declarations["transition"]; moves != "" {
				got = moves
			}
		}
		assert.Equal(t, transition+", "+want, got)
	}
}
