package survey_test

import "cobrik/core/design"

// Drawings made by hand, of layers at their places.

func box(id, name string, x, y, w, h float64, children ...*design.Layer) *design.Layer {
	return &design.Layer{ID: id, Name: name, Kind: design.Box, Fill: "#ffffff", Bounds: design.Rect{X: x, Y: y, Width: w, Height: h}, Children: children}
}

func group(id, name string, x, y, w, h float64, children ...*design.Layer) *design.Layer {
	l := box(id, name, x, y, w, h, children...)
	l.Kind, l.Fill = design.Group, ""
	return l
}

func text(id, name, content string, x, y, size float64) *design.Layer {
	return &design.Layer{ID: id, Name: name, Kind: design.Text, Fill: "#222222", Bounds: design.Rect{X: x, Y: y, Width: float64(len(content)) * size / 2, Height: size * 1.25},
		Text: &design.TextContent{Content: content, FontFamily: "Hanken Grotesk", FontSize: size, FontWeight: 400, LineHeight: size * 1.25}}
}

func path(id, name string, x, y, side float64, d ...string) *design.Layer {
	l := &design.Layer{ID: id, Name: name, Kind: design.Vector, Fill: "#334433", Bounds: design.Rect{X: x, Y: y, Width: side, Height: side}, Vector: &design.VectorContent{ViewBox: [4]float64{0, 0, 16, 16}}}
	for _, one := range d {
		l.Vector.Paths = append(l.Vector.Paths, design.Path{D: one})
	}
	return l
}

func useOf(id, family string, x, y, w, h float64, overrides ...design.Override) *design.Layer {
	return &design.Layer{ID: id, Name: family, Kind: design.Instance, Bounds: design.Rect{X: x, Y: y, Width: w, Height: h}, Instance: &design.InstanceContent{Family: family, Overrides: overrides}}
}

func page(id, name string, width float64, layers ...*design.Layer) *design.Page {
	return &design.Page{ID: id, Name: name, Width: width, Height: 900, Layers: layers}
}

func family(id, name string, roots ...*design.Layer) *design.Family {
	f := &design.Family{ID: id, Name: name}
	if len(roots) > 1 {
		f.Axes = []design.Axis{{Name: "Look", Default: "a"}}
	}
	for i, r := range roots {
		v := &design.Variant{ID: r.ID + "-variant", Choices: map[string]string{}, Root: r}
		if len(roots) > 1 {
			value := string(rune('a' + i))
			f.Axes[0].Values = append(f.Axes[0].Values, value)
			v.Choices["Look"] = value
		}
		f.Variants = append(f.Variants, v)
	}
	return f
}

func document(pages []*design.Page, families ...*design.Family) *design.Document {
	return &design.Document{Format: design.Format, ID: "hand", Name: "By hand", Pages: pages, Families: families}
}

func one(layers ...*design.Layer) *design.Document {
	return document([]*design.Page{page("p", "Page", 900, layers...)})
}
