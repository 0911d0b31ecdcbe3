package source

import (
	"encoding/base64"
	"net/url"
	"path"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/source/syntax"
)

// drawing gives the svg that a component is, where it is nothing but a drawing that passes its attributes on. Nil for none.
func (c *Code) drawing(m *module, name string) *syntax.Node {
	in, local := m.find(name)
	if in == nil {
		return nil
	}
	f := in.component(local)
	if f == nil {
		return nil
	}
	body := f.body
	if body.Is("statement_block") {
		inner := body.Inner()
		if len(inner) != 1 || !inner[0].Is("return_statement") || len(inner[0].Inner()) != 1 {
			return nil
		}
		body = inner[0].Lead()
	}
	body = bare(body)
	if !body.Is("jsx_element", "jsx_self_closing_element") || tagOf(body).Text() != "svg" {
		return nil
	}
	if _, left := vectorOf(body); len(left) > 0 {
		return nil
	}
	return body
}

// drawnBy gives the drawing of an element: an svg, or a component that is nothing but one.
func (r *reader) drawnBy(n *syntax.Node) *contract.Vector {
	n = bare(n)
	if !n.Is("jsx_element", "jsx_self_closing_element") {
		return nil
	}
	if name := tagOf(n); name.Text() != "svg" {
		if n = r.code.drawing(r.moduleOf(n), name.Text()); n == nil {
			return nil
		}
	}
	v, _ := vectorOf(n)
	return v
}

// vector reads an svg into its part; what is no path is told.
func (r *reader) vector(p *contract.Part, n *syntax.Node) {
	v, left := vectorOf(n)
	for _, at := range left {
		r.unread(at, "drawing", "a piece of a drawing: "+shortened(at.Text()))
	}
	tag := n
	if n.Is("jsx_element") {
		tag = n.Child("open_tag")
	}
	given, _ := constants(tag)
	hint := func(property, value string) { // an attribute is a declaration that weighs nothing (SVG 2, 6.6)
		r.inline[p] = append([]declaration{{property: property, value: value, at: tag, hint: true}}, r.inline[p]...)
	}
	for _, name := range []string{"width", "height"} {
		if x, err := strconv.ParseFloat(given[name], 64); err == nil {
			hint(name, strconv.FormatFloat(x, 'f', -1, 64)+"px")
		}
	}
	if fill := given["fill"]; fill != "" && fill != "none" {
		hint("fill", fill)
	}
	for name := range p.Attributes {
		if slices.Contains([]string{"viewBox", "preserveAspectRatio", "xmlns", "width", "height", "fill"}, name) || strings.HasPrefix(name, "stroke") {
			delete(p.Attributes, name)
		}
	}
	if role, label := p.Attributes["role"], p.Attributes["aria-label"]; role.Text == "img" && label.Text != "" {
		v.Label = label.Text
		delete(p.Attributes, "role")
		delete(p.Attributes, "aria-label")
	}
	if len(p.Attributes) == 0 {
		p.Attributes = nil
	}
	p.Content = v
}

// vectorOf reads the paths of an svg, and gives what else is in it.
func vectorOf(n *syntax.Node) (*contract.Vector, []*syntax.Node) {
	out := &contract.Vector{ViewBox: [4]float64{0, 0, 24, 24}}
	var left []*syntax.Node
	tag := n
	if n.Is("jsx_element") {
		tag = n.Child("open_tag")
	}
	given, others := constants(tag)
	for _, o := range others {
		if !o.Is("jsx_expression") && !slices.Contains([]string{"className", "style", "key"}, o.Lead().Text()) {
			left = append(left, o)
		}
	}
	if box := strings.Fields(strings.ReplaceAll(given["viewBox"], ",", " ")); len(box) == 4 {
		for i, word := range box {
			if x, err := strconv.ParseFloat(word, 64); err == nil {
				out.ViewBox[i] = x
			}
		}
	} else if w, err := strconv.ParseFloat(given["width"], 64); err == nil {
		if h, err := strconv.ParseFloat(given["height"], 64); err == nil {
			out.ViewBox = [4]float64{0, 0, w, h}
		}
	}
	for _, c := range n.Inner() {
		switch {
		case c.Field == "open_tag" || c.Field == "close_tag" || c.Field == "name" || c.Field == "attribute":
		case c.Is("jsx_text") && strings.TrimSpace(c.Text()) == "":
		case c.Is("jsx_self_closing_element", "jsx_element") && tagOf(c).Text() == "path":
			inner := c
			if c.Is("jsx_element") {
				inner = c.Child("open_tag")
			}
			a, others := constants(inner)
			if left = append(left, others...); a["d"] == "" {
				left = append(left, c)
				continue
			}
			for name, value := range given { // paths inherit lines, and that they are left open (SVG 2, 6.5)
				if _, own := a[name]; !own && (strings.HasPrefix(name, "stroke") || name == "fill" && value == "none") {
					a[name] = value
				}
			}
			path := contract.Path{D: a["d"], Fill: a["fill"], Rule: a["fill-rule"], Stroke: strokeOf(a)}
			if path.Rule == "nonzero" {
				path.Rule = ""
			}
			out.Paths = append(out.Paths, path)
		default:
			left = append(left, c)
		}
	}
	return out, left
}

