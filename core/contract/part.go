package contract

import (
	"encoding/json"
	"maps"
	"slices"
)

// Part is one element of the component. Rules refer to it by its id, which stays
// when the name changes.
type Part struct {
	ID         string
	Name       string
	Element    string               // of a use of a component none: that has its own
	As         []string             // of the root: other elements that a use may make of it
	Level      string               // id of the number that says which heading it is, 1 to 6; the element's when empty
	Attributes map[string]Attribute // by name, as HTML has them
	Layer      string               // names from the variant's root down to the layer it was drawn from
	Drawn      []string             // ids of that layer, in each variant
	Style      Style
	Content    Content // what it shows; nil for nothing but its children
	ShownWhen  When    // props that have to be so for it to be there
	Repeat     string  // id of the list it is there for each item of; empty for once
	Children   []*Part // beside what it shows; of an image or a slot what stands there when there is none, of a use what stands in its slots
}

// Attribute is an attribute's value: a text that never changes, a prop's value, by the
// prop's id, or the place of another part, by its id (HTML's for, ARIA's labelledby).
type Attribute struct {
	Text string `json:"text,omitempty"`
	Prop string `json:"prop,omitempty"`
	Part string `json:"part,omitempty"`
}

// Content is what a part shows: a TextOf, FixedText, ImageOf, IconOf, SlotOf, *Use,
// *Vector or Picture. It is sealed.
type Content interface{ isContent() }

type (
	// TextOf shows a text, rich text or number, by the prop's id.
	TextOf struct{ Prop string }
	// ImageOf shows an image, by the prop's id. Its part is an img.
	ImageOf struct{ Prop string }
	// IconOf shows an icon, by the prop's id. Its part is an svg.
	IconOf struct{ Prop string }
	// SlotOf shows what stands in a slot, by the prop's id.
	SlotOf struct{ Prop string }
	// FixedText never changes.
	FixedText struct{ Text string }
	// Picture is a picture of the drawing that never changes; without Alt it is decoration. Source
	// is an address that holds it (RFC 2397), and its part an img; without one it stands for a
	// picture that nobody gave.
	Picture struct {
		Alt    string  `json:"alt,omitempty"`
		Source string  `json:"src,omitempty"`
		Width  float64 `json:"width,omitempty"` // px
		Height float64 `json:"height,omitempty"`
	}
	// Vector is a small drawing of SVG paths; without a label it is decoration.
	Vector struct {
		ViewBox [4]float64 `json:"viewBox"`
		Paths   []Path     `json:"paths"`
		Label   string     `json:"label,omitempty"`
	}
)

func (TextOf) isContent()    {}
func (ImageOf) isContent()   {}
func (IconOf) isContent()    {}
func (SlotOf) isContent()    {}
func (FixedText) isContent() {}
func (Picture) isContent()   {}
func (*Vector) isContent()   {}

// Path is SVG path data; without a fill of its own it takes the part's. A fill of
// none leaves it open.
type Path struct {
	D      string     `json:"d"`
	Fill   string     `json:"fill,omitempty"`
	Rule   string     `json:"rule,omitempty"` // evenodd; nonzero without (SVG 2, 13.4.2)
	Stroke PathStroke `json:"stroke,omitzero"`
}

// PathStroke is a line along a path, half on either side; in units of the view
// box. The zero value is none.
type PathStroke struct {
	Color string  `json:"color"`
	Width float64 `json:"width"`
	Cap   string  `json:"cap,omitempty"`  // butt, round or square
	Join  string  `json:"join,omitempty"` // miter, round or bevel

	Miter      float64 `json:"miter,omitempty"` // how far a mitred corner may reach, in halves of the width; 4 when 0
	Dash       string  `json:"dash,omitempty"`  // lengths of dashes and gaps by turns, as stroke-dasharray has them
	DashOffset float64 `json:"dashOffset,omitempty"`
}

// IsText tells whether the part shows text, fixed or a prop's.
func (p *Part) IsText() bool {
	switch p.Content.(type) {
	case TextOf, FixedText:
		return true
	}
	return false
}

// TextProp gives the id of the prop whose text the part shows; empty for none.
func (p *Part) TextProp() string {
	t, _ := p.Content.(TextOf)
	return t.Prop
}

