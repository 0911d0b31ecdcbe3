package source

import (
	"html"
	"strconv"
	"strings"
	"unicode/utf16"

	"cobrik/core/source/syntax"
)

// bare takes away what changes nothing of an expression's value: brackets, and what is said of its type.
func bare(n *syntax.Node) *syntax.Node {
	for n.Is("parenthesized_expression", "as_expression", "satisfies_expression", "non_null_expression", "jsx_expression") {
		inner := n.Inner()
		if len(inner) == 0 {
			return n
		}
		n = inner[0]
	}
	return n
}

// unquoted reads a string literal (ECMA-262, 12.9.4).
func unquoted(n *syntax.Node) string {
	text := n.Text()
	if len(text) < 2 {
		return ""
	}
	return unescaped(text[1 : len(text)-1])
}

func unescaped(text string) string {
	if !strings.ContainsRune(text, '\\') {
		return text
	}
	var b strings.Builder
	var units []uint16 // of an escaped pair
	flush := func() {
		b.WriteString(string(utf16.Decode(units)))
		units = nil
	}
	for i := 0; i < len(text); {
		if text[i] != '\\' || i+1 == len(text) {
			flush()
			b.WriteByte(text[i])
			i++
			continue
		}
		c := text[i+1]
		code := func(digits string) (uint64, bool) {
			n, err := strconv.ParseUint(digits, 16, 32)
			return n, err == nil
		}
		switch {
		case c == 'u' && i+2 < len(text) && text[i+2] == '{':
			if end := strings.IndexByte(text[i:], '}'); end > 0 {
				if n, ok := code(text[i+3 : i+end]); ok {
					flush()
					b.WriteRune(rune(n))
				}
				i += end + 1
				continue
			}
		case c == 'u' && i+6 <= len(text):
			if n, ok := code(text[i+2 : i+6]); ok {
				units = append(units, uint16(n))
			}
			i += 6
			continue
		case c == 'x' && i+4 <= len(text):
			if n, ok := code(text[i+2 : i+4]); ok {
				flush()
				b.WriteRune(rune(n))
			}
			i += 4
			continue
		}
		flush()
		switch c {
		case 'n':
			b.WriteByte('\n')
		case 't':
			b.WriteByte('\t')
		case 'r':
			b.WriteByte('\r')
		case 'b':
			b.WriteByte('\b')
		case 'f':
			b.WriteByte('\f')
		case 'v':
			b.WriteByte('\v')
		case '0':
			b.WriteByte(0)
		case '\n': // a line goes on
		default:
			b.WriteByte(c)
		}
		i += 2
	}
	flush()
	return b.String()
}

// jsxString reads an attribute's value in quotes: entities stand for characters, backslashes for themselves (JSX).
func jsxString(n *syntax.Node) string {
	text := n.Text()
	if len(text) < 2 {
		return ""
	}
	return html.UnescapeString(text[1 : len(text)-1])
}

// jsxText reads text between tags: lines are joined by one space, and what is but a line's end is nothing (JSX).
func jsxText(text string) string {
	lines := strings.Split(strings.ReplaceAll(text, "\r\n", "\n"), "\n")
	var kept []string
	for i, line := range lines {
		line = strings.ReplaceAll(line, "\t", " ")
		if i > 0 {
			line = strings.TrimLeft(line, " ")
		}
		if i < len(lines)-1 {
			line = strings.TrimRight(line, " ")
		}
		if line != "" {
			kept = append(kept, line)
		}
	}
	return html.UnescapeString(strings.Join(kept, " "))
}

// nothing is null or undefined.
type nothing struct{}

// constant reads an expression that is the same for ever: a string, a float64, a bool or nothing.
func constant(n *syntax.Node) (any, bool) {
	n = bare(n)
	switch {
	case n == nil:
		return nil, false
	case n.Kind == "string":
		return unquoted(n), true
	case n.Kind == "template_string" && n.First("template_substitution") == nil:
		return unquoted(n), true
	case n.Kind == "number":
		f, err := strconv.ParseFloat(strings.ReplaceAll(n.Text(), "_", ""), 64)
		if err != nil {
			i, err := strconv.ParseInt(strings.ReplaceAll(n.Text(), "_", ""), 0, 64)
			return float64(i), err == nil
		}
		return f, true
	case n.Kind == "true", n.Kind == "false":
		return n.Kind == "true", true
	case n.Kind == "null", n.Kind == "undefined", n.Kind == "identifier" && n.Text() == "undefined":
		return nothing{}, true
	case n.Kind == "unary_expression" && n.Child("operator").Text() == "-":
		v, ok := constant(n.Child("argument"))
		f, is := v.(float64)
		return -f, ok && is
	case n.Kind == "unary_expression" && n.Child("operator").Text() == "void":
		return nothing{}, true
	}
	return nil, false
}

// entries lists an object literal's members by their names; false where it holds others.
func entries(n *syntax.Node) (names []string, values map[string]*syntax.Node, whole bool) {
	n = bare(n)
	values = map[string]*syntax.Node{}
	if !n.Is("object") {
		return nil, values, false
	}
	whole = true
	for _, c := range n.Inner() {
		switch {
		case c.Kind == "pair" && !c.Child("key").Is("computed_property_name"):
			name := memberName(c.Child("key"))
			if values[name] == nil {
				names = append(names, name)
			}
			values[name] = c.Child("value")
		case c.Kind == "shorthand_property_identifier":
			names, values[c.Text()] = append(names, c.Text()), c
		default:
			whole = false
		}
	}
	return names, values, whole
}

// memberName reads a property's name, with quotes or without.
func memberName(n *syntax.Node) string {
	if n.Is("string") {
		return unquoted(n)
	}
	return n.Text()
}
