package contract

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"cobrik/core/css"
	"cobrik/core/layout"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// Arrangement is how a part lays its children out and how it is sized itself,
// in the words of the layout primitives. In an edit, what is empty stays.
type Arrangement struct {
	Kind       string `json:"kind,omitempty" doc:"stack, row, wrapping row, split, grid or overlay; leaf for a part that holds no others"`
	Columns    string `json:"columns,omitempty" doc:"Of a split what each column takes: 1 2, content 1; equal shares when empty. Of a grid how many columns or its CSS track list"`
	Align      string `json:"align,omitempty" doc:"Of children across: stretch, start, center, end or baseline"`
	Distribute string `json:"distribute,omitempty" doc:"Of children along: start, center, end or space-between"`
	Width      string `json:"width,omitempty" doc:"fixed, content or fill"`
	Height     string `json:"height,omitempty"`
}

// Kinds of containers a part can be made.
var Kinds = []string{layout.Stack, layout.Row, layout.Wrap, layout.Split, layout.Grid, layout.Overlay}

// Arrangement reads how a resolved part is laid out; the parent is nil for the
// root.
func (r *Resolved) Arrangement(parent *Resolved) Arrangement {
	a := Arrangement{Kind: r.kind(), Width: r.sized(parent, "width"), Height: r.sized(parent, "height")}
	switch a.Kind {
	case layout.Leaf, layout.Overlay:
		return a
	case layout.Split:
		a.Columns, _ = r.sharesOf()
	case layout.Grid:
		a.Columns = countOf(r.own("grid-template-columns"))
	}
	a.Align = plainWord(cmp.Or(r.own("align-items"), "stretch"))
	if a.Kind != layout.Split && a.Kind != layout.Grid {
		a.Distribute = plainWord(cmp.Or(r.own("justify-content"), "start"))
	}
	return a
}

// own gives the value a part says itself; empty when it says none.
func (r *Resolved) own(property string) string {
	if v := r.Values[property]; v.Part == r.Part.ID {
		return v.Value
	}
	return ""
}

func (r *Resolved) kind() string {
	if len(r.Part.Children) == 0 {
		return layout.Leaf
	}
	display := strings.TrimPrefix(r.own("display"), "inline-")
	switch {
	case r.layered():
		return layout.Overlay
	case display == "grid":
		if _, split := r.sharesOf(); split {
			return layout.Split
		}
		return layout.Grid
	case display != "flex" || strings.HasPrefix(r.own("flex-direction"), "column"):
		return layout.Stack
	case strings.HasPrefix(r.own("flex-wrap"), "wrap"):
		return layout.Wrap
	}
	return layout.Row
}

// layered tells whether children lie on one place.
func (r *Resolved) layered() bool {
	over := 0
	for _, c := range r.Children {
		if c.own("position") == "absolute" || c.own("grid-area") == onePlace {
			over++
		}
	}
	return over > 0 && over >= len(r.Children)-1
}

const onePlace = "1 / 1"

func plainWord(v string) string {
	v = strings.TrimPrefix(v, "flex-")
	if v == "normal" {
		return "stretch"
	}
	return v
}

// sharesOf gives a split's shares, nothing for equal ones that no track says; false for any other container.
func (r *Resolved) sharesOf() (string, bool) {
	tracks := r.own("grid-template-columns")
	if (tracks == "" || tracks == "none") && strings.HasPrefix(r.own("grid-auto-flow"), "column") {
		return "", true
	}
	return layout.SharesOf(tracks)
}

func isShares(text string) bool {
	_, ok := layout.ColumnsOf(text)
	return ok
}

// countOf gives the number of a grid's equal columns; else the track list.
func countOf(columns string) string {
	if count, ok := strings.CutPrefix(columns, "repeat("); ok {
		if count, ok = strings.CutSuffix(count, ", minmax(0, 1fr))"); ok {
			return count
		}
	}
	return columns
}

