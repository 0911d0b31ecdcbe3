package react

import (
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/emit"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/printer"
)

// Scenarios are written as tests for Testing Library and Vitest: what happens is let happen in the page, and what is expected is asked of it.

// scenarioFile writes the tests; empty where none of the scenarios holds.
func (w writer) scenarioFile(c *contract.Contract) string {
	s := &scenarios{writer: w, c: c, found: map[string]string{}, used: map[string]bool{}, needs: map[string]bool{}}
	held := holding(c)
	for _, one := range held {
		s.place(one)
	}
	s.scope = emit.NewScope(nil, slices.Concat(keywords, s.reserved())...)
	c.Walk(func(p, _ *contract.Part) {
		if where := s.found[p.ID]; where != "" && where != moves {
			s.calls = append(s.calls, [2]string{p.ID, s.scope.Name(p.Name, "Part")})
		}
	})
	var tests []printer.Doc
	for _, one := range held {
		tests = append(tests, s.test(one))
	}
	if tests == nil {
		return ""
	}
	out := []printer.Doc{s.imports(), s.set()}
	out = append(out, s.helpers()...)
	return print(printer.Join(concat(printer.HardLine, printer.HardLine), append(out, tests...)...))
}

// holding lists the scenarios that are as they expect: others would be tests that cannot pass.
func holding(c *contract.Contract) []contract.Scenario {
	return slices.DeleteFunc(slices.Clone(c.Scenarios), func(s contract.Scenario) bool { return len(behaviour.Replay(c, s, nil)) > 0 })
}

type scenarios struct {
	writer
	c     *contract.Contract
	scope *emit.Scope
	found map[string]string // how a part is found, by its id; moves where that depends on what the component is given
	calls [][2]string       // parts, by id, with the functions that find them
	used  map[string]bool   // ids of those whose functions are called
	needs map[string]bool   // helpers
}

// moves says that a part is not always found in the same way.
const moves = "-"

// reserved are the names that the file has for its own things.
func (s *scenarios) reserved() []string {
	return append([]string{"act", "afterEach", "at", "beforeEach", "cleanup", "document", "DOMRect", "drag", "Element", "expect", "fireEvent", "HTMLElement", "part", "parseFloat", "render", "rerender", "screen", "styles", "test", "vi", "wait", "window", s.m.Name}, globals...)
}

// place looks where the parts are that a scenario speaks of.
func (s *scenarios) place(one contract.Scenario) {
	behaviour.Replay(s.c, one, func(i int, x *behaviour.Scene) {
		if i < 0 {
			return
		}
		step := one.Steps[i]
		var parts []string
		if step.Happens != nil && step.Happens.Part != "" {
			parts = append(parts, step.Happens.Part)
		}
		for _, e := range step.Expects {
			if e.Part != "" {
				parts = append(parts, e.Part)
			}
		}
		for _, id := range parts {
			where := s.finds(id, x.Values)
			switch was, seen := s.found[id]; {
			case !seen:
				s.found[id] = where
			case was != where:
				s.found[id] = moves
			}
		}
	})
}

// finds writes how a part is found: by its role where it is the only button, by its class, else by its place. Empty for one that is not there and has no class.
func (s *scenarios) finds(id string, v contract.Values) string {
	p := s.c.Part(id)
	if p == nil {
		return ""
	}
	if s.onlyButton(p) {
		return `screen.getByRole("button", { hidden: true })`
	}
	class := ""
	ir.WalkNodes(s.m.Root, func(n ir.Node) {
		switch n := n.(type) {
		case *ir.Element:
			if n.Part == id && len(n.Classes) > 0 && n.Classes[0].Prop == "" && n.Classes[0].While == nil {
				class = n.Classes[0].Name
			}
		case *ir.Use:
			if n.Part == id && len(n.Classes) > 0 && n.Classes[0].Prop == "" && n.Classes[0].While == nil {
				class = n.Classes[0].Name
			}
		}
	})
	if class != "" {
		return "part(styles." + class + ")"
	}
	path, there := s.m.Paths(v)[id]
	if !there {
		return ""
	}
	words := make([]string, len(path))
	for i, n := range path {
		words[i] = strconv.Itoa(n)
	}
	return "at(" + strings.Join(words, ", ") + ")"
}

