package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"runtime/debug"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"cobrik/core/contract"
	"cobrik/core/font"
	"cobrik/core/problem"
	"cobrik/core/repository"
)

// Codes that cobrik check exits with.
const (
	exitWarnings = 1
	exitErrors   = 2
	exitNotRun   = 3
)

// exitCode ends the program with a code of its own, and says nothing more.
type exitCode int

func (e exitCode) Error() string { return fmt.Sprintf("exit %d", int(e)) }

func agreeCommand() *cobra.Command {
	var dir, base, format, failOn string
	var fix bool
	c := &cobra.Command{
		Use:   "check",
		Short: "What design, contracts, tokens and code of a repository do not agree on",
		Long: `Reads what cobrik.json names, without a database: contracts, token files, design documents and the code of the
components, which is read without running it. Lists what disagrees, each with its place and what to do.

Exits with 0 when all agrees, 1 when there are warnings, 2 when there are errors, 3 when it could not be looked at; --fail-on error leaves warnings out of that. With --fix
it writes what is mechanical first: what a review mends in contracts, files that tokens are written to, code that is
not there, values that stand alone in their declarations. With --base it says what changed since a revision for those who use the
components, and the version bump that asks for.`,
		Example: "  cobrik check\n  cobrik check --format sarif > cobrik.sarif\n  cobrik check --base main",
		Args:    cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) (err error) {
			defer func() { // what could not be looked at is neither
				if code := exitCode(0); err != nil && !errors.As(err, &code) {
					fmt.Fprintln(cmd.ErrOrStderr(), "cobrik:", err)
					err = exitCode(exitNotRun)
				}
			}()
			write := formats[format]
			if write == nil {
				return fmt.Errorf("--format takes %s, found %q", strings.Join(formatNames(), ", "), format)
			}
			if failOn != "warning" && failOn != "error" {
				return fmt.Errorf("--fail-on takes warning or error, found %q", failOn)
			}
			debug.SetGCPercent(400) // it ends soon, and memory is there
			files, err := readRepository(dir)
			if err != nil {
				return err
			}
			r, found := repository.Open(files)
			if r != nil && fix {
				fixed := r.Fix(font.Shipped())
				if err := writeFixes(cmd, dir, fixed); err != nil {
					return err
				}
				for name, text := range fixed {
					files[name] = text
				}
				r, found = repository.Open(files)
			}
			if r != nil {
				found = append(found, r.Check(font.Shipped())...)
			}
			if err := write(cmd.OutOrStdout(), found, r); err != nil {
				return err
			}
			if base != "" && r != nil {
				if err := since(cmd, dir, base, r); err != nil {
					return err
				}
			}
			warned := slices.ContainsFunc(found, func(p problem.Problem) bool { return p.Severity == problem.Warning })
			switch {
			case found.Failed():
				return exitCode(exitErrors)
			case warned && failOn == "warning":
				return exitCode(exitWarnings)
			}
			return nil
		},
	}
	c.Flags().StringVar(&dir, "dir", ".", "the repository's root, or the `FOLDER` in it that cobrik.json is in")
	c.Flags().StringVar(&base, "base", "", "say what changed since a `REVISION` of git, and its version bump")
	c.Flags().StringVar(&format, "format", "table", strings.Join(formatNames(), ", "))
	c.Flags().StringVar(&failOn, "fail-on", "warning", "the least that makes the exit code other than 0: warning or error")
	c.Flags().BoolVar(&fix, "fix", false, "write what is mechanical")
	return c
}

// formats are how problems are written.
var formats = map[string]func(w io.Writer, found problem.List, r *repository.Repository) error{
	"table": table,
	"lines": func(w io.Writer, found problem.List, _ *repository.Repository) error { // as compilers write them, so that editors find the place
		for _, p := range found {
			at := p.File
			if p.Line > 0 {
				at += fmt.Sprintf(":%d:%d", p.Line, max(1, p.Column))
			}
			if at == "" {
				at = repository.ProjectFile
			}
			message := p.Message
			if p.Fix != "" {
				message += "; " + p.Fix
			}
			if _, err := fmt.Fprintf(w, "%s: %s: %s [%s]\n", at, p.Severity, message, p.Rule); err != nil {
				return err
			}
		}
		return nil
	},
	"sarif": func(w io.Writer, found problem.List, _ *repository.Repository) error {
		_, err := w.Write(problem.SARIF("Cobrik", found))
		return err
	},
	"junit": func(w io.Writer, found problem.List, r *repository.Repository) error {
		var files []string
		if r != nil {
			for _, c := range r.Contracts {
				files = append(files, c.File)
			}
		}
		_, err := w.Write(problem.JUnit("cobrik check", found, files))
		return err
	},
	"json": func(w io.Writer, found problem.List, _ *repository.Repository) error {
		e := json.NewEncoder(w)
		e.SetEscapeHTML(false)
		e.SetIndent("", "  ")
		return e.Encode(append(problem.List{}, found...))
	},
}

