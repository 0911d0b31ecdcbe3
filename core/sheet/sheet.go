// Package sheet is a contract as a page: rows of text to be read, and what typing in one of them
// does to the contract. Each row has an address: props/size, parts/label, rules/3; each value in a style
// one below: parts/label/gap, rules/3/gap.
package sheet

import (
	"slices"
	"strconv"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/token"
)

// Sheet is a contract as text.
type Sheet struct {
	Name    string      `json:"name"`
	Purpose string      `json:"purpose"`
	Do      []NoteRow   `json:"do" doc:"How it is meant to be used"`
	Dont    []NoteRow   `json:"dont" doc:"How it is not"`
	Links   []NoteRow   `json:"links" doc:"What to read of it elsewhere: words, then an address"`
	Notes   []NoteRow   `json:"notes" doc:"Rich text as it is typed, a block a row"`
	Owner   string      `json:"owner"`
	Why     string      `json:"why" doc:"Why it is not to be used any longer"`
	Instead string      `json:"instead" doc:"What is used instead of it"`
	Use     []UseWord   `json:"use" doc:"The use of the component as a line of code"`
	Props   []PropRow   `json:"props"`
	Parts   []PartRow   `json:"parts" doc:"The outline, parents first"`
	Rules   []RuleRow   `json:"rules" doc:"What each part says by itself, then the rules in their order: later ones win"`
	States  []StateRow  `json:"states"`
	Nested  []NestedRow `json:"nested"`
	Apart   []NoteRow   `json:"apart" doc:"Groups of props of which a use gives one at most"`
	Cases   []CaseRow   `json:"cases" doc:"Those that people gave a name"`
}

// NoteRow is a line of text.
type NoteRow struct {
	On   string `json:"on"`
	Text string `json:"text"`
}

// UseWord is a word of the line of code.
type UseWord struct {
	Text string `json:"text"`
	Prop string `json:"prop,omitempty" doc:"Address of the prop it is the name of"`
}

// PropRow is a prop's row; an item's stands below its list.
type PropRow struct {
	On      string   `json:"on"`
	Name    string   `json:"name"`
	Depth   int      `json:"depth"`
	Kind    string   `json:"kind"`
	Default string   `json:"default"`
	Purpose string   `json:"purpose"`
	Bound   []string `json:"bound" doc:"What it is bound to; empty for nothing"`
	From    string   `json:"from,omitempty" doc:"What it is passed on to: tag › size"`
}

// PartRow is a part's row.
type PartRow struct {
	On      string   `json:"on"`
	ID      string   `json:"id"`
	Name    string   `json:"name"`
	Depth   int      `json:"depth"`
	Element string   `json:"element" doc:"With attributes; of a use the component with what it is given"`
	Shows   string   `json:"shows"`
	When    string   `json:"when"`
	Over    string   `json:"over" doc:"Name of the list it is there for each item of"`
	Offers  []string `json:"offers" doc:"What of it can be made a prop"`
	Holds   bool     `json:"holds" doc:"It can hold other parts"`
}

// RuleRow is what a part says: by itself, or when a condition holds.
type RuleRow struct {
	On     string        `json:"on"`
	Number int           `json:"number" doc:"From 1; 0 for what a part says by itself"`
	Part   string        `json:"part" doc:"Its id"`
	Name   string        `json:"name" doc:"The part's"`
	When   string        `json:"when"`
	Values []Declaration `json:"values"`
}

// Declaration is one declaration.
type Declaration struct {
	On       string `json:"on"`
	Property string `json:"property"`
	Text     string `json:"text"`
	Value    string `json:"value,omitempty" doc:"With what its references stand for"`
}

// StateRow is a state that something of the component is otherwise in.
type StateRow struct {
	On    string `json:"on"`
	Name  string `json:"name"`
	By    string `json:"by" doc:"The flag that brings it about; the browser when empty"`
	Drawn string `json:"drawn" doc:"The value of the family's axis that draws it"`
	Rules []int  `json:"rules" doc:"Numbers of the rules that ask for it"`
}

// NestedRow is a use of a component inside.
type NestedRow struct {
	Part      string   `json:"part" doc:"Its id"`
	Name      string   `json:"name"`
	Component string   `json:"component"`
	Given     []string `json:"given" doc:"What is fixed or bound: size = m"`
	Passed    []string `json:"passed" doc:"What is passed on: label as title"`
	Held      []string `json:"held" doc:"What nobody who uses this can give"`
}

