package design

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"

	"github.com/beevik/etree"
)

// target gives what a use shows; nil, told, where it is nothing of the file.
func (i *importer) target(e *etree.Element) *etree.Element {
	href := hrefOf(e)
	if !strings.HasPrefix(href, "#") {
		if href != "" {
			i.warn(e, "what it uses, %s, is outside of the file, and never fetched", clean(href))
		}
		return nil
	}
	out := i.byID[href[1:]]
	if out == nil {
		i.warn(e, "there is no %s to use", clean(href))
	}
	return out
}

func (i *importer) inUse(target *etree.Element) bool { return slices.Contains(i.using, target) }

// svgBox is the box of an svg within another, in the units around it.
func (i *importer) svgBox(e *etree.Element, at *scope) Rect {
	return Rect{i.geometry(e, at, "x", 0), i.geometry(e, at, "y", 0), max(0, i.geometry(e, at, "width", at.view[0])), max(0, i.geometry(e, at, "height", at.view[1]))}
}

// usedBox is the box that a use gives a symbol or an svg (SVG 2, the use element).
func (i *importer) usedBox(e, target *etree.Element, at *scope) Rect {
	inner := i.enter(target, at)
	w, h := at.view[0], at.view[1]
	if v := inner.style["width"]; v != "" {
		w = i.length(target, &inner, v, at.view[0], w)
	}
	if v := inner.style["height"]; v != "" {
		h = i.length(target, &inner, v, at.view[1], h)
	}
	r := Rect{Width: max(0, i.geometry(e, at, "width", w)), Height: max(0, i.geometry(e, at, "height", h))}
	if target.Tag == "svg" {
		r.X, r.Y = i.geometry(target, &inner, "x", 0), i.geometry(target, &inner, "y", 0)
	}
	return r
}

// useScope is where that stands which a use shows.
func (i *importer) useScope(e *etree.Element, at scope) scope {
	at.m = at.m.times(matrix{1, 0, 0, 1, i.geometry(e, &at, "x", 0), i.geometry(e, &at, "y", 0)})
	at.depth++
	return at
}

// innerScope is where the children of an svg or symbol stand that has a box.
func (i *importer) innerScope(e *etree.Element, at scope, box Rect) scope {
	at.m = at.m.times(matrix{1, 0, 0, 1, box.X, box.Y})
	at.view = [2]float64{box.Width, box.Height}
	if vb, ok := viewBox(e); ok {
		if box.Width == 0 || box.Height == 0 {
			at.m = matrix{}
			return at
		}
		at.m = at.m.times(fit(vb, box.Width, box.Height, e.SelectAttrValue("preserveAspectRatio", "")))
		at.view = [2]float64{vb[2], vb[3]}
	}
	return at
}

// use makes an instance of a symbol, or a copy of what is used.
func (i *importer) use(e *etree.Element, parent, at *scope) *Layer {
	target := i.target(e)
	if target == nil || !i.ofSVG(target) || silent[target.Tag] && target.Tag != "symbol" {
		return nil
	}
	if i.inUse(target) {
		i.warn(e, "%s uses itself; it is left out", clean(hrefOf(e)))
		return nil
	}
	i.using = append(i.using, target)
	defer func() { i.using = i.using[:len(i.using)-1] }()
	place := i.useScope(e, *at)
	switch target.Tag {
	case "symbol":
		return i.instance(e, target, at, place)
	case "svg":
		box := i.usedBox(e, target, &place)
		own := i.enter(target, &place)
		inner := i.innerScope(target, own, box)
		return i.boxed(group(i.children(target, &inner)), target, own.style, own.m, box, &inner)
	}
	l := i.element(target, &place)
	if l == nil {
		return nil
	}
	return group([]*Layer{l})
}

// symbolFamily is the family that a symbol became, and how its variants were asked for.
type symbolFamily struct {
	family   *Family
	variants []symbolVariant
	looked   map[string]int // variants by what they were made of
}

type symbolVariant struct {
	size, drawn string
}

// nothingSeen stands for the variant of a symbol that shows nothing.
const nothingSeen = -2

// mostVariants bounds the sizes and looks of one symbol.
const mostVariants = 60

// instance makes a use of a symbol: its family has a variant for each size and look that it is used in.
func (i *importer) instance(e, symbol *etree.Element, at *scope, place scope) *Layer {
	box := i.usedBox(e, symbol, &place)
	if box.Width == 0 || box.Height == 0 {
		return nil
	}
	degrees, turned := place.m.turned()
	if !turned {
		return i.copied(symbol, place, box)
	}
	f, k := i.variant(symbol, &place, box)
	if f == nil {
		return nil
	}
	if k < 0 {
		i.warn(e, "%s is used in more than %d sizes and looks: it is copied", clean(hrefOf(e)), mostVariants)
		return i.copied(symbol, place, box)
	}
	s := place.m.scale()
	cx, cy := place.m.at(box.Width/2, box.Height/2)
	l := &Layer{Kind: Instance, Bounds: tidyRect(Rect{cx - box.Width*s/2, cy - box.Height*s/2, box.Width * s, box.Height * s}), Instance: &InstanceContent{Family: f.ID}}
	if math.Abs(degrees) > 1e-6 {
		l.Rotation = tidy(degrees)
	}
	if k > 0 {
		l.Instance.Choices = map[string]string{}
		for name, value := range f.Variants[k].Choices {
			l.Instance.Choices[name] = value
		}
	}
	return l
}

