package main

import (
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/emit"
	"cobrik/core/start"
	"cobrik/core/survey"
	"cobrik/core/token"
)

func surveyCommand() *cobra.Command {
	var source designTokens
	var contracts, failOn, off, planned []string
	var asJSON bool
	var questions string
	c := &cobra.Command{
		Use:   "survey FILE",
		Short: "Read a whole design: what repeats, what is unclear, what to build first",
		Long: `Reads a design document (cobrik.design/1) or an SVG file and lists what repeats in it,
with the props that tell the copies apart and the components they are like; what is
doubted; and the order in which everything can be built. Values are held against
tokens, and finds against contracts, where these are given. With --fail-on, exits
with 1 when one of the rules has a doubt.`,
		Example: "  cobrik survey plots.svg\n  cobrik survey furrow.design.json --contracts contracts --tokens furrow.tokens.json --json\n  cobrik survey furrow.design.json --fail-on copy-lost,layer-name --questions questions.html",
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			for _, id := range append(slices.Clone(failOn), off...) {
				if !slices.ContainsFunc(survey.DoubtRules, func(r survey.DoubtRule) bool { return r.ID == id }) {
					return fmt.Errorf("there is no rule %q; the rules are %s", id, strings.Join(ruleIDs(), ", "))
				}
			}
			text, err := os.ReadFile(args[0])
			if err != nil {
				return err
			}
			tokens, err := source.read(cmd)
			if err != nil {
				return err
			}
			doc, found := readDesign(args[0], text)
			if doc == nil {
				return tell(cmd, found)
			}
			options := survey.Options{Tokens: tokens.set, Off: map[string]bool{}, Planned: planned, Known: survey.Known{Starts: starts(tokens.set)}}
			for _, id := range off {
				options.Off[id] = true
			}
			if len(contracts) > 0 {
				files, err := readContracts(contracts, tokens.set)
				if err != nil {
					return err
				}
				for _, f := range files {
					if err := tell(cmd, f.found); err != nil {
						return err
					}
					if f.contract != nil {
						options.Known.Contracts = append(options.Known.Contracts, f.contract)
					}
				}
			}
			r := survey.Read(doc, options)
			if questions != "" {
				page, err := questionsPage(doc, r, questions)
				if err != nil {
					return err
				}
				if err := write(cmd, filepath.Dir(questions), []emit.File{{Path: filepath.Base(questions), Content: page}}); err != nil {
					return err
				}
			}
			if asJSON {
				err = printJSON(cmd, surveyed(r))
			} else {
				err = printSurvey(cmd.OutOrStdout(), doc, r)
			}
			if err != nil {
				return err
			}
			if slices.ContainsFunc(r.Doubts, func(d survey.Doubt) bool { return slices.Contains(failOn, d.Rule) }) {
				return errSilent
			}
			return nil
		},
	}
	source.add(c)
	c.Flags().StringSliceVar(&contracts, "contracts", nil, "contracts, or folders of them, that finds are held against")
	c.Flags().StringSliceVar(&failOn, "fail-on", nil, "rules that exit with 1 when they have a doubt: "+strings.Join(ruleIDs(), ", "))
	c.Flags().StringSliceVar(&off, "off", nil, "rules that are not asked")
	c.Flags().StringSliceVar(&planned, "planned", nil, "names of components that no drawing shows yet")
	c.Flags().BoolVar(&asJSON, "json", false, "print finds, doubts and order as JSON")
	c.Flags().StringVar(&questions, "questions", "", "write the doubts as questions to the designer, a .md or .html file")
	return c
}

func ruleIDs() (out []string) {
	for _, r := range survey.DoubtRules {
		out = append(out, r.ID)
	}
	return out
}

func starts(tokens *token.Set) (out []*contract.Contract) {
	for _, s := range start.All(tokens) {
		out = append(out, s.Contract)
	}
	return out
}

// surveyFile is what a survey is printed as: copies by the ids of their layers.
type surveyFile struct {
	Finds    []findInFile        `json:"finds"`
	Doubts   []survey.Doubt      `json:"doubts"`
	Families []survey.FamilyUses `json:"families"`
	Widths   []survey.PageWidths `json:"widths"`
	Sections []survey.Section    `json:"sections"`
	Order    []survey.Piece      `json:"order"`
	Cycles   [][]string          `json:"cycles"`
}

