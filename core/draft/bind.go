package draft

import (
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// hints are words in a token's path that fit a property, for the properties that
// drawn values are bound for: common practice, no source.
var hints = map[string][]string{
	"margin-left": {"gap", "space"}, "margin-top": {"gap", "space"},
	"gap": {"gap", "space", "gutter"}, "padding-block": {"pad", "space", "inset"}, "padding-inline": {"pad", "space", "inset"},
	"width": {"width", "icon"}, "height": {"height", "icon"}, "max-width": {"width"},
	"background-color": {"ground", "background", "surface", "fill"},
	"border-width":     {"line", "border", "stroke"}, "border-color": {"line", "border", "edge", "stroke"}, "border-radius": {"radius", "corner", "round"},
	"background-image": {"gradient"}, "box-shadow": {"shadow"},
	"opacity": {"opacity", "alpha"}, "fill": {"icon", "ink", "fill", "text"}, "color": {"ink", "text", "foreground"},
	"font-family": {"family", "font", "type"}, "font-size": {"text", "type", "font"}, "font-weight": {"weight", "type", "font"},
	"line-height": {"line", "leading"}, "letter-spacing": {"tracking", "letter"},
}

// bind replaces raw values that equal a token's by references to it. Where
// several tokens fit equally well, the first named in the token files wins.
func bind(property, value, component string, tokens *token.Set) string {
	p, _ := css.PropertyNamed(property)
	if len(hints[property]) == 0 || len(css.RefsIn(value)) > 0 {
		return value
	}
	want := css.CanonicalText(property, value, 0)
	if p.Initial == want {
		return value
	}
	best, bestScore := "", 0
	for _, t := range equals(p, want, tokens) {
		score := affinity(p, t.Path, component)
		// A length says little of itself: 4px is a gap, a radius, a stroke.
		if t.Type == "dimension" && score < 2 {
			continue
		}
		if score++; score > bestScore {
			best, bestScore = t.Path, score
		}
	}
	if best == "" {
		return value
	}
	return "{" + best + "}"
}

// equals lists the tokens a property takes that come to a value.
func equals(p css.Property, value string, tokens *token.Set) []*token.Token {
	var out []*token.Token
	for _, kind := range p.TokenTypes() {
		for _, t := range tokens.WithValue(kind, value) {
			if t.Deprecated == "" {
				out = append(out, t)
			}
		}
	}
	return out
}

// affinity says how well a token's path speaks of a property and a component.
func affinity(p css.Property, path, component string) int {
	score := 0
	path = strings.ToLower(path)
	for _, hint := range hints[p.Name] {
		if strings.Contains(path, hint) {
			score = 2
			break
		}
	}
	for _, word := range contract.Words(component) {
		if strings.Contains(path, word) {
			return score + 1
		}
	}
	return score
}

// checkBindings reports bindings that lead nowhere and bindings whose token has
// another value than what was drawn.
func checkBindings(l *design.Layer, s contract.Style, tokens *token.Set, found *problem.List) {
	for _, property := range s.Properties() {
		path := l.Tokens[property]
		if path == "" {
			continue
		}
		if t := tokens.Get(path); t == nil || t.Value == "" {
			fix := "add the token, or bind the layer to another"
			if near := tokens.Nearest(path); len(near) > 0 {
				fix = "did you mean " + strings.Join(near, " or ") + "?"
			}
			found.Errorf("layer-token", "", fix, "%s of the layer %s is bound to %s, which is not in the token files", property, l.ID, path)
			continue
		}
		bare := *l
		bare.Tokens = nil
		drawn := StyleOf(&bare, nil)[property]
		if drawn == "" {
			continue
		}
		if is, was := css.CanonicalText(property, contract.ResolveTokens(s[property], tokens), 0), css.CanonicalText(property, drawn, 0); is != was {
			found.Warnf("layer-stale", "", "redraw the layer, or bind it to another token",
				"%s of the layer %s is bound to %s, which is %s, but drawn %s", property, l.ID, path, is, was)
		}
	}
}
