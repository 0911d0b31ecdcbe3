package publish

import (
	"fmt"
	"html/template"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/emit"
)

// Pages of a catalogue without a server: index.html, which runs the views, and a page a component that is read without a script.

// Shelves gives the components by shelf, both by name; those on none come last.
func (l Library) shelves() (out []shelfPage) {
	at := map[string]int{}
	for _, c := range l.Components {
		i, ok := at[c.Shelf]
		if !ok {
			i = len(out)
			at[c.Shelf] = i
			out = append(out, shelfPage{Name: c.Shelf})
		}
		out[i].Components = append(out[i].Components, componentPage{Component: c, Slug: contract.Slug(c.Contract.Name)})
	}
	slices.SortStableFunc(out, func(a, b shelfPage) int {
		if (a.Name == "") != (b.Name == "") {
			return len(b.Name) - len(a.Name)
		}
		return strings.Compare(a.Name, b.Name)
	})
	return out
}

type shelfPage struct {
	Name       string
	Components []componentPage
}

type componentPage struct {
	Component
	Slug string
}

// Status is a component's status as a list tells it.
func (p componentPage) Status() string {
	switch {
	case p.Contract.Deprecated != nil:
		return "deprecated"
	case p.Version != "":
		return "released"
	}
	return "draft"
}

// Pages writes index.html and a page for each component, without what they load.
func (l Library) Pages() []emit.File {
	index := page{Library: l, Shelves: l.shelves()}
	out := []emit.File{{Path: "index.html", Content: written(indexPage, index)}}
	known := map[string]bool{}
	for _, c := range l.Components {
		known[c.Contract.Name] = true
	}
	for _, shelf := range index.Shelves {
		for _, c := range shelf.Components {
			one := page{Library: l, One: c, Props: propRows(c.Contract)}
			for _, name := range c.Contract.Components() {
				if known[name] {
					one.MadeOf = append(one.MadeOf, link{name, contract.Slug(name) + ".html"})
				}
			}
			for _, other := range l.Components {
				if slices.Contains(other.Contract.Components(), c.Contract.Name) {
					one.UsedBy = append(one.UsedBy, link{other.Contract.Name, contract.Slug(other.Contract.Name) + ".html"})
				}
			}
			out = append(out, emit.File{Path: "components/" + c.Slug + ".html", Content: written(componentTemplate, one)})
		}
	}
	return out
}

type page struct {
	Library
	Shelves []shelfPage
	One     componentPage
	Props   []propRow
	MadeOf  []link
	UsedBy  []link
}

type link struct{ Text, Address string }

type propRow struct{ Name, Type, Default, Purpose string }

func propRows(c *contract.Contract) (out []propRow) {
	for _, p := range c.Props {
		row := propRow{Name: p.Name, Type: p.Type.TypeScript(), Purpose: p.Purpose}
		if p.Required {
			row.Default = "required"
		} else if v := p.Default(); v != nil && p.Kind() != contract.ListKind && p.Kind() != contract.RichKind && p.Kind() != contract.ImageKind {
			row.Default = v.String()
		}
		if p.Deprecated != "" {
			row.Purpose = strings.TrimSpace(row.Purpose + " Deprecated: " + p.Deprecated)
		}
		out = append(out, row)
	}
	return out
}

func written(t *template.Template, p page) string {
	var b strings.Builder
	if err := t.Execute(&b, p); err != nil {
		panic(fmt.Errorf("page: %w", err)) // the templates ship with the program
	}
	return b.String()
}

const pageHead = `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
`

var indexPage = template.Must(template.New("index").Parse(pageHead + `<title>{{.Name}}{{with .Version}} {{.}}{{end}}</title>
<link rel="stylesheet" href="assets/site.css">
<body>
<div id="app">
<main>
<h1>{{.Name}}{{with .Version}} {{.}}{{end}}</h1>
{{range .Shelves}}<h2>{{with .Name}}{{.}}{{else}}On no shelf yet{{end}}</h2>
<ul>
{{range .Components}}<li><a href="components/{{.Slug}}.html">{{.Contract.Name}}</a>{{with .Contract.Purpose}}: {{.}}{{end}}</li>
{{end}}</ul>
{{end}}</main>
</div>
<script src="data/index.js"></script>
<script src="assets/site.js"></script>
</html>
`))

var componentTemplate = template.Must(template.New("component").Parse(pageHead + `<title>{{.One.Contract.Name}} · {{.Name}}</title>
<link rel="stylesheet" href="../assets/page.css">
<body>
<main>
<p><a href="../index.html">{{.Name}}</a></p>
<h1>{{.One.Contract.Name}}</h1>
<p class="quiet">{{.One.Status}}{{with .One.Version}} {{.}}{{end}}{{with .One.Shelf}} · shelf {{.}}{{end}}</p>
{{with .One.Contract.Deprecated}}<p><strong>Deprecated.</strong> {{.}}</p>
{{end}}{{with .One.Contract.Purpose}}<p>{{.}}</p>
{{end}}<p><a href="../index.html#/catalogue/{{.One.Slug}}">See it run, with its cases, states, access and code</a></p>
{{with .One.Contract.Do}}<h2>Do</h2>
<ul>
{{range .}}<li>{{.}}</li>
{{end}}</ul>
{{end}}{{with .One.Contract.Dont}}<h2>Don’t</h2>
<ul>
{{range .}}<li>{{.}}</li>
{{end}}</ul>
{{end}}{{with .Props}}<h2>Props</h2>
<table>
<thead><tr><th scope="col">Prop</th><th scope="col">Type</th><th scope="col">Default</th><th scope="col">What it is for</th></tr></thead>
<tbody>
{{range .}}<tr><th scope="row"><code>{{.Name}}</code></th><td><code>{{.Type}}</code></td><td><code>{{.Default}}</code></td><td>{{.Purpose}}</td></tr>
{{end}}</tbody>
</table>
{{end}}{{with .MadeOf}}<h2>Made of</h2>
<ul>
{{range .}}<li><a href="{{.Address}}">{{.Text}}</a></li>
{{end}}</ul>
{{end}}{{with .UsedBy}}<h2>Part of</h2>
<ul>
{{range .}}<li><a href="{{.Address}}">{{.Text}}</a></li>
{{end}}</ul>
{{end}}{{with .One.Contract.Links}}<h2>Further reading</h2>
<ul>
{{range .}}<li><a href="{{.Address}}">{{.Text}}</a></li>
{{end}}</ul>
{{end}}</main>
</html>
`))
