package ir_test

import (
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"

	"cobrik/core/contract"
	"cobrik/core/draft"
	"cobrik/core/emit/emittest"
	"cobrik/core/emit/ir"
	"cobrik/core/font"
	"cobrik/demo/demotest"
)

// parsed is the outermost element a browser makes of markup (HTML Living Standard, 13.4).
func parsed(t *testing.T, markup string) *html.Node {
	t.Helper()
	nodes, err := html.ParseFragment(strings.NewReader(markup), &html.Node{Type: html.ElementNode, Data: "div", DataAtom: atom.Div})
	require.NoError(t, err)
	require.Len(t, nodes, 1, markup)
	return nodes[0]
}

func elements(n *html.Node) (out []*html.Node) {
	for c := range n.ChildNodes() {
		if c.Type == html.ElementNode {
			out = append(out, c)
		}
	}
	return out
}

func attribute(n *html.Node, name string) (string, bool) {
	for _, a := range n.Attr {
		if a.Key == name {
			return a.Val, true
		}
	}
	return "", false
}

// Measurements find parts by where they stand: a wrong path would lay one part's figures at
// another's door. Every component of the demo, in random prop values, as an HTML parser reads it.
func TestPathsFindTheParts(t *testing.T) {
	random := rand.New(rand.NewPCG(2, 26))
	found, hidden := 0, 0
	for release := 1; release <= 3; release++ {
		doc, tokens := demotest.Furrow(t, release)
		for _, f := range doc.Families {
			c, _, problems := draft.Of(doc, contract.Origin{Family: f.ID}, "", tokens, font.Shipped(), nil)
			require.NotNil(t, c, problems)
			var last *contract.Part
			c.Walk(func(p, _ *contract.Part) { last = p })
			c.Props = append(c.Props, contract.Prop{ID: "odd", Name: "odd", Type: contract.Flag{}})
			if last != c.Root {
				last.ShownWhen = contract.Of(contract.PropIs{Prop: "odd", Value: contract.FlagValue(true)})
			}
			if random.IntN(2) == 0 { // with an element around the root
				c.Rules = append(c.Rules, contract.Rule{Part: c.Root.ID, When: contract.BelowWidth(400), Set: contract.Style{"opacity": "0.5"}})
			}
			m := ir.Lower(c)
			for range 20 {
				props := c.Defaults()
				for _, p := range c.Props {
					switch o := p.Options(); {
					case p.Kind() == contract.FlagKind:
						props[p.ID] = contract.FlagValue(random.IntN(2) == 0)
					case len(o) > 0:
						props[p.ID] = contract.OptionValue(o[random.IntN(len(o))])
					}
				}
				root := parsed(t, emittest.Markup(m, props))
				shown := map[string]bool{}
				var walk func(r *contract.Resolved)
				walk = func(r *contract.Resolved) {
					shown[r.Part.ID] = r.Shown
					for _, child := range r.Children {
						walk(child)
					}
				}
				walk(contract.Resolve(c, contract.EnvOf(props), tokens))
				paths := m.Paths(props)
				for part, is := range shown {
					path, ok := paths[part]
					if !assert.Equal(t, is, ok, "%s: part %s in %v", c.Name, part, props) || !ok {
						hidden++
						continue
					}
					at := root
					for _, step := range path {
						require.Greater(t, len(elements(at)), step, "%s: %v leads nowhere", part, path)
						at = elements(at)[step]
					}
					id, _ := attribute(at, "data-part")
					require.Equal(t, part, id, "%v in %s", path, c.Name)
					found++
				}
			}
		}
	}
	assert.Positive(t, found)
	assert.Positive(t, hidden, "nothing was ever left out")
}

