package main

import (
	"fmt"

	"cobrik/core/design"
)

// actionButton is drawn in the states that people bring about, and disabled.
func (a *artist) actionButton() *design.Family {
	f := &design.Family{
		ID: "action-button", Name: "ActionButton", Description: "Does something with the plot at once.",
		Axes: []design.Axis{
			{Name: "Emphasis", Values: []string{"firm", "plain", "quiet"}, Default: "firm"},
			{Name: "Size", Values: []string{"s", "m"}, Default: "m"},
			{Name: "State", Values: []string{"default", "hover", "pressed", "focus", "disabled"}, Default: "default"},
		},
	}
	a.page, a.count = f.ID, 0
	defer func() { a.page = "" }()
	for _, emphasis := range f.Axes[0].Values {
		for _, size := range f.Axes[1].Values {
			for _, state := range f.Axes[2].Values {
				f.Variants = append(f.Variants, &design.Variant{
					ID:      fmt.Sprintf("action-button-%s-%s-%s", emphasis, size, state),
					Choices: map[string]string{"Emphasis": emphasis, "Size": size, "State": state},
					Root:    a.actionButtonVariant(emphasis, size, state),
				})
			}
		}
	}
	return f
}

func (a *artist) actionButtonVariant(emphasis, size, state string) *design.Layer {
	group := "button." + emphasis
	ground, ink := group+".ground", group+".ink"
	switch state {
	case "hover":
		ground = group + ".ground-hover"
	case "pressed":
		if ground = group + ".ground-pressed"; emphasis == "quiet" {
			ground = group + ".ground-hover"
		}
	case "disabled":
		ground, ink = "button.off.ground", "button.off.ink"
	}
	edge := ground
	if emphasis == "plain" && state != "disabled" {
		edge = group + ".edge"
	}
	if state == "focus" {
		edge = "focus.ring"
	}
	step, block, inline := "body", "1", "4"
	if size == "s" {
		step, block, inline = "small", "half", "3"
	}
	label := a.text("Label", "Water the bed", ink, step, "firm")
	return flow(&design.Layer{
		ID: a.id("button"), Name: "ActionButton", Kind: design.Box, Fill: a.value(ground),
		Stroke: &design.Stroke{Color: a.value(edge), Width: a.px("focus.width")}, Radius: []float64{a.px("button.radius")},
		Tokens: map[string]string{
			"background-color": ground, "border-color": edge, "border-width": "focus.width", "border-radius": "button.radius",
			"padding-block": "space." + block, "padding-inline": "space." + inline,
		},
		Children: []*design.Layer{label},
	}, design.Flow{Direction: "row", Align: "center", Padding: []float64{a.px("space." + block), a.px("space." + inline)}})
}