// Of writes a contract as a sheet; tokens say what references stand for, nil leaves that out.
func Of(c *contract.Contract, tokens *token.Set) Sheet {
	out := Sheet{Name: c.Name, Purpose: c.Purpose, Do: noteRows("do", c.Do), Dont: noteRows("dont", c.Dont), Links: noteRows("links", linkLines(c)), Notes: noteRows("notes", richLines(c.Notes)), Owner: c.Owner, Apart: apartRows(c), Cases: caseRows(c), Use: useLine(c), Props: []PropRow{}, Parts: []PartRow{}, Rules: []RuleRow{}, States: []StateRow{}, Nested: []NestedRow{}}
	if c.Deprecated != nil {
		out.Why, out.Instead = c.Deprecated.Why, c.Deprecated.Instead
	}
	c.EachProp(func(id string, p *contract.Prop) {
		row := PropRow{On: "props/" + id, Name: p.Name, Kind: kindText(c, p), Default: defaultText(p), Purpose: p.Purpose, Bound: append([]string{}, c.BoundTo(id)...)}
		if strings.Contains(id, ".") {
			row.Depth = 1
		}
		if p.From != nil {
			row.From = partName(c, p.From.Part) + " › " + givenName(c, p.From)
		}
		out.Props = append(out.Props, row)
	})
	depth := map[string]int{}
	c.Walk(func(p, parent *contract.Part) {
		if parent != nil {
			depth[p.ID] = depth[parent.ID] + 1
		}
		on := "parts/" + p.ID
		row := PartRow{On: on, ID: p.ID, Name: p.Name, Depth: depth[p.ID], Element: elementText(c, p), Shows: showsText(c, p), When: c.Words(p.ShownWhen),
			Offers: append([]string{}, c.Offers(p.ID)...), Holds: c.Holds(p.ID)}
		if list := c.Prop(p.Repeat); list != nil {
			row.Over = list.Name
		}
		out.Parts = append(out.Parts, row)
		out.Rules = append(out.Rules, RuleRow{On: on, Part: p.ID, Name: p.Name, Values: values(on, p.Style, tokens)})
		if u := p.Use(); u != nil {
			out.Nested = append(out.Nested, nested(c, p, u))
		}
	})
	for i, r := range c.Rules {
		on := "rules/" + strconv.Itoa(i)
		out.Rules = append(out.Rules, RuleRow{On: on, Number: i + 1, Part: r.Part, Name: partName(c, r.Part), When: c.Words(r.When), Values: values(on, r.Set, tokens)})
	}
	out.States = states(c)
	return out
}

func values(on string, s contract.Style, tokens *token.Set) []Declaration {
	out := make([]Declaration, 0, len(s))
	for _, property := range s.Properties() {
		one := Declaration{On: on + "/" + property, Property: property, Text: s[property]}
		if tokens != nil {
			one.Value = contract.ResolveTokens(one.Text, tokens)
		}
		out = append(out, one)
	}
	return out
}

func partName(c *contract.Contract, id string) string {
	if p := c.Part(id); p != nil {
		return p.Name
	}
	return id
}

// givenName is the name of the prop of the component inside that a prop is passed on to.
func givenName(c *contract.Contract, from *contract.Passing) string {
	if p := c.Part(from.Part); p != nil && p.Use() != nil && p.Use().Of() != nil {
		if q := p.Use().Of().Prop(from.Prop); q != nil {
			return q.Name
		}
	}
	return from.Prop
}

// useLine is the component as one would write it, each prop with what it takes: size="s | m | l".
func useLine(c *contract.Contract) []UseWord {
	out := []UseWord{{Text: "<" + c.Name}}
	children := ""
	for _, p := range c.Props {
		on := "props/" + p.ID
		if p.Kind() == contract.SlotKind && p.Name == "children" {
			children = on
			continue
		}
		out = append(out, UseWord{Text: p.Name, Prop: on})
		if text := typeText(p.Type); text != "" {
			out = append(out, UseWord{Text: text})
		}
	}
	if children == "" {
		return append(out, UseWord{Text: "/>"})
	}
	return append(out, UseWord{Text: ">"}, UseWord{Text: "children", Prop: children}, UseWord{Text: "</" + c.Name + ">"})
}

// typeText is what may be given, in short.
func typeText(t contract.Type) string {
	switch t := t.(type) {
	case contract.Flag:
		return ""
	case contract.Choice:
		return "=" + strings.Join(t.Options, "|")
	case contract.Icon:
		if len(t.Options) > 6 {
			return "=" + strings.Join(t.Names()[:5], "|") + "|…"
		}
		return "=" + strings.Join(t.Names(), "|")
	case contract.Event:
		return ""
	}
	return "=" + string(t.Kind())
}

func states(c *contract.Contract) []StateRow {
	out := []StateRow{}
	for _, name := range c.AllStates() {
		row := StateRow{On: "states/" + name, Name: name, Rules: []int{}}
		for i, r := range c.Rules {
			if slices.Contains(r.When.Terms(), contract.Term(contract.InState{State: name})) {
				row.Rules = append(row.Rules, i+1)
			}
		}
		for _, s := range c.States {
			if s.State == name {
				row.Drawn = s.Value
			}
		}
		if flag := c.StateFlag(name); flag != nil {
			row.By = flag.Name
		} else if c.HasState(name) {
			row.By = "the behaviour"
		}
		if len(row.Rules) > 0 || row.Drawn != "" {
			out = append(out, row)
		}
	}
	return out
}

func nested(c *contract.Contract, p *contract.Part, u *contract.Use) NestedRow {
	out := NestedRow{Part: p.ID, Name: p.Name, Component: u.Component, Given: []string{}, Passed: []string{}, Held: []string{}}
	for _, given := range givenWords(c, u) {
		id := given.id
		if prop := c.Prop(u.Given[id].Prop); prop != nil && prop.From != nil && prop.From.Part == p.ID {
			if prop.Name == given.name {
				out.Passed = append(out.Passed, given.name)
			} else {
				out.Passed = append(out.Passed, given.name+" as "+prop.Name)
			}
			continue
		}
		out.Given = append(out.Given, given.name+" = "+given.value)
	}
	if of := u.Of(); of != nil {
		for _, q := range of.Props {
			if _, given := u.Given[q.ID]; !given {
				out.Held = append(out.Held, q.Name)
			}
		}
	}
	return out
}
