package survey_test

import (
	"encoding/json"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
	"cobrik/core/font"
	"cobrik/core/survey"
	"cobrik/web/reference"
)

// drawnBy runs a library of the npm registry in Chromium and reads the SVG that an expression gives.
func drawnBy(t *testing.T, library, expression string) *design.Document {
	t.Helper()
	script, err := os.ReadFile("../../web/node_modules/" + library)
	require.NoError(t, err, "make web installs it")
	quoted, err := json.Marshal(string(script))
	require.NoError(t, err)
	svg := reference.InChromium[string](t, "", "<div id=at style='width:640px'></div>", `(async () => { (0, eval)(`+string(quoted)+`); `+expression+` })()`)
	doc, found := design.ImportSVG("drawn.svg", []byte(svg), font.Shipped())
	require.NotNil(t, doc, found)
	return doc
}

// textsOf lists the words in the copies of a find.
func textsOf(doc *design.Document, f survey.Find) (out []string) {
	for _, m := range f.Members {
		for _, id := range m.Layers {
			l, _ := doc.Layer(id)
			l.Walk(func(c *design.Layer, _, _ float64) {
				if c.Text != nil {
					out = append(out, c.Text.Content)
				}
			})
		}
	}
	return out
}

func findWith(doc *design.Document, r survey.Reading, words ...string) *survey.Find {
	i := slices.IndexFunc(r.Finds, func(f survey.Find) bool {
		texts := textsOf(doc, f)
		return !slices.ContainsFunc(words, func(w string) bool { return !slices.Contains(texts, w) })
	})
	if i < 0 {
		return nil
	}
	return &r.Finds[i]
}

// When this fails, the bars, ticks or legend of a chart that a library drew are not told as what repeats in it.
func TestPartsOfAChartAreFound(t *testing.T) {
	doc := drawnBy(t, "frappe-charts/dist/frappe-charts.min.umd.js", `
		new frappe.Chart("#at", { type: "bar", height: 300, animate: 0, data: { labels: ["Mon", "Tue", "Wed", "Thu", "Fri"], datasets: [{ name: "Bed", values: [12, 40, 25, 30, 18] }, { name: "Canal side", values: [22, 10, 35, 20, 28] }] } });
		for (let n = 0; n < 200 && document.querySelectorAll("#at rect.bar").length < 10; n++) await new Promise(requestAnimationFrame);
		const svg = document.querySelector("#at svg");
		svg.setAttribute("xmlns", "http://www.w3.org/2000/svg");
		return new XMLSerializer().serializeToString(svg);`)
	got := survey.Read(doc, survey.Options{})
	for _, f := range got.Finds {
		t.Log(f.ID, f.Kind, len(f.Members), strings.Join(textsOf(doc, f), "|"))
	}
	if days := findWith(doc, got, "Mon", "Tue", "Wed", "Thu", "Fri"); assert.NotNil(t, days, "ticks") {
		assert.Len(t, days.Members, 5)
	}
	if legend := findWith(doc, got, "Bed", "Canal side"); assert.NotNil(t, legend, "legend") {
		assert.Len(t, legend.Members, 2)
	}
	assert.True(t, slices.ContainsFunc(got.Finds, func(f survey.Find) bool { return len(f.Members) == 10 && len(textsOf(doc, f)) == 0 }), "ten bars")
}

// When this fails, the boxes of a diagram that a library drew are not told as one thing that repeats.
func TestBoxesOfADiagramAreFound(t *testing.T) {
	doc := drawnBy(t, "railroad-diagrams/railroad-diagrams.js", `
		const svg = Diagram(Choice(0, "sow", "plant", "rest"), NonTerminal("water"), OneOrMore(Sequence("weed", NonTerminal("look")), "again"), "reap").toSVG();
		document.body.append(svg);
		svg.setAttribute("xmlns", "http://www.w3.org/2000/svg");
		return new XMLSerializer().serializeToString(svg);`)
	got := survey.Read(doc, survey.Options{})
	if boxes := findWith(doc, got, "sow", "plant", "rest", "weed", "again", "reap"); assert.NotNil(t, boxes) {
		assert.Len(t, textsOf(doc, *boxes), len(boxes.Members), "each holds one word")
		assert.GreaterOrEqual(t, len(boxes.Members), 6)
	}
}

// When this fails, a page of things that have nothing in common is told to repeat something.
func TestUnlikeThingsAreNoFinds(t *testing.T) {
	pages := 0
	for seed := range uint64(120) {
		doc := makeDocument(seed, 0, noise{rename: seed%2 == 1, jitter: seed%3 == 1}).doc
		for _, f := range survey.Read(doc, survey.Options{}).Finds {
			chips := !slices.ContainsFunc(f.Members, func(m survey.Member) bool { return !strings.HasPrefix(m.ID, "tag-") })
			assert.True(t, chips, "seed %d: %s", seed, f.ID)
		}
		pages += len(doc.Pages)
	}
	assert.Equal(t, 360, pages)
}
