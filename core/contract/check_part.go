package contract

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
)

// part checks a part and those below it. Lists are the ids of the lists that it, or a part
// around it, is repeated for; around is what holds where it may be there.
func (k *checker) part(p *Part, at string, lists []string, around When) {
	if k.parts[p.ID] {
		k.found.Errorf("part-id", at+"/id", "give each part its own id", "two parts have the id %q", p.ID)
	}
	if k.names[p.Name] {
		k.found.Errorf("part-name", at+"/name", "give each part its own name", "two parts are named %q", p.Name)
	}
	if p.Repeat != "" {
		lists = k.repeat(p, at, lists)
	}
	k.parts[p.ID], k.names[p.Name], k.lists[p.ID] = true, true, lists
	if p.Use() == nil {
		k.element(p, at)
	}
	if _, icon := p.Content.(IconOf); icon {
		k.icon(p, at)
	}
	k.content(p, at, lists)
	k.attributes(p, at, lists)
	k.condition(p.ShownWhen, at+"/shownWhen")
	if !p.ShownWhen.OfProps() {
		k.found.Errorf("part-shown", at+"/shownWhen", "hide it by a rule that sets display to none", "whether %s is there can depend on props alone", p.Name)
	}
	for _, t := range p.ShownWhen.Terms() {
		k.inScope(PropOf(t), at+"/shownWhen", p.Name, lists)
	}
	k.style(p.Style, at+"/style")
	around = k.reachable(p, at, around)
	if p.Use() != nil {
		k.use(p, at, lists, around)
	}
	for i, child := range p.Children {
		k.part(child, fmt.Sprintf("%s/children/%d", at, i), lists, around)
	}
}

// reachable tells of a part that is never there, and gives what holds where its children may be.
func (k *checker) reachable(p *Part, at string, around When) When {
	within := around
	for _, t := range p.ShownWhen.Terms() {
		if slices.ContainsFunc(within.Terms(), func(o Term) bool { return apart(o, t) || k.c.together(o, t) }) {
			k.found.Errorf("part-dead", at+"/shownWhen", "ask for what can be, or remove the part", "%s is never there: it asks for %s where %s", p.Name, k.c.Words(Of(t)), k.c.Words(around.With(p.ShownWhen.Terms()...)))
			return around
		}
		within, _ = merged(within, t)
	}
	shown, missing := Term(nil), Term(nil)
	switch c := p.Content.(type) {
	case ImageOf:
		shown, missing = PropSet{c.Prop, true}, PropSet{c.Prop, false}
	case IconOf:
		shown = PropSet{c.Prop, true}
	}
	for _, t := range within.Terms() {
		if shown != nil && apart(t, shown) {
			k.found.Errorf("part-dead", at+"/shownWhen", "ask for what can be, or remove the part", "%s is never there: it shows what is not set", p.Name)
			return around
		}
	}
	if missing != nil {
		if prop := k.c.Prop(PropOf(missing)); prop != nil && prop.Required && len(p.Children) > 0 {
			k.found.Errorf("part-dead", at+"/children", "remove them, or let the image be left out", "what stands in %s is never there: the image %s is required", p.Name, prop.Name)
		}
		within = within.With(missing)
	}
	return within
}

func (k *checker) repeat(p *Part, at string, lists []string) []string {
	list := k.c.Prop(p.Repeat)
	switch {
	case list == nil || list.Kind() != ListKind:
		k.found.Errorf("part-repeat", at+"/repeat", "name a list", "there is no list %q", p.Repeat)
	case p == k.c.Root:
		k.found.Errorf("part-repeat", at+"/repeat", "repeat a part below the root", "a component has one root")
	case slices.Contains(lists, p.Repeat):
		k.found.Errorf("part-repeat", at+"/repeat", "repeat one of the two", "%s is repeated for %s, as a part around it is", p.Name, list.Name)
	}
	return append(lists[:len(lists):len(lists)], p.Repeat)
}

