package source

import "strings"

// said is one property of a contract and its value.
type said struct{ property, value string }

// fitting tells whether a property takes a value.
type fitting func(property, value string) bool

// sides names the four sides in the order shorthands have them (CSS Box 4, 3).
var sides = [4]string{"top", "right", "bottom", "left"}

// sidesOf gives the values of a shorthand of one to four (CSS Box 4, 3 and 4).
func sidesOf(list []string) ([4]string, bool) {
	switch len(list) {
	case 1:
		return [4]string{list[0], list[0], list[0], list[0]}, true
	case 2:
		return [4]string{list[0], list[1], list[0], list[1]}, true
	case 3:
		return [4]string{list[0], list[1], list[2], list[1]}, true
	case 4:
		return [4]string(list), true
	}
	return [4]string{}, false
}

// sided are properties that are of sides: the contract's own are of two sides, or of four.
// Inside the reading, each side is a property by itself: margin-top, border-left-width.
func expanded(property, value string, fits fitting) (out []said, ok bool) {
	list := cutAtSpaces(value)
	four := func(prefix, suffix string) ([]said, bool) {
		values, ok := sidesOf(list)
		for i, side := range sides {
			out = append(out, said{prefix + side + suffix, values[i]})
		}
		return out, ok
	}
	two := func(first, second string) ([]said, bool) {
		if len(list) == 0 || len(list) > 2 {
			return nil, false
		}
		return []said{{first, list[0]}, {second, list[len(list)-1]}}, true
	}
	switch property {
	case "margin", "padding":
		return four(property+"-", "")
	case "margin-block", "padding-block":
		p := strings.TrimSuffix(property, "block")
		return two(p+"top", p+"bottom")
	case "margin-inline", "padding-inline":
		p := strings.TrimSuffix(property, "inline")
		return two(p+"left", p+"right")
	case "margin-block-start", "padding-block-start", "margin-block-end", "padding-block-end", "margin-inline-start", "padding-inline-start", "margin-inline-end", "padding-inline-end":
		kind, rest, _ := strings.Cut(property, "-")
		return []said{{kind + "-" + map[string]string{"block-start": "top", "block-end": "bottom", "inline-start": "left", "inline-end": "right"}[rest], value}}, true
	case "border-width", "border-radius":
		if property == "border-radius" && strings.Contains(value, "/") {
			return nil, false
		}
		values, ok := sidesOf(list)
		names := borderSides
		if property == "border-radius" {
			names = corners
		}
		for i, name := range names {
			out = append(out, said{name, values[i]})
		}
		return out, ok
	case "border", "border-top", "border-right", "border-bottom", "border-left":
		return border(property, list, fits)
	case "border-top-width", "border-right-width", "border-bottom-width", "border-left-width":
		return []said{{property, value}}, len(list) == 1
	case "background":
		if fits("background-color", value) {
			return []said{{"background-color", value}}, true
		}
		if value == "none" {
			return []said{{"background-color", "transparent"}, {"background-image", "none"}}, true
		}
		return []said{{"background-image", value}}, fits("background-image", value)
	case "flex-grow":
		return []said{{"flex", value + " 1 auto"}}, len(list) == 1
	case "flex-shrink":
		return []said{{"flex", "0 " + value + " auto"}}, len(list) == 1
	case "flex-flow":
		for _, word := range list {
			name := "flex-direction"
			if strings.Contains(word, "wrap") {
				name = "flex-wrap"
			}
			out = append(out, said{name, word})
		}
		return out, true
	case "grid-gap":
		return []said{{"gap", value}}, true
	case "grid-row-gap", "grid-column-gap":
		return []said{{strings.TrimPrefix(property, "grid-"), value}}, true
	case "inset":
		values, ok := sidesOf(list)
		for i, side := range sides {
			out = append(out, said{side, values[i]})
		}
		return out, ok
	case "inset-block":
		return two("top", "bottom")
	case "inset-inline":
		return two("left", "right")
	case "inset-block-start", "inset-block-end", "inset-inline-start", "inset-inline-end":
		return []said{{map[string]string{"block-start": "top", "block-end": "bottom", "inline-start": "left", "inline-end": "right"}[strings.TrimPrefix(property, "inset-")], value}}, true
	case "inline-size", "block-size", "min-inline-size", "min-block-size", "max-inline-size", "max-block-size":
		return []said{{strings.NewReplacer("inline-size", "width", "block-size", "height").Replace(property), value}}, true
	case "text-decoration":
		for _, word := range list {
			if fits("text-decoration-line", word) {
				return []said{{"text-decoration-line", word}}, len(list) == 1
			}
		}
		return nil, false
	case "place-content":
		return two("align-content", "justify-content")
	case "place-self":
		return two("align-self", "justify-self")
	case "grid-column", "grid-row":
		from, to, ranged := strings.Cut(value, "/")
		from, to = strings.TrimSpace(from), strings.TrimSpace(to)
		if !ranged {
			to = "auto"
		}
		if property == "grid-column" {
			return []said{{"grid-area", "auto / " + from + " / auto / " + to}}, true
		}
		return []said{{"grid-area", from + " / auto / " + to + " / auto"}}, true
	case "font":
		return font(value, fits)
	}
	return []said{{property, value}}, true
}

