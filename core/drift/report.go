package drift

import (
	"fmt"
	"html/template"
	"strings"
	"time"
)

// Markdown writes a report as a page of text.
func (r Report) Markdown() string {
	var b strings.Builder
	fmt.Fprintf(&b, "# %s: drift\n\n%s\n", inMarkdown(r.Project), r.Between())
	fmt.Fprintf(&b, "\n%s\n", r.Summary())
	if len(r.To.Components) > 0 {
		b.WriteString("\n| Component | Release | Facts | Design moved | Contract moved | Code moved | Both | Apart for a reason |\n|---|---|--:|--:|--:|--:|--:|--:|\n")
		for _, row := range r.rows() {
			fmt.Fprintf(&b, "| %s |\n", strings.Join(append([]string{inMarkdown(row.Name), row.Release}, row.Numbers...), " | "))
		}
	}
	if len(r.Decided) > 0 {
		b.WriteString("\n## Decided meanwhile\n")
		for _, d := range r.Decided {
			fmt.Fprintf(&b, "\n- %s, %s (%s): %s", d.When.UTC().Format(time.DateOnly), inMarkdown(d.Of), inMarkdown(d.By), told(d))
			if d.Reason != "" {
				b.WriteString(" Why: " + inMarkdown(d.Reason))
			}
		}
		b.WriteString("\n")
	}
	b.WriteString("\n## From day to day\n\n| When | What | Level | Design | Contract | Code | Both |\n|---|---|--:|--:|--:|--:|--:|\n")
	for _, c := range r.Way {
		fmt.Fprintf(&b, "| %s | %s | %d of %d | %d | %d | %d | %d |\n", c.At.UTC().Format("2006-01-02 15:04"), inMarkdown(c.Why), c.Level, c.Of, c.Design, c.Contract, c.Code, c.Several)
	}
	return b.String()
}

// Between says which two states are compared.
func (r Report) Between() string {
	return fmt.Sprintf("From %s to %s (UTC).", r.From.At.UTC().Format("2006-01-02 15:04"), r.To.At.UTC().Format("2006-01-02 15:04"))
}

// Summary says in sentences what the numbers come to.
func (r Report) Summary() string {
	sum := r.To.Sum()
	return fmt.Sprintf("%d of %d components are level; %d of %d were. %d moves wait to be decided; %d did. The contracts say %d facts.",
		r.Level[1], len(r.To.Components), r.Level[0], len(r.From.Components), r.Open[1], r.Open[0], sum.Facts)
}

func told(r Ruling) string {
	count := map[Way]int{}
	var order []Way
	for _, d := range r.Decided {
		if count[d.Way] == 0 {
			order = append(order, d.Way)
		}
		count[d.Way]++
	}
	var out []string
	for _, w := range order {
		out = append(out, fmt.Sprintf("%d %s", count[w], strings.ToLower(ways[r.Lane][w])))
	}
	return strings.Join(out, ", ") + "."
}

// row is a component's line: what its numbers are, and in brackets what they were where that is something else.
type row struct {
	Name, Release string
	Numbers       []string
	Moved         bool
}

func (r Report) rows() (out []row) {
	before := map[string]Stand{}
	for _, c := range r.From.Components {
		before[c.Slug] = c
	}
	for _, c := range r.To.Components {
		was, known := before[c.Slug]
		one := row{Name: c.Name, Release: c.Version, Moved: known && was != c || !known}
		if c.Version == "" {
			one.Release = "draft"
		} else if !c.Released {
			one.Release += ", changed since"
		}
		for _, n := range [][2]int{{c.Facts, was.Facts}, {c.Design, was.Design}, {c.Contract, was.Contract}, {c.Code, was.Code}, {c.Several, was.Several}, {c.Apart, was.Apart}} {
			text := fmt.Sprint(n[0])
			if known && n[0] != n[1] {
				text += fmt.Sprintf(" (%d)", n[1])
			}
			one.Numbers = append(one.Numbers, text)
		}
		out = append(out, one)
	}
	return out
}

// HTML writes a report as a page that needs nothing else.
func (r Report) HTML() string {
	var b strings.Builder
	err := page.Execute(&b, map[string]any{"R": r, "Rows": r.rows(), "Plot": template.HTML(r.Plot()), "Told": told}) //nolint:gosec // the plot escapes what it writes
	if err != nil {
		return ""
	}
	return b.String()
}

var page = template.Must(template.New("").Funcs(template.FuncMap{
	"day": func(t time.Time) string { return t.UTC().Format("2006-01-02 15:04") }, "told": told,
}).Parse(`<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>{{.R.Project}}: drift</title>
<style>
body { max-width: 1000px; margin: 32px auto; padding: 0 16px; font: 15px/1.5 system-ui, sans-serif; color: #2b2520; background: #fffdf9 }
table { border-collapse: collapse; width: 100% }
th, td { padding: 4px 8px; border-bottom: 1px solid #ddd5c8; text-align: left }
td + td + td, th + th + th { text-align: right; font-variant-numeric: tabular-nums }
.moved td { background: #f6e7c1 }
svg { width: 100%; height: auto }
.list td, .list th { text-align: left }
</style>
<h1>{{.R.Project}}: drift</h1>
<p>{{.R.Between}} {{.R.Summary}}</p>
{{.Plot}}
<table>
<tr><th>Component<th>Release<th>Facts<th>Design moved<th>Contract moved<th>Code moved<th>Both<th>Apart for a reason
{{range .Rows}}<tr{{if .Moved}} class="moved"{{end}}><td>{{.Name}}<td>{{.Release}}{{range .Numbers}}<td>{{.}}{{end}}
{{end}}</table>
<p>What stands in brackets is what it was.</p>
{{if .R.Decided}}<h2>Decided meanwhile</h2>
<table class="list">
<tr><th>When<th>Component<th>By<th>What<th>Why
{{range .R.Decided}}<tr><td>{{day .When}}<td>{{.Of}}<td>{{.By}}<td>{{told .}}<td>{{.Reason}}
{{end}}</table>{{end}}
</html>
`))
