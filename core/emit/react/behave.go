package react

import (
	"slices"
	"strings"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/printer"
)

// How a component is tied to the hook of its behaviour: what it hears, and what the state says of its parts.

// runs writes the call of the hook.
func (w writer) runs() printer.Doc {
	h := w.hook
	var given []printer.Doc
	for _, id := range w.m.Asks {
		p := w.prop(id)
		if local := w.n.locals[id]; local == p.Name {
			given = append(given, text(local))
		} else {
			given = append(given, text(p.Name+": "+local))
		}
	}
	args := []printer.Doc{text("{}")}
	if given != nil {
		args = []printer.Doc{group(braced(given...))}
	}
	if h.finds() {
		args = append(args, text(w.n.id))
	}
	if w.forced {
		for _, told := range []string{ir.ForcedStates, ir.ForcedValues, ir.Watched} {
			args = append(args, text("("+w.n.rest+" as Record<string, string | undefined>)["+quote(told)+"]"))
		}
	}
	var taken []printer.Doc
	take := func(name, local string, used bool) {
		if used {
			taken = append(taken, text(renamed(name, local)))
		}
	}
	sends := false
	ir.Walk(w.m.Root, func(e *ir.Element) {
		for _, b := range e.Hears {
			sends = sends || reactEvents[b.Kind] != "" && b.Kind != behaviour.Key && (b.Kind != behaviour.Dragged || ranges(e))
		}
	})
	take("state", w.n.state, w.sees())
	take("send", w.n.send, sends)
	take("hearKey", w.n.hears["hearKey"], h.keys() != nil)
	take("hearDrag", w.n.hears["hearDrag"], h.drags() != nil)
	call := concat(text(hookName(w.m)+"("), group(indent(printer.SoftLine, commas(args)), printer.IfBreak(",", ""), printer.SoftLine), text(");"))
	if len(args) == 1 {
		call = concat(text(hookName(w.m)+"("), args[0], text(");"))
	}
	if taken == nil {
		return call
	}
	return concat(text("const "), group(braced(taken...)), text(" = "), call)
}

// sees tells whether anything that is rendered depends on the state.
func (w writer) sees() (out bool) {
	ir.WalkNodes(w.m.Root, func(n ir.Node) {
		switch n := n.(type) {
		case *ir.Element:
			out = out || len(n.Says) > 0 || slices.ContainsFunc(n.Classes, inState)
		case *ir.Use:
			out = out || len(n.Says) > 0
		}
	})
	return out
}

func inState(c ir.Class) bool { _, is := c.While.(contract.InState); return is }

// reactEvents are what React calls what the behaviour hears.
var reactEvents = map[behaviour.EventKind]string{
	behaviour.Press: "onClick", behaviour.Key: "onKeyDown", behaviour.FocusIn: "onFocus", behaviour.FocusOut: "onBlur", behaviour.PointerIn: "onPointerEnter", behaviour.PointerOut: "onPointerLeave",
	behaviour.Loaded: "onLoad", behaviour.Failed: "onError", behaviour.Dragged: "onPointerDown",
}

// eventOf is what React calls an event of an element: a box that is ticked changes, whatever pressed it.
func eventOf(e *ir.Element, b behaviour.Event) string {
	if b.Kind == behaviour.Press && ticked(e) || b.Kind == behaviour.Dragged && ranges(e) {
		return "onChange"
	}
	return reactEvents[b.Kind]
}

// ticked tells whether an element is a checkbox or a radio of the platform's.
func ticked(e *ir.Element) bool {
	return e.Tag == "input" && slices.ContainsFunc(e.Attributes, func(a ir.Attribute) bool { return a.Name == "type" && (a.Value == "checkbox" || a.Value == "radio") })
}

// ranges tells whether an element is a slider of the platform's.
func ranges(e *ir.Element) bool {
	return e.Tag == "input" && slices.ContainsFunc(e.Attributes, func(a ir.Attribute) bool { return a.Name == "type" && a.Value == "range" })
}

// hears tells whether the behaviour hears an event of an element by its name in React.
func (w writer) hears(e *ir.Element, name string) bool {
	return slices.ContainsFunc(w.heardBy(e), func(b behaviour.Event) bool { return eventOf(e, b) == name })
}

// heardBy lists the events that an element hears: a key that presses a button by itself is heard as its press (HTML, 6.4.3), and keys at no part on the whole page.
func (w writer) heardBy(e *ir.Element) (out []behaviour.Event) {
	for _, b := range e.Hears {
		pressed := slices.ContainsFunc(e.Hears, func(o behaviour.Event) bool { return o.Kind == behaviour.Press })
		switch {
		case reactEvents[b.Kind] == "", b.Kind == behaviour.Key && b.Part == "":
		case b.Kind == behaviour.Key && pressed && (b.Name == "Enter" && (e.Tag == "button" || e.Tag == "a" || e.Tag == "summary") || b.Name == "Space" && (e.Tag == "button" || e.Tag == "summary" || ticked(e))):
		default:
			out = append(out, b)
		}
	}
	return out
}

