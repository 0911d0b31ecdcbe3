package trial

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"cobrik/core/css"
	"cobrik/core/design"
)

// Built is one thing of a page as a browser laid it out.
type Built struct {
	Key  string      `json:"key" maxLength:"400" doc:"Of the part; one of several with the item behind it: plotCard[2]"`
	Box  design.Rect `json:"box" doc:"On the page"`
	Text string      `json:"text" maxLength:"20000"`
}

// DifferenceKind is how a page is otherwise than its drawing.
type DifferenceKind string

const (
	MissingDifference DifferenceKind = "missing" // drawn, and not on the page
	GapDifference     DifferenceKind = "gap"     // drawn, and nothing is there for it
	ExtraDifference   DifferenceKind = "extra"   // on the page, and not drawn
	OrderDifference   DifferenceKind = "order"
	PlaceDifference   DifferenceKind = "place"
	SizeDifference    DifferenceKind = "size"
	WordsDifference   DifferenceKind = "words"
)

// PageDifference is one thing that is otherwise on the page than drawn.
type PageDifference struct {
	Kind    DifferenceKind `json:"kind" enum:"missing,gap,extra,order,place,size,words"`
	Name    string         `json:"name" doc:"What is otherwise: a component, else what a text says"`
	Line    int            `json:"line" doc:"Of the row; 0 for what is not on the page"`
	Key     string         `json:"key" doc:"Of the part; empty for what is not on the page"`
	Layer   string         `json:"layer" doc:"Of the drawing; empty for what is not drawn"`
	Drawn   string         `json:"drawn" doc:"What the drawing says"`
	Built   string         `json:"built" doc:"What the page says"`
	Follows string         `json:"follows" doc:"The name of what it follows from, and is not counted by itself; empty for nothing"`
	Box     design.Rect    `json:"box" doc:"On the page, of what is there; else as drawn"`
}

// PageComparison is a page held to its drawing at a width.
type PageComparison struct {
	Width       float64          `json:"width"`
	Pieces      int              `json:"pieces" doc:"Things of the drawing that are there"`
	Drawn       int              `json:"drawn" doc:"Things that are drawn"`
	Counted     int              `json:"counted" doc:"Differences that follow from no other"`
	Differences []PageDifference `json:"differences"`
}

// level is how many px an edge may be off: what is drawn at halves of pixels is level with what is painted at whole ones.
const level = 1.0

// pair is something drawn and what is there for it.
type pair struct {
	drawn Drawn
	built Built
	piece Piece
	rank  int // among what was built
}

// Compare holds a page, as it was laid out at a width, to its drawing: what is missing, what is extra, what stands in another order,
// at another place, or is of another size. What only follows from another difference above it says so.
func Compare(p *Page, drawn []Drawn, built []Built, width float64) PageComparison {
	out := PageComparison{Width: width, Drawn: len(drawn), Differences: []PageDifference{}}
	pieces := map[string]Piece{}
	for _, one := range p.Pieces {
		pieces[one.Part] = one
	}
	var there []pair
	for _, b := range built {
		id, _, _ := strings.Cut(b.Key, "[")
		if piece, ok := pieces[id]; ok && !strings.Contains(b.Key, "/") && b.Box.Width > 0 && b.Box.Height > 0 {
			b.Text = unbroken(b.Text)
			there = append(there, pair{built: b, piece: piece, rank: len(there)})
		}
	}
	taken := make([]bool, len(there))
	var pairs []pair
	lost := map[int]bool{}
	match := func(fits func(d Drawn, q pair) bool) {
		for i, d := range drawn {
			if lost[i] {
				continue
			}
			for k, q := range there {
				if !taken[k] && fits(d, q) {
					taken[k], lost[i] = true, true
					q.drawn = d
					pairs = append(pairs, q)
					break
				}
			}
		}
	}
	component := func(d Drawn, q pair) bool {
		return !d.Gap && !q.piece.Gap && d.Component == q.piece.Component
	}
	match(func(d Drawn, q pair) bool { return component(d, q) && squeezed(d.Text) == squeezed(q.built.Text) })
	match(func(d Drawn, q pair) bool { return component(d, q) && d.Component != "" && near(d.Box, q.built.Box) })
	match(func(d Drawn, q pair) bool { return component(d, q) && d.Component != "" })
	match(func(d Drawn, q pair) bool { return d.Gap && q.piece.Gap && d.Name == q.piece.Name })
	match(func(d Drawn, q pair) bool { return component(d, q) && near(d.Box, q.built.Box) })
	for i, d := range drawn {
		if !lost[i] {
			kind := MissingDifference
			if d.Gap {
				kind = GapDifference
			}
			out.Differences = append(out.Differences, PageDifference{Kind: kind, Name: d.called(), Layer: d.Layer, Drawn: placed(d.Box), Box: d.Box})
		}
	}
	for k, q := range there {
		if !taken[k] {
			out.Differences = append(out.Differences, PageDifference{Kind: ExtraDifference, Name: q.called(), Line: q.piece.Line, Key: q.built.Key, Built: placed(q.built.Box), Box: q.built.Box})
		}
	}
	byPlace(drawn, pairs)
	for i, q := range pairs {
		of := PageDifference{Name: q.called(), Line: q.piece.Line, Key: q.built.Key, Layer: q.drawn.Layer, Box: q.built.Box}
		add := func(kind DifferenceKind, drawn, built, follows string) {
			d := of
			d.Kind, d.Drawn, d.Built, d.Follows = kind, drawn, built, follows
			out.Differences = append(out.Differences, d)
		}
		if q.piece.Gap {
			add(GapDifference, placed(q.drawn.Box), "nothing yet", "")
		} else {
			out.Pieces++
		}
		if !q.piece.Gap && !q.piece.Filled && squeezed(q.drawn.Text) != squeezed(q.built.Text) {
			add(WordsDifference, q.drawn.Text, q.built.Text, "")
		}
		if over := outOfOrder(pairs, i); over != "" {
			add(OrderDifference, "before "+over, "behind it", "")
		}
		a, b := q.drawn.Box, q.built.Box
		if q.drawn.Component != "" || q.piece.Gap {
			if off(a.Width, b.Width) || off(a.Height, b.Height) {
				add(SizeDifference, sized(a), sized(b), "")
			}
		}
		if off(a.X, b.X) || off(a.Y, b.Y) {
			add(PlaceDifference, at(a), at(b), follows(pairs, i))
		}
	}
	slices.SortStableFunc(out.Differences, func(a, b PageDifference) int {
		return cmp.Or(cmp.Compare(math.Round(a.Box.Y), math.Round(b.Box.Y)), cmp.Compare(a.Box.X, b.Box.X))
	})
	for _, d := range out.Differences {
		if d.Follows == "" {
			out.Counted++
		}
	}
	return out
}