func strokeOf(a map[string]string) (out contract.PathStroke) {
	if a["stroke"] == "" || a["stroke"] == "none" {
		return out
	}
	number := func(name string, otherwise float64) float64 {
		if x, err := strconv.ParseFloat(a[name], 64); err == nil {
			return x
		}
		return otherwise
	}
	return contract.PathStroke{Color: a["stroke"], Width: number("stroke-width", 1), Cap: a["stroke-linecap"], Join: a["stroke-linejoin"],
		Miter: number("stroke-miterlimit", 0), Dash: a["stroke-dasharray"], DashOffset: number("stroke-dashoffset", 0)}
}

// constants reads the attributes of a tag that never change, by their names in HTML and SVG, and lists the others.
func constants(tag *syntax.Node) (out map[string]string, others []*syntax.Node) {
	out = map[string]string{}
	for _, a := range tag.Inner() {
		if a.Field == "name" {
			continue
		}
		inner := a.Inner()
		if !a.Is("jsx_attribute") || len(inner) == 0 {
			others = append(others, a)
			continue
		}
		name := attributeName(inner[0].Text())
		switch {
		case len(inner) == 1:
			out[name] = "true"
		case inner[1].Is("string"):
			out[name] = jsxString(inner[1])
		default:
			v, ok := constant(inner[1])
			switch v := v.(type) {
			case string:
				out[name] = v
			case float64:
				out[name] = contract.NumberValue(v).String()
			case bool:
				out[name] = contract.FlagValue(v).String()
			default:
				ok = false
			}
			if !ok {
				others = append(others, a)
			}
		}
	}
	return out, others
}

// pictureEndings are those of files that are pictures.
var pictureEndings = []string{".svg", ".png", ".jpg", ".jpeg", ".webp", ".gif", ".avif"}

// pictureFile gives the picture file that a name is imported from; empty for none.
func (r *reader) pictureFile(n *syntax.Node) string {
	if !n.Is("identifier") {
		return ""
	}
	m := r.moduleOf(n)
	in, ok := m.imports[n.Text()]
	if !ok || !strings.HasPrefix(in.from, ".") || !slices.Contains(pictureEndings, path.Ext(in.from)) {
		return ""
	}
	return path.Join(path.Dir(m.Name), in.from)
}

// picture says that a part shows a picture file for ever.
func (r *reader) picture(p *contract.Part, file string) {
	text := r.code.files[file]
	source := "data:image/" + strings.TrimPrefix(path.Ext(file), ".") + ";base64," + base64.StdEncoding.EncodeToString(text)
	if path.Ext(file) == ".svg" {
		source = "data:image/svg+xml," + url.PathEscape(strings.TrimSuffix(string(text), "\n"))
	}
	p.Content = contract.Picture{Source: source}
}

// settleImage takes what an image's attributes say of its picture into it.
func (r *reader) settleImage(p *contract.Part) {
	if p.Element != "img" {
		return
	}
	picture, ok := p.Content.(contract.Picture)
	if !ok {
		return
	}
	for name, a := range p.Attributes {
		if a.Prop != "" || a.Part != "" {
			continue
		}
		x, err := strconv.ParseFloat(a.Text, 64)
		switch {
		case name == "alt":
			picture.Alt = a.Text
		case name == "width" && err == nil:
			picture.Width = x
		case name == "height" && err == nil:
			picture.Height = x
		default:
			continue
		}
		delete(p.Attributes, name)
	}
	if len(p.Attributes) == 0 {
		p.Attributes = nil
	}
	p.Content = picture
}