// heard writes the handlers of an element.
func (w writer) heard(e *ir.Element) (out []attribute) {
	byName := map[string][]behaviour.Event{}
	var order []string
	for _, b := range w.heardBy(e) {
		name := eventOf(e, b)
		if byName[name] == nil {
			order = append(order, name)
		}
		byName[name] = append(byName[name], b)
	}
	for _, name := range order {
		lines := w.handling(e, byName[name])
		for _, a := range e.Attributes {
			if a.Event && jsxName(e.Tag, a) == name { // whoever is told by a prop hears it first
				lines = append([]string{w.given(a.Prop) + "?.(event);"}, lines...)
			}
		}
		if e.Root && w.rest(name) {
			lines = append([]string{w.n.rest + "." + name + "?.(event);"}, lines...)
		}
		asks := strings.Contains(strings.Join(lines, " "), "event")
		if len(lines) == 1 && !strings.HasPrefix(lines[0], "if") {
			head := "() => "
			if strings.Contains(lines[0], "(event") || strings.Contains(lines[0], "event.") {
				head = "(event) => "
			}
			out = append(out, attribute{text(name + "={" + head + strings.TrimSuffix(lines[0], ";") + "}"), false})
			continue
		}
		head := name + "={() => {"
		if asks {
			head = name + "={(event) => {"
		}
		out = append(out, attribute{concat(text(head), indent(printer.HardLine, printer.Join(printer.HardLine, texts(lines)...)), printer.HardLine, text("}}")), false})
	}
	if slices.ContainsFunc(w.m.Layers, func(o ir.Layer) bool { return o.Modal && o.Part == e.Part }) { // it is closed by what the behaviour says
		out = append(out, attribute{text("onCancel={(event) => event.preventDefault()}"), false})
	}
	if w.keepsFocus(e) {
		out = append(out, attribute{text("onMouseDown={(event) => event.preventDefault()}"), false})
	}
	return out
}

// rest tells whether a use can give the root a handler of a name: no prop takes its place.
func (w writer) rest(name string) bool {
	return !slices.ContainsFunc(w.m.Props, func(p ir.Prop) bool { return p.Name == name })
}

// keepsFocus tells whether a press of an element must not take the focus from a part that something else happens to when it goes.
func (w writer) keepsFocus(e *ir.Element) bool {
	pressed := slices.ContainsFunc(e.Hears, func(b behaviour.Event) bool { return b.Kind == behaviour.Press && b.Part != "" })
	return pressed && slices.ContainsFunc(w.hook.does.Events, func(b behaviour.Event) bool { return b.Kind == behaviour.FocusOut && b.Part != e.Part }) && !w.inside(e)
}

// inside tells whether an element stands in a part whose losing the focus is heard.
func (w writer) inside(e *ir.Element) (out bool) {
	ir.Walk(w.m.Root, func(around *ir.Element) {
		if slices.ContainsFunc(around.Hears, func(b behaviour.Event) bool { return b.Kind == behaviour.FocusOut }) {
			ir.Walk(around, func(in *ir.Element) { out = out || in == e && in != around })
		}
	})
	return out
}

// handling writes what is sent for events of one name in React.
func (w writer) handling(e *ir.Element, events []behaviour.Event) (out []string) {
	name := quote(w.hook.eventName(events[0]))
	if w.stops(e, events[0]) {
		out = append(out, "event.stopPropagation();")
	}
	switch events[0].Kind {
	case behaviour.Key:
		return append(out, w.n.hears["hearKey"]+"(event, "+quote(w.hook.parts[e.Part])+");")
	case behaviour.Dragged:
		if ranges(e) { // between 0 and 100 where it says nothing else (HTML, 4.10.5.1.13)
			return append(out, "const { valueAsNumber, min, max } = event.currentTarget;", "const least = Number(min || 0);", "const value = (valueAsNumber - least) / (Number(max || 100) - least);", w.n.send+"("+name+", { value });")
		}
		return append(out, w.n.hears["hearDrag"]+"(event, "+name+");")
	case behaviour.FocusIn, behaviour.FocusOut:
		return append(out, "if (!event.currentTarget.contains(event.relatedTarget)) {", "  "+w.n.send+"("+name+");", "}")
	}
	return append(out, w.n.send+"("+name+");")
}

// stops tells whether an element around one hears the same: what happens is one event, at the innermost.
func (w writer) stops(e *ir.Element, b behaviour.Event) (out bool) {
	if b.Kind == behaviour.PointerIn || b.Kind == behaviour.PointerOut || b.Kind == behaviour.FocusIn || b.Kind == behaviour.FocusOut {
		return false // those do not rise, or say where from
	}
	ir.Walk(w.m.Root, func(around *ir.Element) {
		if around == e || !slices.ContainsFunc(w.heardBy(around), func(o behaviour.Event) bool { return o.Kind == b.Kind && o.Name == b.Name }) {
			return
		}
		ir.Walk(around, func(in *ir.Element) { out = out || in == e })
	})
	return out
}

