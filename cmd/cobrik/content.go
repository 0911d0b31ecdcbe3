package main

import (
	"fmt"
	"os"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"cobrik/core/content"
	"cobrik/core/contract"
)

func contentCommand() *cobra.Command {
	var source designTokens
	var schema, component string
	var asJSON bool
	c := &cobra.Command{
		Use:   "content FILE",
		Short: "What is in the fields of a content file, and what would go wrong with it in a component",
		Long: `Reads records from a CSV file (RFC 4180) or a JSON file (a list of objects, or an object that holds one) and lists their
fields: what each holds, how often it is missing, its longest value. With --schema the file is held to a JSON Schema. With
--component fields are proposed for the component's props, and what would go wrong is told: marks that plain text loses,
what is missing, too long or of another kind. Exits with 1 when something that has to be given is not, or what is given is lost.`,
		Example: "  cobrik content plots.json --component plot-card.contract.json --tokens core.tokens.json",
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			text, err := os.ReadFile(args[0])
			if err != nil {
				return err
			}
			s, found := content.Read(args[0], text)
			if err := tell(cmd, found); err != nil {
				return err
			}
			if schema != "" {
				rules, err := os.ReadFile(schema)
				if err != nil {
					return err
				}
				if err := failure(content.Validate(schema, rules, args[0], text)); err != nil {
					return err
				}
			}
			out := contentFile{Records: len(s.Records), Fields: s.Fields}
			var known *contract.Contract
			if component != "" {
				tokens, err := source.read(cmd)
				if err != nil {
					return err
				}
				files, err := readContracts([]string{component}, tokens.set)
				if err != nil {
					return err
				}
				if len(files) != 1 {
					return fmt.Errorf("name one contract, not %d", len(files))
				}
				if err := tell(cmd, files[0].found); err != nil {
					return err
				}
				known = files[0].contract
				out.Bindings = content.Propose(known, s)
				out.Warnings = content.Forecast(known, out.Bindings, s)
			}
			if asJSON {
				err = printJSON(cmd, out)
			} else {
				err = printContent(cmd, out, known)
			}
			for _, w := range out.Warnings {
				if err == nil && w.Severe {
					err = errSilent
				}
			}
			return err
		},
	}
	source.add(c)
	c.Flags().StringVar(&schema, "schema", "", "JSON Schema `FILE` that the file is held to")
	c.Flags().StringVar(&component, "component", "", "contract `FILE` of a component that is given the records")
	c.Flags().BoolVar(&asJSON, "json", false, "print fields, bindings and warnings as JSON")
	return c
}

// contentFile is what is said of a content file.
type contentFile struct {
	Records  int               `json:"records"`
	Fields   []content.Field   `json:"fields"`
	Bindings content.Bindings  `json:"bindings,omitempty"`
	Warnings []content.Warning `json:"warnings,omitempty"`
}

func printContent(cmd *cobra.Command, c contentFile, known *contract.Contract) error {
	out := tabwriter.NewWriter(cmd.OutOrStdout(), 0, 4, 2, ' ', 0)
	fmt.Fprintf(out, "FIELD\tHOLDS\tMISSING\tDIFFERENT\tLONGEST\n")
	for _, f := range c.Fields {
		fmt.Fprintf(out, "%s\t%s\t%d of %d\t%d\t%s\n", f.Path, f.Kind, f.Missing, c.Records, f.Distinct, inOneLine(f.Longest))
	}
	if known == nil {
		return out.Flush()
	}
	fmt.Fprintf(out, "\nPROP\tTAKES\tFROM\n")
	for _, p := range known.Props {
		if p.Type.Control() == "none" {
			continue
		}
		from := "–"
		if b, ok := c.Bindings[p.ID]; ok {
			from = b.Field
		}
		fmt.Fprintf(out, "%s\t%s\t%s\n", p.Name, p.Kind(), from)
	}
	if len(c.Warnings) == 0 {
		fmt.Fprintf(out, "\nNothing goes wrong in %d records.\n", c.Records)
	} else {
		fmt.Fprintln(out)
	}
	for _, w := range c.Warnings {
		fmt.Fprintln(out, w.Message)
	}
	return out.Flush()
}

// inOneLine is the beginning of a text, for a table.
func inOneLine(text string) string {
	line := strings.Join(strings.Fields(text), " ")
	if letters := []rune(line); len(letters) > 60 {
		line = string(letters[:59]) + "…"
	}
	return line
}
