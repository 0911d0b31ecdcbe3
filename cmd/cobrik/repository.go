package main

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"

	"github.com/go-git/go-git/v5"
	"github.com/go-git/go-git/v5/plumbing"
	"github.com/go-git/go-git/v5/plumbing/object"

	"cobrik/core/repository"
	"cobrik/core/token/output"
)

// Limits of what is read of a repository.
const (
	mostFiles   = 20_000
	mostBytes   = 256 << 20 // of all files together
	largestFile = 32 << 20
)

// kept are the endings of files that matter to a check.
var kept = []string{".tsx", ".ts", ".jsx", ".js", ".mts", ".mjs", ".css", ".json", ".svg", ".png"}

// passed are folders that hold nothing of a team's own.
var passed = []string{"node_modules", ".git", "dist", "build", "coverage"}

// repositoryReader gathers the files of one state of a repository.
type repositoryReader struct {
	files repository.Files
	bytes int
}

func (r *repositoryReader) add(name string, text []byte) error {
	if r.files[name] == nil {
		r.bytes += len(text)
	}
	r.files[name] = text
	switch {
	case len(r.files) > mostFiles:
		return fmt.Errorf("the folders that %s names hold more than %d files; name folders that hold the code alone", repository.ProjectFile, mostFiles)
	case r.bytes > mostBytes:
		return fmt.Errorf("the files that %s names are more than %d MiB together; name folders that hold the code alone", repository.ProjectFile, mostBytes>>20)
	}
	return nil
}

// readRepository reads what the project file of a folder names. Links that lead out of the folder are not followed.
func readRepository(dir string) (repository.Files, error) {
	root, err := os.OpenRoot(dir)
	if err != nil {
		return nil, err
	}
	defer root.Close()
	r := &repositoryReader{files: repository.Files{}}
	read := func(name string) error {
		f, err := root.Open(filepath.FromSlash(name))
		if errors.Is(err, fs.ErrNotExist) {
			return nil // the check says so, with its place
		}
		if err != nil {
			return fmt.Errorf("%s is not read: %w", name, err)
		}
		defer f.Close()
		info, err := f.Stat()
		switch {
		case err != nil:
			return err
		case info.IsDir() || !info.Mode().IsRegular():
			return nil
		case info.Size() > largestFile:
			return fmt.Errorf("%s is larger than %d MiB, and is not read", name, largestFile>>20)
		}
		text, err := io.ReadAll(io.LimitReader(f, largestFile))
		if err != nil {
			return err
		}
		return r.add(name, text)
	}
	if err := read(repository.ProjectFile); err != nil {
		return nil, err
	}
	project, _ := output.ReadProject(repository.ProjectFile, r.files[repository.ProjectFile])
	if project == nil {
		return r.files, nil
	}
	if name := project.Tokens.Resolver; name != "" {
		if err := read(path.Clean(name)); err != nil {
			return nil, err
		}
	}
	files, folders := repository.Wanted(project, func(name string) []byte { return r.files[path.Clean(name)] })
	for _, name := range files {
		if err := read(name); err != nil {
			return nil, err
		}
	}
	for _, folder := range folders {
		err := fs.WalkDir(root.FS(), folder, func(name string, e fs.DirEntry, err error) error {
			switch {
			case err != nil && name == folder:
				return nil // there is none
			case err != nil:
				return err
			case e.IsDir():
				if name != folder && slices.Contains(passed, e.Name()) {
					return fs.SkipDir
				}
				return nil
			case !e.Type().IsRegular() || !slices.Contains(kept, path.Ext(name)):
				return nil // a link may lead anywhere
			}
			return read(name)
		})
		if err != nil {
			return nil, err
		}
	}
	return r.files, nil
}

// readRevision reads the same of a revision of the git repository that a folder is in.
func readRevision(dir, revision string) (repository.Files, error) {
	repo, err := git.PlainOpenWithOptions(dir, &git.PlainOpenOptions{DetectDotGit: true})
	if err != nil {
		return nil, fmt.Errorf("%s is in no git repository: %w", dir, err)
	}
	hash, err := repo.ResolveRevision(plumbing.Revision(revision))
	if err != nil {
		return nil, fmt.Errorf("there is no revision %s: %w", revision, err)
	}
	commit, err := repo.CommitObject(*hash)
	if err != nil {
		return nil, err
	}
	tree, err := commit.Tree()
	if err != nil {
		return nil, err
	}
	if tree, err = within(repo, tree, dir); err != nil {
		return nil, err
	}
	r := &repositoryReader{files: repository.Files{}}
	read := func(name string) error {
		f, err := tree.File(name)
		if err != nil {
			return nil
		}
		if f.Size > largestFile {
			return fmt.Errorf("%s of %s is larger than %d MiB, and is not read", name, revision, largestFile>>20)
		}
		text, err := f.Contents()
		if err != nil {
			return err
		}
		return r.add(name, []byte(text))
	}
	if err := read(repository.ProjectFile); err != nil {
		return nil, err
	}
	project, _ := output.ReadProject(repository.ProjectFile, r.files[repository.ProjectFile])
	if project == nil {
		return r.files, nil
	}
	if err := read(path.Clean(project.Tokens.Resolver)); err != nil {
		return nil, err
	}
	files, folders := repository.Wanted(project, func(name string) []byte { return r.files[path.Clean(name)] })
	for _, name := range files {
		if err := read(name); err != nil {
			return nil, err
		}
	}
	return r.files, tree.Files().ForEach(func(f *object.File) error {
		in := slices.ContainsFunc(folders, func(folder string) bool { return folder == "." || strings.HasPrefix(f.Name, folder+"/") })
		if !in || !f.Mode.IsRegular() || !slices.Contains(kept, path.Ext(f.Name)) || slices.ContainsFunc(strings.Split(f.Name, "/"), func(part string) bool { return slices.Contains(passed, part) }) {
			return nil
		}
		return read(f.Name)
	})
}

// within gives the tree of a folder that lies in the repository.
func within(repo *git.Repository, tree *object.Tree, dir string) (*object.Tree, error) {
	work, err := repo.Worktree()
	if err != nil {
		return tree, nil //nolint:nilerr // one without files of its own: the whole of it
	}
	absolute, err := filepath.Abs(dir)
	if err != nil {
		return nil, err
	}
	rel, err := filepath.Rel(work.Filesystem.Root(), absolute)
	if err != nil || rel == "." || strings.HasPrefix(rel, "..") {
		return tree, nil
	}
	return tree.Tree(filepath.ToSlash(rel))
}
