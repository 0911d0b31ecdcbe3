package gitrepo_test

import (
	"os"
	"path/filepath"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/gitrepo"
)

// A branch is put in place whole, under git's own lock: what another program holds, or left, is respected; what a killed write of ours left is cleared.
func TestABranchIsPutInPlaceUnderGitsLock(t *testing.T) {
	dir, _ := bare(t)
	r, err := gitrepo.Open(dir)
	require.NoError(t, err)
	head, err := r.Head("main")
	require.NoError(t, err)
	next, err := r.Build(head.Hash, []gitrepo.Change{{Files: map[string][]byte{"a": []byte("1")}, Message: "One"}}, ines, noon)
	require.NoError(t, err)
	lock := filepath.Join(dir, "refs", "heads", "main.lock")
	write(t, dir, "refs/heads/main.lock", "")
	err = r.Move("main", head.Hash, next)
	require.ErrorIs(t, err, gitrepo.ErrMoved)
	assert.Contains(t, err.Error(), "another program")
	assert.Equal(t, head.Hash, git(t, dir, "rev-parse", "main"))
	assert.FileExists(t, lock, "a lock of others is theirs to take away")
	write(t, dir, "refs/heads/main.lock", next+"\n")
	old := filepath.Join(dir, "cobrik-ref-OLD")
	fresh := filepath.Join(dir, "cobrik-ref-NEW")
	write(t, dir, "cobrik-ref-OLD", next+"\n")
	write(t, dir, "cobrik-ref-NEW", next+"\n")
	require.NoError(t, os.Chtimes(old, time.Now(), time.Now().Add(-time.Hour)))
	require.NoError(t, r.Move("main", head.Hash, next), "the lock is of this very write, which was killed")
	assert.Equal(t, next, git(t, dir, "rev-parse", "main"))
	assert.NoFileExists(t, lock)
	assert.NoFileExists(t, old)
	assert.FileExists(t, fresh, "somebody may be at work on it")
	require.NoError(t, os.Remove(fresh))
	names, err := filepath.Glob(filepath.Join(dir, "cobrik-*"))
	require.NoError(t, err)
	assert.Empty(t, names, "nothing is left behind")
	git(t, dir, "pack-refs", "--all")
	again, err := r.Build(next, []gitrepo.Change{{Files: map[string][]byte{"a": []byte("2")}, Message: "Two"}}, ines, noon)
	require.NoError(t, err)
	require.NoError(t, r.Move("main", next, again), "a branch that git packed")
	assert.Equal(t, again, git(t, dir, "rev-parse", "main"))
	git(t, dir, "fsck", "--strict", "--no-dangling")
}

// A repository whose folder of branches leads elsewhere is not followed there.
func TestBranchesOutsideOfTheRepositoryAreNotWritten(t *testing.T) {
	dir, _ := bare(t)
	outside := t.TempDir()
	r, err := gitrepo.Open(dir)
	require.NoError(t, err)
	head, err := r.Head("main")
	require.NoError(t, err)
	require.NoError(t, os.Symlink(outside, filepath.Join(dir, "refs", "heads", "out")))
	require.Error(t, r.Move("out/there", "", head.Hash))
	entries, err := os.ReadDir(outside)
	require.NoError(t, err)
	assert.Empty(t, entries)
}

// Of many who move one branch at once from the same place, one does.
func TestOneOfManyMovesABranch(t *testing.T) {
	dir, _ := bare(t)
	r, err := gitrepo.Open(dir)
	require.NoError(t, err)
	head, err := r.Head("main")
	require.NoError(t, err)
	for round := range 5 {
		var each sync.WaitGroup
		var moved atomic.Int32
		for i := range 8 {
			next, err := r.Build(head.Hash, []gitrepo.Change{{Files: map[string][]byte{"a": {byte('0' + i), byte('0' + round)}}, Message: "One"}}, ines, noon)
			require.NoError(t, err)
			each.Go(func() {
				mine, err := gitrepo.Open(dir)
				if err == nil && mine.Move("main", head.Hash, next) == nil {
					moved.Add(1)
				}
			})
		}
		each.Wait()
		require.EqualValues(t, 1, moved.Load(), "round %d", round)
		head, err = r.Head("main")
		require.NoError(t, err)
	}
	git(t, dir, "fsck", "--strict", "--no-dangling")
}
