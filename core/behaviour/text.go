package behaviour

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/contract"
)

// A machine as people write it: a line for each state and, further in, one for each thing that is said of it. What is inside of a state stands further in, too.
//
//	machine lamp
//	keeps rounds, at first 0, given by already
//	begins as status says
//	expects still, then running, then still
//	state still
//	  after 1000 ms: to running
//	  hidden of note is true
//	state running
//	  on entry: rounds becomes rounds + 1
//	  on press of lamp if rounds < 3: to still, tell onStop with rounds
//	  after 2000 ms {duration.run}: to still

// Text writes a machine as ParseText reads it. Parts, props and conditions of them are in the words of the contract; nil for one without any.
func (m *Machine) Text(c *contract.Contract) string {
	if c == nil {
		c = &contract.Contract{}
	}
	w := &textWriter{c: c}
	m = m.renamed(words(c))
	w.line(0, "machine %s%s%s", m.Name, map[bool]string{true: ", all at once"}[m.Root.Kind == Parallel], firstOf(m.Root))
	for _, v := range m.Values {
		given := ""
		if v.Prop != "" {
			given = ", given by " + v.Prop
		}
		w.line(0, "keeps %s, at first %s%s", v.Name, literal(v.Initial), given)
	}
	if m.Given != "" {
		w.line(0, "begins as %s says", m.Given)
	}
	if len(m.Order) > 0 {
		w.line(0, "expects %s", strings.Join(m.Order, ", then "))
	}
	w.inside(m.Root, 0)
	return w.String()
}

func firstOf(s *State) string {
	if len(s.Initial) == 0 {
		return ""
	}
	return ", at first " + strings.Join(s.Initial, " and ")
}

type textWriter struct {
	strings.Builder
	c *contract.Contract
}

// line writes a line; an expression that was broken into several is one again.
func (w *textWriter) line(depth int, format string, args ...any) {
	w.WriteString(strings.Repeat("  ", depth))
	w.WriteString(strings.TrimSpace(strings.NewReplacer("\n", " ", "\r", " ", "\t", " ").Replace(fmt.Sprintf(format, args...))))
	w.WriteByte('\n')
}

// inside writes what is said of a state, and the states inside of it.
func (w *textWriter) inside(s *State, depth int) {
	if len(s.Entry) > 0 {
		w.line(depth, "on entry: %s", doing(s.Entry))
	}
	if len(s.Exit) > 0 {
		w.line(depth, "on exit: %s", doing(s.Exit))
	}
	for _, t := range s.On {
		w.line(depth, "%s", w.transition(t))
	}
	for i := 0; i < len(s.Sets); {
		set, parts := s.Sets[i], []string{}
		for ; i < len(s.Sets) && s.Sets[i].Name == set.Name && s.Sets[i].Value == set.Value; i++ { // one line says it of all of them
			parts = append(parts, s.Sets[i].Part)
		}
		w.line(depth, "%s of %s is %s", set.Name, strings.Join(parts, " and "), set.Value)
	}
	for _, c := range s.States {
		switch c.Kind {
		case History, DeepHistory:
			w.line(depth, "%s %s, at first %s", c.Kind, c.ID, strings.Join(c.Defaults, " and "))
		case Plain:
			w.line(depth, "state %s%s", c.ID, firstOf(c))
		default:
			w.line(depth, "%s %s", c.Kind, c.ID)
		}
		w.inside(c, depth+1)
	}
}

func (w *textWriter) transition(t Transition) string {
	var b strings.Builder
	switch {
	case t.Token != "" && t.After == 0:
		b.WriteString("after " + t.Token)
	case t.timed():
		fmt.Fprintf(&b, "after %s ms", literal(t.After))
		if t.Token != "" {
			b.WriteString(" " + t.Token)
		}
	case t.eventless():
		b.WriteString("at once")
	default:
		b.WriteString("on " + eventWords(t.Event))
	}
	if !t.When.Always() {
		fmt.Fprintf(&b, " when (%s)", w.c.Words(t.When))
	}
	if t.If != "" {
		b.WriteString(" if " + t.If)
	}
	var does []string
	if len(t.To) > 0 {
		does = append(does, map[bool]string{true: "within to ", false: "to "}[t.Internal]+strings.Join(t.To, " and "))
	} else if t.Internal {
		does = append(does, "within")
	}
	if list := doing(t.Do); list != "" {
		does = append(does, list)
	}
	b.WriteString(":")
	if len(does) > 0 {
		b.WriteString(" " + strings.Join(does, ", "))
	}
	return b.String()
}

