package design

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// State says how a thing of one revision stands to another.
type State string

const (
	Added   State = "added"
	Removed State = "removed"
	Changed State = "changed"
	Moved   State = "moved" // it stands in another layer, or in another place among its siblings
)

// Change is one thing that differs between two revisions of a document.
type Change struct {
	Place    string // id of the page or family it is in; empty for the document itself
	Kind     string // of the place: page, family or document
	Name     string // of the place, as the later revision has it; the earlier one when it went
	What     string // the layer, variant or picture by name; empty for the place itself
	State    State
	Property string // member of the format that changed: "bounds.width"; empty when all of it came or went
	Before   string
	After    string
}

// Compare lists what differs between two revisions, place by place in the order of the
// later one, what went last; families before pages, on which what they changed shows again. Things are the same by their ids, whatever their names. Of a
// layer that came or went, those within it are not listed.
func Compare(before, after *Document) []Change {
	c := &comparison{}
	c.in("", "document", "")
	c.members("", properties(struct {
		Name string `json:"name"`
	}{before.Name}), properties(struct {
		Name string `json:"name"`
	}{after.Name}))
	old, now := byID(before.Assets, func(a Asset) string { return a.ID }), byID(after.Assets, func(a Asset) string { return a.ID })
	matched(c, old, now, ids(before.Assets, func(a Asset) string { return a.ID }), ids(after.Assets, func(a Asset) string { return a.ID }),
		func(a Asset) string { return "picture " + a.ID }, func(what string, a, b Asset) { c.members(what, properties(a), properties(b)) })

	earlier, later := placesOf(before), placesOf(after)
	for side, list := range [][]place{earlier, later} {
		c.layers[side], c.holders[side] = index(list)
	}
	key := func(p place) string { return p.kind + " " + p.id }
	was, is := byID(earlier, key), byID(later, key)
	for _, p := range later {
		c.in(p.id, p.kind, p.name)
		if old, there := was[key(p)]; there {
			c.place(old, p)
			continue
		}
		c.add(Change{State: Added})
		for _, root := range p.roots {
			c.kept(root, "")
		}
	}
	for _, p := range earlier {
		if _, there := is[key(p)]; !there {
			c.in(p.id, p.kind, p.name)
			c.add(Change{State: Removed})
		}
	}
	return c.changes
}

// place is a page or a family with what it holds.
type place struct {
	id, kind, name string
	own            map[string]string
	variants       []*Variant
	roots          []*Layer
}

func placesOf(d *Document) []place {
	var out []place
	for _, f := range d.Families {
		own := *f
		own.Variants, own.ID = nil, ""
		one := place{id: f.ID, kind: "family", name: f.Name, own: properties(own), variants: f.Variants}
		for _, v := range f.Variants {
			one.roots = append(one.roots, v.Root)
		}
		out = append(out, one)
	}
	for _, p := range d.Pages {
		own := *p
		own.Layers, own.ID = nil, ""
		out = append(out, place{id: p.ID, kind: "page", name: p.Name, own: properties(own), roots: p.Layers})
	}
	return out
}

// standing is where a layer stands.
type standing struct {
	layer  *Layer
	parent string // id of its parent, of its variant, or of its page
}

func index(places []place) (layers map[string]standing, holders map[string]string) {
	layers, holders = map[string]standing{}, map[string]string{}
	for _, p := range places {
		holders[p.id] = p.name
		var walk func(l *Layer, parent string)
		walk = func(l *Layer, parent string) {
			if l == nil {
				return
			}
			layers[l.ID] = standing{l, parent}
			for _, c := range l.Children {
				walk(c, l.ID)
			}
		}
		for i, root := range p.roots {
			parent := p.id
			if p.variants != nil {
				parent = p.variants[i].ID
				holders[parent] = p.name + " " + variantName(p.variants[i])
			}
			walk(root, parent)
		}
	}
	return layers, holders
}

