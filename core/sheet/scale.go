package sheet

import (
	"math"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/token"
)

// Scale is what lengths become over the options of a choice.
type Scale struct {
	Prop    string     `json:"prop" doc:"Name of the choice"`
	Options []string   `json:"options"`
	Rows    []ScaleRow `json:"rows"`
}

// ScaleRow is a length of a part.
type ScaleRow struct {
	Part     string    `json:"part" doc:"Its id"`
	Name     string    `json:"name" doc:"The part's"`
	Property string    `json:"property"`
	Text     string    `json:"text" doc:"As written, of the default option"`
	Unit     string    `json:"unit" doc:"px, rem or em, as it is written or as its token is; mixed for several"`
	Px       []float64 `json:"px" doc:"By option"`
	How      string    `json:"how" enum:"stays,with the type,by steps" doc:"with the type: the same part of the font's size in every option"`
}

// ScaleOf computes the lengths of every part over a choice's options, all else as the component
// is looked at; false when there is no such choice.
func ScaleOf(c *contract.Contract, prop string, tokens *token.Set) (Scale, bool) {
	p := c.Prop(prop)
	if p == nil || p.Kind() != contract.ChoiceKind {
		return Scale{}, false
	}
	out := Scale{Prop: p.Name, Options: p.Options(), Rows: []ScaleRow{}}
	trees := make([]*contract.Resolved, len(out.Options))
	for i, o := range out.Options {
		env := contract.EnvOf(c.Examples().With(contract.Values{prop: contract.OptionValue(o)}))
		trees[i] = contract.Resolve(c, env, tokens)
	}
	initial := slices.Index(out.Options, p.Type.Default().String())
	c.Walk(func(part, _ *contract.Part) {
		for _, property := range css.PropertyNames() {
			if row, ok := scaled(trees, part, property, max(0, initial), tokens); ok {
				out.Rows = append(out.Rows, row)
			}
		}
	})
	return out, true
}

// scaled gives a part's length over the options; false when it says none.
func scaled(trees []*contract.Resolved, part *contract.Part, property string, initial int, tokens *token.Set) (ScaleRow, bool) {
	row := ScaleRow{Part: part.ID, Name: part.Name, Property: property, How: "stays"}
	type measure struct{ px, font float64 }
	of := make([]measure, len(trees))
	var units []string
	for i, tree := range trees {
		r := tree.Find(part.ID)
		if r == nil {
			return row, false
		}
		v, said := r.Values[property]
		px, length := css.Pixels(v.Value)
		if !said || v.Part != part.ID || !length {
			return row, false
		}
		font, _ := css.Pixels(r.Values["font-size"].Value)
		if font == 0 {
			font = css.RootFontSize
		}
		of[i] = measure{px, font}
		row.Px = append(row.Px, math.Round(px*100)/100)
		if i == initial {
			row.Text = v.Expression
		}
		if u := unitOf(contract.ResolveTokens(v.Expression, tokens)); !slices.Contains(units, u) {
			units = append(units, u)
		}
	}
	if row.Unit = units[0]; len(units) > 1 {
		row.Unit = "mixed"
	}
	same, typed := true, property != "font-size"
	for _, m := range of[1:] {
		same = same && math.Abs(m.px-of[0].px) < 0.005
		typed = typed && math.Abs(m.px/m.font-of[0].px/of[0].font) < 0.0005
	}
	switch {
	case same:
	case typed:
		row.How = "with the type"
	default:
		row.How = "by steps"
	}
	return row, true
}

// unitOf gives the unit a length is written in; px for 0 and for what is computed.
func unitOf(text string) string {
	for _, unit := range []string{"rem", "em"} {
		if strings.HasSuffix(text, unit) {
			return unit
		}
	}
	return "px"
}
