package draft

import (
	"cmp"
	"maps"
	"reflect"
	"regexp"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/layout"
	"cobrik/core/problem"
)

// navigationWords are words in the names of what holds the links of a site (common practice, no
// source).
var navigationWords = []string{"nav", "navigation", "menu", "bar", "header", "links", "breadcrumb", "breadcrumbs"}

// listed makes siblings of one shape and one role the items of a list: those of a container that
// holds nothing else, or those beside each other in a flow, in a container of their own. What is
// no box by itself stands in an item of its own, and texts in navigation are links. What an item
// holds is no list of its own: a list's items say texts, pictures and the like, no lists.
func listed(root *design.Layer) *design.Layer { return listedIn(root, false, false) }

func listedIn(l *design.Layer, navigation, inItem bool) *design.Layer {
	out := *l
	out.Repeats = l.Repeats && !inItem
	if l.Kind == design.Instance {
		return &out
	}
	navigation = navigation || slices.ContainsFunc(contract.Words(l.Name), func(w string) bool { return slices.Contains(navigationWords, w) })
	children := l.Children
	if !l.Repeats && !inItem && l.Flow != nil && l.Flow.Gap >= 0 {
		if from, to, ok := alikeRun(children); ok && standAlike(l, children[from:to]) {
			if from == 0 && to == len(children) {
				out.Repeats = true
			} else if l.Flow.Distribute == "" || l.Flow.Distribute == "start" {
				children = slices.Concat(children[:from:from], []*design.Layer{grouped(l, children[from:to])}, children[to:])
			}
		}
	}
	out.Children = make([]*design.Layer, len(children))
	var first *design.Layer
	for i, c := range children {
		if out.Repeats {
			if c = item(cloneLayer(c), navigation); i > 0 {
				rename(first, c)
			} else {
				first = c
			}
		}
		out.Children[i] = listedIn(c, navigation, inItem || out.Repeats)
	}
	if out.Repeats {
		settle(&out)
		if linked(&out) {
			return navigationOf(&out)
		}
	}
	return &out
}

// settle puts what a variant, or a use, hides behind the items of a list: it is none of them, and the
// first that is shown is the first.
func settle(list *design.Layer) {
	for _, c := range list.Children {
		if strings.HasSuffix(c.ID, boxedItem) && len(c.Children) == 1 && c.Children[0].Hidden {
			c.Hidden, c.Children[0].Hidden = true, false
		}
	}
	slices.SortStableFunc(list.Children, func(a, b *design.Layer) int { return cmp.Compare(hiddenLast(a), hiddenLast(b)) })
}

// boxedItem is what the id of an item ends with that is a box around what was drawn.
const boxedItem = ".item"

func hiddenLast(l *design.Layer) int {
	if l.Hidden {
		return 1
	}
	return 0
}

// withLists makes lists of what repeats in a family's variants, where all of them have the same.
func withLists(f *design.Family) *design.Family {
	out := *f
	out.Variants = nil
	any := false
	for _, v := range f.Variants {
		read := *v
		read.Root = listed(v.Root)
		out.Variants = append(out.Variants, &read)
		any = any || !slices.Equal(LayerPaths(read.Root), LayerPaths(v.Root)) || repeats(read.Root)
	}
	if !any {
		return f
	}
	var wrong problem.List
	for _, v := range out.Variants[1:] {
		correspond(out.Variants[0].Root, v.Root, v.ID, &wrong)
	}
	if wrong.Failed() {
		return f
	}
	return &out
}

func repeats(l *design.Layer) (out bool) {
	l.Walk(func(c *design.Layer, _, _ float64) { out = out || c.Repeats })
	return out
}

// alikeRun finds the longest run of siblings that are alike, two at least.
func alikeRun(list []*design.Layer) (from, to int, ok bool) {
	for i := range list {
		end := i + 1
		for end < len(list) && alikeItems(list[i], list[end]) {
			end++
		}
		if end-i > to-from && end-i > 1 && hasData(list[i:end]) {
			from, to = i, end
		}
	}
	return from, to, to > from
}

// alikeItems tells whether two layers may be items of one list: one role by their names, and one
// shape.
func alikeItems(a, b *design.Layer) bool { return Role(a) == Role(b) && sameShape(a, b) }

var numbered = regexp.MustCompile(`[\s_.#-]*\d+$`)

// standAlike tells whether the flow alone says how items stand, but for where the first does.
func standAlike(around *design.Layer, items []*design.Layer) bool {
	first := *items[0]
	if first.Place = nil; items[0].Place != nil && around.Children[0] == items[0] {
		return false
	}
	want := layout.LayerStyle(&first, around)
	return !slices.ContainsFunc(items[1:], func(c *design.Layer) bool { return !maps.Equal(layout.LayerStyle(c, around), want) })
}

// Role is what a layer's name says it is for: its name without a number; nothing where it has
// the name that a drawing program gave it, or that of its own text.
func Role(l *design.Layer) string {
	if l.HasDefaultName() || firstText(l) == l.Name {
		return ""
	}
	return strings.ToLower(numbered.ReplaceAllString(l.Name, ""))
}

