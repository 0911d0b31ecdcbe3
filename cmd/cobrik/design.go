package main

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/emit"
	"cobrik/core/font"
	"cobrik/core/problem"
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
	root.AddCommand(draw, designImport(), designCheck())
	return root
}

func designImport() *cobra.Command {
	var out string
	c := &cobra.Command{
		Use:   "import FILE.svg",
		Short: "Turn an SVG file into a design document",
		Long: `Reads an SVG file and writes a design document (cobrik.design/1) of one page:
groups, shapes, texts and images become layers, named by their labels, titles and
ids; a symbol becomes a family and each of its uses an instance; what layers cannot
say becomes a picture that the document carries. What is left out or drawn otherwise
is named on standard error. Nothing outside of the file is read.`,
		Example: "  cobrik design import plots.svg --out plots.design.json",
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			text, err := os.ReadFile(args[0])
			if err != nil {
				return err
			}
			doc, found := design.ImportSVG(args[0], text, font.Shipped())
			if err := tell(cmd, found); err != nil {
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

func designCheck() *cobra.Command {
	var source designTokens
	var sarif bool
	c := &cobra.Command{
		Use:   "check FILE",
		Short: "Say what of a drawing will be lost or is doubted, before anything is taken",
		Long: `Reads a design document (cobrik.design/1) or an SVG file, and drafts every family in it: what is wrong, what is
left out or drawn otherwise, and what components made of it cannot have, each with where and what to do. Nothing is
written. Bindings to tokens are looked at when token files are given. Exits with 1 when anything is an error.`,
		Example: "  cobrik design check plots.svg\n  cobrik design check furrow.design.json --resolver furrow.resolver.json --sarif > design.sarif",
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
			doc, found := readDesign(args[0], text)
			if doc != nil {
				if tokens.theme == nil {
					doc.EachLayer(unbind)
				}
				var origins []contract.Origin
				for _, f := range doc.Families {
					origins = append(origins, contract.Origin{Family: f.ID})
				}
				_, drafted, err := draftAll(doc, origins, "", tokens.set)
				if err != nil {
					found.Errorf("design-cycle", "", "draw one of them without the other", "%v", err)
				}
				found = append(found, drafted...)
			}
			if err := list(cmd, found, sarif); err != nil {
				return err
			}
			if found.Failed() {
				return errSilent
			}
			if !sarif {
				fmt.Fprintln(cmd.OutOrStdout(), counted(doc))
			}
			return nil
		},
	}
	source.add(c)
	c.Flags().BoolVar(&sarif, "sarif", false, "write a SARIF 2.1.0 log instead of lines")
	return c
}

// counted says what a document holds.
func counted(doc *design.Document) string {
	layers, pictures, words := 0, 0, 0
	doc.EachLayer(func(l *design.Layer) {
		layers++
		switch {
		case l.Flatten != "":
			pictures++
		case l.Kind == design.Text:
			words++
		}
	})
	return fmt.Sprintf("pages: %d, families: %d, layers: %d (texts: %d, kept as pictures: %d)", len(doc.Pages), len(doc.Families), layers, words, pictures)
}

// unbind leaves a layer with what is drawn of it.
func unbind(l *design.Layer) {
	l.Tokens = nil
	for i := range l.Fills {
		l.Fills[i].Token = ""
		if g := l.Fills[i].Gradient; g != nil {
			for j := range g.Stops {
				g.Stops[j].Token = ""
			}
		}
	}
}

// readDesign reads a design document, or an SVG file as one.
func readDesign(name string, text []byte) (*design.Document, problem.List) {
	if strings.EqualFold(filepath.Ext(name), ".svg") {
		return design.ImportSVG(name, text, font.Shipped())
	}
	return design.Read(name, text)
}

// readDrawing reads a design document, or an SVG file as one.
func readDrawing(cmd *cobra.Command, name string) (*design.Document, error) {
	text, err := os.ReadFile(name)
	if err != nil {
		return nil, err
	}
	doc, found := readDesign(name, text)
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
