package output

import (
	"bytes"
	"encoding/json"
	"path"
	"slices"

	"cobrik/core/problem"
	schemas "cobrik/docs/formats"
)

// Project is a project file (cobrik.project/1): where a repository's tokens are
// and what they are written for, and where its contracts, designs and code are.
type Project struct {
	Format    string        `json:"format"`
	Tokens    ProjectTokens `json:"tokens"`
	Contracts []string      `json:"contracts,omitempty"` // files, or folders of them
	Designs   []string      `json:"designs,omitempty"`   // design documents
	Code      *ProjectCode  `json:"code,omitempty"`
}

// ProjectCode is what a project file says of the code that its components are. Paths are relative to it.
type ProjectCode struct {
	Folder string `json:"folder"`
}

// ProjectTokens is what a project file says of tokens. Paths are relative to it.
type ProjectTokens struct {
	Files    []string `json:"files,omitempty"`
	Resolver string   `json:"resolver,omitempty"`
	Out      string   `json:"out,omitempty"`
	Outputs  []Output `json:"outputs,omitempty"`
}

// ProjectFormat is the format a project file names.
const ProjectFormat = "cobrik.project/1"

var projectSchema = problem.MustCompile("cobrik.project-1.json", schemas.Project)

// ReadProject reads a project file; nil when anything in it is wrong.
func ReadProject(name string, text []byte) (*Project, problem.List) {
	if found := problem.CheckJSON(name, text, problem.Limits{Bytes: 1 << 20, Depth: 16}); found != nil {
		return nil, found
	}
	if found := projectSchema.Validate(name, text); found != nil {
		return nil, found
	}
	var p Project
	if err := json.Unmarshal(text, &p); err != nil {
		return nil, problem.List{{File: name, Rule: "json-syntax", Severity: problem.Error, Message: err.Error()}}
	}
	found := CheckAll(p.Tokens.Outputs)
	for i := range found {
		found[i].Pointer = "/tokens/outputs" + found[i].Pointer
	}
	if found.Failed() {
		return nil, found.Locate(name, text)
	}
	return &p, nil
}

// JSON writes the project file.
func (p *Project) JSON() []byte {
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	e.SetIndent("", "  ")
	if err := e.Encode(p); err != nil {
		panic(err) // plain data always encodes
	}
	return b.Bytes()
}

// All lists the project's outputs; the standard ones when it names none.
func (p *Project) All() []Output {
	if p == nil || len(p.Tokens.Outputs) == 0 {
		return Standard()
	}
	return slices.Clone(p.Tokens.Outputs)
}

// WithFile gives the project with a token file, or the resolver document, under another
// name, in whatever folder.
func (p *Project) WithFile(from, to string) *Project {
	out := *p
	renamed := func(name string) string {
		if dir, file := path.Split(name); file == from {
			return dir + to
		}
		return name
	}
	out.Tokens.Files = slices.Clone(p.Tokens.Files)
	for i, name := range out.Tokens.Files {
		out.Tokens.Files[i] = renamed(name)
	}
	out.Tokens.Resolver = renamed(p.Tokens.Resolver)
	return &out
}
