package survey

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
)

// Near is a component that something drawn is like.
type Near struct {
	Kind     string   `json:"kind"` // contract, family or start
	Name     string   `json:"name"`
	ID       string   `json:"id,omitempty"` // of a family
	Likeness float64  `json:"likeness"`     // of the structures, 0 to 1
	Matches  int      `json:"matches"`      // things that both have
	Missing  []string `json:"missing"`      // names of what only the component has
	Extra    []string `json:"extra"`        // ids of the layers it has nothing for
}

// Kinds of components that a find may be like.
const (
	NearContract = "contract"
	NearFamily   = "family"
	NearStart    = "start"
)

// Known are the components there are, beside the document's families.
type Known struct {
	Contracts []*contract.Contract
	Starts    []*contract.Contract
}

// Key names all that a reading asks of the components there are: their names, structures, pieces and families. What they look like is not in it.
func (k Known) Key() string {
	var b strings.Builder
	var write func(n *Node)
	write = func(n *Node) {
		fmt.Fprintf(&b, "(%q %q", n.Is, n.ID)
		for _, c := range n.Children {
			write(c)
		}
		b.WriteByte(')')
	}
	for _, list := range [][]*contract.Contract{k.Contracts, k.Starts} {
		for _, c := range list {
			fmt.Fprintf(&b, "%q", c.Name)
			if c.Origin != nil {
				fmt.Fprintf(&b, " of %q", c.Origin.Family)
			}
			write(contractTree(c.Root))
			for _, part := range c.UsedParts() {
				fmt.Fprintf(&b, " %q", part.Use().Component)
			}
			b.WriteByte('\n')
		}
		b.WriteByte('\n')
	}
	return b.String()
}

// candidate is a component as a tree of what it shows: containers that paint nothing are left out, since two drawings of one thing group it in their own way.
type candidate struct {
	Near
	tree   *Node
	counts map[string]int // nodes of each kind
	nodes  int
}

// nearBounds says how many components are named, and how like they are at least.
type nearBounds struct {
	most  int
	least float64
}

// ofFind bounds what a find is like; of what is searched for, more is worth a look.
var ofFind, ofSearch = nearBounds{3, 0.5}, nearBounds{12, 0.25}

// Like ranks the components that something drawn is like, the nearest first: layers of a document, read as one drawing. A
// use of a family is a component that was drafted from it.
func Like(doc *design.Document, layer *design.Layer, known []*contract.Contract) []Near {
	alone := &design.Document{ID: doc.ID, Name: doc.Name, Pages: []*design.Page{{Width: layer.Bounds.Width, Height: layer.Bounds.Height, Layers: []*design.Layer{layer}}}, Families: doc.Families}
	o := newOutline(alone, Options{})
	top := o.roots[0].top
	if len(top.children) == 1 {
		top = top.children[0]
	}
	out := nearest(o.drawnTree(top), contractCandidates(known), ofSearch)
	if top.what != use {
		return out
	}
	for _, c := range known {
		if c.Origin != nil && c.Origin.Document == doc.ID && c.Origin.Family == top.layer.Instance.Family {
			out = slices.DeleteFunc(out, func(n Near) bool { return n.Name == c.Name })
			out = append([]Near{{Kind: NearContract, Name: c.Name, Likeness: 1, Matches: 1, Missing: []string{}, Extra: []string{}}}, out...)
		}
	}
	return out
}

func newCandidate(n Near, tree *Node) candidate {
	c := candidate{Near: n, tree: tree, counts: map[string]int{}}
	c.nodes = countNodes(tree, c.counts)
	return c
}

func contractCandidates(known []*contract.Contract) (out []candidate) {
	for _, c := range known {
		out = append(out, newCandidate(Near{Kind: NearContract, Name: c.Name}, contractTree(c.Root)))
	}
	return out
}

func (o *outline) candidates(known Known) []candidate {
	out := contractCandidates(known.Contracts)
	add := func(n Near, tree *Node) { out = append(out, newCandidate(n, tree)) }
	type drawn struct {
		family *design.Family
		exact  uint64
	}
	seen := map[drawn]bool{}
	for _, r := range o.roots {
		if r.variant == nil || seen[drawn{r.family, r.top.exact}] {
			continue
		}
		seen[drawn{r.family, r.top.exact}] = true
		add(Near{Kind: NearFamily, Name: r.family.Name, ID: r.family.ID}, o.drawnTree(r.top))
	}
	for _, c := range known.Starts {
		add(Near{Kind: NearStart, Name: c.Name}, contractTree(c.Root))
	}
	return out
}

func countNodes(n *Node, counts map[string]int) int {
	counts[n.Is]++
	all := 1
	for _, c := range n.Children {
		all += countNodes(c, counts)
	}
	return all
}

// drawnTree gives what a shape shows, its ids those of layers.
func (o *outline) drawnTree(s *shape) *Node {
	n := &Node{Is: "component", ID: s.id()}
	n.Children = o.shows(s)
	return n
}

