package behaviour_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
)

// A machine is changed where it is drawn: what names a state follows it, and what speaks of one that is gone goes with it.
func TestAMachineIsRedrawn(t *testing.T) {
	c := &contract.Contract{Format: contract.Format, Name: "Lamp", Props: []contract.Prop{{ID: "status", Name: "status", Type: contract.Choice{Options: []string{"idle", "busy"}, Initial: "idle"}}}, Root: &contract.Part{ID: "root", Name: "root", Element: "button"},
		Rules: []contract.Rule{{Part: "root", When: contract.Of(contract.InState{State: "running"}), Set: contract.Style{"opacity": "0.5"}}, {Part: "root", When: contract.Of(contract.InState{State: "idle"}), Set: contract.Style{"opacity": "0.9"}}},
		Cases: []contract.SavedCase{{Name: "runs", Look: contract.Look{State: "running"}}}}
	words := "machine Lamp\nexpects idle, then running\nstate idle\n  on press of root: to running\nstate running, at first slow\n  after 900 ms if In('slow'): to idle\n  on event done.state.running: to idle\n  opacity of root is In('running')\n  state slow\n    on press of root: to fast\n  state fast\n  history last, at first slow\n"
	m, found := behaviour.ParseText(words, c)
	require.Empty(t, found)
	m.Root.States[1].Sets = nil
	chart, problems := behaviour.Compile(m)
	require.Empty(t, problems)
	c.Behaviour = &contract.Behaviour{Machine: chart}
	before := string(c.JSON())
	do := func(from *contract.Contract, r behaviour.Redraw) *contract.Contract {
		out, err := behaviour.Redrawn(from, r)
		require.NoError(t, err, "%+v", r)
		return out
	}
	text := func(c *contract.Contract) string { return behaviour.Of(c).Words(c) }

	renamed := do(c, behaviour.Redraw{Do: "rename", State: "running", To: "on"})
	assert.Equal(t, "machine Lamp\nexpects idle, then on\nstate idle\n  on press of root: to on\nstate on, at first slow\n  after 900 ms if In('slow'): to idle\n  on event done.state.on: to idle\n  state slow\n    on press of root: to fast\n  state fast\n  history last, at first slow\n", text(renamed))
	assert.Equal(t, contract.Term(contract.InState{State: "on"}), renamed.Rules[0].When.Terms()[0])
	assert.Equal(t, "on", renamed.Cases[0].State)
	slow := do(c, behaviour.Redraw{Do: "rename", State: "slow", To: "easy"})
	assert.Contains(t, text(slow), "after 900 ms if In('easy'): to idle")
	assert.Contains(t, text(slow), "history last, at first easy")

	gone := do(c, behaviour.Redraw{Do: "remove", State: "running"})
	assert.Equal(t, "machine Lamp\nexpects idle\nstate idle\n", text(gone))
	assert.Len(t, gone.Rules, 1)
	assert.Equal(t, "", gone.Cases[0].State)

	added := do(do(c, behaviour.Redraw{Do: "add", State: "idle", To: "broken"}), behaviour.Redraw{Do: "add", To: "last2"})
	assert.Equal(t, []string{"idle", "broken", "running", "last2"}, func() (out []string) {
		for _, s := range behaviour.Of(added).Machine.Root.States {
			out = append(out, s.ID)
		}
		return out
	}())
	led := do(added, behaviour.Redraw{Do: "lead", State: "broken", To: "idle", On: "press of root"})
	led = do(led, behaviour.Redraw{Do: "lead", State: "broken", To: "running", On: "after 50 ms when (status = busy)"})
	assert.Contains(t, text(led), "state broken\n  on press of root: to idle\n  after 50 ms when (status = busy): to running\n")
	cut := do(led, behaviour.Redraw{Do: "cut", State: "broken", To: "idle"})
	assert.Contains(t, text(cut), "state broken\n  after 50 ms when (status = busy): to running\n")
	assert.Equal(t, before, string(c.JSON()), "what it was made of has changed")

	for _, k := range []struct {
		says string
		r    behaviour.Redraw
	}{
		{`there is no state "off"`, behaviour.Redraw{Do: "rename", State: "off", To: "x"}},
		{"there is a state idle already", behaviour.Redraw{Do: "rename", State: "running", To: "idle"}},
		{"there is a state idle already", behaviour.Redraw{Do: "add", State: "running", To: "idle"}},
		{"two words", behaviour.Redraw{Do: "add", To: "two words"}},
		{`there is no state "off" to lead to`, behaviour.Redraw{Do: "lead", State: "idle", To: "off", On: "press of root"}},
		{"say in one line", behaviour.Redraw{Do: "lead", State: "idle", To: "running"}},
		{"there is no event", behaviour.Redraw{Do: "lead", State: "idle", To: "running", On: "shouting of root"}},
		{"nothing leads from running to running", behaviour.Redraw{Do: "cut", State: "running", To: "running"}},
		{"nobody can paint a state", behaviour.Redraw{Do: "paint", State: "running"}},
		{"there is no state", behaviour.Redraw{Do: "remove", State: "root"}},
	} {
		_, err := behaviour.Redrawn(c, k.r)
		assert.ErrorContains(t, err, k.says, "%+v", k.r)
	}
	given := chart.Machine
	given.Given = "status"
	_, err := behaviour.Redrawn(c, behaviour.Redraw{Do: "rename", State: "idle", To: "rest"})
	assert.ErrorContains(t, err, "rename the option")
}
