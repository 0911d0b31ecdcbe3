package sheet

import (
	"encoding/json"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
)

// bare is a word that is read again as it is.
var bare = regexp.MustCompile(`^[\p{L}\p{Nd}_.:/#%?+-]+$`)

// quoted writes a text as a literal of JSON.
func quoted(s string) string {
	var b strings.Builder
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	if err := e.Encode(s); err != nil {
		panic(err) // strings always encode
	}
	return strings.TrimSuffix(b.String(), "\n")
}

func word(s string) string {
	if bare.MatchString(s) {
		return s
	}
	return quoted(s)
}

// split cuts a text into words; what stands in quotes or braces is one. Quotes that do not end
// reach to the end.
func split(text string) (out []string) {
	var b strings.Builder
	inside := false
	depth := 0
	for i := 0; i < len(text); i++ {
		ch := text[i]
		switch {
		case inside && ch == '\\' && i+1 < len(text):
			b.WriteByte(ch)
			i++
			ch = text[i]
		case ch == '"':
			inside = !inside
		case inside:
		case ch == '{':
			depth++
		case ch == '}':
			depth = max(0, depth-1)
		case depth == 0 && (ch == ' ' || ch == '\t' || ch == '\n'):
			if b.Len() > 0 {
				out = append(out, b.String())
				b.Reset()
			}
			continue
		}
		b.WriteByte(ch)
	}
	if b.Len() > 0 {
		out = append(out, b.String())
	}
	return out
}

// unquoted reads a word that may stand in quotes.
func unquoted(s string) (string, error) {
	if !strings.HasPrefix(s, `"`) {
		return s, nil
	}
	var out string
	if err := json.Unmarshal([]byte(s), &out); err != nil {
		return "", fmt.Errorf("the quotes of %s do not end, or hold what they cannot", s)
	}
	return out, nil
}

// kindForms say how each kind is written.
var kindForms = []string{
	"text", "text, at most 24", "rich text", "rich text, in a line", "flag", "choice s m l", "number", "number from 0 to 10 step 1", "image", "image 16/9", "link", "icon", "slot", "slot for Tag", "list", "list, at most 5", "event click of root",
}

func kindText(c *contract.Contract, p *contract.Prop) string {
	switch t := p.Type.(type) {
	case contract.Text:
		return "text" + atMost(t.Longest)
	case contract.Rich:
		line := ""
		if t.Line {
			line = ", in a line"
		}
		return "rich text" + line + atMost(t.Longest)
	case contract.Choice:
		return "choice " + joined(t.Options)
	case contract.Number:
		out := "number"
		for _, b := range []struct {
			word string
			at   *float64
		}{{"from", t.Least}, {"to", t.Most}} {
			if b.at != nil {
				out += " " + b.word + " " + css.FormatNumber(*b.at)
			}
		}
		if t.Step > 0 {
			out += " step " + css.FormatNumber(t.Step)
		}
		return out
	case contract.Image:
		if t.Aspect == 0 {
			return "image"
		}
		return "image " + aspectText(t.Aspect)
	case contract.Icon:
		return strings.TrimSpace("icon " + joined(t.Names()))
	case contract.Slot:
		if len(t.Accepts) > 0 {
			return "slot for " + strings.Join(t.Accepts, " ")
		}
	case contract.List:
		return "list" + atMost(t.Most)
	case contract.Event:
		if p.Part != "" {
			return "event " + t.On + " of " + partName(c, p.Part)
		}
		return "event " + t.On
	}
	return string(p.Kind())
}

func joined(words []string) string {
	return strings.Join(wordsOf(words), " ")
}

func atMost(n int) string {
	if n == 0 {
		return ""
	}
	return ", at most " + strconv.Itoa(n)
}

// aspectText writes width by height as a ratio of whole numbers, where there is a small one.
func aspectText(aspect float64) string {
	for h := 1; h <= 32; h++ {
		if w := aspect * float64(h); w >= 1 && math.Abs(w-float64(int(w+0.5))) < 1e-6*w {
			return fmt.Sprintf("%d/%d", int(w+0.5), h)
		}
	}
	return css.FormatNumber(aspect)
}