// inScope tells of a prop of an item that a part outside of the list's parts refers to.
func (k *checker) inScope(prop, at, part string, lists []string) {
	if list, _, item := strings.Cut(prop, "."); item && !slices.Contains(lists, list) {
		k.found.Errorf("part-scope", at, "repeat the part, or one around it, for the list", "%s is not there for each item of %s, and cannot show one's", part, list)
	}
}

func (k *checker) element(p *Part, at string) {
	if !slices.Contains(Elements, p.Element) {
		k.found.Errorf("part-element", at+"/element", "use one of "+strings.Join(Elements, ", "), "%q is no element a component is made of", p.Element)
	}
	drawn, image := false, false
	switch content := p.Content.(type) {
	case *Vector, IconOf:
		drawn = true
	case ImageOf:
		image = true
	case Picture:
		if image = content.Source != ""; image {
			if err := (ImageValue{Source: content.Source, Width: content.Width, Height: content.Height}).flaw(); err != nil {
				k.found.Errorf("part-picture", at+"/picture", "", "%s: %s", p.Name, err)
			}
		}
	}
	if (p.Element == "svg") != drawn {
		k.found.Errorf("part-element", at+"/element", "use svg for vectors and icons, and for nothing else", "%s is %s, and shows %s", p.Name, p.Element, contentName(p.Content))
	}
	if (p.Element == "img") != image {
		k.found.Errorf("part-element", at+"/element", "use img for images, and for nothing else", "%s is %s, and shows %s", p.Name, p.Element, contentName(p.Content))
	}
	if (slices.Contains(Void, p.Element) || p.Element == "textarea") && !image && (p.Content != nil || len(p.Children) > 0) {
		k.found.Errorf("part-element", at+"/element", "use another element, or empty it", "%s is %s, and that holds no parts (HTML, 13.1.2)", p.Name, p.Element)
	}
	k.as(p, at)
	if p.Level == "" {
		return
	}
	level := k.c.Prop(p.Level)
	if level == nil || level.Kind() != NumberKind {
		k.found.Errorf("part-level", at+"/level", "name a number", "there is no number %q", p.Level)
	} else if n := level.Type.(Number); n.Least == nil || n.Most == nil || *n.Least < 1 || *n.Most > 6 || n.Step != 1 || *n.Least != float64(int(*n.Least)) || level.Shown() == nil {
		k.found.Errorf("part-level", at+"/level", "give it a least of 1 or more, a most of 6 or less, a step of 1 and a default", "%s is the level of a heading, and may be no whole number from 1 to 6", level.Name)
	}
	if !IsHeading(p.Element) {
		k.found.Errorf("part-level", at+"/element", "make it an h2 or the like", "%s has a level, and is no heading but %s", p.Name, p.Element)
	}
}

// PlainElements are the elements with no attributes but those of every element (HTML, the attributes' index):
// one may stand for another and take what a use gives it.
var PlainElements = []string{"div", "span", "p", "section", "article", "header", "footer", "main", "nav", "aside", "figure", "figcaption", "address", "search", "hgroup", "ul", "dl"}

// as checks the other elements that a use may make of the root.
func (k *checker) as(p *Part, at string) {
	if len(p.As) == 0 {
		return
	}
	if p != k.c.Root {
		k.found.Errorf("part-as", at+"/as", "say it of the root, or make the part a component of its own", "a use cannot tell which element %s is: it is not the root", p.Name)
	}
	if !slices.Contains(PlainElements, p.Element) || p.Level != "" {
		k.found.Errorf("part-as", at+"/element", "use one of "+strings.Join(PlainElements, ", "), "%s has attributes of its own as %s, which no other element takes", p.Name, p.Element)
	}
	for i, element := range p.As {
		if !slices.Contains(PlainElements, element) || element == p.Element {
			k.found.Errorf("part-as", fmt.Sprintf("%s/as/%d", at, i), "use others of "+strings.Join(PlainElements, ", "), "%s cannot stand for %s", element, p.Element)
		}
	}
	for _, prop := range k.c.Props {
		if prop.Name == "as" {
			k.found.Errorf("part-as", at+"/as", "give the prop another name", "a prop is named as, and so is what tells which element the root is")
		}
	}
}