type findInFile struct {
	ID       string          `json:"id"`
	Kind     string          `json:"kind"`
	Name     string          `json:"name"`
	Family   string          `json:"family,omitempty"`
	Inside   string          `json:"inside,omitempty"`
	Members  []string        `json:"members"`
	Copies   []survey.Member `json:"copies"`
	Likeness float64         `json:"likeness"`
	Props    []survey.Prop   `json:"props"`
	Nearest  []survey.Near   `json:"nearest"`
}

func surveyed(r survey.Reading) surveyFile {
	out := surveyFile{Finds: []findInFile{}, Doubts: r.Doubts, Families: r.Families, Widths: r.Widths, Sections: r.Sections, Order: r.Plan.Pieces, Cycles: r.Plan.Cycles}
	for _, f := range r.Finds {
		one := findInFile{f.ID, f.Kind, f.Name, f.Family, f.Inside, []string{}, f.Members, f.Likeness, f.Props, f.Nearest}
		for _, m := range f.Members {
			one.Members = append(one.Members, m.ID)
		}
		out.Finds = append(out.Finds, one)
	}
	return out
}

// printSurvey prints tables of finds, doubts and the order.
func printSurvey(w io.Writer, doc *design.Document, r survey.Reading) error {
	out := tabwriter.NewWriter(w, 0, 4, 2, ' ', 0)
	if len(r.Finds) == 0 {
		fmt.Fprintln(out, "Nothing repeats that is not a family.")
	} else {
		fmt.Fprintln(out, "FIND\tKIND\tCOPIES\tLIKENESS\tFIRST\tPROPS\tNEAREST")
	}
	for _, f := range r.Finds {
		var props, near []string
		for _, p := range f.Props {
			props = append(props, p.Name+" ("+p.Kind+")")
		}
		for _, n := range f.Nearest {
			near = append(near, fmt.Sprintf("%s %.2f", n.Name, n.Likeness))
		}
		fmt.Fprintf(out, "%s\t%s\t%d\t%.2f\t%s\t%s\t%s\n", f.Name, f.Kind, len(f.Members), f.Likeness, f.Members[0].ID, strings.Join(props, ", "), strings.Join(near, ", "))
	}
	fmt.Fprintln(out)
	if len(r.Doubts) == 0 {
		fmt.Fprintln(out, "Nothing is doubted.")
	} else {
		fmt.Fprintln(out, "DOUBT\tLAYER\tWHERE\tWHAT")
	}
	for _, d := range r.Doubts {
		fmt.Fprintf(out, "%s\t%s\t%s\t%s\n", d.Rule, d.Layer, d.Where(doc), d.Message)
	}
	fmt.Fprintln(out)
	fmt.Fprintln(out, "LEVEL\tBUILD\tKIND\tMADE OF")
	names := map[string]string{}
	for _, p := range r.Plan.Pieces {
		names[p.ID] = p.Name
	}
	for _, p := range r.Plan.Pieces {
		var of []string
		for _, id := range p.Of {
			of = append(of, names[id])
		}
		kind := p.Kind
		if p.Built {
			kind += ", built"
		}
		fmt.Fprintf(out, "%d\t%s\t%s\t%s\n", p.Level, p.Name, kind, strings.Join(of, ", "))
	}
	for _, c := range r.Plan.Cycles {
		fmt.Fprintf(out, "made of each other: %s\n", strings.Join(c, ", "))
	}
	return out.Flush()
}

// questionsPage writes all doubts as questions, in the language that a file's name asks for.
func questionsPage(doc *design.Document, r survey.Reading, file string) (string, error) {
	var list []survey.Question
	for _, d := range r.Doubts {
		list = append(list, survey.Question{Doubt: d})
	}
	switch strings.ToLower(filepath.Ext(file)) {
	case ".md":
		return survey.QuestionsMarkdown(doc, list), nil
	case ".html":
		return survey.QuestionsHTML(doc, list)
	}
	return "", fmt.Errorf("questions are written as .md or .html, not as %s", filepath.Base(file))
}
