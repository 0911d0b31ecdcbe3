// Package content is what pages are filled with: records of files, what is in their fields, and what becomes of it when
// it is given to a component. It touches no file; what is read is input like any other.
package content

import (
	"bytes"
	"cmp"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math/big"
	"path"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"cobrik/core/problem"
)

// Limits of a source.
var Limits = problem.Limits{Bytes: 16 << 20, Depth: 32}

const (
	// MostRecords bounds the records of a source.
	MostRecords = 20_000
	mostFields  = 300
)

// Source is a file of records.
type Source struct {
	Name    string
	Records []Record
	Fields  []Field // in the order in which the records first have them
}

// Record is what a source says of one thing, by the paths of its fields: bed.name of an object in an object. Values are
// strings, json.Number, bool, nil for null, []any for lists; what a record does not say is not in it.
type Record map[string]any

// Read reads a source by the ending of its name: .csv as RFC 4180 has it, a record a line below their names; anything else
// as JSON: a list of objects, or an object that holds one.
func Read(name string, text []byte) (*Source, problem.List) {
	var found problem.List
	if len(text) > Limits.Bytes {
		found.Errorf("content-size", "", "split the file", "the file is larger than %d MB", Limits.Bytes>>20)
		return nil, found.Locate(name, nil)
	}
	s := &Source{Name: name}
	if isCSV(name) {
		s.Records, found = readCSV(name, text)
	} else {
		s.Records, found = readJSON(name, text)
	}
	if found.Failed() {
		return nil, found
	}
	if len(s.Records) > MostRecords {
		found.Errorf("content-records", "", "split the file", "there are %d records, and %d are read", len(s.Records), MostRecords)
		return nil, found
	}
	s.Fields = fieldsOf(s.Records)
	if len(s.Fields) > mostFields {
		found.Errorf("content-fields", "", "leave out what is not shown", "records have %d fields, and %d are read", len(s.Fields), mostFields)
		return nil, found
	}
	return s, found
}

func isCSV(name string) bool { return strings.EqualFold(path.Ext(name), ".csv") }

// readCSV reads comma-separated values: the first line names the fields. Each other one has as many (RFC 4180, 2).
func readCSV(name string, text []byte) ([]Record, problem.List) {
	var found problem.List
	at := func(line, column int, fix, format string, args ...any) {
		found = append(found, problem.Problem{Rule: "csv", Severity: problem.Error, File: name, Line: line, Column: column, Message: fmt.Sprintf(format, args...), Fix: fix})
	}
	if !utf8.Valid(text) {
		at(0, 0, "save it as UTF-8", "the file is not UTF-8")
		return nil, found
	}
	r := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(text, []byte("\xef\xbb\xbf"))))
	r.FieldsPerRecord = -1 // told below, all of them
	var names []string
	var out []Record
	for {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		var parse *csv.ParseError
		if errors.As(err, &parse) {
			at(parse.Line, parse.Column, "put a field with quotes or commas in quotes, and a quote twice", "%v", parse.Err)
			break
		}
		line, _ := r.FieldPos(0)
		if names == nil {
			names = slices.Clone(row)
			for i, n := range names {
				if names[i] = strings.TrimSpace(n); names[i] == "" {
					at(line, i+1, "name every column", "column %d has no name", i+1)
				} else if slices.Contains(names[:i], names[i]) {
					at(line, i+1, "give each column its own name", "two columns are called %q", names[i])
				}
			}
			continue
		}
		if len(row) != len(names) {
			if at(line, 0, "give each line as many fields", "line %d has %d fields, and there are %d names", line, len(row), len(names)); len(found) >= 50 {
				break
			}
			continue
		}
		record := Record{}
		for i, v := range row {
			record[names[i]] = v
		}
		out = append(out, record)
	}
	if names == nil && !found.Failed() {
		at(0, 0, "name the columns in the first line", "the file is empty")
	}
	return out, found
}

