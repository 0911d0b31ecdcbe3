package contract_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/token"
)

// tag is a component with a prop of several kinds and a slot.
func tag() *contract.Contract {
	return &contract.Contract{Format: contract.Format, Name: "Tag", Props: []contract.Prop{
		{ID: "tone", Name: "tone", Type: contract.Choice{Options: []string{"calm", "loud"}, Initial: "calm"}},
		{ID: "label", Name: "label", Type: contract.Text{Initial: "Sown"}},
		{ID: "more", Name: "children", Type: contract.Slot{}},
		{ID: "onShut", Name: "onShut", Type: contract.Event{On: "click"}, Part: "shut"},
	}, Root: &contract.Part{ID: "root", Name: "root", Element: "span", Style: contract.Style{"display": "inline-flex", "width": "40px", "color": "#111111"}, Children: []*contract.Part{
		{ID: "label", Name: "label", Element: "span", Content: contract.TextOf{Prop: "label"}},
		{ID: "more", Name: "more", Element: "span", Style: contract.Style{"color": "#222222"}, Content: contract.SlotOf{Prop: "more"}, Children: []*contract.Part{
			{ID: "none", Name: "none", Element: "em", Content: contract.FixedText{Text: "nothing"}}}},
		{ID: "shut", Name: "shut", Element: "button"},
	}}, Rules: []contract.Rule{
		{Part: "root", When: contract.Of(contract.PropSet{Prop: "more", Set: true}), Set: contract.Style{"opacity": "0.5"}},
		{Part: "root", When: contract.Of(contract.PropIs{Prop: "tone", Value: contract.OptionValue("loud")}), Set: contract.Style{"width": "60px"}}}}
}

// card uses a tag.
func card(u *contract.Use, children ...*contract.Part) *contract.Contract {
	return &contract.Contract{Format: contract.Format, Name: "Card", Props: []contract.Prop{
		{ID: "ripe", Name: "ripe", Type: contract.Flag{}},
		{ID: "name", Name: "name", Type: contract.Text{Initial: "Plot 4"}},
		{ID: "tags", Name: "tags", Type: contract.List{Items: []contract.Prop{{ID: "word", Name: "word", Type: contract.Text{}}}}},
	}, Root: &contract.Part{ID: "root", Name: "root", Element: "div", Style: contract.Style{"color": "#333333", "font-size": "20px"}, Children: []*contract.Part{
		{ID: "tag", Name: "tag", Content: u, Children: children},
	}}}
}

func finder(list ...*contract.Contract) func(string) *contract.Contract {
	return func(name string) *contract.Contract {
		for _, c := range list {
			if c.Name == name {
				return c
			}
		}
		return nil
	}
}

func link(t *testing.T, c *contract.Contract, list ...*contract.Contract) bool {
	t.Helper()
	changed, cycle := contract.NewLinker(finder(list...)).Link(c)
	require.Empty(t, cycle)
	return changed
}

func value(v any) json.RawMessage {
	text, err := json.Marshal(v)
	if err != nil {
		panic(err)
	}
	return text
}

