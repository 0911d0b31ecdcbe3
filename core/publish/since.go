package publish

import (
	"fmt"

	"cobrik/core/contract"
	"cobrik/core/ledger"
)

// TokenChanges counts the tokens that differ between two states.
type TokenChanges struct{ Added, Removed, Changed int }

// Since lists what is otherwise in a library than in an older version, and the level that it asks for (Semantic Versioning
// 2.0.0, 6 to 8): that of the component that changed most; a token that is gone is major, one that is new minor.
func Since(old, now []Component, tokens TokenChanges) (contract.Level, []contract.Change) {
	out := []contract.Change{}
	add := func(level contract.Level, format string, args ...any) {
		out = append(out, contract.Change{Level: level, Text: fmt.Sprintf(format, args...)})
	}
	before := map[string]Component{}
	for _, c := range old {
		before[c.Contract.Name] = c
	}
	after := map[string]bool{}
	for _, c := range now {
		name := c.Contract.Name
		after[name] = true
		was, known := before[name]
		switch {
		case !known:
			add(contract.Minor, "%s %s is added", name, c.Version)
		case was.Version != c.Version:
			level, _ := ledger.Changes(was.Contract, c.Contract)
			add(contract.Highest(level, contract.Patch), "%s is %s instead of %s", name, c.Version, was.Version)
		}
	}
	for _, c := range old {
		if !after[c.Contract.Name] {
			add(contract.Major, "%s is not in it any longer", c.Contract.Name)
		}
	}
	for _, t := range []struct {
		n     int
		level contract.Level
		what  string
	}{{tokens.Removed, contract.Major, "gone"}, {tokens.Added, contract.Minor, "new"}, {tokens.Changed, contract.Patch, "otherwise"}} {
		switch t.n {
		case 0:
		case 1:
			add(t.level, "1 token is %s", t.what)
		default:
			add(t.level, "%d tokens are %s", t.n, t.what)
		}
	}
	level := contract.None
	for _, c := range out {
		level = contract.Highest(level, c.Level)
	}
	return level, out
}
