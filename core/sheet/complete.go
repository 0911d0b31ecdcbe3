package sheet

import (
	"maps"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
)

// Ask is what is being typed, up to the cursor.
type Ask struct {
	Do   string `json:"do" enum:"set,add"`
	On   string `json:"on" maxLength:"300"`
	Cell string `json:"cell,omitempty" maxLength:"40"`
	Text string `json:"text" maxLength:"20000"`
}

// Completion is one way to go on.
type Completion struct {
	Text  string `json:"text" doc:"What stands before the cursor when it is taken"`
	Label string `json:"label" doc:"What is added, as it is read"`
	Kind  string `json:"kind" enum:"word,prop,part,component,token,property,icon"`
	Value string `json:"value,omitempty" doc:"Of a token, what it is"`

	Drawing *contract.Vector `json:"drawing,omitempty" doc:"Of an icon"`
}

// mostOptions bounds how many ways are offered.
const mostOptions = 40

// Complete lists how what is typed could go on, the likeliest first: what the contract already
// uses for the same, then the rest.
func Complete(c *contract.Contract, a Ask, w World, names []string) []Completion {
	k := completer{c: c, w: w, components: names}
	kind, rest, _ := strings.Cut(a.On, "/")
	switch {
	case kind == "cases":
		k.saved(a)
	case kind == "apart":
		before, typed := lastOf(a.Text)
		var names []string
		for _, p := range k.c.Props {
			names = append(names, p.Name)
		}
		k.all(before, typed, "prop", names)
	case kind == "states":
		k.state(a.Text)
	case kind == "props" && a.Do == "add":
		if name, typed, named := strings.Cut(a.Text, " "); named {
			if drawn, isIcon := strings.CutPrefix(typed, "icon "); isIcon {
				before, last := lastWord(drawn)
				k.icons(name+" icon "+before, last, split(before))
				break
			}
			k.phrases(name+" ", typed, kindForms)
		}
	case kind == "props":
		k.prop(rest, a)
	case kind == "parts":
		id, property, said := strings.Cut(rest, "/")
		switch p := c.Part(id); {
		case p == nil:
		case said:
			k.declaration(a, property)
		case a.Do == "add" && a.Cell == "value":
			k.saying(a.Text)
		case a.Do == "add":
			if name, typed, named := strings.Cut(a.Text, " "); named {
				k.element(p, name+" ", typed)
			}
		default:
			k.part(p, a)
		}
	case kind == "rules":
		_, property, said := strings.Cut(rest, "/")
		switch {
		case said:
			k.declaration(a, property)
		case a.Do == "add":
			k.saying(a.Text)
		case a.Cell == "when":
			k.condition("", a.Text)
		case a.Cell == "part":
			k.all("", a.Text, "part", partNames(c))
		}
	}
	return k.out[:min(len(k.out), mostOptions):min(len(k.out), mostOptions)]
}

type completer struct {
	c          *contract.Contract
	w          World
	components []string
	out        []Completion
}

// all offers each label that holds what is typed; those that begin with it come first.
func (k *completer) all(before, typed, kind string, labels []string) {
	begins, holds := []Completion{}, []Completion{}
	for _, label := range labels {
		o := Completion{Text: before + label, Label: label, Kind: kind}
		switch low, part := strings.ToLower(label), strings.ToLower(typed); {
		case low == part:
		case strings.HasPrefix(low, part):
			begins = append(begins, o)
		case strings.Contains(low, part):
			holds = append(holds, o)
		}
	}
	for _, o := range append(begins, holds...) {
		if !slices.ContainsFunc(k.out, func(other Completion) bool { return other.Text == o.Text }) {
			k.out = append(k.out, o)
		}
	}
}

// phrases offers what begins with what is typed.
func (k *completer) phrases(before, typed string, labels []string) {
	for _, l := range labels {
		if strings.HasPrefix(l, typed) && l != typed {
			k.out = append(k.out, Completion{Text: before + l, Label: l, Kind: "word"})
		}
	}
}

