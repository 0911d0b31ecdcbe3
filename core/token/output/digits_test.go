package output_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/token"
	"cobrik/core/token/output"
)

const fine = `{
  "small": { "$type": "number", "$value": 1.2e-7 },
  "long": { "$type": "number", "$value": 1.23456789 },
  "gap": { "$type": "dimension", "$value": { "value": 1.23456789, "unit": "px" } },
  "rem": { "$type": "dimension", "$value": { "value": 0.1, "unit": "rem" } },
  "quick": { "$type": "duration", "$value": { "value": 90.123456, "unit": "ms" } },
  "ink": { "$type": "color", "$value": { "colorSpace": "srgb", "components": [0.123456789, 0.5, 0.25] } },
  "flare": { "$type": "color", "$value": { "colorSpace": "display-p3", "components": [1, 0.123456, 0], "alpha": 0.5 } },
  "old": { "$type": "number", "$value": 2, "$deprecated": "use {long} */ now" },
  "gone": { "$type": "number", "$value": 3, "$deprecated": true },
  "family": { "$type": "fontFamily", "$value": ["Hanken Grotesk", "sans-serif"] },
  "more": { "$type": "fontFamily", "$value": ["JetBrains Mono", "{family}"] },
  "size": { "$type": "dimension", "$value": { "value": 14, "unit": "px" } },
  "body": { "$value": "{size}" },
  "wide": { "$type": "dimension", "$value": { "value": 1.1, "unit": "rem" } },
  "note": { "$type": "typography", "$value": { "fontFamily": "{family}", "fontSize": { "value": 12, "unit": "px" }, "fontWeight": 400, "letterSpacing": { "value": 0, "unit": "px" }, "lineHeight": 1.5 } },
  "text": { "$type": "typography", "$value": { "fontFamily": "{family}", "fontSize": "{body}", "fontWeight": 400, "letterSpacing": { "value": 0.5, "unit": "px" }, "lineHeight": 1.5 } }
}`

// Numbers keep the digits that they were given in every language; what is computed has no noise of binary fractions.
func TestNumbersKeepTheirDigits(t *testing.T) {
	for language, lines := range map[string][]string{
		"css":        {"--small: 0.00000012;", "--long: 1.23456789;", "--gap: 1.23456789px;", "--quick: 90.123456ms;"},
		"sass":       {"$small: 0.00000012;", "$long: 1.23456789;", "$gap: 1.23456789px;"},
		"typescript": {"export const small = 0.00000012;", "export const long = 1.23456789;", `export const gap = "1.23456789px";`},
		"json":       {`"small": 0.00000012`, `"long": 1.23456789`, `"gap": "1.23456789px"`},
		"tokens":     {`"$value": 0.00000012`, `"$value": 1.23456789`, `"value": 1.23456789`, "0.123456789"},
		"swift":      {"small: Double = 0.00000012\n", "long: Double = 1.23456789\n", "gap: CGFloat = 1.23456789\n", "quick: TimeInterval = 0.090123456\n", "rem: CGFloat = 1.6\n", "red: 0.123456789", "Color(.displayP3, red: 1, green: 0.123456, blue: 0, opacity: 0.5)"},
		"android":    {`format="float">0.00000012<`, `format="float">1.23456789<`, `<dimen name="gap">1.23456789dp<`, `<dimen name="rem">1.6dp<`},
		"kotlin":     {"val small = 0.00000012\n", "val long = 1.23456789\n", "val gap = 1.23456789.dp\n", "val rem = 1.6.dp\n", "val flare = Color(1f, 0.123456f, 0f, 0.5f, ColorSpaces.DisplayP3)\n"},
	} {
		o := named(t, language)
		text := ""
		for _, one := range build(t, o, library(t, fine)) {
			text += one
		}
		for _, line := range lines {
			assert.Contains(t, text, line, language)
		}
	}
	o := named(t, "css")
	o.Lengths = "rem"
	assert.Contains(t, build(t, o, library(t, fine))["tokens.css"], "--gap: 0.07716049312"+"5rem;", "a quotient is exact to twelve digits")
	o.Lengths, o.Root = "px", 10
	assert.Contains(t, build(t, o, library(t, fine))["tokens.css"], "--wide: 11px;", "a product has the noise of binary fractions: 1.1 by 10")
}

// Lengths of type grow with the text that a reader wants; others do not.
func TestLengthsOfType(t *testing.T) {
	kotlin := build(t, named(t, "kotlin"), library(t, fine))["Tokens.kt"]
	for _, line := range []string{"import androidx.compose.ui.unit.sp\n", "import androidx.compose.ui.graphics.colorspace.ColorSpaces\n", "val size = 14.sp\n", "val body = size\n", "val textFontSize = body\n", "val noteFontSize = 12.sp\n", "val textLetterSpacing = 0.5.sp\n", "val gap = 1.23456789.dp\n"} {
		assert.Contains(t, kotlin, line)
	}
	android := build(t, named(t, "android"), library(t, fine))["tokens.xml"]
	for _, line := range []string{`<dimen name="size">14sp</dimen>`, `<dimen name="text_letter_spacing">0.5sp</dimen>`, `<dimen name="gap">1.23456789dp</dimen>`} {
		assert.Contains(t, android, line)
	}
	plain := build(t, named(t, "kotlin"), library(t, `{"gap":{"$type":"dimension","$value":{"value":1,"unit":"px"}}}`))["Tokens.kt"]
	assert.NotContains(t, plain, "unit.sp", "an import that nothing needs")
	assert.NotContains(t, plain, "ColorSpaces")
}

// A style sheet says what is no longer to be used, and nothing of it ends the comment.
func TestCSSMarksWhatIsDeprecated(t *testing.T) {
	text := build(t, named(t, "css"), library(t, fine))["tokens.css"]
	assert.Contains(t, text, "--old: 2; /* deprecated: use {long} * / now */\n")
	assert.Contains(t, text, "--gone: 3; /* deprecated */\n")
	assert.Empty(t, read[sheet](t, "css", text).Errors)
}

// Families keep their quotes through references and in what is made of them: as Sass compiles it.
func TestSassKeepsQuotes(t *testing.T) {
	text := build(t, named(t, "sass"), library(t, fine))["_tokens.scss"]
	got := read[map[string]string](t, "sass", text)
	assert.Equal(t, `"Hanken Grotesk", sans-serif`, got["family"])
	assert.Contains(t, got["more"], `"JetBrains Mono"`)
	assert.Contains(t, got["more"], `"Hanken Grotesk"`)
	assert.Contains(t, got["text"], `"Hanken Grotesk"`, "a family in a shorthand")
}

// What references lead to is found at once, however the output goes about it.
func TestChainsInEveryOutput(t *testing.T) {
	var b strings.Builder
	b.WriteString("{")
	for k := range 60 {
		b.WriteString(`"a` + string(rune('0'+k/10)) + string(rune('0'+k%10)) + `":{"$value":"{a` + string(rune('0'+(k+1)/10)) + string(rune('0'+(k+1)%10)) + `}"},`)
	}
	l := library(t, b.String()+`"a60":{"$type":"number","$value":7}}`)
	for _, o := range output.Standard() {
		o.Without = []string{"a30", "a31"}
		if o.Language == "tokens" {
			set, found := library(t, build(t, o, l)["design.tokens.json"]).Set(token.Theme{})
			require.Empty(t, found)
			assert.Equal(t, "a32", set.Get("a29").Alias, "a reference to what is left out is followed to what is written")
			assert.Equal(t, "7", set.Get("a00").Value)
		}
		build(t, o, l)
	}
}
