// Package repository reads what a team's repository holds of a design system, by its project file: tokens, contracts, design documents
// and code. It tells what of it disagrees, what a change of it comes to, and mends what is mechanical.
package repository

import (
	"fmt"
	"maps"
	"path"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/problem"
	"cobrik/core/token"
	"cobrik/core/token/output"
)

// ProjectFile is the name of the file that says what a repository holds.
const ProjectFile = "cobrik.json"

// Files are the bytes of files by their paths from the repository's root, with forward slashes.
type Files map[string][]byte

// Repository is what was read. Nothing in it changes.
type Repository struct {
	Project    *output.Project
	Tokens     *token.Set // in the default theme
	Library    *token.Library
	Themes     []token.Theme
	Properties *output.Properties
	Contracts  []Contract // in the order of their names, those that are used before those that use them
	Designs    []Design
	Files      Files
}

// Contract is one with the file it is in.
type Contract struct {
	*contract.Contract
	File string
	Text []byte
}

// Design is a document with the file it is in.
type Design struct {
	*design.Document
	File string
}

// Wanted lists what has to be read of a repository: files, and folders with all that is in them.
func Wanted(project *output.Project, read func(name string) []byte) (files, folders []string) {
	files = append(files, project.Tokens.Files...)
	if r := project.Tokens.Resolver; r != "" {
		files = append(files, r)
		if text := read(r); text != nil {
			for _, name := range token.ResolverFiles(text) {
				files = append(files, path.Join(path.Dir(r), name))
			}
		}
	}
	files = append(files, project.Designs...)
	for _, name := range project.Contracts {
		if strings.HasSuffix(name, ".json") {
			files = append(files, name)
		} else {
			folders = append(folders, name)
		}
	}
	for _, o := range project.All() {
		files = append(files, path.Join(project.Tokens.Out, o.File))
	}
	if project.Code != nil {
		folders = append(folders, project.Code.Folder)
	}
	for i := range files {
		files[i] = path.Clean(files[i])
	}
	for i := range folders {
		folders[i] = path.Clean(folders[i])
	}
	return files, folders
}

// Open reads a repository. What is wrong with its files is listed with its place; the repository is nil where there is no
// project file that can be read.
func Open(files Files) (*Repository, problem.List) {
	text, there := files[ProjectFile]
	if !there {
		return nil, problem.List{{File: ProjectFile, Rule: "project-file", Severity: problem.Error, Message: "there is no " + ProjectFile + " here", Fix: "run this at the root of the repository, or write one"}}
	}
	project, found := output.ReadProject(ProjectFile, text)
	if project == nil {
		return nil, found
	}
	r := &Repository{Project: project, Files: files}
	found = append(found, sameButForCase(files)...)
	found = append(found, r.readTokens()...)
	found = append(found, r.readContracts()...)
	for _, name := range project.Designs {
		name = path.Clean(name)
		text, there := files[name]
		if !there {
			found = append(found, missing(name, "/designs"))
			continue
		}
		doc, bad := design.Read(name, text)
		found = append(found, bad.Locate(name, text)...)
		if doc != nil {
			r.Designs = append(r.Designs, Design{doc, name})
		}
	}
	return r, found
}

// sameButForCase lists files that are one file where letters' case does not count, as on many people's machines.
func sameButForCase(files Files) (found problem.List) {
	lower := map[string]string{}
	for _, name := range slices.Sorted(maps.Keys(files)) {
		key := strings.ToLower(name)
		if other, there := lower[key]; there {
			found = append(found, problem.Problem{File: name, Line: 1, Column: 1, Rule: "file-case", Severity: problem.Error, Message: name + " and " + other + " differ by case alone", Fix: "rename one of them: where case does not count they are one file"})
		}
		lower[key] = name
	}
	return found
}

func missing(name, pointer string) problem.Problem {
	return problem.Problem{File: ProjectFile, Pointer: pointer, Rule: "project-file", Severity: problem.Error, Message: "there is no file " + name, Fix: "correct its name, or take it out"}
}

