package token

import (
	"math"

	"cobrik/core/color"
	"cobrik/core/jsontree"
)

// JSON gives the value as the standard writes it today (Format Module, 8 and
// 9), references in braces.
func (v *Value) JSON() *jsontree.Node {
	if v.To != nil {
		if v.Alias != "" {
			return jsontree.NewString("{" + v.Alias + "}")
		}
		return v.To.JSON()
	}
	switch literal := v.Literal.(type) {
	case color.Color:
		return colorNode(literal)
	case Measure:
		return measureNode(literal)
	case Weight:
		if literal.Name != "" {
			return jsontree.NewString(literal.Name)
		}
		return jsontree.NewNumber(literal.Number)
	case float64:
		return jsontree.NewNumber(literal)
	case bool:
		return jsontree.NewBool(literal)
	case string:
		return jsontree.NewString(literal)
	}
	if v.Parts != nil {
		object := jsontree.NewObject()
		for _, p := range v.Parts {
			object.Set(p.Name, p.Value.JSON())
		}
		return object
	}
	if v.Type == "fontFamily" && len(v.Items) == 1 && v.Items[0].To == nil {
		return v.Items[0].JSON()
	}
	list := jsontree.NewArray()
	for _, item := range v.Items {
		list.Children = append(list.Children, item.JSON())
	}
	return list
}

// colorNode writes a colour as the Color Module does, with the hex fallback
// where sRGB shows it.
func colorNode(c color.Color) *jsontree.Node {
	components := jsontree.NewArray()
	for _, v := range c.V {
		n := jsontree.NewString("none")
		if !math.IsNaN(v) {
			n = jsontree.NewNumber(math.Round(v*1e5) / 1e5)
		}
		components.Children = append(components.Children, n)
	}
	out := jsontree.NewObject(jsontree.NewString(c.Space.String()).Named("colorSpace"), components.Named("components"))
	if c.Alpha != 1 {
		out.Set("alpha", jsontree.NewNumber(math.Round(c.Alpha*1e4)/1e4))
	}
	opaque := c
	opaque.Alpha = 1
	if c.In(color.SRGB) {
		out.Set("hex", jsontree.NewString(opaque.Hex()))
	}
	return out
}

func measureNode(m Measure) *jsontree.Node {
	return jsontree.NewObject(jsontree.NewNumber(m.Number).Named("value"), jsontree.NewString(m.Unit).Named("unit"))
}

// oneLine lays all of a value out on one line, spaced.
func oneLine(*jsontree.Node) bool { return true }
