package sheet

import (
	"strconv"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/token"
)

// Effect tells where a declaration comes to bear among some cases.
type Effect struct {
	Cases     int      `json:"cases" doc:"How many were looked at"`
	Holds     []string `json:"holds" doc:"Names of those in which it is what is used"`
	Loses     []Loss   `json:"loses" doc:"What is used in its place where its condition holds, too"`
	Overrides []Rival  `json:"overrides" doc:"What would be used without it"`
	Inherited string   `json:"inherited,omitempty" doc:"Name of the part it would be inherited from without it"`
}

// Rival is another declaration of the same.
type Rival struct {
	On   string `json:"on"`
	When string `json:"when" doc:"Empty for what the part says by itself"`
	Text string `json:"text"`
}

// Loss is a rival that wins, and where.
type Loss struct {
	Rival
	Cases []string `json:"in"`
}

// Case is a world with a name.
type Case struct {
	Name string
	Env  contract.Env
}

// EffectOf tells where the declaration at an address, parts/label/gap or rules/3/gap, comes to
// bear; false when there is none.
func EffectOf(c *contract.Contract, on string, cases []Case) (Effect, bool) {
	out := Effect{Cases: len(cases), Holds: []string{}, Loses: []Loss{}, Overrides: []Rival{}}
	kind, rest, _ := strings.Cut(on, "/")
	head, property, _ := strings.Cut(rest, "/")
	rule, part := -1, head
	if kind == "rules" {
		n, err := strconv.Atoi(head)
		r := c.RuleAt(n)
		if err != nil || r == nil {
			return out, false
		}
		rule, part = n, r.Part
	}
	p := c.Part(part)
	if p == nil || rule < 0 && p.Style[property] == "" || rule >= 0 && c.Rules[rule].Set[property] == "" {
		return out, false
	}
	rival := func(n int) Rival {
		if n < 0 {
			return Rival{"parts/" + part + "/" + property, "", p.Style[property]}
		}
		r := c.Rules[n]
		return Rival{"rules/" + strconv.Itoa(n) + "/" + property, c.Words(r.When), r.Set[property]}
	}
	without := c.Clone()
	if rule < 0 {
		delete(without.Part(part).Style, property)
	} else {
		delete(without.Rules[rule].Set, property)
	}
	lost, won := map[int]int{}, map[int]bool{}
	for _, k := range cases {
		if rule >= 0 && !c.HoldsIn(c.Rules[rule].When, k.Env) {
			continue
		}
		winner, _ := c.Winner(part, property, k.Env)
		if winner != rule {
			at, known := lost[winner]
			if !known {
				at = len(out.Loses)
				lost[winner] = at
				out.Loses = append(out.Loses, Loss{rival(winner), nil})
			}
			out.Loses[at].Cases = append(out.Loses[at].Cases, k.Name)
			continue
		}
		out.Holds = append(out.Holds, k.Name)
		switch next, said := without.Winner(part, property, k.Env); {
		case said && !won[next]:
			won[next] = true
			out.Overrides = append(out.Overrides, rival(next))
		case !said:
			if v, ok := contract.Resolve(without, k.Env, token.Empty()).Find(part).Values[property]; ok && v.Part != part {
				out.Inherited = partName(c, v.Part)
			}
		}
	}
	return out, true
}
