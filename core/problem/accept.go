package problem

import (
	"bytes"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/go-json-experiment/json/jsontext"
)

// rule is a JSON Schema made ready to hold a text against while it is read, in one pass
// that builds nothing. It knows what our schemas are written with; a test holds it and
// the full validator to the same answers.
type rule struct {
	is         *rule  // this one; the rest is empty
	kinds      string // first letters of the JSON values allowed: o a s n b; empty for all
	members    map[string]member
	required   uint64
	closed     bool // no other members
	others     *rule
	names      *regexp.Regexp
	minMembers int
	maxMembers int
	items      *rule
	minItems   int
	maxItems   int
	unique     bool
	words      [][]byte // enum, or const, of texts
	minLength  int
	maxLength  int
	pattern    *regexp.Regexp
	integer    bool
	min, max   *float64
	above      *float64
	whens      []whenIs
}

type member struct {
	rule *rule
	bit  uint64
}

// whenIs asks for members where another one is a word, or is not there.
type whenIs struct {
	bit      uint64 // of the member
	word     string
	required uint64
}

// Accepts tells whether a text is one JSON value within the limits that the schema
// takes. It says nothing of what is wrong: Validate does. A text that it cannot judge is not
// accepted.
func (s *Schema) Accepts(text []byte, limits Limits) bool {
	if s.quick == nil || len(text) > limits.Bytes {
		return false
	}
	d := jsontext.NewDecoder(bytes.NewBuffer(text))
	r := reading{d: d, depth: limits.Depth}
	return r.value(s.quick) && len(bytes.TrimSpace(text[d.InputOffset():])) == 0
}

type reading struct {
	d     *jsontext.Decoder
	depth int
	last  []byte // the text that was read last, without its quotes
}

// resolved follows references.
func (r *rule) resolved() *rule {
	for r.is != nil {
		r = r.is
	}
	return r
}

func (r *reading) value(want *rule) bool {
	want = want.resolved()
	kind := r.d.PeekKind()
	letter := kindLetters[kind]
	if letter == 0 || want.kinds != "" && strings.IndexByte(want.kinds, letter) < 0 || len(want.words) > 0 && letter != 's' {
		return false
	}
	switch kind {
	case '{':
		return r.object(want)
	case '[':
		return r.array(want)
	case '"':
		return r.text(want)
	}
	raw, err := r.d.ReadValue()
	if err != nil {
		return false
	}
	if kind == '0' {
		return want.number(raw)
	}
	return true
}

var kindLetters = map[jsontext.Kind]byte{'{': 'o', '[': 'a', '"': 's', '0': 'n', 't': 'b', 'f': 'b', 'n': 'z'}

func (r *reading) object(want *rule) bool {
	if _, err := r.d.ReadToken(); err != nil || r.d.StackDepth() > r.depth {
		return false
	}
	var seen, holding uint64
	count := 0
	for r.d.PeekKind() == '"' {
		name, ok := r.string()
		if !ok {
			return false
		}
		count++
		m, known := want.members[string(name)]
		if want.names != nil && !want.names.Match(name) {
			return false
		}
		switch {
		case known:
			seen |= m.bit
		case want.closed:
			return false
		case want.others != nil:
			m.rule = want.others
		default:
			m.rule = &rule{}
		}
		isText := r.d.PeekKind() == '"'
		if !r.value(m.rule) {
			return false
		}
		for i, w := range want.whens {
			if known && m.bit == w.bit && isText && string(r.last) == w.word {
				holding |= 1 << i
			}
		}
	}
	if tok, err := r.d.ReadToken(); err != nil || tok.Kind() != '}' {
		return false
	}
	for i, w := range want.whens {
		// What is not there keeps any rule for it (JSON Schema Core, 10.3.2.1).
		if (holding&(1<<i) != 0 || seen&w.bit == 0) && seen&w.required != w.required {
			return false
		}
	}
	return seen&want.required == want.required && count >= want.minMembers && (want.maxMembers == 0 || count <= want.maxMembers)
}