func (k *completer) prop(id string, a Ask) {
	p := k.c.Prop(id)
	if p == nil {
		return
	}
	switch a.Cell {
	case "kind":
		before, typed := lastWord(a.Text)
		switch words := split(before); {
		case len(words) == 1 && words[0] == "event":
			k.all(before, typed, "word", contract.Events)
		case len(words) == 3 && words[0] == "event":
			k.all(before, typed, "part", partNames(k.c))
		case len(words) >= 2 && words[0] == "slot":
			k.all(before, typed, "component", k.components)
		case len(words) >= 1 && words[0] == "icon":
			k.icons(before, typed, words[1:])
		default:
			k.phrases("", a.Text, kindForms)
		}
	case "default":
		var words []string
		for _, v := range p.Type.Nameable() {
			words = append(words, word(v.String()))
		}
		if icon, ok := p.Type.(contract.Icon); ok {
			words = wordsOf(icon.Names())
		}
		if p.Type.Nameable() == nil && p.Kind() != contract.EventKind {
			words = append(words, required)
		}
		k.all("", a.Text, "word", words)
	}
}

// icons offers the library's, those left out that are named already.
func (k *completer) icons(before, typed string, named []string) {
	from := len(k.out)
	var names []string
	for _, i := range k.w.Icons {
		if !slices.Contains(named, word(i.Name)) {
			names = append(names, word(i.Name))
		}
	}
	k.all(before, typed, "icon", names)
	for i := from; i < len(k.out); i++ {
		if name, err := unquoted(k.out[i].Label); err == nil {
			k.out[i].Drawing = k.w.icon(name)
		}
	}
}

func wordsOf(names []string) []string {
	out := make([]string, len(names))
	for i, n := range names {
		out[i] = word(n)
	}
	return out
}

// lastWord cuts what is typed before its last word.
func lastWord(text string) (before, typed string) {
	at := strings.LastIndexAny(text, " \t\n") + 1
	return text[:at], text[at:]
}

func (k *completer) part(p *contract.Part, a Ask) {
	switch a.Cell {
	case "element":
		k.element(p, "", a.Text)
	case "shows":
		if p.Element == "svg" {
			k.icons("", a.Text, nil)
		}
		k.all("", a.Text, "prop", k.props(contract.TextKind, contract.RichKind, contract.NumberKind, contract.ImageKind, contract.IconKind, contract.SlotKind))
	case "when":
		k.condition("", a.Text)
	case "over":
		var lists []string
		for _, p := range k.c.Props {
			if p.Kind() == contract.ListKind {
				lists = append(lists, p.Name)
			}
		}
		k.all("", a.Text, "prop", lists)
	}
}

// props lists the props of some kinds, in braces; of every kind when none is named.
func (k *completer) props(kinds ...contract.Kind) (out []string) {
	k.c.EachProp(func(id string, p *contract.Prop) {
		if len(kinds) == 0 || slices.Contains(kinds, p.Kind()) {
			out = append(out, propText(k.c, id))
		}
	})
	return out
}

// element offers elements and components, then attributes or what a component is given.
func (k *completer) element(p *contract.Part, before, text string) {
	first, _, more := strings.Cut(text, " ")
	if !more {
		k.all(before, text, "word", contract.Elements)
		k.all(before, text, "component", k.components)
		return
	}
	start, typed := lastWord(text)
	before += start
	name, value, valued := strings.Cut(typed, "=")
	of := k.w.component(first)
	if first == "svg" && !valued {
		k.all(before, typed, "prop", k.props(contract.IconKind))
		k.icons(before, typed, nil)
		return
	}
	if !valued {
		var words []string
		if of != nil {
			for _, q := range of.Props {
				words = append(words, q.Name+"=")
			}
			words = append(words, rest)
			k.all(before, typed, "prop", words)
			return
		}
		for _, a := range contract.AttributesOf(first) {
			words = append(words, a+"=")
		}
		k.all(before, typed, "word", words)
		return
	}
	before += name + "="
	if of != nil {
		for i := range of.Props {
			q := &of.Props[i]
			if q.Name != name {
				continue
			}
			var words []string
			for _, v := range q.Type.Nameable() {
				words = append(words, word(v.String()))
			}
			k.all(before, value, "prop", append(k.props(q.Kind()), "{"+q.Name+"}"))
			k.all(before, value, "word", words)
		}
		return
	}
	kind, words, _ := contract.AttributeOf(first, name)
	switch kind {
	case contract.PartAttribute:
		for _, n := range partNames(k.c) {
			words = append(words, "#"+n)
		}
	case contract.TextAttribute, contract.NumberAttribute, contract.FlagAttribute, contract.LinkAttribute:
		k.all(before, value, "prop", k.props(contract.AttributeKinds(kind)...))
	}
	k.all(before, value, "word", words)
}

