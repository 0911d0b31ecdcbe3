package merge

import (
	"slices"
	"strings"

	"cobrik/core/source/syntax"
)

// item is a child of a node with what belongs to it: a comma or semicolon behind it, and the spaces before.
type item struct {
	node *syntax.Node
	id   string // it is the same item in another tree that has this, too
	lead int    // where the spaces before it begin
	from int
	to   int // past the separator
}

// text is the item with the spaces before it.
func (i item) text() string { return string(i.node.Tree.Text[i.lead:i.to]) }

// own is the item without them.
func (i item) own() string { return string(i.node.Tree.Text[i.from:i.to]) }

// flattened kinds hold one of their own kind on their left side for each further element.
var flattened = []string{"union_type", "intersection_type"}

func childrenOf(n *syntax.Node) (out []*syntax.Node) {
	for _, c := range n.Children {
		if c.Kind == n.Kind && slices.Contains(flattened, n.Kind) {
			out = append(out, childrenOf(c)...)
			continue
		}
		out = append(out, c)
	}
	return out
}

// items lists a node's children with what belongs to them.
func items(n *syntax.Node) (out []item) {
	text := string(n.Tree.Text)
	children := childrenOf(n)
	end := n.From
	if n.Kind == syntax.Block {
		end++ // past its brace
	}
	var bar *syntax.Node // between alternatives: it belongs to the one behind it
	for _, c := range children {
		last := len(out) - 1
		switch {
		case slices.Contains(flattened, n.Kind) && (c.Kind == "|" || c.Kind == "&"):
			bar = c
			continue
		case last >= 0 && (c.Kind == "," || c.Kind == ";"):
			out[last].to = c.To
			end = c.To
			continue
		case c.To == c.From:
			continue
		}
		if n.Kind == syntax.Block || n.Kind == syntax.Sheet || n.Kind == syntax.AtRule { // semicolons are no nodes there
			to := c.To
			for to < n.To && strings.ContainsRune(" \t\r\n", rune(text[to])) {
				to++
			}
			one := item{node: c, lead: end, from: c.From, to: c.To}
			if (c.Kind == syntax.Declaration || c.Kind == syntax.AtRule) && to < n.To && text[to] == ';' {
				one.to = to + 1
			}
			out = append(out, one)
			end = one.to
			continue
		}
		one := item{node: c, lead: end, from: c.From, to: c.To}
		if bar != nil {
			one.from, bar = bar.From, nil
		}
		out = append(out, one)
		end = c.To
	}
	seen := map[string]int{}
	named := 0
	for _, i := range out {
		if i.node.Named && i.node.Kind != syntax.Comment {
			named++
		}
	}
	for i := len(out) - 1; i >= 0; i-- {
		id := called(out[i].node)
		if named == 1 && out[i].node.Named && single(n) { // whatever it is, it is that one
			id = "it"
		}
		if out[i].node.Kind == syntax.Comment { // it belongs to what follows
			id = "comment"
			if i+1 < len(out) {
				id += " before " + out[i+1].id
			}
		}
		out[i].id = id
	}
	for i := range out {
		seen[out[i].id]++
		if n := seen[out[i].id]; n > 1 {
			out[i].id += " #" + strings.Repeat("i", n)
		}
	}
	return out
}

// single tells whether a node holds one thing and no list.
func single(n *syntax.Node) bool {
	return n.Is("jsx_expression", "parenthesized_expression", "template_substitution", "return_statement", "expression_statement", "spread_element", "type_annotation", "jsx_attribute")
}

// fixed kinds hold their children by their fields, each once: a condition, a body. All others hold a list.
func fixed(list []item) bool {
	seen := map[string]bool{}
	for _, i := range list {
		if !i.node.Named || i.node.Kind == syntax.Comment {
			continue
		}
		if i.node.Field == "" || seen[i.node.Field] {
			return false
		}
		seen[i.node.Field] = true
	}
	return true
}

