package token_test

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"cobrik/core/token"
)

// Reading and resolving 10,000 tokens in 20 files, aliases eight deep, beside
// encoding/json decoding the same bytes in the same run (goal: under 3 times).
func BenchmarkRead(b *testing.B) {
	files := chained(10_000, 20, 8)
	bytes := 0
	for _, f := range files {
		bytes += len(f.Text)
	}
	b.SetBytes(int64(bytes))
	b.ReportAllocs()
	for b.Loop() {
		set, found := token.Read(files...)
		require.Empty(b, found)
		require.Len(b, set.All(), 10_000)
	}
	ours := b.Elapsed() / time.Duration(b.N)
	const rounds = 20
	start := time.Now()
	for range rounds {
		for _, f := range files {
			var v any
			require.NoError(b, json.Unmarshal(f.Text, &v))
		}
	}
	b.ReportMetric(float64(ours)/(float64(time.Since(start))/rounds), "x-encoding/json")
}

// One token of the 10,000 changed and re-resolved, by how many rest on it.
func BenchmarkChange(b *testing.B) {
	set, _ := token.Read(chained(10_000, 20, 8)...)
	value := node(b, `{"colorSpace":"srgb","components":[0.1,0.2,0.3]}`)
	for _, c := range []struct{ name, path string }{{"nothing rests on it", "g0-0.t7"}, {"seven rest on it", "g0-0.t0"}} {
		set.With(c.path, value) // the index of who refers to whom is made once a set
		b.Run(c.name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				_, changed, _ := set.With(c.path, value)
				require.NotEmpty(b, changed)
			}
		})
	}
}
