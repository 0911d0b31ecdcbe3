package behaviour

import (
	"fmt"

	"cobrik/core/contract"
)

// Stock is a machine to begin with, for what the trade has a name for. States, keys, attributes and focus are those of the ARIA Authoring Practices Guide (W3C).
type Stock struct {
	Name     string
	Says     string
	Practice string // pattern of the guide
	Make     func(Choices) *Machine
}

// Choices are what a stock machine is made with; each takes those that mean something to it.
type Choices struct {
	Items    int       // panels, tabs, entries, buttons, slides; 3 when 0
	Several  bool      // panels that are open at once
	Always   bool      // one panel stays open
	Open     int       // the panel that is open at first; 0 for none
	Vertical bool      // tabs and sliders that go down
	Mixed    bool      // a checkbox that can be partly checked
	Outside  bool      // a dialog that a press beside it closes
	Names    []string  // states of a cycle, in their order
	Times    []float64 // ms that each lasts
}

// Stocks lists all of them.
var Stocks = []Stock{
	{"toggle button", "A button that stays pressed.", "Button", func(Choices) *Machine { return toggle("toggle button", "aria-pressed", "released", "pressed") }},
	{"disclosure", "A button that shows and hides what follows.", "Disclosure", disclosure},
	{"panels", "Headers, each with a panel: one is open at a time, or several.", "Accordion", panels},
	{"tabs", "One panel of several, chosen by its tab.", "Tabs", tabs},
	{"menu button", "A button that opens a list of things to do.", "Menu Button", menuButton},
	{"dialog", "What has to be dealt with before anything else.", "Dialog (Modal)", dialog},
	{"slider", "A value between two others.", "Slider", slider},
	{"range", "Two values between two others.", "Slider (Multi-Thumb)", valueRange},
	{"checkbox", "Checked, or not.", "Checkbox", checkbox},
	{"radio group", "One of several.", "Radio Group", radioGroup},
	{"switch", "On, or off.", "Switch", func(Choices) *Machine { return toggle("switch", "aria-checked", "off", "on") }},
	{"tooltip", "A hint while something is pointed at, or has the focus.", "Tooltip", tooltip},
	{"timed cycle", "States that follow each other by time.", "", cycle},
	{"loading", "Something that is waited for.", "", loading},
	{"carousel", "Slides that follow each other until somebody looks closer.", "Carousel", carousel},
}

// StockNamed finds one by its name; nil for none.
func StockNamed(name string) *Stock {
	for i := range Stocks {
		if Stocks[i].Name == name {
			return &Stocks[i]
		}
	}
	return nil
}

func (c Choices) items() int {
	if c.Items <= 0 {
		return 3
	}
	return min(c.Items, 50)
}

func numbered(name string, i int) string { return fmt.Sprint(name, i) }

func on(e Event, to ...string) Transition { return Transition{Event: e, To: to} }

func press(part string) Event     { return Event{Kind: Press, Part: part} }
func key(name, part string) Event { return Event{Kind: Key, Name: name, Part: part} }

func (t Transition) doing(list ...Action) Transition { t.Do = list; return t }

func says(part, name, value string) Set { return Set{part, name, value} }

func focus(part string) Action { return Action{Focus: part} }

func tell(event, with string) Action { return Action{Tell: event, With: with} }

func assign(value, to string) Action { return Action{Assign: value, To: to} }

func state(id string, sets []Set, on ...Transition) *State { return &State{ID: id, Sets: sets, On: on} }

func made(name string, states ...*State) *Machine {
	return &Machine{Name: name, Root: &State{ID: "root", States: states}}
}

// toggle is a button of two states. A press is a click: Enter and Space of a button are presses, too (HTML, 6.4.3).
func toggle(name, attribute, off, on_ string) *Machine {
	return made(name,
		state(off, []Set{says("button", attribute, "false")}, on(press("button"), on_).doing(tell("onChange", "true"))),
		state(on_, []Set{says("button", attribute, "true")}, on(press("button"), off).doing(tell("onChange", "false"))))
}

func disclosure(Choices) *Machine {
	return made("disclosure",
		state("closed", []Set{says("button", "aria-expanded", "false"), says("panel", "hidden", "true")}, on(press("button"), "open").doing(tell("onToggle", "true"))),
		state("open", []Set{says("button", "aria-expanded", "true"), says("panel", "hidden", "false")}, on(press("button"), "closed").doing(tell("onToggle", "false"))))
}

