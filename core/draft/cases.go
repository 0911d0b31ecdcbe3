package draft

import (
	"cmp"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
)

// Case is one combination of prop values that was drawn.
type Case struct {
	Name    string // the choices and flags drawn as axes: "s · ripe · strong"
	Values  contract.Values
	State   string  // that it is drawn in; empty for none
	Width   float64 // px of the container it is drawn for, where widths are told apart
	Variant *design.Variant
	New     []string // axis values the contract has no option for: "tone=resting"
}

// Env gives the environment the case was drawn in: the width it was drawn at is its
// container's.
func (k Case) Env() contract.Env {
	env := k.Cell("").Env()
	env.Container = k.Variant.Root.Bounds.Width
	return env
}

// Cases lists a family's drawn variants as cases of a contract, ordered by axis
// and option. A case that uses an option the contract does not have names it in
// New and takes the default for it.
func Cases(c *contract.Contract, f *design.Family) []Case {
	var cases []Case
	renamed := RenamedAxes(c, f)
	for _, v := range f.Variants {
		cases = append(cases, caseOf(c, f, v, renamed))
	}
	rank := func(k Case) []int {
		var at []int
		for _, a := range f.Axes {
			at = append(at, slices.Index(a.Values, k.Variant.Choices[a.Name]))
		}
		return at
	}
	slices.SortStableFunc(cases, func(a, b Case) int { return slices.Compare(rank(a), rank(b)) })
	return cases
}

func caseOf(c *contract.Contract, f *design.Family, v *design.Variant, renamed map[string]*contract.Prop) Case {
	k := Case{Values: c.Examples(), Variant: v}
	var name []string
	for _, a := range f.Axes {
		drawn := v.Choices[a.Name]
		if DrawsStates(c, a.Name) {
			k.inState(c, a, drawn, &name)
			continue
		}
		if DrawsWidths(c, a.Name) {
			k.Width = v.Root.Bounds.Width
			name = append(name, contract.OptionOf(drawn))
			if !slices.ContainsFunc(c.Widths, func(w contract.DrawnWidth) bool { return w.Value == drawn }) {
				k.New = append(k.New, a.Name+"="+drawn)
			}
			continue
		}
		p := cmp.Or(PropOfAxis(c, a.Name), renamed[a.Name])
		switch {
		case p == nil:
			if drawn != a.Default {
				k.New = append(k.New, a.Name+"="+drawn)
			}
			name = append(name, drawn)
		default:
			v, known := axisValue(p, drawn)
			switch {
			case p.Kind() != contract.FlagKind:
				name = append(name, contract.OptionOf(drawn))
			case v == contract.FlagValue(true):
				name = append(name, p.Name)
			}
			switch {
			case !known:
				k.New = append(k.New, a.Name+"="+drawn)
			case v == nil:
				delete(k.Values, p.ID)
			default:
				k.Values[p.ID] = v
			}
		}
	}
	for _, p := range c.Props {
		if p.From != nil {
			if part := c.Part(p.From.Part); part != nil && part.Use() != nil && part.Use().Of() != nil {
				l, _ := LayerOf(v.Root, part)
				if given := GivenBy(l, part.Use().Of())[p.From.Prop]; given != nil && p.Type.Takes(given) {
					k.Values[p.ID] = given
				}
			}
			continue
		}
		part := c.Part(p.Part)
		if part == nil {
			continue
		}
		l, _ := LayerOf(v.Root, part)
		drawn := drawnValue(p, l)
		if p.Kind() == contract.ListKind {
			drawn = drawnItems(c, p, l)
		}
		if drawn != nil {
			k.Values[p.ID] = drawn
		}
	}
	if k.Name = strings.Join(name, " · "); k.Name == "" {
		k.Name = "default"
	}
	return k
}

// inState puts a case into the state that its axis draws.
func (k *Case) inState(c *contract.Contract, a design.Axis, drawn string, name *[]string) {
	if drawn == a.Default {
		return
	}
	i := slices.IndexFunc(c.States, func(s contract.DrawnState) bool { return s.Axis == a.Name && s.Value == drawn })
	if i < 0 {
		k.New = append(k.New, a.Name+"="+drawn)
		*name = append(*name, drawn)
		return
	}
	k.State = c.States[i].State
	*name = append(*name, k.State)
	if flag := c.StateFlag(k.State); flag != nil {
		k.Values[flag.ID] = contract.FlagValue(true)
	}
}

// Cell gives what the case says.
func (k Case) Cell(text string) Cell { return Cell{k.Values, k.State, k.Width, text} }

// PropOfAxis finds the prop that stands for an axis; nil when there is none.
func PropOfAxis(c *contract.Contract, axis string) *contract.Prop {
	for i := range c.Props {
		if c.Props[i].Axis == axis {
			return &c.Props[i]
		}
	}
	return nil
}

// RenamedAxes finds axes that came with the values of one that went, and no other of
// either with these: the same axis under another name.
func RenamedAxes(c *contract.Contract, f *design.Family) map[string]*contract.Prop {
	gone := map[string][]*contract.Prop{}
	for i := range c.Props {
		p := &c.Props[i]
		if p.Axis != "" && !slices.ContainsFunc(f.Axes, func(a design.Axis) bool { return a.Name == p.Axis }) {
			values := p.Options()
			if p.Kind() == contract.FlagKind {
				values = []string{contract.OptionOf(p.On), contract.OptionOf(p.Off)}
			}
			key := setOf(values)
			gone[key] = append(gone[key], p)
		}
	}
	came := map[string][]string{}
	for _, a := range f.Axes {
		if PropOfAxis(c, a.Name) == nil {
			var values []string
			for _, v := range a.Values {
				values = append(values, contract.OptionOf(v))
			}
			key := setOf(values)
			came[key] = append(came[key], a.Name)
		}
	}
	out := map[string]*contract.Prop{}
	for key, axes := range came {
		if len(axes) == 1 && len(gone[key]) == 1 {
			out[axes[0]] = gone[key][0]
		}
	}
	return out
}

func setOf(values []string) string {
	sorted := slices.Sorted(slices.Values(values))
	return strings.Join(sorted, "\x00")
}

// Key identifies a case by its choices and flags, the same in every revision.
func (k Case) Key(c *contract.Contract) string {
	words := []string{k.Values.Key(c.Nameable())}
	for _, p := range c.Props {
		if v := k.Values[p.ID]; v != nil && p.Axis != "" && p.Kind() == contract.IconKind {
			words = append(words, p.ID+"="+v.String())
		}
	}
	if k.State != "" { // no prop's name begins so
		words = append(words, ":"+k.State)
	}
	for _, w := range c.Widths {
		if k.Width > 0 && w.Value == k.Variant.Choices[w.Axis] {
			words = append(words, "@"+contract.OptionOf(w.Value))
		}
	}
	return strings.Join(append(words, k.New...), " ")
}
