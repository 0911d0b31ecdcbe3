package source

import (
	"slices"
	"strings"

	"cobrik/core/source/syntax"
)

// class is a class an element has, while a condition holds. The sheet is that of a CSS module; empty for a class by its plain name.
type class struct {
	sheet, name string
	when        cond
	composed    bool // its name is put together of a prop's value
}

// moduleClass writes a class of a CSS module into a text, so that it is known again.
func moduleClass(sheet, name string) string { return "\x02" + sheet + "\x03" + name + "\x02" }

// classOf reads a word of a class attribute.
func classOf(word string, when cond) class {
	if sheet, name, ok := strings.Cut(strings.Trim(word, "\x02"), "\x03"); ok {
		return class{sheet: sheet, name: name, when: when}
	}
	return class{name: word, when: when}
}

// moduleSheet gives the path of the style sheet whose classes a name holds; empty for none.
func (r *reader) moduleSheet(n *syntax.Node) string {
	if !n.Is("identifier") {
		return ""
	}
	m := r.moduleOf(n)
	in, ok := m.imports[n.Text()]
	if !ok || in.name != "default" && in.name != "*" || !isSheet(in.from) {
		return ""
	}
	return r.sheetPath(m, in.from)
}

// classes reads what a class attribute is given.
func (r *reader) classes(n *syntax.Node, s *scope) (out []class) {
	r.addClasses(&out, n, s, always(), 0)
	return out
}

func (r *reader) addClasses(out *[]class, n *syntax.Node, s *scope, when cond, depth int) {
	n = bare(n)
	if n == nil || when == nil {
		return
	}
	if depth > mostTypes {
		r.unread(n, "class", "classes that go on too long to be followed")
		return
	}
	words := func(text string) {
		for _, name := range strings.Fields(text) {
			*out = append(*out, class{name: name, when: when})
		}
	}
	if v, ok := constant(n); ok {
		if text, is := v.(string); is {
			words(text)
		}
		return
	}
	more := func(inner *syntax.Node, s *scope, c cond) { r.addClasses(out, inner, s, when.and(c), depth+1) }
	both := func(condition *syntax.Node) (cond, cond, bool) {
		c, ok := r.test(condition, s)
		none, okNot := r.not(c)
		if !ok || !okNot {
			r.unread(condition, "class", "classes while "+shortened(condition.Text()))
			return nil, nil, false
		}
		return c, none, true
	}
	switch n.Kind {
	case "member_expression":
		object, property := bare(n.Child("object")), n.Child("property").Text()
		if sheet := r.moduleSheet(object); sheet != "" {
			*out = append(*out, class{sheet: sheet, name: property, when: when})
			return
		}
		if names, values, _ := r.table(object, s); slices.Contains(names, property) {
			more(values[property], nil, always())
			return
		}
		if m, ok := r.means(object, s); ok && (m.kind == propsWhole || m.kind == restProps) && property == "className" {
			return
		}
	case "subscript_expression":
		r.classesByKey(out, n, s, when, depth)
		return
	case "ternary_expression":
		if c, none, ok := both(n.Child("condition")); ok {
			more(n.Child("consequence"), s, c)
			more(n.Child("alternative"), s, none)
		}
		return
	case "binary_expression":
		switch op := n.Child("operator").Text(); op {
		case "&&":
			if c, _, ok := both(n.Child("left")); ok {
				more(n.Child("right"), s, c)
			}
			return
		case "||", "??":
			more(n.Child("left"), s, always())
			if v, ok := constant(n.Child("right")); !ok || v != "" {
				more(n.Child("right"), s, always())
			}
			return
		case "+":
			r.templateClasses(out, n, sumPieces(n), s, when, depth)
			return
		}
	case "template_string":
		r.templateClasses(out, n, templatePieces(n), s, when, depth)
		return
	case "array":
		for _, e := range n.Inner() {
			more(e, s, always())
		}
		return
	case "object": // the classes whose value is true
		for _, c := range n.Inner() {
			key, value := c.Child("key"), c.Child("value")
			if c.Is("shorthand_property_identifier") {
				value = c
			}
			if value == nil {
				r.unread(c, "class", "classes of another object")
				continue
			}
			holds, ok := r.test(value, s)
			switch {
			case !ok:
				r.unread(value, "class", "classes while "+shortened(value.Text()))
			case key.Is("computed_property_name"):
				more(key.Lead(), s, holds)
			default:
				for _, name := range strings.Fields(memberName(first(key, c))) {
					*out = append(*out, class{name: name, when: when.and(holds)})
				}
			}
		}
		return
	case "call_expression":
		r.calledClasses(out, n, s, when, depth)
		return
	case "identifier":
		m, ok := r.means(n, s)
		switch {
		case ok && m.kind == constValue:
			r.addClasses(out, m.value, m.in, when, depth+1)
			return
		case ok && (m.kind == classGiven || m.kind == propValue && r.out.Prop(m.prop) != nil && slices.Contains([]string{"className", "class"}, m.prop)):
			return
		}
	}
	if list, ok := r.texts(n, s); ok {
		for _, w := range list {
			for _, name := range strings.Fields(w.text) {
				*out = append(*out, classOf(name, when.and(w.when)))
			}
		}
		return
	}
	r.unread(n, "class", "the classes of "+shortened(n.Text()))
}

func first(list ...*syntax.Node) *syntax.Node {
	for _, n := range list {
		if n != nil {
			return n
		}
	}
	return nil
}

