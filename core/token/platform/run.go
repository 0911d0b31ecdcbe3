package platform

import (
	"path"
	"slices"
	"strings"
	"sync"

	"cobrik/core/problem"
	"cobrik/core/token"
)

// run is a platform's items for one theme, after all transforms.
type run struct {
	once     sync.Once
	declared *declarations // as a style sheet has it; computed once, and not changed

	platform *Platform
	theme    token.Theme
	standard token.Theme // the first that is written
	items    []Item
	byKey    map[string]*Item
}

// start makes a set's items, before any transform.
func start(p *Platform, set *token.Set) []Item {
	var items []Item
	for _, t := range set.All() {
		if t.Content != nil {
			items = append(items, first(p, t)...)
		}
	}
	return items
}

// first makes a token's items. Typography that stays whole has its letter
// spacing beside it: CSS's font has no room for it (CSS Fonts 4, 2.7).
func first(p *Platform, t *token.Token) []Item {
	item := Item{Token: t, Words: strings.Split(t.Path, "."), Name: t.Path, Value: t.Content}
	if p.References == Flatten {
		item.Value = t.Content.Flat()
	}
	items := []Item{item}
	if t.Type == "typography" && !slices.Contains(p.Transforms, "parts-typography") && !slices.Contains(p.Transforms, "parts-all") {
		for _, part := range apart(item, item.Value, "", "") {
			if part.Part == "letterSpacing" {
				part.beside = true
				part.Name += ".letterSpacing"
				items = append(items, part)
			}
		}
	}
	return items
}

func perform(p *Platform, t Transform, items []Item) []Item {
	var out []Item
	for _, item := range items {
		out = append(out, t.apply(p, item)...)
	}
	return out
}

func execute(p *Platform, theme token.Theme, set *token.Set) (*run, problem.List) {
	r := &run{platform: p, theme: theme, items: start(p, set), byKey: map[string]*Item{}}
	for _, id := range p.Transforms {
		if t, ok := transformNamed(id); ok {
			r.items = perform(p, t, r.items)
		}
	}
	for i := range r.items {
		item := &r.items[i]
		r.byKey[key(item.Token.Path, item.Part)] = item
	}
	var found problem.List
	for _, o := range p.Outputs {
		found = append(found, r.sameNames(o)...)
	}
	return r, found
}

// sameNames lists tokens that would have one name in a file.
func (r *run) sameNames(o Output) problem.List {
	var found problem.List
	f := formats[o.Format]
	if f.paths {
		return nil
	}
	names := make(map[string]*Item, len(r.items))
	for i := range r.items {
		item := &r.items[i]
		name := item.Name
		if f.name != nil {
			name = f.name(name)
		}
		if other := names[name]; other != nil {
			found.Errorf("platform-same-name", "", "rename one of them, or choose another naming", "on the platform %s, %s and %s would both be named %s",
				r.platform.Name, other.Token.Path, item.Token.Path, name)
			continue
		}
		names[name] = item
	}
	return found
}

// referred finds the item an alias points at; nil when the platform has none.
func (r *run) referred(alias string) *Item {
	if !strings.Contains(alias, parting) {
		alias = key(alias, "")
	}
	return r.byKey[alias]
}

// whole gives the item that an item as a whole points at, or nil.
func (r *run) whole(item Item) *Item {
	if item.Value.Alias == "" {
		return nil
	}
	return r.referred(item.Value.Alias)
}

// ordered puts what is referred to before what refers to it, else keeps order.
func (r *run) ordered() []Item {
	out := make([]Item, 0, len(r.items))
	done := map[*Item]bool{}
	var put func(item *Item)
	put = func(item *Item) {
		if item == nil || done[item] {
			return
		}
		done[item] = true
		aliases(item.Value, func(alias string) { put(r.referred(alias)) })
		out = append(out, *item)
	}
	for i := range r.items {
		put(&r.items[i])
	}
	return out
}

// aliases calls back for every reference a value is written with.
func aliases(v *token.Value, found func(alias string)) {
	if v.Alias != "" {
		found(v.Alias)
	}
	if v.To != nil {
		aliases(v.To, found) // written out where the platform cannot refer
	}
	for _, p := range v.Parts {
		aliases(p.Value, found)
	}
	for _, item := range v.Items {
		aliases(item, found)
	}
}

