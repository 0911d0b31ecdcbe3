package trial_test

import (
	"fmt"
	"testing"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/font"
	"cobrik/core/survey"
	"cobrik/core/trial"
	"cobrik/demo/demotest"
)

func TestZZTake(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 2)
	fonts := font.Shipped()
	known := map[string]*contract.Contract{}
	var components draft.Components
	components = func(family string) *contract.Contract {
		if c, ok := known[family]; ok {
			return c
		}
		known[family] = nil
		c, _, _ := draft.Of(doc, contract.Origin{Document: doc.ID, Family: family}, "", tokens, fonts, components)
		known[family] = c
		return c
	}
	reading := survey.Read(doc, survey.Options{Tokens: tokens})
	d := trial.Design{Document: doc, Components: components, Tokens: tokens, Fonts: fonts}
	for _, f := range reading.Finds {
		if f.Kind == survey.Copies {
			for _, m := range f.Members {
				d.Copies = append(d.Copies, trial.Copy{Layers: m.Layers, Component: components(f.Family)})
			}
		}
	}
	page := func(id string) *design.Page {
		for _, p := range doc.Pages {
			if p.ID == id {
				return p
			}
		}
		return nil
	}
	for _, w := range reading.Widths {
		fmt.Println("=====", w.Name, w.Pages)
		var pages []*design.Page
		for _, id := range w.Pages {
			pages = append(pages, page(id))
		}
		taken := trial.Take(d, pages)
		text := trial.Text(taken.Rows)
		fmt.Println(text)
		fmt.Println(taken.Needs)
		rows, found := trial.Parse(text)
		fmt.Println(found)
		made := trial.Compile(trial.World{Name: "Page", Tokens: tokens, Pictures: taken.Pictures, Component: func(name string) *contract.Contract {
			for _, c := range known {
				if c != nil && c.Name == name {
					return c
				}
			}
			return nil
		}}, rows)
		fmt.Println(made.Found)
	}
}