// classesByKey reads styles["name"], styles[size], and a table's entry by a prop's value.
func (r *reader) classesByKey(out *[]class, n *syntax.Node, s *scope, when cond, depth int) {
	object, index := bare(n.Child("object")), n.Child("index")
	keys, ok := r.texts(index, s)
	if !ok {
		r.unread(n, "class", "the class by "+shortened(index.Text()))
		return
	}
	if sheet := r.moduleSheet(object); sheet != "" {
		for _, k := range keys {
			if r.code.sheet(sheet).has(k.text) {
				*out = append(*out, class{sheet: sheet, name: k.text, when: when.and(k.when)})
			}
		}
		return
	}
	names, values, whole := r.table(object, s)
	if names == nil {
		r.unread(n, "class", "the classes in "+shortened(object.Text()))
		return
	}
	if !whole {
		r.unread(object, "class", "some of the entries of "+shortened(object.Text()))
	}
	for _, k := range keys {
		if values[k.text] != nil {
			r.addClasses(out, values[k.text], nil, when.and(k.when), depth+1)
		}
	}
}

// joiners are packages that do nothing but join classes.
var joiners = []string{"clsx", "clsx/lite", "classnames"}

// calledClasses reads a call that joins classes: a method of a list, a package that does so, or a function of the module.
func (r *reader) calledClasses(out *[]class, n *syntax.Node, s *scope, when cond, depth int) {
	function, args := bare(n.Child("function")), n.Child("arguments").Inner()
	if function.Is("member_expression") {
		switch function.Child("property").Text() {
		case "filter", "join", "trim", "concat", "flat":
			r.addClasses(out, function.Child("object"), s, when, depth+1)
			if function.Child("property").Text() == "concat" {
				for _, a := range args {
					r.addClasses(out, a, s, when, depth+1)
				}
			}
			return
		}
	}
	joins := false
	if function.Is("identifier") {
		m := r.moduleOf(function)
		in, imported := m.imports[function.Text()]
		if imported && slices.Contains(joiners, in.from) {
			joins = true
		} else if v := m.value(function.Text()); v != nil && joinsNames(v) {
			joins = true
		} else if imported && strings.HasPrefix(in.from, ".") || v != nil {
			r.unread(n, "class", "what "+function.Text()+" makes of classes")
			return
		}
	}
	if !joins {
		r.unread(n, "class", "what "+shortened(function.Text())+" makes of classes")
		return
	}
	for _, a := range args {
		r.addClasses(out, a, s, when, depth+1)
	}
}

// joinsNames tells whether a function does nothing but join what it is given.
func joinsNames(f *syntax.Node) bool {
	text := strings.Join(strings.Fields(f.Child("body").Text()), "")
	return len(text) < 200 && strings.Contains(text, ".filter(") && strings.Contains(text, ".join(") && strings.Contains(f.Child("parameters").Text(), "...")
}

// sumPieces cuts a sum of texts into its pieces.
func sumPieces(n *syntax.Node) (out []templatePiece) {
	n = bare(n)
	if n.Is("binary_expression") && n.Child("operator").Text() == "+" {
		return append(sumPieces(n.Child("left")), sumPieces(n.Child("right"))...)
	}
	if v, ok := constant(n); ok {
		if text, is := v.(string); is {
			return []templatePiece{{text: text}}
		}
	}
	return []templatePiece{{expression: n}}
}

// templateClasses reads classes written into a text: what stands alone between spaces is read as classes, what is part of a word by its texts.
func (r *reader) templateClasses(out *[]class, at *syntax.Node, pieces []templatePiece, s *scope, when cond, depth int) {
	word := []written{{"", always()}} // what the last word is so far
	var alone *syntax.Node            // the expression that is all of it
	flush := func() {
		if alone != nil {
			r.addClasses(out, alone, s, when, depth+1)
		} else {
			for _, w := range word {
				for _, name := range strings.Fields(w.text) {
					one := classOf(name, when.and(w.when))
					one.composed = len(word) > 1
					*out = append(*out, one)
				}
			}
		}
		word, alone = []written{{"", always()}}, nil
	}
	plain := func(text string) bool {
		if alone != nil {
			list, ok := r.texts(alone, s)
			if !ok {
				return false
			}
			word, alone = list, nil
		}
		var ok bool
		word, ok = crossed(word, []written{{text, always()}})
		return ok
	}
	empty := func() bool { return alone == nil && len(word) == 1 && word[0].text == "" }
	for _, p := range pieces {
		ok := true
		switch {
		case p.expression != nil && empty():
			alone = p.expression
		case p.expression != nil:
			if ok = plain(""); ok {
				var list []written
				if list, ok = r.texts(p.expression, s); ok {
					word, ok = crossed(word, list)
				}
			}
		default:
			for i, piece := range splitKeepingSpaces(p.text) {
				if i%2 == 1 {
					flush()
				} else if piece != "" {
					ok = ok && plain(piece)
				}
			}
		}
		if !ok {
			r.unread(at, "class", "classes put together of "+shortened(at.Text()))
			return
		}
	}
	flush()
}

// splitKeepingSpaces cuts a text at its spaces: what is between them has even places.
func splitKeepingSpaces(text string) (out []string) {
	space := func(r rune) bool { return strings.ContainsRune(" \t\n\r\f", r) }
	for {
		i := strings.IndexFunc(text, space)
		if i < 0 {
			return append(out, text)
		}
		rest := strings.TrimLeftFunc(text[i:], space)
		out = append(out, text[:i], text[i:len(text)-len(rest)])
		text = rest
	}
}
