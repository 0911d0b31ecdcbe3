package contract_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/problem"
	"cobrik/core/token"
)

var drop = contract.Vector{ViewBox: [4]float64{0, 0, 8, 8}, Paths: []contract.Path{{D: "M0 0H8V8Z"}}}

// oneOfEach is a type of every kind, with its limits.
var oneOfEach = map[contract.Kind]contract.Type{
	contract.TextKind:   contract.Text{Initial: "Name of the bed", Longest: 200},
	contract.RichKind:   contract.Rich{Initial: contract.Plain("What is to be done")},
	contract.FlagKind:   contract.Flag{Initial: true},
	contract.ChoiceKind: contract.Choice{Options: []string{"s", "m"}, Initial: "m"},
	contract.NumberKind: contract.Number{Initial: px(2), Least: px(0), Most: px(9), Step: 1},
	contract.ImageKind:  contract.Image{Aspect: 1.5},
	contract.LinkKind:   contract.Link{Initial: "/plots"},
	contract.IconKind:   contract.Icon{Options: []contract.NamedIcon{{Name: "leaf", Vector: drop}, {Name: "drop", Vector: drop}}, Initial: "leaf"},
	contract.SlotKind:   contract.Slot{Accepts: []string{"CropTag"}},
	contract.ListKind: contract.List{Most: 5, Items: []contract.Prop{
		{ID: "label", Name: "text", Type: contract.Text{}, Required: true}, {ID: "current", Name: "current", Type: contract.Flag{}}, {ID: "to", Name: "to", Type: contract.Link{}},
	}},
	contract.EventKind: contract.Event{On: "click"},
}

func propOf(kind contract.Kind) contract.Prop {
	return contract.Prop{ID: "thing", Name: map[bool]string{true: "onThing", false: "thing"}[kind == contract.EventKind], Type: oneOfEach[kind], Part: "label"}
}

// Each kind answers all that other rooms ask, and its answers fit each other: a contract with
// a prop of it is stored and read, its samples are values of it that are stored and read, and
// the JSON Schema it gives takes what a use gives for them.
func TestEveryKindAnswersForItself(t *testing.T) {
	require.Len(t, oneOfEach, len(contract.PropKinds))
	for _, kind := range contract.PropKinds {
		p := propOf(kind)
		c := good()
		c.Part("icon").Content = &drop
		c.Props = append(c.Props, p)
		require.Empty(t, c.Check(token.Empty()), kind)
		again, found := contract.Read("c.json", c.JSON(), token.Empty())
		require.NotNil(t, again, "%s: %s", kind, found)
		assert.Equal(t, c, again, "%s is read otherwise than it was written", kind)
		assert.Equal(t, kind, p.Type.Kind())
		assert.NotEmpty(t, p.Type.TypeScript())
		assert.NotEmpty(t, p.Type.Control())
		assert.Empty(t, p.Type.Changes("thing", p.Type), "%s differs from itself", kind)

		compiler := jsonschema.NewCompiler()
		text, err := json.Marshal(p.Type.Schema())
		require.NoError(t, err)
		schema, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
		require.NoError(t, err)
		require.NoError(t, compiler.AddResource("kind.json", schema))
		compiled, err := compiler.Compile("kind.json")
		require.NoError(t, err, "%s: %s", kind, text)

		samples := p.Samples()
		assert.True(t, contract.Equal(p.Shown(), samples[0]), "%s: the first sample is not what it is shown with", kind)
		for _, v := range samples {
			if v == nil {
				continue
			}
			assert.True(t, p.Type.Takes(v), "%s does not take its sample %v", kind, v)
			stored, err := json.Marshal(v)
			require.NoError(t, err)
			back, err := p.Type.Decode(stored)
			require.NoError(t, err, "%s: %s", kind, stored)
			assert.True(t, contract.Equal(v, back), "%s: %s is read as %v", kind, stored, back)
			assert.NotEmpty(t, fmt.Sprintf("%T", v))
			if kind == contract.RichKind {
				continue // a use gives code
			}
			use, err := json.Marshal(c.Given(contract.Values{"thing": v})["thing"])
			require.NoError(t, err)
			instance, err := jsonschema.UnmarshalJSON(bytes.NewReader(use))
			require.NoError(t, err)
			assert.NoError(t, compiled.Validate(instance), "%s: its schema refuses %s", kind, use)
		}
		if p.Type.Control() == "none" {
			_, err := p.Type.Decode(json.RawMessage(`"x"`))
			assert.Error(t, err, "%s takes a value", kind)
		}
	}
}

