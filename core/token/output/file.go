package output

import (
	"fmt"
	"strings"

	"cobrik/core/token"
)

// File is a file that was written.
type File struct {
	Name  string
	Text  []byte
	Lines []Line // where each token stands, from the first line on; composites in parts have several
}

// Line is a line that says a token.
type Line struct {
	Number int    `json:"number" doc:"From 1"`
	Path   string `json:"path" doc:"The token's"`
}

// writer is how a language writes files.
type writer struct {
	name     func(string) string                                    // a name, as the language wants it
	together func(f *file, runs []*run, modifiers []token.Modifier) // all themes in one file; nil when it cannot
	apart    func(f *file, r *run)                                  // one theme
}

// file is a file being written.
type file struct {
	strings.Builder
	name   string
	number int // lines ended so far
	lines  []Line
}

func newFile(name string) *file { return &file{name: name} }

func (f *file) printf(format string, args ...any) {
	text := fmt.Sprintf(format, args...)
	f.number += strings.Count(text, "\n")
	f.WriteString(text)
}

// token marks the line that is written next as one that says a token.
func (f *file) token(path string) {
	f.lines = append(f.lines, Line{f.number + 1, path})
}

func (f *file) done() File { return File{f.name, []byte(f.String()), f.lines} }

// header is the first line of every file that can hold a comment.
const header = "Written by Cobrik from design tokens. Change the tokens, not this file."