type comparison struct {
	at      Change // the place that changes are in
	layers  [2]map[string]standing
	holders [2]map[string]string // names of pages and variants by id: what a root stands in
	changes []Change
}

func (c *comparison) in(id, kind, name string) { c.at = Change{Place: id, Kind: kind, Name: name} }

func (c *comparison) add(change Change) {
	change.Place, change.Kind, change.Name = c.at.Place, c.at.Kind, c.at.Name
	c.changes = append(c.changes, change)
}

func (c *comparison) place(before, after place) {
	c.members("", before.own, after.own)
	id := func(v *Variant) string { return v.ID }
	matched(c, byID(before.variants, id), byID(after.variants, id), ids(before.variants, id), ids(after.variants, id), variantName, func(what string, a, b *Variant) {
		c.members(what, choices(a), choices(b))
	})
	gone := func(list []*Variant, other []*Variant, root *Layer) bool { // it came or went with its variant
		i := slices.IndexFunc(list, func(v *Variant) bool { return v.Root == root })
		return i >= 0 && !slices.ContainsFunc(other, func(v *Variant) bool { return v.ID == list[i].ID })
	}
	for i, root := range after.roots {
		if gone(after.variants, before.variants, root) {
			c.kept(root, after.inside(i))
		} else {
			c.layer(root, after.inside(i))
		}
	}
	for i, root := range before.roots {
		if !gone(before.variants, after.variants, root) {
			c.went(root, before.inside(i))
		}
	}
	c.order("", rootIDs(before), rootIDs(after))
}

// inside names what a root is in, where that is a variant of several.
func (p place) inside(i int) string {
	if len(p.variants) > 1 {
		return variantName(p.variants[i]) + " › "
	}
	return ""
}

func rootIDs(p place) []string {
	if p.variants != nil {
		return nil // variants have no order that shows
	}
	return ids(p.roots, func(l *Layer) string { return l.ID })
}

// layer compares a layer of the later revision, and those within it, with the same of the earlier.
func (c *comparison) layer(l *Layer, in string) {
	if l == nil {
		return
	}
	now, was := c.layers[1][l.ID], c.layers[0][l.ID]
	what := in + l.Name
	if was.layer == nil {
		c.add(Change{What: what, State: Added, After: c.within(l, 0)})
		for _, child := range l.Children {
			c.kept(child, in)
		}
		return
	}
	if was.parent != now.parent {
		c.add(Change{What: what, State: Moved, Property: "parent", Before: c.named(0, was.parent), After: c.named(1, now.parent)})
	}
	if a, b := own(was.layer), own(l); !bytes.Equal(encoded(a), encoded(b)) {
		c.members(what, properties(a), properties(b))
	}
	id := func(l *Layer) string { return l.ID }
	c.order(what, ids(was.layer.Children, id), ids(l.Children, id))
	for _, child := range l.Children {
		c.layer(child, in)
	}
}

// kept compares the layers that were there before in a part that is new.
func (c *comparison) kept(l *Layer, in string) {
	if l == nil {
		return
	}
	if c.layers[0][l.ID].layer != nil {
		c.layer(l, in)
		return
	}
	for _, child := range l.Children {
		c.kept(child, in)
	}
}

// went lists layers of the earlier revision that the later one does not have.
func (c *comparison) went(l *Layer, in string) {
	if l == nil {
		return
	}
	if c.layers[1][l.ID].layer == nil {
		c.add(Change{What: in + l.Name, State: Removed, Before: c.within(l, 1)})
		return // what stayed of those within is told of where it is now
	}
	for _, child := range l.Children {
		c.went(child, in)
	}
}

// order tells when those that stayed follow each other otherwise.
func (c *comparison) order(what string, before, after []string) {
	stay := func(list, other []string) []string {
		there := byID(other, func(id string) string { return id })
		return slices.DeleteFunc(slices.Clone(list), func(id string) bool { return there[id] == "" })
	}
	if a, b := stay(before, after), stay(after, before); !slices.Equal(a, b) {
		c.add(Change{What: what, State: Moved, Property: "order", Before: c.names(0, a), After: c.names(1, b)})
	}
}

