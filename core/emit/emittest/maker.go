package emittest

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"

	"cobrik/core/contract"
)

// awkward are names that drawings have and code has trouble with: everyday words that
// JavaScript, CSS, React or HTML keep, digits in front, other scripts, and what is meant to break out.
var awkward = strings.Split(`Delete|Import|For|Rest|Classes|Styles|Class|Default|New|Return|Switch|Const|In|Is|Let|Static|Await|Yield|Enum|Export|Function|This|Null|True|False|Void|Typeof|Var|With|While|Package|`+
	`Interface|Private|Public|Protected|Implements|Arguments|Eval|Undefined|NaN|Infinity|Constructor|To string|Value of|Has own property|Prototype|Proto|__proto__|Children|Key|Ref|Style|Class name|className|`+
	`dangerouslySetInnerHTML|Title|Disabled|Hidden|Value|Type|Name|Id|Role|Form|Color|Content|Slot|Lang|Dir|On click|onClick|On change|onKeyDown|aria-label|data-x|Tab index|Auto focus|Inert|Required|Checked|Open|`+
	`Props|CropTag|Boolean|Object|Array|String|Record|Omit|Partial|ComponentPropsWithRef|React|Styles Value|toneClass|Tone class|Classes List|Container|Root|root|Size|size|SIZE|2xl|3d|1|007|1.5 rem|50%|-1|+|*|`+
	`Größe|größe|GRÖSSE|Überschrift|Straße|Élan|Ñandú|サイズ|サイズ大|色|トーン|крупный|μέγεθος|גודל|ขนาด|साइज़|İstanbul|ﬁne|x²|½|①|🌱|🌱 seed|👩‍🌾|`+
	`*/ alert(1); /*|</style><script>|{"a":1}|${x}|\u0000|a b/c#2|a/b|a.b|a:b|a;b|a"b|a'b|a\b|<b>|&amp;|.module|..|../../etc|con|nul|  spaced  |`+
	strings.Repeat("Very long name ", 30)+`|`+strings.Repeat("名", 200)+`|Group 14|Frame 2|Rectangle|Ellipse 3 copy|A|B|i|I|_|-|$|$$|@|#`, "|")

// Name gives an awkward name.
func Name(r *rand.Rand) string {
	name := []rune(awkward[r.IntN(len(awkward))])
	if r.IntN(8) == 0 {
		name = append(append(name, ' '), []rune(awkward[r.IntN(len(awkward))])...)
	}
	return string(name[:min(len(name), 200)]) // as long as a design document lets it be
}

// Maker makes a random contract of props of every kind, and of parts that use them.
type Maker struct {
	r     *rand.Rand
	c     *contract.Contract
	names map[string]bool
	lists []string
	parts int
	pool  []*contract.Contract // that parts may be uses of
	later []func()             // once the tree is whole

	placed map[string]bool // slots that stand somewhere
}

func (m *Maker) chance(of int) bool { return m.r.IntN(of) == 0 }

// name gives an awkward name nobody has, as drafting makes it.
func (m *Maker) name() string {
	for {
		name := contract.Identifier(Name(m.r), "thing")
		if !contract.IsReserved(name) && !m.names[strings.ToLower(name)] {
			m.names[strings.ToLower(name)] = true
			return name
		}
	}
}

var square = contract.Vector{ViewBox: [4]float64{0, 0, 8, 8}, Paths: []contract.Path{{D: "M0 0H8V8Z"}}}

func number(f float64) *float64 { return &f }