// headerKeys move the focus among headers (Accordion, Keyboard Interaction, optional keys).
func headerKeys(n int) (out []Transition) {
	for i := range n {
		here := numbered("header", i+1)
		for _, k := range []struct {
			key string
			to  int
		}{{"ArrowDown", (i + 1) % n}, {"ArrowUp", (i + n - 1) % n}, {"Home", 0}, {"End", n - 1}} {
			out = append(out, on(key(k.key, here)).doing(focus(numbered("header", k.to+1))))
		}
	}
	return out
}

func panels(c Choices) *Machine {
	n := c.items()
	if c.Several {
		root := &State{ID: "root", Kind: Parallel, On: headerKeys(n)}
		for i := 1; i <= n; i++ {
			header, panel := numbered("header", i), numbered("panel", i)
			closed := state(numbered("closed", i), []Set{says(header, "aria-expanded", "false"), says(panel, "hidden", "true")}, on(press(header), numbered("open", i)).doing(tell("onToggle", fmt.Sprint(i))))
			open := state(numbered("open", i), []Set{says(header, "aria-expanded", "true"), says(panel, "hidden", "false")}, on(press(header), numbered("closed", i)).doing(tell("onToggle", fmt.Sprint(i))))
			region := &State{ID: numbered("region", i), States: []*State{closed, open}}
			if i == c.Open {
				region.Initial = []string{open.ID}
			}
			root.States = append(root.States, region)
		}
		return &Machine{Name: "panels", Root: root}
	}
	root := &State{ID: "root", On: headerKeys(n)}
	of := func(open int) (sets []Set) {
		for i := 1; i <= n; i++ {
			sets = append(sets, says(numbered("header", i), "aria-expanded", fmt.Sprint(i == open)), says(numbered("panel", i), "hidden", fmt.Sprint(i != open)))
			if c.Always {
				sets = append(sets, says(numbered("header", i), "aria-disabled", fmt.Sprint(i == open))) // it cannot be closed
			}
		}
		return sets
	}
	if !c.Always {
		root.States = append(root.States, state("none", of(0)))
	}
	for i := 1; i <= n; i++ {
		s := state(numbered("open", i), of(i))
		if !c.Always {
			s.On = append(s.On, on(press(numbered("header", i)), "none").doing(tell("onToggle", "0")))
		}
		root.States = append(root.States, s)
	}
	for _, s := range root.States {
		for i := 1; i <= n; i++ {
			if to := numbered("open", i); to != s.ID {
				s.On = append(s.On, on(press(numbered("header", i)), to).doing(tell("onToggle", fmt.Sprint(i))))
			}
		}
	}
	if c.Open > 0 && c.Open <= n {
		root.Initial = []string{numbered("open", c.Open)}
	}
	return &Machine{Name: "panels", Root: root}
}

// roving makes a state for each of n things of which one is chosen and in the order of the Tab key; the arrows choose the next and the one before, around the ends.
func roving(name, part, chosen string, n int, next, before string, also func(i int, s *State)) *Machine {
	root := &State{ID: "root"}
	for i := range n {
		s := &State{ID: numbered("at", i+1)}
		for k := range n {
			s.Sets = append(s.Sets, says(numbered(part, k+1), chosen, fmt.Sprint(k == i)), says(numbered(part, k+1), "tabindex", []string{"-1", "0"}[btoi(k == i)]))
		}
		go_ := func(e Event, to int) {
			if to == i {
				return
			}
			s.On = append(s.On, on(e, numbered("at", to+1)).doing(focus(numbered(part, to+1)), tell("onChange", fmt.Sprint(to+1))))
		}
		here := numbered(part, i+1)
		go_(key(next, here), (i+1)%n)
		go_(key(before, here), (i+n-1)%n)
		for k := range n {
			go_(press(numbered(part, k+1)), k)
		}
		also(i, s)
		root.States = append(root.States, s)
	}
	return &Machine{Name: name, Root: root}
}

func btoi(b bool) int {
	if b {
		return 1
	}
	return 0
}

