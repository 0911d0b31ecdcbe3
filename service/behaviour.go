package service

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/emit/ir"
	"cobrik/core/problem"
	"cobrik/store"
)

// BehaviourView is what a component does: its machine drawn, in words, and held against what is looked for.
type BehaviourView struct {
	Revision int                     `json:"revision"`
	Has      bool                    `json:"has"`
	Text     string                  `json:"text" doc:"In words, a line a state or a thing said of it"`
	States   []BrickView             `json:"states" doc:"In document order, those around before what is inside"`
	Ways     []WayView               `json:"ways"`
	Anywhere []string                `json:"anywhere" doc:"What leads on from wherever it is"`
	Events   []EventView             `json:"events" doc:"That can happen to it from outside"`
	Begins   []BeginView             `json:"begins" doc:"Values of props that it can begin with, the default first"`
	Findings []behaviour.Finding     `json:"findings"`
	Explored int                     `json:"explored" doc:"Configurations"`
	Whole    bool                    `json:"whole" doc:"There are no others"`
	Stocks   []StockView             `json:"stocks"`
	Drawn    []DrawnStates           `json:"drawn" doc:"Props whose options can be states"`
	Parts    []BehaviourPart         `json:"parts"`
	Span     float64                 `json:"span" doc:"ms in which all its times go by"`
	Wrong    []behaviour.LineProblem `json:"wrong" doc:"Why the words that were tried say no machine"`

	Scenarios []ScenarioView `json:"scenarios" doc:"Replayed"`
	RoomOf    string         `json:"roomOf,omitempty" doc:"The component whose room it keeps while that loads"`
}

// BrickView is a state as it is drawn.
type BrickView struct {
	ID     string   `json:"id"`
	In     string   `json:"in,omitempty" doc:"The state around it; empty for an outermost one"`
	Kind   string   `json:"kind,omitempty"`
	Course int      `json:"course" doc:"How many steps it is from where the machine begins"`
	Begins bool     `json:"begins,omitempty"`
	Says   []string `json:"says" doc:"What it says of parts, in words"`
	Line   int      `json:"line" doc:"Of the text, from 1"`
}

// WayView is a transition as it is drawn.
type WayView struct {
	From  string `json:"from"`
	To    string `json:"to"`
	Words string `json:"words"`
}

// EventView is something that can happen.
type EventView struct {
	Event  behaviour.Event `json:"event"`
	Words  string          `json:"words" doc:"As the code calls it, too"`
	Drag   bool            `json:"drag,omitempty" doc:"It has a place from 0 to 1"`
	Values []any           `json:"values,omitempty" doc:"What a prop may become"`
}

// BeginView is a value of a prop that it begins with.
type BeginView struct {
	Prop  string `json:"prop" doc:"Its name"`
	Value string `json:"value"`
}

// DrawnStates is a prop whose options can be states that the component is in.
type DrawnStates struct {
	Prop    string   `json:"prop" doc:"Its name"`
	Options []string `json:"options"`
}

// StockView is a machine to begin with.
type StockView struct {
	Name     string   `json:"name"`
	Says     string   `json:"says"`
	Practice string   `json:"practice,omitempty" doc:"Pattern of the ARIA Authoring Practices Guide"`
	Parts    []string `json:"parts" doc:"That it speaks of, with three items where it has several"`
}

// BehaviourPart is a part that can be what a stock machine speaks of.
type BehaviourPart struct {
	ID      string `json:"id"`
	Name    string `json:"name"`
	Element string `json:"element"`
}

// Behaviour shows what a component does.
func (s *Service) Behaviour(ctx context.Context, slug string) (BehaviourView, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return BehaviourView{}, err
	}
	return w.behaviourView(w.contract), nil
}

// TryBehaviour shows what a component would do by other words, or SCXML; nothing is kept.
func (s *Service) TryBehaviour(ctx context.Context, slug, text string) (BehaviourView, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return BehaviourView{}, err
	}
	c, wrong := w.behaving(text)
	if len(wrong) > 0 {
		out := w.behaviourView(w.contract)
		out.Text, out.Wrong = text, wrong
		return out, nil
	}
	return w.behaviourView(c), nil
}

// Behave gives a component another behaviour, in words or as SCXML; none for an empty text.
func (s *Service) Behave(ctx context.Context, slug string, revision int, text string) (Edited, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Edited{}, err
	}
	c, wrong := w.behaving(text)
	if len(wrong) > 0 {
		var found problem.List
		for _, p := range wrong {
			found.Errorf("behaviour", fmt.Sprintf("/text/%d", p.Line), p.Fix, "line %d: %s", p.Line, p.Message)
		}
		return Edited{}, invalid(found, "%s", sentence(wrong[0].Error()))
	}
	note := "behaviour"
	if c.Behaviour == nil {
		note = "behaviour removed"
	}
	return s.behaved(ctx, w, c, revision, note)
}

