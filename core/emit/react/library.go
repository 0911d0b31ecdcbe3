package react

import (
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/emit"
)

// Library writes several components as one package: a folder a component, those that they use
// among them, the layout primitives, the tokens that any of them uses once for all, an index of
// everything. Names of components are all different; a primitive of a component's name is left out.
func Library(name string, contracts []*contract.Contract, tokens emit.Tokens, o Options) []emit.File {
	var files []emit.File
	var paths, written []string
	var exports strings.Builder
	o.Tokens = "../tokens.css"
	var all []*contract.Contract
	add := func(c *contract.Contract) {
		if !slices.Contains(written, c.Name) {
			written, all = append(written, c.Name), append(all, c)
		}
	}
	for _, c := range contracts {
		add(c)
	}
	for _, c := range contracts {
		for _, used := range c.Closure() {
			add(used)
		}
	}
	drawn := assetsOf(all)
	for _, c := range all {
		paths = append(paths, c.Tokens()...)
		exports.WriteString("export * from " + quote("./"+c.Name) + ";\n")
		files = append(files, within(c.Name, folder(c, drawn, "../", tokens, o))...)
	}
	if list := drawn.icons.files(); list != nil {
		exports.WriteString("export * from \"./icons\";\n")
	}
	files = append(files, drawn.files()...)
	if primitives := primitivesOf(o, written); len(primitives) > 0 {
		var index strings.Builder
		for _, c := range primitives {
			paths = append(paths, c.Tokens()...)
			index.WriteString("export * from " + quote("./"+c.Name) + ";\n")
			files = append(files, within("primitives/"+c.Name, folder(c, assets{}, "../", tokens, Options{Tokens: "../../tokens.css"}))...)
		}
		exports.WriteString("export * from \"./primitives\";\n")
		files = append(files, emit.File{Path: "primitives/index.ts", Content: index.String()})
	}
	files = append(files,
		emit.File{Path: "tokens.css", Content: tokensFile(paths, "These components refer", tokens)},
		emit.File{Path: "index.ts", Content: exports.String()},
	)
	return append(files, packageFiles(name, "", `["**/*.ts", "**/*.tsx"]`, tested(files), o)...)
}

// primitivesOf gives the layout primitives that no component is named as.
func primitivesOf(o Options, taken []string) []*contract.Contract {
	return slices.DeleteFunc(slices.Clone(o.Primitives), func(c *contract.Contract) bool { return slices.Contains(taken, c.Name) })
}
