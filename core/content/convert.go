package content

import (
	"cmp"
	"encoding/json"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"cobrik/core/contract"
)

// Binding says where a prop's value comes from: a field, a text with fields in it, or a value that is the same for every
// record. Of these, the first that is not empty.
type Binding struct {
	Field   string            `json:"field,omitempty"`   // its path
	Text    string            `json:"text,omitempty"`    // with {path} where a field stands; {{ and }} are braces
	Value   json.RawMessage   `json:"value,omitempty"`   // as the prop's type reads it
	Alt     string            `json:"alt,omitempty"`     // of a picture: the field that says what it shows
	Locale  string            `json:"locale,omitempty"`  // of numbers and dates that become text, BCP 47
	Style   string            `json:"style,omitempty"`   // of dates that become text, one of DateStyles
	Options map[string]string `json:"options,omitempty"` // of a choice or an icon: the option for what a field says, where that is not its name
}

// Loss is what goes wrong when a record is given to a prop.
type Loss string

const (
	MissingLoss Loss = "missing" // the record does not say it
	MarksLoss   Loss = "marks"   // rich text becomes plain
	BlocksLoss  Loss = "blocks"  // rich text of several blocks is put into a line
	ElementLoss Loss = "element" // HTML that is not kept
	LengthLoss  Loss = "length"  // longer than the prop allows
	KindLoss    Loss = "kind"    // it is no such value: a number, a date, an address, an option
	AltLoss     Loss = "alt"     // a picture says nothing in words
	SizeLoss    Loss = "size"    // a picture of unknown size: the page moves while it loads
)

// Note is one thing that goes wrong with one value.
type Note struct {
	Loss Loss
	What string // in words: which marks, which element, which value
}

// pieces are the fields in a text.
var pieces = regexp.MustCompile(`\{\{|\}\}|\{[^{}]+\}`)

// Convert gives what a prop shows of a record, with what goes wrong. A nil value is none: the prop has its default then.
func Convert(p contract.Prop, b Binding, r Record) (contract.Value, []Note) {
	switch {
	case b.Field != "":
		raw, ok := r[b.Field]
		if !ok || isNothing(raw) {
			return nil, []Note{{MissingLoss, b.Field}}
		}
		return convert(p, b, r, raw)
	case b.Text != "":
		text, notes := filled(b, r)
		if len(notes) > 0 && strings.TrimSpace(text) == "" {
			return nil, notes
		}
		v, more := convert(p, b, r, text)
		return v, append(notes, more...)
	case b.Value != nil:
		v, err := p.Type.Decode(b.Value)
		if err != nil {
			return nil, []Note{{KindLoss, err.Error()}}
		}
		return v, nil
	}
	return nil, nil
}

// filled puts fields into a text.
func filled(b Binding, r Record) (string, []Note) {
	var notes []Note
	out := pieces.ReplaceAllStringFunc(b.Text, func(piece string) string {
		if piece == "{{" || piece == "}}" {
			return piece[:1]
		}
		field := strings.TrimSpace(piece[1 : len(piece)-1])
		raw, ok := r[field]
		if !ok || isNothing(raw) {
			notes = append(notes, Note{MissingLoss, field})
			return ""
		}
		return inWords(b, raw)
	})
	return out, notes
}

// inWords is a value in a text: numbers and dates as the language writes them, where one is said.
func inWords(b Binding, raw any) string {
	text := plainText(raw)
	if b.Locale == "" && b.Style == "" {
		return text
	}
	if d, ok := ReadDay(strings.TrimSpace(text)); ok {
		return FormatDay(d, b.Locale, b.Style)
	}
	if v, err := strconv.ParseFloat(strings.TrimSpace(text), 64); err == nil && isNumber(strings.TrimSpace(text)) && b.Locale != "" {
		return FormatNumber(v, b.Locale)
	}
	return text
}

func convert(p contract.Prop, b Binding, r Record, raw any) (contract.Value, []Note) {
	text := strings.TrimSpace(plainText(raw))
	wrong := func() (contract.Value, []Note) { return nil, []Note{{KindLoss, short(text)}} }
	switch t := p.Type.(type) {
	case contract.Text:
		v, notes := plain(b, raw)
		return contract.TextValue(v), append(notes, tooLong(utf8.RuneCountInString(v), t.Longest)...)
	case contract.Rich:
		return rich(t, text)
	case contract.Number:
		n, err := strconv.ParseFloat(text, 64)
		if err != nil || math.IsInf(n, 0) || math.IsNaN(n) || !t.Takes(contract.NumberValue(n)) {
			return wrong()
		}
		return contract.NumberValue(n), nil
	case contract.Flag:
		switch strings.ToLower(text) {
		case "true", "yes", "1":
			return contract.FlagValue(true), nil
		case "false", "no", "0":
			return contract.FlagValue(false), nil
		}
		return wrong()
	case contract.Choice:
		if o := optionOf(b, text, t.Options); o != "" {
			return contract.OptionValue(o), nil
		}
		return wrong()
	case contract.Icon:
		if o := optionOf(b, text, t.Names()); o != "" {
			return contract.IconValue(o), nil
		}
		return wrong()
	case contract.Link:
		if v, err := t.Decode(mustJSON(text)); err == nil {
			return v, nil
		}
		return wrong()
	case contract.Image:
		return picture(t, b, r, raw)
	}
	return nil, []Note{{KindLoss, fmt.Sprintf("a %s takes no field", p.Kind())}}
}

