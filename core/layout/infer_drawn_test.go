package layout

import (
	"fmt"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
)

// drawn is an interface put down by places, as a drawing program has it: a line a layer, "kind id x y width height
// words". Kinds: p a painted box, s one with a line around it, d a round one, i a picture, t a text whose type is seven
// tenths of its height.
type drawn struct{ what, layers, want, also string }

func parseDrawn(t *testing.T, layers string) *design.Layer {
	t.Helper()
	root := &design.Layer{ID: "root", Name: "Group 1", Kind: design.Group}
	for l := range strings.SplitSeq(strings.TrimSpace(layers), "\n") {
		f := strings.Fields(l)
		require.GreaterOrEqual(t, len(f), 6, l)
		n := [4]float64{}
		for i := range n {
			v, err := strconv.ParseFloat(f[i+2], 64)
			require.NoError(t, err, l)
			n[i] = v
		}
		c := &design.Layer{ID: f[1], Name: f[1], Bounds: design.Rect{X: n[0], Y: n[1], Width: n[2], Height: n[3]}}
		switch f[0] {
		case "p", "s", "d":
			c.Kind, c.Fill = design.Box, "#ffffff"
			if f[0] == "s" {
				c.Stroke = &design.Stroke{Color: "#cccccc", Width: 1}
			}
			if f[0] == "d" {
				c.Radius = []float64{n[3] / 2}
			}
		case "i":
			c.Kind = design.Image
		case "t":
			words := f[1]
			if len(f) > 6 {
				words = strings.Join(f[6:], " ")
			}
			c.Kind, c.Text = design.Text, &design.TextContent{Content: words, FontSize: float64(int(n[3] * 0.7))}
		default:
			t.Fatalf("no kind %q", f[0])
		}
		root.Children = append(root.Children, c)
		b := Rect{n[0], n[1], n[2], n[3]}
		if len(root.Children) > 1 {
			b = b.join(Rect(root.Bounds))
		}
		root.Bounds = design.Rect(b)
	}
	for _, c := range root.Children {
		c.Bounds.X, c.Bounds.Y = c.Bounds.X-root.Bounds.X, c.Bounds.Y-root.Bounds.Y
	}
	return root
}

type drawnList []drawn

func (l *drawnList) add(what, want, also string, layers ...string) {
	*l = append(*l, drawn{what, strings.Join(layers, "\n"), want, also})
}

// each writes some layers alike.
func each(count int, layers func(i int) string) string {
	all := make([]string, count)
	for i := range all {
		all[i] = layers(i)
	}
	return strings.Join(all, "\n")
}

func allAreRead(t *testing.T, all []drawn) {
	t.Helper()
	right := 0
	for _, d := range all {
		if scoreOf(t, d.what, parseDrawn(t, d.layers), d.want, d.also) {
			right++
		}
	}
	assert.Equal(t, len(all), right, "of %d drawings", len(all))
}