func (c *comparison) names(side int, list []string) string {
	names := make([]string, len(list))
	for i, id := range list {
		names[i] = c.named(side, id)
	}
	return strings.Join(names, ", ")
}

func (c *comparison) named(side int, id string) string {
	if l := c.layers[side][id].layer; l != nil {
		return l.Name
	}
	return c.holders[side][id]
}

// members compares members of two objects, those of the earlier first.
func (c *comparison) members(what string, before, after map[string]string) {
	var names []string
	for name := range before {
		names = append(names, name)
	}
	for name := range after {
		if _, there := before[name]; !there {
			names = append(names, name)
		}
	}
	slices.Sort(names)
	for _, name := range names {
		if before[name] != after[name] {
			c.add(Change{What: what, State: Changed, Property: name, Before: before[name], After: after[name]})
		}
	}
}

// matched compares things of one id and lists those that came or went.
func matched[T any](c *comparison, before, after map[string]T, earlier, later []string, name func(T) string, both func(what string, a, b T)) {
	for _, id := range later {
		if old, there := before[id]; there {
			both(name(after[id]), old, after[id])
		} else {
			c.add(Change{What: name(after[id]), State: Added})
		}
	}
	for _, id := range earlier {
		if _, there := after[id]; !there {
			c.add(Change{What: name(before[id]), State: Removed})
		}
	}
}

func byID[T any](list []T, id func(T) string) map[string]T {
	out := make(map[string]T, len(list))
	for _, one := range list {
		out[id(one)] = one
	}
	return out
}

func ids[T any](list []T, id func(T) string) []string {
	out := make([]string, len(list))
	for i, one := range list {
		out[i] = id(one)
	}
	return out
}

// variantName says a variant by its choices: "size=s state=hover".
func variantName(v *Variant) string {
	var parts []string
	for axis, value := range v.Choices {
		parts = append(parts, axis+"="+value)
	}
	slices.Sort(parts)
	if len(parts) == 0 {
		return v.ID
	}
	return strings.Join(parts, " ")
}

func choices(v *Variant) map[string]string {
	out := map[string]string{}
	for axis, value := range v.Choices {
		out["choices."+axis] = value
	}
	return out
}

// within says how much came or went with a layer: what the other side does not have.
func (c *comparison) within(l *Layer, other int) string {
	n := -1
	l.Walk(func(l *Layer, _, _ float64) {
		if c.layers[other][l.ID].layer == nil {
			n++
		}
	})
	switch n {
	case 0:
		return string(l.Kind)
	case 1:
		return string(l.Kind) + " with 1 layer within"
	}
	return fmt.Sprintf("%s with %d layers within", l.Kind, n)
}

// own is a layer without those within it.
func own(l *Layer) *Layer {
	own := *l
	own.ID, own.Children = "", nil
	return &own
}

func encoded(v any) []byte {
	text, err := json.Marshal(v)
	if err != nil {
		panic(err) // plain data always encodes
	}
	return text
}

// properties gives an object's members, those of objects and lists within it by their way.
func properties(v any) map[string]string {
	var tree any
	if err := json.Unmarshal(encoded(v), &tree); err != nil {
		panic(err)
	}
	out := map[string]string{}
	var walk func(way string, v any)
	walk = func(way string, v any) {
		switch v := v.(type) {
		case map[string]any:
			for name, member := range v {
				walk(strings.TrimPrefix(way+"."+name, "."), member)
			}
		case []any:
			for i, one := range v {
				walk(way+"."+strconv.Itoa(i+1), one)
			}
		case string:
			out[way] = v
		case nil:
		default:
			out[way] = string(encoded(v)) // a number or a truth value
		}
	}
	walk("", tree)
	delete(out, "id") // what a thing is known by does not change
	return out
}
