package behaviour

import (
	"cmp"
	"fmt"
	"maps"
	"slices"

	"cobrik/core/contract"
)

// StockPart is a part that a stock machine speaks of, as it is where a component has none to take its place.
type StockPart struct {
	Name       string
	In         string // the part it stands in; the root when empty
	Element    string
	Attributes map[string]contract.Attribute
	Text       string // that it shows
}

type attrs = map[string]contract.Attribute

func words_(pairs ...string) attrs {
	out := attrs{}
	for i := 0; i < len(pairs); i += 2 {
		out[pairs[i]] = contract.Attribute{Text: pairs[i+1]}
	}
	return out
}

// with adds an attribute that refers to a part.
func with(a attrs, name, part string) attrs {
	if a == nil {
		a = attrs{}
	}
	a[name] = contract.Attribute{Part: part}
	return a
}

// Parts lists the parts that a stock machine speaks of, those around before what is inside of them, with the elements, roles and names of the practice it follows.
func (s *Stock) Parts(c Choices) []StockPart {
	n := c.items()
	each := func(make func(i int) []StockPart) (out []StockPart) {
		for i := 1; i <= n; i++ {
			out = append(out, make(i)...)
		}
		return out
	}
	orientation := "horizontal"
	if c.Vertical {
		orientation = "vertical"
	}
	thumb := func(name, says string) StockPart {
		return StockPart{name, "track", "div", words_("role", "slider", "tabindex", "0", "aria-label", says), ""}
	}
	switch s.Name {
	case "toggle button":
		return []StockPart{{"button", "", "button", nil, "Keep"}}
	case "switch":
		return []StockPart{{"button", "", "button", words_("role", "switch"), "Keep"}}
	case "disclosure":
		return []StockPart{{"button", "", "button", with(nil, "aria-controls", "panel"), "More"}, {"panel", "", "div", nil, "What there is to say."}}
	case "panels":
		return each(func(i int) []StockPart {
			return []StockPart{
				{numbered("heading", i), "", "h3", nil, ""},
				{numbered("header", i), numbered("heading", i), "button", with(nil, "aria-controls", numbered("panel", i)), fmt.Sprint("Header ", i)},
				{numbered("panel", i), "", "section", with(nil, "aria-labelledby", numbered("header", i)), fmt.Sprint("What stands in panel ", i, ".")},
			}
		})
	case "tabs":
		list := StockPart{"list", "", "div", words_("role", "tablist", "aria-label", "Views", "aria-orientation", orientation), ""}
		return append(append([]StockPart{list}, each(func(i int) []StockPart {
			return []StockPart{{numbered("tab", i), "list", "button", with(words_("role", "tab"), "aria-controls", numbered("panel", i)), fmt.Sprint("Tab ", i)}}
		})...), each(func(i int) []StockPart {
			return []StockPart{{numbered("panel", i), "", "div", with(words_("role", "tabpanel", "tabindex", "0"), "aria-labelledby", numbered("tab", i)), fmt.Sprint("What stands in panel ", i, ".")}}
		})...)
	case "menu button":
		return append([]StockPart{
			{"button", "", "button", with(words_("aria-haspopup", "menu"), "aria-controls", "menu"), "Actions"}, {"menu", "", "div", with(words_("role", "menu"), "aria-labelledby", "button"), ""},
		}, each(func(i int) []StockPart {
			return []StockPart{{numbered("item", i), "menu", "div", words_("role", "menuitem", "tabindex", "-1"), fmt.Sprint("Action ", i)}}
		})...)
	case "dialog":
		return []StockPart{
			{"opener", "", "button", words_("aria-haspopup", "dialog"), "Open"}, {"dialog", "", "dialog", with(nil, "aria-labelledby", "title"), ""},
			{"title", "dialog", "h2", nil, "What has to be dealt with"}, {"first", "dialog", "button", nil, "Deal with it"}, {"close", "dialog", "button", nil, "Close"},
		}
	case "slider":
		return []StockPart{{"track", "", "div", nil, ""}, {"fill", "track", "div", nil, ""}, thumb("handle", "Value")}
	case "range":
		return []StockPart{{"track", "", "div", nil, ""}, {"fill", "track", "div", nil, ""}, thumb("low", "From"), thumb("high", "To")}
	case "checkbox":
		return []StockPart{{"box", "", "div", words_("role", "checkbox", "tabindex", "0"), "Keep"}}
	case "radio group":
		group := StockPart{"group", "", "div", words_("role", "radiogroup", "aria-label", "One of these"), ""}
		return append([]StockPart{group}, each(func(i int) []StockPart {
			return []StockPart{{numbered("radio", i), "group", "div", words_("role", "radio"), fmt.Sprint("Choice ", i)}}
		})...)
	case "tooltip":
		return []StockPart{{"trigger", "", "button", with(nil, "aria-describedby", "tip"), "Save"}, {"tip", "", "div", words_("role", "tooltip"), "Keeps what was written."}}
	case "loading":
		return []StockPart{{"placeholder", "", "div", nil, "Loading"}, {"content", "", "div", nil, "What was waited for"}, {"nothing", "", "p", nil, "There is nothing."}, {"trouble", "", "div", words_("role", "alert"), "It did not come."}, {"retry", "trouble", "button", nil, "Again"}}
	case "carousel":
		first := []StockPart{
			{"pause", "", "button", nil, "Pause"}, {"before", "", "button", nil, "Before"}, {"next", "", "button", nil, "Next"},
			{"slides", "", "div", words_("role", "group", "aria-roledescription", "carousel", "aria-label", "Slides"), ""},
		}
		return append(first, each(func(i int) []StockPart {
			return []StockPart{{numbered("slide", i), "slides", "div", words_("role", "group", "aria-roledescription", "slide", "aria-label", fmt.Sprint(i, " of ", n)), fmt.Sprint("Slide ", i)}}
		})...)
	}
	return nil
}

