package check

import (
	"fmt"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/problem"
)

// props finds props that nothing depends on, options that look alike, and what is required
// and has no example.
func (k *checker) props() {
	used := k.usedProps()
	for i, p := range k.c.Props {
		at := fmt.Sprintf("/props/%d", i)
		if !used[p.ID] {
			k.say(problem.Warning, "prop-unused", at, "", nil, "use it, or remove it", "nothing depends on %s", p.Name)
		}
		if list, ok := p.Type.(contract.List); ok && used[p.ID] {
			for n, item := range list.Items {
				if !used[p.ID+"."+item.ID] && item.Name != "id" {
					k.say(problem.Warning, "prop-unused", fmt.Sprintf("%s/items/%d", at, n), "", nil, "use it, or remove it", "nothing depends on %s of %s", item.Name, p.Name)
				}
			}
		}
		if p.Required && p.Example == nil && p.Type.Control() != "none" {
			k.say(problem.Warning, "prop-example", at, "", nil, "give it an example", "%s is required, and has no example to be looked at with", p.Name)
		}
		if choice, ok := p.Type.(contract.Choice); ok && used[p.ID] {
			k.options(p, choice, at)
		}
	}
}

// usedProps names the props that parts, attributes and conditions refer to, by their keys.
func (k *checker) usedProps() map[string]bool {
	used := map[string]bool{}
	ask := func(w contract.When) {
		for _, t := range w.Terms() {
			used[contract.PropOf(t)] = true
		}
	}
	k.c.Walk(func(p, _ *contract.Part) {
		switch c := p.Content.(type) {
		case contract.TextOf:
			used[c.Prop] = true
		case contract.ImageOf:
			used[c.Prop] = true
		case contract.IconOf:
			used[c.Prop] = true
		case contract.SlotOf:
			used[c.Prop] = true
		case *contract.Use:
			for _, g := range c.Given {
				used[g.Prop] = true
				for _, one := range g.Cases {
					ask(one.When)
				}
			}
		}
		used[p.Level], used[p.Repeat] = true, true
		for _, a := range p.Attributes {
			used[a.Prop] = true
		}
		ask(p.ShownWhen)
	})
	for _, r := range k.c.Rules {
		ask(r.When)
	}
	if k.c.Behaviour != nil {
		for _, id := range k.c.Behaviour.Props(k.c) {
			used[id] = true
		}
	}
	for _, p := range k.c.Props {
		if p.Kind() == contract.EventKind || k.c.StateOf(p) != "" {
			used[p.ID] = true
		}
		// What the element itself has (HTML, the attributes' index).
		if kind, _, ok := contract.AttributeOf(k.c.Root.Element, p.Name); ok && kind == contract.FlagAttribute && p.Kind() == contract.FlagKind {
			used[p.ID] = true
		}
	}
	return used
}

// options finds two options of a choice between which nothing differs.
func (k *checker) options(p contract.Prop, choice contract.Choice, at string) {
	looks := map[string]*strings.Builder{} // by option: all there is, in every world
	for _, o := range choice.Options {
		looks[o] = &strings.Builder{}
	}
	for _, w := range k.envs {
		option := w.env.Props[p.ID].String()
		rest := w
		rest.env.Props = w.env.Props.With(contract.Values{p.ID: choice.Default()})
		if b := looks[option]; b != nil {
			fmt.Fprintln(b, rest.said(k.c), w.env.Container, look(w.tree))
		}
	}
	for i, o := range choice.Options {
		for _, before := range choice.Options[:i] {
			if looks[o].Len() > 0 && looks[o].String() == looks[before].String() {
				k.say(problem.Warning, "option-alike", fmt.Sprintf("%s/options/%d", at, i), before, nil, "draw them apart, or remove one", "%s and %s of %s look alike everywhere", before, o, p.Name)
			}
		}
	}
}

