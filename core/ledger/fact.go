// Package ledger lays what the design, the contract and the built component
// say of each part side by side and tells who moved.
package ledger

import (
	"cobrik/core/css"
	"cobrik/core/draft"
	"math"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/token"
)

// Facets that are not of styles; css has the others.
const (
	Shape   css.Facet = "shape"
	Props   css.Facet = "props"
	Content css.Facet = "content"
	Access  css.Facet = "access"
)

// Facets in the order a ledger shows them.
var Facets = []css.Facet{Shape, Props, css.Size, css.Space, css.Paint, css.Type, Content, Access}

// Statement is what one side says of a fact.
type Statement struct {
	Value      string `json:"value" doc:"In comparable form: 8px, #4a7c59"`
	Expression string `json:"expression,omitempty" doc:"As written, with {token.path} references, when that differs from the value"`
}

// Fact is one thing the three sides may say of a part in one case. A side that
// has nothing to say is nil.
type Fact struct {
	Part     string     `json:"part" doc:"Its id"`
	Name     string     `json:"name" doc:"The part's name"`
	Property string     `json:"property" doc:"A CSS property, or shown, text, width, height, role, name, level"`
	Facet    css.Facet  `json:"facet" enum:"shape,props,size,space,paint,type,content,access"`
	Design   *Statement `json:"design,omitempty"`
	Contract *Statement `json:"contract,omitempty"`
	Built    *Statement `json:"built,omitempty"`
	Verdict  Verdict    `json:"verdict" enum:"agree,design moved,contract moved,code moved,several moved,missing"`
	Apart    bool       `json:"apart,omitempty" doc:"Several moved, and not the same way"`
	Follows  string     `json:"follows,omitempty" doc:"The fact this one follows from, in words"`
	Kept     bool       `json:"kept,omitempty" doc:"The design differs, and it was decided to keep the contract's side"`
	SaidBy   string     `json:"saidBy,omitempty" doc:"Part whose style or rule says the contract's value"`
	When     string     `json:"when,omitempty" doc:"Condition of the rule that says it, in words; empty for the part's own style"`
	WhenKey  string     `json:"whenKey,omitempty" doc:"The same condition, as an edit takes it"`
}

// Verdict says which side moved from what was agreed. The code has moved when it says
// neither what the contract says nor what was agreed: what is emitted follows the contract.
type Verdict string

const (
	Agree         Verdict = "agree"
	DesignMoved   Verdict = "design moved"
	ContractMoved Verdict = "contract moved"
	CodeMoved     Verdict = "code moved"
	SeveralMoved  Verdict = "several moved"
	Missing       Verdict = "missing"
)

// Measurement is what the browser measured of one case.
type Measurement struct {
	Case  string         `json:"case"`
	Theme string         `json:"theme,omitempty" doc:"Name of the theme it was measured in; the first when empty"`
	Parts []MeasuredPart `json:"parts"`
}

// MeasuredPart is one rendered element: its border box in CSS px relative to
// the root's, its text, and computed values by property.
type MeasuredPart struct {
	Part   string            `json:"part"`
	Box    design.Rect       `json:"box"`
	Text   string            `json:"text"`
	Style  map[string]string `json:"style"`
	Access *MeasuredAccess   `json:"access,omitempty"`
	Given  map[string]string `json:"given,omitempty" doc:"Of a use, what the code gives for its component's props, by their names: texts, numbers, flags and choices"`
}

// applies tells whether a property is compared for a part: type and colour for
// texts, fill for vectors, flow for parts with children.
func applies(p *contract.Part, property string) bool {
	known, _ := css.PropertyNamed(property)
	isText, isVector := p.IsText(), p.Element == "svg"
	switch {
	case p.Use() != nil:
		return property == "opacity" || property == "rotate"
	case !known.Fact || property == "width" || property == "height":
		return false // sizes are compared as drawn and as measured, below
	case known.Inherited:
		return isText
	case property == "object-fit":
		return p.Element == "img"
	case property == "fill":
		return isVector
	case known.Facet == css.Space, property == "overflow":
		return len(p.Children) > 0
	case isText || isVector:
		return property == "opacity" || property == "rotate"
	}
	return true
}

// drawn gives what a layer draws for the properties that apply to its part,
// initial values included: bound to tokens as it was drawn, with the values of the theme it is
// looked at in.
func drawn(p *contract.Part, l, parent *design.Layer, component string, tokens, values *token.Set) map[string]Statement {
	out := map[string]Statement{}
	style := draft.StyleWithTokens(l, parent, component, tokens)
	fontSize := 0.0
	if l.Text != nil {
		fontSize = l.Text.FontSize
	}
	for _, property := range css.FactProperties() {
		if !applies(p, property) {
			continue
		}
		known, _ := css.PropertyNamed(property)
		expression, said := style[property]
		if !said {
			if property == "border-color" {
				continue // there is no line to have a colour
			}
			out[property] = Statement{Value: known.Initial}
			continue
		}
		out[property] = statement(property, expression, css.CanonicalText(property, contract.ResolveTokens(expression, values), fontSize))
	}
	return out
}

func statement(property, expression, value string) Statement {
	s := Statement{Value: value}
	if strings.Contains(expression, "{") || strings.EqualFold(expression, "currentcolor") {
		s.Expression = expression
	}
	return s
}

// sizeTolerance is how far a measured box may be from the drawn one, in px.
const sizeTolerance = 0.5

// same tells whether two comparable values agree: sizes within half a pixel,
// other lengths within a hundredth, all else to the letter.
func same(property, a, b string) bool {
	if a == b {
		return true
	}
	tolerance := 0.01
	if property == "width" || property == "height" {
		tolerance = sizeTolerance
	}
	x, y := strings.Fields(a), strings.Fields(b)
	if property == "name" { // how blocks in it are told apart is left to browsers (Accessible Name and Description Computation 1.2, 4.3.2, 2F)
		return strings.Join(x, "") == strings.Join(y, "")
	}
	if len(x) != len(y) {
		return false
	}
	for i := range x {
		m, okM := css.Pixels(x[i])
		n, okN := css.Pixels(y[i])
		if x[i] != y[i] && (!okM || !okN || math.Abs(m-n) > tolerance) {
			return false
		}
	}
	return true
}

// sameStatement compares values, and, where both sides name tokens, the tokens:
// a re-pointed reference is a move even when the value stays.
func sameStatement(property string, a, b Statement) bool {
	if !same(property, a.Value, b.Value) {
		return false
	}
	x, y := css.RefsIn(a.Expression), css.RefsIn(b.Expression)
	return len(x) == 0 || len(y) == 0 || strings.Join(x, " ") == strings.Join(y, " ")
}
