package main

import (
	"cobrik/core/draft"
	"cobrik/core/font"
	"fmt"
	"os"
	"strings"

	"github.com/spf13/cobra"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/emit/react"
)

func contractCommand() *cobra.Command {
	root := &cobra.Command{Use: "contract", Short: "Work with contracts"}
	var source designTokens
	var family, layer, name string
	drafting := &cobra.Command{
		Use:   "draft DOC",
		Short: "Draft a contract from a family, or a layer, of a design document",
		Long: `Reads a design document (cobrik.design/1) and computes the contract of one of
its families: props, parts, and the fewest rules that give every drawn variant
back; or of a layer of a page that was drawn without flow: its containers are
read from where things stand. The contract (cobrik.contract/1) goes to standard output as JSON; what
wants a look goes to standard error.`,
		Example: "  cobrik contract draft furrow.design.json --tokens core.tokens.json --tokens semantic.tokens.json --family CropTag",
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			tokens, err := source.read(cmd)
			if err != nil {
				return err
			}
			text, err := os.ReadFile(args[0])
			if err != nil {
				return err
			}
			doc, found := design.Read(args[0], text)
			if err := tell(cmd, found); err != nil {
				return err
			}
			o := contract.Origin{Layer: layer}
			if f := doc.FamilyNamed(family); f != nil {
				o.Family = f.ID
			} else if layer == "" {
				var names []string
				for _, f := range doc.Families {
					names = append(names, f.Name)
				}
				return fmt.Errorf("%s has no family %q; it has %s", args[0], family, strings.Join(names, ", "))
			}
			c, _, found := draft.Of(doc, o, name, tokens.set, font.Shipped(), nil)
			if err := tell(cmd, found); err != nil {
				return err
			}
			_, err = cmd.OutOrStdout().Write(c.JSON())
			return err
		},
	}
	source.add(drafting)
	drafting.Flags().StringVar(&family, "family", "", "name or id of the family")
	drafting.Flags().StringVar(&layer, "layer", "", "id of a layer of a page that was drawn without flow, in place of a family")
	drafting.Flags().StringVar(&name, "name", "", "of the component; the drawing's when not given")
	drafting.MarkFlagsOneRequired("family", "layer")
	drafting.MarkFlagsMutuallyExclusive("family", "layer")
	root.AddCommand(drafting, checkCommand())
	return root
}

func emitCommand() *cobra.Command {
	var source designTokens
	var target, out, version, name string
	c := &cobra.Command{
		Use:   "emit CONTRACT...",
		Short: "Emit the code of contracts",
		Long: `Reads contracts (cobrik.contract/1) and writes their code for a target: one contract as a
package, several as a library with a folder each and their tokens once for all. The files written are listed on standard output.`,
		Example: "  cobrik emit crop-tag.contract.json --tokens core.tokens.json --tokens semantic.tokens.json --target react --out src/crop-tag",
		Args:    cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if target != "react" {
				return fmt.Errorf("there is no target %q; use react", target)
			}
			tokens, err := source.read(cmd)
			if err != nil {
				return err
			}
			var contracts []*contract.Contract
			names := map[string]string{}
			for _, file := range args {
				text, err := os.ReadFile(file)
				if err != nil {
					return err
				}
				c, found := contract.Read(file, text, tokens.set)
				if err := tell(cmd, found); err != nil {
					return err
				}
				if other := names[c.Name]; other != "" {
					return fmt.Errorf("%s and %s are both named %s", other, file, c.Name)
				}
				names[c.Name] = file
				contracts = append(contracts, c)
			}
			o := react.Options{Version: version}
			if len(contracts) == 1 {
				return write(cmd, out, react.Emit(contracts[0], tokens.properties, o))
			}
			return write(cmd, out, react.Library(name, contracts, tokens.properties, o))
		},
	}
	source.add(c)
	c.Flags().StringVar(&target, "target", "react", "what to emit for: react")
	c.Flags().StringVar(&out, "out", ".", "folder to write into")
	c.Flags().StringVar(&version, "version", "", "version in package.json")
	c.Flags().StringVar(&name, "name", "components", "name of the package, of several contracts")
	return c
}
