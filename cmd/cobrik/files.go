package main

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"

	"github.com/spf13/cobra"

	"cobrik/core/emit"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// readTokens reads token files in order. Warnings go to standard error.
func readTokens(cmd *cobra.Command, names []string) (*token.Set, error) {
	var files []token.File
	for _, name := range names {
		text, err := os.ReadFile(name)
		if err != nil {
			return nil, err
		}
		files = append(files, token.File{Name: name, Text: text})
	}
	set, found := token.Read(files...)
	return set, tell(cmd, found)
}

// tell gives errors back and prints warnings.
func tell(cmd *cobra.Command, found problem.List) error {
	if found.Failed() {
		return errors.New("\n" + found.Error())
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
