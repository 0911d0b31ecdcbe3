package contract

import (
	"slices"
	"strings"
)

// Access is what a part is in the accessibility tree; the zero value is nothing in particular.
type Access struct {
	Role  string // of WAI-ARIA 1.2
	Level int    // of a heading, 1 to 6; else 0
	Name  string // accessible name, white space run together; empty for none, and where the browser has a word of its own
}

// roles of elements, whatever stands around them (HTML-AAM 1.0, element roles); those that tell an
// assistive technology nothing are left out.
var roles = map[string]string{
	"address": "group", "article": "article", "aside": "complementary", "button": "button", "dd": "definition", "details": "group", "dialog": "dialog", "dt": "term", "fieldset": "group", "figure": "figure", "h1": "heading", "h2": "heading",
	"h3": "heading", "h4": "heading", "h5": "heading", "h6": "heading", "hgroup": "group", "hr": "separator", "li": "listitem", "main": "main", "nav": "navigation", "ol": "list", "output": "status",
	"textarea": "textbox", "ul": "list",
}

// inputRoles are those of inputs by their type (HTML-AAM 1.0, element roles).
var inputRoles = map[string]string{
	"": "textbox", "text": "textbox", "email": "textbox", "tel": "textbox", "url": "textbox", "search": "searchbox", "number": "spinbutton", "range": "slider", "checkbox": "checkbox", "radio": "radio",
	"button": "button", "submit": "button", "reset": "button",
}

// sections are the elements in which a header is none of the page's (HTML-AAM 1.0, header and footer).
var sections = []string{"article", "aside", "main", "nav", "section"}

// namedByContent are the roles whose name is what stands in them (WAI-ARIA 1.2, name from content).
var namedByContent = []string{"button", "checkbox", "heading", "link", "menuitem", "menuitemcheckbox", "menuitemradio", "option", "radio", "switch", "tab", "tooltip", "treeitem"}

// Accesses tells what each part of a resolved component is in the accessibility tree, by its key.
// What is not shown, or hidden from it, is left out; so is the inside of uses.
func (r *Resolved) Accesses() map[string]Access {
	t := accessTree{parts: map[string]*Resolved{}, labels: map[string]*Resolved{}, out: map[string]Access{}}
	r.Walk(func(r *Resolved) {
		t.parts[r.Key()] = r
		if to := r.Part.Attributes["for"].Part; to != "" && r.Part.Element == "label" && !r.unseen() {
			t.labels[beside(r, to)] = r
		}
	})
	t.part(r, nil)
	return t.out
}

type accessTree struct {
	parts  map[string]*Resolved // by key
	labels map[string]*Resolved // by the key of the part they are for
	out    map[string]Access
}

// beside is the key of the part of an id that stands in the same items.
func beside(r *Resolved, id string) string {
	return (&Resolved{Part: &Part{ID: id}, Item: r.Item, within: r.within}).Key()
}

func (t accessTree) part(r *Resolved, around []*Resolved) {
	if r.unseen() {
		return
	}
	if r.Part.Use() == nil {
		a := Access{Role: t.role(r, around)}
		a.Name = t.name(r, slices.Contains(namedByContent, a.Role), around)
		if a.Role == "heading" {
			a.Level = r.level()
		}
		if a.Role == "region" && a.Name == "" && r.Attributes["role"] == "" { // HTML-AAM 1.0, section
			a = Access{}
		}
		if a.Role != "" {
			t.out[r.Key()] = a
		}
	}
	for _, c := range r.Children {
		t.part(c, append(around[:len(around):len(around)], r))
	}
}

// unseen tells whether a part is out of the accessibility tree with all that is in it
// (WAI-ARIA 1.2, aria-hidden).
func (r *Resolved) unseen() bool {
	_, hidden := r.Attributes["hidden"]
	return !r.Shown || hidden || r.Values["display"].Value == "none" || r.Attributes["aria-hidden"] == "true"
}

