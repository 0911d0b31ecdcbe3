package sheet

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/contract"
)

// What is said of the component as a whole: how it is meant to be used, props that stand apart, states.

func noteRows(kind string, notes []string) []NoteRow {
	out := []NoteRow{}
	for i, text := range notes {
		out = append(out, NoteRow{kind + "/" + strconv.Itoa(i), text})
	}
	return out
}

// row gives the place in a list that an address names: of so many, -1 for the list itself.
func (k *editor) row(place string, of int) (int, error) {
	if place == "" {
		return -1, nil
	}
	if n, err := strconv.Atoi(place); err == nil && n >= 0 && n < of {
		return n, nil
	}
	return 0, fmt.Errorf("there is nothing at %s", k.e.On)
}

// after is the address of what has the focus once one of a list is removed.
func after(kind string, at, left int) string {
	if left == 0 {
		return kind
	}
	return kind + "/" + strconv.Itoa(min(at, left-1))
}

// noted says what a list of lines is of.
var noted = map[string]string{"do": "what it is meant for", "dont": "what it is not meant for", "links": "what to read of it", "notes": "notes"}

// notes edits lines of text.
func (k *editor) notes(list *[]string, kind, place string) error {
	at, err := k.row(place, len(*list))
	if err != nil {
		return err
	}
	what := noted[kind]
	switch {
	case k.e.Do == "add" && k.e.Text != "":
		if at++; at == 0 { // of the list itself: behind all
			at = len(*list)
		}
		*list = slices.Insert(slices.Clone(*list), at, k.e.Text)
		k.done.On = kind + "/" + strconv.Itoa(at)
		k.note("%s: one added", what)
	case k.e.Do == "set" && at >= 0 && k.e.Text != "":
		*list = slices.Clone(*list)
		(*list)[at] = k.e.Text
		k.note("%s", what)
	case k.e.Do == "remove" && at >= 0:
		*list = slices.Delete(slices.Clone(*list), at, at+1)
		if len(*list) == 0 {
			*list = nil
		}
		k.done.On = after(kind, at, len(*list))
		k.note("%s: one removed", what)
	case k.e.Text == "" && k.e.Do != "remove":
		return fmt.Errorf("expected a sentence")
	default:
		return k.unknown()
	}
	return nil
}

// linkLines writes what is to be read elsewhere, a line each: its text, then its address.
func linkLines(c *contract.Contract) (out []string) {
	for _, l := range c.Links {
		out = append(out, l.Text+" "+l.Address)
	}
	return out
}

// links edits what is to be read elsewhere.
func (k *editor) links(place string) error {
	lines := linkLines(k.c)
	if err := k.notes(&lines, "links", place); err != nil {
		return err
	}
	k.c.Links = nil
	for _, line := range lines {
		words := strings.Fields(line)
		address := words[len(words)-1]
		text := strings.Join(words[:len(words)-1], " ")
		if text == "" {
			return fmt.Errorf("expected words and an address, as in Minutes of the spring meeting https://example.org/minutes")
		}
		k.c.Links = append(k.c.Links, contract.Reference{Text: text, Address: address})
	}
	return nil
}

// richLines writes rich text as it is typed, a line a block.
func richLines(v contract.RichValue) (out []string) {
	for _, b := range v {
		out = append(out, contract.RichValue{b}.Typed())
	}
	return out
}

// rich edits the notes on a component, a block at a time.
func (k *editor) rich(place string) error {
	lines := richLines(k.c.Notes)
	if err := k.notes(&lines, "notes", place); err != nil {
		return err
	}
	k.c.Notes = nil
	for _, line := range lines {
		v, err := contract.ReadRich(line)
		if err != nil {
			return err
		}
		k.c.Notes = append(k.c.Notes, v...)
	}
	return nil
}

// deprecated says why the component is not to be used any longer, or what is used instead; that of neither, it is.
func (k *editor) deprecated() error {
	if k.e.Do != "set" {
		return k.unknown()
	}
	d := contract.Deprecation{}
	if k.c.Deprecated != nil {
		d = *k.c.Deprecated
	}
	switch k.e.Cell {
	case "text":
		d.Why = k.e.Text
	case "instead":
		d.Instead = k.e.Text
	default:
		return k.unknown()
	}
	k.c.Deprecated = &d
	if d == (contract.Deprecation{}) {
		k.c.Deprecated = nil
	}
	k.note("deprecated")
	return nil
}

func apartRows(c *contract.Contract) []NoteRow {
	out := []NoteRow{}
	for i, group := range c.Apart {
		names := make([]string, len(group))
		for n, id := range group {
			names[n] = id
			if p := c.Prop(id); p != nil {
				names[n] = p.Name
			}
		}
		out = append(out, NoteRow{"apart/" + strconv.Itoa(i), strings.Join(names, ", ")})
	}
	return out
}