// What elements say of themselves to those who cannot see them, or who press them.
func TestElementsSayWhatTheyAre(t *testing.T) {
	box := [4]float64{0, 0, 16, 8}
	path := contract.Path{D: "M0 0", Fill: "none", Stroke: contract.PathStroke{Color: "currentColor", Width: 1.5, Cap: "round", Join: "bevel"}}
	for name, want := range map[string]struct {
		element string
		style   contract.Style
		content contract.Content
		has     map[string]string
		not     []string
	}{
		"a button submits nothing (HTML, 4.10.6)":              {"button", nil, nil, map[string]string{"type": "button"}, nil},
		"a picture has its text (ARIA 1.2, img)":               {"span", nil, contract.Picture{Alt: "A \"bed\""}, map[string]string{"role": "img", "aria-label": "A \"bed\""}, []string{"aria-hidden"}},
		"a picture without a text is decoration (ARIA, 6.6)":   {"span", nil, contract.Picture{}, map[string]string{"aria-hidden": "true"}, []string{"role", "aria-label"}},
		"a drawing of its shape keeps it (SVG 2, 8.6)":         {"svg", contract.Style{"width": "32px", "height": "16px"}, &contract.Vector{ViewBox: box, Label: "Leek"}, map[string]string{"viewbox": "0 0 16 8", "role": "img", "aria-label": "Leek"}, []string{"preserveaspectratio"}},
		"a drawing of another shape is stretched (SVG 2, 8.6)": {"svg", contract.Style{"width": "32px", "height": "32px"}, &contract.Vector{ViewBox: box}, map[string]string{"preserveaspectratio": "none", "aria-hidden": "true"}, []string{"role"}},
		"a drawing as wide as there is room is stretched":      {"svg", contract.Style{"width": "100%", "height": "8px"}, &contract.Vector{ViewBox: box}, map[string]string{"preserveaspectratio": "none"}, nil},
		"a square of a token's size keeps its shape":           {"svg", contract.Style{"width": "{size}", "height": "{size}"}, &contract.Vector{ViewBox: [4]float64{0, 0, 8, 8}}, nil, []string{"preserveaspectratio"}},
	} {
		part := &contract.Part{ID: "part", Name: "part", Element: want.element, Style: want.style, Content: want.content}
		c := &contract.Contract{Name: "Some", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Children: []*contract.Part{part}}}
		at := elements(parsed(t, emittest.Markup(ir.Lower(c), nil)))[0]
		for attr, value := range want.has {
			found := false
			for _, a := range at.Attr {
				if strings.EqualFold(a.Key, attr) {
					found = true
					assert.Equal(t, value, a.Val, "%s: %s", name, attr)
				}
			}
			assert.True(t, found, "%s: no %s", name, attr)
		}
		for _, attr := range want.not {
			for _, a := range at.Attr {
				assert.False(t, strings.EqualFold(a.Key, attr), "%s: has %s", name, attr)
			}
		}
	}
	lined := &contract.Contract{Name: "Lined", Root: &contract.Part{ID: "root", Name: "root", Element: "svg", Content: &contract.Vector{ViewBox: box, Paths: []contract.Path{path}}}}
	line := elements(parsed(t, emittest.Markup(ir.Lower(lined), nil)))[0]
	for attr, value := range map[string]string{"d": "M0 0", "fill": "none", "stroke": "currentColor", "stroke-width": "1.5", "stroke-linecap": "round", "stroke-linejoin": "bevel"} {
		got, _ := attribute(line, attr)
		assert.Equal(t, value, got, attr)
	}
}

// Flags of the names that elements have attributes for are those attributes (HTML, the
// attributes' index); a root that has no such attribute gets none.
func TestFlagsThatElementsHaveReachThem(t *testing.T) {
	for element, want := range map[string][]string{"button": {"disabled", "hidden", "inert"}, "fieldset": {"disabled", "hidden", "inert"}, "div": {"hidden", "inert"}} {
		c := &contract.Contract{Name: "Some", Root: &contract.Part{ID: "root", Name: "root", Element: element}}
		on := contract.Values{}
		for _, name := range []string{"disabled", "hidden", "inert", "strong"} {
			c.Props = append(c.Props, contract.Prop{ID: name, Name: name, Type: contract.Flag{}})
			on[name] = contract.FlagValue(true)
		}
		for _, props := range []contract.Values{nil, on} {
			root := parsed(t, emittest.Markup(ir.Lower(c), props))
			var got []string
			for _, a := range root.Attr {
				if _, is := on[a.Key]; is {
					got = append(got, a.Key)
				}
			}
			if props == nil {
				assert.Empty(t, got, "%s is born with states", element)
			} else {
				assert.ElementsMatch(t, want, got, element)
			}
		}
	}
}
