// Package syntax reads source files into trees that keep every byte's place: TypeScript with JSX, and
// style sheets. It knows no component; what a tree says is asked of by package source.
package syntax

import (
	"sort"
	"strings"
	"unicode/utf8"

	"cobrik/core/problem"
)

// Limits of what is read.
const (
	MaxBytes = 1 << 20 // of a file
	MaxDepth = 400     // of nodes in each other
	MaxNodes = 1 << 20 // of a file
)

// Tree is a file that was read.
type Tree struct {
	Name  string
	Text  []byte
	Root  *Node
	lines []int // where each begins
}

// Node is a piece of a file: bytes From to To. Kind is the grammar's name of it, Field what it is of its parent.
type Node struct {
	Kind     string
	Field    string
	Named    bool // no mere punctuation
	From, To int
	Children []*Node
	Parent   *Node
	Tree     *Tree
}

// Text is what is written there.
func (n *Node) Text() string {
	if n == nil {
		return ""
	}
	return string(n.Tree.Text[n.From:n.To])
}

// Child gives the child that is something of the node; nil for none.
func (n *Node) Child(field string) *Node {
	if n == nil {
		return nil
	}
	for _, c := range n.Children {
		if c.Field == field {
			return c
		}
	}
	return nil
}

// First gives the first child of one of the kinds; nil for none.
func (n *Node) First(kinds ...string) *Node {
	if n == nil {
		return nil
	}
	for _, c := range n.Children {
		for _, kind := range kinds {
			if c.Kind == kind {
				return c
			}
		}
	}
	return nil
}

// Inner lists the children that are no punctuation and no comments.
func (n *Node) Inner() (out []*Node) {
	if n == nil {
		return nil
	}
	for _, c := range n.Children {
		if c.Named && c.Kind != "comment" {
			out = append(out, c)
		}
	}
	return out
}

// Lead gives the first child that is no punctuation and no comment; nil for none.
func (n *Node) Lead() *Node {
	if inner := n.Inner(); len(inner) > 0 {
		return inner[0]
	}
	return nil
}

// Is tells whether the node is of one of the kinds; a nil one is of none.
func (n *Node) Is(kinds ...string) bool {
	if n == nil {
		return false
	}
	for _, kind := range kinds {
		if n.Kind == kind {
			return true
		}
	}
	return false
}

// Walk visits the node and all below it, until visit says not to go further down.
func (n *Node) Walk(visit func(*Node) bool) {
	if n == nil || !visit(n) {
		return
	}
	for _, c := range n.Children {
		c.Walk(visit)
	}
}

// Place tells where the node begins: line and column, from 1, the column in bytes.
func (n *Node) Place() (file string, line, column int) {
	line, column = n.Tree.at(n.From)
	return n.Tree.Name, line, column
}

func (t *Tree) at(offset int) (line, column int) {
	if t.lines == nil {
		t.lines = []int{0}
		for i, b := range t.Text {
			if b == '\n' {
				t.lines = append(t.lines, i+1)
			}
		}
	}
	line = sort.SearchInts(t.lines, offset+1)
	return line, offset - t.lines[line-1] + 1
}

// Problem is something to say of the node.
func (n *Node) Problem(severity problem.Severity, rule, message, fix string) problem.Problem {
	file, line, column := n.Place()
	return problem.Problem{File: file, Line: line, Column: column, Rule: rule, Severity: severity, Message: message, Fix: fix}
}

// readable refuses what no tree is made of.
func readable(name string, text []byte) *problem.Problem {
	refuse := func(message, fix string) *problem.Problem {
		return &problem.Problem{File: name, Rule: "source-file", Severity: problem.Error, Message: message, Fix: fix}
	}
	switch {
	case len(text) > MaxBytes:
		return refuse("the file is larger than 1 MiB, and was not read", "leave it out of what is read")
	case !utf8.Valid(text):
		return refuse("the file is not UTF-8, and was not read", "save it as UTF-8")
	case strings.ContainsRune(string(text), 0):
		return refuse("the file holds NUL bytes, and was not read", "leave it out of what is read")
	}
	return nil
}
