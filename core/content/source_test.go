package content_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/content"
	"cobrik/web/reference"
)

func read(t testing.TB, name, text string) *content.Source {
	t.Helper()
	s, found := content.Read(name, []byte(text))
	require.False(t, found.Failed(), "%v", found)
	return s
}

// RFC 4180, 2: rules 1 to 7, by their numbers.
func TestCommaSeparatedValuesAreRead(t *testing.T) {
	for rule, k := range map[string]struct{ text, want string }{
		"1: records on lines of their own":         {"a,b\r\naaa,bbb\r\nzzz,yyy\r\n", `[{"a":"aaa","b":"bbb"},{"a":"zzz","b":"yyy"}]`},
		"2: no break after the last":               {"a,b\r\naaa,bbb\r\nzzz,yyy", `[{"a":"aaa","b":"bbb"},{"a":"zzz","b":"yyy"}]`},
		"4: spaces are part of a field":            {"a,b\r\n a , b\r\n", `[{"a":" a ","b":" b"}]`},
		"5: fields may be in quotes":               {"a,b\r\n\"aaa\",bbb\r\n", `[{"a":"aaa","b":"bbb"}]`},
		"6: breaks, quotes and commas in quotes":   {"a,b\r\n\"a\r\na\",\"b,b\"\r\n", `[{"a":"a\na","b":"b,b"}]`},
		"7: a quote in quotes is two":              {"a\r\n\"a\"\"a\"\r\n", `[{"a":"a\"a"}]`},
		"lines that end as elsewhere":              {"a,b\n1,2\n", `[{"a":"1","b":"2"}]`},
		"a mark of its encoding":                   {"\ufeffa\r\n1\r\n", `[{"a":"1"}]`},
		"names alone":                              {"a,b\r\n", `null`},
		"nothing between commas":                   {"a,b,c\r\n,,\r\n", `[{"a":"","b":"","c":""}]`},
		"names in quotes, with blanks around them": {"\"a,b\", c \r\n1,2\r\n", `[{"a,b":"1","c":"2"}]`},
	} {
		s := read(t, "beds.csv", k.text)
		got, err := json.Marshal(s.Records)
		require.NoError(t, err)
		assert.Equal(t, k.want, string(got), rule)
	}
	for what, k := range map[string]struct {
		text  string
		lines []int
	}{
		"rule 4: each line has as many": {"a,b\r\n1\r\n1,2\r\n1,2,3\r\n", []int{2, 4}},
		"a quote in a plain field":      {"a\r\nx\"y\r\n", []int{2}},
		"words after a quote":           {"a\r\n\"x\"y\r\n", []int{2}},
		"a quote that is never closed":  {"a\r\n\"x\r\n", []int{2}},
		"two columns of a name":         {"a,a\r\n1,2\r\n", []int{1}},
		"a column of no name":           {"a,\r\n1,2\r\n", []int{1}},
		"nothing":                       {"", []int{0}},
		"what is not UTF-8":             {"a\r\n\xff\r\n", []int{0}},
	} {
		_, found := content.Read("beds.csv", []byte(k.text))
		var lines []int
		for _, p := range found {
			lines = append(lines, p.Line)
			assert.NotEmpty(t, p.Fix, what)
		}
		assert.Equal(t, k.lines, lines, "%s: %v", what, found)
	}
}