// What a use may not say is told, or code would be emitted that no compiler takes, or that does
// nothing.
func TestUsesAreChecked(t *testing.T) {
	ripe := contract.Of(contract.PropIs{Prop: "ripe", Value: contract.FlagValue(true)})
	notRipe := contract.Of(contract.PropIs{Prop: "ripe", Value: contract.FlagValue(false)})
	span := &contract.Part{ID: "span", Name: "span", Element: "span"}
	for _, k := range []struct {
		rule   string // empty for none
		change func(c *contract.Contract, p *contract.Part, u *contract.Use)
	}{
		{"", func(*contract.Contract, *contract.Part, *contract.Use) {}},
		{"use-component", func(_ *contract.Contract, _ *contract.Part, u *contract.Use) { u.Component = "Tug" }},
		{"use-root", func(c *contract.Contract, p *contract.Part, _ *contract.Use) { c.Root = p }},
		{"use-element", func(_ *contract.Contract, p *contract.Part, _ *contract.Use) { p.Element = "div" }},
		{"use-element", func(_ *contract.Contract, p *contract.Part, _ *contract.Use) {
			p.Attributes = map[string]contract.Attribute{"title": {Text: "x"}}
		}},
		{"use-style", func(_ *contract.Contract, p *contract.Part, _ *contract.Use) {
			p.Style = contract.Style{"background-color": "#ffffff"}
		}},
		{"use-style", func(c *contract.Contract, p *contract.Part, _ *contract.Use) {
			c.Rules = []contract.Rule{{Part: p.ID, When: ripe, Set: contract.Style{"color": "#ffffff"}}}
		}},
		{"", func(_ *contract.Contract, p *contract.Part, _ *contract.Use) {
			p.Style = contract.Style{"margin-left": "4px", "align-self": "stretch"}
		}},
		{"use-prop", func(_ *contract.Contract, _ *contract.Part, u *contract.Use) {
			u.Given = map[string]contract.Given{"hue": {Value: value("x")}}
		}},
		{"use-value", func(_ *contract.Contract, _ *contract.Part, u *contract.Use) {
			u.Given = map[string]contract.Given{"tone": {Value: value("shrill")}}
		}},
		{"", func(_ *contract.Contract, _ *contract.Part, u *contract.Use) {
			u.Given = map[string]contract.Given{"tone": {Value: value("loud")}, "label": {Prop: "name"}}
		}},
		{"use-given", func(_ *contract.Contract, _ *contract.Part, u *contract.Use) {
			u.Given = map[string]contract.Given{"label": {Value: value("x"), Prop: "name"}}
		}},
		{"use-given", func(_ *contract.Contract, _ *contract.Part, u *contract.Use) {
			u.Given = map[string]contract.Given{"label": {}}
		}},
		{"use-prop", func(_ *contract.Contract, _ *contract.Part, u *contract.Use) {
			u.Given = map[string]contract.Given{"label": {Prop: "ripe"}}
		}},
		{"use-prop", func(_ *contract.Contract, _ *contract.Part, u *contract.Use) {
			u.Given = map[string]contract.Given{"label": {Prop: "nobody"}}
		}},
		{"use-prop", func(c *contract.Contract, _ *contract.Part, u *contract.Use) { // a value the tag does not take
			c.Props[0].Type = contract.Choice{Options: []string{"calm", "shrill"}, Initial: "calm"}
			u.Given = map[string]contract.Given{"tone": {Prop: "ripe"}}
		}},
		{"", func(c *contract.Contract, _ *contract.Part, u *contract.Use) { // fewer values are all taken
			c.Props[0].Type = contract.Choice{Options: []string{"loud"}, Initial: "loud"}
			u.Given = map[string]contract.Given{"tone": {Prop: "ripe"}}
		}},
		{"part-scope", func(_ *contract.Contract, _ *contract.Part, u *contract.Use) {
			u.Given = map[string]contract.Given{"label": {Prop: "tags.word"}}
		}},
		{"", func(_ *contract.Contract, p *contract.Part, u *contract.Use) {
			p.Repeat, u.Given = "tags", map[string]contract.Given{"label": {Prop: "tags.word"}}
		}},
		{"use-slot", func(_ *contract.Contract, p *contract.Part, _ *contract.Use) { p.Children = []*contract.Part{span} }},
		{"use-slot", func(_ *contract.Contract, p *contract.Part, u *contract.Use) {
			p.Children, u.Given = []*contract.Part{span}, map[string]contract.Given{"label": {Parts: []string{"span"}}}
		}},
		{"use-slot", func(_ *contract.Contract, _ *contract.Part, u *contract.Use) {
			u.Given = map[string]contract.Given{"more": {Parts: []string{"span"}}}
		}},
		{"", func(_ *contract.Contract, p *contract.Part, u *contract.Use) {
			p.Children, u.Given = []*contract.Part{span}, map[string]contract.Given{"more": {Parts: []string{"span"}}}
		}},
		{"use-when", func(_ *contract.Contract, _ *contract.Part, u *contract.Use) {
			u.Given = map[string]contract.Given{"tone": {Cases: []contract.GivenCase{{When: contract.Of(contract.InState{State: "hover"}), Value: value("loud")}}}}
		}},
		{"use-value", func(_ *contract.Contract, _ *contract.Part, u *contract.Use) {
			u.Given = map[string]contract.Given{"tone": {Cases: []contract.GivenCase{{When: ripe, Value: value(true)}}}}
		}},
		{"use-dead", func(_ *contract.Contract, _ *contract.Part, u *contract.Use) {
			u.Given = map[string]contract.Given{"tone": {Cases: []contract.GivenCase{{When: ripe, Value: value("loud")}, {When: ripe, Value: value("calm")}}}}
		}},
		{"use-dead", func(_ *contract.Contract, p *contract.Part, u *contract.Use) {
			p.ShownWhen = notRipe
			u.Given = map[string]contract.Given{"tone": {Cases: []contract.GivenCase{{When: ripe, Value: value("loud")}}}}
		}},
		{"", func(_ *contract.Contract, _ *contract.Part, u *contract.Use) {
			u.Given = map[string]contract.Given{"tone": {Cases: []contract.GivenCase{{When: ripe, Value: value("loud")}, {When: notRipe, Value: value("calm")}}}}
		}},
		{"prop-from", func(c *contract.Contract, _ *contract.Part, _ *contract.Use) {
			c.Props[1].From = &contract.Passing{Part: "tag", Prop: "label"}
		}},
		{"prop-from", func(c *contract.Contract, _ *contract.Part, _ *contract.Use) {
			c.Props[1].From = &contract.Passing{Part: "root", Prop: "label"}
		}},
	} {
		u := &contract.Use{Component: "Tag"}
		c := card(u)
		k.change(c, c.Root.Children[0], u)
		contract.NewLinker(finder(tag())).Link(c)
		var rules []string
		for _, p := range c.Check(token.Empty()) {
			rules = append(rules, p.Rule)
		}
		if k.rule == "" {
			assert.Empty(t, rules, "%s", c.JSON())
		} else {
			assert.Contains(t, rules, k.rule, "%s", c.JSON())
		}
	}
	u := &contract.Use{Component: "Tag"}
	needy := tag()
	needy.Props[1].Required = true
	c := card(u)
	link(t, c, needy)
	assert.Equal(t, "use-required", c.Check(nil)[0].Rule, "a required prop nobody gives would not compile")
	c.Props[1].Required, u.Given = true, map[string]contract.Given{"label": {Prop: "name"}}
	assert.Empty(t, c.Check(nil))
	needy.Props[0] = contract.Prop{ID: "tone", Name: "count", Type: contract.Number{Step: 1}, Required: true}
	needy.Rules = nil
	c.Props[0].Type, u.Given["tone"] = contract.Number{Step: 1}, contract.Given{Prop: "ripe"}
	assert.Equal(t, "use-required", c.Check(nil)[0].Rule, "nor would one that may be left out")
}