// look writes all that a tree says, to compare it with another.
func look(r *contract.Resolved) string {
	var b strings.Builder
	properties := css.PropertyNames()
	r.Walk(func(r *contract.Resolved) {
		fmt.Fprint(&b, r.Key(), r.Shown, r.Text, r.Given)
		for _, property := range properties {
			b.WriteByte('|')
			b.WriteString(r.Values[property].Value)
		}
	})
	return b.String()
}

// states finds states that nothing brings about or that cannot be told, and variants whose
// look a state forgets.
func (k *checker) states() {
	asked := map[string]bool{}
	for i, r := range k.c.Rules {
		for _, t := range r.When.Terms() {
			s, ok := t.(contract.InState)
			if !ok {
				continue
			}
			if slices.Contains(contract.DataStates, s.State) && k.c.StateFlag(s.State) == nil && !k.c.HasState(s.State) && !k.attributed(s.State) {
				k.say(problem.Warning, "state-nobody", fmt.Sprintf("/rules/%d/when", i), s.State, nil, "add a flag of its name", "nothing puts the component in the state %s", s.State)
			}
			asked[s.State] = !k.c.HasState(s.State) // what the states of a behaviour look like is held against each other there
			k.forgotten(r, s.State, i)
		}
	}
	for state, is := range asked {
		if is {
			k.seenState(state)
		}
	}
}

// attributed tells whether the root has the attribute that says a state.
func (k *checker) attributed(state string) bool {
	name := map[string]string{"loading": "aria-busy", "read-only": "aria-readonly"}[state]
	if name == "" {
		name = "aria-" + state
	}
	_, own := k.c.Root.Attributes[name]
	return own || state == "checked" && k.count("input") > 0 || state == "invalid" && k.count("input")+k.count("textarea") > 0
}

// forgotten finds a rule of a state that gives a variant the look of another: the variant says
// a value of its own, and hovered or pressed it has that of the default.
func (k *checker) forgotten(stated contract.Rule, state string, index int) {
	if state != "hover" && state != "active" || len(stated.When.Terms()) != 1 {
		return
	}
	for _, variant := range k.c.Rules {
		if variant.Part != stated.Part || variant.When.Always() || !variant.When.OfProps() {
			continue
		}
		for _, property := range variant.Set.Properties() {
			if _, ok := stated.Set[property]; !ok {
				continue
			}
			seen := slices.ContainsFunc(k.c.Rules, func(r contract.Rule) bool {
				_, sets := r.Set[property]
				return sets && r.Part == stated.Part && slices.Contains(r.When.Terms(), contract.Term(contract.InState{State: state})) && len(r.When.Terms()) > 1 && !r.When.Excludes(variant.When)
			})
			if !seen {
				k.say(problem.Warning, "variant-state", fmt.Sprintf("/rules/%d/set/%s", index, property), variant.When.Key(), nil, "say what it is with "+k.c.Words(variant.When.With(contract.InState{State: state})),
					"with %s, %s of %s is %s; in the state %s it is %s, as of any other", k.c.Words(variant.When), property, k.c.Part(stated.Part).Name, variant.Set[property], state, stated.Set[property])
			}
		}
	}
}

// seenState finds a state that looks as none, in a world (WCAG 2.2, 2.4.7 for focus).
func (k *checker) seenState(state string) {
	rest := map[string]string{}
	key := func(w world) string {
		w.env.States = nil
		return w.said(k.c) + fmt.Sprint(w.env.Container)
	}
	for _, w := range k.envs {
		if len(w.env.States) == 0 {
			rest[key(w)] = look(w.tree)
		}
	}
	for _, w := range k.envs {
		if slices.ContainsFunc(k.c.Props, func(p contract.Prop) bool {
			return k.c.StateOf(p) != "" && w.env.Props[p.ID] == contract.FlagValue(true)
		}) {
			continue // it is in another state already
		}
		if slices.Equal(w.env.States, []string{state}) && look(w.tree) == rest[key(w)] {
			k.say(problem.Warning, "state-unseen", "/rules", state, nil, "let it change something there", "the state %s looks as none: %s", state, w.said(k.c))
		}
	}
}
