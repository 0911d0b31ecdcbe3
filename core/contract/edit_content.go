package contract

import (
	"fmt"
	"slices"
)

// What a part shows, and what of it is made a prop, are edited here.

// Show lets a part show what is in a prop, and makes it an element that can.
func (c *Contract) Show(part, prop string) error {
	p, q := c.Part(part), c.Prop(prop)
	if p == nil || q == nil {
		return fmt.Errorf("there is no part %q, or no prop %q", part, prop)
	}
	switch q.Kind() {
	case TextKind, RichKind, NumberKind:
		p.showing(TextOf{prop})
		if rich, ok := q.Type.(Rich); ok && !rich.Line && !holdsBlocks(p.Element) {
			p.Element = "div"
		}
	case ImageKind:
		p.showing(ImageOf{prop})
	case IconKind:
		p.showing(IconOf{prop})
	case SlotKind:
		p.showing(SlotOf{prop})
	default:
		return fmt.Errorf("%s is a %s, and no part can show that", q.Name, q.Kind())
	}
	return nil
}

// ShowText lets a part show a text that never changes; none when it is empty.
func (p *Part) ShowText(text string) {
	if text == "" {
		p.showing(nil)
		return
	}
	p.showing(FixedText{text})
}

// ShowDrawing lets a part show a drawing that never changes.
func (p *Part) ShowDrawing(v *Vector) { p.showing(v) }

// asIcon gives a drawing what it needs to stand in a line of text: its size and its colour, where nothing says them.
func (p *Part) asIcon() {
	if p.Style == nil {
		p.Style = Style{}
	}
	if p.Style["width"] == "" && p.Style["height"] == "" {
		p.Style["width"], p.Style["height"] = "1em", "1em"
		if p.Style["flex"] == "" {
			p.Style["flex"] = "none"
		}
	}
	if p.Style["fill"] == "" {
		p.Style["fill"] = "currentColor"
	}
}

// showing gives a part other content, and an element that can have it.
func (p *Part) showing(content Content) {
	p.Content = content
	switch content.(type) {
	case ImageOf:
		p.Element, p.Attributes = "img", nil
	case IconOf, *Vector:
		p.Element, p.Attributes = "svg", nil
		p.asIcon()
	default:
		if p.Element == "img" || p.Element == "svg" || p.Element == "" || slices.Contains(Void, p.Element) {
			p.Element = "span"
		}
	}
}

// OfferKinds are what of a part can be made a prop.
var OfferKinds = []string{"text", "picture", "icon", "link", "slot", "flag"}

// Offers lists what of a part can be made a prop: its text, picture or icon, where it leads, what
// it holds, whether it is there.
func (c *Contract) Offers(id string) (out []string) {
	p := c.Part(id)
	if p == nil {
		return nil
	}
	switch p.Content.(type) {
	case FixedText:
		out = append(out, "text")
	case Picture:
		out = append(out, "picture")
	case *Vector:
		out = append(out, "icon")
	case nil:
		if closed(p) == "" && p != c.Root {
			out = append(out, "slot")
		}
	}
	if p.Use() == nil && p.Attributes["href"].Prop == "" && (p.Element == "a" || slices.Contains([]string{"div", "span", "p"}, p.Element) && !c.interactive(p)) {
		out = append(out, "link")
	}
	if p != c.Root && !slices.ContainsFunc(p.ShownWhen.Terms(), func(t Term) bool { is, ok := t.(PropIs); return ok && is.Value == FlagValue(true) }) {
		out = append(out, "flag")
	}
	return out
}

// interactive tells whether a part, one around it or one in it is a control, in or around which no link may
// be (HTML, 4.5.1: no interactive content descendant).
func (c *Contract) interactive(p *Part) bool {
	controls := []string{"a", "button", "label", "input", "textarea", "details", "summary"}
	for at := p; at != nil; at, _ = c.Parent(at.ID) {
		if slices.Contains(controls, at.Element) {
			return true
		}
	}
	var inside func(p *Part) bool
	inside = func(p *Part) bool {
		return slices.Contains(controls, p.Element) || p.Use() != nil || slices.ContainsFunc(p.Children, inside)
	}
	return slices.ContainsFunc(p.Children, inside)
}

// Offer makes a prop of a part: of its text, picture, icon or link, of what it holds, or of
// whether it is there. It gives the prop's id; nothing changes for who uses the component.
func (c *Contract) Offer(id, what string) (string, error) {
	p := c.Part(id)
	if p == nil {
		return "", fmt.Errorf("there is no part %q", id)
	}
	if !slices.Contains(c.Offers(id), what) {
		return "", fmt.Errorf("%s has no %s that could be a prop", p.Name, what)
	}
	name := p.Name
	if p == c.Root {
		name = "content"
	}
	switch what {
	case "text":
		prop := c.AddProp(name, Text{Initial: p.Content.(FixedText).Text}, "")
		c.Prop(prop).Part, p.Content = p.ID, TextOf{prop}
		return prop, nil
	case "picture":
		was := p.Content.(Picture)
		var image Image
		if was.Width > 0 && was.Height > 0 {
			image.Aspect = was.Width / was.Height
		}
		prop := c.AddProp(name, image, "")
		if was.Source != "" {
			c.Prop(prop).Example = ImageValue{Source: was.Source, Alt: was.Alt, Width: was.Width, Height: was.Height}
		}
		p.Element, p.Content = "img", ImageOf{prop}
		return prop, nil
	case "icon":
		prop := c.AddProp(name, Icon{Options: []NamedIcon{{Name: name, Vector: *p.Vector()}}, Initial: name}, "")
		p.Content = IconOf{prop}
		return prop, nil
	case "slot":
		prop := c.AddProp(name, Slot{}, "")
		p.Content = SlotOf{prop}
		return prop, nil
	case "link":
		prop := c.AddProp("href", Link{Initial: p.Attributes["href"].Text}, "")
		if p.Element = "a"; p.Attributes == nil {
			p.Attributes = map[string]Attribute{}
		}
		p.Attributes["href"] = Attribute{Prop: prop}
		return prop, nil
	}
	prop := c.AddProp("with"+Capitalized(name), Flag{Initial: true}, "")
	c.Prop(prop).Part = p.ID
	p.ShownWhen = p.ShownWhen.With(PropIs{prop, FlagValue(true)})
	return prop, nil
}
