package survey

import "slices"

// Joined says of a layer that it is the same thing as a copy of something, whatever it looks like.
type Joined struct {
	Layer string // that holds it, or the first of its loose layers
	To    string // the same of the copy
}

// join puts what people said is the same thing into one class: things that hold others, none of them in the other.
func (o *outline) join(classes []*class, joined []Joined) {
	if len(joined) == 0 {
		return
	}
	at := map[string]*shape{}
	for _, j := range joined {
		at[j.Layer], at[j.To] = nil, nil
	}
	for _, r := range o.roots {
		r.top.walk(func(s *shape) bool {
			for _, id := range append([]string{s.id()}, s.made...) { // what was marked may be all of a group, and go by its id
				if known, asked := at[id]; asked && known == nil && s.children != nil && s != r.top {
					at[id] = s
				}
			}
			return true
		})
	}
	for _, j := range joined {
		one, to := at[j.Layer], at[j.To]
		if one == nil || to == nil || one.class == to.class || one.in(to) || to.in(one) {
			continue
		}
		from, into := classes[one.class-1], classes[to.class-1]
		from.members = slices.DeleteFunc(from.members, func(s *shape) bool { return s == one })
		into.members = append(into.members, one)
		one.class, one.joined = to.class, true
	}
}

// in tells whether a shape is somewhere in another.
func (s *shape) in(other *shape) bool {
	for at := s.parent; at != nil; at = at.parent {
		if at == other {
			return true
		}
	}
	return false
}
