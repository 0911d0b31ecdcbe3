package trial

import (
	"fmt"
	"maps"
	"slices"

	"cobrik/core/contract"
	"cobrik/core/css"
)

// merger lays the outline of a narrower drawing over that of a wider one: what is otherwise holds below a width.
type merger struct {
	at   float64 // px
	wide float64 // px of the widest drawing
}

// below is a row of what is otherwise in the narrow drawing.
func (m merger) below(args ...Arg) *Row {
	return &Row{Kind: WidthRow, Range: contract.Range{Below: m.at}, Args: args}
}

// only lets a row be there in one of the drawings alone.
func (m merger) only(r *Row, narrow bool) *Row {
	hidden := m.below(Arg{Name: "hidden", Kind: FlagArg})
	if narrow {
		hidden.Range = contract.Range{From: m.at}
	}
	out := *r
	out.Children = append([]*Row{hidden}, slices.DeleteFunc(slices.Clone(r.Children), func(c *Row) bool {
		return c.Kind == WidthRow && !c.isVersion() && c.Range == hidden.Range && c.In == ""
	})...)
	return &out
}

// lists lays rows that stand beside each other over each other.
func (m merger) lists(wide, narrow []*Row, head string, args []Arg) (out []*Row) {
	narrow = gathered(wide, narrow, head, args)
	wide = gathered(narrow, wide, head, args)
	pairs := m.align(wide, narrow)
	i, k := 0, 0
	for _, p := range append(pairs, [2]int{len(wide), len(narrow)}) {
		for ; i < p[0]; i++ {
			out = append(out, m.only(wide[i], false))
		}
		for ; k < p[1]; k++ {
			out = append(out, m.only(narrow[k], true))
		}
		if i < len(wide) && k < len(narrow) {
			out = append(out, m.rows(wide[i], narrow[k]))
			i, k = i+1, k+1
		}
	}
	if m.moved(out) { // it is another arrangement: each drawing has its own
		return []*Row{
			{Kind: WidthRow, Range: contract.Range{Below: m.at}, Children: narrow},
			{Kind: WidthRow, Range: contract.Range{From: m.at}, Children: wide},
		}
	}
	return out
}

// moved tells whether something is there in both drawings, in another place of each.
func (m merger) moved(rows []*Row) bool {
	wide, narrow := map[string]int{}, map[string]int{}
	var walk func(list []*Row)
	walk = func(list []*Row) {
		for _, r := range list {
			if r.isVersion() {
				continue // it is told apart already
			}
			side := 0
			for _, c := range r.Children {
				if c.Kind == WidthRow && !c.isVersion() && c.In == "" && c.arg("hidden") != nil {
					switch c.Range {
					case contract.Range{Below: m.at}:
						side = 1
					case contract.Range{From: m.at}:
						side = 2
					}
				}
			}
			switch side {
			case 1:
				maps.Copy(wide, leavesOf(r))
			case 2:
				maps.Copy(narrow, leavesOf(r))
			default:
				walk(r.Children)
			}
		}
	}
	walk(rows)
	for leaf := range wide {
		if narrow[leaf] > 0 {
			return true
		}
	}
	return false
}

// centred says room at both sides that is larger in the wide drawing as a greatest width, in the middle: so it is right between the
// two drawings, too. False where it is none.
func (m merger) centred(wide *Row, base, narrow []Arg) ([]Arg, bool) {
	room := func(args []Arg) (px float64, at int) {
		at = slices.IndexFunc(args, func(a Arg) bool { return a.Name == "padding-inline" && a.Kind == BareArg })
		if at >= 0 {
			px, _ = css.Pixels(args[at].Value)
		}
		return px, at
	}
	large, at := room(base)
	i := slices.IndexFunc(narrow, func(a Arg) bool { return a.Name == "padding-inline" })
	if at < 0 || i < 0 || large < 48 || len(wide.Args) == 0 || slices.ContainsFunc(base, func(a Arg) bool { return a.Name == "max-width" || a.Name == "width" }) {
		return nil, false
	}
	small := narrow[i]
	out := slices.Clone(base)
	out[at] = small
	most := css.FormatNumber(m.wide-2*large) + "px"
	if small.Kind == FieldArg {
		most = fmt.Sprintf("calc(%s + 2 * {%s})", most, small.Value)
	} else if px, ok := css.Pixels(small.Value); ok {
		most = css.FormatNumber(m.wide-2*large+2*px) + "px"
	}
	out = append(out, styleArg("box-sizing", "border-box"), styleArg("width", "100%"), styleArg("max-width", most), styleArg("margin-inline", "auto"))
	return out, true
}

