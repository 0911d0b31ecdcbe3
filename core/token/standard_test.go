package token_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/token"
)

// Format Module 2025.10, sections 8 and 9: every type, simple and composite,
// as today's standard writes it, and the CSS it stands for.
const everyType = `{
  "c": { "$type": "color", "$value": { "colorSpace": "srgb", "components": [1, 0, 0.2], "hex": "#ff0033" } },
  "veil": { "$type": "color", "$value": { "colorSpace": "display-p3", "components": [1, 0, 0], "alpha": 0.5 } },
  "d": { "$type": "dimension", "$value": { "value": 0.5, "unit": "rem" } },
  "px": { "$type": "dimension", "$value": { "value": -3, "unit": "px" } },
  "family": { "$type": "fontFamily", "$value": "Hanken Grotesk" },
  "families": { "$type": "fontFamily", "$value": ["Hanken Grotesk", "{family}", "sans-serif"] },
  "weight": { "$type": "fontWeight", "$value": 350 },
  "bold": { "$type": "fontWeight", "$value": "extra-bold" },
  "quick": { "$type": "duration", "$value": { "value": 0.2, "unit": "s" } },
  "ease": { "$type": "cubicBezier", "$value": [0.2, 0, 0, 1.5] },
  "n": { "$type": "number", "$value": 1.5 },
  "line": { "$type": "strokeStyle", "$value": "dotted" },
  "dash": { "$type": "strokeStyle", "$value": { "dashArray": [{ "value": 4, "unit": "px" }, "{d}"], "lineCap": "round" } },
  "edge": { "$type": "border", "$value": { "color": "{c}", "width": "{px}", "style": "{line}" } },
  "fade": { "$type": "transition", "$value": { "duration": "{quick}", "delay": { "value": 0, "unit": "ms" }, "timingFunction": "{ease}" } },
  "lift": { "$type": "shadow", "$value": { "color": "{veil}", "offsetX": { "value": 0, "unit": "px" }, "offsetY": "{d}", "blur": { "value": 8, "unit": "px" }, "spread": { "value": 0, "unit": "px" } } },
  "lifts": { "$type": "shadow", "$value": ["{lift}", { "color": "{c}", "offsetX": { "value": 1, "unit": "px" }, "offsetY": { "value": 1, "unit": "px" }, "blur": { "value": 0, "unit": "px" }, "spread": { "value": 0, "unit": "px" }, "inset": true }] },
  "all": { "$value": "{lifts}" },
  "sky": { "$type": "gradient", "$value": [{ "color": "{c}", "position": 0 }, { "color": { "colorSpace": "srgb", "components": [0, 0, 0] }, "position": "{n}" }] },
  "text": { "$type": "typography", "$value": { "fontFamily": "{families}", "fontSize": { "value": 16, "unit": "px" }, "fontWeight": "{bold}", "letterSpacing": { "value": 0, "unit": "px" }, "lineHeight": 1.2 } }
}`

func TestEveryTypeAndItsCSS(t *testing.T) {
	set, found := read(t, everyType)
	require.Empty(t, withoutPositions(found))
	assert.Contains(t, found.Error(), "1.5 counts as 1", "a position that is clamped is told")
	for path, want := range map[string]string{
		"c": "#ff0033", "veil": "color(display-p3 1 0 0 / 0.5)", "d": "0.5rem", "px": "-3px", "family": `"Hanken Grotesk"`,
		"families": `"Hanken Grotesk", "Hanken Grotesk", sans-serif`, "weight": "350", "bold": "800", "quick": "0.2s",
		"ease": "cubic-bezier(0.2, 0, 0, 1.5)", "n": "1.5", "line": "dotted", "dash": "dashed",
		"edge": "-3px dotted #ff0033", "fade": "0.2s cubic-bezier(0.2, 0, 0, 1.5) 0ms",
		"lift":  "0px 0.5rem 8px 0px color(display-p3 1 0 0 / 0.5)",
		"lifts": "0px 0.5rem 8px 0px color(display-p3 1 0 0 / 0.5), inset 1px 1px 0px 0px #ff0033",
		"all":   "0px 0.5rem 8px 0px color(display-p3 1 0 0 / 0.5), inset 1px 1px 0px 0px #ff0033",
		"sky":   "linear-gradient(#ff0033 0%, #000000 100%)", // 9.6: a position past the end is clamped
		"text":  `800 16px/1.2 "Hanken Grotesk", "Hanken Grotesk", sans-serif`,
	} {
		require.NotNil(t, set.Get(path), path)
		assert.Equal(t, want, set.Get(path).Value, path)
	}
	assert.Equal(t, "shadow", set.Get("all").Type, "7: an alias has the type of what it points at")
	assert.ElementsMatch(t, []string{"c", "px", "line"}, set.Get("edge").Uses())
	var users []string
	for _, u := range set.Dependents("c") {
		users = append(users, u.Path)
	}
	assert.Equal(t, []string{"edge", "lifts", "all", "sky"}, users, "what rests on a colour, through composites and aliases")
}

