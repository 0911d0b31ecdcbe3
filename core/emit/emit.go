// Package emit holds what every target shares: the files it writes and the
// names it gives. Below it, ir lowers a contract for any target, printer lays code
// out, and each target is a package.
package emit

import (
	"encoding/json"
	"strings"

	"golang.org/x/text/unicode/norm"

	"cobrik/core/contract"
)

// File is one emitted source file.
type File struct {
	Path    string `json:"path" doc:"Relative, with forward slashes"`
	Content string `json:"content"`
}

// Indented writes data as indented JSON.
func Indented(v any) string {
	var b strings.Builder
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	e.SetIndent("", "  ")
	if err := e.Encode(v); err != nil {
		panic(err) // plain structs always encode
	}
	return b.String()
}

// Tokens is what a component's files ask of the project's tokens.
type Tokens interface {
	// Property gives the custom property a token is written as: --space-2.
	Property(path string) string
	// Sheet writes the tokens named, and all that they refer to, in all themes.
	Sheet(paths []string) string
}

// Kebab turns a component's name into words joined by hyphens, in the letters that
// addresses and package names take: "CropTag" is "crop-tag", "Größe" "grosse".
// A name of none of these is "component".
func Kebab(name string) string {
	ascii := strings.Map(func(r rune) rune {
		switch {
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r == '-':
			return r
		}
		return -1
	}, norm.NFKD.String(strings.ReplaceAll(strings.Join(contract.Words(name), "-"), "ß", "ss")))
	if ascii = strings.Trim(ascii, "-"); ascii == "" {
		return "component"
	}
	return ascii
}
