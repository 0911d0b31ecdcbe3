package css_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"cobrik/core/css"
)

// Two people who changed different sides of a padding both get theirs; who changed the same side has to talk.
func TestChangesOfDifferentPiecesAreMerged(t *testing.T) {
	for _, c := range []struct{ property, base, a, b, want string }{
		{"padding-inline", "8px", "8px 12px", "4px 8px", "4px 12px"},
		{"padding-inline", "{space.2}", "{space.2} {space.3}", "{space.1} {space.2}", "{space.1} {space.3}"},
		{"border-radius", "4px", "8px 4px 4px 4px", "4px 4px 4px 0px", "8px 4px 4px 0px"},
		{"border-radius", "1px 2px", "1px 2px 3px", "1px 5px", "1px 5px 3px"}, // 1 2 1 2, 1 2 3 2 and 1 5 1 5
		{"gap", "8px", "12px", "12px", "12px"},
		{"gap", "8px", "12px", "16px", ""},
		{"box-shadow", "0px 1px 2px {ink}", "0px 1px 4px {ink}", "0px 1px 2px {soil}", "0px 1px 4px {soil}"},
		{"box-shadow", "0px 1px 2px {ink}", "none", "0px 1px 2px {soil}", ""},
		{"nothing-known", "1px", "2px", "3px", ""},
		{"gap", "8px", "twelve", "16px", ""},
	} {
		got, ok := css.Merge(c.property, plain(c.base), plain(c.a), plain(c.b))
		assert.Equal(t, c.want != "", ok, "%+v: %s", c, got)
		assert.Equal(t, c.want, got, "%+v", c)
		turned, _ := css.Merge(c.property, plain(c.base), plain(c.b), plain(c.a))
		assert.Equal(t, got, turned, "it does not matter who was first")
	}
}

func plain(text string) css.Said { return css.Said{Text: text, Value: text} }

// A drawing says 8px where the contract says a token of 8px: that is no change.
func TestWhatComesToTheSameIsNoChange(t *testing.T) {
	base, theirs := css.Said{Text: "{space.2}", Value: "8px"}, css.Said{Text: "8px 3px", Value: "8px 3px"}
	got, ok := css.Merge("padding-inline", base, css.Said{Text: "{space.3} {space.2}", Value: "12px 8px"}, theirs)
	assert.True(t, ok)
	assert.Equal(t, "{space.3} 3px", got)
	got, _ = css.Merge("padding-inline", base, css.Said{Text: "8px", Value: "8px"}, theirs)
	assert.Equal(t, "{space.2} 3px", got, "what nobody changed stays as it was written")
	_, ok = css.Merge("padding-inline", base, css.Said{Text: "8px {space.1}", Value: "8px 4px"}, theirs)
	assert.False(t, ok)
}
