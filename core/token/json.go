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
	for i, v := range c.V {
		n := jsontree.NewString("none")
		if !math.IsNaN(v) {
			n = jsontree.NewNumber(component(c.Space, i, v))
		}
		components.Children = append(components.Children, n)
	}
	out := jsontree.NewObject(jsontree.NewString(c.Space.String()).Named("colorSpace"), components.Named("components"))
	if c.Alpha != 1 {
		out.Set("alpha", jsontree.NewNumber(eighths(c.Alpha, 1e4)))
	}
	opaque := c
	opaque.Alpha = 1
	if c.In(color.SRGB) {
		out.Set("hex", jsontree.NewString(opaque.Hex()))
	}
	return out
}

// component writes a component with the digits it has: one that was 8 bits with five, a hue within a turn.
func component(space color.Space, i int, v float64) float64 {
	if hue := space.Hue(); hue == i {
		if v = math.Mod(v, 360); v < 0 {
			v += 360
		}
		return Computed(v)
	}
	if space == color.SRGB {
		return eighths(v, 1e5)
	}
	return Computed(v)
}

// eighths gives a part of one that is a count of 255ths rounded to a fraction; any other as it is.
func eighths(v, fraction float64) float64 {
	if n := v * 255; math.Abs(n-math.Round(n)) < 1e-9 {
		return math.Round(v*fraction) / fraction
	}
	return v
}

func measureNode(m Measure) *jsontree.Node {
	return jsontree.NewObject(jsontree.NewNumber(m.Number).Named("value"), jsontree.NewString(m.Unit).Named("unit"))
}

// oneLine lays all of a value out on one line, spaced.
func oneLine(*jsontree.Node) bool { return true }
