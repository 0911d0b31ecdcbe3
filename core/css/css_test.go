package css_test

import (
	"math/rand/v2"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/css"
	"cobrik/web/reference"
)

// atoms are what random values are put together from.
var atoms = strings.Split(`0|1|-1|2.5|400|1000|1001|8px|-8px|0.5rem|2em|50%|-5%|1fr|100ms|-0.2s|45deg|0.25turn|auto|none|normal|inset|solid|dashed|red|#123|#12345|rgb(1 2 3)|`+
	`rgb(1, 2, 3, 0.5)|oklch(0.5 0.1 20)|currentColor|transparent|all|opacity|ease|ease-in-out|steps(4, end)|cubic-bezier(0.2, 0, 0, 1)|span|/|,|"Hanken Grotesk"|sans-serif|Arial|`+
	`minmax(0, 1fr)|minmax(1fr, 0)|repeat(2, 1fr)|repeat(auto-fill, minmax(100px, 1fr))|fit-content(20px)|fit-content|min-content|calc(50% - 8px)|calc(1px + 2)|calc(2 * 3)|calc(1s * 2)|linear-gradient(red, #123)|linear-gradient(45deg, red 0%, #123 50% 80%)|linear-gradient(to top left, red, blue)|linear-gradient(red)|linear-gradient(8px, red, blue)|radial-gradient(red, blue)|`+
	`radial-gradient(circle 2em at left 20%, red, blue)|radial-gradient(50% 20% at 5px, red, blue)|radial-gradient(ellipse closest-side, red, blue)|radial-gradient(45deg, red, blue)|multiply|hue|`+
	`min(1px, 2em)|clamp(1px, 50%, 3px)|max(1px)|translate(2px, 50%)|translateX(2px)|rotate(20deg)|rotate(2px)|scale(1.5)|skewX(3deg)|center|start|end|flex-start|space-between|baseline|stretch|`+
	`row|column|wrap|hidden|visible|block|flex|grid|relative|pointer|bold|left|pre-line|border-box`, "|")

// leftOut tells why Cobrik may refuse what CSS takes: a calculation of another type,
// or a negative number, which css-tree does not look at; or words, named lines and
// second values that contracts have no use for, and names that are colours. Of animations there are those alone whose
// keyframes are written.
var leftOut = regexp.MustCompile(`(calc|min|max|clamp)\(|(^| )-[0-9]|: .*\b(stretch|left|normal|baseline|hidden|fit-content|1001|span|inset|block)\b|minmax\(1fr|` +
	`^(font-family|grid-area|transition|animation|border-style|display|align-content|overflow|border-radius|opacity|transform|aspect-ratio|outline): |` +
	`^(letter-spacing: 50%|fill: none|white-space: wrap)$|^border-color: \S+ |^container-name: .*\b(red|transparent)\b`)

// Whatever Cobrik takes, CSS takes (css-tree matches the specifications' own
// grammars); what CSS takes and Cobrik refuses has a word that Cobrik leaves out.
func TestValuesAreThoseOfTheSpecifications(t *testing.T) {
	random := rand.New(rand.NewPCG(10, 26))
	var pairs [][2]string
	for _, property := range css.PropertyNames() {
		for _, a := range atoms {
			pairs = append(pairs, [2]string{property, a})
		}
		for range 300 {
			words := make([]string, 2+random.IntN(4))
			for i := range words {
				words[i] = atoms[random.IntN(len(atoms))]
			}
			pairs = append(pairs, [2]string{property, strings.Join(words, " ")})
		}
		p, _ := css.PropertyNamed(property)
		if p.Initial != "" {
			pairs = append(pairs, [2]string{property, css.InitialText(property)})
		}
	}
	taken := reference.Ask[[]bool](t, "grammar.mjs", map[string]any{"pairs": pairs})
	require.Len(t, taken, len(pairs))
	both := 0
	for i, pair := range pairs {
		property, value := pair[0], pair[1]
		_, err := css.Parse(property, value)
		switch {
		case err == nil && taken[i]:
			both++
		case err == nil:
			t.Errorf("%s: %s is taken, and is not CSS", property, value)
		case taken[i] && !leftOut.MatchString(property+": "+value):
			t.Errorf("%s: %s is CSS, and is refused: %s", property, value, err)
		}
	}
	assert.Greater(t, both, 500)
}

