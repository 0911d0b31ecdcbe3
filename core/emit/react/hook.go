package react

import (
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/emit"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/printer"
)

// A behaviour is written as a hook of its own: the states by name, what follows each event as a function that changes nothing else, and timers and
// listeners that are there while somebody waits for them.

// hook is what the names in a behaviour's file are.
type hook struct {
	writer
	does    *behaviour.Flat
	regions []string          // what the state calls each region: at for the only one
	fields  map[string]string // what it calls histories, and how often states began again
	parts   map[string]string // names of parts by their ids, as events say them
}

// hookName names the function that runs a component's behaviour.
func hookName(m *ir.Module) string { return "use" + m.Name }

func newHook(w writer, c *contract.Contract) *hook {
	h := &hook{writer: w, does: w.m.Does, fields: map[string]string{}, parts: map[string]string{}}
	scope := emit.NewScope(nil, "focus")
	for _, v := range h.does.Machine.Values {
		scope.Name(v.Name, "")
	}
	for _, r := range h.does.Regions {
		name := "at"
		if len(h.does.Regions) > 1 {
			name = contract.Identifier(r.State, "region")
		}
		h.regions = append(h.regions, scope.Name(name, "State"))
	}
	for _, m := range h.does.Memories {
		h.fields[m.History] = scope.Name(contract.Identifier(m.History, "last"), "State")
	}
	h.moves(func(m behaviour.Move) {
		for _, s := range m.Restarts {
			if h.fields[s] == "" {
				h.fields[s] = scope.Name(contract.Identifier(s, "state")+"Again", "Times")
			}
		}
	})
	c.Walk(func(p, _ *contract.Part) { h.parts[p.ID] = p.Name })
	return h
}

// moves visits all that can be done.
func (h *hook) moves(visit func(behaviour.Move)) {
	for _, r := range h.does.Regions {
		for _, a := range r.Answers {
			for _, m := range a.Moves {
				visit(m)
			}
		}
	}
	for _, m := range h.does.Common {
		visit(m)
	}
}

// file writes the behaviour's file; forced for one that can be held in a state, to look at it.
func (h *hook) file(forced bool) string {
	name := h.m.Name
	var out []printer.Doc
	paragraph := func(docs ...printer.Doc) {
		if len(out) > 0 {
			out = append(out, printer.HardLine, printer.HardLine)
		}
		out = append(out, printer.Join(printer.HardLine, docs...))
	}
	imports := []string{"useCallback", "useEffect", "useRef", "useState"}
	var types []string
	if h.keys() != nil {
		types = append(types, "type KeyboardEvent")
	}
	if h.drags() != nil {
		types = append(types, "type PointerEvent")
	}
	paragraph(concat(text("import "), listed(append(types, imports...)), text(` from "react";`)))
	if len(h.m.Asks) > 0 {
		paragraph(text("import type { " + h.n.props + " } from " + quote("./"+name) + ";"))
	}
	for i, r := range h.does.Regions {
		says := "What " + name + " can be in."
		if len(h.does.Regions) > 1 {
			says = "What the " + spacedName(r.State) + " of " + name + " can be in."
		}
		paragraph(text("/** "+says+" */"), group(text("export type "+h.leafType(i)+" ="), indent(printer.Line, group(union(quoteAll(r.Leaves)))), text(";")))
	}
	paragraph(h.stateType()...)
	if named := h.events(); len(named) > 0 {
		paragraph(text("/** What can happen to "+name+". */"), group(text("export type "+name+"Event ="), indent(printer.Line, group(union(quoteAll(named)))), text(";")))
	} else {
		paragraph(text("/** Nothing happens to "+name+" from outside. */"), text("export type "+name+"Event = never;"))
	}
	says := text("/** What " + name + "'s behaviour is given of its props. */")
	if given := h.given(); given != nil {
		paragraph(append(append([]printer.Doc{says, text("export interface " + name + "Given {")}, given...), text("}"))...)
	} else {
		paragraph(says, text("export type "+name+"Given = object;"))
	}
	paragraph(text("/** What is heard with an event. */"), text("export interface "+name+"Heard {"), text("  /** Where to a handle is dragged, from 0 to 1. */"), text("  value?: number;"), text("  /** Whether text goes from right to left there. */"), text("  rtl?: boolean;"), text("}"))
	paragraph(text("type Told = (user: " + name + "Given) => void;"))
	if h.does.Steps {
		paragraph(text("/** What a step is taken in: those to be told, and the events it raises itself. */"), text("interface Run {"), text("  given: "+name+"Given;"), text("  heard: "+name+"Heard;"), text("  told: Told[];"), text("  raised: string[];"), text("}"))
	}
	if keys := h.keys(); keys != nil {
		paragraph(concat(text("const keys: readonly string[] = "), group(text("["), indent(printer.SoftLine, commas(texts(quoteAll(keys)))), printer.IfBreak(",", ""), printer.SoftLine, text("]")), text(";")))
		paragraph(text("function isKey(name: string): name is "+name+"Event {"), text("  return keys.includes(name);"), text("}"))
	}
	if table := h.begins(); table != nil {
		paragraph(table)
	}
	paragraph(h.begin()...)
	if forced {
		paragraph(h.stand()...)
	}
	for i := range h.does.Regions {
		if h.split() {
			paragraph(h.take(i)...)
		}
	}
	if h.does.Steps {
		paragraph(h.settle()...)
	}
	paragraph(h.next()...)
	paragraph(h.hook(forced)...)
	return print(out...)
}