func TestValuesOfAKind(t *testing.T) {
	rich := func(text string) string { return `[{"runs":[` + text + `]}]` }
	for kind, k := range map[contract.Kind]struct{ good, bad []string }{
		contract.TextKind:   {[]string{`""`, `"true"`, `"Ü\n"`}, []string{`1`, `true`, `["a"]`}},
		contract.FlagKind:   {[]string{`true`, `false`}, []string{`"true"`, `1`}},
		contract.ChoiceKind: {[]string{`"s"`}, []string{`"S"`, `""`, `1`}},
		contract.NumberKind: {[]string{`0`, `9`, `3.0`}, []string{`-1`, `10`, `0.5`, `"3"`, `1e400`}},
		contract.LinkKind:   {[]string{`"/a?b#c"`, `"https://example.org"`, `"mailto:ines@example.org"`, `"#"`, `""`, `"../x"`}, []string{`"javascript:alert(1)"`, `"JavaScript:alert(1)"`, `" javascript:alert(1)"`, `"java\tscript:alert(1)"`, `"data:text/html,x"`, `"vbscript:x"`, `"` + strings.Repeat("a", 2001) + `"`, `7`}},
		contract.ImageKind: {
			[]string{`{"src":"/a.png","alt":"","width":3,"height":2}`, `{"src":"data:image/png;base64,AA==","alt":"A bed","width":1,"height":1}`, `{"src":"data:image/svg+xml,%3Csvg/%3E","alt":"","width":1,"height":1}`},
			[]string{`{"src":"/a.png","alt":""}`, `{"src":"","alt":"","width":1,"height":1}`, `{"src":"/a","alt":"","width":0,"height":1}`, `{"src":"data:text/html,<script>","alt":"","width":1,"height":1}`, `{"src":"data:image/svg+xmlx","alt":"","width":1,"height":1}`, `{"src":"javascript:x","alt":"","width":1,"height":1}`, `{"src":"mailto:a@b","alt":"","width":1,"height":1}`, `{"src":"/a","alt":"","width":1,"height":1,"onload":"x"}`},
		},
		contract.IconKind: {[]string{`"leaf"`, `"drop"`}, []string{`"bed"`, `""`, `null`}},
		contract.RichKind: {
			[]string{`"plain"`, rich(`{"text":"a"},{"text":"b","strong":true,"link":"/x"}`), `[{"kind":"heading","level":2,"runs":[]},{"kind":"item","runs":[{"text":"a"}]}]`},
			[]string{rich(`{"text":"a","link":"javascript:x"}`), `[{"kind":"heading","runs":[]}]`, `[{"kind":"heading","level":7,"runs":[]}]`, `[{"kind":"paragraph","level":2,"runs":[]}]`, `[{"runs":[]},{"runs":[]}]`, `[{"kind":"script","runs":[]}]`, rich(`{"text":"a","style":"x"}`), rich(`{"text":"` + strings.Repeat("a", 20_001) + `"}`), `4`},
		},
		contract.ListKind: {
			[]string{`[]`, `[{"label":"Plots"}]`, `[{"label":"Plots","current":true,"to":"/plots"}]`},
			[]string{`[{}]`, `[{"label":3}]`, `[{"label":"a","size":"s"}]`, `[{"label":"a","to":"javascript:x"}]`, `{"label":"a"}`, `[` + strings.Repeat(`{"label":"a"},`, 5) + `{"label":"a"}]`},
		},
	} {
		of := oneOfEach[kind]
		for _, text := range k.good {
			v, err := of.Decode(json.RawMessage(text))
			if assert.NoError(t, err, "%s: %s", kind, text) {
				assert.True(t, of.Takes(v), "%s: %s", kind, text)
			}
		}
		for _, text := range k.bad {
			_, err := of.Decode(json.RawMessage(text))
			assert.Error(t, err, "%s takes %.80s", kind, text)
		}
	}
	line := contract.Rich{Line: true}
	_, err := line.Decode(json.RawMessage(`[{"kind":"paragraph","runs":[]}]`))
	assert.ErrorContains(t, err, "stands in a line")
}

