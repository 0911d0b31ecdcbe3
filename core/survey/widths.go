package survey

import (
	"cmp"
	"regexp"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
)

// PageWidths are pages that draw the same thing at several widths.
type PageWidths struct {
	Name    string    `json:"name"`
	Pages   []string  `json:"pages"` // ids, the narrowest first
	At      []float64 `json:"at"`    // their widths, px
	Pieces  []Paired  `json:"pieces"`
	Undrawn []Span    `json:"undrawn"` // widths that no drawing covers
}

// Span is a range of widths, px; without an end when To is 0.
type Span struct {
	From float64 `json:"from"`
	To   float64 `json:"to"`
}

// What happens to a piece of a page from one width to another.
const (
	Stays      = "stays"
	Shown      = "shown"      // in some widths alone
	Rearranged = "rearranged" // another order, or another arrangement inside
)

// Paired is one piece of a page in each width.
type Paired struct {
	Name   string            `json:"name"`
	Layers map[string]string `json:"layers"` // by page, the layer; none where it is not drawn
	What   string            `json:"what"`
	When   []Span            `json:"when"` // widths it is known to be shown in; between two drawings the switch is open
}

// widthWords are words that tell the width a page is drawn for (common practice, no source).
var widthWords = []string{"narrow", "wide", "mobile", "phone", "tablet", "desktop", "small", "large", "compact"}

var bareNumber = regexp.MustCompile(`^\d+(px)?$`)

// stem is a page's name without what tells its width.
func stem(name string) string {
	words := slices.DeleteFunc(contract.Words(name), func(w string) bool {
		return slices.Contains(widthWords, w) || bareNumber.MatchString(w)
	})
	return strings.Join(words, " ")
}

// widths pairs pages by their names, or else by what they say.
func (o *outline) widths() []PageWidths {
	byStem := map[string][]*root{}
	var stems []string
	for _, r := range o.roots {
		if r.page == nil {
			continue
		}
		k := stem(r.page.Name)
		if byStem[k] == nil {
			stems = append(stems, k)
		}
		byStem[k] = append(byStem[k], r)
	}
	stems = o.joinBySpeech(stems, byStem)
	out := []PageWidths{}
	for _, k := range stems {
		pages := byStem[k]
		slices.SortStableFunc(pages, func(a, b *root) int { return cmp.Compare(a.page.Width, b.page.Width) })
		pages = slices.CompactFunc(pages, func(a, b *root) bool { return a.page.Width == b.page.Width })
		if len(pages) > 1 {
			out = append(out, o.pair(pages))
		}
	}
	return out
}

// leastSaid is what share of its words a page has to have in common with one of another name to be the same page.
const leastSaid = 0.6

// joinBySpeech joins pages of unlike names that are drawn once each, at unlike widths, and say the same.
func (o *outline) joinBySpeech(stems []string, byStem map[string][]*root) []string {
	said := func(r *root) map[string]bool {
		out := map[string]bool{}
		r.top.walk(func(s *shape) bool {
			if s.what == words {
				out[s.layer.Text.Content] = true
			}
			return true
		})
		return out
	}
	gone := map[string]bool{}
	for i, a := range stems {
		if len(byStem[a]) != 1 || gone[a] || len(stems) > mostSpeech {
			continue
		}
		mine := said(byStem[a][0])
		for _, b := range stems[i+1:] {
			if len(byStem[b]) != 1 || gone[b] || byStem[a][0].page.Width == byStem[b][0].page.Width {
				continue
			}
			theirs, both := said(byStem[b][0]), 0
			for w := range mine {
				if theirs[w] {
					both++
				}
			}
			if least := min(len(mine), len(theirs)); least > 2 && float64(both) >= leastSaid*float64(max(len(mine), len(theirs))) {
				byStem[a] = append(byStem[a], byStem[b]...)
				gone[b] = true
			}
		}
	}
	return slices.DeleteFunc(stems, func(k string) bool { return gone[k] })
}

// mostSpeech bounds the pages whose words are compared each with each.
const mostSpeech = 60

