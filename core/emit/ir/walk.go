package ir

// WalkNodes visits a node and all below it, whatever decides whether they are there; of a use
// what stands in its slots.
func WalkNodes(n Node, visit func(Node)) {
	visit(n)
	switch n := n.(type) {
	case If:
		WalkNodes(n.Then, visit)
		if n.Else != nil {
			WalkNodes(n.Else, visit)
		}
	case For:
		WalkNodes(n.Each, visit)
	case Slot:
		for _, d := range n.Default {
			WalkNodes(d, visit)
		}
	case *Use:
		for _, g := range n.Given {
			for _, d := range g.Nodes {
				WalkNodes(d, visit)
			}
		}
	case Choose:
		for _, o := range n.Options {
			WalkNodes(o.Element, visit)
		}
	case *Element:
		for _, c := range n.Children {
			WalkNodes(c, visit)
		}
	}
}

// Walk visits every element.
func Walk(n Node, visit func(*Element)) {
	WalkNodes(n, func(n Node) {
		if e, ok := n.(*Element); ok {
			visit(e)
		}
	})
}