// Vector gives the drawing the part shows; nil for none.
func (p *Part) Vector() *Vector {
	v, _ := p.Content.(*Vector)
	return v
}

// partJSON is a part as it is stored: of what it shows, one member at most is there.
type partJSON struct {
	ID         string               `json:"id"`
	Name       string               `json:"name"`
	Element    string               `json:"element,omitempty"`
	As         []string             `json:"as,omitempty"`
	Level      string               `json:"level,omitempty"`
	Attributes map[string]Attribute `json:"attributes,omitempty"`
	Layer      string               `json:"layer,omitempty"`
	Drawn      []string             `json:"drawn,omitempty"`
	Style      Style                `json:"style,omitempty"`
	Text       string               `json:"text,omitempty"`
	Image      string               `json:"image,omitempty"`
	Icon       string               `json:"icon,omitempty"`
	Slot       string               `json:"slot,omitempty"`
	Use        *useJSON             `json:"use,omitempty"`
	FixedText  *string              `json:"fixedText,omitempty"`
	Vector     *Vector              `json:"vector,omitempty"`
	Picture    *Picture             `json:"picture,omitempty"`
	ShownWhen  *When                `json:"shownWhen,omitempty"`
	Repeat     string               `json:"repeat,omitempty"`
	Children   []*Part              `json:"children,omitempty"`
}

// MarshalJSON writes the part with its content as one member.
func (p Part) MarshalJSON() ([]byte, error) {
	out := partJSON{ID: p.ID, Name: p.Name, Element: p.Element, As: p.As, Level: p.Level, Attributes: p.Attributes, Layer: p.Layer, Drawn: p.Drawn, Style: p.Style, Repeat: p.Repeat, Children: p.Children}
	switch c := p.Content.(type) {
	case TextOf:
		out.Text = c.Prop
	case ImageOf:
		out.Image = c.Prop
	case IconOf:
		out.Icon = c.Prop
	case SlotOf:
		out.Slot = c.Prop
	case *Use:
		out.Use = &useJSON{c.Component, c.Given, c.All}
	case FixedText:
		out.FixedText = &c.Text
	case *Vector:
		out.Vector = c
	case Picture:
		out.Picture = &c
	}
	if !p.ShownWhen.Always() {
		out.ShownWhen = &p.ShownWhen
	}
	return json.Marshal(out)
}

// UnmarshalJSON reads what MarshalJSON writes.
func (p *Part) UnmarshalJSON(text []byte) error {
	var in partJSON
	if err := json.Unmarshal(text, &in); err != nil {
		return err
	}
	*p = Part{ID: in.ID, Name: in.Name, Element: in.Element, As: in.As, Level: in.Level, Attributes: in.Attributes, Layer: in.Layer, Drawn: in.Drawn, Style: in.Style, Repeat: in.Repeat, Children: in.Children}
	switch {
	case in.Text != "":
		p.Content = TextOf{in.Text}
	case in.Image != "":
		p.Content = ImageOf{in.Image}
	case in.Icon != "":
		p.Content = IconOf{in.Icon}
	case in.Slot != "":
		p.Content = SlotOf{in.Slot}
	case in.Use != nil:
		p.Content = &Use{Component: in.Use.Component, Given: in.Use.Given, All: in.Use.All}
	case in.FixedText != nil:
		p.Content = FixedText{*in.FixedText}
	case in.Vector != nil:
		p.Content = in.Vector
	case in.Picture != nil:
		p.Content = *in.Picture
	}
	if in.ShownWhen != nil {
		p.ShownWhen = *in.ShownWhen
	}
	return nil
}

func (p *Part) clone() *Part {
	out := *p
	out.Style = maps.Clone(p.Style)
	out.Attributes = maps.Clone(p.Attributes)
	out.Drawn, out.As = slices.Clone(p.Drawn), slices.Clone(p.As)
	if u := p.Use(); u != nil {
		out.Content = u.clone()
	}
	out.Children = make([]*Part, len(p.Children))
	for i, child := range p.Children {
		out.Children[i] = child.clone()
	}
	if len(out.Children) == 0 {
		out.Children = nil
	}
	return &out
}
