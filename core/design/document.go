// Package design is the design document (cobrik.design/1): pages made of
// layers, and families of drawn variants. Lengths are CSS px.
package design

import "strings"

// Format is the value of a document's "format" member.
const Format = "cobrik.design/1"

// Document is one revision of a design.
type Document struct {
	Format   string    `json:"format"`
	ID       string    `json:"id"`
	Name     string    `json:"name"`
	Note     string    `json:"note,omitempty"`   // what this revision changed
	Author   string    `json:"author,omitempty"` // who published it
	Assets   []Asset   `json:"assets,omitempty"`
	Pages    []*Page   `json:"pages"`
	Families []*Family `json:"families"`
}

// Asset is a picture that the document carries, as an address that holds it (RFC 2397), with
// its size in px.
type Asset struct {
	ID     string  `json:"id"`
	Source string  `json:"source"` // data:image/svg+xml,… or data:image/png;base64,…
	Width  float64 `json:"width"`
	Height float64 `json:"height"`
}

// Page is one artboard.
type Page struct {
	ID         string   `json:"id"`
	Name       string   `json:"name"`
	Width      float64  `json:"width"`
	Height     float64  `json:"height"`
	Background string   `json:"background,omitempty"`
	Layers     []*Layer `json:"layers"`
}

// Family is a component as it was drawn: axes, and a layer tree for each
// combination of their values that was drawn.
type Family struct {
	ID          string     `json:"id"`
	Name        string     `json:"name"`
	Description string     `json:"description,omitempty"` // what it is for
	Do          []string   `json:"do,omitempty"`          // how it is meant to be used
	Dont        []string   `json:"dont,omitempty"`        // how it is not
	Axes        []Axis     `json:"axes"`
	Variants    []*Variant `json:"variants"`
}

// Axis is one way in which the variants of a family differ.
type Axis struct {
	Name    string   `json:"name"`
	Values  []string `json:"values"`
	Default string   `json:"default"`
}

// Variant is one drawn combination: a value for each axis.
type Variant struct {
	ID      string            `json:"id"`
	Choices map[string]string `json:"choices"`
	Root    *Layer            `json:"root"`
}

// Kind says what a layer is.
type Kind string

const (
	Group    Kind = "group"
	Box      Kind = "box"
	Text     Kind = "text"
	Vector   Kind = "vector"
	Image    Kind = "image"
	Instance Kind = "instance"
)

// Layer is one element of a drawing.
type Layer struct {
	ID           string            `json:"id"`
	Name         string            `json:"name"`
	Kind         Kind              `json:"kind"`
	Bounds       Rect              `json:"bounds"` // relative to the parent's outer edge
	Hidden       bool              `json:"hidden,omitempty"`
	Opacity      *float64          `json:"opacity,omitempty"`  // 0 to 1; absent is 1
	Rotation     float64           `json:"rotation,omitempty"` // degrees clockwise about the centre
	Clip         bool              `json:"clip,omitempty"`     // children are cut off at the edge
	Blend        string            `json:"blend,omitempty"`    // with what lies behind, one of css.BlendModes; normal when empty
	Fill         string            `json:"fill,omitempty"`     // CSS colour
	Fills        []Fill            `json:"fills,omitempty"`    // over that; the first lies on top
	Stroke       *Stroke           `json:"stroke,omitempty"`
	Shadows      []Shadow          `json:"shadows,omitempty"` // the first lies on top
	Radius       []float64         `json:"radius,omitempty"`  // one, or four from the top left clockwise
	Tokens       map[string]string `json:"tokens,omitempty"`  // CSS property to token path
	Flow         *Flow             `json:"flow,omitempty"`
	Sizing       Sizing            `json:"sizing,omitzero"`
	Limits       Limited           `json:"limits,omitzero"`
	Place        *Place            `json:"place,omitempty"`
	Text         *TextContent      `json:"text,omitempty"`
	Vector       *VectorContent    `json:"vector,omitempty"`
	Image        *ImageContent     `json:"image,omitempty"`
	Alt          string            `json:"alt,omitempty"`
	Link         string            `json:"link,omitempty"`         // where it leads; # when that is not said
	Slot         *SlotContent      `json:"slot,omitempty"`         // it is a place for whatever a use puts there
	Flatten      string            `json:"flatten,omitempty"`      // svg or png: it and what it holds become one picture
	FlattenScale float64           `json:"flattenScale,omitempty"` // pixels a px of a PNG; 2 when 0
	Repeats      bool              `json:"repeats,omitempty"`      // its children are items of a list, alike in shape
	Instance     *InstanceContent  `json:"instance,omitempty"`
	Children     []*Layer          `json:"children,omitempty"`
}