// doing says actions, one after the other.
func doing(list []Action) string {
	var out []string
	for _, a := range list {
		switch {
		case a.Assign != "":
			out = append(out, fmt.Sprintf("%s becomes %s", a.Assign, a.To))
		case a.Raise != "":
			out = append(out, "raise "+a.Raise)
		case a.Tell != "" && a.With != "":
			out = append(out, fmt.Sprintf("tell %s with %s", a.Tell, a.With))
		case a.Tell != "":
			out = append(out, "tell "+a.Tell)
		case a.Focus == Elsewhere:
			out = append(out, "the focus is elsewhere")
		case a.Focus != "":
			out = append(out, "focus "+a.Focus)
		}
	}
	return strings.Join(out, ", ")
}

func eventWords(e Event) string {
	words := []string{string(e.Kind)}
	if e.Kind == Own {
		return "event " + e.Name
	}
	if e.Name != "" {
		words = append(words, e.Name)
	}
	if e.Part != "" {
		words = append(words, "of", e.Part)
	}
	return strings.Join(words, " ")
}

// LineProblem is something that cannot be read in a machine's text.
type LineProblem struct {
	Line    int    `json:"line"`
	Message string `json:"message"`
	Fix     string `json:"fix"`
}

func (p LineProblem) Error() string { return fmt.Sprintf("line %d: %s; %s", p.Line, p.Message, p.Fix) }

const mostText = 2 << 20 // bytes

// ParseText reads a machine as people write it; empty lines, and what follows a #, say nothing.
func ParseText(text string, c *contract.Contract) (*Machine, []LineProblem) {
	if c == nil {
		c = &contract.Contract{}
	}
	if len(text) > mostText {
		return nil, []LineProblem{{1, fmt.Sprintf("it has %d bytes", len(text)), fmt.Sprintf("have at most %d", mostText)}}
	}
	p := &textParser{c: c, at: map[string]int{}}
	for i, line := range strings.Split(text, "\n") {
		p.n = i + 1
		if p.line(line); len(p.problems) >= 100 {
			break
		}
	}
	if p.m == nil {
		p.n = 1
		p.fail("begin with machine and its name", "there is no machine")
	}
	if len(p.problems) > 0 {
		return nil, p.problems
	}
	p.m = p.m.renamed(ids(c))
	for _, found := range p.m.Problems() {
		p.n = max(1, p.at[found.State])
		p.fail(found.Fix, "%s", found.Message)
	}
	if len(p.problems) > 0 {
		return nil, p.problems
	}
	return p.m, nil
}

type textParser struct {
	c        *contract.Contract
	m        *Machine
	open     []*State // around the line, the root first
	n        int
	at       map[string]int // lines of states
	problems []LineProblem
}

func (p *textParser) fail(fix, format string, args ...any) {
	p.problems = append(p.problems, LineProblem{p.n, fmt.Sprintf(format, args...), fix})
}

// split cuts a text at the first separator outside of quotes and brackets.
func split(text, separator string) (before, after string, found bool) {
	depth, quote := 0, byte(0)
	for i := 0; i < len(text); i++ {
		ch := text[i]
		switch {
		case quote != 0:
			if ch == quote {
				quote = 0
			}
		case ch == '\'' || ch == '"':
			quote = ch
		case ch == '(':
			depth++
		case ch == ')':
			depth--
		}
		if quote == 0 && depth <= 0 && strings.HasPrefix(text[i:], separator) {
			return text[:i], text[i+len(separator):], true
		}
	}
	return text, "", false
}

