package ledger_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/ledger"
	"cobrik/core/token"
)

// A part's role, name and level are compared with what was measured; what a browser was not asked
// of, or says where nothing is meant, is told as it is.
func TestAccessIsComparedWithWhatWasMeasured(t *testing.T) {
	root := &design.Layer{ID: "root", Name: "Root", Kind: design.Box, Children: []*design.Layer{{ID: "title", Name: "Title", Kind: design.Text, Text: &design.TextContent{Content: "Plot 41"}}}}
	f := &design.Family{ID: "f", Name: "Thing", Variants: []*design.Variant{{ID: "v", Root: root}}}
	title := &contract.Part{ID: "title", Name: "title", Element: "h3", Layer: "Title", Drawn: []string{"title"}, Content: contract.FixedText{Text: "Plot 41"}}
	c := &contract.Contract{Format: contract.Format, Name: "Thing", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Drawn: []string{"root"}, Children: []*contract.Part{title}}}
	facts := func(measured *ledger.MeasuredAccess) map[string]ledger.Fact {
		out := map[string]ledger.Fact{}
		l := ledger.New(ledger.Agreed{Contract: c, Tokens: token.Empty()}, f)
		for _, fact := range l.Facts(draft.Cases(c, f)[0], &ledger.Measurement{Parts: []ledger.MeasuredPart{{Part: "root"}, {Part: "title", Text: "Plot 41", Access: measured}}}) {
			if fact.Facet == ledger.Access && fact.Part == "title" {
				out[fact.Property] = fact
			}
		}
		return out
	}
	for _, one := range []struct {
		measured  ledger.MeasuredAccess
		different []string
	}{
		{ledger.MeasuredAccess{Role: "heading", Name: "Plot  41", Level: 3}, nil},
		{ledger.MeasuredAccess{Role: "heading", Name: "Plot 42", Level: 2}, []string{"name", "level"}},
		{ledger.MeasuredAccess{}, []string{"role", "name", "level"}},
	} {
		for property, fact := range facts(&one.measured) {
			want := ledger.Agree
			if assert.NotNil(t, fact.Built); slices.Contains(one.different, property) {
				want = ledger.CodeMoved
			}
			assert.Equal(t, want, fact.Verdict, "%s of %v", property, one.measured)
		}
	}
	unasked := facts(nil)
	require.Len(t, unasked, 3)
	assert.Nil(t, unasked["role"].Built)
	assert.Equal(t, ledger.Agree, unasked["role"].Verdict, "what nobody measured has moved")
	title.Element = "div"
	assert.Empty(t, facts(&ledger.MeasuredAccess{}))
	assert.Equal(t, ledger.CodeMoved, facts(&ledger.MeasuredAccess{Role: "heading", Level: 3})["role"].Verdict, "code says more than was agreed")
}
