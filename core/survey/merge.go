package survey

import (
	"maps"
	"slices"
	"strings"

	"cobrik/core/contract"
)

// Props that people say are one become one here.

// Asked gives the props that are wanted by the names they are proposed by, those that were merged as one. One that cannot be merged, since the other was
// dropped, is another's itself, or is of another kind, stays on its own.
func (f *Find) Asked(w Wish) (out []Prop) {
	into := func(p Prop) string {
		to := w.Merged[p.Name]
		i := slices.IndexFunc(f.Props, func(q Prop) bool { return q.Name == to })
		if i < 0 || to == p.Name || w.Merged[to] != "" || slices.Contains(w.Dropped, to) || !f.Props[i].CanMerge(p) {
			return ""
		}
		return to
	}
	at := map[string]int{}
	for _, p := range f.Props {
		if !slices.Contains(w.Dropped, p.Name) && into(p) == "" {
			at[p.Name] = len(out)
			out = append(out, p)
		}
	}
	for _, p := range f.Props {
		if i, there := at[into(p)]; there && !slices.Contains(w.Dropped, p.Name) {
			out[i] = out[i].with(p, f.Members)
		}
	}
	return out
}

// CanMerge tells whether another prop can be one with it: two choices, or two that say the same in every copy.
func (p Prop) CanMerge(other Prop) bool {
	if p.Of != "" || other.Of != "" { // each is a component's own
		return false
	}
	switch contract.Kind(p.Kind) {
	case contract.ChoiceKind:
		return other.Kind == p.Kind && p.chosen() && other.chosen()
	case contract.TextKind, contract.FlagKind:
		return other.Kind == p.Kind && maps.EqualFunc(p.Values, other.Values, func(a, b any) bool { return a == b })
	}
	return false
}

// with gives a prop that says what another does, too. The options of two choices are those that stand together in some copy.
func (p Prop) with(other Prop, copies []Member) Prop {
	p.Also = append(slices.Clone(p.Also), other)
	p.Explain = slices.Concat(p.Explain, other.Explain)
	if contract.Kind(p.Kind) != contract.ChoiceKind {
		return p
	}
	mine, values := p.Values, map[string]any{}
	pairs := map[string][]string{} // of an option, those of the other that stand with it
	for _, m := range copies {
		a, _ := mine[m.ID].(string)
		b, _ := other.Values[m.ID].(string)
		if !slices.Contains(pairs[a], b) {
			pairs[a] = append(pairs[a], b)
		}
	}
	p.Options = nil
	for _, m := range copies {
		a, _ := mine[m.ID].(string)
		b, _ := other.Values[m.ID].(string)
		option := a
		if len(pairs[a]) > 1 || a == "" {
			option = strings.TrimSpace(a + " " + b)
		}
		values[m.ID] = option
		if !slices.Contains(p.Options, option) {
			p.Options = append(p.Options, option)
		}
	}
	p.Values = values
	return p
}

// shownAgain lets the parts of props that became one with a text show that.
func (p Prop) shownAgain(c *contract.Contract, part *contract.Part, model string) {
	text, ok := part.Content.(contract.TextOf)
	if !ok {
		return
	}
	for _, other := range p.Also {
		at := partDrawn(c, other.Layers[model])
		if at == nil {
			continue
		}
		if was, ok := at.Content.(contract.TextOf); ok && was.Prop != text.Prop {
			_ = c.Show(at.ID, text.Prop)  // both are there, and it is a text
			_, _ = c.RemoveProp(was.Prop) // nothing shows it any more
		}
	}
}
