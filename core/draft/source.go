package draft

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/font"
	"cobrik/core/layout"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// Components gives the component that was drafted from a family of a document; nil for none.
// Its uses are linked.
type Components func(family string) *contract.Contract

// Source gives the family a contract is drawn from as a revision of the design
// has it: a family of the document, or a layer of a page read as a family of one
// variant. What is drawn without flow is read into containers first. Uses of families hold
// what they show; one of a family without a component stands for that. The family is nil, with
// errors, when the design holds it no more or it cannot be read.
func Source(doc *design.Document, o contract.Origin, fonts *font.Library, components Components) (*design.Family, problem.List) {
	var found problem.List
	if o.Layer == "" {
		f := doc.Family(o.Family)
		if f == nil {
			found.Errorf("origin-family", "", "", "the design holds no family %q", o.Family)
			return nil, found
		}
		return withLists(filling(flowed(flattened(doc, drawnOut(doc, f, fonts, components, &found), &found)))), found
	}
	l := Drawing(doc, o)
	if l == nil {
		if len(o.With) > 0 {
			found.Errorf("origin-layer", "", "", "the design does not hold the layers %s on one page", strings.Join(append([]string{o.Layer}, o.With...), ", "))
		} else {
			found.Errorf("origin-layer", "", "", "the design holds no layer %q", o.Layer)
		}
		return nil, found
	}
	if l.Kind == design.Instance {
		found.Errorf("origin-instance", "", "draft the family", "the layer %s is a use of the family %s", l.ID, l.Instance.Family)
		return nil, found
	}
	root := l
	if l.Flow == nil {
		in, problems := layout.Infer(l, layout.InferOptions{Readings: o.Readings, Scale: o.Scale})
		if found = append(found, problems...); in == nil {
			return nil, found
		}
		root = in.Drawing()
	}
	e := newExpander(doc, fonts, components)
	root = e.layer(root, 0)
	root = listed(flattenedLayer(doc, root, &found))
	root.Bounds.X, root.Bounds.Y = 0, 0
	found = append(found, e.found...)
	return &design.Family{ID: l.ID, Name: l.Name, Variants: []*design.Variant{{ID: l.ID, Choices: map[string]string{}, Root: root}}}, found
}

// Drawing finds the layer of a page that an origin names, or the layers that it reads as one; nil where the design does not have them.
func Drawing(doc *design.Document, o contract.Origin) *design.Layer {
	return doc.Together(append([]string{o.Layer}, o.With...)...)
}

// drawnOut puts what uses of other families show into them, in every variant, or in their place
// where the family has no component.
func drawnOut(doc *design.Document, f *design.Family, fonts *font.Library, components Components, found *problem.List) *design.Family {
	used := map[string]bool{}
	for _, v := range f.Variants {
		v.Root.Walk(func(l *design.Layer, _, _ float64) {
			if l.Kind == design.Instance {
				used[l.Instance.Family] = true
			}
		})
	}
	if len(used) == 0 {
		return f
	}
	for _, id := range slices.Sorted(maps.Keys(used)) {
		if components.of(id) != nil {
			continue
		}
		name := id
		if other := doc.Family(id); other != nil {
			name = other.Name
		}
		found.Warnf("instance-drawn-out", "", "draft "+name+" first", "%s uses %s, which has no component: what it shows is drawn out as parts of %s", f.Name, name, f.Name)
	}
	out := *f
	out.Variants = make([]*design.Variant, len(f.Variants))
	e := newExpander(doc, fonts, components)
	for i, v := range f.Variants {
		expanded := *v
		expanded.Root = e.layer(v.Root, 0)
		out.Variants[i] = &expanded
	}
	*found = append(*found, e.found...)
	return &out
}

func (c Components) of(family string) *contract.Contract {
	if c == nil {
		return nil
	}
	return c(family)
}

// flowed reads containers into a family that was drawn without any flow. Where
// its variants are not read alike they stay as they were drawn: each layer at its
// place.
func flowed(f *design.Family) *design.Family {
	out := *f
	out.Variants = nil
	shape := ""
	for _, v := range f.Variants {
		flowing, hidden := false, false
		v.Root.Walk(func(l *design.Layer, _, _ float64) {
			flowing, hidden = flowing || l.Flow != nil, hidden || l.Hidden
		})
		if flowing || hidden || len(v.Root.Children) == 0 {
			return f
		}
		in, _ := layout.Infer(v.Root, layout.InferOptions{})
		if in == nil || shape != "" && in.Root.String() != shape {
			return f
		}
		shape = in.Root.String()
		read := *v
		read.Root = in.Drawing()
		read.Root.ID = v.Root.ID
		out.Variants = append(out.Variants, &read)
	}
	for _, v := range out.Variants[1:] { // a container is named after what it holds: sizes may differ
		rename(out.Variants[0].Root, v.Root)
	}
	return &out
}

