package contract

import (
	"slices"
	"strings"
)

// Elements are those a part may be (HTML Living Standard, 4; SVG 2). What loads,
// embeds or runs something is not among them.
var Elements = []string{
	"div", "span", "p", "section", "article", "header", "footer", "main", "nav", "aside", "figure", "figcaption", "address", "search", "hgroup",
	"h1", "h2", "h3", "h4", "h5", "h6", "ul", "ol", "li", "dl", "dt", "dd", "strong", "em", "small", "mark", "time", "output", "data", "abbr", "code", "kbd", "blockquote", "q", "cite",
	"button", "a", "label", "fieldset", "legend", "input", "textarea", "details", "summary", "dialog", "hr", "img", "svg",
}

// Void are the elements that hold nothing (HTML, 13.1.2).
var Void = []string{"input", "hr", "img"}

// attributes are those a part of an element may have, by element; under "*" those of all
// (HTML, the attributes' index). What the component says by itself, handlers, style and
// class are not among them.
var attributes = map[string][]string{
	"*":          {"title", "lang", "dir", "role", "hidden", "inert", "popover", "tabindex"},
	"a":          {"href", "hreflang", "target", "rel", "download"},
	"button":     {"type", "name", "value", "disabled"},
	"input":      {"type", "name", "value", "placeholder", "min", "max", "step", "required", "readonly", "disabled", "checked", "autocomplete", "inputmode", "maxlength"},
	"textarea":   {"name", "placeholder", "rows", "required", "readonly", "disabled", "autocomplete", "maxlength"},
	"label":      {"for"},
	"output":     {"for", "name"},
	"time":       {"datetime"},
	"data":       {"value"},
	"ol":         {"start", "reversed", "type"},
	"blockquote": {"cite"},
	"q":          {"cite"},
	"details":    {"open", "name"},
	"fieldset":   {"disabled", "name"},
	"img":        {"loading", "decoding", "fetchpriority"},
}

// AttributeKind tells what an attribute's value is.
type AttributeKind uint8

const (
	TextAttribute   AttributeKind = iota // any text
	NumberAttribute                      // a number
	FlagAttribute                        // there or not; of ARIA true or false
	LinkAttribute                        // an address
	PartAttribute                        // the place of another part
	WordAttribute                        // one of a few words
)

// kinds of attributes other than texts (HTML, the attributes' index; WAI-ARIA 1.2, 6.6)
var attributeKinds = map[AttributeKind][]string{
	NumberAttribute: {"tabindex", "rows", "start", "maxlength", "min", "max", "step", "aria-colcount", "aria-colindex", "aria-colspan", "aria-level", "aria-posinset", "aria-rowcount", "aria-rowindex",
		"aria-rowspan", "aria-setsize", "aria-valuemax", "aria-valuemin", "aria-valuenow"},
	FlagAttribute: {"hidden", "inert", "disabled", "required", "readonly", "checked", "open", "reversed", "aria-atomic", "aria-busy", "aria-disabled", "aria-expanded", "aria-hidden", "aria-modal", "aria-multiline",
		"aria-multiselectable", "aria-readonly", "aria-required", "aria-selected", "aria-checked", "aria-pressed", "aria-current", "aria-invalid"},
	LinkAttribute: {"href", "cite"},
	PartAttribute: {"for", "aria-labelledby", "aria-describedby", "aria-controls", "aria-details", "aria-owns", "aria-activedescendant", "aria-errormessage"},
}

// ariaTexts are the attributes of ARIA that are texts.
var ariaTexts = []string{"aria-label", "aria-description", "aria-placeholder", "aria-roledescription", "aria-valuetext", "aria-keyshortcuts"}

// attributeWords are the words of those that take one of a few; of flags, those beside true and
// false.
var attributeWords = map[string][]string{
	"dir": {"ltr", "rtl", "auto"}, "popover": {"manual"}, "target": {"_self", "_blank", "_parent", "_top"}, "loading": {"lazy", "eager"}, "decoding": {"async", "auto", "sync"}, "fetchpriority": {"high", "low", "auto"},
	"inputmode": {"none", "text", "tel", "url", "email", "numeric", "decimal", "search"}, "aria-live": {"off", "polite", "assertive"}, "aria-haspopup": {"true", "false", "menu", "listbox", "tree", "grid", "dialog"},
	"aria-orientation": {"horizontal", "vertical"}, "aria-sort": {"none", "ascending", "descending", "other"}, "aria-autocomplete": {"none", "inline", "list", "both"},
	"aria-current": {"page", "step", "location", "date", "time"}, "aria-checked": {"mixed"}, "aria-pressed": {"mixed"}, "aria-invalid": {"grammar", "spelling"},
}

// typeWords are the types of elements that have one.
var typeWords = map[string][]string{
	"button": {"button", "submit", "reset"}, "ol": {"1", "a", "A", "i", "I"},
	"input": {"text", "search", "tel", "url", "email", "password", "date", "month", "week", "time", "datetime-local", "number", "range", "color", "checkbox", "radio", "submit", "reset", "button"},
}

// AttributeOf tells what an attribute of a part of an element takes, and the words it takes
// where they are few; false when the part cannot have it.
func AttributeOf(element, name string) (kind AttributeKind, words []string, ok bool) {
	words = attributeWords[name]
	if name == "type" {
		words = typeWords[element]
	}
	for kind, names := range attributeKinds {
		if slices.Contains(names, name) {
			return kind, words, strings.HasPrefix(name, "aria-") || slices.Contains(attributes["*"], name) || slices.Contains(attributes[element], name)
		}
	}
	ok = slices.Contains(ariaTexts, name) || strings.HasPrefix(name, "aria-") && words != nil || slices.Contains(attributes["*"], name) || slices.Contains(attributes[element], name)
	if words != nil {
		return WordAttribute, words, ok
	}
	return TextAttribute, nil, ok
}

// AttributesOf lists the attributes that a part of an element may have, its own first.
func AttributesOf(element string) []string {
	out := append(slices.Clone(attributes[element]), attributes["*"]...)
	out = append(out, ariaTexts...)
	for _, kind := range []AttributeKind{PartAttribute, FlagAttribute, NumberAttribute} {
		for _, name := range attributeKinds[kind] {
			if strings.HasPrefix(name, "aria-") {
				out = append(out, name)
			}
		}
	}
	for _, name := range sortedKeys(attributeWords) {
		if strings.HasPrefix(name, "aria-") && !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	return out
}

// AttributeKinds lists the kinds of props whose values an attribute of a kind takes.
func AttributeKinds(kind AttributeKind) []Kind { return attributeProps[kind] }

// IsHeading tells whether an element is one of h1 to h6.
func IsHeading(element string) bool {
	return len(element) == 2 && element[0] == 'h' && strings.Contains("123456", element[1:])
}
