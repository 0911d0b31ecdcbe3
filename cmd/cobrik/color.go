package main

import (
	"bufio"
	"errors"
	"fmt"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"cobrik/core/color"
)

func colorCommand() *cobra.Command {
	root := &cobra.Command{Use: "color", Short: "Convert and compare colours"}
	var to string
	convert := &cobra.Command{
		Use:   "convert --to SPACE",
		Short: "Convert colours from standard input, a line each",
		Long: `Reads colours in CSS syntax from standard input, a line each, and writes them in
another space or form, a line each: hex, rgb, ` + strings.Join(color.SpaceNames(), ", ") + `. hex, rgb, hsl and hwb hold sRGB only:
other colours are mapped into it (CSS Color 4, 13.2). A line that is no colour
gives an empty line and a message.`,
		Example: "  echo 'oklch(51.975% 0.17686 142.495)' | cobrik color convert --to hex",
		Args:    cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if _, err := (color.Color{}).As(to); err != nil {
				return err
			}
			in, out := bufio.NewScanner(cmd.InOrStdin()), bufio.NewWriter(cmd.OutOrStdout())
			bad := 0
			for line := 1; in.Scan(); line++ {
				written := ""
				if text := strings.TrimSpace(in.Text()); text != "" {
					c, err := color.Parse(text)
					if err != nil {
						bad++
						fmt.Fprintf(cmd.ErrOrStderr(), "line %d: %s\n", line, err)
					} else {
						written, _ = c.As(to) // the form was tried above
					}
				}
				fmt.Fprintln(out, written)
			}
			if err := errors.Join(in.Err(), out.Flush()); err != nil {
				return err
			}
			if bad > 0 {
				return errSilent
			}
			return nil
		},
	}
	convert.Flags().StringVar(&to, "to", "hex", "space or form")
	contrast := &cobra.Command{
		Use:   "contrast TEXT GROUND",
		Short: "Print the contrast ratio of WCAG 2.2, 1 to 21",
		Long: `Prints the contrast ratio of a colour on a ground (WCAG 2.2): 4.5 for text (AA),
7 (AAA), 3 for large text and what is not text. What is not opaque is blended
over its ground, a ground over white.`,
		Example: "  cobrik color contrast '#767676' white",
		Args:    cobra.ExactArgs(2),
		RunE:    compare(color.Contrast),
	}
	difference := &cobra.Command{
		Use:     "difference A B",
		Short:   "Print the difference of two colours, CIEDE2000",
		Long:    "Prints the difference of two colours by CIEDE2000; about 1 is just noticeable.",
		Example: "  cobrik color difference '#4a7c59' 'oklch(0.55 0.08 155)'",
		Args:    cobra.ExactArgs(2),
		RunE:    compare(color.Difference),
	}
	root.AddCommand(convert, contrast, difference)
	return root
}

func compare(measure func(a, b color.Color) float64) func(*cobra.Command, []string) error {
	return func(cmd *cobra.Command, args []string) error {
		a, err := color.Parse(args[0])
		if err != nil {
			return err
		}
		b, err := color.Parse(args[1])
		if err != nil {
			return err
		}
		_, err = fmt.Fprintln(cmd.OutOrStdout(), strconv.FormatFloat(measure(a, b), 'f', 4, 64))
		return err
	}
}