// Whether there is anything in a prop decides what is shown: nothing in a text is nothing.
func TestWhatIsSet(t *testing.T) {
	for _, v := range []contract.Value{nil, contract.TextValue(""), contract.LinkValue(""), contract.RichValue{}, contract.ListValue{}} {
		assert.False(t, contract.IsSet(v), "%T", v)
	}
	for _, v := range []contract.Value{contract.TextValue(" "), contract.NumberValue(0), contract.FlagValue(false), contract.ListValue{{}}, contract.ImageValue{Source: "/a"}, contract.IconValue("leaf")} {
		assert.True(t, contract.IsSet(v), "%T", v)
	}
}

// What a new version asks of its users (Semantic Versioning 2.0.0, 6 to 8): what they wrote and
// may no longer write is major, what they may write besides is minor.
func TestWhatAChangedPropAsksOfItsUsers(t *testing.T) {
	number := func(least, most *float64) contract.Type { return contract.Number{Least: least, Most: most} }
	icons := func(names ...string) contract.Type {
		var out contract.Icon
		for _, n := range names {
			out.Options = append(out.Options, contract.NamedIcon{Name: n, Vector: drop})
		}
		return out
	}
	items := func(props ...contract.Prop) contract.Type { return contract.List{Items: props} }
	label := contract.Prop{ID: "label", Name: "label", Type: contract.Text{}}
	renamed, required := label, label
	renamed.Name, required.Required = "text", true
	other := drop
	other.ViewBox[2] = 9
	for name, k := range map[string]struct {
		from, to contract.Prop
		want     contract.Level
	}{
		"nothing":                   {contract.Prop{Type: contract.Link{}}, contract.Prop{Type: contract.Link{}}, contract.None},
		"required":                  {contract.Prop{Type: contract.Text{}}, contract.Prop{Type: contract.Text{}, Required: true}, contract.Major},
		"no longer required":        {contract.Prop{Type: contract.Text{}, Required: true}, contract.Prop{Type: contract.Text{}}, contract.Minor},
		"deprecated":                {contract.Prop{Type: contract.Text{}}, contract.Prop{Type: contract.Text{}, Deprecated: "use label"}, contract.Minor},
		"another text":              {contract.Prop{Type: contract.Text{Initial: "a"}}, contract.Prop{Type: contract.Text{Initial: "b"}}, contract.Patch},
		"a tighter limit":           {contract.Prop{Type: contract.Text{Longest: 80}}, contract.Prop{Type: contract.Text{Longest: 40}}, contract.Major},
		"a limit":                   {contract.Prop{Type: contract.Text{}}, contract.Prop{Type: contract.Text{Longest: 40}}, contract.Major},
		"no limit":                  {contract.Prop{Type: contract.Text{Longest: 40}}, contract.Prop{Type: contract.Text{}}, contract.Minor},
		"in a line":                 {contract.Prop{Type: contract.Rich{}}, contract.Prop{Type: contract.Rich{Line: true}}, contract.Major},
		"another rich text":         {contract.Prop{Type: contract.Rich{}}, contract.Prop{Type: contract.Rich{Initial: contract.Plain("a")}}, contract.Patch},
		"a narrower range":          {contract.Prop{Type: number(px(0), nil)}, contract.Prop{Type: number(px(1), nil)}, contract.Major},
		"a bound":                   {contract.Prop{Type: number(nil, nil)}, contract.Prop{Type: number(nil, px(9))}, contract.Major},
		"a wider range":             {contract.Prop{Type: number(px(0), px(5))}, contract.Prop{Type: number(px(0), px(6))}, contract.Minor},
		"narrower and wider":        {contract.Prop{Type: number(px(0), px(5))}, contract.Prop{Type: number(px(1), px(6))}, contract.Major},
		"another step":              {contract.Prop{Type: contract.Number{Step: 1}}, contract.Prop{Type: contract.Number{Step: 2}}, contract.Major},
		"another number by default": {contract.Prop{Type: contract.Number{Initial: px(1)}}, contract.Prop{Type: contract.Number{}}, contract.Major},
		"another shape":             {contract.Prop{Type: contract.Image{}}, contract.Prop{Type: contract.Image{Aspect: 2}}, contract.Patch},
		"an icon fewer":             {contract.Prop{Type: icons("a", "b")}, contract.Prop{Type: icons("a")}, contract.Major},
		"an icon more":              {contract.Prop{Type: icons("a")}, contract.Prop{Type: icons("a", "b")}, contract.Minor},
		"an icon drawn otherwise":   {contract.Prop{Type: icons("a")}, contract.Prop{Type: contract.Icon{Options: []contract.NamedIcon{{Name: "a", Vector: other}}}}, contract.Patch},
		"fewer components in it":    {contract.Prop{Type: contract.Slot{Accepts: []string{"A", "B"}}}, contract.Prop{Type: contract.Slot{Accepts: []string{"A"}}}, contract.Major},
		"a few components in it":    {contract.Prop{Type: contract.Slot{}}, contract.Prop{Type: contract.Slot{Accepts: []string{"A"}}}, contract.Major},
		"anything in it":            {contract.Prop{Type: contract.Slot{Accepts: []string{"A"}}}, contract.Prop{Type: contract.Slot{}}, contract.Minor},
		"an item's prop gone":       {contract.Prop{Type: items(label)}, contract.Prop{Type: items()}, contract.Major},
		"an item's prop renamed":    {contract.Prop{Type: items(label)}, contract.Prop{Type: items(renamed)}, contract.Major},
		"an item's prop required":   {contract.Prop{Type: items(label)}, contract.Prop{Type: items(required)}, contract.Major},
		"an item's prop more":       {contract.Prop{Type: items()}, contract.Prop{Type: items(label)}, contract.Minor},
		"a required one more":       {contract.Prop{Type: items()}, contract.Prop{Type: items(required)}, contract.Major},
		"fewer items":               {contract.Prop{Type: contract.List{}}, contract.Prop{Type: contract.List{Most: 4}}, contract.Major},
		"another event":             {contract.Prop{Type: contract.Event{On: "click"}}, contract.Prop{Type: contract.Event{On: "focus"}}, contract.Major},
	} {
		level := contract.None
		for _, change := range k.to.Changes("thing", k.from) {
			level = contract.Highest(level, change.Level)
			assert.True(t, strings.HasPrefix(change.Text, "thing"), change.Text)
		}
		assert.Equal(t, k.want, level, name)
	}
}

