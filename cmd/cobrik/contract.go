package main

import (
	"cobrik/core/draft"
	"cobrik/core/font"
	"errors"
	"fmt"
	"os"
	"strings"

	"github.com/spf13/cobra"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/emit"
	"cobrik/core/emit/react"
	"cobrik/core/primitive"
	"cobrik/core/problem"
	"cobrik/core/survey"
	"cobrik/core/token"
)

func contractCommand() *cobra.Command {
	root := &cobra.Command{Use: "contract", Short: "Work with contracts"}
	var source designTokens
	var family, layer, name, out string
	var all bool
	drafting := &cobra.Command{
		Use:   "draft DOC",
		Short: "Draft a contract from a family, or a layer, of a design document",
		Long: `Reads a design document (cobrik.design/1) and computes the contract of one of
its families: props, parts, and the fewest rules that give every drawn variant
back; or of a layer of a page that was drawn without flow: its containers are
read from where things stand. The contract (cobrik.contract/1) goes to standard output as JSON; what
wants a look goes to standard error. Uses of other families become uses of their components, whose contracts are
drafted with it and written with --out.`,
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
			var origins []contract.Origin
			f := doc.FamilyNamed(family)
			switch {
			case all:
				for _, f := range doc.Families {
					origins = append(origins, contract.Origin{Family: f.ID})
				}
			case layer != "":
				origins = append(origins, contract.Origin{Layer: layer})
			case f != nil:
				origins = append(origins, contract.Origin{Family: f.ID})
			default:
				var names []string
				for _, f := range doc.Families {
					names = append(names, f.Name)
				}
				return fmt.Errorf("%s has no family %q; it has %s", args[0], family, strings.Join(names, ", "))
			}
			drafted, found, err := draftAll(doc, origins, name, tokens.set)
			if told := tell(cmd, found); told != nil || err != nil {
				return errors.Join(told, err)
			}
			if out == "" {
				_, err := cmd.OutOrStdout().Write(drafted[len(drafted)-1].JSON())
				return err
			}
			var files []emit.File
			for _, c := range drafted {
				files = append(files, emit.File{Path: emit.Kebab(c.Name) + ".contract.json", Content: string(c.JSON())})
			}
			return write(cmd, out, files)
		},
	}
	source.add(drafting)
	drafting.Flags().StringVar(&family, "family", "", "name or id of the family")
	drafting.Flags().StringVar(&layer, "layer", "", "id of a layer of a page that was drawn without flow, in place of a family")
	drafting.Flags().StringVar(&name, "name", "", "of the component; the drawing's when not given")
	drafting.Flags().BoolVar(&all, "all", false, "every family, with --out")
	drafting.Flags().StringVar(&out, "out", "", "folder to write into, in place of standard output: a file each, those of components that are used, too")
	drafting.MarkFlagsOneRequired("family", "layer", "all")
	drafting.MarkFlagsMutuallyExclusive("family", "layer", "all")
	drafting.MarkFlagsMutuallyExclusive("name", "all")
	root.AddCommand(drafting, checkCommand())
	return root
}

// draftAll drafts contracts, those of the families that each uses before it.
func draftAll(doc *design.Document, origins []contract.Origin, name string, tokens *token.Set) (out []*contract.Contract, found problem.List, err error) {
	known := map[string]*contract.Contract{}
	components := func(family string) *contract.Contract { return known[family] }
	add := func(o contract.Origin, name string) {
		if o.Family != "" && known[o.Family] != nil {
			return
		}
		c, _, problems := draft.Of(doc, survey.ReadBy(o, tokens), name, tokens, font.Shipped(), components)
		if found = append(found, problems...); c == nil {
			return
		}
		if o.Family != "" {
			known[o.Family] = c
		}
		out = append(out, c)
	}
	for _, o := range origins {
		var roots []*design.Layer
		if f := doc.Family(o.Family); f != nil {
			roots = draft.Roots(f)
		} else if l := draft.Drawing(doc, o); l != nil {
			roots = []*design.Layer{l}
		}
		if len(roots) == 1 && roots[0].Kind == design.Instance {
			roots = nil // said by who drafts it
		}
		used, cycle := draft.UsedFamilies(doc, roots)
		if cycle != nil {
			return nil, found, fmt.Errorf("%s would be made of itself: %s", cycle[0], strings.Join(cycle, " → "))
		}
		for _, f := range used {
			add(contract.Origin{Family: f.ID}, "")
		}
		add(o, name)
	}
	return out, found, nil
}

func emitCommand() *cobra.Command {
	var source designTokens
	var target, out, version, name string
	c := &cobra.Command{
		Use:   "emit CONTRACT...",
		Short: "Emit the code of contracts",
		Long: `Reads contracts (cobrik.contract/1), or folders of them, and writes their code for a target: one contract as a
package, several as a library with a folder each, the layout primitives, and their tokens once for all. Components that they use are
looked for among them and beside them, and written, too. The files written are listed on standard output.`,
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
			files, err := readContracts(args, tokens.set)
			if err != nil {
				return err
			}
			var contracts []*contract.Contract
			for _, f := range files {
				if err := tell(cmd, f.found); err != nil {
					return err
				}
				contracts = append(contracts, f.contract)
			}
			o := react.Options{Version: version}
			if len(contracts) == 1 {
				return write(cmd, out, react.Emit(contracts[0], tokens.properties, o))
			}
			o.Primitives = primitive.Contracts(tokens.set)
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