// Rect is a box: origin at the top left, y downwards.
type Rect struct {
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	Width  float64 `json:"width"`
	Height float64 `json:"height"`
}

// Stroke is a line inside the bounds. It takes room, as a CSS border does.
type Stroke struct {
	Color string    `json:"color"`
	Width float64   `json:"width"`
	Sides []float64 `json:"sides,omitempty"` // widths of its own for top, right, bottom and left
}

// Widths gives the line's width at the top, right, bottom and left; none for no stroke.
func (s *Stroke) Widths() [4]float64 {
	switch {
	case s == nil:
		return [4]float64{}
	case len(s.Sides) == 4:
		return [4]float64(s.Sides)
	}
	return expand([]float64{s.Width})
}

// Shadow is a box-shadow as CSS has it (CSS Backgrounds 3, 6.1).
type Shadow struct {
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	Blur   float64 `json:"blur"`
	Spread float64 `json:"spread,omitempty"`
	Color  string  `json:"color"`
	Inset  bool    `json:"inset,omitempty"`
}

// Limited are the least and the largest sizes a layer may have, px; 0 for none.
type Limited struct {
	MinWidth  float64 `json:"minWidth,omitempty"`
	MaxWidth  float64 `json:"maxWidth,omitempty"`
	MinHeight float64 `json:"minHeight,omitempty"`
	MaxHeight float64 `json:"maxHeight,omitempty"`
}

// ImageContent is a picture of the document's assets and how it fills the layer: cover, contain
// or fill; cover when empty.
type ImageContent struct {
	Asset string `json:"asset"`
	Fit   string `json:"fit,omitempty"`

	Shown *Asset `json:"-"` // the asset; Decode finds it
}

// SlotContent says what families a place is meant for; anything when none is named.
type SlotContent struct {
	Accepts []string `json:"accepts,omitempty"`
}

// Flow places children one after another, as CSS flex layout does, or in
// columns, as CSS grid layout does.
type Flow struct {
	Direction  string    `json:"direction"`            // row, column or grid
	Columns    string    `json:"columns,omitempty"`    // of a grid: a CSS track list
	Gap        float64   `json:"gap,omitempty"`        // between children; negative when they overlap
	Across     float64   `json:"across,omitempty"`     // between the lines of a grid or of a flow that wraps; 0 is Gap
	Padding    []float64 `json:"padding,omitempty"`    // one, or top, right, bottom, left
	Align      string    `json:"align,omitempty"`      // across: start, center, end, stretch, baseline
	Distribute string    `json:"distribute,omitempty"` // along: start, center, end, space-between
	Wrap       bool      `json:"wrap,omitempty"`
}

// Place is how a layer stands in its parent where the flow does not say it.
type Place struct {
	Self   string  `json:"self,omitempty"`   // alignment of its own: start, center, end, stretch, baseline
	Offset *Offset `json:"offset,omitempty"` // moves it, and what comes after it, from where the flow puts it
	Pins   *Pins   `json:"pins,omitempty"`   // takes it out of the flow
	Column int     `json:"column,omitempty"` // of a grid: the column it stands in, from 1, where those before it are blank
}

// Offset is a distance in px.
type Offset struct {
	X float64 `json:"x,omitempty"`
	Y float64 `json:"y,omitempty"`
}

// Pins name the edges of the parent a layer keeps the distance from that it was
// drawn at.
type Pins struct {
	Horizontal string `json:"horizontal"` // left, right or center; both to keep its distance from both
	Vertical   string `json:"vertical"`   // top, bottom or center; both to keep its distance from both
}

// Value gives what a layer says of a CSS property: the token it is bound to, as
// {path}, else what is drawn.
func (l *Layer) Value(property, drawn string) string {
	if path := l.Tokens[property]; path != "" {
		return "{" + path + "}"
	}
	return drawn
}

// Pinned tells whether a layer stands at edges of its parent, not in a flow.
func (l *Layer) Pinned() bool { return l.Place != nil && l.Place.Pins != nil }

// Sides gives the padding as top, right, bottom, left.
func (f *Flow) Sides() [4]float64 { return expand(f.Padding) }

// Corners gives the radii from the top left clockwise.
func (l *Layer) Corners() [4]float64 { return expand(l.Radius) }

