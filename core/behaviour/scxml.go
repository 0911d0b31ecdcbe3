package behaviour

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"unicode/utf8"

	"cobrik/core/contract"
)

const (
	scxmlNS = "http://www.w3.org/2005/07/scxml"
	// cobrikNS is the namespace of what SCXML has no element for (SCXML 4.10: executable content of other namespaces).
	cobrikNS  = "urn:cobrik:behaviour"
	mostSCXML = 4 << 20 // bytes
)

// SCXML writes a machine as a document of SCXML 1.0. Times are sent on entry and cancelled on exit; what states say of parts, focus and conditions of props are
// elements and attributes of a namespace of their own.
func (m *Machine) SCXML() []byte {
	w := &scxmlWriter{}
	around := len(m.Root.On)+len(m.Root.Entry)+len(m.Root.Sets) > 0 || m.Root.Kind == Parallel // the document's element has none of these (SCXML 3.2)
	initial := initialOf(m.Root)
	if around {
		initial = ""
	}
	w.line(0, `<?xml version="1.0" encoding="UTF-8"?>`)
	order := ""
	if m.Given != "" {
		order = " c:given=" + quote(m.Given)
	}
	if len(m.Order) > 0 {
		order += " c:order=" + quote(strings.Join(m.Order, " "))
	}
	w.line(0, `<scxml xmlns=%s xmlns:c=%s version="1.0" datamodel="ecmascript" name=%s%s%s>`, quote(scxmlNS), quote(cobrikNS), quote(m.Name), initial, order)
	if len(m.Values) > 0 {
		w.line(1, "<datamodel>")
		for _, v := range m.Values {
			prop := ""
			if v.Prop != "" {
				prop = " c:prop=" + quote(v.Prop)
			}
			w.line(2, "<data id=%s expr=%s%s/>", quote(v.Name), quote(literal(v.Initial)), prop)
		}
		w.line(1, "</datamodel>")
	}
	if around {
		w.state(m.Root, 1)
	} else {
		for _, s := range m.Root.States {
			w.state(s, 1)
		}
	}
	w.line(0, "</scxml>")
	return w.Bytes()
}

func initialOf(s *State) string {
	if len(s.Initial) == 0 {
		return ""
	}
	return " initial=" + quote(strings.Join(s.Initial, " "))
}

func literal(v any) string {
	switch v := v.(type) {
	case string:
		if strings.Contains(v, "'") {
			return `"` + v + `"` // never both: Problems says so
		}
		return "'" + v + "'"
	case float64:
		return strconv.FormatFloat(v, 'f', -1, 64)
	}
	return fmt.Sprint(v)
}

type scxmlWriter struct{ bytes.Buffer }

func (w *scxmlWriter) line(depth int, format string, args ...any) {
	w.WriteString(strings.Repeat("  ", depth))
	fmt.Fprintf(w, format, args...)
	w.WriteByte('\n')
}

func quote(s string) string {
	var b bytes.Buffer
	_ = xml.EscapeText(&b, []byte(s)) // a buffer takes all
	return `"` + b.String() + `"`
}

func timerName(s *State, i int) string { return fmt.Sprintf("after.%s.%d", s.ID, i) }

func (w *scxmlWriter) state(s *State, depth int) {
	tag := map[Kind]string{Plain: "state", Parallel: "parallel", Final: "final", History: "history", DeepHistory: "history"}[s.Kind]
	if s.Kind == History || s.Kind == DeepHistory {
		kind := map[Kind]string{History: "shallow", DeepHistory: "deep"}[s.Kind]
		w.line(depth, `<history id=%s type="%s">`, quote(s.ID), kind)
		w.line(depth+1, "<transition target=%s/>", quote(strings.Join(s.Defaults, " ")))
		w.line(depth, "</history>")
		return
	}
	initial := ""
	if s.Kind == Plain {
		initial = initialOf(s)
	}
	w.line(depth, "<%s id=%s%s>", tag, quote(s.ID), initial)
	var begin, end []string
	for i, t := range s.On {
		if t.timed() {
			token := ""
			if t.Token != "" {
				token = " c:token=" + quote(t.Token)
			}
			begin = append(begin, fmt.Sprintf(`<send id=%s event=%s delay="%sms"%s/>`, quote(timerName(s, i)), quote(timerName(s, i)), literal(t.After), token))
			end = append(end, fmt.Sprintf("<cancel sendid=%s/>", quote(timerName(s, i))))
		}
	}
	for _, set := range s.Sets {
		begin = append(begin, fmt.Sprintf("<c:set part=%s name=%s value=%s/>", quote(set.Part), quote(set.Name), quote(set.Value)))
	}
	w.block(depth+1, "onentry", append(actionsXML(s.Entry), begin...))
	w.block(depth+1, "onexit", append(actionsXML(s.Exit), end...))
	for i, t := range s.On {
		var b strings.Builder
		switch {
		case t.timed():
			b.WriteString(" event=" + quote(timerName(s, i)))
		case !t.eventless():
			b.WriteString(" event=" + quote(t.Event.String()))
		}
		if t.If != "" {
			b.WriteString(" cond=" + quote(t.If))
		}
		if key := t.When.Key(); key != "" {
			b.WriteString(" c:when=" + quote(key))
		}
		if len(t.To) > 0 {
			b.WriteString(" target=" + quote(strings.Join(t.To, " ")))
		}
		if t.Internal {
			b.WriteString(` type="internal"`)
		}
		if len(t.Do) == 0 {
			w.line(depth+1, "<transition%s/>", b.String())
			continue
		}
		w.line(depth+1, "<transition%s>", b.String())
		for _, line := range actionsXML(t.Do) {
			w.line(depth+2, "%s", line)
		}
		w.line(depth+1, "</transition>")
	}
	for _, c := range s.States {
		w.state(c, depth+1)
	}
	w.line(depth, "</%s>", tag)
}