func (t accessTree) role(r *Resolved, around []*Resolved) string {
	if own := r.Attributes["role"]; own != "" {
		return own
	}
	within := func(elements []string) bool {
		return slices.ContainsFunc(around, func(p *Resolved) bool { return slices.Contains(elements, p.Part.Element) })
	}
	switch e := r.Part.Element; e {
	case "a":
		if _, ok := r.Attributes["href"]; ok {
			return "link"
		}
	case "header", "footer":
		if !within(sections) {
			return map[string]string{"header": "banner", "footer": "contentinfo"}[e]
		}
	case "section":
		return "region"
	case "input":
		return inputRoles[r.Attributes["type"]]
	case "img", "svg":
		if r.alternative() != "" {
			return "img"
		}
	default:
		if _, picture := r.Part.Content.(Picture); picture && r.alternative() != "" {
			return "img"
		}
		return roles[e]
	}
	return ""
}

// level is that of a heading: what ARIA says of it stands before its element's (HTML-AAM 1.0).
func (r *Resolved) level() int {
	switch own := r.Attributes["aria-level"]; {
	case len(own) == 1 && own >= "1" && own <= "9":
		return int(own[0] - '0')
	case r.Level > 0:
		return r.Level
	case IsHeading(r.Part.Element):
		return int(r.Part.Element[1] - '0')
	}
	return 2 // WAI-ARIA 1.2, heading
}

// alternative is what stands for a picture or drawing; empty for none, and for decoration.
func (r *Resolved) alternative() string {
	switch c := r.Part.Content.(type) {
	case Picture:
		return c.Alt
	case *Vector:
		return c.Label
	case IconOf:
		if r.Icon != nil {
			return r.Icon.Label
		}
	}
	if r.Image != nil {
		return r.Image.Alt
	}
	return ""
}

// name computes the accessible name, of what stands in the part only where that names it
// (Accessible Name and Description Computation 1.2, 4.3.2).
func (t accessTree) name(r *Resolved, content bool, around []*Resolved) string {
	if by := t.parts[beside(r, r.Attributes["aria-labelledby"])]; by != nil {
		return t.ownName(by, true, nil)
	}
	return t.ownName(r, content, around)
}

// ownName is the name that the part has by itself.
func (t accessTree) ownName(r *Resolved, content bool, around []*Resolved) string {
	var words []string
	switch e := r.Part.Element; {
	case r.Attributes["aria-label"] != "":
		return r.Attributes["aria-label"]
	case r.alternative() != "":
		return r.alternative()
	case e == "input" || e == "textarea":
		for _, p := range around {
			if p.Part.Element == "label" {
				words = p.spoken()
			}
		}
		if label := t.labels[r.Key()]; label != nil {
			words = label.spoken()
		}
		if len(words) == 0 && inputRoles[r.Attributes["type"]] == "button" {
			words = []string{r.Attributes["value"]}
		}
	case e == "fieldset":
		for _, c := range r.Children {
			if c.Part.Element == "legend" && !c.unseen() {
				words = c.spoken()
			}
		}
	case content:
		words = r.spoken()
	}
	for _, text := range []string{strings.Join(words, " "), r.Attributes["title"], r.Attributes["placeholder"]} {
		if text = strings.Join(strings.Fields(text), " "); text != "" {
			return text
		}
	}
	return ""
}

// spoken lists what stands in a part (the same, 2F).
func (r *Resolved) spoken() []string {
	out := []string{r.Text}
	inner := slices.Concat(r.Filled, r.Children)
	if r.Inside != nil {
		inner = []*Resolved{r.Inside}
	}
	for _, c := range inner {
		switch label := c.Attributes["aria-label"]; {
		case c.unseen():
		case label != "":
			out = append(out, label)
		case c.alternative() != "":
			out = append(out, c.alternative())
		default:
			out = append(out, c.spoken()...)
		}
	}
	return out
}
