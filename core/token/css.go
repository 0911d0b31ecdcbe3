package token

import (
	"slices"
	"strconv"
	"strings"

	"cobrik/core/color"
	"cobrik/core/css"
)

// CSS writes the value as CSS text without references: colours as hex where
// sRGB can show them, lengths in their unit.
func (v *Value) CSS() string { return Writer{}.CSS(v) }

// Writer turns values into CSS text.
type Writer struct {
	// Reference writes a reference to a token, as var(--…) does; nil, or an
	// empty answer, writes what it leads to.
	Reference func(path string) string
	// Wide writes a colour that sRGB cannot show in its own space, whatever
	// form it was given.
	Wide bool
}

// Computed gives a number that was computed without the noise of binary fractions behind its twelfth digit.
func Computed(n float64) float64 {
	out, _ := strconv.ParseFloat(strconv.FormatFloat(n, 'g', 12, 64), 64) // what was just written can be read
	return out
}

// CSS writes a value: a shadow as box-shadow takes it, typography as font does,
// a border, transition, family and curve as their properties do, a gradient as
// linear-gradient().
func (w Writer) CSS(v *Value) string {
	if v.To != nil {
		if w.Reference != nil && v.Alias != "" {
			if s := w.Reference(v.Alias); s != "" {
				return s
			}
		}
		return w.CSS(v.To)
	}
	switch literal := v.Literal.(type) {
	case color.Color:
		return w.color(literal, v.Form)
	case Measure:
		return Number(literal.Number) + literal.Unit
	case Weight:
		return Number(literal.Number)
	case float64:
		return Number(literal)
	case bool:
		return strconv.FormatBool(literal)
	case string:
		if v.Type == "family" && !slices.Contains(generic, literal) {
			return css.Quote(literal)
		}
		return literal
	}
	part := func(name string) string {
		if p := v.Part(name); p != nil {
			return w.CSS(p)
		}
		return ""
	}
	switch v.Type {
	case "fontFamily":
		return w.joined(v.Items, ", ")
	case "cubicBezier":
		return "cubic-bezier(" + w.joined(v.Items, ", ") + ")"
	case "dashes":
		return w.joined(v.Items, " ")
	case "strokeStyle":
		return "dashed" // the nearest CSS has to a dash array (Backgrounds 3, 3.2)
	case "border":
		return words(part("width"), part("style"), part("color"))
	case "transition":
		return words(part("duration"), part("timingFunction"), part("delay"))
	case "shadow":
		if v.Items != nil {
			return w.joined(v.Items, ", ")
		}
		inset := ""
		if part("inset") == "true" {
			inset = "inset"
		}
		blur, spread := part("blur"), part("spread")
		if blur == "" && spread != "" {
			blur = "0px"
		}
		return words(inset, part("offsetX"), part("offsetY"), blur, spread, part("color"))
	case "gradientStop":
		return words(part("color"), w.percent(v.Part("position")))
	case "gradient":
		return "linear-gradient(" + w.joined(v.Items, ", ") + ")"
	case "typography":
		size := part("fontSize")
		if line := part("lineHeight"); line != "" {
			size += "/" + line
		}
		return words(part("fontWeight"), size, part("fontFamily"))
	}
	return ""
}

// Number writes a number with all its digits, without an exponent.
func Number(n float64) string {
	if n == 0 {
		return "0"
	}
	return strconv.FormatFloat(n, 'f', -1, 64)
}

// percent writes a stop's position, which is clamped to 0 to 1 (Format Module, 9.6).
func (w Writer) percent(v *Value) string {
	if v == nil {
		return ""
	}
	n, _ := v.End().Literal.(float64)
	if w.Reference != nil && v.Alias != "" {
		if s := w.Reference(v.Alias); s != "" {
			return "calc(100% * " + s + ")"
		}
	}
	return Number(Computed(min(max(n, 0), 1)*100)) + "%"
}

// color writes hex, or the colour's own space when sRGB cannot show it.
func (w Writer) color(c color.Color, form string) string {
	shown := c.In(color.SRGB)
	if form != "" && (shown || !w.Wide) {
		if s, err := c.As(form); err == nil {
			return s
		}
	}
	if shown {
		return c.Hex()
	}
	return c.CSS()
}

func (w Writer) joined(items []*Value, by string) string {
	texts := make([]string, len(items))
	for i, item := range items {
		texts[i] = w.CSS(item)
	}
	return strings.Join(texts, by)
}

func words(list ...string) string {
	return strings.Join(slices.DeleteFunc(list, func(s string) bool { return s == "" }), " ")
}

// generic are the families CSS names itself (CSS Fonts 4, 2.1.2): never quoted.
var generic = []string{"serif", "sans-serif", "monospace", "cursive", "fantasy", "system-ui", "ui-serif", "ui-sans-serif", "ui-monospace", "ui-rounded", "math", "emoji"}
