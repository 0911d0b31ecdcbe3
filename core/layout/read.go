package layout

import (
	"encoding/json"
	"fmt"

	"cobrik/core/problem"
	"cobrik/docs/formats"
)

// Limits of a tree that is read from outside. A node takes two levels of JSON.
var Limits = problem.Limits{Bytes: 32 << 20, Depth: 2*MaxDepth + 4}

var schema = problem.MustCompile("cobrik.layout-1.json", formats.Layout)

// Style is CSS properties with CSS values, as written.
type Style map[string]string

// UnmarshalJSON reads an object of strings and numbers.
func (s *Style) UnmarshalJSON(text []byte) error {
	var raw map[string]any
	if err := json.Unmarshal(text, &raw); err != nil {
		return err
	}
	*s = make(Style, len(raw))
	for property, value := range raw {
		switch v := value.(type) {
		case string:
			(*s)[property] = v
		case float64:
			(*s)[property] = fmt.Sprint(v)
		default:
			return fmt.Errorf("the value of %q is neither text nor a number", property)
		}
	}
	return nil
}

// Read reads a layout tree and lists everything wrong with its syntax; styles
// are checked when it is solved. The tree is nil on an error.
func Read(file string, text []byte) (*Node, problem.List) {
	if found := problem.CheckJSON(file, text, Limits); found != nil {
		return nil, found
	}
	if found := schema.Validate(file, text); found != nil {
		return nil, found
	}
	n := new(Node)
	if err := json.Unmarshal(text, n); err != nil {
		return nil, problem.List{{File: file, Rule: "layout-read", Severity: problem.Error, Message: err.Error()}}
	}
	return n, nil
}
