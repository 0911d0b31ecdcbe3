package source

import (
	"encoding/json"
	"fmt"
	"hash/fnv"
	"maps"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/emit/ir"
)

// Fact is one thing that a component's code says, or that a contract says its code should. What is of words for people alone, beside documentation, is none.
type Fact struct {
	About Subject
	Value string
}

// Subject is what a fact is about. It can be compared.
type Subject struct {
	Kind     SubjectKind `json:"kind,omitempty"` // of the component itself when empty
	ID       string      `json:"id,omitempty"`   // of the prop, from outside, or the part
	Property string      `json:"property"`       // a property of CSS, or type, default, element, children …
	When     string      `json:"when,omitempty"` // key of the condition it is said under
}

// SubjectKind tells what has the id of a subject.
type SubjectKind string

const (
	OfProp SubjectKind = "prop"
	OfPart SubjectKind = "part"
)

// String writes it in a line: "part title · color · size=s".
func (s Subject) String() string {
	var words []string
	for _, w := range []string{strings.TrimSpace(string(s.Kind) + " " + s.ID), s.Property, s.When} {
		if w != "" {
			words = append(words, w)
		}
	}
	return strings.Join(words, " · ")
}

func compareSubjects(a, b Subject) int { return strings.Compare(a.String(), b.String()) }

func ofProp(id, property string) Subject { return Subject{Kind: OfProp, ID: id, Property: property} }

func ofPart(id, property string) Subject { return Subject{Kind: OfPart, ID: id, Property: property} }

// ofStyle is a value of a part under a condition.
func ofStyle(part, property string, when contract.When) Subject {
	out := ofPart(part, property)
	if !when.Always() {
		out.When = when.Key()
	}
	return out
}

// Facts lists what a contract says of its code, by key.
func Facts(c *contract.Contract) []Fact {
	f := facts{}
	m := ir.Lower(c)
	drawn := map[string]bool{}
	used := m.Used()
	c.Walk(func(p, _ *contract.Part) {
		if icon, ok := p.Content.(contract.IconOf); ok {
			drawn[icon.Prop] = true
		}
	})
	for i := range m.Props {
		if _, rich := m.Props[i].Type.(contract.Rich); rich && !used[m.Props[i].Key] { // no code says what it begins with
			m.Props[i].Type = contract.Rich{}
		}
		if text, plain := m.Props[i].Type.(contract.Text); plain && !used[m.Props[i].Key] { // its documentation alone says it, on one line
			m.Props[i].Type = contract.Text{Initial: strings.Join(strings.Fields(text.Initial), " ")}
		}
		f.prop(&m.Props[i], m.Props[i].Key, drawn)
		for k := range m.Props[i].Items {
			f.prop(&m.Props[i].Items[k], m.Props[i].Items[k].Key, drawn)
		}
	}
	f[Subject{Property: "purpose"}] = strings.Join(strings.Fields(c.Purpose), " ")
	for _, group := range c.Apart {
		sorted := slices.Sorted(slices.Values(group))
		f[Subject{Property: "apart " + strings.Join(sorted, " ")}] = "true"
	}
	classes := classNames(c)
	c.Walk(func(p, _ *contract.Part) {
		f.part(c, p)
		f[ofPart(p.ID, "class")] = classes[p.ID]
	})
	f.styles(c)
	var out []Fact
	for _, about := range slices.SortedFunc(maps.Keys(f), compareSubjects) {
		if f[about] != "" {
			out = append(out, Fact{about, f[about]})
		}
	}
	return out
}

type facts map[Subject]string

