package output

import (
	"cobrik/core/css"
	"encoding/xml"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"cobrik/core/color"
	"cobrik/core/token"
)

// writeSwift writes constants for SwiftUI: Color, CGFloat for lengths in
// points, TimeInterval in seconds.
func writeSwift(f *file, r *run) {
	f.printf("// %s\n\nimport SwiftUI\n\npublic enum Tokens%s {\n", header, typeSuffix(r))
	for _, i := range r.items {
		documented(f, i, "/// ")
		if i.token.Deprecated != "" {
			f.printf("    @available(*, deprecated, message: %s)\n", strconv.Quote(comment(i.token.Deprecated)))
		}
		kind, value := swift(i.value)
		if to := r.whole(i); to != nil {
			value = identifier(to.name)
		}
		f.token(i.token.Path)
		f.printf("    public static let %s: %s = %s\n", identifier(i.name), kind, value)
	}
	f.printf("}\n")
}

// typeSuffix tells the types of further themes apart.
func typeSuffix(r *run) string {
	name := []rune(camel([]string{r.called}))
	if len(name) > 0 {
		name[0] = unicode.ToUpper(name[0])
	}
	return string(name)
}

func documented(f *file, i item, mark string) {
	if d := comment(i.token.Description); d != "" {
		f.printf("    %s%s\n", mark, d)
	}
}

func swift(v *token.Value) (kind, value string) {
	v = v.Flat()
	switch literal := v.Literal.(type) {
	case color.Color:
		space := "sRGB"
		c := literal.Mapped(color.SRGB)
		if !literal.In(color.SRGB) {
			space, c = "displayP3", literal.Mapped(color.DisplayP3)
		}
		return "Color", fmt.Sprintf("Color(.%s, red: %s, green: %s, blue: %s, opacity: %s)", space,
			channel(c.V[0]), channel(c.V[1]), channel(c.V[2]), channel(c.Alpha))
	case token.Measure:
		if literal.Unit == "s" || literal.Unit == "ms" {
			return "TimeInterval", token.Number(seconds(literal))
		}
		return "CGFloat", token.Number(literal.Number)
	case token.Weight:
		return "CGFloat", token.Number(literal.Number)
	case float64:
		return "Double", token.Number(literal)
	case bool:
		return "Bool", strconv.FormatBool(literal)
	case string:
		return "String", strconv.Quote(literal)
	}
	switch v.Type {
	case "fontFamily":
		return "[String]", "[" + joined(v.Items, func(i *token.Value) string { return strconv.Quote(i.Literal.(string)) }) + "]"
	case "cubicBezier":
		return "[Double]", "[" + joined(v.Items, func(i *token.Value) string { return token.Number(i.Literal.(float64)) }) + "]"
	}
	return "String", strconv.Quote(v.CSS())
}

// channel writes a component of 0 to 1, none as 0: one that was 8 bits with four digits, any other with all it has.
func channel(v float64) string {
	if math.IsNaN(v) {
		return "0"
	}
	v = min(max(v, 0), 1)
	if n := v * 255; math.Abs(n-math.Round(n)) < 1e-6 {
		return css.FormatNumber(v)
	}
	return token.Number(token.Computed(v))
}

func seconds(m token.Measure) float64 {
	if m.Unit == "ms" {
		return token.Computed(m.Number / 1000)
	}
	return m.Number
}

func joined(items []*token.Value, text func(*token.Value) string) string {
	out := make([]string, len(items))
	for i, item := range items {
		out[i] = text(item)
	}
	return strings.Join(out, ", ")
}

// argb is a colour in 8 bits a component, alpha first, as Android counts.
func argb(c color.Color) string {
	hex := c.Hex()[1:]
	if len(hex) == 6 {
		hex += "ff"
	}
	return strings.ToUpper(hex[6:] + hex[:6])
}

// typeLengths are the paths of the dimensions that texts are as large, or as far apart, as. They grow with the text that a
// reader wants.
func typeLengths(set *token.Set) map[string]bool {
	out := map[string]bool{}
	for _, t := range set.All() {
		if t.Content == nil || t.Type != "typography" {
			continue
		}
		for _, name := range []string{"fontSize", "letterSpacing"} {
			for v := t.Content.End().Part(name); v != nil && v.To != nil; v = v.To {
				out[v.Alias] = true
			}
		}
	}
	return out
}

// ofType tells whether an item is a length of type.
func (i *item) ofType(lengths map[string]bool) bool {
	if i.part != "" {
		return i.value.Type == "dimension" && (strings.HasSuffix(i.part, "fontSize") || strings.HasSuffix(i.part, "letterSpacing"))
	}
	return lengths[i.token.Path]
}

// writeKotlin writes an object for Jetpack Compose's units: Color, Dp, TextUnit for type, and
// milliseconds as Long. What is referred to comes first: an object's properties
// are set in order.
func writeKotlin(f *file, r *run) {
	lengths := typeLengths(r.set)
	imports := []string{"androidx.compose.ui.graphics.Color", "androidx.compose.ui.unit.dp"}
	wants := func(name string, want func(i item) bool) {
		if slices.ContainsFunc(r.items, want) {
			imports = append(imports, name)
		}
	}
	wants("androidx.compose.ui.graphics.colorspace.ColorSpaces", func(i item) bool {
		c, is := i.value.Color()
		return is && !c.In(color.SRGB)
	})
	wants("androidx.compose.ui.unit.sp", func(i item) bool { return i.ofType(lengths) })
	slices.Sort(imports)
	f.printf("// %s\n\nimport %s\n\nobject Tokens%s {\n", header, strings.Join(imports, "\nimport "), typeSuffix(r))
	for _, i := range r.ordered() {
		if d := comment(i.token.Description); d != "" {
			f.printf("    /** %s */\n", d)
		}
		if i.token.Deprecated != "" {
			f.printf("    @Deprecated(%s)\n", kotlinString(comment(i.token.Deprecated)))
		}
		value := kotlin(i.value)
		if i.ofType(lengths) {
			value = strings.TrimSuffix(value, ".dp") + ".sp"
		}
		if to := r.whole(i); to != nil {
			value = identifier(to.name)
		}
		f.token(i.token.Path)
		f.printf("    val %s = %s\n", identifier(i.name), value)
	}
	f.printf("}\n")
}

