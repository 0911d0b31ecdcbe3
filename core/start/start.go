// Package start holds ready-made starts: contracts of what most design systems need, to be changed. They take
// their room from the project's scale of spaces, and their colours from its tokens where two of them can be
// read on each other.
package start

import (
	"slices"
	"strings"

	"cobrik/core/color"
	"cobrik/core/contract"
	"cobrik/core/primitive"
	"cobrik/core/token"
)

// Start is one of them; its contract is the taker's own.
type Start struct {
	Key      string
	Contract *contract.Contract
}

// All lists the starts, the blank sheet first.
func All(tokens *token.Set) []Start {
	m := maker{tokens: tokens}
	m.ground, m.ink = m.pair([]string{"page", "surface", "canvas", "body", "base", "background"}, "#ffffff", "#26221d")
	m.firmGround, m.firmInk = m.pair([]string{"button", "action", "primary", "accent", "brand"}, "#2f4a3c", "#ffffff")
	m.line = m.find([]string{"line", "edge", "border", "outline"}, "#8a8378")
	return []Start{
		{"blank", m.blank()}, {"button", m.button()}, {"tag", m.tag()}, {"card", m.card()}, {"list-row", m.listRow()}, {"field", m.field()}, {"notice", m.notice()},
		{"disclosure", m.disclosure()}, {"dialog", m.dialog()}, {"menu", m.menu()}, {"page-shell", m.pageShell()},
	}
}

type maker struct {
	tokens              *token.Set
	ground, ink         string
	firmGround, firmInk string
	line                string
}

// Words that colours which are painted on, and those that are read, are called by in tokens: common practice, no
// source.
var (
	grounds = []string{"ground", "background", "bg", "surface", "fill", "raised", "base", "default"}
	inks    = []string{"ink", "text", "foreground", "fg", "content", "on"}
)

// readable is the contrast of a text on its ground (WCAG 2.2, 1.4.3).
const readable = 4.5

// pair finds a ground and an ink of tokens under one of some names, that can be read; else the two given.
func (m maker) pair(of []string, ground, ink string) (string, string) {
	for _, group := range of {
		under := m.colors(func(words []string) bool { return slices.Contains(words, group) })
		for _, g := range under {
			for _, i := range under {
				if named(g, grounds) && named(i, inks) && contrast(g, i) >= readable {
					return "{" + g.Path + "}", "{" + i.Path + "}"
				}
			}
		}
	}
	return ground, ink
}

func named(t *token.Token, words []string) bool {
	all := contract.Words(t.Path)
	return len(all) > 0 && slices.Contains(words, all[len(all)-1])
}

// find finds a colour whose last word is one of some, and that is seen on the ground; else the one given.
func (m maker) find(words []string, otherwise string) string {
	const seen = 1.5
	for _, t := range m.colors(func(all []string) bool { return slices.Contains(words, all[len(all)-1]) }) {
		if ground, err := color.Parse(contract.ResolveTokens(m.ground, m.tokens)); err == nil {
			if c, err := color.Parse(t.Value); err == nil && color.Contrast(c, ground) >= seen {
				return "{" + t.Path + "}"
			}
		}
	}
	return otherwise
}

func (m maker) colors(match func(words []string) bool) (out []*token.Token) {
	for _, t := range m.tokens.All() {
		if words := contract.Words(t.Path); t.Type == "color" && t.Value != "" && t.Deprecated == "" && len(words) > 0 && match(words) {
			out = append(out, t)
		}
	}
	return out
}

func contrast(a, b *token.Token) float64 {
	x, errX := color.Parse(a.Value)
	y, errY := color.Parse(b.Value)
	if errX != nil || errY != nil {
		return 0
	}
	return color.Contrast(x, y)
}

// room gives the space nearest to some px, several for several.
func (m maker) room(px ...float64) string {
	out := make([]string, len(px))
	for i, p := range px {
		out[i] = primitive.Space(m.tokens, p)
	}
	return strings.Join(out, " ")
}

type style = contract.Style

func part(name, element string, s style, children ...*contract.Part) *contract.Part {
	return &contract.Part{ID: name, Name: name, Element: element, Style: s, Children: children}
}

func shows(p *contract.Part, c contract.Content) *contract.Part {
	p.Content = c
	return p
}

func with(p *contract.Part, name string, a contract.Attribute) *contract.Part {
	if p.Attributes == nil {
		p.Attributes = map[string]contract.Attribute{}
	}
	p.Attributes[name] = a
	return p
}

func when(p *contract.Part, terms ...contract.Term) *contract.Part {
	p.ShownWhen = contract.Of(terms...)
	return p
}

func prop(name, purpose string, t contract.Type) contract.Prop {
	return contract.Prop{ID: name, Name: name, Purpose: purpose, Type: t}
}

func event(name, purpose, on, part string) contract.Prop {
	p := prop(name, purpose, contract.Event{On: on})
	p.Part = part
	return p
}

func text(words string) contract.Attribute { return contract.Attribute{Text: words} }
func of(prop string) contract.Attribute    { return contract.Attribute{Prop: prop} }
func at(part string) contract.Attribute    { return contract.Attribute{Part: part} }

func on(flag string) contract.Term {
	return contract.PropIs{Prop: flag, Value: contract.FlagValue(true)}
}
func is(choice, option string) contract.Term {
	return contract.PropIs{Prop: choice, Value: contract.OptionValue(option)}
}

func rule(part string, s style, terms ...contract.Term) contract.Rule {
	return contract.Rule{Part: part, When: contract.Of(terms...), Set: s}
}

func made(name, purpose string, root *contract.Part, props []contract.Prop, rules ...contract.Rule) *contract.Contract {
	return &contract.Contract{Format: contract.Format, Name: name, Purpose: purpose, Root: root, Props: props, Rules: rules}
}
