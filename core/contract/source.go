package contract

import (
	"slices"

	"cobrik/core/design"
	"cobrik/core/font"
	"cobrik/core/layout"
	"cobrik/core/problem"
)

// Source gives the family a contract is drawn from as a revision of the design
// has it: a family of the document, or a layer of a page read as a family of one
// variant. What is drawn without flow is read into containers first; uses of
// families on a page stand for what they show. The family is nil, with errors,
// when the design holds it no more or it cannot be read.
func Source(doc *design.Document, o Origin, fonts *font.Library) (*design.Family, problem.List) {
	var found problem.List
	if o.Layer == "" {
		f := doc.Family(o.Family)
		if f == nil {
			found.Errorf("origin-family", "", "", "the design holds no family %q", o.Family)
		}
		return f, found
	}
	l, _ := doc.Layer(o.Layer)
	if l == nil {
		found.Errorf("origin-layer", "", "", "the design holds no layer %q", o.Layer)
		return nil, found
	}
	if l.Kind == design.Instance {
		found.Errorf("origin-instance", "", "draft the family", "the layer %s is a use of the family %s", l.ID, l.Instance.Family)
		return nil, found
	}
	root := l
	if l.Flow == nil {
		in, problems := layout.Infer(l, o.Readings)
		if found = append(found, problems...); in == nil {
			return nil, found
		}
		root = in.Drawing()
	}
	e := expander{doc: doc, fonts: fonts}
	root = e.layer(root, 0)
	root.Bounds.X, root.Bounds.Y = 0, 0
	found = append(found, e.found...)
	return &design.Family{ID: l.ID, Name: l.Name, Variants: []*design.Variant{{ID: l.ID, Choices: map[string]string{}, Root: root}}}, found
}

// Flowless tells whether a layer holds several things and no flow says how they
// stand.
func Flowless(l *design.Layer) bool {
	return (l.Kind == design.Group || l.Kind == design.Box) && l.Flow == nil && len(l.Children) > 0
}

// expander puts what a use of a family shows in place of the use.
type expander struct {
	doc   *design.Document
	fonts *font.Library
	found problem.List
}

// maxInstances bounds uses inside uses: a family may hold itself.
const maxInstances = 12

func (e *expander) layer(l *design.Layer, depth int) *design.Layer {
	if l.Kind == design.Instance {
		if shown := e.instance(l, depth); shown != nil {
			return shown
		}
		e.found.Warnf("instance-drawn", "", "draw that variant", "the use %s shows nothing: no variant is drawn for it", l.ID)
		blank := *l
		blank.Kind, blank.Instance = design.Box, nil
		return &blank
	}
	out := *l
	out.Children = make([]*design.Layer, len(l.Children))
	for i, c := range l.Children {
		out.Children[i] = e.layer(c, depth)
	}
	return &out
}

func (e *expander) instance(l *design.Layer, depth int) *design.Layer {
	f := e.doc.Family(l.Instance.Family)
	if f == nil || depth >= maxInstances {
		return nil
	}
	v := f.Variant(l.Instance.Choices)
	if v == nil {
		return nil
	}
	shown := cloneLayer(v.Root)
	shown.Walk(func(c *design.Layer, _, _ float64) {
		for _, o := range l.Instance.Overrides {
			if o.Layer != c.Name {
				continue
			}
			if o.Hidden != nil {
				c.Hidden = *o.Hidden
			}
			if o.Text != nil && c.Text != nil {
				c.Text.Content = *o.Text
			}
		}
		c.ID = l.ID + "." + c.ID
	})
	shown = e.layer(shown, depth+1)
	if e.fonts != nil {
		if laid, _ := Reflow(shown, l.Bounds.Width, e.fonts); laid != nil {
			shown = laid
		}
	}
	shown.Name, shown.Bounds, shown.Place = l.Name, l.Bounds, l.Place
	shown.Children = slices.DeleteFunc(shown.Children, func(c *design.Layer) bool { return c.Hidden })
	return shown
}
