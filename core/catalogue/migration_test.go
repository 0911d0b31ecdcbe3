package catalogue_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"cobrik/core/catalogue"
	"cobrik/core/contract"
)

// tag is a component in which two options do different things.
func tag() *contract.Contract {
	c := component("CropTag", part("root", "span", part("label", "span")),
		prop("tone", choice("sown", "ripe", "gone")), prop("strong", contract.Flag{}), prop("label", contract.Text{Initial: "Growing"}), prop("count", contract.Number{}))
	for option, ink := range map[string]string{"ripe": "#aa0000", "gone": "#00aa00"} {
		c.Rules = append(c.Rules, contract.Rule{Part: "root", When: contract.Of(contract.PropIs{Prop: "tone", Value: contract.OptionValue(option)}), Set: contract.Style{"color": ink}})
	}
	c.Root.As = []string{"div"}
	return c
}

func renamedOption(c *contract.Contract, from, to string) {
	t := c.Props[0].Type.(contract.Choice)
	for i, o := range t.Options {
		if o == from {
			t.Options[i] = to
		}
	}
	if t.Initial == from {
		t.Initial = to
	}
	c.Props[0].Type = t
	for i, r := range c.Rules {
		if r.When.Prop("tone") == contract.OptionValue(from) {
			c.Rules[i].When = r.When.WithoutProp("tone").With(contract.PropIs{Prop: "tone", Value: contract.OptionValue(to)})
		}
	}
}

func TestWhatAUseHasToFollowIsTold(t *testing.T) {
	tone := func(c *contract.Contract, options []string, initial string) {
		c.Props[0].Type = contract.Choice{Options: options, Initial: initial}
	}
	for name, k := range map[string]struct {
		change func(c *contract.Contract)
		want   []catalogue.MigrationStep
	}{
		"nothing":              {func(*contract.Contract) {}, nil},
		"what looks otherwise": {func(c *contract.Contract) { c.Root.Style = contract.Style{"color": "#123456"} }, nil},
		"what is new":          {func(c *contract.Contract) { c.Props = append(c.Props, prop("size", choice("s", "m"))) }, nil},
		"another text":         {func(c *contract.Contract) { c.Props[2].Type = contract.Text{Initial: "Ripe"} }, nil},
		"a renamed prop": {func(c *contract.Contract) { c.Props[1].Name = "loud" }, []catalogue.MigrationStep{
			{Kind: catalogue.PropRenamed, Prop: "strong", To: "loud", Mechanical: true, What: "strong is called loud.", Before: "<CropTag strong />", After: "<CropTag loud />"}}},
		"a renamed component": {func(c *contract.Contract) { c.Name = "StateTag" }, []catalogue.MigrationStep{
			{Kind: catalogue.ComponentRenamed, To: "StateTag", Mechanical: true, What: "CropTag is called StateTag.", Before: "<CropTag />", After: "<StateTag />"}}},
		"a prop that is gone": {func(c *contract.Contract) { c.Props = c.Props[1:]; c.Rules = nil }, []catalogue.MigrationStep{
			{Kind: catalogue.PropRemoved, Prop: "tone", What: "tone is gone; leave it out.", Before: `<CropTag tone="sown" />`, After: "<CropTag />"}}},
		"an option that another took over": {func(c *contract.Contract) { renamedOption(c, "ripe", "ready") }, []catalogue.MigrationStep{
			{Kind: catalogue.OptionRenamed, Prop: "tone", Value: "ripe", To: "ready", Mechanical: true, What: "The option ripe of tone is called ready.", Before: `<CropTag tone="ripe" />`, After: `<CropTag tone="ready" />`}}},
		"an option in whose place stands one that does something else": {func(c *contract.Contract) {
			renamedOption(c, "ripe", "ready")
			c.Rules[0].Set, c.Rules[1].Set = contract.Style{"color": "#010203"}, contract.Style{"color": "#010203"}
		}, []catalogue.MigrationStep{{Kind: catalogue.OptionRemoved, Prop: "tone", Value: "ripe", What: "tone no longer takes ripe; it takes sown, ready, gone.", Before: `<CropTag tone="ripe" />`}}},
		"the default's other name": {func(c *contract.Contract) { renamedOption(c, "sown", "seeded") }, []catalogue.MigrationStep{
			{Kind: catalogue.OptionRenamed, Prop: "tone", Value: "sown", To: "seeded", Mechanical: true, What: "The option sown of tone is called seeded.", Before: `<CropTag tone="sown" />`, After: `<CropTag tone="seeded" />`}}},
		"another default": {func(c *contract.Contract) { tone(c, []string{"sown", "ripe", "gone"}, "gone") }, []catalogue.MigrationStep{
			{Kind: catalogue.DefaultChanged, Prop: "tone", To: "tone", Given: "sown", Mechanical: true, What: "tone is gone where a use does not say it, and was sown.", Before: "<CropTag />", After: `<CropTag tone="sown" />`}}},
		"a flag that is on now": {func(c *contract.Contract) { c.Props[1].Type = contract.Flag{Initial: true} }, []catalogue.MigrationStep{
			{Kind: catalogue.DefaultChanged, Prop: "strong", To: "strong", Given: false, Mechanical: true, What: "strong is true where a use does not say it, and was false.", Before: "<CropTag />", After: "<CropTag strong={false} />"}}},
		"what has to be given": {func(c *contract.Contract) { c.Props[2].Required = true }, []catalogue.MigrationStep{
			{Kind: catalogue.PropRequired, Prop: "label", What: "Every use has to give label.", Before: "<CropTag />"}}},
		"what is new and has to be given": {func(c *contract.Contract) {
			p := prop("name", contract.Text{})
			p.Required = true
			c.Props = append(c.Props, p)
		}, []catalogue.MigrationStep{{Kind: catalogue.PropRequired, Prop: "name", What: "Every use has to give name.", Before: "<CropTag />"}}},
		"another kind": {func(c *contract.Contract) { c.Props[1].Type = choice("low", "high") }, []catalogue.MigrationStep{
			{Kind: catalogue.PropRetyped, Prop: "strong", To: "strong", What: `strong is a choice instead of a flag: it takes "low" | "high".`, Before: "<CropTag strong />"}}},
		"fewer numbers": {func(c *contract.Contract) { most := 9.0; c.Props[3].Type = contract.Number{Most: &most} }, []catalogue.MigrationStep{
			{Kind: catalogue.PropRetyped, Prop: "count", To: "count", What: "count takes other values than before: count: its range is narrower."}}},
		"an element less": {func(c *contract.Contract) { c.Root.As = nil }, []catalogue.MigrationStep{
			{Kind: catalogue.ElementRemoved, Value: "div", Given: false, What: "It is no longer a div; it is one of span.", Before: `<CropTag as="div" />`}}},
		"what stands apart": {func(c *contract.Contract) { c.Apart = [][]string{{"count", "label"}} }, []catalogue.MigrationStep{
			{Kind: catalogue.PropsApart, Prop: "count", Value: "label", What: "Give count or label, not both."}}},
	} {
		now := tag()
		k.change(now)
		got := catalogue.Migration(tag(), now)
		assert.Equal(t, k.want, got, name)
	}
}