// Redraw changes a component's machine where it is drawn.
func (s *Service) Redraw(ctx context.Context, slug string, revision int, r behaviour.Redraw) (Edited, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Edited{}, err
	}
	c, err := behaviour.Redrawn(w.contract, r)
	if err != nil {
		return Edited{}, invalid(nil, "%s", sentence(err.Error()))
	}
	return s.behaved(ctx, w, c, revision, strings.Join(strings.Fields("behaviour: "+r.Do+" "+r.State+" "+r.To), " "))
}

// AdoptStates makes states of the options of a choice, or a flag, by its name: each lasts so many ms where times are given, in the order of the options, and the press of a part,
// by its id, leads to the option it is given for.
func (s *Service) AdoptStates(ctx context.Context, slug string, revision int, prop string, times []float64, pressed map[string]string, leads behaviour.Leads) (Edited, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Edited{}, err
	}
	p := propOfName(w.contract, prop)
	if p == nil {
		return Edited{}, invalid(nil, "There is no choice or flag %q.", prop)
	}
	c, err := behaviour.FromOptions(w.contract, p.ID, times, pressed, leads)
	if err != nil {
		return Edited{}, invalid(nil, "%s", sentence(err.Error()))
	}
	return s.behaved(ctx, w, c, revision, "states of "+prop)
}

// Adopt gives a component the behaviour of a stock machine. Takes says which part of the component is which of the machine's, by id; those it does not name are added.
func (s *Service) Adopt(ctx context.Context, slug string, revision int, stock string, choices behaviour.Choices, takes map[string]string) (Edited, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Edited{}, err
	}
	of := behaviour.StockNamed(stock)
	if of == nil {
		return Edited{}, invalid(nil, "There is no stock machine %q.", stock)
	}
	for name, id := range takes {
		if id != "" && w.contract.Part(id) == nil {
			return Edited{}, invalid(nil, "There is no part %q to be the %s.", id, name)
		}
	}
	c, found := behaviour.Adopt(w.contract, of.Make(choices), of.Parts(choices), takes)
	if len(found) > 0 {
		return Edited{}, invalid(nil, "%s", sentence(found[0].Error()))
	}
	return s.behaved(ctx, w, c, revision, "behaviour of a "+stock)
}

// propOfName finds a choice or a flag by its name; nil for none.
func propOfName(c *contract.Contract, name string) *contract.Prop {
	for i := range c.Props {
		if p := &c.Props[i]; p.Name == name && len(behaviour.OptionsOf(p)) > 1 {
			return p
		}
	}
	return nil
}

func (s *Service) behaved(ctx context.Context, w *component, c *contract.Contract, revision int, note string) (Edited, error) {
	if _, err := s.link(ctx, c); err != nil {
		return Edited{}, err
	}
	c.Timed(w.tokens)
	if found := newErrors(w.contract.Check(w.tokens), c.Check(w.tokens)); len(found) > 0 {
		return Edited{}, invalid(found, "%s", sentence(found[0].Message))
	}
	return s.apply(ctx, w, c, store.Edit{Slug: w.row.Slug, Read: revision, Note: note})
}

// SCXML gives a component's behaviour as SCXML 1.0.
func (s *Service) SCXML(ctx context.Context, slug string) ([]byte, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return nil, err
	}
	chart := behaviour.Of(w.contract)
	if chart == nil {
		return nil, notFound("%s has no behaviour.", w.contract.Name)
	}
	return chart.Machine.SCXML(), nil
}

// behaving gives the contract with another behaviour, from words or SCXML. What is wrong says in which line.
func (w *component) behaving(text string) (*contract.Contract, []behaviour.LineProblem) {
	if strings.TrimSpace(text) == "" {
		c, _ := behaviour.Without(w.contract)
		return c, nil
	}
	c := w.contract.Clone()
	c.Behaviour = nil
	var m *behaviour.Machine
	if strings.HasPrefix(strings.TrimSpace(text), "<") {
		read, found := behaviour.ReadSCXML([]byte(text))
		if len(found) > 0 {
			out := make([]behaviour.LineProblem, len(found))
			for i, p := range found {
				out[i] = behaviour.LineProblem{Line: p.Line, Message: p.Message, Fix: p.Fix}
			}
			return nil, out
		}
		m = read
	} else {
		read, found := behaviour.ParseText(text, c)
		if len(found) > 0 {
			return nil, found
		}
		m = read
	}
	chart, problems := behaviour.Compile(m)
	if len(problems) > 0 {
		return nil, []behaviour.LineProblem{{Line: 1, Message: problems[0].Message, Fix: problems[0].Fix}}
	}
	c.Behaviour = &contract.Behaviour{Machine: chart}
	c.Timed(w.tokens)
	behaviour.Tell(c)
	var found problem.List
	c.Behaviour.CheckIn(c, &found)
	var out []behaviour.LineProblem
	for _, p := range found {
		out = append(out, behaviour.LineProblem{Line: lineOf(text, p.Message), Message: p.Message, Fix: p.Fix})
	}
	return c, out
}

