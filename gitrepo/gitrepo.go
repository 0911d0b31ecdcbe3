// Package gitrepo reads and writes git repositories on this machine: trees of files at a commit, who changed them, and commits on
// branches. It never touches a work tree, never follows links, and never moves a branch but forward.
package gitrepo

import (
	"errors"
	"fmt"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/go-git/go-git/v5"
	"github.com/go-git/go-git/v5/plumbing"
	"github.com/go-git/go-git/v5/plumbing/filemode"
	"github.com/go-git/go-git/v5/plumbing/object"
)

// Limits of what is read of one commit.
const (
	MostFiles   = 20_000
	MostBytes   = 256 << 20 // of all files together
	LargestFile = 32 << 20
	mostCommits = 2_000 // of a history that is looked through
)

// Errors that callers tell apart.
var (
	ErrNotFound = errors.New("not there")
	ErrMoved    = errors.New("the branch moved") // since it was read
)

// Repo is a repository, with a work tree or bare. It may be used by several goroutines.
type Repo struct {
	repo *git.Repository
	path string
}

// Open opens the repository at a folder of this machine.
func Open(dir string) (*Repo, error) {
	absolute, err := filepath.Abs(dir)
	if err != nil {
		return nil, err
	}
	repo, err := git.PlainOpen(absolute)
	if errors.Is(err, git.ErrRepositoryNotExists) {
		return nil, fmt.Errorf("%w: there is no git repository at %s", ErrNotFound, absolute)
	}
	if err != nil {
		return nil, fmt.Errorf("the git repository at %s cannot be opened: %w", absolute, err)
	}
	return &Repo{repo, absolute}, nil
}

// Create makes a bare repository in a folder that is not there yet, with a first commit on a branch.
func Create(dir, branch string, first Change, author Author, at time.Time) (*Repo, error) {
	absolute, err := filepath.Abs(dir)
	if err != nil {
		return nil, err
	}
	name := plumbing.NewBranchReferenceName(branch)
	repo, err := git.PlainInitWithOptions(absolute, &git.PlainInitOptions{Bare: true, InitOptions: git.InitOptions{DefaultBranch: name}})
	if err != nil {
		return nil, fmt.Errorf("no git repository can be made at %s: %w", absolute, err)
	}
	r := &Repo{repo, absolute}
	for file := range first.Files {
		if !inside(file) {
			return nil, fmt.Errorf("%q is no name of a file in a repository", file)
		}
	}
	tree, err := r.tree(plumbing.ZeroHash, first.Files)
	if err != nil {
		return nil, err
	}
	signature := object.Signature{Name: author.Name, Email: author.Email, When: at}
	hash, err := r.store(&object.Commit{Author: signature, Committer: signature, Message: strings.TrimRight(first.Message, "\n") + "\n", TreeHash: tree})
	if err != nil {
		return nil, err
	}
	return r, r.Move(branch, "", hash.String())
}

// Around opens the repository that a folder lies in, and gives the folder's path from its root; empty for the root itself.
func Around(dir string) (r *Repo, prefix string, err error) {
	absolute, err := filepath.Abs(dir)
	if err != nil {
		return nil, "", err
	}
	repo, err := git.PlainOpenWithOptions(absolute, &git.PlainOpenOptions{DetectDotGit: true})
	if errors.Is(err, git.ErrRepositoryNotExists) {
		return nil, "", fmt.Errorf("%w: %s is in no git repository", ErrNotFound, dir)
	}
	if err != nil {
		return nil, "", fmt.Errorf("the git repository around %s cannot be opened: %w", dir, err)
	}
	work, err := repo.Worktree()
	if err != nil {
		return &Repo{repo, absolute}, "", nil //nolint:nilerr // a bare one has no folders of its own
	}
	root, err := filepath.EvalSymlinks(work.Filesystem.Root())
	if err != nil {
		return nil, "", err
	}
	if absolute, err = filepath.EvalSymlinks(absolute); err != nil {
		return nil, "", err
	}
	if prefix, err = filepath.Rel(root, absolute); err != nil || prefix == "." {
		prefix = ""
	}
	return &Repo{repo, root}, filepath.ToSlash(prefix), nil
}

// Resolve gives the commit that a revision names: a branch, a tag, HEAD~1, a commit's beginning.
func (r *Repo) Resolve(revision string) (string, error) {
	hash, err := r.repo.ResolveRevision(plumbing.Revision(revision))
	if err != nil {
		return "", fmt.Errorf("%w: there is no revision %s", ErrNotFound, revision)
	}
	return hash.String(), nil
}