func tabs(c Choices) *Machine {
	n := c.items()
	next, before := "ArrowRight", "ArrowLeft"
	if c.Vertical {
		next, before = "ArrowDown", "ArrowUp"
	}
	m := roving("tabs", "tab", "aria-selected", n, next, before, func(i int, s *State) {
		for k := range n {
			s.Sets = append(s.Sets, says(numbered("panel", k+1), "hidden", fmt.Sprint(k != i)))
		}
		for _, k := range []struct {
			key string
			to  int
		}{{"Home", 0}, {"End", n - 1}} {
			if k.to != i {
				s.On = append(s.On, on(key(k.key, numbered("tab", i+1)), numbered("at", k.to+1)).doing(focus(numbered("tab", k.to+1)), tell("onChange", fmt.Sprint(k.to+1))))
			}
		}
	})
	if c.Open > 1 && c.Open <= n {
		m.Root.Initial = []string{numbered("at", c.Open)}
	}
	return m
}

// radioGroup begins with none checked; the first is in the order of the Tab key then.
func radioGroup(c Choices) *Machine {
	n := c.items()
	m := roving("radio group", "radio", "aria-checked", n, "ArrowDown", "ArrowUp", func(i int, s *State) {
		here := numbered("radio", i+1)
		s.On = append(s.On, on(key("ArrowRight", here), numbered("at", (i+1)%n+1)).doing(focus(numbered("radio", (i+1)%n+1)), tell("onChange", fmt.Sprint((i+1)%n+1))),
			on(key("ArrowLeft", here), numbered("at", (i+n-1)%n+1)).doing(focus(numbered("radio", (i+n-1)%n+1)), tell("onChange", fmt.Sprint((i+n-1)%n+1))))
	})
	if c.Open > 0 && c.Open <= n {
		m.Root.Initial = []string{numbered("at", c.Open)}
		return m
	}
	none := &State{ID: "none"}
	for k := range n {
		radio := numbered("radio", k+1)
		none.Sets = append(none.Sets, says(radio, "aria-checked", "false"), says(radio, "tabindex", []string{"-1", "0"}[btoi(k == 0)]))
		none.On = append(none.On, on(press(radio), numbered("at", k+1)).doing(tell("onChange", fmt.Sprint(k+1))), on(key("Space", radio), numbered("at", k+1)).doing(tell("onChange", fmt.Sprint(k+1))))
	}
	for _, k := range []struct {
		key string
		to  int
	}{{"ArrowDown", 2}, {"ArrowRight", 2}, {"ArrowUp", n}, {"ArrowLeft", n}} {
		none.On = append(none.On, on(key(k.key, "radio1"), numbered("at", k.to)).doing(focus(numbered("radio", k.to)), tell("onChange", fmt.Sprint(k.to))))
	}
	m.Root.States = append([]*State{none}, m.Root.States...)
	return m
}

func menuButton(c Choices) *Machine {
	n := c.items()
	shut := []Set{says("button", "aria-expanded", "false"), says("menu", "hidden", "true")}
	closed := state("closed", shut, on(press("button"), "item1"), on(key("ArrowDown", "button"), "item1"), on(key("ArrowUp", "button"), numbered("item", n)))
	open := state("open", []Set{says("button", "aria-expanded", "true"), says("menu", "hidden", "false")},
		on(key("Escape", ""), "closed").doing(focus("button")), on(Event{Kind: OutsidePress, Part: "menu"}, "closed").doing(focus(Elsewhere)), on(Event{Kind: FocusOut, Part: "menu"}, "closed").doing(focus(Elsewhere)),
		on(press("button"), "closed").doing(focus("button")))
	for i := range n {
		item := numbered("item", i+1)
		s := state(item, nil, on(key("ArrowDown", item), numbered("item", (i+1)%n+1)), on(key("ArrowUp", item), numbered("item", (i+n-1)%n+1)), on(key("Home", item), "item1"), on(key("End", item), numbered("item", n)),
			on(press(item), "closed").doing(tell("onSelect", fmt.Sprint(i+1)), focus("button")))
		s.Entry = []Action{focus(item)}
		s.Sets = []Set{says(item, "tabindex", "0")}
		open.States = append(open.States, s)
	}
	return made("menu button", closed, open)
}

func dialog(c Choices) *Machine {
	open := state("open", []Set{says("dialog", "hidden", "false"), says("dialog", "aria-modal", "true")}, on(key("Escape", ""), "closed").doing(focus("opener"), tell("onClose", "")), on(press("close"), "closed").doing(focus("opener"), tell("onClose", "")))
	open.Entry = []Action{focus("first")}
	if c.Outside {
		open.On = append(open.On, on(Event{Kind: OutsidePress, Part: "dialog"}, "closed").doing(focus("opener"), tell("onClose", "")))
	}
	return made("dialog", state("closed", []Set{says("dialog", "hidden", "true")}, on(press("opener"), "open")), open)
}

