package source_test

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"

	"cobrik/core/contract"
	"cobrik/core/source"
)

// handTokens are the tokens that the components by hand refer to.
var handTokens = map[string]string{"--ink": "ink"}

func handOptions(code *source.Code) source.Options {
	o := source.Options{Token: func(property string) (string, bool) { path, ok := handTokens[property]; return path, ok }, Modifiers: []string{"theme"}}
	o.Component = func(name string) *contract.Contract {
		for _, one := range code.Components() {
			if one.Name == name && one.Why == "" {
				return code.Read(one.File, one.Name, o).Contract
			}
		}
		return nil
	}
	return o
}

// told writes all that is read of a component, a line a fact.
func told(r *source.Reading) string {
	var out strings.Builder
	for _, f := range r.Facts() {
		about := f.About
		if when, err := contract.ParseWhen(about.When); err == nil && about.When != "" { // as people read it
			about.When = when.String()
		}
		fmt.Fprintf(&out, "%s: %s", about, f.Value)
		if why := r.Unsure[f.About]; why != "" {
			fmt.Fprintf(&out, "   (%s)", why)
		}
		out.WriteString("\n")
	}
	for _, p := range r.Unread {
		fmt.Fprintf(&out, "%s:%d:%d %s\n", p.File, p.Line, p.Column, p.Message)
	}
	return out.String()
}

// Components that people wrote in their own ways are read as the answers beside them say, which were written
// by looking at the code. What cannot be read is named there, with its place.
func TestComponentsByHandAreRead(t *testing.T) {
	files, err := filepath.Glob("testdata/by-hand/*.txtar")
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(files), 25)
	for _, file := range files {
		t.Run(strings.TrimSuffix(filepath.Base(file), ".txtar"), func(t *testing.T) {
			archive, err := txtar.ParseFile(file)
			require.NoError(t, err)
			var code []source.File
			want := ""
			kept := archive.Files[:0]
			for _, f := range archive.Files {
				if f.Name == "facts" {
					want = string(f.Data)
					continue
				}
				kept = append(kept, f)
				code = append(code, source.File{Name: f.Name, Text: f.Data})
			}
			archive.Files = kept
			c := source.Open(code)
			var got strings.Builder
			for _, one := range c.Components() {
				if one.Why != "" {
					fmt.Fprintf(&got, "%s in %s is not read: %s\n", one.Name, one.File, one.Why)
					continue
				}
				fmt.Fprintf(&got, "# %s\n%s", one.Name, told(c.Read(one.File, one.Name, handOptions(c))))
			}
			for _, p := range c.Problems() {
				fmt.Fprintln(&got, p)
			}
			if os.Getenv("COBRIK_GOLDEN") == "write" {
				archive.Files = append(archive.Files, txtar.File{Name: "facts", Data: []byte(got.String())})
				require.NoError(t, os.WriteFile(file, txtar.Format(archive), 0o644))
				return
			}
			assert.Equal(t, want, got.String())
		})
	}
}
