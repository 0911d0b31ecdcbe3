package source

import (
	"cmp"
	"maps"
	"regexp"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/emit/ir"
	"cobrik/core/source/syntax"
)

// matched is a declaration that comes to bear on a part, while a condition holds.
type matched struct {
	declaration
	when   cond
	layer  int
	weight [3]int
	order  int
}

// styles reads what the style sheets, and attributes, say of each part.
func (r *reader) styles() {
	sheets := r.sheetsOf()
	var parts []*contract.Part
	r.out.Walk(func(p, _ *contract.Part) { parts = append(parts, p) })
	if up := r.parents[r.out.Root]; up != nil { // the box that the root's width is asked of
		parts = append(parts, up)
	}
	byPart := map[*contract.Part][]matched{}
	order := 0
	for _, s := range sheets {
		r.reading.Sheets = append(r.reading.Sheets, s.name)
		for _, n := range s.notes {
			if r.concerns(s, n.at) {
				r.unread(n.at, n.rule, n.what)
			}
		}
		for i := range s.rules {
			rule := &s.rules[i]
			order++
			r.rule(s, rule, order, parts, byPart)
		}
	}
	r.out.Walk(func(p, _ *contract.Part) {
		for _, d := range r.inline[p] {
			order++
			m := matched{declaration: d, when: always(), order: order, weight: [3]int{1 << 20}}
			if d.hint {
				m.weight = [3]int{-1}
			}
			byPart[p] = append(byPart[p], m)
		}
	})
	r.out.Walk(func(p, _ *contract.Part) { r.say(p, byPart[p]) })
}

