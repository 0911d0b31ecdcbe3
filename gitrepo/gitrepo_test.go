package gitrepo_test

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/gitrepo"
)

// git runs the git program: what it reads and writes is what others read and write.
func git(t *testing.T, dir string, args ...string) string {
	t.Helper()
	cmd := exec.Command("git", args...)
	cmd.Dir = dir
	cmd.Env = append(os.Environ(), "GIT_AUTHOR_NAME=Ines", "GIT_AUTHOR_EMAIL=ines@hollowbeck.invalid", "GIT_COMMITTER_NAME=Ines", "GIT_COMMITTER_EMAIL=ines@hollowbeck.invalid", "GIT_CONFIG_NOSYSTEM=1", "HOME="+t.TempDir())
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, "git %v: %s", args, out)
	return strings.TrimSpace(string(out))
}

func write(t *testing.T, dir, name, text string) {
	t.Helper()
	require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, name)), 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o644))
}

// bare makes a bare repository with a history, and a clone of it that people work in.
func bare(t *testing.T) (dir, work string) {
	t.Helper()
	dir, work = filepath.Join(t.TempDir(), "shed.git"), filepath.Join(t.TempDir(), "shed")
	git(t, t.TempDir(), "init", "-q", "--bare", "-b", "main", dir)
	git(t, t.TempDir(), "clone", "-q", dir, work)
	write(t, work, "src/a/A.tsx", "a\n")
	write(t, work, "src/b/B.tsx", "b\n")
	write(t, work, "README.md", "shed\n")
	git(t, work, "checkout", "-qb", "main")
	git(t, work, "add", "-A")
	git(t, work, "commit", "-qm", "First\n\nand more")
	write(t, work, "src/b/B.tsx", "b2\n")
	git(t, work, "commit", "-qam", "Second")
	git(t, work, "push", "-q", "origin", "main")
	return dir, work
}

var (
	ines = gitrepo.Author{Name: "Ines, plot 41", Email: "ines@hollowbeck.invalid"}
	noon = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)
)

func all(string) bool { return true }

func TestWhatGitWroteIsRead(t *testing.T) {
	dir, work := bare(t)
	r, err := gitrepo.Open(dir)
	require.NoError(t, err)
	head, err := r.Head("main")
	require.NoError(t, err)
	assert.Equal(t, git(t, work, "rev-parse", "HEAD"), head.Hash)
	assert.Equal(t, "Ines", head.Author)
	assert.Equal(t, "Second", head.Message)
	files, err := r.Files(head.Hash, func(name string) bool { return strings.HasPrefix(name, "src/") })
	require.NoError(t, err)
	assert.Equal(t, map[string][]byte{"src/a/A.tsx": []byte("a\n"), "src/b/B.tsx": []byte("b2\n")}, files)
	for names, message := range map[string]string{"src/a/A.tsx": "First", "src/b/B.tsx": "Second", "src/a/A.tsx src/b/B.tsx nowhere": "Second"} {
		last, err := r.Last(head.Hash, strings.Fields(names)...)
		require.NoError(t, err)
		require.NotNil(t, last, names)
		assert.Equal(t, message, last.Message, "who last changed %s is told wrong", names)
	}
	history, err := r.History(head.Hash, "src/b/B.tsx")
	require.NoError(t, err)
	require.Len(t, history, 2)
	assert.Equal(t, []string{"Second", "First"}, []string{history[0].Message, history[1].Message})
	nobody, err := r.Last(head.Hash, "nowhere")
	require.NoError(t, err)
	assert.Nil(t, nobody)
	branches, err := r.Branches()
	require.NoError(t, err)
	assert.Equal(t, []string{"main"}, branches)
	_, err = r.Head("other")
	require.ErrorIs(t, err, gitrepo.ErrNotFound)
	_, err = gitrepo.Open(t.TempDir())
	require.ErrorIs(t, err, gitrepo.ErrNotFound)
}

