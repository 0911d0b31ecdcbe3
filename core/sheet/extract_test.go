package sheet_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/sheet"
	"cobrik/core/token"
)

// rendered is all that stands in a component, in the order of the tree, whatever component it is of.
func rendered(r *contract.Resolved, at contract.Style, out *[]string) {
	if !r.Shown {
		return
	}
	own := contract.Style{}
	for property, v := range r.Values {
		if known := v.Part == r.Part.ID || r.Inside != nil; known || property == "color" || property == "font-size" {
			own[property] = v.Value
		}
	}
	for property, value := range at { // how the use stands
		own[property] = value
	}
	if r.Inside != nil {
		stands := contract.Style{}
		for property, v := range r.Values {
			if v.Part == r.Part.ID {
				stands[property] = v.Value
			}
		}
		rendered(r.Inside, stands, out)
		return
	}
	element := r.Part.Element
	if r.Level > 0 {
		element = fmt.Sprint("h", r.Level)
	}
	line := element + " " + fmt.Sprint(r.Text, r.Image, r.Icon != nil)
	for _, property := range own.Properties() {
		line += " " + property + ":" + own[property]
	}
	*out = append(*out, line)
	for _, c := range r.Children {
		rendered(c, nil, out)
	}
}

// A part that is made a component of its own renders as before, in every drawn option; so do those that were the same.
func TestAPartOfItsOwnRendersAsBefore(t *testing.T) {
	all, worlds := drafted(t, 25)
	made, refused := 0, 0
	for i, was := range all {
		tokens := worlds[i].Tokens
		was.Walk(func(p, parent *contract.Part) {
			if parent == nil || p.Use() != nil {
				return
			}
			c := was.Clone()
			own, uses, err := c.Extract(p.ID, "OwnPart")
			if err != nil {
				refused++
				return
			}
			at := fmt.Sprintf("%s: %s", was.Name, p.Name)
			require.GreaterOrEqual(t, uses, 1, at)
			find := func(name string) *contract.Contract {
				if name == own.Name {
					return own
				}
				return worlds[i].Components(name)
			}
			_, cycle := contract.NewLinker(find).Link(c)
			require.Empty(t, cycle, at)
			before := was.Check(tokens)
			for _, found := range slices.Concat(c.Check(tokens), own.Check(tokens)) {
				if found.Severity == "error" && len(before) == 0 {
					assert.Fail(t, found.Message, at)
				}
			}
			for n, v := range variationsOf(was) {
				var a, b []string
				rendered(contract.Resolve(was, v, tokens), nil, &a)
				rendered(contract.Resolve(c, v, tokens), nil, &b)
				require.Equal(t, a, b, "%s, variation %d", at, n)
			}
			made++
		})
	}
	t.Logf("%d made, %d refused", made, refused)
	assert.Greater(t, made, 100)
}

func variationsOf(c *contract.Contract) (out []contract.Env) {
	list, _ := c.Variations(6)
	for _, v := range list {
		out = append(out, contract.EnvOf(v.Values))
	}
	return out
}

