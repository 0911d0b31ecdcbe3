package font

import (
	"embed"
	"sync"
)

//go:embed files
var files embed.FS

// File is a shipped font file, WOFF2; several files can hold one family.
type File struct {
	Family string
	Name   string
}

// Files are the shipped fonts, as @fontsource-variable has them (SIL Open Font License 1.1, beside them).
var Files = []File{
	{"Hanken Grotesk", "hanken-grotesk-latin-wght-normal.woff2"},
	{"Hanken Grotesk", "hanken-grotesk-latin-ext-wght-normal.woff2"},
	{"JetBrains Mono", "jetbrains-mono-latin-wght-normal.woff2"},
}

// Read gives the file's bytes.
func (f File) Read() []byte {
	text, err := files.ReadFile("files/" + f.Name)
	if err != nil {
		panic(err) // it is embedded
	}
	return text
}

// Shipped gives the fonts components are shown in, for measuring text without a
// browser. The library is made once.
var Shipped = sync.OnceValue(func() *Library {
	library := new(Library)
	for _, f := range Files {
		if err := library.Add(f.Family, f.Read()); err != nil {
			panic(err) // a test reads them all
		}
	}
	return library
})