// onlyButton tells whether a part is the one button that the component ever shows.
func (s *scenarios) onlyButton(of *contract.Part) bool {
	buttons, plain := 0, true
	is := func(p *contract.Part) bool {
		role, said := p.Attributes["role"]
		return p.Element == "button" && !said || role.Text == "button"
	}
	s.c.Walk(func(p, _ *contract.Part) {
		if is(p) {
			buttons++
		}
		_, slot := p.Content.(contract.SlotOf)
		plain = plain && p.Use() == nil && p.Repeat == "" && !slot && p.Attributes["role"].Prop == ""
	})
	return plain && buttons == 1 && is(of) && of.ShownWhen.Always()
}

// called is how a part is found in a test.
func (s *scenarios) called(id string, v contract.Values) string {
	for _, call := range s.calls {
		if call[0] == id {
			s.note(s.found[id])
			s.used[id] = true
			return call[1] + "()"
		}
	}
	where := s.finds(id, v)
	s.note(where)
	return where
}

// note keeps what the way a part is found needs of the file.
func (s *scenarios) note(where string) {
	name, _, _ := strings.Cut(where, "(")
	name, _, _ = strings.Cut(name, ".")
	s.needs[name] = true
}

// test writes a scenario.
func (s *scenarios) test(one contract.Scenario) printer.Doc {
	scope := emit.NewScope(s.scope)
	events := map[string]string{}
	var told []string
	for _, step := range one.Steps {
		for _, e := range step.Expects {
			if name, _, _ := strings.Cut(e.Value, " "); e.Is == contract.IsTold && !slices.Contains(told, name) {
				told = append(told, name)
			}
		}
	}
	changes := slices.ContainsFunc(one.Steps, func(step contract.ScenarioStep) bool {
		return step.Happens != nil && step.Happens.Kind == string(behaviour.Changed)
	})
	var lines []printer.Doc
	for _, name := range told {
		events[name] = scope.Name(name, "Event")
		lines = append(lines, text("const "+events[name]+" = vi.fn();"))
	}
	behaviour.Replay(s.c, one, func(i int, x *behaviour.Scene) {
		if i < 0 {
			head := "render("
			if changes {
				head = "const { rerender } = render("
			}
			lines = append(lines, s.shown(head, x.Values, events))
			return
		}
		step := one.Steps[i]
		if len(x.Waits) > 0 {
			s.needs["wait"], s.needs["act"] = true, true
			words := make([]printer.Doc, len(x.Waits))
			for k, ms := range x.Waits {
				words[k] = text(css.FormatNumber(ms))
			}
			lines = append(lines, call("wait(", words...))
		}
		if h := step.Happens; h != nil {
			if h.Kind == string(behaviour.Changed) {
				lines = append(lines, s.shown("rerender(", x.Values, events))
			} else {
				lines = append(lines, s.happens(*h, x.Values)...)
			}
		}
		for _, e := range step.Expects {
			if asked := s.expects(e, x, events); asked != nil {
				s.needs["expect"] = true
				lines = append(lines, asked...)
			}
		}
	})
	return concat(text("test("+quote(one.Name)+", () => {"), indent(printer.HardLine, printer.Join(printer.HardLine, lines...)), printer.HardLine, text("});"))
}

// call writes a call of some arguments.
func call(head string, args ...printer.Doc) printer.Doc {
	if len(args) == 0 {
		return text(head + ");")
	}
	return group(text(head), indent(printer.SoftLine, commas(args)), printer.IfBreak(",", ""), printer.SoftLine, text(");"))
}

// shown writes the component with some values.
func (s *scenarios) shown(head string, v contract.Values, events map[string]string) printer.Doc {
	var attributes []attribute
	var children []ir.Node
	for i := range s.m.Props {
		p := &s.m.Props[i]
		value := v[p.ID]
		switch {
		case p.Kind() == contract.SlotKind && p.Name == "children":
			children = append(children, ir.Fixed{Text: "…"})
		case events[p.Name] != "":
			attributes = append(attributes, attribute{text(p.Name + "={" + events[p.Name] + "}"), false})
		case value != nil && (p.Required || !contract.Equal(value, p.Default())):
			attributes = append(attributes, s.attributesOf(ir.Given{Prop: p, Value: value})...)
		}
	}
	return call(head, s.tag(s.m.Name, attributes, children))
}