// Random tables, written as RFC 4180 has it, are read as csv-parse reads them.
func TestTablesAreReadAsElsewhere(t *testing.T) {
	r := rand.New(rand.NewPCG(4180, 1))
	words := []string{"bed", "", " plot ", "a,b", "say \"it\"", "line\nbreak", "\"", "ä 豆", "'", ",", "\"\"", "x\ty"}
	var texts []string
	for range 400 {
		columns, rows := 1+r.IntN(4), 1+r.IntN(5)
		var b strings.Builder
		for c := range columns {
			fmt.Fprintf(&b, "%sc%d", map[bool]string{true: ","}[c > 0], c)
		}
		b.WriteString("\r\n")
		for range rows {
			for c := range columns {
				if c > 0 {
					b.WriteByte(',')
				}
				w := words[r.IntN(len(words))]
				if strings.ContainsAny(w, ",\"\n") || r.IntN(3) == 0 || columns == 1 { // a lone empty field is a blank line otherwise
					w = `"` + strings.ReplaceAll(w, `"`, `""`) + `"`
				}
				b.WriteString(w)
			}
			b.WriteString("\r\n")
		}
		texts = append(texts, b.String())
	}
	for i, rows := range reference.Ask[[][][]string](t, "csv.mjs", map[string]any{"texts": texts}) {
		require.NotNil(t, rows, texts[i])
		var want []content.Record
		for _, row := range rows[1:] {
			record := content.Record{}
			for c, v := range row {
				record[rows[0][c]] = v
			}
			want = append(want, record)
		}
		require.Equal(t, want, read(t, "t.csv", texts[i]).Records, "%q", texts[i])
	}
}

func TestRecordsAreReadFromJSON(t *testing.T) {
	want := []content.Record{{"name": "Plot 41", "bed.soil": "loam", "count": json.Number("3"), "tags": []any{"a", "b"}, "photo": map[string]any{"src": "/b.svg", "alt": "A bed"}, "gone": nil}}
	record := `{"name":"Plot 41","bed":{"soil":"loam"},"count":3,"tags":["a","b"],"photo":{"src":"/b.svg","alt":"A bed"},"gone":null}`
	for _, text := range []string{"[" + record + "]", `{"plots":[` + record + `],"next":"/plots?page=2","total":1}`} {
		assert.Equal(t, want, read(t, "plots.json", text).Records)
	}
	for text, says := range map[string]string{
		``: "", `{`: "", `3`: "no list of records", `{"a":1}`: "no list of records", `{"a":[{}],"b":[{}]}`: "several lists of records: a, b", `[1]`: "record 1 is no object",
		`[{"a":1,"a":2}]`: "", strings.Repeat("[", 40) + strings.Repeat("]", 40): "", `[` + strings.Repeat(`{"a":1},`, 20_000) + `{"a":1}]`: "20001 records",
	} {
		s, found := content.Read("x.json", []byte(text))
		assert.Nil(t, s)
		assert.True(t, found.Failed())
		assert.Contains(t, found.Error(), says)
	}
	assert.Empty(t, read(t, "none.json", "[]").Records)
}

func TestFieldsAreTold(t *testing.T) {
	s := read(t, "plots.json", `[
		{"name":"Plot 41","note":"Mind the **canal**","count":3,"open":true,"due":"2026-11-28","photo":"/bed.svg","href":"https://example.org","crop":"ripe","tags":["a"],"mixed":1,"number":"041","none":""},
		{"name":"A plot with a far longer name","note":"plain","count":12.5,"open":false,"due":"2026-11-28T10:00:00Z","photo":{"src":"/b.png","alt":"A bed"},"href":"https://example.org/2","crop":"sown","tags":[],"mixed":"x","number":"042","none":null},
		{"name":"Plot 7","crop":"ripe","note":"<p>Water</p>","html":"2 < 3 and 4 > 3"}]`)
	kinds := map[string]content.Field{}
	for _, f := range s.Fields {
		kinds[f.Path] = f
	}
	for path, kind := range map[string]content.Kind{"name": "text", "note": "rich text", "count": "number", "open": "flag", "due": "date", "photo": "picture", "href": "link", "crop": "text", "tags": "list", "mixed": "mixed", "number": "text", "none": "empty", "html": "text"} {
		assert.Equal(t, kind, kinds[path].Kind, path)
	}
	f := kinds["name"]
	assert.Equal(t, [4]any{"Plot 41", "A plot with a far longer name", 29, 1}, [4]any{f.Sample, f.Longest, f.Letters, f.Record})
	assert.Zero(t, f.Missing)
	assert.Equal(t, 0, read(t, "two.csv", "a\r\nxy\r\nzw\r\n").Fields[0].Record, "of two as long, the first is shown")
	assert.Equal(t, 1, kinds["count"].Missing)
	assert.Equal(t, 3, kinds["none"].Missing)
	assert.Equal(t, []any{"ripe", "sown"}, kinds["crop"].Values)
	assert.Equal(t, 2, kinds["crop"].Distinct)
	assert.Equal(t, "/bed.svg", kinds["photo"].Longest)
}