// sheetsOf gives the style sheets that classes of the component are of, and those that its file imports for what they do.
func (r *reader) sheetsOf() (out []*sheet) {
	var names []string
	add := func(name string) {
		if name != "" && !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	for name, in := range r.m.imports {
		if isSheet(in.from) && (in.name == "" || in.name == "default" || in.name == "*") {
			add(r.sheetPath(r.m, in.from))
			_ = name
		}
	}
	slices.Sort(names)
	plain := map[string]bool{}
	for _, list := range r.has {
		for _, c := range list {
			if add(c.sheet); c.sheet == "" && !c.composed {
				plain[c.name] = true
			}
		}
	}
	for _, name := range names {
		if s := r.code.sheet(name); s != nil {
			out = append(out, s)
			for class := range s.names {
				delete(plain, class)
			}
		} else if _, there := r.code.files[name]; there {
			r.unread(r.m.Root, "sheet", "the style sheet "+name+", which is no CSS")
		} else {
			r.unread(r.m.Root, "sheet", "the style sheet "+name+", which is not there")
		}
	}
	if len(plain) > 0 { // a page may load them wherever it likes
		for _, name := range r.code.names {
			if !strings.HasSuffix(name, ".css") || strings.HasSuffix(name, ".module.css") || slices.Contains(names, name) {
				continue
			}
			if s := r.code.sheet(name); s != nil && holdsAny(s.names, plain) {
				out = append(out, s)
			}
		}
	}
	known := map[string]bool{}
	for _, s := range out {
		maps.Copy(known, s.names)
	}
	var unknown []string
	for name := range plain {
		if !known[name] {
			unknown = append(unknown, name)
		}
	}
	if slices.Sort(unknown); len(unknown) > 0 {
		r.unread(r.at[r.out.Root], "class", "classes that no style sheet here has: "+shortened(strings.Join(unknown, " ")))
	}
	return out
}

func holdsAny(names, wanted map[string]bool) bool {
	for name := range wanted {
		if names[name] {
			return true
		}
	}
	return false
}

// concerns tells whether a piece of a style sheet is about the component: all of a module of its own is, of a sheet for all what names a class of it.
func (r *reader) concerns(s *sheet, n *syntax.Node) bool {
	if strings.HasSuffix(s.name, ".module.css") {
		return true
	}
	text := n.Text()
	for _, list := range r.has {
		for _, c := range list {
			if c.sheet == "" && strings.Contains(text, "."+c.name) {
				return true
			}
		}
	}
	return false
}

// rule adds what a rule says to the parts it selects.
func (r *reader) rule(s *sheet, rule *styleRule, order int, parts []*contract.Part, out map[*contract.Part][]matched) {
	last := rule.selector[len(rule.selector)-1]
	if rule.still && !slices.ContainsFunc(rule.declarations, func(d declaration) bool {
		return !slices.Contains([]string{"transition", "animation", "transition-duration", "animation-duration", "scroll-behavior"}, d.property)
	}) {
		return // the contract's own are stilled by themselves
	}
	m := matcher{r: r, sheet: s, rule: rule}
	selected := false
	for _, p := range parts {
		when := m.match(rule.selector, len(rule.selector)-1, p)
		if when = r.simplified(when.and(rule.when)); len(when) == 0 {
			continue
		}
		selected = true
		if last.element != "" {
			m.unread("what is drawn by ::" + last.element + " of " + p.Name)
			continue
		}
		if rule.still {
			m.unread("what holds for people who ask for less motion")
			continue
		}
		for _, d := range rule.declarations {
			out[p] = append(out[p], matched{declaration: d, when: when, layer: rule.layer, weight: rule.selector.weight(), order: order})
		}
	}
	if !selected && !m.told && strings.HasSuffix(s.name, ".module.css") && !r.usedElsewhere(rule) {
		r.unread(rule.at, "selector", "the rule "+shortened(rule.text)+", which selects nothing that the component renders")
	}
}

// usedElsewhere tells whether something else in the component's file uses a class that a rule names: the rule is that one's.
func (r *reader) usedElsewhere(rule *styleRule) bool {
	for _, c := range rule.selector {
		for _, name := range c.allClasses() {
			used := regexp.MustCompile(`\.` + regexp.QuoteMeta(name) + `\b|["'` + "`" + `]` + regexp.QuoteMeta(name) + `["'` + "`" + `]`)
			for _, piece := range [][]byte{r.m.Text[:r.f.body.From], r.m.Text[r.f.body.To:]} {
				if used.Match(piece) {
					return true
				}
			}
		}
	}
	return false
}

// say turns what comes to bear on a part into its style and rules, the later winning.
func (r *reader) say(p *contract.Part, list []matched) {
	slices.SortStableFunc(list, func(a, b matched) int {
		layer := func(m matched) int { // what is in no layer wins over all that are (CSS Cascade 5, 6.4.4)
			if m.layer == 0 {
				return 1 << 20
			}
			return m.layer
		}
		important := func(m matched) int {
			if m.important {
				return 1
			}
			return 0
		}
		return cmp.Or(important(a)-important(b), layer(a)-layer(b), compareWeights(a.weight, b.weight), a.order-b.order)
	})
	base := map[string]string{}
	type entry struct {
		when            contract.When
		property, value string
		at              *syntax.Node
	}
	var entries []entry
	places := map[string]*syntax.Node{}
	resets := ir.Resets(p)
	own := map[string]bool{} // resets that the code says, or says otherwise
	for _, m := range list {
		value, why := r.resolved(m.value)
		if why != "" {
			r.unread(m.at, "value", m.property+": "+why)
			continue
		}
		if strings.HasPrefix(m.property, "--") || m.property == "composes" || m.property == "all" {
			if m.property != "composes" && m.property != "all" {
				continue // it comes to bear where it is used
			}
			r.unread(m.at, "value", m.property+": "+shortened(value))
			continue
		}
		for _, d := range resets {
			if m.when.isAlways() && covers(m.property, d.Property) {
				own[d.Property] = true
			}
		}
		if m.when.isAlways() && isReset(resets, m.property, value) && base[m.property] == "" {
			continue // as every part of ours begins
		}
		if side := borderSide.FindStringSubmatch(m.property); side != nil && onlySide(base, side[1]) { // of the one side that has a line
			m.property = "border-" + side[2]
		}
		value = strings.Join(strings.Fields(value), " ")
		if m.property == "animation" { // as every animation of ours goes on
			value = strings.TrimSuffix(value, " infinite alternate")
		}
		longs, ok := expanded(m.property, value, r.fits)
		for _, s := range longs {
			ok = ok && r.takes(s.property, s.value)
		}
		if !ok {
			if m.when.isAlways() && m.property == "display" && value == "none" {
				continue
			}
			r.unread(m.at, "value", m.property+": "+shortened(value))
			continue
		}
		for _, s := range longs {
			if m.when.isAlways() {
				base[s.property] = s.value
				places[s.property] = m.at
				entries = slices.DeleteFunc(entries, func(e entry) bool { return e.property == s.property })
				continue
			}
			for _, conjunction := range m.when {
				when := contract.Of(conjunction...)
				entries = slices.DeleteFunc(entries, func(e entry) bool { return e.property == s.property && e.when.Equal(when) })
				entries = append(entries, entry{when, s.property, s.value, m.at})
			}
		}
	}
	for _, d := range resets {
		if !own[d.Property] && p.Use() == nil {
			r.reading.code[ofPart(p.ID, d.Property)] = BrowsersOwn
			r.place(ofPart(p.ID, d.Property), r.at[p])
		}
	}
	before := func(string) string { return "" }
	p.Style = styleOf(recombined(base, before))
	for property, at := range places {
		r.placeValue(p, property, contract.When{}, at)
	}
	var rules []*sided
	for _, e := range entries {
		var into *sided
		for i := len(rules) - 1; i >= 0; i-- {
			if rules[i].when.Equal(e.when) {
				into = rules[i]
				break
			}
			if _, set := rules[i].values[e.property]; set && !rules[i].when.Excludes(e.when) {
				break // it has to come after that one
			}
		}
		if into == nil {
			into = &sided{e.when, map[string]string{}}
			rules = append(rules, into)
		}
		into.values[e.property] = e.value
		r.placeValue(p, e.property, e.when, e.at)
	}
	for _, rule := range rules {
		set := styleOf(recombined(rule.values, func(side string) string { return base[side] }))
		r.out.Rules = append(r.out.Rules, contract.Rule{Part: p.ID, When: rule.when, Set: set})
	}
}

// borderSide is a property of one side's line.
var borderSide = regexp.MustCompile(`^border-(top|right|bottom|left)-(color|style)$`)

// onlySide tells whether there is a line at one side alone.
func onlySide(base map[string]string, side string) bool {
	for _, name := range borderSides {
		value := base[name]
		there := value != "" && value != "0px" && value != "0"
		if there != (name == "border-"+side+"-width") {
			return false
		}
	}
	return true
}

// BrowsersOwn is what code says of a property that every component of ours takes back, where it leaves it alone.
const BrowsersOwn = "as browsers have it"

// covers tells whether a property says something of what a reset says: it is the same, or a longhand or shorthand of it.
func covers(property, reset string) bool {
	return property == reset || strings.HasPrefix(property, reset+"-") || strings.HasPrefix(reset, property+"-")
}

// sided are values under a condition, a property a side.
type sided struct {
	when   contract.When
	values map[string]string
}

func styleOf(values map[string]string) contract.Style {
	if len(values) == 0 {
		return nil
	}
	return contract.Style(values)
}

// placeValue notes where a value is said, under the properties that a contract has it as.
func (r *reader) placeValue(p *contract.Part, property string, when contract.When, at *syntax.Node) {
	for _, name := range contractNames(property) {
		r.place(ofStyle(p.ID, name, when), at)
	}
}

func isReset(resets []ir.Declaration, property, value string) bool {
	return slices.ContainsFunc(resets, func(d ir.Declaration) bool {
		return d.Property == property && (d.Value == value || d.Value == "0" && value == "0px" || d.Value == "none" && property == "background" && value == "transparent")
	})
}

// fits tells whether a property of a contract takes a value.
func (r *reader) fits(property, value string) bool {
	return contract.CheckValue(property, value, r.o.Tokens) == nil
}

// takes is fits for the properties of sides, too, which a contract has as shorthands.
func (r *reader) takes(property, value string) bool {
	if _, known := css.PropertyNamed(property); known {
		return r.fits(property, value)
	}
	for _, name := range contractNames(property) {
		return r.fits(name, value)
	}
	return false
}

// contractNames gives the properties that a contract may hold what is said of a side as.
func contractNames(property string) []string {
	if slices.Contains(borderSides[:], property) {
		return []string{"border-width"}
	}
	if slices.Contains(corners[:], property) {
		return []string{"border-radius"}
	}
	for _, kind := range []string{"margin", "padding"} {
		switch property {
		case kind + "-top", kind + "-bottom":
			return []string{kind + "-block", property}
		case kind + "-left", kind + "-right":
			return []string{kind + "-inline", property}
		}
	}
	return []string{property}
}

// resolved writes custom properties as the tokens they are, or as what they are set to; why tells what cannot be.
func (r *reader) resolved(value string) (out, why string) { return r.resolvedAt(value, 0) }

func (r *reader) resolvedAt(value string, depth int) (out, why string) {
	if depth > 8 || len(value) > css.MaxValue {
		return "", "a value that goes on too long to be followed"
	}
	var b strings.Builder
	for {
		i := indexFunction(value, "var(")
		if i < 0 {
			break
		}
		b.WriteString(value[:i])
		end := closing(value, i+len("var"))
		if end < 0 {
			return "", "a value whose brackets are not closed"
		}
		name, fallback, _ := strings.Cut(value[i+len("var("):end], ",")
		name, fallback = strings.TrimSpace(name), strings.TrimSpace(fallback)
		text, why := r.custom(name, fallback, depth)
		if why != "" {
			return "", why
		}
		b.WriteString(text)
		value = value[end+1:]
	}
	b.WriteString(value)
	return strings.TrimSpace(b.String()), ""
}

// custom gives what a custom property stands for: a token, or the one value that the style sheets set it to.
func (r *reader) custom(name, fallback string, depth int) (text, why string) {
	if path, ok := r.o.Token(name); ok {
		return "{" + path + "}", ""
	}
	var set []declaration
	for _, s := range r.code.sheets {
		if s != nil {
			set = append(set, s.customs[name]...)
		}
	}
	switch len(set) {
	case 1:
		return r.resolvedAt(set[0].value, depth+1)
	case 0:
		if fallback != "" {
			return "", "the custom property " + name + ", which is no token here; without it, it is " + shortened(fallback)
		}
		return "", "the custom property " + name + ", which is no token here"
	}
	return "", "the custom property " + name + ", which is set in several places"
}

func indexFunction(value, name string) int {
	for from := 0; ; {
		i := strings.Index(strings.ToLower(value[from:]), name)
		if i < 0 {
			return -1
		}
		if i += from; i == 0 || !isNameByte(value[i-1]) {
			return i
		}
		from = i + len(name)
	}
}

func isNameByte(c byte) bool {
	return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || c == '-' || c == '_' || c >= 0x80
}

// closing gives the place of the bracket that closes the one at a place.
func closing(value string, at int) int {
	depth := 0
	for i := at; i < len(value); i++ {
		switch value[i] {
		case '(':
			depth++
		case ')':
			if depth--; depth == 0 {
				return i
			}
		}
	}
	return -1
}

// inlineStyle reads a style attribute: values that never change.
func (r *reader) inlineStyle(p *contract.Part, value *syntax.Node, s *scope) {
	n := bare(value)
	for range 8 {
		m, ok := r.means(n, s)
		if !ok || m.kind != constValue {
			break
		}
		n, s = bare(m.value), m.in
	}
	if m, ok := r.means(n, s); ok && m.kind == machinery {
		return // what a use gives
	}
	names, values, whole := entries(n)
	if !whole {
		r.unread(value, "value", "the style "+shortened(value.Text()))
	}
	for _, name := range names {
		property := name
		if !strings.HasPrefix(name, "--") {
			property = hyphenated(name)
		}
		v, ok := constant(values[name])
		switch v := v.(type) {
		case string:
			r.inline[p] = append(r.inline[p], declaration{property: property, value: v, at: values[name]})
		case float64:
			text := contract.NumberValue(v).String()
			if v != 0 && !unitless(property) {
				text += "px"
			}
			r.inline[p] = append(r.inline[p], declaration{property: property, value: text, at: values[name]})
		default:
			ok = false
		}
		if !ok {
			r.unread(values[name], "value", property+" of "+shortened(values[name].Text()))
		}
	}
}

// hyphenated writes a property as CSS does: backgroundColor is background-color.
func hyphenated(name string) string {
	var b strings.Builder
	for i, c := range name {
		if c >= 'A' && c <= 'Z' {
			if i > 0 || strings.HasPrefix(name, "Webkit") {
				b.WriteByte('-')
			}
			c += 'a' - 'A'
		}
		b.WriteRune(c)
	}
	return b.String()
}

// unitless tells whether a number of a property has no unit.
func unitless(property string) bool {
	return slices.Contains([]string{"opacity", "flex", "flex-grow", "flex-shrink", "font-weight", "line-height", "order", "z-index", "aspect-ratio", "zoom", "scale"}, property)
}
