package emit

import "cobrik/core/contract"

// Scope gives names that nothing else in it has, nor in the scopes around it.
type Scope struct {
	around *Scope
	taken  map[string]bool
}

// NewScope makes a scope in which some names are taken from the start: keywords, and
// what the code around binds. The scope around may be nil.
func NewScope(around *Scope, taken ...string) *Scope {
	s := &Scope{around, map[string]bool{}}
	for _, name := range taken {
		s.taken[name] = true
	}
	return s
}

// Has tells whether a name is taken.
func (s *Scope) Has(name string) bool {
	return s != nil && (s.taken[name] || s.around.Has(name))
}

// Name takes a name: the one wanted where it is free, else with the suffix, else
// numbered.
func (s *Scope) Name(want, suffix string) string {
	name := contract.Free(want, suffix, s.Has)
	s.taken[name] = true
	return name
}
