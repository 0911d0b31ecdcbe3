package react_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"

	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/emit/compile"
	"cobrik/core/emit/emittest"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/react"
	"cobrik/core/problem"
	"cobrik/core/token"
	"cobrik/core/token/output"
)

// maker makes random contracts of props of every kind, and of parts that use them.
type maker struct {
	r     *rand.Rand
	c     *contract.Contract
	names map[string]bool
	lists []string
	parts int
	pool  []*contract.Contract // that parts may be uses of
	later []func()             // once the tree is whole

	placed map[string]bool // slots that stand somewhere
}

func (m *maker) chance(of int) bool { return m.r.IntN(of) == 0 }

// name gives an awkward name nobody has, as drafting makes it.
func (m *maker) name() string {
	for {
		name := contract.Identifier(pick(m.r), "thing")
		if !contract.IsReserved(name) && !m.names[strings.ToLower(name)] {
			m.names[strings.ToLower(name)] = true
			return name
		}
	}
}

var square = contract.Vector{ViewBox: [4]float64{0, 0, 8, 8}, Paths: []contract.Path{{D: "M0 0H8V8Z"}}}

func number(f float64) *float64 { return &f }

// typeOf makes a type of a kind.
func (m *maker) typeOf(kind contract.Kind) contract.Type {
	options := func() (out []string) {
		for range 2 + m.r.IntN(3) {
			if o := contract.OptionOf(pick(m.r)); !slices.Contains(out, o) {
				out = append(out, o)
			}
		}
		return out
	}
	switch kind {
	case contract.TextKind:
		return contract.Text{Initial: pick(m.r)}
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

func (m *maker) props() {
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
func (m *maker) inScope(list string, kinds ...contract.Kind) (out []string) {
	m.c.EachProp(func(id string, p *contract.Prop) {
		of, _, item := strings.Cut(id, ".")
		if slices.Contains(kinds, p.Kind()) && (!item || of == list) {
			out = append(out, id)
		}
	})
	return out
}

func (m *maker) one(of []string) string { return of[m.r.IntN(len(of))] }

// part makes a part that shows something, for an item where a list is given.
func (m *maker) part(list string, depth int) *contract.Part {
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
		p.Element, p.Content = "img", contract.Picture{Alt: pick(m.r), Width: 8, Height: 4, Source: fmt.Sprintf("data:image/svg+xml,%%3Csvg%%20xmlns='http://www.w3.org/2000/svg'%%20id='%d'/%%3E", m.r.IntN(9))}
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
			p.Content = contract.FixedText{Text: pick(m.r)}
		}},
		{[]contract.Kind{contract.FlagKind}, func(prop string) {
			p.Element, p.Attributes = "button", map[string]contract.Attribute{"disabled": {Prop: prop}, "aria-label": {Text: pick(m.r) + "."}, "tabindex": {Text: "0"}}
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

func (m *maker) words(text string) *contract.Part {
	m.parts++
	id := fmt.Sprintf("part%d", m.parts)
	return &contract.Part{ID: id, Name: id, Element: "span", Content: contract.FixedText{Text: text}}
}

// condition asks of one or two props, and, for rules, of other things.
func (m *maker) condition(list string, rule bool) contract.When {
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

func (m *maker) contract() *contract.Contract {
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
	linked(m.c, m.pool)
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
func (m *maker) use(p *contract.Part, list string, depth int) {
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

// linked ties uses to the pool.
func linked(c *contract.Contract, pool []*contract.Contract) (changed bool, cycle []string) {
	return contract.NewLinker(func(name string) *contract.Contract {
		for _, p := range pool {
			if p.Name == name {
				return p
			}
		}
		return nil
	}).Link(c)
}

// values gives some of the props a sample.
func (m *maker) values() contract.Values {
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
func (m *maker) apart() {
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

// Contracts of every kind of prop, whatever they are called, become code that is valid, strict
// and laid out as prettier leaves it, and React renders from it what the contract says.
func TestEveryKindBecomesCode(t *testing.T) {
	tokens := output.PropertiesOf(token.Empty())
	var files []emit.File
	var script strings.Builder
	dir := t.TempDir()
	script.WriteString(`const React = require("react");
const { renderToStaticMarkup } = require("react-dom/server");
globalThis.cobrikModules = { react: React, "react/jsx-runtime": require("react/jsx-runtime") };
const h = React.createElement;
const run = (r) => [["code", "code"], ["emphasis", "em"], ["strong", "strong"]].reduce((n, [is, tag]) => (r[is] ? h(tag, null, n) : n), r.text);
const runs = (list) => list.map((r, i) => h(React.Fragment, { key: i }, r.link ? h("a", { href: r.link }, run(r)) : run(r)));
const rich = (blocks) => {
  if (!blocks[0].kind) return runs(blocks[0].runs);
  const out = [];
  blocks.forEach((b, i) => {
    if (b.kind !== "item") return out.push(h(b.kind === "heading" ? "h" + b.level : "p", { key: i }, runs(b.runs)));
    if (blocks[i - 1]?.kind === "item") return;
    const end = blocks.findIndex((o, k) => k > i && o.kind !== "item");
    out.push(h("ul", { key: i }, blocks.slice(i, end < 0 ? undefined : end).map((o, k) => h("li", { key: k }, runs(o.runs)))));
  });
  return out;
};
const given = (props) => Object.fromEntries(Object.entries(props).map(([k, v]) => [k, v?.rich ? rich(v.rich) : v]));
const warned = [];
console.error = (...args) => warned.push(args.map(String).join(" "));
`)
	var want []string
	kinds, dead, nested := map[contract.Kind]int{}, 0, 0
	var pool, all []*contract.Contract
	for seed := range 200 {
		m := &maker{placed: map[string]bool{}, pool: pool, r: rand.New(rand.NewPCG(uint64(seed), 11)), names: map[string]bool{}}
		m.c = &contract.Contract{Format: contract.Format, Name: fmt.Sprintf("Some%d", seed), Purpose: "Random.", Root: &contract.Part{ID: "root", Name: "root", Element: []string{"div", "section", "article"}[m.r.IntN(3)]}}
		c := m.contract()
		found := c.Check(token.Empty())
		if len(found) > 0 && !slices.ContainsFunc(found, func(p problem.Problem) bool { return p.Rule != "part-dead" && p.Rule != "use-dead" }) {
			dead++
			continue
		}
		require.Empty(t, found, "seed %d: %s", seed, c.JSON())
		again, found := contract.Read("c", c.JSON(), nil)
		require.NotNil(t, again, "seed %d: reading refuses what was written: %s\n%s", seed, found, c.JSON())
		require.Equal(t, string(c.JSON()), string(again.JSON()), "seed %d", seed)
		changed, cycle := linked(again, all)
		require.False(t, changed, "seed %d: linking again changes it", seed)
		require.Empty(t, cycle)
		for _, p := range c.Props {
			kinds[p.Kind()]++
		}
		if len(again.UsedParts()) > 0 {
			nested++
		}
		all = append(all, again)
		if seed%4 == 0 {
			pool = append(pool[max(0, len(pool)-5):len(pool):len(pool)], again)
		}
		one := react.Emit(again, tokens, react.Options{})
		bundle, found := compile.React(one)
		require.Empty(t, found, "seed %d: %s", seed, one[0].Content)
		for _, file := range one {
			files = append(files, emit.File{Path: fmt.Sprintf("c%d/%s", seed, file.Path), Content: file.Content})
		}
		require.NoError(t, os.WriteFile(filepath.Join(dir, fmt.Sprintf("c%d.js", seed)), []byte(bundle.JS), 0o644))
		fmt.Fprintf(&script, "require(\"./c%d.js\");\n", seed)
		for range 5 {
			values := m.values()
			literal, err := json.Marshal(again.Given(values))
			require.NoError(t, err)
			fmt.Fprintf(&script, "console.log(JSON.stringify(renderToStaticMarkup(h(cobrikComponent[%q], given(%s)))));\n", again.Name, literal)
			m := ir.Lower(again)
			want = append(want, emittest.Markup(m, values))
			checkPaths(t, m.Paths(values), want[len(want)-1], contract.Resolve(again, contract.EnvOf(values), token.Empty()))
		}
	}
	assert.Less(t, dead, 60, "most contracts hold a part that is never there")
	assert.Greater(t, nested, 60, "hardly any component uses another")
	for _, kind := range contract.PropKinds {
		assert.Greater(t, kinds[kind], 30, "hardly any %s was tried", kind)
	}

	assertLaidOut(t, files)
	script.WriteString("if (warned.length) { process.stderr.write(warned.slice(0, 5).join(\"\\n\")); process.exit(1); }\n")
	lines := rendered(t, dir, script.String())
	require.Len(t, lines, len(want))
	for i, line := range lines {
		var got string
		require.NoError(t, json.Unmarshal([]byte(line), &got))
		require.Equal(t, bare(want[i]), bare(got), "case %d", i)
	}
}

// checkPaths looks whether each part that is shown stands where the paths say, as an HTML parser
// reads the markup, and no other.
func checkPaths(t *testing.T, paths map[string][]int, markup string, resolved *contract.Resolved) {
	t.Helper()
	nodes, err := html.ParseFragment(strings.NewReader(markup), &html.Node{Type: html.ElementNode, Data: "body", DataAtom: atom.Body})
	require.NoError(t, err)
	shown := 0
	var inside func(r *contract.Resolved)
	inside = func(r *contract.Resolved) {
		if r.Inside != nil {
			r.Inside.Walk(inside)
		}
		if !r.Shown {
			return
		}
		shown++
		path, ok := paths[r.Key()]
		if !assert.True(t, ok, "%s is shown, and nowhere: %s", r.Key(), markup) {
			return
		}
		at := nodes[0]
		for _, step := range path {
			for c := range at.ChildNodes() {
				if c.Type == html.ElementNode {
					if step == 0 {
						at = c
						break
					}
					step--
				}
			}
		}
		id := ""
		for _, a := range at.Attr {
			if a.Key == "data-part" && r.Part.Use() == nil || a.Key == "data-use" && r.Part.Use() != nil {
				id = a.Val
			}
		}
		assert.Equal(t, r.Part.ID, id, "%s at %v of %s", r.Key(), path, markup)
	}
	resolved.Walk(inside)
	assert.Len(t, paths, shown, "parts that are not shown have a place: %s", markup)
}

// bare is plain without the ids that React makes up.
func bare(markup string) string {
	markup = pictureData.ReplaceAllString(markup, "") // as bundlers write it
	markup = ids.ReplaceAllString(plain(markup), "")
	return strings.NewReplacer(`<hr/>`, `<hr>`, `/>`, `>`).Replace(markup)
}

var ids = regexp.MustCompile(` (id|aria-describedby)="[^"]*"`)

var pictureData = regexp.MustCompile(`data:image/svg\+xml[^"]*`)