// readKind reads a kind as kindText writes it, for a prop that may be of another now: what both
// have in common stays. Icons gives a drawing of the library by its name; nil for none.
func readKind(c *contract.Contract, was *contract.Prop, text string, icons func(string) *contract.Vector) (t contract.Type, part string, err error) {
	words := split(strings.ReplaceAll(text, ",", " "))
	if len(words) == 0 {
		return nil, "", fmt.Errorf("expected a kind: %s", kindList())
	}
	k := kindReader{words: words[1:], text: text, icons: icons}
	if words[0] == "rich" {
		k.take("text")
	}
	before := "" // the default as text
	if was != nil && was.Type != nil && was.Type.Default() != nil {
		before = was.Type.Default().String()
	}
	switch words[0] {
	case "text":
		if before == "" && was != nil {
			before = contract.Capitalized(strings.Join(contract.Words(was.Name), " "))
		}
		t = contract.Text{Initial: before, Longest: k.most()}
	case "rich":
		rich := contract.Rich{}
		if k.take("in") {
			k.take("a")
			rich.Line = k.take("line")
		}
		if rich.Longest = k.most(); before != "" {
			rich.Initial = contract.Plain(before)
		}
		t = rich
	case "flag":
		t = contract.Flag{}
	case "choice":
		options := []string{}
		for len(k.words) > 0 {
			o, err := unquoted(k.next())
			if err != nil {
				return nil, "", err
			}
			if o == "|" {
				continue
			}
			if slices.Contains(options, o) {
				return nil, "", fmt.Errorf("the option %s stands there twice", o)
			}
			options = append(options, o)
		}
		if len(options) == 0 {
			return nil, "", fmt.Errorf("expected its options, as in choice s m l")
		}
		t = contract.Choice{Options: options, Initial: options[0]}
	case "number":
		t, err = k.number(before)
	case "image":
		image := contract.Image{}
		if len(k.words) > 0 {
			image.Aspect, err = ratio(k.next())
		}
		t = image
	case "link":
		t = contract.Link{}
	case "icon":
		t, err = k.icon(was)
	case "slot":
		slot := contract.Slot{}
		if k.take("for") {
			slot.Accepts, k.words = k.words, nil
		}
		t = slot
	case "list":
		list := contract.List{Items: []contract.Prop{{ID: "text", Name: "text", Type: contract.Text{Initial: "Text"}}}}
		if was != nil {
			if l, ok := was.Type.(contract.List); ok {
				list.Items = l.Items
			}
		}
		list.Most = k.most()
		t = list
	case "event":
		on := k.next()
		if on == contract.Told {
			t = contract.Event{On: on}
			break
		}
		if !slices.Contains(contract.Events, on) {
			return nil, "", fmt.Errorf("expected an event, as in event click of root, or event told: %s", strings.Join(contract.Events, ", "))
		}
		part = c.Root.ID
		if k.take("of") {
			name := k.next()
			p := partNamed(c, name)
			if p == nil {
				return nil, "", fmt.Errorf("there is no part %s; expected one of %s", name, strings.Join(partNames(c), ", "))
			}
			part = p.ID
		}
		t = contract.Event{On: on}
	default:
		return nil, "", fmt.Errorf("%s is no kind; expected %s", word(words[0]), kindList())
	}
	if err == nil && k.err != nil {
		err = k.err
	}
	if err == nil && len(k.words) > 0 {
		err = fmt.Errorf("%s is too much; a %s is written as %s", word(k.words[0]), t.Kind(), formOf(words[0]))
	}
	return t, part, err
}

func kindList() string {
	out := make([]string, len(contract.PropKinds))
	for i, k := range contract.PropKinds {
		out[i] = string(k)
	}
	return strings.Join(out, ", ")
}

