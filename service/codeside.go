package service

import (
	"context"
	"errors"
	"fmt"
	"hash/fnv"
	"path"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/emit/react"
	"cobrik/core/problem"
	"cobrik/core/source"
	"cobrik/gitrepo"
	"cobrik/store"
)

// codeSide is the code of all components at one commit, held against what would be written.
type codeSide struct {
	target  store.Target
	repo    *gitrepo.Repo
	hash    string
	lib     *library
	files   []source.File // of the folder, without its name
	code    *source.Code
	written []emit.File // what would be written of the contracts as they are
	options source.Options
	all     []*codeComponent
	unknown []source.Named
}

// codeComponent is one component's.
type codeComponent struct {
	row      store.Component
	contract *contract.Contract
	base     store.TargetBase
	known    bool // there is a base
	file     string
	there    bool
	versions source.Versions
	quiet    func(*source.Reading) // leaves out of another reading what nobody said
	moves    []source.Move
	unread   problem.List
	files    []source.File // as they were last written
}

// States of a component's code.
const (
	inStep   = "in step"
	hasMoved = "moved"
	noCode   = "missing"
	notRead  = "not read"
)

func (c *codeComponent) state() string {
	switch {
	case !c.there:
		return noCode
	case c.versions.Code == nil:
		return notRead
	case len(c.moves) > 0:
		return hasMoved
	}
	return inStep
}

// codeNow reads the code as it was last read; false where there is no target, or none was read.
func (s *Service) codeNow(ctx context.Context) (*codeSide, bool, error) {
	t, err := s.store.Target(ctx)
	if errors.Is(err, store.ErrNotFound) || err == nil && t.Read == "" {
		return nil, false, nil
	}
	if err != nil {
		return nil, false, err
	}
	repo, err := gitrepo.Open(t.Path)
	if err != nil {
		return nil, false, &Failure{Kind: Unavailable, Message: inSentence(err)}
	}
	code, err := s.codeAt(ctx, t, repo, t.Read)
	return code, err == nil, err
}

// sourceEndings are those of the files that are read of a target.
var sourceEndings = []string{".tsx", ".ts", ".jsx", ".js", ".mts", ".mjs", ".css", ".svg", ".png"}

// targetFiles reads the files of the target's folder at a commit, without the folder's name.
func (s *Service) targetFiles(t store.Target, repo *gitrepo.Repo, hash string) ([]source.File, error) {
	return recalled(&s.memo, fmt.Sprintf("target files %s %s %s", t.Path, t.Folder, hash), func() ([]source.File, error) {
		prefix := t.Folder + "/"
		if t.Folder == "" {
			prefix = ""
		}
		files, err := repo.Files(hash, func(name string) bool {
			return strings.HasPrefix(name, prefix) && slices.Contains(sourceEndings, path.Ext(name)) && !strings.Contains("/"+name, "/node_modules/")
		})
		var out []source.File
		for name, text := range files {
			out = append(out, source.File{Name: strings.TrimPrefix(name, prefix), Text: text})
		}
		slices.SortFunc(out, func(a, b source.File) int { return strings.Compare(a.Name, b.Name) })
		return out, err
	})
}

// codeAt reads the code at a commit. What follows from the same numbers is remembered.
func (s *Service) codeAt(ctx context.Context, t store.Target, repo *gitrepo.Repo, hash string) (*codeSide, error) {
	rows, err := s.store.Components(ctx)
	if err != nil {
		return nil, err
	}
	bases, err := s.store.TargetBases(ctx)
	if err != nil {
		return nil, err
	}
	l, err := s.library(ctx)
	if err != nil {
		return nil, err
	}
	depends := fnv.New64a()
	for _, row := range rows {
		fmt.Fprintln(depends, row.ID, row.Revision, bases[row.ID])
	}
	name := fmt.Sprintf("code %d %s %s %s %s %x", s.store.Scope.Project, t.Path, t.Folder, hash, l.name(), depends.Sum(nil))
	return recalled(&s.memo, name, func() (*codeSide, error) { return s.readCode(ctx, t, repo, hash, rows, bases, l) })
}

