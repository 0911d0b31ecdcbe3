package trial_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/trial"
)

// updated compares a page with itself once its card is another.
func updated(t *testing.T, outline string, change func(c *contract.Contract)) trial.Update {
	t.Helper()
	rows, found := trial.Parse(outline)
	require.Empty(t, found)
	w := world(t)
	before := trial.Compile(w, rows)
	w.Component = func(name string) *contract.Contract {
		if name != "Card" {
			return nil
		}
		c := card()
		change(c)
		return c
	}
	return trial.Updated(before, trial.Compile(w, rows), w.Tokens)
}

func TestWhatAReleaseDoesToAPage(t *testing.T) {
	const outline = "Card title=A\nCard title=B tone=ripe\neach p of plots.csv\n  Card title={p.holder} tone={p.state: half_ripe=half ripe}\n"
	u := updated(t, outline, func(*contract.Contract) {})
	assert.Empty(t, u.Changed)
	assert.Empty(t, u.Breaks)
	assert.Equal(t, 5, u.Same)

	u = updated(t, outline, func(c *contract.Contract) { c.Rules[0].Set = contract.Style{"background-color": "#ff0000"} })
	require.Len(t, u.Changed, 2, "of five uses two are ripe: %v", u.Changed)
	assert.Equal(t, trial.UseChange{Line: 2, Key: "card2", Component: "Card", What: []string{"root: background-color #ffcc00 → #ff0000"}}, u.Changed[0])
	assert.Equal(t, "card3", u.Changed[1].Key, "of a list the records it is so for are told")
	assert.Equal(t, 3, u.Same)

	u = updated(t, outline, func(c *contract.Contract) { c.Rules[1].Set = contract.Style{"font-size": "12px"} })
	require.Len(t, u.Changed, 5, "what changes on the narrow side of a switch point goes unseen")
	assert.Equal(t, []string{"title: font-size 14px → 12px, below 300px"}, u.Changed[0].What)

	u = updated(t, outline, func(c *contract.Contract) { c.Root.Children = c.Root.Children[:2] })
	assert.Contains(t, u.Changed[0].What, "body is gone")

	u = updated(t, outline, func(c *contract.Contract) {
		tone := c.Prop("tone")
		tone.Name, tone.Type = "mood", contract.Choice{Options: []string{"plain", "ripe"}, Initial: "plain"}
		c.Rules = c.Rules[:1]
	})
	var said []string
	for _, p := range u.Breaks {
		said = append(said, p.Message)
	}
	assert.Contains(t, said, "Card has no prop tone", "a release that breaks a page is not seen before it is made")
}

func TestOnlyTheFirstFewChangesAreTold(t *testing.T) {
	u := updated(t, "Card title=A\n", func(c *contract.Contract) {
		c.Root.Style = contract.Style{"color": "#112233", "padding-block": "1px", "padding-inline": "2px", "gap": "3px", "opacity": "0.5", "font-size": "9px", "border-radius": "2px", "line-height": "12px"}
	})
	require.Len(t, u.Changed, 1)
	assert.Len(t, u.Changed[0].What, 6)
	assert.Greater(t, u.Changed[0].More, 0)
}

func TestWhatIsWrongAlreadyIsNoReleasesFault(t *testing.T) {
	u := updated(t, "Card title=A flup=1\nShell\n", func(c *contract.Contract) { c.Root.Style = contract.Style{"opacity": "0.5"} })
	assert.Empty(t, u.Breaks)
	assert.Len(t, u.Changed, 1)
}