// said writes what the state says of an element.
func (w writer) said(e *ir.Element) (out []attribute) {
	var shares []printer.Doc
	for _, name := range e.Says {
		if name == contract.TextSaid {
			continue
		}
		if property := shareProperties[name]; property != "" {
			shares = append(shares, group(text(property+":"), indent(printer.Line, w.saying(e.Part, name, ""))))
			continue
		}
		static := ""
		for _, a := range e.Attributes {
			if a.Name == name && a.Prop == "" && a.Part == "" {
				if static = quote(a.Value); kindOf(e.Tag, name) != contract.TextAttribute {
					static = a.Value
				}
			}
		}
		called := jsxName(e.Tag, ir.Attribute{Name: name})
		if name == "checked" || name == "value" { // it is what the state says, not what it was at first
			called = name
		}
		out = append(out, attribute{group(text(called+"={"), indent(printer.SoftLine, w.saying(e.Part, name, static)), printer.SoftLine, text("}")), false})
	}
	if shares != nil {
		out = append(out, attribute{concat(text("style={"), group(braced(shares...)), text("}")), false})
	}
	return out
}

// saidText writes the text that the state says of a part, in place of what stands there otherwise.
func (w writer) saidText(n ir.Said) printer.Doc {
	otherwise := ""
	switch c := n.Else.(type) {
	case ir.Fixed:
		otherwise = quote(c.Text)
	case ir.Text:
		otherwise = w.value(c.Prop)
	}
	return w.saying(n.Part, contract.TextSaid, otherwise)
}

// kindOf tells what an attribute of an element takes; a text where nothing is known of it.
func kindOf(tag, name string) contract.AttributeKind {
	if kind, _, ok := contract.AttributeOf(tag, name); ok && (kind == contract.NumberAttribute || kind == contract.FlagAttribute) {
		return kind
	}
	return contract.TextAttribute
}

// shareProperties are the properties of a share, as React names them.
var shareProperties = map[string]string{"share": "width", "start": "insetInlineStart", "rise": "height", "foot": "bottom"}

// share writes a share as a length.
func (w writer) share(value string) string {
	e, code := w.hook.does.Expr(value), w.code()
	said := code.line(e)
	if weights[e.Op()] > 0 && e.Op() != "*" {
		said = "(" + said + ")"
	}
	if e.Constant() {
		if n, ok := e.Value().(float64); ok {
			return quote(css.FormatNumber(n*100) + "%")
		}
	}
	return "`${" + said + " * 100}%`"
}

// saying writes what the state says: a condition, or one value of several.
func (w writer) saying(part, name, otherwise string) printer.Doc {
	h := w.hook
	region := h.does.Saying(part, name)
	said := h.does.SaidIn(region, part, name)
	if otherwise == "" {
		otherwise = "undefined"
	}
	var values []string
	leaves := map[string][]string{}
	for _, id := range h.does.Regions[region].Leaves {
		value := otherwise
		if said[id] != "" {
			if value = w.code().line(w.hook.does.Expr(said[id])); shareProperties[name] != "" {
				value = w.share(said[id])
			}
		}
		if leaves[value] == nil {
			values = append(values, value)
		}
		leaves[value] = append(leaves[value], id)
	}
	slices.SortStableFunc(values, func(a, b string) int { return len(leaves[a]) - len(leaves[b]) })
	test := func(ids []string) []printer.Doc {
		return texts(strings.Split(h.isIn(region, ids, w.n.state), " || "))
	}
	or := concat(text(" ||"), printer.Line)
	switch {
	case len(values) == 1:
		return text(values[0])
	}
	last := len(values) - 1
	out := text(values[last])
	if pair := values[last-1:]; slices.Contains(pair, "true") && slices.Contains(pair, "false") {
		last--
		out = group(printer.Join(or, test(leaves["true"])...))
		if no := leaves["false"]; len(values) == 2 && len(no) == 1 && len(leaves["true"]) > 1 {
			out = text(w.n.state + "." + h.regions[region] + " !== " + quote(no[0]))
		}
		if last == 0 {
			return out
		}
	}
	for i := last - 1; i >= 0; i-- {
		out = concat(group(printer.Join(or, test(leaves[values[i]])...)), indent(printer.Line, text("? "), text(values[i]), printer.Line, text(": "), out))
	}
	return group(out)
}

// code says how what a state says is written: props as the component has them.
func (w writer) code() scoped {
	code := w.hook.code(w.n.state, "", "")
	name := code.name
	code.name = func(word string) string {
		if p := w.prop(word); p != nil && !w.hook.keeps(word) {
			return w.n.locals[word]
		}
		return name(word)
	}
	return code
}
