package survey

import (
	"fmt"
	"html/template"
	"net/url"
	"strings"

	"cobrik/core/design"
)

// Question is a doubt that is put to whoever designs.
type Question struct {
	Doubt
	Note string // what is asked beside it; empty for the doubt alone
}

// asked are the questions of one rule.
type asked struct {
	DoubtRule
	Questions []question
}

type question struct {
	Number  int
	Where   string
	Message string
	Note    string
	Picture template.URL
	Width   float64
	Height  float64
}

// Pictures of questions are as large as drawn, up to largestShown px on a side; of more than mostShown the first alone have one.
const (
	largestShown = 360.0
	mostShown    = 200
)

func (o *questionnaire) of(list []Question) (out []asked) {
	number := 0
	for _, rule := range DoubtRules {
		group := asked{DoubtRule: rule}
		for _, q := range list {
			if q.Rule != rule.ID {
				continue
			}
			number++
			one := question{Number: number, Where: o.where[q.Layer], Message: q.Message, Note: q.Note}
			if l := o.shown[q.Layer]; l != nil && number <= mostShown && l.Bounds.Width > 0 && l.Bounds.Height > 0 {
				scale := min(1, largestShown/max(l.Bounds.Width, l.Bounds.Height))
				one.Width, one.Height = l.Bounds.Width*scale, l.Bounds.Height*scale
				one.Picture = template.URL("data:image/svg+xml," + url.PathEscape(o.doc.Picture(l)))
			}
			group.Questions = append(group.Questions, one)
		}
		if len(group.Questions) > 0 {
			out = append(out, group)
		}
	}
	return out
}

// questionnaire knows where layers are, and what is drawn of each: itself, or what holds it where it is too small to be made out.
type questionnaire struct {
	doc   *design.Document
	where map[string]string
	shown map[string]*design.Layer
}

func newQuestionnaire(doc *design.Document) *questionnaire {
	const madeOut = 24
	o := &questionnaire{doc, map[string]string{}, map[string]*design.Layer{}}
	var put func(l, parent *design.Layer, where string)
	put = func(l, parent *design.Layer, where string) {
		o.where[l.ID], o.shown[l.ID] = where, l
		if parent != nil && (l.Hidden || min(l.Bounds.Width, l.Bounds.Height) < madeOut) {
			o.shown[l.ID] = o.shown[parent.ID]
		}
		for _, c := range l.Children {
			put(c, l, where)
		}
	}
	for _, p := range doc.Pages {
		for _, l := range p.Layers {
			put(l, nil, p.Name)
		}
	}
	for _, f := range doc.Families {
		for _, v := range f.Variants {
			put(v.Root, nil, f.Name)
		}
	}
	return o
}

// QuestionsMarkdown writes questions as one page of Markdown (CommonMark), with pictures.
func QuestionsMarkdown(doc *design.Document, list []Question) string {
	var b strings.Builder
	fmt.Fprintf(&b, "# Questions on %s\n", markdownText(doc.Name))
	if len(list) == 0 {
		b.WriteString("\nThere are none.\n")
	}
	for _, group := range newQuestionnaire(doc).of(list) {
		fmt.Fprintf(&b, "\n## %s\n\n%s %s\n", group.Title, group.Why, group.Fix)
		for _, q := range group.Questions {
			fmt.Fprintf(&b, "\n%d. **%s**: %s\n", q.Number, markdownText(q.Where), markdownText(q.Message))
			if q.Note != "" {
				fmt.Fprintf(&b, "\n   %s\n", markdownText(q.Note))
			}
			if q.Picture != "" {
				fmt.Fprintf(&b, "\n   ![%s](%s)\n", "question "+fmt.Sprint(q.Number), strings.NewReplacer("(", "%28", ")", "%29").Replace(string(q.Picture)))
			}
		}
	}
	return b.String()
}

// markdownText escapes what Markdown takes for marks (CommonMark 0.31, 2.4), in one line.
func markdownText(s string) string {
	var b strings.Builder
	for _, r := range strings.Join(strings.Fields(s), " ") {
		if strings.ContainsRune("\\`*_{}[]<>()#+-.!|~&", r) {
			b.WriteByte('\\')
		}
		b.WriteRune(r)
	}
	return b.String()
}

var questionsPage = template.Must(template.New("questions").Parse(`<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>Questions on {{.Name}}</title>
<style>
body { max-width: 46rem; margin: 2rem auto; padding: 0 1rem; font: 1rem/1.5 system-ui, sans-serif; color: #26221d; background: #fdfaf4; }
h2 { margin: 2.5rem 0 0; font-size: 1.2rem; }
p { margin: 0.25rem 0; }
ol { padding: 0; list-style: none; }
li { margin: 1rem 0; padding: 1rem 0 0; border-top: 1px solid #cfc6b8; }
img { display: block; max-width: 100%; margin-top: 0.75rem; border: 1px solid #cfc6b8; background: #fff; }
@media print { li { break-inside: avoid; } }
</style>
</head>
<body>
<main>
<h1>Questions on {{.Name}}</h1>
{{range .Groups}}<section>
<h2>{{.Title}}</h2>
<p>{{.Why}} {{.Fix}}</p>
<ol>
{{range .Questions}}<li value="{{.Number}}"><strong>{{.Number}} · {{.Where}}</strong><p>{{.Message}}</p>{{if .Note}}<p>{{.Note}}</p>{{end}}{{if .Picture}}<img src="{{.Picture}}" alt="What question {{.Number}} is about, as drawn" width="{{printf "%.0f" .Width}}" height="{{printf "%.0f" .Height}}">{{end}}</li>
{{end}}</ol>
</section>
{{else}}<p>There are none.</p>
{{end}}</main>
</body>
</html>
`))

// QuestionsHTML writes questions as one page of HTML, with pictures and nothing to fetch.
func QuestionsHTML(doc *design.Document, list []Question) (string, error) {
	var b strings.Builder
	err := questionsPage.Execute(&b, map[string]any{"Name": doc.Name, "Groups": newQuestionnaire(doc).of(list)})
	return b.String(), err
}
