package contract

import (
	"encoding/json"
	"errors"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/css"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// Behaviour is what a component does: a machine of states. Package behaviour reads and runs machines; a contract keeps one as it stands,
// and asks it what it says of parts.
type Behaviour struct{ Machine }

// Machine is a behaviour made ready to be asked. Machines never change.
type Machine interface {
	json.Marshaler
	// States lists the ids of the states that rules may ask for, in document order.
	States() []string
	// Shown lists the states that a component can be seen in, each with what is inside of it.
	Shown() []string
	// In gives the states that are active in an environment, and what they say of parts: as it begins, or in those of its states that the
	// environment asks for.
	In(Env) (active []string, says []Said)
	// Props lists the ids of the props that it asks for, and of those that it tells by in a contract.
	Props(c *Contract) []string
	// Tokens lists the durations that its times are, by path.
	Tokens() []string
	// WithTokens gives the machine with other durations, and how long each is, ms.
	WithTokens(of func(path string) (to string, ms float64)) Machine
	// Widths lists the widths of the component's container, px, that its conditions ask for.
	Widths() []float64
	// CheckIn lists what is wrong with it in a contract.
	CheckIn(c *Contract, found *problem.List)
}

// Said is what a state says of a part: an attribute of HTML or ARIA, a prop of the component that the part is a use of, or a share of what is around it.
type Said struct {
	Part  string `json:"part"`
	Name  string `json:"name"`
	Value any    `json:"value"` // float64, string or bool
	State string `json:"state"` // that says so
}

// Shares are what a state says of a part's place and size beside attributes: how much of what is around the part it takes, and where it begins, from 0 to 1, along the
// line or across it, with the property that has it where text goes from left to right.
var Shares = map[string]string{"share": "width", "start": "left", "rise": "height", "foot": "bottom"}

// TextSaid is the name under which a state says the text of a part.
const TextSaid = "text"

// readMachine is package behaviour's.
var readMachine func([]byte) (Machine, error)

// RegisterMachines says how machines are read, as image.RegisterFormat does for images: this package stands below the one that runs them.
func RegisterMachines(read func([]byte) (Machine, error)) { readMachine = read }

// UnmarshalJSON reads what the machine's MarshalJSON writes.
func (b *Behaviour) UnmarshalJSON(text []byte) (err error) {
	if readMachine == nil {
		return errors.New("nothing that reads machines is part of the program")
	}
	b.Machine, err = readMachine(text)
	return err
}

// Timed gives the times of the behaviour, and of scenarios, as long as their durations are.
func (c *Contract) Timed(tokens *token.Set) {
	c.times(func(path string) (string, float64) {
		ms, _ := milliseconds(tokens, path)
		return path, ms
	})
}

// times gives times that are durations others, and how long each is, ms.
func (c *Contract) times(of func(path string) (to string, ms float64)) {
	if c.Behaviour == nil || len(c.Behaviour.Tokens()) == 0 {
		return
	}
	c.Behaviour = &Behaviour{c.Behaviour.WithTokens(of)}
	for _, s := range c.Scenarios {
		for i := range s.Steps {
			if step := &s.Steps[i]; step.Token != "" {
				path, ms := of(strings.Trim(step.Token, "{}"))
				step.Token, step.After = "{"+path+"}", ms
			}
		}
	}
}

// milliseconds tells how long a duration is; false for what is none.
func milliseconds(tokens *token.Set, path string) (float64, bool) {
	t := tokens.Get(path)
	if t == nil || t.Type != "duration" {
		return 0, false
	}
	n, unit := strings.CutSuffix(t.Value, "ms")
	times := 1.0
	if !unit {
		n, times = strings.TrimSuffix(t.Value, "s"), 1000
	}
	ms, err := strconv.ParseFloat(n, 64)
	return ms * times, err == nil
}

// durations checks that the behaviour's times are durations that there are.
func (k *checker) durations() {
	if k.tokens == nil {
		return
	}
	for _, path := range k.c.Behaviour.Tokens() {
		if _, ok := milliseconds(k.tokens, path); !ok {
			k.found.Errorf("behaviour-time", "/behaviour", "name a token that is a duration", "it waits for {%s}, which is no duration", path)
		}
	}
}

// AllStates lists the states that rules may ask for: those of the platform, then those of the behaviour that are called otherwise.
func (c *Contract) AllStates() []string {
	if c.Behaviour == nil {
		return States
	}
	out := slices.Clone(States)
	for _, s := range c.Behaviour.States() {
		if !slices.Contains(out, s) {
			out = append(out, s)
		}
	}
	return out
}

// HasState tells whether the behaviour has a state of an id.
func (c *Contract) HasState(id string) bool {
	return c.Behaviour != nil && slices.Contains(c.Behaviour.States(), id)
}

// behaves gives an environment with the states that the behaviour is in, and what these say of parts.
func (c *Contract) behaves(e Env) (Env, []Said) {
	if c.Behaviour == nil {
		return e, nil
	}
	active, says := c.Behaviour.In(e)
	states := e.States[:len(e.States):len(e.States)]
	for _, s := range active {
		if !slices.Contains(states, s) {
			states = append(states, s)
		}
	}
	e.States = states
	return e, says
}

// sayAttribute gives a part an attribute that its behaviour says of it.
func sayAttribute(attributes map[string]string, s Said) {
	switch v := s.Value.(type) {
	case bool:
		switch {
		case strings.Contains(s.Name, "-"):
			attributes[s.Name] = strconv.FormatBool(v) // ARIA says both
		case v:
			attributes[s.Name] = ""
		default:
			delete(attributes, s.Name)
		}
	case float64:
		if Shares[s.Name] == "" {
			attributes[s.Name] = NumberValue(v).String()
		}
	case string:
		if s.Name != TextSaid {
			attributes[s.Name] = v
		}
	}
}

// saidStyle gives what follows of what a behaviour says of a part for its style: what is hidden takes no room, and a share is one of the length around.
func saidStyle(says []Said, direction string) Style {
	out := Style{}
	for _, s := range says {
		switch v := s.Value.(type) {
		case bool:
			if s.Name == "hidden" && v {
				out["display"] = "none"
			}
		case float64:
			if property := Shares[s.Name]; property != "" {
				if direction == "rtl" && property == "left" {
					property = "right"
				}
				out[property] = css.FormatNumber(v*100) + "%"
			}
		}
	}
	return out
}

// saidProps gives what a behaviour says of a use as values of its component's props.
func saidProps(of *Contract, says []Said) Values {
	out := Values{}
	for _, s := range says {
		for i := range of.Props {
			if p := &of.Props[i]; p.Name == s.Name {
				if v := SaidValue(p, s.Value); v != nil {
					out[p.ID] = v
				}
			}
		}
	}
	return out
}

// SaidValue gives what a behaviour says as a value of a prop; nil when the prop does not take it.
func SaidValue(p *Prop, said any) Value {
	text, err := json.Marshal(said)
	if err != nil {
		return nil
	}
	v, err := p.Type.Decode(text)
	if err != nil || !p.Type.Takes(v) {
		return nil
	}
	return v
}
