package source_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/emit/react"
	"cobrik/core/source"
	"cobrik/core/token"
	"cobrik/core/token/output"
)

// stocked is a component that does what a stock machine does.
func stocked(t testing.TB, name string, s *behaviour.Stock, choices behaviour.Choices) *contract.Contract {
	t.Helper()
	c := &contract.Contract{Format: contract.Format, Name: name, Props: []contract.Prop{}, Root: &contract.Part{ID: "root", Name: "root", Element: "div"}}
	out, found := behaviour.Adopt(c, s.Make(choices), s.Parts(choices), nil)
	require.Empty(t, found)
	return out
}

func TestDumpStock(t *testing.T) {
	properties := output.PropertiesOf(token.Empty())
	for i, s := range behaviour.Stocks {
		c := stocked(t, fmt.Sprintf("Stock%c", 'A'+i), &s, behaviour.Choices{})
		files := react.Emit(c, properties, react.Options{})
		code := opened(files)
		r := code.Read(c.Name+".tsx", c.Name, options(properties, token.Empty(), nil))
		fmt.Println("=====", c.Name, s.Name, r.Align(c))
		fmt.Print(difference(source.Facts(c), source.Facts(r.Contract)))
		for _, p := range r.Unread {
			fmt.Println(p)
		}
		if i == 1 || i == 3 {
			for _, f := range files {
				if f.Path == c.Name+".tsx" {
					fmt.Println(f.Content)
				}
			}
		}
	}
}
