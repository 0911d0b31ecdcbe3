package service

import (
	"context"
	"fmt"
	"strings"

	"cobrik/core/emit"
	"cobrik/core/emit/compile"
	"cobrik/core/problem"
)

// BuildCode compiles a component as the repository has it at the commit that was read: the team's own code, running. Its tokens are the repository's, where it has
// the file that they are written to, else those that would be written. What it imports beside React and files of the folder is not there, and is told.
func (s *Service) BuildCode(ctx context.Context, slug, hash string) (Built, error) {
	side, c, err := s.codeOf(ctx, slug, hash)
	if err != nil {
		return Built{}, err
	}
	if !c.there {
		return Built{}, notFound("There is no code of %s.", c.row.Name)
	}
	const folder = "code/"
	var files []emit.File
	tokens := ""
	for _, f := range side.files {
		files = append(files, emit.File{Path: folder + f.Name, Content: string(f.Text)})
		if f.Name == "tokens.css" {
			tokens = folder + f.Name
		}
	}
	for _, f := range side.written {
		if tokens == "" && f.Path == "tokens.css" {
			tokens = f.Path
			files = append(files, f)
		}
	}
	entry := fmt.Sprintf("import * as code from %q;\nexport const %s = (code as Record<string, unknown>)[%q] ?? (code as Record<string, unknown>)[\"default\"];\n", "./"+folder+c.file, c.row.Name, c.row.Name)
	if tokens != "" {
		entry = fmt.Sprintf("import %q;\n", "./"+tokens) + entry
	}
	files = append(files, emit.File{Path: "index.ts", Content: entry})
	bundle, found := compile.React(files)
	for i := range found {
		found[i].File = strings.TrimPrefix(found[i].File, folder)
	}
	return Built{Name: c.row.Name, Build: "code~" + hash, Bundle: bundle, Problems: append(problem.List{}, found...), Files: files}, nil
}
