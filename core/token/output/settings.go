package output

import (
	"slices"
	"strings"
)

// Setting is one thing an output may want, with all that it can be.
type Setting struct {
	ID      string   `json:"id" doc:"The name of its field in an output"`
	Name    string   `json:"name"`
	Options []Option `json:"options"`
	of      func(o *Output) *string
}

// Of gives the setting in an output.
func (s Setting) Of(o *Output) *string { return s.of(o) }

// Option is one thing that a setting can be.
type Option struct {
	Value string `json:"value"`
	Words string `json:"words" doc:"As it is said to people"`
	about string // in the list of outputs; as the words when empty
}

// Language is what a file is written in, and what it can hold.
type Language struct {
	ID       string `json:"id" enum:"css,sass,typescript,json,tokens,swift,android,kotlin"`
	Name     string `json:"name"`
	File     string `json:"file" doc:"A file's name, unless another is chosen"`
	Prefix   bool   `json:"prefix" doc:"Its names can have a prefix"`
	Register bool   `json:"register" doc:"It can register its custom properties"`
	Holds    []Held `json:"holds" doc:"One a setting, in the settings' order"`
	writer
}

// Held is what a language can hold of a setting.
type Held struct {
	Setting string   `json:"setting"`
	Values  []string `json:"values" doc:"The first is meant where an output says nothing"`
	Why     string   `json:"why,omitempty" doc:"Why it holds no others"`
}

// Settings lists what an output may want, in the order it is asked for.
func Settings() []Setting { return settings }

// Languages lists what files are written in.
func Languages() []Language { return languages }

var settings = []Setting{
	{"names", "Names", []Option{
		{Value: "hyphens", Words: "joined by hyphens"}, {Value: "underscores", Words: "joined by underscores"}, {Value: "capitals", Words: "joined by capitals"},
		{Value: "large", Words: "in large letters"}, {Value: "path", Words: "the token's path"},
	}, func(o *Output) *string { return &o.Names }},
	{"lengths", "Lengths", []Option{{Value: "written", Words: "as they are", about: "lengths as they are"}, {Value: "px", Words: "px"}, {Value: "rem", Words: "rem"}},
		func(o *Output) *string { return &o.Lengths }},
	{"colors", "Colours", []Option{{Value: "written", Words: "as they are", about: "colours as they are"}, {Value: "hex", Words: "hex"}, {Value: "rgb", Words: "rgb"},
		{Value: "hsl", Words: "hsl"}, {Value: "oklch", Words: "oklch"}}, func(o *Output) *string { return &o.Colors }},
	{"durations", "Durations", []Option{{Value: "written", Words: "as they are", about: "durations as they are"}, {Value: "ms", Words: "ms"}, {Value: "s", Words: "s"}},
		func(o *Output) *string { return &o.Durations }},
	{"composites", "Composites", []Option{{Value: "whole", Words: "whole", about: "composites whole"}, {Value: "parts", Words: "in parts", about: "composites in parts"}},
		func(o *Output) *string { return &o.Composites }},
	{"references", "References", []Option{{Value: "kept", Words: "kept", about: "references kept"}, {Value: "followed", Words: "followed", about: "references followed"}},
		func(o *Output) *string { return &o.References }},
	{"themes", "Themes", []Option{{Value: "together", Words: "all in one file", about: "every theme in one file"}, {Value: "apart", Words: "a file each", about: "a file a theme"}},
		func(o *Output) *string { return &o.Themes }},
}

