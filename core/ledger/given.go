package ledger

import (
	"encoding/json"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/draft"
)

// givenFor begins the property of what a use gives for a prop of its component: "given tone", by
// the prop's id.
const givenFor = "given "

// givenProperties are what is compared of a use beside how it stands.
func givenProperties(p *contract.Part) (out []string) {
	u := p.Use()
	if u == nil || u.Of() == nil {
		return nil
	}
	for _, q := range u.Of().Props {
		if q.Type.Control() != "none" {
			out = append(out, givenFor+q.ID)
		}
	}
	return out
}

// givenProp finds the prop of a use's component that a property is about; nil for none.
func givenProp(p *contract.Part, property string) *contract.Prop {
	id, ok := strings.CutPrefix(property, givenFor)
	if u := p.Use(); ok && u != nil && u.Of() != nil {
		return u.Of().Prop(id)
	}
	return nil
}

// givenText writes a value as people read it; what has parts as JSON.
func givenText(v contract.Value) string {
	switch v := v.(type) {
	case nil:
		return ""
	case contract.ListValue, contract.ImageValue, contract.RichValue:
		return string(draft.Encoded(v))
	}
	return v.String()
}

// builtGiven is what the running code gives for a prop: its default where it gives nothing. Nil for
// what was not measured, as what React renders by itself, rich text among it.
func builtGiven(q *contract.Prop, built *MeasuredPart) *Statement {
	if built == nil || built.Given == nil || !slices.Contains(measurable, q.Kind()) {
		return nil
	}
	if text, ok := built.Given[q.Name]; ok {
		return &Statement{Value: text}
	}
	return &Statement{Value: givenText(q.Default())}
}

// measurable are the kinds of props whose values are told as texts.
var measurable = []contract.Kind{contract.TextKind, contract.ChoiceKind, contract.FlagKind, contract.NumberKind, contract.LinkKind, contract.IconKind}

// givenJSON reads what givenText wrote.
func givenJSON(q *contract.Prop, text string) string {
	quoted, err := json.Marshal(text)
	if err == nil {
		if _, err := q.Type.Decode(quoted); err == nil {
			return string(quoted)
		}
	}
	return text
}

// setCells makes a part say of a property, or a use give for a prop, what the cells say.
func setCells(c *contract.Contract, part, property string, cells []draft.Cell) {
	p := c.Part(part)
	if p == nil || givenProp(p, property) == nil {
		draft.SetCells(c, part, property, cells)
		return
	}
	q := givenProp(p, property)
	encoded := make([]draft.Cell, len(cells))
	for i, k := range cells {
		k.Text = givenJSON(q, k.Text)
		encoded[i] = k
	}
	draft.SetGiven(c, part, q.ID, encoded)
}