// A value that would unbalance a sheet, load something or take a browser's time
// is refused where it is written.
func TestHostileValuesAreRefused(t *testing.T) {
	for property, values := range map[string][]string{
		"grid-area":             {"((", "1 / (", "[a", "1;2"},
		"font-family":           {`"a`, `'a`, `a"`, `"a\a b"`, "a, ", "expression(1)", `"a" {b`},
		"opacity":               {"NaN", "Infinity", "-infinity", "calc(infinity)", "calc(1 / 0)", "1e", "0x10"},
		"width":                 {"NaNpx", "calc(NaN * 1px)", "infpx", "1pxx", "calc(1px)x", "calc((1px)", "calc(1px +2px)", "calc()", "min()", "clamp(1px)"},
		"grid-template-columns": {"repeat(999999999,1px)", "repeat(0, 1px)", "repeat(1.5, 1px)", "repeat(2, repeat(2, 1px))", strings.Repeat("1px ", 500)},
		"background-color":      {"src('http://x')", "url(x)", "URL(x)", "image(red)", "var(--x)", "env(x)", "attr(x)", "red; } body {", "red /* x", "</style>", "red\n", `\72 ed`, "#12", "rgb(1 2"},
		"box-shadow":            {"1px", "1px 1px -1px red", "url(x) 1px 1px", "1px 1px red red"},
		"transition":            {"all 1px", "a b c d 1s", "none 1s url(x)"},
		"transform":             {"translate(1deg)", "rotate(1px)", "perspective(1px)"},
		"rotate":                {"0", "45", "45px"},
		"color":                 {"", "  ", "{", "{}", "}", "{a", "{a}}", "{a{b}", "{a;b}"},
	} {
		for _, v := range values {
			_, err := css.Parse(property, v)
			assert.Error(t, err, "%s: %q", property, v)
		}
	}
	_, err := css.Parse("behavior", "x")
	assert.ErrorContains(t, err, "behavior")
	_, err = css.Parse("width", strings.Repeat("calc(", 40)+"1px"+strings.Repeat(")", 40))
	assert.ErrorContains(t, err, "deeper")
}

