package sheet

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/check"
	"cobrik/core/contract"
	"cobrik/core/token"
)

// Edit is one thing done on the sheet.
type Edit struct {
	Do   string   `json:"do" enum:"set,add,remove,duplicate,move,wrap,unwrap,offer,mend,fewer,own,inline"`
	On   string   `json:"on" maxLength:"300" doc:"Address of a row or a value: props/size, parts/label, rules/3, parts/label/gap, rules/3/gap; do/0, dont/0, apart/0, states/hover, cases/0; or name, purpose, owner, deprecated, do, dont, links, notes, apart, props, rules, states, cases; of mend the key of a finding"`
	Cell string   `json:"cell,omitempty" maxLength:"40" doc:"Of set, which cell of the row: name, kind, default, purpose, element, shows, when, over, part, property, value, given, look, meant, text, instead; of add, what: prop, part, inside, value, case, state, group, note"`
	Text string   `json:"text,omitempty" maxLength:"20000" doc:"As typed; of move up, down, in or out; of offer text, picture, icon, link, slot or flag; of own the component's name"`
	With []string `json:"with,omitempty" maxItems:"200" doc:"Of wrap, the addresses of further parts that stand beside"`
}

// Done is what an edit did.
type Done struct {
	On    string   `json:"on" doc:"Address of what stands there now"`
	Note  string   `json:"note" doc:"In words"`
	Taken []string `json:"taken" doc:"What went along"`
}

// World is what an edit may refer to beside the contract. The zero value is none of it.
type World struct {
	Tokens     *token.Set
	Themes     map[string][]string                  // contexts by modifier; nil takes any
	Components func(name string) *contract.Contract // nil for none of that name
	Icons      []contract.NamedIcon                 // of the library
	Review     func(*contract.Contract) []check.Finding
}

// icon gives the library's icon of a name; nil for none.
func (w World) icon(name string) *contract.Vector {
	for i := range w.Icons {
		if w.Icons[i].Name == name {
			return &w.Icons[i].Vector
		}
	}
	return nil
}

func (w World) component(name string) *contract.Contract {
	if w.Components == nil {
		return nil
	}
	return w.Components(name)
}

var identifier = regexp.MustCompile(`^[\p{Ll}\p{Lo}][\p{L}\p{Nd}\p{Mn}\p{Mc}]{0,79}$`)

// Apply carries an edit out on a contract. After an error, which says what was expected, the
// contract may be half edited: edit a clone. What it makes is to be held against contract.Check.
func Apply(c *contract.Contract, e Edit, w World) (Done, error) {
	e.Text = strings.TrimSpace(e.Text)
	k := &editor{c: c, w: w, e: e, done: Done{On: e.On, Taken: []string{}}}
	kind, rest, _ := strings.Cut(e.On, "/")
	var err error
	switch k.e.Do {
	case "mend":
		return k.done, k.mend()
	case "fewer":
		n := c.FewerRules()
		k.note("%d needless values and terms left out of the rules", n)
		if k.done.On = "parts/" + c.Root.ID; n == 0 {
			err = fmt.Errorf("no rule says what would not hold anyway: there are no fewer that say the same")
		}
		return k.done, err
	}
	switch kind {
	case "purpose":
		if e.Do != "set" {
			return k.done, k.unknown()
		}
		c.Purpose = e.Text
		k.note("purpose")
	case "name":
		if e.Do != "set" {
			return k.done, k.unknown()
		}
		name := contract.ComponentName(e.Text)
		if e.Text == "" {
			return k.done, fmt.Errorf("expected a name, as in PlotCard")
		}
		k.note("%s renamed to %s", c.Name, name)
		c.Name = name
	case "do":
		err = k.notes(&c.Do, kind, rest)
	case "dont":
		err = k.notes(&c.Dont, kind, rest)
	case "owner":
		if e.Do != "set" {
			return k.done, k.unknown()
		}
		c.Owner = e.Text
		k.note("owner")
	case "deprecated":
		err = k.deprecated()
	case "links":
		err = k.links(rest)
	case "notes":
		err = k.rich(rest)
	case "apart":
		err = k.apart(rest)
	case "states":
		err = k.state(rest)
	case "cases":
		err = k.savedCase(rest)
	case "props":
		err = k.prop(rest)
	case "parts":
		id, property, _ := strings.Cut(rest, "/")
		p := c.Part(id)
		switch {
		case p == nil:
			err = fmt.Errorf("there is no part %q", id)
		case property != "":
			err = k.value(p, -1, property)
		default:
			err = k.part(p)
		}
	case "rules":
		place, property, _ := strings.Cut(rest, "/")
		n, failed := strconv.Atoi(place)
		r := c.RuleAt(n)
		switch {
		case failed != nil || r == nil:
			err = fmt.Errorf("there is no rule %q", place)
		case property != "":
			err = k.value(c.Part(r.Part), n, property)
		default:
			err = k.rule(n, r)
		}
	default:
		err = fmt.Errorf("%q is no place on the sheet", e.On)
	}
	return k.done, err
}