// copied makes a group of what a symbol shows.
func (i *importer) copied(symbol *etree.Element, place scope, box Rect) *Layer {
	own := i.enter(symbol, &place)
	inner := i.innerScope(symbol, own, box)
	return i.boxed(group(i.children(symbol, &inner)), symbol, own.style, own.m, box, &inner)
}

// variant gives the family of a symbol, and which of its variants shows it as it is used; nil for one that shows nothing.
func (i *importer) variant(symbol *etree.Element, place *scope, box Rect) (*Family, int) {
	s := place.m.scale()
	w, h := tidy(box.Width*s), tidy(box.Height*s)
	size := short(w)
	if w != h {
		size += " by " + short(h)
	}
	known := i.families[symbol]
	if known == nil {
		known = &symbolFamily{looked: map[string]int{}}
		i.families[symbol] = known
	}
	asked := size + styleAttributes(place.style, svgInherited)
	if k, ok := known.looked[asked]; ok {
		if k == nothingSeen {
			return nil, 0
		}
		return known.family, k
	}
	// Its content as it is drawn at this size, with this style, from its own corner.
	bare := *place
	bare.m = matrix{a: s, d: s}
	i.within++
	content := i.copied(symbol, bare, box)
	i.within--
	if content == nil {
		known.looked[asked] = nothingSeen
		i.warn(symbol, "the symbol shows nothing")
		return nil, 0
	}
	drawn := lookOf(content)
	for k, v := range known.variants {
		if v.size == size && v.drawn == drawn {
			known.looked[asked] = k
			return known.family, k
		}
	}
	k := len(known.variants)
	if k >= mostVariants {
		return known.family, -1
	}
	if k == 0 {
		known.family = i.newFamily(symbol)
	}
	f := known.family
	root := content
	if !content.Clip {
		root = &Layer{Kind: Group, Bounds: Rect{Width: w, Height: h}, Children: content.Children}
		for _, c := range root.Children {
			c.Bounds.X, c.Bounds.Y = tidy(c.Bounds.X+content.Bounds.X), tidy(c.Bounds.Y+content.Bounds.Y)
		}
	}
	root.ID, root.Name = i.id(f.ID+"-root"), f.Name
	f.Variants = append(f.Variants, &Variant{ID: i.id(f.ID + "-variant"), Choices: map[string]string{}, Root: root})
	known.variants = append(known.variants, symbolVariant{size, drawn})
	known.looked[asked] = k
	known.choose()
	return f, k
}

// lookOf tells what is drawn from what else, whatever ids it has.
func lookOf(l *Layer) string {
	out, _ := json.Marshal(bareOf(l))
	return string(out)
}

func bareOf(l *Layer) *Layer {
	out := *l
	out.ID = ""
	out.Children = make([]*Layer, len(l.Children))
	for k, c := range l.Children {
		out.Children[k] = bareOf(c)
	}
	return &out
}

// choose gives a family the axes that its variants differ in: their sizes, and their looks where there are several of a size.
func (s *symbolFamily) choose() {
	var sizes []string
	looks := make([]int, len(s.variants))
	most := 0
	for k, v := range s.variants {
		if !slices.Contains(sizes, v.size) {
			sizes = append(sizes, v.size)
		}
		for _, before := range s.variants[:k] {
			if before.size == v.size {
				looks[k]++
			}
		}
		most = max(most, looks[k])
	}
	s.family.Axes = []Axis{}
	if len(sizes) > 1 {
		s.family.Axes = append(s.family.Axes, Axis{Name: "size", Values: sizes, Default: sizes[0]})
	}
	if most > 0 {
		axis := Axis{Name: "look", Default: "1"}
		for n := range most + 1 {
			axis.Values = append(axis.Values, short(float64(n+1)))
		}
		s.family.Axes = append(s.family.Axes, axis)
	}
	for k, v := range s.variants {
		choices := map[string]string{}
		if len(sizes) > 1 {
			choices["size"] = v.size
		}
		if most > 0 {
			choices["look"] = short(float64(looks[k] + 1))
		}
		s.family.Variants[k].Choices = choices
	}
}

func (i *importer) newFamily(symbol *etree.Element) *Family {
	name := nameOf(symbol, "Symbol")
	taken := func() bool { return slices.ContainsFunc(i.list, func(f *Family) bool { return f.Name == name }) }
	for base, n := name, 2; taken(); n++ { // families have names of their own
		name = fmt.Sprintf("%s %d", base, n)
	}
	f := &Family{ID: i.id("family-" + symbol.SelectAttrValue("id", "symbol")), Name: name, Axes: []Axis{}}
	i.list = append(i.list, f)
	return f
}