// grown is a contract with a part for each kind of prop.
func grown() *contract.Contract {
	c := good()
	for _, kind := range contract.PropKinds {
		p := propOf(kind)
		p.ID = strings.ReplaceAll(string(kind), " ", "")
		if kind != contract.EventKind {
			p.Name, p.Part = p.ID, ""
		}
		if p.ID != "text" {
			c.Props = append(c.Props, p)
		}
	}
	part := func(id, element string, content contract.Content, children ...*contract.Part) *contract.Part {
		return &contract.Part{ID: id, Name: id, Element: element, Content: content, Children: children}
	}
	item := part("item", "li", nil, part("entry", "a", contract.TextOf{Prop: "list.label"}))
	item.Repeat = "list"
	item.Children[0].Attributes = map[string]contract.Attribute{"href": {Prop: "list.to"}, "aria-current": {Prop: "list.current"}}
	heading := part("heading", "h2", contract.FixedText{Text: "Beds"})
	heading.Level = "level"
	c.Props = append(c.Props, contract.Prop{ID: "level", Name: "level", Type: contract.Number{Initial: px(2), Least: px(1), Most: px(6), Step: 1}})
	c.Root.Children = append(c.Root.Children,
		part("photo", "img", contract.ImageOf{Prop: "image"}, part("none", "span", contract.FixedText{Text: "No picture"})),
		part("mark", "svg", contract.IconOf{Prop: "icon"}), part("notice", "div", contract.TextOf{Prop: "richtext"}), part("count", "span", contract.TextOf{Prop: "number"}),
		part("aside", "div", contract.SlotOf{Prop: "slot"}), part("list", "ul", nil, item), heading, part("field", "input", nil), part("name", "label", contract.FixedText{Text: "Name"}))
	c.Part("name").Attributes = map[string]contract.Attribute{"for": {Part: "field"}}
	return c
}

