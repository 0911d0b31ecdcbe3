package contract

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/problem"
	"cobrik/core/token"
)

// Check lists what is wrong with a contract beyond its schema: names and ids given
// twice or that code cannot use, elements a component may not be made of, rules about
// parts, props or values that are not there, and, when tokens are given, values that
// are not allowed. Uses of components are held against what Link tied them to.
func (c *Contract) Check(tokens *token.Set) problem.List {
	k := checker{c: c, tokens: tokens, parts: map[string]bool{}, lists: map[string][]string{}, names: map[string]bool{}, slots: map[string]bool{}}
	if slices.Contains(globals, c.Name) {
		k.found.Errorf("component-name", "/name", "call it "+c.Name+"Component or otherwise", "%q is the name of something every module knows", c.Name)
	}
	k.about()
	checkProps(c.Props, "/props", &k.found)
	k.apart()
	k.part(c.Root, "/root", nil, When{})
	told := map[[2]string]string{}
	for i, p := range c.Props {
		if e, ok := p.Type.(Event); ok && p.Part != "" {
			if first := told[[2]string{p.Part, e.On}]; first != "" {
				k.found.Errorf("prop-event", fmt.Sprintf("/props/%d/part", i), "keep one of them", "%s and %s are both called when %s hears %s", first, p.Name, p.Part, e.On)
			}
			told[[2]string{p.Part, e.On}] = p.Name
		}
		if e, ok := p.Type.(Event); ok && p.Part != "" && c.Part(p.Part) != nil && c.Part(p.Part).Repeat != "" {
			k.found.Errorf("prop-event", fmt.Sprintf("/props/%d/part", i), "let a part around the list tell of it", "%s is there once for each item, and cannot tell of %s", c.Part(p.Part).Name, e.On)
		}
		if p.Part != "" && !k.parts[p.Part] {
			k.found.Errorf("prop-part", fmt.Sprintf("/props/%d/part", i), "name a part of the tree", "there is no part %q", p.Part)
		}
	}
	for i := range c.Props {
		if c.Props[i].From != nil {
			k.passing(&c.Props[i], fmt.Sprintf("/props/%d", i))
		}
	}
	if fills := c.Root.Style["width"] == "100%"; !fills && len(c.SwitchPoints()) > 0 {
		// CSS Containment 3, 3.1: a size container is not as wide as its content.
		k.found.Errorf("switch-container", "/root/style/width", "give the root a width of 100%, or remove the rules below a width", "a component as wide as its content cannot follow its container's width")
	}
	drawn := map[string]bool{}
	for i, s := range c.States {
		at := fmt.Sprintf("/states/%d", i)
		switch {
		case !slices.Contains(c.AllStates(), s.State):
			k.found.Errorf("drawn-state", at+"/state", "use one of "+strings.Join(c.AllStates(), ", "), "%q is no state", s.State)
		case drawn[s.State]:
			k.found.Errorf("drawn-state", at+"/state", "keep one of them", "two drawings stand for the state %s", s.State)
		case slices.Contains(DataStates, s.State) && c.StateFlag(s.State) == nil && !c.HasState(s.State):
			k.found.Errorf("drawn-state", at+"/state", "add a flag named "+Identifier(s.State, "")+", which puts the component in it", "nothing puts the component in the state %s", s.State)
		}
		drawn[s.State] = true
	}
	k.drawnWidths()
	checkCases(c, &k.found)
	checkScenarios(c, &k.found)
	for i, r := range c.Rules {
		k.rule(r, fmt.Sprintf("/rules/%d", i))
	}
	if c.Behaviour != nil {
		c.Behaviour.CheckIn(c, &k.found)
		k.durations()
	}
	return k.found
}

// drawnWidths checks that what is drawn for widths covers every width once.
func (k *checker) drawnWidths() {
	if len(k.c.Widths) == 0 {
		return
	}
	sorted := slices.Clone(k.c.Widths)
	slices.SortFunc(sorted, func(a, b DrawnWidth) int { return cmp.Compare(a.From, b.From) })
	at := 0.0
	for i, w := range sorted {
		if last := i == len(sorted)-1; w.From != at || (w.Below == 0) != last || !last && w.Below <= w.From {
			k.found.Errorf("drawn-width", "/widths", "let each begin where the one before ends, the first at 0, and the last have no end", "the widths that are drawn overlap or leave a gap at %g px", at)
			return
		}
		at = w.Below
	}
}

