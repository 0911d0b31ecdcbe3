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
	"cobrik/core/token/platform"
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
				for _, p := range found {
					fmt.Fprintf(cmd.OutOrStdout(), "%s: %s [%s]\n", p.Severity, p, p.Rule)
				}
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
	var name, out, form, references string
	var base float64
	var register bool
	c := &cobra.Command{
		Use:   "build [FILE...]",
		Short: "Write token files for a platform",
		Long: `Reads token files (design-token standard) in order, a later file replacing
tokens of an earlier one, and writes them for a platform: css, sass, typescript,
json, json-nested, swift, android, kotlin, or one of the project file's own. With
a resolver document every theme is written, in CSS as overrides of what differs;
with --theme that theme alone. In a folder with a cobrik.json nothing need be
given: all its platforms are written. The files written are listed.`,
		Example: `  cobrik tokens build core.tokens.json semantic.tokens.json --out build
  cobrik tokens build --platform typescript --theme theme=dusk --out build`,
		RunE: func(cmd *cobra.Command, args []string) error {
			library, project, found, err := f.read(args)
			if err != nil {
				return err
			}
			if err := tell(cmd, found); err != nil {
				return err
			}
			platforms, err := chosen(project, name)
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
			for _, p := range platforms {
				if err := adjust(&p, base, form, references, register); err != nil {
					return err
				}
				files, found := platform.Build(&p, library, themes)
				if err := tell(cmd, found); err != nil {
					return err
				}
				var written []emit.File
				for _, file := range files {
					written = append(written, emit.File{Path: file.Name, Content: string(file.Text)})
				}
				if err := write(cmd, out, written); err != nil {
					return err
				}
			}
			return nil
		},
	}
	f.add(c)
	c.Flags().StringVar(&name, "platform", "", "what to write for; all of the project file's, else css, when not given")
	c.Flags().StringVar(&out, "out", ".", "folder to write into")
	c.Flags().Float64Var(&base, "base-font-size", 0, "px of 1 rem; given, lengths in px become rem where the platform has no unit of its own")
	c.Flags().StringVar(&form, "color-form", "", "hex, rgb, hsl or oklch")
	c.Flags().StringVar(&references, "references", "", "keep aliases as references, or flatten them")
	c.Flags().BoolVar(&register, "register", false, "register CSS custom properties with @property")
	return c
}

// chosen gives the platform named, else all of the project's, else css.
func chosen(project *platform.Project, name string) ([]platform.Platform, error) {
	if name == "" && project != nil && len(project.Tokens.Platforms) > 0 {
		return project.Tokens.Platforms, nil
	}
	if name == "" {
		name = "css"
	}
	p, err := platform.Named(project.All(), name)
	return []platform.Platform{p}, err
}

// adjust makes a platform what the command line asks for.
func adjust(p *platform.Platform, base float64, form, references string, register bool) error {
	p.Transforms = slices.Clone(p.Transforms)
	if base != 0 {
		p.BaseFontSize = base
		if !slices.ContainsFunc(p.Transforms, func(id string) bool { return strings.HasPrefix(id, "size-") }) {
			p.Transforms = append(p.Transforms, "size-rem")
		}
	}
	if form != "" {
		if !slices.Contains([]string{"hex", "rgb", "hsl", "oklch"}, form) {
			return fmt.Errorf("there is no colour form %q; use hex, rgb, hsl or oklch", form)
		}
		p.Transforms = slices.DeleteFunc(p.Transforms, func(id string) bool { return strings.HasPrefix(id, "color-") })
		p.Transforms = append(p.Transforms, "color-"+form)
	}
	if references != "" {
		p.References = references
	}
	p.Register = p.Register || register
	return nil
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
