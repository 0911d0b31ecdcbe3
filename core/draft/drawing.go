package draft

import (
	"cobrik/core/contract"
	"cobrik/core/design"
)

// DrawingOf gives what a family draws where a part shows a drawing or a picture that never changes; nil for
// nothing, and for any other part.
func DrawingOf(f *design.Family, p *contract.Part) contract.Content {
	base := f.Default()
	if base == nil {
		return nil
	}
	l, _ := LayerOf(base.Root, p)
	if l == nil {
		return nil
	}
	if path, ok := PathOf(base.Root, l); ok {
		l = shown(f, l, path)
	}
	switch p.Content.(type) {
	case *contract.Vector:
		if l.Vector != nil {
			return vectorOf(l)
		}
	case contract.Picture:
		if l.Image != nil && l.Flatten != "" {
			return flatPictureOf(l)
		}
	}
	return nil
}

// shown gives a layer as a variant shows it where the default variant hides it.
func shown(f *design.Family, l *design.Layer, path string) *design.Layer {
	for _, v := range f.Variants {
		if other, _ := LayerAt(v.Root, path); l.Hidden && other != nil && !other.Hidden && other.Kind == l.Kind {
			return other
		}
	}
	return l
}

// vectorOf takes a layer's drawing over into the contract.
func vectorOf(l *design.Layer) *contract.Vector {
	out := VectorOf(*l.Vector)
	out.Label = l.Alt
	return &out
}

// VectorOf takes a drawing of paths over.
func VectorOf(v design.VectorContent) contract.Vector {
	out := contract.Vector{ViewBox: v.ViewBox, Paths: make([]contract.Path, len(v.Paths))}
	for i, p := range v.Paths {
		out.Paths[i] = contract.Path{D: p.D, Fill: p.Fill, Rule: p.Rule, Stroke: contract.PathStroke(p.Stroke)}
	}
	return out
}

// flatPictureOf takes a layer's picture over: what was flattened, else what stands for one that nobody gave.
func flatPictureOf(l *design.Layer) contract.Picture {
	out := contract.Picture{Alt: l.Alt}
	if l.Flatten != "" {
		out.Source, out.Width, out.Height = l.Image.Shown.Source, l.Image.Shown.Width, l.Image.Shown.Height
	}
	return out
}
