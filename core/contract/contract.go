// Package contract is the agreed definition of a component
// (cobrik.contract/1): props, a tree of parts, and rules that say which part
// has which values when. It knows no design: package draft makes contracts of
// drawings.
package contract

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"cobrik/core/css"
	"cobrik/core/problem"
	"cobrik/core/token"
	"cobrik/docs/formats"
)

// Format is the value of a contract's "format" member.
const Format = "cobrik.contract/1"

// Contract is a component as people agreed on it. Later rules win over earlier
// ones; what a rule does not set stays as it was.
type Contract struct {
	Format  string  `json:"format"`
	Name    string  `json:"name"`
	Purpose string  `json:"purpose,omitempty"`
	Origin  *Origin `json:"origin,omitempty"`
	Props   []Prop  `json:"props"`
	Root    *Part   `json:"root"`
	Rules   []Rule  `json:"rules,omitempty"`
}

// Origin is what a contract was drawn from, a family or a layer of a page, and
// the revision of the design it was last agreed at. Readings are the ways people
// chose to read containers of a layer without flow, by layout's Part.Key.
type Origin struct {
	Document string            `json:"document"`
	Family   string            `json:"family,omitempty"`
	Layer    string            `json:"layer,omitempty"`
	Readings map[string]string `json:"readings,omitempty"`
	Revision int               `json:"revision"`
}

// PropKind says what a prop holds.
type PropKind string

const (
	Choice PropKind = "choice"
	Flag   PropKind = "flag"
	Text   PropKind = "text"
)

// Prop is one input of the component. Axis, On and Off tie it to a family's
// axis, Layer to the part a flag shows or a text fills.
type Prop struct {
	Name    string   `json:"name"`
	Kind    PropKind `json:"kind"`
	Purpose string   `json:"purpose,omitempty"`
	Options []string `json:"options,omitempty"`
	Default Value    `json:"default"`
	Axis    string   `json:"axis,omitempty"`
	On      string   `json:"on,omitempty"`
	Off     string   `json:"off,omitempty"`
	Layer   string   `json:"layer,omitempty"`
}

// Part is one element of the component.
type Part struct {
	Name     string  `json:"name"`
	Element  string  `json:"element"`
	Layer    string  `json:"layer,omitempty"` // names from the variant's root down
	Style    Style   `json:"style,omitempty"`
	Text     string  `json:"text,omitempty"`    // text prop it shows
	Content  string  `json:"content,omitempty"` // text that never changes
	Show     string  `json:"show,omitempty"`    // flag that shows it
	Label    string  `json:"label,omitempty"`   // what a picture shows
	Vector   *Vector `json:"vector,omitempty"`
	Children []*Part `json:"children,omitempty"`
}

// Vector is a small drawing of SVG paths.
type Vector struct {
	ViewBox [4]float64 `json:"viewBox"`
	Paths   []Path     `json:"paths"`
}

// Path is SVG path data; without a fill of its own it takes the part's. A fill of
// none leaves it open.
type Path struct {
	D      string     `json:"d"`
	Fill   string     `json:"fill,omitempty"`
	Stroke PathStroke `json:"stroke,omitzero"`
}

// PathStroke is a line along a path, half on either side; in units of the view
// box. The zero value is none.
type PathStroke struct {
	Color string  `json:"color"`
	Width float64 `json:"width"`
	Cap   string  `json:"cap,omitempty"`  // butt, round or square
	Join  string  `json:"join,omitempty"` // miter, round or bevel
}

// Rule gives a part values when its conditions hold.
type Rule struct {
	Part string    `json:"part"`
	When Condition `json:"when"`
	Set  Style     `json:"set"`
}

// Condition holds when every prop named in it has the value given and, with
// Below, the component's container is narrower than so many px: a switch point.
// The zero value always holds.
type Condition struct {
	Props map[string]Value `json:"props,omitempty"`
	Below float64          `json:"below,omitempty"`
}

// Value is a prop's value: an option, a text, or "true" and "false" of a flag.
// In JSON a flag's value is a boolean.
type Value string

// FlagValue gives a flag's value.
func FlagValue(on bool) Value {
	if on {
		return "true"
	}
	return "false"
}

// MarshalJSON writes a flag's value as a boolean and all else as a string.
func (v Value) MarshalJSON() ([]byte, error) {
	if v == "true" || v == "false" {
		return []byte(v), nil
	}
	return json.Marshal(string(v))
}

// UnmarshalJSON reads a string or a boolean.
func (v *Value) UnmarshalJSON(text []byte) error {
	if s := string(text); s == "true" || s == "false" {
		*v = Value(s)
		return nil
	}
	return json.Unmarshal(text, (*string)(v))
}

