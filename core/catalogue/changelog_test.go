package catalogue_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/catalogue"
	"cobrik/core/contract"
)

func TestAChangelogBeginsWithWhatUsersHaveToFollow(t *testing.T) {
	changes := []contract.Change{
		{Level: contract.Patch, Text: "root · color · tone=ripe is {ink.*} instead of #000"}, {Level: contract.Minor, Text: "the prop size is added"}, {Level: contract.Major, Text: "the prop note is removed"}, {Level: contract.Major, Text: "strong is renamed"},
	}
	assert.Equal(t, "# To follow\n\n- The prop note is removed\n- Strong is renamed\n\n# New\n\n- The prop size is added\n\n# Otherwise\n\n- Root · color · tone=ripe is {ink.\\*} instead of #000", catalogue.Changelog(changes, nil))
	steps := []catalogue.MigrationStep{{What: "note is gone; leave it out."}, {What: "strong is called loud.", Before: "<Tag strong />", After: "<Tag loud />"}}
	text := catalogue.Changelog(changes, steps)
	assert.True(t, strings.HasPrefix(text, "# To follow\n\n- note is gone; leave it out.\n- strong is called loud. Write `<Tag loud />` instead of `<Tag strong />`.\n\n# New"), text)
	rich, err := contract.ReadRich(text)
	require.NoError(t, err)
	assert.Contains(t, rich.String(), "{ink.*}", "what is told is read as marks")
	var many []contract.Change
	for i := range 40 {
		many = append(many, contract.Change{Level: contract.Patch, Text: fmt.Sprint("part ", i)})
	}
	assert.True(t, strings.HasSuffix(catalogue.Changelog(many, nil), "- Part 23\n- and 16 more"))
	assert.Empty(t, catalogue.Changelog(nil, nil))
}
