package problem

import (
	"encoding/json"
	"fmt"
	"net/url"
	"path/filepath"
	"slices"
)

// SARIF writes problems as a log of the Static Analysis Results Interchange Format (OASIS SARIF
// 2.1.0), of one run of a tool: the same bytes for the same problems.
func SARIF(tool string, list List) []byte {
	type text struct {
		Text string `json:"text"`
	}
	type region struct {
		StartLine   int `json:"startLine"`
		StartColumn int `json:"startColumn,omitempty"`
	}
	type artifact struct {
		URI string `json:"uri"`
	}
	type physical struct {
		Artifact artifact `json:"artifactLocation"`
		Region   *region  `json:"region,omitempty"`
	}
	type logical struct {
		Name string `json:"fullyQualifiedName"`
	}
	type location struct {
		Physical *physical `json:"physicalLocation,omitempty"`
		Logical  []logical `json:"logicalLocations,omitempty"`
	}
	type result struct {
		Rule      string     `json:"ruleId"`
		Index     int        `json:"ruleIndex"`
		Level     string     `json:"level"`
		Message   text       `json:"message"`
		Locations []location `json:"locations,omitempty"`
	}
	type rule struct {
		ID string `json:"id"`
	}
	rules, results := []rule{}, []result{}
	for _, p := range list {
		index := slices.Index(rules, rule{p.Rule})
		if index < 0 {
			index = len(rules)
			rules = append(rules, rule{p.Rule})
		}
		r := result{Rule: p.Rule, Index: index, Level: string(p.Severity), Message: text{p.Message}}
		if p.Fix != "" {
			r.Message.Text += "; " + p.Fix
		}
		var at location
		if p.File != "" {
			at.Physical = &physical{Artifact: artifact{uriOf(p.File)}}
			if p.Line > 0 {
				at.Physical.Region = &region{p.Line, p.Column}
			}
		}
		if p.Pointer != "" {
			at.Logical = []logical{{p.Pointer}}
		}
		if at.Physical != nil || at.Logical != nil {
			r.Locations = []location{at}
		}
		results = append(results, r)
	}
	out, err := json.MarshalIndent(map[string]any{
		"$schema": "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json",
		"version": "2.1.0",
		"runs": []any{map[string]any{
			"tool":       map[string]any{"driver": map[string]any{"name": tool, "rules": rules}},
			"columnKind": "utf16CodeUnits",
			"results":    results,
		}},
	}, "", "  ")
	if err != nil {
		panic(fmt.Errorf("SARIF: %w", err)) // strings and numbers always encode
	}
	return append(out, '\n')
}

// uriOf writes a file's name as a URI reference (RFC 3986, 4.2).
func uriOf(file string) string {
	return (&url.URL{Path: filepath.ToSlash(file)}).String()
}
