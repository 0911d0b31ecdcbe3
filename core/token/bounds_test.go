package token_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/token"
)

// doubling is a file of lists, or of pieces of them, each of which refers twice to the one after it.
func doubling(levels int, first, one string) string {
	var b strings.Builder
	b.WriteString("{")
	for k := range levels {
		fmt.Fprintf(&b, one+",", k, k+1, k+1)
	}
	fmt.Fprintf(&b, first+"}", levels)
	return b.String()
}

// A file of a few KB that asks for much more than it is, is refused with why, and the tokens beside it are read. The time is
// a hundred times what is measured.
func TestWhatReferencesMakeIsBounded(t *testing.T) {
	family := `"f%d":{"$type":"fontFamily","$value":["A"]},"n":{"$type":"number","$value":3}`
	for name, c := range map[string]struct{ text, says string }{
		"families that double":          {doubling(40, family, `"f%d":{"$type":"fontFamily","$value":["{f%d}","{f%d}"]}`), "pieces with what it refers to"},
		"shadows that double":           {doubling(40, `"s%d":{"$type":"shadow","$value":{"color":"#000000","offsetX":"0px","offsetY":"0px","blur":"0px","spread":"0px"}},"n":{"$type":"number","$value":3}`, `"s%d":{"$type":"shadow","$value":["{s%d}","{s%d}"]}`), "pieces with what it refers to"},
		"pieces by pointer that double": {doubling(40, `"t%d":{"$type":"typography","$value":{"fontFamily":["A"],"fontSize":"1px","fontWeight":400,"letterSpacing":"0px","lineHeight":1}},"n":{"$type":"number","$value":3}`, `"t%d":{"$type":"typography","$value":{"fontSize":"1px","fontWeight":400,"letterSpacing":"0px","lineHeight":1,"fontFamily":[{"$ref":"#/t%d/$value/fontFamily"},{"$ref":"#/t%d/$value/fontFamily"}]}}`), "lead through each other"},
		"many lists of many": {func() string {
			var b strings.Builder
			b.WriteString(`{"n":{"$type":"number","$value":3},"f0":{"$type":"fontFamily","$value":[` + strings.Repeat(`"A",`, 99) + `"A"]},"f1":{"$type":"fontFamily","$value":[` + strings.Repeat(`"{f0}",`, 99) + `"{f0}"]}`)
			for k := range 2000 {
				fmt.Fprintf(&b, `,"g%d":{"$value":"{f1}"}`, k)
			}
			return b.String() + "}"
		}(), "from g"},
		"a chain": {func() string {
			var b strings.Builder
			b.WriteString("{")
			for k := range 50_000 {
				fmt.Fprintf(&b, `"a%d":{"$value":"{a%d}"},`, k, k+1)
			}
			return b.String() + `"a50000":{"$type":"number","$value":3},"n":{"$type":"number","$value":3}}`
		}(), "65 aliases away from its value; at most 64"},
	} {
		start := time.Now()
		set, found := read(t, c.text)
		assert.Contains(t, found.Error(), c.says, name)
		assert.True(t, found.Failed(), name)
		require.NotNil(t, set.Get("n"), name)
		assert.Equal(t, "3", set.Get("n").Value, name)
		for _, tok := range set.All() {
			tok.Chain()
			if tok.Content != nil {
				tok.Content.Flat()
				tok.Content.Map(func(v *token.Value) *token.Value { return v })
			}
		}
		assert.Less(t, time.Since(start), time.Minute, name)
		assert.Less(t, len(found), 60_000, name)
	}
}

// A chain of aliases within the bound is followed to its end, from anywhere in it.
func TestChainsAreFollowed(t *testing.T) {
	var b strings.Builder
	for k := range 64 {
		fmt.Fprintf(&b, `"a%d":{"$value":"{a%d}"},`, k, k+1)
	}
	set, found := read(t, "{"+b.String()+`"a64":{"$type":"number","$value":7}}`)
	require.Empty(t, found)
	for _, tok := range set.All() {
		assert.Equal(t, "7", tok.Value, tok.Path)
	}
	assert.Len(t, set.Get("a0").Chain(), 64)
	assert.Equal(t, "{a1}", set.Get("a0").Text())
}

