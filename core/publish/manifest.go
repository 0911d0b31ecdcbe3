package publish

import (
	"cobrik/core/contract"
)

// The Custom Elements Manifest, schema 2.1.0: modules with what they declare and export. A component of a framework is a
// function there.

type manifest struct {
	SchemaVersion string   `json:"schemaVersion"`
	Readme        string   `json:"readme"`
	Modules       []module `json:"modules"`
}

type module struct {
	Kind         string        `json:"kind"`
	Path         string        `json:"path"`
	Summary      string        `json:"summary,omitempty"`
	Declarations []declaration `json:"declarations"`
	Exports      []export      `json:"exports"`
}

type declaration struct {
	Kind        string      `json:"kind"`
	Name        string      `json:"name"`
	Summary     string      `json:"summary,omitempty"`
	Description string      `json:"description,omitempty"`
	Deprecated  any         `json:"deprecated,omitempty"`
	Parameters  []parameter `json:"parameters"`
}

type parameter struct {
	Name        string   `json:"name"`
	Description string   `json:"description,omitempty"`
	Type        typeText `json:"type"`
	Default     string   `json:"default,omitempty"`
	Optional    bool     `json:"optional,omitempty"`
	Deprecated  string   `json:"deprecated,omitempty"`
}

type typeText struct {
	Text string `json:"text"`
}

type export struct {
	Kind        string    `json:"kind"`
	Name        string    `json:"name"`
	Declaration reference `json:"declaration"`
}

type reference struct {
	Name   string `json:"name"`
	Module string `json:"module"`
}

func (l Library) manifest() manifest {
	out := manifest{SchemaVersion: "2.1.0", Readme: "README.md", Modules: []module{}}
	for _, c := range l.Components {
		path := c.Contract.Name + "/" + c.Contract.Name + ".tsx"
		out.Modules = append(out.Modules, module{Kind: "javascript-module", Path: path, Summary: c.Contract.Purpose,
			Declarations: []declaration{declared(c.Contract)}, Exports: []export{{"js", c.Contract.Name, reference{c.Contract.Name, path}}}})
	}
	return out
}

// declared tells a component as a function; its props are the members of its one parameter, told as parameters by their names.
func declared(c *contract.Contract) declaration {
	out := declaration{Kind: "function", Name: c.Name, Summary: c.Purpose, Description: c.Notes.Typed(), Parameters: []parameter{}}
	if c.Deprecated != nil {
		out.Deprecated = c.Deprecated.String()
	}
	for _, p := range c.Props {
		one := parameter{Name: p.Name, Description: p.Purpose, Type: typeText{p.Type.TypeScript()}, Optional: !p.Required, Deprecated: p.Deprecated}
		if v := p.Default(); v != nil && p.Kind() != contract.ListKind && p.Kind() != contract.RichKind && p.Kind() != contract.ImageKind {
			one.Default = v.String()
		}
		out.Parameters = append(out.Parameters, one)
	}
	return out
}