func TestNothingIsToldTwiceOrGuessed(t *testing.T) {
	kinds := func(old, now *contract.Contract) (out []catalogue.StepKind) {
		for _, s := range catalogue.Migration(old, now) {
			out = append(out, s.Kind)
		}
		return out
	}
	old, now := tag(), tag()
	old.Props[0].Required, now.Props[0].Required = true, true
	assert.Empty(t, kinds(old, now), "what had to be given before is asked for again")
	now = tag()
	now.Props[1].Required, now.Props[1].Type = true, contract.Flag{Initial: true}
	assert.Equal(t, []catalogue.StepKind{catalogue.PropRequired}, kinds(tag(), now), "what every use gives has no default that moved")
	now = tag()
	renamedOption(now, "ripe", "ready")
	now.Props[0].Type = contract.Choice{Options: []string{"sown", "ready", "soon", "gone"}, Initial: "sown"}
	for _, r := range now.Rules {
		if r.When.Prop("tone") == contract.OptionValue("ready") {
			now.Rules = append(now.Rules, contract.Rule{Part: r.Part, When: contract.Of(contract.PropIs{Prop: "tone", Value: contract.OptionValue("soon")}), Set: r.Set})
		}
	}
	assert.Equal(t, []catalogue.StepKind{catalogue.OptionRemoved}, kinds(tag(), now), "of two that do the same, one is guessed")
	old, now = tag(), tag()
	old.Rules, now.Rules = nil, nil
	now.Props[0].Type = contract.Choice{Options: []string{"sown", "ready", "gone"}, Initial: "sown"}
	assert.Equal(t, []catalogue.StepKind{catalogue.OptionRemoved}, kinds(old, now), "an option that does nothing is taken for any other")
}

func TestADeprecatedPropSaysWhatToUse(t *testing.T) {
	old, now := tag(), tag()
	old.Props[1].Deprecated = "use tone."
	now.Props = append(now.Props[:1:1], now.Props[2:]...)
	assert.Equal(t, "strong is gone: use tone.", catalogue.Migration(old, now)[0].What)
}
