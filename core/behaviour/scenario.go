package behaviour

import (
	"cmp"
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/token"
)

// A scenario is a sequence that a contract keeps: it is replayed by the machine, and emitted as a test.

// Missed is something that a scenario expects and that is not so.
type Missed struct {
	Step   int    // from 0
	Expect int    // among the step's, from 0; -1 for what cannot happen
	Says   string // in the contract's words
}

// Scene is a component under way in a scenario.
type Scene struct {
	Config Config
	Values contract.Values // of its props
	Waits  []float64       // ms of the step: until each time that was over, and what was left after them
	Tied   bool            // in the step, two times were over at one moment: which comes first is the browser's affair
	Told   []Effect        // in the step
	Calls  map[string]int  // how often each event was told so far
	Focus  string          // id of the part that the machine put the focus in last
	moved  int             // how often the focus has moved because it moved
	fired  int             // timers, since it began
	tree   *contract.Resolved
	chart  *Chart
	of     *contract.Contract
}

// Replay runs a scenario, and lists what is not as it expects; visit, where given, sees the component after each step, as it begins with -1.
func Replay(c *contract.Contract, s contract.Scenario, visit func(step int, scene *Scene)) (out []Missed) {
	x := begin(c, c.CaseValues(s.Given))
	if x == nil {
		return []Missed{{0, -1, c.Name + " has no behaviour"}}
	}
	if visit != nil {
		visit(-1, x)
	}
	for i, step := range s.Steps {
		x.Told, x.Waits, x.Tied = nil, nil, false
		x.wait(x.Config.Now + step.After)
		if step.Happens != nil {
			if err := x.happen(*step.Happens); err != nil {
				return append(out, Missed{i, -1, err.Error()})
			}
		}
		if visit != nil {
			visit(i, x)
		}
		for k, e := range step.Expects {
			if says := x.Misses(e); says != "" {
				out = append(out, Missed{i, k, says})
			}
		}
	}
	return out
}

// begin gives a component as it begins; nil for one without a behaviour.
func begin(c *contract.Contract, v contract.Values) *Scene {
	chart := Of(c)
	if chart == nil {
		return nil
	}
	x := &Scene{Values: c.Defaults().With(v), chart: chart, of: c, Calls: map[string]int{}}
	x.takes(chart.Start(x.env()))
	return x
}

func (x *Scene) env() contract.Env { return contract.EnvOf(x.Values) }

// wait lets time go by, up to so many ms since it began, and counts the times that something was due. After 10,000 of them nothing is due any more.
func (x *Scene) wait(until float64) (fired int) {
	for ; len(x.Config.Timers) > 0 && x.Config.Timers[0].Due <= until && !x.Config.Done && x.fired < mostFired; fired++ {
		x.fired++
		due := x.Config.Timers[0].Due
		x.Tied = x.Tied || len(x.Config.Timers) > 1 && x.Config.Timers[1].Due == due
		x.Waits = append(x.Waits, due-x.Config.Now)
		x.Config.Focus = ""
		x.takes(x.chart.Advance(x.Config, x.env(), due))
	}
	if rest := until - x.Config.Now; rest > 0 {
		x.Waits = append(x.Waits, rest)
		x.Config.Now = until
	}
	return fired
}

// step lets something happen.
func (x *Scene) step(e Event, data any) {
	x.Config.Focus = ""
	x.takes(x.chart.Step(x.Config, x.env(), e, data))
}

// mostRefocused bounds how often the focus moves on because it moved.
const mostRefocused = 20

// takes takes what a step ended in. What the machine takes the focus from, and what it gives it to, hears of it as in a browser, which may lead on.
func (x *Scene) takes(cfg Config, effects []Effect) {
	x.Config, x.tree = cfg, nil
	x.Told = append(x.Told, effects...)
	for _, e := range effects {
		if e.Tell != "" {
			x.Calls[e.Tell]++
		}
	}
	to := cfg.Focus
	if to == "" || to == x.Focus || x.moved >= mostRefocused || !x.focusable(to) {
		return
	}
	from := x.Focus
	x.Focus = to
	x.moved++
	for _, part := range x.hearing(FocusOut) {
		if x.within(from, part) && !x.within(to, part) {
			x.step(Event{Kind: FocusOut, Part: part}, nil)
		}
	}
	for _, part := range x.hearing(FocusIn) {
		if x.within(to, part) && !x.within(from, part) {
			x.step(Event{Kind: FocusIn, Part: part}, nil)
		}
	}
	x.moved--
}

// look gives the contract as the machine has it.
func (x *Scene) look() *contract.Resolved {
	if x.tree == nil {
		env := x.env()
		env.States, env.Kept = x.Config.Active, x.Config.Values
		x.tree = contract.Resolve(x.of, env, token.Empty())
	}
	return x.tree
}

