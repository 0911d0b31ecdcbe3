package draft

import (
	"cobrik/core/contract"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/design"
	"cobrik/core/problem"
)

// steps gives the path segment of each child: its name, with #2 and so on for
// a name that came before.
func steps(l *design.Layer) []string {
	if l.Kind == design.Instance { // what it holds is the affair of its family
		return nil
	}
	out := make([]string, len(l.Children))
	count := map[string]int{}
	for i, c := range l.Children {
		name := strings.ReplaceAll(c.Name, "/", "∕")
		count[name]++
		if n := count[name]; n > 1 {
			name = fmt.Sprintf("%s#%d", name, n)
		}
		out[i] = name
	}
	return out
}

func below(path, step string) string {
	if path == "" {
		return step
	}
	return path + "/" + step
}

// LayerAt finds the layer that a part stands for in a variant, and its parent.
// The path is a Part's Layer; the root's is empty. Nil when it is not drawn.
func LayerAt(root *design.Layer, path string) (l, parent *design.Layer) {
	if path == "" {
		return root, nil
	}
	l = root
	for _, want := range strings.Split(path, "/") {
		parent = l
		l = nil
		for i, step := range steps(parent) {
			if step == want {
				l = parent.Children[i]
				break
			}
		}
		if l == nil {
			return nil, nil
		}
	}
	return l, parent
}

// LayerPaths lists the path of every layer of a variant, parents first.
func LayerPaths(root *design.Layer) []string {
	var paths []string
	var walk func(l *design.Layer, path string)
	walk = func(l *design.Layer, path string) {
		paths = append(paths, path)
		for i, step := range steps(l) {
			walk(l.Children[i], below(path, step))
		}
	}
	walk(root, "")
	return paths
}

// correspond reports where a variant's layers do not match the default's:
// another kind, another order, a layer too many or too few. Both ids are named.
func correspond(base, other *design.Layer, variant string, found *problem.List) {
	const fix = "give both variants the same layers; hide what one of them does not show"
	if base.Kind != other.Kind {
		found.Errorf("variant-layers", "", fix, "%s: the layer %s is a %s, but %s in the default is a %s", variant, other.ID, other.Kind, base.ID, base.Kind)
		return
	}
	if base.Kind == design.Instance && base.Instance.Family != other.Instance.Family {
		found.Errorf("variant-layers", "", "use one family in all variants, or two layers of which one is hidden", "%s: the layer %s uses the family %s, but %s in the default uses %s", variant, other.ID, other.Instance.Family, base.ID, base.Instance.Family)
		return
	}
	if base.Repeats && other.Repeats { // items may be more or fewer; the first stands for all
		if a, b := itemsOf(base), itemsOf(other); len(a) > 0 && len(b) > 0 {
			correspond(a[0], b[0], variant, found)
		}
		return
	}
	baseSteps, otherSteps := steps(base), steps(other)
	at := map[string]int{}
	for i, s := range otherSteps {
		at[s] = i
	}
	last := -1
	for i, s := range baseSteps {
		j, ok := at[s]
		if !ok {
			found.Errorf("variant-layers", "", fix, "%s: the layer %s (%q) of the default is missing in %s", variant, base.Children[i].ID, base.Children[i].Name, other.ID)
			continue
		}
		if j < last {
			found.Errorf("variant-layers", "", "put them in one order", "%s: the layer %s stands in another order than %s in the default", variant, other.Children[j].ID, base.Children[i].ID)
		}
		last = max(last, j)
		delete(at, s)
		correspond(base.Children[i], other.Children[j], variant, found)
	}
	for i, s := range otherSteps {
		if _, extra := at[s]; extra {
			found.Errorf("variant-layers", "", fix, "%s: the layer %s (%q) has no counterpart in %s of the default", variant, other.Children[i].ID, other.Children[i].Name, base.ID)
		}
	}
}

// Unmatched is one place where a variant's layers do not match the default's.
type Unmatched struct {
	Layer   string // id of the variant's root
	Message string
}

// Unlike lists where the variants of a family do not correspond.
func Unlike(f *design.Family) (out []Unmatched) {
	base := f.Default()
	if base == nil {
		return nil
	}
	for _, v := range f.Variants {
		if v == base {
			continue
		}
		var found problem.List
		correspond(base.Root, v.Root, v.ID, &found)
		for _, p := range found {
			out = append(out, Unmatched{v.Root.ID, p.Message + "."})
		}
	}
	return out
}

// Added tells whether a part was drawn from nothing: people put it in. A component's root, which stands for a variant's, is called root whoever names it.
func Added(p *contract.Part) bool { return p.Layer == "" && len(p.Drawn) == 0 && p.ID != "root" }

// LayerOf finds the layer that a part stands for in a variant, and its parent: where
// the part was drawn, or, when nothing is there any more, the layer of an id it was
// drawn from. Nil when neither is there, and for a part that people added: nobody drew it.
func LayerOf(root *design.Layer, p *contract.Part) (l, parent *design.Layer) {
	if Added(p) {
		return nil, nil
	}
	if l, parent = LayerAt(root, p.Layer); l != nil || len(p.Drawn) == 0 {
		return l, parent
	}
	var walk func(at *design.Layer)
	walk = func(at *design.Layer) {
		for _, c := range at.Children {
			if l == nil && slices.Contains(p.Drawn, c.ID) {
				l, parent = c, at
			}
			walk(c)
		}
	}
	walk(root)
	return l, parent
}

// PathOf gives the path of a layer of a variant; false when it is not in it.
func PathOf(root, l *design.Layer) (string, bool) {
	for _, path := range LayerPaths(root) {
		if at, _ := LayerAt(root, path); at == l {
			return path, true
		}
	}
	return "", false
}

// Tie notes for every part the ids of the layers it stands for in a family, so that it
// is found again when they have other names.
func Tie(c *contract.Contract, f *design.Family) {
	c.Walk(func(p, _ *contract.Part) {
		var ids []string
		for _, v := range f.Variants {
			if l, _ := LayerOf(v.Root, p); l != nil {
				ids = append(ids, l.ID)
			}
		}
		if len(ids) > 0 {
			p.Drawn = ids
		}
	})
}