// list merges what three nodes hold; false where that cannot be told piece by piece.
func (m *merger) list(b, o, t *syntax.Node, trail []string) bool {
	ib, io, it := items(b), items(o), items(t)
	if fixed(ib) && fixed(io) && fixed(it) && b.Kind != "program" {
		return m.fields(ib, io, it, append(trail, nameOf(t)...))
	}
	trail = append(slices.Clone(trail), nameOf(t)...)
	toOurs, toTheirs := aligned(ib, io), aligned(ib, it)
	before := len(m.edits)
	conflicts := len(m.conflicts)
	replaced := m.replaced(ib, io, it, toOurs, toTheirs, trail)
	for i, one := range ib {
		ours, theirs := toOurs[i], toTheirs[i]
		switch {
		case ours >= 0 && theirs >= 0:
			m.node(one.node, io[ours].node, it[theirs].node, trail)
		case ours < 0 && theirs >= 0:
			if !one.node.Named { // punctuation that ours has no more
				m.edits, m.conflicts = m.edits[:before], m.conflicts[:conflicts]
				return false
			}
			if meaning(one.node) == meaning(it[theirs].node) {
				m.edits = append(m.edits, edit{it[theirs].lead, it[theirs].to, ""})
			} else {
				m.conflict(append(slices.Clone(trail), one.id), one.id+" is gone where it is written now, and was changed in the file", one.own(), "", it[theirs].own(), it[theirs].lead, it[theirs].to)
			}
		case ours >= 0:
			if !one.node.Named {
				m.edits, m.conflicts = m.edits[:before], m.conflicts[:conflicts]
				return false
			}
			if meaning(one.node) != meaning(io[ours].node) {
				at := m.placeAfter(ib, it, toTheirs, i)
				m.conflict(append(slices.Clone(trail), one.id), one.id+" was taken out of the file, and is otherwise where it is written now", one.own(), io[ours].own(), "", at, at)
			}
		}
	}
	m.insertions(ib, io, it, toOurs, toTheirs, replaced, trail, t)
	return true
}

// replaced finds what both took out and put something else in the place of, and gives the places of what ours put there.
func (m *merger) replaced(ib, io, it []item, toOurs, toTheirs []int, trail []string) map[int]bool {
	out := map[int]bool{}
	between := func(list []item, to []int, i int) (found []int) {
		from, until := 0, len(list)
		for k := i; k >= 0; k-- {
			if to[k] >= 0 {
				from = to[k] + 1
				break
			}
		}
		for k := i; k < len(to); k++ {
			if to[k] >= 0 {
				until = to[k]
				break
			}
		}
		for k := from; k < until; k++ {
			found = append(found, k)
		}
		return found
	}
	told := map[int]bool{}
	for i, one := range ib {
		if toOurs[i] >= 0 || toTheirs[i] >= 0 || one.node.Kind == syntax.Comment {
			continue
		}
		ours, theirs := between(io, toOurs, i), between(it, toTheirs, i)
		if len(ours) == 0 || len(theirs) == 0 || told[ours[0]] {
			continue
		}
		told[ours[0]] = true
		join := func(list []item, places []int) (text, means string) {
			text = string(list[places[0]].node.Tree.Text[list[places[0]].from:list[places[len(places)-1]].to])
			for _, k := range places {
				means += meaning(list[k].node)
			}
			return text, means
		}
		a, meansA := join(io, ours)
		b, meansB := join(it, theirs)
		for _, k := range ours {
			out[k] = true
		}
		if meansA != meansB {
			m.conflict(append(slices.Clone(trail), one.id), "both put something else in the place of "+one.id, one.own(), a, b, it[theirs[0]].from, it[theirs[len(theirs)-1]].to)
		}
	}
	return out
}

// insertions puts in what ours has and base has not.
func (m *merger) insertions(ib, io, it []item, toOurs, toTheirs []int, replaced map[int]bool, trail []string, t *syntax.Node) {
	fromOurs := make([]int, len(io))
	for i := range fromOurs {
		fromOurs[i] = -1
	}
	for i, k := range toOurs {
		if k >= 0 {
			fromOurs[k] = i
		}
	}
	theirNew := map[string]item{}
	isBase := map[int]bool{}
	for _, k := range toTheirs {
		isBase[k] = true
	}
	for k, one := range it {
		if !isBase[k] {
			theirNew[one.id] = one
		}
	}
	commas := slices.ContainsFunc(append(slices.Clone(io), it...), func(i item) bool { return strings.HasSuffix(i.own(), ",") })
	for k, one := range io {
		if fromOurs[k] >= 0 || replaced[k] {
			continue
		}
		if same, both := theirNew[one.id]; both {
			if meaning(same.node) != meaning(one.node) {
				m.conflict(append(slices.Clone(trail), one.id), "both added "+one.id, "", one.own(), same.own(), same.from, same.to)
			}
			continue
		}
		// behind what stands before it, as far as that is there
		previous := -1
		for p := k - 1; p >= 0; p-- {
			if i := fromOurs[p]; i >= 0 && toTheirs[i] >= 0 {
				previous = toTheirs[i]
				break
			}
			if same, both := theirNew[io[p].id]; both {
				previous = slices.IndexFunc(it, func(o item) bool { return o.id == same.id })
				break
			}
		}
		text := one.text()
		at := t.From
		switch {
		case previous >= 0:
			at = it[previous].to
			if separated := strings.HasSuffix(it[previous].own(), ","); commas && !separated && it[previous].node.Named && one.node.Named {
				text = "," + text
			}
			// what they put behind it stays there
		case len(it) > 0:
			at = it[0].lead
		case t.Kind == syntax.Block:
			at = t.From + 1
		}
		follows := at < len(m.theirs) && previous+1 < len(it) && it[previous+1].node.Named
		if commas && one.node.Named && follows && !strings.HasSuffix(strings.TrimSpace(text), ",") {
			text += ","
		}
		if previous < 0 && len(it) > 0 && slices.Contains(flattened, t.Kind) {
			text += " " + map[string]string{"union_type": "|", "intersection_type": "&"}[t.Kind]
		}
		if needsSemicolon(one) && follows {
			text += ";"
		}
		if previous >= 0 && needsSemicolon(it[previous]) && one.node.Named {
			text = ";" + text
		}
		m.edits = append(m.edits, edit{at, at, text})
	}
}

