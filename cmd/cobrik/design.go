package main

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"cobrik/core/design"
	"cobrik/core/emit"
)

func designCommand() *cobra.Command {
	root := &cobra.Command{Use: "design", Short: "Work with design documents"}
	var layer, out string
	draw := &cobra.Command{
		Use:   "draw DOC",
		Short: "Draw a page or a layer of a design document as SVG",
		Long: `Reads a design document (cobrik.design/1) and draws a page, a drawn variant or a
layer, named by its id, as an SVG picture; the first page when none is named.
Every layer is an element with data-layer holding its id.`,
		Example: "  cobrik design draw furrow.design.json --layer plots --out plots.svg",
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			text, err := os.ReadFile(args[0])
			if err != nil {
				return err
			}
			doc, found := design.Read(args[0], text)
			if err := tell(cmd, found); err != nil {
				return err
			}
			picture, err := drawn(doc, layer)
			if err != nil {
				return err
			}
			if out == "" {
				_, err := fmt.Fprintln(cmd.OutOrStdout(), picture)
				return err
			}
			return write(cmd, filepath.Dir(out), []emit.File{{Path: filepath.Base(out), Content: picture + "\n"}})
		},
	}
	draw.Flags().StringVar(&layer, "layer", "", "id of a page, variant or layer; the first page when not given")
	draw.Flags().StringVar(&out, "out", "", "file to write; standard output when not given")
	root.AddCommand(draw)
	return root
}

// drawn draws what an id names. An unknown id is answered with those of pages
// and variants.
func drawn(doc *design.Document, id string) (string, error) {
	var ids []string
	var found *design.Layer
	look := func(root *design.Layer) {
		root.Walk(func(l *design.Layer, _, _ float64) {
			if l.ID == id {
				found = l
			}
		})
	}
	for _, p := range doc.Pages {
		if p.ID == id || id == "" {
			return doc.DrawPage(p), nil
		}
		ids = append(ids, p.ID)
		for _, l := range p.Layers {
			look(l)
		}
	}
	for _, f := range doc.Families {
		for _, v := range f.Variants {
			if v.ID == id || id == "" {
				return doc.Draw(v.Root), nil
			}
			ids = append(ids, v.ID)
			look(v.Root)
		}
	}
	if found == nil {
		return "", fmt.Errorf("there is no page, variant or layer %q; pages and variants are %s", id, strings.Join(ids, ", "))
	}
	return doc.Draw(found), nil
}
