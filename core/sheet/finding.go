package sheet

import (
	"strconv"
	"strings"

	"cobrik/core/check"
	"cobrik/core/contract"
)

// Finding is one thing that a review found, and where on the sheet.
type Finding struct {
	Key      string `json:"key" doc:"The same for the same finding, as long as it is there"`
	Rule     string `json:"rule"`
	Severity string `json:"severity" enum:"error,warning"`
	Message  string `json:"message"`
	Fix      string `json:"fix" doc:"What was expected, or what to do"`
	On       string `json:"on" doc:"Address of the row or the value"`
	Part     string `json:"part,omitempty" doc:"Id of the part"`
	Mends    bool   `json:"mends" doc:"It can be mended by a key"`

	mend func(*contract.Contract)
}

// Findings gives what a review of a contract found as it stands on the sheet.
func Findings(c *contract.Contract, found []check.Finding) []Finding {
	out := []Finding{}
	seen := map[string]int{}
	for _, f := range found {
		one := Finding{Rule: f.Rule, Severity: string(f.Severity), Message: f.Message, Fix: f.Problem.Fix, Mends: f.Fix != nil, mend: f.Fix}
		one.On, one.Part = At(c, f.Pointer)
		one.Key = one.Rule + " " + one.Part + " " + one.Message
		if seen[one.Key]++; seen[one.Key] > 1 {
			one.Key += " " + strconv.Itoa(seen[one.Key])
		}
		out = append(out, one)
	}
	return out
}

// At gives the address of what a JSON Pointer into a contract leads to, and the id of the part
// that it is of; the props where it leads to none.
func At(c *contract.Contract, pointer string) (on, part string) {
	steps := strings.Split(strings.TrimPrefix(pointer, "/"), "/")
	index := func(i int) int {
		if i >= len(steps) {
			return -1
		}
		n, err := strconv.Atoi(steps[i])
		if err != nil {
			return -1
		}
		return n
	}
	switch steps[0] {
	case "root":
		p, i := c.Root, 1
		for i+1 < len(steps) && steps[i] == "children" {
			n := index(i + 1)
			if n < 0 || n >= len(p.Children) {
				break
			}
			p, i = p.Children[n], i+2
		}
		on = "parts/" + p.ID
		if i+1 < len(steps) && steps[i] == "style" && p.Style[steps[i+1]] != "" {
			on += "/" + steps[i+1]
		}
		return on, p.ID
	case "rules":
		r := c.RuleAt(index(1))
		if r == nil {
			break
		}
		on = "rules/" + steps[1]
		if len(steps) > 3 && steps[2] == "set" && r.Set[steps[3]] != "" {
			on += "/" + steps[3]
		}
		return on, r.Part
	case "props":
		if n := index(1); n >= 0 && n < len(c.Props) {
			return "props/" + c.Props[n].ID, c.Props[n].Part
		}
	case "purpose", "deprecated", "links", "notes":
		return steps[0], ""
	}
	return "props", ""
}
