package source

import (
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/source/syntax"
)

// piece is one thing that stands in an element: a part, a text that never changes, or a prop's value.
type piece struct {
	part *contract.Part
	text string
	prop string
	when cond
	at   *syntax.Node
	kids []piece // of a slot what stands there while there is nothing in it
}

// pieces reads an expression, or JSX, as what stands there while a condition holds; in a list for each of its items.
func (r *reader) pieces(n *syntax.Node, s *scope, when cond, list string) []piece {
	if n.Is("jsx_expression") {
		inner := n.Inner()
		if len(inner) == 0 {
			return nil // a comment
		}
		n = inner[0]
	}
	if n = bare(n); n == nil || when == nil || r.following[n] {
		return nil
	}
	return r.piecesOf(n, s, when, list)
}

func (r *reader) piecesOf(n *syntax.Node, s *scope, when cond, list string) []piece {
	if v, ok := constant(n); ok {
		switch v := v.(type) {
		case string:
			return []piece{{text: v, when: when, at: n}}
		case float64:
			return []piece{{text: contract.NumberValue(v).String(), when: when, at: n}}
		}
		return nil
	}
	switch n.Kind {
	case "jsx_element", "jsx_self_closing_element":
		if name := tagOf(n); name == nil || name.Text() == "Fragment" || name.Text() == "React.Fragment" {
			return r.inside(n, s, when, list)
		}
		if p := r.element(n, s, when, list); p != nil {
			return []piece{{part: p, when: when, at: n}}
		}
		return nil
	case "jsx_fragment":
		return r.inside(n, s, when, list)
	case "array":
		var out []piece
		for _, e := range n.Inner() {
			out = append(out, r.pieces(e, s, when, list)...)
		}
		return out
	case "ternary_expression":
		return r.eitherPiece(n, s, when, list)
	case "binary_expression":
		switch op := n.Child("operator").Text(); op {
		case "&&":
			c, ok := r.test(n.Child("left"), s)
			if !ok {
				r.unread(n.Child("left"), "condition", "that something is there only while "+shortened(n.Child("left").Text()))
				c = always()
			}
			return r.pieces(n.Child("right"), s, when.and(c), list)
		case "??", "||":
			if o, ok := r.operand(n.Child("left"), s); ok {
				if p := r.out.Prop(o.prop); p != nil && o.member == "" && (p.Kind() == contract.SlotKind || p.Kind() == contract.RichKind) {
					return []piece{{prop: o.prop, when: when, at: n, kids: r.pieces(n.Child("right"), s, always(), list)}}
				}
			}
		}
	case "call_expression":
		if out, ok := r.eachItem(n, s, when); ok {
			return out
		}
		if m, ok := r.means(bare(n.Child("function")), s); ok && m.kind == constValue && len(n.Child("arguments").Inner()) == 0 {
			if body := functionBody(m.value); body != nil {
				return r.followed(body, m.in, when, list)
			}
		}
	case "subscript_expression":
		if out := r.iconPiece(n, s, when, list); out != nil {
			return out
		}
	case "identifier":
		if m, ok := r.means(n, s); ok && m.kind == constValue && !bare(m.value).Is("arrow_function", "function_expression") {
			return r.followed(m.value, m.in, when, list)
		}
	}
	if o, ok := r.operand(n, s); ok && o.member == "" {
		if p := r.out.Prop(o.prop); p != nil {
			if o.orElse != nil && o.orElse != "" {
				r.unread(n, "content", "what is shown where "+o.prop+" is empty")
			}
			return []piece{{prop: o.prop, when: when, at: n}}
		}
	}
	if list, ok := r.texts(n, s); ok && len(list) > 0 {
		var out []piece
		for _, w := range list {
			if c := when.and(w.when); c != nil && w.text != "" {
				out = append(out, piece{text: w.text, when: c, at: n})
			}
		}
		return out
	}
	r.unread(n, "content", "what "+shortened(n.Text())+" shows")
	return nil
}

// followed reads what a name stands for, once at a time.
func (r *reader) followed(n *syntax.Node, s *scope, when cond, list string) []piece {
	n = bare(n)
	if r.following[n] {
		return nil
	}
	r.following[n] = true
	defer delete(r.following, n)
	return r.piecesOf(n, s, when, list)
}

