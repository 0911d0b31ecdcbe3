package source_test

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"

	"cobrik/core/source"
)

// Whatever stands in files, reading them ends, and says nothing of places that are not there.
func FuzzRead(f *testing.F) {
	archives, err := filepath.Glob("testdata/by-hand/*.txtar")
	require.NoError(f, err)
	for _, name := range archives {
		archive, err := txtar.ParseFile(name)
		require.NoError(f, err)
		tsx, css := "", ""
		for _, file := range archive.Files {
			switch filepath.Ext(file.Name) {
			case ".tsx":
				tsx = string(file.Data)
			case ".css":
				css = string(file.Data)
			}
		}
		f.Add(tsx, css)
	}
	f.Add(`import s from "./a.module.css"; export function A({ a = , ...b }: { a?: }) { const = ; return <i className={s. + [} {...}>{a && }{b ? <u/> }</i> }`, `.a:is( { } @media ( { .b { c: } }`)
	f.Add(`export function A(p) { return <><A.B/><a.b c/></> }`, `a{--x:var(--x);b:var(--x)}`)
	f.Fuzz(func(t *testing.T, tsx, css string) {
		code := source.Open([]source.File{{Name: "a.tsx", Text: []byte(tsx)}, {Name: "a.module.css", Text: []byte(css)}, {Name: "b.css", Text: []byte(css)}})
		for _, one := range code.Components() {
			r := code.Read(one.File, one.Name, source.Options{})
			if r == nil {
				continue
			}
			r.Align(r.Contract.Clone())
			for about, at := range r.Places {
				if at.Line < 1 || at.Column < 1 {
					t.Fatalf("%s is at %v", about, at)
				}
			}
			r.Facts()
		}
	})
}
