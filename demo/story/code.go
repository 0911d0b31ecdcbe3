package story

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"time"

	"cobrik/gitrepo"
	"cobrik/service"
)

// Folder is where the components are in the demo's repository.
const Folder = "src/components"

// TokenFolder is where the token files are in it.
const TokenFolder = "tokens"

// Code gives the demo a repository of its app, in a folder that is not there yet: the components as they were written, and what a developer
// changed since. A project that has a target keeps it.
func Code(ctx context.Context, s *service.Service, dir string) error {
	target, err := s.Target(ctx)
	if err != nil || target.Revision > 0 {
		return err
	}
	repo, err := gitrepo.Open(dir)
	if errors.Is(err, gitrepo.ErrNotFound) {
		readme := "# Hollowbeck\n\nThe app of the Hollowbeck Allotment Society. Its components are in " + Folder + ".\n"
		repo, err = gitrepo.Create(dir, "main", gitrepo.Change{Files: map[string][]byte{"README.md": []byte(readme)}, Message: "The app begins"}, ruth, time.Date(2026, 3, 2, 9, 0, 0, 0, time.UTC))
	}
	if err != nil {
		return err
	}
	if _, err := s.SetTarget(ctx, service.TargetEdit{Path: dir, Branch: "main", Folder: Folder, Tokens: TokenFolder, Author: "Furrow", Email: "furrow@hollowbeck.invalid"}); err != nil {
		return fmt.Errorf("the demo's repository: %w", err)
	}
	plan, err := s.PlanWrite(ctx, service.WriteRequest{})
	if err != nil || plan.Blocked != "" {
		return err
	}
	if _, err := s.Write(ctx, service.WriteRequest{Hash: plan.Hash, Forward: true}); err != nil {
		return fmt.Errorf("the demo's components: %w", err)
	}
	if err := byHand(repo); err != nil {
		return err
	}
	_, err = s.ReadTarget(ctx)
	return err
}

// ruth is the developer of the demo's app.
var ruth = gitrepo.Author{Name: "Ruth, plot 7", Email: "ruth@hollowbeck.invalid"}

// handEdits are what the developer changed of files, commit by commit.
var handEdits = []struct{ message, file, old, now string }{
	{"Panels open slower", TokenFolder + "/core.tokens.json", `"slow": { "$value": { "value": 420`, `"slow": { "$value": { "value": 480`},
	{"Crop tags say sprouting at first", Folder + "/CropTag/CropTag.tsx", `label = "Growing",`, `label = "Sprouting",`},
	{"More room in plot cards", Folder + "/PlotCard/PlotCard.module.css", "padding-inline: var(--card-pad);", "padding-inline: 18px; /* the pictures looked cramped */"},
	{"The shed list lights up", Folder + "/ToolRow/ToolRow.module.css", ".root {", ".root:hover {\n  opacity: 0.85;\n}\n\n.root {"},
}

func byHand(repo *gitrepo.Repo) error {
	head, err := repo.Head("main")
	if err != nil {
		return err
	}
	from := head.Hash
	var changes []gitrepo.Change
	for _, e := range handEdits {
		name := e.file
		files, err := repo.Files(from, func(file string) bool { return file == name })
		if err != nil {
			return err
		}
		text := bytes.Replace(files[name], []byte(e.old), []byte(e.now), 1)
		if bytes.Equal(text, files[name]) {
			return fmt.Errorf("%s holds no %q", name, e.old)
		}
		changes = append(changes, gitrepo.Change{Files: map[string][]byte{name: text}, Message: e.message})
	}
	sign := "export function GateSign({ words }: { words: string }) {\n  return <strong>{words}</strong>;\n}\n"
	changes = append(changes, gitrepo.Change{Files: map[string][]byte{Folder + "/GateSign.tsx": []byte(sign)}, Message: "A sign for the gate"})
	hash, err := repo.Build(from, changes, ruth, time.Date(2026, 3, 9, 16, 30, 0, 0, time.UTC))
	if err != nil {
		return err
	}
	return repo.Move("main", head.Hash, hash)
}
