package drift

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"cobrik/core/contract"
)

// Cause is one thing that explains several moves: a token that others stand for, a value that became another wherever it was used, a thing
// that has another name. A move that nothing else is like is a cause of its own.
type Cause struct {
	Key        string         `json:"key"`
	Lane       Lane           `json:"lane" enum:"design,code"`
	Side       string         `json:"side" enum:"design,contract,code,several"`
	Said       string         `json:"said" doc:"In a sentence"`
	From       string         `json:"from" doc:"What the moves have in common; empty where that is nothing"`
	To         string         `json:"to"`
	Moves      []Moved        `json:"moves"`
	Components int            `json:"components" doc:"How many it reaches"`
	Open       int            `json:"open" doc:"Moves that nobody decided"`
	Bump       contract.Level `json:"bump" enum:"none,patch,minor,major" doc:"The largest of its moves"`
}

// Causes groups moves by what explains them, those that explain most first.
func Causes(moves []Moved) []Cause {
	at := map[string]int{}
	out := []Cause{}
	for _, m := range moves {
		c := causeOf(m)
		i, ok := at[c.Key]
		if !ok {
			i = len(out)
			at[c.Key] = i
			out = append(out, c)
		}
		out[i].Moves = append(out[i].Moves, m)
	}
	for i := range out {
		c := &out[i]
		of := map[string]bool{}
		for _, m := range c.Moves {
			of[m.Component] = true
			c.Bump = contract.Highest(c.Bump, m.Bump)
			if m.Open {
				c.Open++
			}
		}
		c.Components = len(of)
		if len(c.Moves) == 1 {
			c.Said = c.Moves[0].Of + ": " + c.Moves[0].Said
		}
	}
	slices.SortStableFunc(out, func(a, b Cause) int {
		return cmp.Or(min(b.Open, 1)-min(a.Open, 1), len(b.Moves)-len(a.Moves))
	})
	return out
}

// causeOf names what may explain a move, without counting it.
func causeOf(m Moved) Cause {
	c := Cause{Lane: m.Lane, Side: m.Side, From: m.From, To: m.To, Moves: []Moved{}, Bump: contract.None}
	var key []string
	from, to, repointed := repoint(m.From, m.To)
	switch {
	case m.Kind == Value && m.Side == "several": // each its own: what was said before is not one thing
		c.From, c.To = "", ""
		key = []string{m.Component, m.Key}
	case m.Kind == Value && repointed:
		c.From, c.To = from, to
		c.Said = fmt.Sprintf("%s stands where %s stood", to, from)
		key = []string{"token", from, to}
	case m.Kind == Value && m.From != "" && m.To != "":
		c.Said = fmt.Sprintf("%s is %s where it was %s", m.Property, m.To, m.From)
		key = []string{Value, m.Property, m.From, m.To}
	case m.Kind == Value:
		c.Said = fmt.Sprintf("%s is %s now", m.Property, cmp.Or(m.To, "no longer said"))
		key = []string{Value, m.Property, m.From, m.To}
	case strings.HasSuffix(m.Kind, "renamed"):
		c.Said = fmt.Sprintf("%s is called %s now", m.From, m.To)
		key = []string{m.Kind, m.From, m.To}
	case m.From != "" || m.To != "":
		c.Said = fmt.Sprintf("%s: %s", m.Kind, cmp.Or(m.To, m.From))
		key = []string{m.Kind, m.Property, m.From, m.To}
	default:
		key = []string{m.Component, m.Key}
	}
	c.Key = strings.Join(append([]string{string(m.Lane), m.Side}, key...), "\n")
	return c
}

var reference = regexp.MustCompile(`\{[^{}]+\}`)

// repoint tells which token stands for which other, where that alone makes one value of the other.
func repoint(from, to string) (was, is string, ok bool) {
	before, after := reference.FindAllString(from, -1), reference.FindAllString(to, -1)
	if len(before) == 0 || len(before) != len(after) || reference.ReplaceAllString(from, "{}") != reference.ReplaceAllString(to, "{}") {
		return "", "", false
	}
	for i := range before {
		if before[i] == after[i] {
			continue
		}
		if was != "" && (before[i] != was || after[i] != is) {
			return "", "", false
		}
		was, is = before[i], after[i]
	}
	return was, is, was != ""
}
