// Package publish makes one package of a library: what is in it, in which versions, and every file of it. The same library
// gives the same bytes.
package publish

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/catalogue"
	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/emit/compile"
	"cobrik/core/emit/react"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// Component is a component of a library, as it was released. Its uses are tied to those among the library.
type Component struct {
	Contract *contract.Contract
	Shelf    string
	Version  string // empty for one that is not released
}

// Library is what is published together.
type Library struct {
	Name       string // of the package
	Version    string
	Purpose    string
	Components []Component // in the order of their names
	Primitives []*contract.Contract
	Tokens     emit.Tokens
	TokenFiles []token.File
	Told       string // what changed since the version before, CommonMark; empty for nothing
}

// Files writes the package: the sources, which are its types; a module and a style sheet compiled of them; the contracts and
// tokens it is made of; what is in it as a lock, a Custom Elements Manifest and a JSON Schema of each component's props.
// Problems are of compiling.
func (l Library) Files() ([]emit.File, problem.List) {
	var contracts []*contract.Contract
	for _, c := range l.Components {
		contracts = append(contracts, c.Contract)
	}
	files := react.Library(l.Name, contracts, l.Tokens, react.Options{Version: l.Version, Primitives: l.Primitives})
	bundle, found := compile.Package(files)
	files = slices.DeleteFunc(files, func(f emit.File) bool { return f.Path == "package.json" })
	add := func(path, content string) { files = append(files, emit.File{Path: path, Content: content}) }
	add("package.json", emit.Indented(l.packageFile()))
	add("dist/index.js", bundle.JS)
	add("dist/style.css", bundle.CSS)
	add("library.json", emit.Indented(l.Lock()))
	add("custom-elements.json", emit.Indented(l.manifest()))
	add("README.md", l.readme())
	if l.Told != "" {
		add("CHANGELOG.md", fmt.Sprintf("# %s %s\n\n%s\n", l.Name, l.Version, deeper(l.Told)))
	}
	for _, c := range contracts {
		add("contracts/"+contract.Slug(c.Name)+".contract.json", string(c.JSON()))
		add("schema/"+contract.Slug(c.Name)+".schema.json", emit.Indented(catalogue.PropsSchema(c)))
	}
	for _, f := range l.TokenFiles {
		add("tokens/"+f.Name, string(f.Text))
	}
	slices.SortStableFunc(files, func(a, b emit.File) int { return strings.Compare(a.Path, b.Path) })
	return files, found
}

// deeper puts headings one level down.
func deeper(text string) string {
	lines := strings.Split(text, "\n")
	for i, line := range lines {
		if strings.HasPrefix(line, "#") {
			lines[i] = "#" + line
		}
	}
	return strings.Join(lines, "\n")
}

type packageFile struct {
	Name           string            `json:"name"`
	Version        string            `json:"version"`
	Description    string            `json:"description,omitempty"`
	Type           string            `json:"type"`
	SideEffects    []string          `json:"sideEffects"`
	Exports        map[string]any    `json:"exports"`
	CustomElements string            `json:"customElements"`
	Peers          map[string]string `json:"peerDependencies"`
}

func (l Library) packageFile() packageFile {
	return packageFile{
		Name: l.Name, Version: l.Version, Description: l.Purpose, Type: "module", SideEffects: []string{"**/*.css"}, CustomElements: "custom-elements.json",
		Exports: map[string]any{
			".":                      map[string]string{"types": "./index.ts", "default": "./dist/index.js"},
			"./style.css":            "./dist/style.css",
			"./tokens.css":           "./tokens.css",
			"./library.json":         "./library.json",
			"./custom-elements.json": "./custom-elements.json",
			"./schema/*":             "./schema/*",
			"./contracts/*":          "./contracts/*",
			"./tokens/*":             "./tokens/*",
		},
		Peers: map[string]string{"react": ">=19", "react-dom": ">=19"},
	}
}

func hashed(text []byte) string {
	sum := sha256.Sum256(text)
	return hex.EncodeToString(sum[:])
}

// readme says what is in the library, and how it is used.
func (l Library) readme() string {
	var b strings.Builder
	fmt.Fprintf(&b, "# %s\n\n", l.Name)
	if l.Purpose != "" {
		fmt.Fprintf(&b, "%s\n\n", l.Purpose)
	}
	first := "Component"
	if len(l.Components) > 0 {
		first = l.Components[0].Contract.Name
	}
	fmt.Fprintf(&b, "```tsx\nimport { %s } from \"%s\";\nimport \"%s/style.css\";\n```\n\n", first, l.Name, l.Name)
	b.WriteString("| Component | Version | Shelf | What it is for |\n| --- | --- | --- | --- |\n")
	for _, c := range l.Components {
		purpose := c.Contract.Purpose
		if c.Contract.Deprecated != nil {
			purpose = "**Deprecated.** " + c.Contract.Deprecated.String()
		}
		fmt.Fprintf(&b, "| [%s](%s/README.md) | %s | %s | %s |\n", c.Contract.Name, c.Contract.Name, c.Version, cell(c.Shelf), cell(purpose))
	}
	b.WriteString("\n`library.json` locks what is in this version; `contracts` and `tokens` are what it was made of, `schema` are the props as JSON Schema.\n")
	return b.String()
}

// cell writes a text into a table's cell.
func cell(text string) string {
	return strings.ReplaceAll(strings.Join(strings.Fields(text), " "), "|", "\\|")
}