// One thing wrong with a part at a time.
func TestWhatIsWrongWithAPart(t *testing.T) {
	require.Empty(t, grown().Check(token.Empty()))
	attribute := func(part, name string, a contract.Attribute) func(*contract.Contract) {
		return func(c *contract.Contract) { c.Part(part).Attributes = map[string]contract.Attribute{name: a} }
	}
	for name, k := range map[string]struct {
		spoil         func(*contract.Contract)
		rule, message string
	}{
		"a handler":                   {attribute("label", "onclick", contract.Attribute{Text: "x()"}), "attribute-name", "no attribute"},
		"a style":                     {attribute("label", "style", contract.Attribute{Text: "x"}), "attribute-name", "no attribute"},
		"a made up one of ARIA":       {attribute("label", "aria-colour", contract.Attribute{Text: "x"}), "attribute-name", "no attribute"},
		"another element's":           {attribute("label", "href", contract.Attribute{Text: "/"}), "attribute-name", "may have"},
		"code for a link":             {attribute("entry", "href", contract.Attribute{Text: "javascript:x"}), "attribute-value", "javascript"},
		"a text for a link":           {attribute("entry", "href", contract.Attribute{Prop: "text"}), "attribute-prop", "cannot be text, a text"},
		"a text for a number":         {attribute("label", "tabindex", contract.Attribute{Text: "first"}), "attribute-value", "no whole number"},
		"a flag for a number":         {attribute("label", "tabindex", contract.Attribute{Prop: "on"}), "attribute-prop", "cannot be on"},
		"a made up word":              {attribute("field", "type", contract.Attribute{Text: "image"}), "attribute-value", "not one of"},
		"a prop for a word":           {attribute("label", "dir", contract.Attribute{Prop: "text"}), "attribute-prop", "no prop"},
		"rich text for a name":        {attribute("label", "aria-label", contract.Attribute{Prop: "richtext"}), "attribute-prop", "a rich text"},
		"two values":                  {attribute("label", "title", contract.Attribute{Text: "a", Prop: "text"}), "attribute-value", "two values"},
		"no part":                     {attribute("name", "for", contract.Attribute{Part: "nobody"}), "attribute-part", "no part"},
		"a text for a part":           {attribute("name", "for", contract.Attribute{Text: "field"}), "attribute-value", "no value that it can have"},
		"one of many":                 {attribute("label", "aria-describedby", contract.Attribute{Part: "item"}), "attribute-part", "for each item"},
		"an item's outside":           {attribute("label", "title", contract.Attribute{Prop: "list.label"}), "part-scope", "for each item"},
		"an item's text outside":      {func(c *contract.Contract) { c.Part("count").Content = contract.TextOf{Prop: "list.label"} }, "part-scope", "for each item"},
		"shown by an item's outside":  {func(c *contract.Contract) { c.Part("count").ShownWhen = contract.Of(flag("list.current", true)) }, "part-scope", "for each item"},
		"a rule by an item's outside": {func(c *contract.Contract) { rule(c, flag("list.current", true)) }, "part-scope", "for each item"},
		"repeated for no list":        {func(c *contract.Contract) { c.Part("count").Repeat = "text" }, "part-repeat", "no list"},
		"a root for each item":        {func(c *contract.Contract) { c.Root.Repeat = "list" }, "part-repeat", "one root"},
		"a list in itself":            {func(c *contract.Contract) { c.Part("entry").Repeat = "list" }, "part-repeat", "as a part around it"},
		"an image elsewhere":          {func(c *contract.Contract) { c.Part("photo").Element = "div" }, "part-element", "shows an image"},
		"no image":                    {func(c *contract.Contract) { c.Part("label").Element = "img" }, "part-element", "shows a text"},
		"an icon elsewhere":           {func(c *contract.Contract) { c.Part("mark").Element = "span" }, "part-element", "shows an icon"},
		"an image that is a text":     {func(c *contract.Contract) { c.Part("photo").Content = contract.ImageOf{Prop: "text"} }, "part-prop", "that is a image"},
		"a slot that is a text":       {func(c *contract.Contract) { c.Part("aside").Content = contract.SlotOf{Prop: "text"} }, "part-prop", "that is a slot"},
		"paragraphs in a line":        {func(c *contract.Contract) { c.Part("notice").Element = "p" }, "part-rich", "may not stand in that"},
		"a field that holds a text":   {func(c *contract.Contract) { c.Part("field").Content = contract.FixedText{Text: "x"} }, "part-element", "holds no parts"},
		"a level of no heading":       {func(c *contract.Contract) { c.Part("heading").Element = "p" }, "part-level", "no heading"},
		"a level that is no number":   {func(c *contract.Contract) { c.Part("heading").Level = "text" }, "part-level", "no number"},
		"a level beyond all": {func(c *contract.Contract) {
			c.Prop("level").Type = contract.Number{Initial: px(2), Least: px(1), Most: px(7), Step: 1}
		}, "part-level", "from 1 to 6"},
		"a level without a default": {func(c *contract.Contract) { c.Prop("level").Type = contract.Number{Least: px(1), Most: px(6), Step: 1} }, "part-level", "from 1 to 6"},
		"an icon that is told of":   {func(c *contract.Contract) { c.Prop("event").Part = "mark" }, "part-icon", "told no events"},
		"an icon for each item":     {func(c *contract.Contract) { c.Part("mark").Repeat = "list" }, "part-icon", "not repeated"},
		"an event of each item":     {func(c *contract.Contract) { c.Prop("event").Part = "item" }, "prop-event", "once for each item"},
		"an event of another name":  {func(c *contract.Contract) { c.Prop("event").Name = "online" }, "prop-event", "begin with on"},
		"no event":                  {func(c *contract.Contract) { c.Prop("event").Type = contract.Event{On: "beforeunload"} }, "prop-event", "no event"},
		"a list in a list": {func(c *contract.Contract) {
			c.Prop("list").Type = contract.List{Items: []contract.Prop{{ID: "a", Name: "a", Type: contract.List{}}}}
		}, "prop-item", "cannot hold a list"},
		"two items of a name":         {func(c *contract.Contract) { c.Prop("list").Type.(contract.List).Items[1].Name = "text" }, "prop-name", "two props are named"},
		"a default beyond its limits": {func(c *contract.Contract) { c.Prop("number").Type = contract.Number{Initial: px(2), Most: px(1)} }, "prop-default", "more than 1"},
		"limits that leave nothing":   {func(c *contract.Contract) { c.Prop("number").Type = contract.Number{Least: px(2), Most: px(1)} }, "prop-limit", "no number"},
		"an icon of no name": {func(c *contract.Contract) {
			c.Prop("icon").Type = contract.Icon{Options: []contract.NamedIcon{{Name: "a"}}, Initial: "b"}
		}, "prop-default", "no icon"},
		"two icons of a name": {func(c *contract.Contract) {
			c.Prop("icon").Type = contract.Icon{Options: []contract.NamedIcon{{Name: "a"}, {Name: "a"}}}
		}, "prop-option", "two icons"},
		"code for a default link": {func(c *contract.Contract) { c.Prop("link").Type = contract.Link{Initial: "javascript:x"} }, "prop-default", "javascript"},
		"what can never be": {func(c *contract.Contract) {
			c.Part("none").ShownWhen = contract.Of(contract.PropSet{Prop: "image", Set: true})
		}, "part-dead", "never there"},
		"an image that is not there": {func(c *contract.Contract) {
			c.Part("photo").ShownWhen = contract.Of(contract.PropSet{Prop: "image", Set: false})
		}, "part-dead", "not set"},
		"what stands in for what is required": {func(c *contract.Contract) { c.Prop("image").Required = true }, "part-dead", "is required"},
		"two events of one kind": {func(c *contract.Contract) {
			again := *c.Prop("event")
			again.ID, again.Name = "again", "onAgain"
			c.Props = append(c.Props, again)
		}, "prop-event", "are both called"},
		"a prop apart from nothing":       {func(c *contract.Contract) { c.Apart = [][]string{{"on"}} }, "props-apart", "apart from nothing"},
		"a prop that is not there":        {func(c *contract.Contract) { c.Apart = [][]string{{"on", "nobody"}} }, "props-apart", "no prop"},
		"a prop in two groups":            {func(c *contract.Contract) { c.Apart = [][]string{{"on", "event"}, {"on", "image"}} }, "props-apart", "twice"},
		"a prop with a default apart":     {func(c *contract.Contract) { c.Apart = [][]string{{"on", "text"}} }, "props-apart", "has a default"},
		"what is required apart":          {func(c *contract.Contract) { c.Prop("image").Required = true; c.Apart = [][]string{{"on", "image"}} }, "props-apart", "is required"},
		"another element below the root":  {func(c *contract.Contract) { c.Root.Children[0].As = []string{"section"} }, "part-as", "not the root"},
		"another element that takes more": {func(c *contract.Contract) { c.Root.As = []string{"a"} }, "part-as", "cannot stand for"},
		"the same element again":          {func(c *contract.Contract) { c.Root.As = []string{c.Root.Element} }, "part-as", "cannot stand for"},
		"a root that takes more":          {func(c *contract.Contract) { c.Root.Element, c.Root.As = "button", []string{"div"} }, "part-as", "attributes of its own"},
		"a prop that is named as it":      {func(c *contract.Contract) { c.Root.As, c.Prop("text").Name = []string{"section"}, "as" }, "part-as", "a prop is named as"},
		"a picture that is none": {func(c *contract.Contract) {
			c.Part("photo").Content = contract.Picture{Source: "javascript:x", Width: 1, Height: 1}
		}, "part-picture", "may not be taken"},
		"a picture without a size": {func(c *contract.Contract) { c.Part("photo").Content = contract.Picture{Source: "data:image/svg+xml,x"} }, "part-picture", "a width and a height"},
		"a number of a text": {func(c *contract.Contract) {
			rule(c, contract.NumberIs{Prop: "text", Low: contract.Bound{At: 1, Kind: contract.Inclusive}})
		}, "rule-prop", "no number"},
		"a number between nothing": {func(c *contract.Contract) { rule(c, contract.NumberIs{Prop: "number"}) }, "rule-number", "no bound"},
		"whether a flag is set":    {func(c *contract.Contract) { rule(c, contract.PropSet{Prop: "on", Set: true}) }, "rule-prop", "set or not"},
	} {
		c := grown()
		k.spoil(c)
		found := c.Check(token.Empty())
		assert.True(t, slices.ContainsFunc(found, func(p problem.Problem) bool { return p.Rule == k.rule && strings.Contains(p.Message, k.message) }), "%s: %s", name, found)
	}
}