// happens writes what lets an event happen in the page.
func (s *scenarios) happens(h contract.Happening, v contract.Values) []printer.Doc {
	e := behaviour.Event{Kind: behaviour.EventKind(h.Kind), Name: h.Name, Part: h.Part}
	where := "document.body"
	switch {
	case e.Kind == behaviour.OutsidePress:
	case e.Part != "":
		where = s.called(e.Part, v)
	case e.Kind == behaviour.Press:
		where = s.called(s.c.Root.ID, v)
	}
	fire := func(event string, more ...string) []printer.Doc {
		s.needs["fireEvent"] = true
		args := []printer.Doc{text(where)}
		if more != nil {
			args = append(args, text("{ "+strings.Join(more, ", ")+" }"))
		}
		return []printer.Doc{call("fireEvent."+event+"(", args...)}
	}
	switch e.Kind {
	case behaviour.Press, behaviour.OutsidePress:
		return fire("click")
	case behaviour.Key:
		if e.Part != "" && !s.hearsKey(e) { // the platform makes a press of it
			return fire("click")
		}
		key := e.Name
		if key == "Space" {
			key = " "
		}
		return fire("keyDown", "key: "+quote(key))
	case behaviour.Dragged:
		if s.slides(e.Part) {
			limit := func(name string, otherwise float64) float64 {
				if n, err := strconv.ParseFloat(s.c.Part(e.Part).Attributes[name].Text, 64); err == nil {
					return n
				}
				return otherwise
			}
			share, _ := strconv.ParseFloat(string(h.Value), 64)
			least := limit("min", 0)
			return fire("change", "target: { value: "+css.FormatNumber(least+share*(limit("max", 100)-least))+" }")
		}
		s.needs["drag"], s.needs["fireEvent"] = true, true
		return []printer.Doc{call("drag(", text(where), text(string(h.Value)))}
	}
	return fire(map[behaviour.EventKind]string{
		behaviour.FocusIn: "focus", behaviour.FocusOut: "blur", behaviour.PointerIn: "pointerEnter", behaviour.PointerOut: "pointerLeave", behaviour.Loaded: "load", behaviour.Failed: "error",
	}[e.Kind])
}

// hearsKey tells whether a key is heard as itself where it is pressed.
func (s *scenarios) hearsKey(e behaviour.Event) (out bool) {
	ir.Walk(s.m.Root, func(at *ir.Element) {
		out = out || at.Part == e.Part && slices.ContainsFunc(s.heardBy(at), func(b behaviour.Event) bool { return b.Kind == behaviour.Key && b.Stands(e) })
	})
	return out
}

// expects writes what is asked of the page; nothing of a part that is not there and cannot be named.
func (s *scenarios) expects(e contract.Expected, x *behaviour.Scene, events map[string]string) []printer.Doc {
	if e.Is == contract.IsTold {
		name, with, asked := strings.Cut(e.Value, " ")
		out := []printer.Doc{text(fmt.Sprintf("expect(%s).toHaveBeenCalledTimes(%d);", events[name], x.Calls[name]))}
		if asked {
			out = append(out, call("expect("+events[name]+").toHaveBeenNthCalledWith(", text(strconv.Itoa(x.Call(name, with))), text(literalJSON(with))))
		}
		return out
	}
	if _, there := s.m.Paths(x.Values)[e.Part]; !there {
		where := s.finds(e.Part, x.Values)
		if class, ok := strings.CutPrefix(where, "part("); ok {
			s.needs["styles"] = true
			return []printer.Doc{call("expect(document.querySelector(`.${" + strings.TrimSuffix(class, ")") + "}`)).not.toBeInTheDocument(")}
		}
		return nil
	}
	of := s.called(e.Part, x.Values)
	tag := ""
	if p := s.c.Part(e.Part); p != nil {
		tag = p.Element
	}
	one := func(head string, args ...printer.Doc) []printer.Doc { return []printer.Doc{call(head, args...)} }
	switch {
	case e.Is == contract.IsHidden:
		return one("expect(" + of + ").not.toBeVisible(")
	case e.Is == contract.IsShown:
		return one("expect(" + of + ").toBeVisible(")
	case e.Is == contract.IsFocused:
		return one("expect(" + of + ").toHaveFocus(")
	case e.Is == contract.TextSaid && e.Value == "":
		return one("expect(" + of + ").toBeEmptyDOMElement(")
	case e.Is == contract.TextSaid:
		return one("expect("+of+").toHaveTextContent(", text("/^"+strings.ReplaceAll(regexp.QuoteMeta(e.Value), "/", `\/`)+"$/"))
	case contract.Shares[e.Is] != "":
		share, _ := strconv.ParseFloat(e.Value, 64)
		return one("expect(parseFloat("+of+".style."+shareProperties[e.Is]+")).toBeCloseTo(", text(css.FormatNumber(share*100)))
	case e.Is == "checked" && tag == "input":
		return one("expect(" + of + ").toBeChecked(")
	case e.Is == "value" && tag == "input":
		return one("expect("+of+").toHaveValue(", text(quote(e.Value)))
	}
	return one("expect("+of+").toHaveAttribute(", text(quote(e.Is)), text(quote(e.Value)))
}