func formOf(kind string) string {
	out := kind
	for _, f := range kindForms {
		if strings.HasPrefix(f, kind) {
			out = f
		}
	}
	return out
}

type kindReader struct {
	words []string
	text  string
	err   error
	icons func(string) *contract.Vector
}

func (k *kindReader) take(word string) bool {
	if len(k.words) > 0 && k.words[0] == word {
		k.words = k.words[1:]
		return true
	}
	return false
}

func (k *kindReader) next() string {
	if len(k.words) == 0 {
		return ""
	}
	w := k.words[0]
	k.words = k.words[1:]
	return w
}

// most reads "at most 24"; 0 for no limit.
func (k *kindReader) most() int {
	if !k.take("at") {
		return 0
	}
	k.take("most")
	n, err := strconv.Atoi(k.next())
	if err != nil || n < 1 || n > 100_000 {
		k.err = fmt.Errorf("expected a whole number from 1 to 100000 behind at most")
	}
	return n
}

func (k *kindReader) number(before string) (contract.Type, error) {
	n := contract.Number{}
	if x, err := strconv.ParseFloat(before, 64); err == nil {
		n.Initial = &x
	}
	for len(k.words) > 0 {
		name := k.next()
		x, err := strconv.ParseFloat(k.next(), 64)
		if err != nil || x-x != 0 {
			return n, fmt.Errorf("expected a number behind %s", name)
		}
		switch name {
		case "from":
			n.Least = &x
		case "to":
			n.Most = &x
		case "step":
			if n.Step = x; x <= 0 {
				return n, fmt.Errorf("a step is more than 0")
			}
		default:
			return n, fmt.Errorf("%s is too much; a number is written as %s", word(name), formOf("number"))
		}
	}
	if n.Initial != nil && !n.Takes(contract.NumberValue(*n.Initial)) {
		n.Initial = nil
	}
	return n, nil
}

// icon keeps the drawings that are named, and takes others from the library; all that it has when none is named.
func (k *kindReader) icon(was *contract.Prop) (contract.Type, error) {
	var old contract.Icon
	if was != nil {
		old, _ = was.Type.(contract.Icon)
	}
	if len(k.words) == 0 && len(old.Options) > 0 {
		return old, nil
	}
	out := contract.Icon{Initial: old.Initial}
	for len(k.words) > 0 {
		name, err := unquoted(k.next())
		if err != nil {
			return nil, err
		}
		v := old.Named(name)
		if v == nil {
			v = k.icons(name)
		}
		if v == nil {
			return nil, fmt.Errorf("there is no icon %s, here or in the library: drop its SVG file among the icons, or make a prop of a part that shows it", name)
		}
		out.Options = append(out.Options, contract.NamedIcon{Name: name, Vector: *v})
	}
	if len(out.Options) == 0 {
		return nil, fmt.Errorf("an icon has drawings: name some of the library, as in icon leaf drop, or make a prop of a part that shows one")
	}
	if out.Initial != "" && out.Named(out.Initial) == nil {
		out.Initial = out.Options[0].Name
	}
	return out, nil
}

func ratio(text string) (float64, error) {
	w, h, two := strings.Cut(text, "/")
	a, err := strconv.ParseFloat(w, 64)
	b := 1.0
	if err == nil && two {
		b, err = strconv.ParseFloat(h, 64)
	}
	if err != nil || !(a > 0 && b > 0) || a/b > 1000 {
		return 0, fmt.Errorf("expected width by height, as in image 16/9")
	}
	return a / b, nil
}

// required is how a prop without a default that has to be given says so.
const required = "required"

func defaultText(p *contract.Prop) string {
	if p.Required {
		return required
	}
	v := p.Type.Default()
	if v == nil || p.Kind() == contract.ListKind {
		return ""
	}
	switch p.Kind() {
	case contract.TextKind, contract.RichKind:
		return quoted(v.String())
	case contract.ChoiceKind, contract.IconKind:
		return word(v.String())
	}
	return v.String()
}

