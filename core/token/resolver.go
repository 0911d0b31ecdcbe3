package token

import (
	"path"
	"regexp"
	"slices"
	"strings"

	"cobrik/core/jsontree"
	"cobrik/core/problem"
)

// resolver is a resolver document (Resolver Module 2025.10), read.
type resolver struct {
	source    *source
	modifiers []*modifier // in resolution order
	order     []step
	before    []*source // token files it does not name and that come before it: merged first
	after     []*source // those that come after it: merged last
}

// layer is one source of a set or context: an object of tokens.
type layer struct {
	source *source
	node   *jsontree.Node
	path   string // of the node in its file, when it stands deeper
}

type modifier struct {
	name, description, standard string
	contexts                    []*context
	media                       map[string]string
}

type context struct {
	name   string
	layers []layer
}

// step is one entry of the resolution order: a set, or a modifier.
type step struct {
	set      []layer
	modifier *modifier
}

func (s step) layers(theme Theme) []layer {
	if s.modifier == nil {
		return s.set
	}
	for _, c := range theme {
		if c.Modifier == s.modifier.name {
			if found := s.modifier.context(c.Context); found != nil {
				return found.layers
			}
		}
	}
	return nil
}

// combinations counts the themes, as far as the bound of what is listed.
func (r *resolver) combinations() int {
	n := 1
	for _, m := range r.modifiers {
		if n *= max(1, len(m.contexts)); n > 1_000_000 {
			break
		}
	}
	return n
}

func (m *modifier) context(name string) *context {
	for _, c := range m.contexts {
		if c.name == name {
			return c
		}
	}
	return nil
}

func (m *modifier) names() []string {
	names := make([]string, len(m.contexts))
	for i, c := range m.contexts {
		names[i] = c.name
	}
	return names
}

type resolverReader struct {
	*reports
	source *source
	files  []*source
	used   map[*source]bool
	active []string // sets being read, for circles
}

// readResolver reads a resolver document that stands after the first so many of
// the token files.
func readResolver(r *reports, s *source, files []*source, earlier int) *resolver {
	rr := &resolverReader{reports: r, source: s, files: files, used: map[*source]bool{}}
	out := &resolver{source: s}
	if v := s.root.Get("version"); v == nil || v.Text != "2025.10" {
		at := s.root
		if v != nil {
			at = v
		}
		rr.errorf("resolver-version", s, at, "/version", `write "version": "2025.10"`, "the resolver document names no version that is read here")
	}
	order := s.root.Get("resolutionOrder")
	if order.Kind != jsontree.Array {
		rr.bad(order, "/resolutionOrder", "list the sets and modifiers", "resolutionOrder is a list")
		return out
	}
	rr.sets()
	inline := map[string]bool{}
	for i, n := range order.Children {
		if name := n.Get("name"); n.Get("$ref") == nil && name != nil {
			if inline[name.Text] {
				rr.bad(name, pointerAt("/resolutionOrder", i)+"/name", "give each its own name", "two entries of the order are named %q", name.Text)
			}
			inline[name.Text] = true
		}
		if st, ok := rr.step(n, pointerAt("/resolutionOrder", i)); ok {
			out.order = append(out.order, st)
			if m := st.modifier; m != nil {
				if slices.ContainsFunc(out.modifiers, func(o *modifier) bool { return o.name == m.name }) {
					rr.bad(n, pointerAt("/resolutionOrder", i), "name each once", "the modifier %s stands twice in the order", m.name)
					continue
				}
				out.modifiers = append(out.modifiers, m)
			}
		}
	}
	for i, f := range files {
		switch {
		case rr.used[f]:
		case i < earlier:
			out.before = append(out.before, f)
		default:
			out.after = append(out.after, f)
		}
	}
	return out
}

func (r *resolverReader) bad(n *jsontree.Node, pointer, fix, format string, args ...any) {
	r.errorf("resolver", r.source, n, pointer, fix, format, args...)
}

func pointerAt(base string, i int) string {
	return base + "/" + jsontree.NewNumber(float64(i)).Text
}

// sets looks at every set, also those that the order does not name.
func (r *resolverReader) sets() {
	for _, set := range children(r.source.root.Get("sets")) {
		pointer := "/sets/" + problem.Token(set.Name)
		if sources := set.Get("sources"); sources == nil || sources.Kind == jsontree.Array && len(sources.Children) == 0 {
			r.noSources(set.Name, set, pointer)
		}
	}
}

