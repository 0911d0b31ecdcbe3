package drift

import "cobrik/core/css"

// Precedence says who wins where a facet moved on one side alone. What both moved is never decided by one.
type Precedence struct {
	Facet css.Facet `json:"facet" enum:"shape,props,size,space,paint,type,content,access,behaviour"`
	Wins  string    `json:"wins" enum:"design,contract,code," doc:"Nobody any more when empty"`
}

// Way tells what a precedence makes of a move: whoever moved is taken where it wins; else the contract stays, and code is put back. False where the
// precedence is of another facet, somebody decided it already, or no contract can hold what it would take.
func (r Precedence) Way(m Moved) (Way, bool) {
	if m.Facet != r.Facet || !m.Open || m.Side != string(m.Lane) {
		return "", false
	}
	switch {
	case r.Wins == string(m.Lane):
		return Take, m.Takable
	case m.Lane == Code:
		return Back, true
	}
	return Keep, true
}

// Due is a move with what a precedence makes of it.
type Due struct {
	Moved
	Way Way `json:"way" enum:"take,keep,back"`
}

// Reach lists what precedences decide among moves; of a facet the first counts.
func Reach(list []Precedence, moves []Moved) []Due {
	out := []Due{}
	for _, m := range moves {
		for _, r := range list {
			if r.Facet != m.Facet {
				continue
			}
			if way, ok := r.Way(m); ok {
				out = append(out, Due{m, way})
			}
			break
		}
	}
	return out
}
