package main

import (
	"bytes"
	"cobrik/core/font"
	"fmt"
	"io"
	"os"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"cobrik/core/contract"
	"cobrik/core/layout"
)

func layoutCommand() *cobra.Command {
	root := &cobra.Command{Use: "layout", Short: "Lay boxes out without a browser, and find the boxes of a drawing"}
	root.AddCommand(layoutSolve(), layoutInfer(), layoutSweep())
	return root
}

func layoutSolve() *cobra.Command {
	var o layout.Options
	var asJSON bool
	var source designTokens
	c := &cobra.Command{
		Use:   "solve FILE",
		Short: "Give every box of a tree its place",
		Long: `Reads a layout tree, {"style":{…css…},"text":"…","children":[…]}, lays it out as a
browser does and gives the same tree with "box" added to each node: the border
box from the root's in px, the content box, the first baseline, and how far
content overflows. Text is measured in the fonts Cobrik ships. A contract is laid
out in its default case.`,
		Example: "  cobrik layout solve card.json --width 390 --json",
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			n, text, err := readLayout(cmd, args[0], &source)
			if err != nil {
				return err
			}
			o.Fonts = font.Shipped()
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
	source.add(c) // for contracts
	return c
}

func layoutInfer() *cobra.Command {
	var layer, narrow string
	var asJSON bool
	c := &cobra.Command{
		Use:   "infer FILE",
		Short: "Find the containers of a drawing",
		Long: `Reads layers with bounds, from a design document or an SVG file, and finds the
containers that place them so: stacks, rows, wrapping rows, grids, splits and
overlays, with gaps, paddings, alignment and sizing. Each answer carries its
proof: the tree solved again, and the largest distance between a drawn and a
solved edge. With --narrow, the same thing drawn at another width says what
grows.`,
		Example: "  cobrik layout infer furrow.design.json --layer plots --json\n  cobrik layout infer bar.svg --layer wide --narrow phone",
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			doc, err := readDrawing(cmd, args[0])
			if err != nil {
				return err
			}
			root, err := layerNamed(doc, layer)
			if err != nil {
				return err
			}
			if narrow != "" {
				other, err := layerNamed(doc, narrow)
				if err != nil {
					return err
				}
				pair, found := layout.InferPair(root, other)
				if err := tell(cmd, found); err != nil {
					return err
				}
				if asJSON {
					return printJSON(cmd, map[string]any{"pair": pair, "tree": pair.Tree()})
				}
				printPart(cmd.OutOrStdout(), pair.Root, 0)
				fmt.Fprintf(cmd.OutOrStdout(), "\nfurthest from its place: %g px wide, %g px narrow\n", pair.Wide, pair.Small)
				if pair.Switch > 0 {
					fmt.Fprintf(cmd.OutOrStdout(), "another arrangement below %g px\n", pair.Switch)
				}
				for _, why := range pair.Why {
					fmt.Fprintln(cmd.OutOrStdout(), why)
				}
				return nil
			}
			in, found := layout.Infer(root, layout.InferOptions{})
			if err := tell(cmd, found); err != nil {
				return err
			}
			if asJSON {
				return printJSON(cmd, map[string]any{"inference": in, "tree": in.Root.Tree()})
			}
			printPart(cmd.OutOrStdout(), in.Root, 0)
			fmt.Fprintf(cmd.OutOrStdout(), "\nfurthest from its place: %g px\n", in.Residual)
			for _, u := range in.Untidy {
				fmt.Fprintln(cmd.OutOrStdout(), u)
			}
			return nil
		},
	}
	c.Flags().StringVar(&layer, "layer", "", "id of a page, variant or layer; the first page when not given")
	c.Flags().StringVar(&narrow, "narrow", "", "id of the same thing drawn at another width")
	c.Flags().BoolVar(&asJSON, "json", false, "print the containers, and the tree to solve, as JSON")
	return c
}