// sized tells how a part's size along an axis is found.
func (r *Resolved) sized(parent *Resolved, property string) string {
	said := r.own(property)
	along := parent != nil && parent.along() == property
	switch {
	case said == "100%" || along && strings.HasPrefix(r.own("flex"), "1 "):
		return layout.Fill
	case said != "" && said != "auto" && !strings.HasSuffix(said, "-content"):
		return layout.Fixed
	case said != "" && said != "auto" || along || r.own("position") == "absolute":
		return layout.Content
	case parent == nil:
		if property == "width" && !strings.HasPrefix(cmp.Or(r.own("display"), "block"), "inline") {
			return layout.Fill
		}
		return layout.Content
	}
	// Across a container, or in a cell of a grid.
	self, all := "align-self", "align-items"
	if kind := parent.kind(); property == "width" && (kind == layout.Grid || kind == layout.Split || kind == layout.Overlay) {
		self, all = "justify-self", "justify-items"
	}
	if how := cmp.Or(r.own(self), "auto"); how == "stretch" || how == "auto" && (cmp.Or(parent.own(all), "stretch") == "stretch" && r.Part.Vector() == nil) {
		return layout.Fill
	}
	return layout.Content
}

// Sizings lists how a part can be sized. A drawing's content has no size of its
// own.
func (r *Resolved) Sizings() []string {
	if r.Part.Vector() != nil {
		return []string{layout.Fixed, layout.Fill}
	}
	return []string{layout.Fixed, layout.Content, layout.Fill}
}

// along is the property that sizes a container's children in its direction.
func (r *Resolved) along() string {
	switch r.kind() {
	case layout.Row, layout.Wrap:
		return "width"
	case layout.Stack:
		return "height"
	}
	return ""
}

// EditSite is where in a contract an edit applies: an environment. Below, when not 0,
// is the switch point, px, under which the edit holds alone; otherwise it is made
// where the environment's case says the value now.
type EditSite struct {
	Env
	Below float64
	Sizes map[string][2]float64 // px each part has now, for what becomes fixed
}

// Arrange makes a part lay its children out, or be sized, in another way. Gaps
// and paddings stay; children keep how they are sized. After an error the
// contract may be half edited: edit a clone.
func (c *Contract) Arrange(part string, want Arrangement, at EditSite, tokens *token.Set) problem.List {
	var found problem.List
	e := arranger{c: c, at: at, tokens: tokens}
	r, _ := e.find(part)
	if r == nil {
		found.Errorf("part", "/part", "name a part of the contract", "there is no part %q", part)
		return found
	}
	if want.Kind == "" && want.Columns != "" {
		want.Kind = r.kind()
	}
	switch {
	case want.Kind != "" && !slices.Contains(Kinds, want.Kind):
		found.Errorf("kind", "/kind", "use one of "+strings.Join(Kinds, ", "), "%q is not a way to lay parts out", want.Kind)
	case r.Values["display"].Value == "none":
		found.Errorf("hidden", "/part", "lay it out at a width, or in a case, in which it is there", "%s is not there", r.Part.Name)
	case want.Kind != "" && len(r.Part.Children) == 0:
		found.Errorf("kind", "/kind", "choose a part that holds others", "%s holds no other parts", part)
	case (want.Kind == layout.Split || want.Kind == "" && r.kind() == layout.Split) && want.Columns != "" && !isShares(want.Columns):
		found.Errorf("shares", "/columns", "write a share for each column, such as 1 2 or content 1", "%q are no shares of a width", want.Columns)
	case at.Below > 0 && c.Root.Style["width"] != "100%":
		found.Errorf("switch-container", "/below", "let the root fill its container's width first", "%s is as wide as its content: it has no container's width to follow", c.Name)
	}
	sizes := r.Sizings()
	for _, word := range []struct {
		name, value string
		options     []string
	}{{"align", want.Align, []string{"stretch", "start", "center", "end", "baseline"}}, {"distribute", want.Distribute, []string{"start", "center", "end", "space-between"}},
		{"width", want.Width, sizes}, {"height", want.Height, sizes}} {
		if word.value != "" && !slices.Contains(word.options, word.value) {
			found.Errorf("arrange", "/"+word.name, "use one of "+strings.Join(word.options, ", "), "%q is not a value of %s", word.value, word.name)
		}
	}
	if found.Failed() {
		return found
	}
	for _, property := range []string{"display", "flex-direction", "flex-wrap", "grid-template-columns", "grid-auto-flow"} {
		if v := r.Values[property]; v.Part == part && v.When.Below() > 0 && want.Kind != "" && at.Below == 0 {
			e.at.Below = v.When.Below() // it is that container below the point only
		}
	}
	if want.Kind != "" && (want.Kind != r.kind() || want.Columns != "") {
		e.kind(part, want.Kind, want.Columns)
	}
	if (want.Align != "" || want.Distribute != "") && len(r.Part.Children) > 0 && strings.HasSuffix(cmp.Or(r.own("display"), "block"), "block") {
		e.kind(part, r.kind(), "") // a block aligns nothing
	}
	if want.Align != "" {
		e.say(part, "align-items", layout.FlexWord(want.Align))
	}
	if want.Distribute != "" {
		e.say(part, "justify-content", layout.FlexWord(want.Distribute))
	}
	_, parent := e.find(part)
	if want.Width != "" {
		e.size(part, parent, "width", want.Width)
	}
	if want.Height != "" {
		e.size(part, parent, "height", want.Height)
	}
	return c.Check(tokens)
}