// functionBody gives what a function without statements gives back, or the one with a single return.
func functionBody(f *syntax.Node) *syntax.Node {
	body := bare(f).Child("body")
	if !body.Is("statement_block") {
		return body
	}
	if inner := body.Inner(); len(inner) == 1 && inner[0].Is("return_statement") && len(inner[0].Inner()) == 1 {
		return inner[0].Lead()
	}
	return nil
}

// eitherPiece reads what is one of two things. An image and what keeps its place are one part.
func (r *reader) eitherPiece(n *syntax.Node, s *scope, when cond, list string) []piece {
	test := n.Child("condition")
	c, ok := r.test(test, s)
	none, okNot := r.not(c)
	if !ok || !okNot {
		r.unread(test, "condition", "that one of two things is there while "+shortened(test.Text()))
		c, none = always(), nil
	}
	then := r.pieces(n.Child("consequence"), s, when.and(c), list)
	if len(then) == 1 && then[0].part != nil && len(c) == 1 && len(c[0]) == 1 {
		image, isImage := then[0].part.Content.(contract.ImageOf)
		if isImage && c[0][0] == (contract.PropSet{Prop: image.Prop, Set: true}) {
			return r.missing(then[0], n.Child("alternative"), s, when, list)
		}
	}
	return append(then, r.pieces(n.Child("alternative"), s, when.and(none), list)...)
}

// missing reads what stands in an image's place while there is none: an element of the same classes.
func (r *reader) missing(image piece, n *syntax.Node, s *scope, when cond, list string) []piece {
	other := r.pieces(n, s, when, list)
	if len(other) == 1 && other[0].part != nil && sameClasses(r.has[image.part], r.has[other[0].part]) {
		delete(r.names, other[0].part.ID)
		r.hears = slices.DeleteFunc(r.hears, func(h hearing) bool { return h.part == other[0].part })
		image.part.Children = other[0].part.Children
		image.part.Children = slices.Clone(image.part.Children)
		for _, c := range image.part.Children {
			r.parents[c] = image.part
		}
		r.show(image.part, when, image.at)
		image.when = when
		return []piece{image}
	}
	set := contract.PropSet{Prop: image.part.Content.(contract.ImageOf).Prop}
	for _, o := range other {
		if o.part != nil {
			r.show(o.part, o.when.and(cond{{set}}), o.at)
		}
	}
	return append([]piece{image}, other...)
}

func sameClasses(a, b []class) bool {
	return slices.EqualFunc(a, b, func(a, b class) bool { return a.sheet == b.sheet && a.name == b.name })
}

// eachItem reads a list's map: what is there for each of its items.
func (r *reader) eachItem(n *syntax.Node, s *scope, when cond) ([]piece, bool) {
	function, args := bare(n.Child("function")), n.Child("arguments").Inner()
	if !function.Is("member_expression") || function.Child("property").Text() != "map" || len(args) == 0 {
		return nil, false
	}
	of := bare(function.Child("object"))
	if of.Is("binary_expression") { // (links ?? []).map
		of = bare(of.Child("left"))
	}
	o, ok := r.operand(of, s)
	p := r.out.Prop(o.prop)
	each := bare(args[0])
	if !ok || p == nil || p.Kind() != contract.ListKind || o.member != "" || !each.Is("arrow_function", "function_expression", "function") {
		return nil, false
	}
	inner := s.inner()
	parameters := each.Child("parameters").Inner()
	if single := each.Child("parameter"); single != nil {
		parameters = []*syntax.Node{single}
	}
	for i, parameter := range parameters {
		if parameter.Is("required_parameter", "optional_parameter") {
			parameter = parameter.Child("pattern")
		}
		switch {
		case i == 0 && parameter.Is("identifier"):
			inner.names[parameter.Text()] = meaning{kind: listItem, prop: o.prop}
		case i == 0 && parameter.Is("object_pattern"):
			r.destructured(parameter, inner, o.prop)
		case parameter.Is("identifier"):
			inner.names[parameter.Text()] = meaning{kind: listIndex, prop: o.prop}
		}
	}
	body := each.Child("body")
	if body.Is("statement_block") {
		var given *syntax.Node
		for _, st := range body.Inner() {
			switch {
			case st.Is("lexical_declaration"):
				for _, d := range st.Inner() {
					if d.Child("name").Is("object_pattern") {
						if m, ok := r.means(bare(d.Child("value")), inner); ok && m.kind == listItem {
							r.destructured(d.Child("name"), inner, m.prop)
						}
					} else if d.Child("name").Is("identifier") {
						r.binding(d, inner)
					}
				}
			case st.Is("return_statement") && len(st.Inner()) == 1:
				given = st.Lead()
			default:
				r.unread(st, "element", "what a statement does for each item")
			}
		}
		body = given
	}
	if body == nil {
		return nil, true
	}
	out := r.pieces(body, inner, when, o.prop)
	for i, one := range out {
		if one.part == nil { // words that stand in no element
			out[i] = piece{part: r.words(one), when: one.when, at: one.at}
			out[i].part.Repeat = o.prop
		}
	}
	return out, true
}