// A component that uses itself, through whatever others, could never be rendered.
func TestCyclesAreNamedWithTheirChain(t *testing.T) {
	uses := func(name, other string) *contract.Contract {
		c := card(&contract.Use{Component: other})
		c.Name = name
		return c
	}
	a, b, c := uses("A", "B"), uses("B", "C"), uses("C", "A")
	_, cycle := contract.NewLinker(finder(a, b, c)).Link(a)
	assert.Equal(t, []string{"A", "B", "C", "A"}, cycle)
	d := uses("D", "A")
	_, cycle = contract.NewLinker(finder(a, b, c, d)).Link(d)
	assert.Equal(t, []string{"A", "B", "C", "A"}, cycle, "the chain is of those that go round alone")
	tower := []*contract.Contract{uses("T100", "Tag"), tag()}
	for n := range 100 {
		tower = append(tower, uses(fmt.Sprintf("T%d", n), fmt.Sprintf("T%d", n+1)))
	}
	_, cycle = contract.NewLinker(finder(tower...)).Link(tower[2])
	assert.NotEmpty(t, cycle, "a tower of components without end is refused, too")
	_, cycle = contract.NewLinker(finder(uses("A", "A"))).Link(uses("A", "A"))
	assert.Equal(t, []string{"A", "A"}, cycle)
}

