package source_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/emit/emittest"
	"cobrik/core/emit/react"
	"cobrik/core/source"
	"cobrik/core/token"
	"cobrik/core/token/output"
)

// written reads what is emitted of a contract, held to another one.
func written(t *testing.T, c, known *contract.Contract, all []*contract.Contract) *source.Reading {
	t.Helper()
	properties := output.PropertiesOf(token.Empty())
	r := opened(react.Emit(c, properties, react.Options{})).Read(c.Name+".tsx", c.Name, options(properties, token.Empty(), all))
	require.NotNil(t, r)
	r.Align(known)
	return r
}

// edited changes a contract in ways that a developer can change code.
func edited(r *rand.Rand, c *contract.Contract, n int) {
	var parts []*contract.Part
	c.Walk(func(p, _ *contract.Part) {
		if p.Use() == nil && p.Element != "svg" {
			parts = append(parts, p)
		}
	})
	p := parts[r.IntN(len(parts))]
	name := fmt.Sprintf("made%d", n)
	switch r.IntN(11) {
	case 0:
		if p.Style == nil {
			p.Style = contract.Style{}
		}
		p.Style[[]string{"opacity", "padding-inline", "background-color"}[r.IntN(3)]] = []string{"0.25", "3px", "#123456"}[r.IntN(3)]
		for property, value := range p.Style {
			if contract.CheckValue(property, value, nil) != nil {
				delete(p.Style, property)
			}
		}
	case 1:
		c.Props = append(c.Props, contract.Prop{ID: name, Name: name, Type: contract.Flag{}})
		c.Rules = append(c.Rules, contract.Rule{Part: p.ID, When: contract.Of(contract.PropIs{Prop: name, Value: contract.FlagValue(true)}), Set: contract.Style{"opacity": "0.75"}})
	case 2:
		c.Props = append(c.Props, contract.Prop{ID: name, Name: name, Type: contract.Text{Initial: "made"}})
		at := c.Root
		at.Children = slices.Insert(at.Children, r.IntN(len(at.Children)+1), &contract.Part{ID: name + "Part", Name: name + "Part", Element: []string{"strong", "span"}[r.IntN(2)], Content: contract.TextOf{Prop: name}})
	case 3:
		if len(c.Rules) > 0 {
			c.Rules = slices.Delete(c.Rules, 0, 1)
		}
	case 4:
		for i := range c.Props {
			if choice, ok := c.Props[i].Type.(contract.Choice); ok {
				choice.Options = append(slices.Clone(choice.Options), name)
				c.Props[i].Type = choice
				return
			}
		}
	case 5:
		for i := range c.Props {
			if text, ok := c.Props[i].Type.(contract.Text); ok && !c.Props[i].Required {
				text.Initial = "otherwise"
				c.Props[i].Type = text
				return
			}
		}
	case 6:
		if p != c.Root && p.Element == "span" && len(p.Children) == 0 {
			p.Element = "em"
		}
	case 7:
		if p.Attributes == nil {
			p.Attributes = map[string]contract.Attribute{}
		}
		p.Attributes["title"] = contract.Attribute{Text: name}
	case 8:
		if len(c.Root.Children) > 1 {
			slices.Reverse(c.Root.Children)
		}
	case 9:
		c.Purpose = "Made otherwise " + name + "."
	case 10:
		if p != c.Root && p.Style != nil {
			p.Name = name + "Name"
		}
	}
}

// Whatever people change in the code of a random component, all of it can be taken into the contract, and then the contract says
// what the code says. What nobody touched is no move.
func TestWhatMovedInCodeCanBeTaken(t *testing.T) {
	moved, wrong, tried := 0, 0, 0
	kinds := map[source.MoveKind]int{}
	for seed := range uint64(500) {
		r := rand.New(rand.NewPCG(seed, 8))
		make := func() *contract.Contract { return emittest.NewMaker(seed, fmt.Sprintf("Some%d", seed), nil).Contract() }
		was, now := make(), make()
		if len(was.Check(token.Empty())) > 0 {
			continue
		}
		for n := range 1 + r.IntN(3) {
			edited(r, now, n)
		}
		if now.Check(token.Empty()).Failed() {
			continue
		}
		tried++
		base := written(t, was, was, nil)
		v := source.Versions{Base: base, Contract: written(t, was, was, nil), Code: written(t, now, was, nil)}
		moves := v.Moves()
		var keys []string
		for _, m := range moves {
			kinds[m.Kind]++
			keys = append(keys, m.Key)
			assert.Equal(t, source.CodeSide, m.Side, "seed %d: %s", seed, m.Key)
		}
		moved += len(moves)
		out, found := v.Take(was, keys)
		if !assert.NotNil(t, out, "seed %d: %v", seed, found) {
			continue
		}
		again := source.Versions{Base: base, Contract: written(t, out, was, nil), Code: v.Code}
		left := slices.DeleteFunc(again.Moves(), func(m source.Move) bool { // words that follow from what was taken
			return m.About.Property == "purpose" && m.Side == source.ContractSide
		})
		if len(left) > 0 {
			t.Errorf("seed %d: after taking %s\n%v", seed, strings.Join(keys, "; "), left)
			if wrong++; wrong > 6 {
				t.Fatal("and so on")
			}
		}
		assert.Empty(t, source.Versions{Base: base, Contract: base, Code: base}.Moves())
	}
	for _, kind := range []source.MoveKind{source.ValueMoved, source.PropAdded, source.PartAdded, source.OptionAdded, source.PartRenamed, source.OrderMoved} {
		assert.Greater(t, kinds[kind], 5, "hardly any %s was tried", kind)
	}
	t.Logf("%d moves of %d components: %v", moved, tried, kinds)
}

