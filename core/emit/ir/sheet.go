package ir

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"cobrik/core/behaviour"
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
	field := append(append(none("margin", "border", "padding"), Declaration{"background", "none"}), inherit("font", "color")...)
	out["input"], out["textarea"] = field, append(field[:len(field):len(field)], Declaration{"resize", "none"})
	// The attributes that keep an image's room are hints for its size, too (HTML, 15.4.3).
	out["img"] = []Declaration{{"display", "block"}, {"width", "auto"}, {"height", "auto"}}
	out["hr"] = none("margin", "border")
	out["summary"] = []Declaration{{"display", "block"}}
	for _, tag := range []string{"p", "figure", "dl", "dd", "blockquote"} {
		out[tag] = none("margin")
	}
	for n := 1; n <= 6; n++ {
		out[fmt.Sprintf("h%d", n)] = heading
	}
	return out
}()

// resetOf takes back what browsers give any of a few elements.
func resetOf(elements []string) (out []Declaration) {
	for _, element := range elements {
		for _, d := range resets[element] {
			if !slices.ContainsFunc(out, func(o Declaration) bool { return o.Property == d.Property }) {
				out = append(out, d)
			}
		}
	}
	return out
}

// rules writes the style sheet: the parts' own styles, then the contract's rules in
// their order.
func (l *lowering) rules() []Rule {
	var out []Rule
	if around := l.classes.container; around != "" {
		// A box cannot ask for its own width (CSS Containment 3, 3): one around the root is asked, and
		// the root fills it.
		out = append(out, Rule{Selector: "." + around, Reset: Around()})
	}
	l.c.Walk(func(p, _ *contract.Part) {
		reset := slices.DeleteFunc(resetOf(append([]string{p.Element}, p.As...)), func(d Declaration) bool { return p.Style[d.Property] != "" })
		own, placed := l.layered(p, p.Style)
		if l.layer(p) {
			reset = append(slices.DeleteFunc(slices.Clone(layerResets), func(d Declaration) bool { return p.Element == "dialog" && d.Property == "margin" }), reset...)
		} else if p.Element == "dialog" {
			reset = append(slices.Clone(layerResets), append(reset, Declaration{"position", "static"}, Declaration{"max-width", "none"}, Declaration{"max-height", "none"})...)
		}
		reset = slices.DeleteFunc(append(reset, placed...), func(d Declaration) bool { return own[d.Property] != "" })
		for _, beside := range l.besides() {
			if beside == p.ID && !l.forced {
				reset = append(reset, Declaration{"anchor-name", l.anchor(p.ID)})
				break
			}
		}
		if p == l.c.Root && len(l.besides()) > 0 && !l.forced { // instances have nothing to do with each other
			reset = append(reset, Declaration{"anchor-scope", "all"})
		}
		dragged := l.dragged(p)
		if dragged {
			reset = append(reset, Declaration{"touch-action", "none"}) // or a finger would scroll the page (Pointer Events 3, 10)
			if p.Style["position"] == "" {
				reset = append(reset, Declaration{"position", "relative"})
			}
		}
		own, unfolds := l.unfolding(p, own)
		if unfolds != nil {
			reset = append(reset, Declaration{"interpolate-size", "allow-keywords"})
			if own["overflow"] == "" {
				reset = append(reset, Declaration{"overflow", "clip"})
			}
		}
		if len(own) > 0 || len(reset) > 0 {
			out = append(out, Rule{Selector: l.own(p.ID), Root: p == l.c.Root, Reset: reset, Declarations: own})
		}
		if p.Element == "dialog" && l.layer(p) { // the page behind it stays where it is
			out = append(out, Rule{Selector: ":root:has(" + l.own(p.ID) + ":modal)", Root: p == l.c.Root, Reset: []Declaration{{"overflow", "hidden"}}})
		}
		if dragged { // however small it is drawn (WCAG 2.2, 2.5.8)
			out = append(out, Rule{Selector: l.own(p.ID) + "::after", Root: p == l.c.Root, Reset: []Declaration{{"content", `""`}, {"position", "absolute"}, {"inset", "50% auto auto 50%"}, {"width", "max(100%, 24px)"}, {"height", "max(100%, 24px)"}, {"transform", "translate(-50%, -50%)"}}})
		}
		out = append(out, unfolds...)
		if unfolds == nil && l.hides(p) { // a display of its own would show it (HTML, 15.3.1)
			out = append(out, Rule{Selector: l.own(p.ID) + "[hidden]", Root: p == l.c.Root, Reset: []Declaration{{"display", "none"}}})
		}
	})
	flat := l.outOfOrder()
	for _, r := range l.c.Rules {
		set := r.Set
		if p := l.c.Part(r.Part); p != nil && l.layer(p) && p.Style["position-area"] != "" {
			set = maps.Clone(set)
			for _, property := range drawnPlace {
				delete(set, property)
			}
			if len(set) == 0 {
				continue
			}
		}
		out = append(out, Rule{At: l.atRules(r.When), Selector: l.selector(r, flat[r.Part]), Root: r.Part == l.c.Root.ID, Declarations: set})
	}
	out = l.animated(out)
	if l.forced { // what is measured is what is said, whatever the one who looks at it has asked of the system
		return out
	}
	return append(out, stilled(out)...)
}

