package behaviour_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// panelsOf is a component whose choice open shows one of two notes, as a drawing has it.
func panelsOf() *contract.Contract {
	part := func(id, element string, open string, children ...*contract.Part) *contract.Part {
		p := &contract.Part{ID: id, Name: id, Element: element, Children: children, Content: contract.FixedText{Text: id}}
		if children != nil {
			p.Content = nil
		}
		if open != "" {
			p.ShownWhen = contract.Of(contract.PropIs{Prop: "open", Value: contract.OptionValue(open)})
		}
		return p
	}
	return &contract.Contract{Format: contract.Format, Name: "Two", Root: part("root", "div", "", part("title1", "h3", ""), part("note1", "p", "first one"), part("title2", "div", ""), part("note2", "p", "second")),
		Props: []contract.Prop{{ID: "open", Name: "open", Type: contract.Choice{Options: []string{"first one", "second"}, Initial: "second"}}},
		Rules: []contract.Rule{{Part: "root", When: contract.Of(contract.PropIs{Prop: "open", Value: contract.OptionValue("first one")}), Set: contract.Style{"opacity": "0.5"}}}}
}

// Options that are drawn become states: rules and parts ask for them, the prop says where it begins, presses and times lead on; and all of it is taken back as it was.
func TestOptionsBecomeStates(t *testing.T) {
	c := panelsOf()
	out, err := behaviour.FromOptions(c, "open", []float64{0, 700}, map[string]string{"first one": "title1", "second": "title2"}, behaviour.ByItself)
	require.NoError(t, err)
	checked := out.Check(nil)
	require.NoError(t, checked.Err(), "%v", checked)
	assert.Equal(t, `machine Two, at first second
begins as open says
hidden of note1 and note2 is true
aria-expanded of title1 and title2 is false
aria-disabled of title1 and title2 is false
state firstOne
  on press of title2: to second, tell onOpen with 'second'
  hidden of note1 is false
  aria-expanded of title1 is true
  aria-disabled of title1 is true
state second
  after 700 ms: to firstOne
  on press of title1: to firstOne, tell onOpen with 'first one'
  hidden of note2 is false
  aria-expanded of title2 is true
  aria-disabled of title2 is true
`, behaviour.Of(out).Words(out))
	assert.Equal(t, contract.Of(contract.InState{State: "firstOne"}), out.Rules[0].When)
	assert.Equal(t, [4]string{"button", "h3", "button", "note2"}, [4]string{out.Part("title1").Element, out.Root.Children[0].Element, out.Part("title2").Element, out.Part("title2").Attributes["aria-controls"].Part}, "a heading stays one, around its button")

	// It can go along with the prop, from wherever it is.
	follows, err := behaviour.FromOptions(c, "open", nil, nil, behaviour.WithProp)
	require.NoError(t, err)
	checked = follows.Check(nil)
	require.NoError(t, checked.Err(), "%v", checked)
	chart := behaviour.Of(follows)
	assert.Equal(t, []string{"on changed open if open == 'first one' && !In('firstOne'): to firstOne", "on changed open if open == 'second' && !In('second'): to second"}, chart.Anywhere(follows))
	assert.Empty(t, chart.Ways(follows))
	cfg, _ := chart.Start(contract.EnvOf(c.Defaults()))
	env := contract.EnvOf(contract.Values{"open": contract.OptionValue("first one")})
	cfg, _ = chart.Step(cfg, env, behaviour.Event{Kind: behaviour.Changed, Name: "open"}, nil)
	assert.True(t, cfg.In("firstOne"))
	assert.Empty(t, chart.Check(behaviour.OptionsFor(follows)).Findings)

	// Or the prop alone leads: a press only tells whoever uses it, who has the last word.
	_, err = behaviour.FromOptions(c, "open", []float64{0, 700}, nil, behaviour.ByProp)
	assert.ErrorContains(t, err, "times lead")
	led, err := behaviour.FromOptions(c, "open", nil, map[string]string{"first one": "title1", "second": "title2"}, behaviour.ByProp)
	require.NoError(t, err)
	checked = led.Check(nil)
	require.NoError(t, checked.Err(), "%v", checked)
	chart = behaviour.Of(led)
	cfg, _ = chart.Start(contract.EnvOf(c.Defaults()))
	cfg, told := chart.Step(cfg, contract.EnvOf(c.Defaults()), behaviour.Event{Kind: behaviour.Press, Part: "title1"}, nil)
	assert.True(t, cfg.In("second"), "it moved though nobody let it")
	assert.Equal(t, []behaviour.Effect{{Tell: "onOpen", With: "first one"}}, told)
	cfg, _ = chart.Step(cfg, env, behaviour.Event{Kind: behaviour.Changed, Name: "open"}, nil)
	assert.True(t, cfg.In("firstOne"))
	assert.Empty(t, chart.Check(behaviour.OptionsFor(led)).Findings)

	// What is resolved is as it was drawn, by the prop; and in the state that is asked for.
	at := func(env contract.Env) (hidden, opacity string) {
		r := contract.Resolve(out, env, token.Empty())
		return r.Find("note1").Values["display"].Value, r.Values["opacity"].Value
	}
	hidden, opacity := at(contract.Env{})
	assert.Equal(t, [2]string{"none", ""}, [2]string{hidden, opacity})
	hidden, opacity = at(contract.EnvOf(contract.Values{"open": contract.OptionValue("first one")}))
	assert.Equal(t, [2]string{"", "0.5"}, [2]string{hidden, opacity})
	hidden, opacity = at(contract.Env{States: []string{"hover", "firstOne"}})
	assert.Equal(t, [2]string{"", "0.5"}, [2]string{hidden, opacity})
	assert.Equal(t, []string{"firstOne", "second"}, out.AskedStates())

	back, taken := behaviour.Without(out)
	checked = back.Check(nil)
	require.NoError(t, checked.Err(), "%v", checked)
	assert.Equal(t, c.Rules, back.Rules)
	assert.Equal(t, c.Part("note1").ShownWhen, back.Part("note1").ShownWhen)
	assert.Equal(t, []string{"what is told by onOpen"}, taken)
	assert.Len(t, back.Props, 1)
}