type editor struct {
	c    *contract.Contract
	w    World
	e    Edit
	done Done
}

// mend carries out the fix of a finding.
func (k *editor) mend() error {
	if k.w.Review == nil {
		return k.unknown()
	}
	for _, f := range Findings(k.c, k.w.Review(k.c)) {
		if f.Key != k.e.On {
			continue
		}
		if f.mend == nil {
			return fmt.Errorf("what is found has no mechanical fix: %s", f.Fix)
		}
		f.mend(k.c)
		k.c.Prune()
		k.done.On = f.On
		k.note("mended: %s", f.Message)
		return nil
	}
	return fmt.Errorf("that is no longer found")
}

func (k *editor) note(format string, args ...any) { k.done.Note = fmt.Sprintf(format, args...) }

func (k *editor) took(taken []string, err error) error {
	k.done.Taken = append(k.done.Taken, taken...)
	return err
}

func (k *editor) unknown() error {
	return fmt.Errorf("%s of %s is nothing that can be done here", strings.TrimSpace(k.e.Do+" "+k.e.Cell), k.e.On)
}

// by reads up and down as a number of places.
func (k *editor) by() (int, error) {
	switch k.e.Text {
	case "up":
		return -1, nil
	case "down":
		return 1, nil
	}
	return 0, fmt.Errorf("expected up or down")
}

func (k *editor) prop(id string) error {
	c := k.c
	if k.e.Do == "add" {
		return k.addProp(id)
	}
	p := c.Prop(id)
	if p == nil {
		return fmt.Errorf("there is no prop %q", id)
	}
	name := p.Name
	switch k.e.Do {
	case "set":
		k.note("%s of %s", k.e.Cell, name)
		return k.setProp(id, p)
	case "remove":
		k.note("%s removed", name)
		k.done.On = k.neighbour(id)
		return k.took(c.RemoveProp(id))
	case "duplicate":
		to, err := c.DuplicateProp(id)
		k.done.On = "props/" + to
		k.note("%s duplicated", name)
		return err
	case "move":
		by, err := k.by()
		if err != nil {
			return err
		}
		c.MoveProp(id, by)
		k.note("%s moved %s", name, k.e.Text)
		return nil
	}
	return k.unknown()
}

// neighbour is the address of the row that takes a prop's place.
func (k *editor) neighbour(id string) string {
	var ids []string
	k.c.EachProp(func(at string, _ *contract.Prop) { ids = append(ids, at) })
	i := slices.Index(ids, id)
	for j := i + 1; j < len(ids); j++ {
		if !strings.HasPrefix(ids[j], id+".") {
			return "props/" + ids[j]
		}
	}
	if i > 0 {
		return "props/" + ids[i-1]
	}
	return "props"
}

// addProp reads "size choice s m l": a name, and a kind; a text without one.
func (k *editor) addProp(after string) error {
	name, kind, _ := strings.Cut(k.e.Text, " ")
	if err := k.checkName(name, after); err != nil {
		return err
	}
	if kind = strings.TrimSpace(kind); kind == "" {
		kind = string(contract.TextKind)
	}
	t, part, err := readKind(k.c, &contract.Prop{Name: name}, kind, k.w.icon)
	if err != nil {
		return err
	}
	id := k.c.AddProp(name, t, after)
	k.c.Prop(id).Part = part
	k.done.On = "props/" + id
	k.note("%s added", name)
	return nil
}

// checkName tells why a prop may not be named so beside the one of an id.
func (k *editor) checkName(name, beside string) error {
	if !identifier.MatchString(name) {
		return fmt.Errorf("expected a name in camelCase, letters and digits, as in size or iconSide")
	}
	if contract.IsReserved(name) && name != "children" {
		return fmt.Errorf("%s is kept by React or JavaScript for itself; call it %sProp or otherwise", name, name)
	}
	list, _, nested := strings.Cut(beside, ".")
	var err error
	k.c.EachProp(func(id string, p *contract.Prop) {
		in, _, inner := strings.Cut(id, ".")
		if id != beside && strings.EqualFold(p.Name, name) && inner == nested && (!nested || in == list) {
			err = fmt.Errorf("another prop is named %s", p.Name)
		}
	})
	return err
}

