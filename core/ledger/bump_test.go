package ledger_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/ledger"
)

// What a component does is part of what is agreed with those who use it: that it does nothing any longer is major, anything else that it does otherwise is minor.
func TestABehaviourBumps(t *testing.T) {
	with := func(words string) *contract.Contract {
		c := &contract.Contract{Format: contract.Format, Name: "Lamp", Root: &contract.Part{ID: "root", Name: "root", Element: "button"}}
		if words != "" {
			m, found := behaviour.ParseText(words, c)
			require.Empty(t, found)
			chart, problems := behaviour.Compile(m)
			require.Empty(t, problems)
			c.Behaviour = &contract.Behaviour{Machine: chart}
		}
		return c
	}
	const lamp = "machine lamp\nstate off\n  on press of root: to on\nstate on\n  after 10 ms: to off\n"
	for _, k := range []struct {
		old, now string
		level    contract.Level
		texts    []string
	}{
		{lamp, lamp, contract.None, nil},
		{"", lamp, contract.Minor, []string{"it does something by itself: it can be off, on"}},
		{lamp, "", contract.Major, []string{"it does nothing by itself any longer"}},
		{lamp, "machine lamp\nstate off\n  on press of root: to on\nstate on\n  after 20 ms: to off\n", contract.Minor, []string{"it does otherwise what it does by itself"}},
		{lamp, "machine lamp\nstate off\n  on press of root: to lit\nstate lit\n  after 10 ms: to off\n", contract.Minor, []string{"it can no longer be on", "it can be lit"}},
	} {
		level, changes := ledger.Changes(with(k.old), with(k.now))
		var texts []string
		for _, c := range changes {
			texts = append(texts, c.Text)
		}
		assert.Equal(t, k.level, level)
		assert.Equal(t, k.texts, texts)
	}
}

// What is said of a component as a whole is a change to be told, and a deprecation a minor one (Semantic Versioning 2.0.0, 7).
func TestWhatIsSaidOfAComponentRaisesItsVersion(t *testing.T) {
	base := func() *contract.Contract {
		return &contract.Contract{Format: contract.Format, Name: "Lamp", Root: &contract.Part{ID: "root", Name: "root", Element: "button"}}
	}
	for _, k := range []struct {
		change func(c *contract.Contract)
		level  contract.Level
		text   string
	}{
		{func(c *contract.Contract) { c.Deprecated = &contract.Deprecation{Why: "Too dim", Instead: "PumpLamp"} }, contract.Minor, "it is deprecated: Too dim. Use PumpLamp instead."},
		{func(c *contract.Contract) { c.Deprecated = &contract.Deprecation{} }, contract.Minor, "it is deprecated: It is not to be used any longer."},
		{func(c *contract.Contract) { c.Purpose = "Says that water runs." }, contract.Patch, "its purpose is told otherwise"},
		{func(c *contract.Contract) { c.Do = []string{"One a pump."} }, contract.Patch, "what it is meant for is told otherwise"},
		{func(c *contract.Contract) { c.Dont = []string{"No decoration."} }, contract.Patch, "what it is not meant for is told otherwise"},
		{func(c *contract.Contract) { c.Owner = "Ines" }, contract.Patch, "its owner is another"},
		{func(c *contract.Contract) { c.Links = []contract.Reference{{Text: "a", Address: "/a"}} }, contract.Patch, "what to read of it is another"},
		{func(c *contract.Contract) { c.Notes = contract.Plain("a") }, contract.Patch, "the notes on it are others"},
	} {
		now := base()
		k.change(now)
		level, changes := ledger.Changes(base(), now)
		assert.Equal(t, k.level, level)
		assert.Equal(t, []contract.Change{{Level: k.level, Text: k.text}}, changes)
		if now.Deprecated != nil {
			_, back := ledger.Changes(now, base())
			assert.Equal(t, []contract.Change{{Level: contract.Minor, Text: "it is no longer deprecated"}}, back)
		}
	}
}
