package react

import (
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/emit"
)

// Library writes several components as one package: a folder a component, those that they use
// among them, the tokens that any of them uses once for all, an index of everything. Names of
// components are all different.
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
	files = append(files,
		emit.File{Path: "tokens.css", Content: tokensFile(paths, "These components refer", tokens)},
		emit.File{Path: "index.ts", Content: exports.String()},
	)
	return append(files, packageFiles(name, "", `["*.ts", "*/*.ts", "*/*.tsx"]`, o)...)
}
