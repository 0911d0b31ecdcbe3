package problem

import (
	"bytes"
	"fmt"
	"math/big"
	"strings"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/santhosh-tekuri/jsonschema/v6/kind"
	"golang.org/x/text/language"
	"golang.org/x/text/message"
)

// Schema is a compiled JSON Schema (2020-12).
type Schema struct {
	compiled *jsonschema.Schema
	quick    *rule // nil when the schema is beyond it
}

// MustCompile compiles a schema that ships with the program.
func MustCompile(name string, text []byte) *Schema {
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	if err != nil {
		panic(fmt.Errorf("schema %s: %w", name, err))
	}
	c := jsonschema.NewCompiler()
	if err := c.AddResource(name, doc); err != nil {
		panic(fmt.Errorf("schema %s: %w", name, err))
	}
	return &Schema{c.MustCompile(name), quicken(text)}
}

// Compile compiles a schema that people wrote, of any draft; without one it is taken for 2020-12. It reads no other file:
// what it refers to has to be in it.
func Compile(name string, text []byte) (*Schema, error) {
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	if err != nil {
		return nil, err
	}
	c := jsonschema.NewCompiler()
	c.UseLoader(noLoader{})
	if err := c.AddResource(name, doc); err != nil {
		return nil, err
	}
	compiled, err := c.Compile(name)
	if err != nil {
		return nil, err
	}
	return &Schema{compiled: compiled}, nil
}

// noLoader finds nothing: a schema does not reach outside of itself.
type noLoader struct{}

func (noLoader) Load(url string) (any, error) {
	return nil, fmt.Errorf("it refers to %s, which is not in it", url)
}

// mostShown bounds the list: a file of the wrong kind breaks every rule.
const mostShown = 100

// Validate checks a JSON text, already known to be well formed, and lists every
// place where it leaves the schema.
func (s *Schema) Validate(file string, text []byte) List {
	value, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	if err != nil {
		return List{{File: file, Rule: "json-syntax", Severity: Error, Message: err.Error()}}
	}
	err = s.compiled.Validate(value)
	if err == nil {
		return nil
	}
	var found List
	if invalid, ok := err.(*jsonschema.ValidationError); ok {
		leaves(invalid, &found)
	} else {
		found.Errorf("schema", "", "", "%s", err)
	}
	if more := len(found) - mostShown; more > 0 {
		found = found[:mostShown]
		found.Errorf("schema", "", "mend the ones listed first", "and %d more places like these", more)
	}
	return found.Locate(file, text)
}

var english = message.NewPrinter(language.English)

func leaves(e *jsonschema.ValidationError, found *List) {
	if len(e.Causes) > 0 {
		for _, cause := range e.Causes {
			leaves(cause, found)
		}
		return
	}
	pointer := ""
	for _, step := range e.InstanceLocation {
		pointer += "/" + Token(step)
	}
	said, fix := e.ErrorKind.LocalizedString(english), ""
	switch k := e.ErrorKind.(type) {
	case *kind.Required:
		said, fix = "missing "+strings.Join(k.Missing, ", "), "add "+strings.Join(k.Missing, ", ")
	case *kind.AdditionalProperties:
		said, fix = "unknown "+strings.Join(k.Properties, ", "), "remove it, or check its spelling"
	case *kind.Const:
		said, fix = fmt.Sprintf("has the value %v", show(k.Got)), fmt.Sprintf("expected %v", show(k.Want))
	case *kind.Enum:
		want := make([]string, len(k.Want))
		for i, w := range k.Want {
			want[i] = show(w)
		}
		said, fix = "has the value "+show(k.Got), "expected one of "+strings.Join(want, ", ")
	case *kind.Type:
		said, fix = "is a "+k.Got, "expected "+strings.Join(k.Want, " or ")
	case *kind.Minimum:
		said, fix = "is "+number(k.Got), "expected at least "+number(k.Want)
	case *kind.Maximum:
		said, fix = "is "+number(k.Got), "expected at most "+number(k.Want)
	case *kind.Pattern:
		said, fix = "has the value "+show(k.Got), "expected the form "+k.Want
	}
	found.Errorf("schema", pointer, fix, "%s", said)
}

func number(n *big.Rat) string {
	return strings.TrimSuffix(strings.TrimRight(n.FloatString(4), "0"), ".")
}

func show(v any) string {
	if s, ok := v.(string); ok {
		if len(s) > 60 {
			s = s[:60] + "…"
		}
		return fmt.Sprintf("%q", s)
	}
	return fmt.Sprint(v)
}
