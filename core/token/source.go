package token

import (
	"bytes"
	"fmt"
	"sort"
	"sync"

	"cobrik/core/jsontree"
	"cobrik/core/problem"
)

// File is one file: its name, for messages and for the resolver's references,
// and its text.
type File struct {
	Name string
	Text []byte
}

// Bounds of what is read from outside.
var limits = problem.Limits{Bytes: 16 << 20, Depth: 64}

// source is a file that was read.
type source struct {
	name  string
	text  []byte
	root  *jsontree.Node
	split sync.Once
	lines []int // offset of each line's first byte
}

// place gives a byte's line and column, from 1.
func (s *source) place(offset int) (line, column int) {
	s.split.Do(func() {
		s.lines = []int{0}
		for at := 0; ; {
			i := bytes.IndexByte(s.text[at:], '\n')
			if i < 0 {
				return
			}
			at += i + 1
			s.lines = append(s.lines, at)
		}
	})
	i := sort.SearchInts(s.lines, offset+1) - 1
	return i + 1, offset - s.lines[i] + 1
}

// reports collects problems with their places.
type reports struct{ found problem.List }

func (r *reports) add(severity problem.Severity, rule string, s *source, at *jsontree.Node, pointer, fix, format string, args ...any) {
	p := problem.Problem{Rule: rule, Severity: severity, Pointer: pointer, Fix: fix, Message: fmt.Sprintf(format, args...)}
	if s != nil {
		p.File = s.name
		if at != nil {
			p.Line, p.Column = s.place(at.Offset)
		}
	}
	r.found = append(r.found, p)
}

func (r *reports) errorf(rule string, s *source, at *jsontree.Node, pointer, fix, format string, args ...any) {
	r.add(problem.Error, rule, s, at, pointer, fix, format, args...)
}

func (r *reports) warnf(rule string, s *source, at *jsontree.Node, pointer, fix, format string, args ...any) {
	r.add(problem.Warning, rule, s, at, pointer, fix, format, args...)
}