func (r *Repository) readTokens() problem.List {
	var found problem.List
	var files []token.File
	names := slices.Clone(r.Project.Tokens.Files)
	if resolver := r.Project.Tokens.Resolver; resolver != "" {
		names = append(names, resolver)
		for _, name := range token.ResolverFiles(r.Files[path.Clean(resolver)]) {
			names = append(names, path.Join(path.Dir(resolver), name))
		}
	}
	seen := map[string]bool{}
	for _, name := range names {
		name = path.Clean(name)
		if seen[name] {
			continue
		}
		seen[name] = true
		text, there := r.Files[name]
		if !there {
			found = append(found, missing(name, "/tokens"))
			continue
		}
		files = append(files, token.File{Name: name, Text: text})
	}
	var bad problem.List
	r.Library, bad = token.Open(files...)
	found = append(found, bad...)
	r.Themes = r.Library.Themes()
	r.Tokens = token.Empty()
	for i, t := range r.Themes {
		set, bad := r.Library.Set(t)
		found = append(found, bad...)
		if i == 0 && set != nil {
			r.Tokens = set
		}
	}
	if properties, bad := output.NewProperties(output.ForCSS(r.Project.All()), r.Library, r.Themes); properties != nil {
		r.Properties = properties
	} else {
		found = append(found, bad...)
		r.Properties = output.PropertiesOf(r.Tokens)
	}
	return found
}

func (r *Repository) readContracts() (found problem.List) {
	var names []string
	for _, listed := range r.Project.Contracts {
		listed = path.Clean(listed)
		if strings.HasSuffix(listed, ".json") {
			if _, there := r.Files[listed]; !there {
				found = append(found, missing(listed, "/contracts"))
				continue
			}
			names = append(names, listed)
			continue
		}
		for name := range r.Files {
			if path.Dir(name) == listed && strings.HasSuffix(name, ".json") && strings.Contains(string(r.Files[name][:min(len(r.Files[name]), 4096)]), contract.Format) {
				names = append(names, name)
			}
		}
	}
	slices.Sort(names)
	byName := map[string]*contract.Contract{}
	for _, name := range slices.Compact(names) {
		text := r.Files[name]
		c, bad := contract.Read(name, text, r.Tokens)
		if found = append(found, bad.Locate(name, text)...); c == nil {
			continue
		}
		if byName[c.Name] != nil {
			found = append(found, problem.Problem{File: name, Pointer: "/name", Rule: "contract-twice", Severity: problem.Error, Message: "another contract is named " + c.Name, Fix: "rename one of them"})
			continue
		}
		byName[c.Name] = c
		r.Contracts = append(r.Contracts, Contract{c, name, text})
	}
	linker := contract.NewLinker(func(name string) *contract.Contract { return byName[name] })
	r.Contracts = slices.DeleteFunc(r.Contracts, func(c Contract) bool {
		if _, cycle := linker.Link(c.Contract); cycle != nil {
			found = append(found, problem.Problem{File: c.File, Rule: "contract-cycle", Severity: problem.Error, Message: fmt.Sprintf("%s would be made of itself: %s", c.Name, strings.Join(cycle, " → "))})
			return true
		}
		if bad := c.Check(r.Tokens); len(c.UsedParts()) > 0 && bad.Failed() {
			found = append(found, bad.Locate(c.File, c.Text)...)
			return true
		}
		return false
	})
	return found
}

// All lists the contracts.
func (r *Repository) All() []*contract.Contract {
	out := make([]*contract.Contract, len(r.Contracts))
	for i, c := range r.Contracts {
		out[i] = c.Contract
	}
	return out
}

// components gives the contract of a document's family.
func (r *Repository) components(document string) draft.Components {
	return func(family string) *contract.Contract {
		for _, c := range r.Contracts {
			if c.Origin != nil && c.Origin.Document == document && c.Origin.Family == family {
				return c.Contract
			}
		}
		return nil
	}
}