// lineOf finds the line of the state that a message begins with; the first for none.
func lineOf(text, message string) int {
	state, _, _ := strings.Cut(message, ",")
	state, _, _ = strings.Cut(state, ":")
	for i, line := range strings.Split(text, "\n") {
		if words := strings.Fields(line); len(words) > 1 && (words[0] == "state" || words[0] == "parallel" || words[0] == "final") && strings.TrimSuffix(words[1], ",") == state {
			return i + 1
		}
	}
	return 1
}

func (w *component) behaviourView(c *contract.Contract) BehaviourView {
	out := BehaviourView{Revision: w.row.Revision, RoomOf: c.RoomOf, States: []BrickView{}, Ways: []WayView{}, Anywhere: []string{}, Events: []EventView{}, Begins: []BeginView{}, Findings: []behaviour.Finding{}, Stocks: []StockView{}, Drawn: []DrawnStates{}, Parts: []BehaviourPart{}, Wrong: []behaviour.LineProblem{}, Scenarios: []ScenarioView{}}
	for i := range behaviour.Stocks {
		k := &behaviour.Stocks[i]
		view := StockView{Name: k.Name, Says: k.Says, Practice: k.Practice, Parts: []string{}}
		for _, p := range k.Parts(behaviour.Choices{}) {
			view.Parts = append(view.Parts, p.Name)
		}
		out.Stocks = append(out.Stocks, view)
	}
	if c.Behaviour == nil {
		for _, p := range c.Props {
			if values := behaviour.OptionsOf(&p); len(values) > 1 {
				words := make([]string, 0, 4)
				for _, v := range values {
					words = append(words, v.String())
				}
				out.Drawn = append(out.Drawn, DrawnStates{p.Name, words})
			}
		}
	}
	c.Walk(func(p, _ *contract.Part) {
		out.Parts = append(out.Parts, BehaviourPart{p.ID, p.Name, p.Element})
	})
	chart := behaviour.Of(c)
	if chart == nil {
		return out
	}
	out.Has, out.Text = true, chart.Words(c)
	lines := map[string]int{}
	for i, line := range strings.Split(out.Text, "\n") {
		for _, kind := range []string{"state ", "parallel ", "final ", "history ", "deep history "} {
			if rest, ok := strings.CutPrefix(strings.TrimSpace(line), kind); ok {
				id, _, _ := strings.Cut(rest, ",")
				lines[id] = i + 1
			}
		}
	}
	for _, b := range chart.Bricks(c) {
		out.States = append(out.States, BrickView{ID: b.ID, In: b.In, Kind: string(b.Kind), Course: b.Course, Begins: b.Begins, Says: append([]string{}, b.Says...), Line: lines[b.ID]})
	}
	for _, way := range chart.Ways(c) {
		out.Ways = append(out.Ways, WayView{way.From, way.To, way.Words})
	}
	out.Anywhere = append(out.Anywhere, chart.Anywhere(c)...)
	for _, e := range chart.Happens(c) {
		view := EventView{Event: e.Event, Words: e.Words, Drag: e.Event.Kind == behaviour.Dragged}
		if p := c.Prop(e.Event.Name); e.Event.Kind == behaviour.Changed && p != nil {
			for _, v := range p.Type.Samples() {
				if v != nil {
					view.Values = append(view.Values, v)
				}
			}
		}
		out.Events = append(out.Events, view)
	}
	begins := []string{chart.Machine.Given}
	for _, v := range chart.Machine.Values {
		begins = append(begins, v.Prop)
	}
	for _, id := range begins {
		p := c.Prop(id)
		if p == nil {
			continue
		}
		for _, value := range p.Type.Nameable() {
			one := BeginView{p.Name, value.String()}
			if contract.Equal(value, p.Default()) {
				out.Begins = slices.Insert(out.Begins, 0, one)
			} else {
				out.Begins = append(out.Begins, one)
			}
		}
	}
	out.Span = chart.Span()
	for _, one := range c.Scenarios {
		out.Scenarios = append(out.Scenarios, scenarioView(c, one))
	}
	report := chart.Check(behaviour.OptionsFor(c))
	out.Findings, out.Explored, out.Whole = report.Findings, report.Explored, report.Whole
	return out
}

