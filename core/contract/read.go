package contract

import (
	"encoding/json"

	"cobrik/core/problem"
	"cobrik/core/token"
	"cobrik/docs/formats"
)

var (
	limits = problem.Limits{Bytes: 8 << 20, Depth: 200}
	schema = problem.MustCompile("cobrik.contract-1.json", formats.Contract)
)

// Read reads a contract and lists everything wrong with it. With tokens, every
// value is checked too; nil leaves that out. The contract is nil on an error.
func Read(file string, text []byte, tokens *token.Set) (*Contract, problem.List) {
	if found := problem.CheckJSON(file, text, limits); found != nil {
		return nil, found
	}
	if found := schema.Validate(file, text); found != nil {
		return nil, found
	}
	c := new(Contract)
	if err := json.Unmarshal(text, c); err != nil {
		return nil, problem.List{{File: file, Rule: "contract-read", Severity: problem.Error, Message: err.Error()}}
	}
	found := c.Check(tokens).Locate(file, text)
	if found.Failed() {
		return nil, found
	}
	return c, found
}