// printPart prints a line a box.
func printPart(out io.Writer, p *layout.Part, depth int) {
	fmt.Fprintf(out, "%s%s", strings.Repeat("  ", depth), p.Name)
	if p.Kind != layout.Leaf {
		fmt.Fprintf(out, ": %s", p.Kind)
		if p.Shares != "" {
			fmt.Fprintf(out, " %s", p.Shares)
		}
		if p.Distribute == "space-between" {
			fmt.Fprint(out, ", space between")
		} else if p.Gap != 0 {
			fmt.Fprintf(out, ", gap %g", p.Gap)
		}
		if p.Kind == layout.Grid {
			fmt.Fprintf(out, ", columns %s", p.Tracks())
		}
		if s, b := p.Padding, p.Border; s != b {
			fmt.Fprintf(out, ", padding %g %g %g %g", s.Top-b.Top, s.Right-b.Right, s.Bottom-b.Bottom, s.Left-b.Left)
		}
		if b := p.Border; b != (layout.Sides{}) {
			fmt.Fprintf(out, ", border %g %g %g %g", b.Top, b.Right, b.Bottom, b.Left)
		}
	}
	fmt.Fprintf(out, " (%s by %s)\n", p.Width, p.Height)
	for _, c := range p.Children {
		printPart(out, c, depth+1)
	}
}

func layoutSweep() *cobra.Command {
	var w layout.SweepOptions
	var asJSON bool
	var source designTokens
	c := &cobra.Command{
		Use:   "sweep FILE",
		Short: "Find the widths at which a tree breaks",
		Long: `Reads a layout tree and runs it through all widths: text clipped or longer than
its box, boxes squeezed under their content, rows that should wrap, targets under
24 by 24 px, text under its minimum, siblings that come to overlap. The answer is
bands of widths, each with the part and the reason, and switch points that would
end them. A contract is swept in its default case.`,
		Example: "  cobrik layout sweep card.json --json",
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			n, text, err := readLayout(cmd, args[0], &source)
			if err != nil {
				return err
			}
			w.Fonts = font.Shipped()
			swept, found := layout.Sweep(n, w)
			if err := tell(cmd, found.Locate(args[0], text)); err != nil {
				return err
			}
			if asJSON {
				return printJSON(cmd, swept)
			}
			out := cmd.OutOrStdout()
			for _, b := range swept.Bands {
				fmt.Fprintf(out, "%g to %g px  %s: %s; %s\n", b.From, b.To, b.Part, b.Kind, b.Reason)
			}
			if len(swept.Bands) == 0 {
				fmt.Fprintf(out, "nothing breaks from %g to %g px\n", w.From, w.To)
			}
			for _, p := range swept.Proposals {
				fmt.Fprintf(out, "switch at %g px  %s: %s\n", p.At, p.Part, p.Why)
			}
			return nil
		},
	}
	c.Flags().Float64Var(&w.From, "from", 160, "px to begin at")
	c.Flags().Float64Var(&w.To, "to", 1600, "px to end at")
	c.Flags().Float64Var(&w.Drawn, "drawn", 0, "px it was drawn at; the widest when not given")
	c.Flags().Float64Var(&w.MinText, "min-text", 12, "px text may not be smaller than")
	c.Flags().BoolVar(&asJSON, "json", false, "print the bands as JSON")
	source.add(c) // for contracts
	return c
}

// readLayout reads a layout tree, or a contract's default case as one.
func readLayout(cmd *cobra.Command, name string, source *designTokens) (*layout.Node, []byte, error) {
	text, err := os.ReadFile(name)
	if err != nil {
		return nil, nil, err
	}
	if bytes.Contains(text[:min(len(text), 4096)], []byte(contract.Format)) {
		tokens, err := source.read(cmd)
		if err != nil {
			return nil, nil, err
		}
		files, err := readContracts([]string{name}, tokens.set)
		if err != nil {
			return nil, nil, err
		}
		if err := tell(cmd, files[0].found); err != nil {
			return nil, nil, err
		}
		c := files[0].contract
		return c.Boxes(contract.Env{Props: c.Examples(), Theme: tokens.theme}, tokens.set), nil, nil
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