// icon checks that nothing of an icon's part changes but the drawing: they stand in a table.
func (k *checker) icon(p *Part, at string) {
	moves := p.Repeat != ""
	for _, a := range p.Attributes {
		moves = moves || a.Prop != "" || a.Part != ""
	}
	k.c.Walk(func(other, _ *Part) {
		for _, a := range other.Attributes {
			moves = moves || a.Part == p.ID
		}
	})
	for _, prop := range k.c.Props {
		moves = moves || prop.Kind() == EventKind && prop.Part == p.ID
	}
	if moves {
		k.found.Errorf("part-icon", at, "put it into a part that has them", "%s shows an icon: it is told no events, named by no other part, not repeated, and its attributes are texts", p.Name)
	}
}

// shows tells which kinds of props a content may show.
var shows = []struct {
	of    func(Content) (prop string, ok bool)
	at    string
	kinds []Kind
}{
	{func(c Content) (string, bool) { t, ok := c.(TextOf); return t.Prop, ok }, "text", []Kind{TextKind, RichKind, NumberKind}},
	{func(c Content) (string, bool) { t, ok := c.(ImageOf); return t.Prop, ok }, "image", []Kind{ImageKind}},
	{func(c Content) (string, bool) { t, ok := c.(IconOf); return t.Prop, ok }, "icon", []Kind{IconKind}},
	{func(c Content) (string, bool) { t, ok := c.(SlotOf); return t.Prop, ok }, "slot", []Kind{SlotKind}},
}

func (k *checker) content(p *Part, at string, lists []string) {
	switch p.Content.(type) {
	case nil, ImageOf, SlotOf, *Use: // children stand there when there is none
	default:
		if len(p.Children) > 0 {
			k.found.Errorf("part-content", at+"/children", "put its content into a part of its own", "%s shows %s and holds other parts, too", p.Name, contentName(p.Content))
		}
	}
	for _, s := range shows {
		id, ok := s.of(p.Content)
		if !ok {
			continue
		}
		if prop := k.c.Prop(id); prop == nil || !slices.Contains(s.kinds, prop.Kind()) {
			k.found.Errorf("part-prop", at+"/"+s.at, "name a prop of the kind", "there is no prop %q that is a %s", id, kindWords(s.kinds))
		} else if rich, ok := prop.Type.(Rich); ok && !rich.Line && !holdsBlocks(p.Element) {
			k.found.Errorf("part-rich", at+"/element", "make it a div, or let the text stand in a line", "%s is %s, and paragraphs and lists of %s may not stand in that", p.Name, p.Element, prop.Name)
		}
		k.inScope(id, at+"/"+s.at, p.Name, lists)
		if s.at == "slot" {
			if k.slots[id] {
				k.found.Errorf("part-slot", at+"/slot", "keep one of them, or add another slot", "the slot %s stands in two places", id)
			}
			k.slots[id] = true
		}
	}
}

func kindWords(kinds []Kind) string {
	words := make([]string, len(kinds))
	for i, kind := range kinds {
		words[i] = string(kind)
	}
	if last := len(words) - 1; last > 0 {
		return strings.Join(words[:last], ", ") + " or " + words[last]
	}
	return words[0]
}

// holdsBlocks tells whether paragraphs and lists may stand in an element (HTML, 3.2.5.2.2: flow
// content).
func holdsBlocks(element string) bool {
	return slices.Contains([]string{"div", "section", "article", "header", "footer", "main", "nav", "aside", "figure", "figcaption", "address", "search", "li", "dd", "blockquote", "fieldset", "details"}, element)
}

func contentName(c Content) string {
	switch c.(type) {
	case TextOf, FixedText:
		return "a text"
	case *Vector:
		return "a vector"
	case Picture:
		return "a picture"
	case ImageOf:
		return "an image"
	case IconOf:
		return "an icon"
	case SlotOf:
		return "a slot"
	case *Use:
		return "a component"
	}
	return "nothing of its own"
}

