package publish

import (
	"encoding/json"

	"cobrik/core/jsontree"
	"cobrik/core/problem"
	"cobrik/docs/formats"
)

// LockFormat is the value of a lock's "format" member.
const LockFormat = "cobrik.library/1"

// Lock says what is in a library, and which bytes each thing is.
type Lock struct {
	Format     string            `json:"format"`
	Name       string            `json:"name"`
	Version    string            `json:"version"`
	Components []LockedComponent `json:"components"`
	Tokens     []LockedFile      `json:"tokens"`
}

// LockedComponent is a component of a version; its hash is that of its contract's file.
type LockedComponent struct {
	Name    string `json:"name"`
	Version string `json:"version,omitempty"`
	Shelf   string `json:"shelf,omitempty"`
	SHA256  string `json:"sha256"`
}

// LockedFile is a file by the hash of its bytes.
type LockedFile struct {
	File   string `json:"file"`
	SHA256 string `json:"sha256"`
}

var (
	lockSchema = problem.MustCompile("cobrik.library-1.json", formats.Library)
	lockLimits = problem.Limits{Bytes: 8 << 20, Depth: 8}
)

// ReadLock reads a lock; what is wrong with it is told by its place.
func ReadLock(file string, text []byte) (Lock, problem.List) {
	var out Lock
	if root, found := jsontree.Read(file, text, lockLimits); root == nil || found.Failed() {
		return out, found
	}
	if found := lockSchema.Validate(file, text); found.Failed() {
		return out, found
	}
	var found problem.List
	if err := json.Unmarshal(text, &out); err != nil {
		found.Errorf("lock", "", "", "%v", err)
	}
	return out, found
}

// Lock tells what is in the library.
func (l Library) Lock() Lock {
	out := Lock{Format: LockFormat, Name: l.Name, Version: l.Version, Components: []LockedComponent{}, Tokens: []LockedFile{}}
	for _, c := range l.Components {
		out.Components = append(out.Components, LockedComponent{c.Contract.Name, c.Version, c.Shelf, hashed(c.Contract.JSON())})
	}
	for _, f := range l.TokenFiles {
		out.Tokens = append(out.Tokens, LockedFile{f.Name, hashed(f.Text)})
	}
	return out
}
