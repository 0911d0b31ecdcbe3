package token

import (
	"slices"
	"strings"

	"cobrik/core/jsontree"
	"cobrik/core/problem"
)

// Edit is one change to token files. Which members it reads depends on Kind.
type Edit struct {
	Kind        string         // "set", "rename", "describe", "deprecate" or "remove"
	Path        string         // the token
	File        string         // set: the file to write it into; empty for the one that gives it
	Value       *jsontree.Node // set: the new $value
	Type        string         // set: $type, for a token that is new and whose group gives none
	To          string         // rename: the new path
	Description string         // describe: $description; empty takes it away
	Reason      string         // deprecate: why; empty takes the mark away
}

// Apply carries edits out and gives the files with what they changed, in the
// files' order, laid out as Text does. A file that did not change keeps its
// bytes. Whether the tokens still resolve is seen by reading them again.
func Apply(files []File, edits ...Edit) ([]File, problem.List) {
	e := &editor{}
	for _, f := range files {
		root, found := jsontree.Read(f.Name, f.Text, limits)
		e.found = append(e.found, found...)
		e.files = append(e.files, &editedFile{File: f, root: root})
	}
	for _, edit := range edits {
		if len(e.found) == 0 {
			e.apply(edit)
		}
	}
	out := make([]File, len(files))
	for i, f := range e.files {
		out[i] = f.File
		if f.changed && len(e.found) == 0 {
			out[i].Text = Text(f.root)
		}
	}
	return out, e.found
}

type editedFile struct {
	File
	root    *jsontree.Node
	changed bool
}

type editor struct {
	reports
	files []*editedFile
}

func (e *editor) wrong(rule, fix, format string, args ...any) {
	e.errorf(rule, nil, nil, "", fix, format, args...)
}

// holders gives the files that hold something at a path, the last one last.
func (e *editor) holders(path string) []*editedFile {
	var out []*editedFile
	for _, f := range e.files {
		if !IsResolver(f.root) && f.root.At(pointerOf(path)) != nil {
			out = append(out, f)
		}
	}
	return out
}

func (e *editor) apply(edit Edit) {
	if bad := badPath(edit.Path); bad != "" {
		e.wrong("token-name", "name its groups and itself, joined by dots", "%s", bad)
		return
	}
	holders := e.holders(edit.Path)
	if edit.Kind == "set" {
		e.set(edit, holders)
		return
	}
	if len(holders) == 0 {
		e.wrong("token-unknown", "name a token that exists", "there is no token %s", edit.Path)
		return
	}
	switch edit.Kind {
	case "rename":
		e.rename(edit.Path, edit.To, holders)
	case "describe":
		holders[0].changed = true
		put(holders[0].root.At(pointerOf(edit.Path)), "$description", edit.Description)
	case "deprecate":
		holders[0].changed = true
		put(holders[0].root.At(pointerOf(edit.Path)), "$deprecated", edit.Reason)
	case "remove":
		for _, f := range holders {
			f.changed = true
			parent, name := split(edit.Path)
			f.root.At(pointerOf(parent)).Remove(name)
			prune(f.root, parent)
		}
	default:
		e.wrong("edit-kind", "use set, rename, describe, deprecate or remove", "there is no edit %q", edit.Kind)
	}
}

func put(n *jsontree.Node, name, text string) {
	n.Remove(strings.TrimPrefix(name, "$"))
	if text == "" {
		n.Remove(name)
		return
	}
	n.Set(name, jsontree.NewString(text))
}

// badPath says what is wrong with a path, or nothing (Format Module, 5.1.1).
func badPath(path string) string {
	for name := range strings.SplitSeq(path, ".") {
		if name == "" || strings.ContainsAny(name, "{}") || strings.HasPrefix(name, "$") && name != "$root" {
			return "the path " + path + " has a name that is empty, holds a brace or begins with $"
		}
	}
	return ""
}

func split(path string) (parent, name string) {
	i := strings.LastIndexByte(path, '.')
	if i < 0 {
		return "", path
	}
	return path[:i], path[i+1:]
}