func (o *outline) shows(s *shape) (out []*Node) {
	forAlike(s.children, func(c *shape) uint64 { return c.key }, func(c *shape) {
		n := &Node{ID: c.id()}
		switch c.what {
		case words:
			n.Is = "text"
		case drawing, picture:
			n.Is = "picture"
			if c.what == drawing && isIcon(c) {
				n.Is = "icon"
			}
		case place:
			n.Is = "slot"
		case use:
			n.Is = "use"
			if f := o.doc.Family(c.layer.Instance.Family); f != nil {
				n.Is = "use of " + contract.ComponentName(f.Name)
			}
		case block:
			n.Is = "box"
		default:
			if c.layer == nil || !paints(c.layer) {
				out = append(out, o.shows(c)...)
				return
			}
			n.Is = "box"
			n.Children = o.shows(c)
		}
		out = append(out, n)
	})
	return inOrder(out)
}

// inOrder puts trees in an order that does not depend on how things were listed.
func inOrder(list []*Node) []*Node {
	slices.SortStableFunc(list, func(a, b *Node) int { return cmp.Or(cmp.Compare(a.Is, b.Is), len(b.Children)-len(a.Children)) })
	return list
}

// contractTree gives what a contract's part shows, its ids the parts' names.
func contractTree(root *contract.Part) *Node {
	n := &Node{Is: "component", ID: root.Name, Children: partShows(root)}
	if k := contentOf(root); k != "" && k != "use" {
		n.Children = inOrder(append(n.Children, &Node{Is: k, ID: root.Name}))
	}
	return n
}

func partShows(p *contract.Part) (out []*Node) {
	for _, c := range p.Children {
		n := &Node{Is: contentOf(c), ID: c.Name}
		switch {
		case n.Is == "use":
			n.Is = "use of " + c.Use().Component
		case n.Is != "":
		case len(c.Children) == 0 || c.Style["background-color"] != "" || c.Style["border-width"] != "" || c.Style["background-image"] != "":
			n.Is, n.Children = "box", partShows(c)
		default:
			shown := partShows(c)
			if c.Repeat != "" {
				shown = append(shown, partShows(c)...)
			}
			out = append(out, shown...)
			continue
		}
		out = append(out, n)
		if c.Repeat != "" { // as often as a tree has what is alike
			out = append(out, n)
		}
	}
	return inOrder(out)
}

// contentOf says what a part shows as drawings are read; nothing for a container.
func contentOf(p *contract.Part) string {
	switch p.Content.(type) {
	case contract.TextOf, contract.FixedText:
		return "text"
	case contract.IconOf:
		return "icon"
	case *contract.Vector:
		if w, ok := css.Pixels(p.Style["width"]); ok && w > largestIcon {
			return "picture"
		}
		return "icon"
	case contract.ImageOf, contract.Picture:
		return "picture"
	case contract.SlotOf:
		return "slot"
	case *contract.Use:
		return "use"
	}
	return ""
}

// nearest ranks the components that something drawn is like. A component that shares too little to be among the best is not compared.
func nearest(tree *Node, of []candidate, within nearBounds) []Near {
	out := []Near{}
	counts := map[string]int{}
	nodes := countNodes(tree, counts)
	type bound struct {
		of   int
		most float64
	}
	bounds := make([]bound, len(of))
	for i, c := range of {
		common := 0
		for k, n := range counts {
			common += min(n, c.counts[k])
		}
		bounds[i] = bound{i, 2 * float64(common-1) / max(1, float64(nodes+c.nodes-2))} // the root is always there
	}
	slices.SortStableFunc(bounds, func(a, b bound) int { return cmp.Compare(b.most, a.most) })
	names := map[string]bool{}
	for _, b := range bounds {
		if b.most <= within.least || len(out) >= within.most && b.most < out[within.most-1].Likeness {
			break
		}
		c := of[b.of]
		edits, ok := Distance(c.tree, tree)
		if !ok {
			continue
		}
		n := c.Near
		n.Missing, n.Extra = []string{}, []string{}
		for _, e := range edits {
			if e.From != "" {
				n.Missing = append(n.Missing, e.From)
			}
			if e.To != "" {
				n.Extra = append(n.Extra, e.To)
			}
		}
		if n.Likeness = 1 - float64(len(n.Missing)+len(n.Extra))/float64(max(1, nodes+c.nodes-2)); n.Likeness <= within.least {
			continue
		}
		n.Matches = c.nodes - 1 - len(n.Missing)
		if key := n.Kind + strings.ToLower(n.Name); !names[key] {
			names[key] = true
			out = append(out, n)
		} else if i := slices.IndexFunc(out, func(o Near) bool { return o.Kind+strings.ToLower(o.Name) == key }); out[i].Likeness < n.Likeness {
			out[i] = n
		}
		slices.SortStableFunc(out, func(a, b Near) int { return cmp.Compare(b.Likeness, a.Likeness) })
	}
	return out[:min(len(out), within.most)]
}