// focusable tells whether a part takes the focus: one that is there, a control or one with a place in the order of them (HTML, 6.6.3).
func (x *Scene) focusable(part string) bool {
	if _, hidden := x.sees(part, contract.IsHidden); hidden {
		return false
	}
	p := x.look().Find(part)
	if p == nil {
		return false
	}
	_, indexed := p.Attributes["tabindex"]
	_, leads := p.Attributes["href"]
	_, disabled := p.Attributes["disabled"]
	return indexed || p.Part.Element == "a" && leads || slices.Contains(controls, p.Part.Element) && !disabled
}

// controls are the elements that take the focus by themselves, where they are not disabled.
var controls = []string{"button", "input", "summary", "textarea"}

// hearing lists the parts at which an event of a kind is heard.
func (x *Scene) hearing(kind EventKind) (out []string) {
	for _, n := range x.chart.nodes {
		for _, t := range n.On {
			if t.Event.Kind == kind && t.Event.Part != "" && !slices.Contains(out, t.Event.Part) {
				out = append(out, t.Event.Part)
			}
		}
	}
	return out
}

// within tells whether a part is another, or stands in it.
func (x *Scene) within(part, around string) bool {
	p := x.of.Part(around)
	if p == nil || part == "" {
		return false
	}
	return part == around || slices.ContainsFunc(p.Children, func(c *contract.Part) bool { return x.within(part, c.ID) })
}

// happen lets an event of a scenario happen; an error where the component does not hear it.
func (x *Scene) happen(h contract.Happening) error {
	e := Event{Kind: EventKind(h.Kind), Name: h.Name, Part: h.Part}
	var data any
	switch e.Kind {
	case Changed:
		p := x.of.Prop(h.Name)
		if p == nil {
			return fmt.Errorf("there is no prop %q", h.Name)
		}
		v, err := p.Type.Decode(h.Value)
		if err != nil || !p.Type.Takes(v) {
			return fmt.Errorf("%s does not take %s", p.Name, h.Value)
		}
		if contract.Equal(x.Values[h.Name], v) {
			return nil // nothing changes
		}
		x.Values, x.tree = x.Values.With(contract.Values{h.Name: v}), nil
		if x.hears(e) {
			x.step(e, nil)
		}
		return nil
	case Dragged:
		share, err := strconv.ParseFloat(string(h.Value), 64)
		if err != nil || !(share >= 0 && share <= 1) {
			return fmt.Errorf("something is dragged to %q, which is not from 0 to 1", string(h.Value))
		}
		data = share
	}
	part, _ := words(x.of)
	said := e
	said.Part = part(e.Part)
	if e.Part != "" && x.of.Part(e.Part) == nil {
		return fmt.Errorf("there is no part %q", e.Part)
	}
	if !x.hears(e) || e.Kind == Own || e.Kind == Crossed || e.Part == "" && !slices.Contains([]EventKind{Press, Key}, e.Kind) {
		return fmt.Errorf("%s is heard by nothing", eventWords(said))
	}
	if _, hidden := x.sees(e.Part, contract.IsHidden); e.Part != "" && hidden && e.Kind != OutsidePress && e.Kind != FocusOut && e.Kind != PointerOut {
		return fmt.Errorf("%s cannot happen: it is hidden", eventWords(said))
	}
	if e == (Event{Kind: Press}) { // at the component itself, which is beside all that is in it
		for _, part := range x.hearing(OutsidePress) {
			if part != x.of.Root.ID {
				x.step(Event{Kind: OutsidePress, Part: part}, nil)
			}
		}
	}
	x.step(e, data)
	return nil
}

// hears tells whether anything waits for an event, wherever the machine is.
func (x *Scene) hears(e Event) bool {
	return slices.ContainsFunc(x.chart.nodes, func(n *node) bool {
		return slices.ContainsFunc(n.On, func(t Transition) bool { return !t.eventless() && !t.timed() && t.Event.Stands(e) })
	})
}

// Misses says what is expected and not so; nothing where it is.
func (x *Scene) Misses(e contract.Expected) string {
	if e.Is == contract.IsTold {
		if x.told(e.Value) {
			return ""
		}
		return e.Value + " is not told"
	}
	name, _ := words(x.of)
	part := name(e.Part)
	p := x.look().Find(e.Part)
	seen, there := x.sees(e.Part, e.Is)
	switch {
	case p == nil:
		return fmt.Sprintf("there is no part %q", e.Part)
	case p.Item != nil:
		return part + " is there once for each item"
	case e.Is == contract.IsHidden, e.Is == contract.IsShown:
		if !there {
			return fmt.Sprintf("%s is not %s", part, e.Is)
		}
	case e.Is == contract.IsFocused:
		if !there {
			return part + " has not the focus"
		}
	case !there:
		return fmt.Sprintf("%s has no %s", part, e.Is)
	case seen != e.Value:
		return fmt.Sprintf("%s of %s is '%s', not '%s'", e.Is, part, seen, e.Value)
	}
	return ""
}