func formatNames() []string { return []string{"table", "lines", "sarif", "junit", "json"} }

// table writes problems under the files they are in.
func table(w io.Writer, found problem.List, r *repository.Repository) error {
	files := map[string]problem.List{}
	for _, p := range found {
		files[p.File] = append(files[p.File], p)
	}
	names := make([]string, 0, len(files))
	for name := range files {
		names = append(names, name)
	}
	slices.Sort(names)
	for _, name := range names {
		fmt.Fprintln(w, name)
		list := files[name]
		slices.SortStableFunc(list, func(a, b problem.Problem) int { return a.Line - b.Line })
		for _, p := range list {
			at := ""
			if p.Line > 0 {
				at = fmt.Sprintf("%d:%d", p.Line, p.Column)
			}
			fmt.Fprintf(w, "  %-8s %-8s %-16s %s\n", at, p.Severity, p.Rule, p.Message)
			if p.Fix != "" {
				fmt.Fprintf(w, "  %-8s %-8s %-16s → %s\n", "", "", "", p.Fix)
			}
		}
	}
	wrong, warnings := 0, 0
	for _, p := range found {
		if p.Severity == problem.Error {
			wrong++
		} else {
			warnings++
		}
	}
	contracts := 0
	if r != nil {
		contracts = len(r.Contracts)
	}
	switch {
	case wrong+warnings == 0:
		_, err := fmt.Fprintf(w, "%s: all agrees\n", several(contracts, "contract"))
		return err
	default:
		_, err := fmt.Fprintf(w, "%s: %s, %s\n", several(contracts, "contract"), several(wrong, "error"), several(warnings, "warning"))
		return err
	}
}

func several(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	return fmt.Sprintf("%d %ss", n, what)
}

// writeFixes writes files within a folder, never outside of it.
func writeFixes(cmd *cobra.Command, dir string, files repository.Files) error {
	root, err := os.OpenRoot(dir)
	if err != nil {
		return err
	}
	defer root.Close()
	names := make([]string, 0, len(files))
	for name := range files {
		names = append(names, name)
	}
	slices.Sort(names)
	for _, name := range names {
		local := filepath.FromSlash(name)
		if err := root.MkdirAll(filepath.Dir(local), 0o755); err != nil {
			return fmt.Errorf("%s is not written: %w", name, err)
		}
		if err := root.WriteFile(local, files[name], 0o644); err != nil {
			return fmt.Errorf("%s is not written: %w", name, err)
		}
		fmt.Fprintln(cmd.ErrOrStderr(), "written:", name)
	}
	return nil
}

// since writes what changed since a revision.
func since(cmd *cobra.Command, dir, base string, r *repository.Repository) error {
	files, err := readRevision(dir, base)
	if err != nil {
		return err
	}
	old, found := repository.Open(files)
	if old == nil {
		return fmt.Errorf("%s is not read: %w", base, found.Err())
	}
	level, list := r.Since(old)
	printChanges(cmd.OutOrStdout(), "since "+base, level, list)
	return nil
}

func printChanges(w io.Writer, what string, level contract.Level, list []repository.ComponentChanges) {
	if len(list) == 0 {
		fmt.Fprintf(w, "\n%s: no component changed\n", what)
		return
	}
	fmt.Fprintf(w, "\n%s: %s\n", what, level)
	for _, one := range list {
		fmt.Fprintf(w, "  %s (%s)\n", one.Name, one.Level)
		for _, c := range one.Changes {
			fmt.Fprintf(w, "    %-6s %s\n", c.Level, c.Text)
		}
	}
}