func short(text string) string {
	if letters := []rune(text); len(letters) > 60 {
		return string(letters[:59]) + "…"
	}
	return text
}

// plain is what a text prop shows: rich text without its marks, which are told.
func plain(b Binding, raw any) (string, []Note) {
	text := inWords(b, raw)
	s, ok := raw.(string)
	if !ok || !hasMarks(s) || text != s {
		return text, nil
	}
	v, lost, err := Rich(s)
	if err != nil {
		return text, nil
	}
	var marks []string
	for _, block := range v {
		if block.Kind != "paragraph" && !slices.Contains(marks, block.Kind) {
			marks = append(marks, block.Kind)
		}
		for _, run := range block.Runs {
			for _, m := range marksOf(run) {
				if !slices.Contains(marks, m) {
					marks = append(marks, m)
				}
			}
		}
	}
	if len(v) > 1 && !slices.Contains(marks, "paragraph") && slices.ContainsFunc(v, func(b contract.Block) bool { return b.Kind == "paragraph" }) {
		marks = append(marks, "paragraph")
	}
	marks = append(marks, lost...)
	if len(marks) == 0 {
		return text, nil
	}
	return strings.Join(strings.Fields(v.String()), " "), []Note{{MarksLoss, strings.Join(marks, ", ")}}
}

func rich(t contract.Rich, text string) (contract.Value, []Note) {
	v, lost, err := Rich(text)
	if err != nil {
		return nil, []Note{{KindLoss, err.Error()}}
	}
	var notes []Note
	if len(lost) > 0 {
		notes = append(notes, Note{ElementLoss, strings.Join(lost, ", ")})
	}
	if t.Line && !v.Inline() {
		if len(v) > 1 || len(v) == 1 && v[0].Kind != "paragraph" {
			kinds := []string{}
			for _, b := range v {
				if !slices.Contains(kinds, b.Kind) {
					kinds = append(kinds, b.Kind)
				}
			}
			notes = append(notes, Note{BlocksLoss, strings.Join(kinds, ", ")})
		}
		v = inLine(v)
	}
	if len(v) == 0 {
		return nil, notes
	}
	return v, append(notes, tooLong(utf8.RuneCountInString(v.String()), t.Longest)...)
}

// inLine puts blocks into one that stands in a line.
func inLine(v contract.RichValue) contract.RichValue {
	var runs []contract.Run
	for i, b := range v {
		if i > 0 && len(runs) > 0 {
			runs = append(runs, contract.Run{Text: " "})
		}
		runs = append(runs, b.Runs...)
	}
	if len(runs) == 0 {
		return nil
	}
	return contract.RichValue{{Runs: runs}}
}

func tooLong(letters, longest int) []Note {
	if longest == 0 || letters <= longest {
		return nil
	}
	return []Note{{LengthLoss, fmt.Sprintf("%d letters of %d", letters, longest)}}
}

// optionOf finds the option that a text stands for: as it is bound, by its name, by its words.
func optionOf(b Binding, text string, options []string) string {
	if o, ok := b.Options[text]; ok && slices.Contains(options, o) {
		return o
	}
	if slices.Contains(options, text) {
		return text
	}
	words := strings.Join(contract.Words(text), " ")
	for _, o := range options {
		if words != "" && strings.Join(contract.Words(o), " ") == words {
			return o
		}
	}
	return ""
}

// picture is an image of a field: an address, or an object with one. A size that is not said is taken from the shape that
// the prop's pictures should have, else 4 by 3.
func picture(t contract.Image, b Binding, r Record, raw any) (contract.Value, []Note) {
	v := contract.ImageValue{}
	number := func(of any) float64 {
		n, err := strconv.ParseFloat(plainText(of), 64)
		if err != nil || math.IsInf(n, 0) || math.IsNaN(n) {
			return 0
		}
		return n
	}
	switch raw := raw.(type) {
	case map[string]any:
		src, _ := raw["src"].(string)
		address, _ := raw["url"].(string)
		v.Source = cmp.Or(src, address)
		v.Alt, _ = raw["alt"].(string)
		v.Width, v.Height = number(raw["width"]), number(raw["height"])
	default:
		v.Source = strings.TrimSpace(plainText(raw))
	}
	var notes []Note
	if b.Alt != "" {
		v.Alt = strings.TrimSpace(plainText(r[b.Alt]))
	}
	if strings.TrimSpace(v.Alt) == "" {
		notes = append(notes, Note{AltLoss, short(v.Source)})
	}
	if v.Width <= 0 || v.Height <= 0 {
		notes = append(notes, Note{SizeLoss, short(v.Source)})
		aspect := t.Aspect
		if aspect == 0 {
			aspect = 4.0 / 3
		}
		v.Width, v.Height = 320, math.Max(1, math.Round(320/aspect))
	}
	if !t.Takes(v) {
		return nil, []Note{{KindLoss, short(v.Source)}}
	}
	return v, notes
}
