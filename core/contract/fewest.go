package contract

import (
	"maps"
	"slices"
)

// FewerRules leaves out of the contract what says nothing new: declarations that never win, or that say what
// would hold without them, and terms of conditions that make no difference; then it puts declarations
// of a part under one condition into one rule. In no environment is any value another than before. Properties whose
// conditions have more than mostWorlds combinations stay as they are. It gives the number of declarations and
// terms that went.
func (c *Contract) FewerRules() (gone int) {
	c.Walk(func(p, _ *Part) {
		properties := map[string]bool{}
		for property := range p.Style {
			properties[property] = true
		}
		for _, r := range c.Rules {
			if r.Part == p.ID {
				for property := range r.Set {
					properties[property] = true
				}
			}
		}
		for _, property := range slices.Sorted(maps.Keys(properties)) {
			gone += c.fewer(p, property)
		}
	})
	c.Prune()
	c.joinRules()
	return gone
}

// mostWorlds bounds how many combinations are looked at for one property.
const mostWorlds = 4_096

// saying is one place where a property of a part is said; rule is -1 for the part's own style.
type saying struct {
	rule  int
	when  When
	value string
}

// FewerRulesOf is FewerRules for one property of a part, by its id.
func (c *Contract) FewerRulesOf(part, property string) (gone int) {
	if p := c.Part(part); p != nil {
		gone = c.fewer(p, property)
		c.Prune()
	}
	return gone
}

// fewer leaves out what is needless of one property.
func (c *Contract) fewer(p *Part, property string) (gone int) {
	var list []saying
	if v, ok := p.Style[property]; ok {
		list = append(list, saying{-1, When{}, v})
	}
	for i, r := range c.Rules {
		if v, ok := r.Set[property]; ok && r.Part == p.ID {
			list = append(list, saying{i, r.When, v})
		}
	}
	worlds, ok := c.worldsOf(list)
	if !ok {
		return 0
	}
	want := outcomes(list, worlds)
	same := func(list []saying) bool { return slices.Equal(outcomes(list, worlds), want) }
	for again := true; again; {
		again = false
		keep := func(next []saying) bool {
			if !same(next) {
				return false
			}
			list, again = next, true
			gone++
			return true
		}
		for i := len(list) - 1; i >= 0; i-- {
			keep(slices.Delete(slices.Clone(list), i, i+1))
		}
		for i := len(list) - 1; i >= 0; i-- {
			for _, t := range list[i].when.Terms() {
				wider := list[i].when.without(func(o Term) bool { return o == t })
				next := slices.Clone(list)
				if next[i].when = wider; wider.Always() { // the part says it by itself, in place of what it said
					first := saying{-1, When{}, list[i].value}
					next = slices.DeleteFunc(slices.Delete(next, i, i+1), func(s saying) bool { return s.rule < 0 })
					next = slices.Insert(next, 0, first)
				}
				if keep(next) {
					break
				}
			}
			if i = min(i, len(list)); i == 0 {
				break
			}
		}
	}
	if gone == 0 {
		return 0
	}
	delete(p.Style, property)
	for i, r := range c.Rules {
		if r.Part == p.ID {
			delete(c.Rules[i].Set, property)
		}
	}
	// What is left stands where it stood; under a wider condition in a rule of its own there.
	for i := len(list) - 1; i >= 0; i-- {
		s := list[i]
		switch {
		case s.rule < 0:
			if p.Style == nil {
				p.Style = Style{}
			}
			p.Style[property] = s.value
		case c.Rules[s.rule].When.Equal(s.when):
			c.Rules[s.rule].Set[property] = s.value
		default:
			c.Rules = slices.Insert(c.Rules, s.rule+1, Rule{p.ID, s.when, Style{property: s.value}})
		}
	}
	return gone
}

// outcomes gives what holds in each world; nothing is said where it is empty.
func outcomes(list []saying, worlds []Env) []string {
	out := make([]string, len(worlds))
	for i, e := range worlds {
		for j := len(list) - 1; j >= 0; j-- {
			if list[j].when.Holds(e) {
				out[i] = list[j].value
				break
			}
		}
	}
	return out
}