func (s *Service) readCode(ctx context.Context, t store.Target, repo *gitrepo.Repo, hash string, rows []store.Component, bases map[int64]store.TargetBase, l *library) (*codeSide, error) {
	side := &codeSide{target: t, repo: repo, hash: hash, lib: l}
	var err error
	if side.files, err = s.targetFiles(t, repo, hash); err != nil {
		return nil, err
	}
	var contracts []*contract.Contract
	byName := map[string]*contract.Contract{}
	for _, row := range rows {
		c, err := contractOf(row)
		if err != nil {
			return nil, err
		}
		c.Timed(l.tokens())
		contracts = append(contracts, c)
		byName[c.Name] = c
		base, known := bases[row.ID]
		side.all = append(side.all, &codeComponent{row: row, contract: c, base: base, known: known})
	}
	linker := contract.NewLinker(func(name string) *contract.Contract { return byName[name] })
	for _, c := range contracts {
		linker.Link(c)
	}
	side.written = react.Library("library", contracts, l.customProperties(), react.Options{})
	paths := l.customProperties().Paths()
	side.options = source.Options{Tokens: l.tokens(), Token: func(property string) (string, bool) { path, ok := paths[property]; return path, ok },
		Component: func(name string) *contract.Contract { return byName[name] }}
	for _, m := range l.library.Modifiers() {
		side.options.Modifiers = append(side.options.Modifiers, m.Name)
	}
	side.code = source.Open(side.files)
	named := map[string]source.Named{}
	for _, one := range side.code.Components() {
		if byName[one.Name] == nil {
			side.unknown = append(side.unknown, one)
		} else {
			named[one.Name] = one
		}
	}
	would := source.Open(emitted(side.written))
	for _, c := range side.all {
		if err := s.readComponent(ctx, side, c, named, would); err != nil {
			return nil, err
		}
	}
	return side, nil
}

func emitted(files []emit.File) (out []source.File) {
	for _, f := range files {
		out = append(out, source.File{Name: f.Path, Text: []byte(f.Content)})
	}
	return out
}

func (s *Service) readComponent(ctx context.Context, side *codeSide, c *codeComponent, named map[string]source.Named, would *source.Code) error {
	name := c.contract.Name
	one, ok := named[name]
	if c.file, c.there = one.File, ok; !ok {
		return nil
	}
	own := name + "/" + name + ".tsx"
	read := func(code *source.Code, file string) *source.Reading {
		r := code.Again().Read(file, name, side.options)
		if r != nil {
			r.Align(c.contract)
		}
		return r
	}
	c.versions.Contract, c.versions.Code = read(would, own), read(side.code, c.file)
	if c.versions.Code == nil || c.versions.Contract == nil {
		return nil
	}
	c.unread = c.versions.Code.Unread
	base, file, err := s.baseFiles(ctx, side, c)
	if err != nil {
		return err
	}
	c.files = base
	if c.versions.Base = read(source.Open(base), file); c.versions.Base == nil {
		c.versions.Base = c.versions.Contract
	}
	c.quiet = c.versions.Unsaid(c.contract)
	c.moves = c.versions.Moves()
	return nil
}

// baseFiles gives the files of a component as it was last in step, and which of them it is in.
func (s *Service) baseFiles(ctx context.Context, side *codeSide, c *codeComponent) ([]source.File, string, error) {
	own := c.contract.Name + "/" + c.contract.Name + ".tsx"
	if c.known && c.base.Hash != "" {
		if files, err := s.targetFiles(side.target, side.repo, c.base.Hash); err == nil {
			return files, c.file, nil
		}
	}
	if !c.known || c.base.Revision == c.row.Revision {
		return emitted(side.written), own, nil
	}
	text, err := s.store.ContractAt(ctx, c.row.ID, c.base.Revision)
	if err != nil {
		return nil, "", err
	}
	old, found := contract.Read(c.row.Name, text, nil)
	if old == nil {
		return emitted(side.written), own, found.Err()
	}
	if _, err := s.link(ctx, old); err != nil {
		return nil, "", err
	}
	return emitted(react.Library("library", []*contract.Contract{old}, side.lib.customProperties(), react.Options{})), old.Name + "/" + old.Name + ".tsx", nil
}

// newBases gives since when components are in step that were not known to be: at the commit that was read where nothing moved; else, where nothing is known yet, as their
// contracts are now.
func (side *codeSide) newBases(hash string) map[int64]store.TargetBase {
	out := map[int64]store.TargetBase{}
	for _, c := range side.all {
		base := store.TargetBase{Hash: hash, Revision: c.row.Revision}
		switch {
		case c.state() == inStep && c.base != base:
			out[c.row.ID] = base
		case c.state() == hasMoved && !c.known:
			out[c.row.ID] = store.TargetBase{Revision: c.row.Revision}
		}
	}
	return out
}