func (w *scxmlWriter) block(depth int, tag string, lines []string) {
	if len(lines) == 0 {
		return
	}
	w.line(depth, "<%s>", tag)
	for _, l := range lines {
		w.line(depth+1, "%s", l)
	}
	w.line(depth, "</%s>", tag)
}

func actionsXML(list []Action) (out []string) {
	for _, a := range list {
		switch {
		case a.Assign != "":
			out = append(out, fmt.Sprintf("<assign location=%s expr=%s/>", quote(a.Assign), quote(a.To)))
		case a.Raise != "":
			out = append(out, fmt.Sprintf("<raise event=%s/>", quote(a.Raise)))
		case a.Tell != "":
			with := ""
			if a.With != "" {
				with = " c:with=" + quote(a.With)
			}
			out = append(out, fmt.Sprintf(`<send event=%s target="#_parent"%s/>`, quote(a.Tell), with))
		case a.Focus != "":
			out = append(out, fmt.Sprintf("<c:focus part=%s/>", quote(a.Focus)))
		}
	}
	return out
}

// element is an element of a document with where it stands.
type element struct {
	space, name string
	attrs       map[string]string // those of our own namespace with "c:" before their names
	children    []*element
	line, col   int
}

// SCXMLProblem is something in a document that cannot be taken over.
type SCXMLProblem struct {
	Line, Column int
	Message, Fix string
}

func (p SCXMLProblem) Error() string {
	return fmt.Sprintf("%d:%d: %s; %s", p.Line, p.Column, p.Message, p.Fix)
}

// ReadSCXML reads a machine from a document of SCXML 1.0: states, parallels, finals, histories, transitions with events, conditions and assignments, sends with a
// delay as times. Scripts, invocations, external data and document types are errors; so is what is larger than 4 MB or deeper than states may be.
func ReadSCXML(text []byte) (*Machine, []SCXMLProblem) {
	root, err := readXML(text)
	if err != nil {
		var p SCXMLProblem
		if !errors.As(err, &p) {
			p = SCXMLProblem{1, 1, err.Error(), "write it as XML"}
		}
		return nil, []SCXMLProblem{p}
	}
	r := &scxmlReader{m: &Machine{Name: root.attrs["name"], Root: &State{ID: "root"}}, ids: map[string]bool{}}
	if root.space != scxmlNS || root.name != "scxml" {
		return nil, []SCXMLProblem{{root.line, root.col, fmt.Sprintf("the document begins with %s", root.name), "begin with <scxml xmlns=\"" + scxmlNS + "\">"}}
	}
	r.collect(root)
	for r.ids[r.m.Root.ID] {
		r.m.Root.ID += "-"
	}
	if d := root.attrs["datamodel"]; d != "" && d != "ecmascript" && d != "null" {
		r.add(root, "write its expressions as ECMAScript has them", "its data model is %s", d)
	}
	r.m.Root.Initial = strings.Fields(root.attrs["initial"])
	r.m.Given = root.attrs["c:given"]
	if order := strings.Fields(root.attrs["c:order"]); len(order) > 0 {
		r.m.Order = order
	}
	for _, e := range root.children {
		switch {
		case e.space != scxmlNS:
			r.add(e, "take it away", "%s stands among states", e.name)
		case e.name == "datamodel":
			r.data(e)
		default:
			r.child(r.m.Root, e)
		}
	}
	// What was written around all states, since the document's element has no transitions, is the root again.
	if only := r.m.Root.States; len(only) == 1 && only[0].ID == "root" && len(r.m.Root.Initial) == 0 && only[0].Kind != Final {
		r.m.Root = only[0]
	}
	if len(r.problems) > 0 {
		return nil, r.problems
	}
	for _, p := range r.m.Problems() {
		e := r.at[p.State]
		if e == nil {
			e = root
		}
		r.add(e, p.Fix, "%s", p.Message)
	}
	if len(r.problems) > 0 {
		return nil, r.problems
	}
	return r.m, nil
}