// Build writes a platform's files for themes, the default one first. Where a
// format can hold several themes in a file it does; else each further theme has
// a file of its own. The same tokens give the same bytes.
func Build(p *Platform, library *token.Library, themes []token.Theme) ([]token.File, problem.List) {
	found := p.Check()
	if found.Failed() {
		return nil, found
	}
	var runs []*run
	for _, theme := range themes {
		set, bad := library.Set(theme)
		if bad.Failed() {
			return nil, bad
		}
		r, bad := execute(p, theme, set)
		r.standard = themes[0]
		found = append(found, bad...)
		runs = append(runs, r)
	}
	if found.Failed() {
		return nil, dedupe(found)
	}
	var files []token.File
	for _, o := range p.Outputs {
		f := formats[o.Format]
		if f.themes != nil {
			files = append(files, token.File{Name: o.Path, Text: []byte(f.themes(runs, library.Modifiers()))})
			continue
		}
		for i, r := range runs {
			name := o.Path
			if i > 0 {
				name = strings.TrimSuffix(name, path.Ext(name)) + "." + suffix(r.theme, runs[0].theme) + path.Ext(name)
			}
			files = append(files, token.File{Name: name, Text: []byte(f.one(r))})
		}
	}
	return files, found
}

func dedupe(found problem.List) problem.List {
	var out problem.List
	for _, p := range found {
		if !slices.Contains(out, p) {
			out = append(out, p)
		}
	}
	return out
}

// suffix names a theme by the choices in which it is not the default.
func suffix(theme, standard token.Theme) string {
	var names []string
	for i, c := range theme {
		if i >= len(standard) || standard[i] != c {
			names = append(names, kebab([]string{c.Context}))
		}
	}
	return strings.Join(names, "-")
}

type format struct {
	paths  bool                                                 // it writes paths, not names
	name   func(string) string                                  // how it writes a name; nil for as it is
	themes func(runs []*run, modifiers []token.Modifier) string // all themes in one file
	one    func(r *run) string                                  // one theme a file
}

var formats = map[string]format{
	"css":         {name: property, themes: writeCSS},
	"sass-map":    {name: variable, one: writeSass},
	"typescript":  {name: identifier, one: writeTypeScript},
	"json-flat":   {one: writeFlatJSON},
	"json-nested": {paths: true, one: writeNestedJSON},
	"swift":       {name: identifier, one: writeSwift},
	"android":     {name: resource, one: writeAndroid},
	"kotlin":      {name: identifier, one: writeKotlin},
}

// FormatIDs lists the formats.
func FormatIDs() []string {
	return []string{"css", "sass-map", "typescript", "json-flat", "json-nested", "swift", "android", "kotlin"}
}

// Step is one transform's effect on a token.
type Step struct {
	Transform string   `json:"transform"`
	About     string   `json:"about"`
	Before    []string `json:"before" doc:"Name and value before it, a line each"`
	After     []string `json:"after" doc:"Name and value after it; a composite taken apart has several"`
	Changed   bool     `json:"changed"`
}

// Trace shows what each of a platform's transforms does to one token.
func Trace(p *Platform, t *token.Token) []Step {
	if t.Content == nil {
		return nil
	}
	items := first(p, t)
	var steps []Step
	for _, id := range p.Transforms {
		transform, ok := transformNamed(id)
		if !ok {
			continue
		}
		before := lines(items)
		items = perform(p, transform, items)
		after := lines(items)
		steps = append(steps, Step{Transform: id, About: transform.About, Before: before, After: after, Changed: !slices.Equal(before, after)})
	}
	return steps
}

func lines(items []Item) []string {
	out := make([]string, len(items))
	for i, item := range items {
		out[i] = item.Name + ": " + token.Writer{}.CSS(item.Value)
		if path, _, _ := strings.Cut(item.Value.Alias, parting); path != "" {
			out[i] += ", by reference to " + path
		}
	}
	return out
}

// header is the first line of every file that can hold a comment.
const header = "Written by Cobrik from design tokens. Change the tokens, not this file."
