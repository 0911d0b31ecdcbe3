// Package demotest gives tests the demo's design, read.
package demotest

import (
	"testing"

	"github.com/stretchr/testify/require"

	"cobrik/core/design"
	"cobrik/core/token"
	"cobrik/demo"
)

// Furrow reads the demo's document at a revision, from 1, and its tokens. Each
// call gives a document of its own: a test may change it.
func Furrow(t testing.TB, revision int) (*design.Document, *token.Set) {
	t.Helper()
	doc, found := design.Read("furrow", demo.Revisions()[revision-1])
	require.Empty(t, found)
	tokens, found := token.Read(TokenFiles()...)
	require.Empty(t, found)
	return doc, tokens
}

// TokenFiles gives the demo's token files in the order they are read.
func TokenFiles() []token.File {
	var files []token.File
	for _, name := range demo.TokenFiles {
		files = append(files, token.File{Name: name, Text: demo.Tokens(name)})
	}
	return files
}