// worldsOf lists environments that tell all that conditions ask apart; false when they are too many.
func (c *Contract) worldsOf(list []saying) ([]Env, bool) {
	var asked []Term
	for _, s := range list {
		for _, t := range s.when.Terms() {
			if !slices.Contains(asked, t) {
				asked = append(asked, t)
			}
		}
	}
	slices.SortStableFunc(asked, compareTerms)
	worlds := []Env{{}}
	for i := 0; i < len(asked); {
		j := i
		// What is asked of one thing: a prop in whatever way, or the same width.
		for j < len(asked) && (compareTerms(asked[i], asked[j]) == 0 || PropOf(asked[i]) != "" && PropOf(asked[i]) == PropOf(asked[j])) {
			j++
		}
		ways := c.waysOf(asked[i:j])
		if len(worlds)*len(ways) > mostWorlds {
			return nil, false
		}
		var next []Env
		for _, w := range worlds {
			for _, way := range ways {
				next = append(next, way(w))
			}
		}
		worlds, i = next, j
	}
	return worlds, true
}

// waysOf lists the worlds that terms about one thing tell apart, as changes of a world.
func (c *Contract) waysOf(terms []Term) (out []func(Env) Env) {
	prop := func(id string, v Value) func(Env) Env {
		return func(e Env) Env {
			e.Props = e.Props.With(Values{id: v})
			return e
		}
	}
	around := func(px []float64) []float64 {
		out := []float64{1}
		for _, p := range px {
			if p > 0 {
				out = append(out, p) // up to the next, all is as here
			}
		}
		return out
	}
	switch t := terms[0].(type) {
	case InState:
		return []func(Env) Env{func(e Env) Env { return e }, func(e Env) Env {
			e.States = append(e.States[:len(e.States):len(e.States)], t.State)
			return e
		}}
	case Theme:
		contexts := []string{""}
		for _, t := range terms {
			contexts = append(contexts, t.(Theme).Context)
		}
		for _, context := range contexts {
			out = append(out, func(e Env) Env {
				e.Theme = maps.Clone(e.Theme)
				if e.Theme == nil {
					e.Theme = map[string]string{}
				}
				e.Theme[t.Modifier] = context
				return e
			})
		}
	case Direction:
		for _, d := range []string{"ltr", "rtl"} {
			out = append(out, func(e Env) Env { e.Direction = d; return e })
		}
	case Viewport:
		var px []float64
		for _, t := range terms {
			px = append(px, t.(Viewport).From, t.(Viewport).Below)
		}
		for _, at := range around(px) {
			out = append(out, func(e Env) Env { e.Viewport = at; return e })
		}
	case Container:
		var px []float64
		for _, t := range terms {
			px = append(px, t.(Container).From, t.(Container).Below)
		}
		for _, at := range around(px) {
			out = append(out, func(e Env) Env {
				if t.Name == "" {
					e.Container = at
					return e
				}
				e.Containers = maps.Clone(e.Containers)
				if e.Containers == nil {
					e.Containers = map[string]float64{}
				}
				e.Containers[t.Name] = at
				return e
			})
		}
	default:
		id := PropOf(terms[0])
		values := []Value{nil}
		if p := c.Prop(id); p != nil {
			if values = p.Type.Nameable(); values == nil {
				values = append([]Value{nil}, p.Samples()...)
			}
		}
		for _, t := range terms {
			if n, ok := t.(NumberIs); ok {
				for _, bound := range []Bound{n.Low, n.High} {
					if bound.Kind != NoBound {
						values = append(values, NumberValue(bound.At-0.5), NumberValue(bound.At), NumberValue(bound.At+0.5))
					}
				}
			}
		}
		for _, v := range values {
			out = append(out, prop(id, v))
		}
	}
	return out
}

// joinRules puts declarations of one part under one condition into the first rule of it, where none between
// them sets the same.
func (c *Contract) joinRules() {
	for i := range c.Rules {
		for j := i + 1; j < len(c.Rules); j++ {
			a, b := c.Rules[i], c.Rules[j]
			if a.Part != b.Part || !a.When.Equal(b.When) {
				continue
			}
			for _, property := range b.Set.Properties() {
				between := slices.ContainsFunc(c.Rules[i:j], func(r Rule) bool { return r.Part == a.Part && r.Set[property] != "" })
				if !between {
					a.Set[property] = b.Set[property]
					delete(b.Set, property)
				}
			}
		}
	}
	c.Prune()
}
