package design_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
)

// lines says changes in short: "page P: L changed bounds.width 1 > 2".
func lines(changes []design.Change) []string {
	var out []string
	for _, c := range changes {
		out = append(out, fmt.Sprintf("%s %s: %s %s %s %s > %s", c.Kind, c.Name, c.What, c.State, c.Property, c.Before, c.After))
	}
	return out
}

func decoded(t *testing.T, text string) *design.Document {
	t.Helper()
	d, err := design.Decode([]byte(text))
	require.NoError(t, err)
	return d
}

const (
	earlierDesign = `{"format":"cobrik.design/1","id":"d","name":"D","note":"n","assets":[{"id":"pic","source":"data:,a","width":1,"height":1},{"id":"old","source":"data:,b","width":1,"height":1}],
	 "pages":[{"id":"p","name":"P","width":10,"height":10,"layers":[
	   {"id":"a","name":"A","kind":"box","bounds":{"x":0,"y":0,"width":1,"height":1},"children":[{"id":"a1","name":"A1","kind":"box","bounds":{"x":0,"y":0,"width":1,"height":1}}]},
	   {"id":"b","name":"B","kind":"box","bounds":{"x":0,"y":0,"width":1,"height":1},"tokens":{"padding":"space.2"},"radius":[1,2,3,4]},
	   {"id":"c","name":"C","kind":"text","bounds":{"x":0,"y":0,"width":1,"height":1},"text":{"content":"Sow","fontFamily":"F","fontSize":1,"fontWeight":4,"lineHeight":1}},
	   {"id":"e","name":"E","kind":"box","bounds":{"x":0,"y":0,"width":1,"height":1}}]},
	   {"id":"q","name":"Q","width":10,"height":10,"layers":[]}],
	 "families":[{"id":"f","name":"F","axes":[{"name":"size","values":["s","m"],"default":"m"}],"variants":[
	   {"id":"fs","choices":{"size":"s"},"root":{"id":"fs1","name":"root","kind":"box","bounds":{"x":0,"y":0,"width":1,"height":1}}},
	   {"id":"fm","choices":{"size":"m"},"root":{"id":"fm1","name":"root","kind":"box","bounds":{"x":0,"y":0,"width":1,"height":1}}}]}]}`
	laterDesign = `{"format":"cobrik.design/1","id":"d","name":"Dee","note":"other","assets":[{"id":"pic","source":"data:,z","width":1,"height":1}],
	 "pages":[{"id":"p","name":"Pee","width":12,"height":10,"layers":[
	   {"id":"c","name":"C","kind":"text","bounds":{"x":0,"y":0,"width":1,"height":1},"text":{"content":"Reap","fontFamily":"F","fontSize":1,"fontWeight":4,"lineHeight":1}},
	   {"id":"b","name":"B","kind":"box","bounds":{"x":0,"y":0,"width":1.5,"height":1},"tokens":{"padding":"space.3"},"radius":[1,2,3,5],"children":[
	     {"id":"new","name":"New","kind":"group","bounds":{"x":0,"y":0,"width":1,"height":1},"children":[{"id":"new1","name":"New1","kind":"box","bounds":{"x":0,"y":0,"width":1,"height":1}},
	       {"id":"a1","name":"A1","kind":"box","bounds":{"x":0,"y":0,"width":1,"height":1}}]}]}]},
	   {"id":"r","name":"R","width":10,"height":10,"layers":[{"id":"e","name":"E","kind":"box","bounds":{"x":0,"y":0,"width":1,"height":1}}]}],
	 "families":[{"id":"f","name":"F","axes":[{"name":"size","values":["s","l"],"default":"s"}],"variants":[
	   {"id":"fs","choices":{"size":"s"},"root":{"id":"fs1","name":"root","kind":"box","bounds":{"x":0,"y":0,"width":1,"height":1},"opacity":0.5}},
	   {"id":"fl","choices":{"size":"l"},"root":{"id":"fl1","name":"root","kind":"box","bounds":{"x":0,"y":0,"width":1,"height":1}}}]}]}`
)