// apart edits groups of props of which a use gives one at most: icon, picture.
func (k *editor) apart(place string) error {
	c := k.c
	at, err := k.row(place, len(c.Apart))
	if err != nil {
		return err
	}
	if k.e.Do == "remove" && at >= 0 {
		c.Apart = slices.Delete(slices.Clone(c.Apart), at, at+1)
		k.done.On = after("apart", at, len(c.Apart))
		k.note("a group of props that stand apart removed")
		return nil
	}
	var group []string
	for _, name := range splitList(k.e.Text) {
		id, err := propNamed(c, name)
		if err != nil {
			return err
		}
		if strings.Contains(id, ".") {
			return fmt.Errorf("%s is an item's, and each item stands by itself", name)
		}
		if slices.Contains(group, id) {
			return fmt.Errorf("%s stands there twice", name)
		}
		group = append(group, id)
	}
	if len(group) < 2 {
		return fmt.Errorf("expected two props or more, as in icon, picture")
	}
	switch {
	case k.e.Do == "set" && at >= 0:
		c.Apart = slices.Clone(c.Apart)
		c.Apart[at] = group
	case k.e.Do == "add":
		c.Apart = slices.Insert(slices.Clone(c.Apart), len(c.Apart), group)
		k.done.On = "apart/" + strconv.Itoa(len(c.Apart)-1)
	default:
		return k.unknown()
	}
	k.note("%s stand apart", strings.Join(splitList(k.e.Text), " and "))
	return nil
}

// state adds what a part is otherwise in a state, "hover: background-color {ground}" of the root or
// "hover label: color {ink}" of a part, with the flag that data sets where the state is such a one; or removes
// all that a state does.
func (k *editor) state(name string) error {
	c := k.c
	switch k.e.Do {
	case "add":
		head, said, found := cutCondition(k.e.Text)
		words := split(head)
		if len(words) == 0 || len(words) > 2 || !found && len(words) > 1 {
			return fmt.Errorf("expected a state and what is otherwise in it, as in hover: background-color {ground}, or hover label: color {ink}")
		}
		state := words[0]
		if !slices.Contains(c.AllStates(), state) {
			return fmt.Errorf("%s is no state; expected one of %s", word(state), strings.Join(c.AllStates(), ", "))
		}
		p := c.Root
		if len(words) == 2 {
			if p = partNamed(c, words[1]); p == nil {
				return fmt.Errorf("there is no part %s; expected one of %s", word(words[1]), strings.Join(partNames(c), ", "))
			}
		}
		flagged := false
		if slices.Contains(contract.DataStates, state) && c.StateFlag(state) == nil && !c.HasState(state) {
			c.AddProp(contract.Identifier(state, ""), contract.Flag{}, "")
			flagged = true
		}
		if said = strings.TrimSpace(said); said == "" {
			if !flagged {
				return fmt.Errorf("expected what is otherwise in %s, as in %s: color {ink}", state, state)
			}
			k.done.On = "props/" + c.StateFlag(state).ID
			k.note("%s, a state that a flag sets, added", state)
			return nil
		}
		k.e.Text = "when state " + state + ": " + said
		if err := k.say(p, -1); err != nil {
			return err
		}
		k.done.On = "states/" + state
		k.note("%s in %s", p.Name, state)
		return nil
	case "remove":
		if !slices.ContainsFunc(states(c), func(s StateRow) bool { return s.Name == name }) {
			return fmt.Errorf("nothing is otherwise in %s", word(name))
		}
		k.done.Taken = append(k.done.Taken, c.RemoveState(name)...)
		k.note("%s removed", name)
		k.done.On = "states"
		if left := states(c); len(left) > 0 {
			k.done.On = left[0].On
		}
		return nil
	}
	return k.unknown()
}

// state completes a state, a part, and what is said of it.
func (k *completer) state(text string) {
	head, said, found := cutCondition(text)
	if !found {
		if before, typed := lastWord(text); before == "" {
			k.phrases("", typed, k.c.AllStates())
		} else {
			k.all(before, typed, "part", partNames(k.c))
		}
		return
	}
	lead := head + ": "
	from := len(k.out)
	k.saying(strings.TrimLeft(said, " "))
	for i := from; i < len(k.out); i++ {
		k.out[i].Text = lead + k.out[i].Text
	}
}

// lastOf cuts a list before its last item.
func lastOf(text string) (before, typed string) {
	i := strings.LastIndex(text, ",")
	if i < 0 {
		return "", text
	}
	return text[:i+1] + " ", strings.TrimLeft(text[i+1:], " ")
}