// readJSON reads a list of objects, or that of the one member of an object that is a list of objects.
func readJSON(name string, text []byte) ([]Record, problem.List) {
	found := problem.CheckJSON(name, text, Limits)
	if found.Failed() {
		return nil, found
	}
	d := json.NewDecoder(bytes.NewReader(text))
	d.UseNumber()
	var value any
	if err := d.Decode(&value); err != nil {
		found.Errorf("json", "", "", "%v", err)
		return nil, found
	}
	list, isList := value.([]any)
	if object, ok := value.(map[string]any); ok {
		var names []string
		for n, v := range object {
			if l, ok := v.([]any); ok && areObjects(l) {
				names, list = append(names, n), l
			}
		}
		if isList = len(names) == 1; len(names) > 1 {
			slices.Sort(names)
			found.Errorf("content-list", "", "keep each in a file of its own", "the file holds several lists of records: %s", strings.Join(names, ", "))
			return nil, found.Locate(name, text)
		}
	}
	if !isList {
		found.Errorf("content-list", "", "write the records as a list of objects", "the file holds no list of records")
		return nil, found.Locate(name, text)
	}
	var out []Record
	for i, item := range list {
		object, ok := item.(map[string]any)
		if !ok {
			found.Errorf("content-record", "/"+strconv.Itoa(i), "write every record as an object", "record %d is no object", i+1)
			continue
		}
		record := Record{}
		flatten(record, "", object)
		out = append(out, record)
	}
	return out, found.Locate(name, text)
}

func areObjects(list []any) bool {
	return len(list) > 0 && !slices.ContainsFunc(list, func(v any) bool { _, ok := v.(map[string]any); return !ok })
}

// flatten gives the members of an object by their paths; a picture, an object with an address and words, stays one.
func flatten(record Record, at string, object map[string]any) {
	for name, v := range object {
		p := name
		if at != "" {
			p = at + "." + name
		}
		if inner, ok := v.(map[string]any); ok && !isPicture(inner) {
			flatten(record, p, inner)
			continue
		}
		record[p] = v
	}
}

// isPicture tells whether an object is a picture: it has an address, src or url, and words for it, a size, or nothing else.
func isPicture(object map[string]any) bool {
	_, src := object["src"].(string)
	_, address := object["url"].(string)
	if !src && !address {
		return false
	}
	for name := range object {
		if !slices.Contains([]string{"src", "url", "alt", "width", "height"}, name) {
			return false
		}
	}
	return true
}

// Field is what the records of a source say in one place.
type Field struct {
	Path     string `json:"path"`
	Kind     Kind   `json:"kind"`
	Missing  int    `json:"missing" doc:"Records that do not say it, or say nothing"`
	Distinct int    `json:"distinct" doc:"Different values; at most 50 are counted"`
	Sample   string `json:"sample" doc:"The first that says something"`
	Longest  string `json:"longest" doc:"The longest, in letters"`
	Letters  int    `json:"letters" doc:"Of the longest"`
	Record   int    `json:"record" doc:"The record that says the longest, from 0"`
	Values   []any  `json:"values,omitempty" doc:"All of them, of a field of a few"`
}

// Kind is what a field holds, as far as every record agrees.
type Kind string

const (
	TextField    Kind = "text"
	RichField    Kind = "rich text" // HTML, or CommonMark with marks in it
	NumberField  Kind = "number"
	FlagField    Kind = "flag"
	DateField    Kind = "date" // RFC 3339, a full-date or a date-time
	LinkField    Kind = "link"
	PictureField Kind = "picture"
	ListField    Kind = "list"
	MixedField   Kind = "mixed" // several of these
	EmptyField   Kind = "empty" // nothing in any record
)

// few bounds the values of a field that are listed.
const few = 12

