package problem

import (
	"encoding/xml"
	"fmt"
	"slices"
	"strings"
)

// JUnit writes problems as test results in XML, as build servers read them (common practice; the schema is Apache Ant's JUnit task's): a case a
// file, those of names that nothing is wrong with passing. Warnings are told as output of a case, errors as its failure.
func JUnit(tool string, list List, files []string) []byte {
	type failure struct {
		Message string `xml:"message,attr"`
		Type    string `xml:"type,attr"`
		Text    string `xml:",chardata"`
	}
	type testcase struct {
		Class   string   `xml:"classname,attr"`
		Name    string   `xml:"name,attr"`
		Time    string   `xml:"time,attr"`
		Failure *failure `xml:"failure,omitempty"`
		Out     string   `xml:"system-out,omitempty"`
	}
	type suite struct {
		XMLName  xml.Name   `xml:"testsuite"`
		Name     string     `xml:"name,attr"`
		Tests    int        `xml:"tests,attr"`
		Failures int        `xml:"failures,attr"`
		Errors   int        `xml:"errors,attr"`
		Cases    []testcase `xml:"testcase"`
	}
	names := slices.Clone(files)
	for _, p := range list {
		names = append(names, p.File)
	}
	slices.Sort(names)
	names = slices.Compact(names)
	out := suite{Name: tool}
	for _, name := range names {
		one := testcase{Class: tool, Name: name, Time: "0"}
		if name == "" {
			one.Name = "everything"
		}
		var failed, warned []string
		for _, p := range list {
			if p.File != name {
				continue
			}
			if p.Severity == Error {
				failed = append(failed, fmt.Sprintf("%s [%s]", p, p.Rule))
			} else {
				warned = append(warned, fmt.Sprintf("%s: %s [%s]", p.Severity, p, p.Rule))
			}
		}
		if failed != nil {
			out.Failures++
			one.Failure = &failure{Message: failed[0], Type: "error", Text: strings.Join(failed, "\n")}
		}
		one.Out = strings.Join(warned, "\n")
		out.Cases = append(out.Cases, one)
	}
	out.Tests = len(out.Cases)
	text, err := xml.MarshalIndent(out, "", "  ")
	if err != nil {
		panic(fmt.Errorf("JUnit: %w", err)) // plain data
	}
	return append([]byte(xml.Header), append(text, '\n')...)
}
