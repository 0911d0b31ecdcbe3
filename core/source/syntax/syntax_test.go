package syntax_test

import (
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"runtime"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/source/syntax"
	"cobrik/web/reference"
)

// modules is where make web installs packages.
func modules() string {
	_, here, _, _ := runtime.Caller(0)
	return filepath.Join(filepath.Dir(here), "..", "..", "..", "web", "node_modules")
}

var space = regexp.MustCompile(`\s+|(?s:/\*.*?\*/)`)

// The declarations of style sheets of general-purpose packages, and of Cobrik's own, are those that css-tree finds: CSS
// Syntax 3 as another reader has it. Without this, values of a team's sheet would be passed over in silence.
func TestStyleSheetsAreReadAsCSSTreeReadsThem(t *testing.T) {
	var files []string
	for _, dir := range []string{"@mantine/core/styles", "@mantine/notifications", "@mantine/spotlight", "highlight.js/styles", "bootstrap-icons/font", "flag-icons/css", "react-hot-toast"} {
		_ = filepath.WalkDir(filepath.Join(modules(), dir), func(name string, e fs.DirEntry, err error) error {
			if err == nil && !e.IsDir() && strings.HasSuffix(name, ".css") {
				files = append(files, name)
			}
			return nil
		})
	}
	_ = filepath.WalkDir(filepath.Join(modules(), "..", "src"), func(name string, e fs.DirEntry, err error) error {
		if err == nil && strings.HasSuffix(name, ".css") {
			files = append(files, name)
		}
		return nil
	})
	want := reference.Ask[[][]string](t, "source.mjs", map[string]any{"sheets": files})
	count := 0
	for i, file := range files {
		text, err := os.ReadFile(file)
		require.NoError(t, err)
		tree, found := syntax.CSS(file, text)
		require.NotNil(t, tree, "%s: %v", file, found)
		got := []string{}
		tree.Root.Walk(func(n *syntax.Node) bool {
			if n.Kind == syntax.Declaration {
				value := space.ReplaceAllString(n.Child("value").Text(), "")
				if rest, important := strings.CutSuffix(value, "!important"); important {
					value = rest + "!"
				}
				got = append(got, n.Child("property").Text()+":"+value)
			}
			return true
		})
		count += len(got)
		for k := range max(len(got), len(want[i])) {
			if k >= len(got) || k >= len(want[i]) || got[k] != want[i][k] {
				t.Fatalf("%s: %d declarations for %d; the first that differs is %.80q for %.80q", file, len(got), len(want[i]), append(got, "none")[min(k, len(got))], append(want[i], "none")[min(k, len(want[i]))])
			}
		}
	}
	assert.Greater(t, count, 10_000)
	t.Logf("%d declarations of %d style sheets", count, len(files))
}

// Every byte of a tree is where the tree says, and what a node holds lies within it, whatever is read.
func FuzzTrees(f *testing.F) {
	for _, seed := range []string{
		"export const A = ({ b = 1, ...c }: P) => <i {...c}>{b && `x${b}`}</i>;", ".a:hover > b { color: red; &.c { top: 1px } } @media (width < 3px) { .a { --x: { y } } }",
		"<", "{", "}", "@", "a:b", "@import 'x';", "/*", "\"", ".a{b:c", "\xff", "a { b: url( }", strings.Repeat("{", 600), strings.Repeat("<a>", 500), strings.Repeat("(", 3000),
	} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		for name, read := range map[string]func() *syntax.Tree{
			"tsx": func() *syntax.Tree { tree, _ := syntax.TSX("a.tsx", []byte(text)); return tree },
			"css": func() *syntax.Tree { tree, _ := syntax.CSS("a.css", []byte(text)); return tree },
		} {
			tree := read()
			if tree == nil {
				continue
			}
			tree.Root.Walk(func(n *syntax.Node) bool {
				if n.From < 0 || n.To < n.From || n.To > len(text) {
					t.Fatalf("%s: a node %s from %d to %d of %d", name, n.Kind, n.From, n.To, len(text))
				}
				if up := n.Parent; up != nil && (n.From < up.From || n.To > up.To) {
					t.Fatalf("%s: a node %s (%d to %d) outside of its parent %s (%d to %d)", name, n.Kind, n.From, n.To, up.Kind, up.From, up.To)
				}
				if _, line, column := n.Place(); line < 1 || column < 1 {
					t.Fatalf("%s: a node at line %d, column %d", name, line, column)
				}
				return true
			})
		}
	})
}

func TestFilesThatNobodyReads(t *testing.T) {
	for name, text := range map[string]string{"not UTF-8": "const a = \"\xff\";", "NUL": "const a = 1;\x00", "too large": strings.Repeat(" ", syntax.MaxBytes+1), "too deep": strings.Repeat("a{", 2*syntax.MaxDepth) + strings.Repeat("}", 2*syntax.MaxDepth)} {
		tree, found := syntax.CSS("a.css", []byte(text))
		assert.Nil(t, tree, name)
		require.Len(t, found, 1, name)
		assert.NotEmpty(t, found[0].Fix, "%s: nobody learns what to do", name)
	}
	tree, found := syntax.TSX("a.tsx", []byte("const a = "+strings.Repeat("<a>", syntax.MaxDepth)+strings.Repeat("</a>", syntax.MaxDepth)))
	assert.True(t, tree == nil, "a file that is nested without end is followed")
	assert.Len(t, found, 1)
	tree, found = syntax.TSX("a.tsx", []byte("const a = ;\nconst b = <i/>;"))
	require.NotNil(t, tree, "what is right beside a mistake is not read")
	require.Len(t, found, 1)
	assert.Equal(t, 1, found[0].Line)
}
