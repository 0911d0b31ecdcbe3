package trial_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/trial"
)

const sample = `container maximum=1120px padding={space.6}
  h1 "Plots \"and\" beds"
  grid columns=3 gap={space.4}
    below 768 stack gap=8px
    in aside below 400 hidden
    each plot of plots.csv, at most 6
      Card title="Plot {plot.number}" tone={plot.state: half_ripe=half ripe} due
        to foot
          p {plot.holder}
  with note of "my notes.json" at 2
    rich {note.body}
  stack
    below 640
      Card title=One
    from 640 none
  gap "Top bar" height=56px like=Card,Shell
  -- what to remember
  Card links=[{"label":"A \"b\" c","href":"/x"}] count=3 href="/a b"
`

func TestAnOutlineIsReadAndWritten(t *testing.T) {
	rows, found := trial.Parse(sample)
	require.Empty(t, found)
	assert.Equal(t, sample, trial.Text(rows), "what people typed is another thing once it is kept")
}

// randomRows writes outlines of every kind of row.
func randomRows(r *rand.Rand, depth int) string {
	heads := []string{"stack", "row wrap", "grid columns=2", "box", `p "a"`, `h2 "x \\ \" y"`, "Card", `Card title="{a}" due`, "each r of a.csv", "with r of b.json at 3", "to foot", "below 640", "from 640 below 900 gap=4px",
		"in aside from 10", "in container below 300 stack", "from 9 none", "gap \"G\" like=A", "-- note", "img {r.p: alt q}", `Card links=[{"a":[1,2]}]`, "row padding-block=\"1px 2px\" gap={space.1}"}
	var b strings.Builder
	for range 1 + r.IntN(4) {
		fmt.Fprintf(&b, "%s%s\n", strings.Repeat("  ", depth), heads[r.IntN(len(heads))])
		if depth < 6 && r.IntN(2) == 0 {
			b.WriteString(randomRows(r, depth+1))
		}
	}
	return b.String()
}

func TestAnyOutlineIsTheSameAgain(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	for range 500 {
		text := randomRows(r, 0)
		rows, found := trial.Parse(text)
		require.Empty(t, found, text)
		require.Equal(t, text, trial.Text(rows))
	}
}

func TestRowsThatCannotBeRead(t *testing.T) {
	for text, want := range map[string]string{
		"stack\n   h1 \"a\"":        "the row stands in no row",
		"h1 \"a\"\n    p \"b\"":     "the row stands in no row",
		"\tstack":                   "indented by a tab",
		"flup":                      `no primitive and no element "flup"`,
		`p "open`:                   "the text has no end",
		"p {open":                   "the field has no end",
		"p {}":                      "no field is named",
		"stack gap":                 "",
		"stack gap=":                "gap has no value",
		"stack gap=1px gap=2px":     "gap is given twice",
		"stack gap!2":               "gap has no value that could be read",
		"each plot plots.csv":       "what a record is called",
		"each of plots.csv":         "what a record is called",
		"each p of plots.csv, many": "nothing can stand here: many",
		"with p of plots.csv at 0":  "is no number",
		"below x":                   "the width is no number",
		"below":                     `no primitive and no element "below"`,
		"from 640 below 640":        "no range of widths",
		"in aside":                  "no range of widths",
		"in 4":                      "the container is not named",
		"to":                        "the slot is not named",
		"to foot now":               "nothing can stand here: now",
		"from 3 none gap=1px":       "nothing can stand here",
		`Card "text"`:               "it is not said what this is given for",
		"Card links=[1":             "the value cannot be read",
		"!":                         "a row begins with a name",
	} {
		_, found := trial.Parse(text)
		if want == "" {
			assert.Empty(t, found, text)
			continue
		}
		require.Len(t, found, 1, "%q is read as something that nobody typed", text)
		assert.Contains(t, found[0].Message, want, text)
		assert.Positive(t, found[0].Line)
		assert.NotEmpty(t, found[0].Message)
	}
}

func TestWhatStandsInARowThatCannotBeReadIsLeftOut(t *testing.T) {
	rows, found := trial.Parse("stack\n  flup\n    p \"gone\"\n  p \"there\"\n")
	require.Len(t, found, 1)
	assert.Equal(t, "stack\n  p \"there\"\n", trial.Text(rows))
	assert.Equal(t, 2, found[0].Line)
	assert.Equal(t, 3, found[0].Column)
}

func TestOutlinesAreBounded(t *testing.T) {
	_, found := trial.Parse(strings.Repeat("box\n", 5_000))
	require.Len(t, found, 1)
	assert.Equal(t, "row-count", found[0].Rule)
	var deep strings.Builder
	for i := range 60 {
		deep.WriteString(strings.Repeat("  ", i) + "box\n")
	}
	_, found = trial.Parse(deep.String())
	require.NotEmpty(t, found)
	assert.Equal(t, "row-depth", found[0].Rule)
	_, found = trial.Parse("p \"" + strings.Repeat("a", 200_000) + "\"")
	require.Len(t, found, 1)
}

func FuzzParse(f *testing.F) {
	f.Add(sample)
	f.Add("stack\n  below 640\n")
	f.Add("Card links=[{\"a\":\"\\u0000\"}]\n  to x")
	f.Add("p \"\\")
	f.Fuzz(func(t *testing.T, text string) {
		rows, _ := trial.Parse(text)
		again, found := trial.Parse(trial.Text(rows))
		if len(found) > 0 {
			t.Fatalf("what was read is not read again: %v\n%q\n%q", found, text, trial.Text(rows))
		}
		if trial.Text(again) != trial.Text(rows) {
			t.Fatalf("read again it is another: %q", text)
		}
		trial.Compile(world(t), rows)
	})
}
