// Package css writes a contract's style sheet: a class a part, a class an
// option, rules in the contract's order, tokens as custom properties.
package css

import (
	"fmt"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/emit"
	"cobrik/core/token"
)

// Module writes the CSS module of a component.
func Module(c *contract.Contract) string {
	names := emit.Classes(c)
	var blocks []string
	if around := names.Container(); around != "" {
		// A box cannot ask for its own width (CSS Containment 3, 3): one around the root is asked.
		blocks = append(blocks, "."+around+" {\n  width: 100%;\n  container-type: inline-size;\n}\n")
	}
	c.Walk(func(p, _ *contract.Part) {
		if len(p.Style) > 0 {
			blocks = append(blocks, block("."+names.Part(p.Name), p.Style))
		}
	})
	flat := outOfOrder(c)
	for _, r := range c.Rules {
		b := block(selector(c, names, r, flat[r.Part]), r.Set)
		if r.When.Below > 0 {
			b = fmt.Sprintf("@container (width < %spx) {\n%s}\n", css.FormatNumber(r.When.Below), indented(b))
		}
		blocks = append(blocks, b)
	}
	return strings.Join(blocks, "\n")
}

func indented(b string) string {
	var out strings.Builder
	for line := range strings.Lines(b) {
		out.WriteString("  " + line)
	}
	return out.String()
}

// selector writes a rule's conditions as classes of the root: ".strong.toneRipe"
// or ".sizeS .icon". When flat, :where() takes the conditions' weight away
// (Selectors 4, 17), so that the later rule wins whatever it names.
func selector(c *contract.Contract, names *emit.ClassNames, r contract.Rule, flat bool) string {
	var when strings.Builder
	for _, p := range c.Props {
		if v, ok := r.When.Props[p.Name]; ok {
			when.WriteString("." + names.Value(p.Name, v))
		}
	}
	conditions := when.String()
	switch own := "." + names.Part(r.Part); {
	case conditions == "":
		return own
	case r.Part == c.Root.Name && flat:
		return own + ":where(" + conditions + ")"
	case r.Part == c.Root.Name:
		return conditions
	case flat:
		return ":where(" + conditions + ") " + own
	default:
		return conditions + " " + own
	}
}

// outOfOrder names the parts with a rule that must win over an earlier one of
// more conditions: there, specificity would decide otherwise than the order.
func outOfOrder(c *contract.Contract) map[string]bool {
	out := map[string]bool{}
	for i, early := range c.Rules {
		for _, late := range c.Rules[i+1:] {
			if early.Part == late.Part && len(early.When.Props) > len(late.When.Props) && together(early.When, late.When) && shares(early.Set, late.Set) {
				out[early.Part] = true
			}
		}
	}
	return out
}

// together tells whether two conditions can hold at once.
func together(a, b contract.Condition) bool {
	for prop, v := range a.Props {
		if w, ok := b.Props[prop]; ok && v != w {
			return false
		}
	}
	return true
}

func shares(a, b contract.Style) bool {
	for property := range a {
		if _, ok := b[property]; ok {
			return true
		}
	}
	return false
}

func block(selector string, s contract.Style) string {
	var b strings.Builder
	b.WriteString(selector + " {\n")
	properties := s.Properties()
	border := s["border-width"] != "" && s["border-style"] != "" && s["border-color"] != "" && !strings.Contains(s["border-width"], " ")
	for _, property := range properties {
		if border && slices.Contains([]string{"border-style", "border-color"}, property) {
			continue
		}
		name, value := property, s[property]
		if border && property == "border-width" {
			name, value = "border", s["border-width"]+" "+s["border-style"]+" "+s["border-color"]
		}
		fmt.Fprintf(&b, "  %s: %s;\n", name, Value(value))
	}
	b.WriteString("}\n")
	return b.String()
}

// Value writes a contract's value with references as custom properties.
func Value(value string) string {
	return css.ReplaceRefs(value, func(path string) string { return "var(" + token.CSSName(path) + ")" })
}

// Declarations writes the types of the module's classes.
func Declarations(c *contract.Contract) string {
	var b strings.Builder
	b.WriteString("declare const styles: {\n")
	for _, name := range emit.Classes(c).All() {
		fmt.Fprintf(&b, "  readonly %s: string;\n", name)
	}
	b.WriteString("};\n\nexport default styles;\n")
	return b.String()
}
