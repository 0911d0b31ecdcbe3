package source

import (
	"encoding/json"
	"slices"

	"cobrik/core/contract"
	"cobrik/core/emit/ir"
	"cobrik/core/source/syntax"
)

// settle finishes what only the whole tells: the ids of parts, kinds that one type stands for, defaults that stand elsewhere.
func (r *reader) settle() {
	r.settleIDs()
	r.settleKinds()
	for _, h := range r.hears {
		if p := r.out.Prop(h.prop); p != nil {
			p.Part = h.part.ID
		}
	}
	r.out.Walk(func(p, _ *contract.Part) {
		if class := r.classOf[p]; class != "" {
			r.reading.classes[p.ID] = class
		}
	})
	for p, places := range r.later {
		for what, at := range places {
			r.reading.Places[ofPart(p.ID, what)] = at
		}
	}
	for _, k := range r.kept {
		about := Subject{Property: codeOf + k.what}
		if k.part != nil {
			about = ofPart(k.part.ID, codeOf+k.what)
		}
		r.reading.code[about] = k.text
		r.place(about, k.at)
	}
	r.out.Walk(func(p, _ *contract.Part) {
		for _, of := range []string{"element", "shown", "repeat", "children", "content", "level", "as"} {
			key := ofPart(p.ID, of)
			if _, known := r.reading.Places[key]; !known {
				r.place(key, r.at[p])
			}
		}
	})
	r.out.EachProp(func(id string, p *contract.Prop) { r.documented(id, p) })
}

// settleIDs gives parts that have a place of their own in the document the id that it is called by.
func (r *reader) settleIDs() {
	r.out.Walk(func(p, _ *contract.Part) {
		id := r.places[p]
		if id == "" || id == p.ID || r.names[id] {
			return
		}
		was := p.ID
		r.names[id] = true
		p.ID = id
		if up := r.parents[p]; up != nil && up.Use() != nil {
			for key, g := range up.Use().Given {
				if i := slices.Index(g.Parts, was); i >= 0 {
					g.Parts[i] = id
					up.Use().Given[key] = g
				}
			}
		}
	})
}

// documented gives a prop that no code gives a default the one its documentation tells.
func (r *reader) documented(id string, p *contract.Prop) {
	if p.Required || p.Default() != nil && p.Default() != contract.TextValue("") && p.Default() != contract.FlagValue(false) && p.Default() != contract.OptionValue("") {
		return
	}
	at := r.declared[id]
	if at == nil {
		return
	}
	comment := commentBefore(at)
	if comment == nil {
		return
	}
	_, tags := documentation(comment.Text())
	text, is := tags["default"]
	if !is {
		return
	}
	var v any
	if json.Unmarshal([]byte(text), &v) != nil {
		if n := len(text); n > 1 && text[0] == '\'' && text[n-1] == '\'' {
			v = unescaped(text[1 : n-1])
		} else {
			return
		}
	}
	value, err := p.Type.Decode(encoded(v))
	if err != nil || value == nil || contract.Equal(value, p.Default()) {
		return
	}
	setDefault(p, value)
	r.unsure(ofProp(id, "default"), "its documentation alone says so")
}

// stands says what stands for a prop that is not given: its default.
func (r *reader) stands(id string, n *syntax.Node, s *scope) {
	p := r.out.Prop(id)
	if p == nil {
		return
	}
	v, ok := r.valueOf(p, n, s)
	if !ok || v == nil {
		return
	}
	if d := p.Default(); d != nil && !contract.Equal(d, v) && d != contract.TextValue("") && d != contract.FlagValue(false) && d != contract.OptionValue("") {
		r.unread(n, "default", "another default of "+id+": "+shortened(n.Text()))
		return
	}
	setDefault(p, v)
	r.place(ofProp(id, "default"), n)
}

// setDefault gives a prop a default.
func setDefault(p *contract.Prop, v contract.Value) {
	switch t := p.Type.(type) {
	case contract.Slot:
		if rich, is := v.(contract.RichValue); is {
			p.Type = contract.Rich{Initial: rich, Line: rich.Inline()}
		}
	case contract.Rich:
		t.Initial, _ = v.(contract.RichValue)
		p.Type = t
	case contract.Text:
		t.Initial = v.String()
		p.Type = t
	case contract.Link:
		t.Initial = v.String()
		p.Type = t
	case contract.Flag:
		p.Type = contract.Flag{Initial: v == contract.FlagValue(true)}
	case contract.Choice:
		t.Initial = v.String()
		p.Type = t
	case contract.Icon:
		t.Initial = v.String()
		p.Type = t
	case contract.Number:
		t.Initial = nil
		if n, ok := v.(contract.NumberValue); ok {
			x := float64(n)
			t.Initial = &x
		}
		p.Type = t
	}
}

// implied takes away what every component of ours says of its root by itself: the attributes that flags of their names are.
func (r *reader) implied() {
	root := r.out.Root
	for _, a := range ir.Native(r.out) {
		if own, there := root.Attributes[a.Name]; there && own.Prop == a.Prop {
			delete(root.Attributes, a.Name)
		}
	}
	if len(root.Attributes) == 0 {
		root.Attributes = nil
	}
}

// as takes the prop that says which element the root is out of the props, and gives the elements it may be.
func (r *reader) as() []string { return r.elements }

func (r *reader) takeAs() {
	at := slices.IndexFunc(r.out.Props, func(p contract.Prop) bool { return p.Name == "as" })
	if at < 0 {
		return
	}
	choice, ok := r.out.Props[at].Type.(contract.Choice)
	if !ok || slices.ContainsFunc(choice.Options, func(o string) bool { return !slices.Contains(contract.Elements, o) }) {
		return
	}
	r.elements = choice.Options
	r.out.Props = slices.Delete(r.out.Props, at, at+1)
}

// asksItsWidth tells whether a part is nothing but a box whose width is asked for what is in it, as every component that asks for its own has one.
func (r *reader) asksItsWidth(p *contract.Part) bool {
	want := map[string]string{}
	for _, d := range ir.Around() {
		want[d.Property] = d.Value
	}
	said := 0
	for _, c := range r.has[p] {
		s := r.code.sheet(c.sheet)
		if s == nil {
			return false
		}
		for _, rule := range s.rules {
			if len(rule.selector) != 1 || !slices.Equal(rule.selector[0].classes, []string{c.name}) || !rule.when.isAlways() {
				continue
			}
			for _, d := range rule.declarations {
				if want[d.property] != d.value {
					return false
				}
				said++
			}
		}
	}
	return said == len(want) && r.inline[p] == nil
}