// split tells whether what is done is a function a region, beside the one that is asked.
func (h *hook) split() bool { return h.does.Steps || len(h.does.Regions) > 1 }

func texts(list []string) []printer.Doc {
	out := make([]printer.Doc, len(list))
	for i, s := range list {
		out[i] = text(s)
	}
	return out
}

func quoteAll(list []string) []string {
	out := make([]string, len(list))
	for i, s := range list {
		out[i] = quote(s)
	}
	return out
}

func spacedName(s string) string { return strings.Join(contract.Words(s), " ") }

func (h *hook) leafType(region int) string {
	if len(h.does.Regions) == 1 {
		return h.m.Name + "At"
	}
	return h.m.Name + contract.Capitalized(h.regions[region])
}

func (h *hook) stateType() []printer.Doc {
	name := h.m.Name
	out := []printer.Doc{text("/** Where " + name + " is, and what it keeps. */"), text("export interface " + name + "State {")}
	for i := range h.does.Regions {
		out = append(out, text("  "+h.regions[i]+": "+h.leafType(i)+";"))
	}
	for _, v := range h.does.Machine.Values {
		out = append(out, text("  "+v.Name+": "+typeOf(v.Initial)+";"))
	}
	for _, m := range h.does.Memories {
		out = append(out, text("  "+h.fields[m.History]+": "+h.leafType(m.Region)+";"))
	}
	for _, s := range h.restarts() {
		out = append(out, text("  "+h.fields[s]+": number;"))
	}
	if focused := h.focused(); focused != nil {
		out = append(out, text("  /** The part that was given the focus last. */"), concat(text("  focus?:"), indent(group(indent(printer.Line, group(printer.IfBreak("| ", ""), text("{ part: string }"), printer.Line, text("| undefined"))))), text(";")))
	}
	return append(out, text("}"))
}

func typeOf(v any) string {
	switch v.(type) {
	case float64:
		return "number"
	case bool:
		return "boolean"
	}
	return "string"
}

// restarts lists the states whose times can begin again without their being left for another.
func (h *hook) restarts() (out []string) {
	h.moves(func(m behaviour.Move) {
		for _, s := range m.Restarts {
			if !slices.Contains(out, s) {
				out = append(out, s)
			}
		}
	})
	return out
}

// focused lists the parts that are given the focus, by id.
func (h *hook) focused() (out []string) {
	add := func(list []behaviour.Action) {
		for _, a := range list {
			if a.Focus != "" && a.Focus != behaviour.Elsewhere && !slices.Contains(out, a.Focus) {
				out = append(out, a.Focus)
			}
		}
	}
	h.moves(func(m behaviour.Move) { add(m.Do) })
	for _, r := range h.does.Regions {
		add(r.Entry)
	}
	return out
}

// eventName says an event in words: "press of button", "key Escape".
func (h *hook) eventName(e behaviour.Event) string {
	words := []string{string(e.Kind)}
	if e.Kind == behaviour.Changed {
		e.Name = h.prop(e.Name).Name
	}
	if e.Name != "" {
		words = append(words, e.Name)
	}
	if e.Part != "" {
		words = append(words, "of", h.parts[e.Part])
	}
	return strings.Join(words, " ")
}

// timerName says that a move's time is over.
func (h *hook) timerName(m behaviour.Move) string {
	n := 0
	for _, t := range h.transitions(m.Source) {
		if t.After > 0 || t.Token != "" {
			n++
		}
	}
	if n > 1 {
		return fmt.Sprintf("time %d of %s", m.Index+1, m.Source)
	}
	return "time of " + m.Source
}

func (h *hook) transitions(state string) (out []behaviour.Transition) {
	h.does.Machine.Root.Walk(func(s, _ *behaviour.State) {
		if s.ID == state {
			out = s.On
		}
	})
	return out
}

// events lists the names of all that can happen from outside, times with them.
func (h *hook) events() (out []string) {
	for _, e := range h.does.Events {
		out = append(out, h.eventName(e))
	}
	h.moves(func(m behaviour.Move) {
		if m.Timer() != "" && !slices.Contains(out, h.timerName(m)) {
			out = append(out, h.timerName(m))
		}
	})
	return out
}

// keys lists the names of the keys that are heard.
func (h *hook) keys() (out []string) {
	for _, e := range h.does.Events {
		if e.Kind == behaviour.Key && e.Part != "" {
			out = append(out, h.eventName(e))
		}
	}
	return out
}

func (h *hook) drags() (out []behaviour.Event) {
	for _, e := range h.does.Events {
		if e.Kind == behaviour.Dragged {
			out = append(out, e)
		}
	}
	return out
}

// given are the props that the behaviour is given: those with a default are always there.
func (h *hook) given() (out []printer.Doc) {
	for _, id := range h.m.Asks {
		p := h.prop(id)
		kind := h.n.props + "[" + quote(p.Name) + "]"
		if p.Default() != nil && !p.Required {
			kind = "NonNullable<" + kind + ">"
		}
		out = append(out, text("  "+p.Name+": "+kind+";"))
	}
	return out
}

// code says how the names of an expression are written, over the state's values, the props, and what is heard.
func (h *hook) code(state, given, heard string) scoped {
	return scoped{in: func(id string) printer.Doc { return h.within(id, state) }, name: func(name string) string {
		switch {
		case name == "event":
			return "(" + heard + ".value ?? 0)"
		case h.keeps(name):
			return state + "." + name
		}
		if p := h.prop(name); p != nil {
			return given + "." + p.Name
		}
		return "undefined"
	}}
}