// typeOf makes a type of a kind.
func (m *Maker) typeOf(kind contract.Kind) contract.Type {
	options := func() (out []string) {
		for range 2 + m.r.IntN(3) {
			if o := contract.OptionOf(Name(m.r)); !slices.Contains(out, o) {
				out = append(out, o)
			}
		}
		return out
	}
	switch kind {
	case contract.TextKind:
		return contract.Text{Initial: Name(m.r)}
	case contract.RichKind:
		samples := contract.Rich{Line: true}.Samples()
		initial, _ := samples[m.r.IntN(3)].(contract.RichValue)
		if m.chance(3) {
			return contract.Rich{Initial: contract.Rich{}.Samples()[3].(contract.RichValue)}
		}
		return contract.Rich{Initial: initial, Line: true}
	case contract.FlagKind:
		return contract.Flag{Initial: m.chance(2)}
	case contract.ChoiceKind:
		o := options()
		return contract.Choice{Options: o, Initial: o[0]}
	case contract.NumberKind:
		n := contract.Number{Least: number(-2), Most: number(9)}
		if m.chance(2) {
			n.Initial = number(float64(m.r.IntN(5)))
		}
		return n
	case contract.ImageKind:
		return contract.Image{}
	case contract.LinkKind:
		return contract.Link{Initial: []string{"", "/plots?a=1&b=\"2\"", "https://example.org/#x"}[m.r.IntN(3)]}
	case contract.IconKind:
		var icon contract.Icon
		for _, o := range options() {
			icon.Options = append(icon.Options, contract.NamedIcon{Name: o, Vector: square})
		}
		if m.chance(2) {
			icon.Initial = icon.Options[0].Name
		}
		return icon
	case contract.SlotKind:
		return contract.Slot{}
	case contract.ListKind:
		return contract.List{}
	}
	return contract.Event{On: contract.Events[m.r.IntN(len(contract.Events))]}
}

func (m *Maker) props() {
	for i := range 3 + m.r.IntN(9) {
		kind := contract.PropKinds[m.r.IntN(len(contract.PropKinds))]
		if kind == contract.EventKind { // told by a part, later
			continue
		}
		p := contract.Prop{ID: fmt.Sprintf("p%d", i), Name: m.name(), Type: m.typeOf(kind)}
		p.Required = m.chance(4) && kind != contract.FlagKind && kind != contract.ListKind
		if m.chance(5) {
			p.Deprecated = "use another */ one"
		}
		if kind == contract.SlotKind && m.chance(3) && !m.names["children"] {
			p.Name, m.names["children"] = "children", true
		}
		if kind == contract.ListKind {
			items, names := []contract.Prop{}, m.names
			m.names = map[string]bool{}
			for k, kind := range []contract.Kind{contract.TextKind, contract.FlagKind, contract.ChoiceKind, contract.NumberKind, contract.LinkKind, contract.IconKind, contract.ImageKind} {
				if m.chance(2) || k == 0 {
					items = append(items, contract.Prop{ID: fmt.Sprintf("i%d", k), Name: m.name(), Type: m.typeOf(kind), Required: m.chance(3)})
				}
			}
			if m.chance(4) && !m.names["id"] {
				items = append(items, contract.Prop{ID: "id", Name: "id", Type: contract.Text{}, Required: true})
			}
			m.names = names
			p.Type = contract.List{Items: items}
			m.lists = append(m.lists, p.ID)
		}
		m.c.Props = append(m.c.Props, p)
	}
}

// inScope lists the keys of the props of some kinds that a part may use.
func (m *Maker) inScope(list string, kinds ...contract.Kind) (out []string) {
	m.c.EachProp(func(id string, p *contract.Prop) {
		of, _, item := strings.Cut(id, ".")
		if slices.Contains(kinds, p.Kind()) && (!item || of == list) {
			out = append(out, id)
		}
	})
	return out
}

func (m *Maker) one(of []string) string { return of[m.r.IntN(len(of))] }

