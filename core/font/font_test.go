package font

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const hanken = "../../web/dist/preview/hanken-grotesk-latin-wght-normal.woff2"
const mono = "../../web/dist/preview/jetbrains-mono-latin-wght-normal.woff2"

func load(t testing.TB, name, file string) *Library {
	t.Helper()
	text, err := os.ReadFile(file)
	require.NoError(t, err, "run `make web` first")
	l := new(Library)
	require.NoError(t, l.Add(name, text))
	return l
}

func width(text *Text) (sum float64) {
	for _, a := range text.Advance {
		sum += a
	}
	return sum
}

// A monospaced face has one advance: 600 of 1000 units in this one.
func TestAdvances(t *testing.T) {
	f := load(t, "Mono", mono).Face("mono", 400)
	assert.InDelta(t, 0.6, f.Zero, 1e-9)
	assert.InDelta(t, 0.6*9, width(f.Text("tool shed")), 1e-9)
	h := load(t, "Hanken", hanken)
	assert.Less(t, width(h.Face("Hanken", 400).Text("rota")), width(h.Face("Hanken", 800).Text("rota")), "bolder is wider")
	alone := h.Face("Hanken", 400).Text("AVAVAV")
	sum := 0.0
	for _, a := range alone.Alone {
		sum += a
	}
	assert.Less(t, width(alone), sum, "A and V are kerned")
	assert.Nil(t, h.Face("Other", 400))
}

func TestWhereLinesBreak(t *testing.T) {
	f := load(t, "Hanken", hanken).Face("Hanken", 400)
	var pieces []string
	text := []rune("Plot 41, tool-shed\u00a0key: (early) beans/peas\nend")
	for _, p := range f.Text(string(text)).Pieces {
		pieces = append(pieces, string(text[p.Start:p.End]))
	}
	// Unicode Standard Annex 14: LB7 spaces, LB12 no-break space, LB13
	// punctuation, LB21 hyphens, LB4 line feeds.
	assert.Equal(t, []string{"Plot ", "41, ", "tool-", "shed\u00a0key: ", "(early) ", "beans/", "peas\n", "end"}, pieces)
}

// CSS Text 3, 4.1.1.
func TestCollapse(t *testing.T) {
	text := "  two \t\n words\n "
	assert.Equal(t, "two words", Collapse(text, "normal"))
	assert.Equal(t, text, Collapse(text, "pre-wrap"))
	assert.Equal(t, "two\nwords\n", Collapse(text, "pre-line"))
}

func FuzzAdd(f *testing.F) {
	for _, file := range []string{hanken, mono} {
		text, err := os.ReadFile(file)
		require.NoError(f, err)
		f.Add(text[:200])
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, file []byte) {
		l := new(Library)
		if l.Add("x", file) == nil && strings.HasPrefix(string(file), "wOF2") {
			l.Face("x", 400).Text("seed swap")
		}
	})
}
