package token_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/token"
)

func met(t *testing.T, base, ours, theirs string) []token.Met {
	t.Helper()
	bytes := func(s string) []byte {
		if s == "" {
			return nil
		}
		return []byte(s)
	}
	out, found := token.Meet("f.tokens.json", bytes(base), bytes(ours), bytes(theirs))
	require.Empty(t, found)
	return out
}

// A designer's file and a developer's are held against each other token by token, not line by line.
func TestTokenFilesMeetByToken(t *testing.T) {
	base := `{"space":{"$type":"dimension","1":{"$value":"4px"},"2":{"$value":"8px","$description":"two"}}}`
	for name, c := range map[string]struct {
		ours, theirs string
		want         []string
	}{
		"laid out otherwise":          {base, "{\n  \"space\": { \"2\": {\"$description\": \"two\", \"$value\": \"8px\"}, \"1\": {\"$value\": \"4px\"}, \"$type\": \"dimension\" }\n}", nil},
		"a value":                     {base, strings.Replace(base, "4px", "5px", 1), []string{"space.1 theirs"}},
		"a description":               {strings.Replace(base, "two", "three", 1), base, []string{"space.2 ours"}},
		"what a group says":           {base, strings.Replace(base, "dimension", "number", 1), []string{"space.$type theirs"}},
		"each its own":                {strings.Replace(base, "4px", "5px", 1), strings.Replace(base, "8px", "9px", 1), []string{"space.1 ours", "space.2 theirs"}},
		"the same thing":              {strings.Replace(base, "4px", "5px", 1), strings.Replace(base, "4px", "5px", 1), nil},
		"the same token, not alike":   {strings.Replace(base, "4px", "5px", 1), strings.Replace(base, "4px", "6px", 1), []string{"space.1 both"}},
		"one taken away":              {base, `{"space":{"$type":"dimension","1":{"$value":"4px"}}}`, []string{"space.2 theirs"}},
		"one taken away, one changed": {strings.Replace(base, "8px", "9px", 1), `{"space":{"$type":"dimension","1":{"$value":"4px"}}}`, []string{"space.2 both"}},
		"a token with another name":   {base, strings.Replace(base, `"2":`, `"two":`, 1), []string{"space.two theirs from /space/2"}},
		"a file that is not there":    {base, "", []string{"space.$type theirs", "space.1 theirs", "space.2 theirs"}},
	} {
		var got []string
		for _, m := range met(t, base, c.ours, c.theirs) {
			line := m.Path + " " + m.Side()
			if m.From != "" {
				line += " from " + m.From
			}
			got = append(got, line)
		}
		assert.Equal(t, c.want, got, name)
	}
	group := `{"a":{"$type":"number","n":{"$value":2}},"b":{"x":{"$value":1}}}`
	for _, m := range met(t, group, group, `{"a":{"n":{"$value":2}},"b":{"$type":"number","x":{"$value":1}}}`) {
		assert.Empty(t, m.From, "what a group says is no token that was renamed")
	}
	two := `{"a":{"$value":"1px"},"b":{"$value":"1px"}}`
	for _, m := range met(t, two, two, `{"c":{"$value":"1px"}}`) {
		assert.Empty(t, m.From, "which of two was renamed nobody can tell")
	}
	resolver := `{"version":"2025-10-01","resolutionOrder":[{"type":"set","name":"a","sources":[]}]}`
	list := met(t, resolver, resolver, strings.Replace(resolver, `"a"`, `"b"`, 1))
	require.Len(t, list, 1)
	assert.Empty(t, list[0].At, "a resolver document is one thing")
	_, found := token.Meet("f.tokens.json", []byte("{"), nil, nil)
	assert.True(t, found.Failed())
}

func TestWhatIsTakenLeavesTheRest(t *testing.T) {
	ours := "{\n  \"space\": {\n    \"$type\": \"dimension\",\n    \"1\": { \"$value\": \"4px\" },\n    \"2\": { \"$value\": \"8px\" }\n  }\n}\n"
	for _, c := range []struct {
		theirs string
		places []string
		want   string
	}{
		{`{"space":{"1":{"$value":"5px"},"2":{"$value":"9px"}}}`, []string{"/space/1"}, strings.Replace(ours, "4px", "5px", 1)},
		{`{}`, []string{"/space/2"}, "{\n  \"space\": {\n    \"$type\": \"dimension\",\n    \"1\": { \"$value\": \"4px\" }\n  }\n}\n"},
		{`{}`, []string{"/space/2", "/space/1", "/space/$type", "/nothing/there"}, "{}\n"},
		{`{"a/b":{"c~":{"$value":1}}}`, []string{"/a~1b/c~0"}, strings.TrimSuffix(ours, "\n}\n") + ",\n  \"a/b\": {\n    \"c~\": { \"$value\": 1 }\n  }\n}\n"},
	} {
		got, found := token.Taken("f.tokens.json", []byte(ours), []byte(c.theirs), c.places)
		require.Empty(t, found)
		assert.Equal(t, c.want, string(got))
	}
	_, found := token.Taken("f.tokens.json", []byte(`{"a":{"$value":1}}`), []byte(`{"a":{"b":{"$value":1}}}`), []string{"/a/b"})
	assert.True(t, found.Failed(), "a token cannot hold another")
	made, _ := token.Taken("f.tokens.json", nil, []byte(`{"a":{"$value":1}}`), []string{"/a"})
	assert.Equal(t, "{\n  \"a\": { \"$value\": 1 }\n}\n", string(made))
}

