package react_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/emit/react"
	"cobrik/core/token"
	"cobrik/core/token/output"
)

// A switch point of the container that is crossed is heard, and what is heard can ask how wide it is.
func TestASwitchPointIsCrossed(t *testing.T) {
	c := &contract.Contract{Format: contract.Format, Name: "Wide", Props: []contract.Prop{}, Root: &contract.Part{ID: "root", Name: "root", Element: "div", Style: contract.Style{"width": "100%"}, Children: []*contract.Part{{ID: "more", Name: "more", Element: "button", Content: contract.FixedText{Text: "More"}}}}}
	m, found := behaviour.ParseText("machine Wide\nstate side\n  on crossed when (container < 400px): to stacked\n  on press of more when (container >= 700px): to open\n  aria-label of more is 'side'\nstate stacked\n  on crossed when (container >= 400px): to side\n  aria-label of more is 'stacked'\nstate open\n  on press of more: to side\n  aria-label of more is 'open'\n", c)
	require.Empty(t, found)
	chart, problems := behaviour.Compile(m)
	require.Empty(t, problems)
	c.Behaviour = &contract.Behaviour{Machine: chart}
	checked := c.Check(nil)
	require.NoError(t, checked.Err())
	assert.Equal(t, []float64{400, 700}, c.SwitchPoints())
	for _, f := range chart.Check(behaviour.OptionsFor(c)).Findings {
		assert.Fail(t, f.Message)
	}
	files := react.Library("wide", []*contract.Contract{c}, output.PropertiesOf(token.Empty()), react.Options{})
	assertLaidOut(t, files)
	assertLinted(t, files)

	b := openComponents(t, []*contract.Contract{c})
	at := b.mount(c, "ltr")
	label := func() string {
		return evaluate[string](b, `document.querySelector("main button").getAttribute("aria-label")`)
	}
	wide := func(px string) {
		evaluate[bool](b, `document.querySelector("main").style.width = "`+px+`"; new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(done, 0, true))))`)
	}
	press := func() { evaluate[bool](b, `document.querySelector("main button").click(); true`) }
	assert.Equal(t, "side", label())
	wide("500px")
	assert.Equal(t, "side", label(), "500 px is none of its switch points")
	press()
	assert.Equal(t, "side", label(), "it opens where there is no room")
	wide("399px")
	assert.Equal(t, "stacked", label())
	wide("400px")
	assert.Equal(t, "side", label())
	wide("700px")
	press()
	assert.Equal(t, "open", label())
	complaints := evaluate[[]string](b, "complaints.splice(0)")
	for _, said := range complaints {
		assert.Contains(t, said, "React DevTools")
	}
	_ = at

	for words, says := range map[string]string{
		"on crossed 400 when (container < 400px): to b":  "a single switch point",
		"after 20 ms when (container < 400px): to b":     "asked for where nothing is heard",
		"on crossed when (container main < 400px): to b": "or of another",
		"on crossed when (viewport < 400px): to b":       "which code does not know",
	} {
		m, found := behaviour.ParseText("machine w\nstate a\n  "+words+"\nstate b\n  on press: to a\n", c)
		require.Empty(t, found, words)
		chart, problems := behaviour.Compile(m)
		require.Empty(t, problems)
		_, refused := chart.Flatten()
		require.NotEmpty(t, refused, words)
		assert.Contains(t, refused[0].Message, says)
	}
}
