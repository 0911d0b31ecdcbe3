// Package check looks at a contract as one who reviews the code would: what is valid, and
// wrong all the same. A file a subject; each rule with its source.
package check

import (
	"fmt"
	"slices"

	"cobrik/core/contract"
	"cobrik/core/font"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// Options are what a contract is looked at with. The zero value is no tokens and no fonts.
type Options struct {
	Themes []Theme // the first is the default; without one, references lead nowhere
	Fonts  *font.Library
}

// Theme is one set of the resolver document's choices, with the tokens it gives.
type Theme struct {
	Name    string
	Choices map[string]string
	Tokens  *token.Set
}

// Finding is one thing found; Fix mends it in the contract, where that is mechanical, and is
// nil elsewhere.
type Finding struct {
	problem.Problem
	Fix func(*contract.Contract)
}

// Contract lists what a review finds in a contract that is valid (contract.Check). Findings
// come in the order of the rules.
func Contract(c *contract.Contract, o Options) []Finding {
	if len(o.Themes) == 0 {
		o.Themes = []Theme{{Tokens: token.Empty()}}
	}
	k := &checker{c: c, o: o, at: pointers(c), seen: map[string]bool{}}
	k.worlds()
	for _, look := range []func(){k.nesting, k.headings, k.names, k.layout, k.units, k.rules, k.props, k.uses, k.states, k.contrast, k.boxes, k.scale, k.scenarios} {
		look()
	}
	return k.found
}

// Problems gives findings as problems.
func Problems(found []Finding) problem.List {
	out := make(problem.List, len(found))
	for i, f := range found {
		out[i] = f.Problem
	}
	return out
}

// Mend carries out every mechanical fix, until none is left, and gives the number of those
// carried out.
func Mend(c *contract.Contract, o Options) int {
	done := 0
	for range 20 { // a fix may uncover another
		before := done
		for _, f := range Contract(c, o) {
			if f.Fix != nil {
				f.Fix(c)
				done++
			}
		}
		if done == before {
			break
		}
	}
	return done
}

type checker struct {
	c     *contract.Contract
	o     Options
	at    map[string]string // JSON Pointers of parts, by id
	envs  []world
	seen  map[string]bool
	found []Finding
}

// world is one environment with the tokens of its theme, and the contract in it.
type world struct {
	env   contract.Env
	theme Theme
	tree  *contract.Resolved
}

// say adds a finding, once for each rule, place and key.
func (k *checker) say(severity problem.Severity, rule, at, key string, fix func(*contract.Contract), what, format string, args ...any) {
	once := rule + "\x00" + at + "\x00" + key
	if k.seen[once] {
		return
	}
	k.seen[once] = true
	k.found = append(k.found, Finding{problem.Problem{Rule: rule, Severity: severity, Pointer: at, Message: fmt.Sprintf(format, args...), Fix: what}, fix})
}

// pointers gives the JSON Pointer of every part.
func pointers(c *contract.Contract) map[string]string {
	out := map[string]string{}
	var walk func(p *contract.Part, at string)
	walk = func(p *contract.Part, at string) {
		out[p.ID] = at
		for i, child := range p.Children {
			walk(child, fmt.Sprintf("%s/children/%d", at, i))
		}
	}
	walk(c.Root, "/root")
	return out
}

// mostWorlds bounds the combinations of prop values that are looked at: above it, each value is,
// beside what the other props are shown with.
const mostWorlds = 600

// worlds resolves the contract in every combination of the props that rules may name, in no
// state and in each that rules ask for, in every theme, and on either side of each switch point.
func (k *checker) worlds() {
	values := []contract.Values{k.c.Examples()}
	combinations := 1
	for _, p := range k.c.Props {
		combinations *= max(1, len(p.Type.Nameable()))
	}
	for _, p := range k.c.Props {
		base := values
		if combinations > mostWorlds {
			base = values[:1]
		}
		for _, v := range p.Type.Nameable() {
			for _, from := range base {
				if !contract.Equal(from[p.ID], v) {
					values = append(values, from.With(contract.Values{p.ID: v}))
				}
			}
		}
		if samples := p.Samples(); p.Type.Nameable() == nil && k.asked(p.ID) {
			for _, v := range samples[1:] {
				other := k.c.Examples().With(contract.Values{p.ID: v})
				if v == nil {
					delete(other, p.ID)
				}
				values = append(values, other)
			}
		}
	}
	values = slices.DeleteFunc(values, k.c.AreApart)
	states := []string{""}
	for _, r := range k.c.Rules {
		for _, t := range r.When.Terms() {
			if s, ok := t.(contract.InState); ok && !slices.Contains(states, s.State) {
				states = append(states, s.State)
			}
		}
	}
	widths := []float64{0}
	for _, px := range k.c.SwitchPoints() {
		widths = append(widths, px-1)
	}
	for _, theme := range k.o.Themes {
		for _, v := range values {
			for _, state := range states {
				for _, width := range widths {
					env := contract.Env{Props: v, Container: width, Theme: theme.Choices}
					if state != "" {
						env.States = []string{state}
					}
					k.envs = append(k.envs, world{env, theme, contract.Resolve(k.c, env, theme.Tokens)})
				}
			}
		}
	}
}

// asked tells whether a condition asks of a prop.
func (k *checker) asked(id string) bool {
	ask := func(w contract.When) bool {
		return slices.ContainsFunc(w.Terms(), func(t contract.Term) bool { return contract.PropOf(t) == id })
	}
	found := slices.ContainsFunc(k.c.Rules, func(r contract.Rule) bool { return ask(r.When) })
	k.c.Walk(func(p, _ *contract.Part) { found = found || ask(p.ShownWhen) })
	return found
}

// said names a world as a person reads it: "size = s and state hover, theme dusk".
func (w world) said(c *contract.Contract) string {
	var terms []contract.Term
	defaults := c.Examples()
	for _, p := range c.Props {
		if v := w.env.Props[p.ID]; p.Type.Nameable() != nil && !contract.Equal(v, defaults[p.ID]) {
			terms = append(terms, contract.PropIs{Prop: p.ID, Value: v})
		}
	}
	for _, s := range w.env.States {
		terms = append(terms, contract.InState{State: s})
	}
	out := c.Words(contract.Of(terms...))
	if w.theme.Name != "" {
		if out != "" {
			out += ", "
		}
		out += w.theme.Name
	}
	if out == "" {
		return "by default"
	}
	return out
}
