// Package problem holds what every reader and checker of Cobrik reports: a
// list of things that are wrong, each with where it is and what to do.
package problem

import (
	"fmt"
	"sort"
	"strings"
)

// Severity says whether a problem stops the work or only wants a look.
type Severity string

const (
	Error   Severity = "error"
	Warning Severity = "warning"
)

// Problem is one thing wrong with an input.
type Problem struct {
	File     string   `json:"file,omitempty" doc:"Name of the file it is in"`
	Line     int      `json:"line,omitempty" doc:"Line, from 1; 0 when unknown"`
	Column   int      `json:"column,omitempty" doc:"Column in bytes, from 1; 0 when unknown"`
	Pointer  string   `json:"pointer,omitempty" doc:"JSON Pointer (RFC 6901) of the value"`
	Rule     string   `json:"rule" doc:"Stable id of the rule that was broken"`
	Severity Severity `json:"severity" enum:"error,warning"`
	Message  string   `json:"message" doc:"What is wrong"`
	Fix      string   `json:"fix,omitempty" doc:"What was expected, or what to do"`
}

// String gives the problem as one line: "file:line:column: message (pointer); fix".
func (p Problem) String() string {
	var b strings.Builder
	if p.File != "" {
		b.WriteString(p.File)
		if p.Line > 0 {
			fmt.Fprintf(&b, ":%d:%d", p.Line, p.Column)
		}
		b.WriteString(": ")
	}
	b.WriteString(p.Message)
	if p.Pointer != "" {
		fmt.Fprintf(&b, " (at %s)", p.Pointer)
	}
	if p.Fix != "" {
		b.WriteString("; ")
		b.WriteString(p.Fix)
	}
	return b.String()
}

// List collects problems. Its zero value is empty and ready to use.
type List []Problem

// Errorf adds an error at a JSON Pointer.
func (l *List) Errorf(rule, pointer, fix, format string, args ...any) {
	*l = append(*l, Problem{Rule: rule, Pointer: pointer, Severity: Error, Fix: fix, Message: fmt.Sprintf(format, args...)})
}

// Warnf adds a warning at a JSON Pointer.
func (l *List) Warnf(rule, pointer, fix, format string, args ...any) {
	*l = append(*l, Problem{Rule: rule, Pointer: pointer, Severity: Warning, Fix: fix, Message: fmt.Sprintf(format, args...)})
}

// Failed tells whether any problem is an error.
func (l List) Failed() bool {
	for _, p := range l {
		if p.Severity == Error {
			return true
		}
	}
	return false
}

// Err gives the list as an error, or nil when nothing in it is an error.
func (l List) Err() error {
	if !l.Failed() {
		return nil
	}
	return l
}

// Error implements error: every problem, a line each.
func (l List) Error() string {
	lines := make([]string, len(l))
	for i, p := range l {
		lines[i] = p.String()
	}
	return strings.Join(lines, "\n")
}

// Locate names the file in every problem that has none and fills in the line
// and column of its JSON Pointer. The text is scanned once, and only when there
// is a problem to place.
func (l List) Locate(file string, text []byte) List {
	wanted := map[string]position{}
	for i := range l {
		if l[i].File == "" {
			l[i].File = file
		}
		if l[i].File == file && l[i].Line == 0 {
			wanted[l[i].Pointer] = position{}
		}
	}
	if len(wanted) > 0 {
		locate(text, wanted)
	}
	for i := range l {
		if at, ok := wanted[l[i].Pointer]; ok && l[i].File == file && l[i].Line == 0 {
			l[i].Line, l[i].Column = at.line, at.column
		}
	}
	sort.SliceStable(l, func(i, j int) bool {
		if l[i].File != l[j].File {
			return l[i].File < l[j].File
		}
		return l[i].Line < l[j].Line
	})
	return l
}
