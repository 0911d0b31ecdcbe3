package main

import (
	"fmt"

	"github.com/spf13/cobra"
)

// What cobrik hook prints. Both need nothing but the program.
const (
	preCommit = `#!/bin/sh
# Keeps what design, contracts, tokens and code do not agree on out of a commit.
# Put it at .git/hooks/pre-commit and make it executable; --no-verify passes it by.
git diff --cached --quiet -- '*.json' '*.tsx' '*.ts' '*.jsx' '*.js' '*.css' && exit 0
cobrik check --fail-on error --format lines
`
	ciStep = `# A step for any build server with a shell: what a change comes to, and what disagrees.
# BASE is the branch that the change goes to.
set -e
cobrik check --base "${BASE:-origin/main}" --fail-on error
cobrik check --format sarif > cobrik.sarif || true
cobrik check --format junit > cobrik-junit.xml || true
`
)

func hookCommand() *cobra.Command {
	c := &cobra.Command{
		Use:   "hook pre-commit|ci",
		Short: "Print a hook for git, or a step for a build server, that checks a repository",
		Example: `  cobrik hook pre-commit > .git/hooks/pre-commit && chmod +x .git/hooks/pre-commit
  cobrik hook ci`,
		Args:      cobra.MatchAll(cobra.ExactArgs(1), cobra.OnlyValidArgs),
		ValidArgs: []string{"pre-commit", "ci"},
		RunE: func(cmd *cobra.Command, args []string) error {
			text := preCommit
			if args[0] == "ci" {
				text = ciStep
			}
			_, err := fmt.Fprint(cmd.OutOrStdout(), text)
			return err
		},
	}
	return c
}
