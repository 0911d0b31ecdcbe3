package repository

import (
	"bytes"
	"fmt"
	"maps"
	"path"
	"slices"
	"strings"
	"sync"

	"cobrik/core/check"
	"cobrik/core/contract"
	"cobrik/core/draft"
	"cobrik/core/emit"
	"cobrik/core/emit/react"
	"cobrik/core/font"
	"cobrik/core/ledger"
	"cobrik/core/problem"
	"cobrik/core/source"
	"cobrik/core/token/output"
)

// Rules of what disagrees between the sides.
const (
	DesignMoved  = "design-moved"  // the design says otherwise than the contract
	DesignGone   = "design-gone"   // the design no longer has what a contract is drawn from
	CodeMoved    = "code-moved"    // the code says otherwise than the contract
	CodeMissing  = "code-missing"  // a contract has no code
	CodeUnknown  = "code-unknown"  // code of a component has no contract
	CodeNotRead  = "code-not-read" // a component's code cannot be read
	OutputMoved  = "output-moved"  // a file that tokens are written to is otherwise
	OutputAbsent = "output-absent" // there is none
)

// Check lists what disagrees: contracts with what a review finds in them, designs with contracts, contracts with code, tokens with what they
// are written to. Each has its place, and what to do.
func (r *Repository) Check(fonts *font.Library) problem.List {
	parts := make([]problem.List, 4)
	var each sync.WaitGroup
	each.Go(func() { parts[0] = r.reviewed(fonts) })
	each.Go(func() { parts[1] = r.checkDesigns(fonts) })
	each.Go(func() { parts[2] = r.checkCode() })
	each.Go(func() { parts[3] = r.checkOutputs() })
	each.Wait()
	return slices.Concat(parts...)
}

func (r *Repository) checkThemes() (out []check.Theme) {
	for _, t := range r.Themes {
		set, _ := r.Library.Set(t)
		if set == nil {
			continue
		}
		one := check.Theme{Name: t.String(), Choices: map[string]string{}, Tokens: set}
		for _, c := range t {
			one.Choices[c.Modifier] = c.Context
		}
		out = append(out, one)
	}
	return out
}

// reviewed lists what a review finds in the contracts.
func (r *Repository) reviewed(fonts *font.Library) problem.List {
	options := check.Options{Themes: r.checkThemes(), Fonts: fonts}
	lists := make([]problem.List, len(r.Contracts))
	parallel(len(r.Contracts), func(i int) {
		c := r.Contracts[i]
		lists[i] = check.Problems(check.Contract(c.Contract, options)).Locate(c.File, c.Text)
	})
	return slices.Concat(lists...)
}

// parallel does something for each of a number of things, a few at a time.
func parallel(n int, do func(i int)) {
	var each sync.WaitGroup
	next := make(chan int)
	for range min(n, 4) {
		each.Go(func() {
			for i := range next {
				do(i)
			}
		})
	}
	for i := range n {
		next <- i
	}
	close(next)
	each.Wait()
}

// checkDesigns holds contracts against what they are drawn from.
func (r *Repository) checkDesigns(fonts *font.Library) problem.List {
	lists := make([]problem.List, len(r.Contracts))
	parallel(len(r.Contracts), func(i int) {
		c := r.Contracts[i]
		if c.Origin == nil {
			return
		}
		at := slices.IndexFunc(r.Designs, func(d Design) bool { return d.ID == c.Origin.Document })
		if at < 0 {
			return // of a document that is elsewhere
		}
		doc := r.Designs[at]
		family, _ := draft.Source(doc.Document, *c.Origin, fonts, r.components(doc.ID))
		if family == nil {
			lists[i].Warnf(DesignGone, "/origin", "draft it from another drawing, or retire it", "%s: %s no longer has the drawing it came from", c.Name, doc.File)
			lists[i].Locate(c.File, c.Text)
			return
		}
		for _, m := range ledger.New(ledger.Agreed{Contract: c.Contract, Tokens: r.Tokens, Components: r.components(doc.ID)}, family).Moves() {
			if m.Side == ledger.ContractSide {
				continue
			}
			p := problem.Problem{Rule: DesignMoved, Severity: problem.Warning, Message: c.Name + ": the design moved: " + m.String(), Fix: "take it, or keep the contract's side, in Sync", Pointer: pointerOf(c.Contract, m.Part)}
			lists[i] = append(lists[i], p)
		}
		lists[i].Locate(c.File, c.Text)
	})
	return slices.Concat(lists...)
}

