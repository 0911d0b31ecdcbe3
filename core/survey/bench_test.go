package survey_test

import (
	"encoding/json"
	"fmt"
	"testing"
	"time"

	"cobrik/core/design"
	"cobrik/core/survey"
	"cobrik/core/token"
	"cobrik/demo/demotest"
)

// manyLayers makes a document of about so many layers, on as many pages as it takes.
func manyLayers(layers int) *design.Document {
	n := noise{rename: true, reorder: true, optional: true, jitter: true, recolor: true}
	doc := makeDocument(0, 12, n).doc
	doc.Pages = nil
	count := 0
	for seed := uint64(0); count < layers; seed++ {
		for _, p := range makeDocument(seed, 12, n).doc.Pages {
			for _, l := range p.Layers {
				l.Walk(func(c *design.Layer, _, _ float64) {
					c.ID = fmt.Sprintf("%s.%d", c.ID, seed)
					count++
				})
			}
			p.ID = fmt.Sprintf("%s.%d", p.ID, seed)
			doc.Pages = append(doc.Pages, p)
			if count >= layers {
				break
			}
		}
	}
	return doc
}

// The survey of a document, and as a ratio to reading its file with encoding/json.
func BenchmarkSurvey(b *testing.B) {
	_, tokens := demotest.Furrow(b, 3)
	for _, c := range []struct {
		layers int
		tokens *token.Set
	}{{1_000, nil}, {10_000, nil}, {100_000, nil}, {10_000, tokens}, {100_000, tokens}} {
		layers, name := c.layers, fmt.Sprint(c.layers)
		if c.tokens != nil {
			name += " against tokens"
		}
		b.Run(name, func(b *testing.B) {
			doc := manyLayers(layers)
			text, err := json.Marshal(doc)
			if err != nil {
				b.Fatal(err)
			}
			decode := time.Duration(0)
			for range 3 {
				start := time.Now()
				if err := json.Unmarshal(text, new(design.Document)); err != nil {
					b.Fatal(err)
				}
				if took := time.Since(start); decode == 0 || took < decode {
					decode = took
				}
			}
			b.ReportAllocs()
			finds := 0
			for b.Loop() {
				finds = len(survey.Read(doc, survey.Options{Tokens: c.tokens}).Finds)
			}
			b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/float64(decode.Nanoseconds()), "×json")
			b.ReportMetric(float64(finds), "finds")
			b.ReportMetric(float64(b.Elapsed().Microseconds())/float64(b.N)/float64(layers), "µs/layer")
		})
	}
}