// keeps tells whether a name is that of a value of the machine's.
func (h *hook) keeps(name string) bool {
	return slices.ContainsFunc(h.does.Machine.Values, func(v behaviour.Value) bool { return v.Name == name })
}

// within asks whether a state is active: of a list, for the code around may know that it is not, and a comparison would be refused.
func (h *hook) within(id, state string) printer.Doc {
	if id == h.does.Machine.Root.ID {
		return text("true")
	}
	for i, r := range h.does.Regions {
		inside := h.does.Inside(i, id)
		if len(inside) == len(r.Leaves) || id == r.State { // the inside of one of the outermost's, which is always active
			return text("true")
		}
		if len(inside) > 0 {
			return concat(group(text("["), indent(printer.SoftLine, commas(texts(quoteAll(inside)))), printer.IfBreak(",", ""), printer.SoftLine, text("]")), text(".includes("+state+"."+h.regions[i]+")"))
		}
	}
	return text("false")
}

// inState asks the same where nothing is known of the state.
func (h *hook) inState(id, state string) string {
	for i := range h.does.Regions {
		if inside := h.does.Inside(i, id); len(inside) > 0 {
			return h.isIn(i, inside, state)
		}
	}
	return "true"
}

// isIn asks whether a region is in one of some leaves.
func (h *hook) isIn(region int, leaves []string, state string) string {
	all := h.does.Regions[region].Leaves
	if len(leaves) == len(all) {
		return "true"
	}
	of := state + "." + h.regions[region]
	if len(leaves) == len(all)-1 && len(all) > 2 {
		for _, id := range all {
			if !slices.Contains(leaves, id) {
				return of + " !== " + quote(id)
			}
		}
	}
	tests := make([]string, len(leaves))
	for i, id := range leaves {
		tests[i] = of + " === " + quote(id)
	}
	return strings.Join(tests, " || ")
}

// lines of a block, further in.
func block(head string, inside []printer.Doc) []printer.Doc {
	return []printer.Doc{text(head + " {"), concat(text("  "), indent(printer.Join(printer.HardLine, inside...))), text("}")}
}

// do writes what a move does to a state that is called to.
func (h *hook) do(m behaviour.Move, run string) (out []printer.Doc) {
	for _, n := range m.Notes {
		leaf := "to." + h.regions[m.Region]
		if n.Leaf != "" {
			leaf = quote(n.Leaf)
		}
		out = append(out, text("to."+h.fields[n.History]+" = "+leaf+";"))
	}
	switch {
	case m.Back != "":
		out = append(out, text("to."+h.regions[m.Region]+" = to."+h.fields[m.Back]+";"))
	case m.Leaf != "":
		out = append(out, text("to."+h.regions[m.Region]+" = "+quote(m.Leaf)+";"))
	}
	for _, s := range m.Restarts {
		out = append(out, text("to."+h.fields[s]+"++;"))
	}
	return append(out, h.actions(m.Do, run)...)
}

func (h *hook) actions(list []behaviour.Action, run string) (out []printer.Doc) {
	said := 0
	code := h.code("to", run+"given", run+"heard")
	for _, a := range list {
		switch {
		case a.Assign != "":
			out = append(out, code.assigned("to."+a.Assign, h.does.Expr(a.To)))
		case a.Raise != "":
			if h.answers(a.Raise) {
				out = append(out, text(run+"raised.push("+quote(a.Raise)+");"))
			}
		case a.Tell != "" && a.With == "":
			out = append(out, text(run+"told.push((user) => user."+a.Tell+"?.());"))
		case a.Tell != "":
			if e := h.does.Expr(a.With); e.Constant() {
				out = append(out, text(run+"told.push((user) => user."+a.Tell+"?.("+code.line(e)+"));"))
				continue
			}
			said++
			value := "value"
			if said > 1 {
				value = fmt.Sprint("value", said)
			}
			out = append(out, code.assigned("const "+value, h.does.Expr(a.With)), text(run+"told.push((user) => user."+a.Tell+"?.("+value+"));"))
		case a.Focus == behaviour.Elsewhere:
			if h.focused() != nil {
				out = append(out, text("to.focus = undefined;"))
			}
		case a.Focus != "":
			out = append(out, text("to.focus = { part: "+quote(a.Focus)+" };"))
		}
	}
	return out
}

// answers tells whether anything waits for an event that is raised.
func (h *hook) answers(name string) (out bool) {
	h.moves(func(m behaviour.Move) {
		out = out || m.Event.Kind == behaviour.Own && m.Event.Stands(behaviour.Event{Kind: behaviour.Own, Name: name})
	})
	return out
}

// raised lists the events of its own that a machine raises.
func (h *hook) raised() (out []string) {
	add := func(list []behaviour.Action) {
		for _, a := range list {
			if a.Raise != "" && !slices.Contains(out, a.Raise) {
				out = append(out, a.Raise)
			}
		}
	}
	h.moves(func(m behaviour.Move) { add(m.Do) })
	for _, r := range h.does.Regions {
		add(r.Entry)
	}
	return out
}

