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
	"cobrik/core/emit/printer"
)

// What follows each event, as functions of the state that change nothing else.

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
		if w, is := t.(contract.Container); is { // as wide as any rule asks, where nobody knows
			width := "(" + run + "heard.container ?? Infinity)"
			if w.From > 0 {
				out = append(out, text(width+" >= "+css.FormatNumber(w.From)))
			}
			if w.Below > 0 {
				out = append(out, text(width+" < "+css.FormatNumber(w.Below)))
			}
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
		text(`for (const word of words.split(" ").reverse()) {`), text("  Object.assign(to, states[word]);"), text("}"), text(`Object.assign(to, JSON.parse(values ?? "{}"));`), text("return to;"),
	}
	return append(out, h.function("function stand", []string{"words: string", "values: string | undefined", "given: " + name + "Given"}, name+"State", body)...)
}
