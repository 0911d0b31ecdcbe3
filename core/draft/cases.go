package draft

import (
	"maps"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
)

// Case is one combination of prop values that was drawn.
type Case struct {
	Name    string // the choices and flags drawn as axes: "s · ripe · strong"
	Values  map[string]contract.Value
	Variant *design.Variant
	New     []string // axis values the contract has no option for: "tone=resting"
}

// Cases lists a family's drawn variants as cases of a contract, ordered by axis
// and option. A case that uses an option the contract does not have names it in
// New and takes the default for it.
func Cases(c *contract.Contract, f *design.Family) []Case {
	var cases []Case
	for _, v := range f.Variants {
		cases = append(cases, caseOf(c, f, v))
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

func caseOf(c *contract.Contract, f *design.Family, v *design.Variant) Case {
	k := Case{Values: c.Defaults(), Variant: v}
	var name []string
	for _, a := range f.Axes {
		drawn := v.Choices[a.Name]
		p := propOfAxis(c, a.Name)
		switch {
		case p == nil:
			if drawn != a.Default {
				k.New = append(k.New, a.Name+"="+drawn)
			}
			name = append(name, drawn)
		case p.Kind == contract.Flag:
			switch drawn {
			case p.On:
				k.Values[p.Name] = "true"
				name = append(name, p.Name)
			case p.Off:
				k.Values[p.Name] = "false"
			default:
				k.New = append(k.New, a.Name+"="+drawn)
			}
		default:
			option := contract.OptionOf(drawn)
			name = append(name, option)
			if slices.Contains(p.Options, option) {
				k.Values[p.Name] = contract.Value(option)
			} else {
				k.New = append(k.New, a.Name+"="+drawn)
			}
		}
	}
	for _, p := range c.Props {
		if p.Layer == "" {
			continue
		}
		part := c.Part(p.Layer)
		if part == nil {
			continue
		}
		l, _ := LayerAt(v.Root, part.Layer)
		switch {
		case p.Kind == contract.Flag:
			k.Values[p.Name] = contract.FlagValue(l != nil && !l.Hidden)
		case p.Kind == contract.Text && l != nil && l.Text != nil:
			k.Values[p.Name] = contract.Value(l.Text.Content)
		}
	}
	if k.Name = strings.Join(name, " · "); k.Name == "" {
		k.Name = "default"
	}
	return k
}

func propOfAxis(c *contract.Contract, axis string) *contract.Prop {
	for i := range c.Props {
		if c.Props[i].Axis == axis {
			return &c.Props[i]
		}
	}
	return nil
}

// Key identifies a case by its choices and flags, the same in every revision.
func (k Case) Key(c *contract.Contract) string {
	var words []string
	for _, name := range slices.Sorted(maps.Keys(k.Values)) {
		if p := c.Prop(name); p != nil && p.Kind != contract.Text {
			words = append(words, name+"="+string(k.Values[name]))
		}
	}
	return strings.Join(append(words, k.New...), " ")
}
