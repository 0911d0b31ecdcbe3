package gitrepo

import (
	"crypto/rand"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path"
	"strings"
	"time"

	"github.com/go-git/go-git/v5/plumbing"
	"github.com/go-git/go-git/v5/storage/filesystem"
)

// unfinished names files that a reference is written into before it is put in place; one may be left by a program that was killed.
const unfinished = "cobrik-ref-"

// longAgo is after when nobody is at work on such a file any more.
const longAgo = time.Minute

// put lets a reference lead to a commit at once or not at all, whenever the program ends: as git does, under a lock (gitrepository-layout, "*.lock"), which is linked and
// renamed whole. was is where it led when it was read; nil for nowhere. Nothing outside of the repository's folder is written, whatever links lead there.
func (r *Repo) put(name plumbing.ReferenceName, was *plumbing.Reference, to string) error {
	files, ok := r.repo.Storer.(*filesystem.Storage)
	if !ok {
		return errors.New("the repository is in no folder")
	}
	root, err := os.OpenRoot(files.Filesystem().Root())
	if err != nil {
		return err
	}
	defer root.Close()
	at, lock, content := name.String(), name.String()+".lock", to+"\n"
	if left, err := root.ReadFile(lock); err == nil && string(left) == content { // of this very write, killed before it was put in place
		_ = root.Remove(lock)
	}
	if entries, err := fs.ReadDir(root.FS(), "."); err == nil {
		for _, e := range entries {
			if !strings.HasPrefix(e.Name(), unfinished) {
				continue
			}
			if info, err := e.Info(); err == nil && time.Since(info.ModTime()) > longAgo {
				_ = root.Remove(e.Name())
			}
		}
	}
	made := unfinished + rand.Text()
	if err := writeWhole(root, made, content); err != nil {
		return err
	}
	defer func() { _ = root.Remove(made) }()
	if err := root.MkdirAll(path.Dir(at), 0o755); err != nil {
		return fmt.Errorf("the branch %s cannot be written: %w", name.Short(), err)
	}
	if err := root.Link(made, lock); errors.Is(err, fs.ErrExist) {
		return fmt.Errorf("%w: another program is writing %s, or broke off while it did: %s is there", ErrMoved, name.Short(), lock)
	} else if err != nil {
		return fmt.Errorf("the branch %s cannot be written: %w", name.Short(), err)
	}
	now, err := r.repo.Reference(name, true) // under the lock nobody else moves it
	switch {
	case err != nil && !errors.Is(err, plumbing.ErrReferenceNotFound):
		_ = root.Remove(lock)
		return err
	case (was == nil) != (now == nil), was != nil && now.Hash() != was.Hash():
		_ = root.Remove(lock)
		return fmt.Errorf("%w: %s", ErrMoved, name.Short())
	}
	if err := root.Rename(lock, at); err != nil {
		_ = root.Remove(lock)
		return fmt.Errorf("the branch %s cannot be written: %w", name.Short(), err)
	}
	return nil
}

func writeWhole(root *os.Root, name, content string) error {
	f, err := root.OpenFile(name, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o644)
	if err != nil {
		return err
	}
	_, err = f.WriteString(content)
	return errors.Join(err, f.Sync(), f.Close())
}
