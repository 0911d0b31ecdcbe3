package main

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/emit"
	"cobrik/core/font"
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
			doc, err := readDrawing(cmd, args[0])
			if err != nil {
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
	root.AddCommand(draw, designImport())
	return root
}

func designImport() *cobra.Command {
	var out string
	c := &cobra.Command{
		Use:   "import FILE.svg",
		Short: "Turn an SVG file into a design document",
		Long: `Reads an SVG file and writes a design document (cobrik.design/1) of one page:
groups, shapes, texts and images become layers, named by their labels, titles and
ids; a symbol becomes a family and each of its uses an instance. What is left out
or drawn otherwise is named on standard error. Nothing outside of the file is
read.`,
		Example: "  cobrik design import plots.svg --out plots.design.json",
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			text, err := os.ReadFile(args[0])
			if err != nil {
				return err
			}
			doc, err := importSVG(cmd, args[0], text)
			if err != nil {
				return err
			}
			written, err := json.MarshalIndent(doc, "", "  ")
			if err != nil {
				return err
			}
			if out == "" {
				_, err := fmt.Fprintln(cmd.OutOrStdout(), string(written))
				return err
			}
			return write(cmd, filepath.Dir(out), []emit.File{{Path: filepath.Base(out), Content: string(written) + "\n"}})
		},
	}
	c.Flags().StringVar(&out, "out", "", "file to write; standard output when not given")
	return c
}

func importSVG(cmd *cobra.Command, name string, text []byte) (*design.Document, error) {
	fonts := font.Shipped()
	doc, found := design.ImportSVG(name, text, fonts)
	return doc, tell(cmd, found)
}

// readDrawing reads a design document, or an SVG file as one.
func readDrawing(cmd *cobra.Command, name string) (*design.Document, error) {
	text, err := os.ReadFile(name)
	if err != nil {
		return nil, err
	}
	if strings.EqualFold(filepath.Ext(name), ".svg") {
		return importSVG(cmd, name, text)
	}
	doc, found := design.Read(name, text)
	return doc, tell(cmd, found)
}

// layerNamed finds a page as a layer, a drawn variant, or a layer by id; the
// first page when the id is empty. An unknown id is answered with those of pages
// and variants.
func layerNamed(doc *design.Document, id string) (*design.Layer, error) {
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
			return &design.Layer{ID: p.ID, Name: p.Name, Kind: design.Group, Bounds: design.Rect{Width: p.Width, Height: p.Height}, Children: p.Layers}, nil
		}
		ids = append(ids, p.ID)
		for _, l := range p.Layers {
			look(l)
		}
	}
	for _, f := range doc.Families {
		for _, v := range f.Variants {
			if v.ID == id || id == "" {
				return v.Root, nil
			}
			ids = append(ids, v.ID)
			look(v.Root)
		}
	}
	if found == nil {
		return nil, fmt.Errorf("there is no page, variant or layer %q; pages and variants are %s", id, strings.Join(ids, ", "))
	}
	return found, nil
}

// drawn draws what an id names.
func drawn(doc *design.Document, id string) (string, error) {
	for _, p := range doc.Pages {
		if p.ID == id || id == "" {
			return doc.DrawPage(draft.Shown(doc, p, font.Shipped())), nil
		}
	}
	l, err := layerNamed(doc, id)
	if err != nil {
		return "", err
	}
	return doc.Draw(l), nil
}