func (r *reading) array(want *rule) bool {
	if _, err := r.d.ReadToken(); err != nil || r.d.StackDepth() > r.depth {
		return false
	}
	items := want.items
	if items == nil {
		items = &rule{}
	}
	count := 0
	var seen []string
	for {
		kind := r.d.PeekKind()
		if kind == ']' || kind == 0 {
			break
		}
		count++
		if !r.value(items) {
			return false
		}
		if want.unique {
			if slices.Contains(seen, string(r.last)) {
				return false
			}
			seen = append(seen, string(r.last))
		}
	}
	if tok, err := r.d.ReadToken(); err != nil || tok.Kind() != ']' {
		return false
	}
	return count >= want.minItems && (want.maxItems == 0 || count <= want.maxItems)
}

// string reads a text without its quotes.
func (r *reading) string() ([]byte, bool) {
	raw, err := r.d.ReadValue()
	if err != nil {
		return nil, false
	}
	if bytes.IndexByte(raw, '\\') < 0 {
		return raw[1 : len(raw)-1], true
	}
	plain, err := jsontext.AppendUnquote(nil, raw)
	return plain, err == nil
}

func (r *reading) text(want *rule) bool {
	s, ok := r.string()
	if !ok {
		return false
	}
	r.last = s
	if len(want.words) > 0 && !slices.ContainsFunc(want.words, func(w []byte) bool { return bytes.Equal(w, s) }) {
		return false
	}
	if want.minLength > 0 || want.maxLength > 0 {
		n := utf8.RuneCount(s)
		if n < want.minLength || want.maxLength > 0 && n > want.maxLength {
			return false
		}
	}
	return want.pattern == nil || want.pattern.Match(s)
}

func (want *rule) number(raw []byte) bool {
	n, err := strconv.ParseFloat(string(raw), 64)
	switch {
	case err != nil:
		return false
	case want.integer && n != float64(int64(n)):
		return false
	case want.min != nil && n < *want.min, want.max != nil && n > *want.max, want.above != nil && n <= *want.above:
		return false
	}
	return true
}

// quicken makes a schema ready; nil when it holds a keyword that is not known here.
func quicken(text []byte) *rule {
	var root map[string]any
	if json.Unmarshal(text, &root) != nil {
		return nil
	}
	q := quickener{root: root, refs: map[string]*rule{}}
	r, err := q.rule(root)
	if err != nil {
		return nil
	}
	return r
}

type quickener struct {
	root map[string]any
	refs map[string]*rule
}

func (q *quickener) rule(schema any) (*rule, error) {
	r := new(rule)
	return r, q.fill(r, schema)
}

func (q *quickener) fill(r *rule, schema any) error {
	object, ok := schema.(map[string]any)
	if !ok {
		return fmt.Errorf("schema %v", schema)
	}
	if ref, ok := object["$ref"].(string); ok {
		known := q.refs[ref]
		if known == nil {
			var at any = q.root
			for _, step := range strings.Split(strings.TrimPrefix(ref, "#/"), "/") {
				parent, _ := at.(map[string]any)
				at = parent[step]
			}
			known = new(rule)
			q.refs[ref] = known
			if err := q.fill(known, at); err != nil {
				return err
			}
		}
		if len(object) > 1 && (len(object) > 2 || object["description"] == nil) {
			return fmt.Errorf("more beside %s", ref)
		}
		r.is = known
		return nil
	}
	for _, keyword := range []string{"properties", "required"} { // in this order: required are bits of properties
		if v, ok := object[keyword]; ok {
			if err := q.keyword(r, keyword, v); err != nil {
				return err
			}
		}
	}
	for keyword, v := range object {
		if keyword == "properties" || keyword == "required" {
			continue
		}
		if err := q.keyword(r, keyword, v); err != nil {
			return err
		}
	}
	return nil
}