var (
	borderSides = [4]string{"border-top-width", "border-right-width", "border-bottom-width", "border-left-width"}
	corners     = [4]string{"border-top-left-radius", "border-top-right-radius", "border-bottom-right-radius", "border-bottom-left-radius"}
)

// border reads the shorthand of a border, of all sides or of one (CSS Backgrounds 3, 3.4).
func border(property string, list []string, fits fitting) (out []said, ok bool) {
	width, style, color := "", "", ""
	for _, word := range list {
		switch {
		case style == "" && fits("border-style", word):
			style = word
		case width == "" && (word == "thin" || word == "medium" || word == "thick"):
			width = map[string]string{"thin": "1px", "medium": "3px", "thick": "5px"}[word]
		case width == "" && fits("border-width", word):
			width = word
		case color == "" && fits("border-color", word):
			color = word
		default:
			return nil, false
		}
	}
	if style == "" || style == "none" { // there is no line
		style, width = "none", "0px"
	}
	if width == "" {
		width = "3px" // medium, as browsers have it
	}
	add := func(side string) { out = append(out, said{"border-" + side + "-width", width}) }
	if one, is := strings.CutPrefix(property, "border-"); is {
		add(one)
	} else {
		for _, side := range sides {
			add(side)
		}
	}
	if style != "none" || property == "border" {
		out = append(out, said{"border-style", style})
	}
	if color != "" {
		out = append(out, said{"border-color", color})
	}
	return out, true
}

// font reads the shorthand of type (CSS Fonts 4, 2.7).
func font(value string, fits fitting) (out []said, ok bool) {
	list := cutAtSpaces(value)
	for i, word := range list {
		size, line, _ := strings.Cut(word, "/")
		switch {
		case fits("font-style", word) && word != "normal":
			out = append(out, said{"font-style", word})
		case fits("font-weight", word) && !strings.HasPrefix(word, "{"):
			out = append(out, said{"font-weight", word})
		case fits("font-size", size) && i+1 < len(list):
			out = append(out, said{"font-size", size})
			if line != "" {
				out = append(out, said{"line-height", line})
			}
			return append(out, said{"font-family", strings.Join(list[i+1:], " ")}), true
		default:
			return nil, false
		}
	}
	return nil, false
}

// cutAtSpaces cuts a value at its spaces outside of brackets and quotes.
func cutAtSpaces(value string) (out []string) {
	depth, from, quote := 0, 0, byte(0)
	flush := func(to int) {
		if word := strings.TrimSpace(value[from:to]); word != "" {
			out = append(out, word)
		}
		from = to
	}
	for i := 0; i < len(value); i++ {
		switch c := value[i]; {
		case quote != 0:
			if c == quote {
				quote = 0
			}
		case c == '"' || c == '\'':
			quote = c
		case c == '(' || c == '{':
			depth++
		case c == ')' || c == '}':
			depth--
		case depth == 0 && strings.IndexByte(" \t\n\r\f", c) >= 0:
			flush(i)
		}
	}
	flush(len(value))
	return out
}

// recombined puts sides together as a contract has them: of a pair, and of four. A side that is not said here is what it was before.
func recombined(values map[string]string, before func(side string) string) map[string]string {
	out := map[string]string{}
	for property, value := range values {
		out[property] = value
	}
	gather := func(names []string, initial string) (list []string, any bool) {
		for _, name := range names {
			v, said := out[name]
			if said {
				any = true
			} else if v = before(name); v == "" {
				v = initial
			}
			list = append(list, v)
		}
		if any {
			for _, name := range names {
				delete(out, name)
			}
		}
		return list, any
	}
	for _, kind := range []string{"padding", "margin"} {
		for _, axis := range [][3]string{{"block", "top", "bottom"}, {"inline", "left", "right"}} {
			if kind == "margin" && onlyOne(values, kind+"-"+axis[1], kind+"-"+axis[2]) && before(kind+"-"+axis[2]) == "" {
				continue // a contract has margin-top and margin-left themselves
			}
			if list, any := gather([]string{kind + "-" + axis[1], kind + "-" + axis[2]}, "0px"); any {
				out[kind+"-"+axis[0]] = pair(list)
			}
		}
	}
	if list, any := gather(borderSides[:], "0px"); any {
		out["border-width"] = foursome(list)
	}
	if list, any := gather(corners[:], "0px"); any {
		out["border-radius"] = foursome(list)
	}
	return out
}

func onlyOne(values map[string]string, first, second string) bool {
	_, a := values[first]
	_, b := values[second]
	return a && !b
}

func pair(list []string) string {
	if list[0] == list[1] {
		return list[0]
	}
	return list[0] + " " + list[1]
}

// foursome writes four values as shortly as can be.
func foursome(list []string) string {
	switch {
	case list[1] != list[3]:
		return strings.Join(list, " ")
	case list[0] != list[2]:
		return strings.Join(list[:3], " ")
	}
	return pair(list[:2])
}
