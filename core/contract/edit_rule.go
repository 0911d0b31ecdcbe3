package contract

import (
	"fmt"
	"maps"
	"slices"
)

// Rules are edited here by their place, from 0; later ones win.

// AddRule puts a rule that sets one property behind another, or as the last when after is less
// than 0, and gives its place.
func (c *Contract) AddRule(part string, when When, property, value string, after int) int {
	at := len(c.Rules)
	if after >= 0 {
		at = min(after+1, at)
	}
	c.Rules = slices.Insert(c.Rules, at, Rule{Part: part, When: when, Set: Style{property: value}})
	return at
}

// RuleAt gives a rule; nil when there is none at that place.
func (c *Contract) RuleAt(n int) *Rule {
	if n < 0 || n >= len(c.Rules) {
		return nil
	}
	return &c.Rules[n]
}

// DuplicateRule puts a rule like another behind it.
func (c *Contract) DuplicateRule(n int) error {
	r := c.RuleAt(n)
	if r == nil {
		return fmt.Errorf("there is no rule %d", n+1)
	}
	c.Rules = slices.Insert(c.Rules, n+1, Rule{Part: r.Part, When: r.When, Set: maps.Clone(r.Set)})
	return nil
}

// MoveRule lets a rule change places with the one of its part before it, so that it loses, or
// with the one behind where by is more than 0, so that it wins. It gives its new place.
func (c *Contract) MoveRule(n, by int) int {
	r := c.RuleAt(n)
	if r == nil || by == 0 {
		return n
	}
	step := 1
	if by < 0 {
		step = -1
	}
	for to := n + step; to >= 0 && to < len(c.Rules); to += step {
		if c.Rules[to].Part == r.Part {
			c.Rules[n], c.Rules[to] = c.Rules[to], c.Rules[n]
			return to
		}
	}
	return n
}

// RemoveRule removes a rule.
func (c *Contract) RemoveRule(n int) {
	if c.RuleAt(n) != nil {
		c.Rules = slices.Delete(c.Rules, n, n+1)
	}
}
