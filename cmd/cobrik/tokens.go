package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"cobrik/core/emit"
	"cobrik/core/jsontree"
	"cobrik/core/problem"
	"cobrik/core/token"
	"cobrik/core/token/output"
)

func tokensCommand() *cobra.Command {
	tokens := &cobra.Command{Use: "tokens", Short: "Check, resolve, write and format design tokens"}
	tokens.AddCommand(tokensCheck(), tokensThemes(), tokensResolve(), tokensBuild(), tokensFormat())
	return tokens
}

// errSilent ends a command that has said all there is to say.
var errSilent = errors.New("")

func tokensCheck() *cobra.Command {
	var f tokenFlags
	var asJSON bool
	c := &cobra.Command{
		Use:   "check [FILE...]",
		Short: "List what is wrong with token files",
		Long: `Reads token files (design-token standard) in order, resolves every theme and
lists every problem with its place, what is wrong and what to do. Exits with 1
when there is an error; warnings alone are no failure.`,
		Example: "  cobrik tokens check core.tokens.json semantic.tokens.json --resolver furrow.resolver.json --json",
		RunE: func(cmd *cobra.Command, args []string) error {
			library, _, found, err := f.read(args)
			if err != nil {
				return err
			}
			found = append(found, library.Check()...)
			errs := 0
			for _, p := range found {
				if p.Severity == problem.Error {
					errs++
				}
			}
			if asJSON {
				if found == nil {
					found = problem.List{}
				}
				err = printJSON(cmd, map[string]any{"errors": errs, "warnings": len(found) - errs, "problems": found})
			} else {
				err = list(cmd, found, false)
				fmt.Fprintf(cmd.OutOrStdout(), "%d errors, %d warnings\n", errs, len(found)-errs)
			}
			if err == nil && errs > 0 {
				return errSilent
			}
			return err
		},
	}
	f.add(c)
	c.Flags().BoolVar(&asJSON, "json", false, "print an object: errors, warnings, problems")
	return c
}

