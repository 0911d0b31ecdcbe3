// Package platform writes tokens for what consumes them: a list of transforms
// in order, then files. Every platform starts from the same resolved tokens.
package platform

import (
	"cobrik/core/css"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/problem"
)

// Platform is what tokens are written for.
type Platform struct {
	Name         string   `json:"name" doc:"Its name, as --platform takes it"`
	Transforms   []string `json:"transforms" doc:"Ids of transforms, carried out in this order"`
	References   string   `json:"references,omitempty" enum:"keep,flatten" doc:"Whether aliases stay references where the platform can hold them; keep when empty"`
	BaseFontSize float64  `json:"baseFontSize,omitempty" doc:"Px of 1 rem; 16 when 0"`
	Prefix       string   `json:"prefix,omitempty" doc:"What the transform name-prefix puts before a name"`
	Register     bool     `json:"register,omitempty" doc:"Registers custom properties with @property"`
	Outputs      []Output `json:"outputs" doc:"The files that are written"`
}

// Output is one file a platform writes.
type Output struct {
	Path   string `json:"path" doc:"Relative to the folder that is written into"`
	Format string `json:"format" doc:"Id of a format"`
}

// Keep and Flatten are the values of References.
const (
	Keep    = "keep"
	Flatten = "flatten"
)

// base gives the px of 1 rem: 16 unless said otherwise (common practice, no source).
func (p *Platform) base() float64 {
	if p.BaseFontSize > 0 {
		return p.BaseFontSize
	}
	return css.RootFontSize
}

// Standard lists the platforms that are there without a project file.
func Standard() []Platform {
	return []Platform{
		{Name: "css", Transforms: []string{"name-kebab", "color-hex"}, Outputs: []Output{{"tokens.css", "css"}}},
		{Name: "sass", Transforms: []string{"name-kebab", "color-hex"}, Outputs: []Output{{"_tokens.scss", "sass-map"}}},
		{Name: "typescript", Transforms: []string{"name-camel", "color-hex"}, Outputs: []Output{{"tokens.ts", "typescript"}}},
		{Name: "json", Transforms: []string{"name-path", "color-hex"}, References: Flatten, Outputs: []Output{{"tokens.json", "json-flat"}}},
		{Name: "json-nested", Outputs: []Output{{"design.tokens.json", "json-nested"}}},
		{Name: "swift", Transforms: []string{"parts-all", "name-camel", "size-px", "duration-s"}, Outputs: []Output{{"Tokens.swift", "swift"}}},
		{Name: "android", Transforms: []string{"parts-all", "name-snake", "size-px", "duration-ms"}, Outputs: []Output{{"tokens.xml", "android"}}},
		{Name: "kotlin", Transforms: []string{"parts-all", "name-camel", "size-px", "duration-ms"}, Outputs: []Output{{"Tokens.kt", "kotlin"}}},
	}
}

// others are further names under which a standard platform is found.
var others = map[string]string{"scss": "sass", "ts": "typescript", "json-flat": "json", "flat-json": "json", "nested-json": "json-nested", "android-xml": "android"}

// Named finds a platform by name; its error lists those there are.
func Named(list []Platform, name string) (Platform, error) {
	var names []string
	for _, p := range list {
		if p.Name == name || p.Name == others[name] {
			p.Transforms = slices.Clone(p.Transforms)
			return p, nil
		}
		names = append(names, p.Name)
	}
	return Platform{}, fmt.Errorf("there is no platform %q; use %s", name, strings.Join(names, ", "))
}

// Check lists what is wrong with a platform's definition.
func (p *Platform) Check() problem.List {
	var found problem.List
	if p.Name == "" || strings.ContainsAny(p.Name, " /\\") {
		found.Errorf("platform-name", "/name", "use letters, digits and hyphens", "the platform's name %q is empty or holds a space or slash", p.Name)
	}
	for i, id := range p.Transforms {
		if _, ok := transformNamed(id); !ok {
			found.Errorf("platform-transform", fmt.Sprintf("/transforms/%d", i), "use one of "+strings.Join(ids(Transforms()), ", "), "there is no transform %q", id)
		}
	}
	if p.References != "" && p.References != Keep && p.References != Flatten {
		found.Errorf("platform-references", "/references", "write keep or flatten", "references are kept or flattened, found %q", p.References)
	}
	if p.BaseFontSize < 0 || p.BaseFontSize > 1000 {
		found.Errorf("platform-base", "/baseFontSize", "write the px of 1 rem, such as 16", "%v px is no font size", p.BaseFontSize)
	}
	if len(p.Outputs) == 0 {
		found.Errorf("platform-output", "/outputs", "name a file and its format", "the platform %s writes no file", p.Name)
	}
	for i, o := range p.Outputs {
		if _, ok := formats[o.Format]; !ok {
			found.Errorf("platform-format", fmt.Sprintf("/outputs/%d/format", i), "use one of "+strings.Join(FormatIDs(), ", "), "there is no format %q", o.Format)
		}
		if bad := o.Path == "" || strings.HasPrefix(o.Path, "/") || strings.Contains(o.Path, "\\") || slices.Contains(strings.Split(o.Path, "/"), ".."); bad {
			found.Errorf("platform-path", fmt.Sprintf("/outputs/%d/path", i), "write a path below the folder that is written into", "the path %q is empty or leads out of the folder", o.Path)
		}
	}
	return found
}

func ids(list []Transform) []string {
	out := make([]string, len(list))
	for i, t := range list {
		out[i] = t.ID
	}
	return out
}
