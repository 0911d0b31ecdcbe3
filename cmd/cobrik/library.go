package main

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"cobrik/core/problem"
	"cobrik/core/token"
	"cobrik/core/token/output"
)

// tokenFlags are what every command on tokens takes, and where a project file
// fills in what is not given.
type tokenFlags struct {
	resolver, project string
	themes            []string
}

func (f *tokenFlags) add(c *cobra.Command) {
	c.Flags().StringVar(&f.resolver, "resolver", "", "resolver document `FILE`, for themes; files it names are read too")
	c.Flags().StringVar(&f.project, "project", "cobrik.json", "project `FILE` that says what is not given here")
	c.Flags().StringArrayVar(&f.themes, "theme", nil, "`MODIFIER=CONTEXT` to choose; more than one for more modifiers")
}

// read reads the files named, else those of the project file. The project is
// nil when there is no such file.
func (f *tokenFlags) read(names []string) (*token.Library, *output.Project, problem.List, error) {
	files, project, err := f.texts(names)
	if err != nil {
		return nil, nil, nil, err
	}
	library, found := token.Open(files...)
	return library, project, found, nil
}

// texts reads the files themselves.
func (f *tokenFlags) texts(names []string) ([]token.File, *output.Project, error) {
	project, err := f.projectFile()
	if err != nil {
		return nil, nil, err
	}
	resolver := f.resolver
	if len(names) == 0 && project != nil {
		dir := filepath.Dir(f.project)
		for _, name := range project.Tokens.Files {
			names = append(names, filepath.Join(dir, filepath.FromSlash(name)))
		}
		if resolver == "" && project.Tokens.Resolver != "" {
			resolver = filepath.Join(dir, filepath.FromSlash(project.Tokens.Resolver))
		}
	}
	if len(names) == 0 && resolver == "" {
		return nil, nil, fmt.Errorf("name the token files, or write them into %s", f.project)
	}
	files, err := readFiles(names, resolver)
	return files, project, err
}

// open reads as read does; any error in the files is an error.
func (f *tokenFlags) open(names []string) (*token.Library, error) {
	library, _, found, err := f.read(names)
	if err == nil {
		err = failure(found)
	}
	return library, err
}

func (f *tokenFlags) projectFile() (*output.Project, error) {
	text, err := os.ReadFile(f.project)
	if errors.Is(err, fs.ErrNotExist) && f.project == "cobrik.json" {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	project, found := output.ReadProject(f.project, text)
	return project, failure(found)
}

// readFiles reads token files in order, then a resolver document and what it
// names.
func readFiles(names []string, resolver string) ([]token.File, error) {
	var files []token.File
	read := func(name string) error {
		if slices.ContainsFunc(files, func(f token.File) bool { return filepath.Clean(f.Name) == filepath.Clean(name) }) {
			return nil
		}
		text, err := os.ReadFile(name)
		if err == nil {
			files = append(files, token.File{Name: filepath.ToSlash(name), Text: text})
		}
		return err
	}
	for _, name := range names {
		if err := read(name); err != nil {
			return nil, err
		}
	}
	if resolver == "" {
		return files, nil
	}
	if err := read(resolver); err != nil {
		return nil, err
	}
	for _, name := range token.ResolverFiles(files[len(files)-1].Text) {
		// A file that is not there is a problem with its place in the document.
		if err := read(filepath.Join(filepath.Dir(resolver), filepath.FromSlash(name))); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return nil, err
		}
	}
	return files, nil
}

// theme is the theme of the choices given, the defaults where none is.
func (f *tokenFlags) theme(library *token.Library) (token.Theme, error) {
	choices := map[string]string{}
	for _, c := range f.themes {
		modifier, context, ok := strings.Cut(c, "=")
		if !ok {
			return nil, fmt.Errorf("--theme takes modifier=context, found %q", c)
		}
		choices[modifier] = context
	}
	theme, found := library.Theme(choices)
	return theme, failure(found)
}

// failure gives errors back as one error, a line each.
func failure(found problem.List) error {
	if found.Failed() {
		return errors.New("\n" + found.Error())
	}
	return nil
}

// designTokens are what commands on contracts take: token files, a resolver document and
// a theme, or a project file that names them.
type designTokens struct {
	tokenFlags
	files []string
}

func (f *designTokens) add(c *cobra.Command) {
	c.Flags().StringSliceVar(&f.files, "tokens", nil, "token `FILE`; more than one in order")
	f.tokenFlags.add(c)
}

// tokensRead are the tokens in the theme chosen, and how the project's own style sheet
// has them.
type tokensRead struct {
	set        *token.Set
	theme      map[string]string
	properties *output.Properties
	texts      []token.File
}

// read reads the tokens; none at all when nothing names any. Warnings go to standard error.
func (f *designTokens) read(cmd *cobra.Command) (tokensRead, error) {
	project, err := f.projectFile()
	if err != nil {
		return tokensRead{}, err
	}
	if len(f.files) == 0 && f.resolver == "" && project == nil {
		set := token.Empty()
		return tokensRead{set: set, properties: output.PropertiesOf(set)}, nil
	}
	texts, _, err := f.texts(f.files)
	if err != nil {
		return tokensRead{}, err
	}
	library, found := token.Open(texts...)
	if err := tell(cmd, found); err != nil {
		return tokensRead{}, err
	}
	theme, err := f.tokenFlags.theme(library)
	if err != nil {
		return tokensRead{}, err
	}
	set, found := library.Set(theme)
	if err := tell(cmd, found); err != nil {
		return tokensRead{}, err
	}
	out := tokensRead{set: set, theme: map[string]string{}, texts: texts}
	for _, c := range theme {
		out.theme[c.Modifier] = c.Context
	}
	out.properties, found = output.NewProperties(output.ForCSS(project.All()), library, library.Themes())
	return out, tell(cmd, found)
}