func (k *editor) setProp(id string, p *contract.Prop) error {
	switch k.e.Cell {
	case "name":
		if err := k.checkName(k.e.Text, id); err != nil {
			return err
		}
		k.note("%s renamed to %s", p.Name, k.e.Text)
		p.Name = k.e.Text
		return nil
	case "kind":
		t, part, err := readKind(k.c, p, k.e.Text, k.w.icon)
		if err != nil {
			return err
		}
		if part != "" {
			p.Part = part
		}
		name := p.Name
		if err := k.took(k.c.RetypeProp(id, t)); err != nil {
			return err
		}
		if k.c.Prop(id) == nil {
			return fmt.Errorf("%s would go with the part that it shows", name)
		}
		return nil
	case "default":
		return readDefault(p, k.e.Text)
	case "purpose":
		p.Purpose = k.e.Text
		return nil
	}
	return k.unknown()
}

func (k *editor) part(p *contract.Part) error {
	c, name := k.c, p.Name
	switch k.e.Do {
	case "set":
		k.note("%s of %s", k.e.Cell, name)
		return k.setPart(p)
	case "add":
		return k.add(p)
	case "remove":
		k.note("%s removed", name)
		if parent, at := c.Parent(p.ID); parent != nil {
			if k.done.On = "parts/" + parent.ID; at+1 < len(parent.Children) {
				k.done.On = "parts/" + parent.Children[at+1].ID
			} else if at > 0 {
				k.done.On = "parts/" + parent.Children[at-1].ID
			}
		}
		return k.took(c.RemovePart(p.ID))
	case "duplicate":
		to, err := c.DuplicatePart(p.ID)
		k.done.On = "parts/" + to
		k.note("%s duplicated", name)
		return err
	case "move":
		k.note("%s moved %s", name, k.e.Text)
		return c.MovePart(p.ID, contract.Way(k.e.Text))
	case "wrap":
		ids := []string{p.ID}
		for _, on := range k.e.With {
			if id := strings.TrimPrefix(on, "parts/"); id != p.ID {
				ids = append(ids, id)
			}
		}
		to, err := c.WrapParts(ids)
		k.done.On = "parts/" + to
		k.note("a container put around %s", name)
		return err
	case "unwrap":
		if len(p.Children) > 0 {
			k.done.On = "parts/" + p.Children[0].ID
		}
		k.note("the container %s taken away", name)
		return k.took(c.UnwrapPart(p.ID))
	case "inline":
		k.note("the parts of %s in its place", name)
		return c.Inline(p.ID)
	case "offer":
		prop, err := c.Offer(p.ID, k.e.Text)
		if err != nil {
			return err
		}
		k.done.On = "props/" + prop
		k.note("%s made a prop of %s", c.Prop(prop).Name, name)
		return nil
	}
	return k.unknown()
}

func (k *editor) setPart(p *contract.Part) error {
	c := k.c
	switch k.e.Cell {
	case "name":
		if !identifier.MatchString(k.e.Text) {
			return fmt.Errorf("expected a name in camelCase, letters and digits, as in label or cardFoot")
		}
		k.note("%s renamed to %s", p.Name, k.e.Text)
		return c.RenamePart(p.ID, k.e.Text)
	case "element":
		return readElement(c, p, k.e.Text, k.w.component)
	case "shows":
		return readShows(c, p, k.e.Text, k.w.icon)
	case "when":
		when, err := c.ParseWords(k.e.Text, k.w.Themes)
		if err != nil {
			return err
		}
		p.ShownWhen = when
		return nil
	case "over":
		if k.e.Text == "" {
			p.Repeat = ""
			return nil
		}
		id, err := propNamed(c, k.e.Text)
		if err != nil {
			return err
		}
		p.Repeat = id
		return nil
	}
	return k.unknown()
}

// add puts a part behind or inside of one, or says a value of it.
func (k *editor) add(p *contract.Part) error {
	if k.e.Cell == "value" {
		return k.say(p, -1)
	}
	if k.e.Cell != "part" && k.e.Cell != "inside" {
		return k.unknown()
	}
	name, element, _ := strings.Cut(k.e.Text, " ")
	if !identifier.MatchString(name) {
		return fmt.Errorf("expected a name and an element, as in label span")
	}
	if other := partNamed(k.c, name); other != nil {
		return fmt.Errorf("another part is named %s", name)
	}
	parent, at := k.c.Parent(p.ID)
	if k.e.Cell == "inside" || parent == nil {
		parent, at = p, len(p.Children)-1
	}
	made, err := k.c.AddPart(parent.ID, name, "span", at+1)
	if err != nil {
		return err
	}
	k.done.On = "parts/" + made.ID
	k.note("%s added", name)
	if element = strings.TrimSpace(element); element == "" {
		return nil
	}
	// An svg is nothing without what it shows: mark svg leaf, mark svg {icon}.
	if words := split(element); words[0] == "svg" && len(words) == 2 && !strings.Contains(words[1], "=") {
		made.Element = "svg"
		return readShows(k.c, made, words[1], k.w.icon)
	}
	return readElement(k.c, made, element, k.w.component)
}