// asked writes the conditions of a move, conjuncts; its event first. None for one that can never be taken: what was answered before in any case is gone.
func (h *hook) asked(m behaviour.Move, run string, gone map[string]bool) (out []printer.Doc, ever bool) {
	var names []string
	switch {
	case m.Timer() != "":
		names = []string{h.timerName(m)}
	case m.Eventless():
		names = []string{""}
	case m.Event.Kind == behaviour.Own:
		for _, name := range h.raised() {
			if m.Event.Stands(behaviour.Event{Kind: behaviour.Own, Name: name}) {
				names = append(names, name)
			}
		}
	default:
		for _, e := range h.does.Events {
			if m.Event.Stands(e) {
				names = append(names, h.eventName(e))
			}
		}
	}
	names = slices.DeleteFunc(names, func(name string) bool { return gone[name] })
	if len(names) == 0 {
		return nil, false
	}
	if m.When.Always() && m.If == "" {
		for _, name := range names {
			gone[name] = true
		}
	}
	tests := make([]printer.Doc, len(names))
	for i, name := range names {
		tests[i] = text("event === " + quote(name))
	}
	test := tests[0]
	if len(tests) > 1 {
		test = printer.Join(concat(text(" ||"), printer.Line), tests...)
		if !m.When.Always() || m.If != "" {
			test = group(text("("), indent(printer.SoftLine, printer.Join(concat(text(" ||"), printer.Line), tests...)), printer.SoftLine, text(")"))
		}
	}
	out = append(out, test)
	for _, t := range m.When.Terms() {
		if d, is := t.(contract.Direction); is {
			out = append(out, text(map[string]string{"rtl": run + "heard.rtl", "ltr": "!" + run + "heard.rtl"}[d.Is]))
			continue
		}
		for _, one := range strings.Split(h.termOf(t, run+"given."), " && ") {
			out = append(out, text(one))
		}
	}
	if m.If != "" {
		code := h.code("state", run+"given", run+"heard")
		for _, one := range h.does.Expr(m.If).Conjuncts() {
			out = append(out, bracketed(code.expr(one), weights[one.Op()] == 1))
		}
	}
	return out, true
}

// termOf writes a term of props as the hook is given them.
func (h *hook) termOf(t contract.Term, given string) string {
	w := h.writer
	w.n.locals = map[string]string{}
	for _, p := range h.m.Props {
		w.n.locals[p.ID] = given + p.Name
	}
	return w.test(t)
}

// answer writes the moves of one state, each with what is returned when it is taken; those beside each other that do the same are one.
func (h *hook) answer(moves []behaviour.Move, run, done string, gone map[string]bool) (out []printer.Doc) {
	type branch struct {
		tests [][]printer.Doc
		does  printer.Doc
		plain bool // it asks for its event alone
	}
	var list []branch
	for _, m := range moves {
		tests, ever := h.asked(m, run, gone)
		if !ever {
			continue
		}
		one := branch{[][]printer.Doc{tests}, printer.Join(printer.HardLine, append(h.do(m, run), text(done))...), len(tests) == 1}
		if n := len(list) - 1; n >= 0 && one.plain && list[n].plain && printer.Print(list[n].does, columns) == printer.Print(one.does, columns) {
			list[n].tests = append(list[n].tests, tests)
			continue
		}
		list = append(list, one)
	}
	for _, one := range list {
		condition := concat(one.tests[0][0], concat(rest(one.tests[0][1:])...))
		for _, other := range one.tests[1:] {
			condition = concat(condition, text(" ||"), printer.Line, other[0])
		}
		out = append(out, group(text("if ("), indent(printer.SoftLine, condition), printer.SoftLine, text(") {")), concat(text("  "), indent(one.does)), text("}"))
	}
	return out
}

// region writes what is done in a region: of single states by a switch, then of those around them.
func (h *hook) region(i int, run, done string) (out []printer.Doc) {
	r := h.does.Regions[i]
	of := "state." + h.regions[i]
	var cases []printer.Doc
	var around []behaviour.Answer
	byLeaf := map[string][]printer.Doc{}
	gone := map[string]map[string]bool{}
	for _, leaf := range r.Leaves {
		gone[leaf] = map[string]bool{}
	}
	for _, a := range r.Answers {
		if len(a.Leaves) == 1 && len(around) == 0 {
			byLeaf[a.Leaves[0]] = append(byLeaf[a.Leaves[0]], h.answer(a.Moves, run, done, gone[a.Leaves[0]])...)
			continue
		}
		around = append(around, a)
	}
	for _, leaf := range r.Leaves {
		if inside := byLeaf[leaf]; inside != nil {
			cases = append(cases, text("case "+quote(leaf)+":"), concat(text("  "), indent(printer.Join(printer.HardLine, append(inside, text("break;"))...))))
		}
	}
	top := map[string]bool{}                  // what is answered by then, wherever it is
	if len(r.Leaves) == 1 && len(cases) > 0 { // it is always there
		out, top = append(out, byLeaf[r.Leaves[0]]...), gone[r.Leaves[0]]
	} else if len(cases) > 0 {
		out = append(out, block("switch ("+of+")", cases)...)
	}
	for _, a := range around {
		if len(a.Leaves) == len(r.Leaves) {
			out = append(out, h.answer(a.Moves, run, done, top)...)
			continue
		}
		inside := h.answer(a.Moves, run, done, maps.Clone(top))
		if len(inside) == 0 {
			continue
		}
		var tests []printer.Doc
		for _, one := range strings.Split(h.isIn(i, a.Leaves, "state"), " || ") {
			tests = append(tests, text(one))
		}
		head := group(text("if ("), indent(printer.SoftLine, printer.Join(concat(text(" ||"), printer.Line), tests...)), printer.SoftLine, text(") {"))
		out = append(out, head, concat(text("  "), indent(printer.Join(printer.HardLine, inside...))), text("}"))
	}
	return out
}