// rename gives layers the names of another tree of the same shape; what uses hold keeps its own.
func rename(from, to *design.Layer) {
	to.Name = from.Name
	if from.Kind == design.Instance || len(from.Children) != len(to.Children) {
		return
	}
	for i, c := range from.Children {
		rename(c, to.Children[i])
	}
}

// Of drafts a contract from what an origin names in a revision of the
// design, and gives the family it is compared with. The name is the component's;
// the drawing's own when empty. Both are nil on an error.
func Of(doc *design.Document, o contract.Origin, name string, tokens *token.Set, fonts *font.Library, components Components) (*contract.Contract, *design.Family, problem.List) {
	f, found := Source(doc, o, fonts, components)
	if f == nil {
		return nil, nil, found
	}
	if name != "" {
		named := *f
		named.Name = name
		f = &named
	}
	c, more := OfFamily(doc, f, tokens, components)
	if found = append(found, more...); c == nil {
		return nil, nil, found
	}
	o.Document = doc.ID
	c.Origin = &o
	return c, f, found
}

// Readings are the other ways to read a container that was drawn without flow.
type Readings struct {
	Key    string // names the container in an origin's readings
	Others []layout.Reading
}

// OtherReadings gives the other readings of a layer's containers by the path of the
// part each became; empty for what was drawn with flow.
func OtherReadings(doc *design.Document, o contract.Origin) map[string]Readings {
	out := map[string]Readings{}
	l := Drawing(doc, o)
	if o.Layer == "" || l == nil || l.Flow != nil || l.Kind == design.Instance {
		return out
	}
	in, _ := layout.Infer(l, layout.InferOptions{Readings: o.Readings, Scale: o.Scale})
	if in == nil {
		return out
	}
	drawing := in.Drawing()
	paths := map[string]string{} // by the layer's id, as the contract has them
	withItems := listed(drawing)
	for _, path := range LayerPaths(withItems) {
		at, _ := LayerAt(withItems, path)
		paths[at.ID] = path
	}
	var walk func(p *layout.Part, d *design.Layer)
	walk = func(p *layout.Part, d *design.Layer) {
		if path, ok := paths[d.ID]; ok && len(p.Others) > 0 {
			out[path] = Readings{p.Key(), p.Others}
		}
		for i, child := range d.Children {
			walk(p.Children[i], child)
		}
	}
	walk(in.Root, drawing)
	return out
}

// Reread drafts the contract again with a container of its drawing read in
// another way, one of its other readings. What containers are is read anew; paint, type, texts and names of parts that are still there
// are kept. The contract is nil on an error, and when there is no such reading.
func Reread(c *contract.Contract, doc *design.Document, key, kind string, tokens *token.Set, fonts *font.Library, components Components) (*contract.Contract, problem.List) {
	var found problem.List
	if c.Origin == nil || c.Origin.Layer == "" {
		found.Errorf("reading", "", "edit how its parts are laid out", "%s was not drawn without flow", c.Name)
		return nil, found
	}
	open := false
	for _, container := range OtherReadings(doc, *c.Origin) {
		for _, r := range container.Others {
			open = open || container.Key == key && r.Kind == kind && r.Open
		}
	}
	if !open {
		found.Errorf("reading", "/kind", "choose one of its other readings", "%q is no reading of that container", kind)
		return nil, found
	}
	o := *c.Clone().Origin
	if o.Readings == nil {
		o.Readings = map[string]string{}
	}
	o.Readings[key] = kind
	out, _, found := Of(doc, o, c.Name, tokens, fonts, components)
	if out == nil {
		return nil, found
	}
	out.Name, out.Purpose, out.Do, out.Dont = c.Name, c.Purpose, c.Do, c.Dont
	keep(out, c)
	return out, append(found, out.Check(tokens)...)
}

// keep takes over what another contract of the same drawing says of parts and
// props of the same names, but for how boxes are laid out.
func keep(c *contract.Contract, was *contract.Contract) {
	c.Walk(func(p, _ *contract.Part) {
		old := was.Part(p.ID)
		if old == nil || !alike(old.Content, p.Content) {
			return
		}
		p.Name, p.Element, p.Content = old.Name, old.Element, old.Content
		if p.Style == nil {
			p.Style = contract.Style{}
		}
		for _, property := range css.PropertyNames() {
			known, _ := css.PropertyNamed(property)
			if known.Facet != css.Paint && known.Facet != css.Type {
				continue
			}
			delete(p.Style, property)
			if v := old.Style[property]; v != "" {
				p.Style[property] = v
			}
		}
	})
	for i, p := range c.Props {
		if old := was.Prop(p.ID); old != nil && old.Kind() == p.Kind() {
			c.Props[i].Name, c.Props[i].Purpose = old.Name, old.Purpose
			c.Props[i].SetDefault(old.Default())
		}
	}
}

// alike tells whether two contents are of one kind.
func alike(a, b contract.Content) bool { return fmt.Sprintf("%T", a) == fmt.Sprintf("%T", b) }

// Flowless tells whether a layer holds several things and no flow says how they
// stand.
func Flowless(l *design.Layer) bool {
	return (l.Kind == design.Group || l.Kind == design.Box) && l.Flow == nil && len(l.Children) > 0
}

