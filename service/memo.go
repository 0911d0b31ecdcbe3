package service

import (
	"sync"

	"golang.org/x/sync/singleflight"
)

// memo remembers what was computed of states that never change, by names that say all it depends on. What several
// ask for at once is computed once.
type memo struct {
	mu    sync.Mutex
	once  singleflight.Group
	kept  map[string]any
	order []string // oldest first
}

// mostKept bounds how many results are remembered.
const mostKept = 512

// recalled gives what a name stands for, computed when it is not remembered; errors are not.
func recalled[T any](m *memo, name string, compute func() (T, error)) (T, error) {
	m.mu.Lock()
	v, ok := m.kept[name]
	m.mu.Unlock()
	if ok {
		return v.(T), nil
	}
	made, err, _ := m.once.Do(name, func() (any, error) {
		v, err := compute()
		if err != nil {
			return v, err
		}
		m.mu.Lock()
		defer m.mu.Unlock()
		if m.kept == nil {
			m.kept = map[string]any{}
		}
		if m.kept[name], m.order = v, append(m.order, name); len(m.order) > mostKept {
			delete(m.kept, m.order[0])
			m.order = m.order[1:]
		}
		return v, nil
	})
	return made.(T), err
}

// recall gives what a name stands for, where it is remembered.
func recall[T any](m *memo, name string) (T, bool) {
	m.mu.Lock()
	defer m.mu.Unlock()
	v, ok := m.kept[name].(T)
	return v, ok
}