// condition offers the terms of a condition; what is said before the last and stays.
func (k *completer) condition(before, text string) {
	const and = " and "
	if at := strings.LastIndex(text, and); at >= 0 {
		before, text = before+text[:at+len(and)], text[at+len(and):]
	}
	var props, states, others []string
	k.c.EachProp(func(id string, p *contract.Prop) {
		name := strings.Trim(propText(k.c, id), "{}")
		switch p.Kind() {
		case contract.FlagKind:
			props = append(props, name, "not "+name)
		case contract.ChoiceKind:
			for _, o := range p.Options() {
				props = append(props, name+" = "+word(o))
			}
		case contract.NumberKind:
			props = append(props, name+" > 0", name+" is set")
		case contract.EventKind:
		default:
			props = append(props, name+" is set", name+" is not set")
		}
	})
	for _, s := range k.c.AllStates() {
		states = append(states, "state "+s)
	}
	for _, modifier := range slices.Sorted(maps.Keys(k.w.Themes)) {
		for _, context := range k.w.Themes[modifier] {
			if modifier == "theme" {
				others = append(others, "theme "+word(context))
			} else {
				others = append(others, "theme "+word(modifier)+" "+word(context))
			}
		}
	}
	others = append(others, "direction rtl", "container < 480px", "viewport < 768px")
	k.all(before, text, "prop", props)
	k.all(before, text, "word", states)
	k.all(before, text, "word", others)
}

// saying offers a declaration: "when size = s: gap 4px".
func (k *completer) saying(text string) {
	before := ""
	if after, ok := strings.CutPrefix(text, "when "); ok {
		condition, said, found := cutCondition(after)
		if !found {
			k.condition("when ", after)
			for i := range k.out {
				k.out[i].Text += ": "
			}
			return
		}
		before = "when " + condition + ": "
		text = strings.TrimLeft(said, " ")
	}
	property, value, named := strings.Cut(text, " ")
	if !named {
		k.all(before, text, "property", k.properties())
		for i := range k.out {
			k.out[i].Text += " "
		}
		return
	}
	k.values(before+property+" ", strings.TrimSuffix(property, ":"), value)
}

// properties lists those the contract says, most often first, then the others.
func (k *completer) properties() []string {
	n := map[string]int{}
	for _, s := range k.c.ValueSites() {
		n[s.Property]++
	}
	out := css.PropertyNames()
	slices.SortStableFunc(out, func(a, b string) int { return n[b] - n[a] })
	return out
}

func (k *completer) declaration(a Ask, property string) {
	if a.Cell == "property" {
		k.all("", a.Text, "property", k.properties())
		return
	}
	k.values("", property, a.Text)
}

// values offers the tokens that a property takes, those it is given most often first, then its
// keywords.
func (k *completer) values(before, property, text string) {
	p, known := css.PropertyNamed(property)
	if !known {
		return
	}
	start, typed := lastWord(text)
	before += start
	used := map[string]int{}
	for _, s := range k.c.ValueSites() {
		if s.Property != property {
			continue
		}
		for _, path := range css.RefsIn(s.Value) {
			used[path]++
		}
	}
	types := p.TokenTypes()
	var paths []string
	value := map[string]string{}
	if k.w.Tokens != nil {
		for _, t := range k.w.Tokens.All() {
			if t.Value != "" && slices.Contains(types, t.Type) {
				paths = append(paths, "{"+t.Path+"}")
				value["{"+t.Path+"}"] = t.Value
			}
		}
	}
	// A token of the right type may be of a value that is not allowed here: a negative gap.
	if fitting := slices.DeleteFunc(slices.Clone(paths), func(path string) bool { return contract.CheckValue(property, start+path, k.w.Tokens) != nil }); len(fitting) > 0 {
		paths = fitting
	}
	rank := func(path string) int { return used[strings.Trim(path, "{}")] }
	slices.SortStableFunc(paths, func(a, b string) int { return rank(b) - rank(a) })
	if words := p.Words(); typed != "" {
		k.all(before, typed, "word", words)
		k.all(before, strings.TrimSuffix(typed, "}"), "token", paths)
	} else {
		k.all(before, typed, "token", paths)
		k.all(before, typed, "word", words)
	}
	for i, o := range k.out {
		k.out[i].Value = value[o.Label]
	}
}