// mostParts is behind all that a part holds.
const mostParts = 1 << 20

// Adopt gives a contract that behaves as a machine does. Its parts are the machine's by their ids; those that parts of the stock stand for are added, in the root, where
// none takes their place, and get the roles and elements of the practice where one does. What the machine tells, or begins with, becomes a prop.
func Adopt(c *contract.Contract, m *Machine, parts []StockPart, takes map[string]string) (*contract.Contract, []Problem) {
	out := c.Clone()
	adopted := map[string]string{"": out.Root.ID, "root": out.Root.ID}
	for _, s := range parts {
		p := out.Part(takes[s.Name])
		if p == nil {
			var err error
			if p, err = out.AddPart(adopted[s.In], s.Name, s.Element, mostParts); err != nil {
				return nil, []Problem{{"", err.Error(), "name the part that is " + s.Name}}
			}
			if s.Text != "" && s.Name != "trouble" {
				p.Content = contract.FixedText{Text: s.Text}
			}
			p.Style = looks(s, m)
		}
		adopted[s.Name] = p.ID
	}
	for _, s := range parts {
		p := out.Part(adopted[s.Name])
		if p.Use() != nil {
			continue
		}
		p.Element = elementFor(p, s.Element)
		for name, a := range s.Attributes {
			if a.Part != "" {
				a.Part = adopted[a.Part]
			}
			if _, said := p.Attributes[name]; said {
				continue
			}
			if p.Attributes == nil {
				p.Attributes = attrs{}
			}
			p.Attributes[name] = a
		}
	}
	named := m.renamed(func(name string) string {
		return cmp.Or(takes[name], adopted[name], name)
	}, func(name string) string { return name })
	for _, p := range named.needs() {
		if !slices.ContainsFunc(out.Props, func(q contract.Prop) bool { return q.Name == p.Name }) {
			out.Props = append(out.Props, p)
		}
	}
	chart, problems := Compile(named)
	if len(problems) > 0 {
		return nil, problems
	}
	out.Behaviour = &contract.Behaviour{Machine: chart}
	return out, nil
}

