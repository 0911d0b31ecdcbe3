package ledger

import (
	"slices"

	"cobrik/core/contract"
	"cobrik/core/draft"
)

// Settled gives what is agreed now: the contract, but for values that moved in it
// alone, or on several sides, and wait to be decided, which are as they were agreed
// before. It is nil when the whole contract is agreed. While the contract's structure waits,
// the base stays as it is.
func (l *Ledger) Settled() *contract.Contract {
	waiting := slices.DeleteFunc(slices.Clone(l.Moves()), func(m Move) bool { return m.Kept || m.Side == DesignSide })
	if l.Base == nil || len(waiting) == 0 {
		return nil
	}
	open := map[string]bool{}
	for _, m := range waiting {
		if m.Kind != ValueMoved {
			return l.Base
		}
		for _, k := range m.cells {
			open[cellKey(m.Part, m.Property, k)] = true
		}
	}
	out := l.Contract.Clone()
	cases := knownCases(l.Contract, l.family)
	l.Contract.Walk(func(p, _ *contract.Part) {
		for _, property := range moveProperties(p) {
			var cells []draft.Cell
			any := false
			for _, k := range cases {
				said, _ := contractSays(l.tree(k), p.ID, property)
				if base := l.base(k, p.ID, property); base != nil && open[cellKey(p.ID, property, k.Key(l.Contract))] {
					said, any = *base, true
				}
				cells = append(cells, k.Cell(expressionOf(property, said)))
			}
			if any {
				setCells(out, p.ID, property, cells)
			}
		}
	})
	return out
}