// literalJSON writes what JSON says as an expression.
func literalJSON(text string) string {
	var said string
	if json.Unmarshal([]byte(text), &said) == nil {
		return quote(said)
	}
	return text
}

func (s *scenarios) imports() printer.Doc {
	given := func(of []string, needed ...string) []string {
		return slices.DeleteFunc(of, func(name string) bool { return slices.Contains(needed, name) && !s.needs[name] })
	}
	library := given([]string{"act", "cleanup", "fireEvent", "render", "screen"}, "act", "fireEvent", "screen")
	runner := given([]string{"afterEach", "beforeEach", "expect", "test", "vi"}, "expect")
	lines := []printer.Doc{
		text("// @vitest-environment jsdom"),
		text(`import "@testing-library/jest-dom/vitest";`),
		concat(text("import "), listed(library), text(` from "@testing-library/react";`)),
		concat(text("import "), listed(runner), text(` from "vitest";`)),
		text(""),
		text("import { " + s.m.Name + " } from " + quote("./"+s.m.Name) + ";"),
	}
	if s.needs["part"] || s.needs["styles"] {
		lines = append(lines, text("import styles from "+quote("./"+s.m.Name+".module.css")+";"))
	}
	return printer.Join(printer.HardLine, lines...)
}

// set writes what is done before and after each test.
func (s *scenarios) set() printer.Doc {
	if slices.ContainsFunc(s.m.Layers, func(o ir.Layer) bool { return o.Modal }) {
		return printer.Join(printer.HardLine, texts([]string{"beforeEach(() => {", "  vi.useFakeTimers();", "  // Dialogs open in a browser alone.", "  HTMLDialogElement.prototype.showModal = function () {", "    this.open = true;", "  };",
			"  HTMLDialogElement.prototype.close = function () {", "    this.open = false;", "  };", "});", "", "afterEach(() => {", "  cleanup();", "  vi.useRealTimers();", "});"})...)
	}
	return printer.Join(printer.HardLine, texts([]string{"beforeEach(() => {", "  vi.useFakeTimers();", "});", "", "afterEach(() => {", "  cleanup();", "  vi.useRealTimers();", "});"})...)
}

// helpers writes the functions that the tests need.
func (s *scenarios) helpers() (out []printer.Doc) {
	lines := func(lines ...string) { out = append(out, printer.Join(printer.HardLine, texts(lines)...)) }
	if s.needs["wait"] {
		lines("/** Lets time go by, one time after the other: what begins with one runs in the next. */", "function wait(...times: number[]) {", "  for (const ms of times) {", "    act(() => {", "      vi.advanceTimersByTime(ms);", "    });", "  }", "}")
	}
	if s.needs["part"] {
		lines("/** The part that has a class. */", "function part(name: string) {", "  return document.querySelector(`.${name}`) as HTMLElement;", "}")
	}
	if s.needs["at"] {
		lines("/** The part at a place: which child of which, from the outermost on. */", "function at(...path: number[]) {", "  let element = document.body.children[0]?.children[0];", "  for (const i of path) {", "    element = element?.children[i];", "  }", "  return element as HTMLElement;", "}")
	}
	if s.needs["drag"] {
		lines("/** Drags a handle to a share of its track; nothing has a size here, so the track is given one. */", "function drag(handle: HTMLElement, share: number) {", "  const track = handle.parentElement as HTMLElement;",
			"  track.getBoundingClientRect = () => new DOMRect(0, 0, 100, 10);", "  handle.setPointerCapture = () => {};", "  fireEvent.pointerDown(handle, { button: 0, pointerId: 1 });", "  fireEvent.pointerMove(window, { clientX: share * 100 });", "  fireEvent.pointerUp(window);", "}")
	}
	var calls []printer.Doc
	for _, call := range s.calls {
		if s.used[call[0]] {
			calls = append(calls, text("const "+call[1]+" = () => "+s.found[call[0]]+";"))
		}
	}
	if calls != nil {
		out = append(out, printer.Join(printer.HardLine, calls...))
	}
	return out
}
