package service

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/emit"
	"cobrik/core/primitive"
	"cobrik/core/problem"
	"cobrik/core/publish"
	"cobrik/core/token"
	"cobrik/store"
)

// LibraryView is the library as a whole: what a version of it would be, and those that were released.
type LibraryView struct {
	Name     string               `json:"name" doc:"Of its package"`
	Newest   string               `json:"newest" doc:"Empty for none"`
	Version  string               `json:"version" doc:"What the next one would be"`
	Level    contract.Level       `json:"level" enum:"none,patch,minor,major"`
	Changes  []contract.Change    `json:"changes" doc:"Since the newest"`
	Blocked  []string             `json:"blocked" doc:"Why it cannot be released, in sentences"`
	Releases []LibraryReleaseView `json:"releases" doc:"Newest first"`
}

// LibraryReleaseView is a version of the library.
type LibraryReleaseView struct {
	Version  string            `json:"version"`
	Told     []contract.Block  `json:"told" doc:"What changed, rich text"`
	Changes  []contract.Change `json:"changes"`
	By       string            `json:"by"`
	Released time.Time         `json:"released"`
}

// Library reads what the library as a whole would be, and was.
func (s *Service) Library(ctx context.Context) (LibraryView, error) {
	out, _, _, err := s.planLibrary(ctx)
	return out, err
}

// planLibrary works out the next version of the library, with what is in it.
func (s *Service) planLibrary(ctx context.Context) (LibraryView, []store.LibraryComponent, *library, error) {
	out := LibraryView{Changes: []contract.Change{}, Blocked: []string{}, Releases: []LibraryReleaseView{}, Version: "1.0.0", Level: contract.Major}
	project, err := s.store.Project(ctx)
	if err != nil {
		return out, nil, nil, err
	}
	out.Name = emit.Kebab(project.Name)
	rows, err := s.store.LibraryReleases(ctx)
	if err != nil {
		return out, nil, nil, err
	}
	for _, r := range rows {
		one := LibraryReleaseView{Version: r.Version, Told: toldIn(r.Note), Changes: []contract.Change{}, By: r.By, Released: r.Released}
		if err := json.Unmarshal(r.Changes, &one.Changes); err != nil {
			return out, nil, nil, err
		}
		out.Releases = append(out.Releases, one)
	}
	l, err := s.library(ctx)
	if err != nil {
		return out, nil, nil, err
	}
	in, err := s.store.Released(ctx)
	if err != nil {
		return out, nil, nil, err
	}
	now, blocked, err := fitted(in, l.tokens())
	if err != nil {
		return out, nil, nil, err
	}
	if len(in) == 0 {
		blocked = append(blocked, "Nothing is released that it could hold.")
	}
	out.Blocked = append(out.Blocked, blocked...)
	if len(rows) == 0 {
		return out, in, l, nil
	}
	out.Newest = rows[0].Version
	before, err := s.store.InLibrary(ctx, rows[0].Version)
	if err != nil {
		return out, nil, nil, err
	}
	then, err := s.libraryAt(ctx, rows[0].Tokens)
	if err != nil {
		return out, nil, nil, err
	}
	was, _, err := fitted(before, then.tokens())
	if err != nil {
		return out, nil, nil, err
	}
	var tokens publish.TokenChanges
	if rows[0].Tokens != l.state.Number {
		compared, err := s.CompareTokens(ctx, rows[0].Tokens, l.state.Number)
		if err != nil {
			return out, nil, nil, err
		}
		tokens = tokenChanges(compared)
	}
	out.Level, out.Changes = publish.Since(was, now, tokens)
	out.Version, err = nextVersion(rows[0].Version, out.Level)
	return out, in, l, err
}

// tokenChanges counts tokens, each once whatever the themes it differs in.
func tokenChanges(c Compared) (out publish.TokenChanges) {
	states := map[string]string{}
	for _, place := range c.Places {
		for _, row := range place.Rows {
			if row.Property != "" {
				states[row.What] = row.State
			}
		}
	}
	for _, state := range states {
		switch state {
		case string(design.Added):
			out.Added++
		case string(design.Removed):
			out.Removed++
		default:
			out.Changed++
		}
	}
	return out
}

