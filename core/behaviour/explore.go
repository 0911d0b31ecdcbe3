package behaviour

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"cobrik/core/contract"
)

// Options say what a machine is explored in.
type Options struct {
	Env    contract.Env                // it begins in
	Props  map[string][]contract.Value // values that props come to have, by their ids
	Widths []float64                   // px of the container, either side of each switch point
	Drags  []float64                   // where to handles are dragged; 0, 0.5 and 1 when empty
	Styled []string                    // states that rules of style ask for: they look like no other
	Roles  map[string]string           // ARIA roles of parts, by their ids, whose keys are asked for
	Order  []string                    // states that follow each other by time alone, as they are expected to
	Most   int                         // configurations that are explored; 20,000 when 0
}

const (
	mostConfigs = 20_000
	mostTried   = 400_000 // steps
)

// Input is one thing that happens in an exploration: an event, a prop or a width that becomes another, or time that goes by until the next timer is due.
type Input struct {
	Event Event          `json:"event,omitzero"`
	Data  any            `json:"data,omitempty"`
	Prop  contract.Value `json:"-"`
	Width float64        `json:"width,omitempty"`
	Wait  float64        `json:"wait,omitempty"` // ms
}

// String says an input in a few words.
func (i Input) String() string {
	switch {
	case i.Wait > 0 || i.Event == (Event{}):
		return fmt.Sprintf("wait %v ms", i.Wait)
	case i.Prop != nil:
		return fmt.Sprintf("%s becomes %s", i.Event.Name, i.Prop)
	case i.Event.Kind == Crossed:
		return fmt.Sprintf("the container is %v px wide", i.Width)
	case i.Data != nil:
		return fmt.Sprintf("%s to %v", i.Event, i.Data)
	}
	return i.Event.String()
}

// place is a configuration that was reached, with the shortest way there.
type place struct {
	cfg   Config
	env   contract.Env
	from  *place
	said  string // of one where it begins
	by    Input
	moves []move
}

type move struct {
	by Input
	to *place
}

// Path gives the inputs that lead to a place.
func (p *place) path() (out []string) {
	at := p
	for ; at.from != nil; at = at.from {
		out = append(out, at.by.String())
	}
	if at.said != "" {
		out = append(out, at.said)
	}
	slices.Reverse(out)
	return out
}

// explorer goes through all that can happen to a machine, the shortest ways first.
type explorer struct {
	*Chart
	options Options
	places  []*place
	known   map[string]*place
	inputs  []Input
	whole   bool
	taken   map[*edge]bool
	first   map[*edge]*place // where a guard was tried first
	held    map[*edge]bool
	refused map[*edge]bool
	moving  map[Event]bool // events that did something
	errors  map[string][]string
}

func (c *Chart) explore(o Options) *explorer {
	if o.Most == 0 {
		o.Most = mostConfigs
	}
	if len(o.Drags) == 0 {
		o.Drags = []float64{0, 0.5, 1}
	}
	x := &explorer{Chart: c, options: o, known: map[string]*place{}, whole: true, taken: map[*edge]bool{}, first: map[*edge]*place{}, held: map[*edge]bool{},
		refused: map[*edge]bool{}, moving: map[Event]bool{}, errors: map[string][]string{}}
	x.inputs = x.allInputs()
	x.begins(o.Env, "")
	for _, given := range o.Props[c.Machine.Given] {
		env := o.Env
		env.Props = env.Props.With(contract.Values{c.Machine.Given: given})
		x.begins(env, fmt.Sprintf("%s is %s", c.Machine.Given, given))
	}
	for _, v := range c.Machine.Values { // what props may say at first
		for _, given := range o.Props[v.Prop] {
			env := o.Env
			env.Props = env.Props.With(contract.Values{v.Prop: given})
			x.begins(env, fmt.Sprintf("%s is %s", v.Prop, given))
		}
	}
	if x.asksDirection() {
		turned := o.Env
		turned.Direction = map[string]string{"rtl": "ltr"}[o.Env.Direction]
		if turned.Direction == "" {
			turned.Direction = "rtl"
		}
		x.begins(turned, "in "+turned.Direction)
	}
	tried := 0
	for i := 0; i < len(x.places); i++ {
		p := x.places[i]
		for _, in := range x.inputsAt(p) {
			if tried++; tried > mostTried {
				x.whole = false
				return x
			}
			x.try(p, in)
		}
	}
	return x
}

// begins adds a place where a machine begins.
func (x *explorer) begins(env contract.Env, said string) {
	r := x.begin(Config{Values: map[string]any{}, History: map[string][]string{}}, env)
	start := &place{env: env, said: said}
	x.watch(r, start)
	r.start()
	cfg, effects := r.end()
	start.cfg = settled(cfg)
	x.note(start, r, effects)
	if x.known[start.key()] != nil {
		return
	}
	x.known[start.key()] = start
	x.places = append(x.places, start)
}