// languages: held takes what each setting can be, in the settings' order.
var languages = []Language{
	{ID: "css", Name: "CSS", File: "tokens.css", Prefix: true, Register: true, writer: writer{name: property, together: writeCSS, apart: writeOneCSS},
		Holds: holds(held("hyphens underscores capitals large", "a dot would have to be escaped"), held("written px rem", ""), held("hex rgb hsl oklch written", ""),
			held("written ms s", ""), held("whole parts", ""), held("kept followed", ""), held("together apart", ""))},
	{ID: "sass", Name: "Sass", File: "_tokens.scss", Prefix: true, writer: writer{name: variable, apart: writeSass},
		Holds: holds(held("hyphens underscores capitals large", "a dot would have to be escaped"), held("written px rem", ""), held("hex rgb hsl oklch written", ""),
			held("written ms s", ""), held("whole parts", ""), held("kept followed", ""), held("apart", "a variable has one value"))},
	{ID: "typescript", Name: "TypeScript", File: "tokens.ts", Prefix: true, writer: writer{name: identifier, apart: writeTypeScript},
		Holds: holds(held("capitals underscores large", "a name is letters, digits and underscores"), held("written px rem", ""), held("hex rgb hsl oklch written", ""),
			held("written ms s", ""), held("whole parts", ""), held("kept followed", ""), held("apart", "a constant has one value"))},
	{ID: "json", Name: "JSON", File: "tokens.json", Prefix: true, writer: writer{name: asIs, together: writeAllJSON, apart: writeJSON},
		Holds: holds(held("path hyphens underscores capitals large", ""), held("written px rem", ""), held("hex rgb hsl oklch written", ""), held("written ms s", ""),
			held("whole parts", ""), held("followed", "an object of values has no references"), held("apart together", ""))},
	{ID: "tokens", Name: "Design tokens", File: "design.tokens.json", writer: writer{name: asIs, apart: writeTokens},
		Holds: holds(held("path", "the standard names a token by its path"), held("written px rem", ""), held("written", "the standard writes a colour by its space and components"),
			held("written ms s", ""), held("whole", "the standard has no tokens for parts"), held("kept followed", ""), held("apart", "a token has one value in a file"))},
	{ID: "swift", Name: "Swift", File: "Tokens.swift", Prefix: true, writer: writer{name: identifier, apart: writeSwift},
		Holds: holds(held("capitals underscores large", "a name is letters, digits and underscores"), held("px", "a length is a count of points"),
			held("written", "a Color is made of its components"), held("s", "a TimeInterval counts seconds"), held("parts", "it has no value for a whole one"),
			held("kept followed", ""), held("apart", "a constant has one value"))},
	{ID: "android", Name: "Android", File: "tokens.xml", Prefix: true, writer: writer{name: resource, apart: writeAndroid},
		Holds: holds(held("underscores", "resources are named in small letters, digits and underscores"), held("px", "a dimension counts dp"),
			held("written", "a color is written by its channels"), held("ms", "an integer counts milliseconds"), held("parts", "it has no resource for a whole one"),
			held("kept followed", ""), held("apart", "a resource has one value"))},
	{ID: "kotlin", Name: "Kotlin", File: "Tokens.kt", Prefix: true, writer: writer{name: identifier, apart: writeKotlin},
		Holds: holds(held("capitals underscores large", "a name is letters, digits and underscores"), held("px", "a length is a count of dp"),
			held("written", "a Color is made of its channels"), held("ms", "a duration is a count of milliseconds"), held("parts", "it has no value for a whole one"),
			held("kept followed", ""), held("apart", "a property has one value"))},
}

func held(values, why string) Held { return Held{Values: strings.Fields(values), Why: why} }

func holds(list ...Held) []Held {
	for i := range list {
		list[i].Setting = settings[i].ID
	}
	return list
}

func asIs(name string) string { return name }

func languageOf(id string) *Language {
	for i := range languages {
		if languages[i].ID == id {
			return &languages[i]
		}
	}
	return nil
}

func languageIDs() []string {
	ids := make([]string, len(languages))
	for i, l := range languages {
		ids[i] = l.ID
	}
	return ids
}

func (l *Language) held(setting string) Held {
	return l.Holds[slices.IndexFunc(l.Holds, func(h Held) bool { return h.Setting == setting })]
}

// setting finds a setting by its id, which must be one.
func setting(id string) Setting {
	return settings[slices.IndexFunc(settings, func(s Setting) bool { return s.ID == id })]
}

// wants gives what an output's setting comes to: what it says, else its language's first.
func (o *Output) wants(id string) string { return o.value(setting(id)) }

func (o *Output) value(s Setting) string {
	if v := *s.Of(o); v != "" {
		return v
	}
	return languageOf(o.Language).held(s.ID).Values[0]
}

func (s Setting) has(value string) bool {
	return slices.ContainsFunc(s.Options, func(c Option) bool { return c.Value == value })
}

func (s Setting) option(value string) Option {
	return s.Options[slices.IndexFunc(s.Options, func(c Option) bool { return c.Value == value })]
}

func (s Setting) words(value string) string { return s.option(value).Words }

func (s Setting) about(value string) string {
	if c := s.option(value); c.about != "" {
		return c.about
	}
	return s.words(value)
}

// listed gives choices in words: "px or rem".
func (s Setting) listed(values []string) string {
	words := make([]string, len(values))
	for i, v := range values {
		words[i] = s.words(v)
	}
	if last := len(words) - 1; last > 0 {
		return strings.Join(words[:last], ", ") + " or " + words[last]
	}
	return words[0]
}
