package drift

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"
)

// DriftPoint is how far design, contract and code agree at a time.
type DriftPoint struct {
	ID         int64     `json:"id"`
	At         time.Time `json:"at"`
	Why        string    `json:"why" doc:"What had happened, in words"`
	Design     string    `json:"design" doc:"Revisions of the designs"`
	Code       string    `json:"code" doc:"The commit that was read; empty for none"`
	Components []Stand   `json:"components"`
}

// Stand is how one component stands. Facts are those that its contract says.
type Stand struct {
	Slug     string `json:"slug"`
	Name     string `json:"name"`
	Version  string `json:"version" doc:"Newest release; empty for none"`
	Facts    int    `json:"facts"`
	Design   int    `json:"design" doc:"Moves of the design that wait"`
	Contract int    `json:"contract" doc:"Moves of the contract that the design, or the code, does not say yet"`
	Code     int    `json:"code" doc:"Moves of the code that wait"`
	Several  int    `json:"several" doc:"Moves of both"`
	Apart    int    `json:"apart" doc:"Moves that may stay: kept, left or asked about"`
	Released bool   `json:"released" doc:"The newest release is what the contract says"`
}

// Open is how many moves wait for somebody.
func (s Stand) Open() int { return s.Design + s.Contract + s.Code + s.Several }

// Level tells whether all that is said of a component is agreed.
func (s Stand) Level() bool { return s.Open() == 0 }

// Sum adds up what components come to.
func (p DriftPoint) Sum() (out Stand) {
	for _, c := range p.Components {
		out.Facts += c.Facts
		out.Design += c.Design
		out.Contract += c.Contract
		out.Code += c.Code
		out.Several += c.Several
		out.Apart += c.Apart
	}
	return out
}

// Why says in words what happened from one point to the next.
func Why(last, now DriftPoint) string {
	var what []string
	if was := strings.Split(last.Design, ", "); last.Design != now.Design {
		for _, d := range strings.Split(now.Design, ", ") {
			if !slices.Contains(was, d) {
				what = append(what, d)
			}
		}
	}
	if now.Code != last.Code {
		what = append(what, cmp.Or(now.Code, "the code is not read any more"))
	}
	if what != nil {
		return strings.Join(what, ", ")
	}
	var names []string
	for _, c := range now.Components {
		if !slices.Contains(last.Components, c) {
			names = append(names, c.Name)
		}
	}
	if len(names) == 0 {
		return "a component went"
	}
	if len(names) > 3 {
		names = append(names[:3], fmt.Sprintf("%d more", len(names)-3))
	}
	return strings.Join(names, ", ")
}

// level counts components of which all is agreed.
func (p DriftPoint) level() (n int) {
	for _, c := range p.Components {
		if c.Level() {
			n++
		}
	}
	return n
}

// Report is how two points differ, and the way between them.
type Report struct {
	Project string       `json:"project"`
	From    DriftPoint   `json:"from"`
	To      DriftPoint   `json:"to"`
	Level   [2]int       `json:"level" doc:"Components of which all is agreed, at each"`
	Open    [2]int       `json:"open" doc:"Moves that wait, at each"`
	Changes []Difference `json:"changes" doc:"Components that stand otherwise"`
	Way     []Count      `json:"way" doc:"All points from the first to the last, in their order"`
	Decided []Ruling     `json:"decided" doc:"What was decided between them"`
}

// Count is a point of the plot.
type Count struct {
	At       time.Time `json:"at"`
	Why      string    `json:"why"`
	Level    int       `json:"level"`
	Of       int       `json:"of" doc:"Components"`
	Design   int       `json:"design"`
	Contract int       `json:"contract"`
	Code     int       `json:"code"`
	Several  int       `json:"several"`
}

// Difference is how one component stands at both ends; nil where it is not there.
type Difference struct {
	Name string `json:"name"`
	From *Stand `json:"from,omitempty"`
	To   *Stand `json:"to,omitempty"`
}

// Reported compares the first and the last of points, which are in order of time; records outside of their time are left out. ok is false for no points.
func Reported(project string, points []DriftPoint, records []Ruling) (out Report, ok bool) {
	if len(points) == 0 {
		return out, false
	}
	from, to := points[0], points[len(points)-1]
	out = Report{Project: project, From: from, To: to, Level: [2]int{from.level(), to.level()}, Open: [2]int{open(from), open(to)}, Changes: []Difference{}, Way: []Count{}, Decided: []Ruling{}}
	for _, p := range points {
		s := p.Sum()
		out.Way = append(out.Way, Count{p.At, p.Why, p.level(), len(p.Components), s.Design, s.Contract, s.Code, s.Several})
	}
	bySlug := map[string]*Difference{}
	for i, p := range []DriftPoint{from, to} {
		for _, c := range p.Components {
			d := bySlug[c.Slug]
			if d == nil {
				d = &Difference{}
				bySlug[c.Slug] = d
			}
			d.Name = c.Name
			if i == 0 {
				d.From = &c
			} else {
				d.To = &c
			}
		}
	}
	for _, d := range bySlug {
		if d.From == nil || d.To == nil || *d.From != *d.To {
			out.Changes = append(out.Changes, *d)
		}
	}
	slices.SortFunc(out.Changes, func(a, b Difference) int { return cmp.Compare(a.Name, b.Name) })
	for _, r := range records {
		if r.Undone == nil && r.When.After(from.At) && !r.When.After(to.At) {
			out.Decided = append(out.Decided, r)
		}
	}
	return out, true
}

func open(p DriftPoint) int { return p.Sum().Open() }