// readDefault sets what a prop is when nobody gives it.
func readDefault(p *contract.Prop, text string) error {
	if text == defaultText(p) {
		return nil
	}
	if p.Type.Control() == "none" || p.Kind() == contract.ListKind || p.Kind() == contract.ImageKind {
		if text == required || text == "" {
			p.Required = text == required && p.Kind() != contract.EventKind
			return nil
		}
		return fmt.Errorf("a %s has no default; it can be required, or not", p.Kind())
	}
	if text == required {
		switch p.Kind() {
		case contract.FlagKind, contract.ChoiceKind:
			return fmt.Errorf("a %s always has a default", p.Kind())
		}
		if v := p.Type.Default(); v != nil && p.Example == nil {
			p.Example = v
		}
		p.Required = true
		return nil
	}
	v, err := readValue(p.Type, text)
	if err != nil {
		return err
	}
	p.Required = false
	if v == nil {
		return withoutDefault(p)
	}
	p.SetDefault(v)
	return nil
}

func withoutDefault(p *contract.Prop) error {
	switch t := p.Type.(type) {
	case contract.Text:
		t.Initial = ""
		p.Type = t
	case contract.Rich:
		t.Initial = nil
		p.Type = t
	case contract.Number:
		t.Initial = nil
		p.Type = t
	case contract.Link:
		t.Initial = ""
		p.Type = t
	case contract.Icon:
		t.Initial = ""
		p.Type = t
	default:
		return fmt.Errorf("a %s always has a default", p.Kind())
	}
	return nil
}

// readValue reads a value as it is typed, words without quotes; nil for nothing typed.
func readValue(t contract.Type, text string) (contract.Value, error) {
	if text == "" {
		return nil, nil
	}
	raw := []byte(text)
	blocks := t.Kind() == contract.RichKind && strings.HasPrefix(text, "[{")
	switch t.Kind() {
	case contract.TextKind, contract.RichKind, contract.LinkKind, contract.ChoiceKind, contract.IconKind:
		if blocks {
			break
		}
		plain, err := unquoted(text)
		if err != nil {
			return nil, err
		}
		raw = []byte(quoted(plain))
	}
	if !json.Valid(raw) {
		raw = []byte(quoted(text)) // the kind says what it expects
	}
	v, err := t.Decode(raw)
	if err == nil && !t.Takes(v) {
		err = fmt.Errorf("%s is not one of its values", text)
	}
	return v, err
}

func partNamed(c *contract.Contract, name string) (found *contract.Part) {
	c.Walk(func(p, _ *contract.Part) {
		if p.Name == name {
			found = p
		}
	})
	return found
}

func partNames(c *contract.Contract) (out []string) {
	c.Walk(func(p, _ *contract.Part) { out = append(out, p.Name) })
	return out
}

// propText writes a prop as a part is bound to it, an item's with its list: {links.label}.
func propText(c *contract.Contract, id string) string {
	list, _, nested := strings.Cut(id, ".")
	p := c.Prop(id)
	if p == nil {
		return "{" + id + "}"
	}
	if nested {
		return "{" + c.Prop(list).Name + "." + p.Name + "}"
	}
	return "{" + p.Name + "}"
}

// propNamed finds a prop by its name in braces, and gives its id from outside.
func propNamed(c *contract.Contract, text string) (id string, err error) {
	name := strings.TrimSpace(strings.TrimSuffix(strings.TrimPrefix(text, "{"), "}"))
	var names []string
	c.EachProp(func(at string, p *contract.Prop) {
		full := p.Name
		if list, _, nested := strings.Cut(at, "."); nested {
			full = c.Prop(list).Name + "." + p.Name
		}
		if names = append(names, full); full == name {
			id = at
		}
	})
	if id == "" {
		if len(names) == 0 {
			return "", fmt.Errorf("there is no prop %s: none is declared", name)
		}
		return "", fmt.Errorf("there is no prop %s; expected one of %s", name, strings.Join(names, ", "))
	}
	return id, nil
}
