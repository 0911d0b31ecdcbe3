package trial

import (
	"fmt"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/problem"
)

// VersionGroup are versions of one place of a page: each is there for its widths alone.
type VersionGroup struct {
	Line     int            `json:"line" doc:"Of the row they stand in; 0 for the page"`
	In       string         `json:"in" doc:"The name of the container whose width is asked, container for the nearest; empty for the viewport"`
	Versions []WidthVersion `json:"versions"`
	Gaps     []WidthSpan    `json:"gaps" doc:"Widths that no version is for"`
	Overlaps []WidthSpan    `json:"overlaps" doc:"Widths that several are for"`
}

// WidthVersion is what is there for a range of widths.
type WidthVersion struct {
	WidthSpan
	Line int    `json:"line"`
	What string `json:"what" doc:"The names of what it holds; empty for nothing, on purpose"`
}

// WidthSpan is a range of widths, px: from one on, and less than another.
type WidthSpan struct {
	From  float64 `json:"from"`
	Below float64 `json:"below" doc:"0 for no end"`
}

func (s WidthSpan) String() string {
	switch {
	case s.Below == 0:
		return "from " + css.FormatNumber(s.From) + " px on"
	case s.From == 0:
		return "below " + css.FormatNumber(s.Below) + " px"
	}
	return "from " + css.FormatNumber(s.From) + " to " + css.FormatNumber(s.Below) + " px"
}

// isVersion tells whether a row is there for some widths, and not what is otherwise of the row around.
func (r *Row) isVersion() bool { return r.Kind == WidthRow && (r.None || len(r.Children) > 0) }

// Versions lists the versions of a page, by the places they are of and what they ask the width of, in the order of the rows.
func Versions(rows []*Row) (out []VersionGroup) {
	at := func(list []*Row, line int) { out = append(out, groupsOf(list, line)...) }
	at(rows, 0)
	Walk(rows, func(r, _ *Row) { at(r.Children, r.Line) })
	return out
}

// groupsOf gives the versions among rows that stand beside each other.
func groupsOf(list []*Row, line int) (out []VersionGroup) {
	for _, r := range list {
		if !r.isVersion() {
			continue
		}
		i := slices.IndexFunc(out, func(g VersionGroup) bool { return g.In == r.In })
		if i < 0 {
			i = len(out)
			out = append(out, VersionGroup{Line: line, In: r.In, Gaps: []WidthSpan{}, Overlaps: []WidthSpan{}})
		}
		var names []string
		for _, c := range r.Children {
			if c.Kind != NoteRow {
				names = append(names, c.named())
			}
		}
		out[i].Versions = append(out[i].Versions, WidthVersion{WidthSpan{r.Range.From, r.Range.Below}, r.Line, strings.Join(names, ", ")})
	}
	for i := range out {
		out[i].Gaps, out[i].Overlaps = covered(out[i].Versions)
	}
	return out
}

// named is what a row is called in a sentence.
func (r *Row) named() string {
	switch {
	case r.Kind == EachRow || r.Kind == WithRow:
		return r.String()
	case r.Said != nil && r.Said.Value != "":
		return r.Head + " " + r.Said.String()
	}
	return r.Head
}

// covered tells which widths no version is for, and which several are.
func covered(list []WidthVersion) (gaps, overlaps []WidthSpan) {
	gaps, overlaps = []WidthSpan{}, []WidthSpan{}
	cuts := []float64{0}
	for _, v := range list {
		cuts = append(cuts, v.From)
		if v.Below > 0 {
			cuts = append(cuts, v.Below)
		}
	}
	slices.Sort(cuts)
	cuts = slices.Compact(cuts)
	add := func(to []WidthSpan, s WidthSpan) []WidthSpan {
		if last := len(to) - 1; last >= 0 && to[last].Below == s.From {
			to[last].Below = s.Below
			return to
		}
		return append(to, s)
	}
	for i, from := range cuts {
		s := WidthSpan{From: from}
		inside := from + 1
		if i+1 < len(cuts) {
			s.Below = cuts[i+1]
			inside = (from + s.Below) / 2
		}
		n := 0
		for _, v := range list {
			if (contract.Range{From: v.From, Below: v.Below}).Holds(inside) {
				n++
			}
		}
		switch {
		case n == 0:
			gaps = add(gaps, s)
		case n > 1:
			overlaps = add(overlaps, s)
		}
	}
	return gaps, overlaps
}

// covered tells of versions beside each other that leave widths out, or meet.
func (c *compiler) covered(list []*Row) {
	for _, g := range groupsOf(list, 0) {
		line := g.Versions[0].Line
		for _, s := range g.Gaps {
			c.page.Found = append(c.page.Found, problem.Problem{Line: line, Column: 1, Rule: "version-gap", Severity: problem.Error,
				Message: fmt.Sprintf("No version is for widths %s.", s), Fix: "add one, or say none: nothing is there"})
		}
		for _, s := range g.Overlaps {
			c.page.Found = append(c.page.Found, problem.Problem{Line: line, Column: 1, Rule: "version-overlap", Severity: problem.Error,
				Message: fmt.Sprintf("Several versions are for widths %s.", s), Fix: "let one end where the next begins"})
		}
	}
}

// Switches lists the widths at which something of a page is otherwise, px, each once, the narrowest first: those of the viewport.
func Switches(rows []*Row) (out []float64) {
	Walk(rows, func(r, _ *Row) {
		if r.Kind != WidthRow || r.In != "" {
			return
		}
		for _, px := range []float64{r.Range.From, r.Range.Below} {
			if px > 0 && !slices.Contains(out, px) {
				out = append(out, px)
			}
		}
	})
	slices.Sort(out)
	return out
}