// expander puts what a use of a family shows into the use, or in its place where the family has
// no component.
type expander struct {
	doc        *design.Document
	fonts      *font.Library
	components Components
	flowed     map[string]*design.Family
	listed     map[string]*design.Family // those with what repeats in them as lists, where their components have some
	found      problem.List
}

// Expanded gives a layer in which uses of families hold what they show, as Source does.
func Expanded(doc *design.Document, l *design.Layer, fonts *font.Library, components Components) *design.Layer {
	return newExpander(doc, fonts, components).layer(l, 0)
}

func newExpander(doc *design.Document, fonts *font.Library, components Components) *expander {
	return &expander{doc: doc, fonts: fonts, components: components, flowed: map[string]*design.Family{}, listed: map[string]*design.Family{}}
}

func (e *expander) layer(l *design.Layer, depth int) *design.Layer {
	if l.Kind == design.Instance {
		shown := e.instance(l, depth)
		switch {
		case shown == nil:
			e.found.Warnf("instance-drawn", "", "draw that variant", "the use %s shows nothing: no variant is drawn for it", l.ID)
			blank := *l
			blank.Kind, blank.Instance = design.Box, nil
			return &blank
		}
		if e.components.of(l.Instance.Family) != nil {
			return holding(l, shown)
		}
		shown.ID, shown.Name, shown.Bounds, shown.Place = l.ID, l.Name, l.Bounds, l.Place
		shown.Children = slices.DeleteFunc(shown.Children, func(c *design.Layer) bool { return c.Hidden })
		return shown
	}
	out := *l
	out.Children = make([]*design.Layer, len(l.Children))
	for i, c := range l.Children {
		out.Children[i] = e.layer(c, depth)
	}
	return &out
}

// instance gives what a use shows, at the size that has by itself where the use is.
func (e *expander) instance(l *design.Layer, depth int) *design.Layer {
	f := e.doc.Family(l.Instance.Family)
	if f == nil || depth >= design.MaxInstances {
		return nil
	}
	if e.flowed[f.ID] == nil {
		e.flowed[f.ID] = flowed(f)
		e.listed[f.ID] = e.flowed[f.ID]
		if e.holdsLists(f.ID) {
			e.listed[f.ID] = withLists(e.flowed[f.ID]) // as its component's parts are
		}
	}
	v := e.flowed[f.ID].Variant(l.Instance.Choices)
	if v == nil {
		return nil
	}
	said := map[string][]design.Override{} // by the layer's id: items of a list have another name
	v.Root.Walk(func(c *design.Layer, _, _ float64) {
		for _, o := range l.Instance.Overrides {
			if o.Layer == c.Name {
				said[c.ID] = append(said[c.ID], o)
			}
		}
	})
	shown := cloneLayer(e.listed[f.ID].Variant(l.Instance.Choices).Root)
	shown.Walk(func(c *design.Layer, _, _ float64) {
		for _, o := range said[c.ID] {
			if o.Hidden != nil {
				c.Hidden = *o.Hidden
			}
			if o.Text != nil && c.Text != nil {
				c.Text.Content = *o.Text
			}
			o.Picture(c, e.doc.Asset)
		}
		c.ID = l.ID + "." + c.ID
	})
	shown.Walk(func(c *design.Layer, _, _ float64) {
		if c.Repeats {
			settle(c)
		}
	})
	shown = e.layer(shown, depth+1)
	if e.fonts != nil {
		if laid, _ := Reflow(shown, l.Bounds.Width, e.fonts); laid != nil {
			shown = laid
		}
	}
	return shown
}

// holdsLists tells whether the component of a family has a list.
func (e *expander) holdsLists(family string) bool {
	c := e.components.of(family)
	return c != nil && slices.ContainsFunc(c.Props, func(p contract.Prop) bool { return p.Kind() == contract.ListKind })
}

// sameSize is how far a use may be from the size its component has by itself, px, to have that.
const sameSize = 0.5

// holding gives a use that holds what it shows. Where it is as large as that is by itself, its
// size is the component's affair.
func holding(l, shown *design.Layer) *design.Layer {
	out := *l
	size := func(said string, drawn, natural float64) string {
		if said == "" && math.Abs(drawn-natural) <= sameSize {
			return "content"
		}
		return cmp.Or(said, "fixed")
	}
	out.Sizing = design.Sizing{
		Width:  size(l.Sizing.Width, l.Bounds.Width, shown.Bounds.Width),
		Height: size(l.Sizing.Height, l.Bounds.Height, shown.Bounds.Height),
	}
	shown.Place, shown.Bounds = nil, design.Rect{Width: l.Bounds.Width, Height: l.Bounds.Height}
	out.Children = []*design.Layer{shown}
	return &out
}

// held gives the layer that a use holds; the layer itself when it is no use.
func held(l *design.Layer) *design.Layer {
	if l.Kind == design.Instance && len(l.Children) == 1 {
		return l.Children[0]
	}
	return l
}
