package contract

import (
	"fmt"
	"slices"
)

// Level is how much a version number rises (Semantic Versioning 2.0.0, 6 to 8).
type Level string

const (
	None  Level = "none"
	Patch Level = "patch"
	Minor Level = "minor"
	Major Level = "major"
)

var levels = []Level{None, Patch, Minor, Major}

// Highest gives the higher of two levels.
func Highest(a, b Level) Level {
	if slices.Index(levels, b) > slices.Index(levels, a) {
		return b
	}
	return a
}

// Change is one difference between two contracts, as told to its users.
type Change struct {
	Level Level  `json:"level" enum:"none,patch,minor,major"`
	Text  string `json:"text"`
	Key   string `json:"key,omitempty"` // names the fact, whatever it says; empty for its text
}

func change(level Level, format string, args ...any) Change {
	return Change{Level: level, Text: fmt.Sprintf(format, args...)}
}
