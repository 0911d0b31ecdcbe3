package problem_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"cobrik/core/problem"
)

var small = problem.Limits{Bytes: 1000, Depth: 8}

// Each keyword the one-pass check knows, held to the full validator (JSON Schema 2020-12) on
// values on both sides of it. What the check takes and the validator does not would be read
// into a design unseen.
func TestEveryKeywordIsHeld(t *testing.T) {
	values := []string{
		`{}`, `[]`, `""`, `"a"`, `"ab"`, `"éé"`, `"abcd"`, `"\u0061"`, `"A"`, `0`, `1`, `1.5`, `1.0`, `-1`, `3`, `1e2`, `true`, `false`, `null`,
		`["a"]`, `["a","b"]`, `["a","a"]`, `["a","b","c"]`, `["a","b","a"]`, `[1]`, `[1,"a"]`, `[{}]`, `[[]]`,
		`{"a":1}`, `{"a":"x"}`, `{"b":1}`, `{"a":1,"b":2}`, `{"a":"x","b":"y"}`, `{"a":"on"}`, `{"a":"on","b":1}`, `{"b":1,"a":"on"}`, `{"\u0061":"on"}`,
		`{"a":1,"b":2,"c":3}`, `{"A":1}`, `{"":1}`, `{"a":{"a":{"a":"x"}}}`, `{"a":{"a":{"a":1}}}`, `{"a":{"a":"on"}}`,
	}
	for _, schema := range []string{
		`{}`,
		`{"type":"object"}`, `{"type":"array"}`, `{"type":"string"}`, `{"type":"number"}`, `{"type":"integer"}`, `{"type":"boolean"}`, `{"type":["string","number"]}`,
		`{"properties":{"a":{"type":"number"}}}`, `{"properties":{"a":{"type":"number"}},"required":["a"]}`,
		`{"type":"object","properties":{"a":{},"b":{}},"required":["a","b"]}`,
		`{"properties":{"a":{}},"additionalProperties":false}`, `{"properties":{"a":{}},"additionalProperties":{"type":"string"}}`,
		`{"propertyNames":{"pattern":"^[a-z]+$"}}`, `{"minProperties":1}`, `{"maxProperties":1}`, `{"minProperties":2,"maxProperties":2}`,
		`{"items":{"type":"string"}}`, `{"minItems":1}`, `{"maxItems":1}`, `{"type":"array","items":{"type":"string"},"uniqueItems":true}`,
		`{"minLength":1}`, `{"maxLength":2}`, `{"minLength":2,"maxLength":2}`, `{"type":"string","pattern":"^[a-z]+$"}`,
		`{"minimum":1}`, `{"maximum":1}`, `{"exclusiveMinimum":1}`, `{"type":"integer","minimum":0,"maximum":3}`,
		`{"const":"a"}`, `{"enum":["a","ab"]}`,
		`{"properties":{"a":{"$ref":"#/$defs/n"}},"$defs":{"n":{"type":"object","properties":{"a":{"$ref":"#/$defs/n"}},"additionalProperties":false}}}`,
		`{"$defs":{"t":{"type":"string"}},"properties":{"a":{"$ref":"#/$defs/t","description":"said"}}}`,
		`{"properties":{"a":{},"b":{}},"allOf":[{"if":{"properties":{"a":{"const":"on"}}},"then":{"required":["b"]}}]}`,
		`{"properties":{"a":{},"b":{}},"required":["a"],"allOf":[{"if":{"properties":{"a":{"const":"on"}}},"then":{"required":["b"]}}]}`,
	} {
		s := problem.MustCompile("s.json", []byte(schema))
		taken := 0
		for _, v := range values {
			want := len(s.Validate("v.json", []byte(v))) == 0
			got := s.Accepts([]byte(v), small)
			assert.False(t, got && !want, "%s takes %s", schema, v)
			if v != "null" { // read as nothing, so left to the full validator
				assert.Equal(t, want, got, "%s on %s", schema, v)
			}
			if got {
				taken++
			}
		}
		assert.Positive(t, taken, "%s takes nothing at all", schema)
	}
}

// A schema with a keyword that is not known is never accepted by, however right the text.
func TestWhatItCannotJudgeIsNotAccepted(t *testing.T) {
	for _, schema := range []string{`{"multipleOf":2}`, `{"not":{"type":"string"}}`, `{"oneOf":[{}]}`, `{"enum":[1]}`, `{"dependentRequired":{}}`, `{"additionalProperties":true}`} {
		s := problem.MustCompile("s.json", []byte(schema))
		assert.False(t, s.Accepts([]byte(`2`), small), schema)
	}
	any := problem.MustCompile("s.json", []byte(`{}`))
	for text, want := range map[string]bool{
		`{"a":1}`: true, ` [1] `: true, `{"a":1,"a":2}`: false, `{"a":1} 2`: false, `{"a":1`: false, `{a:1}`: false, `[1,]`: false, "\"\xff\"": false, ``: false,
		`[[[[[[[[1]]]]]]]]`: true, `[[[[[[[[[1]]]]]]]]]`: false,
	} {
		assert.Equal(t, want, any.Accepts([]byte(text), small), text)
	}
}
