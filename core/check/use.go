package check

import (
	"slices"

	"cobrik/core/contract"
	"cobrik/core/problem"
)

// content are the kinds of props that say what a component shows or does: a use that leaves one at
// its default shows the same wherever it stands.
var content = []contract.Kind{contract.TextKind, contract.RichKind, contract.ImageKind, contract.LinkKind, contract.EventKind, contract.ListKind}

// uses finds content of the components inside that a use neither gives nor passes on.
func (k *checker) uses() {
	for _, p := range k.c.UsedParts() {
		u := p.Use()
		if u.Of() == nil {
			continue
		}
		for _, q := range u.Of().Props {
			if _, given := u.Given[q.ID]; given || u.All || !slices.Contains(content, q.Kind()) || q.Deprecated != "" {
				continue
			}
			part, prop, name := p.ID, q.ID, q.Name
			fix := func(c *contract.Contract) { c.PassOn(c.Part(part), prop, name) }
			if k.repeated(p) {
				fix = nil // what it is for each item, or there alone, is for people to say
			}
			k.say(problem.Warning, "use-default", k.at[p.ID]+"/use", q.ID, fix,
				"pass it on, or say what it is here", "nobody says what %s of %s is: it is the default of %s in every use of %s", q.Name, p.Name, u.Component, k.c.Name)
		}
	}
}

// repeated tells whether a part is there for each item of a list.
func (k *checker) repeated(p *contract.Part) bool {
	for ; p != nil; p = k.around(p.ID) {
		if p.Repeat != "" {
			return true
		}
	}
	return false
}