func TestWhatIsWrittenGitReads(t *testing.T) {
	dir, work := bare(t)
	r, err := gitrepo.Open(dir)
	require.NoError(t, err)
	head, err := r.Head("main")
	require.NoError(t, err)
	hash, err := r.Build(head.Hash, []gitrepo.Change{
		{Files: map[string][]byte{"src/a/A.tsx": []byte("a2\n"), "src/a/a.css": []byte(".a {}\n")}, Message: "A: two values"},
		{Files: map[string][]byte{"src/b/B.tsx": nil}, Message: "B goes"},
		{Files: map[string][]byte{"README.md": []byte("shed\n")}, Message: "nothing"},
		{Files: map[string][]byte{"src/a.css": []byte(".a {}\n"), "src/a-b/C.tsx": []byte("c\n"), "src/a0": []byte("0\n")}, Message: "names around a folder's"}, // git sorts a folder as if a slash stood behind
	}, ines, noon)
	require.NoError(t, err)
	assert.Equal(t, []string{"main"}, mustBranches(t, r), "a branch knows of what is only built")
	require.NoError(t, r.Move("cobrik/sync", "", hash))
	git(t, work, "fetch", "-q")
	git(t, work, "checkout", "-q", "cobrik/sync")
	assert.Equal(t, "names around a folder's|Ines, plot 41|2026-06-01\nB goes|Ines, plot 41|2026-06-01\nA: two values|Ines, plot 41|2026-06-01", git(t, work, "log", "-3", "--format=%s|%an|%as"))
	text, err := os.ReadFile(filepath.Join(work, "src/a/A.tsx"))
	require.NoError(t, err)
	assert.Equal(t, "a2\n", string(text))
	assert.NoDirExists(t, filepath.Join(work, "src/b"), "a folder of nothing is left")
	git(t, dir, "fsck", "--strict", "--no-dangling")
	git(t, work, "merge-base", "--is-ancestor", "origin/main", "HEAD")
}

func TestTheRepositoryAroundAFolder(t *testing.T) {
	_, work := bare(t)
	r, prefix, err := gitrepo.Around(filepath.Join(work, "src", "a"))
	require.NoError(t, err)
	assert.Equal(t, "src/a", prefix)
	hash, err := r.Resolve("HEAD~1")
	require.NoError(t, err)
	assert.Equal(t, git(t, work, "rev-parse", "HEAD~1"), hash)
	_, err = r.Resolve("nowhere")
	require.ErrorIs(t, err, gitrepo.ErrNotFound)
	_, prefix, err = gitrepo.Around(work)
	require.NoError(t, err)
	assert.Empty(t, prefix)
	_, _, err = gitrepo.Around(t.TempDir())
	require.ErrorIs(t, err, gitrepo.ErrNotFound)
}

func mustBranches(t *testing.T, r *gitrepo.Repo) []string {
	t.Helper()
	out, err := r.Branches()
	require.NoError(t, err)
	return out
}

// A branch is moved from where it was read, forward, or not at all.
func TestNothingIsForced(t *testing.T) {
	dir, work := bare(t)
	r, err := gitrepo.Open(dir)
	require.NoError(t, err)
	read, err := r.Head("main")
	require.NoError(t, err)
	ours, err := r.Build(read.Hash, []gitrepo.Change{{Files: map[string][]byte{"src/a/A.tsx": []byte("ours\n")}, Message: "ours"}}, ines, noon)
	require.NoError(t, err)
	write(t, work, "src/a/A.tsx", "theirs\n")
	git(t, work, "commit", "-qam", "theirs")
	git(t, work, "push", "-q", "origin", "main")
	theirs := git(t, work, "rev-parse", "HEAD")
	require.ErrorIs(t, r.Move("main", read.Hash, ours), gitrepo.ErrMoved)
	require.ErrorIs(t, r.Move("main", theirs, ours), gitrepo.ErrMoved, "what does not follow is forced")
	require.ErrorIs(t, r.Move("gone", read.Hash, ours), gitrepo.ErrMoved)
	assert.Equal(t, theirs, git(t, dir, "rev-parse", "main"))
	next, err := r.Build(theirs, []gitrepo.Change{{Files: map[string][]byte{"src/a/A.tsx": []byte("both\n")}, Message: "both"}}, ines, noon)
	require.NoError(t, err)
	require.NoError(t, r.Move("main", theirs, next))
	require.NoError(t, r.Move("main", theirs, next), "what was done before is done again after a crash")
	assert.Equal(t, next, git(t, dir, "rev-parse", "main"))

	own, err := gitrepo.Open(work) // with a work tree
	require.NoError(t, err)
	git(t, work, "checkout", "-q", "main")
	git(t, work, "pull", "-q", "--ff-only")
	after, err := own.Build(next, []gitrepo.Change{{Files: map[string][]byte{"src/a/A.tsx": []byte("more\n")}, Message: "more"}}, ines, noon)
	require.NoError(t, err)
	require.ErrorContains(t, own.Move("main", next, after), "its files would not follow")
	require.NoError(t, own.Move("cobrik/more", "", after))
	assert.Empty(t, git(t, work, "status", "--porcelain"), "the work tree is touched")
	require.Error(t, own.Move("no..name", "", after))
}

