package catalogue

import (
	"fmt"
	"strings"

	"cobrik/core/contract"
)

// mostTold bounds how many changes of a level a changelog lists.
const mostTold = 24

// Changelog writes what changed for who uses a component, in CommonMark, to be edited by people: what they have to follow
// first, then what is new, then what looks or is told otherwise.
func Changelog(changes []contract.Change, steps []MigrationStep) string {
	var out []string
	section := func(title string, lines []string) {
		if len(lines) == 0 {
			return
		}
		shown := lines[:min(len(lines), mostTold)]
		text := "# " + title + "\n\n- " + strings.Join(shown, "\n- ")
		if more := len(lines) - len(shown); more > 0 {
			text += fmt.Sprintf("\n- and %d more", more)
		}
		out = append(out, text)
	}
	of := func(level contract.Level) (lines []string) {
		for _, c := range changes {
			if c.Level == level {
				lines = append(lines, plain(capitalized(c.Text)))
			}
		}
		return lines
	}
	follow := of(contract.Major)
	if len(steps) > 0 { // they say the same, and what to do
		follow = nil
		for _, s := range steps {
			line := plain(s.What)
			if s.Before != "" && s.After != "" {
				line += fmt.Sprintf(" Write `%s` instead of `%s`.", s.After, s.Before)
			}
			follow = append(follow, line)
		}
	}
	section("To follow", follow)
	section("New", of(contract.Minor))
	section("Otherwise", of(contract.Patch))
	return strings.Join(out, "\n\n")
}

// plain writes a text so that CommonMark reads it as it is.
func plain(text string) string {
	return contract.RichValue{{Runs: []contract.Run{{Text: text}}}}.Typed()
}

func capitalized(text string) string {
	return strings.ToUpper(text[:min(1, len(text))]) + text[min(1, len(text)):]
}
