package service

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"path"
	"strings"
	"time"

	"cobrik/gitrepo"
	"cobrik/store"
)

// TargetView is the repository that the project's code is in.
type TargetView struct {
	Path     string          `json:"path"`
	Branch   string          `json:"branch"`
	Folder   string          `json:"folder" doc:"That the components are in; empty for the repository's root"`
	Tokens   string          `json:"tokens" doc:"Folder that token files are in, from the repository's root, which is a dot; empty where none are read"`
	Author   string          `json:"author" doc:"Of the commits that are written"`
	Email    string          `json:"email"`
	Revision int             `json:"revision" doc:"0 while there is none; an edit carries it"`
	Commit   *gitrepo.Commit `json:"commit,omitempty" doc:"The one that was read last"`
	ReadAt   *time.Time      `json:"readAt,omitempty"`
	Problem  string          `json:"problem" doc:"Why it could not be read, in a sentence"`
	Branches []string        `json:"branches"`
	Writes   []WriteView     `json:"writes" doc:"What was written, the last first"`
}

// WriteView is a branch that was written.
type WriteView struct {
	Branch     string    `json:"branch"`
	Hash       string    `json:"hash"`
	Components []string  `json:"components" doc:"Their slugs"`
	State      string    `json:"state" enum:"pending,done,gone"`
	By         string    `json:"by"`
	At         time.Time `json:"at"`
}

// TargetEdit is what people say of the target.
type TargetEdit struct {
	Revision int    `json:"revision" doc:"That was read; 0 for the first"`
	Path     string `json:"path" maxLength:"1000" doc:"A folder of the server's machine that holds a git repository, bare or with a work tree"`
	Branch   string `json:"branch" maxLength:"200"`
	Folder   string `json:"folder" maxLength:"500"`
	Tokens   string `json:"tokens,omitempty" maxLength:"500"`
	Author   string `json:"author" maxLength:"200"`
	Email    string `json:"email" maxLength:"200"`
}

// mostWrites bounds how many of the branches that were written are listed.
const mostWrites = 20

// Target reads where the project's code is.
func (s *Service) Target(ctx context.Context) (TargetView, error) {
	out := TargetView{Branches: []string{}, Writes: []WriteView{}}
	t, err := s.store.Target(ctx)
	if errors.Is(err, store.ErrNotFound) {
		return out, nil
	}
	if err != nil {
		return out, err
	}
	out = TargetView{Path: t.Path, Branch: t.Branch, Folder: t.Folder, Tokens: t.Tokens, Author: t.Author, Email: t.Email, Revision: t.Revision, ReadAt: t.ReadAt, Problem: t.Problem, Branches: []string{}, Writes: []WriteView{}}
	if repo, err := gitrepo.Open(t.Path); err == nil {
		if out.Branches, err = repo.Branches(); err != nil {
			out.Branches, out.Problem = []string{}, inSentence(err)
		}
		if t.Read != "" {
			if c, err := repo.Commit(t.Read); err == nil {
				out.Commit = &c
			}
		}
	}
	rows, err := s.store.TargetWrites(ctx, mostWrites)
	for _, w := range rows {
		one := WriteView{Branch: w.Branch, Hash: w.Hash, Components: []string{}, State: w.State, By: w.Actor, At: w.Created}
		if err := json.Unmarshal(w.Components, &one.Components); err != nil {
			return out, err
		}
		out.Writes = append(out.Writes, one)
	}
	return out, err
}

// SetTarget says where the project's code is, and reads it.
func (s *Service) SetTarget(ctx context.Context, e TargetEdit) (TargetView, error) {
	e.Folder = strings.Trim(path.Clean("/"+strings.TrimSpace(e.Folder)), "/")
	if e.Tokens = strings.TrimSpace(e.Tokens); e.Tokens != "" {
		e.Tokens = cmp.Or(strings.Trim(path.Clean("/"+e.Tokens), "/"), ".")
	}
	repo, err := gitrepo.Open(strings.TrimSpace(e.Path))
	if err != nil {
		return TargetView{}, invalid(nil, "%s", inSentence(err))
	}
	if e.Branch = strings.TrimSpace(e.Branch); e.Branch == "" {
		e.Branch = "main"
	}
	if _, err := repo.Head(e.Branch); err != nil {
		return TargetView{}, invalid(nil, "%s", inSentence(err))
	}
	t := store.Target{Path: repo.Path(), Branch: e.Branch, Folder: e.Folder, Tokens: e.Tokens, Author: strings.TrimSpace(e.Author), Email: strings.TrimSpace(e.Email)}
	if t.Author == "" {
		t.Author = "Cobrik"
	}
	err = s.store.PutTarget(ctx, e.Revision, t)
	if errors.Is(err, store.ErrStale) {
		return TargetView{}, &Failure{Kind: Conflict, Message: "Somebody else changed the target meanwhile. Read it again."}
	}
	if err != nil {
		return TargetView{}, err
	}
	return s.ReadTarget(ctx)
}

// ReadTarget looks whether the target moved: its newest commit, what is in step there, and what became of branches that were begun when the program ended.
func (s *Service) ReadTarget(ctx context.Context) (TargetView, error) {
	t, err := s.store.Target(ctx)
	if errors.Is(err, store.ErrNotFound) {
		return TargetView{}, invalid(nil, "The project has no target. Say where its code is first.")
	}
	if err != nil {
		return TargetView{}, err
	}
	repo, err := gitrepo.Open(t.Path)
	var head gitrepo.Commit
	if err == nil {
		if err = s.finishWrites(ctx, repo); err != nil {
			return TargetView{}, err
		}
		head, err = repo.Head(t.Branch)
	}
	if err != nil {
		if noted := s.store.TargetRead(ctx, "", inSentence(err), nil); noted != nil {
			return TargetView{}, noted
		}
		return s.Target(ctx)
	}
	code, err := s.codeAt(ctx, t, repo, head.Hash)
	if err != nil {
		if noted := s.store.TargetRead(ctx, "", inSentence(err), nil); noted != nil {
			return TargetView{}, noted
		}
		return s.Target(ctx)
	}
	if err := s.store.TargetRead(ctx, head.Hash, "", code.newBases(head.Hash)); err != nil {
		return TargetView{}, err
	}
	if err := s.levelTokens(ctx, code); err != nil {
		return TargetView{}, err
	}
	return s.Target(ctx)
}

// finishWrites ends what was begun before the program ended: the branch leads there by now, or is moved, or went elsewhere.
func (s *Service) finishWrites(ctx context.Context, repo *gitrepo.Repo) error {
	pending, err := s.store.PendingWrites(ctx)
	if err != nil {
		return err
	}
	for _, w := range pending {
		state := "done"
		if err := repo.Move(w.Branch, w.Started, w.Hash); err != nil {
			state = "gone"
		}
		if err := s.store.EndWrite(ctx, w.ID, state); err != nil {
			return err
		}
	}
	return nil
}

// inSentence makes a sentence of an error that says what and where.
func inSentence(err error) string {
	text := err.Error()
	for _, prefix := range []string{gitrepo.ErrNotFound.Error() + ": ", gitrepo.ErrMoved.Error() + ": "} {
		text = strings.TrimPrefix(text, prefix)
	}
	return strings.ToUpper(text[:1]) + text[1:] + "."
}