// Read, written in the standard's form, read again: the same, references kept.
func TestJSONRoundTrip(t *testing.T) {
	set, _ := read(t, everyType)
	var b strings.Builder
	b.WriteString("{")
	for i, tok := range set.All() {
		if i > 0 {
			b.WriteString(",")
		}
		b.WriteString(`"` + tok.Path + `":{"$type":"` + tok.Type + `","$value":` + string(tok.Content.JSON().Append(nil, nil)) + `}`)
	}
	again, found := read(t, b.String()+"}")
	require.Empty(t, withoutPositions(found))
	for _, tok := range set.All() {
		assert.Equal(t, tok.Value, again.Get(tok.Path).Value, tok.Path)
		assert.Equal(t, tok.Uses(), again.Get(tok.Path).Uses(), "%s lost its references", tok.Path)
	}
	flat := set.Get("lifts").Content.Flat().JSON()
	assert.Len(t, flat.Children, 2)
	assert.NotContains(t, string(flat.Append(nil, nil)), "{lift}")
	assert.Len(t, set.Get("families").Content.Flat().Items, 3, "a family list within a list is one list")
}

// Format Module, 6: groups.
func TestGroups(t *testing.T) {
	set, found := read(t, `{
	  "accent": { "$type": "color", "$description": "not the tokens'", "$deprecated": "use brand",
	    "$root": { "$value": { "colorSpace": "srgb", "components": [1, 0, 0] } },
	    "light": { "$value": { "colorSpace": "srgb", "components": [1, 0.5, 0.5] }, "$deprecated": false } },
	  "use": { "$value": "{accent.$root}", "$extensions": { "org.example": { "kept": true } } },
	  "nested": { "$type": "dimension", "deep": { "n": { "$type": "number", "$value": 2 }, "d": { "$value": { "value": 1, "unit": "px" } } } }
	}`)
	require.Empty(t, found)
	assert.Equal(t, "#ff0000", set.Get("use").Value, "6.2: $root is the group's own token")
	assert.Equal(t, "use brand", set.Get("accent.$root").Deprecated, "a group's mark holds for its tokens")
	assert.Empty(t, set.Get("accent.light").Deprecated, "but a token may take it back")
	assert.Equal(t, "number", set.Get("nested.deep.n").Type, "6.3: its own type first")
	assert.Equal(t, "dimension", set.Get("nested.deep.d").Type, "6.3: then the nearest group's")
	_, found = read(t, `{"accent":{"$root":{"$type":"number","$value":1}},"use":{"$value":"{accent}"}}`)
	require.Len(t, found, 1)
	assert.Equal(t, "write {accent.$root}", found[0].Fix)
}

// Format Module, 6.4: $extends takes over deeply what a group does not hold.
func TestGroupsExtend(t *testing.T) {
	set, found := read(t, `{
	  "button": { "$type": "dimension", "pad": { "$value": { "value": 4, "unit": "px" } }, "size": { "s": { "$value": { "value": 1, "unit": "px" } }, "l": { "$value": { "value": 9, "unit": "px" } } } },
	  "link": { "$extends": "{button}", "size": { "l": { "$value": { "value": 8, "unit": "px" } }, "xl": { "$value": { "value": 20, "unit": "px" } } } },
	  "chip": { "$extends": "#/link", "pad": { "$value": "{button.size.s}" } }
	}`)
	require.Empty(t, found)
	for path, want := range map[string]string{"link.pad": "4px", "link.size.s": "1px", "link.size.l": "8px", "link.size.xl": "20px",
		"chip.pad": "1px", "chip.size.l": "8px", "chip.size.s": "1px", "button.size.l": "9px"} {
		require.NotNil(t, set.Get(path), path)
		assert.Equal(t, want, set.Get(path).Value, path)
	}
	var order []string
	for _, tok := range set.All() {
		order = append(order, tok.Path)
	}
	assert.Equal(t, []string{"button.pad", "button.size.s", "button.size.l", "link.pad", "link.size.s", "link.size.l", "link.size.xl",
		"chip.pad", "chip.size.s", "chip.size.l", "chip.size.xl"}, order)
	for name, c := range map[string][2]string{
		"circle":         {`{"a":{"$extends":"{b}"},"b":{"$extends":"{a}"}}`, "a → b → a"},
		"its own parent": {`{"a":{"b":{"$extends":"{a}"}}}`, "a.b → a"},
		"nowhere":        {`{"a":{"$extends":"{x}"}}`, "not there"},
		"a token":        {`{"a":{"$extends":"{t}"},"t":{"$type":"number","$value":1}}`, "is a token"},
		"in a token":     {`{"a":{"$type":"number","$value":1,"$extends":"{a}"}}`, "only a group can"},
	} {
		_, found := read(t, c[0])
		require.NotEmpty(t, found, name)
		assert.Contains(t, found[0].Message, c[1], name)
	}
}