// rightToLeft holds where text goes from right to left: arrows to the side turn around there.
var rightToLeft = contract.Of(contract.Direction{Is: "rtl"})

// moved is a value that became another, within its limits and on its steps.
func moved(value, to, low, high string) Action {
	return assign(value, fmt.Sprintf("min(max(min + round((%s - min) / step) * step, %s), %s)", to, low, high))
}

func limits() []Value {
	return []Value{{Name: "min", Initial: 0.0}, {Name: "max", Initial: 100.0}, {Name: "step", Initial: 1.0}}
}

// thumb gives the transitions of a handle whose value stays between two others (Slider, Keyboard Interaction).
func thumb(part, value, low, high string) (out []Transition) {
	change := func(e Event, to string) Transition {
		return on(e).doing(moved(value, to, low, high), tell("onChange", value))
	}
	more, less := value+" + step", value+" - step"
	for _, k := range []struct{ key, to, other string }{{"ArrowRight", more, less}, {"ArrowLeft", less, more}} {
		turned := change(key(k.key, part), k.other)
		turned.When = rightToLeft
		out = append(out, turned, func() Transition {
			t := change(key(k.key, part), k.to)
			t.When = contract.Of(contract.Direction{Is: "ltr"})
			return t
		}())
	}
	return append(out, change(key("ArrowUp", part), more), change(key("ArrowDown", part), less), change(key("PageUp", part), value+" + 10 * step"), change(key("PageDown", part), value+" - 10 * step"),
		change(key("Home", part), low), change(key("End", part), high), change(Event{Kind: Dragged, Part: part}, "min + event * (max - min)"))
}

func slider(c Choices) *Machine {
	orientation, along, begin := "'horizontal'", "share", "start"
	if c.Vertical {
		orientation, along, begin = "'vertical'", "rise", "foot"
	}
	const share = "(value - min) / (max - min)"
	m := made("slider", state("ready", []Set{says("handle", "aria-valuenow", "value"), says("handle", "aria-valuemin", "min"), says("handle", "aria-valuemax", "max"), says("handle", "aria-orientation", orientation), says("fill", begin, "0"), says("fill", along, share), says("handle", begin, share)}, thumb("handle", "value", "min", "max")...))
	m.Values = append(limits(), Value{Name: "value", Initial: 0.0})
	return m
}

func valueRange(Choices) *Machine {
	s := state("ready", []Set{says("low", "aria-valuenow", "low"), says("low", "aria-valuemin", "min"), says("low", "aria-valuemax", "high"), says("high", "aria-valuenow", "high"), says("high", "aria-valuemin", "low"), says("high", "aria-valuemax", "max"),
		says("fill", "start", "(low - min) / (max - min)"), says("fill", "share", "(high - low) / (max - min)"), says("low", "start", "(low - min) / (max - min)"), says("high", "start", "(high - min) / (max - min)")}, append(thumb("low", "low", "min", "high"), thumb("high", "high", "low", "max")...)...)
	m := made("range", s)
	m.Values = append(limits(), Value{Name: "low", Initial: 0.0}, Value{Name: "high", Initial: 100.0})
	return m
}

func checkbox(c Choices) *Machine {
	m := toggle("checkbox", "aria-checked", "unchecked", "checked")
	for _, s := range m.Root.States {
		s.On[0].Event = press("box")
		s.Sets[0].Part = "box"
		space := s.On[0]
		space.Event = key("Space", "box")
		s.On = append(s.On, space)
	}
	if c.Mixed {
		mixed := state("mixed", []Set{says("box", "aria-checked", "'mixed'")}, on(press("box"), "checked").doing(tell("onChange", "true")), on(key("Space", "box"), "checked").doing(tell("onChange", "true")))
		m.Root.States = append([]*State{mixed}, m.Root.States...)
	}
	return m
}