type checker struct {
	c      *Contract
	tokens *token.Set
	parts  map[string]bool     // ids
	lists  map[string][]string // those a part is repeated for, by its id
	names  map[string]bool
	slots  map[string]bool // ids of those that stand somewhere
	found  problem.List
}

// widestSwitch is the greatest px of a width a rule can ask for.
const widestSwitch = 20_000

func (k *checker) rule(r Rule, at string) {
	if !k.parts[r.Part] {
		k.found.Errorf("rule-part", at+"/part", "name a part of the tree", "there is no part %q", r.Part)
	}
	k.condition(r.When, at+"/when")
	if p := k.c.Part(r.Part); p != nil && p.Use() != nil {
		for _, property := range r.Set.Properties() {
			k.standing(p, property, at+"/set/"+property)
		}
	}
	for _, t := range r.When.Terms() {
		k.inScope(PropOf(t), at+"/when", r.Part, k.lists[r.Part])
	}
	k.style(r.Set, at+"/set")
}

func (k *checker) condition(w When, at string) {
	for _, t := range w.Terms() {
		switch t := t.(type) {
		case PropIs:
			k.propIs(t, at+"/props/"+t.Prop)
		case NumberIs:
			if p := k.c.Prop(t.Prop); p == nil || p.Kind() != NumberKind {
				k.found.Errorf("rule-prop", at+"/numbers/"+t.Prop, "name a number", "there is no number %q", t.Prop)
			} else if t.Low.Kind == NoBound && t.High.Kind == NoBound {
				k.found.Errorf("rule-number", at+"/numbers/"+t.Prop, "give from, above, to or below", "no bound is named")
			}
		case PropSet:
			if p := k.c.Prop(t.Prop); p == nil || p.Kind() == FlagKind || p.Kind() == ChoiceKind {
				k.found.Errorf("rule-prop", at+"/set/"+t.Prop, "name a prop that may be left out", "there is no prop %q that may be set or not", t.Prop)
			}
		case InState:
			if all := k.c.AllStates(); !slices.Contains(all, t.State) {
				k.found.Errorf("rule-state", at+"/states", "use one of "+strings.Join(all, ", "), "%q is no state", t.State)
			}
		case Direction:
			if t.Is != "ltr" && t.Is != "rtl" {
				k.found.Errorf("rule-direction", at+"/direction", "use ltr or rtl", "%q is no direction", t.Is)
			}
		case Container:
			k.widths(t.Range, at+"/container")
		case Viewport:
			k.widths(t.Range, at+"/viewport")
		}
	}
}

func (k *checker) widths(r Range, at string) {
	switch {
	case r.From == 0 && r.Below == 0:
		k.found.Errorf("rule-width", at, "give from, below or both", "no width is named")
	case !(r.From >= 0 && r.Below >= 0 && max(r.From, r.Below) <= widestSwitch) || r.Below > 0 && r.From >= r.Below:
		k.found.Errorf("rule-width", at, "give px, up to 20000, from less than below", "%s is no range of widths", Viewport{r})
	}
}

func (k *checker) propIs(t PropIs, at string) {
	p := k.c.Prop(t.Prop)
	if p == nil || p.Type.Nameable() == nil {
		k.found.Errorf("rule-prop", at, "name a choice or a flag", "there is no choice or flag %q", t.Prop)
		return
	}
	if !p.Type.Takes(t.Value) {
		var options []string
		for _, v := range p.Type.Nameable() {
			options = append(options, v.String())
		}
		k.found.Errorf("rule-option", at, "use one of "+strings.Join(options, ", "), "%q is not an option of %s", t.Value, p.Name)
	}
}

func (k *checker) style(s Style, at string) {
	for _, property := range s.Properties() {
		if err := CheckValue(property, s[property], k.tokens); err != nil {
			k.found.Errorf("style-value", at+"/"+property, "", "%s", err)
		}
	}
}