// part makes a part that shows something, for an item where a list is given.
func (m *Maker) part(list string, depth int) *contract.Part {
	m.parts++
	p := &contract.Part{ID: fmt.Sprintf("part%d", m.parts), Name: fmt.Sprintf("part%d", m.parts), Element: "span"}
	if len(m.pool) > 0 && m.chance(6) {
		m.use(p, list, depth)
		return p
	}
	if m.chance(2) {
		p.Style = contract.Style{"opacity": "0.5"}
	}
	if m.chance(16) { // a few of them the same
		p.Element, p.Content = "img", contract.Picture{Alt: Name(m.r), Width: 8, Height: 4, Source: fmt.Sprintf("data:image/svg+xml,%%3Csvg%%20xmlns='http://www.w3.org/2000/svg'%%20id='%d'/%%3E", m.r.IntN(9))}
		return p
	}
	if w := m.condition(list, false); m.chance(3) {
		p.ShownWhen = w
	}
	type filler struct {
		kinds []contract.Kind
		fill  func(prop string)
	}
	fillers := []filler{
		{[]contract.Kind{contract.TextKind, contract.NumberKind}, func(prop string) { p.Content = contract.TextOf{Prop: prop} }},
		{[]contract.Kind{contract.RichKind}, func(prop string) { p.Element, p.Content = "div", contract.TextOf{Prop: prop} }},
		{[]contract.Kind{contract.ImageKind}, func(prop string) {
			p.Element, p.Content = "img", contract.ImageOf{Prop: prop}
			if m.chance(2) {
				p.Children = []*contract.Part{m.words("No picture")}
			}
		}},
		{[]contract.Kind{contract.IconKind}, func(prop string) { p.Element, p.Content = "svg", contract.IconOf{Prop: prop} }},
		{[]contract.Kind{contract.SlotKind}, func(prop string) {
			if m.placed[prop] { // a slot stands in one place
				p.Content = contract.FixedText{Text: "again"}
				return
			}
			m.placed[prop] = true
			p.Element, p.Content = "div", contract.SlotOf{Prop: prop}
			for range m.r.IntN(3) {
				if m.chance(2) {
					p.Children = append(p.Children, m.words("Nothing here"))
				} else {
					p.Children = append(p.Children, m.part(list, 3))
				}
			}
		}},
		{[]contract.Kind{contract.LinkKind}, func(prop string) {
			p.Element, p.Attributes = "a", map[string]contract.Attribute{"href": {Prop: prop}}
			p.Content = contract.FixedText{Text: Name(m.r)}
		}},
		{[]contract.Kind{contract.FlagKind}, func(prop string) {
			p.Element, p.Attributes = "button", map[string]contract.Attribute{"disabled": {Prop: prop}, "aria-label": {Text: Name(m.r) + "."}, "tabindex": {Text: "0"}}
		}},
	}
	for range 4 {
		f := fillers[m.r.IntN(len(fillers))]
		if props := m.inScope(list, f.kinds...); len(props) > 0 {
			f.fill(m.one(props))
			return p
		}
	}
	p.Element = "div"
	if depth < 3 {
		for range m.r.IntN(4) {
			p.Children = append(p.Children, m.part(list, depth+1))
		}
	}
	return p
}

func (m *Maker) words(text string) *contract.Part {
	m.parts++
	id := fmt.Sprintf("part%d", m.parts)
	return &contract.Part{ID: id, Name: id, Element: "span", Content: contract.FixedText{Text: text}}
}

// condition asks of one or two props, and, for rules, of other things.
func (m *Maker) condition(list string, rule bool) contract.When {
	var w contract.When
	for range 1 + m.r.IntN(2) {
		var terms []contract.Term
		for _, id := range m.inScope(list, contract.PropKinds...) {
			switch t := m.c.Prop(id).Type.(type) {
			case contract.Flag:
				terms = append(terms, contract.PropIs{Prop: id, Value: contract.FlagValue(m.chance(2))})
			case contract.Choice:
				terms = append(terms, contract.PropIs{Prop: id, Value: contract.OptionValue(m.one(t.Options))})
			case contract.Number:
				terms = append(terms, contract.NumberIs{Prop: id, Low: contract.Bound{At: float64(m.r.IntN(3)), Kind: contract.Exclusive}})
				terms = append(terms, contract.NumberIs{Prop: id, Low: contract.Bound{At: 0.5, Kind: contract.Inclusive}, High: contract.Bound{At: 3, Kind: contract.Exclusive}})
			case contract.Text, contract.Image, contract.Link, contract.Icon, contract.List, contract.Rich:
				terms = append(terms, contract.PropSet{Prop: id, Set: m.chance(2)})
			}
		}
		if rule {
			terms = append(terms, contract.InState{State: m.one(contract.States)}, contract.Direction{Is: "rtl"})
		}
		if len(terms) > 0 {
			w = w.With(terms[m.r.IntN(len(terms))])
		}
	}
	return w
}