func (r *resolverReader) noSources(name string, at *jsontree.Node, pointer string) {
	r.bad(at, pointer, `write "sources": [{"$ref": "file.json"}]`, "the set %s has no sources", name)
}

// step reads one entry of the order: a reference to a set or modifier, or one
// written in place.
func (r *resolverReader) step(n *jsontree.Node, pointer string) (step, bool) {
	if ref := n.Get("$ref"); ref != nil {
		kind, name, ok := r.local(ref.Text)
		switch {
		case ok && kind == "sets":
			return step{set: r.set(name, ref, pointer)}, true
		case ok && kind == "modifiers":
			pointer = "/modifiers/" + problem.Token(name)
			if m := r.source.root.Get("modifiers").Get(name); m != nil {
				return step{modifier: r.modifier(name, m, pointer)}, true
			}
			r.bad(ref, pointer, "use one of "+strings.Join(memberNames(r.source.root.Get("modifiers")), ", "), "there is no modifier %q", name)
			return step{}, false
		}
		r.bad(ref, pointer, `write "#/sets/name" or "#/modifiers/name"`, "the order names sets and modifiers, found %s", ref.Short())
		return step{}, false
	}
	name, kind := n.Get("name"), n.Get("type")
	switch {
	case name == nil || kind == nil:
	case kind.Text == "set":
		if sources := n.Get("sources"); sources != nil && len(sources.Children) == 0 {
			r.noSources(name.Text, sources, pointer+"/sources")
		}
		return step{set: r.layers(n.Get("sources"), n, pointer+"/sources")}, true
	case kind.Text == "modifier":
		return step{modifier: r.modifier(name.Text, n, pointer)}, true
	}
	r.bad(n, pointer, `write {"$ref": "#/sets/name"}, or name, type and sources`, "an entry of the order is a set or a modifier")
	return step{}, false
}

// local reads "#/sets/name".
func (r *resolverReader) local(ref string) (kind, name string, ok bool) {
	pointer, ok := strings.CutPrefix(ref, "#")
	steps := jsontree.Steps(pointer)
	if !ok || len(steps) != 2 {
		return "", "", false
	}
	return steps[0], steps[1], true
}

func memberNames(n *jsontree.Node) []string {
	var names []string
	if n != nil {
		for _, c := range n.Children {
			names = append(names, c.Name)
		}
	}
	return names
}

func (r *resolverReader) set(name string, at *jsontree.Node, pointer string) []layer {
	n := r.source.root.Get("sets").Get(name)
	if n == nil {
		r.bad(at, pointer, "use one of "+strings.Join(memberNames(r.source.root.Get("sets")), ", "), "there is no set %q", name)
		return nil
	}
	if slices.Contains(r.active, name) {
		r.bad(at, pointer, "take one out", "sets hold each other in a circle: %s", strings.Join(append(r.active, name), " → "))
		return nil
	}
	r.active = append(r.active, name)
	defer func() { r.active = r.active[:len(r.active)-1] }()
	return r.layers(n.Get("sources"), n, "/sets/"+problem.Token(name)+"/sources")
}

// layers reads a list of sources: files, sets, or tokens written in place.
func (r *resolverReader) layers(list, holder *jsontree.Node, pointer string) []layer {
	if list == nil || list.Kind != jsontree.Array {
		if list == nil {
			list = holder
		}
		r.bad(list, pointer, `write [{"$ref": "file.json"}]`, "a list of sources was expected")
		return nil
	}
	var out []layer
	for i, n := range list.Children {
		at := pointerAt(pointer, i)
		ref := n.Get("$ref")
		if ref == nil {
			if n.Kind != jsontree.Object {
				r.bad(n, at, `write {"$ref": "file.json"}, or tokens`, "a source is an object, found %s", n.Kind)
				continue
			}
			out = append(out, layer{r.source, n, strings.ReplaceAll(strings.TrimPrefix(at, "/"), "/", ".")})
			continue
		}
		file, fragment, _ := strings.Cut(ref.Text, "#")
		if file == "" {
			if kind, name, ok := r.local(ref.Text); ok && kind == "sets" {
				out = append(out, r.set(name, ref, at)...)
				continue
			}
			r.bad(ref, at, `write "#/sets/name" or a file's name`, "a source is a file or a set, found %s", ref.Short())
			continue
		}
		if strings.Contains(file, "://") {
			r.bad(ref, at, "keep a copy beside the resolver document", "%s is an address; nothing is fetched", ref.Short())
			continue
		}
		s := named(r.files, r.source.name, file)
		if s == nil {
			r.bad(ref, at, "add the file, or check its name", "the file %s is not there", file)
			continue
		}
		r.used[s] = true
		node := s.root.At(fragment)
		if node == nil {
			r.bad(ref, at, "check the pointer", "%s leads nowhere", ref.Short())
			continue
		}
		out = append(out, layer{s, node, strings.Join(jsontree.Steps(fragment), ".")})
	}
	return out
}