// Path is the folder that it is at.
func (r *Repo) Path() string { return r.path }

// Commit is one commit.
type Commit struct {
	Hash    string    `json:"hash"`
	Author  string    `json:"author"`
	At      time.Time `json:"at"`
	Message string    `json:"message" doc:"Its first line"`
}

func commitOf(c *object.Commit) Commit {
	message, _, _ := strings.Cut(strings.TrimSpace(c.Message), "\n")
	return Commit{c.Hash.String(), c.Author.Name, c.Author.When, message}
}

// Branches lists the names of the branches.
func (r *Repo) Branches() (out []string, err error) {
	list, err := r.repo.Branches()
	if err != nil {
		return nil, err
	}
	err = list.ForEach(func(ref *plumbing.Reference) error {
		out = append(out, ref.Name().Short())
		return nil
	})
	slices.Sort(out)
	return out, err
}

// Head gives the newest commit of a branch.
func (r *Repo) Head(branch string) (Commit, error) {
	ref, err := r.repo.Reference(plumbing.NewBranchReferenceName(branch), true)
	if errors.Is(err, plumbing.ErrReferenceNotFound) {
		return Commit{}, fmt.Errorf("%w: there is no branch %s", ErrNotFound, branch)
	}
	if err != nil {
		return Commit{}, err
	}
	c, err := r.repo.CommitObject(ref.Hash())
	if err != nil {
		return Commit{}, fmt.Errorf("the branch %s cannot be read: %w", branch, err)
	}
	return commitOf(c), nil
}

// Commit gives a commit by its hash.
func (r *Repo) Commit(hash string) (Commit, error) {
	c, err := r.repo.CommitObject(plumbing.NewHash(hash))
	if err != nil {
		return Commit{}, fmt.Errorf("%w: the commit %s", ErrNotFound, hash)
	}
	return commitOf(c), nil
}

// Files reads the files of a commit that are wanted, by their paths. Links and submodules are left out.
func (r *Repo) Files(hash string, wanted func(name string) bool) (map[string][]byte, error) {
	c, err := r.repo.CommitObject(plumbing.NewHash(hash))
	if err != nil {
		return nil, fmt.Errorf("%w: the commit %s", ErrNotFound, hash)
	}
	tree, err := c.Tree()
	if err != nil {
		return nil, err
	}
	out := map[string][]byte{}
	bytes := int64(0)
	err = tree.Files().ForEach(func(f *object.File) error {
		if f.Mode != filemode.Regular && f.Mode != filemode.Executable || !wanted(f.Name) || !inside(f.Name) {
			return nil
		}
		bytes += f.Size
		switch {
		case f.Size > LargestFile:
			return fmt.Errorf("%s is larger than %d MiB; leave it out of the folder that is read", f.Name, LargestFile>>20)
		case bytes > MostBytes:
			return fmt.Errorf("the files are more than %d MiB together; name a folder that holds the code alone", MostBytes>>20)
		case len(out) >= MostFiles:
			return fmt.Errorf("there are more than %d files; name a folder that holds the code alone", MostFiles)
		}
		text, err := f.Contents()
		if err != nil {
			return fmt.Errorf("%s cannot be read: %w", f.Name, err)
		}
		out[f.Name] = []byte(text)
		return nil
	})
	return out, err
}

// inside tells whether a path stays within the repository: a tree that was made by hand may hold any name.
func inside(name string) bool {
	if name == "" || path.Clean(name) != name || path.IsAbs(name) || strings.ContainsAny(name, "\\\x00") {
		return false
	}
	for _, part := range strings.Split(name, "/") {
		if part == ".." || strings.EqualFold(part, ".git") {
			return false
		}
	}
	return true
}

// Last gives the commit that last changed any of some files, from one on back by first parents; nil where nobody finds one.
func (r *Repo) Last(hash string, names ...string) (out *Commit, err error) {
	err = r.changing(hash, names, func(c Commit) bool {
		out = &c
		return false
	})
	return out, err
}

// History lists the commits that changed a file, the newest first, from one on back by first parents.
func (r *Repo) History(hash, name string) (out []Commit, err error) {
	err = r.changing(hash, []string{name}, func(c Commit) bool {
		out = append(out, c)
		return true
	})
	return out, err
}

