// Package compile turns emitted React files into what a browser runs, in the
// process, with esbuild. It reads no file system.
package compile

import (
	"path"
	"strconv"
	"strings"

	"github.com/evanw/esbuild/pkg/api"

	"cobrik/core/emit"
	"cobrik/core/problem"
)

// Bundle is a compiled component.
type Bundle struct {
	JS  string // classic script; registers the component under globalThis.cobrikComponent
	CSS string
	Map string // source map of JS, version 3
}

// entry hands the emitted module's exports to the page that runs it.
const entry = `import * as exports from "./index"; globalThis.cobrikComponent = exports;`

// shared are the modules the page brings itself, so that a component compiles
// in milliseconds: they are read from globalThis.cobrikModules.
var shared = []string{"react", "react/jsx-runtime", "react-dom"}

// React compiles emitted files. Errors name file, line and column.
func React(files []emit.File) (Bundle, problem.List) {
	return build(files, api.BuildOptions{
		Stdin:     &api.StdinOptions{Contents: entry, ResolveDir: "/", Sourcefile: "entry.ts", Loader: api.LoaderTS},
		Format:    api.FormatIIFE,
		Sourcemap: api.SourceMapExternal,
	}, fromGlobals)
}

// Package compiles the emitted files of a library into one module of ECMAScript 2022 and one style sheet. React is left to
// whoever uses it.
func Package(files []emit.File) (Bundle, problem.List) {
	return build(files, api.BuildOptions{
		Stdin:  &api.StdinOptions{Contents: `export * from "./index";`, ResolveDir: "/", Sourcefile: "entry.ts", Loader: api.LoaderTS},
		Format: api.FormatESModule,
	}, left)
}

// build compiles emitted files. Shared modules are resolved in a way of the caller's.
func build(files []emit.File, o api.BuildOptions, shared func(api.PluginBuild)) (Bundle, problem.List) {
	o.Bundle, o.Outfile, o.Target, o.JSX, o.LogLevel = true, "component.js", api.ES2022, api.JSXAutomatic, api.LogLevelSilent
	o.Plugins = []api.Plugin{{Name: "shared", Setup: shared}, fromMemory(files)}
	result := api.Build(o)
	var found problem.List
	for _, m := range result.Errors {
		p := problem.Problem{Rule: "compile", Severity: problem.Error, Message: m.Text}
		if at := m.Location; at != nil {
			p.File, p.Line, p.Column = path.Base(at.File), at.Line, at.Column+1
		}
		found = append(found, p)
	}
	var out Bundle
	for _, f := range result.OutputFiles {
		switch path.Ext(f.Path) {
		case ".js":
			out.JS = string(f.Contents)
		case ".css":
			out.CSS = string(f.Contents)
		case ".map":
			if strings.HasSuffix(f.Path, ".js.map") {
				out.Map = string(f.Contents)
			}
		}
	}
	return out, found
}

// sharedNames are those of shared as a filter.
var sharedNames = "^(" + strings.Join(shared, "|") + ")$"

// fromGlobals takes shared modules from the page.
func fromGlobals(b api.PluginBuild) {
	b.OnResolve(api.OnResolveOptions{Filter: sharedNames}, func(a api.OnResolveArgs) (api.OnResolveResult, error) {
		return api.OnResolveResult{Path: a.Path, Namespace: "shared"}, nil
	})
	b.OnLoad(api.OnLoadOptions{Filter: ".*", Namespace: "shared"}, func(a api.OnLoadArgs) (api.OnLoadResult, error) {
		text := "module.exports = globalThis.cobrikModules[" + strconv.Quote(a.Path) + "]"
		return api.OnLoadResult{Contents: &text, Loader: api.LoaderJS}, nil
	})
}

// left leaves shared modules as they are imported.
func left(b api.PluginBuild) {
	b.OnResolve(api.OnResolveOptions{Filter: sharedNames}, func(a api.OnResolveArgs) (api.OnResolveResult, error) {
		return api.OnResolveResult{Path: a.Path, External: true}, nil
	})
}

func fromMemory(files []emit.File) api.Plugin {
	byPath := map[string]string{}
	for _, f := range files {
		byPath["/"+f.Path] = f.Content
	}
	find := func(p string) (string, bool) {
		for _, try := range []string{p, p + ".tsx", p + ".ts", p + ".jsx", p + ".js", p + "/index.ts", p + "/index.tsx", p + "/index.js"} {
			if _, ok := byPath[try]; ok {
				return try, true
			}
		}
		return "", false
	}
	return api.Plugin{Name: "memory", Setup: func(b api.PluginBuild) {
		b.OnResolve(api.OnResolveOptions{Filter: ".*"}, func(a api.OnResolveArgs) (api.OnResolveResult, error) {
			if p, ok := find(path.Join("/", path.Dir(a.Importer), a.Path)); ok && strings.HasPrefix(a.Path, ".") {
				return api.OnResolveResult{Path: p, Namespace: "memory"}, nil
			}
			return api.OnResolveResult{Errors: []api.Message{{Text: "there is no file or package " + a.Path}}}, nil
		})
		b.OnLoad(api.OnLoadOptions{Filter: ".*", Namespace: "memory"}, func(a api.OnLoadArgs) (api.OnLoadResult, error) {
			text := byPath[a.Path]
			return api.OnLoadResult{Contents: &text, Loader: loaderOf(a.Path)}, nil
		})
	}}
}

func loaderOf(p string) api.Loader {
	switch {
	case strings.HasSuffix(p, ".module.css"):
		return api.LoaderLocalCSS
	case strings.HasSuffix(p, ".css"):
		return api.LoaderCSS
	case strings.HasSuffix(p, ".json"):
		return api.LoaderJSON
	case strings.HasSuffix(p, ".svg"), strings.HasSuffix(p, ".png"):
		return api.LoaderDataURL
	case strings.HasSuffix(p, ".tsx"):
		return api.LoaderTSX
	case strings.HasSuffix(p, ".jsx"), strings.HasSuffix(p, ".js"), strings.HasSuffix(p, ".mjs"):
		return api.LoaderJSX
	}
	return api.LoaderTS
}