// A part of a list is there once for each item, with the item's values, and not at all for an
// empty one; an image that is not there leaves its place to what stands for it.
func TestPartsFollowTheirData(t *testing.T) {
	c := grown()
	c.Rules = append(c.Rules, contract.Rule{Part: "entry", When: contract.Of(flag("list.current", true)), Set: contract.Style{"opacity": "0.5"}})
	resolve := func(values contract.Values) *contract.Resolved {
		return contract.Resolve(c, contract.EnvOf(values), token.Empty())
	}
	empty := resolve(nil)
	assert.False(t, empty.Find("item").Shown)
	assert.True(t, empty.Find("none").Shown)
	assert.Nil(t, empty.Find("photo").Image)
	assert.NotNil(t, empty.Find("mark").Icon, "its default is not drawn")
	assert.Equal(t, "2", empty.Find("count").Text)

	items := contract.ListValue{{"label": contract.TextValue("Plots")}, {"label": contract.TextValue("Rota"), "current": contract.FlagValue(true)}}
	full := resolve(contract.Values{"list": items, "image": contract.SampleImage(1)})
	var keys, texts, opacity []string
	full.Walk(func(r *contract.Resolved) {
		if r.Part.ID == "entry" {
			keys, texts, opacity = append(keys, r.Key()), append(texts, r.Text), append(opacity, r.Values["opacity"].Value)
		}
	})
	assert.Equal(t, []string{"entry", "entry[1]"}, keys)
	c.Prop("list").Type.(contract.List).Items[1].Type = contract.Flag{Initial: true}
	assert.Equal(t, "0.5", resolve(contract.Values{"list": items}).Find("entry").Values["opacity"].Value, "an item does not have its default")
	inner := &contract.Part{ID: "inner", Name: "inner", Element: "span", Repeat: "other"}
	c.Props = append(c.Props, contract.Prop{ID: "other", Name: "other", Type: contract.List{Items: []contract.Prop{{ID: "n", Name: "n", Type: contract.Number{}}}}})
	c.Part("item").Children = append(c.Part("item").Children, inner)
	var nested []string
	resolve(contract.Values{"list": items, "other": contract.ListValue{{}, {}}}).Walk(func(r *contract.Resolved) {
		if r.Part == inner {
			nested = append(nested, r.Key())
		}
	})
	assert.Equal(t, []string{"inner", "inner[0][1]", "inner[1][0]", "inner[1][1]"}, nested)
	assert.Equal(t, []string{"Plots", "Rota"}, texts)
	assert.Equal(t, []string{"", "0.5"}, opacity)
	assert.False(t, full.Find("none").Shown)
	assert.NotNil(t, full.Find("photo").Image)
}