// rows lays one row over another that is the same thing.
func (m merger) rows(wide, narrow *Row) *Row {
	out := *wide
	var widths, inside, narrowInside []*Row
	for _, c := range wide.Children {
		if c.Kind == WidthRow && !c.isVersion() {
			widths = append(widths, c)
		} else {
			inside = append(inside, c)
		}
	}
	for _, c := range narrow.Children {
		if c.Kind != WidthRow || c.isVersion() {
			narrowInside = append(narrowInside, c)
		}
	}
	now := m.below()
	effective := wide.Args
	for _, w := range widths {
		if w.In == "" && w.Range.Holds(m.at-1) {
			effective = mergedArgs(effective, w.Args)
		}
	}
	if args, ok := m.centred(wide, wide.Args, narrow.Args); ok && len(widths) == 0 && wide.Kind == PrimitiveRow {
		out.Args, effective = args, args
		narrow = &Row{Line: narrow.Line, Kind: narrow.Kind, Head: narrow.Head, Args: mergedArgs(args, narrow.Args), Children: narrow.Children}
	}
	if wide.Kind == PrimitiveRow && narrow.Head != wide.Head {
		now.Head = narrow.Head
		for _, a := range narrow.Args {
			if slices.Contains(propsOf(narrow.Head), a.Name) {
				now.Args = append(now.Args, a)
			}
		}
		now.Args = append(now.Args, otherArgs((&Row{Head: wide.Head, Args: effective}).beside(), narrow.beside(), wide.Kind)...)
	} else {
		now.Args = otherArgs(effective, narrow.Args, wide.Kind)
	}
	if len(now.Args) > 0 || now.Head != "" {
		widths = append(widths, now)
	}
	out.Children = append(widths, m.lists(inside, narrowInside, wide.Head, effective)...)
	return &out
}

// otherArgs are the arguments of one row that another has not, and what takes back those that it has more.
func otherArgs(base, other []Arg, kind RowKind) (out []Arg) {
	for _, a := range other {
		if a.Name == "like" {
			continue
		}
		i := slices.IndexFunc(base, func(b Arg) bool { return b.Name == a.Name })
		if i < 0 || base[i].String() != a.String() {
			out = append(out, a)
		}
	}
	for _, b := range base {
		if slices.ContainsFunc(other, func(a Arg) bool { return a.Name == b.Name }) || b.Name == "like" {
			continue
		}
		switch {
		case b.Name == "hidden":
			out = append(out, Arg{Name: "shown", Kind: FlagArg})
		case kind == PrimitiveRow && (b.Name == "gap" || b.Name == "padding"):
			out = append(out, styleArg(b.Name, "0px"))
		case kind == PrimitiveRow && b.Name == "columns":
			out = append(out, styleArg(b.Name, "1"))
		case kind == PrimitiveRow && b.Name == "align":
			out = append(out, styleArg(b.Name, "stretch"))
		case kind == PrimitiveRow && b.Name == "distribute":
			out = append(out, styleArg(b.Name, "start"))
		default:
			if p, known := css.PropertyNamed(b.Name); known && p.Initial != "" {
				out = append(out, styleArg(b.Name, p.Initial))
			}
		}
	}
	return out
}

