package behaviour

import (
	"slices"
	"strings"
)

// RoleKeys are the keys that a role asks for beside those that its element has by itself, as the ARIA Authoring Practices Guide (W3C) has them without calling
// them optional: one of each list is enough.
var RoleKeys = map[string][][]string{
	"checkbox": {{"Space"}},
	"dialog":   {{"Escape"}},
	"menuitem": {{"ArrowDown"}, {"ArrowUp"}, {"Escape"}},
	"radio":    {{"ArrowRight"}, {"ArrowDown"}, {"ArrowLeft"}, {"ArrowUp"}, {"Space"}},
	"slider":   {{"ArrowRight"}, {"ArrowUp"}, {"ArrowLeft"}, {"ArrowDown"}, {"Home"}, {"End"}},
	"tab":      {{"ArrowRight", "ArrowDown"}, {"ArrowLeft", "ArrowUp"}},
	"tooltip":  {{"Escape"}},
}

// keys looks for keys that the roles of parts ask for and nothing waits for. A press is a press of Space, too (HTML, 6.4.3), for the elements that have one.
func (x *explorer) keys(add adder) {
	heard := func(part, key string) bool {
		return slices.ContainsFunc(x.nodes, func(n *node) bool {
			return slices.ContainsFunc(n.On, func(t Transition) bool {
				return t.Event.Kind == Key && (t.Event.Name == key || t.Event.Name == "") && (t.Event.Part == "" || t.Event.Part == part)
			})
		})
	}
	for _, part := range sortedKeys(x.options.Roles) {
		role := x.options.Roles[part]
		for _, one := range RoleKeys[role] {
			if !slices.ContainsFunc(one, func(key string) bool { return heard(part, key) }) {
				add("keys-missing", "", nil, "%s is a %s, and nothing waits for %s at it", part, role, strings.Join(one, " or "))
			}
		}
	}
}