func firstText(l *design.Layer) (out string) {
	l.Walk(func(c *design.Layer, _, _ float64) {
		if out == "" && c.Text != nil {
			out = c.Text.Content
		}
	})
	return out
}

// hasData tells whether there is anything in items that may be another for each: a text, a
// picture, a link, or uses that are not all alike or leave something to whoever uses them.
func hasData(items []*design.Layer) bool {
	data := false
	uses := make([][]*design.InstanceContent, len(items))
	for i, item := range items {
		var walk func(l *design.Layer)
		walk = func(l *design.Layer) {
			data = data || l.Kind == design.Text || l.Image != nil || l.Link != ""
			if l.Kind == design.Instance { // what it holds is its own affair
				data = data || len(l.Instance.Exposes) > 0
				uses[i] = append(uses[i], l.Instance)
				return
			}
			for _, c := range l.Children {
				walk(c)
			}
		}
		walk(item)
	}
	return data || slices.ContainsFunc(uses, func(of []*design.InstanceContent) bool { return !reflect.DeepEqual(of, uses[0]) })
}

// sameShape tells whether two layers look alike but for what they say.
func sameShape(a, b *design.Layer) bool {
	if a.Kind != b.Kind || a.Repeats || b.Repeats || (a.Flow == nil) != (b.Flow == nil) || len(a.Children) != len(b.Children) || a.Fill != b.Fill || a.Stroke.Widths() != b.Stroke.Widths() ||
		(a.Link == "") != (b.Link == "") || a.Pinned() || b.Pinned() {
		return false
	}
	switch a.Kind {
	case design.Text:
		return a.Text.FontFamily == b.Text.FontFamily && a.Text.FontSize == b.Text.FontSize && a.Text.FontWeight == b.Text.FontWeight
	case design.Instance:
		return a.Instance.Family == b.Instance.Family
	case design.Vector:
		return a.Bounds.Width == b.Bounds.Width && a.Bounds.Height == b.Bounds.Height
	}
	if a.Flow != nil && (a.Flow.Direction != b.Flow.Direction || a.Flow.Gap != b.Flow.Gap || !slices.Equal(a.Flow.Padding, b.Flow.Padding)) {
		return false
	}
	for i := range a.Children {
		if !sameShape(a.Children[i], b.Children[i]) {
			return false
		}
	}
	return true
}

// grouped puts items that stand beside other things into a container of their own, which lays
// them out as the one around did.
func grouped(around *design.Layer, items []*design.Layer) *design.Layer {
	flow := *around.Flow
	flow.Padding = nil
	name := "Items"
	if r := Role(items[0]); r != "" {
		name = Plural(r)
	}
	b := items[0].Bounds
	right, bottom := b.X+b.Width, b.Y+b.Height
	for _, c := range items {
		if c.Hidden {
			continue
		}
		b.X, b.Y = min(b.X, c.Bounds.X), min(b.Y, c.Bounds.Y)
		right, bottom = max(right, c.Bounds.X+c.Bounds.Width), max(bottom, c.Bounds.Y+c.Bounds.Height)
	}
	b.Width, b.Height = right-b.X, bottom-b.Y
	out := &design.Layer{ID: items[0].ID + ".list", Name: name, Kind: design.Group, Bounds: b, Flow: &flow, Repeats: true, Place: items[0].Place, Sizing: design.Sizing{Width: "content", Height: "content"}}
	for i, c := range items {
		moved := *c
		if i == 0 {
			moved.Place = nil
		}
		moved.Bounds.X -= b.X
		moved.Bounds.Y -= b.Y
		out.Children = append(out.Children, &moved)
	}
	return out
}

// Plural is a name for several of what a word names.
func Plural(word string) string {
	if strings.HasSuffix(word, "s") {
		return word
	}
	return word + "s"
}

// item makes a layer an item of a list: a box of its own, with what leads somewhere, or is no
// box, inside. A text that has its own words for a name is the item's label.
func item(l *design.Layer, navigation bool) *design.Layer {
	inner := *l
	if l.Kind == design.Text && Role(l) == "" {
		inner.Name = "Label"
		if navigation && inner.Link == "" {
			inner.Link = "#"
		}
	}
	if Role(l) != "" {
		inner.Name = numbered.ReplaceAllString(l.Name, "")
	}
	box := (l.Kind == design.Box || l.Kind == design.Group) && l.Link == ""
	if box || inner.Kind == design.Text && inner.Link == "" {
		if box {
			inner.Name = "Item"
		}
		return &inner
	}
	sizing := layout.LayerSizing(l)
	out := &design.Layer{ID: l.ID + boxedItem, Name: "Item", Kind: design.Group, Bounds: l.Bounds, Place: l.Place, Hidden: l.Hidden,
		Flow: &design.Flow{Direction: "row", Align: "start"}, Sizing: design.Sizing{Width: "content", Height: "content"}}
	if sizing.Width == "fill" {
		out.Sizing.Width = "fill"
	}
	inner.Bounds.X, inner.Bounds.Y, inner.Place, inner.Hidden = 0, 0, nil, false
	out.Children = []*design.Layer{&inner}
	return out
}

