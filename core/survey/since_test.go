package survey_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"cobrik/core/design"
	"cobrik/core/survey"
)

// When this fails, a new revision of a design is read as if it were another, or what came with it goes unseen.
func TestWhatANewRevisionChanges(t *testing.T) {
	row := chips(9, 3, "#eeeeee").Children
	for _, l := range row {
		l.Bounds.X, l.Bounds.Y = l.Bounds.X+20, 500
	}
	before := survey.Read(one(append(row, card(0, 20, 20), card(1, 320, 20), group("g", "Group 14", 20, 300, 90, 40, text("gt", "Title", "a", 0, 0, 30), text("gu", "Note", "b", 0, 20, 8)))...), survey.Options{})
	same := survey.Compare(before, before)
	assert.Equal(t, survey.Since{NewFinds: []string{}, ChangedFinds: []string{}, GoneFinds: []string{}, NewDoubts: []string{}, GoneDoubts: []string{}}, same)

	after := survey.Read(one(card(0, 20, 20), card(1, 320, 20), card(2, 620, 20), group("h", "Group 15", 20, 300, 90, 40, text("ht", "Title", "a", 0, 0, 30), text("hu", "Note", "b", 0, 20, 8))), survey.Options{})
	since := survey.Compare(before, after)
	assert.Equal(t, []string{"repeat:card-0"}, since.ChangedFinds, "one more copy")
	assert.Equal(t, []string{"Chip"}, since.GoneFinds)
	assert.Empty(t, since.NewFinds)
	assert.Equal(t, []string{"layer-name:h"}, since.NewDoubts)
	assert.Len(t, since.GoneDoubts, 1)
	assert.Contains(t, since.GoneDoubts[0], "Group 14")

	back := survey.Compare(after, before)
	assert.Equal(t, []string{"repeat:chip-9-0"}, back.NewFinds)
	renamed := survey.Read(one(card(0, 20, 20), with(card(1, 320, 20), func(l *design.Layer) { l.Link = "/plot" })), survey.Options{})
	assert.Equal(t, []string{"repeat:card-0"}, survey.Compare(survey.Read(one(card(0, 20, 20), card(1, 320, 20)), survey.Options{}), renamed).ChangedFinds, "another prop")
}