// animated lets animations go on and come back, and says what they do; where it is measured they stand still at their beginning.
func (l *lowering) animated(rules []Rule) []Rule {
	any := false
	for i, r := range rules {
		if moves := r.Declarations["animation"]; moves != "" && moves != "none" {
			any = true
			rules[i].Declarations = maps.Clone(r.Declarations)
			if moves += " infinite alternate"; l.forced {
				moves += " paused"
			}
			rules[i].Declarations["animation"] = moves
		}
	}
	if any {
		rules = append(rules, Rule{At: []string{"@keyframes breathe"}, Selector: "to", Reset: []Declaration{{"opacity", "0.06"}}})
	}
	return rules
}

// stilled takes the transitions and animations of rules back where people ask for less motion (Media Queries 5, 11.1; WCAG 2.2, 2.3.3).
func stilled(rules []Rule) (out []Rule) {
	for _, r := range rules {
		for _, property := range []string{"transition", "animation"} {
			if moves := r.Declarations[property]; moves != "" && moves != "none" {
				at := append(r.At[:len(r.At):len(r.At)], "@media (prefers-reduced-motion: reduce)")
				out = append(out, Rule{At: at, Selector: r.Selector, Root: r.Root, Reset: []Declaration{{property, "none"}}})
			}
		}
	}
	return out
}

// dragged tells whether a part is a handle.
func (l *lowering) dragged(p *contract.Part) bool {
	return l.does != nil && p.Use() == nil && p.Element != "input" && behaviour.Of(l.c).Drags(p.ID)
}

// hides tells whether a part that the behaviour hides has a display of its own.
func (l *lowering) hides(p *contract.Part) bool {
	if l.does == nil || p.Use() != nil || !slices.Contains(l.does.SaysOf(p.ID), "hidden") {
		return false
	}
	return p.Style["display"] != "" || slices.ContainsFunc(l.c.Rules, func(r contract.Rule) bool { return r.Part == p.ID && r.Set["display"] != "" })
}

// own is the selector of a part itself. The class of a use is repeated where its component's root
// says the same properties, so that the use's wins whatever the order of the style sheets.
func (l *lowering) own(part string) string {
	class := "." + l.classes.parts[part]
	p := l.c.Part(part)
	if p == nil || p.Use() == nil || p.Use().Of() == nil {
		return class
	}
	said := maps.Clone(p.Style)
	if said == nil {
		said = contract.Style{}
	}
	for _, r := range l.c.Rules {
		if r.Part == part {
			maps.Copy(said, r.Set)
		}
	}
	most := 0
	for _, r := range l.lowered(p.Use().Of()).Rules {
		if r.Root && shares(said, r.Declarations) {
			most = max(most, weight(r.Selector))
		}
	}
	return strings.Repeat(class, most+1)
}

// atRules writes what a condition asks of widths, and of pointers that can hover, as
// conditional rules (CSS Conditional 3; Media Queries 4, 2.4.3 and 5.1; CSS Containment 3, 5).
func (l *lowering) atRules(w contract.When) (out []string) {
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
		return ":is(" + stateSelectors[name] + ", [" + ForcedStates + "~=" + css.Quote(name) + "])"
	}
	return stateSelectors[name]
}