func tokensThemes() *cobra.Command {
	var f tokenFlags
	c := &cobra.Command{
		Use:   "themes [FILE...]",
		Short: "List the themes of a resolver document",
		Long: `Lists every combination of a resolver document's contexts, a line each, the
default first: what --theme takes of each modifier.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			library, err := f.open(args)
			if err != nil {
				return err
			}
			for _, t := range library.Themes() {
				fmt.Fprintln(cmd.OutOrStdout(), t)
			}
			return nil
		},
	}
	f.add(c)
	return c
}

func tokensResolve() *cobra.Command {
	var f tokenFlags
	var asJSON bool
	c := &cobra.Command{
		Use:   "resolve [FILE...]",
		Short: "Print every token's value for a theme",
		Long: `Resolves token files for one theme: the default, or the choices given with
--theme. With --json, an object of paths to type, value (in the standard's own
form, every reference replaced) and chain (the tokens walked to it).`,
		Example: "  cobrik tokens resolve core.tokens.json semantic.tokens.json --resolver furrow.resolver.json --theme theme=dusk --json",
		RunE: func(cmd *cobra.Command, args []string) error {
			library, err := f.open(args)
			if err != nil {
				return err
			}
			theme, err := f.theme(library)
			if err != nil {
				return err
			}
			set, found := library.Set(theme)
			if err := failure(found); err != nil {
				return err
			}
			if asJSON {
				_, err := cmd.OutOrStdout().Write(resolvedJSON(set))
				return err
			}
			w := tabwriter.NewWriter(cmd.OutOrStdout(), 0, 8, 2, ' ', 0)
			for _, t := range set.All() {
				fmt.Fprintf(w, "%s\t%s\t%s\t%s\n", t.Path, t.Type, t.Value, strings.Join(t.Chain(), " → "))
			}
			return w.Flush()
		},
	}
	f.add(c)
	c.Flags().BoolVar(&asJSON, "json", false, "print an object of paths to type, value and chain")
	return c
}

func resolvedJSON(set *token.Set) []byte {
	root := jsontree.NewObject()
	for _, t := range set.All() {
		chain := jsontree.NewArray()
		for _, path := range t.Chain() {
			chain.Children = append(chain.Children, jsontree.NewString(path))
		}
		root.Children = append(root.Children, jsontree.NewObject(
			jsontree.NewString(t.Type).Named("type"), t.Content.Flat().JSON().Named("value"), chain.Named("chain")).Named(t.Path))
	}
	return append(root.Append(nil, func(n *jsontree.Node) bool { return n != root }), '\n')
}

func printJSON(cmd *cobra.Command, v any) error {
	e := json.NewEncoder(cmd.OutOrStdout())
	e.SetEscapeHTML(false)
	e.SetIndent("", "  ")
	return e.Encode(v)
}

func tokensBuild() *cobra.Command {
	var f tokenFlags
	var name, out string
	var set output.Output
	c := &cobra.Command{
		Use:   "build [FILE...]",
		Short: "Write tokens to files",
		Long: `Reads token files (design-token standard) in order, a later file replacing
tokens of an earlier one, and writes an output of them: CSS, unless --output names
another by its file or its language (css, sass, typescript, json, tokens, swift,
android, kotlin). Flags change its settings; what a language cannot hold is said and
nothing is written. With a resolver document every theme is written; with --theme
that theme alone. In a folder with a cobrik.json nothing need be given: all its
outputs are written. The files written are listed.`,
		Example: `  cobrik tokens build core.tokens.json semantic.tokens.json --out build
  cobrik tokens build --output typescript --theme theme=dusk --out build
  cobrik tokens build core.tokens.json --lengths rem --root 10 --prefix fr`,
		RunE: func(cmd *cobra.Command, args []string) error {
			library, project, found, err := f.read(args)
			if err != nil {
				return err
			}
			if err := tell(cmd, found); err != nil {
				return err
			}
			outputs, err := chosen(project, name)
			if err != nil {
				return err
			}
			if !cmd.Flags().Changed("out") && project != nil && len(args) == 0 {
				out = filepath.Join(filepath.Dir(f.project), filepath.FromSlash(project.Tokens.Out))
			}
			themes := library.Themes()
			if len(f.themes) > 0 {
				theme, err := f.theme(library)
				if err != nil {
					return err
				}
				themes = []token.Theme{theme}
			}
			var written []emit.File
			for _, o := range outputs {
				change(&o, set, cmd.Flags().Changed)
				files, found := output.Build(&o, library, themes)
				if err := tell(cmd, found); err != nil {
					return err
				}
				for _, file := range files {
					if slices.ContainsFunc(written, func(w emit.File) bool { return w.Path == file.Name }) {
						return fmt.Errorf("two outputs are written to %s; give one of them another file", file.Name)
					}
					written = append(written, emit.File{Path: file.Name, Content: string(file.Text)})
				}
			}
			return write(cmd, out, written)
		},
	}
	f.add(c)
	c.Flags().StringVar(&name, "output", "", "`FILE` or language of an output; all of the project file's, else css, when not given")
	c.Flags().StringVar(&out, "out", ".", "folder to write into")
	for _, s := range output.Settings() {
		var values []string
		for _, choice := range s.Options {
			values = append(values, choice.Value)
		}
		c.Flags().StringVar(s.Of(&set), s.ID, "", strings.ToLower(s.Name)+": "+strings.Join(values, ", "))
	}
	c.Flags().StringVar(&set.Prefix, "prefix", "", "a first word for every name")
	c.Flags().Float64Var(&set.Root, "root", 0, "px of 1 rem; 16 when not given")
	c.Flags().BoolVar(&set.Whole, "whole", false, "round lengths to whole px")
	c.Flags().StringSliceVar(&set.Only, "only", nil, "`GROUP` that is written, and no others; more than one by commas")
	c.Flags().StringSliceVar(&set.Without, "without", nil, "`GROUP` that is left out")
	c.Flags().BoolVar(&set.Register, "register", false, "register CSS custom properties with @property")
	return c
}

// chosen gives the output named, else all of the project's, else the one in CSS.
func chosen(project *output.Project, name string) ([]output.Output, error) {
	if name == "" && project != nil && len(project.Tokens.Outputs) > 0 {
		return project.Tokens.Outputs, nil
	}
	if name == "" {
		name = "css"
	}
	o, err := output.Named(project.All(), name)
	return []output.Output{o}, err
}

// change sets an output as the flags that were given say.
func change(o *output.Output, set output.Output, given func(flag string) bool) {
	for _, s := range output.Settings() {
		if given(s.ID) {
			*s.Of(o) = *s.Of(&set)
		}
	}
	if given("prefix") {
		o.Prefix = set.Prefix
	}
	if given("root") {
		o.Root = set.Root
	}
	if given("whole") {
		o.Whole = set.Whole
	}
	if given("only") || given("without") {
		o.Only, o.Without = set.Only, set.Without
	}
	if given("register") {
		o.Register = set.Register
	}
}

func tokensFormat() *cobra.Command {
	var toOutput bool
	c := &cobra.Command{
		Use:   "format FILE...",
		Short: "Rewrite token files in today's form",
		Long: `Rewrites token files in place: what older drafts of the standard wrote becomes
what it writes today, in Cobrik's layout, in the same order. Files that change
are listed. A file named - is read from standard input and goes to standard output.`,
		Args: cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			for _, name := range args {
				var text []byte
				var err error
				if name == "-" {
					text, err = io.ReadAll(cmd.InOrStdin())
				} else {
					text, err = os.ReadFile(name)
				}
				if err != nil {
					return err
				}
				today, found := token.Format(token.File{Name: name, Text: text})
				if err := failure(found); err != nil {
					return err
				}
				switch {
				case name == "-" || toOutput:
					if _, err := cmd.OutOrStdout().Write(today); err != nil {
						return err
					}
				case !bytes.Equal(text, today):
					if err := os.WriteFile(name, today, 0o644); err != nil {
						return err
					}
					fmt.Fprintln(cmd.OutOrStdout(), name)
				}
			}
			return nil
		},
	}
	c.Flags().BoolVar(&toOutput, "stdout", false, "print instead of writing the files")
	return c
}