// gathered puts rows that are one container in the other drawing into one, so that both have the same groups: a stack or a row of the
// gap that they had without.
func gathered(like, rows []*Row, head string, args []Arg) []*Row {
	for _, of := range like {
		inside := leavesOf(of)
		if len(inside) < 2 {
			continue
		}
		first, last := -1, -1
		for i, r := range rows {
			mine := leavesOf(r)
			if len(mine) > 0 && subset(mine, inside) {
				if first < 0 {
					first = i
				} else if last != i-1 {
					first, last = -1, -1
					break
				}
				last = i
			}
		}
		if first < 0 || last == first || last-first+1 == len(rows) {
			continue
		}
		group := &Row{Kind: PrimitiveRow, Head: "stack", Children: slices.Clone(rows[first : last+1])}
		if head == "row" {
			group.Head = "row"
		}
		for _, a := range args {
			if a.Name == "gap" {
				group.Args = append(group.Args, a)
			}
		}
		rows = slices.Concat(rows[:first], []*Row{group}, rows[last+1:])
	}
	return rows
}

// leavesOf names what a row shows: uses with their values, texts, gaps; each as often as it is there.
func leavesOf(r *Row) map[string]int {
	out := map[string]int{}
	Walk([]*Row{r}, func(c, _ *Row) {
		switch c.Kind {
		case UseRow:
			out[c.Head+" "+said(c)]++
		case ElementRow, GapRow:
			if c.Said != nil {
				out[string(c.Kind)+" "+c.Said.Value]++
			}
		}
	})
	return out
}

// said are the texts that a use is given.
func said(r *Row) string {
	text := ""
	for _, a := range r.Args {
		if _, style := css.PropertyNamed(a.Name); !style && a.Kind == TextArg {
			text += a.String() + " "
		}
	}
	return text
}

func subset(a, of map[string]int) bool {
	for k := range a {
		if of[k] == 0 {
			return false
		}
	}
	return true
}

// leastAlike is how much of what two rows show has to be the same for them to be one thing.
const leastAlike = 0.25

// same tells how much two rows are one thing, 0 to 1.
func same(a, b *Row) float64 {
	x, y := leavesOf(a), leavesOf(b)
	both, all := 0, 0
	for k, n := range x {
		both += min(n, y[k])
		all += n
	}
	for _, n := range y {
		all += n
	}
	if all -= both; all == 0 {
		if a.Kind == b.Kind && a.Head == b.Head {
			return 1
		}
		return 0
	}
	// Of a list that is shorter in one drawing, all that is there is in the other.
	share := float64(both) / float64(all)
	if small := min(sum(x), sum(y)); small > 0 && both == small && both > 1 {
		share = max(share, 0.5)
	}
	if a.Kind != b.Kind {
		return 0
	}
	if a.Kind == UseRow && a.Head == b.Head {
		share = max(share, leastAlike)
	}
	return share
}

func sum(m map[string]int) (n int) {
	for _, v := range m {
		n += v
	}
	return n
}

// align pairs rows that are one thing, in the order of both: the pairs that are alike most, taken together.
func (m merger) align(a, b []*Row) (out [][2]int) {
	best := make([][]float64, len(a)+1)
	for i := range best {
		best[i] = make([]float64, len(b)+1)
	}
	alike := make([][]float64, len(a))
	for i := len(a) - 1; i >= 0; i-- {
		alike[i] = make([]float64, len(b))
		for k := len(b) - 1; k >= 0; k-- {
			best[i][k] = max(best[i+1][k], best[i][k+1])
			if s := same(a[i], b[k]); s >= leastAlike {
				alike[i][k] = s
				best[i][k] = max(best[i][k], s+best[i+1][k+1])
			}
		}
	}
	for i, k := 0, 0; i < len(a) && k < len(b); {
		switch {
		case alike[i][k] > 0 && best[i][k] == alike[i][k]+best[i+1][k+1]:
			out = append(out, [2]int{i, k})
			i, k = i+1, k+1
		case best[i][k] == best[i+1][k]:
			i++
		default:
			k++
		}
	}
	return out
}
