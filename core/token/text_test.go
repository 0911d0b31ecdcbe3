package token_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/token"
	"cobrik/demo/demotest"
)

// What the editor shows of a token, typed again, is the same token.
func TestTextRoundTrip(t *testing.T) {
	every, _ := read(t, everyType)
	furrow, found := token.Read(demotest.TokenFiles()...)
	require.Empty(t, found)
	for _, set := range []*token.Set{every, furrow} {
		for _, tok := range set.All() {
			n, err := token.FromText(tok.Type, tok.Text())
			require.NoError(t, err, "%s: %s", tok.Path, tok.Text())
			with, _, found := set.With(tok.Path, n)
			require.Empty(t, withoutPositions(found), tok.Path)
			assert.Equal(t, tok.Value, with.Get(tok.Path).Value, tok.Path)
			assert.Equal(t, tok.Uses(), with.Get(tok.Path).Uses(), tok.Path)
		}
	}
}

func TestWhatAPersonTypes(t *testing.T) {
	for _, c := range [][3]string{
		{"color", "#F00", `{"colorSpace":"srgb","components":[1,0,0],"hex":"#ff0000"}`},
		{"color", " {soil.900} ", `"{soil.900}"`},
		{"dimension", "12px", `{"value":12,"unit":"px"}`}, {"dimension", "-.5 rem", `{"value":-0.5,"unit":"rem"}`},
		{"duration", "120ms", `{"value":120,"unit":"ms"}`}, {"duration", "0.2s", `{"value":0.2,"unit":"s"}`},
		{"number", "1.5", "1.5"}, {"fontWeight", "bold", `"bold"`}, {"fontWeight", "650", "650"},
		{"fontFamily", `Hanken Grotesk, "x y", serif`, `["Hanken Grotesk","x y","serif"]`},
		{"cubicBezier", "cubic-bezier(0.2, 0, 0, 1)", "[0.2,0,0,1]"}, {"cubicBezier", "0,0,1,1", "[0,0,1,1]"},
		{"shadow", `["{a}"]`, `["{a}"]`},
	} {
		n, err := token.FromText(c[0], c[1])
		require.NoError(t, err, c)
		assert.JSONEq(t, c[2], string(n.Append(nil, nil)), c)
	}
	for _, c := range [][2]string{{"color", "brick"}, {"dimension", "12"}, {"dimension", "12pt"}, {"number", "NaN"}, {"number", "x"}, {"cubicBezier", "1,2"[:2]},
		{"fontFamily", "a,,b"}, {"shadow", "none"}, {"border", "{\"color\":"}, {"duration", "infs"}} {
		_, err := token.FromText(c[0], c[1])
		assert.Error(t, err, c)
	}
}

// WCAG 2.2, 1.4.3 and 1.4.11: text needs 4.5, lines 3; pairs by name, by group,
// and by what contracts do with a token.
func TestContrastsPairWhatIsMeantTogether(t *testing.T) {
	set, found := token.Read(demotest.TokenFiles()...)
	require.Empty(t, found)
	m := set.Contrasts(nil)
	pairs := map[string]token.Contrast{}
	for _, p := range m.Pairs {
		pairs[p.Text+" on "+p.Ground] = p
		assert.True(t, p.Ratio >= 1 && p.Ratio <= 21)
	}
	assert.Len(t, m.Pairs, len(m.Texts)*len(m.Grounds))
	for pair, meant := range map[string]bool{
		"page.ink on page.ground": true, "tag.sown.ink on tag.sown.ground": true, "tag.sown.ink on tag.ripe.ground": false,
		"tag.ink-strong on tag.sown.ground-strong": true, "tag.ink-strong on tag.sown.ground": false, "tag.sown.ink on tag.sown.ground-strong": false,
		"button.plain.ink on button.plain.ground-hover": true, "field.placeholder on field.ground": true, "nav.quiet on nav.ground": true,
	} {
		p, ok := pairs[pair]
		require.True(t, ok, pair)
		assert.Equal(t, meant, p.Meant, pair)
	}
	assert.InDelta(t, 4.5, pairs["page.ink on page.ground"].Needs, 0)
	assert.InDelta(t, 3, pairs["page.line-firm on page.ground"].Needs, 0)
	assert.NotContains(t, pairs, "soil.900 on soil.50", "a palette's colour has no role")
	used := set.Contrasts(map[string]token.Role{"soil.900": token.TextRole, "soil.50": token.GroundRole})
	assert.Greater(t, len(used.Pairs), len(m.Pairs), "but it has one where a contract gives it one")
}

// Whatever is typed is refused with a reason, or becomes a value that the
// reader takes or refuses with a reason.
func FuzzFromText(f *testing.F) {
	for _, s := range []string{"#fff", "8px", "{a.b}", "[1,2,3,4]", `{"value":1,"unit":"px"}`, "1e999", "a, b", "cubic-bezier(0,0,1,1)"} {
		f.Add("color", s)
		f.Add("dimension", s)
		f.Add("cubicBezier", s)
		f.Add("shadow", s)
	}
	f.Fuzz(func(t *testing.T, kind, text string) {
		n, err := token.FromText(kind, text)
		if err != nil {
			require.NotEmpty(t, err.Error())
			return
		}
		token.Apply([]token.File{{Name: "f", Text: []byte(`{"a":{"$type":"color","$value":"#fff"}}`)}}, token.Edit{Kind: "set", Path: "b", File: "f", Type: kind, Value: n})
	})
}
