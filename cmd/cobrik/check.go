package main

import (
	"fmt"
	"os"

	"github.com/spf13/cobra"

	"cobrik/core/check"
	"cobrik/core/font"
	"cobrik/core/problem"
)

func checkCommand() *cobra.Command {
	var source designTokens
	var fix, sarif bool
	c := &cobra.Command{
		Use:   "check CONTRACT...",
		Short: "Look at contracts as a review would",
		Long: `Reads contracts (cobrik.contract/1), or folders of them, and lists what is wrong with them, each with where, why and what to do:
what is not valid, and what is valid and would be sent back all the same: contrast in every case, state and
theme, elements that may not stand in each other, what has no name, rules that are never in effect, widths
that overlap or leave a gap. Exits with 1 when anything is an error.`,
		Example: "  cobrik contract check *.contract.json --resolver furrow.resolver.json --sarif > checks.sarif",
		Args:    cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			themes, err := source.themes(cmd)
			if err != nil {
				return err
			}
			options := check.Options{Themes: themes, Fonts: font.Shipped()}
			var all problem.List
			mended := 0
			files, err := readContracts(args, themes[0].Tokens)
			if err != nil {
				return err
			}
			for _, f := range files {
				c, found, text := f.contract, f.found, f.text
				if c != nil && fix {
					if n := check.Mend(c, options); n > 0 {
						mended += n
						if again := c.Check(themes[0].Tokens); again.Failed() {
							return fmt.Errorf("%s: what was mended is no valid contract any more, and was not written: %w", f.name, again)
						}
						text = c.JSON()
						if err := os.WriteFile(f.name, text, 0o644); err != nil {
							return err
						}
					}
				}
				if c != nil {
					found = append(found, check.Problems(check.Contract(c, options)).Locate(f.name, text)...)
				}
				all = append(all, found...)
			}
			if err := list(cmd, all, sarif); err != nil {
				return err
			}
			if mended > 0 {
				fmt.Fprintf(cmd.ErrOrStderr(), "mended: %d\n", mended)
			}
			if all.Failed() {
				return errSilent
			}
			return nil
		},
	}
	source.add(c)
	c.Flags().BoolVar(&fix, "fix", false, "carry out the fixes that are mechanical, and write the contracts anew")
	c.Flags().BoolVar(&sarif, "sarif", false, "write a SARIF 2.1.0 log instead of lines")
	return c
}

// themes reads the tokens in every theme, the chosen one first; a single one of no tokens when
// nothing names any.
func (f *designTokens) themes(cmd *cobra.Command) ([]check.Theme, error) {
	chosen, err := f.read(cmd)
	if err != nil {
		return nil, err
	}
	out := []check.Theme{{Choices: chosen.theme, Tokens: chosen.set}}
	project, err := f.projectFile()
	if err != nil {
		return nil, err
	}
	if len(f.files) == 0 && f.resolver == "" && project == nil {
		return out, nil
	}
	library, _, found, err := f.tokenFlags.read(f.files)
	if err != nil {
		return nil, err
	}
	if err := failure(found); err != nil {
		return nil, err
	}
	themes := library.Themes()
	if len(themes) < 2 {
		return out, nil
	}
	out = nil
	for _, t := range themes {
		set, found := library.Set(t)
		if err := failure(found); err != nil {
			return nil, err
		}
		one := check.Theme{Name: t.String(), Choices: map[string]string{}, Tokens: set}
		for _, c := range t {
			one.Choices[c.Modifier] = c.Context
		}
		out = append(out, one)
	}
	return out, nil
}

// list writes problems, a line each, or as a SARIF log.
func list(cmd *cobra.Command, found problem.List, sarif bool) error {
	if sarif {
		_, err := cmd.OutOrStdout().Write(problem.SARIF("Cobrik", found))
		return err
	}
	for _, p := range found {
		fmt.Fprintf(cmd.OutOrStdout(), "%s: %s [%s]\n", p.Severity, p, p.Rule)
	}
	return nil
}
