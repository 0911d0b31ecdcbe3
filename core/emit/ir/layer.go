package ir

import (
	"slices"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/emit"
)

// Layer is a part that the behaviour shows above the page, in the browser's top layer (HTML, 6.12 and 4.11.4; CSS Positioned Layout 4, 3.1).
type Layer struct {
	Part  string // id
	Modal bool   // a dialog, beside which nothing can be done
}

// layersOf lists the parts that the behaviour shows and hides, and that are dialogs or have the attribute popover.
func layersOf(c *contract.Contract, does *behaviour.Flat) (out []Layer) {
	if does == nil {
		return nil
	}
	c.Walk(func(p, _ *contract.Part) {
		modal := p.Element == "dialog"
		if (modal || p.Attributes["popover"].Text != "") && p.Use() == nil && slices.Contains(does.SaysOf(p.ID), "hidden") {
			out = append(out, Layer{p.ID, modal})
		}
	})
	return out
}

// layer tells whether a part is shown above the page, where it is not only looked at.
func (l *lowering) layer(p *contract.Part) bool {
	return !l.forced && slices.ContainsFunc(l.layers, func(o Layer) bool { return o.Part == p.ID })
}

// besides gives the parts that layers are placed beside, by the layer's id: the one that refers to it, or the root.
func (l *lowering) besides() map[string]string {
	out := map[string]string{}
	for _, one := range l.layers {
		if l.c.Part(one.Part).Style["position-area"] == "" {
			continue
		}
		out[one.Part] = l.c.Root.ID
		l.c.Walk(func(p, _ *contract.Part) {
			for _, name := range []string{"aria-describedby", "aria-controls"} {
				if p.Attributes[name].Part == one.Part {
					out[one.Part] = p.ID
				}
			}
		})
	}
	return out
}

// anchor names a part that something is placed beside (CSS Anchor Positioning 1, 2.1).
func (l *lowering) anchor(part string) string {
	return "--" + emit.Kebab(l.c.Name) + "-" + emit.Kebab(l.classes.parts[part])
}

// placing are the properties that place a layer; where it is only looked at, it stands where it is drawn.
var placing = []string{"position-area", "position-try-fallbacks"}

// drawnPlace are those that place it where nothing is above the page.
var drawnPlace = []string{"position", "inset", "left", "top", "right", "bottom"}

// layered gives what a part says of itself as a layer, or as what one is placed beside.
func (l *lowering) layered(p *contract.Part, said contract.Style) (out contract.Style, reset []Declaration) {
	out = said
	without := func(properties []string) {
		out = contract.Style{}
		for property, value := range said {
			if !slices.Contains(properties, property) {
				out[property] = value
			}
		}
	}
	switch {
	case l.forced && said["position-area"] != "":
		without(append(placing[:len(placing):len(placing)], "margin-block"))
	case l.layer(p) && said["position-area"] != "":
		without(drawnPlace)
		reset = append(reset, Declaration{"position", "fixed"}, Declaration{"inset", "auto"}, Declaration{"position-anchor", l.anchor(l.besides()[p.ID])})
	}
	return out, reset
}

// layerResets take back what browsers give popovers and dialogs by themselves (HTML, 15.3.1 and 15.3.3).
var layerResets = []Declaration{{"margin", "0"}, {"border", "0"}, {"padding", "0"}, {"background", "none"}, {"color", "inherit"}, {"overflow", "visible"}}
