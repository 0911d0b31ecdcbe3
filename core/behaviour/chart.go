package behaviour

// Chart is a machine made ready to run.
type Chart struct {
	Machine *Machine
	root    *node
	nodes   []*node // in document order
	byID    map[string]*node
	exprs   map[string]*Expr
}

type node struct {
	*State
	parent   *node
	children []*node // but for histories
	history  []*node
	depth    int
	order    int
	edges    []*edge
}

type edge struct {
	Transition
	source  *node
	index   int // among its state's
	targets []*node
}

// Compile makes a machine ready to run; its problems when it cannot be.
func Compile(m *Machine) (*Chart, []Problem) {
	if found := m.Problems(); len(found) > 0 {
		return nil, found
	}
	c := &Chart{Machine: m, byID: map[string]*node{}, exprs: map[string]*Expr{}}
	m.Root.Walk(func(s, parent *State) {
		n := &node{State: s, order: len(c.nodes)}
		c.nodes = append(c.nodes, n)
		c.byID[s.ID] = n
		if parent == nil {
			c.root = n
			return
		}
		n.parent = c.byID[parent.ID]
		n.depth = n.parent.depth + 1
		if s.Kind == History || s.Kind == DeepHistory {
			n.parent.history = append(n.parent.history, n)
		} else {
			n.parent.children = append(n.parent.children, n)
		}
	})
	for _, n := range c.nodes {
		for i, t := range n.On {
			n.edges = append(n.edges, &edge{t, n, i, c.all(t.To)})
		}
	}
	c.read()
	return c, nil
}

func (c *Chart) all(ids []string) (out []*node) {
	for _, id := range ids {
		out = append(out, c.byID[id])
	}
	return out
}

// Expr gives an expression of the machine.
func (c *Chart) Expr(text string) *Expr { return c.expr(text) }

// expr gives an expression that is known to be one.
func (c *Chart) expr(text string) *Expr {
	if e := c.exprs[text]; e != nil {
		return e
	}
	e, _ := ParseExpr(text) // Problems has read it
	return e
}

// read reads all expressions at once: charts are shared by those who run them.
func (c *Chart) read() {
	keep := func(text string) {
		if text != "" {
			c.exprs[text], _ = ParseExpr(text)
		}
	}
	for _, n := range c.nodes {
		for _, t := range append([]Transition{{Do: n.Entry}, {Do: n.Exit}}, n.On...) {
			keep(t.If)
			for _, a := range t.Do {
				keep(a.To)
				keep(a.With)
			}
		}
		for _, s := range n.Sets {
			keep(s.Value)
		}
	}
}

func (n *node) in(other *node) bool {
	for p := n.parent; p != nil; p = p.parent {
		if p == other {
			return true
		}
	}
	return false
}

func (n *node) compound() bool { return n.Kind == Plain && len(n.children) > 0 }

// initial lists what is entered with a compound state.
func (c *Chart) initial(n *node) []*node {
	if len(n.Initial) > 0 {
		return c.all(n.Initial)
	}
	return n.children[:1]
}