// CSS Values 4 (em, rem); CSS Fonts 4, 2.2 (normal is 400, bold 700); facts of
// the trade: font-size 1.2rem with padding 1em 2em and gap .5em is 19.2 px,
// 19.2/38.4 px, 9.6 px.
func TestCanonicalForms(t *testing.T) {
	for _, c := range []struct{ property, value, want string }{
		{"font-size", "1.2rem", "19.2px"}, {"padding-inline", "2em", "38.4px"}, {"padding-block", "1em", "19.2px"}, {"gap", ".5em", "9.6px"},
		{"padding-inline", "8px 8px", "8px"}, {"border-radius", "4px 4px 4px 4px", "4px"}, {"border-radius", "1px 2px 1px 2px", "1px 2px"}, {"border-width", "1px 2px 3px 2px", "1px 2px 3px"},
		{"gap", "normal", "0px"}, {"letter-spacing", "normal", "0px"}, {"padding-block", "0", "0px"}, {"padding-block", "0 4px", "0px 4px"},
		{"font-weight", "bold", "700"}, {"font-weight", "normal", "400"}, {"line-height", "1.5", "28.8px"}, {"line-height", "2em", "38.4px"}, {"line-height", "normal", "normal"},
		{"color", "rgb(0, 128, 0)", "#008000"}, {"background-color", "transparent", "#00000000"}, {"fill", "currentColor", "currentcolor"}, {"color", "RED", "#ff0000"},
		{"justify-content", "normal", "flex-start"}, {"align-items", "normal", "stretch"}, {"align-items", "end", "flex-end"}, {"text-align", "left", "start"},
		{"font-family", `"Hanken Grotesk", sans-serif`, "Hanken Grotesk"}, {"font-family", "Arial", "Arial"}, {"font-family", "Open Sans, serif", "Open Sans"}, {"opacity", "0.50", "0.5"},
		{"flex", "1 1 0%", "1 1 0%"}, {"grid-area", "1/1", "1 / 1"}, {"grid-template-columns", "repeat(2,minmax(0,1fr))", "repeat(2, minmax(0, 1fr))"},
		{"width", "calc(1rem + 4px * 2)", "24px"}, {"width", "calc(50% - 0.5rem)", "calc(50% - 8px)"}, {"width", "clamp(10px, 2em, 20px)", "20px"}, {"width", "min(1rem, 12px)", "12px"},
		{"width", "calc((2px + 1px) * 3)", "9px"}, {"width", "calc(10px / 4)", "2.5px"}, {"width", "1in", "96px"}, {"width", "72pt", "96px"},
		// CSS Images 3, 3.1: "to bottom" is 180deg, and what is left out; 3.2: an ellipse to the farthest corner is the usual one
		{"background-image", "linear-gradient(to bottom, RED, rgb(0 0 0 / 50%) 80%)", "linear-gradient(#ff0000, #00000080 80%)"}, {"background-image", "linear-gradient(180deg, red, blue)", "linear-gradient(#ff0000, #0000ff)"},
		{"background-image", "linear-gradient(to right, red, blue), linear-gradient(to top left, red, blue)", "linear-gradient(90deg, #ff0000, #0000ff), linear-gradient(to top left, #ff0000, #0000ff)"},
		{"background-image", "radial-gradient(ellipse, red, blue)", "radial-gradient(#ff0000, #0000ff)"}, {"background-image", "radial-gradient(50% 1rem at 25% 50%, red 0, blue)", "radial-gradient(50% 16px at 25% 50%, #ff0000 0, #0000ff)"},
		{"background-image", "radial-gradient(50% 20% at center, red, blue)", "radial-gradient(50% 20%, #ff0000, #0000ff)"}, {"background-image", "radial-gradient(at 50% 50%, red, blue)", "radial-gradient(#ff0000, #0000ff)"},
		{"mix-blend-mode", "Multiply", "multiply"},
		{"box-shadow", "0 1px 2px rgb(0 0 0 / 50%)", "0px 1px 2px 0px #00000080"}, {"box-shadow", "red 1px 2px inset, 0 0 3px 1px #123", "1px 2px 0px 0px #ff0000 inset, 0px 0px 3px 1px #112233"}, {"rotate", "45.50deg", "45.5deg"}, {"unheard-of", "As It Is", "As It Is"},
	} {
		assert.Equal(t, c.want, css.CanonicalText(c.property, c.value, 19.2), "%s: %s", c.property, c.value)
	}
}

// Reading what is written gives the same value, and a value never grows.
func TestWhatIsWrittenReadsBack(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 7))
	read := 0
	for range 20_000 {
		words := make([]string, 1+random.IntN(4))
		for i := range words {
			words[i] = append(atoms, "{space.2}", "calc({space.2} * 2 - (1px + 2px))")[random.IntN(len(atoms)+2)]
		}
		text := strings.Join(words, " ")
		v, err := css.ParseValue(text)
		if err != nil {
			continue
		}
		read++
		again, err := css.ParseValue(v.String())
		require.NoError(t, err, "%s is written %s", text, v)
		require.True(t, css.Equal(v, again, 0), "%s is read back as %s", v, again)
		require.Equal(t, v.String(), again.String())
		require.Equal(t, css.RefsIn(text), css.Refs(again))
	}
	assert.Greater(t, read, 15_000)
}

