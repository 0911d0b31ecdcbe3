package survey_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
	"cobrik/core/survey"
	"cobrik/core/token"
)

func bound(l *design.Layer, property, path string) *design.Layer {
	l.Tokens = map[string]string{property: path}
	return l
}

func with(l *design.Layer, change func(*design.Layer)) *design.Layer {
	change(l)
	return l
}

func hidden(l *design.Layer) { l.Hidden = true }
func yes() *bool             { b := true; return &b }

var flowing = func(l *design.Layer) { l.Flow = &design.Flow{Direction: "row", Gap: 8} }

// When this fails, a survey keeps quiet about something that makes the work harder, or doubts what is well.
func TestEachRuleDoubtsWhatItShouldAndNothingElse(t *testing.T) {
	scale := `{"space":{"2":{"$type":"dimension","$value":{"value":8,"unit":"px"}},"3":{"$type":"dimension","$value":{"value":12,"unit":"px"}}}}`
	button := func(id string) *design.Layer {
		return box(id, "Button", 0, 0, 90, 32, text(id+"-t", "Label", "Sow", 12, 8, 14))
	}
	states := family("button", "Action button", button("b1"), button("b2"), button("b3"))
	states.Axes[0] = design.Axis{Name: "State", Values: []string{"rest", "focus", "disabled"}, Default: "rest"}
	for i, v := range states.Variants {
		v.Choices = map[string]string{"State": states.Axes[0].Values[i]}
	}
	many := make([]string, 14)
	for i := range many {
		many[i] = "M0 0h4v4z"
	}
	tag := func() *design.Family {
		return family("tag", "Crop tag", box("tag-root", "Crop tag", 0, 0, 60, 24, text("tag-label", "Label", "Ripe", 8, 4, 12), path("tag-icon", "Icon", 40, 4, 16, "M0 0h9z")))
	}
	for _, c := range []struct {
		rule        string
		doubted     *design.Document
		layers      []string
		well        *design.Document
		tokens      string
		alsoMessage string
	}{
		{"copy-lost", document([]*design.Page{page("p", "Page", 900, box("copy", "Crop tag", 40, 40, 60, 24, text("c-label", "Label", "Sown", 8, 4, 12), path("c-icon", "Icon", 40, 4, 16, "M0 0h9z")))}, tag()), []string{"copy"},
			document([]*design.Page{page("p", "Page", 900, useOf("copy", "tag", 40, 40, 60, 24))}, tag()), "", "1 layer is drawn like the family Crop tag without being a use of it."},
		{"use-overridden", document([]*design.Page{page("p", "Page", 900, useOf("u", "tag", 40, 40, 60, 24, design.Override{Layer: "Label", Hidden: yes()}, design.Override{Layer: "Icon", Hidden: yes()}))}, tag()), []string{"u"},
			document([]*design.Page{page("p", "Page", 900, useOf("u", "tag", 40, 40, 60, 24, design.Override{Layer: "Icon", Hidden: yes()}))}, tag()), "", "2 of its 2 layers"},
		{"variants-unlike", document(nil, family("f", "Panel", box("f1", "Panel", 0, 0, 99, 50, text("f1t", "Title", "Beds", 8, 8, 14)), box("f2", "Panel", 0, 0, 99, 50))), []string{"f2"},
			document(nil, family("f", "Panel", box("f1", "Panel", 0, 0, 99, 50, text("f1t", "Title", "Beds", 8, 8, 14)), box("f2", "Panel", 0, 0, 99, 50, text("f2t", "Title", "Beds", 8, 8, 14)))), "", "is missing"},
		{"state-missing", document(nil, family("button", "Action button", button("b1"))), []string{"b1"}, document(nil, states), "", "focus and disabled"},
		{"width-missing", document([]*design.Page{page("wide", "Plots", 1440, text("a", "Title", "Plots", 40, 40, 32))}), []string{"a"},
			document([]*design.Page{page("wide", "Plots", 1440, text("a", "Title", "Plots", 40, 40, 32)), page("narrow", "Plots, narrow", 390, text("b", "Title", "Plots", 20, 40, 32))}), "", "1440 px wide alone"},
		{"layer-name", one(group("g", "Group 14", 10, 10, 90, 40, text("t", "Title", "a", 0, 0, 14), text("u", "Note", "b", 0, 20, 12))), []string{"g"},
			one(group("g", "Plot", 10, 10, 90, 40, text("t", "Title", "a", 0, 0, 14), text("u", "Note", "b", 0, 20, 12))), "", "2 layers"},
		{"name-twice", one(box("g", "Plot", 10, 10, 90, 60, text("t", "Part", "a", 0, 0, 14), box("u", "Part", 0, 20, 40, 20))), []string{"t", "u"},
			one(box("g", "Plot", 10, 10, 90, 60, text("t", "Part", "a", 0, 0, 14), text("u", "Part", "b", 0, 20, 14))), "", "2 unlike layers"},
		{"layer-hidden", one(with(box("h", "Old", 10, 10, 90, 60), hidden)), []string{"h"}, one(box("h", "Old", 10, 10, 90, 60)), "", "is hidden"},
		{"layer-hidden", document(nil, family("f", "Panel", box("f1", "Panel", 0, 0, 99, 50, with(box("f1x", "X", 0, 0, 9, 9), hidden)), box("f2", "Panel", 0, 0, 99, 50, with(box("f2x", "X", 0, 0, 9, 9), hidden)))), []string{"f1x"},
			document(nil, family("f", "Panel", box("f1", "Panel", 0, 0, 99, 50, with(box("f1x", "X", 0, 0, 9, 9), hidden)), box("f2", "Panel", 0, 0, 99, 50, box("f2x", "X", 0, 0, 9, 9)))), "", "in every variant"},
		{"layer-outside", one(box("b", "Plot", 10, 10, 90, 60, box("o", "Badge", 60, 50, 40, 20))), []string{"o"}, one(with(box("b", "Plot", 10, 10, 90, 60, box("o", "Badge", 60, 50, 40, 20)), func(l *design.Layer) { l.Clip = true })), "", "reaches beyond “Plot”"},
		{"layer-outside", one(box("b", "Plot", 860, 10, 90, 60)), []string{"b"}, one(box("b", "Plot", 810, 10, 90, 60)), "", "beyond the page"},
		{"placed-in-flow", one(with(box("b", "Plot", 10, 10, 90, 60, with(box("o", "Badge", 60, 5, 20, 20), func(l *design.Layer) {
			l.Place = &design.Place{Pins: &design.Pins{Horizontal: "right", Vertical: "top"}}
		})), flowing)), []string{"o"}, one(with(box("b", "Plot", 10, 10, 90, 60, box("o", "Badge", 60, 5, 20, 20)), flowing)), "", "which flows"},
		{"group-as-container", one(with(box("f", "Row", 10, 200, 90, 60, box("x", "X", 0, 0, 20, 20)), flowing), group("g", "Plot", 10, 10, 90, 60, text("t", "Title", "a", 0, 0, 14), text("u", "Note", "b", 0, 30, 12))), []string{"g"},
			one(with(box("f", "Row", 10, 200, 90, 60, box("x", "X", 0, 0, 20, 20)), flowing), group("g", "Plot", 10, 10, 90, 60, text("t", "Title", "a", 0, 0, 14), text("u", "Note", "b", 2, 3, 12))), "", "one after another"},
		{"value-off-scale", one(with(box("b", "Plot", 10, 10, 90, 60, box("x", "X", 8, 8, 20, 20)), func(l *design.Layer) { l.Flow = &design.Flow{Direction: "row", Gap: 13} })), []string{"b"},
			one(with(box("b", "Plot", 10, 10, 90, 60, box("x", "X", 8, 8, 20, 20)), func(l *design.Layer) { l.Flow = &design.Flow{Direction: "row", Gap: 12} })), scale, "13px; the nearest token, space.3, is 12px"},
		{"colors-near", one(box("a", "A", 10, 10, 90, 60), box("b", "B", 200, 10, 40, 60), with(box("c", "C", 10, 300, 300, 20), func(l *design.Layer) { l.Fill = "#fefefe" })), []string{"c"},
			one(box("a", "A", 10, 10, 90, 60), box("b", "B", 200, 10, 40, 60), with(box("c", "C", 10, 300, 300, 20), func(l *design.Layer) { l.Fill = "#e0e0e0" })), "", "#fefefe is nearly #ffffff, which is used 2 times"},
		{"text-unstyled", one(bound(text("t", "Title", "Beds", 10, 10, 20), "font-size", "type.size.l"), text("u", "Note", "Sow", 10, 60, 14)), []string{"u"},
			one(text("t", "Title", "Beds", 10, 10, 20), text("u", "Note", "Sow", 10, 60, 14)), "", "14 px at weight 400"},
		{"text-sizes", one(text("t", "Title", "Beds", 10, 10, 20), text("u", "Title", "Sheds", 10, 160, 20), text("v", "Title", "Canal", 10, 330, 21)), []string{"v"},
			one(text("t", "Title", "Beds", 10, 10, 20), text("u", "Title", "Sheds", 10, 160, 20), text("v", "Title", "Canal", 10, 330, 40)), "", "21 px; the other 2 in 20 px"},
		{"picture-export", one(group("g", "Bed", 10, 10, 200, 200, path("p1", "Soil", 0, 0, 200, many...), path("p2", "Sky", 0, 0, 100, "M0 0h9z"))), []string{"g"},
			one(with(group("g", "Bed", 10, 10, 200, 200, path("p1", "Soil", 0, 0, 200, many...), path("p2", "Sky", 0, 0, 100, "M0 0h9z")), func(l *design.Layer) { l.Flatten = "svg" })), "", "15 paths"},
	} {
		t.Run(c.rule, func(t *testing.T) {
			options := survey.Options{}
			if c.tokens != "" {
				set, found := token.Read(token.File{Name: "t", Text: []byte(c.tokens)})
				require.Empty(t, found)
				options.Tokens = set
			}
			of := func(doc *design.Document) (out []survey.Doubt) {
				for _, d := range survey.Read(doc, options).Doubts {
					if d.Rule == c.rule {
						out = append(out, d)
					}
				}
				return out
			}
			doubted := of(c.doubted)
			if assert.Len(t, doubted, 1) {
				assert.Equal(t, c.layers, doubted[0].Layers)
				assert.Equal(t, c.layers[0], doubted[0].Layer)
				assert.Contains(t, doubted[0].Message, c.alsoMessage)
				assert.NotEmpty(t, doubted[0].Page+doubted[0].Family, "where it is")
			}
			assert.Empty(t, of(c.well))
			options.Off = map[string]bool{c.rule: true}
			assert.Empty(t, of(c.doubted), "a rule that is off")
		})
	}
	assert.Len(t, survey.DoubtRules, 16, "each has a case above")
}

// When this fails, two doubts go by one name, and one that is set aside takes the other with it.
func TestDoubtsHaveIdsOfTheirOwn(t *testing.T) {
	doc := one(box("b", "Plot", 10, 10, 90, 60, text("t", "Part", "a", 0, 0, 14), box("u", "Part", 0, 20, 40, 20), text("v", "Note", "b", 0, 0, 12), box("w", "Note", 0, 20, 40, 20)))
	var ids []string
	for _, d := range survey.Read(doc, survey.Options{}).Doubts {
		assert.NotContains(t, ids, d.ID)
		ids = append(ids, d.ID)
	}
	assert.Contains(t, ids, "name-twice:t")
	assert.Contains(t, ids, "name-twice:v")
}