func (q *quickener) keyword(r *rule, keyword string, v any) error {
	number, _ := v.(float64)
	switch keyword {
	case "$schema", "$id", "$defs", "title", "description":
	case "type":
		return r.setTypes(v)
	case "properties":
		r.members = map[string]member{}
		for i, name := range sortedNames(v) {
			one, err := q.rule(v.(map[string]any)[name])
			if err != nil || i > 63 {
				return fmt.Errorf("property %s: %w", name, err)
			}
			r.members[name] = member{one, 1 << i}
		}
	case "required":
		bits, err := r.bits(v)
		r.required = bits
		return err
	case "additionalProperties":
		if v == false {
			r.closed = true
			return nil
		}
		others, err := q.rule(v)
		r.others = others
		return err
	case "propertyNames":
		names, err := q.rule(v)
		if err != nil || names.resolved().pattern == nil {
			return fmt.Errorf("propertyNames: %w", err)
		}
		r.names = names.resolved().pattern
	case "minProperties":
		r.minMembers = int(number)
	case "maxProperties":
		r.maxMembers = int(number)
	case "items":
		items, err := q.rule(v)
		r.items = items
		return err
	case "minItems":
		r.minItems = int(number)
	case "maxItems":
		r.maxItems = int(number)
	case "uniqueItems":
		r.unique = v == true // of texts: see the test
	case "minLength":
		r.minLength = int(number)
	case "maxLength":
		r.maxLength = int(number)
	case "minimum":
		r.min = &number
	case "maximum":
		r.max = &number
	case "exclusiveMinimum":
		r.above = &number
	case "pattern":
		p, err := regexp.Compile(v.(string))
		r.pattern = p
		return err
	case "const":
		return r.setWords([]any{v})
	case "enum":
		return r.setWords(v)
	case "allOf":
		return r.setWhens(v)
	default:
		return fmt.Errorf("keyword %s", keyword)
	}
	return nil
}

func (r *rule) setTypes(v any) error {
	names, many := v.([]any)
	if !many {
		names = []any{v}
	}
	for _, name := range names {
		letter, ok := map[string]string{"object": "o", "array": "a", "string": "s", "number": "n", "integer": "n", "boolean": "b"}[fmt.Sprint(name)]
		if !ok {
			return fmt.Errorf("type %v", name)
		}
		r.kinds += letter
		r.integer = name == "integer"
	}
	return nil
}

func (r *rule) setWords(v any) error {
	list, _ := v.([]any)
	for _, one := range list {
		word, ok := one.(string)
		if !ok {
			return fmt.Errorf("the word %v", one)
		}
		r.words = append(r.words, []byte(word))
	}
	return nil
}

func (r *rule) bits(v any) (bits uint64, err error) {
	list, _ := v.([]any)
	for _, name := range list {
		m, ok := r.members[fmt.Sprint(name)]
		if !ok {
			return 0, fmt.Errorf("required %v", name)
		}
		bits |= m.bit
	}
	return bits, nil
}

// setWhens reads conditions of one form: if a member is a word, others are required.
func (r *rule) setWhens(v any) error {
	list, _ := v.([]any)
	for _, one := range list {
		var form struct {
			If struct {
				Properties map[string]struct {
					Const string `json:"const"`
				} `json:"properties"`
			} `json:"if"`
			Then struct {
				Required []any `json:"required"`
			} `json:"then"`
		}
		text, err := json.Marshal(one)
		if err != nil {
			return err
		}
		d := json.NewDecoder(bytes.NewReader(text))
		d.DisallowUnknownFields()
		if err := d.Decode(&form); err != nil || len(form.If.Properties) != 1 {
			return fmt.Errorf("allOf %s", text)
		}
		for name, is := range form.If.Properties {
			required, err := r.bits(form.Then.Required)
			if err != nil {
				return err
			}
			r.whens = append(r.whens, whenIs{r.members[name].bit, is.Const, required})
		}
	}
	return nil
}

func sortedNames(v any) []string {
	object, _ := v.(map[string]any)
	names := make([]string, 0, len(object))
	for name := range object {
		names = append(names, name)
	}
	slices.Sort(names)
	return names
}