func (h *hook) initial() []printer.Doc {
	out := []printer.Doc{}
	for i, r := range h.does.Regions {
		out = append(out, concat(text(h.regions[i]+": "), h.first(r)))
	}
	for _, v := range h.does.Machine.Values {
		first := constantOf(v.Initial)
		if p := h.prop(v.Prop); v.Prop != "" && p != nil {
			first = "given." + p.Name
			if p.Default() == nil && !p.Required {
				first += " ?? " + constantOf(v.Initial)
			}
		}
		out = append(out, text(v.Name+": "+first))
	}
	for _, m := range h.does.Memories {
		out = append(out, text(h.fields[m.History]+": "+quote(m.First)))
	}
	for _, s := range h.restarts() {
		out = append(out, text(h.fields[s]+": 1"))
	}
	return out
}

// first is the leaf that a region begins with: the one that a prop says, where it does.
func (h *hook) first(r behaviour.Region) printer.Doc {
	p := h.prop(h.does.Machine.Given)
	if p == nil {
		return text(quote(r.Begins))
	}
	given, always := "given."+p.Name, p.Default() != nil || p.Required
	if p.Kind() == contract.FlagKind {
		leaf := func(v bool) string { return quote(h.does.First(behaviour.StateOf(p.ID, contract.FlagValue(v)))) }
		return text(given + " ? " + leaf(true) + " : " + leaf(false))
	}
	same := true
	for _, v := range p.Type.Nameable() {
		same = same && h.does.First(behaviour.StateOf(p.ID, v)) == v.String()
	}
	switch {
	case same && always:
		return text(given)
	case same:
		return text(given + " ?? " + quote(r.Begins))
	case always:
		return text("begins[" + given + "]")
	}
	return text(given + " === undefined ? " + quote(r.Begins) + " : begins[" + given + "]")
}

// begins writes the table of leaves by what a prop says, where its options are not called as they are.
func (h *hook) begins() printer.Doc {
	p := h.prop(h.does.Machine.Given)
	if p == nil || p.Kind() == contract.FlagKind {
		return nil
	}
	var entries []printer.Doc
	same := true
	for _, v := range p.Type.Nameable() {
		leaf := h.does.First(behaviour.StateOf(p.ID, v))
		same = same && leaf == v.String()
		entries = append(entries, text(keyOf(v.String())+": "+quote(leaf)))
	}
	if same {
		return nil
	}
	return concat(text("const begins: Record<NonNullable<"+h.n.props+"["+quote(p.Name)+"]>, "+h.leafType(0)+"> = "), printer.Broken(braced(entries...)), text(";"))
}

func constantOf(v any) string {
	switch v := v.(type) {
	case string:
		return quote(v)
	case float64:
		return css.FormatNumber(v)
	}
	return fmt.Sprint(v)
}

func (h *hook) begin() []printer.Doc {
	name := h.m.Name
	var entry []behaviour.Action
	for _, r := range h.does.Regions {
		entry = append(entry, r.Entry...)
	}
	run := ""
	if h.does.Steps {
		run = "run."
	}
	does := h.actions(entry, run)
	literal := group(braced(h.initial()...))
	var body []printer.Doc
	if len(does) == 0 && !h.does.Steps {
		body = []printer.Doc{concat(text("return "), literal, text(";"))}
	} else {
		body = append(body, concat(text("const to: "+name+"State = "), literal, text(";")))
		if h.does.Steps {
			body = append(body, text("const run: Run = { given, heard: {}, told: [], raised: [] };"))
		}
		if body = append(body, does...); h.does.Steps {
			body = append(body, text("settle(to, run);"))
		}
		body = append(body, text("return to;"))
	}
	return append([]printer.Doc{text("/** How " + name + " begins. */")}, h.function("export function begin"+name, []string{named("given", body) + ": " + name + "Given"}, name+"State", body)...)
}

// function writes a function with its parameters, one a line where they do not fit.
func (h *hook) function(name string, params []string, returns string, body []printer.Doc) []printer.Doc {
	head := group(text(name+"("), indent(printer.SoftLine, commas(texts(params))), printer.IfBreak(",", ""), printer.SoftLine, text("): "+returns+" {"))
	return []printer.Doc{head, concat(text("  "), indent(printer.Join(printer.HardLine, body...))), text("}")}
}

// take writes what is done in one region.
func (h *hook) take(i int) []printer.Doc {
	name := h.m.Name
	run := "run."
	if !h.does.Steps {
		run = ""
	}
	body := append(h.region(i, run, "return true;"), text("return false;"))
	params := []string{named("state", body) + ": " + name + "State", named("to", body) + ": " + name + "State", named("event", body) + ": string", named("run", body) + ": Run"}
	if !h.does.Steps {
		params = append(params[:3], named("given", body)+": "+name+"Given", named("heard", body)+": "+name+"Heard", named("told", body)+": Told[]")
	}
	return append([]printer.Doc{text("/** Goes on with " + h.whole(i) + "; tells whether anything is done. */")}, h.function("function "+h.takeName(i), params, "boolean", body)...)
}

func (h *hook) whole(i int) string {
	if len(h.does.Regions) == 1 {
		return "the state"
	}
	return "the " + spacedName(h.does.Regions[i].State)
}

