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

	"cobrik/core/repository"
	"cobrik/core/token/output"
	"cobrik/gitrepo"
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
	case len(r.files) > gitrepo.MostFiles:
		return fmt.Errorf("the folders that %s names hold more than %d files; name folders that hold the code alone", repository.ProjectFile, gitrepo.MostFiles)
	case r.bytes > gitrepo.MostBytes:
		return fmt.Errorf("the files that %s names are more than %d MiB together; name folders that hold the code alone", repository.ProjectFile, gitrepo.MostBytes>>20)
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
		case info.Size() > gitrepo.LargestFile:
			return fmt.Errorf("%s is larger than %d MiB, and is not read", name, gitrepo.LargestFile>>20)
		}
		text, err := io.ReadAll(io.LimitReader(f, gitrepo.LargestFile))
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
	repo, prefix, err := gitrepo.Around(dir)
	if err != nil {
		return nil, err
	}
	hash, err := repo.Resolve(revision)
	if err != nil {
		return nil, err
	}
	out := repository.Files{}
	read := func(wanted func(name string) bool) error {
		files, err := repo.Files(hash, func(name string) bool {
			rest, in := strings.CutPrefix(name, prefix+"/")
			if prefix == "" {
				rest, in = name, true
			}
			return in && wanted(rest)
		})
		for name, text := range files {
			out[strings.TrimPrefix(strings.TrimPrefix(name, prefix), "/")] = text
		}
		return err
	}
	if err := read(func(name string) bool { return name == repository.ProjectFile }); err != nil {
		return nil, err
	}
	project, _ := output.ReadProject(repository.ProjectFile, out[repository.ProjectFile])
	if project == nil {
		return out, nil
	}
	if err := read(func(name string) bool { return name == path.Clean(project.Tokens.Resolver) }); err != nil {
		return nil, err
	}
	files, folders := repository.Wanted(project, func(name string) []byte { return out[path.Clean(name)] })
	return out, read(func(name string) bool {
		if slices.Contains(files, name) {
			return true
		}
		in := slices.ContainsFunc(folders, func(folder string) bool { return folder == "." || strings.HasPrefix(name, folder+"/") })
		return in && slices.Contains(kept, path.Ext(name)) && !slices.ContainsFunc(strings.Split(name, "/"), func(part string) bool { return slices.Contains(passed, part) })
	})
}