// What the standard does not allow is an error with its place, not a value that an output trips over.
func TestWhatIsRefused(t *testing.T) {
	color := func(space, components string) string {
		return `{"t":{"$type":"color","$value":{"colorSpace":"` + space + `","components":[` + components + `]}}}`
	}
	for text, says := range map[string]string{
		color("srgb", "1.2, 0, 0"):                                               "red goes from 0 to 1, found 1.2",
		color("srgb", "0, -0.1, 0"):                                              "green goes from 0 to 1",
		color("srgb-linear", "0, 0, 2"):                                          "blue goes from 0 to 1",
		color("display-p3", "0, 1.01, 0"):                                        "green",
		color("a98-rgb", "0, 0, -1"):                                             "blue",
		color("prophoto-rgb", "9, 0, 0"):                                         "red",
		color("rec2020", "9, 0, 0"):                                              "red",
		color("hsl", "20, 150, 50"):                                              "saturation goes from 0 to 100, found 150",
		color("hsl", "360, 50, 50"):                                              "the hue goes from 0 to below 360, found 360",
		color("hsl", "-10, 50, 50"):                                              "the hue",
		color("hsl", "10, 50, 101"):                                              "lightness goes from 0 to 100",
		color("hwb", "400, 50, 50"):                                              "the hue",
		color("hwb", "10, 101, 0"):                                               "whiteness",
		color("hwb", "10, 0, 101"):                                               "blackness",
		color("lab", "101, 0, 0"):                                                "lightness goes from 0 to 100",
		color("lch", "50, -1, 0"):                                                "chroma goes from 0",
		color("lch", "50, 1, 360"):                                               "the hue",
		color("oklab", "1.5, 0, 0"):                                              "lightness goes from 0 to 1",
		color("oklch", "0.5, 0.1, -1"):                                           "the hue",
		`{"t":{"$type":"number","$value":1,"$extensions":[1]}}`:                  "$extensions is an object",
		`{"g":{"$extensions":"x","t":{"$type":"number","$value":1}}}`:            "$extensions is an object",
		`{"t":{"$type":"dimension","$value":{"value":1,"unit":"px","scale":2}}}`: "a dimension has a value and a unit, found scale",
		`{"t":{"$type":"duration","$value":{"value":1,"unit":"ms","$extensions":{}}}}`:    "a duration has a value and a unit",
		`{"t":{"$type":"number","$value":"12"}}`:                                          "a number was expected",
		`{"t":{"$type":"fontWeight","$value":"600"}}`:                                     "a weight is a number",
		`{"t":{"$type":"dimension","$value":{"value":"1","unit":"px"}}}`:                  "a number was expected",
		`{"t":{"$type":"color","$value":{"colorSpace":"srgb","components":["0", 0, 0]}}}`: "a number was expected",
	} {
		_, found := read(t, text)
		assert.True(t, found.Failed(), text)
		assert.Contains(t, found.Error(), says, text)
		for _, p := range found {
			assert.Positive(t, p.Line, text)
			assert.NotEmpty(t, p.Pointer, text)
		}
	}
	// What CSS takes in other words is written as the standard has it: a hue is within a turn.
	for _, text := range []string{"hsl(400 50% 50%)", "lch(50 20 -30)", "oklch(0.5 0.1 725)"} {
		n, err := token.FromText("color", text)
		require.NoError(t, err)
		_, found := read(t, `{"t":{"$type":"color","$value":`+string(n.Append(nil, nil))+`}}`)
		assert.Empty(t, found, text)
	}
	// The ends of the ranges are within them; none stands for no component; what has no bounds has none.
	for _, text := range []string{color("srgb", "1, 0, 1"), color("hsl", "0, 100, 100"), color("hsl", "359.999, 0, 0"), color("oklch", `1, 0.9, "none"`), color("lab", "100, -300, 300"), color("xyz-d65", "1.2, -0.1, 3")} {
		_, found := read(t, text)
		assert.Empty(t, found, text)
	}
}

// Errors in a resolver document are told before anybody builds with it.
func TestWhatAResolverIsRefusedFor(t *testing.T) {
	tokens := `{"t":{"$type":"number","$value":1}}`
	resolver := func(version, sets, order string) string {
		return `{"version":"` + version + `","sets":{` + sets + `},"resolutionOrder":[` + order + `]}`
	}
	good := `"base":{"sources":[{"$ref":"a.tokens.json"}]}`
	inline := func(name string) string {
		return `{"type":"set","name":"` + name + `","sources":[{"$ref":"a.tokens.json"}]}`
	}
	for text, says := range map[string]string{
		resolver("2024.1", good, `{"$ref":"#/sets/base"}`):                                              "no version that is read here",
		resolver("2025.10", `"base":{}`, `{"$ref":"#/sets/base"}`):                                      "the set base has no sources",
		resolver("2025.10", `"base":{"sources":[]}`, `{"$ref":"#/sets/base"}`):                          "the set base has no sources",
		resolver("2025.10", good+`,"idle":{"description":"nobody names it"}`, `{"$ref":"#/sets/base"}`): "the set idle has no sources",
		resolver("2025.10", "", inline("one")+","+inline("one")):                                        `two entries of the order are named "one"`,
		resolver("2025.10", "", `{"type":"set","name":"one","sources":[]}`):                             "the set one has no sources",
	} {
		_, found := token.Open(token.File{Name: "a.tokens.json", Text: []byte(tokens)}, token.File{Name: "b.resolver.json", Text: []byte(text)})
		assert.True(t, found.Failed(), text)
		assert.Contains(t, found.Error(), says, text)
	}
	_, found := token.Open(token.File{Name: "a.tokens.json", Text: []byte(tokens)}, token.File{Name: "b.resolver.json", Text: []byte(resolver("2025.10", good, `{"$ref":"#/sets/base"},`+inline("one")+","+inline("two")))})
	assert.Empty(t, found)
}

func BenchmarkChains(b *testing.B) {
	var text strings.Builder
	text.WriteString("{")
	for c := range 1000 {
		for k := range 60 {
			fmt.Fprintf(&text, `"c%da%d":{"$value":"{c%da%d}"},`, c, k, c, k+1)
		}
		fmt.Fprintf(&text, `"c%da60":{"$type":"number","$value":%d},`, c, c)
	}
	text.WriteString(`"n":{"$type":"number","$value":3}}`)
	b.ReportAllocs()
	for b.Loop() {
		if _, found := token.Read(token.File{Name: "a", Text: []byte(text.String())}); found.Failed() {
			b.Fatal(found)
		}
	}
}
