package react

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"slices"

	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/emit/ir"
)

// keywords cannot be bound in a module (ECMA-262, 12.7.2, strict mode; TypeScript has none
// beside them in expressions).
var keywords = []string{
	"await", "break", "case", "catch", "class", "const", "continue", "debugger", "default", "delete", "do", "else", "enum", "export", "extends", "false", "finally", "for", "function",
	"if", "import", "in", "instanceof", "new", "null", "return", "super", "switch", "this", "throw", "true", "try", "typeof", "var", "void", "while", "with", "yield",
	"let", "static", "implements", "interface", "package", "private", "protected", "public", "arguments", "eval", "undefined", "NaN", "Infinity",
}

// globals are what the emitted code calls by name.
var globals = []string{"Boolean", "ComponentPropsWithRef", "Omit", "Partial", "Record", "styles"}

// names are what an emitted module calls its things. Module and function are scopes
// of their own: what the module binds, a prop's local name does not hide.
type names struct {
	props   string            // the interface of the props
	types   map[string]string // of choices, by prop id
	tables  map[string]string // of choices' classes, by prop id
	locals  map[string]string // of props in the function, by prop id
	rest    string
	classes string
}

func namesOf(m *ir.Module) names {
	module := emit.NewScope(nil, slices.Concat(keywords, globals, []string{m.Name})...)
	n := names{types: map[string]string{}, tables: map[string]string{}, locals: map[string]string{}}
	n.props = module.Name(m.Name+"Props", "Type")
	for _, p := range m.Props {
		if p.Kind() == contract.ChoiceKind {
			n.types[p.ID] = module.Name(m.Name+contract.Capitalized(p.Name), "Choice")
		}
	}
	for _, p := range m.Props {
		if p.Kind() == contract.ChoiceKind {
			n.tables[p.ID] = module.Name(p.Name+"Class", "Table")
		}
	}
	function := emit.NewScope(module, "className")
	for _, p := range m.Props {
		n.locals[p.ID] = function.Name(p.Name, "Prop")
	}
	n.rest = function.Name("rest", "Attributes")
	n.classes = function.Name("classes", "List")
	return n
}

//go:embed native.json
var nativeJSON []byte

// native are the attributes that React gives elements, by tag: all those that
// elements of any kind have under "*". web/reference/native.mjs writes it out of React's types.
var native = func() map[string][]string {
	var out map[string][]string
	if err := json.Unmarshal(nativeJSON, &out); err != nil {
		panic(fmt.Errorf("native.json: %w", err))
	}
	return out
}()

// isNative tells whether React gives an element an attribute of a prop's name; the
// prop takes its place.
func isNative(tag, name string) bool {
	return slices.Contains(native["*"], name) || slices.Contains(native[tag], name)
}
