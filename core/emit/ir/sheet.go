package ir

import (
	"fmt"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
)

// resets take back what browsers give elements by themselves (HTML Living Standard, 15),
// so that a part looks as its contract says and no other way.
var resets = func() map[string][]Declaration {
	none := func(properties ...string) (out []Declaration) {
		for _, p := range properties {
			out = append(out, Declaration{p, "0"})
		}
		return out
	}
	inherit := func(properties ...string) (out []Declaration) {
		for _, p := range properties {
			out = append(out, Declaration{p, "inherit"})
		}
		return out
	}
	list := append(none("margin", "padding"), Declaration{"list-style", "none"})
	heading := append(none("margin"), inherit("font-size", "font-weight")...)
	out := map[string][]Declaration{
		"button":   append(append(none("margin", "border", "padding"), Declaration{"background", "none"}), inherit("font", "color", "text-align")...),
		"a":        append(inherit("color"), Declaration{"text-decoration", "none"}),
		"fieldset": append(none("margin", "border", "padding"), Declaration{"min-width", "0"}),
		"legend":   none("padding"),
		"ul":       list, "ol": list,
		"strong": inherit("font-weight"), "small": inherit("font-size"), "code": inherit("font"), "kbd": inherit("font"),
		"em": inherit("font-style"), "cite": inherit("font-style"), "address": inherit("font-style"),
		"mark": append(inherit("color"), Declaration{"background", "none"}), "abbr": {{"text-decoration", "none"}},
	}
	for _, tag := range []string{"p", "figure", "dl", "dd", "blockquote"} {
		out[tag] = none("margin")
	}
	for n := 1; n <= 6; n++ {
		out[fmt.Sprintf("h%d", n)] = heading
	}
	return out
}()

// rules writes the style sheet: the parts' own styles, then the contract's rules in
// their order.
func (l *lowering) rules() []Rule {
	var out []Rule
	if around := l.classes.container; around != "" {
		// A box cannot ask for its own width (CSS Containment 3, 3): one around the root is asked.
		out = append(out, Rule{Selector: "." + around, Reset: []Declaration{{"width", "100%"}, {"container-type", "inline-size"}}})
	}
	l.c.Walk(func(p, _ *contract.Part) {
		if reset := resets[p.Element]; len(p.Style) > 0 || len(reset) > 0 {
			out = append(out, Rule{Selector: "." + l.classes.parts[p.ID], Reset: reset, Declarations: p.Style})
		}
	})
	flat := outOfOrder(l.c)
	for _, r := range l.c.Rules {
		out = append(out, Rule{At: l.conditional(r.When), Selector: l.selector(r, flat[r.Part]), Declarations: r.Set})
	}
	return out
}

// conditional writes what a condition asks of widths, and of pointers that can hover, as
// conditional rules (CSS Conditional 3; Media Queries 4, 2.4.3 and 5.1; CSS Containment 3, 5).
func (l *lowering) conditional(w contract.When) (out []string) {
	for _, t := range w.Terms() {
		switch t := t.(type) {
		case contract.InState:
			if t.State == "hover" && !l.forced { // a finger leaves it hovered after it is gone
				out = append(out, "@media (hover: hover)")
			}
		case contract.Viewport:
			out = append(out, "@media "+widths(t.Range))
		case contract.Container:
			name := ""
			if t.Name != "" {
				name = css.Ident(t.Name) + " "
			}
			out = append(out, "@container "+name+widths(t.Range))
		}
	}
	return out
}

func widths(r contract.Range) string {
	from, below := css.FormatNumber(r.From), css.FormatNumber(r.Below)
	switch {
	case r.Below == 0:
		return "(width >= " + from + "px)"
	case r.From == 0:
		return "(width < " + below + "px)"
	}
	return "(" + from + "px <= width < " + below + "px)"
}

