package survey_test

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"cobrik/core/design"
	"cobrik/core/survey"
)

// score counts pairs of copies: told as one find, and meant as one component. Chips, which are lists in copies, are neither.
type score struct{ right, told, meant int }

func (s score) precision() float64 {
	if s.told == 0 {
		return 1
	}
	return float64(s.right) / float64(s.told)
}

func (s score) recall() float64 {
	if s.meant == 0 {
		return 1
	}
	return float64(s.right) / float64(s.meant)
}

func compareFinds(m made, r survey.Reading, s *score) (wrong []string) {
	of := map[string]*repeated{}
	for _, t := range m.truth {
		n := len(t.copies)
		s.meant += n * (n - 1) / 2
		for _, c := range t.copies {
			slices.Sort(c.leaves)
			of[strings.Join(c.leaves, " ")] = t
		}
	}
	inside := map[string]bool{} // tags and chips that copies hold
	for _, p := range m.doc.Pages {
		for _, top := range p.Layers {
			top.Walk(func(l *design.Layer, _, _ float64) {
				if strings.HasPrefix(l.ID, "tag") {
					inside[l.ID] = true
				}
			})
		}
	}
	for _, f := range r.Finds {
		if !slices.ContainsFunc(f.Members, func(c survey.Member) bool { return !inside[c.ID] }) {
			continue
		}
		count := map[*repeated]int{}
		for _, c := range f.Members {
			count[of[leavesOf(m.doc, c.Layers)]]++
		}
		n := len(f.Members)
		s.told += n * (n - 1) / 2
		for t, k := range count {
			if t != nil {
				s.right += k * (k - 1) / 2
				if k < len(t.copies) || len(count) > 1 {
					wrong = append(wrong, fmt.Sprintf("%s has %d of the %d copies of %s, of %d", f.ID, k, len(t.copies), t.recipe.name, n))
				}
			} else {
				for _, c := range f.Members {
					if of[leavesOf(m.doc, c.Layers)] == nil {
						wrong = append(wrong, fmt.Sprintf("%s (%s): %d of %d members are no copies of anything, %s of %s", f.ID, f.Name, k, n, c.ID, c.Layers))
					}
				}
			}
		}
	}
	return wrong
}

// When this fails, a survey misses copies of a component, or takes unlike things for one.
func TestRepeatsAreFound(t *testing.T) {
	rounds := 60
	for _, c := range []struct {
		name  string
		noise noise
		least float64
	}{
		{"clean", noise{}, 1},
		{"renamed", noise{rename: true}, 1},
		{"in another order", noise{reorder: true}, 1},
		{"ungrouped", noise{ungroup: true}, 0.95},
		{"optional", noise{optional: true}, 0.95},
		{"moved", noise{jitter: true}, 0.95},
		{"recoloured", noise{recolor: true}, 0.95},
		{"all of it", noise{rename: true, reorder: true, optional: true, jitter: true, recolor: true}, 0.95},
		{"all of it, ungrouped", noise{rename: true, reorder: true, optional: true, jitter: true, recolor: true, ungroup: true}, 0.95},
	} {
		t.Run(c.name, func(t *testing.T) {
			var s score
			var wrong []string
			for seed := range uint64(rounds) {
				m := makeDocument(seed, 4, c.noise)
				for _, w := range compareFinds(m, survey.Read(m.doc, survey.Options{}), &s) {
					wrong = append(wrong, fmt.Sprintf("seed %d: %s", seed, w))
				}
			}
			t.Logf("precision %.4f, recall %.4f of %d pairs", s.precision(), s.recall(), s.meant)
			if os.Getenv("DBG_WRONG") != "" {
				t.Log(strings.Join(wrong, "\n"))
			}
			assert.GreaterOrEqual(t, s.precision(), c.least)
			assert.GreaterOrEqual(t, s.recall(), c.least)
		})
	}
}