// Holds tells whether the condition holds for prop values in a container of a
// width, px.
func (c Condition) Holds(values map[string]Value, width float64) bool {
	if c.Below > 0 && width >= c.Below {
		return false
	}
	for prop, want := range c.Props {
		if values[prop] != want {
			return false
		}
	}
	return true
}

// Always tells whether there is nothing the condition depends on.
func (c Condition) Always() bool { return len(c.Props) == 0 && c.Below == 0 }

// Equal tells whether two conditions hold for the same props and widths.
func (c Condition) Equal(other Condition) bool {
	return c.Below == other.Below && maps.Equal(c.Props, other.Props)
}

// String gives the condition as a person reads it: "size=s · strong · below 480
// px". Without conditions it is empty.
func (c Condition) String() string {
	var words []string
	for _, prop := range slices.Sorted(maps.Keys(c.Props)) {
		switch v := c.Props[prop]; v {
		case "true":
			words = append(words, prop)
		case "false":
			words = append(words, "not "+prop)
		default:
			words = append(words, prop+"="+string(v))
		}
	}
	if c.Below > 0 {
		words = append(words, "below "+css.FormatNumber(c.Below)+" px")
	}
	return strings.Join(words, " · ")
}

// SwitchPoints lists the widths of its container, px, at which the component
// changes its arrangement, narrowest first.
func (c *Contract) SwitchPoints() []float64 {
	var out []float64
	for _, r := range c.Rules {
		if r.When.Below > 0 && !slices.Contains(out, r.When.Below) {
			out = append(out, r.When.Below)
		}
	}
	slices.Sort(out)
	return out
}

// Prop finds a prop by name; nil when there is none.
func (c *Contract) Prop(name string) *Prop {
	for i := range c.Props {
		if c.Props[i].Name == name {
			return &c.Props[i]
		}
	}
	return nil
}

// Part finds a part by name; nil when there is none.
func (c *Contract) Part(name string) *Part {
	var found *Part
	c.Walk(func(p, _ *Part) {
		if p.Name == name {
			found = p
		}
	})
	return found
}

// Walk visits every part with its parent, parents first; the root's is nil.
func (c *Contract) Walk(visit func(p, parent *Part)) {
	var walk func(p, parent *Part)
	walk = func(p, parent *Part) {
		visit(p, parent)
		for _, child := range p.Children {
			walk(child, p)
		}
	}
	walk(c.Root, nil)
}

// Clone gives a copy that shares nothing with the contract but vectors.
func (c *Contract) Clone() *Contract {
	out := *c
	if c.Origin != nil {
		origin := *c.Origin
		origin.Readings = maps.Clone(origin.Readings)
		out.Origin = &origin
	}
	out.Props = slices.Clone(c.Props)
	for i := range out.Props {
		out.Props[i].Options = slices.Clone(out.Props[i].Options)
	}
	out.Root = clonePart(c.Root)
	out.Rules = slices.Clone(c.Rules)
	for i := range out.Rules {
		out.Rules[i].Set = maps.Clone(out.Rules[i].Set)
		out.Rules[i].When.Props = maps.Clone(out.Rules[i].When.Props)
	}
	return &out
}

func clonePart(p *Part) *Part {
	out := *p
	out.Style = maps.Clone(p.Style)
	out.Children = make([]*Part, len(p.Children))
	for i, child := range p.Children {
		out.Children[i] = clonePart(child)
	}
	if len(out.Children) == 0 {
		out.Children = nil
	}
	return &out
}

// Defaults gives every prop's default.
func (c *Contract) Defaults() map[string]Value {
	values := make(map[string]Value, len(c.Props))
	for _, p := range c.Props {
		values[p.Name] = p.Default
	}
	return values
}

// Tokens lists the paths of the tokens the contract refers to, each once, in
// the order of the tree and then of the rules.
func (c *Contract) Tokens() []string {
	var paths []string
	seen := map[string]bool{}
	add := func(s Style) {
		for _, property := range s.Properties() {
			for _, path := range css.RefsIn(s[property]) {
				if !seen[path] {
					seen[path] = true
					paths = append(paths, path)
				}
			}
		}
	}
	c.Walk(func(p, _ *Part) { add(p.Style) })
	for _, r := range c.Rules {
		add(r.Set)
	}
	return paths
}

// JSON writes the contract, indented, the same bytes for the same contract.
func (c *Contract) JSON() []byte {
	text, err := json.MarshalIndent(c, "", "  ")
	if err != nil {
		panic(fmt.Errorf("contract %s: %w", c.Name, err)) // only unmarshalable types fail
	}
	return append(text, '\n')
}

var (
	limits = problem.Limits{Bytes: 8 << 20, Depth: 200}
	schema = problem.MustCompile("cobrik.contract-1.json", formats.Contract)
)

