package survey

import (
	"cmp"
	"math"
	"slices"

	"cobrik/core/design"
)

// cell is a place in a grid of squares whose side is a power of two.
type cell struct{ level, x, y int }

// mostInCell bounds what is looked at in one place: what is drawn hundreds of times over itself is not told apart.
const mostInCell = 64

// levels finds the boxes that a point lies in: each is kept in the squares of about its size that it touches, four at most a side of it.
type levels struct {
	cells map[cell][]int
	used  map[int]bool
	count int
}

func newLevels(n int) *levels {
	return &levels{cells: make(map[cell][]int, n), used: map[int]bool{}}
}

func (g *levels) add(i int, b design.Rect) {
	level := int(math.Ceil(math.Log2(max(b.Width, b.Height, 1))))
	side := math.Ldexp(1, level)
	for x := math.Floor(b.X / side); x <= math.Floor((b.X+b.Width)/side); x++ {
		for y := math.Floor(b.Y / side); y <= math.Floor((b.Y+b.Height)/side); y++ {
			c := cell{level, int(x), int(y)}
			if len(g.cells[c]) < mostInCell {
				g.cells[c] = append(g.cells[c], i)
			}
		}
	}
	g.used[level] = true
	g.count++
}

// at visits the boxes that may hold a point.
func (g *levels) at(x, y float64, visit func(i int)) {
	for level := range g.used {
		side := math.Ldexp(1, level)
		for _, i := range g.cells[cell{level, int(math.Floor(x / side)), int(math.Floor(y / side))}] {
			visit(i)
		}
	}
}

// squares find what stands nearest to a thing, by cells that hold about two things each.
type squares struct {
	list  []*shape
	side  float64
	cells map[cell][]int
}

func newSquares(list []*shape) *squares {
	all := list[0].box
	for _, s := range list {
		all = union(all, s.box)
	}
	n := &squares{list: list, side: max(8, math.Sqrt(all.Width*all.Height/float64(len(list))*2), max(all.Width, all.Height)/float64(len(list))), cells: map[cell][]int{}}
	for i, s := range list {
		c := n.cell(s.box)
		if len(n.cells[c]) < mostInCell {
			n.cells[c] = append(n.cells[c], i)
		}
	}
	return n
}

func (n *squares) cell(b design.Rect) cell {
	return cell{0, int(math.Floor((b.X + b.Width/2) / n.side)), int(math.Floor((b.Y + b.Height/2) / n.side))}
}

// around visits the things nearest to one, as many as asked for, of those that may be.
func (n *squares) around(i, most int, may func(j int) bool, visit func(j int)) {
	type one struct {
		j  int
		at float64
	}
	var found []one
	c := n.cell(n.list[i].box)
	for dx := -2; dx <= 2; dx++ {
		for dy := -2; dy <= 2; dy++ {
			for _, j := range n.cells[cell{0, c.x + dx, c.y + dy}] {
				if j != i && may(j) {
					found = append(found, one{j, apart(n.list[i].box, n.list[j].box)})
				}
			}
		}
	}
	slices.SortFunc(found, func(a, b one) int { return cmp.Or(cmp.Compare(a.at, b.at), a.j-b.j) })
	for _, f := range found[:min(most, len(found))] {
		visit(f.j)
	}
}
