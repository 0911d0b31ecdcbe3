package react

import (
	"fmt"
	"slices"
	"strings"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
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
	root    string            // id of the outermost part
	points  []float64         // widths of the container at which something changes, px
}

// hookName names the function that runs a component's behaviour.
func hookName(m *ir.Module) string { return "use" + m.Name }

// shows asks whether a layer is shown, of a state.
func (h *hook) shows(part, state string) string {
	region := h.does.Saying(part, "hidden")
	said := h.does.SaidIn(region, part, "hidden")
	var shown []string
	for _, id := range h.does.Regions[region].Leaves {
		if said[id] != "true" {
			shown = append(shown, id)
		}
	}
	if shown == nil {
		return "false"
	}
	return h.isIn(region, shown, state)
}

func newHook(w writer, c *contract.Contract) *hook {
	h := &hook{writer: w, does: w.m.Does, fields: map[string]string{}, parts: map[string]string{}, root: c.Root.ID, points: c.SwitchPoints()}
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
	brings := texts([]string{"/** What is heard with an event. */", "export interface " + name + "Heard {", "  /** Where to a handle is dragged, from 0 to 1. */", "  value?: number;", "  /** Whether text goes from right to left there. */", "  rtl?: boolean;"})
	if h.does.Wide {
		brings = append(brings, text("  /** How wide the container is, px. */"), text("  container?: number;"))
	}
	paragraph(append(brings, text("}"))...)
	if h.does.Wide {
		paragraph(text("/** How wide the container is, px; as wide as any where it is not there. */"), text("function containerOf(id: string) {"), text("  return document.getElementById(`${id}-"+h.root+"`)?.parentElement?.clientWidth ?? Infinity;"), text("}"))
	}
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
	of := contract.Capitalized(h.regions[region])
	if slices.Contains([]string{"State", "Event", "Given", "Heard", "Props"}, of) { // other types are called so
		of += "At"
	}
	return h.m.Name + of
}

func (h *hook) stateType() []printer.Doc {
	name := h.m.Name
	out := []printer.Doc{text("/** Where " + name + " is, and what it keeps. */"), text("export interface " + name + "State {")}
	for i := range h.does.Regions {
		out = append(out, text("  "+h.regions[i]+": "+h.leafType(i)+";"))
	}
	for _, v := range h.does.Machine.Values {
		out = append(out, text("  "+v.Name+": "+behaviour.KindOf(v.Initial)+";"))
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
	ir.Walk(h.m.Root, func(e *ir.Element) {
		for _, b := range h.heardBy(e) {
			if name := h.eventName(b); b.Kind == behaviour.Key && !slices.Contains(out, name) {
				out = append(out, name)
			}
		}
	})
	return out
}

// drags lists the handles that are dragged by the code itself, not by the platform.
func (h *hook) drags() (out []behaviour.Event) {
	for _, e := range h.does.Events {
		if e.Kind == behaviour.Dragged && !h.slides(e.Part) {
			out = append(out, e)
		}
	}
	return out
}

// slides tells whether a part is a slider of the platform's.
func (w writer) slides(part string) (out bool) {
	ir.Walk(w.m.Root, func(e *ir.Element) { out = out || e.Part == part && ranges(e) })
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