func TestOptionsThatAreNoStates(t *testing.T) {
	for want, with := range map[string]func(c *contract.Contract) (string, map[string]string){
		"no prop": func(*contract.Contract) (string, map[string]string) { return "shut", nil },
		"no options": func(c *contract.Contract) (string, map[string]string) {
			c.Props[0].Type = contract.Text{}
			return "open", nil
		},
		"would be one state": func(c *contract.Contract) (string, map[string]string) {
			c.Props[0].Type = contract.Choice{Options: []string{"first one", "first-one"}, Initial: "first one"}
			return "open", nil
		},
		"no part": func(*contract.Contract) (string, map[string]string) {
			return "open", map[string]string{"second": "nowhere"}
		},
	} {
		c := panelsOf()
		prop, pressed := with(c)
		_, err := behaviour.FromOptions(c, prop, nil, pressed, behaviour.ByItself)
		assert.ErrorContains(t, err, want)
	}
}

// What a machine asks for and the component does not have is told, each once with what to do.
func TestAMachineIsCheckedInItsContract(t *testing.T) {
	base := func() *contract.Contract {
		c := panelsOf()
		c.Rules = nil
		c.Root.Children = append(c.Root.Children, &contract.Part{ID: "row", Name: "row", Element: "li", Repeat: "list"})
		c.Props = append(c.Props, contract.Prop{ID: "list", Name: "list", Type: contract.List{Items: []contract.Prop{{ID: "word", Name: "word", Type: contract.Text{}}}}})
		return c
	}
	for text, want := range map[string]string{
		"machine m\nstate a\n  on press of nowhere: to b\nstate b\n":                                                                                    "there is no part",
		"machine m\nstate a\n  on press of title2: to b, tell onGone\nstate b\n":                                                                        "onGone is told",
		"machine m\nstate a\n  on press of title2 if count > 1: to b\nstate b\n":                                                                        "nothing called",
		"machine m\nstate a\n  on changed gone: to b\nstate b\n":                                                                                        "there is no prop",
		"machine m\nstate a\n  href of title2 is 'x'\nstate b\n":                                                                                        "has no href",
		"machine m\nstate a\n  text of root is 'x'\nstate b\n":                                                                                          "shows no text",
		"machine m\nstate a\n  on press of row: to b\nstate b\n":                                                                                        "once for each item",
		"machine m\nbegins as list says\nstate a\n":                                                                                                     "no such choice or flag",
		"machine m\nbegins as open says\nstate a\n":                                                                                                     "no state is called",
		"machine m\nkeeps n, at first 0, given by gone\nstate a\n  on press of title2: n becomes n + 1\n":                                               "begins with the prop",
		"machine m\nkeeps focus, at first 0\nstate a\n  on press of title2: focus becomes focus + 1\n":                                                  "a value is called focus",
		"machine m\nkeeps __proto__, at first 0\nstate a\n  on press of title2: __proto__ becomes 1\n":                                                  "a value is called __proto__",
		"machine m\nstate a\n  parallel p\n    state x\n    state y\n":                                                                                  "stand inside of another",
		"machine m, all at once\nstate a\n  on press of title2: to b\nstate b\n":                                                                        "active at the same time",
		"machine m, all at once\nkeeps n, at first 0\nstate a\n  on press of title2: n becomes n + 1\nstate b\n  on press of title2: n becomes n + 2\n": "do something at",
		"machine m\nkeeps n, at first 0\nstate a\n  on press of title2: n becomes n, focus title2\n  on entry: tell onOpen\n":                           "before anybody listens",
		"machine m\nstate a\n  after 10 ms when (direction rtl): to b\nstate b\n":                                                                       "nothing is heard",
		"machine m\nstate a\n  on press of title2 when (viewport < 400px): to b\nstate b\n":                                                             "code does not know",
	} {
		c := base()
		m, found := behaviour.ParseText(text, c)
		if !assert.Empty(t, found, text) {
			continue
		}
		chart, problems := behaviour.Compile(m)
		require.Empty(t, problems)
		c.Behaviour = &contract.Behaviour{Machine: chart}
		if want == "before anybody listens" {
			behaviour.Tell(c)
		}
		var said problem.List
		chart.CheckIn(c, &said)
		if assert.NotEmpty(t, said, text) {
			assert.Contains(t, said[0].Message, want, text)
			assert.NotEmpty(t, said[0].Fix)
		}
	}
}