func drawnInterfaces() []drawn {
	var out drawnList
	add, f := out.add, fmt.Sprintf
	add("weather of a week", "split(stack(d0, I0, h0, l0), stack(d1, I1, h1, l1), stack(d2, I2, h2, l2), stack(d3, I3, h3, l3), stack(d4, I4, h4, l4), stack(d5, I5, h5, l5), stack(d6, I6, h6, l6))",
		"^d0.align=center; ^d0.gap=8; ^^d0.shares=1 1 1 1 1 1 1",
		"p Week 0 0 700 152", each(7, func(i int) string {
			c := 50 + 100*i
			w := []int{30, 28, 32, 30, 22, 26, 30}[i]
			return f("t d%d %d 16 %d 20\ni I%d %d 44 32 32\nt h%d %d 84 24 24 %d°\nt l%d %d 116 18 20 %d°", i, c-w/2, w, i, c-16, i, c-12, 20+i, i, c-9, 10+i)
		}))
	add("post of a day", "grid(s0, u0, d0, s1, u1, d1, s2, u2, d2, s3, u3, d3)", "^s0.columns=3; ^s0.across=20",
		"p Post 0 0 900 196", each(4, func(i int) string {
			y := 20 + 40*i
			w := []int{44, 52, 38, 60}[i]
			return f("t s%d 24 %d %d 20\nt u%d 224 %d %d 20\nt d%d %d %d %d 20", i, y, 80+i*17, i, y, 380-i*41, i, 876-w, y, w)
		}))
	add("head of a profile", "stack(overlay(Cover, Face), row(stack(name, at), stack(follow)))", "Face.pin=left bottom; ^^name.distribute=space-between; ^^name.padding.left=24; ^name.gap=4",
		"p Card 0 0 600 324\ni Cover 0 0 600 200\nd Face 24 152 96 96\nt name 24 256 140 24\nt at 24 284 90 16\np Follow 476 256 100 40\nt follow 504 266 44 20")
	add("news with a head", "stack(row(title, all), stack(row(row(I0, stack(t0, w0)), Dot0), row(row(I1, stack(t1, w1)), Dot1), row(row(I2, stack(t2, w2)), Dot2)))", "^title.distribute=space-between; ^I0.gap=12; ^Dot0.distribute=space-between; ^Dot0.align=center",
		"p News 0 0 360 252\nt title 20 20 100 24\nt all 284 24 56 16", each(3, func(i int) string {
			y := 68 + 60*i
			return f("i I%d 20 %d 40 40\nt t%d 72 %d %d 20\nt w%d 72 %d %d 16\nd Dot%d 332 %d 8 8", i, y, i, y+1, 180-i*22, i, y+23, 60+i*7, i, y+16)
		}))
	add("days to pick", "row(stack(d0, n0), stack(d1, n1), stack(d2, n2), stack(d3, n3), stack(d4, n4), stack(d5, n5), stack(d6, n6))", "^^d0.gap=8; ^d0.align=center; ^d0.gap=4",
		each(7, func(i int) string {
			x := 56 * i
			w := []int{24, 22, 26, 24, 18, 20, 24}[i]
			return f("p Day%d %d 0 48 64\nt d%d %d 10 %d 16\nt n%d %d 30 18 24 %d", i, x, i, x+24-w/2, w, i, x+15, 11+i)
		}))
	add("two columns of terms", "stack(title, split(grid(k0, v0, k1, v1, k2, v2), grid(k3, v3, k4, v4, k5, v5)))", "^k0.across=12; ^k3.across=12; ^title.gap=20",
		"p Facts 0 0 680 164\nt title 24 24 120 28", each(6, func(i int) string {
			x, y := 24+328*(i/3), 72+28*(i%3)
			return f("t k%d %d %d %d 16\nt v%d %d %d %d 16", i, x, y, 50+i*6, i, x+120, y, 150-i*9)
		}))
	add("door with other ways in", "stack(stack(a), row(L1, or, L2), stack(mail), stack(go))", "^^a.gap=16; ^a.width=fill; ^or.align=center; ^or.gap=12; ^mail.width=fill; ^go.align=center",
		"p Door 0 0 360 272\np Other 24 24 312 44\nt a 120 36 120 20\np L1 24 95 134 1\nt or 170 84 20 24\np L2 202 95 134 1\ns Mail 24 124 312 44\nt mail 36 136 90 20\np Go 24 184 312 44\nt go 160 196 40 20")
	add("questions that open", "stack(row(q0, V0), row(q1, V1), row(q2, V2), row(q3, V3))", "^q0.distribute=space-between; ^q0.border=bottom; ^q1.padding.top=20; ^q1.padding.bottom=20",
		each(4, func(i int) string {
			y := 65 * i
			l := f("t q%d 0 %d %d 24\ni V%d 620 %d 20 20", i, y+20, 300+i*37, i, y+22)
			if i < 3 {
				l += f("\np Line%d 0 %d 640 1", i, y+64)
			}
			return l
		}))
	add("foot of a table", "row(shown, row(Prev, stack(n1), stack(n2), stack(n3), Next))", "^shown.distribute=space-between; ^Prev.gap=4; ^n1.width=fixed; ^shown.align=center",
		"p Foot 0 0 800 56\nt shown 16 18 160 20\ni Prev 608 12 32 32\np One 644 12 32 32\nt n1 656 18 8 20 1\np Two 680 12 32 32\nt n2 692 18 8 20 2\np Three 716 12 32 32\nt n3 728 18 8 20 3\ni Next 752 12 32 32")
	add("basket", "stack(row(row(P0, stack(t0, k0)), row(row(M0, n0, A0), c0)), row(row(P1, stack(t1, k1)), row(row(M1, n1, A1), c1)))", "^^P0.border=bottom; ^P0.gap=16; ^P0.align=center; ^M0.gap=8",
		"p Basket 0 0 640 209", each(2, func(i int) string {
			y := 16 + 97*i
			w := []int{48, 40}[i]
			l := f("i P%d 16 %d 80 80\nt t%d 112 %d %d 24\nt k%d 112 %d %d 16\ni M%d 432 %d 24 24\nt n%d 464 %d 10 20 %d\ni A%d 482 %d 24 24\nt c%d %d %d %d 24 %d.00", i, y, i, y+18, 140+i*30, i, y+46, 80-i*12, i, y+28, i, y+30, i+1, i, y+28, i, 624-w, y+28, w, 12+i*30)
			if i == 0 {
				l += "\np Line 16 104 608 1"
			}
			return l
		}))
	add("picture with words over it", "overlay(Photo, Heart, stack(title, place))", "Heart.pin=right top; ^title.gap=4; ^title.pin=left bottom",
		"i Photo 0 0 280 360\ni Heart 240 16 24 24\nt title 16 296 160 28\nt place 16 328 110 16")
	add("bars over the months", "stack(row(title, stack(year)), split(stack(B0, m0), stack(B1, m1), stack(B2, m2), stack(B3, m3), stack(B4, m4), stack(B5, m5)))", "^title.distribute=space-between; ^^B0.align=end; ^B0.align=center; ^B0.gap=8",
		"p Chart 0 0 528 296\nt title 24 24 130 28\ns Year 424 22 80 32\nt year 440 28 34 20", each(6, func(i int) string {
			c := 24 + 40 + 80*i
			h := []int{90, 140, 60, 120, 160, 110}[i]
			w := []int{24, 26, 28, 22, 28, 24}[i]
			return f("p B%d %d %d 32 %d\nt m%d %d 256 %d 16", i, c-16, 248-h, h, i, c-w/2, w)
		}))
	add("people of the society", "grid(stack(F0, n0, r0), stack(F1, n1, r1), stack(F2, n2, r2), stack(F3, n3, r3), stack(F4, n4, r4), stack(F5, n5, r5))", "^F0.align=center; ^^F0.columns=3; ^F0.gap=8",
		"p People 0 0 720 408", each(6, func(i int) string {
			c, y := 24+112+224*(i%3), 24+188*(i/3)
			return f("d F%d %d %d 96 96\nt n%d %d %d %d 24\nt r%d %d %d %d 16", i, c-48, y, i, c-50-i*3, y+104, 100+i*6, i, c-36, y+136, 72)
		}))
	add("middle of a page", "stack(over, title, lead, row(stack(join), stack(more)))", "^over.align=center; ^^join.gap=12; ^over.gap=24",
		"p Hero 0 0 1200 420\nt over 552 64 96 20\nt title 340 108 520 56\nt lead 380 188 440 52\np Join 468 264 120 48\nt join 498 278 60 20\np More 600 264 132 48\nt more 632 278 68 20")
	add("songs", "stack(row(row(n0, C0, stack(s0, b0)), d0), row(row(n1, C1, stack(s1, b1)), d1), row(row(n2, C2, stack(s2, b2)), d2))", "^d0.distribute=space-between; ^n0.gap=16; ^d0.align=center; ^^d0.gap=8",
		"p Songs 0 0 480 192", each(3, func(i int) string {
			y := 16 + 56*i
			return f("t n%d 16 %d 10 20 %d\ni C%d 42 %d 48 48\nt s%d 106 %d %d 20\nt b%d 106 %d %d 16\nt d%d 432 %d 32 20 3:%d0", i, y+14, i+1, i, y, i, y+4, 120+i*33, i, y+28, 70+i*8, i, y+14, i)
		}))
	add("seats", "grid("+strings.Join(strings.Fields(each(24, func(i int) string { return f("S%d", i) })), ", ")+")", "^S0.columns=6; ^S0.gap=8; ^S0.across=8",
		each(24, func(i int) string { return f("p S%d %d %d 32 32", i, 40*(i%6), 40*(i/6)) }))
	add("ways to narrow down", "stack(stack(head0, row(row(C0, l0), c0), row(row(C1, l1), c1), row(row(C2, l2), c2)), stack(head1, row(row(C3, l3), c3), row(row(C4, l4), c4)))", "^C0.gap=8; ^c0.distribute=space-between; ^head0.gap=12; ^^head0.gap=32",
		"p Side 0 0 240 296\nt head0 20 20 80 20", each(3, func(i int) string {
			y := 52 + 32*i
			return f("i C%d 20 %d 20 20\nt l%d 48 %d %d 20\nt c%d %d %d %d 20 %d", i, y, i, y, 60+i*14, i, 220-14-i*4, y, 14+i*4, i*7)
		}), "t head1 20 168 90 20", each(2, func(i int) string {
			y := 200 + 32*i
			return f("i C%d 20 %d 20 20\nt l%d 48 %d %d 20\nt c%d %d %d %d 20 %d", i+3, y, i+3, y, 50+i*24, i+3, 220-18-i*4, y, 18+i*4, i*3)
		}))
	add("foot with a line above", "row(right, row(A, B, C))", "^right.border=top; ^right.distribute=space-between; ^right.padding.top=24; ^A.gap=16",
		"p Line 0 0 960 1\nt right 0 27 220 20\ni A 856 25 24 24\ni B 896 25 24 24\ni C 936 25 24 24")
	add("what each plan has", "grid(stack(h0), stack(h1), stack(h2), stack(h3), stack(a0), stack(A1), stack(A2), stack(A3), stack(b0), stack(B1), stack(B2), stack(B3))", "^h1.border=bottom; ^A1.align=center; ^a0.padding.top=16",
		"p Plans 0 0 760 170", each(3, func(r int) string {
			y := 57 * r
			name := []string{"h", "a", "b"}[r]
			l := f("t %s0 24 %d %d 24", name, y+16, 110+r*31)
			for k := range 3 {
				c := 360 + 140*k
				if r == 0 {
					l += f("\nt h%d %d %d %d 24", k+1, c-30-k*4, y+16, 60+k*8)
				} else {
					l += f("\ni %s%d %d %d 20 20", strings.ToUpper(name), k+1, c-10, y+18)
				}
			}
			if r < 2 {
				l += f("\np Line%d 24 %d 712 1", r, y+56)
			}
			return l
		}))
	add("form in two columns", "stack(title, split(stack(l0, stack(v0)), stack(l1, stack(v1))), stack(l2, stack(v2)), row(stack(no), stack(yes)))", "^l0.gap=4; ^v2.width=fill; ^^no.self=end; ^title.gap=20; ^^v0.gap=4",
		"p Form 0 0 560 308\nt title 24 24 200 28\nt l0 24 72 70 16\ns F0 24 92 248 40\nt v0 36 102 80 20\nt l1 288 72 66 16\ns F1 288 92 248 40\nt v1 300 102 90 20\nt l2 24 152 50 16\ns F2 24 172 512 40\nt v2 36 182 160 20\np No 356 232 80 40\nt no 376 242 40 20\np Yes 444 232 92 40\nt yes 464 242 52 20")
	return out
}

// What is put down by places, without any tree behind it, is read as well.
func TestInterfacesDrawnByPlacesAreRead(t *testing.T) { allAreRead(t, drawnInterfaces()) }