// Each move of the code can be taken back by itself, in the file, and everything else that people wrote stays.
func TestOneMoveIsPutBack(t *testing.T) {
	properties := output.PropertiesOf(token.Empty())
	back, alone, tried := 0, 0, 0
	for seed := range uint64(110) {
		r := rand.New(rand.NewPCG(seed, 9))
		make := func() *contract.Contract { return emittest.NewMaker(seed, fmt.Sprintf("Some%d", seed), nil).Contract() }
		was, now := make(), make()
		if len(was.Check(token.Empty())) > 0 {
			continue
		}
		for n := range 2 + r.IntN(3) {
			edited(r, now, n)
		}
		if now.Check(token.Empty()).Failed() {
			continue
		}
		files := func(c *contract.Contract) (out []source.File) {
			for _, f := range react.Emit(c, properties, react.Options{}) {
				out = append(out, source.File{Name: f.Path, Text: []byte(f.Content)})
			}
			return out
		}
		read := func(files []source.File) *source.Reading {
			out := source.Open(files).Read(was.Name+".tsx", was.Name, options(properties, token.Empty(), nil))
			if out != nil {
				out.Align(was)
			}
			return out
		}
		base, theirs := files(was), files(now)
		v := source.Versions{Base: read(base), Contract: read(base), Code: read(theirs)}
		moves := v.Moves()
		if len(moves) < 2 {
			continue
		}
		m := moves[r.IntN(len(moves))]
		tried++
		out, also, left := source.PutBack(theirs, base, v, []string{m.Key}, read)
		keys := map[string]bool{}
		for _, o := range (source.Versions{Base: v.Base, Contract: v.Contract, Code: read(out)}).Moves() {
			keys[o.Key] = true
		}
		for _, o := range moves {
			if o.Key != m.Key && !slices.Contains(also, o.Key) {
				assert.True(t, keys[o.Key], "seed %d: taking %s back takes %s with it, and nobody is told", seed, m.Key, o.Key)
			}
		}
		assert.Equal(t, len(left) > 0, keys[m.Key], "seed %d: what is left is told wrong", seed)
		if len(left) == 0 {
			back++
		} else if m.Kind == source.ValueMoved && m.About.Kind == source.OfPart {
			alone++
		}
	}
	assert.Greater(t, back, tried/2)
	t.Logf("%d of %d moves were taken back by themselves; %d values of parts were not", back, tried, alone)
}

// What a move asks of whoever uses the component is told: Semantic Versioning 2.0.0, 6 to 8, by what each kind of prop answers.
func TestMovesAskForABump(t *testing.T) {
	shed := func(props ...contract.Prop) *contract.Contract {
		return &contract.Contract{Name: "Shed", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Style: contract.Style{"opacity": "0.5"}}, Props: props}
	}
	words := func(initial string, required bool) contract.Prop {
		return contract.Prop{ID: "words", Name: "words", Required: required, Type: contract.Text{Initial: initial}}
	}
	door := func(initial string, options ...string) contract.Prop {
		return contract.Prop{ID: "door", Name: "door", Type: contract.Choice{Options: options, Initial: initial}}
	}
	softer := shed()
	softer.Root.Style["opacity"] = "0.4"
	for name, c := range map[string]struct {
		was, now *contract.Contract
		bump     contract.Level
	}{
		"another value":               {shed(), softer, contract.Patch},
		"another default of a text":   {shed(words("Shed", false)), shed(words("Hut", false)), contract.Patch},
		"another default of a choice": {shed(door("open", "open", "shut")), shed(door("shut", "open", "shut")), contract.Major},
		"an option more":              {shed(door("open", "open", "shut")), shed(door("open", "open", "shut", "ajar")), contract.Minor},
		"an option less":              {shed(door("open", "open", "shut", "ajar")), shed(door("open", "open", "shut")), contract.Major},
		"a prop more":                 {shed(), shed(words("Shed", false)), contract.Minor},
		"a prop less":                 {shed(words("Shed", false)), shed(), contract.Major},
		"a prop that is required":     {shed(words("", false)), shed(words("", true)), contract.Major},
		"a prop that is not":          {shed(words("", true)), shed(words("", false)), contract.Minor},
		"a prop of another kind":      {shed(words("", false)), shed(contract.Prop{ID: "words", Name: "words", Type: contract.Flag{}}), contract.Major},
	} {
		for _, p := range append(slices.Clone(c.was.Props), c.now.Props...) { // every prop has a use, or it is not read
			for _, of := range []*contract.Contract{c.was, c.now} {
				if q := of.Prop(p.ID); q != nil && q.Kind() == contract.TextKind {
					of.Root.Content = contract.TextOf{Prop: p.ID}
				}
			}
		}
		v := source.Versions{Base: written(t, c.was, c.was, nil), Contract: written(t, c.was, c.was, nil), Code: written(t, c.now, c.was, nil)}
		level := contract.None
		for _, m := range v.Moves() {
			level = contract.Highest(level, m.Bump)
		}
		assert.Equal(t, c.bump, level, "%s: %v", name, v.Moves())
	}
}

