package layout

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Each rule of the reading by the least drawing that needs it.
func TestRulesOfReading(t *testing.T) {
	f := fmt.Sprintf
	for _, c := range []drawn{
		{"columns that line up by different edges are a table, though its rows are close",
			each(4, func(i int) string {
				w := []int{80, 52, 66, 40}[i]
				return f("t a%d 0 %d %d 20\nt b%d 160 %d %d 20\nt c%d %d %d %d 20", i, 26*i, 60+i*17, i, 26*i, 90-i*13, i, 400-w, 26*i, w)
			}), "grid(a0, b0, c0, a1, b1, c1, a2, b2, c2, a3, b3, c3)", "^a0.columns=3"},
		{"two figures with their names stay figures, though their lines are far apart",
			"t n0 0 0 60 18\nt n1 140 0 70 18\nt v0 0 30 40 32 12\nt v1 140 30 50 32 340", "row(stack(n0, v0), stack(n1, v1))", ""},
		{"two grids of pictures are no grid of columns",
			each(12, func(i int) string {
				return f("i P%d %d %d 80 60", i, 92*(i%3), 72*(i/3)+40*(i/6))
			}), "stack(grid(P0, P1, P2, P3, P4, P5), grid(P6, P7, P8, P9, P10, P11))", ""},
		{"a picture far from its text is a cell of its own",
			each(3, func(i int) string {
				return f("i I%d 0 %d 20 20\nt n%d 60 %d %d 20\nt s%d 260 %d %d 20 %d", i, 40*i, i, 40*i, 90-i*20, i, 40*i, 24+i*6, i*3)
			}), "grid(I0, n0, s0, I1, n1, s1, I2, n2, s2)", ""},
		{"what happens on some days stands in their columns",
			each(4, func(i int) string { return f("t d%d %d 0 %d 20", i, 112*i+50-15-i, 30+2*i) }) +
				"\np Box0 0 32 100 60\ni E0 40 50 20 24\np Box1 224 32 100 60\ni E1 264 50 20 24\np Box2 112 104 100 60\ni E2 152 122 20 24\np Box3 336 104 100 60\ni E3 376 122 20 24",
			"grid(d0, d1, d2, d3, stack(E0), stack(E1), stack(E2), stack(E3))", "Box1.column=3; Box2.column=2; Box3.column=4; ^^E0.columns=4"},
		{"a row that ends before the last column is not filled up with the next",
			each(4, func(i int) string { return f("t d%d %d 0 %d 20", i, 112*i+50-15-i, 30+2*i) }) +
				"\np Box0 0 32 100 60\ni E0 40 50 20 24\np Box1 112 32 100 60\ni E1 152 50 20 24\np Box2 0 104 100 60\ni E2 40 122 20 24\np Box3 336 104 100 60\ni E3 376 122 20 24\np Box4 224 176 100 60\ni E4 264 194 20 24",
			"grid(d0, d1, d2, d3, stack(E0), stack(E1), stack(E2), stack(E3), stack(E4))", "Box2.column=1; Box3.column=4; Box4.column=3"},
		{"two buttons at both ends are no equal columns",
			"p Card 0 0 600 120\nt words 24 24 552 24\np Back 24 64 100 32\nt back 50 70 48 20\np Next 476 64 100 32\nt next 502 70 48 20", "stack(words, row(stack(back), stack(next)))", "^^back.distribute=space-between; ^back.width=content"},
		{"a badge over a box that is all there is",
			"p Card 0 12 200 100\nt title 20 32 100 24\nd Count 186 0 28 28", "stack(overlay(stack(title), Count))", "Count.pin=right top"},
		{"a row of headings keeps its own distance from the line",
			each(3, func(i int) string {
				r, y := []string{"h", "a", "b"}[i], []int{0, 41, 86}[i]
				h := []int{14, 20, 20}[i]
				l := f("t %s0 0 %d %d %d\nt %s1 200 %d %d %d\nt %s2 %d %d %d %d %d", r, y, 60+i*9, h, r, y, 50+i*14, h, r, 400-30-i*4, y, 30+i*4, h, i)
				if i < 2 {
					l += f("\np L%d 0 %d 400 1", i, []int{28, 73}[i])
				}
				return l
			}), "grid(stack(h0), stack(h1), stack(h2), stack(a0), stack(a1), stack(a2), stack(b0), stack(b1), stack(b2))", "^h0.padding.bottom=14; ^a0.padding.bottom=12; ^a0.padding.top=12"},
		{"a line that stands elsewhere is no piece of a time line",
			"d M0 0 0 16 16\nt t0 28 0 120 16\nd M1 0 60 16 16\nt t1 28 60 140 16\np L0 7 20 2 36\np Bar 240 80 2 40", "", "whole"},
		{"pieces of line beside what is no row are pinned",
			"p P0 0 0 300 50\nd M0 8 10 16 16\nt t0 40 10 120 16\np P1 0 90 300 50\nd M1 8 100 16 16\nt t1 40 100 140 16\nt z 320 100 40 16\np L0 15 52 2 36", "", "whole"},
		{"what follows a time line is no entry of it",
			each(3, func(i int) string {
				l := f("d M%d 0 %d 16 16\nt t%d 28 %d 120 16", i, 60*i, i, 60*i)
				if i < 2 {
					l += f("\np L%d 7 %d 2 36", i, 60*i+20)
				}
				return l
			}) + "\np Card 0 200 140 120\nt title 20 220 100 28\nt note 20 260 90 40",
			"stack(stack(row(M0, L0, t0)), X)", "skip"},
		{"what stands in the middle of a wide box has no padding of what is left over",
			"p Hero 0 0 1000 240\nt title 300 48 400 48\nt lead 350 112 300 24\nd Seal 484 152 32 40", "stack(title, lead, Seal)", "^title.padding.left=48; ^title.align=center"},
		{"what ends a card in a corner, set in as all is, is no badge",
			"p Card 0 0 300 160\nt title 24 24 160 28\nt note 24 60 200 20\ni Arrow 252 112 24 24", "stack(stack(title, note), Arrow)", "Arrow.self=end"},
		{"sides that differ a little are paddings of their own",
			"p Bar 0 0 400 64\ni Logo 24 16 32 32\ni Menu 352 16 32 32", "row(Logo, Menu)", "^Logo.padding.left=24; ^Logo.padding.right=16; ^Logo.distribute=space-between"},
		{"a column that keeps to the bottom makes no split of equal columns",
			"p Bar 0 0 624 148\nt a 24 24 80 20\nt b 24 52 120 20\nt c 24 80 60 44\nt d 224 24 90 20\nt e 224 52 70 20\nt g 424 104 100 20", "row(stack(a, b, c), stack(d, e), g)", ""},
		{"one line of text in the middle of a box that fills is centred, however little room is beside it",
			"p Card 0 0 200 140\nt words 24 24 152 44\np Go 24 80 152 44\nt go 40 92 120 20", "stack(words, stack(go))", "^go.width=fill; ^go.align=center"},
	} {
		if c.also == "whole" { // no layer is lost, none is read twice, and all are in place
			root := parseDrawn(t, c.layers)
			in, found := Infer(root, InferOptions{})
			require.NotNil(t, in, found)
			count := map[string]int{}
			in.Root.walk(func(p *Part) {
				if p.Layer != "" {
					count[p.Layer]++
				}
			})
			for _, l := range root.Children {
				assert.Equal(t, 1, count[l.ID], "%s: %s in %s", c.what, l.ID, in.Root)
			}
			assert.LessOrEqual(t, in.Residual, 1.0, "%s: %s, %s", c.what, in.Root, in.Untidy)
			continue
		}
		if c.also == "skip" {
			in, found := Infer(parseDrawn(t, c.layers), InferOptions{})
			require.NotNil(t, in, found)
			last := in.Root.Children[len(in.Root.Children)-1]
			assert.Equal(t, "Card", last.Name, "%s: %s", c.what, in.Root)
			assert.LessOrEqual(t, in.Residual, 1.0, "%s: %s", c.what, in.Untidy)
			continue
		}
		assert.True(t, scoreOf(t, c.what, parseDrawn(t, c.layers), c.want, c.also), c.what)
	}
}

// What covers the line of its box is drawn within it, and nothing is moved over it by a margin.
func TestALineThatIsCovered(t *testing.T) {
	root := parseDrawn(t, "s Card 0 0 200 180\ni Pic 0 0 200 100\nt title 17 116 90 24\nt note 17 144 120 19")
	in, found := Infer(root, InferOptions{})
	require.NotNil(t, in, found)
	assert.Equal(t, "stack(Pic, stack(title, note))", in.Root.String())
	in.Root.walk(func(p *Part) { assert.Nil(t, p.Offset, "%s is moved", p.Name) })
	assert.Zero(t, in.Residual, in.Untidy)
	assert.Equal(t, "16", in.Root.said("^title.padding.left"))
	assert.Equal(t, Fill, in.Root.Children[0].Width)
	require.Len(t, in.Untidy, 1)
	assert.Contains(t, in.Untidy[0], "Pic covers the line")
}
