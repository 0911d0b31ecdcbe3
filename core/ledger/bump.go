package ledger

import (
	"fmt"
	"slices"

	"cobrik/core/contract"
)

// Level is how much a version number rises (Semantic Versioning 2.0.0, 6 to 8).
type Level string

const (
	None  Level = "none"
	Patch Level = "patch"
	Minor Level = "minor"
	Major Level = "major"
)

var levels = []Level{None, Patch, Minor, Major}

// Highest gives the higher of two levels.
func Highest(a, b Level) Level {
	if slices.Index(levels, b) > slices.Index(levels, a) {
		return b
	}
	return a
}

// Change is one difference between two contracts, as told to its users.
type Change struct {
	Level Level  `json:"level"`
	Text  string `json:"text"`
}

// Changes lists what differs between a released contract and a later one. What
// a use of the component could name and now cannot is major; what it can name
// besides is minor; what only looks different is patch.
func Changes(old, now *contract.Contract) (Level, []Change) {
	c := changes{}
	c.props(old, now)
	c.parts(old, now)
	c.styles(old, now)
	level := None
	for _, change := range c.list {
		level = Highest(level, change.Level)
	}
	return level, c.list
}

type changes struct{ list []Change }

func (c *changes) add(level Level, format string, args ...any) {
	c.list = append(c.list, Change{level, fmt.Sprintf(format, args...)})
}

func (c *changes) props(old, now *contract.Contract) {
	if old.Name != now.Name {
		c.add(Major, "the component is renamed from %s to %s", old.Name, now.Name)
	}
	for _, p := range old.Props {
		q := now.Prop(p.Name)
		switch {
		case q == nil:
			c.add(Major, "the prop %s is removed", p.Name)
			continue
		case q.Kind != p.Kind:
			c.add(Major, "the prop %s is a %s instead of a %s", p.Name, q.Kind, p.Kind)
			continue
		}
		for _, o := range p.Options {
			if !slices.Contains(q.Options, o) {
				c.add(Major, "%s: the option %s is removed", p.Name, o)
			}
		}
		for _, o := range q.Options {
			if !slices.Contains(p.Options, o) {
				c.add(Minor, "%s: the option %s is added", p.Name, o)
			}
		}
		if q.Default != p.Default && slices.Contains(append(slices.Clone(q.Options), "true", "false"), string(p.Default)) {
			c.add(Major, "%s: the default is %s instead of %s", p.Name, q.Default, p.Default)
		} else if q.Default != p.Default && p.Kind == contract.Text {
			c.add(Patch, "%s: the default text is %q instead of %q", p.Name, q.Default, p.Default)
		}
	}
	for _, p := range now.Props {
		if old.Prop(p.Name) == nil {
			c.add(Minor, "the prop %s is added", p.Name)
		}
	}
}

func (c *changes) parts(old, now *contract.Contract) {
	old.Walk(func(p, _ *contract.Part) {
		q := now.Part(p.Name)
		switch {
		case q == nil:
			c.add(Patch, "the part %s is removed", p.Name)
		case q.Element != p.Element:
			c.add(Patch, "%s is a %s element instead of a %s", p.Name, q.Element, p.Element)
		}
	})
	now.Walk(func(p, _ *contract.Part) {
		if old.Part(p.Name) == nil {
			c.add(Patch, "the part %s is added", p.Name)
		}
	})
}

// styles compares what the two contracts say, place by place.
func (c *changes) styles(old, now *contract.Contract) {
	before, after := said(old), said(now)
	for _, key := range sortedKeys(after) {
		switch was, ok := before[key]; {
		case !ok:
			c.add(Patch, "%s is %s", key, after[key])
		case was != after[key]:
			c.add(Patch, "%s is %s instead of %s", key, after[key], was)
		}
	}
	for _, key := range sortedKeys(before) {
		if _, ok := after[key]; !ok {
			c.add(Patch, "%s is no longer set", key)
		}
	}
}

// said lists a contract's values by "part · property · conditions".
func said(c *contract.Contract) map[string]string {
	out := map[string]string{}
	c.Walk(func(p, _ *contract.Part) {
		for property, v := range p.Style {
			out[p.Name+" · "+property] = v
		}
	})
	for _, r := range c.Rules {
		for property, v := range r.Set {
			out[r.Part+" · "+property+" · "+r.When.String()] = v
		}
	}
	return out
}