// Schemas are held to the tests that two packages carry: the official suite of draft 4 (npm: json-schema-test-suite), and those that
// santhosh-tekuri/jsonschema has besides for 2020-12.
func TestSchemasAreHeldToTheirTestSuites(t *testing.T) {
	ran := 0
	suite := func(dir, dialect string, skip ...string) {
		files, err := filepath.Glob(filepath.Join(dir, "*.json"))
		require.NoError(t, err)
		require.NotEmpty(t, files, dir)
		for _, file := range files {
			text, err := os.ReadFile(file)
			require.NoError(t, err)
			var groups []struct {
				Description string
				Schema      json.RawMessage
				Tests       []struct {
					Description string
					Data        json.RawMessage
					Valid       bool
				}
			}
			require.NoError(t, json.Unmarshal(text, &groups))
			for _, g := range groups {
				schema := g.Schema
				var object map[string]json.RawMessage
				if json.Unmarshal(schema, &object) == nil && object["$schema"] == nil {
					object["$schema"] = json.RawMessage(dialect)
					schema, err = json.Marshal(object)
					require.NoError(t, err)
				}
				if strings.Contains(string(schema), "http://localhost:1234") || strings.Contains(string(schema), `"$ref":"http`) {
					continue // of other files
				}
				for _, one := range g.Tests {
					found := content.Validate("schema.json", schema, "data.json", one.Data)
					assert.Equal(t, one.Valid, !found.Failed(), "%s: %s: %s: %v", filepath.Base(file), g.Description, one.Description, found)
					ran++
				}
			}
		}
	}
	suite("../../web/node_modules/json-schema-test-suite/tests/draft4", `"http://json-schema.org/draft-04/schema#"`)
	out, err := exec.Command("go", "list", "-m", "-f", "{{.Dir}}", "github.com/santhosh-tekuri/jsonschema/v6").Output()
	require.NoError(t, err)
	suite(filepath.Join(strings.TrimSpace(string(out)), "testdata/Extra-Test-Suite/tests/draft2020-12"), `"https://json-schema.org/draft/2020-12/schema"`)
	assert.Greater(t, ran, 250)
	t.Logf("%d tests", ran)
}

func TestRecordsAreHeldToASchema(t *testing.T) {
	schema := []byte(`{"type":"array","items":{"required":["name"],"properties":{"name":{"type":"string","minLength":1}}}}`)
	found := content.Validate("s.json", schema, "plots.json", []byte("[\n {\"name\": \"a\"},\n {\"title\": \"b\"}]"))
	require.Len(t, found, 1)
	assert.Equal(t, 3, found[0].Line, "nobody finds the record: %v", found)
	assert.Empty(t, content.Validate("s.json", schema, "plots.csv", []byte("name\r\na\r\n")))
	assert.True(t, content.Validate("s.json", schema, "plots.csv", []byte("name\r\n\"\"\r\n")).Failed())
	for _, bad := range []string{"{", `{"$ref":"https://example.org/other.json"}`, `{"$ref":"file:///etc/passwd"}`, `{"type":"no such type"}`} {
		assert.True(t, content.Validate("s.json", []byte(bad), "plots.json", []byte("[]")).Failed(), bad)
	}
}

func FuzzRead(f *testing.F) {
	f.Add("x.csv", []byte("a,b\r\n1,\"2\"\r\n"))
	f.Add("x.json", []byte(`[{"a":{"b":[1,null,{"src":"x"}]}}]`))
	f.Fuzz(func(t *testing.T, name string, text []byte) {
		s, found := content.Read(name, text)
		if !found.Failed() {
			require.NotNil(t, s)
			for _, field := range s.Fields {
				assert.LessOrEqual(t, field.Missing, len(s.Records))
			}
		}
	})
}
