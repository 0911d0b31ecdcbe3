package output_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"cobrik/core/color"
	"cobrik/core/jsontree"
	"cobrik/core/token"
	"cobrik/core/token/output"
)

// maker writes random token files: every type, groups in groups, aliases and
// references in pieces to tokens written before.
type maker struct {
	*rand.Rand
	byType map[string][]string
	count  int
}

func (m *maker) file(tokens int) string {
	root := jsontree.NewObject()
	for range tokens {
		kind := token.Types[m.IntN(len(token.Types))]
		m.count++
		path := fmt.Sprintf("g%d.t%d", m.IntN(6), m.count)
		if m.IntN(3) == 0 {
			path = fmt.Sprintf("g%d.deep %d.t%d", m.IntN(6), m.IntN(3), m.count)
		}
		value := m.value(kind)
		at := root
		for name := range strings.SplitSeq(path, ".") {
			next := at.Get(name)
			if next == nil {
				next = jsontree.NewObject()
				at.Set(name, next)
			}
			at = next
		}
		at.Set("$value", value)
		if value.Kind != jsontree.String || value.Text[0] != '{' || m.IntN(2) == 0 {
			at.Set("$type", jsontree.NewString(kind))
		}
		m.byType[kind] = append(m.byType[kind], path)
	}
	return string(token.Text(root))
}

// value is one of a type, said or referred to.
func (m *maker) value(kind string) *jsontree.Node {
	if known := m.byType[kind]; len(known) > 0 && m.IntN(3) == 0 {
		return jsontree.NewString("{" + known[m.IntN(len(known))] + "}")
	}
	number := func() *jsontree.Node { return jsontree.NewNumber(float64(m.IntN(2000))/100 - 4) }
	measure := func(units ...string) *jsontree.Node {
		return jsontree.NewObject(number().Named("value"), jsontree.NewString(units[m.IntN(len(units))]).Named("unit"))
	}
	object := func(parts ...string) *jsontree.Node {
		o := jsontree.NewObject()
		for i := 0; i < len(parts); i += 2 {
			o.Set(parts[i], m.value(parts[i+1]))
		}
		return o
	}
	switch kind {
	case "color":
		names := color.SpaceNames()
		unit := func() *jsontree.Node { return jsontree.NewNumber(float64(m.IntN(100)) / 100) }
		c := jsontree.NewObject(jsontree.NewString(names[m.IntN(len(names))]).Named("colorSpace"), jsontree.NewArray(unit(), unit(), unit()).Named("components"))
		if m.IntN(4) == 0 {
			c.Set("alpha", unit())
		}
		return c
	case "dimension":
		return measure("px", "rem")
	case "duration":
		return measure("ms", "s")
	case "number":
		return number()
	case "fontWeight":
		return jsontree.NewNumber(float64(1 + m.IntN(1000)))
	case "fontFamily":
		return jsontree.NewArray(jsontree.NewString([]string{"Hanken Grotesk", "serif", `Odd "one" \ $`, "é"}[m.IntN(4)]), jsontree.NewString("sans-serif"))
	case "cubicBezier":
		return jsontree.NewArray(jsontree.NewNumber(m.Float64()), number(), jsontree.NewNumber(m.Float64()), number())
	case "strokeStyle":
		if m.IntN(2) == 0 {
			return jsontree.NewString("dashed")
		}
		return jsontree.NewObject(jsontree.NewArray(m.value("dimension"), m.value("dimension")).Named("dashArray"), jsontree.NewString("round").Named("lineCap"))
	case "border":
		return object("color", "color", "width", "dimension", "style", "strokeStyle")
	case "transition":
		return object("duration", "duration", "delay", "duration", "timingFunction", "cubicBezier")
	case "shadow":
		one := func() *jsontree.Node {
			return object("color", "color", "offsetX", "dimension", "offsetY", "dimension", "blur", "dimension", "spread", "dimension")
		}
		if m.IntN(2) == 0 {
			return jsontree.NewArray(one(), m.value("shadow"))
		}
		return one()
	case "gradient":
		stop := func() *jsontree.Node { return object("color", "color", "position", "number") }
		return jsontree.NewArray(stop(), stop())
	}
	return object("fontFamily", "fontFamily", "fontSize", "dimension", "fontWeight", "fontWeight", "letterSpacing", "dimension", "lineHeight", "number")
}

// Random token files, of every type, through every output: what is written in
// the standard's format reads back equal, building again gives the same bytes,
// css-tree reads the style sheet, and formatting changes no value.
func TestRandomTokensThroughEveryOutput(t *testing.T) {
	for seed := range uint64(25) {
		m := &maker{Rand: rand.New(rand.NewPCG(seed, 7)), byType: map[string][]string{}}
		text := m.file(80)
		l := library(t, text)
		set, found := l.Set(nil)
		require.Empty(t, withoutPositions(found), "seed %d", seed)
		for _, o := range output.Standard() {
			files := build(t, o, l)
			for name, text := range files {
				require.NotEmpty(t, text, "%s of seed %d", name, seed)
			}
			switch o.Language {
			case "tokens":
				again, found := library(t, files["design.tokens.json"]).Set(nil)
				require.Empty(t, withoutPositions(found))
				require.Len(t, again.All(), len(set.All()))
				for _, tok := range set.All() {
					require.Equal(t, tok.Value, again.Get(tok.Path).Value, "%s of seed %d", tok.Path, seed)
					require.Equal(t, tok.Alias, again.Get(tok.Path).Alias)
				}
			case "css":
				if seed < 2 { // a Node process takes its time
					got := read[sheet](t, "css", files["tokens.css"])
					require.Empty(t, got.Errors, "seed %d", seed)
				}
			}
		}
		today, found := token.Format(token.File{Name: "a.json", Text: []byte(text)})
		require.Empty(t, found)
		formatted, found := library(t, string(today)).Set(nil)
		require.Empty(t, withoutPositions(found))
		for _, tok := range set.All() {
			require.Equal(t, tok.Value, formatted.Get(tok.Path).Value)
			// A value flattened refers to nothing, and comes to the same.
			flat := tok.Content.Flat()
			require.Equal(t, tok.Value, flat.CSS(), "%s of seed %d", tok.Path, seed)
			require.NotContains(t, string(flat.JSON().Append(nil, nil)), `"{g`)
		}
	}
}