// Instance is one of several of a component that run side by side.
type Instance struct {
	Begins   map[string]string `json:"begins,omitempty" doc:"Options by the names of props"`
	Scenario string            `json:"scenario,omitempty" doc:"The one whose values it is given"`
	Happens  []Happens         `json:"happens" maxItems:"500"`
}

// Happens is an event at a time, or what is expected then.
type Happens struct {
	At     float64            `json:"at" minimum:"0" maximum:"86400000" doc:"ms since it began"`
	Event  behaviour.Event    `json:"event,omitzero"`
	Value  any                `json:"value,omitempty" doc:"What it brings: where to something is dragged, what a prop becomes"`
	Expect *contract.Expected `json:"expect,omitempty"`
}

// Course is what an instance went through.
type Course struct {
	Bricks []behaviour.Brick  `json:"bricks" doc:"How long each state lasted"`
	Told   []behaviour.ToldAt `json:"told"`
	Values []behaviour.Kept   `json:"values" doc:"What it keeps, whenever that changed"`
	Props  []GivenAt          `json:"props" doc:"That it is looked at with, whenever they changed"`
	Paths  map[string][]int   `json:"paths" doc:"Where each part stands, as of a look"`
	Says   []string           `json:"says" doc:"Of each thing that happens or is expected: what is expected, in words, or nothing"`
	Missed []string           `json:"missed" doc:"Of each: what is so instead, or why it cannot happen; or nothing"`
}

// GivenAt is what an instance is given from a time on.
type GivenAt struct {
	At    float64        `json:"at"`
	Props map[string]any `json:"props"`
}

// Run lets instances of a component run side by side in simulated time, by its behaviour or by other words.
func (s *Service) Run(ctx context.Context, slug string, instances []Instance, until float64) ([]Course, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return nil, err
	}
	chart := behaviour.Of(w.contract)
	if chart == nil {
		return nil, notFound("%s has no behaviour.", w.contract.Name)
	}
	out := []Course{}
	for _, one := range instances {
		given, moments := w.instance(one)
		course := Course{Says: make([]string, len(moments)), Missed: make([]string, len(moments)), Props: []GivenAt{{0, w.contract.Given(given)}}, Paths: ir.Lower(w.contract).Paths(given)}
		var happens []behaviour.Happening
		now := given
		for i, m := range moments {
			if m.Expect != nil {
				course.Says[i] = behaviour.ExpectedWords(w.contract, *m.Expect)
				continue
			}
			if m.Becomes != nil && contract.Equal(now[m.Event.Name], m.Becomes) {
				continue // nothing changes
			}
			if m.Becomes != nil {
				now = now.With(contract.Values{m.Event.Name: m.Becomes})
				course.Props = append(course.Props, GivenAt{m.At, w.contract.Given(now)})
			}
			happens = append(happens, m.Happening)
		}
		seen := 0
		_, err := behaviour.Record(w.contract, "", given, moments, func(i int, x *behaviour.Scene) {
			if seen++; moments[i].Expect != nil {
				course.Missed[i] = x.Misses(*moments[i].Expect)
			}
		})
		if err != nil {
			course.Missed[seen] = err.Error()
		}
		line := chart.Timeline(contract.EnvOf(w.contract.Defaults().With(given)), happens, until)
		course.Bricks, course.Told, course.Values = line.Bricks, line.Told, line.Values
		out = append(out, course)
	}
	return out, nil
}

// instance gives what an instance begins with, and what happens to it and is expected of it, by time.
func (w *component) instance(one Instance) (contract.Values, []behaviour.Moment) {
	given := w.contract.Examples()
	for _, s := range w.contract.Scenarios {
		if s.Name == one.Scenario {
			given = w.contract.CaseValues(s.Given)
		}
	}
	for name, value := range one.Begins {
		for _, p := range w.contract.Props {
			for _, v := range p.Type.Nameable() {
				if p.Name == name && v.String() == value {
					given[p.ID] = v
				}
			}
		}
	}
	moments := []behaviour.Moment{}
	for _, h := range one.Happens {
		m := behaviour.Moment{Happening: behaviour.Happening{At: h.At, Event: h.Event, Data: h.Value}, Expect: h.Expect}
		if p := w.contract.Prop(h.Event.Name); h.Event.Kind == behaviour.Changed && p != nil {
			if text, err := json.Marshal(h.Value); err == nil {
				if v, err := p.Type.Decode(text); err == nil && p.Type.Takes(v) {
					m.Becomes = v
				}
			}
		}
		moments = append(moments, m)
	}
	slices.SortStableFunc(moments, func(a, b behaviour.Moment) int { return cmp.Compare(a.At, b.At) })
	return given, moments
}
