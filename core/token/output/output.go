// Package output writes tokens to files. An output says what it wants in settings; in
// which order that is done is this package's affair (see order.go).
package output

import (
	"fmt"
	"math"
	"regexp"
	"slices"
	"strings"

	"cobrik/core/css"
	"cobrik/core/problem"
)

// Output is a file that tokens are written to, and how. A setting that says nothing is
// the first that its language holds.
type Output struct {
	File       string   `json:"file" doc:"Relative to the folder that is written into; an output is known by it"`
	Language   string   `json:"language" enum:"css,sass,typescript,json,tokens,swift,android,kotlin"`
	Names      string   `json:"names,omitempty" enum:"hyphens,underscores,capitals,large,path" doc:"How the words of a name are joined"`
	Prefix     string   `json:"prefix,omitempty" doc:"A first word for every name, joined as the others are"`
	Lengths    string   `json:"lengths,omitempty" enum:"written,px,rem"`
	Root       float64  `json:"root,omitempty" doc:"Px of 1 rem; 16 when 0"`
	Whole      bool     `json:"whole,omitempty" doc:"Lengths are rounded to whole px, whatever unit they are written in"`
	Colors     string   `json:"colors,omitempty" enum:"written,hex,rgb,hsl,oklch"`
	Durations  string   `json:"durations,omitempty" enum:"written,ms,s"`
	Composites string   `json:"composites,omitempty" enum:"whole,parts"`
	References string   `json:"references,omitempty" enum:"kept,followed"`
	Themes     string   `json:"themes,omitempty" enum:"together,apart" doc:"All in one file, or a file each"`
	Only       []string `json:"only,omitempty" doc:"Groups that are written, and no others"`
	Without    []string `json:"without,omitempty" doc:"Groups that are left out"`
	Register   bool     `json:"register,omitempty" doc:"Registers custom properties with @property"`
}

// root gives the px of 1 rem: 16 unless said otherwise (common practice, no source).
func (o *Output) root() float64 {
	if o.Root > 0 {
		return o.Root
	}
	return css.RootFontSize
}

// Standard lists the outputs of a project that names none.
func Standard() []Output {
	return []Output{
		{File: "tokens.css", Language: "css"},
		{File: "_tokens.scss", Language: "sass"},
		{File: "tokens.ts", Language: "typescript"},
		{File: "tokens.json", Language: "json"},
		{File: "design.tokens.json", Language: "tokens"},
		{File: "Tokens.swift", Language: "swift"},
		{File: "tokens.xml", Language: "android"},
		{File: "Tokens.kt", Language: "kotlin"},
	}
}

// Named finds an output by its file, or the first in a language; its error lists what there is.
func Named(list []Output, name string) (Output, error) {
	var files []string
	for _, o := range list {
		if o.File == name {
			return o, nil
		}
		files = append(files, o.File)
	}
	for _, o := range list {
		if o.Language == name {
			return o, nil
		}
	}
	return Output{}, fmt.Errorf("no output is called %q and none is in a language of that name; there are %s", name, strings.Join(files, ", "))
}

// About says in a few words what an output is: its language, and what it was set to be.
func (o *Output) About() string {
	l := languageOf(o.Language)
	if l == nil {
		return o.Language
	}
	about := []string{l.Name}
	for _, s := range settings {
		held, v := l.held(s.ID), o.value(s)
		if s.has(v) && (v != held.Values[0] || s.ID == "themes" && len(held.Values) > 1) {
			about = append(about, s.about(v))
		}
	}
	if o.Prefix != "" {
		about = append(about, "prefix "+o.Prefix)
	}
	if o.Whole {
		about = append(about, "whole px")
	}
	switch {
	case len(o.Only) > 0:
		about = append(about, "only "+strings.Join(o.Only, ", "))
	case len(o.Without) > 0:
		about = append(about, "all but "+strings.Join(o.Without, ", "))
	}
	return strings.Join(about, ", ")
}

// prefixes are words that every language's names may begin with.
var prefixes = regexp.MustCompile(`^[A-Za-z][A-Za-z0-9_-]{0,59}$`)

// Check lists what an output's settings ask for that cannot be. Pointers are into the
// output's own JSON.
func (o *Output) Check() problem.List {
	var found problem.List
	if o.File == "" || len(o.File) > 500 || strings.HasPrefix(o.File, "/") || strings.ContainsAny(o.File, "\\:\x00") ||
		slices.ContainsFunc(strings.Split(o.File, "/"), func(s string) bool { return s == "" || s == "." || s == ".." }) {
		found.Errorf("output-file", "/file", "name a file below the folder that is written into, such as tokens.css",
			"The file %q is empty or leads out of the folder.", o.File)
	}
	l := languageOf(o.Language)
	if l == nil {
		found.Errorf("output-language", "/language", "write one of "+strings.Join(languageIDs(), ", "), "There is no language %q.", o.Language)
		return found
	}
	for _, s := range settings {
		value, held := *s.Of(o), l.held(s.ID)
		switch {
		case value == "":
		case !s.has(value):
			found.Errorf("output-"+s.ID, "/"+s.ID, "write one of "+strings.Join(held.Values, ", "), "%s cannot be %q.", s.Name, value)
		case !slices.Contains(held.Values, value):
			found.Errorf("output-"+s.ID, "/"+s.ID, "choose "+s.listed(held.Values), "%s cannot be %s in %s: %s.", s.Name, s.words(value), l.Name, held.Why)
		}
	}
	switch {
	case o.Prefix == "":
	case !l.Prefix:
		found.Errorf("output-prefix", "/prefix", "leave the prefix out", "Names have no prefix in %s: %s.", l.Name, l.held("names").Why)
	case !prefixes.MatchString(o.Prefix):
		found.Errorf("output-prefix", "/prefix", "begin with a letter and use letters, digits, hyphens and underscores", "%q cannot begin a name.", o.Prefix)
	}
	if math.IsNaN(o.Root) || o.Root < 0 || o.Root > 1000 {
		found.Errorf("output-root", "/root", "write the px of 1 rem, such as 16", "%v px is no root size.", o.Root)
	}
	if o.Register && !l.Register {
		found.Errorf("output-register", "/register", "leave it out", "Only CSS registers its custom properties.")
	}
	if len(o.Only) > 0 && len(o.Without) > 0 {
		found.Errorf("output-groups", "/without", "say either which groups are written or which are left out", "Groups are both chosen and left out.")
	}
	return found
}

// CheckAll lists what is wrong with any of a project's outputs; pointers are into the list.
func CheckAll(list []Output) problem.List {
	var found problem.List
	seen := map[string]bool{}
	for i := range list {
		bad := list[i].Check()
		if name := strings.ToLower(list[i].File); seen[name] {
			bad.Errorf("output-file", "/file", "give one of them another file", "Two outputs are written to %s.", list[i].File)
		} else {
			seen[name] = true
		}
		for _, p := range bad {
			p.Pointer = fmt.Sprintf("/%d%s", i, p.Pointer)
			found = append(found, p)
		}
	}
	return found
}
