package survey_test

import (
	"fmt"
	"maps"
	"os"
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"cobrik/core/survey"
)

// checkProps holds the props of a find against what its copies were made of, and counts what should be a prop and what is right.
func checkProps(t *repeated, f survey.Find, colours bool, right, all *int) (wrong []string) {
	says := map[string]map[string]any{}
	for _, c := range t.copies {
		says[c.id] = c.says
	}
	expect := func(name, kind string, is func(p survey.Prop) bool) {
		*all++
		for _, p := range f.Props {
			if p.Kind == kind && is(p) {
				*right++
				return
			}
		}
		var got []string
		for _, p := range f.Props {
			got = append(got, fmt.Sprint(p.Name, " ", p.Kind, " ", p.Values))
		}
		wrong = append(wrong, fmt.Sprintf("%s: no %s for %s among\n      %s", f.ID, kind, name, strings.Join(got, "\n      ")))
	}
	partition := func(value func(id string) any) func(p survey.Prop) bool {
		return func(p survey.Prop) bool {
			to, from := map[string]string{}, map[string]string{}
			for _, c := range t.copies {
				a, b := fmt.Sprint(value(c.id)), fmt.Sprint(p.Values[c.id])
				if to[a] != "" && to[a] != b || from[b] != "" && from[b] != a {
					return false
				}
				to[a], from[b] = b, a
			}
			return true
		}
	}
	differ := func(name string) (out int) {
		seen := []any{}
		for _, c := range t.copies {
			if v := c.says[name]; v != nil && !contains(seen, v) {
				seen = append(seen, v)
			}
		}
		return len(seen)
	}
	for _, field := range t.recipe.fields {
		same := func(p survey.Prop) bool {
			for id, s := range says {
				if s[field.name] != nil && !reflect.DeepEqual(p.Values[id], s[field.name]) || s[field.name] == nil && p.Values[id] != nil {
					return false
				}
			}
			return true
		}
		there, missing := 0, 0
		for _, s := range says {
			if s[field.name] == nil {
				missing++
			} else {
				there++
			}
		}
		if field.optional && there > 0 && missing > 0 {
			expect("whether "+field.name+" is there", "flag", func(p survey.Prop) bool {
				for id, s := range says {
					if p.Values[id] != (s[field.name] != nil) {
						return false
					}
				}
				return true
			})
		}
		if differ(field.name) < 2 {
			continue
		}
		switch field.kind {
		case "title", "text", "small", "tag":
			expect(field.name, "text", same)
		case "number":
			expect(field.name, "number", same)
		case "picture":
			expect(field.name, "image", same)
		case "icon":
			expect(field.name, "icon", func(p survey.Prop) bool {
				for id, s := range says {
					if (s[field.name] == nil) != (p.Values[id] == nil) {
						return false
					}
				}
				return true
			})
		case "tags":
			expect(field.name, "list", func(p survey.Prop) bool {
				for id, s := range says {
					items, words := p.Values[id].([]any), s[field.name].([]any)
					if len(items) != len(words) {
						return false
					}
					for i, item := range items {
						if said, several := item.(map[string]any); several && !slices.Contains(slices.Collect(maps.Values(said)), words[i]) || !several && item != words[i] {
							return false
						}
					}
				}
				return true
			})
		}
	}
	if colours && len(t.recipe.tones) > 0 && differ("tone") > 1 {
		expect("the tone", "choice", partition(func(id string) any { return says[id]["tone"] }))
	}
	return wrong
}

func contains(seen []any, v any) bool {
	for _, s := range seen {
		if reflect.DeepEqual(s, v) {
			return true
		}
	}
	return false
}

// When this fails, the props that a survey proposes are of another kind than what differs, or say other things than the copies do.
func TestPropsAreWhatDiffers(t *testing.T) {
	for _, c := range []struct {
		name  string
		noise noise
	}{
		{"clean", noise{}},
		{"renamed, in another order", noise{rename: true, reorder: true}},
		{"optional", noise{optional: true}},
		{"all of it", noise{rename: true, reorder: true, optional: true, jitter: true, recolor: true}},
		{"ungrouped", noise{rename: true, reorder: true, optional: true, jitter: true, ungroup: true}},
	} {
		t.Run(c.name, func(t *testing.T) {
			right, all := 0, 0
			var wrong []string
			for seed := range uint64(60) {
				m := makeDocument(seed, 4, c.noise)
				for _, f := range survey.Read(m.doc, survey.Options{}).Finds {
					for _, one := range m.truth {
						ids := map[string]bool{}
						for _, copied := range one.copies {
							ids[copied.id] = true
						}
						same := len(f.Members) == len(one.copies)
						for _, member := range f.Members {
							same = same && ids[member.ID]
						}
						if same {
							for _, w := range checkProps(one, f, !c.noise.recolor, &right, &all) {
								wrong = append(wrong, fmt.Sprintf("seed %d: %s", seed, w))
							}
						}
					}
				}
			}
			t.Logf("%d of %d props are right", right, all)
			if os.Getenv("DBG_WRONG") != "" {
				t.Log(strings.Join(wrong, "\n"))
			}
			assert.Greater(t, all, 400)
			assert.GreaterOrEqual(t, float64(right), 0.95*float64(all))
		})
	}
}
