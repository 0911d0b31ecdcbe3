package service

import (
	"errors"
	"fmt"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestWhatIsRemembered(t *testing.T) {
	var m memo
	n := 0
	ask := func(name string) int {
		v, err := recalled(&m, name, func() (int, error) { n++; return n, nil })
		assert.NoError(t, err)
		return v
	}
	assert.Equal(t, 1, ask("a"))
	assert.Equal(t, 1, ask("a"), "it is computed once")
	assert.Equal(t, 2, ask("b"), "another name is another result")
	for i := range mostKept {
		ask(fmt.Sprint("more ", i))
	}
	assert.Len(t, m.kept, mostKept)
	assert.Greater(t, ask("a"), 2, "the oldest are forgotten")
	_, err := recalled(&m, "wrong", func() (int, error) { return 0, errors.New("no") })
	assert.Error(t, err)
	v, err := recalled(&m, "wrong", func() (int, error) { return 7, nil })
	assert.NoError(t, err)
	assert.Equal(t, 7, v, "an error is not remembered")

	var made atomic.Int32
	var all sync.WaitGroup
	begin := make(chan struct{})
	for range 8 {
		all.Go(func() {
			v, err := recalled(&m, "together", func() (string, error) { made.Add(1); <-begin; return "it", nil })
			assert.NoError(t, err)
			assert.Equal(t, "it", v)
		})
	}
	for made.Load() == 0 {
	}
	close(begin)
	all.Wait()
	assert.LessOrEqual(t, made.Load(), int32(2), "those who ask together compute it together")
}