// A flag of a state's name puts the component in it, where a rule asks for it.
func TestFlagsThatAreStates(t *testing.T) {
	c := good()
	c.Props = append(c.Props, contract.Prop{ID: "busy", Name: "loading", Type: contract.Flag{}}, contract.Prop{ID: "locked", Name: "readOnly", Type: contract.Flag{}})
	on := contract.EnvOf(contract.Values{"busy": contract.FlagValue(true), "locked": contract.FlagValue(true)})
	opacity := func(env contract.Env) string { return contract.Resolve(c, env, token.Empty()).Values["gap"].Value }
	assert.Empty(t, opacity(on))
	rule(c, contract.InState{State: "loading"}, contract.InState{State: "read-only"})
	assert.Equal(t, "1px", opacity(on))
	assert.Empty(t, opacity(contract.Env{}))
	assert.Equal(t, "1px", opacity(contract.Env{States: []string{"loading", "read-only"}}))
}

// Whatever is read is written as it is read again, resolves and is laid out: nothing that gets
// past the schema stops the program.
func FuzzContracts(f *testing.F) {
	f.Add(grown().JSON())
	f.Add(good().JSON())
	f.Add(asked.JSON())
	f.Fuzz(func(t *testing.T, text []byte) {
		c, _ := contract.Read("c.json", text, nil)
		if c == nil {
			return
		}
		again, found := contract.Read("c.json", c.JSON(), nil)
		require.NotNil(t, again, "%s\n%s", found, c.JSON())
		require.Equal(t, string(c.JSON()), string(again.JSON()))
		contract.Resolve(c, contract.EnvOf(c.Examples()), token.Empty()).Boxes()
		c.Boxes(contract.Env{}, token.Empty())
	})
}
