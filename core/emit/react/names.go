package react

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

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
var globals = []string{"Boolean", "ComponentPropsWithRef", "ElementType", "Fragment", "Omit", "Partial", "ReactNode", "Record", "Ref", "styles", "useId"}

// names are what an emitted module calls its things, by the keys of props. Module and
// function are scopes of their own: what the module binds, a prop's local name does not hide.
type names struct {
	props    string            // the interface of the props
	types    map[string]string // of choices and icons, and of a list's items
	tables   map[string]string // of choices' classes
	drawings map[string]string // tables of icons' drawings, by the part that shows them
	defaults map[string]string // of rich texts
	join     string            // the function that joins classes
	locals   map[string]string // of props in the function
	items    map[string]string // what an item of a list is called, by the list
	indexes  map[string]string // its place, by the list
	headings map[string]string // elements of a level, by the level's prop
	pictures map[string]string // their addresses, by what they hold
	own      string            // that of the props that stand apart from none
	apart    map[string]string // of those that do, by the prop's id
	elements string            // the type of the elements that the root may be
	as       string            // the one it is
	root     string            // that, as JSX names it
	rest     string
	classes  string
	id       string
	state    string // of the behaviour
	send     string
	hears    map[string]string // the functions that hear keys and drags
}

func namesOf(m *ir.Module, drawn assets) names {
	module := emit.NewScope(nil, slices.Concat(keywords, globals, []string{m.Name}, writer{m: m}.uses(), drawn.in(m))...)
	n := names{types: map[string]string{}, tables: map[string]string{}, drawings: map[string]string{}, defaults: map[string]string{}, locals: map[string]string{},
		items: map[string]string{}, indexes: map[string]string{}, headings: map[string]string{}, pictures: map[string]string{}}
	n.props = module.Name(m.Name+"Props", "Type")
	if len(m.Apart) > 0 {
		n.own = module.Name(m.Name+"OwnProps", "Type")
		n.apart = map[string]string{}
	}
	for _, group := range m.Apart {
		for _, id := range group {
			n.apart[id] = module.Name(m.Name+"With"+contract.Capitalized(writer{m: m}.prop(id).Name), "Type")
		}
	}
	several := writer{m: m}.root().As != nil
	if several {
		n.elements = module.Name(m.Name+"Element", "Type")
	}
	each(m, func(p, list *ir.Prop) {
		of := m.Name
		if list != nil {
			of += contract.Capitalized(singular(list.Name))
		}
		switch p.Kind() {
		case contract.ChoiceKind:
			n.types[p.Key] = module.Name(of+contract.Capitalized(p.Name), "Choice")
		case contract.IconKind:
			n.types[p.Key] = module.Name(of+contract.Capitalized(p.Name), "Icon")
		case contract.ListKind:
			n.types[p.Key] = module.Name(of+contract.Capitalized(singular(p.Name)), "Item")
		}
	})
	each(m, func(p, list *ir.Prop) {
		name := p.Name
		if list != nil {
			name = singular(list.Name) + contract.Capitalized(p.Name)
		}
		switch p.Kind() {
		case contract.ChoiceKind:
			n.tables[p.Key] = module.Name(name+"Class", "Table")
		case contract.IconKind:
			for _, part := range showing(m, p.Key) {
				n.drawings[part] = module.Name(name+"Drawing", "Table")
			}
		case contract.RichKind:
			if list == nil {
				n.defaults[p.Key] = module.Name(name+"Default", "Text")
			}
		}
	})
	n.join = module.Name("joined", "Classes")
	for _, source := range drawn.shown(m) {
		n.pictures[source] = module.Name(contract.Identifier(drawn.pictures[source], "picture"), "Picture")
	}
	function, used := emit.NewScope(module, "className"), m.Used()
	for _, p := range m.Props {
		name := p.Name
		if !used[p.ID] { // taken away from the attributes that are passed on, as linters know it
			name = "_" + name
		}
		n.locals[p.ID] = function.Name(name, "Prop")
	}
	if several {
		n.as, n.root = function.Name("element", "Root"), function.Name("Root", "Element")
	}
	n.rest = function.Name("rest", "Attributes")
	n.classes = function.Name("classes", "List")
	n.id = function.Name("id", "Prefix")
	n.state, n.send = function.Name("state", "Now"), function.Name("send", "Event")
	n.hears = map[string]string{"hearKey": function.Name("hearKey", "Event"), "hearDrag": function.Name("hearDrag", "Event")}
	index := ""
	for _, p := range m.Props {
		switch p.Kind() {
		case contract.NumberKind:
			n.headings[p.ID] = function.Name("Heading", "Element")
		case contract.ListKind:
			name := singular(p.Name)
			if len(name) > longestItem {
				name = "item"
			}
			n.items[p.ID] = function.Name(name, "Item")
			if n.indexes[p.ID] = index; index == "" || nested(m.Root) {
				n.indexes[p.ID] = function.Name("index", "Of"+contract.Capitalized(n.items[p.ID]))
				index = n.indexes[p.ID]
			}
		}
	}
	return n
}