// A small file whose groups double each other must not fill the memory.
func TestExtendsIsBounded(t *testing.T) {
	var b strings.Builder
	b.WriteString(`{"g0":{"a":{"$type":"number","$value":1},"b":{"$type":"number","$value":1}}`)
	for i := 1; i < 30; i++ {
		before := "{g" + string(rune('0'+(i-1)/10)) + string(rune('0'+(i-1)%10)) + "}"
		if i == 1 {
			before = "{g0}"
		}
		name := "g" + string(rune('0'+i/10)) + string(rune('0'+i%10))
		b.WriteString(`,"` + name + `":{"x":{"$extends":"` + before + `"},"y":{"$extends":"` + before + `"}}`)
	}
	set, found := read(t, b.String()+"}")
	require.True(t, found.Failed())
	assert.Equal(t, "token-many", found[0].Rule)
	assert.Less(t, len(set.All()), 210_000)
}

// Format Module, 7: references by JSON Pointer, to tokens and into values, and
// aliases inside of lists and composites.
func TestReferences(t *testing.T) {
	set, found := read(t, `{
	  "base": { "$type": "color", "blue": { "$value": { "colorSpace": "srgb", "components": [0.2, 0.4, 0.9] } } },
	  "whole": { "$ref": "#/base/blue" },
	  "value": { "$value": { "$ref": "#/base/blue/$value" } },
	  "through": { "$value": "{value}" },
	  "mixed": { "$type": "color", "$value": { "colorSpace": "srgb", "components": [{ "$ref": "#/through/$value/components/2" }, "{half}", 0], "alpha": { "$ref": "#/half/$value" } } },
	  "half": { "$type": "number", "$value": 0.5 },
	  "a/b": { "$type": "dimension", "t~": { "$value": { "value": 3, "unit": "px" } } },
	  "escaped": { "$type": "dimension", "$value": { "value": { "$ref": "#/a~1b/t~0/$value/value" }, "unit": "rem" } }
	}`)
	require.Empty(t, found)
	for path, want := range map[string]string{"whole": "#3366e6", "value": "#3366e6", "through": "#3366e6", "mixed": "#e6800080", "escaped": "3rem"} {
		require.NotNil(t, set.Get(path), path)
		assert.Equal(t, want, set.Get(path).Value, path)
	}
	assert.Equal(t, "base.blue", set.Get("whole").Alias)
	assert.ElementsMatch(t, []string{"through", "value", "base.blue", "half"}, set.Get("mixed").Uses())
	for name, c := range map[string][2]string{
		"nowhere":         {`{"a":{"$type":"color","$value":{"$ref":"#/x/y"}}}`, "leads nowhere"},
		"a missing part":  {`{"a":{"$type":"number","$value":{"$ref":"#/b/$value/x"}},"b":{"$type":"number","$value":1}}`, "b has no x"},
		"another file":    {`{"a":{"$type":"color","$value":{"$ref":"other.json#/x"}}}`, "within the tokens"},
		"a group":         {`{"a":{"$type":"color","$value":{"$ref":"#/g"}},"g":{}}`, "is a group"},
		"itself":          {`{"a":{"$type":"color","$value":{"$ref":"#/a/$value"}}}`, "a → a"},
		"itself, deeper":  {`{"a":{"$type":"number","$value":{"$ref":"#/a/$value/x"}}}`, "do not end"},
		"in a circle":     {`{"a":{"$type":"color","$value":{"colorSpace":"srgb","components":[{"$ref":"#/b/$value/components/0"},0,0]}},"b":{"$type":"color","$value":{"colorSpace":"srgb","components":[{"$ref":"#/a/$value/components/0"},0,0]}}}`, "without end"},
		"composite type":  {`{"a":{"$type":"border","$value":{"color":"{b}","width":"{b}","style":"solid"}},"b":{"$type":"dimension","$value":{"value":1,"unit":"px"}}}`, "color wants a color, but b is of type dimension"},
		"composite cycle": {`{"a":{"$type":"shadow","$value":["{a}"]}}`, "a → a"},
	} {
		_, found := read(t, c[0])
		require.NotEmpty(t, found, name)
		assert.Contains(t, found.Error(), c[1], name)
	}
}

