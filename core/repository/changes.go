package repository

import (
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/ledger"
)

// ComponentChanges is what a change of the repository comes to for those who use a component.
type ComponentChanges struct {
	Name    string            `json:"name"`
	Level   contract.Level    `json:"level"`
	Changes []contract.Change `json:"changes"`
}

// Since lists what changed since another state of the repository, component by component, and the version bump that all of it asks for
// (Semantic Versioning 2.0.0).
func (r *Repository) Since(base *Repository) (contract.Level, []ComponentChanges) {
	level := contract.None
	var out []ComponentChanges
	was := map[string]*contract.Contract{}
	for _, c := range base.Contracts {
		was[c.Name] = c.Contract
	}
	for _, c := range r.Contracts {
		old, there := was[c.Name]
		delete(was, c.Name)
		one := ComponentChanges{Name: c.Name, Level: contract.Minor, Changes: []contract.Change{{Level: contract.Minor, Text: "the component is added"}}}
		if there {
			one.Level, one.Changes = ledger.Changes(old, c.Contract)
			if len(one.Changes) == 0 {
				continue
			}
		}
		out = append(out, one)
	}
	for name := range was {
		out = append(out, ComponentChanges{Name: name, Level: contract.Major, Changes: []contract.Change{{Level: contract.Major, Text: "the component is removed"}}})
	}
	for _, one := range out {
		level = contract.Highest(level, one.Level)
	}
	slices.SortFunc(out, func(a, b ComponentChanges) int { return strings.Compare(a.Name, b.Name) })
	return level, out
}
