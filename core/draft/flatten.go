package draft

import (
	"cmp"
	"encoding/base64"
	"fmt"
	"net/url"
	"strings"
	"sync"

	"cobrik/core/design"
	"cobrik/core/problem"
)

// flattened gives a family with every layer that is marked so, and all it holds, as one picture.
func flattened(doc *design.Document, f *design.Family, found *problem.List) *design.Family {
	some := false
	for _, v := range f.Variants {
		v.Root.Walk(func(l *design.Layer, _, _ float64) { some = some || l.Flatten != "" })
	}
	if !some {
		return f
	}
	out := *f
	out.Variants = make([]*design.Variant, len(f.Variants))
	for i, v := range f.Variants {
		flat := *v
		flat.Root = flattenedLayer(doc, v.Root, found)
		out.Variants[i] = &flat
	}
	return &out
}

func flattenedLayer(doc *design.Document, l *design.Layer, found *problem.List) *design.Layer {
	out := *l
	if l.Flatten == "" || l.Bounds.Width <= 0 || l.Bounds.Height <= 0 {
		out.Children = make([]*design.Layer, len(l.Children))
		for i, c := range l.Children {
			out.Children[i] = flattenedLayer(doc, c, found)
		}
		return &out
	}
	bare := *l // where and whether it stands is the part's affair
	bare.Hidden, bare.Rotation, bare.Opacity, bare.Blend = false, 0, nil, ""
	bare.Bounds.X, bare.Bounds.Y = 0, 0
	source := svgPicture(doc, &bare)
	if l.Image != nil && l.Image.Shown != nil && len(l.Children) == 0 && l.Image.Fit == "fill" && strings.HasPrefix(l.Image.Shown.Source, "data:image/svg+xml,") { // it is one already
		source = l.Image.Shown.Source
	}
	if l.Flatten == "png" {
		if painted, err := pngPicture(doc, &bare); err == nil {
			source = painted
		} else {
			found.Warnf("flatten-png", "", "change what it says, or flatten it as SVG", "%s becomes an SVG file, no PNG: %v", l.ID, err)
		}
	}
	sayFlattened(l, found)
	size := flatSizing(l)
	return &design.Layer{ID: l.ID, Name: l.Name, Kind: design.Image, Flatten: l.Flatten, Bounds: l.Bounds, Hidden: l.Hidden, Rotation: l.Rotation, Opacity: l.Opacity, Blend: l.Blend,
		Sizing: size, Limits: l.Limits, Place: l.Place, Alt: l.Alt, Link: l.Link,
		Image: &design.ImageContent{Fit: "contain", Shown: &design.Asset{ID: l.ID, Source: source, Width: l.Bounds.Width, Height: l.Bounds.Height}}}
}

func svgPicture(doc *design.Document, l *design.Layer) string {
	return "data:image/svg+xml," + url.PathEscape(doc.Picture(l))
}

// painted remembers pictures by what is drawn in them: they are asked for with every look at a component.
var painted = struct {
	sync.Mutex
	files map[string]string
}{files: map[string]string{}}

// mostPainted bounds how many pictures are remembered.
const mostPainted = 256

func pngPicture(doc *design.Document, l *design.Layer) (string, error) {
	scale := cmp.Or(l.FlattenScale, 2)
	key := fmt.Sprint(scale, doc.Picture(l))
	painted.Lock()
	defer painted.Unlock()
	if file, ok := painted.files[key]; ok {
		return file, nil
	}
	file, err := doc.PNG(l, scale)
	if err != nil {
		return "", err
	}
	if len(painted.files) >= mostPainted {
		clear(painted.files)
	}
	painted.files[key] = "data:image/png;base64," + base64.StdEncoding.EncodeToString(file)
	return painted.files[key], nil
}

// flatSizing says how a flattened layer is sized: it fills what it filled, and is as large as drawn
// else.
func flatSizing(l *design.Layer) design.Sizing {
	one := func(said string) string {
		if said == "fill" {
			return said
		}
		return "fixed"
	}
	return design.Sizing{Width: one(l.Sizing.Width), Height: one(l.Sizing.Height)}
}

// sayFlattened lists what a picture loses of the layers it is made of.
func sayFlattened(l *design.Layer, found *problem.List) {
	texts, bound := "", ""
	l.Walk(func(c *design.Layer, _, _ float64) {
		if c.Text != nil && texts == "" {
			texts = c.ID
		}
		if len(c.Tokens) > 0 && bound == "" {
			bound = c.ID
		}
	})
	if texts != "" {
		found.Warnf("flatten-text", "", "draw its words as outlines, or do not flatten it", "the text %s becomes part of a picture: it is set in a font of the reader's own, and cannot be translated", texts)
	}
	if bound != "" {
		found.Warnf("flatten-tokens", "", "do not flatten it where themes should change it", "the layer %s is bound to tokens and becomes part of a picture, which keeps what was drawn in every theme", bound)
	}
	if outside(l) {
		found.Warnf("flatten-cut", "", "flatten a layer that is as large as all that is seen", "the layer %s paints outside of its bounds: a picture is cut off there", l.ID)
	}
}

// outside tells whether a layer paints beyond its bounds.
func outside(l *design.Layer) (out bool) {
	l.Walk(func(c *design.Layer, x, y float64) {
		far := c != l && (x < 0 || y < 0 || x+c.Bounds.Width > l.Bounds.Width || y+c.Bounds.Height > l.Bounds.Height)
		for _, s := range c.Shadows {
			far = far || !s.Inset && c == l
		}
		out = out || far && !l.Clip
	})
	return out
}