func (h *hook) takeName(i int) string {
	if len(h.does.Regions) == 1 {
		return "take"
	}
	return "take" + contract.Capitalized(h.regions[i])
}

// taken writes the steps of all regions, each asked what it does as the state is before any does anything.
func (h *hook) taken(event string) (out []printer.Doc, value string) {
	args := "(state, to, " + event + ", run)"
	if !h.does.Steps {
		args = "(state, to, " + event + ", given, heard, told)"
	}
	var names []string
	for i := range h.does.Regions {
		names = append(names, h.takeName(i)+args)
	}
	if len(names) == 1 {
		return nil, names[0]
	}
	return []printer.Doc{concat(text("const taken = "), group(text("["), indent(printer.SoftLine, commas(texts(names))), printer.IfBreak(",", ""), printer.SoftLine, text("]")), text(";"))}, "taken.includes(true)"
}

// mostSteps bounds what follows one event, as the machine's own run does.
const mostSteps = 1_000

// settle writes the function that takes what waits for nothing, and what was raised.
func (h *hook) settle() []printer.Doc {
	name := h.m.Name
	out := append([]printer.Doc{text("/** Takes one step at an event, in all that is active. */")}, h.function("function step", []string{"to: " + name + "State", "event: string", "run: Run"}, "boolean", h.step())...)
	out = append(out, text(""), text("/** Takes what waits for nothing, and what was raised, until nothing is left. */"))
	return append(out, h.function("function settle", []string{"to: " + name + "State", "run: Run"}, "boolean", h.settled())...)
}

func (h *hook) step() []printer.Doc {
	before, taken := h.taken("event")
	body := append([]printer.Doc{text("const state = { ...to };")}, before...)
	if len(h.does.Common) > 0 {
		body = append(body, block("if ("+taken+")", []printer.Doc{text("return true;")})...)
		body = append(body, h.answer(h.does.Common, "run.", "return true;", map[string]bool{})...)
		return append(body, text("return false;"))
	}
	return append(body, text("return "+taken+";"))
}

func (h *hook) settled() []printer.Doc {
	inside := block(`if (step(to, "", run))`, []printer.Doc{text("moved = true;"), text("continue;")})
	inside = append(inside, text("const event = run.raised.shift();"))
	inside = append(inside, block("if (event === undefined)", []printer.Doc{text("break;")})...)
	inside = append(inside, text("run.heard = {};"), text("moved = step(to, event, run) || moved;"))
	body := append([]printer.Doc{text("let moved = false;")}, block(fmt.Sprintf("for (let steps = 0; steps < %d; steps++)", mostSteps), inside)...)
	return append(body, text("return moved;"))
}

// next writes the function that gives the state that follows.
func (h *hook) next() []printer.Doc {
	name := h.m.Name
	body := []printer.Doc{text("const to = { ...state };"), text("const told: Told[] = [];")}
	switch {
	case h.does.Steps:
		body = append(body, text("const run: Run = { given, heard, told, raised: [] };"), text("const taken = step(to, event, run);"))
		body = append(body, text("const moved = settle(to, run) || taken;"), text("return moved ? [to, told] : [state, told];"))
	case h.split():
		before, taken := h.taken("event")
		body = append(body, before...)
		body = append(body, block("if ("+taken+")", []printer.Doc{text("return [to, told];")})...)
		body = append(body, h.answer(h.does.Common, "", "return [to, told];", map[string]bool{})...)
		body = append(body, text("return [state, told];"))
	default:
		body = append(body, h.region(0, "", "return [to, told];")...)
		body = append(body, text("return [state, told];"))
	}
	out := []printer.Doc{text("/** What follows an event, and who is told of it: the same state where nothing does. */")}
	return append(out, h.function("export function next"+name, []string{"state: " + name + "State", "event: " + name + "Event", named("given", body) + ": " + name + "Given", named("heard", body) + ": " + name + "Heard = {}"}, "["+name+"State, Told[]]", body)...)
}

// named gives the name of a parameter: one that says so, where nothing asks for it.
func named(name string, body []printer.Doc) string {
	if regexp.MustCompile(`\b` + name + `\b`).MatchString(printer.Print(printer.Join(printer.HardLine, body...), columns)) {
		return name
	}
	return "_" + name
}

// stand writes the function that gives a state to hold the component in, to look at it.
func (h *hook) stand() []printer.Doc {
	name := h.m.Name
	var entries []printer.Doc
	for _, state := range h.does.States() {
		for i := range h.does.Regions {
			inside := h.does.Inside(i, state)
			if len(inside) == 0 {
				continue
			}
			entries = append(entries, text(quote(state)+": { "+h.regions[i]+": "+quote(h.does.First(state))+" }"))
		}
	}
	out := []printer.Doc{concat(text("const states: Record<string, Partial<"+name+"State> | undefined> = "), printer.Broken(braced(entries...)), text(";")), text("")}
	body := []printer.Doc{
		concat(text("const to: "+name+"State = "), group(braced(h.initial()...)), text(";")),
		text(`for (const word of words.split(" ").reverse()) {`), text("  Object.assign(to, states[word]);"), text("}"), text("return to;"),
	}
	return append(out, h.function("function stand", []string{"words: string", "given: " + name + "Given"}, name+"State", body)...)
}