// words makes a part of words that stand beside other things, without an element of their own.
func (r *reader) words(one piece) *contract.Part {
	name := strings.ReplaceAll(one.prop, ".", "-")
	if name == "" {
		name = "words"
	}
	own := &contract.Part{Element: "span", ID: r.partName(name)}
	own.Name = own.ID
	r.at[own], r.anonymous[own] = one.at, true
	r.content(own, one)
	r.show(own, one.when, one.at)
	r.unsure(ofPart(own.ID, "element"), "it stands beside other things without an element of its own")
	return own
}

// iconPiece reads a drawing that is looked up by an icon's value.
func (r *reader) iconPiece(n *syntax.Node, s *scope, when cond, list string) []piece {
	o, ok := r.operand(n.Child("index"), s)
	p := r.out.Prop(o.prop)
	if !ok || p == nil || p.Kind() != contract.IconKind {
		return nil
	}
	names, values, _ := r.table(n.Child("object"), s)
	if len(names) == 0 {
		return nil
	}
	drawn := bare(values[names[0]])
	out := r.element(drawn, nil, when.and(always()), list)
	if out == nil {
		return nil
	}
	out.Content = contract.IconOf{Prop: o.prop}
	out.ShownWhen = out.ShownWhen.Without(contract.PropSet{Prop: o.prop, Set: true})
	r.at[out] = n
	return []piece{{part: out, when: when, at: n}}
}

// tagOf gives the name in an element's tag; nil for a fragment's.
func tagOf(n *syntax.Node) *syntax.Node {
	if n.Is("jsx_element") {
		n = n.Child("open_tag")
	}
	return n.Child("name")
}

// inside reads what stands between an element's tags.
func (r *reader) inside(n *syntax.Node, s *scope, when cond, list string) (out []piece) {
	if n.Is("jsx_self_closing_element") {
		return nil
	}
	text, from := "", (*syntax.Node)(nil)
	flush := func() {
		if words := jsxText(text); from != nil && words != "" {
			out = append(out, piece{text: words, when: when, at: from})
		}
		text, from = "", nil
	}
	for _, c := range n.Children {
		switch {
		case c.Is("jsx_text", "html_character_reference"):
			if from == nil {
				from = c
			}
			text += c.Text()
		case c.Field == "open_tag" || c.Field == "close_tag" || !c.Named:
		default:
			flush()
			out = append(out, r.pieces(c, s, when, list)...)
		}
	}
	flush()
	return out
}

// show says when a part is there.
func (r *reader) show(p *contract.Part, when cond, at *syntax.Node) {
	p.ShownWhen = contract.When{}
	if when = r.simplified(when); when.isAlways() {
		return
	}
	if len(when) != 1 {
		r.unread(at, "condition", "when this is there: in one of several cases, which no part can say")
		return
	}
	p.ShownWhen = contract.Of(when[0]...)
}

