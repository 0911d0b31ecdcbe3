package main

import (
	"fmt"
	"maps"
	"os"
	"slices"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
)

func machineCommand() *cobra.Command {
	var stock string
	var choices behaviour.Choices
	var options behaviour.Options
	var asJSON, asSCXML, noCheck bool
	var contractFile string
	c := &cobra.Command{
		Use:   "machine [FILE]",
		Short: "Read a state machine: what it does in words, and what is wrong with it",
		Long: `Reads a machine from SCXML 1.0, or as it is written in words, or takes one of the stock
machines (--stock); says it in words, and goes through all that can happen to it: states
that are never reached or never left, events and times that do nothing, two transitions
at once, steps without end, conditions that never or always hold, states that nobody can
tell apart, keys of a role that nothing waits for, a focus that is lost, another order
than is expected. Each with the shortest sequence of events that shows it. Exits with 1
when something is found.`,
		Example: "  cobrik machine lamp.scxml --order still,running,draining,still\n  cobrik machine --stock tabs --items 4 --scxml",
		Args:    cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			var into *contract.Contract
			if contractFile != "" {
				files, err := readContracts([]string{contractFile}, nil)
				if err != nil {
					return err
				}
				if into = files[0].contract; into == nil {
					return files[0].found.Err()
				}
			}
			m, err := machineOf(args, stock, choices, into)
			if err != nil {
				return err
			}
			if into != nil {
				return behavingContract(cmd, into, m)
			}
			if asSCXML {
				_, err := cmd.OutOrStdout().Write(m.SCXML())
				return err
			}
			chart, found := behaviour.Compile(m)
			if len(found) > 0 {
				return found[0]
			}
			if err := known(chart, options); err != nil {
				return err
			}
			report := behaviour.Report{Findings: []behaviour.Finding{}}
			if !noCheck {
				report = chart.Check(options)
			}
			if asJSON {
				err = printJSON(cmd, struct {
					*behaviour.Machine
					behaviour.Report
				}{m, report})
			} else {
				err = printMachine(cmd, m, report, noCheck)
			}
			if err == nil && len(report.Findings) > 0 {
				err = errSilent
			}
			return err
		},
	}
	names := make([]string, len(behaviour.Stocks))
	for i, s := range behaviour.Stocks {
		names[i] = s.Name
	}
	f := c.Flags()
	f.StringVar(&stock, "stock", "", "a stock machine: "+strings.Join(names, ", "))
	f.IntVar(&choices.Items, "items", 0, "of a stock machine: panels, tabs, entries, buttons or slides")
	f.BoolVar(&choices.Several, "several", false, "panels: several are open at once")
	f.BoolVar(&choices.Always, "always", false, "panels: one stays open")
	f.IntVar(&choices.Open, "open", 0, "the panel, tab or button that is chosen at first")
	f.BoolVar(&choices.Vertical, "vertical", false, "tabs and sliders that go down")
	f.BoolVar(&choices.Mixed, "mixed", false, "a checkbox that can be partly checked")
	f.BoolVar(&choices.Outside, "outside", false, "a dialog that a press beside it closes")
	f.StringSliceVar(&choices.Names, "states", nil, "of a timed cycle, in their order")
	f.Float64SliceVar(&choices.Times, "times", nil, "of a timed cycle, ms that each state lasts")
	f.StringSliceVar(&options.Order, "order", nil, "states that are expected to follow each other by time")
	f.StringToStringVar(&options.Roles, "roles", nil, "ARIA roles of parts whose keys are asked for: handle=slider")
	f.StringSliceVar(&options.Styled, "styled", nil, "states that rules of style ask for, so that they look like no other")
	f.IntVar(&options.Most, "most", 0, "configurations that are explored at most; 20,000 when 0")
	f.BoolVar(&asJSON, "json", false, "print the machine and what was found as JSON")
	f.BoolVar(&asSCXML, "scxml", false, "print the machine as SCXML")
	f.StringVar(&contractFile, "into", "", "print the contract of this file with the machine as its behaviour; words have its names of parts and props")
	f.BoolVar(&noCheck, "no-check", false, "do not look for what is wrong")
	return c
}

// known tells whether states and roles that are asked about are there: a slip would pass for a machine without faults.
func known(chart *behaviour.Chart, o behaviour.Options) error {
	states := map[string]bool{}
	chart.Machine.Root.Walk(func(s, _ *behaviour.State) { states[s.ID] = true })
	for _, id := range append(slices.Clone(o.Order), o.Styled...) {
		if !states[id] {
			return fmt.Errorf("there is no state %q", id)
		}
	}
	for part, role := range o.Roles {
		if behaviour.RoleKeys[role] == nil {
			return fmt.Errorf("%s is called a %q; roles whose keys are known: %s", part, role, strings.Join(slices.Sorted(maps.Keys(behaviour.RoleKeys)), ", "))
		}
	}
	return nil
}

// behavingContract prints a contract with a behaviour, and the props by which it tells what it tells.
func behavingContract(cmd *cobra.Command, c *contract.Contract, m *behaviour.Machine) error {
	chart, wrong := behaviour.Compile(m)
	if len(wrong) > 0 {
		return wrong[0]
	}
	out := c.Clone()
	out.Behaviour = &contract.Behaviour{Machine: chart}
	behaviour.Tell(out)
	if found := out.Check(nil); found.Failed() {
		return found.Err()
	}
	_, err := cmd.OutOrStdout().Write(out.JSON())
	return err
}

func machineOf(args []string, stock string, choices behaviour.Choices, of *contract.Contract) (*behaviour.Machine, error) {
	switch {
	case (len(args) == 0) == (stock == ""):
		return nil, fmt.Errorf("name a file, or a stock machine with --stock")
	case stock != "":
		s := behaviour.StockNamed(stock)
		if s == nil {
			return nil, fmt.Errorf("there is no stock machine %q; cobrik help machine lists them", stock)
		}
		return s.Make(choices), nil
	}
	text, err := os.ReadFile(args[0])
	if err != nil {
		return nil, err
	}
	var m *behaviour.Machine
	var lines []string
	if strings.HasPrefix(strings.TrimSpace(string(text)), "<") {
		read, found := behaviour.ReadSCXML(text)
		for _, p := range found {
			lines = append(lines, args[0]+":"+p.Error())
		}
		m = read
	} else {
		read, found := behaviour.ParseText(string(text), of)
		for _, p := range found {
			lines = append(lines, args[0]+": "+p.Error())
		}
		m = read
	}
	if m == nil {
		return nil, fmt.Errorf("%s", strings.Join(lines, "\n"))
	}
	return m, nil
}

func printMachine(cmd *cobra.Command, m *behaviour.Machine, r behaviour.Report, noCheck bool) error {
	w := tabwriter.NewWriter(cmd.OutOrStdout(), 0, 0, 2, ' ', 0)
	fmt.Fprint(w, m.Text(nil))
	if !noCheck {
		bound := "there are no others"
		if !r.Whole {
			bound = "there are more"
		}
		fmt.Fprintf(w, "\n%d configurations explored, %s; %d things found.\n", r.Explored, bound, len(r.Findings))
		for _, f := range r.Findings {
			fmt.Fprintf(w, "%s\t%s\t%s\n", f.Rule, f.Message, strings.Join(f.Path, ", "))
		}
	}
	return w.Flush()
}
