package printer_test

import (
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/emit/printer"
)

func list(items ...string) printer.Doc {
	docs := make([]printer.Doc, len(items))
	for i, item := range items {
		docs[i] = printer.Text(item)
	}
	return printer.Group(printer.Text("["), printer.Indent(printer.SoftLine, printer.Join(printer.Concat(printer.Text(","), printer.Line), docs...)),
		printer.IfBreak(",", ""), printer.SoftLine, printer.Text("]"))
}

func TestAGroupStandsOnOneLineWhereItFits(t *testing.T) {
	for columns, want := range map[int]string{
		20: "[alpha, beta, gamma]",
		19: "[\n  alpha,\n  beta,\n  gamma,\n]",
		3:  "[\n  alpha,\n  beta,\n  gamma,\n]",
	} {
		assert.Equal(t, want, printer.Print(list("alpha", "beta", "gamma"), columns), "%d columns", columns)
	}
}

// The outer group is broken first; the inner one stands on one line as long as it can, what
// follows it up to the next break counted.
func TestInnerGroupsAreBrokenLast(t *testing.T) {
	inner := list("a", "b")
	doc := printer.Group(printer.Text("f("), printer.Indent(printer.SoftLine, inner, printer.Text(","), printer.Line, printer.Text("second")), printer.SoftLine, printer.Text(");"))
	assert.Equal(t, "f([a, b], second);", printer.Print(doc, 18))
	assert.Equal(t, "f(\n  [a, b],\n  second\n);", printer.Print(doc, 17))
	assert.Equal(t, "f(\n  [a, b],\n  second\n);", printer.Print(doc, 9))
	assert.Equal(t, "f(\n  [\n    a,\n    b,\n  ],\n  second\n);", printer.Print(doc, 8), "the comma behind it does not fit")
}

func TestAHardLineBreaksEveryGroupAround(t *testing.T) {
	doc := printer.Group(printer.Text("{"), printer.Indent(printer.Line, printer.Group(printer.Text("a"), printer.HardLine, printer.Text("b"))), printer.Line, printer.Text("}"))
	assert.Equal(t, "{\n  a\n  b\n}", printer.Print(doc, 80))
	assert.True(t, printer.Breaks(doc))
	assert.False(t, printer.Breaks(list("a")))
	assert.Equal(t, "a\nb", printer.Print(printer.Broken(printer.Text("a"), printer.Line, printer.Text("b")), 80))
}

// What follows an operator stands behind it while its first line fits.
func TestAfterAnOperator(t *testing.T) {
	value := func(items ...string) printer.Doc {
		return printer.Concat(printer.Text("const x ="), printer.After(list(items...)), printer.Text(";"))
	}
	assert.Equal(t, "const x = [a, b];", printer.Print(value("a", "b"), 17))
	assert.Equal(t, "const x = [\n  a,\n  b,\n];", printer.Print(value("a", "b"), 16))
	assert.Equal(t, "const x =\n  [a, b];", printer.Print(value("a", "b"), 10), "not even the bracket fits")
}

// Unicode Standard Annex 11: a wide letter takes two columns; a mark takes none.
func TestColumns(t *testing.T) {
	for s, want := range map[string]int{"": 0, "abc": 3, "Größe": 5, "Gro\u0308ße": 5, "名前": 4, "한": 2, "👩‍🌾": 2, "ﬁ": 1} {
		assert.Equal(t, want, printer.Columns(s), s)
	}
	assert.Equal(t, "[名前, 名前]", printer.Print(list("名前", "名前"), 12))
	assert.Equal(t, "[\n  名前,\n  名前,\n]", printer.Print(list("名前", "名前"), 11))
}

// random makes a document and gives the text it holds in order.
func random(r *rand.Rand, depth int) (printer.Doc, string) {
	if depth == 0 || r.IntN(4) == 0 {
		word := strings.Repeat(string(rune('a'+r.IntN(26))), 1+r.IntN(9))
		return printer.Text(word), word
	}
	var docs []printer.Doc
	var words strings.Builder
	for range 1 + r.IntN(4) {
		d, w := random(r, depth-1)
		docs = append(docs, d)
		words.WriteString(w)
		if r.IntN(2) == 0 {
			docs = append(docs, []printer.Doc{printer.Line, printer.SoftLine, printer.SoftLine, printer.HardLine}[r.IntN(4)])
		}
	}
	switch r.IntN(3) {
	case 0:
		return printer.Group(docs...), words.String()
	case 1:
		return printer.Indent(docs...), words.String()
	}
	return printer.Concat(docs...), words.String()
}

// However it is laid out, nothing of the text is lost or comes twice, and no line ends in a
// space.
func TestLayoutKeepsTheText(t *testing.T) {
	for seed := range uint64(3000) {
		doc, words := random(rand.New(rand.NewPCG(seed, 1)), 5)
		for _, columns := range []int{1, 10, 20, 40, 80, 1000} {
			out := printer.Print(doc, columns)
			require.Equal(t, words, strings.NewReplacer("\n", "", " ", "").Replace(out), "seed %d, %d columns", seed, columns)
			require.NotContains(t, out, " \n", "seed %d", seed)
		}
	}
}

// What follows a group that had to be broken is moved in with it.
func TestWhatFollowsABrokenGroup(t *testing.T) {
	doc := func() printer.Doc {
		chain := printer.Group(printer.Text("one"), printer.Indent(printer.Text(" &&"), printer.Line, printer.Text("two")))
		return printer.Following(chain, printer.Concat(printer.Text(" && ("), printer.Indent(printer.HardLine, printer.Text("x")), printer.HardLine, printer.Text(")")))
	}
	assert.Equal(t, "one && two && (\n  x\n)", printer.Print(doc(), 20))
	assert.Equal(t, "one &&\n  two && (\n    x\n  )", printer.Print(doc(), 12))
}

func TestOneOfTwoByTheRoomThereIs(t *testing.T) {
	doc := printer.Either(printer.Text("some words"), printer.Text("{…}"))
	assert.Equal(t, "some words", printer.Print(doc, 10))
	assert.Equal(t, "{…}", printer.Print(doc, 9))
}