// element reads an element, or the use of a component, with all that stands in it.
func (r *reader) element(n *syntax.Node, s *scope, when cond, list string) *contract.Part {
	if !n.Is("jsx_element", "jsx_self_closing_element") {
		return nil
	}
	p := &contract.Part{Repeat: list}
	r.at[p] = n
	r.show(p, when, n)
	name := tagOf(n)
	attributes := n
	if n.Is("jsx_element") {
		attributes = n.Child("open_tag")
	}
	drawn := (*syntax.Node)(nil)
	switch m, known := r.means(name, s); {
	case known && m.kind == headingTag:
		p.Level = m.prop
		p.Element = "h2"
		if number := r.out.Prop(m.prop); number != nil {
			if v, ok := number.Default().(contract.NumberValue); ok {
				p.Element = "h" + v.String()
			}
		}
	case known && m.kind == rootTag:
		p.Element = "div"
		if v, ok := constant(m.value); ok {
			if text, is := v.(string); is {
				p.Element = text
			}
		}
		for _, e := range r.as() {
			if e != p.Element {
				p.As = append(p.As, e)
			}
		}
	case name.Is("identifier") && !isCapital(name.Text()):
		p.Element = name.Text()
	case name.Is("identifier"):
		if drawn = r.code.drawing(r.moduleOf(name), name.Text()); drawn != nil {
			p.Element = "svg"
			break
		}
		return r.use(p, n, attributes, s, list)
	default:
		r.unread(name, "element", "the element "+shortened(name.Text()))
		return nil
	}
	classNames := r.attributes(p, attributes, s)
	p.ID = r.partName(r.called(p, classNames))
	p.Name = p.ID
	switch {
	case drawn != nil:
		r.vector(p, drawn)
	case p.Element == "svg":
		r.vector(p, n)
	default:
		r.hold(p, r.inside(n, s, always(), ""))
	}
	r.settleImage(p)
	return p
}

// called gives what a part is called: by its class, else by its element.
func (r *reader) called(p *contract.Part, classes []class) string {
	best := ""
	for _, c := range classes {
		var has cond // it may stand in several branches
		for _, same := range classes {
			if same.sheet == c.sheet && same.name == c.name {
				has = has.or(same.when)
			}
		}
		if r.simplified(has).isAlways() {
			best = c.name
			break
		}
	}
	r.anonymous[p] = best == ""
	if best == "" {
		return p.Element
	}
	r.classOf[p] = best
	if i := strings.LastIndex(best, "__"); i >= 0 { // block__element
		best = best[i+2:]
	}
	return best
}

// hold puts what stands in an element into its part: content where it is one text, or begins with one; else parts.
func (r *reader) hold(p *contract.Part, list []piece) {
	list = joinedTexts(list)
	for i, one := range list {
		switch {
		case one.part != nil:
			r.parents[one.part] = p
			p.Children = append(p.Children, one.part)
		case i == 0 && one.when.isAlways() && p.Content == nil && !(r.isSlot(one.prop) && len(list) > 1):
			r.content(p, one)
		default:
			own := r.words(one)
			r.parents[own] = p
			p.Children = append(p.Children, own)
		}
	}
}

func (r *reader) isSlot(prop string) bool {
	p := r.out.Prop(prop)
	return p != nil && p.Kind() == contract.SlotKind
}

// content says what a part shows.
func (r *reader) content(p *contract.Part, one piece) {
	r.place(ofPart(p.ID, "content"), one.at)
	prop := r.out.Prop(one.prop)
	switch {
	case prop == nil:
		p.Content = contract.FixedText{Text: one.text}
	case prop.Kind() == contract.SlotKind:
		p.Content = contract.SlotOf{Prop: one.prop}
		inside := &contract.Part{}
		r.hold(inside, one.kids)
		if inside.Content != nil {
			r.unread(one.at, "content", "words that stand where "+one.prop+" is empty")
		}
		p.Children = append(p.Children, inside.Children...)
		for _, c := range p.Children {
			r.parents[c] = p
		}
	case slices.Contains([]contract.Kind{contract.TextKind, contract.RichKind, contract.NumberKind, contract.ChoiceKind, contract.LinkKind}, prop.Kind()):
		p.Content = contract.TextOf{Prop: one.prop}
	default:
		r.unread(one.at, "content", "what "+one.prop+" shows")
	}
}

// joinedTexts makes one of texts that stand beside each other.
func joinedTexts(list []piece) (out []piece) {
	for _, one := range list {
		if last := len(out) - 1; last >= 0 && one.part == nil && one.prop == "" && out[last].part == nil && out[last].prop == "" && one.when.isAlways() && out[last].when.isAlways() {
			out[last].text += one.text
			continue
		}
		out = append(out, one)
	}
	return slices.DeleteFunc(out, func(p piece) bool {
		return p.part == nil && p.prop == "" && strings.TrimSpace(p.text) == "" && len(out) > 1
	})
}
