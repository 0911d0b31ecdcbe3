package trial_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"cobrik/core/content"
	"cobrik/core/contract"
	"cobrik/core/emit/compile"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/react"
	"cobrik/core/token"
	"cobrik/core/trial"
)

func TestZZ(t *testing.T) {
	src, found := content.Read("plots.csv", []byte("number,holder\n41,Ines\n42,Tom\n"))
	require.Empty(t, found)
	tokens := &token.Set{}
	rows, found := trial.Parse(`container maximum=1120px padding=24px
  h1 "Plots"
  grid columns=3 gap=16px
    below 768 columns=1
    each plot of plots.csv
      box
        h3 "Plot {plot.number}"
        p {holder}
  stack
    below 640
      p "narrow"
    from 700
      p "wide"
  gap "Top bar" height=56px like=PageShell
`)
	require.Empty(t, found)
	fmt.Println(trial.Text(rows))
	page := trial.Compile(trial.World{Name: "PlotsPage", Tokens: tokens, Component: func(string) *contract.Contract { return nil }, Sources: map[string]*content.Source{"plots.csv": src}}, rows)
	fmt.Println(page.Found)
	fmt.Println(string(page.Contract.JSON()))
	files := react.Emit(page.Contract, nil, react.Options{})
	for _, f := range files {
		fmt.Println("----", f.Path)
		fmt.Println(f.Content)
	}
	_, found = compile.React(files)
	require.Empty(t, found)
	fmt.Println(ir.Lower(page.Contract).Paths(page.Values))
	fmt.Println(page.Warnings)
}