// selector writes a rule's conditions as classes and states of the root, those of an item as
// classes of the item's part, themes as attributes around: ".strong.toneRipe", ".sizeS .icon" or
// ".link.current .label". When flat, :where() takes the conditions' weight away (Selectors 4,
// 17), so that the later rule wins whatever it names.
func (l *lowering) selector(r contract.Rule, flat bool) string {
	var conditions, around string
	hosts := map[string]string{} // what is asked of items, by the id of the item's part
	l.c.EachProp(func(id string, _ *contract.Prop) {
		for _, t := range r.When.Terms() {
			if contract.PropOf(t) != id {
				continue
			}
			class := "." + l.classes.terms[t]
			if is, ok := t.(contract.PropIs); ok {
				class = "." + l.classes.values[id][is.Value]
			}
			if list, _, item := strings.Cut(id, "."); item {
				hosts[l.host(r.Part, list)] += class
			} else {
				conditions += class
			}
		}
	})
	for _, t := range r.When.Terms() {
		switch t := t.(type) {
		case contract.InState:
			if class := l.classes.terms[t]; class != "" { // of the behaviour; the first of a selector's conditions, as those of props
				conditions = "." + class + conditions
			} else {
				conditions += l.state(t.State)
			}
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
	root, own := "."+l.classes.parts[l.c.Root.ID], l.own(r.Part)
	if r.Part == l.c.Root.ID {
		switch {
		case flat:
			return ifAny(around, ":where("+around+") ") + own + ifAny(conditions, ":where("+conditions+")")
		case strings.HasPrefix(conditions, "."):
			return joined(around, conditions)
		}
		return joined(around, root+conditions)
	}
	if conditions != "" && !strings.HasPrefix(conditions, ".") {
		conditions = root + conditions // a state alone is of the root
	}
	where := joined(around, conditions)
	l.c.Walk(func(p, _ *contract.Part) {
		if asked := hosts[p.ID]; asked != "" && p.ID != r.Part {
			where = joined(where, "."+l.classes.parts[p.ID]+asked)
		}
	})
	if flat {
		return ifAny(where, ":where("+where+") ") + own + ifAny(hosts[r.Part], ":where("+hosts[r.Part]+")")
	}
	return joined(where, own+hosts[r.Part])
}

// host gives the id of the part that is there for each item of a list: the one itself, or one
// around it.
func (l *lowering) host(part, list string) string {
	found := ""
	var walk func(p *contract.Part, around string)
	walk = func(p *contract.Part, around string) {
		if p.Repeat == list {
			around = p.ID
		}
		if p.ID == part {
			found = around
		}
		for _, c := range p.Children {
			walk(c, around)
		}
	}
	walk(l.c.Root, "")
	return found
}

// joined puts two parts of a selector beside each other.
func joined(a, b string) string {
	if a == "" || b == "" {
		return a + b
	}
	return a + " " + b
}

// ifAny gives a text where there is anything it is about.
func ifAny(about, text string) string {
	if about == "" {
		return ""
	}
	return text
}

// weight counts the classes, attributes and pseudo-classes of a selector (Selectors 4, 17):
// :where() weighs nothing, :is() as its heaviest, which here is always one.
func weight(selector string) (n int) {
	for i := 0; i < len(selector); i++ {
		switch selector[i] {
		case '.':
			n++
		case '[', ':':
			if !strings.HasPrefix(selector[i:], ":where(") {
				n++
			}
			i = past(selector, i)
		case '\\':
			i++
		}
	}
	return n
}

// past gives the last byte of what begins with a colon or a bracket, with what stands between its
// brackets.
func past(selector string, from int) int {
	depth := 0
	for i := from; i < len(selector); i++ {
		switch c := selector[i]; {
		case c == '\\':
			i++
		case c == '"':
			for i++; i < len(selector) && selector[i] != '"'; i++ {
				if selector[i] == '\\' {
					i++
				}
			}
		case c == '(' || c == '[':
			depth++
		case c == ')' || c == ']':
			if depth--; depth == 0 {
				return i
			}
		case depth == 0 && i > from && (c == '.' || c == ':' || c == ' '):
			return i - 1
		}
	}
	return len(selector)
}

// outOfOrder names the parts with a rule that must win over an earlier one of
// more weight: there, specificity would decide otherwise than the order.
func (l *lowering) outOfOrder() map[string]bool {
	out := map[string]bool{}
	weights := make([]int, len(l.c.Rules))
	for i, r := range l.c.Rules {
		weights[i] = weight(l.selector(r, false))
	}
	for i, early := range l.c.Rules {
		for k, late := range l.c.Rules[i+1:] {
			if early.Part == late.Part && weights[i] > weights[i+1+k] && !early.When.Excludes(late.When) && shares(early.Set, late.Set) {
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

// Around is what the box around a root says whose width is asked.
func Around() []Declaration {
	return []Declaration{{"display", "grid"}, {"grid-template-columns", "100%"}, {"width", "100%"}, {"container-type", "inline-size"}}
}

// Resets gives what takes a browser's own look of a part's elements back.
func Resets(p *contract.Part) []Declaration { return resetOf(append([]string{p.Element}, p.As...)) }

// StateBy gives the state of the root that a selector asks for: one of those it is written as, or
// a part of them that says as much; empty for none.
func StateBy(selector string) string {
	for state, by := range stateSelectors {
		if selector == by {
			return state
		}
	}
	return otherSelectors[selector]
}

// otherSelectors are what people write for states beside those that are written here.
var otherSelectors = map[string]string{
	":disabled": "disabled", "[disabled]": "disabled", `[aria-disabled="true"]`: "disabled", ":checked": "checked", `[aria-checked="true"]`: "checked",
	`[aria-current]`: "current", `[aria-current="page"]`: "current", `[aria-current="true"]`: "current", ":user-invalid": "invalid", `[aria-invalid="true"]`: "invalid",
	":read-only": "read-only", "[readonly]": "read-only", `[aria-readonly="true"]`: "read-only",
}
