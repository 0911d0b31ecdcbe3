package main

import (
	"bytes"
	"fmt"
	"os"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/ledger"
)

func diffCommand() *cobra.Command {
	var asJSON bool
	c := &cobra.Command{
		Use:   "diff BEFORE AFTER",
		Short: "What differs between two contracts, or two design documents",
		Long: `Reads two contracts (cobrik.contract/1) and lists what changed for those who use the component, with the version bump that asks for; or two
design documents (cobrik.design/1), and lists what changed by what it is, not by lines. Exits with 1 when anything differs.`,
		Example: "  cobrik diff crop-tag.contract.json crop-tag.next.contract.json\n  cobrik diff furrow-1.design.json furrow-2.design.json",
		Args:    cobra.ExactArgs(2),
		RunE: func(cmd *cobra.Command, args []string) error {
			var texts [2][]byte
			for i, name := range args {
				text, err := os.ReadFile(name)
				if err != nil {
					return err
				}
				texts[i] = text
			}
			isDesign := func(text []byte) bool { return bytes.Contains(text[:min(len(text), 4096)], []byte(design.Format)) }
			if isDesign(texts[0]) != isDesign(texts[1]) {
				return fmt.Errorf("%s and %s are not of one kind; name two contracts, or two design documents", args[0], args[1])
			}
			if isDesign(texts[0]) {
				return diffDesigns(cmd, args, texts, asJSON)
			}
			return diffContracts(cmd, args, texts, asJSON)
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print the changes as JSON")
	return c
}

func diffContracts(cmd *cobra.Command, names []string, texts [2][]byte, asJSON bool) error {
	var two [2]*contract.Contract
	for i := range texts {
		c, found := contract.Read(names[i], texts[i], nil)
		if err := tell(cmd, found); err != nil {
			return err
		}
		two[i] = c
	}
	level, changes := ledger.Changes(two[0], two[1])
	if asJSON {
		if err := printJSON(cmd, struct {
			Level   contract.Level    `json:"level"`
			Changes []contract.Change `json:"changes"`
		}{level, append([]contract.Change{}, changes...)}); err != nil {
			return err
		}
	} else {
		fmt.Fprintf(cmd.OutOrStdout(), "%s: %s\n", two[1].Name, level)
		for _, c := range changes {
			fmt.Fprintf(cmd.OutOrStdout(), "  %-6s %s\n", c.Level, c.Text)
		}
	}
	if len(changes) > 0 {
		return errSilent
	}
	return nil
}

func diffDesigns(cmd *cobra.Command, names []string, texts [2][]byte, asJSON bool) error {
	var two [2]*design.Document
	for i := range texts {
		doc, found := design.Read(names[i], texts[i])
		if err := tell(cmd, found); err != nil {
			return err
		}
		two[i] = doc
	}
	changes := design.Compare(two[0], two[1])
	if asJSON {
		if err := printJSON(cmd, append([]design.Change{}, changes...)); err != nil {
			return err
		}
	} else {
		w := tabwriter.NewWriter(cmd.OutOrStdout(), 0, 0, 2, ' ', 0)
		for _, c := range changes {
			said := ""
			if c.Property != "" {
				said = fmt.Sprintf("%s: %s → %s", c.Property, orNone(c.Before), orNone(c.After))
			}
			fmt.Fprintf(w, "%s %s\t%s\t%s\t%s\n", c.Kind, c.Name, c.What, c.State, said)
		}
		if err := w.Flush(); err != nil {
			return err
		}
	}
	if len(changes) > 0 {
		return errSilent
	}
	return nil
}

func orNone(text string) string {
	if text == "" {
		return "nothing"
	}
	return text
}