func (p *textParser) line(line string) {
	line, _, _ = split(strings.TrimRight(line, " \t\r"), "#")
	text := strings.TrimSpace(line)
	if text == "" {
		return
	}
	spaces := len(line) - len(strings.TrimLeft(line, " "))
	if strings.HasPrefix(strings.TrimLeft(line, " "), "\t") || spaces%2 != 0 {
		p.fail("indent by two spaces", "the line is indented by other than twos")
		return
	}
	depth := spaces / 2
	if p.m == nil {
		name, isMachine := strings.CutPrefix(text+" ", "machine ") // it may have no name
		if !isMachine || depth > 0 {
			p.fail("begin with machine and its name", "the first line is %q", text)
			return
		}
		root := &State{ID: "root"}
		name, first, _ := split(strings.TrimSpace(name), ", at first ")
		if root.Initial = namesOf(first); strings.HasSuffix(name, ", all at once") {
			name, root.Kind = strings.TrimSuffix(name, ", all at once"), Parallel
		}
		p.m, p.open = &Machine{Name: strings.TrimSpace(name), Root: root}, []*State{root}
		return
	}
	if depth >= len(p.open) {
		p.fail("indent it by two spaces more than what it is said of", "the line is indented further than what is around it")
		return
	}
	p.open = p.open[:depth+1]
	p.said(p.open[depth], text)
}

func namesOf(text string) []string {
	if text = strings.TrimSpace(text); text == "" {
		return nil
	}
	return strings.Split(text, " and ")
}

// said reads one line that stands in a state.
func (p *textParser) said(s *State, text string) {
	word, rest, _ := strings.Cut(text, " ")
	if deep, isDeep := strings.CutPrefix(text, "deep history "); isDeep {
		word, rest = "deep history", deep
	}
	switch word {
	case "keeps":
		name, first, ok := split(rest, ", at first ")
		first, given, _ := split(first, ", given by ")
		v, err := constant(first)
		if !ok || err != nil || s != p.m.Root {
			p.fail("write it as keeps count, at first 0", "%q keeps nothing", text)
			return
		}
		p.m.Values = append(p.m.Values, Value{name, v, strings.TrimSpace(given)})
	case "begins":
		prop, ok := strings.CutSuffix(strings.TrimPrefix(rest, "as "), " says")
		if !ok || !strings.HasPrefix(rest, "as ") || s != p.m.Root || p.m.Given != "" || !isWord(prop) {
			p.fail("write it once, before the states, as begins as open says", "%q says nothing", text)
			return
		}
		p.m.Given = prop
	case "expects":
		if s != p.m.Root || p.m.Order != nil {
			p.fail("say it once, before the states", "%q expects nothing", text)
			return
		}
		p.m.Order = strings.Split(rest, ", then ")
	case "state", "parallel", "final", "history", "deep history":
		id, first, _ := split(rest, ", at first ")
		c := &State{ID: strings.TrimSpace(id), Kind: Kind(word)}
		switch {
		case word == "state":
			c.Kind, c.Initial = Plain, namesOf(first)
		case c.Kind == History || c.Kind == DeepHistory:
			c.Defaults = namesOf(first)
		case first != "":
			p.fail("leave it out", "a %s state begins with all, or nothing, of it", word)
		}
		if !isWord(c.ID) {
			p.fail("name it in one word", "a state is called %q", c.ID)
		}
		p.at[c.ID] = p.n
		s.States = append(s.States, c)
		p.open = append(p.open, c)
	case "on", "after", "at":
		asked, does, ok := split(text, ":")
		if !ok {
			p.fail("write what follows after a colon", "%q does nothing", text)
			return
		}
		switch asked {
		case "on entry":
			s.Entry = append(s.Entry, p.actions(does, nil)...)
		case "on exit":
			s.Exit = append(s.Exit, p.actions(does, nil)...)
		default:
			s.On = append(s.On, p.transition(asked, does))
		}
	default:
		name, of, ok := strings.Cut(text, " of ")
		part, value, is := strings.Cut(of, " is ")
		if !ok || !is || strings.ContainsAny(name+strings.ReplaceAll(part, " and ", ""), " :") {
			p.fail("write it as on press: to open, after 300 ms: to closed, or hidden of panel is true", "%q is not understood", text)
			return
		}
		for _, one := range namesOf(part) {
			s.Sets = append(s.Sets, Set{Part: one, Name: name, Value: value})
		}
	}
}