// NewMaker makes the maker of a contract that may use those of a pool.
func NewMaker(seed uint64, name string, pool []*contract.Contract) *Maker {
	m := &Maker{placed: map[string]bool{}, pool: pool, r: rand.New(rand.NewPCG(seed, 11)), names: map[string]bool{}}
	m.c = &contract.Contract{Format: contract.Format, Name: name, Purpose: "Random.", Root: &contract.Part{ID: "root", Name: "root", Element: []string{"div", "section", "article"}[m.r.IntN(3)]}}
	return m
}

// Contract makes it.
func (m *Maker) Contract() *contract.Contract {
	m.props()
	if m.chance(4) && !m.names["as"] {
		for _, element := range []string{"header", "ul", "p", "nav"} {
			if m.chance(2) {
				m.c.Root.As = append(m.c.Root.As, element)
			}
		}
	}
	m.c.Root.Children = []*contract.Part{m.part("", 0), m.part("", 0), m.part("", 0)}
	for _, list := range m.lists {
		item := m.part(list, 0)
		if _, icon := item.Content.(contract.IconOf); icon {
			item = &contract.Part{ID: item.ID + "around", Name: item.Name + "around", Element: "span", Children: []*contract.Part{item}}
		}
		item.Repeat = list
		if _, image := item.Content.(contract.ImageOf); !image && m.chance(2) && item.Content == nil && item.Attributes == nil {
			item.Element = "li"
			item.Children = append(item.Children, m.part(list, 2), m.part(list, 2))
		}
		m.parts++
		id := fmt.Sprintf("part%d", m.parts)
		m.c.Root.Children = append(m.c.Root.Children, &contract.Part{ID: id, Name: id, Element: "ul", Children: []*contract.Part{item}})
	}
	var parts []*contract.Part
	m.c.Walk(func(p, _ *contract.Part) { parts = append(parts, p) })
	for i := range m.r.IntN(3) { // an event, and a part that names another
		teller := parts[m.r.IntN(len(parts))]
		inList := func(part *contract.Part) bool {
			return slices.ContainsFunc(parts, func(p *contract.Part) bool { return p.Repeat != "" && (p == part || holds(p, part)) })
		}
		if !inList(teller) && teller.Element != "svg" && teller.Element != "" {
			event := m.typeOf(contract.EventKind)
			if slices.ContainsFunc(m.c.Props, func(p contract.Prop) bool { return p.Part == teller.ID && p.Type == event }) {
				continue // it tells of that already
			}
			m.c.Props = append(m.c.Props, contract.Prop{ID: fmt.Sprintf("e%d", i), Name: "on" + contract.Capitalized(m.name()), Type: event, Part: teller.ID})
			if named := parts[m.r.IntN(len(parts))]; named.Element == "span" && teller.Element != "svg" && !inList(named) {
				if teller.Attributes == nil {
					teller.Attributes = map[string]contract.Attribute{}
				}
				teller.Attributes["aria-describedby"] = contract.Attribute{Part: named.ID}
			}
		}
	}
	Linked(m.c, m.pool)
	for _, do := range m.later {
		do()
	}
	if m.chance(3) {
		m.apart()
	}
	for range m.r.IntN(6) {
		p := parts[m.r.IntN(len(parts))]
		list := ""
		for _, around := range parts {
			if around.Repeat != "" && (around == p || holds(around, p)) {
				list = around.Repeat
			}
		}
		if w := m.condition(list, true); !w.Always() {
			m.c.Rules = append(m.c.Rules, contract.Rule{Part: p.ID, When: w, Set: contract.Style{"opacity": fmt.Sprintf("0.%d", 1+m.r.IntN(8))}})
		}
	}
	return m.c
}

