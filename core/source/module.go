package source

import (
	"path"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"cobrik/core/source/syntax"
)

// module is a file of code: what it binds at its top.
type module struct {
	*syntax.Tree
	code    *Code
	imports map[string]imported
	bound   map[string]*syntax.Node // values: what a name begins with, or the function it is
	types   map[string]*syntax.Node // interfaces, aliases and enumerations
	order   []string                // of the values
	exports map[string]string       // local names, by those of outside
	from    []reexport
}

// imported is a name that another module gives: "default", "*" for all of it.
type imported struct{ from, name string }

// reexport gives names on; all where it names none.
type reexport struct {
	from  string
	names map[string]string // by those of outside
}

func newModule(c *Code, t *syntax.Tree) *module {
	m := &module{Tree: t, code: c, imports: map[string]imported{}, bound: map[string]*syntax.Node{}, types: map[string]*syntax.Node{}, exports: map[string]string{}}
	for _, n := range t.Root.Inner() {
		m.statement(n, false)
	}
	return m
}

func (m *module) bind(name string, n *syntax.Node, exported bool) {
	if name == "" {
		return
	}
	if m.bound[name] == nil {
		m.order = append(m.order, name)
	}
	m.bound[name] = n
	if exported {
		m.exports[name] = name
	}
}

func (m *module) statement(n *syntax.Node, exported bool) {
	switch n.Kind {
	case "import_statement":
		m.importing(n)
	case "export_statement":
		m.exporting(n)
	case "function_declaration", "class_declaration", "generator_function_declaration":
		m.bind(n.Child("name").Text(), n, exported)
	case "lexical_declaration", "variable_declaration":
		for _, d := range n.Inner() {
			if name := d.Child("name"); d.Kind == "variable_declarator" && name.Is("identifier") {
				m.bind(name.Text(), d, exported)
			}
		}
	case "interface_declaration", "type_alias_declaration", "enum_declaration":
		m.types[n.Child("name").Text()] = n
	case "expression_statement": // Thing.displayName = …
		if a := n.First("assignment_expression"); a != nil {
			if left := a.Child("left"); left.Is("member_expression") && left.Child("property").Text() == "defaultProps" {
				m.bind(left.Text(), a.Child("right"), false)
			}
		}
	case "ambient_declaration":
		for _, inner := range n.Inner() {
			m.statement(inner, exported)
		}
	}
}

func (m *module) importing(n *syntax.Node) {
	from := unquoted(n.Child("source"))
	clause := n.First("import_clause")
	for _, c := range clause.Inner() {
		switch c.Kind {
		case "identifier":
			m.imports[c.Text()] = imported{from, "default"}
		case "namespace_import":
			m.imports[c.First("identifier").Text()] = imported{from, "*"}
		case "named_imports":
			for _, s := range c.Inner() {
				name, local := s.Child("name"), s.Child("alias")
				if local == nil {
					local = name
				}
				m.imports[local.Text()] = imported{from, name.Text()}
			}
		}
	}
	if clause == nil && from != "" { // for what it does: a style sheet
		m.imports["import "+from] = imported{from, ""}
	}
}

func (m *module) exporting(n *syntax.Node) {
	if d := n.Child("declaration"); d != nil {
		m.statement(d, true)
		if n.First("default") != nil {
			if name := d.Child("name").Text(); name != "" {
				delete(m.exports, name)
				m.exports["default"] = name
			}
		}
		return
	}
	from := n.Child("source")
	if v := n.Child("value"); v != nil { // export default …
		if wrapped := v.Child("arguments").Inner(); v.Is("call_expression") && len(wrapped) > 0 && wrapped[0].Is("identifier") && isCapital(wrapped[0].Text()) { // memo(Thing)
			v = wrapped[0]
		}
		name := v.Child("name").Text()
		switch {
		case v.Is("identifier"):
			name = v.Text()
		case name == "":
			name = nameOfFile(m.Name)
			m.bind(name, v, false)
		default:
			m.bind(name, v, false)
		}
		m.exports["default"] = name
		return
	}
	if clause := n.First("export_clause"); clause != nil {
		names := map[string]string{}
		for _, s := range clause.Inner() {
			name, outside := s.Child("name").Text(), s.Child("alias").Text()
			if outside == "" {
				outside = name
			}
			names[outside] = name
		}
		if from != nil {
			m.from = append(m.from, reexport{unquoted(from), names})
			return
		}
		for outside, name := range names {
			m.exports[outside] = name
		}
		return
	}
	if from != nil {
		m.from = append(m.from, reexport{unquoted(from), nil})
	}
}

// exportedAs gives the name a component is known by outside; empty for none.
func (m *module) exportedAs(local string) string {
	names := []string{}
	for outside, name := range m.exports {
		if name == local {
			names = append(names, outside)
		}
	}
	slices.Sort(names)
	switch {
	case len(names) == 0:
		return ""
	case slices.Contains(names, local), names[0] == "default":
		return local
	}
	return names[0]
}

// localOf gives the name in the module of what it gives to others; itself for one that it binds anyway.
func (m *module) localOf(outside string) string {
	if local, ok := m.exports[outside]; ok {
		return local
	}
	return outside
}

// find follows a name to the module that binds it, and its name there; nil for one from elsewhere.
func (m *module) find(name string) (*module, string) { return m.follow(name, 0) }

const mostHops = 16 // of imports that give names on

func (m *module) follow(name string, hops int) (*module, string) {
	if m == nil || hops > mostHops {
		return nil, ""
	}
	if m.bound[name] != nil || m.types[name] != nil {
		return m, name
	}
	in, ok := m.imports[name]
	if !ok || in.name == "*" || in.name == "" {
		return nil, ""
	}
	to := m.code.module(m.code.resolve(m.Name, in.from))
	return to.given(in.name, hops+1)
}

// given follows a name that others import from the module.
func (m *module) given(outside string, hops int) (*module, string) {
	if m == nil || hops > mostHops {
		return nil, ""
	}
	if local, ok := m.exports[outside]; ok {
		return m.follow(local, hops+1)
	}
	if m.bound[outside] != nil || m.types[outside] != nil {
		return m, outside
	}
	for _, r := range m.from {
		name := outside
		if r.names != nil {
			if name = r.names[outside]; name == "" {
				continue
			}
		}
		if to, local := m.code.module(m.code.resolve(m.Name, r.from)).given(name, hops+1); to != nil {
			return to, local
		}
	}
	return nil, ""
}

// isType tells whether a name is bound to a type.
func (m *module) typeNamed(name string) (*module, *syntax.Node) {
	to, local := m.find(name)
	if to == nil {
		return nil, nil
	}
	return to, to.types[local]
}

// isCapital tells whether a name begins with what is no small letter: JSX takes it for a component's.
func isCapital(name string) bool {
	first, _ := utf8.DecodeRuneInString(name)
	return name != "" && !unicode.IsLower(first) && first != '-'
}

// nameOfFile makes a component's name of a file's: "menu-item.tsx" is MenuItem, and "Menu/index.tsx" Menu.
func nameOfFile(name string) string {
	base := strings.TrimSuffix(path.Base(name), path.Ext(name))
	if base == "index" {
		base = path.Base(path.Dir(name))
	}
	var b strings.Builder
	for _, word := range strings.FieldsFunc(base, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) }) {
		first, size := utf8.DecodeRuneInString(word)
		b.WriteRune(unicode.ToUpper(first))
		b.WriteString(word[size:])
	}
	return b.String()
}