// What a component passes on follows the component: people who use a card see the tag's new
// options without anybody writing them twice.
func TestPropsThatArePassedOnFollow(t *testing.T) {
	u := &contract.Use{Component: "Tag", Given: map[string]contract.Given{"label": {Value: value("Ripe")}}}
	c := card(u)
	link(t, c, tag())
	id := c.PassOn(c.Root.Children[0], "tone", "tone")
	c.Prop(id).Name, c.Prop(id).Type = "mood", contract.Choice{Options: []string{"calm", "loud"}, Initial: "loud"}
	assert.Empty(t, c.Check(token.Empty()))
	assert.False(t, link(t, c, tag()), "another name and another default are the card's own")

	now := tag()
	now.Props[0].Type = contract.Choice{Options: []string{"calm", "loud", "shrill"}, Initial: "calm"}
	assert.True(t, link(t, c, now))
	assert.Equal(t, contract.Choice{Options: []string{"calm", "loud", "shrill"}, Initial: "loud"}, c.Prop(id).Type)
	now.Props[0].Type = contract.Choice{Options: []string{"calm", "shrill"}, Initial: "calm"}
	c.Prop(id).Example = contract.OptionValue("loud")
	assert.True(t, link(t, c, now))
	assert.Nil(t, c.Prop(id).Example, "nor is it shown with what is no value any more")
	assert.Equal(t, "calm", c.Prop(id).Default().String(), "a default that is gone is that of the component")

	all := &contract.Use{Component: "Tag", All: true, Given: map[string]contract.Given{"label": {Value: value("Ripe")}}}
	c = card(all)
	assert.True(t, link(t, c, tag()))
	names := func() string {
		var out []string
		for _, p := range c.Props[3:] {
			out = append(out, p.Name)
		}
		return strings.Join(out, " ")
	}
	assert.Equal(t, "tone children onShut", names(), "all but what is given")
	assert.Empty(t, c.Check(token.Empty()))
	assert.False(t, link(t, c, tag()))
	c.Root.Style["opacity"] = "1"
	c.Rules = []contract.Rule{{Part: "root", When: contract.Of(contract.PropIs{Prop: "tone", Value: contract.OptionValue("loud")}), Set: contract.Style{"opacity": "0.5"}}}
	now = tag()
	now.Props, now.Rules = now.Props[1:], nil
	link(t, c, now)
	require.NotEmpty(t, c.Check(token.Empty()))
	assert.Equal(t, "use-prop", c.Check(token.Empty())[0].Rule, "a prop that a rule asks for does not go without a word")
	c.Rules = nil
	now = tag()
	now.Props = append(now.Props[1:], contract.Prop{ID: "size", Name: "size", Type: contract.Number{Step: 1}}, contract.Prop{ID: "name", Name: "name", Type: contract.Text{}})
	now.Rules = nil
	assert.True(t, link(t, c, now))
	assert.Equal(t, "children onShut size tagName", names(), "new ones come, those that went go, names that are taken stand behind the part's")
	assert.Empty(t, c.Check(token.Empty()))
	again, found := contract.Read("card", c.JSON(), nil)
	require.Empty(t, found)
	assert.Equal(t, string(c.JSON()), string(again.JSON()))
}