func tooltip(Choices) *Machine {
	trigger := func(kind EventKind) Event { return Event{Kind: kind, Part: "trigger"} }
	hidden := state("hidden", []Set{says("tip", "hidden", "true")}, on(trigger(FocusIn), "shown"))
	hidden.States = []*State{
		state("away", nil, on(trigger(PointerIn), "pointed")),
		state("pointed", nil, Transition{After: 500, To: []string{"shown"}}, on(trigger(PointerOut), "away"), on(press("trigger"), "away")),
	}
	return made("tooltip", hidden, state("shown", []Set{says("tip", "hidden", "false")}, on(key("Escape", ""), "hidden"), on(trigger(FocusOut), "hidden"), on(trigger(PointerOut), "hidden")))
}

// cycle begins with the first of its states, or with the one that the prop begin names; the flag paused holds it, and it goes on with the state that it was in.
func cycle(c Choices) *Machine {
	names, times := c.Names, c.Times
	if len(names) < 2 {
		names, times = []string{"stop", "go", "slow"}, []float64{3000, 4000, 1000}
	}
	going := &State{ID: "going"}
	for i, name := range names {
		ms := 1000.0
		if i < len(times) && times[i] >= 1 {
			ms = times[i]
		}
		going.States = append(going.States, state(name, []Set{says("root", "data-state", "'"+name+"'")}, Transition{After: ms, To: []string{names[(i+1)%len(names)]}}))
	}
	going.States = append(going.States, &State{ID: "last", Kind: History, Defaults: []string{names[0]}})
	changes := on(Event{Kind: Changed, Name: "paused"})
	holds, goes := changes, changes
	holds.If, holds.To, goes.If, goes.To = "paused", []string{"held"}, "!paused", []string{"last"}
	going.On = []Transition{holds}
	m := made("timed cycle", going, state("held", []Set{says("root", "data-state", "'held'")}, goes))
	m.Given = "begin"
	return m
}

// loading shows what the prop status says: whoever waits for something knows what became of it.
func loading(Choices) *Machine {
	shown := []struct{ status, part string }{{"waiting", "placeholder"}, {"shown", "content"}, {"failed", "trouble"}, {"empty", "nothing"}}
	m := made("loading")
	for _, now := range shown {
		s := state(now.status, []Set{says("root", "aria-busy", fmt.Sprint(now.status == "waiting"))})
		for _, other := range shown {
			s.Sets = append(s.Sets, says(other.part, "hidden", fmt.Sprint(other != now)))
			if other != now {
				s.On = append(s.On, Transition{Event: Event{Kind: Changed, Name: "status"}, If: "status == '" + other.status + "'", To: []string{other.status}})
			}
		}
		if now.status == "failed" {
			s.On = append(s.On, on(press("retry"), "waiting").doing(tell("onRetry", "")))
		}
		m.Root.States = append(m.Root.States, s)
	}
	m.Given = "status"
	return m
}

// carousel stops while it is pointed at or has the focus, and for good when somebody pauses it (Carousel, Accessibility Features).
func carousel(c Choices) *Machine {
	n := c.items()
	playing := state("playing", []Set{says("pause", "aria-pressed", "false"), says("slides", "aria-live", "'off'")}, Transition{After: 5000, To: []string{"playing"}, Do: []Action{{Raise: "advance"}}},
		on(Event{Kind: PointerIn, Part: "slides"}, "held"), on(Event{Kind: FocusIn, Part: "slides"}, "held"), on(press("pause"), "paused"))
	held := state("held", []Set{says("pause", "aria-pressed", "false"), says("slides", "aria-live", "'polite'")}, on(Event{Kind: PointerOut, Part: "slides"}, "playing"), on(Event{Kind: FocusOut, Part: "slides"}, "playing"), on(press("pause"), "paused"))
	paused := state("paused", []Set{says("pause", "aria-pressed", "true"), says("slides", "aria-live", "'polite'")}, on(press("pause"), "playing"))
	slides := &State{ID: "slide"}
	for i := range n {
		var sets []Set
		for k := range n {
			sets = append(sets, says(numbered("slide", k+1), "hidden", fmt.Sprint(k != i)))
		}
		s := state(numbered("slide", i+1), sets, on(Event{Kind: Own, Name: "advance"}, numbered("slide", (i+1)%n+1)), on(press("next"), numbered("slide", (i+1)%n+1)), on(press("before"), numbered("slide", (i+n-1)%n+1)))
		slides.States = append(slides.States, s)
	}
	return &Machine{Name: "carousel", Root: &State{ID: "root", Kind: Parallel, States: []*State{{ID: "rotation", States: []*State{playing, held, paused}}, slides}}}
}
