package react

import (
	"fmt"
	"slices"
	"strings"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/emit"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/printer"
)

// The hook itself: it keeps the state, and has timers and listeners while somebody waits for them.

// hook writes the function that the component calls; forced for one that can be held in a state, and says what it hears to who looks at it.
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
		params = append(params, "words?: string", "values?: string", "watched?: string")
		begin = "() => (words === undefined ? begin" + name + "(given) : stand(words, values, given))"
		held = " && words === undefined"
	}
	kept := "state, given"
	if h.does.Wide {
		kept += ", id"
	}
	body = append(body,
		text("const [state, setState] = useState("+begin+");"),
		text("const latest = useRef({ "+kept+" });"),
		text("useEffect(() => {"), text("  latest.current.given = given;"), text("});"),
		text("const send = useCallback((event: "+name+"Event, heard?: "+name+"Heard) => {"),
		text("  const from = latest.current;"))
	heard := "heard"
	if h.does.Wide {
		heard = "{ ...heard, container }"
		body = append(body, text("  const container = containerOf(from.id);"))
	}
	body = append(body,
		text("  const [to, told] = next"+name+"(from.state, event, from.given, "+heard+");"),
		text("  const taken = to !== from.state;"),
		text("  from.state = to;"),
		text("  setState(to);"),
		text("  for (const tell of told) {"), text("    tell(from.given);"), text("  }"))
	deps := ""
	if forced {
		deps = "watched"
		body = append(body, text("  const hears = (globalThis as Record<string, unknown>)[\"cobrikHears\"] as ((...said: unknown[]) => void) | undefined;"),
			text("  hears?.(watched, event, heard?.value, taken || told.length > 0);"))
	}
	body = append(body, text("  return taken;"), text("}, ["+deps+"]);"))
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
	if h.does.Crosses() {
		gap(h.crossing(forced)...)
	}
	for _, l := range h.m.Layers {
		gap(h.layering(l)...)
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

// crossing writes the effect that hears the container's width crossing a switch point; one that is held in a state hears nothing.
func (h *hook) crossing(forced bool) []printer.Doc {
	held, deps := "", "[send, id]"
	if forced {
		held, deps = "words !== undefined || ", "[send, id, words]"
	}
	points := make([]string, len(h.points))
	for i, px := range h.points {
		points[i] = css.FormatNumber(px)
	}
	return []printer.Doc{
		text("useEffect(() => {"),
		text("  const container = document.getElementById(`${id}-" + h.root + "`)?.parentElement;"),
		text("  if (" + held + "!container || !(\"ResizeObserver\" in window)) {"), text("    return undefined;"), text("  }"),
		text("  const beyond = () => [" + strings.Join(points, ", ") + "].filter((px) => container.clientWidth >= px).length;"),
		text("  let last = beyond();"),
		text("  const observer = new ResizeObserver(() => {"), text("    const now = beyond();"), text("    if (now !== last) {"), text("      last = now;"), text("      send(\"crossed\");"), text("    }"), text("  });"),
		text("  observer.observe(container);"), text("  return () => observer.disconnect();"), text("}, " + deps + ");"),
	}
}

// layering writes the effect that shows a part above the page while the state says so. Where nothing is above pages, as in tests without a browser, it stands in the page.
func (h *hook) layering(l ir.Layer) []printer.Doc {
	name := contract.Identifier(h.parts[l.Part]+" shown", "shown")
	out := []printer.Doc{h.constant(name, h.shows(l.Part, "state")), text("useEffect(() => {")}
	if l.Modal {
		out = append(out, text("  const dialog = document.getElementById(`${id}-"+l.Part+"`) as HTMLDialogElement | null;"),
			text("  if (!"+name+") {"), text("    dialog?.close?.();"), text("  } else if (!dialog?.open) {"), text("    dialog?.showModal?.();"), text("  }"))
	} else {
		out = append(out, text("  document.getElementById(`${id}-"+l.Part+"`)?.togglePopover?.("+name+");"))
	}
	return append(out, text("}, ["+name+", id]);"))
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
func (h *hook) finds() bool {
	return len(h.does.Parts())+len(h.m.Layers) > 0 || h.does.Wide || h.does.Crosses()
}

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
	name, kind, phase := quote(h.eventName(l.event)), "keydown", ""
	deps := []string{l.name, "send"}
	inner := len(h.m.Layers) > 0 && l.event.Kind == behaviour.Key
	if inner {
		deps = append(deps, "id")
	}
	if l.event.Kind == behaviour.OutsidePress {
		kind, phase = "click", ", true" // by then the press has moved the focus; and who begins to listen by a press does not hear that one
		deps = append(deps, "id")
		within := []string{quote(l.event.Part)}
		for _, e := range h.does.Events {
			if e.Kind == behaviour.Press && e.Part != "" && e.Part != l.event.Part {
				within = append(within, quote(e.Part))
			}
		}
		modal := slices.ContainsFunc(h.m.Layers, func(o ir.Layer) bool { return o.Modal && o.Part == l.event.Part })
		event, outside := "Event", "!inside"
		if modal {
			event, outside = "MouseEvent", "!inside || behind"
		}
		out = append(out, text("  function hear(event: "+event+") {"),
			concat(text("    const inside = "), indent(indent(group(text("["), indent(printer.SoftLine, commas(texts(within))), printer.IfBreak(",", ""), printer.SoftLine, text("]")))), text(".some((part) =>")),
			text("      document.getElementById(`${id}-${part}`)?.contains(event.target as Node),"), text("    );"),
		)
		if modal { // what lies behind a dialog is its own backdrop (HTML, 15.3.3)
			out = append(out, text("    const dialog = document.getElementById(`${id}-"+l.event.Part+"`);"), text("    const box = dialog?.getBoundingClientRect();"), text("    const behind ="),
				text("      event.target === dialog &&"), text("      box !== undefined &&"), text("      (event.clientX < box.left ||"), text("        event.clientX > box.right ||"), text("        event.clientY < box.top ||"), text("        event.clientY > box.bottom);"))
		}
		out = append(out, text("    if ("+outside+") {"), text("      send("+name+");"), text("    }"), text("  }"))
	} else {
		key := l.event.Name
		if key == "Space" {
			key = " "
		}
		out = append(out, text("  function hear(event: globalThis.KeyboardEvent) {"))
		if inner { // what is open inside of it hears it first
			for i, one := range h.m.Layers {
				layer := "layer"
				if i > 0 {
					layer = fmt.Sprint("layer", i+1)
				}
				out = append(out, text("    const "+layer+" = document.getElementById(`${id}-"+one.Part+"`);"), text("    if ("+layer+"?.querySelector(\"[popover]:not([hidden]), dialog:not([hidden])\")) {"), text("      return;"), text("    }"))
			}
		}
		out = append(out, text("    if (event.key === "+quote(key)+" && !event.defaultPrevented && send("+name+")) {"), text("      event.preventDefault();"), text("    }"), text("  }"))
	}
	return append(out, text("  document.addEventListener("+quote(kind)+", hear"+phase+");"), text("  return () => document.removeEventListener("+quote(kind)+", hear"+phase+");"), text("}, ["+strings.Join(deps, ", ")+"]);"))
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