// hook writes the function that the component calls.
func (h *hook) hook(forced bool) []printer.Doc {
	name := h.m.Name
	params := []string{"given: " + name + "Given"}
	if h.finds() {
		params = append(params, "id: string")
	}
	begin := "() => begin" + name + "(given)"
	held := ""
	var body []printer.Doc
	if forced {
		params = append(params, "words?: string")
		begin = "() => (words === undefined ? begin" + name + "(given) : stand(words, given))"
		held = " && words === undefined"
	}
	body = append(body,
		text("const [state, setState] = useState("+begin+");"),
		text("const latest = useRef({ state, given });"),
		text("useEffect(() => {"), text("  latest.current.given = given;"), text("});"),
		text("const send = useCallback((event: "+name+"Event, heard?: "+name+"Heard) => {"),
		text("  const from = latest.current;"),
		text("  const [to, told] = next"+name+"(from.state, event, from.given, heard);"),
		text("  const taken = to !== from.state;"),
		text("  from.state = to;"),
		text("  setState(to);"),
		text("  for (const tell of told) {"), text("    tell(from.given);"), text("  }"),
		text("  return taken;"), text("}, []);"),
	)
	gap := func(docs ...printer.Doc) { body = append(append(body, text("")), docs...) }
	var returned []string
	if h.keys() != nil {
		heard := "send(name)"
		if h.turns() {
			heard = `send(name, { rtl: getComputedStyle(event.currentTarget).direction === "rtl" })`
		}
		gap(text("/** Hears a key that is pressed in a part; what it would do by itself is not done. */"),
			text("function hearKey(event: KeyboardEvent, part: string) {"),
			text("  const name = `key ${event.key === \" \" ? \"Space\" : event.key} of ${part}`;"),
			concat(text("  "), group(text("if ("), indent(indent(printer.SoftLine, text("isKey(name) &&"), printer.Line, text(heard))), indent(printer.SoftLine), text(") {"))), text("    event.preventDefault();"), text("  }"), text("}"))
		returned = append(returned, "hearKey")
	}
	if h.drags() != nil {
		gap(h.dragging()...)
		returned = append(returned, "hearDrag")
	}
	for _, t := range h.timers() {
		var condition string
		if t.leaves != nil {
			condition = h.isIn(t.region, t.leaves, "state")
		}
		deps := []string{t.name, "send"}
		if condition == "" {
			condition = "true"
		}
		gap(h.constant(t.name, condition+held))
		if again := h.fields[t.move.Source]; again != "" { // it begins again each time
			body = append(body, text("const "+t.again+" = "+t.name+" ? state."+again+" : 0;"))
			t.name, deps[0] = t.again, t.again
		}
		body = append(body,
			text("useEffect(() => {"), text("  if (!"+t.name+") {"), text("    return undefined;"), text("  }"),
			text("  const timer = setTimeout(() => send("+quote(h.timerName(t.move))+"), "+css.FormatNumber(t.move.After)+");"),
			text("  return () => clearTimeout(timer);"),
			text("}, ["+strings.Join(deps, ", ")+"]);"))
	}
	for _, l := range h.listeners() {
		gap(h.listening(l)...)
	}
	for _, e := range h.does.Events {
		if e.Kind == behaviour.Changed {
			p := h.prop(e.Name)
			last := "last" + contract.Capitalized(p.Name)
			gap(text("const "+last+" = useRef(given."+p.Name+");"), text("useEffect(() => {"), text("  if ("+last+".current !== given."+p.Name+") {"), text("    "+last+".current = given."+p.Name+";"),
				text("    send("+quote(h.eventName(e))+");"), text("  }"), text("}, [given."+p.Name+", send]);"))
		}
	}
	if h.focused() != nil {
		gap(text("useEffect(() => {"), text("  if (state.focus) {"), text("    document.getElementById(`${id}-${state.focus.part}`)?.focus();"), text("  }"), text("}, [state.focus, id]);"))
	}
	body = append(body, text(""), text("return { "+strings.Join(append([]string{"state", "send"}, returned...), ", ")+" };"))
	var params_ []printer.Doc
	for _, p := range params {
		params_ = append(params_, text(p))
	}
	head := group(text("export function "+hookName(h.m)+"("), indent(printer.SoftLine, commas(params_)), printer.IfBreak(",", ""), printer.SoftLine, text(") {"))
	return []printer.Doc{text("/** Runs the behaviour of " + name + "; instances have nothing to do with each other. */"), head, concat(text("  "), indent(printer.Join(printer.HardLine, body...))), text("}")}
}

// constant writes a condition by its name, one operand a line where they do not fit.
func (h *hook) constant(name, condition string) printer.Doc {
	if head, tail, held := strings.Cut(condition, " && words"); held {
		return text("const " + name + " = " + bracketedText(head) + " && words" + tail + ";")
	}
	var tests []printer.Doc
	for _, one := range strings.Split(condition, " || ") {
		tests = append(tests, text(one))
	}
	return group(text("const "+name+" ="), indent(printer.Line, group(printer.Join(concat(text(" ||"), printer.Line), tests...))), text(";"))
}

// bracketedText puts brackets around a test of several.
func bracketedText(condition string) string {
	if strings.Contains(condition, " || ") {
		return "(" + condition + ")"
	}
	return condition
}

// finds tells whether the hook has to find parts in the page.
func (h *hook) finds() bool { return len(h.does.Parts()) > 0 }

// turns tells whether the direction of text matters.
func (h *hook) turns() (out bool) {
	h.moves(func(m behaviour.Move) {
		for _, t := range m.When.Terms() {
			_, is := t.(contract.Direction)
			out = out || is
		}
	})
	return out
}

