package source_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/draft"
	"cobrik/core/draft/drafttest"
	"cobrik/core/emit"
	"cobrik/core/emit/emittest"
	"cobrik/core/emit/react"
	"cobrik/core/font"
	"cobrik/core/placeholder"
	"cobrik/core/source"
	"cobrik/core/token"
	"cobrik/core/token/output"
	"cobrik/demo/demotest"
)

// opened makes emitted files ready to be read.
func opened(files []emit.File) *source.Code {
	var out []source.File
	for _, f := range files {
		out = append(out, source.File{Name: f.Path, Text: []byte(f.Content)})
	}
	return source.Open(out)
}

func options(properties *output.Properties, tokens *token.Set, contracts []*contract.Contract) source.Options {
	paths := properties.Paths()
	return source.Options{
		Tokens:    tokens,
		Token:     func(property string) (string, bool) { path, ok := paths[property]; return path, ok },
		Modifiers: []string{"theme", "contrast", "density"},
		Component: func(name string) *contract.Contract {
			for _, c := range contracts {
				if c.Name == name {
					return c
				}
			}
			return nil
		},
	}
}

// difference tells how two lists of facts differ, a line a fact.
func difference(want, got []source.Fact) string {
	a, b := map[source.Subject]string{}, map[source.Subject]string{}
	for _, f := range want {
		a[f.About] = f.Value
	}
	for _, f := range got {
		b[f.About] = f.Value
	}
	var out strings.Builder
	for _, f := range want {
		if _, there := b[f.About]; !there {
			fmt.Fprintf(&out, "lost     %s: %s\n", f.About, f.Value)
		} else if b[f.About] != f.Value {
			fmt.Fprintf(&out, "changed  %s: %s, read %s\n", f.About, f.Value, b[f.About])
		}
	}
	for _, f := range got {
		if _, there := a[f.About]; !there {
			fmt.Fprintf(&out, "invented %s: %s\n", f.About, f.Value)
		}
	}
	return out.String()
}

// What is read of the demo's emitted code is what its contracts say: no fact is lost, and none invented.
func TestEmittedFamiliesAreReadBack(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 3)
	list, _ := demotest.Families(t, doc, tokens)
	var contracts []*contract.Contract
	for _, d := range list {
		contracts = append(contracts, d.Contract)
	}
	properties := output.PropertiesOf(tokens)
	code := opened(react.Library("furrow", contracts, properties, react.Options{}))
	facts := 0
	for _, c := range contracts {
		file := c.Name + "/" + c.Name + ".tsx"
		r := code.Read(file, c.Name, options(properties, tokens, contracts))
		require.NotNil(t, r, "%s is not found in its file", c.Name)
		assert.Empty(t, r.Align(c), "%s: something is taken for renamed", c.Name)
		want := source.Facts(c)
		facts += len(want)
		assert.Empty(t, difference(want, source.Facts(r.Contract)), c.Name)
		assert.Empty(t, r.Unread, c.Name)
	}
	assert.Greater(t, facts, 500)
	t.Logf("%d facts of %d components", facts, len(contracts))
}

// Random contracts of every kind of prop, under awkward names, with uses of each other, are read back from
// their code: no fact is lost, and none invented.
func TestRandomContractsAreReadBack(t *testing.T) {
	properties := output.PropertiesOf(token.Empty())
	var pool, all []*contract.Contract
	wrong := 0
	facts := 0
	for seed := range uint64(300) {
		c := emittest.NewMaker(seed, fmt.Sprintf("Some%d", seed), pool).Contract()
		if found := c.Check(token.Empty()); found.Failed() || len(found) > 0 {
			continue // a part of it is never there
		}
		all = append(all, c)
		if seed%4 == 0 {
			pool = append(pool[max(0, len(pool)-5):len(pool):len(pool)], c)
		}
		code := opened(react.Emit(c, properties, react.Options{}))
		r := code.Read(c.Name+".tsx", c.Name, options(properties, token.Empty(), all))
		require.NotNil(t, r, "seed %d", seed)
		renamed := r.Align(c)
		want := source.Facts(c)
		facts += len(want)
		diff := difference(want, source.Facts(r.Contract))
		if diff != "" || len(renamed) > 0 || len(r.Unread) > 0 {
			t.Errorf("seed %d\n%srenamed: %v\n%v", seed, diff, renamed, r.Unread)
			if wrong++; wrong > 6 {
				t.Fatal("and so on")
			}
		}
	}
	assert.Greater(t, len(all), 200)
	t.Logf("%d facts of %d components", facts, len(all))
}

// Random designs of everything that a document holds are drafted, emitted and read back: styles, states,
// widths, uses and placeholders among them.
func TestRandomDesignsAreReadBack(t *testing.T) {
	properties := output.PropertiesOf(token.Empty())
	facts, wrong, components := 0, 0, 0
	for seed := range uint64(60) {
		doc := drafttest.NewPainter(9000+seed).Document(fmt.Sprintf("doc-%d", seed), 3)
		known := map[string]*contract.Contract{}
		var all []*contract.Contract
		for _, f := range doc.Families {
			c, _, found := draft.Of(doc, contract.Origin{Family: f.ID}, "", token.Empty(), font.Shipped(), func(family string) *contract.Contract { return known[family] })
			if c == nil {
				require.NotEmpty(t, found)
				continue
			}
			known[f.ID] = c
			all = append(all, c)
		}
		for _, c := range slices.Clone(all) {
			room := placeholder.Of(c)
			contract.NewLinker(func(name string) *contract.Contract {
				return all[slices.IndexFunc(all, func(o *contract.Contract) bool { return o.Name == name })]
			}).Link(room)
			all = append(all, room)
		}
		code := opened(react.Library("random", all, properties, react.Options{}))
		for _, c := range all {
			r := code.Read(c.Name+"/"+c.Name+".tsx", c.Name, options(properties, token.Empty(), all))
			require.NotNil(t, r, "seed %d, %s", seed, c.Name)
			renamed := r.Align(c)
			want := source.Facts(c)
			facts, components = facts+len(want), components+1
			diff := difference(want, source.Facts(r.Contract))
			if diff != "" || len(renamed) > 0 || len(r.Unread) > 0 {
				t.Errorf("seed %d, %s\n%srenamed: %v\n%v", seed, c.Name, diff, renamed, r.Unread)
				if wrong++; wrong > 6 {
					t.Fatal("and so on")
				}
			}
		}
	}
	t.Logf("%d facts of %d components", facts, components)
}