// told tells whether an event was told in the step: with what, where that is asked.
func (x *Scene) told(what string) bool {
	name, with, asked := strings.Cut(what, " ")
	return slices.ContainsFunc(x.Told, func(e Effect) bool { return e.Tell == name && (!asked || asJSON(e.With) == with) })
}

// Call tells which of the calls of an event so far it was that told something in the step, from 1.
func (x *Scene) Call(name, with string) int {
	var told []Effect
	for _, e := range x.Told {
		if e.Tell == name {
			told = append(told, e)
		}
	}
	return x.Calls[name] - len(told) + slices.IndexFunc(told, func(e Effect) bool { return asJSON(e.With) == with }) + 1
}

func asJSON(v any) string {
	text, _ := json.Marshal(v) // of a machine's values: numbers, texts and flags
	return string(text)
}

// sees gives what somebody would see of a part, and whether it is there.
func (x *Scene) sees(part, is string) (value string, there bool) {
	path := x.look().PathTo(part)
	if path == nil {
		return "", false
	}
	p := path[len(path)-1]
	hidden := !p.Shown || slices.ContainsFunc(path, func(r *contract.Resolved) bool { _, said := r.Attributes["hidden"]; return said })
	switch {
	case is == contract.IsHidden:
		return "", hidden
	case is == contract.IsShown:
		return "", !hidden
	case is == contract.IsFocused:
		return "", x.Focus == part
	case is == contract.TextSaid:
		return strings.Join(strings.Fields(p.Text), " "), p.Shown && p.Part.IsText() && len(p.Children) == 0
	case contract.Shares[is] != "":
		for _, s := range x.chart.Says(x.Config, x.env()) {
			if s.Part == part && s.Name == is {
				return asJSON(s.Value), p.Shown
			}
		}
		return "", false
	}
	value, there = p.Attributes[is]
	return value, there && p.Shown && p.Part.Use() == nil
}

// Seen lists what can be expected of a part as it is just now, or of what was told where none is named.
func (x *Scene) Seen(part string) (out []contract.Expected) {
	if part == "" {
		for _, e := range x.Told {
			if e.Tell == "" {
				continue
			}
			what := e.Tell
			if e.With != nil {
				what += " " + asJSON(e.With)
			}
			out = append(out, contract.Expected{Is: contract.IsTold, Value: what})
		}
		return out
	}
	if p := x.look().Find(part); p == nil || p.Item != nil {
		return nil
	}
	add := func(is string) {
		if v, there := x.sees(part, is); there {
			out = append(out, contract.Expected{Part: part, Is: is, Value: v})
		}
	}
	add(contract.IsHidden)
	add(contract.IsShown)
	add(contract.IsFocused)
	add(contract.TextSaid)
	said := map[string]bool{"hidden": true, contract.TextSaid: true}
	for _, n := range x.chart.nodes {
		for _, s := range n.Sets {
			if s.Part == part && !said[s.Name] {
				said[s.Name] = true
				add(s.Name)
			}
		}
	}
	return out
}

// Moment is something that happens to an instance, or is expected of it, at a time.
type Moment struct {
	Happening
	Expect *contract.Expected // nil where something happens
}

// Record makes a scenario of what happened to an instance, and of what is expected of it meanwhile; of one time in their order. Time at the end of which nothing is due any more
// is left out; where a single duration was waited for, it is named. Visit, where given, sees the component at each moment, by its place in the list. An error where something
// cannot happen; what was recorded until then is given.
func Record(c *contract.Contract, name string, v contract.Values, moments []Moment, visit func(i int, scene *Scene)) (contract.Scenario, error) {
	out := contract.Scenario{Name: name, Steps: []contract.ScenarioStep{}}
	x := begin(c, v)
	if x == nil {
		return out, fmt.Errorf("%s has no behaviour", c.Name)
	}
	var err error
	if out.Given, err = c.GivenBeside(v); err != nil {
		return out, err
	}
	order := make([]int, len(moments))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(moments[a].At, moments[b].At) })
	for _, i := range order {
		m := moments[i]
		told := x.Told
		x.Told = nil
		step := x.waited(m.At)
		if m.Expect != nil {
			if step.After > 0 || len(out.Steps) == 0 {
				out.Steps = append(out.Steps, step)
			} else {
				x.Told = told
			}
			last := &out.Steps[len(out.Steps)-1]
			if !slices.Contains(last.Expects, *m.Expect) {
				last.Expects = append(last.Expects, *m.Expect)
			}
		} else if !(m.Event.Kind == OutsidePress && slices.ContainsFunc(moments, m.isPress)) {
			happens := contract.Happening{Kind: string(m.Event.Kind), Name: m.Event.Name, Part: m.Event.Part}
			if m.Data != nil {
				happens.Value = json.RawMessage(asJSON(m.Data))
			}
			if err := x.happen(happens); err != nil {
				return out, fmt.Errorf("after %v ms, %w", m.At, err)
			}
			step.Happens = &happens
			out.Steps = append(out.Steps, step)
		}
		if visit != nil {
			visit(i, x)
		}
	}
	return out, nil
}

