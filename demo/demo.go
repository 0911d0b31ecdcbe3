// Package demo embeds the demo's design document and tokens: Furrow, the
// design system of the Hollowbeck Allotment Society. All of it is invented.
package demo

import (
	"embed"
	"fmt"
)

//go:embed furrow/*.json furrow/icons/*.svg content/*
var files embed.FS

// Project is the demo project's name.
const Project = "Hollowbeck"

// Document is the id of the demo's design document.
const Document = "furrow"

// TokenFiles are the names of Furrow's token files, in the order they are read,
// and of its resolver document.
var TokenFiles = []string{"core.tokens.json", "semantic.tokens.json", "dusk.tokens.json", "contrast.tokens.json", "furrow.resolver.json"}

// Tokens gives a token file's text.
func Tokens(name string) []byte { return read(name) }

// Revisions gives the design document at each of its revisions, oldest first.
func Revisions() [][]byte {
	var out [][]byte
	for n := 1; n <= 3; n++ {
		out = append(out, read(fmt.Sprintf("furrow-%d.design.json", n)))
	}
	return out
}

// Signs gives the demo's second design document, of the signs at the gate, and the name of its file.
func Signs() (name string, text []byte) {
	const file = "gate-signs.design.json"
	return file, read(file)
}

// Icons gives the files of the demo's icons, by their names.
func Icons() map[string][]byte {
	entries, err := files.ReadDir("furrow/icons")
	if err != nil {
		panic(err) // embedded when the program was built
	}
	out := map[string][]byte{}
	for _, e := range entries {
		out[e.Name()] = read("icons/" + e.Name())
	}
	return out
}

// ContentFiles are the names of the demo's files of records, each before its schema.
var ContentFiles = []string{"plots.csv", "notices.json", "notices.schema.json"}

// Content gives a file of records, or a schema.
func Content(name string) []byte { return embedded("content/" + name) }

// Collections gives what the simulated content host has, by name.
func Collections() map[string][]byte {
	return map[string][]byte{"offers": Content("offers.json"), "notices": Content("notices.json")}
}

func read(name string) []byte { return embedded("furrow/" + name) }

func embedded(path string) []byte {
	text, err := files.ReadFile(path)
	if err != nil {
		panic(err) // embedded when the program was built
	}
	return text
}