// expand fills one to four values up as CSS does for a box's four sides.
func expand(v []float64) [4]float64 {
	switch len(v) {
	case 0:
		return [4]float64{}
	case 1:
		return [4]float64{v[0], v[0], v[0], v[0]}
	case 2:
		return [4]float64{v[0], v[1], v[0], v[1]}
	case 3:
		return [4]float64{v[0], v[1], v[2], v[1]}
	}
	return [4]float64{v[0], v[1], v[2], v[3]}
}

// Sizing says for each axis whether a layer is fixed, as large as its content,
// or fills its parent. Absent, texts and flowing layers are as large as their content and
// others are fixed.
type Sizing struct {
	Width  string `json:"width,omitempty"`
	Height string `json:"height,omitempty"`
}

// TextContent is what a text layer says and how it is set.
type TextContent struct {
	Content       string  `json:"content"`
	FontFamily    string  `json:"fontFamily"`
	FontSize      float64 `json:"fontSize"`
	FontWeight    float64 `json:"fontWeight"`
	LineHeight    float64 `json:"lineHeight"` // px
	LetterSpacing float64 `json:"letterSpacing,omitempty"`
	Align         string  `json:"align,omitempty"`
	Style         string  `json:"style,omitempty"` // italic
	Line          string  `json:"line,omitempty"`  // underline or line-through
	Runs          []Run   `json:"runs,omitempty"`  // the content in pieces of one look; together they are the content
}

// Run is a piece of a text of one look.
type Run struct {
	Text     string `json:"text"`
	Strong   bool   `json:"strong,omitempty"`
	Emphasis bool   `json:"emphasis,omitempty"`
	Code     bool   `json:"code,omitempty"`
	Link     string `json:"link,omitempty"`
}

// VectorContent is a small drawing of SVG paths.
type VectorContent struct {
	ViewBox [4]float64 `json:"viewBox"`
	Paths   []Path     `json:"paths"`
}

// Path is SVG path data; without a fill of its own it takes the layer's. A fill
// of none leaves it open.
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

// InstanceContent is a use of a family, on a page or in another family. Exposes names axes and
// layers of it that whoever uses the other family may choose and change.
type InstanceContent struct {
	Family    string            `json:"family"`
	Choices   map[string]string `json:"choices,omitempty"`
	Overrides []Override        `json:"overrides,omitempty"`
	Exposes   []string          `json:"exposes,omitempty"`
}

// Override is what one instance sets on a layer of its variant, by name.
type Override struct {
	Layer  string  `json:"layer"`
	Text   *string `json:"text,omitempty"`
	Hidden *bool   `json:"hidden,omitempty"`
	Asset  string  `json:"asset,omitempty"` // another picture
	Alt    *string `json:"alt,omitempty"`   // what that shows
}

// Picture gives an image layer the picture and the words that an override says.
func (o Override) Picture(l *Layer, assets func(id string) *Asset) {
	if o.Asset != "" && l.Kind == Image {
		fit := ""
		if l.Image != nil {
			fit = l.Image.Fit
		}
		l.Image = &ImageContent{Asset: o.Asset, Fit: fit, Shown: assets(o.Asset)}
	}
	if o.Alt != nil {
		l.Alt = *o.Alt
	}
}

// Asset finds an asset by id; nil when there is none.
func (d *Document) Asset(id string) *Asset {
	for i := range d.Assets {
		if d.Assets[i].ID == id {
			return &d.Assets[i]
		}
	}
	return nil
}

// Family finds a family by id; nil when there is none.
func (d *Document) Family(id string) *Family {
	for _, f := range d.Families {
		if f.ID == id {
			return f
		}
	}
	return nil
}

// FamilyNamed finds a family by name or id; nil when there is none.
func (d *Document) FamilyNamed(name string) *Family {
	for _, f := range d.Families {
		if f.Name == name {
			return f
		}
	}
	return d.Family(name)
}

// Default gives the variant drawn for the axes' defaults; nil when it is not drawn.
func (f *Family) Default() *Variant {
	choices := map[string]string{}
	for _, a := range f.Axes {
		choices[a.Name] = a.Default
	}
	return f.Variant(choices)
}

// Variant finds the variant drawn for these choices; an axis that is left out
// takes its default. Nil when it is not drawn.
func (f *Family) Variant(choices map[string]string) *Variant {
	for _, v := range f.Variants {
		same := true
		for _, a := range f.Axes {
			want, ok := choices[a.Name]
			if !ok {
				want = a.Default
			}
			same = same && v.Choices[a.Name] == want
		}
		if same {
			return v
		}
	}
	return nil
}

