package content

import (
	"encoding/json"
	"fmt"

	"cobrik/core/problem"
)

// Validate holds a source's text against a JSON Schema, of any draft: a JSON file as it is, a CSV file as the list of its
// records, every value a text. What is wrong is told by its place.
func Validate(schemaName string, schema []byte, name string, text []byte) problem.List {
	var found problem.List
	if bad := problem.CheckJSON(schemaName, schema, Limits); bad.Failed() {
		return bad
	}
	compiled, err := problem.Compile("content.json", schema)
	if err != nil {
		found = append(found, problem.Problem{Rule: "schema", Severity: problem.Error, File: schemaName, Message: fmt.Sprintf("the schema cannot be used: %v", err), Fix: "write it as JSON Schema has it"})
		return found
	}
	if isCSV(name) {
		records, bad := readCSV(name, text)
		if bad.Failed() {
			return bad
		}
		if records == nil {
			records = []Record{}
		}
		written, err := json.MarshalIndent(records, "", " ") // a schema is held to what is read
		if err != nil {
			found.Errorf("csv", "", "", "%v", err)
			return found
		}
		text = written
	} else if bad := problem.CheckJSON(name, text, Limits); bad.Failed() {
		return bad
	}
	return compiled.Validate(name, text)
}
