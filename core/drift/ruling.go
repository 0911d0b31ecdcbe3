package drift

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"cobrik/core/contract"
)

// Ruling is what somebody decided of one component at once, and why.
type Ruling struct {
	ID        int64      `json:"id"`
	Press     int64      `json:"press" doc:"The same for what was decided at once of several components"`
	Component string     `json:"component" doc:"Its slug"`
	Of        string     `json:"of" doc:"The component's name"`
	Lane      Lane       `json:"lane" enum:"design,code"`
	At        string     `json:"at" doc:"What was read: a revision of the design, or a commit"`
	By        string     `json:"by"`
	When      time.Time  `json:"when"`
	Reason    string     `json:"reason"`
	Decided   []Decided  `json:"decided"`
	Version   string     `json:"version" doc:"Released with it; empty for none"`
	Undone    *time.Time `json:"undone,omitempty"`
	Undoable  bool       `json:"undoable" doc:"It is the last of its component that stands, and was not released"`
}

// Decided is what became of one move.
type Decided struct {
	Key      string         `json:"key"`
	Said     string         `json:"said" doc:"In a sentence"`
	Way      Way            `json:"way" enum:"take,keep,ask,back,leave,merge,clear"`
	From     string         `json:"from"`
	To       string         `json:"to"`
	Bump     contract.Level `json:"bump" enum:"none,patch,minor,major"`
	Foregone bool           `json:"foregone,omitempty" doc:"A precedence decided it"`
}

// MarkUndoable marks those that can be undone: of each component the last that stands, unless it was released. Rulings are in order of time.
func MarkUndoable(list []Ruling) {
	seen := map[string]bool{}
	for i := len(list) - 1; i >= 0; i-- {
		r := &list[i]
		if r.Undone == nil {
			r.Undoable = !seen[r.Component] && r.Version == ""
			seen[r.Component] = true
		}
	}
}

// ways in words, as lines of what was decided begin.
var ways = map[Lane]map[Way]string{
	Design: {Take: "Taken from the design", Keep: "Kept as the contract has it", Ask: "Asked of the designer", Merge: "Merged with the design"},
	Code:   {Take: "Taken from the code", Back: "Put back in the code", Leave: "Left in the code", Merge: "Merged with the code", Ask: "Asked of the designer", Clear: "Open again"},
}

// Words gives the way of a decision in words.
func (r Ruling) Words(d Decided) string { return ways[r.Lane][d.Way] }

// Find gives the records in which every word of a text occurs: in names, sentences, values, reasons, people or versions.
func Find(records []Ruling, text string) []Ruling {
	words := strings.Fields(strings.ToLower(text))
	out := []Ruling{}
	for _, r := range records {
		var all strings.Builder
		fmt.Fprintln(&all, r.Of, r.Component, r.Lane, r.At, r.By, r.Reason, r.Version, r.When.Format(time.DateOnly))
		for _, d := range r.Decided {
			fmt.Fprintln(&all, d.Said, r.Words(d), d.From, d.To, d.Bump)
		}
		in := strings.ToLower(all.String())
		if !slices.ContainsFunc(words, func(w string) bool { return !strings.Contains(in, w) }) {
			out = append(out, r)
		}
	}
	return out
}

// Reader is whom a changelog is for.
type Reader string

const (
	Designers  Reader = "designers"
	Developers Reader = "developers"
)

// Changelog writes what was decided for readers, Markdown, the newest day first. Designers read what became of what they drew, and what they are asked; developers
// what became of components and code, with the version bump of each. What was undone is in neither.
func Changelog(records []Ruling, who Reader, project string) string {
	var b strings.Builder
	fmt.Fprintf(&b, "# %s: what was decided, for %s\n", inMarkdown(project), who)
	day := ""
	for i := len(records) - 1; i >= 0; i-- {
		r := records[i]
		var lines []string
		for _, d := range r.Decided {
			if line, ok := line(r, d, who); ok {
				lines = append(lines, line)
			}
		}
		if r.Undone != nil || len(lines) == 0 {
			continue
		}
		if on := r.When.UTC().Format(time.DateOnly); on != day {
			day = on
			fmt.Fprintf(&b, "\n## %s\n", day)
		}
		head := r.Of
		if r.Version != "" && who == Developers {
			head += " " + r.Version
		}
		fmt.Fprintf(&b, "\n### %s\n\n%s, by %s.", inMarkdown(head), inMarkdown(r.At), inMarkdown(r.By))
		if r.Reason != "" {
			fmt.Fprintf(&b, " Why: %s", inMarkdown(r.Reason))
		}
		b.WriteString("\n\n" + strings.Join(lines, "\n") + "\n")
	}
	if day == "" {
		b.WriteString("\nNothing was decided yet.\n")
	}
	return b.String()
}

func line(r Ruling, d Decided, who Reader) (string, bool) {
	if d.Way == Clear || who == Designers && r.Lane == Code && d.Way != Ask && d.Way != Take && d.Way != Merge || who == Developers && (d.Way == Ask || r.Lane == Design && d.Way == Keep) {
		return "", false
	}
	out := "- " + r.Words(d) + ": " + inMarkdown(d.Said)
	if who == Developers && d.Way == Take && d.Bump != contract.None && d.Bump != "" {
		out += " (" + string(d.Bump) + ")"
	}
	return out, true
}

// inMarkdown keeps what people and files say from being read as markup (CommonMark 0.31, 2.4), on one line.
func inMarkdown(text string) string {
	var b strings.Builder
	for _, r := range strings.Join(strings.Fields(text), " ") {
		if strings.ContainsRune("\\`*_[]<>#|&~", r) {
			b.WriteByte('\\')
		}
		b.WriteRune(r)
	}
	return b.String()
}