// pair finds the pieces of a page in each width.
func (o *outline) pair(pages []*root) PageWidths {
	out := PageWidths{Name: pages[len(pages)-1].page.Name, Pieces: []Paired{}}
	type piece struct {
		in    []*shape // by page
		place []int    // among the pieces of that page
	}
	var pieces []*piece
	for i := len(pages) - 1; i >= 0; i-- { // the widest says most
		tops := slices.Clone(pages[i].top.children)
		sortByPlace(tops)
		for n, s := range tops {
			var best *piece
			most := 0.0
			for _, p := range pieces {
				if p.in[i] != nil {
					continue
				}
				for _, other := range p.in {
					if other != nil {
						if k := samePiece(other, s); k > most {
							most, best = k, p
						}
						break
					}
				}
			}
			if best == nil || most < 1 {
				best = &piece{in: make([]*shape, len(pages)), place: make([]int, len(pages))}
				pieces = append(pieces, best)
			}
			best.in[i], best.place[i] = s, n
		}
	}
	for _, p := range pages {
		out.Pages, out.At = append(out.Pages, p.page.ID), append(out.At, p.page.Width)
	}
	for _, p := range pieces {
		one := Paired{Layers: map[string]string{}, What: Stays, When: []Span{}}
		var last *shape
		lastPage := 0
		for i, s := range p.in {
			if s == nil {
				one.What = Shown
				continue
			}
			one.Layers[pages[i].page.ID] = s.id()
			one.Name = pieceName(o.doc, s)
			one.When = append(one.When, Span{pages[i].page.Width, pages[i].page.Width})
			if last != nil && one.What == Stays && (last.class != s.class || crossed(pieces, func(q *piece) (int, int, bool) {
				return q.place[lastPage] - p.place[lastPage], q.place[i] - p.place[i], q.in[lastPage] != nil && q.in[i] != nil
			})) {
				one.What = Rearranged
			}
			last, lastPage = s, i
		}
		out.Pieces = append(out.Pieces, one)
	}
	out.Undrawn = undrawn(out.At)
	return out
}

// crossed tells whether a piece stands before another in one width and after it in the other.
func crossed[T any](pieces []T, places func(T) (one, other int, both bool)) bool {
	return slices.ContainsFunc(pieces, func(p T) bool {
		a, b, both := places(p)
		return both && a*b < 0
	})
}

// samePiece says how surely two things on pages of two widths are the same: 1 and more when they are.
func samePiece(a, b *shape) (score float64) {
	if a.what == use && b.what == use && a.layer.Instance.Family == b.layer.Instance.Family {
		score++
	}
	if a.class > 0 && a.class == b.class {
		score++
	}
	if a.copyOf != nil && a.copyOf == b.copyOf {
		score++
	}
	if r := a.role(); r != "" && r == b.role() && a.what == b.what {
		score++
	}
	said := func(s *shape) (out []string) {
		s.walk(func(c *shape) bool {
			switch c.what {
			case words:
				out = append(out, c.layer.Text.Content)
			case use:
				for _, o := range c.layer.Instance.Overrides {
					if o.Text != nil {
						out = append(out, *o.Text)
					}
				}
			}
			return true
		})
		return out
	}
	x, y := said(a), said(b)
	both := 0
	for _, w := range x {
		if slices.Contains(y, w) {
			both++
		}
	}
	if n := max(len(x), len(y)); n > 0 {
		score += 1.5 * float64(both) / float64(n)
	}
	return score
}

func pieceName(doc *design.Document, s *shape) string {
	if s.what == use {
		if f := doc.Family(s.layer.Instance.Family); f != nil {
			return f.Name
		}
	}
	return nameOfLayer(s)
}

// undrawn lists the ranges of widths between, below and above drawings.
func undrawn(at []float64) (out []Span) {
	if at[0] > 320 {
		out = append(out, Span{320, at[0]})
	}
	for i := 1; i < len(at); i++ {
		out = append(out, Span{at[i-1], at[i]})
	}
	return append(out, Span{From: at[len(at)-1]})
}