func kotlinString(s string) string { return strings.ReplaceAll(strconv.Quote(s), "$", `\$`) }

func kotlin(v *token.Value) string {
	v = v.Flat()
	switch literal := v.Literal.(type) {
	case color.Color:
		if !literal.In(color.SRGB) {
			c := literal.Mapped(color.DisplayP3)
			return "Color(" + channel(c.V[0]) + "f, " + channel(c.V[1]) + "f, " + channel(c.V[2]) + "f, " + channel(c.Alpha) + "f, ColorSpaces.DisplayP3)"
		}
		return "Color(0x" + argb(literal) + ")"
	case token.Measure:
		switch literal.Unit {
		case "s", "ms":
			return strconv.FormatInt(int64(math.Round(seconds(literal)*1000)), 10) + "L"
		}
		if literal.Number < 0 {
			return "(" + token.Number(literal.Number) + ").dp"
		}
		return token.Number(literal.Number) + ".dp"
	case token.Weight:
		return css.FormatNumber(math.Round(literal.Number))
	case float64:
		s := token.Number(literal)
		if !strings.Contains(s, ".") {
			s += ".0"
		}
		return s
	case bool:
		return strconv.FormatBool(literal)
	case string:
		return kotlinString(literal)
	}
	switch v.Type {
	case "fontFamily":
		return "listOf(" + joined(v.Items, kotlin) + ")"
	case "cubicBezier":
		return "doubleArrayOf(" + joined(v.Items, kotlin) + ")"
	}
	return kotlinString(v.CSS())
}

// writeAndroid writes value resources. Aliases are references to a resource of
// the same kind.
func writeAndroid(f *file, r *run) {
	f.printf("<?xml version=\"1.0\" encoding=\"utf-8\"?>\n<!-- %s -->\n<resources>\n", header)
	lengths := typeLengths(r.set)
	for _, i := range r.items {
		element, attributes, text := android(i.value.Flat())
		if i.ofType(lengths) {
			text = strings.TrimSuffix(text, "dp") + "sp"
		}
		if to := r.whole(i); to != nil && element != "array" {
			text = "@" + resourceKind(element) + "/" + resource(to.name)
		}
		name := resource(i.name)
		if element == "array" {
			f.token(i.token.Path)
			f.printf("    <array name=\"%s\">\n", name)
			for line := range strings.SplitSeq(text, "\n") {
				f.printf("        <item>%s</item>\n", escaped(line))
			}
			f.printf("    </array>\n")
			continue
		}
		f.token(i.token.Path)
		f.printf("    <%s name=\"%s\"%s>%s</%s>\n", element, name, attributes, escaped(text), element)
	}
	f.printf("</resources>\n")
}

// resource makes a name one that resources take: small letters, digits and
// underscores, beginning with a letter.
func resource(name string) string {
	s := strings.Map(func(r rune) rune {
		if r == '_' || isDigit(r) || r >= 'a' && r <= 'z' {
			return r
		}
		if r >= 'A' && r <= 'Z' {
			return r - 'A' + 'a'
		}
		return '_'
	}, name)
	if s == "" || !(s[0] >= 'a' && s[0] <= 'z') {
		return "t_" + s
	}
	return s
}

func resourceKind(element string) string {
	if element == "item" {
		return "dimen"
	}
	return element
}

func android(v *token.Value) (element, attributes, text string) {
	switch literal := v.Literal.(type) {
	case color.Color:
		return "color", "", "#" + argb(literal)
	case token.Measure:
		switch literal.Unit {
		case "s", "ms":
			return "integer", "", strconv.FormatInt(int64(math.Round(seconds(literal)*1000)), 10)
		}
		return "dimen", "", token.Number(literal.Number) + "dp"
	case token.Weight:
		return "integer", "", css.FormatNumber(math.Round(literal.Number))
	case float64:
		return "item", ` type="dimen" format="float"`, token.Number(literal)
	case bool:
		return "bool", "", strconv.FormatBool(literal)
	case string:
		return "string", "", androidString(literal)
	}
	switch v.Type {
	case "fontFamily", "cubicBezier":
		lines := make([]string, len(v.Items))
		for i, item := range v.Items {
			_, _, lines[i] = android(item)
		}
		return "array", "", strings.Join(lines, "\n")
	}
	return "string", "", androidString(v.CSS())
}

// androidString escapes what resources read specially in a string.
func androidString(s string) string {
	s = strings.NewReplacer(`\`, `\\`, `'`, `\'`, `"`, `\"`, "\n", " ").Replace(s)
	if s != "" && slices.Contains([]byte("@?"), s[0]) {
		s = `\` + s
	}
	return s
}

func escaped(s string) string {
	var b strings.Builder
	// Writing into a Builder cannot fail.
	_ = xml.EscapeText(&b, []byte(s))
	return b.String()
}