// asksDirection tells whether some condition asks for the direction of text: then a machine begins in both.
func (x *explorer) asksDirection() bool {
	return slices.ContainsFunc(x.nodes, func(n *node) bool {
		return slices.ContainsFunc(n.On, func(t Transition) bool {
			return slices.ContainsFunc(t.When.Terms(), func(term contract.Term) bool { _, asks := term.(contract.Direction); return asks })
		})
	})
}

// allInputs lists what can happen from outside: each event that some transition waits for, but for those that the machine raises itself.
func (x *explorer) allInputs() (out []Input) {
	raised := map[string]bool{}
	note := func(list []Action) {
		for _, a := range list {
			raised[a.Raise] = true
		}
	}
	var events []Event
	for _, n := range x.nodes {
		note(n.Entry)
		note(n.Exit)
		for _, t := range n.edges {
			note(t.Do)
			if e := t.Event; e != (Event{}) && !slices.Contains(events, e) {
				events = append(events, e)
			}
		}
	}
	for _, e := range events {
		switch {
		case e.Kind == Own && (raised[e.Name] || strings.HasPrefix(e.Name, "done.state.") || strings.HasPrefix(e.Name, "error.") || strings.HasSuffix(e.Name, "*")), e.Kind == Changed, e.Kind == Crossed:
		case e.Kind == Dragged:
			for _, to := range x.options.Drags {
				out = append(out, Input{Event: e, Data: to})
			}
		default:
			out = append(out, Input{Event: e})
		}
	}
	return out
}

func (x *explorer) inputsAt(p *place) []Input {
	out := slices.Clone(x.inputs)
	for _, id := range slices.Sorted(maps.Keys(x.options.Props)) {
		for _, v := range x.options.Props[id] {
			if p.env.Props[id] != v {
				out = append(out, Input{Event: Event{Kind: Changed, Name: id}, Prop: v})
			}
		}
	}
	for _, w := range x.options.Widths {
		if p.env.Container != w {
			out = append(out, Input{Event: Event{Kind: Crossed}, Width: w})
		}
	}
	if len(p.cfg.Timers) > 0 {
		out = append(out, Input{Wait: p.cfg.Timers[0].Due})
	}
	return out
}

// settled begins a configuration's time anew, so that what is the same later is the same.
func settled(c Config) Config {
	c.Timers = slices.Clone(c.Timers)
	for i := range c.Timers {
		c.Timers[i].Due -= c.Now
	}
	c.Now = 0
	return c
}

func (p *place) key() string {
	text, err := json.Marshal(struct {
		C Config
		P map[string]string
		W float64
		D string
	}{p.cfg, textsOf(p.env.Props), p.env.Container, p.env.Direction})
	if err != nil {
		return fmt.Sprint(p.cfg, p.env.Props, p.env.Container, p.env.Direction)
	}
	return string(text)
}

func textsOf(props contract.Values) map[string]string {
	out := map[string]string{}
	for id, v := range props {
		out[id] = fmt.Sprint(v)
	}
	return out
}

// watch notes which guards hold where.
func (x *explorer) watch(r *run, p *place) {
	r.tried = func(e *edge, held bool) {
		if x.first[e] == nil {
			x.first[e] = p
		}
		if held {
			x.held[e] = true
		} else {
			x.refused[e] = true
		}
	}
}

func (x *explorer) note(at *place, r *run, effects []Effect) {
	for _, t := range r.taken {
		x.taken[t] = true
	}
	for _, e := range effects {
		if e.Error != "" && x.errors[e.Error] == nil {
			x.errors[e.Error] = append([]string{}, at.path()...)
		}
	}
}

// try lets something happen in a place.
func (x *explorer) try(p *place, in Input) {
	to := &place{env: p.env, from: p, by: in}
	if in.Prop != nil || in.Event.Kind == Crossed {
		to.env.Props = maps.Clone(p.env.Props)
		if in.Prop != nil {
			if to.env.Props == nil {
				to.env.Props = contract.Values{}
			}
			to.env.Props[in.Event.Name] = in.Prop
		} else {
			to.env.Container = in.Width
		}
	}
	r := x.begin(p.cfg, to.env)
	x.watch(r, to)
	if in.Event == (Event{}) {
		r.due(p.cfg.Timers[0])
	} else {
		r.step(func(t *edge) bool { return !t.eventless() && !t.timed() && t.Event.Stands(in.Event) }, in.Data)
	}
	cfg, effects := r.end()
	to.cfg = settled(cfg)
	x.note(to, r, effects)
	for _, t := range r.taken {
		if len(t.To)+len(t.Do) > 0 {
			x.moving[t.Event] = true
		}
	}
	key := to.key()
	if known := x.known[key]; known != nil {
		to = known
	} else if len(x.places) >= x.options.Most {
		x.whole = false
		return
	} else {
		x.known[key] = to
		x.places = append(x.places, to)
	}
	p.moves = append(p.moves, move{in, to})
}

func sortedKeys[V any](m map[string]V) []string { return slices.Sorted(maps.Keys(m)) }
