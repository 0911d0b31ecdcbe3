package survey

// Node is a tree whose nodes are told apart by what they are: the shape of a drawing.
type Node struct {
	Is       string // what it is; nodes that are the same cost nothing to put on one another
	ID       string // of the layer it stands for
	Children []*Node
}

// Operations of an edit.
const (
	Insert = "insert"
	Delete = "delete"
	Change = "change"
)

// Edit is one step from a tree to another: a node of the second put in, one of the first taken out (its children take
// its place), or one turned into another.
type Edit struct {
	Op   string `json:"op"`
	From string `json:"from,omitempty"` // id in the first tree
	To   string `json:"to,omitempty"`   // id in the second
}

// MostNodes bounds the trees that are compared: the time grows with the product of their sizes and of their depths, which is their size again at worst.
const MostNodes = 300

// Distance is the least number of edits that turn one ordered tree into another, and those edits: nodes that are kept but are not
// the same are changes (Zhang and Shasha 1989, "Simple fast algorithms for the editing distance between trees and related problems").
// Trees of more than MostNodes nodes are not compared: the second answer is false.
func Distance(a, b *Node) (edits []Edit, ok bool) {
	x, y := postorder(a), postorder(b)
	if len(x.nodes) > MostNodes || len(y.nodes) > MostNodes {
		return nil, false
	}
	d := &distances{x: x, y: y, tree: make([]int32, len(x.nodes)*len(y.nodes)), forest: make([]int32, (len(x.nodes)+1)*(len(y.nodes)+1))}
	for _, i := range x.keyroots {
		for _, j := range y.keyroots {
			d.compare(i, j)
		}
	}
	if len(x.nodes) > 0 && len(y.nodes) > 0 {
		d.trace(len(x.nodes)-1, len(y.nodes)-1, &edits)
		return edits, true
	}
	for _, n := range x.nodes {
		edits = append(edits, Edit{Op: Delete, From: n.ID})
	}
	for _, n := range y.nodes {
		edits = append(edits, Edit{Op: Insert, To: n.ID})
	}
	return edits, true
}

// Likeness is how alike two trees are, from 0 to 1 for the same: what share of their nodes no edit touches. A change touches one of
// each.
func Likeness(a, b *Node, edits []Edit) float64 {
	nodes := a.count() + b.count()
	if nodes == 0 {
		return 1
	}
	touched := 0
	for _, e := range edits {
		if touched++; e.Op == Change {
			touched++
		}
	}
	return 1 - float64(touched)/float64(nodes)
}

func (n *Node) count() int {
	if n == nil {
		return 0
	}
	out := 1
	for _, c := range n.Children {
		out += c.count()
	}
	return out
}

// ordered is a tree's nodes from the leaves up, as the algorithm walks them.
type ordered struct {
	nodes    []*Node
	first    []int // of each node's tree, the leftmost leaf
	keyroots []int // nodes that have a sibling before them, and the root
}

func postorder(root *Node) ordered {
	var out ordered
	var walk func(n *Node) int
	walk = func(n *Node) int {
		first := -1
		for _, c := range n.Children {
			if leaf := walk(c); first < 0 {
				first = leaf
			}
		}
		if first < 0 {
			first = len(out.nodes)
		}
		out.nodes, out.first = append(out.nodes, n), append(out.first, first)
		return first
	}
	if root != nil {
		walk(root)
	}
	seen := make([]bool, len(out.nodes))
	for i := len(out.nodes) - 1; i >= 0; i-- { // the highest of those with one leftmost leaf
		if !seen[out.first[i]] {
			seen[out.first[i]] = true
			out.keyroots = append(out.keyroots, i)
		}
	}
	for i, j := 0, len(out.keyroots)-1; i < j; i, j = i+1, j-1 {
		out.keyroots[i], out.keyroots[j] = out.keyroots[j], out.keyroots[i]
	}
	return out
}

type distances struct {
	x, y   ordered
	tree   []int32 // between trees, by their roots
	forest []int32 // between what stands before nodes in two trees, while they are compared
}

func (d *distances) at(i, j int) *int32 { return &d.tree[i*len(d.y.nodes)+j] }

// cell is the distance of the forests from the leftmost leaves of two trees up to, but not with, nodes i and j.
func (d *distances) cell(i, j int) *int32 { return &d.forest[i*(len(d.y.nodes)+1)+j] }

func (d *distances) changed(i, j int) int32 {
	if d.x.nodes[i].Is == d.y.nodes[j].Is {
		return 0
	}
	return 1
}

// compare fills the forest distances of two trees, and the tree distances of those in them that share their leftmost leaves.
func (d *distances) compare(i, j int) {
	li, lj := d.x.first[i], d.y.first[j]
	*d.cell(li, lj) = 0
	for a := li; a <= i; a++ {
		*d.cell(a+1, lj) = *d.cell(a, lj) + 1
	}
	for b := lj; b <= j; b++ {
		*d.cell(li, b+1) = *d.cell(li, b) + 1
	}
	for a := li; a <= i; a++ {
		for b := lj; b <= j; b++ {
			best := min(*d.cell(a, b+1), *d.cell(a+1, b)) + 1
			if d.x.first[a] == li && d.y.first[b] == lj { // both are whole trees
				best = min(best, *d.cell(a, b)+d.changed(a, b))
				*d.at(a, b) = best
			} else {
				best = min(best, *d.cell(d.x.first[a], d.y.first[b])+*d.at(a, b))
			}
			*d.cell(a+1, b+1) = best
		}
	}
}

// trace finds the edits between two trees, whose forest distances it fills again.
func (d *distances) trace(i, j int, edits *[]Edit) {
	d.compare(i, j)
	li, lj := d.x.first[i], d.y.first[j]
	type pair struct{ a, b int }
	var inner []pair // trees that were put on one another whole; looked at after this one, which they would write over
	a, b := i+1, j+1
	for a > li || b > lj {
		here := *d.cell(a, b)
		switch {
		case a > li && here == *d.cell(a-1, b)+1:
			a--
			*edits = append(*edits, Edit{Op: Delete, From: d.x.nodes[a].ID})
		case b > lj && here == *d.cell(a, b-1)+1:
			b--
			*edits = append(*edits, Edit{Op: Insert, To: d.y.nodes[b].ID})
		case d.x.first[a-1] == li && d.y.first[b-1] == lj:
			a, b = a-1, b-1
			if d.changed(a, b) == 1 {
				*edits = append(*edits, Edit{Op: Change, From: d.x.nodes[a].ID, To: d.y.nodes[b].ID})
			}
		default:
			inner = append(inner, pair{a - 1, b - 1})
			a, b = d.x.first[a-1], d.y.first[b-1]
		}
	}
	for _, p := range inner {
		d.trace(p.a, p.b, edits)
	}
}