// linked tells whether the items of a list are links.
func linked(l *design.Layer) bool {
	return slices.ContainsFunc(l.Children, func(c *design.Layer) bool { return len(c.Children) > 0 && c.Children[0].Link != "" })
}

// navigationOf puts a list of links into what names it as navigation.
func navigationOf(list *design.Layer) *design.Layer {
	if unnamed(list) {
		list.Name = "Links"
	}
	out := &design.Layer{ID: list.ID + ".nav", Name: "Navigation", Kind: design.Group, Bounds: list.Bounds, Place: list.Place, Hidden: list.Hidden,
		Flow: &design.Flow{Direction: "row", Align: "start"}, Sizing: list.Sizing}
	inner := *list
	inner.Bounds.X, inner.Bounds.Y, inner.Place, inner.Hidden = 0, 0, nil, false
	out.Children = []*design.Layer{&inner}
	return out
}

// unnamed tells whether a list has no name of its own: one made for it, or after its first item.
func unnamed(list *design.Layer) bool {
	first := strings.Join(contract.Words(firstText(list)), " ")
	return list.Name == "Items" || list.HasDefaultName() || layout.NamedByReading(list.Name) || first != "" && strings.HasPrefix(strings.Join(contract.Words(list.Name), " "), first)
}

// itemsOf lists the layers of a list's items that are there.
func itemsOf(list *design.Layer) (out []*design.Layer) {
	for _, c := range list.Children {
		if !c.Hidden {
			out = append(out, c)
		}
	}
	return out
}

// under gives the rest of a path under another; false when it is not under it.
func under(path, above string) (string, bool) {
	switch above {
	case path:
		return "", true
	case "":
		return path, true
	}
	return strings.CutPrefix(path, above+"/")
}

// repeatedFor finds the part that is there for each item of a list; nil for none.
func repeatedFor(c *contract.Contract, list string) (out *contract.Part) {
	c.Walk(func(p, _ *contract.Part) {
		if p.Repeat == list {
			out = p
		}
	})
	return out
}

// drawnItems reads what each item of a list's layer says of the props of the list's items.
func drawnItems(c *contract.Contract, list contract.Prop, layer *design.Layer) contract.Value {
	out := contract.ListValue{}
	if layer == nil {
		return out
	}
	repeated := repeatedFor(c, list.ID)
	if repeated == nil {
		return out
	}
	items := itemsOf(layer)
	for _, l := range items {
		values := contract.Values{}
		(&contract.Contract{Root: repeated}).Walk(func(p, _ *contract.Part) {
			path, ok := under(p.Layer, repeated.Layer)
			if !ok {
				return
			}
			at, _ := LayerAt(l, path)
			for _, q := range list.Type.(contract.List).Items {
				if q.Part == p.ID && (p.Use() == nil || p.ShownWhen.Prop(list.ID+"."+q.ID) != nil) {
					if v := drawnValue(q, at); v != nil {
						values[q.ID] = v
					}
				}
			}
			if u := p.Use(); u != nil && u.Of() != nil {
				drawn := GivenBy(at, u.Of())
				for id, g := range u.Given {
					if key, own := strings.CutPrefix(g.Prop, list.ID+"."); own && drawn[id] != nil {
						values[key] = drawn[id]
					}
				}
			}
		})
		out = append(out, values)
	}
	return out
}

// ItemLayer finds the layer that a resolved part stands for, and its parent: that of its item,
// where it is there for each item of a list. Nil when it is not drawn.
func ItemLayer(root *design.Layer, c *contract.Contract, r *contract.Resolved) (l, parent *design.Layer) {
	first := !slices.ContainsFunc(r.Item, func(i int) bool { return i > 0 })
	if first {
		return LayerOf(root, r.Part)
	}
	var repeats []*contract.Part
	var walk func(p *contract.Part, around []*contract.Part)
	walk = func(p *contract.Part, around []*contract.Part) {
		if p.Repeat != "" {
			around = append(around[:len(around):len(around)], p)
		}
		if p == r.Part {
			repeats = around
		}
		for _, child := range p.Children {
			walk(child, around)
		}
	}
	walk(c.Root, nil)
	at, above := root, ""
	for i, p := range repeats {
		path, ok := under(p.Layer, above)
		if !ok || i >= len(r.Item) {
			return nil, nil
		}
		_, list := LayerAt(at, path)
		if list == nil || r.Item[i] >= len(itemsOf(list)) {
			return nil, nil
		}
		at, parent, above = itemsOf(list)[r.Item[i]], list, p.Layer
	}
	path, ok := under(r.Part.Layer, above)
	if !ok {
		return nil, nil
	}
	if path == "" {
		return at, parent
	}
	return LayerAt(at, path)
}