// prop says what a prop is, in the words of code: kinds that one type stands for are one.
func (f facts) prop(p *ir.Prop, key string, drawn map[string]bool) {
	at := func(property string) Subject { return ofProp(key, property) }
	typed := p.Type.TypeScript()
	switch t := p.Type.(type) {
	case contract.Choice:
		typed = "one of"
		f.options(at, t.Options)
	case contract.Icon:
		typed = "one of"
		f.options(at, t.Names())
		for _, o := range t.Options {
			if !drawn[key] { // no code draws it
				break
			}
			f[at("drawing "+o.Name)] = drawingText(&o.Vector)
		}
	case contract.List:
		typed = "list"
	case contract.Event:
		typed = "function"
		if t.On != contract.Told && p.Part != "" {
			f[at("heard")] = t.On + " of " + p.Part
		}
	}
	f[at("type")], f[at("name")] = typed, p.Name
	if p.Required {
		f[at("required")] = "true"
	}
	f[at("purpose")] = strings.Join(strings.Fields(p.Purpose), " ")
	f[at("deprecated")] = strings.Join(strings.Fields(p.Deprecated), " ")
	switch v := p.Default().(type) {
	case nil, contract.ListValue:
	case contract.RichValue:
		if key == p.ID {
			f[at("default")] = richText(v)
		}
	case contract.FlagValue:
		if v {
			f[at("default")] = "true"
		}
	case contract.NumberValue:
		f[at("default")] = v.String()
	default:
		if v.String() != "" {
			f[at("default")] = strconv.Quote(v.String())
		}
	}
}

func (f facts) options(at func(string) Subject, options []string) {
	for _, o := range options {
		f[at("option "+o)] = "true"
	}
}

// richText writes rich text so that one that is rendered the same is the same.
func richText(v contract.RichValue) string {
	var blocks []contract.Block
	for _, b := range v {
		var runs []contract.Run
		for _, r := range b.Runs {
			if last := len(runs) - 1; last >= 0 {
				before, now := runs[last], r
				before.Text, now.Text = "", ""
				if before == now {
					runs[last].Text += r.Text
					continue
				}
			}
			runs = append(runs, r)
		}
		b.Runs = runs
		blocks = append(blocks, b)
	}
	text, err := json.Marshal(blocks)
	if err != nil {
		panic(err) // plain data
	}
	return string(text)
}

func (f facts) part(c *contract.Contract, p *contract.Part) {
	at := func(property string) Subject { return ofPart(p.ID, property) }
	if p.Use() == nil {
		f[at("element")] = p.Element
	}
	f[at("level")] = p.Level
	f[at("as")] = strings.Join(slices.Sorted(slices.Values(p.As)), " ")
	shown, _ := plainly(p.ShownWhen)
	if icon, ok := p.Content.(contract.IconOf); ok { // without one nothing is drawn anyway
		shown = shown.Without(contract.PropSet{Prop: icon.Prop, Set: true})
	}
	f[at("shown")] = shown.String()
	f[at("repeat")] = p.Repeat
	var children []string
	for _, child := range p.Children {
		children = append(children, child.ID)
	}
	f[at("children")] = strings.Join(children, " ")
	for name, a := range p.Attributes {
		switch {
		case a.Prop != "":
			f[at("attribute "+name)] = "{" + a.Prop + "}"
		case a.Part != "":
			f[at("attribute "+name)] = "the place of " + a.Part
		default:
			f[at("attribute "+name)] = strconv.Quote(a.Text)
		}
	}
	switch content := p.Content.(type) {
	case contract.TextOf:
		f[at("content")] = "{" + content.Prop + "}"
	case contract.SlotOf:
		f[at("content")] = "{" + content.Prop + "}"
	case contract.IconOf:
		f[at("content")] = "{" + content.Prop + "}"
	case contract.ImageOf:
		f[at("content")] = "{" + content.Prop + "}"
	case contract.FixedText:
		if content.Text != "" {
			f[at("content")] = strconv.Quote(content.Text)
		}
	case contract.Picture:
		f[at("content")] = pictureText(content)
	case *contract.Vector:
		f[at("content")] = drawingText(content)
	case *contract.Use:
		f.use(at, content)
	}
}