type timer struct {
	move   behaviour.Move
	region int
	leaves []string
	name   string
	again  string
}

// timers lists the times that states wait for.
func (h *hook) timers() (out []timer) {
	scope := emit.NewScope(nil, "given", "id", "words", "state", "setState", "latest", "send", "hearKey", "hearDrag")
	for i, r := range h.does.Regions {
		for _, a := range r.Answers {
			for _, m := range a.Moves {
				at := slices.IndexFunc(out, func(t timer) bool { return t.move.Timer() == m.Timer() })
				switch {
				case m.Timer() == "":
				case at >= 0:
					out[at].leaves = append(out[at].leaves, a.Leaves...)
				default:
					name := contract.Identifier(m.Source, "state")
					out = append(out, timer{m, i, slices.Clone(a.Leaves), scope.Name(name+"Waits", "Time"), scope.Name(name+"Turn", "Time")})
				}
			}
		}
	}
	return out
}

// listeners lists the events that are heard on the whole page, with where they are answered.
func (h *hook) listeners() (out []listener) {
	for _, e := range h.does.Events {
		if e.Kind != behaviour.OutsidePress && (e.Kind != behaviour.Key || e.Part != "") {
			continue
		}
		l := listener{event: e}
		for i, r := range h.does.Regions {
			for _, a := range r.Answers {
				if slices.ContainsFunc(a.Moves, func(m behaviour.Move) bool { return m.Event.Kind == e.Kind && m.Event.Stands(e) }) {
					l.region = i
					for _, id := range a.Leaves {
						if !slices.Contains(l.leaves, id) {
							l.leaves = append(l.leaves, id)
						}
					}
				}
			}
		}
		word := strings.ToLower(string(e.Name))
		if e.Kind == behaviour.OutsidePress {
			word = "outside" + contract.Capitalized(h.parts[e.Part])
		}
		l.name = "hears" + contract.Capitalized(contract.Identifier(word, "event"))
		out = append(out, l)
	}
	return out
}

type listener struct {
	event  behaviour.Event
	region int
	leaves []string
	name   string
}

// listening writes the effect that hears an event on the whole page while somebody waits for it.
func (h *hook) listening(l listener) []printer.Doc {
	condition := h.isIn(l.region, l.leaves, "state")
	out := []printer.Doc{h.constant(l.name, condition), text("useEffect(() => {"), text("  if (!" + l.name + ") {"), text("    return undefined;"), text("  }")}
	name, kind := quote(h.eventName(l.event)), "keydown"
	deps := []string{l.name, "send"}
	if l.event.Kind == behaviour.OutsidePress {
		kind = "click" // by then the press has moved the focus
		deps = append(deps, "id")
		within := []string{quote(l.event.Part)}
		for _, e := range h.does.Events {
			if e.Kind == behaviour.Press && e.Part != "" && e.Part != l.event.Part {
				within = append(within, quote(e.Part))
			}
		}
		out = append(out, text("  function hear(event: Event) {"),
			concat(text("    const inside = "), indent(indent(group(text("["), indent(printer.SoftLine, commas(texts(within))), printer.IfBreak(",", ""), printer.SoftLine, text("]")))), text(".some((part) =>")),
			text("      document.getElementById(`${id}-${part}`)?.contains(event.target as Node),"), text("    );"),
			text("    if (!inside) {"), text("      send("+name+");"), text("    }"), text("  }"))
	} else {
		key := l.event.Name
		if key == "Space" {
			key = " "
		}
		out = append(out, text("  function hear(event: globalThis.KeyboardEvent) {"),
			text("    if (event.key === "+quote(key)+" && !event.defaultPrevented && send("+name+")) {"), text("      event.preventDefault();"), text("    }"), text("  }"))
	}
	return append(out, text("  document.addEventListener("+quote(kind)+", hear);"), text("  return () => document.removeEventListener("+quote(kind)+", hear);"), text("}, ["+strings.Join(deps, ", ")+"]);"))
}

// dragging writes the function that hears a handle being dragged along what is around it.
func (h *hook) dragging() []printer.Doc {
	return []printer.Doc{
		text("/** Hears a handle that is dragged along what is around it, from 0 to 1: from below, where that is higher than wide. */"),
		text("function hearDrag(event: PointerEvent, name: " + h.m.Name + "Event) {"),
		text("  const track = event.currentTarget.parentElement;"),
		text("  if (!track || event.button !== 0) {"), text("    return;"), text("  }"),
		text("  event.currentTarget.setPointerCapture(event.pointerId);"),
		text("  const done = new AbortController();"),
		text("  const move = (at: globalThis.PointerEvent) => {"),
		text("    const box = track.getBoundingClientRect();"),
		text("    const along = (at.clientX - box.left) / box.width;"),
		text("    const turned = getComputedStyle(track).direction === \"rtl\" ? 1 - along : along;"),
		text("    const share = box.height > box.width ? (box.bottom - at.clientY) / box.height : turned;"),
		text("    send(name, { value: Math.min(Math.max(share, 0), 1) });"),
		text("  };"),
		text("  for (const end of [\"pointerup\", \"pointercancel\"] as const) {"),
		text("    window.addEventListener(end, () => done.abort(), { signal: done.signal });"),
		text("  }"),
		text("  window.addEventListener(\"pointermove\", move, { signal: done.signal });"),
		text("}"),
	}
}