func (p *textParser) transition(asked, does string) (t Transition) {
	asked, t.If, _ = split(asked, " if ")
	asked, when, asks := split(asked, " when ")
	if asks {
		var err error
		if t.When, err = p.c.ParseWords(strings.TrimSuffix(strings.TrimPrefix(when, "("), ")"), nil); err != nil {
			p.fail("write it as a condition of the contract, in brackets", "%s", err)
		}
	}
	switch words := strings.Fields(asked); {
	case asked == "at once":
	case words[0] == "after" && (len(words) == 3 || len(words) == 4) && words[2] == "ms":
		n, err := strconv.ParseFloat(words[1], 64)
		if err != nil || n <= 0 && len(words) == 3 {
			p.fail("write it as after 300 ms", "%q is no time", asked)
		}
		if t.After = n; len(words) == 4 {
			t.Token = words[3]
		}
	case words[0] == "after" && len(words) == 2 && strings.HasPrefix(words[1], "{") && strings.HasSuffix(words[1], "}"):
		t.Token = words[1]
	case words[0] == "on" && len(words) > 1:
		var ok bool
		if t.Event, ok = eventOf(words[1:]); !ok {
			p.fail("write it as press of button, key Escape, changed open or event pause", "there is no event %q", strings.Join(words[1:], " "))
		}
	default:
		p.fail("write it as on press, after 300 ms or at once", "%q is not understood", asked)
	}
	t.Do = p.actions(does, &t)
	return t
}

func eventOf(words []string) (e Event, ok bool) {
	if words[0] == "event" {
		return Event{Kind: Own, Name: strings.Join(words[1:], " ")}, len(words) == 2
	}
	e.Kind = EventKind(words[0])
	words = words[1:]
	if len(words) > 0 && words[0] != "of" && slices.Contains(named, e.Kind) {
		e.Name, words = words[0], words[1:]
	}
	if len(words) == 2 && words[0] == "of" {
		e.Part, words = words[1], nil
	}
	return e, len(words) == 0 && e.Kind != Own && slices.Contains(EventKinds, e.Kind)
}

// actions reads what is done; where a transition leads is among it.
func (p *textParser) actions(text string, t *Transition) (out []Action) {
	for text = strings.TrimSpace(text); text != ""; {
		one, rest, _ := split(text, ",")
		text = strings.TrimSpace(rest)
		one = strings.TrimSpace(one)
		word, of, _ := strings.Cut(one, " ")
		value, becomes, assigns := strings.Cut(one, " becomes ")
		switch {
		case t != nil && word == "within" && (of == "" || strings.HasPrefix(of, "to ")):
			t.Internal, t.To = true, namesOf(strings.TrimPrefix(of, "to "))
		case t != nil && word == "to":
			t.To = namesOf(of)
		case one == "the focus is elsewhere":
			out = append(out, Action{Focus: Elsewhere})
		case word == "focus" && isWord(of):
			out = append(out, Action{Focus: of})
		case word == "raise" && isWord(of):
			out = append(out, Action{Raise: of})
		case word == "tell":
			event, with, _ := strings.Cut(of, " with ")
			if out = append(out, Action{Tell: event, With: with}); !isWord(event) {
				p.fail("write it as tell onOpen, or tell onOpen with count", "nothing is told by %q", one)
			}
		case assigns && isName(value):
			out = append(out, Action{Assign: value, To: becomes})
		default:
			p.fail("write it as to open, count becomes count + 1, raise x, tell onOpen or focus button", "%q is not understood", one)
		}
	}
	return out
}