func TestCompareTellsEveryKindOfChange(t *testing.T) {
	changes := design.Compare(decoded(t, earlierDesign), decoded(t, laterDesign))
	assert.Equal(t, []string{
		"document :  changed name D > Dee",
		"document : picture pic changed source data:,a > data:,z",
		"document : picture old removed   > ",
		"family F:  changed axes.1.default m > s",
		"family F:  changed axes.1.values.2 m > l",
		"family F: size=l added   > ",
		"family F: size=m removed   > ",
		"family F: size=s › root changed opacity  > 0.5",
		"page Pee:  changed name P > Pee",
		"page Pee:  changed width 10 > 12",
		"page Pee: C changed text.content Sow > Reap",
		"page Pee: B changed bounds.width 1 > 1.5",
		"page Pee: B changed radius.4 4 > 5",
		"page Pee: B changed tokens.padding space.2 > space.3",
		"page Pee: New added   > group with 1 layer within",
		"page Pee: A1 moved parent A > New",
		"page Pee: A removed  box > ",
		"page Pee:  moved order B, C > C, B",
		"page R:  added   > ",
		"page R: E moved parent P > R",
		"page Q:  removed   > ",
	}, lines(changes))
	assert.Equal(t, "f", changes[3].Place)
	assert.Empty(t, design.Compare(decoded(t, earlierDesign), decoded(t, earlierDesign)), "a revision differs from itself")
}

// Any one change to the demo's design is told, and nothing else is; the other way round it
// is told the other way round.
func TestCompareTellsAnyOneChange(t *testing.T) {
	text := furrow(t)
	before := decoded(t, string(text))
	r := rand.New(rand.NewPCG(3, 5))
	var layers []string
	for id := range flat(before) {
		layers = append(layers, id)
	}
	slices.Sort(layers)
	for round := range 60 {
		after := decoded(t, string(text))
		id := layers[r.IntN(len(layers))]
		at := flat(after)[id]
		l := at.layer
		want := design.Change{State: design.Changed, What: l.Name}
		switch r.IntN(4) {
		case 0:
			l.Bounds.Width += 2
			want.Property = "bounds.width"
		case 1:
			l.Name += " too"
			want.What, want.Property, want.Before, want.After = l.Name, "name", l.Name[:len(l.Name)-4], l.Name
		case 2:
			l.Hidden = !l.Hidden
			want.Property = "hidden"
		default:
			if at.parent == nil {
				continue
			}
			at.parent.Children = slices.DeleteFunc(at.parent.Children, func(c *design.Layer) bool { return c == l })
			want.State = design.Removed
		}
		got := design.Compare(before, after)
		require.Len(t, got, 1, "round %d: %v", round, lines(got))
		assert.Equal(t, want.State, got[0].State)
		assert.Equal(t, want.Property, got[0].Property)
		assert.Contains(t, got[0].What, want.What)
		assert.NotEmpty(t, got[0].Place)
		if want.Before != "" {
			assert.Equal(t, []string{want.Before, want.After}, []string{got[0].Before, got[0].After})
		}
		back := design.Compare(after, before)
		require.Len(t, back, 1)
		if want.State == design.Removed {
			assert.Equal(t, design.Added, back[0].State)
		} else {
			assert.Equal(t, []string{got[0].Before, got[0].After}, []string{back[0].After, back[0].Before})
		}
	}
}

type flatLayer struct{ layer, parent *design.Layer }

func flat(d *design.Document) map[string]flatLayer {
	out := map[string]flatLayer{}
	var walk func(l, parent *design.Layer)
	walk = func(l, parent *design.Layer) {
		out[l.ID] = flatLayer{l, parent}
		for _, c := range l.Children {
			walk(c, l)
		}
	}
	for _, p := range d.Pages {
		for _, l := range p.Layers {
			walk(l, nil)
		}
	}
	for _, f := range d.Families {
		for _, v := range f.Variants {
			walk(v.Root, nil)
		}
	}
	return out
}

// Nothing is told of two revisions that say the same, and something of any two that do not.
func TestCompareIsSilentOnlyOverTheSame(t *testing.T) {
	var texts []map[string]any
	for n := 1; n <= 3; n++ {
		texts = append(texts, plainDesign(t, n))
	}
	for i := range texts {
		for j := range texts {
			a, err := json.Marshal(texts[i])
			require.NoError(t, err)
			b, err := json.Marshal(texts[j])
			require.NoError(t, err)
			changes := design.Compare(decoded(t, string(a)), decoded(t, string(b)))
			assert.Equal(t, string(a) == string(b), len(changes) == 0, "revisions %d and %d", i+1, j+1)
		}
	}
}

// plainDesign reads a revision of the demo's design without what it says of itself.
func plainDesign(t *testing.T, number int) map[string]any {
	t.Helper()
	var out map[string]any
	require.NoError(t, json.Unmarshal(furrowRevision(t, number), &out))
	delete(out, "note")
	delete(out, "author")
	return out
}

func BenchmarkCompare(b *testing.B) {
	before, err := design.Decode(furrowRevision(b, 1))
	require.NoError(b, err)
	after, err := design.Decode(furrowRevision(b, 2))
	require.NoError(b, err)
	b.ReportAllocs()
	for b.Loop() {
		require.NotEmpty(b, design.Compare(before, after))
	}
}