// set writes a token's value into a file: the one named, or the last that gives
// it. The groups on the way are made where they are missing.
func (e *editor) set(edit Edit, holders []*editedFile) {
	var f *editedFile
	switch {
	case edit.File != "":
		i := slices.IndexFunc(e.files, func(f *editedFile) bool { return f.Name == edit.File && !IsResolver(f.root) })
		if i < 0 {
			e.wrong("token-file", "name one of the token files", "there is no token file %s", edit.File)
			return
		}
		f = e.files[i]
	case len(holders) > 0:
		f = holders[len(holders)-1]
	default:
		e.wrong("token-file", "say which file it belongs in", "the token %s is new and has no file", edit.Path)
		return
	}
	t := e.place(f, edit.Path)
	if t == nil {
		return
	}
	if slices.ContainsFunc(t.Children, func(c *jsontree.Node) bool {
		return c.Kind == jsontree.Object && !strings.HasPrefix(c.Name, "$") && !older(t)
	}) {
		e.wrong("token-nested", "choose another name", "%s is a group of tokens", edit.Path)
		return
	}
	t.Remove("value")
	t.Set("$value", edit.Value.Clone())
	if edit.Type != "" {
		t.Set("$type", jsontree.NewString(edit.Type))
	}
	f.changed = true
}

// place finds the object at a path, making it and its groups.
func (e *editor) place(f *editedFile, path string) *jsontree.Node {
	at := f.root
	if path == "" {
		return at
	}
	for name := range strings.SplitSeq(path, ".") {
		if at.Kind != jsontree.Object || at != f.root && isToken(at) {
			e.wrong("token-nested", "choose another name", "%s would stand inside of a token", path)
			return nil
		}
		next := at.Get(name)
		if next == nil {
			next = jsontree.NewObject()
			at.Set(name, next)
		}
		at = next
	}
	return at
}

// rename moves a token or group in every file that holds it; every reference
// to it, and to what is in it, follows. Beside its old place it keeps its line.
func (e *editor) rename(from, to string, holders []*editedFile) {
	if bad := badPath(to); bad != "" {
		e.wrong("token-name", "use letters, digits, hyphens or spaces, groups joined by dots", "%s", bad)
		return
	}
	switch {
	case from == to:
		return
	case len(e.holders(to)) > 0:
		e.wrong("token-name", "choose another name", "%s is there already", to)
		return
	case strings.HasPrefix(to+".", from+"."):
		e.wrong("token-name", "choose another name", "%s cannot be moved into itself", from)
		return
	}
	parent, name := split(from)
	newParent, newName := split(to)
	for _, f := range holders {
		f.changed = true
		group := f.root.At(pointerOf(parent))
		n := group.Get(name)
		if parent == newParent {
			n.Name = newName
			continue
		}
		kind := kindAt(f.root, from)
		group.Remove(name)
		prune(f.root, parent)
		at := e.place(f, newParent)
		if at == nil {
			return
		}
		if isToken(n) && n.Get("$type") == nil && n.Get("type") == nil && kind != "" && kind != kindAt(f.root, newParent) && !isReference(valueNode(n)) {
			n.Set("$type", jsontree.NewString(kind))
		}
		at.Set(newName, n)
	}
	for _, f := range e.files {
		if repoint(f.root, from, to) {
			f.changed = true
		}
	}
}

// prune takes groups away that have come to hold nothing.
func prune(root *jsontree.Node, path string) {
	for path != "" && len(root.At(pointerOf(path)).Children) == 0 {
		parent, name := split(path)
		root.At(pointerOf(parent)).Remove(name)
		path = parent
	}
}

// kindAt gives the $type that holds at a path within a file.
func kindAt(root *jsontree.Node, path string) string {
	kind := ""
	at := root
	for _, step := range append([]string{""}, jsontree.Steps(pointerOf(path))...) {
		if step != "" {
			at = at.Get(step)
		}
		if t := at.Get("$type"); t != nil {
			kind = t.Text
		}
	}
	return kind
}

// repoint changes every reference to a path, or to what is under it.
func repoint(n *jsontree.Node, from, to string) bool {
	changed := false
	if n.Kind == jsontree.String {
		if path, ok := bracePath(n.Text); ok && (path == from || strings.HasPrefix(path, from+".")) {
			n.Text = "{" + to + path[len(from):] + "}"
			return true
		}
		old := "#" + pointerOf(from)
		if n.Name == "$ref" && (n.Text == old || strings.HasPrefix(n.Text, old+"/")) {
			n.Text = "#" + pointerOf(to) + n.Text[len(old):]
			return true
		}
	}
	for _, c := range n.Children {
		if n.Name != "$extensions" && repoint(c, from, to) {
			changed = true
		}
	}
	return changed
}
