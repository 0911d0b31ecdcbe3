package drift_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/yuin/goldmark"

	"cobrik/core/contract"
	"cobrik/core/drift"
)

func on(day, hour int) time.Time { return time.Date(2026, 3, day, hour, 0, 0, 0, time.UTC) }

func rulings() []drift.Ruling {
	undone := on(3, 1)
	return []drift.Ruling{
		{ID: 1, Component: "crop-tag", Of: "CropTag", Lane: drift.Design, At: "design revision 2", By: "Ines", When: on(1, 9), Version: "1.1.0", Decided: []drift.Decided{
			{Said: "label · color: {a} → {b}", Way: drift.Take, Bump: contract.Patch, From: "{a}", To: "{b}"},
			{Said: "root · gap: 8px → 9px", Way: drift.Keep, Bump: contract.Patch},
		}},
		{ID: 2, Component: "plot-card", Of: "PlotCard", Lane: drift.Code, At: "commit c9aca01", By: "Ruth", When: on(2, 9), Reason: "Thumbs need room.", Decided: []drift.Decided{
			{Said: "body · padding: {card.pad} → 18px", Way: drift.Leave}, {Said: "title · color", Way: drift.Back}, {Said: "the code has the prop note", Way: drift.Take, Bump: contract.Minor}, {Said: "body · gap", Way: drift.Ask},
		}},
		{ID: 3, Component: "tool-row", Of: "ToolRow", Lane: drift.Code, At: "commit c9aca01", By: "Ruth", When: on(2, 10), Undone: &undone, Decided: []drift.Decided{{Said: "undone thing", Way: drift.Back}}},
	}
}

// Designers and developers each read what is theirs, the newest first, and nothing that was undone.
func TestChangelogsAreOfTheirReaders(t *testing.T) {
	designers, developers := drift.Changelog(rulings(), drift.Designers, "Hollowbeck"), drift.Changelog(rulings(), drift.Developers, "Hollowbeck")
	for text, readers := range map[string][2]bool{
		"Taken from the design: label · color":            {true, true},
		"Kept as the contract has it: root · gap":         {true, false},
		"Left in the code: body · padding":                {false, true},
		"Put back in the code: title · color":             {false, true},
		"Taken from the code: the code has the prop note": {true, true},
		"Asked of the designer: body · gap":               {true, false},
		"(minor)":                                         {false, true},
		"CropTag 1.1.0":                                   {false, true},
		"Why: Thumbs need room.":                          {true, true},
		"undone thing":                                    {false, false},
	} {
		assert.Equal(t, readers[0], strings.Contains(designers, text), "designers: %s\n%s", text, designers)
		assert.Equal(t, readers[1], strings.Contains(developers, text), "developers: %s\n%s", text, developers)
	}
	assert.Less(t, strings.Index(developers, "2026-03-02"), strings.Index(developers, "2026-03-01"))
	assert.Contains(t, drift.Changelog(nil, drift.Designers, "x"), "Nothing was decided yet.")
}

// Names and reasons are text, whatever they hold: a CommonMark renderer shows them as they are.
func TestWhatPeopleSayIsNoMarkup(t *testing.T) {
	nasty := "**<b>#1</b>** [x](javascript:1) `y` | _z_\n# head & ~~gone~~"
	r := drift.Ruling{Of: nasty, Lane: drift.Design, At: "design revision 2", By: nasty, Reason: nasty, When: on(1, 1), Decided: []drift.Decided{{Said: nasty, Way: drift.Take}}}
	var out strings.Builder
	require.NoError(t, goldmark.Convert([]byte(drift.Changelog([]drift.Ruling{r}, drift.Designers, nasty)), &out))
	shown := "**&lt;b&gt;#1&lt;/b&gt;** [x](javascript:1) `y` | _z_ # head &amp; ~~gone~~"
	assert.Equal(t, 5, strings.Count(out.String(), shown), out.String())
	assert.NotContains(t, out.String(), "<b>")
	assert.NotContains(t, out.String(), "<a ")
}

func TestDecisionsAreFound(t *testing.T) {
	for words, want := range map[string][]int64{
		"":                 {1, 2, 3},
		"croptag":          {1},
		"RUTH put back":    {2, 3},
		"thumbs":           {2},
		"1.1.0":            {1},
		"2026-03-02 18px":  {2},
		"revision 2 taken": {1},
		"nothing of it":    nil,
	} {
		var got []int64
		for _, r := range drift.Find(rulings(), words) {
			got = append(got, r.ID)
		}
		assert.Equal(t, want, got, words)
	}
}

func TestTheLastThatStandsCanBeUndone(t *testing.T) {
	gone := on(5, 1)
	list := []drift.Ruling{{Component: "a"}, {Component: "b"}, {Component: "a"}, {Component: "a", Undone: &gone}, {Component: "c"}, {Component: "c", Version: "1.1.0"}}
	drift.MarkUndoable(list)
	var can []bool
	for _, r := range list {
		can = append(can, r.Undoable)
	}
	assert.Equal(t, []bool{false, true, true, false, false, false}, can)
}
