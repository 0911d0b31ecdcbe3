package main

import (
	"fmt"
	"io"
	"os"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"cobrik/core/layout"
	"cobrik/web"
)

func layoutCommand() *cobra.Command {
	root := &cobra.Command{Use: "layout", Short: "Lay boxes out without a browser, and find the boxes of a drawing"}
	root.AddCommand(layoutSolve())
	return root
}

func layoutSolve() *cobra.Command {
	var o layout.Options
	var asJSON bool
	c := &cobra.Command{
		Use:   "solve FILE",
		Short: "Give every box of a tree its place",
		Long: `Reads a layout tree, {"style":{…css…},"text":"…","children":[…]}, lays it out as a
browser does and gives the same tree with "box" added to each node: the border
box from the root's in px, the content box, the first baseline, and how far
content overflows. Text is measured in the fonts Cobrik ships.`,
		Example: "  cobrik layout solve card.json --width 390 --json",
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			n, text, err := readLayout(cmd, args[0])
			if err != nil {
				return err
			}
			if o.Fonts, err = web.Fonts(); err != nil {
				return err
			}
			solved, found := layout.Solve(n, o)
			if err := tell(cmd, found.Locate(args[0], text)); err != nil {
				return err
			}
			if asJSON {
				return printJSON(cmd, solved)
			}
			return printBoxes(cmd.OutOrStdout(), solved)
		},
	}
	c.Flags().Float64Var(&o.Width, "width", 1280, "px the root has; also the viewport's width")
	c.Flags().Float64Var(&o.Height, "height", 800, "px of the viewport's height")
	c.Flags().BoolVar(&asJSON, "json", false, "print the tree as JSON")
	return c
}

func readLayout(cmd *cobra.Command, name string) (*layout.Node, []byte, error) {
	text, err := os.ReadFile(name)
	if err != nil {
		return nil, nil, err
	}
	n, found := layout.Read(name, text)
	return n, text, tell(cmd, found)
}

// printBoxes prints a line a node, indented by depth.
func printBoxes(out io.Writer, n *layout.Node) error {
	w := tabwriter.NewWriter(out, 2, 8, 2, ' ', 0)
	fmt.Fprintln(w, "node\tx\ty\twidth\theight\t")
	var walk func(n *layout.Node, depth int)
	walk = func(n *layout.Node, depth int) {
		label := n.Name
		if label == "" && n.Text != "" {
			label = shorten(n.Text, 24)
		} else if label == "" {
			label = n.Style["display"]
		}
		if label == "" {
			label = "block"
		}
		fmt.Fprintf(w, "%s%s\t", strings.Repeat("  ", depth), label)
		if b := n.Box; b != nil {
			fmt.Fprintf(w, "%g\t%g\t%g\t%g\t", b.X, b.Y, b.Width, b.Height)
			if b.Overflow != nil {
				fmt.Fprintf(w, "overflows by %g, %g", b.Overflow.X, b.Overflow.Y)
			}
		} else {
			fmt.Fprint(w, "not displayed\t\t\t\t")
		}
		fmt.Fprintln(w)
		for _, c := range n.Children {
			walk(c, depth+1)
		}
	}
	walk(n, 0)
	return w.Flush()
}

// shorten cuts text to a number of characters.
func shorten(text string, most int) string {
	if r := []rune(text); len(r) > most {
		return string(r[:most-1]) + "…"
	}
	return text
}