func (f facts) use(at func(string) Subject, u *contract.Use) {
	f[at("use")] = u.Component
	for id, g := range u.Given {
		name := id
		var q *contract.Prop
		if u.Of() != nil {
			if q = u.Of().Prop(id); q != nil {
				name = q.Name
			}
		}
		key := at("given " + name)
		switch {
		case g.Parts != nil:
			f[key] = strings.Join(g.Parts, " ")
		case g.Prop != "":
			f[key] = "{" + g.Prop + "}"
		case len(g.Cases) > 0 && q != nil && contract.Equal(u.Decoded(id, g.Value), q.Default()): // as it is without
		case len(g.Value) > 0:
			f[key] = givenText(u, id, g.Value)
		}
		for _, k := range g.Cases {
			when, _ := plainly(k.When)
			cased := key
			cased.When = when.Key()
			f[cased] = givenText(u, id, k.Value)
		}
	}
}

// givenText writes a value that a use gives.
func givenText(u *contract.Use, id string, value json.RawMessage) string {
	switch v := u.Decoded(id, value).(type) {
	case nil:
		return string(value)
	case contract.RichValue:
		return richText(v)
	case contract.ImageValue, contract.ListValue:
		return string(encoded(v))
	default:
		return v.String()
	}
}

// drawingText tells a drawing from others.
func drawingText(v *contract.Vector) string {
	hash := fnv.New64a()
	for _, p := range v.Paths {
		if p.Stroke.Width == 0 {
			p.Stroke = contract.PathStroke{}
		}
		fmt.Fprintf(hash, "%q %q %q %v\n", p.D, p.Fill, p.Rule, p.Stroke)
	}
	text := fmt.Sprintf("a drawing of %s by %s, %016x", css.FormatNumber(v.ViewBox[2]), css.FormatNumber(v.ViewBox[3]), hash.Sum64())
	if v.Label != "" {
		text += " " + strconv.Quote(v.Label)
	}
	return text
}

// pictureText tells a picture from others.
func pictureText(p contract.Picture) string {
	source := p.Source
	if text, is := strings.CutPrefix(source, "data:image/svg+xml,"); is {
		if drawn, err := url.PathUnescape(text); err == nil {
			source = strings.TrimSuffix(drawn, "\n")
		}
	}
	if source == "" {
		return "a picture that nobody gave " + strconv.Quote(p.Alt)
	}
	hash := fnv.New64a()
	hash.Write([]byte(source))
	return fmt.Sprintf("a picture of %s by %s, %016x %q", css.FormatNumber(p.Width), css.FormatNumber(p.Height), hash.Sum64(), p.Alt)
}

// styles says the values of every part, under every condition, a property as a contract has it in the end.
func (f facts) styles(c *contract.Contract) {
	fits := func(property, value string) bool { return contract.CheckValue(property, value, nil) == nil }
	bases := map[string]map[string]string{}
	say := func(p *contract.Part, when contract.When, values map[string]string, before func(string) string) {
		resets := ir.Resets(p)
		for property, value := range recombined(values, before) {
			if when.Always() && isReset(resets, property, value) {
				continue
			}
			if v, err := css.Parse(property, value); err == nil {
				value = v.String()
			}
			f[ofStyle(p.ID, property, when)] = value
		}
	}
	apart := func(style contract.Style) map[string]string {
		out := map[string]string{}
		for _, property := range style.Properties() {
			longs, ok := expanded(property, style[property], fits)
			if !ok {
				longs = []said{{property, style[property]}}
			}
			for _, s := range longs {
				out[s.property] = s.value
			}
		}
		return out
	}
	c.Walk(func(p, _ *contract.Part) {
		bases[p.ID] = apart(p.Style)
		say(p, contract.When{}, bases[p.ID], func(string) string { return "" })
	})
	joined := map[string]map[string]string{}
	whens := map[string]contract.Rule{}
	for _, r := range c.Rules {
		r.When, _ = plainly(r.When)
		key := r.Part + "\x00" + r.When.Key()
		if joined[key] == nil {
			joined[key] = map[string]string{}
			whens[key] = r
		}
		maps.Copy(joined[key], apart(r.Set))
	}
	for key, values := range joined {
		if p := c.Part(whens[key].Part); p != nil {
			say(p, whens[key].When, values, func(side string) string { return bases[p.ID][side] })
		}
	}
}