// looks gives an added part the least by which it is seen: what slides has a track, a fill and a handle on it.
func looks(s StockPart, m *Machine) contract.Style {
	standing := false
	m.Root.Walk(func(state, _ *State) {
		standing = standing || slices.ContainsFunc(state.Sets, func(set Set) bool { return set.Name == "foot" })
	})
	switch {
	case s.Name == "track" && standing:
		return contract.Style{"position": "relative", "box-sizing": "border-box", "width": "8px", "height": "160px", "border-width": "1px", "border-style": "solid", "border-color": "currentcolor", "border-radius": "4px"}
	case s.Name == "track":
		return contract.Style{"position": "relative", "box-sizing": "border-box", "width": "160px", "height": "8px", "border-width": "1px", "border-style": "solid", "border-color": "currentcolor", "border-radius": "4px"}
	case s.In != "track":
		return nil
	case s.Name == "fill" && standing:
		return contract.Style{"position": "absolute", "left": "0px", "width": "100%", "background-color": "currentcolor"}
	case s.Name == "fill":
		return contract.Style{"position": "absolute", "top": "0px", "height": "100%", "background-color": "currentcolor"}
	case standing:
		return contract.Style{"position": "absolute", "left": "50%", "width": "16px", "height": "16px", "border-radius": "8px", "transform": "translate(-50%, 50%)", "background-color": "currentcolor"}
	}
	return contract.Style{"position": "absolute", "top": "50%", "margin-inline": "-8px", "width": "16px", "height": "16px", "border-radius": "8px", "transform": "translate(0px, -50%)", "background-color": "currentcolor"}
}

// Tell gives a contract the props by which its behaviour tells what it tells, where they are missing.
func Tell(c *contract.Contract) {
	chart := Of(c)
	if chart == nil {
		return
	}
	for _, p := range chart.Machine.needs() {
		if p.Kind() == contract.EventKind && !slices.ContainsFunc(c.Props, func(q contract.Prop) bool { return q.Name == p.Name }) {
			p.ID = contract.Free(p.ID, "Prop", func(id string) bool { return c.Prop(id) != nil })
			c.Props = append(c.Props, p)
		}
	}
}

// elementFor keeps a part's own element where the practice asks for none in particular, or it is one of the kind.
func elementFor(p *contract.Part, wants string) string {
	if wants == "div" || wants == "section" || wants == p.Element || p.IsText() && wants == "button" && p.Element == "a" {
		return p.Element
	}
	if wants[0] == 'h' && contract.IsHeading(p.Element) {
		return p.Element
	}
	return wants
}

// needs lists the props that a machine tells by, and those it begins with.
func (m *Machine) needs() (out []contract.Prop) {
	told := map[string]bool{}
	m.Root.Walk(func(s, _ *State) {
		lists := [][]Action{s.Entry, s.Exit}
		for _, t := range s.On {
			lists = append(lists, t.Do)
		}
		for _, a := range slices.Concat(lists...) {
			if a.Tell != "" {
				told[a.Tell] = true
			}
		}
	})
	for _, name := range slices.Sorted(maps.Keys(told)) {
		out = append(out, contract.Prop{ID: name, Name: name, Type: contract.Event{On: contract.Told}})
	}
	if m.Given != "" {
		options := m.leaves()
		out = append(out, contract.Prop{ID: m.Given, Name: m.Given, Purpose: "What it begins with", Type: contract.Choice{Options: options, Initial: options[0]}})
	}
	for _, name := range slices.Sorted(maps.Keys(m.heldBy())) {
		if !slices.ContainsFunc(out, func(p contract.Prop) bool { return p.ID == name }) {
			out = append(out, contract.Prop{ID: name, Name: name, Type: contract.Flag{}})
		}
	}
	for _, v := range m.Values {
		if v.Prop == "" {
			continue
		}
		p := contract.Prop{ID: v.Prop, Name: v.Prop, Purpose: "What it begins with"}
		switch first := v.Initial.(type) {
		case bool:
			p.Type = contract.Flag{Initial: first}
		case float64:
			p.Type = contract.Number{Initial: &first}
		case string:
			p.Type = contract.Text{Initial: first}
		}
		out = append(out, p)
	}
	return out
}

// leaves lists the states that lead on by time, or hold no others; those that it can begin with.
func (m *Machine) leaves() (out []string) {
	m.Root.Walk(func(s, _ *State) {
		if len(s.States) == 0 && s.Kind == Plain && slices.ContainsFunc(s.On, Transition.timed) {
			out = append(out, s.ID)
		}
	})
	if out != nil {
		return out
	}
	m.Root.Walk(func(s, _ *State) {
		if len(s.States) == 0 && s.Kind == Plain {
			out = append(out, s.ID)
		}
	})
	return out
}

// heldBy gives the flags whose change something happens at.
func (m *Machine) heldBy() map[string]bool {
	out := map[string]bool{}
	m.Root.Walk(func(s, _ *State) {
		for _, t := range s.On {
			if t.Event.Kind == Changed {
				out[t.Event.Name] = true
			}
		}
	})
	return out
}
