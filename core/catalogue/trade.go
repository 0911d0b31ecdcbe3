package catalogue

import (
	"slices"
	"strings"

	"cobrik/core/contract"
)

// trade groups words that people call one kind of thing by. Common practice, no source; elements and roles among them are
// of HTML and WAI-ARIA.
var trade = [][]string{
	{"tag", "chip", "badge", "pill", "label", "token"},
	{"button", "action", "cta", "press"},
	{"card", "tile", "teaser", "panel"},
	{"row", "item", "entry", "listitem"},
	{"list", "listing", "collection"},
	{"menu", "dropdown", "flyout", "actions"},
	{"meter", "gauge", "bar", "level", "progress", "progressbar"},
	{"panels", "accordion", "disclosure", "collapse", "expander", "details", "fold"},
	{"tabs", "tablist", "switcher"},
	{"lamp", "indicator", "status", "light", "signal", "dot"},
	{"notice", "banner", "alert", "message", "callout", "note", "announcement"},
	{"board", "noticeboard", "bulletin"},
	{"offer", "teaser", "promo", "promotion"},
	{"shell", "layout", "frame", "template", "scaffold"},
	{"header", "banner", "topbar", "masthead", "navbar"},
	{"navigation", "nav", "menu", "links"},
	{"footer", "contentinfo", "bottom"},
	{"loading", "placeholder", "skeleton", "busy"},
	{"spinner", "loader", "busy", "loading"},
	{"cluster", "stack", "group", "avatars"},
	{"avatar", "initials", "portrait", "member", "profile", "user"},
	{"dialog", "modal", "popup", "overlay", "lightbox", "window"},
	{"tooltip", "hint", "tip", "popover"},
	{"toast", "snackbar", "notification"},
	{"field", "input", "textbox", "form"},
	{"select", "combobox", "dropdown", "picker", "listbox"},
	{"switch", "toggle", "flag"},
	{"checkbox", "check", "tick"},
	{"radio", "choice", "option"},
	{"slider", "range", "scrubber"},
	{"stepper", "wizard", "steps"},
	{"carousel", "slideshow", "gallery"},
	{"breadcrumb", "breadcrumbs", "path", "trail"},
	{"pagination", "pager", "pages"},
	{"table", "grid", "datagrid"},
	{"divider", "separator", "rule", "hr"},
	{"heading", "headline", "title"},
	{"picture", "image", "img", "photo", "illustration", "thumbnail"},
	{"icon", "glyph", "symbol", "pictogram"},
	{"split", "columns", "sidebar"},
	{"hero", "stage", "intro"},
	{"search", "find", "searchbox"},
	{"link", "anchor"},
	{"calendar", "datepicker", "date"},
	{"rota", "schedule", "roster", "timetable"},
}

// Synonyms lists other words of the trade for one.
func Synonyms(word string) (out []string) {
	for _, group := range trade {
		if !slices.Contains(group, word) && !slices.Contains(group, singular(word)) {
			continue
		}
		for _, other := range group {
			if other != word && !slices.Contains(out, other) {
				out = append(out, other)
			}
		}
	}
	return out
}

// synonyms takes other words for what the component is: by the words of its name, and by the element or the role of its root.
func (t *terms) synonyms(c *contract.Contract) {
	words := contract.Words(c.Name)
	for _, word := range words {
		t.synonymsOf(strings.TrimRight(word, "0123456789"), c.Name) // Tag2 is a tag
	}
	if c.RoomOf != "" {
		t.synonymsOf("placeholder", c.Name)
	}
	is := []string{c.Root.Element}
	if role := c.Root.Attributes["role"].Text; role != "" {
		is = append(is, role)
	}
	c.Walk(func(p, _ *contract.Part) { // what it lays above the page says what it is, too
		if p.Element == "dialog" {
			is = append(is, p.Element)
		}
	})
	for _, word := range is {
		if others := Synonyms(word); len(others) > 0 {
			t.add(InSynonym, word, word)
			t.synonymsOf(word, word)
		}
	}
}

func (t *terms) synonymsOf(word, said string) {
	for _, other := range Synonyms(word) {
		t.add(InSynonym, other, said)
	}
}