func (k *checker) attributes(p *Part, at string, lists []string) {
	for _, name := range slices.Sorted(maps.Keys(p.Attributes)) {
		a, at := p.Attributes[name], at+"/attributes/"+name
		kind, words, ok := AttributeOf(p.Element, name)
		if !ok {
			k.found.Errorf("attribute-name", at, "remove it", "%s is no attribute that a part which is %s may have", name, p.Element)
			continue
		}
		if said := [...]bool{a.Text != "", a.Prop != "", a.Part != ""}; count(said[:]) > 1 {
			k.found.Errorf("attribute-value", at, "keep one of text, prop and part", "%s of %s has two values", name, p.Name)
		}
		switch {
		case (kind == PartAttribute) != (a.Part != ""):
			k.found.Errorf("attribute-value", at, "for, aria-labelledby and the like take a part, others a text or a prop", "%s of %s has no value that it can have", name, p.Name)
		case a.Part != "":
			k.attributePart(p, name, a.Part, at)
		case a.Prop != "":
			k.attributeProp(p, name, kind, a.Prop, at, lists)
		default:
			if err := checkAttribute(kind, words, a.Text); err != nil {
				k.found.Errorf("attribute-value", at+"/text", "", "%s of %s: %s", name, p.Name, err)
			}
		}
	}
}

// checkAttribute tells why an attribute may not have a text; nil when it may.
func checkAttribute(kind AttributeKind, words []string, text string) error {
	switch kind {
	case LinkAttribute:
		return checkAddress(text)
	case NumberAttribute:
		if _, err := strconv.Atoi(text); err != nil {
			return fmt.Errorf("%q is no whole number", text)
		}
	case FlagAttribute:
		words = append([]string{"true", "false"}, words...)
		fallthrough
	case WordAttribute:
		if !slices.Contains(words, text) {
			return fmt.Errorf("%q is not one of %s", text, strings.Join(words, ", "))
		}
	}
	return nil
}

// attributePart checks that a part refers to one that is there as often as itself, or once.
func (k *checker) attributePart(p *Part, name, target, at string) {
	to := k.c.Part(target)
	if to == nil {
		k.found.Errorf("attribute-part", at+"/part", "name a part of the tree", "there is no part %q", target)
		return
	}
	if around := k.c.listsOf(target); len(around) > 0 && !slices.Equal(around, k.c.listsOf(p.ID)) {
		k.found.Errorf("attribute-part", at+"/part", "name a part that is there once, or of the same item", "%s of %s names %s, which is there for each item of a list", name, p.Name, to.Name)
	}
}

// listsOf lists the ids of the lists that a part, or one around it, is repeated for, outer
// first.
func (c *Contract) listsOf(part string) (out []string) {
	var walk func(p *Part, around []string) bool
	walk = func(p *Part, around []string) bool {
		if p.Repeat != "" {
			around = append(around[:len(around):len(around)], p.Repeat)
		}
		if p.ID == part {
			out = around
			return true
		}
		return slices.ContainsFunc(p.Children, func(child *Part) bool { return walk(child, around) })
	}
	walk(c.Root, nil)
	return out
}

// attributeProps are the kinds of props that an attribute takes the values of.
var attributeProps = map[AttributeKind][]Kind{
	TextAttribute: {TextKind, ChoiceKind}, NumberAttribute: {NumberKind}, FlagAttribute: {FlagKind}, LinkAttribute: {LinkKind},
}

func (k *checker) attributeProp(p *Part, name string, kind AttributeKind, id, at string, lists []string) {
	k.inScope(id, at+"/prop", p.Name, lists)
	prop, allowed := k.c.Prop(id), attributeProps[kind]
	switch {
	case allowed == nil:
		k.found.Errorf("attribute-prop", at+"/prop", "give it a text", "%s of %s takes one of a few words, and no prop", name, p.Name)
	case prop == nil:
		k.found.Errorf("attribute-prop", at+"/prop", "name a "+kindWords(allowed), "there is no prop %q", id)
	case !slices.Contains(allowed, prop.Kind()):
		k.found.Errorf("attribute-prop", at+"/prop", "name a "+kindWords(allowed), "%s of %s cannot be %s, a %s", name, p.Name, prop.Name, prop.Kind())
	}
}

func count(said []bool) (n int) {
	for _, s := range said {
		if s {
			n++
		}
	}
	return n
}