// The type of an alias is its target's before its group's (Format Module, 6.3):
// no error, but a place where somebody will be surprised.
func TestAnAliasInAGroupOfAnotherTypeIsAWarning(t *testing.T) {
	set, found := read(t, `{"g":{"$type":"dimension","a":{"$value":"{n}"}},"n":{"$type":"number","$value":1}}`)
	require.Len(t, found, 1)
	assert.Equal(t, "token-alias-group", found[0].Rule)
	assert.False(t, found.Failed())
	assert.Equal(t, "number", set.Get("g.a").Type)
}

func TestWrongValuesAreSaid(t *testing.T) {
	for text, says := range map[string]string{
		`{"a":{"$type":"cubicBezier","$value":[0,0,0]}}`:                                                                 "a list of 4",
		`{"a":{"$type":"cubicBezier","$value":[2,0,0,1]}}`:                                                               "x goes from 0 to 1",
		`{"a":{"$type":"fontWeight","$value":1001}}`:                                                                     "1 to 1000",
		`{"a":{"$type":"fontWeight","$value":"heavyish"}}`:                                                               "1 to 1000",
		`{"a":{"$type":"strokeStyle","$value":"wavy"}}`:                                                                  "found",
		`{"a":{"$type":"border","$value":{"width":{"value":1,"unit":"px"},"style":"solid"}}}`:                            "a border has color",
		`{"a":{"$type":"shadow","$value":{}}}`:                                                                           "a shadow has color",
		`{"a":{"$type":"gradient","$value":[]}}`:                                                                         "a list was expected",
		`{"a":{"$type":"typography","$value":"Hanken"}}`:                                                                 `"fontFamily"`,
		`{"a":{"$type":"number","$value":"NaN"}}`:                                                                        "a number was expected",
		`{"a":{"$type":"dimension","$value":"Infpx"}}`:                                                                   `"px" or "rem"`,
		`{"a":{"$type":"number","$value":true}}`:                                                                         "a number",
		`{"a":{"$type":"duration","$value":{"value":1,"unit":"m"}}}`:                                                     `"ms" or "s"`,
		`{"a":{"$type":"color","$value":{"colorSpace":"srgb","components":[1,1,1],"hex":"#fff000"}}}`:                    "the components are #ffffff",
		`{"a":{"$type":"number","$value":1,"$colour":2}}`:                                                                "not a property of the standard",
		`{"a":{"$type":"transition","$value":{"duration":{"value":1,"unit":"s"},"timingFunction":[0,0,1,1],"dealy":1}}}`: "has no dealy",
	} {
		_, found := read(t, text)
		require.NotEmpty(t, found, text)
		assert.Contains(t, found.Error(), says)
		for _, p := range found {
			assert.Equal(t, 1, p.Line, "%s has no place", p)
		}
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(furrow))
	f.Add([]byte(everyType))
	f.Add([]byte(`{"a":{"$value":"{a}"}}`))
	f.Add([]byte(`{"a":{"$extends":"{b}"},"b":{"x":{"$ref":"#/a"}}}`))
	f.Add([]byte(`{"version":"2025.10","sets":{"s":{"sources":[{"$ref":"#/sets/s"},{"a":{"$type":"number","$value":1}}]}},"resolutionOrder":[{"$ref":"#/sets/s"}]}`))
	f.Fuzz(func(t *testing.T, text []byte) {
		file := token.File{Name: "f", Text: text}
		library, found := token.Open(file)
		library.Check()
		set, more := library.Set(library.Default())
		if !found.Failed() && !more.Failed() {
			for _, tok := range set.All() {
				require.NotEmpty(t, tok.Type)
				require.NotNil(t, tok.Content)
			}
		}
		if today, bad := token.Format(file); bad == nil {
			again, bad := token.Format(token.File{Name: "f", Text: today})
			require.Empty(t, bad)
			require.Equal(t, string(today), string(again), "formatting twice must change nothing more")
		}
	})
}