// MoveSwitch moves the switch point at one width to another, px; to 0 removes it, and what
// holds below it alone.
func (c *Contract) MoveSwitch(from, to float64) {
	if to == 0 {
		c.Rules = slices.DeleteFunc(c.Rules, func(r Rule) bool { return r.When.Below() == from })
	}
	for i := range c.Rules {
		c.Rules[i].When = c.Rules[i].When.movedSwitch(from, to)
	}
	c.moveWidths(from, to)
	if to == 0 {
		return
	}
	slices.SortStableFunc(c.Rules, func(a, b Rule) int {
		switch {
		case outranks(a.When, b.When):
			return 1
		case outranks(b.When, a.When):
			return -1
		}
		return 0
	})
}

// MoveRange lets rules for a range of the container's width be for another.
func (c *Contract) MoveRange(from, to Range) {
	for i, r := range c.Rules {
		c.Rules[i].When = r.When.inRange(from, &to)
	}
	c.Prune()
}

// DropRange removes the rules for a range of the container's width.
func (c *Contract) DropRange(gone Range) {
	c.Rules = slices.DeleteFunc(c.Rules, func(r Rule) bool { return !r.When.inRange(gone, nil).Equal(r.When) })
	c.Prune()
}

// inRange gives a condition with another range in place of one; without one the term is left out.
func (w When) inRange(from Range, to *Range) When {
	var terms []Term
	for _, t := range w.Terms() {
		if in, ok := t.(Container); ok && in.Name == "" && in.Range == from {
			if to == nil {
				continue
			}
			t = Container{Range: *to}
		}
		terms = append(terms, t)
	}
	return Of(terms...)
}

// moveWidths moves the bounds of what is drawn; where a point goes, what was drawn below it does.
func (c *Contract) moveWidths(from, to float64) {
	least := 0.0
	if to == 0 {
		for _, w := range c.Widths {
			if w.Below == from {
				least = w.From
			}
		}
		c.Widths = slices.DeleteFunc(c.Widths, func(w DrawnWidth) bool { return w.Below == from })
		to = least
	}
	for i := range c.Widths {
		for _, bound := range []*float64{&c.Widths[i].From, &c.Widths[i].Below} {
			if *bound == from {
				*bound = to
			}
		}
	}
	if len(c.Widths) == 1 {
		c.Widths = nil
	}
}

type arranger struct {
	c      *Contract
	at     EditSite
	tokens *token.Set
}

// find gives a part as it is resolved now, and its parent.
func (e *arranger) find(part string) (r, parent *Resolved) {
	root := Resolve(e.c, e.at.Env, e.tokens)
	root.Walk(func(p *Resolved) {
		for _, child := range p.Children {
			if child.Part.ID == part {
				r, parent = child, p
			}
		}
	})
	if root.Part.ID == part {
		r = root
	}
	return r, parent
}

// say sets a value where the case says it now, or below the switch point. An
// initial value is said only where something else would be.
func (e *arranger) say(part, property, value string) {
	r, _ := e.find(part)
	was := r.Values[property]
	when := When{}
	if was.Part == part {
		when = was.When
	}
	if e.at.Below > 0 {
		when = when.WithBelow(e.at.Below)
	}
	if value == "" || value == css.InitialText(property) {
		if value = css.InitialText(property); was.Part != part {
			return
		}
		if when.Always() {
			value = ""
		}
	}
	if was.Part == part && value != "" && css.CanonicalText(property, value, 0) == was.Value {
		return
	}
	if when.Below() > 0 { // what holds above the switch point need not be said below it
		above := Resolve(e.c, e.at.Env.At(when.Below()), e.tokens).Find(part).Values[property]
		if above.Part != part && value == css.InitialText(property) || above.Part == part && css.CanonicalText(property, value, 0) == above.Value {
			value = ""
		}
	}
	e.c.SetValue(part, property, when, value)
}