// What a contract does not say of a prop nobody moved, whether code has the words that are written for want of any, or none; other words are the code's.
func TestWhatNobodySaidIsNoMove(t *testing.T) {
	c := &contract.Contract{Name: "Tag", Root: &contract.Part{ID: "root", Name: "root", Element: "span"},
		Props: []contract.Prop{{ID: "size", Name: "size", Type: contract.Choice{Options: []string{"s", "m"}, Initial: "s"}}, {ID: "note", Name: "note", Purpose: "What it notes.", Type: contract.Text{}}}}
	for said, want := range map[string]int{"": 0, "The size of the tag.": 0, "How large it is.": 1} {
		read := func(size, note string) *source.Reading {
			of := c.Clone()
			of.Purpose, of.Props[0].Purpose, of.Props[1].Purpose = "A tag.", size, note
			return &source.Reading{Contract: of}
		}
		v := source.Versions{Base: read("The size of the tag.", "What it notes."), Contract: read("The size of the tag.", "What it notes."), Code: read(said, "")}
		quiet := v.Unsaid(c)
		var of []string
		for _, m := range v.Moves() {
			of = append(of, m.About.ID)
		}
		assert.Len(t, of, want+1, "%q: %v", said, of)
		assert.Contains(t, of, "note", "what the contract says is held against the code")
		other := read("The size of the tag.", "What it notes.")
		quiet(other)
		assert.Equal(t, [2]string{"", "What it notes."}, [2]string{other.Contract.Props[0].Purpose, other.Contract.Props[1].Purpose})
	}
	source.Versions{}.Unsaid(c)(nil)
}

// A list that is a slot in the code is told as that, not as all that its items and their texts were.
func TestAListThatIsASlotIsOneMove(t *testing.T) {
	shed := func(kind contract.Type, row *contract.Part) *contract.Contract {
		return &contract.Contract{Name: "Shed", Root: &contract.Part{ID: "root", Name: "root", Element: "ul", Children: []*contract.Part{row}},
			Props: []contract.Prop{{ID: "tools", Name: "tools", Type: kind}}}
	}
	list := contract.List{Items: []contract.Prop{{ID: "title", Name: "title", Type: contract.Text{Initial: "Spade"}}, {ID: "tone", Name: "tone", Type: contract.Choice{Options: []string{"old", "new"}, Initial: "old"}}}}
	was := shed(list, &contract.Part{ID: "row", Name: "row", Element: "li", Repeat: "tools", Content: contract.TextOf{Prop: "tools.title"}})
	now := shed(contract.Slot{}, &contract.Part{ID: "row", Name: "row", Element: "li", Content: contract.SlotOf{Prop: "tools"}})
	require.Empty(t, was.Check(token.Empty()))
	require.Empty(t, now.Check(token.Empty()))
	v := source.Versions{Base: written(t, was, was, nil), Contract: written(t, was, was, nil), Code: written(t, now, was, nil)}
	moves := v.Moves()
	var kinds []source.MoveKind
	for _, m := range moves {
		kinds = append(kinds, m.Kind)
	}
	require.Equal(t, []source.MoveKind{source.PropRetyped}, kinds, "%+v", moves)
	assert.Greater(t, moves[0].Facts, 4)
	assert.Equal(t, contract.Major, moves[0].Bump)
	assert.Contains(t, moves[0].Said(), "the prop tools is of the type")
	taken, found := v.Take(was, []string{moves[0].Key})
	require.Empty(t, found)
	require.Empty(t, taken.Check(token.Empty()))
	again := source.Versions{Base: v.Base, Contract: written(t, taken, was, nil), Code: v.Code}
	again.Unsaid(taken)
	assert.Empty(t, again.Moves(), "taken, code and contract say the same")
}
