package main

import (
	"fmt"

	"github.com/spf13/cobra"

	"cobrik/core/emit"
)

func tokensCommand() *cobra.Command {
	tokens := &cobra.Command{Use: "tokens", Short: "Work with design tokens"}
	var platform, out string
	build := &cobra.Command{
		Use:   "build FILE...",
		Short: "Write token files for a platform",
		Long: `Reads token files (design-token standard) in order, a later file replacing
tokens of an earlier one, and writes them for a platform. Aliases stay
references. The files written are listed on standard output.`,
		Example: "  cobrik tokens build core.tokens.json semantic.tokens.json --out build",
		Args:    cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if platform != "css" {
				return fmt.Errorf("there is no platform %q; use css", platform)
			}
			set, err := readTokens(cmd, args)
			if err != nil {
				return err
			}
			return write(cmd, out, []emit.File{{Path: "tokens.css", Content: set.CSS()}})
		},
	}
	build.Flags().StringVar(&platform, "platform", "css", "what to write for: css")
	build.Flags().StringVar(&out, "out", ".", "folder to write into")
	tokens.AddCommand(build)
	return tokens
}