func holds(p, other *contract.Part) bool {
	return slices.ContainsFunc(p.Children, func(c *contract.Part) bool { return c == other || holds(c, other) })
}

// use makes a part a use of a component of the pool: given constants, values by cases, props of
// its own passed on, and parts for slots.
func (m *Maker) use(p *contract.Part, list string, depth int) {
	of := m.pool[m.r.IntN(len(m.pool))]
	u := &contract.Use{Component: of.Name, Given: map[string]contract.Given{}, All: m.chance(6)}
	p.Element, p.Content = "", u
	if m.chance(2) {
		p.Style = contract.Style{"opacity": "0.25"}
	}
	if w := m.condition(list, false); m.chance(3) {
		p.ShownWhen = w
	}
	constant := func(q contract.Prop) json.RawMessage {
		samples := slices.DeleteFunc(q.Samples(), func(v contract.Value) bool { return v == nil })
		text, err := json.Marshal(samples[m.r.IntN(len(samples))])
		if err != nil {
			panic(err)
		}
		return text
	}
	for _, q := range of.Props {
		taken := func() bool {
			return slices.ContainsFunc(of.ApartFrom(q.ID), func(other string) bool { _, given := u.Given[other]; return given })
		}
		if taken() {
			continue
		}
		passOn := func() {
			if _, given := u.Given[q.ID]; !given && !taken() {
				m.c.PassOn(p, q.ID, q.Name)
			}
		}
		switch way := m.r.IntN(4); {
		case way == 0:
			m.later = append(m.later, passOn)
		case q.Kind() == contract.SlotKind && way == 1 && depth < 3:
			child := m.part(list, depth+1)
			p.Children = append(p.Children, child)
			u.Given[q.ID] = contract.Given{Parts: []string{child.ID}}
		case q.Type.Control() == "none":
			if q.Required {
				m.later = append(m.later, passOn)
			}
		case q.Required || way == 2:
			g := contract.Given{Value: constant(q)}
			for range m.r.IntN(3) {
				if w := m.condition(list, false); !w.Always() {
					g.Cases = append(g.Cases, contract.GivenCase{When: w, Value: constant(q)})
				}
			}
			u.Given[q.ID] = g
		}
	}
}

// Linked ties uses to the pool.
func Linked(c *contract.Contract, pool []*contract.Contract) (changed bool, cycle []string) {
	return contract.NewLinker(func(name string) *contract.Contract {
		for _, p := range pool {
			if p.Name == name {
				return p
			}
		}
		return nil
	}).Link(c)
}

// Values gives some of the props a sample.
func (m *Maker) Values() contract.Values {
	out := contract.Values{}
	for _, p := range m.c.Props {
		samples := slices.DeleteFunc(p.Samples(), func(v contract.Value) bool { return v == nil })
		if len(samples) > 0 && (p.Required || m.chance(2)) {
			out[p.ID] = samples[m.r.IntN(len(samples))]
		}
	}
	for _, group := range m.c.Apart {
		for i, id := range group {
			if m.r.IntN(len(group)) != i {
				delete(out, id)
				continue
			}
			for _, other := range group[i+1:] {
				delete(out, other)
			}
			break
		}
	}
	return out
}

// apart keeps some props apart that may be left out.
func (m *Maker) apart() {
	var free []string
	for _, p := range m.c.Props {
		if d := p.Default(); !p.Required && (d == nil || d == contract.FlagValue(false)) && p.Name != "children" {
			free = append(free, p.ID)
		}
	}
	for len(free) > 2 && m.chance(2) {
		n := 2 + m.r.IntN(2)
		m.c.Apart, free = append(m.c.Apart, free[:n:n]), free[n:]
		if len(free) < 3 {
			break
		}
	}
}