// showing lists the parts that show an icon, by the key of its prop.
func showing(m *ir.Module, prop string) (out []string) {
	ir.WalkNodes(m.Root, func(n ir.Node) {
		if c, ok := n.(ir.Choose); ok && c.Prop == prop && len(c.Options) > 0 {
			out = append(out, c.Options[0].Element.Part)
		}
	})
	return out
}

// longestItem bounds what an item of a list is called, bytes: it is written often.
const longestItem = 20

// nested tells whether anything that is there for each item of a list holds another such.
func nested(n ir.Node) (out bool) {
	ir.WalkNodes(n, func(n ir.Node) {
		if f, ok := n.(ir.For); ok {
			ir.WalkNodes(f.Each, func(inner ir.Node) {
				_, is := inner.(ir.For)
				out = out || is
			})
		}
	})
	return out
}

// each visits the props, a list's items after it with their list.
func each(m *ir.Module, visit func(p, list *ir.Prop)) {
	for i := range m.Props {
		p := &m.Props[i]
		visit(p, nil)
		for k := range p.Items {
			visit(&p.Items[k], p)
		}
	}
}

// singular names one of several: links, a link. What is no plural gets "Item".
func singular(name string) string {
	if one, ok := strings.CutSuffix(name, "ies"); ok && len(one) > 1 {
		return one + "y"
	}
	if one, ok := strings.CutSuffix(name, "s"); ok && len(one) > 1 && !strings.HasSuffix(one, "s") {
		return one
	}
	return name + "Item"
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

// jsxNames are the names of attributes that JSX spells otherwise than HTML and SVG.
var jsxNames = map[string]string{
	"fill-rule": "fillRule", "stroke-width": "strokeWidth", "stroke-linecap": "strokeLinecap", "stroke-linejoin": "strokeLinejoin",
	"stroke-miterlimit": "strokeMiterlimit", "stroke-dasharray": "strokeDasharray", "stroke-dashoffset": "strokeDashoffset",
	"for": "htmlFor", "tabindex": "tabIndex", "datetime": "dateTime", "readonly": "readOnly", "hreflang": "hrefLang", "maxlength": "maxLength", "autocomplete": "autoComplete",
	"inputmode": "inputMode", "fetchpriority": "fetchPriority",
}

// eventNames are those of React whose words are joined otherwise than by a capital in front.
var eventNames = map[string]string{
	"keydown": "onKeyDown", "keyup": "onKeyUp", "pointerdown": "onPointerDown", "pointerup": "onPointerUp", "pointerenter": "onPointerEnter", "pointerleave": "onPointerLeave",
}

// jsxName spells an attribute's or event's name as React has it. What an input holds at first
// is its default: else nobody could change it.
func jsxName(tag string, a ir.Attribute) string {
	switch {
	case a.Event && eventNames[a.Name] != "":
		return eventNames[a.Name]
	case a.Event:
		return "on" + contract.Capitalized(a.Name)
	case a.Name == "value" && (tag == "input" || tag == "textarea"):
		return "defaultValue"
	case a.Name == "checked":
		return "defaultChecked"
	case jsxNames[a.Name] != "":
		return jsxNames[a.Name]
	}
	return a.Name
}
