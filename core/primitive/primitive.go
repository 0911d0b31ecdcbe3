// Package primitive makes components of the layout primitives: contracts as others are, whose
// choices are the project's own tokens.
package primitive

import (
	"maps"
	"math"
	"regexp"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/layout"
	"cobrik/core/token"
)

// Contracts gives the layout primitives as contracts, simple ones first. Gaps, paddings and offsets
// are chosen from the scale of spaces that the tokens have; from a few usual px where they have
// none.
func Contracts(tokens *token.Set) []*contract.Contract {
	scale := spaces(tokens)
	out := make([]*contract.Contract, len(layout.Primitives))
	for i, p := range layout.Primitives {
		out[i] = contractOf(p, scale)
	}
	return out
}

// Named gives the primitive of a component's name; nil for none.
func Named(name string, tokens *token.Set) *contract.Contract {
	for _, c := range Contracts(tokens) {
		if c.Name == name {
			return c
		}
	}
	return nil
}

// option is what a choice offers, and the CSS value that it stands for.
type option struct{ name, value string }

// usual are spaces in px where no tokens say any, widths of columns, and greatest widths: common
// practice, no source.
var (
	usual    = []option{{"4", "4px"}, {"8", "8px"}, {"12", "12px"}, {"16", "16px"}, {"24", "24px"}, {"32", "32px"}, {"48", "48px"}}
	minimums = []option{{"narrow", "12rem"}, {"medium", "16rem"}, {"wide", "24rem"}}
	maximums = []option{{"narrow", "40rem"}, {"medium", "64rem"}, {"wide", "80rem"}}
	counts   = []option{{"1", "1"}, {"2", "2"}, {"3", "3"}, {"4", "4"}, {"6", "6"}, {"12", "12"}}
)

// scaleGroup matches the groups of tokens that are scales of spaces.
var scaleGroup = regexp.MustCompile(`(?i)^(space|spaces|spacing|gap|gaps|gutter)$`)

// spaces lists the steps of the tokens' scale of spaces, smallest first: those of the largest group
// that is named so.
func spaces(tokens *token.Set) []option {
	groups := map[string][]option{}
	best := ""
	for _, t := range tokens.All() {
		last := strings.LastIndexByte(t.Path, '.')
		if last < 0 {
			continue
		}
		group := t.Path[:last]
		words := strings.FieldsFunc(group, func(r rune) bool { return r == '.' || r == '-' || r == ' ' })
		if t.Type != "dimension" || t.Value == "" || t.Deprecated != "" || len(words) == 0 || !scaleGroup.MatchString(words[len(words)-1]) {
			continue
		}
		name := contract.OptionOf(t.Path[last+1:])
		if name == none || slices.ContainsFunc(groups[group], func(o option) bool { return o.name == name }) {
			continue
		}
		groups[group] = append(groups[group], option{name, "{" + t.Path + "}"})
		if len(groups[group]) > len(groups[best]) {
			best = group
		}
	}
	scale := groups[best]
	if len(scale) == 0 {
		return usual
	}
	size := func(o option) float64 {
		px, _ := css.Pixels(css.CanonicalText("width", contract.ResolveTokens(o.value, tokens), css.RootFontSize))
		return px
	}
	slices.SortStableFunc(scale, func(a, b option) int {
		switch x, y := size(a), size(b); {
		case x < y:
			return -1
		case x > y:
			return 1
		}
		return 0
	})
	return scale
}

// Space gives the step of the tokens' scale of spaces that is nearest to so many px, as a reference; where
// there is no scale, the px.
func Space(tokens *token.Set, px float64) string {
	best, off := css.FormatNumber(px)+"px", math.Inf(1)
	for _, o := range spaces(tokens) {
		if !strings.HasPrefix(o.value, "{") {
			return best
		}
		at, ok := css.Pixels(css.CanonicalText("width", contract.ResolveTokens(o.value, tokens), css.RootFontSize))
		if d := math.Abs(at - px); ok && d < off {
			best, off = o.value, d
		}
	}
	return best
}

// none is the option for nothing of it.
const none = "none"

// optionsOf gives what a prop of a primitive offers, the default first.
func optionsOf(p layout.PrimitiveProp, scale []option) []option {
	switch p.Name {
	case "shares": // equal ones are the default
		return append([]option{{"equal", ""}}, named(layout.Shares[1:])...)
	case "columns":
		return counts
	case "minimum":
		return append([]option{{none, ""}}, minimums...)
	case "maximum":
		return withDefault(slices.Clone(maximums), p.Default)
	case "size":
		return append([]option{{"rest", ""}}, scale...)
	case "gap", "padding", "offset":
		return append([]option{{none, "0"}}, scale...)
	}
	return withDefault(named(p.Options), p.Default)
}

// named are options that say what they are.
func named(words []string) (out []option) {
	for _, word := range words {
		out = append(out, option{contract.OptionOf(word), word})
	}
	return out
}

// withDefault moves the default's option to the front.
func withDefault(options []option, value string) []option {
	at := slices.IndexFunc(options, func(o option) bool { return o.value == value })
	if at > 0 {
		first := options[at]
		options = append([]option{first}, slices.Delete(options, at, at+1)...)
	}
	return options
}

// as are the elements that something that lays out others may be.
var as = []string{"section", "article", "header", "footer", "main", "nav", "aside", "ul", "span"}