// modifier reads a modifier's contexts. The media query under which a context
// holds unasked is our extension, {"cobrik": {"media": {"dusk": "(…)"}}}; a
// context named dark or light has the user's colour scheme without it.
func (r *resolverReader) modifier(name string, n *jsontree.Node, pointer string) *modifier {
	m := &modifier{name: name, media: map[string]string{}}
	if d := n.Get("description"); d != nil {
		m.description = d.Text
	}
	contexts := n.Get("contexts")
	if contexts == nil || contexts.Kind != jsontree.Object || len(contexts.Children) == 0 {
		r.bad(n, pointer+"/contexts", `write {"contexts": {"name": [sources]}}`, "the modifier %s has no contexts", name)
		return m
	}
	for _, c := range contexts.Children {
		m.contexts = append(m.contexts, &context{c.Name, r.layers(c, c, pointer+"/contexts/"+problem.Token(c.Name))})
		if c.Name == "dark" || c.Name == "light" {
			m.media[c.Name] = "(prefers-color-scheme: " + c.Name + ")"
		}
	}
	if len(m.contexts) == 1 {
		r.warnf("resolver", r.source, contexts, pointer+"/contexts", "add another context, or make it a set", "the modifier %s has only one context", name)
	}
	for _, q := range children(n.At("/$extensions/cobrik/media")) {
		if m.context(q.Name) == nil {
			r.bad(q, pointer+"/$extensions/cobrik/media", "use one of "+strings.Join(m.names(), ", "), "the modifier %s has no context %q", name, q.Name)
			continue
		}
		if q.Kind != jsontree.String || !mediaForm.MatchString(q.Text) {
			r.bad(q, pointer+"/$extensions/cobrik/media", `write a media query, "(prefers-color-scheme: dark)"`, "%s is not a media query", q.Short())
			continue
		}
		m.media[q.Name] = q.Text
	}
	if d := n.Get("default"); d != nil {
		if m.context(d.Text) == nil {
			r.bad(d, pointer+"/default", "use one of "+strings.Join(m.names(), ", "), "the modifier %s has no context %q", name, d.Text)
		} else {
			m.standard = d.Text
		}
	} else {
		r.warnf("resolver", r.source, n, pointer, `add "default"`, "the modifier %s has no default; its first context, %s, is taken", name, m.contexts[0].name)
	}
	if m.standard == "" {
		m.standard = m.contexts[0].name
	}
	return m
}

// mediaForm keeps what is written into a style sheet to features and values.
var mediaForm = regexp.MustCompile(`^\([a-z-]+: [a-z0-9.-]+\)( and \([a-z-]+: [a-z0-9.-]+\))*$`)

func children(n *jsontree.Node) []*jsontree.Node {
	if n == nil {
		return nil
	}
	return n.Children
}

// ResolverFiles lists the files a resolver document refers to, as it names
// them, each once.
func ResolverFiles(text []byte) []string {
	root, _ := jsontree.Read("", text, limits)
	var names []string
	eachFile(root, func(_ *jsontree.Node, name string) {
		if !slices.Contains(names, name) {
			names = append(names, name)
		}
	})
	return names
}

// RenameFile gives a document whose references to a file of one name, in whatever folder,
// are to another name; one without any keeps its bytes.
func RenameFile(text []byte, from, to string) []byte {
	root, _ := jsontree.Read("", text, limits)
	changed := false
	eachFile(root, func(ref *jsontree.Node, name string) {
		if dir, file := path.Split(name); file == from {
			ref.Text, changed = dir+to+strings.TrimPrefix(ref.Text, name), true
		}
	})
	if !changed {
		return text
	}
	return Text(root)
}

// eachFile calls back for every reference to a file.
func eachFile(n *jsontree.Node, found func(ref *jsontree.Node, name string)) {
	if n == nil {
		return
	}
	if ref := n.Get("$ref"); ref != nil && ref.Kind == jsontree.String {
		if name, _, _ := strings.Cut(ref.Text, "#"); name != "" && !strings.Contains(name, "://") {
			found(ref, name)
		}
	}
	for _, c := range n.Children {
		eachFile(c, found)
	}
}
