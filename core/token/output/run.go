package output

import (
	"path"
	"slices"
	"strings"
	"sync"

	"cobrik/core/problem"
	"cobrik/core/token"
)

// run is an output's items for one theme, after all steps.
type run struct {
	once     sync.Once
	declared *declarations // as a style sheet has it; computed once, and not changed

	output *Output
	set    *token.Set
	theme  token.Theme
	called string // by what the theme is told from the first; empty for the first
	items  []item
	byKey  map[string]*item
}

// execute takes a set's tokens through an output's steps.
func execute(o *Output, theme token.Theme, set *token.Set) *run {
	r := &run{output: o, set: set, theme: theme, items: start(o, set), byKey: map[string]*item{}}
	for _, s := range o.steps() {
		r.items = s.all(r.items)
	}
	for i := range r.items {
		one := &r.items[i]
		r.byKey[key(one.token.Path, one.part)] = one
	}
	return r
}

// start makes items of the tokens of an output's groups. A reference to a token that is
// not written is followed to one that is, or to the value.
func start(o *Output, set *token.Set) []item {
	var items []item
	written := map[string]bool{}
	for _, t := range set.All() {
		if t.Content != nil && o.holds(t.Path) {
			written[t.Path] = true
			items = append(items, item{token: t, words: strings.Split(t.Path, "."), value: t.Content})
		}
	}
	if len(o.Only)+len(o.Without) > 0 {
		for i := range items {
			items[i].value = reaching(items[i].value, written)
		}
	}
	return items
}

// holds tells whether a token is of the output's groups.
func (o *Output) holds(path string) bool {
	within := func(group string) bool { return path == group || strings.HasPrefix(path, group+".") }
	if len(o.Only) > 0 {
		return slices.ContainsFunc(o.Only, within)
	}
	return !slices.ContainsFunc(o.Without, within)
}

// reaching gives a value whose references are to written tokens alone.
func reaching(v *token.Value, written map[string]bool) *token.Value {
	for v.To != nil {
		if written[v.Alias] {
			return token.Reference(v.Type, v.Alias, reaching(v.End(), written))
		}
		v = v.To
	}
	out := *v
	out.Parts, out.Items = nil, nil
	for _, p := range v.Parts {
		out.Parts = append(out.Parts, token.Part{Name: p.Name, Value: reaching(p.Value, written)})
	}
	for _, i := range v.Items {
		out.Items = append(out.Items, reaching(i, written))
	}
	return &out
}

// sameNames lists names that several tokens would have in the file, once each.
func (r *run) sameNames() problem.List {
	paths := map[string][]string{}
	var clashes []string
	for i := range r.items {
		one := &r.items[i]
		name := r.writer().name(one.name)
		if paths[name] = append(paths[name], one.path()); len(paths[name]) == 2 {
			clashes = append(clashes, name)
		}
	}
	var found problem.List
	for _, name := range clashes {
		list := paths[name]
		found.Errorf("output-same-name", "", "rename one of them, or join names another way", "%d tokens would be called %s in %s: %s.",
			len(list), name, r.output.File, strings.Join(list[:len(list)-1], ", ")+" and "+list[len(list)-1])
	}
	return found
}

// path names an item: its token's path, and the part's after it.
func (i *item) path() string {
	if i.part == "" {
		return i.token.Path
	}
	return i.token.Path + " (" + i.part + ")"
}

func (r *run) writer() writer { return languageOf(r.output.Language).writer }

// referred finds the item an alias points at; nil when the output has none.
func (r *run) referred(alias string) *item {
	if !strings.Contains(alias, parting) {
		alias = key(alias, "")
	}
	return r.byKey[alias]
}

// whole gives the item that an item as a whole points at, or nil.
func (r *run) whole(i item) *item {
	if i.value.Alias == "" {
		return nil
	}
	return r.referred(i.value.Alias)
}

// ordered puts what is referred to before what refers to it, else keeps order.
func (r *run) ordered() []item {
	out := make([]item, 0, len(r.items))
	done := map[*item]bool{}
	var put func(i *item)
	put = func(i *item) {
		if i == nil || done[i] {
			return
		}
		done[i] = true
		aliases(i.value, func(alias string) { put(r.referred(alias)) })
		out = append(out, *i)
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
		aliases(v.To, found) // written out where the language cannot refer
	}
	for _, p := range v.Parts {
		aliases(p.Value, found)
	}
	for _, i := range v.Items {
		aliases(i, found)
	}
}

// Build writes an output for themes, the default one first, in one file or a file each.
// Nothing is written while any problem is an error. The same tokens give the same bytes.
func Build(o *Output, library *token.Library, themes []token.Theme) ([]File, problem.List) {
	found := o.Check()
	if found.Failed() {
		return nil, found
	}
	var runs []*run
	for i, theme := range themes {
		set, bad := library.Set(theme)
		if bad.Failed() {
			return nil, bad
		}
		r := execute(o, theme, set)
		if i > 0 {
			r.called = called(theme, themes)
		}
		found = append(found, r.sameNames()...)
		runs = append(runs, r)
	}
	found = append(found, o.emptyGroups(runs)...)
	if found = once(found); found.Failed() {
		return nil, found
	}
	w := languageOf(o.Language).writer
	if o.wants("themes") == "together" {
		f := newFile(o.File)
		w.together(f, runs, library.Modifiers())
		return []File{f.done()}, found
	}
	var files []File
	for _, r := range runs {
		f := newFile(o.fileOf(r.called))
		w.apart(f, r)
		files = append(files, f.done())
	}
	return files, found
}

// fileOf names the file of a further theme: tokens.dusk.css.
func (o *Output) fileOf(theme string) string {
	if theme == "" {
		return o.File
	}
	end := path.Ext(o.File)
	return strings.TrimSuffix(o.File, end) + "." + theme + end
}

// emptyGroups warns of groups that hold nothing to write or to leave out.
func (o *Output) emptyGroups(runs []*run) problem.List {
	var found problem.List
	for _, group := range slices.Concat(o.Only, o.Without) {
		one := Output{Only: []string{group}}
		if !slices.ContainsFunc(runs, func(r *run) bool {
			return slices.ContainsFunc(r.set.All(), func(t *token.Token) bool { return one.holds(t.Path) })
		}) {
			found.Warnf("output-group", "", "check its spelling", "No token is in the group %s.", group)
		}
	}
	return found
}

func once(found problem.List) problem.List {
	var out problem.List
	for _, p := range found {
		if !slices.Contains(out, p) {
			out = append(out, p)
		}
	}
	return out
}

// called names a theme by the contexts in which it is not the default; with their
// modifiers, where two themes would be named alike.
func called(theme token.Theme, themes []token.Theme) string {
	short := func(t token.Theme) string { return differing(t, themes[0], false) }
	for _, other := range themes[1:] {
		if !slices.Equal(other, theme) && short(other) == short(theme) {
			return differing(theme, themes[0], true)
		}
	}
	return short(theme)
}

func differing(theme, standard token.Theme, modifiers bool) string {
	var names []string
	for i, c := range theme {
		if i < len(standard) && standard[i] == c {
			continue
		}
		if modifiers {
			names = append(names, c.Modifier)
		}
		names = append(names, c.Context)
	}
	return kebab(names)
}

// inFull names a theme among all: its context, where there is one modifier alone.
func inFull(theme token.Theme) string {
	if len(theme) == 1 {
		return theme[0].Context
	}
	return theme.String()
}
