package react

import (
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/emit"
)

// Library writes several components as one package: a folder a component, the tokens that
// any of them uses once for all, an index of everything. Names of components are all different.
func Library(name string, contracts []*contract.Contract, tokens emit.Tokens, o Options) []emit.File {
	var files []emit.File
	var paths []string
	var exports strings.Builder
	o.Tokens = "../tokens.css"
	for _, c := range contracts {
		for _, p := range c.Tokens() {
			if !slices.Contains(paths, p) {
				paths = append(paths, p)
			}
		}
		exports.WriteString("export * from " + quote("./"+c.Name) + ";\n")
		for _, f := range Emit(c, tokens, o) {
			if f.Path != "package.json" && f.Path != "tsconfig.json" && f.Path != "css.d.ts" { // the library's are for all
				files = append(files, emit.File{Path: c.Name + "/" + f.Path, Content: f.Content})
			}
		}
	}
	sheet := "/* These components refer to no tokens. */\n"
	if len(paths) > 0 {
		sheet = tokens.Sheet(paths)
	}
	return append(files,
		emit.File{Path: "tokens.css", Content: sheet},
		emit.File{Path: "index.ts", Content: exports.String()},
		emit.File{Path: "css.d.ts", Content: sheets},
		emit.File{Path: "package.json", Content: packageFile(name, "", o)},
		emit.File{Path: "tsconfig.json", Content: strings.Replace(tsconfig, `["*.ts", "*.tsx"]`, `["*.ts", "*/*.ts", "*/*.tsx"]`, 1)},
	)
}
