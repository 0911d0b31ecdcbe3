package token

import (
	"slices"
	"strings"

	"cobrik/core/jsontree"
	"cobrik/core/problem"
)

// Met is a token, or what a group says of all of its own, that two sides of a token file do not say alike.
type Met struct {
	At     string // its place in the file, as a JSON Pointer (RFC 6901); empty for the file as a whole
	Path   string // its groups and its name, joined by dots
	Base   string // what both said last, as JSON on one line; empty for nothing
	Ours   string
	Theirs string
	From   string // the place that theirs had it at before: it was renamed; empty otherwise
}

// Side tells who said something else since both said the same: "ours", "theirs", or "both".
func (m Met) Side() string {
	switch m.Base {
	case m.Ours:
		return "theirs"
	case m.Theirs:
		return "ours"
	}
	return "both"
}

// Meet compares a token file as two sides have it, token by token, with what both said last; nil text is a file that is not there. How files are laid
// out, and the order of members, is no difference. A token that theirs alone took away, and whose like it added elsewhere, was renamed. A resolver document is
// compared as a whole.
func Meet(name string, base, ours, theirs []byte) ([]Met, problem.List) {
	var sides [3]map[string]string
	var order []string
	paths := map[string]string{}
	for i, text := range [][]byte{base, ours, theirs} {
		sides[i] = map[string]string{}
		if text == nil {
			continue
		}
		root, found := jsontree.Read(name, text, limits)
		if root == nil || found.Failed() {
			return nil, found
		}
		eachSaid(root, "", "", func(at, path string, n *jsontree.Node) {
			if _, known := paths[at]; !known {
				order = append(order, at)
				paths[at] = path
			}
			sides[i][at] = string(sortedMembers(n).Append(nil, oneLine))
		})
	}
	var out []Met
	for _, at := range order {
		m := Met{At: at, Path: paths[at], Base: sides[0][at], Ours: sides[1][at], Theirs: sides[2][at]}
		if m.Ours != m.Theirs {
			out = append(out, m)
		}
	}
	return renamed(out), nil
}

// renamed puts tokens that theirs took away and those that it added together, where one alone is like one alone.
func renamed(list []Met) []Met {
	gone, came := map[string][]int{}, map[string][]int{}
	for i, m := range list {
		switch {
		case m.Base != "" && m.Ours == m.Base && m.Theirs == "":
			gone[m.Base] = append(gone[m.Base], i)
		case m.Base == "" && m.Ours == "" && m.Theirs != "":
			came[m.Theirs] = append(came[m.Theirs], i)
		}
	}
	drop := map[int]bool{}
	for text, from := range gone {
		to := came[text]
		if len(from) == 1 && len(to) == 1 && !strings.HasPrefix(last(list[from[0]].At), "$") {
			list[to[0]].From = list[from[0]].At
			drop[from[0]] = true
		}
	}
	var out []Met
	for i, m := range list {
		if !drop[i] {
			out = append(out, m)
		}
	}
	return out
}

func last(pointer string) string { return pointer[strings.LastIndexByte(pointer, '/')+1:] }

// eachSaid visits tokens, and the members that a group has beside its tokens and groups.
func eachSaid(n *jsontree.Node, at, path string, visit func(at, path string, n *jsontree.Node)) {
	if n.Kind != jsontree.Object || isToken(n) || n.Get("$ref") != nil || at == "" && IsResolver(n) {
		visit(at, path, n)
		return
	}
	for _, c := range n.Children {
		under, name := at+"/"+problem.Token(c.Name), join(path, c.Name)
		if c.Kind == jsontree.Object && (!strings.HasPrefix(c.Name, "$") || c.Name == "$root") {
			eachSaid(c, under, name, visit)
		} else {
			visit(under, name, c)
		}
	}
}

// sortedMembers gives a node whose objects have their members by name.
func sortedMembers(n *jsontree.Node) *jsontree.Node {
	out := n.Clone()
	var sort func(n *jsontree.Node)
	sort = func(n *jsontree.Node) {
		if n.Kind == jsontree.Object {
			slices.SortStableFunc(n.Children, func(a, b *jsontree.Node) int { return strings.Compare(a.Name, b.Name) })
		}
		for _, c := range n.Children {
			sort(c)
		}
	}
	sort(out)
	return out
}

// Taken gives a token file in which the places named are as another text of it has them: those that it does not have are gone. All else stays; the file is laid
// out as Text does. The text of a file that is not there yet is nil.
func Taken(name string, text, from []byte, places []string) ([]byte, problem.List) {
	source, found := jsontree.Read(name, orNothing(from), limits)
	root, more := jsontree.Read(name, orNothing(text), limits)
	if found = append(found, more...); found.Failed() {
		return nil, found
	}
	for _, at := range places {
		if at == "" {
			return from, nil
		}
		parent, name := at[:strings.LastIndexByte(at, '/')], jsontree.Steps(at)
		is := source.At(at)
		if is == nil {
			if holder := root.At(parent); holder != nil {
				holder.Remove(name[len(name)-1])
				pruneAt(root, parent)
			}
			continue
		}
		holder := root
		for _, step := range name[:len(name)-1] {
			next := holder.Get(step)
			if next == nil {
				next = jsontree.NewObject()
				holder.Set(step, next)
			}
			if holder = next; holder.Kind != jsontree.Object || isToken(holder) {
				found.Errorf("token-nested", at, "take what stands there first", "%s would stand inside of a token", at)
				return nil, found
			}
		}
		holder.Set(name[len(name)-1], is.Clone())
	}
	return Text(root), found
}

func orNothing(text []byte) []byte {
	if text == nil {
		return []byte("{}")
	}
	return text
}

// pruneAt removes groups that nothing is in any more, from one up.
func pruneAt(root *jsontree.Node, at string) {
	for at != "" {
		n := root.At(at)
		if n == nil || n.Kind != jsontree.Object || len(n.Children) > 0 {
			return
		}
		steps := jsontree.Steps(at)
		at = at[:strings.LastIndexByte(at, '/')]
		root.At(at).Remove(steps[len(steps)-1])
	}
}

// Brief writes what a side says of a token for people: its value, with what it says beside it, in the words of CSS where the value alone tells its kind.
func Brief(said string) string {
	n, found := jsontree.Read("", []byte(said), limits)
	if n == nil || found.Failed() || n.Kind != jsontree.Object {
		return said
	}
	v := n.Get("$value")
	if v == nil {
		return said
	}
	out := briefly(v)
	for _, c := range n.Children {
		if c.Name != "$value" {
			out += ", " + c.Name + " " + string(c.Append(nil, oneLine))
		}
	}
	return out
}

func briefly(v *jsontree.Node) string {
	text := string(v.Append(nil, oneLine))
	number, unit, space, parts := v.Get("value"), v.Get("unit"), v.Get("colorSpace"), v.Get("components")
	switch {
	case v.Kind == jsontree.String:
		return v.Text
	case v.Kind == jsontree.Object && len(v.Children) == 2 && number != nil && number.Kind == jsontree.Number && unit != nil && unit.Kind == jsontree.String:
		return number.Text + unit.Text
	case v.Kind == jsontree.Object && space != nil && parts != nil && parts.Kind == jsontree.Array && v.Get("alpha") == nil:
		if hex := v.Get("hex"); hex != nil {
			return hex.Text
		}
		out := "color(" + space.Text
		for _, c := range parts.Children {
			out += " " + c.Text
		}
		return out + ")"
	}
	return text
}