// Trees that were made to mislead: names that lead out, links, submodules.
func TestHostileTrees(t *testing.T) {
	dir, work := bare(t)
	require.NoError(t, os.Symlink("/etc/passwd", filepath.Join(work, "src", "passwd.ts")))
	require.NoError(t, os.Symlink("/etc", filepath.Join(work, "src", "etc")))
	git(t, work, "add", "-A")
	git(t, work, "commit", "-qm", "links")
	git(t, work, "push", "-q", "origin", "main")
	blob := git(t, work, "hash-object", "-w", "README.md")
	r, err := gitrepo.Open(dir)
	require.NoError(t, err)
	named := func(name string) string { // a commit of one file, whatever its name
		evil := exec.Command("git", "mktree", "-z", "--missing")
		evil.Dir = dir
		evil.Stdin = strings.NewReader("100644 blob " + blob + "\t" + name + "\x00")
		out, err := evil.Output()
		require.NoError(t, err)
		return git(t, dir, "-c", "user.name=x", "-c", "user.email=x@y.invalid", "commit-tree", strings.TrimSpace(string(out)), "-m", "evil")
	}
	files, err := r.Files(named("fine.ts"), all)
	require.NoError(t, err)
	require.Len(t, files, 1)
	for _, name := range []string{"..", ".git", "..\\out.ts"} {
		files, _ = r.Files(named(name), all)
		assert.Empty(t, files, "%q is read", name)
	}
	head, err := r.Head("main")
	require.NoError(t, err)
	files, err = r.Files(head.Hash, all)
	require.NoError(t, err)
	assert.NotContains(t, files, "src/passwd.ts")
	for _, name := range []string{"../out.ts", "/out.ts", "src/../../out.ts", ".git/config", "a/.GIT/hooks/x", "", "a//b", "a\\b"} {
		_, err := r.Build(head.Hash, []gitrepo.Change{{Files: map[string][]byte{name: []byte("x")}, Message: "x"}}, ines, noon)
		require.Error(t, err, "%q is written", name)
	}
	_, err = r.Build(head.Hash, []gitrepo.Change{{Files: map[string][]byte{"src/passwd.ts": []byte("x")}, Message: "x"}}, ines, noon)
	require.ErrorContains(t, err, "is not written over")
	_, err = r.Build(head.Hash, []gitrepo.Change{{Files: map[string][]byte{"src/etc/hosts": []byte("x")}, Message: "x"}}, ines, noon)
	require.ErrorContains(t, err, "is no folder")
}

func TestWhatIsTooMuchIsSaid(t *testing.T) {
	dir, work := bare(t)
	require.NoError(t, os.WriteFile(filepath.Join(work, "src", "huge.ts"), make([]byte, gitrepo.LargestFile+1), 0o644))
	git(t, work, "add", "-A")
	git(t, work, "commit", "-qm", "huge")
	git(t, work, "push", "-q", "origin", "main")
	r, err := gitrepo.Open(dir)
	require.NoError(t, err)
	head, err := r.Head("main")
	require.NoError(t, err)
	_, err = r.Files(head.Hash, all)
	require.ErrorContains(t, err, "src/huge.ts is larger than 32 MiB")
	files, err := r.Files(head.Hash, func(name string) bool { return name != "src/huge.ts" })
	require.NoError(t, err)
	assert.Len(t, files, 3)
}

func TestARepositoryIsMade(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "new.git")
	r, err := gitrepo.Create(dir, "main", gitrepo.Change{Files: map[string][]byte{"src/a.ts": []byte("a\n")}, Message: "First"}, ines, noon)
	require.NoError(t, err)
	git(t, dir, "fsck", "--strict")
	assert.Equal(t, "First", git(t, dir, "log", "-1", "--format=%s", "main"))
	assert.Equal(t, "a", git(t, dir, "show", "main:src/a.ts"))
	head, err := r.Head("main")
	require.NoError(t, err)
	next, err := r.Build(head.Hash, []gitrepo.Change{{Files: map[string][]byte{"src/a.ts": []byte("b\n")}, Message: "Second"}}, ines, noon)
	require.NoError(t, err)
	patch, err := r.Patch(head.Hash, next)
	require.NoError(t, err)
	work := filepath.Join(t.TempDir(), "work")
	git(t, t.TempDir(), "clone", "-q", dir, work)
	write(t, work, "change.patch", patch)
	git(t, work, "apply", "change.patch")
	text, err := os.ReadFile(filepath.Join(work, "src", "a.ts"))
	require.NoError(t, err)
	assert.Equal(t, "b\n", string(text), "git does not read the patch")
}
