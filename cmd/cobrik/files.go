package main

import (
	"fmt"
	"os"
	"path/filepath"

	"github.com/spf13/cobra"

	"cobrik/core/emit"
	"cobrik/core/problem"
)

// tell gives errors back and prints warnings.
func tell(cmd *cobra.Command, found problem.List) error {
	if err := failure(found); err != nil {
		return err
	}
	for _, p := range found {
		fmt.Fprintln(cmd.ErrOrStderr(), "warning:", p)
	}
	return nil
}

// write puts files into a folder, making it when missing.
func write(cmd *cobra.Command, dir string, files []emit.File) error {
	for _, f := range files {
		name := filepath.Join(dir, filepath.FromSlash(f.Path))
		if err := os.MkdirAll(filepath.Dir(name), 0o755); err != nil {
			return err
		}
		if err := os.WriteFile(name, []byte(f.Content), 0o644); err != nil {
			return err
		}
		fmt.Fprintln(cmd.OutOrStdout(), name)
	}
	return nil
}