// needsSemicolon tells whether something of a style sheet has to be ended before anything follows.
func needsSemicolon(i item) bool {
	return i.node.Kind == syntax.Declaration && !strings.HasSuffix(i.own(), ";")
}

// placeAfter is where something stood that they took out: behind what stood before it.
func (m *merger) placeAfter(ib, it []item, toTheirs []int, i int) int {
	for ; i >= 0; i-- {
		if toTheirs[i] >= 0 {
			return it[toTheirs[i]].to
		}
	}
	if len(it) > 0 {
		return it[0].from
	}
	return 0
}

// fields merges nodes that hold the same fields, each by itself.
func (m *merger) fields(ib, io, it []item, trail []string) bool {
	shape := func(list []item) string {
		var b strings.Builder
		for _, i := range list {
			b.WriteString(i.node.Field + " " + i.node.Kind)
			if !i.node.Named {
				b.WriteString(i.node.Text())
			}
			b.WriteByte(0)
		}
		return b.String()
	}
	loose := func(list []item) string {
		var b strings.Builder
		for _, i := range list {
			b.WriteString(i.node.Field)
			if !i.node.Named {
				b.WriteString(i.node.Text())
			}
			b.WriteByte(0)
		}
		return b.String()
	}
	if shape(ib) != shape(io) && loose(ib) != loose(io) || loose(ib) != loose(it) || len(ib) != len(io) || len(ib) != len(it) {
		return false
	}
	for i := range ib {
		m.node(ib[i].node, io[i].node, it[i].node, trail)
	}
	return true
}

// aligned gives for each item of base the place of the same one in another list; -1 for none. The order is kept: the longest common
// subsequence of their names.
func aligned(a, b []item) []int {
	out := make([]int, len(a))
	lengths := make([][]int32, len(a)+1)
	for i := range lengths {
		lengths[i] = make([]int32, len(b)+1)
	}
	for i := len(a) - 1; i >= 0; i-- {
		for k := len(b) - 1; k >= 0; k-- {
			if a[i].id == b[k].id {
				lengths[i][k] = lengths[i+1][k+1] + 1
			} else {
				lengths[i][k] = max(lengths[i+1][k], lengths[i][k+1])
			}
		}
	}
	i, k := 0, 0
	for i < len(a) && k < len(b) {
		switch {
		case a[i].id == b[k].id:
			out[i] = k
			i++
			k++
		case lengths[i+1][k] >= lengths[i][k+1]:
			out[i] = -1
			i++
		default:
			k++
		}
	}
	for ; i < len(a); i++ {
		out[i] = -1
	}
	pairLoose(a, b, out)
	return out
}

// pairLoose pairs elements of one tag between the same neighbours whose classes alone are otherwise.
func pairLoose(a, b []item, out []int) {
	at := 0 // behind the last pair in b
	for i := range a {
		if out[i] >= 0 {
			at = out[i] + 1
			continue
		}
		until := len(b)
		for k := i; k < len(a); k++ {
			if out[k] >= 0 {
				until = out[k]
				break
			}
		}
		tag, _, _ := strings.Cut(a[i].id, " ")
		if !strings.HasPrefix(strings.TrimPrefix(tag, "{"), "<") || len(tag) < 2 {
			continue
		}
		for k := at; k < until; k++ {
			if other, _, _ := strings.Cut(b[k].id, " "); strings.TrimSuffix(other, "}") == strings.TrimSuffix(tag, "}") && b[k].node.Named {
				out[i], at = k, k+1
				break
			}
		}
	}
}