func fieldsOf(records []Record) []Field {
	at := map[string]int{}
	var out []Field
	var values [][]any
	for i, record := range records {
		paths := make([]string, 0, len(record))
		for p := range record {
			paths = append(paths, p)
		}
		slices.Sort(paths) // the order of an object's members says nothing
		for _, p := range paths {
			k, ok := at[p]
			if !ok {
				k = len(out)
				at[p] = k
				out = append(out, Field{Path: p, Kind: EmptyField})
				values = append(values, nil)
			}
			v := record[p]
			if isNothing(v) {
				continue
			}
			f := &out[k]
			text := plainText(v)
			if n := utf8.RuneCountInString(text); n > f.Letters || f.Sample == "" {
				f.Longest, f.Letters, f.Record = text, n, i
			}
			if f.Sample == "" {
				f.Sample = text
			}
			f.Kind = joined(f.Kind, kindOf(v))
			values[k] = append(values[k], v)
		}
	}
	for k := range out {
		f := &out[k]
		f.Missing = len(records) - len(values[k])
		seen := map[string]bool{}
		for _, v := range values[k] {
			key := fmt.Sprintf("%T %v", v, v)
			if len(seen) >= 50 || seen[key] {
				continue
			}
			seen[key] = true
			f.Values = append(f.Values, v)
		}
		if f.Distinct = len(seen); f.Distinct > few || f.Distinct == len(values[k]) && f.Distinct > 3 {
			f.Values = nil
		}
	}
	return out
}

// isNothing tells whether a value says nothing.
func isNothing(v any) bool {
	switch v := v.(type) {
	case nil:
		return true
	case string:
		return strings.TrimSpace(v) == ""
	case []any:
		return len(v) == 0
	}
	return false
}

// joined is the kind of a field in which one more value stands.
func joined(a, b Kind) Kind {
	switch {
	case a == EmptyField || a == b:
		return b
	case a == TextField && b == RichField || a == RichField && b == TextField:
		return RichField
	case isWords(a) && isWords(b): // an address or a date among texts is a text
		return TextField
	}
	return MixedField
}

func isWords(k Kind) bool {
	return slices.Contains([]Kind{TextField, RichField, DateField, LinkField}, k)
}

func kindOf(v any) Kind {
	switch v := v.(type) {
	case bool:
		return FlagField
	case json.Number:
		return NumberField
	case []any:
		return ListField
	case map[string]any:
		return PictureField
	case string:
		return kindOfText(v)
	}
	return TextField
}

func kindOfText(s string) Kind {
	s = strings.TrimSpace(s)
	switch {
	case s == "true" || s == "false":
		return FlagField
	case isNumber(s):
		return NumberField
	case isDate(s):
		return DateField
	case isPictureAddress(s):
		return PictureField
	case strings.HasPrefix(s, "https://") || strings.HasPrefix(s, "http://") || strings.HasPrefix(s, "mailto:"):
		if !strings.ContainsFunc(s, func(r rune) bool { return r <= ' ' }) {
			return LinkField
		}
	case hasMarks(s):
		return RichField
	}
	return TextField
}

// isNumber tells a number of JSON (RFC 8259, 6), which one with a zero before it is not: a house number, a plot's.
func isNumber(s string) bool {
	if s == "" || !json.Valid([]byte(s)) || strings.ContainsAny(s, "\"[{tfn") {
		return false
	}
	_, ok := new(big.Float).SetString(s)
	return ok
}

func isPictureAddress(s string) bool {
	if strings.HasPrefix(s, "data:image/") {
		return true
	}
	if strings.ContainsFunc(s, func(r rune) bool { return r <= ' ' }) {
		return false
	}
	bare, _, _ := strings.Cut(s, "?")
	return slices.Contains([]string{".svg", ".png", ".jpg", ".jpeg", ".webp", ".gif", ".avif"}, strings.ToLower(path.Ext(bare)))
}

// plainText is a value as a text prop shows it.
func plainText(v any) string {
	switch v := v.(type) {
	case string:
		return v
	case json.Number:
		return v.String()
	case bool:
		return strconv.FormatBool(v)
	case []any:
		words := make([]string, len(v))
		for i, one := range v {
			words[i] = plainText(one)
		}
		return strings.Join(words, ", ")
	case map[string]any:
		alt, _ := v["alt"].(string)
		src, _ := v["src"].(string)
		address, _ := v["url"].(string)
		return cmp.Or(alt, src, address)
	}
	return ""
}