// Layer finds a layer of a page by its id, and the page; nil when there is none.
func (d *Document) Layer(id string) (*Layer, *Page) {
	for _, p := range d.Pages {
		for _, top := range p.Layers {
			var found *Layer
			top.Walk(func(l *Layer, _, _ float64) {
				if l.ID == id {
					found = l
				}
			})
			if found != nil {
				return found, p
			}
		}
	}
	return nil, nil
}

// Together gives layers of one page, wherever they stand in it, as one group without flow, in the order they are painted; of one layer that. A layer in
// another of them comes with that. Nil when one of them is not there, or on another page.
func (d *Document) Together(ids ...string) *Layer {
	if len(ids) == 1 {
		l, _ := d.Layer(ids[0])
		return l
	}
	for _, p := range d.Pages {
		missing := map[string]bool{}
		for _, id := range ids {
			missing[id] = true
		}
		var children []*Layer
		var look func(l *Layer, x, y float64, taken bool)
		look = func(l *Layer, x, y float64, taken bool) {
			x, y = x+l.Bounds.X, y+l.Bounds.Y
			if missing[l.ID] {
				delete(missing, l.ID)
				if !taken {
					one := *l
					one.Bounds.X, one.Bounds.Y = x, y
					children = append(children, &one)
				}
				taken = true
			}
			for _, c := range l.Children {
				look(c, x, y, taken)
			}
		}
		for _, l := range p.Layers {
			look(l, 0, 0, false)
		}
		if len(missing) > 0 || len(children) == 0 {
			continue
		}
		if len(children) == 1 {
			return children[0]
		}
		b := children[0].Bounds
		right, bottom := b.X+b.Width, b.Y+b.Height
		for _, c := range children {
			b.X, b.Y = min(b.X, c.Bounds.X), min(b.Y, c.Bounds.Y)
			right, bottom = max(right, c.Bounds.X+c.Bounds.Width), max(bottom, c.Bounds.Y+c.Bounds.Height)
		}
		for _, c := range children {
			c.Bounds.X, c.Bounds.Y = c.Bounds.X-b.X, c.Bounds.Y-b.Y
		}
		b.Width, b.Height = right-b.X, bottom-b.Y
		return &Layer{ID: ids[0] + ".together", Name: children[0].Name, Kind: Group, Bounds: b, Children: children}
	}
	return nil
}

// Walk visits a layer and all below it, parents first, with the layer's origin
// relative to the first layer's outer edge.
func (l *Layer) Walk(visit func(l *Layer, x, y float64)) {
	var walk func(l *Layer, x, y float64)
	walk = func(l *Layer, x, y float64) {
		visit(l, x, y)
		for _, c := range l.Children {
			walk(c, x+c.Bounds.X, y+c.Bounds.Y)
		}
	}
	walk(l, 0, 0)
}

// EachLayer visits every layer of pages and of drawn variants, parents first.
func (d *Document) EachLayer(visit func(l *Layer)) {
	look := func(l *Layer, _, _ float64) { visit(l) }
	for _, p := range d.Pages {
		for _, l := range p.Layers {
			l.Walk(look)
		}
	}
	for _, f := range d.Families {
		for _, v := range f.Variants {
			v.Root.Walk(look)
		}
	}
}

// Count gives the number of layers of pages and drawn variants.
func (d *Document) Count() (n int) {
	d.EachLayer(func(*Layer) { n++ })
	return n
}

// defaultNames are what a drawing program calls layers by itself, with a number or "copy" behind it, as in
// "Group 14" or "Rectangle copy", and the names of SVG's elements: common practice, no source.
var defaultNames = map[string]bool{
	"group": true, "frame": true, "rectangle": true, "rect": true, "ellipse": true, "oval": true, "line": true, "path": true, "vector": true, "layer": true, "shape": true, "text": true,
	"image": true, "artboard": true, "box": true, "circle": true, "polygon": true, "polyline": true, "use": true, "svg": true, "g": true,
}

// HasDefaultName tells whether nobody has named the layer.
func (l *Layer) HasDefaultName() bool {
	const longest = len("rectangle")
	letters := 0
	for letters < len(l.Name) && letters <= longest && 'a' <= l.Name[letters]|0x20 && l.Name[letters]|0x20 <= 'z' {
		letters++
	}
	if letters > longest || !defaultNames[strings.ToLower(l.Name[:letters])] {
		return false
	}
	rest := strings.ToLower(l.Name[letters:])
	rest = strings.TrimPrefix(rest, " copy")
	rest = strings.TrimPrefix(rest, " ")
	return strings.Trim(rest, "0123456789") == "" && !strings.HasSuffix(l.Name, " ")
}