// Read reads a contract and lists everything wrong with it. With tokens, every
// value is checked too; nil leaves that out. The contract is nil on an error.
func Read(file string, text []byte, tokens *token.Set) (*Contract, problem.List) {
	if found := problem.CheckJSON(file, text, limits); found != nil {
		return nil, found
	}
	if found := schema.Validate(file, text); found != nil {
		return nil, found
	}
	c := new(Contract)
	if err := json.Unmarshal(text, c); err != nil {
		return nil, problem.List{{File: file, Rule: "contract-read", Severity: problem.Error, Message: err.Error()}}
	}
	found := c.Check(tokens).Locate(file, text)
	if found.Failed() {
		return nil, found
	}
	return c, found
}

// Check lists what is wrong with a contract beyond its schema: names given
// twice, rules about parts, props or options that are not there, and, when
// tokens are given, values that cannot stand.
func (c *Contract) Check(tokens *token.Set) problem.List {
	var found problem.List
	props := map[string]bool{}
	for i, p := range c.Props {
		at := fmt.Sprintf("/props/%d", i)
		if props[p.Name] {
			found.Errorf("prop-name", at+"/name", "give each prop its own name", "two props are named %q", p.Name)
		}
		props[p.Name] = true
		if p.Kind == Choice {
			if !slices.Contains(p.Options, string(p.Default)) {
				found.Errorf("prop-default", at+"/default", "name one of "+strings.Join(p.Options, ", "), "the default %q is not an option of %s", p.Default, p.Name)
			}
			if slices.Contains(p.Options, "true") || slices.Contains(p.Options, "false") {
				found.Errorf("prop-options", at+"/options", "make it a flag, or use other words", "an option of %s is named true or false", p.Name)
			}
		}
	}
	names := map[string]bool{}
	var parts func(p *Part, at string)
	parts = func(p *Part, at string) {
		if names[p.Name] {
			found.Errorf("part-name", at+"/name", "give each part its own name", "two parts are named %q", p.Name)
		}
		names[p.Name] = true
		c.checkUse(&found, p.Text, Text, at+"/text")
		c.checkUse(&found, p.Show, Flag, at+"/show")
		checkStyle(&found, p.Style, tokens, at+"/style")
		for i, child := range p.Children {
			parts(child, fmt.Sprintf("%s/children/%d", at, i))
		}
	}
	parts(c.Root, "/root")
	if fills := c.Root.Style["width"] == "100%"; !fills && len(c.SwitchPoints()) > 0 {
		// CSS Containment 3, 3.1: a size container is not as wide as its content.
		found.Errorf("switch-container", "/root/style/width", "give the root a width of 100%, or remove the rules below a width", "a component as wide as its content cannot follow its container's width")
	}
	for i, r := range c.Rules {
		at := fmt.Sprintf("/rules/%d", i)
		if !names[r.Part] {
			found.Errorf("rule-part", at+"/part", "name a part of the tree", "there is no part %q", r.Part)
		}
		if b := r.When.Below; b != 0 && !(b > 0 && b <= widestSwitch) {
			found.Errorf("rule-below", at+"/when/below", "give px, up to 20000", "%g px is no width of a container", b)
		}
		c.checkCondition(&found, r.When, at+"/when/props")
		checkStyle(&found, r.Set, tokens, at+"/set")
	}
	return found
}

// widestSwitch is the greatest px of a container a rule can ask for.
const widestSwitch = 20_000

func (c *Contract) checkUse(found *problem.List, name string, kind PropKind, at string) {
	if name == "" {
		return
	}
	if p := c.Prop(name); p == nil || p.Kind != kind {
		found.Errorf("part-prop", at, fmt.Sprintf("name a prop of kind %s", kind), "there is no %s prop %q", kind, name)
	}
}

func (c *Contract) checkCondition(found *problem.List, when Condition, at string) {
	for _, name := range slices.Sorted(maps.Keys(when.Props)) {
		value := when.Props[name]
		p := c.Prop(name)
		switch {
		case p == nil || p.Kind == Text:
			found.Errorf("rule-prop", at+"/"+name, "name a choice or a flag", "there is no choice or flag %q", name)
		case p.Kind == Choice && !slices.Contains(p.Options, string(value)):
			found.Errorf("rule-option", at+"/"+name, "use one of "+strings.Join(p.Options, ", "), "%q is not an option of %s", value, name)
		case p.Kind == Flag && value != "true" && value != "false":
			found.Errorf("rule-option", at+"/"+name, "use true or false", "%q is not a value of the flag %s", value, name)
		}
	}
}

func checkStyle(found *problem.List, s Style, tokens *token.Set, at string) {
	for _, property := range s.Properties() {
		if err := CheckValue(property, s[property], tokens); err != nil {
			found.Errorf("style-value", at+"/"+property, "", "%s", err)
		}
	}
}