// pointerOf gives the place of a part in a contract's file (RFC 6901).
func pointerOf(c *contract.Contract, id string) string {
	if id == "" {
		return ""
	}
	var find func(p *contract.Part, at string) string
	find = func(p *contract.Part, at string) string {
		if p.ID == id {
			return at
		}
		for i, child := range p.Children {
			if found := find(child, fmt.Sprintf("%s/children/%d", at, i)); found != "" {
				return found
			}
		}
		return ""
	}
	return find(c.Root, "/root")
}

// Written gives the code of all contracts as it would be written into the folder of the code, by its paths from the repository's root.
func (r *Repository) Written() map[string]string {
	out := map[string]string{}
	if r.Project.Code == nil {
		return out
	}
	for _, f := range react.Library("library", r.All(), r.Properties, react.Options{}) {
		out[path.Join(r.Project.Code.Folder, f.Path)] = f.Content
	}
	return out
}

// sourceFiles are the code's files, without the folder's name.
func (r *Repository) sourceFiles() (out []source.File) {
	folder := path.Clean(r.Project.Code.Folder) + "/"
	if folder == "./" {
		folder = ""
	}
	for name, text := range r.Files {
		if rest, in := strings.CutPrefix(name, folder); in {
			out = append(out, source.File{Name: rest, Text: text})
		}
	}
	return out
}

// Reading is what is known beside code to read it.
func (r *Repository) Reading() source.Options {
	paths := r.Properties.Paths()
	byName := map[string]*contract.Contract{}
	for _, c := range r.Contracts {
		byName[c.Name] = c.Contract
	}
	o := source.Options{Tokens: r.Tokens, Token: func(property string) (string, bool) { path, ok := paths[property]; return path, ok },
		Component: func(name string) *contract.Contract { return byName[name] }}
	for _, m := range r.Library.Modifiers() {
		o.Modifiers = append(o.Modifiers, m.Name)
	}
	return o
}

// checkCode holds the code against the contracts. What is byte for byte as it would be written agrees, unread.
func (r *Repository) checkCode() problem.List {
	if r.Project.Code == nil {
		return nil
	}
	folder := r.Project.Code.Folder
	s := r.sides()
	same := map[string]bool{}
	for _, f := range s.written {
		same[f.Path] = string(r.Files[path.Join(folder, f.Path)]) == f.Content
	}
	named := map[string]source.Named{}
	all := source.Open(unwritten(s.files, same))
	for _, one := range all.Components() {
		named[one.Name] = one
	}
	found := all.Problems() // files that are not read at all
	for i := range found {
		found[i].File = path.Join(folder, found[i].File)
	}
	lists := make([]problem.List, len(r.Contracts))
	parallel(len(r.Contracts), func(i int) { lists[i] = r.checkComponent(r.Contracts[i], s, same, named) })
	known := map[string]bool{}
	for _, c := range r.Contracts {
		known[c.Name] = true
	}
	for _, one := range slices.SortedFunc(maps.Values(named), func(a, b source.Named) int { return strings.Compare(a.File+a.Name, b.File+b.Name) }) {
		switch {
		case known[one.Name]:
		case one.Why != "":
			found = append(found, problem.Problem{File: path.Join(folder, one.File), Line: 1, Column: 1, Rule: CodeNotRead, Severity: problem.Warning, Message: one.Name + " is not read: " + one.Why})
		default:
			found = append(found, problem.Problem{File: path.Join(folder, one.File), Line: 1, Column: 1, Rule: CodeUnknown, Severity: problem.Warning, Message: one.Name + " has no contract", Fix: "adopt it, or leave the file out of the folder"})
		}
	}
	return append(slices.Concat(lists...), found...)
}

// unwritten leaves out the files that are as they would be written, whose components are known.
func unwritten(files []source.File, same map[string]bool) (out []source.File) {
	for _, f := range files {
		if !same[f.Name] || !strings.HasSuffix(f.Name, ".tsx") {
			out = append(out, f)
		}
	}
	return out
}

// codeSides are the code as it would be written, and as it is.
type codeSides struct {
	written   []emit.File
	files     []source.File
	would, is *source.Code
	options   source.Options
}