// A case of the card shows the tag as the card gives it, with what it inherits, and what stands
// in its slot with what is inherited there.
func TestUsesAreResolved(t *testing.T) {
	ripe := contract.Of(contract.PropIs{Prop: "ripe", Value: contract.FlagValue(true)})
	u := &contract.Use{Component: "Tag", Given: map[string]contract.Given{
		"tone":  {Value: value("calm"), Cases: []contract.GivenCase{{When: ripe, Value: value("loud")}}},
		"label": {Prop: "name"}, "more": {Parts: []string{"note"}},
	}}
	c := card(u, &contract.Part{ID: "note", Name: "note", Element: "strong", Content: contract.FixedText{Text: "new"}})
	c.Root.Children[0].Style = contract.Style{"margin-left": "4px", "width": "80px"}
	link(t, c, tag())
	require.Empty(t, c.Check(token.Empty()))
	for _, ripe := range []bool{false, true} {
		r := contract.Resolve(c, contract.EnvOf(contract.Values{"ripe": contract.FlagValue(ripe), "name": contract.TextValue("Bea's")}), token.Empty())
		use := r.Find("tag")
		require.NotNil(t, use.Inside)
		assert.Equal(t, "Bea's", use.Inside.Find("label").Text)
		assert.Equal(t, map[bool]string{false: "40px", true: "60px"}[ripe], use.Inside.Values["width"].Value, "inside it is as the component says")
		assert.Equal(t, "#111111", use.Inside.Find("label").Values["color"].Value)
		size := use.Inside.Find("label").Values["font-size"]
		assert.Equal(t, "20px", size.Value, "what the tag does not say it inherits")
		assert.Equal(t, "/root", size.Part, "and it is told from where")
		assert.False(t, use.Inside.Find("none").Shown, "the slot's default is gone")
		assert.Equal(t, "0.5", use.Inside.Values["opacity"].Value, "a filled slot is set")
		assert.Equal(t, "tag/label", use.Inside.Find("label").Key())
		note := r.Find("note")
		assert.Equal(t, []*contract.Resolved{note}, use.Inside.Find("more").Filled)
		assert.Equal(t, "#222222", note.Values["color"].Value, "a part in a slot inherits from there")
		assert.Equal(t, "note", note.Key())

		box := r.Boxes().Children[0]
		assert.Equal(t, "tag", box.Name)
		assert.Equal(t, "80px", box.Style["width"], "how it stands is the use's to say")
		assert.Equal(t, "4px", box.Style["margin-left"])
		assert.Equal(t, "inline-flex", box.Style["display"])
		assert.Equal(t, "tag/label", box.Children[0].Name)
		assert.Equal(t, "note", box.Children[1].Children[0].Name)
	}
	assert.Equal(t, "40px", contract.Resolve(tag(), contract.Env{}, token.Empty()).Values["width"].Value, "a use changes nothing of the component")
}

// A prop passed on through two levels reaches the innermost; one that is held on the way is named
// among those nobody can give.
func TestWhatCannotBeReachedIsListed(t *testing.T) {
	inner := &contract.Use{Component: "Tag"}
	middle := card(inner)
	link(t, middle, tag())
	label := middle.PassOn(middle.Root.Children[0], "label", "label")
	slot := middle.PassOn(middle.Root.Children[0], "more", "children")
	outer := card(&contract.Use{Component: "Card", Given: map[string]contract.Given{}}, &contract.Part{ID: "deep", Name: "deep", Element: "b"})
	outer.Name = "Shelf"
	outer.Root.Children[0].Children[0].Element = "strong"
	outer.Root.Children[0].Use().Given[slot] = contract.Given{Parts: []string{"deep"}}
	link(t, outer, tag(), middle)
	passed := outer.PassOn(outer.Root.Children[0], label, "label")
	require.Empty(t, outer.Check(token.Empty()))
	r := contract.Resolve(outer, contract.EnvOf(contract.Values{passed: contract.TextValue("Through")}), token.Empty())
	innermost := r.Find("tag").Inside.Find("tag").Inside
	assert.Equal(t, "Through", innermost.Find("label").Text)
	assert.Equal(t, []*contract.Resolved{r.Find("deep")}, innermost.Find("more").Filled, "a slot is passed on, too")
	assert.Equal(t, "tag/tag/label", innermost.Find("label").Key())

	var out []string
	for _, u := range outer.Unreachable() {
		out = append(out, u.String())
	}
	assert.Equal(t, []string{"tag › ripe", "tag › name", "tag › tags", "tag › tag › tone", "tag › tag › onShut"}, out)
	assert.Equal(t, []string{"Card", "Shelf"}, contract.UsedBy("Tag", []*contract.Contract{outer, tag(), middle}))
	var names []string
	for _, c := range outer.Closure() {
		names = append(names, c.Name)
	}
	assert.Equal(t, []string{"Tag", "Card", "Shelf"}, names)
}