// Two of the same are both uses of it; what differs but in what they are bound to is not.
func TestTheSamePartsBecomeUses(t *testing.T) {
	line := func(id, prop, size string) *contract.Part {
		return &contract.Part{ID: id, Name: id, Element: "p", Style: contract.Style{"gap": "4px", "flex": "none"}, Children: []*contract.Part{
			{ID: id + "Text", Name: id + "Text", Element: "span", Style: contract.Style{"font-size": size}, Content: contract.TextOf{Prop: prop}},
		}}
	}
	c := &contract.Contract{Format: contract.Format, Name: "Lines", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Children: []*contract.Part{
		line("first", "one", "12px"), line("second", "two", "12px"), line("third", "three", "14px"),
	}}, Props: []contract.Prop{{ID: "one", Name: "one", Type: contract.Text{Initial: "One"}}, {ID: "two", Name: "due", Type: contract.Text{Initial: "Two"}}, {ID: "three", Name: "three", Type: contract.Text{Initial: "Three"}}},
		Rules: []contract.Rule{{Part: "first", When: contract.Of(contract.PropSet{Prop: "one", Set: true}), Set: contract.Style{"opacity": "0.5"}}, {Part: "second", When: contract.Of(contract.PropSet{Prop: "two", Set: true}), Set: contract.Style{"opacity": "0.5"}}}}
	own, uses, err := c.Extract("second", "Line")
	require.NoError(t, err)
	assert.Equal(t, 2, uses)
	assert.Equal(t, "two", c.Part("second").Use().Given["due"].Prop)
	assert.Equal(t, "one", c.Part("first").Use().Given["due"].Prop, "the first is bound to its own text")
	assert.Equal(t, "due is set", own.Rules[0].When.String(), "the rule asks for the prop that the component has")
	assert.Nil(t, c.Part("third").Use())
	assert.Equal(t, contract.Style{"flex": "none"}, c.Part("first").Style, "how it stands is the use's")
	assert.Equal(t, contract.Style{"gap": "4px"}, own.Root.Style)
	assert.Len(t, own.Rules, 1)
	assert.Empty(t, c.Rules)
	contract.NewLinker(func(string) *contract.Contract { return own }).Link(c)
	assert.Empty(t, c.Check(token.Empty()))
	assert.Empty(t, own.Check(token.Empty()))
	for _, k := range []struct{ id, why string }{{"root", "is Lines already"}, {"first", "is a use of Line already"}, {"nothing", "there is no part"}} {
		_, _, err := c.Extract(k.id, "Other")
		assert.ErrorContains(t, err, k.why)
	}
	c.Rules = append(c.Rules, contract.Rule{Part: "thirdText", When: contract.Of(contract.InState{State: "hover"}), Set: contract.Style{"opacity": "0.5"}})
	_, _, err = c.Extract("third", "Other")
	assert.ErrorContains(t, err, "state hover of the whole")
	c.Rules[0].When = contract.BelowWidth(300)
	_, _, err = c.Extract("third", "Other")
	assert.ErrorContains(t, err, "width of the container")
}

// A use in whose place the component's parts are put renders as before, and so does a part that was made a component
// of its own and is put back.
func TestAUsePutBackRendersAsBefore(t *testing.T) {
	all, worlds := drafted(t, 60)
	put, refused := 0, map[string]int{}
	compare := func(was, c *contract.Contract, id string, tokens *token.Set, at string) {
		if err := c.Inline(id); err != nil {
			refused[err.Error()]++
			return
		}
		for n, v := range variationsOf(was) {
			var a, b []string
			rendered(contract.Resolve(was, v, tokens), nil, &a)
			rendered(contract.Resolve(c, v, tokens), nil, &b)
			require.Equal(t, a, b, "%s, variation %d", at, n)
		}
		before := was.Check(tokens)
		for _, found := range c.Check(tokens) {
			if found.Severity == "error" && len(before) == 0 {
				assert.Fail(t, found.Message, at)
			}
		}
		put++
	}
	for i, was := range all {
		tokens := worlds[i].Tokens
		link := func(c, own *contract.Contract) {
			contract.NewLinker(func(name string) *contract.Contract {
				if own != nil && name == own.Name {
					return own
				}
				return worlds[i].Components(name)
			}).Link(c)
		}
		for _, p := range was.UsedParts() {
			c := was.Clone()
			link(c, nil)
			compare(was, c, p.ID, tokens, was.Name+": "+p.Name)
		}
		was.Walk(func(p, parent *contract.Part) {
			c := was.Clone()
			if own, _, err := c.Extract(p.ID, "OwnPart"); err == nil {
				link(c, own)
				compare(was, c, p.ID, tokens, was.Name+": "+p.Name+", made its own and put back")
			}
		})
	}
	t.Logf("%d put back; refused: %v", put, refused)
	assert.Greater(t, put, 400)
}