// changing hands the commits over that changed any of some files, the newest first, until it is told to stop.
func (r *Repo) changing(hash string, names []string, each func(Commit) bool) error {
	c, err := r.repo.CommitObject(plumbing.NewHash(hash))
	if err != nil {
		return fmt.Errorf("%w: the commit %s", ErrNotFound, hash)
	}
	blob := func(c *object.Commit, name string) plumbing.Hash {
		tree, err := c.Tree()
		if err != nil {
			return plumbing.ZeroHash
		}
		entry, err := tree.FindEntry(name)
		if err != nil {
			return plumbing.ZeroHash
		}
		return entry.Hash
	}
	for range mostCommits {
		var parent *object.Commit
		if c.NumParents() > 0 {
			if parent, err = c.Parent(0); err != nil {
				return nil // a shallow clone ends here
			}
		}
		if slices.ContainsFunc(names, func(name string) bool {
			now := blob(c, name)
			return now != plumbing.ZeroHash && (parent == nil || now != blob(parent, name))
		}) && !each(commitOf(c)) || parent == nil {
			return nil
		}
		c = parent
	}
	return nil
}

// IsAncestor tells whether one commit comes before another, or is it.
func (r *Repo) IsAncestor(before, after string) (bool, error) {
	if before == after {
		return true, nil
	}
	a, err := r.repo.CommitObject(plumbing.NewHash(before))
	if err != nil {
		return false, fmt.Errorf("%w: the commit %s", ErrNotFound, before)
	}
	b, err := r.repo.CommitObject(plumbing.NewHash(after))
	if err != nil {
		return false, fmt.Errorf("%w: the commit %s", ErrNotFound, after)
	}
	return a.IsAncestor(b)
}

// Patch gives what changed between two commits, as git apply reads it.
func (r *Repo) Patch(from, to string) (string, error) {
	a, err := r.repo.CommitObject(plumbing.NewHash(from))
	if err != nil {
		return "", fmt.Errorf("%w: the commit %s", ErrNotFound, from)
	}
	b, err := r.repo.CommitObject(plumbing.NewHash(to))
	if err != nil {
		return "", fmt.Errorf("%w: the commit %s", ErrNotFound, to)
	}
	patch, err := a.Patch(b)
	if err != nil {
		return "", err
	}
	return patch.String(), nil
}

// Author is who a commit is by.
type Author struct {
	Name  string
	Email string
}

// Change is what becomes of files in one commit: their new bytes, or nil for one that goes.
type Change struct {
	Files   map[string][]byte
	Message string
}

// Build makes commits of changes, one on top of the other, from one on, and gives the last. No branch knows of them yet: a
// program that ends before Move leaves nothing but objects that nobody looks at.
func (r *Repo) Build(from string, changes []Change, author Author, at time.Time) (hash string, err error) {
	parent := plumbing.NewHash(from)
	c, err := r.repo.CommitObject(parent)
	if err != nil {
		return "", fmt.Errorf("%w: the commit %s", ErrNotFound, from)
	}
	tree := c.TreeHash
	for _, change := range changes {
		for name := range change.Files {
			if !inside(name) {
				return "", fmt.Errorf("%q is no name of a file in a repository", name)
			}
		}
		next, err := r.tree(tree, change.Files)
		if err != nil {
			return "", err
		}
		if next == tree {
			continue // it changes nothing
		}
		signature := object.Signature{Name: author.Name, Email: author.Email, When: at}
		made := &object.Commit{Author: signature, Committer: signature, Message: strings.TrimRight(change.Message, "\n") + "\n", TreeHash: next, ParentHashes: []plumbing.Hash{parent}}
		if parent, err = r.store(made); err != nil {
			return "", err
		}
		tree = next
	}
	return parent.String(), nil
}

type encoder interface {
	Encode(o plumbing.EncodedObject) error
}

func (r *Repo) store(e encoder) (plumbing.Hash, error) {
	o := r.repo.Storer.NewEncodedObject()
	if err := e.Encode(o); err != nil {
		return plumbing.ZeroHash, err
	}
	return r.repo.Storer.SetEncodedObject(o)
}