func (r *Repository) sides() codeSides {
	s := codeSides{written: react.Library("library", r.All(), r.Properties, react.Options{}), files: r.sourceFiles(), options: r.Reading()}
	var would []source.File
	for _, f := range s.written {
		would = append(would, source.File{Name: f.Path, Text: []byte(f.Content)})
	}
	s.would, s.is = source.Open(would), source.Open(s.files)
	return s
}

func (r *Repository) checkComponent(c Contract, s codeSides, same map[string]bool, named map[string]source.Named) problem.List {
	own := c.Name + "/"
	agrees, there := true, false
	for _, f := range s.written {
		if strings.HasPrefix(f.Path, own) && isCode(f.Path) {
			agrees = agrees && same[f.Path]
		}
	}
	if agrees {
		return nil
	}
	folder := r.Project.Code.Folder
	at := named[c.Name]
	at.File, there = fileOf(c.Name, named, s.files)
	var found problem.List
	if !there {
		found.Errorf(CodeMissing, "", "write it with cobrik check --fix, or cobrik emit", "%s has no code in %s", c.Name, folder)
		return found.Locate(c.File, c.Text)
	}
	v, unread := s.versions(c.Contract, at.File)
	if v.Code == nil {
		return append(found, problem.Problem{File: path.Join(folder, at.File), Line: 1, Column: 1, Rule: CodeNotRead, Severity: problem.Error, Message: "the code of " + c.Name + " is not read", Fix: unread})
	}
	for _, m := range v.Moves() {
		p := problem.Problem{File: path.Join(folder, at.File), Line: 1, Column: 1, Rule: CodeMoved, Severity: problem.Error, Message: c.Name + ": " + m.Said(), Fix: "take it into the contract in Sync, or put the code back"}
		if m.At != nil {
			p.File, p.Line, p.Column = path.Join(folder, m.At.File), m.At.Line, m.At.Column
		}
		found = append(found, p)
	}
	return found
}

// isCode tells whether a file is of a component's code, not a word about it.
func isCode(name string) bool {
	return !strings.HasSuffix(name, ".d.ts") && !strings.HasSuffix(name, ".md") && !strings.HasSuffix(name, ".test.tsx") && !strings.HasSuffix(name, "/index.ts")
}

// fileOf finds the file that a component's code is in.
func fileOf(name string, named map[string]source.Named, files []source.File) (string, bool) {
	if one, ok := named[name]; ok {
		return one.File, true
	}
	own := name + "/" + name + ".tsx"
	return own, slices.ContainsFunc(files, func(f source.File) bool { return f.Name == own })
}

// versions reads a component as it would be written, and as it is.
func (s codeSides) versions(c *contract.Contract, file string) (source.Versions, string) {
	would := s.would.Again().Read(c.Name+"/"+c.Name+".tsx", c.Name, s.options)
	is := s.is.Again().Read(file, c.Name, s.options)
	if would == nil || is == nil {
		return source.Versions{}, "look whether it is a function that gives JSX back"
	}
	would.Align(c)
	is.Align(c)
	v := source.Versions{Base: would, Contract: would, Code: is}
	v.Unsaid(c)
	return v, ""
}

// checkOutputs holds the files that tokens are written to against what would be written.
func (r *Repository) checkOutputs() (found problem.List) {
	if len(r.Project.Tokens.Outputs) == 0 {
		return nil // nobody asked for any
	}
	for _, o := range r.Project.Tokens.Outputs {
		files, bad := output.Build(&o, r.Library, r.Themes)
		found = append(found, bad...)
		for _, f := range files {
			name := path.Join(r.Project.Tokens.Out, f.Name)
			text, there := r.Files[name]
			switch {
			case !there:
				found = append(found, problem.Problem{File: name, Rule: OutputAbsent, Severity: problem.Error, Message: "the tokens are not written to " + name, Fix: "write them with cobrik tokens build, or cobrik check --fix"})
			case !bytes.Equal(text, f.Text):
				line := firstDifference(string(text), string(f.Text))
				found = append(found, problem.Problem{File: name, Line: line, Column: 1, Rule: OutputMoved, Severity: problem.Error, Message: name + " is not what the tokens come to", Fix: "write it with cobrik tokens build, or cobrik check --fix; edit the tokens, not the file"})
			}
		}
	}
	return found
}

// firstDifference gives the first line, from 1, that two texts do not share.
func firstDifference(a, b string) int {
	x, y := strings.Split(a, "\n"), strings.Split(b, "\n")
	for i := range x {
		if i >= len(y) || x[i] != y[i] {
			return i + 1
		}
	}
	return len(x)
}
