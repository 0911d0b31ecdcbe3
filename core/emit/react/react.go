// Package react writes a component for React and TypeScript: the component, its
// style sheet, the tokens it uses, an index and a package file.
package react

import (
	"bytes"
	"encoding/json"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/emit/css"
	"cobrik/core/emit/ir"
)

// Options say what is written beside the component.
type Options struct {
	Version string // of the package; 0.0.0 when empty
	Tokens  string // path of the library's tokens, from the component's folder; a file of its own when empty
}

// Emit writes a component's files. The same contract, tokens and options give
// the same bytes.
func Emit(c *contract.Contract, tokens emit.Tokens, o Options) []emit.File {
	m := ir.Lower(c)
	n := namesOf(m)
	files := []emit.File{
		{Path: m.Name + ".tsx", Content: component(m, n)},
		{Path: m.Name + ".module.css", Content: css.Module(m, tokens)},
	}
	if o.Tokens == "" {
		o.Tokens = "./tokens.css"
		files = append(files, emit.File{Path: "tokens.css", Content: tokensFile(c, tokens)})
	}
	return append(files,
		emit.File{Path: "index.ts", Content: index(m, n, o.Tokens)},
		emit.File{Path: "package.json", Content: packageFile(c.Name, c.Purpose, o)},
		emit.File{Path: "tsconfig.json", Content: tsconfig},
		emit.File{Path: "css.d.ts", Content: sheets},
		emit.File{Path: m.Name + ".module.css.d.ts", Content: css.Declarations(m)},
	)
}

func tokensFile(c *contract.Contract, tokens emit.Tokens) string {
	paths := c.Tokens()
	if len(paths) == 0 {
		return "/* This component refers to no tokens. */\n"
	}
	return tokens.Sheet(paths)
}

func packageFile(name, purpose string, o Options) string {
	version := o.Version
	if version == "" {
		version = "0.0.0"
	}
	type peers struct {
		React string `json:"react"`
	}
	return indented(struct {
		Name        string            `json:"name"`
		Version     string            `json:"version"`
		Description string            `json:"description,omitempty"`
		Type        string            `json:"type"`
		SideEffects []string          `json:"sideEffects"`
		Exports     map[string]string `json:"exports"`
		Peers       peers             `json:"peerDependencies"`
	}{packageName(name), version, strings.Join(strings.Fields(purpose), " "), "module", []string{"*.css"}, map[string]string{".": "./index.ts"}, peers{">=19"}})
}

// packageName names the package; one that it imports itself it cannot be called.
func packageName(component string) string {
	name := emit.Kebab(component)
	if name == "react" || name == "react-dom" {
		name += "-component"
	}
	return name
}

func indented(v any) string {
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	e.SetIndent("", "  ")
	if err := e.Encode(v); err != nil {
		panic(err) // plain structs always encode
	}
	return b.String()
}

// sheets says that style sheets may be imported for what they do: TypeScript asks where a module
// is that is imported so (noUncheckedSideEffectImports).
const sheets = "declare module \"*.css\";\n"

const tsconfig = `{
  "compilerOptions": {
    "target": "ES2022",
    "module": "ESNext",
    "moduleResolution": "bundler",
    "jsx": "react-jsx",
    "lib": ["ES2022", "DOM"],
    "strict": true,
    "noUncheckedIndexedAccess": true,
    "verbatimModuleSyntax": true,
    "skipLibCheck": true,
    "noEmit": true
  },
  "include": ["*.ts", "*.tsx"]
}
`