// isPress tells whether another moment is the press of the component itself at the same time: the press beside a part of it is the same.
func (m Moment) isPress(o Moment) bool {
	return o.Expect == nil && o.Event == Event{Kind: Press} && o.At == m.At
}

// waited lets time go by, and gives it as a step: until the last time that was over, where no other is under way then.
func (x *Scene) waited(until float64) (step contract.ScenarioStep) {
	from, first := x.Config.Now, slices.Clone(x.Config.Timers)
	x.Waits = nil
	fired := x.wait(until)
	step.After = max(0, until-from)
	if len(x.Config.Timers) == 0 {
		step.After = 0
		for _, ms := range x.Waits[:fired] {
			step.After += ms
		}
	}
	if fired == 1 && step.After == first[0].Due-from {
		if t := x.chart.byID[first[0].State].On[first[0].Index]; t.After == step.After {
			step.Token = t.Token
		}
	}
	return step
}

// idle is how far apart steps are laid that nothing is due between, ms.
const idle = 500

// Laid gives a scenario's steps at their times, ms since it began, as Record takes them, and when it ends.
func Laid(c *contract.Contract, s contract.Scenario) (out []Moment, ends float64) {
	next, waits := 0, true
	lay := func(step contract.ScenarioStep) {
		next++
		if ends += step.After; step.After == 0 && !waits {
			ends += idle
		}
		if h := step.Happens; h != nil {
			one := Moment{Happening: Happening{At: ends, Event: Event{Kind: EventKind(h.Kind), Name: h.Name, Part: h.Part}}}
			_ = json.Unmarshal(h.Value, &one.Data) // nothing is nothing
			out = append(out, one)
		}
		for k := range step.Expects {
			out = append(out, Moment{Happening{At: ends}, &step.Expects[k]})
		}
	}
	Replay(c, s, func(i int, x *Scene) {
		if i >= 0 {
			lay(s.Steps[i])
		}
		waits = len(x.Config.Timers) > 0
	})
	for waits = false; next < len(s.Steps); { // those after one that cannot happen
		lay(s.Steps[next])
	}
	return out, ends
}

// StepWords says a step in the contract's words: what it waits for, what happens, and what is expected, each where there is some.
func StepWords(c *contract.Contract, step contract.ScenarioStep) (after, happens string, expects []string) {
	part, prop := words(c)
	if step.After > 0 || step.Token != "" {
		after = Transition{After: step.After, Token: step.Token}.words()
	}
	if h := step.Happens; h != nil {
		e := Event{Kind: EventKind(h.Kind), Name: h.Name, Part: h.Part}
		if e.Part != "" {
			e.Part = part(e.Part)
		}
		switch e.Kind {
		case Changed:
			happens = fmt.Sprintf("%s becomes %s", prop(h.Name), strings.Trim(string(h.Value), `"`))
		case Dragged:
			happens = eventWords(e) + " to " + string(h.Value)
		default:
			happens = eventWords(e)
		}
	}
	for _, e := range step.Expects {
		expects = append(expects, ExpectedWords(c, e))
	}
	return after, happens, expects
}

// ExpectedWords says in the contract's words what is expected.
func ExpectedWords(c *contract.Contract, e contract.Expected) string {
	part, _ := words(c)
	switch e.Is {
	case contract.IsTold:
		name, with, asked := strings.Cut(e.Value, " ")
		if asked {
			return name + " is told " + with
		}
		return name + " is told"
	case contract.IsHidden, contract.IsShown:
		return part(e.Part) + " is " + e.Is
	case contract.IsFocused:
		return part(e.Part) + " has the focus"
	case contract.TextSaid:
		return fmt.Sprintf("%s reads '%s'", part(e.Part), e.Value)
	}
	return fmt.Sprintf("%s of %s is '%s'", e.Is, part(e.Part), e.Value)
}