func readXML(text []byte) (*element, error) {
	if len(text) > mostSCXML {
		return nil, SCXMLProblem{1, 1, fmt.Sprintf("it has %d bytes", len(text)), fmt.Sprintf("have at most %d", mostSCXML)}
	}
	if !utf8.Valid(text) {
		return nil, SCXMLProblem{1, 1, "it is no UTF-8", "write it as UTF-8"}
	}
	d := xml.NewDecoder(bytes.NewReader(text))
	var stack []*element
	var root *element
	for {
		line, col := d.InputPos()
		t, err := d.Token()
		if errors.Is(err, io.EOF) {
			if root == nil {
				return nil, SCXMLProblem{line, col, "it is empty", "begin with <scxml>"}
			}
			return root, nil
		}
		if err != nil {
			return nil, SCXMLProblem{line, col, strings.TrimPrefix(err.Error(), "XML "), "write it as XML"}
		}
		switch t := t.(type) {
		case xml.Directive:
			return nil, SCXMLProblem{line, col, "it has a document type", "take it away: entities are not read"}
		case xml.StartElement:
			if len(stack) > MostDepth+4 {
				return nil, SCXMLProblem{line, col, "it is nested too deep", fmt.Sprintf("have at most %d levels", MostDepth)}
			}
			e := &element{space: t.Name.Space, name: t.Name.Local, attrs: map[string]string{}, line: line, col: col}
			for _, a := range t.Attr {
				switch a.Name.Space {
				case "":
					e.attrs[a.Name.Local] = a.Value
				case cobrikNS:
					e.attrs["c:"+a.Name.Local] = a.Value
				}
			}
			if len(stack) > 0 {
				stack[len(stack)-1].children = append(stack[len(stack)-1].children, e)
			} else if root == nil {
				root = e
			}
			stack = append(stack, e)
		case xml.EndElement:
			stack = stack[:len(stack)-1]
		}
	}
}

type scxmlReader struct {
	m        *Machine
	ids      map[string]bool
	at       map[string]*element
	problems []SCXMLProblem
	made     int
}

func (r *scxmlReader) add(e *element, fix, format string, args ...any) {
	if len(r.problems) < 100 {
		r.problems = append(r.problems, SCXMLProblem{e.line, e.col, fmt.Sprintf(format, args...), fix})
	}
}

// collect notes all ids, so that those that are made up are none of them.
func (r *scxmlReader) collect(e *element) {
	if r.at == nil {
		r.at = map[string]*element{}
	}
	if id := e.attrs["id"]; id != "" {
		r.ids[id], r.at[id] = true, e
	}
	for _, c := range e.children {
		r.collect(c)
	}
}

func (r *scxmlReader) data(e *element) {
	for _, d := range e.children {
		if d.name != "data" || d.attrs["src"] != "" || len(d.children) > 0 {
			r.add(d, "give it an expression: a number, a 'text', true or false", "a value comes from elsewhere")
			continue
		}
		v, err := constant(d.attrs["expr"])
		if err != nil {
			r.add(d, "begin with a number, a 'text', true or false", "%s begins with %q", d.attrs["id"], d.attrs["expr"])
			continue
		}
		r.m.Values = append(r.m.Values, Value{d.attrs["id"], v, d.attrs["c:prop"]})
	}
}

type nothing struct{}

func (nothing) value(string) (any, bool) { return nil, false }
func (nothing) in(string) bool           { return false }

// constant works an expression out that asks for nothing.
func constant(text string) (any, error) {
	e, err := ParseExpr(text)
	if err != nil {
		return nil, err
	}
	return e.value(nothing{})
}

// child reads what stands in a state.
func (r *scxmlReader) child(s *State, e *element) {
	switch e.name {
	case "state", "parallel", "final", "history":
		s.States = append(s.States, r.state(e))
	case "onentry":
		actions, sets, _ := r.actions(e)
		s.Entry, s.Sets = append(s.Entry, actions...), append(s.Sets, sets...)
	case "onexit":
		actions, sets, _ := r.actions(e)
		if s.Exit = append(s.Exit, actions...); len(sets) > 0 {
			r.add(e, "say it on entry", "what holds in a state is said on exit")
		}
	case "transition":
		s.On = append(s.On, r.transition(e))
	case "initial":
		for _, t := range e.children {
			if s.Initial = strings.Fields(t.attrs["target"]); len(t.children) > 0 {
				r.add(t, "do it on entry", "something is done on the way to the initial state")
			}
		}
	default:
		r.add(e, "take it away: scripts, invocations and data of states are not read", "<%s> stands in %s", e.name, s.ID)
	}
}