// kind turns a part into another container and lets its children keep how they
// are sized.
func (e *arranger) kind(part, kind, columns string) {
	r, _ := e.find(part)
	sizes := map[string][2]string{}
	for _, child := range r.Children {
		sizes[child.Part.ID] = [2]string{child.sized(r, "width"), child.sized(r, "height")}
	}
	primitive, props := kind, map[string]string{}
	switch kind {
	case layout.Wrap:
		primitive, props["wrap"] = layout.Row, "yes"
	case layout.Split:
		props["shares"] = cmp.Or(columns, strings.TrimSpace(strings.Repeat("1 ", len(r.Part.Children))))
	case layout.Grid:
		if columns == "" {
			columns = "2"
		}
		props["columns"] = columns
	}
	children := make([]*layout.Node, len(r.Children))
	for i := range children {
		children[i] = &layout.Node{}
	}
	made, err := layout.Compose(primitive, props, children...)
	if err != nil {
		return // kinds were checked
	}
	if kind == layout.Grid && strings.ContainsAny(columns, " (") {
		made.Style["grid-template-columns"] = columns
	}
	inline := ""
	if strings.HasPrefix(r.own("display"), "inline") {
		inline = "inline-"
	}
	e.say(part, "display", inline+made.Style["display"])
	if made.Style["grid-template-columns"] != "" { // every column has a track
		delete(made.Style, "grid-auto-flow")
		delete(made.Style, "grid-auto-columns")
	}
	for _, property := range []string{"flex-direction", "flex-wrap", "grid-template-columns", "grid-auto-flow", "grid-auto-columns"} {
		e.say(part, property, made.Style[property])
	}
	if kind == layout.Overlay {
		e.say(part, "position", "relative")
	}
	for i, child := range r.Children {
		name := child.Part.ID
		if child.own("position") == "absolute" {
			for _, property := range []string{"position", "left", "right", "top", "bottom"} {
				e.say(name, property, "")
			}
		}
		e.say(name, "grid-area", made.Children[i].Style["grid-area"])
	}
	r, _ = e.find(part)
	for _, child := range r.Children {
		how := sizes[child.Part.ID]
		e.size(child.Part.ID, r, "width", how[0])
		e.size(child.Part.ID, r, "height", how[1])
	}
}

// size makes a part fixed, as large as its content, or filling along an axis.
func (e *arranger) size(part string, parent *Resolved, property, how string) {
	r, _ := e.find(part)
	if r.sized(parent, property) == how {
		return
	}
	axis, self := 0, "align-self"
	if property == "height" {
		axis = 1
	}
	along := parent != nil && parent.along() == property
	if parent != nil && property == "width" && parent.along() == "" {
		self = "justify-self"
	}
	switch how {
	case layout.Fixed:
		if _, said := css.Pixels(r.own(property)); !said {
			// Whole px: a box as wide as its content to the last digit breaks lines where a
			// browser rounds.
			e.say(part, property, css.FormatNumber(math.Ceil(e.at.Sizes[part][axis]-0.01))+"px")
		}
		if along {
			e.say(part, "flex", "none")
		}
	case layout.Content:
		e.say(part, property, "")
		if along && r.own("flex") != "" {
			e.say(part, "flex", "0 1 auto")
		}
		if r, parent = e.find(part); parent == nil && property == "width" {
			e.say(part, "display", "inline-"+strings.TrimPrefix(cmp.Or(r.own("display"), "block"), "inline-"))
		} else if parent != nil && r.sized(parent, property) == layout.Fill {
			e.say(part, self, map[string]string{"align-self": "flex-start", "justify-self": "start"}[self])
		}
	case layout.Fill:
		switch {
		case r.own("position") == "absolute": // of the box around it
			e.say(part, property, "100%")
		case along:
			e.say(part, property, "")
			e.say(part, "flex", "1 1 0%")
			if property == "width" {
				e.say(part, "min-width", "0")
			}
		case parent == nil:
			if display := r.own("display"); strings.HasPrefix(display, "inline-") {
				e.say(part, "display", strings.TrimPrefix(display, "inline-"))
			}
			e.say(part, property, "100%")
		case r.Part.Vector() != nil && parent.along() == "": // a cell does not stretch a drawing (CSS Grid 2, 6.2)
			e.say(part, property, "100%")
		default:
			e.say(part, property, "")
			e.say(part, self, "stretch")
		}
	}
	if r, _ := e.find(part); (r.own("width") != "" || r.own("height") != "") && (r.own("padding-inline") != "" || r.own("padding-block") != "" || r.own("border-width") != "") {
		e.say(part, "box-sizing", "border-box")
	}
}
