package contract

import (
	"encoding/json"
	"maps"
	"slices"
)

// Renamed is what of a component is called otherwise than before, so that those who use it follow.
type Renamed struct {
	From, To string                       // the component's name
	Options  map[string]map[string]string // of its choices, by the prop's id: the old name to the new
}

// RenamedBetween compares two states of a component. An option that stands in the place of another, in a list
// of as many, is that one renamed.
func RenamedBetween(was, now *Contract) Renamed {
	r := Renamed{From: was.Name, To: now.Name, Options: map[string]map[string]string{}}
	for _, p := range was.Props {
		q := now.Prop(p.ID)
		if q == nil {
			continue
		}
		old, isChoice := p.Type.(Choice)
		if next, still := q.Type.(Choice); isChoice && still {
			if names := renamedOptions(old, next); len(names) > 0 {
				r.Options[p.ID] = names
			}
		}
	}
	return r
}

// Any tells whether anything is called otherwise.
func (r Renamed) Any() bool { return r.From != r.To || len(r.Options) > 0 }

// renamedOptions maps options that are called otherwise to their new names.
func renamedOptions(old, now Choice) map[string]string {
	names := map[string]string{}
	if len(old.Options) != len(now.Options) {
		return names
	}
	for i, o := range old.Options {
		if n := now.Options[i]; n != o && !slices.Contains(now.Options, o) && !slices.Contains(old.Options, n) {
			names[o] = n
		}
	}
	return names
}

// Follow lets the uses of a component, and slots that are meant for it, follow what of it is called otherwise. It gives what of this contract is called
// otherwise with that, options of choices that it passes on; and whether anything changed.
func (c *Contract) Follow(r Renamed) (own Renamed, changed bool) {
	own = Renamed{From: c.Name, To: c.Name, Options: map[string]map[string]string{}}
	c.EachProp(func(_ string, p *Prop) {
		slot, ok := p.Type.(Slot)
		if at := slices.Index(slot.Accepts, r.From); ok && at >= 0 && r.From != r.To {
			slot.Accepts = slices.Clone(slot.Accepts)
			slot.Accepts[at] = r.To
			p.Type, changed = slot, true
		}
	})
	c.Walk(func(p, _ *Part) {
		u := p.Use()
		if u == nil || u.Component != r.From {
			return
		}
		if changed = changed || r.From != r.To; r.From != r.To {
			u.Component, u.of, u.sought = r.To, nil, false
		}
		for id, names := range r.Options {
			g, given := u.Given[id]
			if given {
				followed := false
				g.Value, followed = renamedText(g.Value, names)
				for i := range g.Cases {
					var also bool
					g.Cases[i].Value, also = renamedText(g.Cases[i].Value, names)
					followed = followed || also
				}
				u.Given[id], changed = g, changed || followed
			}
			for i := range c.Props {
				q := &c.Props[i]
				choice, ok := q.Type.(Choice)
				if q.From == nil || q.From.Part != p.ID || q.From.Prop != id || !ok {
					continue
				}
				choice.Options = slices.Clone(choice.Options)
				for n, o := range choice.Options {
					if names[o] != "" {
						choice.Options[n] = names[o]
					}
				}
				if names[choice.Initial] != "" {
					choice.Initial = names[choice.Initial]
				}
				q.Type = choice
				c.followOptions(q.ID, names)
				own.Options[q.ID], changed = maps.Clone(names), true
			}
		}
	})
	return own, changed
}

// renamedText gives a text of JSON that is called otherwise; any other value stays.
func renamedText(text json.RawMessage, names map[string]string) (json.RawMessage, bool) {
	var was string
	if json.Unmarshal(text, &was) != nil || names[was] == "" {
		return text, false
	}
	out, _ := json.Marshal(names[was]) // a text always encodes
	return out, true
}

// followOptions lets conditions, the example and the saved cases follow options of a prop that are called otherwise.
func (c *Contract) followOptions(id string, names map[string]string) {
	c.eachCondition(func(w When) When {
		for _, t := range w.Terms() {
			if p, ok := t.(PropIs); ok && p.Prop == id && names[p.Value.String()] != "" {
				w = w.With(PropIs{id, OptionValue(names[p.Value.String()])})
			}
		}
		return w
	})
	for _, s := range c.Cases {
		if text, ok := s.Given[id]; ok {
			s.Given[id], _ = renamedText(text, names)
		}
	}
	if p := c.Prop(id); p.Example != nil && names[p.Example.String()] != "" {
		p.Example = OptionValue(names[p.Example.String()])
	}
}