// How the use stood wins over what the component says of its root, in whatever case.
func TestHowAUseStandsStaysWhenItsPartsArePut(t *testing.T) {
	strong := contract.Of(contract.PropIs{Prop: "strong", Value: contract.FlagValue(true)})
	own := &contract.Contract{Format: contract.Format, Name: "Own", Root: &contract.Part{ID: "root", Name: "root", Element: "span", Style: contract.Style{"width": "10px", "color": "#111111"}},
		Props: []contract.Prop{{ID: "strong", Name: "strong", Type: contract.Flag{}}}, Rules: []contract.Rule{{Part: "root", When: strong, Set: contract.Style{"width": "20px", "color": "#222222"}}}}
	c := &contract.Contract{Format: contract.Format, Name: "Around", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Children: []*contract.Part{
		{ID: "own", Name: "own", Style: contract.Style{"width": "30px"}, Content: &contract.Use{Component: "Own", Given: map[string]contract.Given{"strong": {Prop: "strong"}}}}}},
		Props: []contract.Prop{{ID: "strong", Name: "strong", Type: contract.Flag{}}}, Rules: []contract.Rule{{Part: "own", When: strong, Set: contract.Style{"width": "40px"}}}}
	contract.NewLinker(func(string) *contract.Contract { return own }).Link(c)
	require.NoError(t, c.Inline("own"))
	for flag, want := range map[bool][2]string{false: {"30px", "#111111"}, true: {"40px", "#222222"}} {
		r := contract.Resolve(c, contract.EnvOf(contract.Values{"strong": contract.FlagValue(flag)}), token.Empty()).Find("own")
		assert.Equal(t, want, [2]string{r.Values["width"].Value, r.Values["color"].Value}, "strong %t", flag)
	}
	for _, id := range []string{"own", "nothing"} {
		assert.ErrorContains(t, c.Inline(id), "is no use of a component")
	}
}

// What is put into a use goes to a slot of it, and stands there in the order of the outline.
func TestPartsInASlot(t *testing.T) {
	frame := &contract.Contract{Format: contract.Format, Name: "Frame", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Children: []*contract.Part{
		{ID: "head", Name: "head", Element: "div", Content: contract.SlotOf{Prop: "head"}}, {ID: "body", Name: "body", Element: "div", Content: contract.SlotOf{Prop: "children"}}}},
		Props: []contract.Prop{{ID: "head", Name: "head", Type: contract.Slot{}}, {ID: "children", Name: "children", Type: contract.Slot{}}}}
	c, w := plot()
	of := w.Components
	w.Components = func(name string) *contract.Contract {
		if name == "Frame" {
			return frame
		}
		return of(name)
	}
	apply := func(e sheet.Edit) {
		t.Helper()
		_, err := sheet.Apply(c, e, w)
		require.NoError(t, err)
		contract.NewLinker(w.Components).Link(c)
		assert.Empty(t, c.Check(w.Tokens))
	}
	parts := func() []string { return c.Part("frame").Use().Given["children"].Parts }
	apply(do("add", "parts/root", "inside", "frame Frame"))
	apply(do("add", "parts/frame", "inside", "one span"))
	apply(do("add", "parts/frame", "inside", "two span"))
	assert.Equal(t, []string{"one", "two"}, parts(), "they go to the default slot")
	apply(do("add", "parts/one", "part", "between span"))
	assert.Equal(t, []string{"one", "between", "two"}, parts(), "what is put behind one stands behind it")
	apply(do("remove", "parts/between", "", ""))
	apply(do("move", "parts/two", "", "up"))
	assert.Equal(t, []string{"two", "one"}, parts())
	apply(do("wrap", "parts/two", "", ""))
	assert.Equal(t, []string{"group", "one"}, parts(), "the container stands where the part did")
	apply(do("unwrap", "parts/group", "", ""))
	apply(do("duplicate", "parts/two", "", ""))
	assert.Equal(t, []string{"two", "two2", "one"}, parts())
	apply(do("move", "parts/one", "", "out"))
	assert.Equal(t, []string{"two", "two2"}, parts())
	apply(do("move", "parts/one", "", "in"))
	assert.Equal(t, []string{"two", "two2", "one"}, parts())
	apply(do("set", "parts/frame", "element", "Frame head=#two children=#two2,#one"))
	apply(do("remove", "parts/two", "", ""))
	assert.NotContains(t, c.Part("frame").Use().Given, "head")
	_, err := sheet.Apply(c, do("add", "parts/tag", "inside", "three span"), w)
	assert.ErrorContains(t, err, "without a slot")
}