// tree makes a tree of another with files put in its place.
func (r *Repo) tree(hash plumbing.Hash, files map[string][]byte) (plumbing.Hash, error) {
	var entries []object.TreeEntry
	if hash != plumbing.ZeroHash {
		old, err := object.GetTree(r.repo.Storer, hash)
		if err != nil {
			return plumbing.ZeroHash, err
		}
		entries = slices.Clone(old.Entries)
	}
	at := func(name string) int {
		return slices.IndexFunc(entries, func(e object.TreeEntry) bool { return e.Name == name })
	}
	inner := map[string]map[string][]byte{}
	for name, text := range files {
		if folder, rest, in := strings.Cut(name, "/"); in {
			if inner[folder] == nil {
				inner[folder] = map[string][]byte{}
			}
			inner[folder][rest] = text
			continue
		}
		i := at(name)
		if text == nil {
			if i >= 0 {
				entries = slices.Delete(entries, i, i+1)
			}
			continue
		}
		if i >= 0 && entries[i].Mode != filemode.Regular && entries[i].Mode != filemode.Executable {
			return plumbing.ZeroHash, fmt.Errorf("%s is a link, a folder or a submodule in the repository, and is not written over", name)
		}
		blob, err := r.blob(text)
		if err != nil {
			return plumbing.ZeroHash, err
		}
		if i >= 0 {
			entries[i].Hash = blob
		} else {
			entries = append(entries, object.TreeEntry{Name: name, Mode: filemode.Regular, Hash: blob})
		}
	}
	for folder, within := range inner {
		i := at(folder)
		old := plumbing.ZeroHash
		if i >= 0 {
			if entries[i].Mode != filemode.Dir {
				return plumbing.ZeroHash, fmt.Errorf("%s is no folder in the repository, and nothing is written into it", folder)
			}
			old = entries[i].Hash
		}
		made, err := r.tree(old, within)
		if err != nil {
			return plumbing.ZeroHash, err
		}
		switch {
		case made == plumbing.ZeroHash && i >= 0: // nothing is left in it
			entries = slices.Delete(entries, i, i+1)
		case made == plumbing.ZeroHash:
		case i >= 0:
			entries[i].Hash = made
		default:
			entries = append(entries, object.TreeEntry{Name: folder, Mode: filemode.Dir, Hash: made})
		}
	}
	if len(entries) == 0 {
		return plumbing.ZeroHash, nil
	}
	slices.SortFunc(entries, func(a, b object.TreeEntry) int { return strings.Compare(sortName(a), sortName(b)) })
	return r.store(&object.Tree{Entries: entries})
}

// sortName is what git orders the entries of a tree by: folders as if a slash stood behind.
func sortName(e object.TreeEntry) string {
	if e.Mode == filemode.Dir {
		return e.Name + "/"
	}
	return e.Name
}

func (r *Repo) blob(text []byte) (plumbing.Hash, error) {
	o := r.repo.Storer.NewEncodedObject()
	o.SetType(plumbing.BlobObject)
	w, err := o.Writer()
	if err != nil {
		return plumbing.ZeroHash, err
	}
	if _, err := w.Write(text); err != nil {
		return plumbing.ZeroHash, err
	}
	if err := w.Close(); err != nil {
		return plumbing.ZeroHash, err
	}
	return r.repo.Storer.SetEncodedObject(o)
}

// Move lets a branch lead to a commit: a new branch, when from is empty, else one that leads to from now, and only forward. ErrMoved
// when it leads elsewhere by now. A branch that the work tree is on is not moved: its files would not follow.
func (r *Repo) Move(branch, from, to string) error {
	name := plumbing.NewBranchReferenceName(branch)
	if err := name.Validate(); err != nil {
		return fmt.Errorf("%q is no name of a branch: %w", branch, err)
	}
	ref, err := r.repo.Reference(name, true)
	switch {
	case errors.Is(err, plumbing.ErrReferenceNotFound):
		if from != "" {
			return fmt.Errorf("%w: there is no branch %s any more", ErrMoved, branch)
		}
		return r.put(name, nil, to)
	case err != nil:
		return err
	case ref.Hash().String() == to:
		return nil // it is there already
	case ref.Hash().String() != from:
		return fmt.Errorf("%w: %s leads to %.7s now", ErrMoved, branch, ref.Hash())
	}
	if on, err := r.checkedOut(); err != nil || on == branch {
		return fmt.Errorf("the work tree at %s is on %s, and its files would not follow; write another branch", r.path, branch)
	}
	forward, err := r.IsAncestor(from, to)
	if err != nil {
		return err
	}
	if !forward {
		return fmt.Errorf("%w: %.7s does not follow %.7s, and nothing is forced", ErrMoved, to, from)
	}
	return r.put(name, ref, to)
}

// checkedOut gives the branch that the work tree is on; empty for a bare repository.
func (r *Repo) checkedOut() (string, error) {
	if _, err := r.repo.Worktree(); errors.Is(err, git.ErrIsBareRepository) {
		return "", nil
	}
	head, err := r.repo.Reference(plumbing.HEAD, false)
	if err != nil {
		return "", err
	}
	return head.Target().Short(), nil
}
