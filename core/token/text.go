package token

import (
	"errors"
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"cobrik/core/color"
	"cobrik/core/jsontree"
)

var curveForm = regexp.MustCompile(`^(?:cubic-bezier)?\(?([^()]*)\)?$`)

// FromText reads a value as a person types it: an alias, "{soil.900}"; what CSS
// writes for a simple type, "#4a7c59", "0.5rem", "120ms", "Hanken Grotesk,
// sans-serif"; for a composite the standard's JSON.
func FromText(kind, text string) (*jsontree.Node, error) {
	text = strings.TrimSpace(text)
	if path, ok := bracePath(text); ok && !strings.ContainsAny(path, `{}":`) {
		return jsontree.NewString(text), nil
	}
	if strings.HasPrefix(text, "{") || strings.HasPrefix(text, "[") {
		n, found := jsontree.Read("the value", []byte(text), limits)
		return n, found.Err()
	}
	switch kind {
	case "color":
		c, err := color.Parse(text)
		if err != nil {
			return nil, err
		}
		return colorNode(c), nil
	case "dimension":
		return measureText(text, "px", "rem")
	case "duration":
		return measureText(text, "ms", "s")
	case "number", "fontWeight":
		if f, ok := numberFrom(text); ok {
			return jsontree.NewNumber(f), nil
		}
		if _, named := fontWeights[text]; kind == "fontWeight" && named {
			return jsontree.NewString(text), nil
		}
		return nil, fmt.Errorf("a number was expected, found %q", text)
	case "fontFamily":
		list := jsontree.NewArray()
		for name := range strings.SplitSeq(text, ",") {
			if name = strings.Trim(strings.TrimSpace(name), `"'`); name == "" {
				return nil, errors.New("a family's name is empty")
			}
			list.Children = append(list.Children, jsontree.NewString(name))
		}
		return list, nil
	case "cubicBezier":
		list := jsontree.NewArray()
		for number := range strings.SplitSeq(curveForm.ReplaceAllString(text, "$1"), ",") {
			f, ok := numberFrom(strings.TrimSpace(number))
			if !ok {
				return nil, fmt.Errorf("four numbers were expected, as in 0.2, 0, 0, 1; found %q", text)
			}
			list.Children = append(list.Children, jsontree.NewNumber(f))
		}
		return list, nil
	case "strokeStyle":
		return jsontree.NewString(text), nil
	}
	return nil, fmt.Errorf("a %s is written as the standard's JSON, or as an alias, {group.token}", kind)
}

// numberFrom reads a finite number; false for what JSON could not hold.
func numberFrom(text string) (float64, bool) {
	f, err := strconv.ParseFloat(text, 64)
	return f, err == nil && f-f == 0
}

// measureFrom reads a number with one of the units, as in "8px".
func measureFrom(text string, units ...string) (Measure, bool) {
	for _, unit := range units {
		if number, cut := strings.CutSuffix(text, unit); cut {
			if f, ok := numberFrom(strings.TrimSpace(number)); ok {
				return Measure{f, unit}, true
			}
		}
	}
	return Measure{}, false
}

func measureText(text string, units ...string) (*jsontree.Node, error) {
	if m, ok := measureFrom(text, units...); ok {
		return measureNode(m), nil
	}
	return nil, fmt.Errorf("a number with %s was expected, found %q", strings.Join(units, " or "), text)
}

// Text gives a token's own value as FromText reads it.
func (t *Token) Text() string {
	switch {
	case t.Alias != "":
		return "{" + t.Alias + "}"
	case t.Content == nil || t.Content.Parts != nil || len(t.uses) > 0:
		return t.Written()
	}
	switch t.Type {
	case "color", "dimension", "duration", "number", "fontWeight", "cubicBezier", "strokeStyle":
		if c, ok := t.Content.Color(); ok && c.Space != color.SRGB {
			return c.CSS()
		}
		return t.Value
	case "fontFamily":
		names := make([]string, len(t.Content.Items))
		for i, item := range t.Content.Items {
			names[i], _ = item.Literal.(string)
		}
		return strings.Join(names, ", ")
	}
	return t.Written()
}
