package token

import (
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/color"
)

// fontWeights are the names the Format Module, 8.4, gives to numbers.
var fontWeights = map[string]int{
	"thin": 100, "hairline": 100, "extra-light": 200, "ultra-light": 200, "light": 300,
	"normal": 400, "regular": 400, "book": 400, "medium": 500, "semi-bold": 600, "demi-bold": 600,
	"bold": 700, "extra-bold": 800, "ultra-bold": 800, "black": 900, "heavy": 900,
	"extra-black": 950, "ultra-black": 950,
}

// cssValue gives a token's own $value as CSS text.
func cssValue(kind string, raw []byte) (string, error) {
	switch kind {
	case "color":
		return colorValue(raw)
	case "dimension":
		return unitValue(raw, "px", "rem")
	case "duration":
		return unitValue(raw, "ms", "s")
	case "number":
		var n float64
		if json.Unmarshal(raw, &n) != nil {
			return "", fmt.Errorf("a number was expected, found %s", short(raw))
		}
		return Number(n), nil
	case "fontWeight":
		return fontWeightValue(raw)
	case "fontFamily":
		return fontFamilyValue(raw)
	}
	return "", fmt.Errorf("the type %q is not read; use color, dimension, number, fontFamily, fontWeight or duration", kind)
}

// colorValue reads the Color Module's object, or the hex string of older drafts.
func colorValue(raw []byte) (string, error) {
	var hex string
	if json.Unmarshal(raw, &hex) == nil {
		c, err := color.Parse(hex)
		return c.Hex(), err
	}
	var v struct {
		ColorSpace string
		Components []json.RawMessage
		Alpha      *float64
	}
	if err := json.Unmarshal(raw, &v); err != nil || len(v.Components) != 3 {
		return "", errors.New(`a colour is {"colorSpace": …, "components": [three numbers], "alpha": …}`)
	}
	var components [3]float64
	for i, c := range v.Components {
		if string(c) != `"none"` && json.Unmarshal(c, &components[i]) != nil {
			return "", fmt.Errorf(`component %d is a number or "none", found %s`, i+1, short(c))
		}
	}
	alpha := 1.0
	if v.Alpha != nil {
		alpha = *v.Alpha
	}
	if alpha < 0 || alpha > 1 {
		return "", fmt.Errorf("alpha goes from 0 to 1, found %s", Number(alpha))
	}
	space, err := color.SpaceNamed(v.ColorSpace)
	if err != nil {
		return "", err
	}
	c, err := color.New(space, components, alpha)
	return c.Hex(), err
}

// unitValue reads {"value": n, "unit": u}, or the string "16px" of older drafts.
func unitValue(raw []byte, units ...string) (string, error) {
	var v struct {
		Value *float64
		Unit  string
	}
	var text string
	if json.Unmarshal(raw, &text) == nil {
		for _, unit := range units {
			number, cut := strings.CutSuffix(text, unit)
			if n, err := strconv.ParseFloat(number, 64); cut && err == nil {
				v.Value, v.Unit = &n, unit
				break
			}
		}
	} else if json.Unmarshal(raw, &v) != nil {
		v.Value = nil
	}
	if v.Value == nil || !slices.Contains(units, v.Unit) {
		return "", fmt.Errorf(`{"value": number, "unit": "%s"} was expected, found %s`, strings.Join(units, `" or "`), short(raw))
	}
	return Number(*v.Value) + v.Unit, nil
}

func fontWeightValue(raw []byte) (string, error) {
	var n float64
	var name string
	switch {
	case json.Unmarshal(raw, &n) == nil && n >= 1 && n <= 1000:
		return Number(n), nil
	case json.Unmarshal(raw, &name) == nil && fontWeights[name] > 0:
		return strconv.Itoa(fontWeights[name]), nil
	}
	return "", fmt.Errorf("a weight is a number from 1 to 1000 or a name such as semi-bold, found %s", short(raw))
}

// generic are the families CSS names itself (CSS Fonts 4, 2.1.2): never quoted.
var generic = []string{"serif", "sans-serif", "monospace", "cursive", "fantasy", "system-ui", "ui-serif", "ui-sans-serif", "ui-monospace", "ui-rounded", "math", "emoji"}

func fontFamilyValue(raw []byte) (string, error) {
	var list []string
	var one string
	if json.Unmarshal(raw, &one) == nil {
		list = []string{one}
	} else if json.Unmarshal(raw, &list) != nil || len(list) == 0 {
		return "", fmt.Errorf("a family is a string or a list of strings, found %s", short(raw))
	}
	for i, name := range list {
		if !slices.Contains(generic, name) {
			list[i] = CSSString(name)
		}
	}
	return strings.Join(list, ", "), nil
}

// CSSString quotes a string for CSS (CSSOM 1, "serialize a string").
func CSSString(s string) string {
	var b strings.Builder
	b.WriteByte('"')
	for _, r := range s {
		switch {
		case r == 0:
			b.WriteRune('\uFFFD')
		case r < 0x20 || r == 0x7f:
			fmt.Fprintf(&b, `\%x `, r)
		case r == '"' || r == '\\':
			b.WriteByte('\\')
			b.WriteRune(r)
		default:
			b.WriteRune(r)
		}
	}
	b.WriteByte('"')
	return b.String()
}

// Number writes a number the short way CSS does, at most four decimals.
func Number(n float64) string {
	s := strconv.FormatFloat(n, 'f', 4, 64)
	s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	if s == "-0" || s == "" {
		return "0"
	}
	return s
}