// states as selectors of one class's weight: those the browser knows (Selectors 4, 9 and 12),
// and those that attributes say (WAI-ARIA 1.2, 6.6).
var stateSelectors = map[string]string{
	"hover":         ":hover",
	"active":        ":active",
	"focus-visible": ":focus-visible",
	"disabled":      `:is(:disabled, [aria-disabled="true"])`,
	"checked":       `:is(:checked, [aria-checked="true"], :has(:checked))`,
	"selected":      `[aria-selected="true"]`,
	"expanded":      `[aria-expanded="true"]`,
	"current":       `[aria-current]:where(:not([aria-current="false"]))`,
	"invalid":       `:is(:user-invalid, [aria-invalid="true"])`,
	"read-only":     `:is([readonly], [aria-readonly="true"])`,
	"loading":       `[aria-busy="true"]`,
	"empty":         `[data-empty="true"]`,
}

// state writes a state of the root as a selector.
func (l *lowering) state(name string) string {
	if l.forced {
		return "[" + ForcedStates + "~=" + css.Quote(name) + "]"
	}
	return stateSelectors[name]
}

// selector writes a rule's conditions as classes and states of the root, themes as
// attributes around it: ".strong.toneRipe" or ".sizeS .icon". When flat, :where() takes the
// conditions' weight away (Selectors 4, 17), so that the later rule wins whatever it names.
func (l *lowering) selector(r contract.Rule, flat bool) string {
	var conditions, around string
	for _, p := range l.c.Props {
		if v := r.When.Prop(p.ID); v != nil {
			conditions += "." + l.classes.values[p.ID][v]
		}
	}
	for _, t := range r.When.Terms() {
		switch t := t.(type) {
		case contract.InState:
			conditions += l.state(t.State)
		case contract.Direction:
			conditions += ":dir(" + t.Is + ")"
		case contract.Theme:
			theme := "[data-" + css.Ident(t.Modifier) + "=" + css.Quote(t.Context) + "]"
			if around == "" {
				around = theme
			} else { // on the same element as the first, or on another
				conditions += ":is(" + theme + " *)"
			}
		}
	}
	root, own := "."+l.classes.parts[l.c.Root.ID], "."+l.classes.parts[r.Part]
	isRoot := r.Part == l.c.Root.ID
	if isRoot && flat {
		return ifAny(around, ":where("+around+") ") + own + ifAny(conditions, ":where("+conditions+")")
	}
	if conditions != "" && !strings.HasPrefix(conditions, ".") {
		conditions = root + conditions // a state alone is of the root
	}
	where := around + ifAny(around, ifAny(conditions, " ")) + conditions
	switch {
	case where == "":
		return own
	case isRoot && conditions == "":
		return where + " " + own
	case isRoot:
		return where
	case flat:
		return ":where(" + where + ") " + own
	}
	return where + " " + own
}

// ifAny gives a text where there is anything it is about.
func ifAny(about, text string) string {
	if about == "" {
		return ""
	}
	return text
}

// weight counts what weighs in a rule's selector (Selectors 4, 17): the conditions, and the
// root's class where selector has to name it.
func weight(r contract.Rule, isRoot bool) int {
	props, states, themes := 0, 0, 0
	for _, t := range r.When.Terms() {
		switch t.(type) {
		case contract.PropIs:
			props++
		case contract.InState, contract.Direction:
			states++
		case contract.Theme:
			themes++
		}
	}
	n := props + states + themes
	if props == 0 && (states > 0 || themes > 1 || isRoot) {
		n++
	}
	return n
}

// outOfOrder names the parts with a rule that must win over an earlier one of
// more weight: there, specificity would decide otherwise than the order.
func outOfOrder(c *contract.Contract) map[string]bool {
	out := map[string]bool{}
	for i, early := range c.Rules {
		for _, late := range c.Rules[i+1:] {
			isRoot := early.Part == c.Root.ID
			if early.Part == late.Part && weight(early, isRoot) > weight(late, isRoot) && !early.When.Excludes(late.When) && shares(early.Set, late.Set) {
				out[early.Part] = true
			}
		}
	}
	return out
}

func shares(a, b contract.Style) bool {
	for property := range a {
		if _, ok := b[property]; ok {
			return true
		}
	}
	return false
}
