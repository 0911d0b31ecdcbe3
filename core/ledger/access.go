package ledger

import (
	"strconv"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/draft"
)

// MeasuredAccess is what an element is in the accessibility tree (WAI-ARIA 1.2).
type MeasuredAccess struct {
	Role  string `json:"role" doc:"Empty for nothing in particular"`
	Name  string `json:"name,omitempty"`
	Level int    `json:"level,omitempty" doc:"Of a heading"`
}

// access compares what a part is in the accessibility tree, and its name and level where the
// contract tells them. A drawing says nothing of it.
func (l *Ledger) access(k draft.Case, r *contract.Resolved, built *MeasuredPart) (facts []Fact) {
	if l.accesses[k.Variant.ID] == nil {
		l.accesses[k.Variant.ID] = l.tree(k).Accesses()
	}
	agreed := l.accesses[k.Variant.ID][r.Key()]
	var measured MeasuredAccess
	isMeasured := built != nil && built.Access != nil
	if isMeasured {
		measured = *built.Access
	}
	say := func(property, contract, code string) {
		if contract == "" && code == "" {
			return
		}
		fact := Fact{Part: r.Part.ID, Name: r.Part.Name, Property: property, Facet: Access, SaidBy: r.Part.ID, Contract: &Statement{Value: contract}}
		if isMeasured {
			fact.Built = &Statement{Value: code}
		}
		l.judge(k, &fact)
		facts = append(facts, fact)
	}
	say("role", agreed.Role, measured.Role)
	if agreed.Name != "" {
		say("name", agreed.Name, strings.Join(strings.Fields(measured.Name), " "))
	}
	if agreed.Level > 0 {
		say("level", strconv.Itoa(agreed.Level), strconv.Itoa(measured.Level))
	}
	return facts
}