func TestEqualWithinATolerance(t *testing.T) {
	for _, c := range []struct {
		a, b      string
		tolerance float64
		same      bool
	}{
		{"8px", "8.4px", 0.5, true}, {"8px", "8.6px", 0.5, false}, {"8px 4px", "8px 4.6px", 0.5, false}, {"8px", "8em", 9, false}, {"8px", "8px 8px", 9, false},
		{"50%", "50.4%", 0.5, true}, {"1", "1.2", 0.1, false}, {"45deg", "45.1deg", 0.5, true}, {"red", "#f00", 0, true}, {"red", "#f00f01", 9, false}, {"solid", "dashed", 9, false},
		{"calc(50% - 8px)", "calc(50% - 8.2px)", 0.5, true}, {"calc(50% - 8px)", "calc(50% + 8px)", 0.5, false}, {"minmax(0, 1fr)", "minmax(0, 1.1fr)", 0.05, false}, {"{a}", "{a}", 0, true}, {"{a}", "{b}", 9, false},
	} {
		assert.Equal(t, c.same, css.SameText(c.a, c.b, c.tolerance), "%s and %s within %g", c.a, c.b, c.tolerance)
	}
}

// A token can stand for what its type is, and for nothing else.
func TestTokenTypes(t *testing.T) {
	for property, want := range map[string][]string{
		"padding-inline": {"dimension"}, "background-color": {"color"}, "font-weight": {"fontWeight", "number"}, "line-height": {"number", "dimension"}, "font-family": {"fontFamily"},
		"display": nil, "box-shadow": {"color", "dimension", "shadow"}, "opacity": {"number"}, "transition": {"duration", "cubicBezier", "transition"}, "overflow": nil,
	} {
		p, ok := css.PropertyNamed(property)
		require.True(t, ok, property)
		assert.Equal(t, want, p.TokenTypes(), property)
	}
	for _, c := range []struct {
		property, value string
		ok              bool
	}{
		{"padding-inline", "{a} {b}", true}, {"padding-inline", "{a} {b} {c}", false}, {"display", "{a}", false}, {"box-shadow", "{a}", true}, {"box-shadow", "0 {a} {b} {c}", true},
		{"width", "calc({a} * 2)", true}, {"width", "calc(1px * {a} + 2px)", true}, {"align-items", "{a}", false},
	} {
		_, err := css.Parse(c.property, c.value)
		assert.Equal(t, c.ok, err == nil, "%s: %s: %v", c.property, c.value, err)
	}
}

func TestReplaceRefs(t *testing.T) {
	loud := func(path string) string { return "<" + path + ">" }
	for in, want := range map[string]string{"{a.b}": "<a.b>", "{a} x {b}": "<a> x <b>", "calc({a} + 1px)": "calc(<a> + 1px)", "none": "none", "}{": "}{", "{a": "{a"} {
		assert.Equal(t, want, css.ReplaceRefs(in, loud))
	}
}

func FuzzParse(f *testing.F) {
	for _, a := range atoms {
		f.Add("width", a)
	}
	f.Add("box-shadow", "0 1px 2px {a}, inset 0 0 0 1px calc(1px + {b})")
	f.Fuzz(func(t *testing.T, property, text string) {
		v, err := css.Parse(property, text)
		if err != nil {
			return
		}
		for _, bad := range []string{";", "/*", "*/", "</", "\n", "url("} {
			if strings.Contains(v.String(), bad) && !strings.Contains(v.String(), `"`) {
				t.Fatalf("%q leaves its declaration as %q", text, v)
			}
		}
		css.Canonical(property, v, 16)
	})
}

func BenchmarkParse(b *testing.B) {
	b.ReportAllocs()
	for b.Loop() {
		for property, v := range map[string]string{"padding-inline": "{space.2}", "color": "#4a7c59", "flex": "1 1 0%", "font-family": `"Hanken Grotesk", sans-serif`, "width": "calc(50% - 8px)"} {
			if _, err := css.Parse(property, v); err != nil {
				b.Fatal(err)
			}
		}
	}
}