// Of props that stand apart a use gives one at most, whatever way; all that is passed on is the
// first of them; no condition asks for two.
func TestUsesOfPropsThatStandApart(t *testing.T) {
	apart := tag()
	apart.Props = append(apart.Props, contract.Prop{ID: "quiet", Name: "quiet", Type: contract.Flag{}}, contract.Prop{ID: "count", Name: "count", Type: contract.Number{}})
	apart.Apart = [][]string{{"onShut", "quiet", "count"}}
	rules := func(u *contract.Use) string {
		c := card(u)
		link(t, c, apart)
		return fmt.Sprint(c.Check(token.Empty()))
	}
	assert.NotContains(t, rules(&contract.Use{Component: "Tag", Given: map[string]contract.Given{"quiet": {Value: value(true)}}}), "takes one of them at most")
	assert.Contains(t, rules(&contract.Use{Component: "Tag", Given: map[string]contract.Given{"quiet": {Prop: "ripe"}, "count": {Value: value(3)}}}), "tag is given quiet and count, and Tag takes one of them at most")
	all := card(&contract.Use{Component: "Tag", All: true})
	link(t, all, apart)
	assert.Empty(t, all.Check(token.Empty()))
	assert.NotNil(t, all.Prop("onShut"))
	assert.Nil(t, all.Prop("quiet"))
	quiet, count, noCount := contract.PropIs{Prop: "quiet", Value: contract.FlagValue(true)}, contract.PropSet{Prop: "count", Set: true}, contract.PropSet{Prop: "count", Set: false}
	assert.Equal(t, contract.Never, apart.Truth(contract.Of(quiet, count), nil))
	assert.Equal(t, contract.Never, apart.Truth(contract.Of(quiet, contract.NumberIs{Prop: "count", Low: contract.Bound{At: 0, Kind: contract.Exclusive}}), nil))
	assert.Equal(t, contract.Depends, apart.Truth(contract.Of(quiet, noCount), nil))
	off := contract.PropIs{Prop: "quiet", Value: contract.FlagValue(false)}
	assert.Equal(t, contract.Depends, apart.Truth(contract.Of(off, count), nil), "a flag that is off was not given")
	dead := apart.Clone()
	dead.Part("shut").ShownWhen = contract.Of(quiet, count)
	assert.Contains(t, fmt.Sprint(dead.Check(token.Empty())), "shut is never there")
	apart.Prop("quiet").Example, apart.Prop("count").Example = contract.FlagValue(true), contract.NumberValue(3)
	looked := apart.Examples()
	assert.Equal(t, contract.FlagValue(true), looked["quiet"])
	assert.Nil(t, looked["count"], "it is looked at with what a use cannot give")
	assert.True(t, apart.AreApart(contract.Values{"quiet": contract.FlagValue(true), "count": contract.NumberValue(3)}))
	assert.False(t, apart.AreApart(contract.Values{"quiet": contract.FlagValue(false), "count": contract.NumberValue(3)}))
	copied := apart.Clone()
	copied.Apart[0][0] = "label"
	assert.Equal(t, "onShut", apart.Apart[0][0], "a copy shares what it is a copy of")
	copied = apart.Clone()
	copied.Props = copied.Props[:5]
	copied.Prune()
	assert.Equal(t, [][]string{{"onShut", "quiet"}}, copied.Apart)
	copied.Props = copied.Props[:4]
	copied.Prune()
	assert.Empty(t, copied.Apart)
}