func (r *scxmlReader) state(e *element) *State {
	kinds := map[string]Kind{"state": Plain, "parallel": Parallel, "final": Final, "history": History}
	s := &State{ID: e.attrs["id"], Kind: kinds[e.name], Initial: strings.Fields(e.attrs["initial"])}
	if e.name == "history" && e.attrs["type"] == "deep" {
		s.Kind = DeepHistory
	}
	for s.ID == "" { // an id is made up (SCXML 3.14)
		r.made++
		if id := fmt.Sprintf("%s%d", e.name, r.made); !r.ids[id] {
			s.ID, r.ids[id] = id, true
		}
	}
	r.at[s.ID] = e
	for _, c := range e.children {
		switch {
		case c.space != scxmlNS:
			r.add(c, "put it into onentry", "%s stands in a state", c.name)
		case e.name == "history":
			s.Defaults = strings.Fields(c.attrs["target"])
		default:
			r.child(s, c)
		}
	}
	r.times(s, e)
	return s
}

// times makes transitions wait for a time whose event their own state sends on entry, with a delay.
func (r *scxmlReader) times(s *State, e *element) {
	for _, block := range e.children {
		if block.name != "onentry" {
			continue
		}
		for _, send := range block.children {
			if send.name != "send" || send.attrs["delay"] == "" {
				continue
			}
			ms, ok := delay(send.attrs["delay"])
			if !ok {
				r.add(send, "write it as 300ms or 2s", "the delay %q is no time", send.attrs["delay"])
				continue
			}
			found := false
			for i := range s.On {
				if t := &s.On[i]; t.Event == ParseEvent(send.attrs["event"]) {
					t.Event, t.After, t.Token, found = Event{}, ms, send.attrs["c:token"], true
				}
			}
			if !found {
				r.add(send, "wait for it in the state that sends it", "nothing in %s waits for %s", s.ID, send.attrs["event"])
			}
		}
	}
}

// delay reads a CSS2 time (SCXML 6.2.4).
func delay(text string) (float64, bool) {
	number, factor := text, 0.0
	switch {
	case strings.HasSuffix(text, "ms"):
		number, factor = strings.TrimSuffix(text, "ms"), 1
	case strings.HasSuffix(text, "s"):
		number, factor = strings.TrimSuffix(text, "s"), 1000
	}
	n, err := strconv.ParseFloat(number, 64)
	return n * factor, err == nil && factor > 0 && n > 0 && n*factor <= 1e12
}

func (r *scxmlReader) transition(e *element) Transition {
	t := Transition{To: strings.Fields(e.attrs["target"]), If: e.attrs["cond"], Internal: e.attrs["type"] == "internal"}
	if key := e.attrs["c:when"]; key != "" {
		var err error
		if t.When, err = contract.ParseWhen(key); err != nil {
			r.add(e, "write it as contracts have it", "the condition %q cannot be read", key)
		}
	}
	switch events := strings.Fields(e.attrs["event"]); len(events) {
	case 0:
	case 1:
		t.Event = ParseEvent(events[0])
	default:
		r.add(e, "have a transition for each", "a transition waits for %d events", len(events))
	}
	actions, sets, sends := r.actions(e)
	if t.Do = actions; len(sets) > 0 || sends > 0 {
		r.add(e, "say it in onentry of a state", "a transition sets what holds, or sends what comes later")
	}
	return t
}

// actions reads executable content; sends with a delay are counted, and are their state's times.
func (r *scxmlReader) actions(e *element) (out []Action, sets []Set, sends int) {
	for _, c := range e.children {
		switch {
		case c.space == cobrikNS && c.name == "set":
			sets = append(sets, Set{c.attrs["part"], c.attrs["name"], c.attrs["value"]})
		case c.space == cobrikNS && c.name == "focus":
			out = append(out, Action{Focus: c.attrs["part"]})
		case c.space != scxmlNS:
			r.add(c, "take it away", "%s is of a namespace that is not known", c.name)
		case c.name == "assign":
			out = append(out, Action{Assign: c.attrs["location"], To: c.attrs["expr"]})
		case c.name == "raise":
			out = append(out, Action{Raise: c.attrs["event"]})
		case c.name == "send" && c.attrs["delay"] != "":
			sends++
		case c.name == "send" && c.attrs["target"] == "#_internal":
			out = append(out, Action{Raise: c.attrs["event"]})
		case c.name == "send" && c.attrs["target"] == "#_parent":
			out = append(out, Action{Tell: c.attrs["event"], With: c.attrs["c:with"]})
		case c.name == "cancel", c.name == "log":
		default:
			r.add(c, "assign, raise, or send to #_parent", "<%s> is not read", c.name)
		}
	}
	return out, sets, sends
}
