package layout

import (
	"encoding/json"
	"fmt"
	"os"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
)

// profiles are the features trees are made of, with the tolerance in px: 0.5
// without text, 1 with it.
var profiles = []struct {
	feature string
	limit   float64
}{
	{"block", 0.5}, {"flex", 0.5}, {"grid", 0.5}, {"block flex", 0.5}, {"block absolute", 0.5}, {"flex absolute", 0.5}, {"grid absolute", 0.5},
	{"block flex grid absolute", 0.5}, {"block flex modes", 0.5}, {"block grid modes", 0.5}, {"block flex grid absolute modes", 0.5},
	{"block text", 1}, {"flex text", 1}, {"grid text", 1}, {"block flex grid absolute text", 1}, {"block flex grid text modes", 1},
}

// Boxes the solver and the browser disagree on are boxes a contract would be
// wrong about. COBRIK_LAYOUT_TREES sets how many trees a profile has.
func TestSolverAgreesWithTheBrowser(t *testing.T) {
	count := 40
	if n, err := strconv.Atoi(os.Getenv("COBRIK_LAYOUT_TREES")); err == nil {
		count = n
	}
	b := openBrowser(t)
	for _, p := range profiles {
		var trees []*Node
		for seed := range count {
			trees = append(trees, newGenerator(uint64(seed), p.feature).tree())
		}
		agreed := 0
		boxes := b.measure(trees)
		shown := 0
		for i, n := range trees {
			d := compare(n, boxes[i])
			if d.distance <= p.limit {
				agreed++
				continue
			}
			if shown++; shown <= 3 {
				small, d := b.shrink(n, p.limit)
				text, _ := json.Marshal(small)
				t.Logf("%s, seed %d: %s (%.2f px)\n%s", p.feature, i, d.where, d.distance, text)
			}
		}
		fmt.Printf("%-40s %d of %d trees agree\n", p.feature, agreed, count)
		assert.Equal(t, count, agreed, p.feature)
	}
}
