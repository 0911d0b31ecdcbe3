package layout

import (
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"testing"
)

func TestProbe(t *testing.T) {
	text, err := os.ReadFile("/tmp/probe.json")
	if err != nil {
		t.Skip()
	}
	b := openBrowser(t)
	for line := range strings.Lines(string(text)) {
		var n Node
		if err := json.Unmarshal([]byte(line), &n); err != nil {
			t.Fatal(err)
		}
		boxes := b.measure([]*Node{&n})[0]
		fmt.Print(line)
		s, _ := Solve(&n, testOptions())
		i := 0
		var walk func(n *Node)
		walk = func(n *Node) {
			m := boxes[i]
			i++
			fmt.Printf("   browser %.2f %.2f %.2f %.2f", m.X, m.Y, m.Width, m.Height)
			if n.Box != nil {
				fmt.Printf("   solved %.2f %.2f %.2f %.2f", n.Box.X, n.Box.Y, n.Box.Width, n.Box.Height)
			}
			fmt.Println()
			for _, c := range n.Children {
				walk(c)
			}
		}
		walk(s)
	}
}