func off(a, b float64) bool { return math.Abs(a-b) > level }

// squeezed is a text in which neither room nor the order of its parts counts: a drawing has its own order of layers.
func squeezed(text string) string {
	letters := []rune(strings.Join(strings.Fields(text), ""))
	slices.Sort(letters)
	return string(letters)
}

// near tells whether two boxes lie on each other for the most part.
func near(a, b design.Rect) bool {
	w := min(a.X+a.Width, b.X+b.Width) - max(a.X, b.X)
	h := min(a.Y+a.Height, b.Y+b.Height) - max(a.Y, b.Y)
	return w > 0 && h > 0 && w*h > 0.5*min(a.Width*a.Height, b.Width*b.Height)
}

func (d Drawn) called() string {
	if d.Component != "" {
		return d.Component
	}
	if d.Gap {
		return d.Name
	}
	return short(d.Text)
}

func (q pair) called() string {
	switch {
	case q.piece.Component != "":
		return q.piece.Component
	case q.piece.Gap:
		return q.piece.Name
	case q.built.Text != "":
		return short(q.built.Text)
	}
	return q.piece.Name
}

func short(text string) string {
	if letters := []rune(text); len(letters) > 40 {
		return string(letters[:39]) + "…"
	}
	return text
}

func sized(b design.Rect) string { return tenth(b.Width) + " × " + tenth(b.Height) }
func at(b design.Rect) string    { return tenth(b.X) + ", " + tenth(b.Y) }

func placed(b design.Rect) string { return fmt.Sprintf("%s at %s", sized(b), at(b)) }

// tenth writes px to a tenth.
func tenth(v float64) string { return css.FormatNumber(math.Round(v*10) / 10) }

// byPlace puts pairs in the order of the drawing.
func byPlace(drawn []Drawn, pairs []pair) {
	rank := map[string]int{}
	for i, d := range drawn {
		rank[d.Layer] = i
	}
	slices.SortStableFunc(pairs, func(a, b pair) int {
		x, y := a.drawn.Box, b.drawn.Box
		if y0 := math.Min(x.Y+x.Height, y.Y+y.Height) - math.Max(x.Y, y.Y); y0 <= 0 { // one above the other
			return cmp.Compare(x.Y, y.Y)
		}
		return cmp.Or(cmp.Compare(x.X, y.X), cmp.Compare(x.Y, y.Y), rank[a.drawn.Layer]-rank[b.drawn.Layer])
	})
}

// outOfOrder names what comes later in the drawing, and before on the page; empty for nothing.
func outOfOrder(pairs []pair, i int) string {
	q := pairs[i]
	for _, later := range pairs[i+1:] {
		if before(later.built.Box, q.built.Box) && before(q.drawn.Box, later.drawn.Box) {
			return later.called()
		}
	}
	return ""
}

// before tells whether a box is read before another: it ends above it, or beside it on the left.
func before(a, b design.Rect) bool {
	if a.Y+a.Height <= b.Y+level {
		return true
	}
	beside := a.Y < b.Y+b.Height && b.Y < a.Y+a.Height
	return beside && a.X+a.Width <= b.X+level
}

// follows names what moved something: what is above it, or beside it on the left, is off by as much, by its place or its size.
func follows(pairs []pair, i int) string {
	q := pairs[i]
	dx, dy := q.built.Box.X-q.drawn.Box.X, q.built.Box.Y-q.drawn.Box.Y
	causeX, causeY := math.Abs(dx) <= level, math.Abs(dy) <= level
	name := ""
	for k, o := range pairs {
		if k == i {
			continue
		}
		a, b := o.drawn.Box, o.built.Box
		if !causeY && a.Y+a.Height <= q.drawn.Box.Y+level && math.Abs(b.Y+b.Height-a.Y-a.Height-dy) <= level {
			causeY, name = true, o.called()
		}
		if !causeX && a.X+a.Width <= q.drawn.Box.X+level && a.Y < q.drawn.Box.Y+q.drawn.Box.Height && q.drawn.Box.Y < a.Y+a.Height && math.Abs(b.X+b.Width-a.X-a.Width-dx) <= level {
			causeX, name = true, o.called()
		}
	}
	if causeX && causeY {
		return name
	}
	return ""
}
