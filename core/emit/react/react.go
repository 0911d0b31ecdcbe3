// Package react writes a component for React and TypeScript: the component, its
// style sheet, the tokens it uses, an index and a package file.
package react

import (
	"path"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/emit/css"
	"cobrik/core/emit/ir"
)

// Options say what is written beside the component.
type Options struct {
	Primitives []*contract.Contract // layout primitives that a library holds beside its components
	Version    string               // of the package; 0.0.0 when empty
	Forced     bool                 // states can be told by an attribute of the root, ir.ForcedStates, to look at each
	Tokens     string               // path of the library's tokens, from the component's folder; a file of its own when empty
}

// Emit writes a component's files, in a folder each those of the components it uses, and the icons
// and pictures that they show. The same contract, tokens and options give the same bytes.
func Emit(c *contract.Contract, tokens emit.Tokens, o Options) []emit.File {
	inside := c.Closure()
	inside = inside[:len(inside)-1]
	paths := c.Tokens()
	for _, used := range inside {
		paths = append(paths, used.Tokens()...)
	}
	own := o
	if o.Tokens == "" {
		own.Tokens = "./tokens.css"
	}
	drawn := assetsOf(c.Closure())
	files := folder(c, drawn, "./", tokens, own)
	files = append(files, packageFiles(c.Name, c.Purpose, `["*.ts", "*.tsx"]`, tested(files), o)...)
	if o.Tokens == "" {
		files = append(files, emit.File{Path: "tokens.css", Content: tokensFile(paths, "This component refers", tokens)})
	}
	for _, used := range inside {
		files = append(files, within(used.Name, folder(used, drawn, "../", tokens, Options{Tokens: path.Join("..", own.Tokens), Forced: o.Forced}))...)
	}
	return append(files, drawn.files()...)
}

func lowered(contracts []*contract.Contract) (out []*ir.Module) {
	for _, c := range contracts {
		out = append(out, ir.Lower(c))
	}
	return out
}

// folder writes the files of one component; components, icons and pictures it uses are found at a path.
func folder(c *contract.Contract, drawn assets, uses string, tokens emit.Tokens, o Options) []emit.File {
	m := ir.Lower(c)
	if o.Forced {
		m = ir.LowerForced(c)
	}
	n := namesOf(m, drawn)
	w := writer{m: m, n: n, assets: drawn, repeated: map[string][]string{}, forced: o.Forced}
	if m.Does != nil {
		w.hook = newHook(w, c)
	}
	files := []emit.File{
		{Path: m.Name + ".tsx", Content: w.component(uses)},
		{Path: m.Name + ".module.css", Content: css.Module(m, tokens)},
		{Path: "index.ts", Content: index(m, n, o.Tokens)},
		{Path: m.Name + ".module.css.d.ts", Content: css.Declarations(m)},
		{Path: "README.md", Content: readme(c, m, n, uses)},
	}
	if w.hook == nil {
		return files
	}
	files = append(files, emit.File{Path: hookName(m) + ".ts", Content: w.hook.file(o.Forced)})
	if tests := w.scenarioFile(c); tests != "" && !o.Forced {
		files = append(files, emit.File{Path: m.Name + ".test.tsx", Content: tests})
	}
	return files
}

// within puts files into a folder.
func within(name string, files []emit.File) []emit.File {
	for i := range files {
		files[i].Path = name + "/" + files[i].Path
	}
	return files
}

// tested tells whether tests are among files.
func tested(files []emit.File) bool {
	return slices.ContainsFunc(files, func(f emit.File) bool { return strings.HasSuffix(f.Path, ".test.tsx") })
}

// packageFiles are those that say what a package is and how it is read.
func packageFiles(name, purpose, include string, tested bool, o Options) []emit.File {
	return []emit.File{
		{Path: "package.json", Content: packageFile(name, purpose, tested, o)},
		{Path: "tsconfig.json", Content: strings.Replace(tsconfig, "INCLUDE", include, 1)},
		{Path: "css.d.ts", Content: sheets},
	}
}

func tokensFile(paths []string, subject string, tokens emit.Tokens) string {
	var once []string
	for _, p := range paths {
		if !slices.Contains(once, p) {
			once = append(once, p)
		}
	}
	if once == nil {
		return "/* " + subject + " to no tokens. */\n"
	}
	return tokens.Sheet(once)
}

// tests are what the tests of a package run with.
var tests = map[string]string{
	"@testing-library/dom": "^10.4.0", "@testing-library/jest-dom": "^6.9.0", "@testing-library/react": "^16.3.0", "@types/react": "^19.0.0", "@types/react-dom": "^19.0.0", "jsdom": ">=26",
	"react": ">=19", "react-dom": ">=19", "typescript": ">=5.8", "vitest": ">=3",
}

func packageFile(name, purpose string, tested bool, o Options) string {
	version := o.Version
	if version == "" {
		version = "0.0.0"
	}
	type peers struct {
		React string `json:"react"`
	}
	var scripts, dev map[string]string
	if tested {
		scripts, dev = map[string]string{"test": "vitest run"}, tests
	}
	return emit.Indented(struct {
		Name        string            `json:"name"`
		Version     string            `json:"version"`
		Description string            `json:"description,omitempty"`
		Type        string            `json:"type"`
		SideEffects []string          `json:"sideEffects"`
		Exports     map[string]string `json:"exports"`
		Scripts     map[string]string `json:"scripts,omitempty"`
		Peers       peers             `json:"peerDependencies"`
		Dev         map[string]string `json:"devDependencies,omitempty"`
	}{packageName(name), version, strings.Join(strings.Fields(purpose), " "), "module", []string{"*.css"}, map[string]string{".": "./index.ts"}, scripts, peers{">=19"}, dev})
}

// packageName names the package; one that it imports itself it cannot be called.
func packageName(component string) string {
	name := emit.Kebab(component)
	if name == "react" || name == "react-dom" {
		name += "-component"
	}
	return name
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
  "include": INCLUDE
}
`