// A machine says names to people and keeps ids: who renames a part, or a prop, has nothing else to do.
func TestNamesFollow(t *testing.T) {
	c := panelsOf()
	out, err := behaviour.FromOptions(c, "open", nil, map[string]string{"second": "title2"}, behaviour.ByItself)
	require.NoError(t, err)
	require.NoError(t, out.RenamePart("title2", "headline"))
	out.Props[0].Name = "shown"
	words := behaviour.Of(out).Words(out)
	assert.Contains(t, words, "begins as shown says")
	assert.Contains(t, words, "on press of headline: to second, tell onOpen with 'second'")
	m, found := behaviour.ParseText(strings.Replace(words, "begins as", "keeps first, at first 'second', given by shown\nbegins as", 1), out)
	require.Empty(t, found)
	assert.Equal(t, "open", m.Values[0].Prop)
	assert.Contains(t, m.Text(out), "given by shown")
	assert.Equal(t, "open", m.Given)
	assert.Equal(t, "title2", m.Root.States[0].On[0].Event.Part)
}

// Times that are durations are as long as these are, in words by their names.
func TestDurations(t *testing.T) {
	m, found := behaviour.ParseText("machine m\nstate a\n  after {motion.run}: to b\nstate b\n  after 5 ms: to a\n", nil)
	require.Empty(t, found)
	chart, problems := behaviour.Compile(m)
	require.Empty(t, problems)
	timed := chart.WithTokens(func(path string) (string, float64) { return "other." + path, 250 }).(*behaviour.Chart)
	assert.Equal(t, []string{"other.motion.run"}, timed.Tokens())
	assert.Equal(t, 250.0, timed.Machine.Root.States[0].On[0].After)
	assert.Contains(t, timed.Words(&contract.Contract{}), "after {other.motion.run}: to b")
	assert.Equal(t, 0.0, m.Root.States[0].On[0].After, "the machine was changed")
}