// fitted ties the components of a library to each other, and says which do not fit together.
func fitted(in []store.LibraryComponent, tokens *token.Set) (out []publish.Component, blocked []string, err error) {
	known := map[string]*contract.Contract{}
	versions := map[string]string{}
	for _, row := range in {
		c := new(contract.Contract)
		if err := json.Unmarshal(row.Contract, c); err != nil {
			return nil, nil, err
		}
		known[c.Name], versions[c.Name] = c, row.Version
		out = append(out, publish.Component{Contract: c, Shelf: row.Shelf, Version: row.Version})
	}
	linker := contract.NewLinker(func(name string) *contract.Contract {
		if c := known[name]; c != nil {
			return c.Clone()
		}
		return nil
	})
	for _, c := range out {
		c.Contract.Timed(tokens)
		if _, cycle := linker.Link(c.Contract); cycle != nil {
			return nil, nil, cycleFailure(cycle)
		}
		missing := slices.DeleteFunc(c.Contract.Components(), func(name string) bool { return known[name] != nil })
		if len(missing) > 0 {
			blocked = append(blocked, fmt.Sprintf("%s is made of %s, which is not released. Release it, too.", c.Contract.Name, strings.Join(missing, " and ")))
			continue
		}
		for _, p := range c.Contract.Check(tokens) {
			if p.Severity == problem.Error {
				blocked = append(blocked, fmt.Sprintf("%s %s does not fit the rest: %s Release it anew.", c.Contract.Name, c.Version, sentence(p.Message)))
				break
			}
		}
	}
	return out, blocked, nil
}

// ReleaseLibrary releases all that is released as one version, with a note that people wrote, CommonMark; as proposed when it
// is empty. Version is what they were shown that it would be.
func (s *Service) ReleaseLibrary(ctx context.Context, version, note string) (LibraryView, error) {
	plan, in, l, err := s.planLibrary(ctx)
	switch {
	case err != nil:
		return plan, err
	case len(plan.Blocked) > 0:
		return plan, invalid(nil, "%s", plan.Blocked[0])
	case plan.Level == contract.None:
		return plan, invalid(nil, "Nothing changed since %s.", plan.Newest)
	case version != plan.Version:
		return plan, &Failure{Kind: Conflict, Message: fmt.Sprintf("It would be %s by now, for more was released since you looked.", plan.Version)}
	}
	if note = strings.TrimSpace(note); note == "" {
		note = libraryTold(plan.Changes)
	}
	err = s.store.ReleaseLibrary(ctx, store.NewLibrary{Version: version, Level: string(plan.Level), Note: note, Tokens: l.state.Number, Changes: plan.Changes, Components: in})
	switch {
	case errors.Is(err, store.ErrTaken):
		return plan, &Failure{Kind: Conflict, Message: "The version " + version + " is released already."}
	case errors.Is(err, store.ErrMoved):
		return plan, &Failure{Kind: Conflict, Message: "Something was released, or the tokens changed, while it was made. Look again."}
	case err != nil:
		return plan, err
	}
	return s.Library(ctx)
}

// libraryTold is a changelog of the library as it is proposed.
func libraryTold(changes []contract.Change) string {
	if len(changes) == 0 {
		return "First release."
	}
	lines := make([]string, len(changes))
	for i, c := range changes {
		lines[i] = "- " + sentence(c.Text)
	}
	return strings.Join(lines, "\n")
}

// LibraryFiles writes the package of a version of the library, as it was released: the same bytes whenever it is asked for.
func (s *Service) LibraryFiles(ctx context.Context, version string) (name string, files []emit.File, err error) {
	rows, err := s.store.LibraryReleases(ctx)
	if err != nil {
		return "", nil, err
	}
	i := slices.IndexFunc(rows, func(r store.LibraryRelease) bool { return r.Version == version })
	if i < 0 {
		return "", nil, notFound("The library has no release %s.", version)
	}
	in, err := s.store.InLibrary(ctx, version)
	if err != nil {
		return "", nil, err
	}
	l, err := s.libraryAt(ctx, rows[i].Tokens)
	if err != nil {
		return "", nil, err
	}
	components, _, err := fitted(in, l.tokens())
	if err != nil {
		return "", nil, err
	}
	project, err := s.store.Project(ctx)
	if err != nil {
		return "", nil, err
	}
	made := publish.Library{Name: emit.Kebab(project.Name), Version: version, Components: components, Primitives: primitive.Contracts(l.tokens()), Tokens: l.customProperties(), Told: rows[i].Note}
	for _, f := range l.stored {
		made.TokenFiles = append(made.TokenFiles, token.File{Name: f.Name, Text: f.Content})
	}
	files, found := made.Files()
	if found.Failed() {
		return "", nil, invalid(found, "The library does not compile: %s", found[0].Message)
	}
	return made.Name, files, nil
}