func contractOf(p layout.Primitive, scale []option) *contract.Contract {
	c := &contract.Contract{Format: contract.Format, Name: contract.Capitalized(p.Name), Purpose: contract.Capitalized(p.Purpose) + ".",
		Root: &contract.Part{ID: "root", Name: "root", Element: "div"}}
	values := map[string]string{}
	choices := map[string][]option{}
	for _, prop := range p.Props {
		options := optionsOf(prop, scale)
		choices[prop.Name] = options
		values[prop.Name] = options[0].value
		q := contract.Prop{ID: prop.Name, Name: prop.Name, Purpose: contract.Capitalized(prop.Purpose) + "."}
		if names := []string{"no", "yes"}; slices.Equal(prop.Options, names) {
			q.Type = contract.Flag{Initial: prop.Default == "yes"}
		} else {
			choice := contract.Choice{Initial: options[0].name}
			for _, o := range options {
				choice.Options = append(choice.Options, o.name)
			}
			q.Type = choice
		}
		c.Props = append(c.Props, q)
	}
	parts := children(c, p)
	base := styles(p, values)
	for i, part := range parts {
		part.Style = base[i]
	}
	rule := func(part *contract.Part, set contract.Style, terms ...contract.Term) {
		if len(set) > 0 {
			c.Rules = append(c.Rules, contract.Rule{Part: part.ID, When: contract.Of(terms...), Set: set})
		}
	}
	is := func(prop, option string) contract.Term {
		return contract.PropIs{Prop: prop, Value: valueOf(c.Prop(prop), option)}
	}
	for _, prop := range p.Props {
		for _, o := range choices[prop.Name][1:] {
			said := styles(p, with(values, prop.Name, o.value))
			for i, part := range parts {
				rule(part, Differing(base[i], said[i]), is(prop.Name, o.name))
			}
		}
	}
	for a, first := range p.Props { // what two of them say together, and neither by itself
		for _, second := range p.Props[a+1:] {
			for _, x := range choices[first.Name][1:] {
				for _, y := range choices[second.Name][1:] {
					said := styles(p, with(with(values, first.Name, x.value), second.Name, y.value))
					for i, part := range parts {
						now := maps.Clone(base[i])
						maps.Copy(now, Differing(base[i], styles(p, with(values, first.Name, x.value))[i]))
						maps.Copy(now, Differing(base[i], styles(p, with(values, second.Name, y.value))[i]))
						rule(part, Differing(now, said[i]), is(first.Name, x.name), is(second.Name, y.name))
					}
				}
			}
		}
	}
	return c
}

func valueOf(p *contract.Prop, option string) contract.Value {
	if p.Kind() == contract.FlagKind {
		return contract.FlagValue(option == "yes")
	}
	return contract.OptionValue(option)
}

func with(values map[string]string, name, value string) map[string]string {
	out := map[string]string{name: value}
	for k, v := range values {
		if k != name {
			out[k] = v
		}
	}
	return out
}

// children gives a primitive's contract the slots it lays out, and all parts that the primitive
// says a style of: the root first.
func children(c *contract.Contract, p layout.Primitive) []*contract.Part {
	slot := func(name, purpose string) {
		c.Props = append(c.Props, contract.Prop{ID: name, Name: name, Purpose: purpose, Type: contract.Slot{}})
	}
	switch p.Name {
	case "spacer": // it holds nothing
		c.Root.Attributes = map[string]contract.Attribute{"aria-hidden": {Text: "true"}}
		return []*contract.Part{c.Root}
	case "overlay":
		slot("children", "What lies below.")
		slot("over", "What lies over it.")
		below := &contract.Part{ID: "below", Name: "below", Element: "div", Content: contract.SlotOf{Prop: "children"}}
		over := &contract.Part{ID: "above", Name: "above", Element: "div", Content: contract.SlotOf{Prop: "over"}}
		c.Root.Children = []*contract.Part{below, over}
		return []*contract.Part{c.Root, below, over}
	}
	slot("children", "What it lays out.")
	c.Root.Content, c.Root.As = contract.SlotOf{Prop: "children"}, as
	return []*contract.Part{c.Root}
}

// styles gives the style of a primitive's container and of two children, as contracts say them.
func styles(p layout.Primitive, values map[string]string) []contract.Style {
	n, err := layout.Compose(p.Name, values, &layout.Node{}, &layout.Node{})
	if err != nil {
		panic(err) // the values are its own
	}
	return []contract.Style{Plain(n.Style), Plain(n.Children[0].Style), Plain(n.Children[1].Style)}
}

// longhands are what shorthands stand for that contracts do not know.
var longhands = map[string][]string{"place-self": {"align-self", "justify-self"}}

// Plain gives a style of layout as contracts say it: without what is so by itself, and with what shorthands stand for.
func Plain(s layout.Style) contract.Style {
	out := contract.Style{}
	for property, value := range s {
		names := longhands[property]
		if names == nil {
			names = []string{property}
		}
		for _, name := range names {
			if known, _ := css.PropertyNamed(name); css.CanonicalText(name, value, 0) != known.Initial {
				out[name] = value
			}
		}
	}
	return out
}

// Differing gives what another style says otherwise than a base; what it does not say is taken back.
func Differing(base, other contract.Style) contract.Style {
	out := contract.Style{}
	for property, value := range other {
		if base[property] != value {
			out[property] = value
		}
	}
	for property, value := range base {
		if initial := css.InitialText(property); other[property] == "" && value != initial {
			out[property] = initial
		}
	}
	return out
}
