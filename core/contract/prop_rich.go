package contract

import (
	"bytes"
	"encoding/json"
	"fmt"

	"cobrik/core/problem"
)

// RichKind is the kind of a prop that is text with emphasis, links, lists and headings.
const RichKind Kind = "rich text"

// Rich is rich text. In a line it has no blocks.
type Rich struct {
	Initial RichValue `json:"default,omitempty"`
	Line    bool      `json:"line,omitempty"`    // it stands in a line: no paragraphs, headings or lists
	Longest int       `json:"longest,omitempty"` // letters; 0 for any
}

func readRich(text json.RawMessage) (Type, error) {
	var r Rich
	return r, json.Unmarshal(text, &r)
}

func (Rich) Kind() Kind      { return RichKind }
func (Rich) Control() string { return "rich text" }

func (r Rich) Default() Value {
	if r.Initial == nil {
		return nil
	}
	return r.Initial
}

func (r Rich) Takes(v Value) bool {
	rich, ok := v.(RichValue)
	return ok && rich.flaw() == nil && (!r.Line || len(rich) == 0 || rich.Inline())
}

func (r Rich) Decode(text json.RawMessage) (Value, error) {
	var plain string
	if json.Unmarshal(text, &plain) == nil {
		return Plain(plain), nil
	}
	var v RichValue
	d := json.NewDecoder(bytes.NewReader(text))
	d.DisallowUnknownFields()
	if err := d.Decode(&v); err != nil {
		return nil, fmt.Errorf("it is no rich text: %w", err)
	}
	if err := v.flaw(); err != nil {
		return nil, err
	}
	if !r.Takes(v) {
		return nil, fmt.Errorf("it stands in a line: no paragraphs, headings or lists")
	}
	return v, nil
}

func (Rich) Nameable() []Value { return nil }

// Samples are the default, plain text, every kind of run, and, where they may stand, of block.
func (r Rich) Samples() []Value {
	runs := []Run{{Text: "Some "}, {Text: "strong", Strong: true}, {Text: ", "}, {Text: "stressed", Emphasis: true}, {Text: " and "}, {Text: "linked", Link: "#"}, {Text: " text"}}
	out := []Value{r.Default(), Plain("Plain text"), RichValue{{Runs: runs}}}
	if !r.Line {
		out = append(out, RichValue{{Kind: "heading", Level: 3, Runs: []Run{{Text: "A heading"}}}, {Kind: "paragraph", Runs: runs},
			{Kind: "item", Runs: []Run{{Text: "One"}}}, {Kind: "item", Runs: []Run{{Text: "Two", Code: true}}}})
	}
	return out
}

func (r Rich) Changes(name string, older Type) (out []Change) {
	old := older.(Rich)
	if r.Line && !old.Line {
		out = append(out, change(Major, "%s: paragraphs, headings and lists are no longer allowed", name))
	}
	if !Equal(r.Initial, old.Initial) {
		out = append(out, change(Patch, "%s: the default text is another", name))
	}
	return append(out, tighter(name, "letters", r.Longest, old.Longest)...)
}

func (Rich) TypeScript() string { return "ReactNode" }

func (r Rich) Schema() map[string]any {
	return map[string]any{"description": "Blocks of runs of text", "type": "array"}
}

func (r Rich) check(name, at string, found *problem.List) {
	if err := r.Initial.flaw(); err != nil {
		found.Errorf("prop-default", at+"/default", "", "the default of %s: %s", name, err)
	} else if r.Initial != nil && !r.Takes(r.Initial) {
		found.Errorf("prop-default", at+"/default", "write it as one block without a kind", "%s stands in a line, and its default has blocks", name)
	}
	tooLong(name, at, len([]rune(r.Initial.String())), r.Longest, found)
}

func (r Rich) withDefault(v Value) Type {
	r.Initial = v.(RichValue)
	return r
}

func (r Rich) clone() Type { return r }
