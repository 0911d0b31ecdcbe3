package output

import (
	"slices"
	"strings"

	"cobrik/core/token"
)

// Step is one step of a token's way into a file.
type Step struct {
	Says  string   `json:"says" doc:"What was done"`
	Lines []string `json:"lines" doc:"What the token came to; a composite in parts has a line a part"`
}

// Way shows how a token becomes what an output writes: as it is written, what it leads to,
// each step that changed it, and what it is called. Nil when the output leaves it out or
// its settings cannot be.
func Way(o *Output, set *token.Set, path string) []Step {
	var way []Step
	var at []string
	items := along(o, set, path, func(says string, items []item) {
		now := values(items)
		switch {
		case way == nil:
			t := items[0].token
			if way = []Step{{"as written", []string{t.Text()}}}; len(t.Uses()) > 0 {
				way = append(way, Step{"leads to", now})
			}
		case !slices.Equal(now, at):
			way = append(way, Step{says, now})
		}
		at = now
	})
	if items == nil {
		return nil
	}
	return append(way, Step{"named", names(o, items)})
}

// Ends tells what a token comes to in an output, a line a name: "tagInk: #2f6132, by
// reference to leaf.700". Nil when the output leaves it out or its settings cannot be.
func Ends(o *Output, set *token.Set, path string) []string {
	items := along(o, set, path, func(string, []item) {})
	lines := make([]string, len(items))
	for n, name := range names(o, items) {
		lines[n] = name + ": " + token.Writer{}.CSS(items[n].value)
		if to, _, _ := strings.Cut(items[n].value.Alias, parting); to != "" {
			lines[n] += ", by reference to " + to
		}
	}
	return lines
}

// along takes one token through an output's steps, calling back before the first and after each.
func along(o *Output, set *token.Set, path string, after func(says string, items []item)) []item {
	if o.Check().Failed() {
		return nil
	}
	items := slices.DeleteFunc(start(o, set), func(i item) bool { return i.token.Path != path })
	if len(items) == 0 {
		return nil
	}
	after("", items)
	for _, s := range o.steps() {
		items = s.all(items)
		after(s.says, items)
	}
	return items
}

func names(o *Output, items []item) []string {
	out := make([]string, len(items))
	for i := range items {
		out[i] = languageOf(o.Language).name(items[i].name)
	}
	return out
}

// values says what items have come to, each after the part it is.
func values(items []item) []string {
	out := make([]string, len(items))
	for i, one := range items {
		out[i] = strings.TrimSpace(one.part + " " + token.Writer{}.CSS(one.value))
	}
	return out
}
