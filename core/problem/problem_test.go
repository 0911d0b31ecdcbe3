package problem_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/problem"
)

// The place of a JSON Pointer (RFC 6901) in random documents: the text at that
// line and column must begin with the value pointed at.
func TestLocateFindsTheValueOfEveryPointer(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	for range 200 {
		var places []string
		var value func(pointer string, depth int) any
		count := 0
		value = func(pointer string, depth int) any {
			places = append(places, pointer)
			count++
			switch kind := random.IntN(4); {
			case depth > 4 || kind == 0:
				return fmt.Sprintf("s\"%d\\", count)
			case kind == 1:
				return count
			case kind == 2:
				list := []any{}
				for i := range random.IntN(4) {
					list = append(list, value(fmt.Sprintf("%s/%d", pointer, i), depth+1))
				}
				return list
			}
			object := map[string]any{}
			for range random.IntN(4) {
				name := fmt.Sprintf("n/%d~ é", count)
				object[name] = value(pointer+"/"+problem.Token(name), depth+1)
			}
			return object
		}
		whole := value("", 0)
		text, err := json.MarshalIndent(whole, "", strings.Repeat(" ", random.IntN(3)))
		require.NoError(t, err)
		var list problem.List
		for _, p := range places {
			list.Errorf("r", p, "", "m")
		}
		lines := strings.Split(string(text), "\n")
		for _, p := range list.Locate("f", text) {
			at := lines[p.Line-1][p.Column-1:]
			want, err := json.Marshal(lookUp(whole, p.Pointer))
			require.NoError(t, err)
			first := string(want[:1])
			assert.True(t, strings.HasPrefix(at, first), "%s is said to be at %d:%d, where %q stands", p.Pointer, p.Line, p.Column, at)
			if first != "{" && first != "[" {
				assert.True(t, strings.HasPrefix(at, string(want)), "%s: %q", p.Pointer, at)
			}
		}
	}
}

func lookUp(v any, pointer string) any {
	for _, step := range strings.Split(pointer, "/")[1:] {
		step = strings.NewReplacer("~1", "/", "~0", "~").Replace(step)
		switch in := v.(type) {
		case map[string]any:
			v = in[step]
		case []any:
			var i int
			_, _ = fmt.Sscan(step, &i)
			v = in[i]
		}
	}
	return v
}

func TestAProblemReadsAsOneLine(t *testing.T) {
	p := problem.Problem{File: "a.json", Line: 3, Column: 4, Pointer: "/x", Message: "is wrong", Fix: "mend it"}
	assert.Equal(t, "a.json:3:4: is wrong (at /x); mend it", p.String())
	var l problem.List
	l.Warnf("r", "", "", "only a warning")
	assert.NoError(t, l.Err(), "a warning must not stop the work")
	l.Errorf("r", "", "", "an error")
	assert.Error(t, l.Err())
}
