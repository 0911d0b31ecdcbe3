package layout

import (
	"cobrik/core/design"
)

// What a part is to people, as far as its drawing tells: containers are named after what they hold.
const (
	isText    = "text"
	isIcon    = "icon"
	isPicture = "picture"
	isButton  = "button"
	isField   = "field"
	isTag     = "tag"
	isMark    = "mark"
	isCard    = "card"
	isBox     = "box"
	isPair    = "pair"  // an icon or mark with its text
	isEntry   = "entry" // a label with its field
)

// plural names a container of things of one kind.
var plural = map[string]string{
	isText: "texts", isIcon: "icons", isPicture: "pictures", isButton: "actions", isField: "fields", isEntry: "fields",
	isTag: "tags", isMark: "marks", isCard: "cards", isBox: "boxes", isPair: "pairs",
}

// containerWords are all names that containers are given.
var containerWords = func() map[string]bool {
	out := map[string]bool{}
	for _, w := range []string{Stack, Row, Grid, Split, Overlay, "body", "cell", "columns", "field", "groups", "items", "layers", "pair", "rows", "table", "text"} {
		out[w] = true
	}
	for _, w := range plural {
		out[w] = true
	}
	return out
}()

// NamedByReading tells whether a name is one that a container gets for what it holds, where nobody named it.
func NamedByReading(name string) bool { return containerWords[name] }

// Sizes that tell things apart, px: common practice, no source.
const (
	largestIcon  = 48
	largestTag   = 28
	highestField = 64
	widestButton = 240
)

// name names containers after the group that held the same layers, else after what they hold: never after one of
// the things in them.
func (in *inferrer) name(p *Part) {
	if p.Kind != Leaf && p.Name == "" {
		if len(in.groups) > 0 {
			p.Name = in.groups[p.Key()]
		}
		if p.Name == "" {
			p.Name = p.holds()
		}
	}
	for _, c := range p.Children {
		in.name(c)
	}
}

// role says what a part is.
func (p *Part) role() string {
	if p.Kind == Leaf {
		return p.leafRole()
	}
	if p.Kind == Overlay {
		return p.Children[p.base].role()
	}
	if p.Layer != "" && p.layer.Kind == design.Box {
		return p.boxRole()
	}
	if len(p.Children) == 1 {
		return p.Children[0].role()
	}
	if len(p.Children) == 2 && (p.Kind == Row || p.Kind == Stack || p.Kind == Split) {
		a, b := p.Children[0].role(), p.Children[1].role()
		switch {
		case a == isText && b == isField:
			return isEntry
		case p.Kind == Row && (a == isIcon || a == isMark) && b == isText:
			return isPair
		}
	}
	return ""
}

func (p *Part) leafRole() string {
	b := p.Bounds
	switch {
	case p.Text:
		return isText
	case p.layer != nil && p.layer.Kind == design.Instance:
		return ""
	case p.paints() && min(b.Width, b.Height) <= largestTag && b.Width <= largestIcon:
		return isMark
	case p.paints():
		return isBox
	case b.Width <= largestIcon && b.Height <= largestIcon:
		return isIcon
	}
	return isPicture
}

// boxRole says what a painted container is: by its size, and where its text stands.
func (p *Part) boxRole() string {
	b := p.Bounds
	if p.keepsSize() {
		return isMark
	}
	if b.Height > highestField {
		return isCard
	}
	var texts, others []*Part
	for _, l := range leavesOf(p.Children) {
		if l.Text {
			texts = append(texts, l)
		} else {
			others = append(others, l)
		}
	}
	if len(texts) != 1 || len(others) > 2 {
		return isCard
	}
	middle := texts[0].Bounds.X + texts[0].Bounds.Width/2 - b.X - b.Width/2
	if len(others) > 0 {
		all := boundsOf(append(others, texts[0]))
		middle = all.X + all.Width/2 - b.X - b.Width/2
	}
	centred := middle <= tolerance && middle >= -tolerance
	switch {
	case centred && b.Height <= largestTag:
		return isTag
	case centred && b.Width <= widestButton, centred && p.layer.Fill != "" && p.layer.Stroke == nil:
		return isButton
	case !centred:
		return isField
	}
	return isCard
}

// holds names a container by what it holds.
func (p *Part) holds() string {
	if p.body {
		return "body"
	}
	if len(p.Children) == 1 {
		return kindWord(p.Kind)
	}
	roles := map[string]int{}
	for _, c := range p.Children {
		roles[c.role()]++
	}
	n := len(p.Children)
	switch {
	case p.Kind == Overlay:
		return "layers"
	case n >= 2 && roles[isText] == n && p.Kind == Stack && !p.sameType():
		return "text"
	case p.role() == isEntry:
		return "field"
	case p.role() == isPair:
		return "pair"
	case p.Kind == Grid && roles[isField] > 0 && roles[isField]+roles[isText] == n && p.Columns == 2:
		return "fields"
	}
	for role, word := range plural {
		if (role != isText || p.Kind != Grid && p.sameType()) && role != "" && roles[role] == n {
			return word
		}
	}
	if roles[isButton] > 0 && roles[isButton]+roles[isIcon]+roles[isText] == n && p.Kind == Row && roles[isText] <= 1 && roles[isIcon] == 0 {
		return "actions"
	}
	if n > 1 && p.Kind != Row {
		if kind := p.Children[0].Kind; (kind == Row || kind == Split || kind == Grid) && p.eachIs(kind) {
			return "rows"
		}
	}
	if kind := p.Children[0].Kind; n > 1 && kind == Stack && p.eachIs(Stack) {
		if p.Kind == Stack {
			return "groups"
		}
		if p.Kind == Grid {
			return "items"
		}
		return "columns"
	}
	return kindWord(p.Kind)
}

// sameType tells whether all texts of a container are of one size and weight, as items of a list are.
func (p *Part) sameType() bool {
	for _, c := range p.Children {
		if !c.Text || lookOf(c) != lookOf(p.Children[0]) {
			return false
		}
	}
	return true
}

func (p *Part) eachIs(kind string) bool {
	for _, c := range p.Children {
		if c.Kind != kind || c.Layer != "" && kind == Stack {
			return false
		}
	}
	return true
}

// kindWord is a kind of container in one word.
func kindWord(kind string) string {
	if kind == Wrap {
		return Row
	}
	return kind
}