// flat reads a token file without this package: every token as plain data, by its path.
func flat(t *testing.T, text []byte) map[string]string {
	t.Helper()
	var root map[string]any
	require.NoError(t, json.Unmarshal(text, &root))
	out := map[string]string{}
	var walk func(at string, n map[string]any)
	walk = func(at string, n map[string]any) {
		for name, v := range n {
			inner, object := v.(map[string]any)
			if _, token := inner["$value"]; object && !token {
				walk(at+"/"+name, inner)
				continue
			}
			said, _ := json.Marshal(v)
			out[at+"/"+name] = string(said)
		}
	}
	walk("", root)
	return out
}

// Of random edits on both sides each survives where the other side left the token alone, and what both changed is told: 2,000 pairs, against a plain reading of the files.
func TestEditsOfBothSidesSurvive(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 7))
	type tree map[string]map[string]int
	write := func(of tree) []byte {
		groups := map[string]any{}
		for g, tokens := range of {
			members := map[string]any{}
			for name, v := range tokens {
				members[name] = map[string]any{"$value": v}
			}
			if len(members) > 0 {
				groups[g] = members
			}
		}
		text, _ := json.Marshal(groups)
		return text
	}
	value := 0
	edited := func(of tree) tree {
		out := tree{}
		for g, tokens := range of {
			out[g] = map[string]int{}
			for name, v := range tokens {
				switch r.IntN(6) {
				case 0:
				case 1:
					value++
					out[g][name] = 1000 + value
				default:
					out[g][name] = v
				}
			}
			if r.IntN(3) == 0 {
				value++
				out[g][fmt.Sprint("new", r.IntN(3))] = 1000 + value
			}
		}
		return out
	}
	clashes := 0
	for range 2000 {
		base := tree{}
		for g := range 3 {
			base[fmt.Sprint("g", g)] = map[string]int{}
			for n := range r.IntN(5) {
				base[fmt.Sprint("g", g)][fmt.Sprint("t", n)] = n
			}
		}
		b, o, th := write(base), write(edited(base)), write(edited(base))
		list, found := token.Meet("f", b, o, th)
		require.Empty(t, found)
		places := map[string][]string{}
		both := map[string]bool{}
		for _, m := range list {
			places[m.Side()] = append(places[m.Side()], m.At)
			both[m.At] = m.Side() == "both"
			if m.From != "" {
				places[m.Side()] = append(places[m.Side()], m.From)
			}
		}
		mine, found := token.Taken("f", o, th, places["theirs"])
		require.Empty(t, found)
		yours, found := token.Taken("f", th, o, places["ours"])
		require.Empty(t, found)
		was, one, other, got, gotToo := flat(t, b), flat(t, o), flat(t, th), flat(t, mine), flat(t, yours)
		for _, at := range keys(was, one, other) {
			switch {
			case one[at] == other[at], was[at] == other[at]:
				assert.Equal(t, [2]string{one[at], one[at]}, [2]string{got[at], gotToo[at]}, at)
			case was[at] == one[at]:
				assert.Equal(t, [2]string{other[at], other[at]}, [2]string{got[at], gotToo[at]}, at)
			default:
				clashes++
				assert.True(t, both[at], "%s was changed by both, and nobody says so", at)
				assert.Equal(t, [2]string{one[at], other[at]}, [2]string{got[at], gotToo[at]}, at)
			}
		}
	}
	assert.Greater(t, clashes, 100, "the test has something to find")
}

func keys(maps ...map[string]string) (out []string) {
	seen := map[string]bool{}
	for _, m := range maps {
		for k := range m {
			if !seen[k] {
				seen[k] = true
				out = append(out, k)
			}
		}
	}
	return out
}

func TestWhatASideSaysIsBrief(t *testing.T) {
	for said, want := range map[string]string{
		`{ "$value": { "unit": "ms", "value": 420 } }`:                                      "420ms",
		`{ "$value": "{space.2}" }`:                                                         "{space.2}",
		`{ "$value": { "colorSpace": "srgb", "components": [1, 0, 0], "hex": "#ff0000" } }`: "#ff0000",
		`{ "$value": { "colorSpace": "oklch", "components": [0.5, 0.1, 148] } }`:            "color(oklch 0.5 0.1 148)",
		`{ "$value": { "colorSpace": "srgb", "components": [1, 0, 0], "alpha": 0.5 } }`:     `{ "colorSpace": "srgb", "components": [1, 0, 0], "alpha": 0.5 }`,
		`{ "$description": "two", "$value": { "unit": "px", "value": 8 } }`:                 `8px, $description "two"`,
		`{ "$value": [0.2, 0, 0, 1] }`:                                                      "[0.2, 0, 0, 1]",
		`"dimension"`:                                                                       `"dimension"`,
		``:                                                                                  "",
	} {
		assert.Equal(t, want, token.Brief(said), said)
	}
}

func FuzzMeet(f *testing.F) {
	f.Add(`{"a":{"$value":1}}`, `{"a":{"$value":2}}`, `{"b":{"c":{"$value":1}}}`)
	f.Fuzz(func(t *testing.T, base, ours, theirs string) {
		list, found := token.Meet("f", []byte(base), []byte(ours), []byte(theirs))
		if found.Failed() {
			return
		}
		var all []string
		for _, m := range list {
			token.Brief(m.Ours)
			if all = append(all, m.At); m.From != "" {
				all = append(all, m.From)
			}
		}
		got, found := token.Taken("f", []byte(ours), []byte(theirs), all)
		if found.Failed() {
			return
		}
		if left, found := token.Meet("f", got, got, []byte(theirs)); !found.Failed() {
			for _, m := range left {
				if strings.Count(m.At, "/") == 0 || m.Theirs != "" { // an empty group may be left of one that held nothing
					t.Errorf("after all was taken %q is left of %q and %q", m.At, ours, theirs)
				}
			}
		}
	})
}
