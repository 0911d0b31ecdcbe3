package layout

import (
	"fmt"
	"testing"
)

// drawnScreens were put down, with their structure, after the rules for the others stood.
func drawnScreens() []drawn {
	var out drawnList
	add, f := out.add, fmt.Sprintf
	add("door beside a picture", "split(Photo, stack(stack(title, lead), stack(l0, stack(v0)), stack(l1, stack(v1)), stack(go)))", "^l0.gap=8; ^v0.width=fill; ^go.align=center; ^title.gap=8",
		"p Page 0 0 1200 600\ni Photo 0 0 600 600\nt title 720 100 200 36\nt lead 720 144 280 20\nt l0 720 196 50 16\ns F0 720 220 360 44\nt v0 732 232 120 20\nt l1 720 296 70 16\ns F1 720 320 360 44\nt v1 732 332 80 20\np Go 720 396 360 48\nt go 880 410 40 20")
	add("members with tags and icons", "grid(h0, h1, h2, h3, row(A0, n0), m0, stack(s0), E0, row(A1, n1), m1, stack(s1), E1, row(A2, n2), m2, stack(s2), E2)", "^m0.columns=4; ^m0.align=center; ^A0.gap=12; E0.self=end",
		"p Members 0 0 800 220\nt h0 24 20 60 16\nt h1 280 20 50 16\nt h2 520 20 54 16\nt h3 730 20 46 16", each(3, func(i int) string {
			y := 56 + 52*i
			return f("d A%d 24 %d 32 32\nt n%d 68 %d %d 20\nt m%d 280 %d %d 20\np Tag%d 520 %d %d 24\nt s%d 532 %d %d 16\ni E%d 756 %d 20 20", i, y, i, y+6, 90+i*24, i, y+6, 150-i*17, i, y+4, 64+i*8, i, y+8, 40+i*8, i, y+6)
		}))
	add("rows painted by turns", "stack(grid(a0, a1, a2), grid(b0, b1, b2), grid(c0, c1, c2), grid(d0, d1, d2))", "^a0.columns=3; ^b0.padding.left=16; ^b0.padding.top=12; ^^a0.gap=0",
		each(4, func(i int) string {
			r, y := string(rune('a'+i)), 44*i
			return f("p Row%s 0 %d 640 44\nt %s0 16 %d %d 20\nt %s1 260 %d %d 20\nt %s2 %d %d %d 20 %d", r, y, r, y+12, 80+i*23, r, y+12, 120-i*15, r, 624-30-i*8, y+12, 30+i*8, i*11)
		}))
	add("records to play", "grid(stack(overlay(C0, P0), stack(t0, b0)), stack(overlay(C1, P1), stack(t1, b1)), stack(overlay(C2, P2), stack(t2, b2)), stack(overlay(C3, P3), stack(t3, b3)))", "P0.pin=right bottom; ^t0.gap=4; ^^C0.gap=12; ^t0.width=content",
		each(4, func(i int) string {
			x, y := 240*(i%2), 300*(i/2)
			return f("i C%d %d %d 216 216\nd P%d %d %d 40 40\nt t%d %d %d %d 20\nt b%d %d %d %d 16", i, x, y, i, x+164, y+164, i, x, y+228, 90+i*21, i, x, y+252, 70+i*9)
		}))
	add("place to stay", "row(Pic, stack(stack(title, place), row(stack(w), stack(p)), row(price, stack(book))))", "Pic.height=fixed; ^title.gap=4; ^^title.padding.left=20; ^^w.gap=8; ^price.distribute=space-between",
		"p Card 0 0 640 200\ni Pic 0 0 240 200\nt title 260 20 200 28\nt place 260 52 140 16\np W 260 88 60 24\nt w 272 92 36 16\np P 328 88 72 24\nt p 340 92 48 16\nt price 260 146 80 28\np Book 520 140 100 40\nt book 548 150 44 20")
	add("weather now and by the hour", "stack(row(stack(place, warm), Sun), split(stack(h0, I0, t0), stack(h1, I1, t1), stack(h2, I2, t2), stack(h3, I3, t3), stack(h4, I4, t4)))", "^place.gap=4; ^^place.distribute=space-between; ^h0.align=center",
		"p Now 0 0 360 232\nt place 20 20 110 20\nt warm 20 44 90 56\ni Sun 268 28 72 72", each(5, func(i int) string {
			c := 20 + 32 + 64*i
			return f("t h%d %d 128 %d 16\ni I%d %d 152 24 24\nt t%d %d 184 22 20 %d°", i, c-14-i%2*2, 28+i%2*4, i, c-12, i, c-11, 18+i)
		}))
	add("ways of sending", "stack(head, row(row(R0, l0), row(R1, l1), row(R2, l2)))", "^R0.gap=8; ^^R0.gap=24; ^head.gap=12; ^R0.name=pair; ^^R0.name=pairs",
		"t head 0 0 120 20", each(3, func(i int) string {
			x := []int{0, 112, 250}[i]
			w := []int{60, 86, 48}[i]
			return f("i R%d %d 32 20 20\nt l%d %d 32 %d 20", i, x, i, x+28, w)
		}))
	add("three ways in one", "row(stack(day), stack(week), stack(month))", "^^day.padding.left=4; ^day.width=fill; ^day.align=center; ^week.padding.top=8",
		"p All 0 0 308 44\np Day 4 4 100 36\nt day 42 12 24 20\np Week 104 4 100 36\nt week 137 12 34 20\np Month 204 4 100 36\nt month 232 12 44 20")
	add("faces and how many more", "row(stack(a), stack(b), stack(c), stack(more))", "^a.width=fixed; ^^a.gap=-12; ^more.align=center",
		"d A 0 0 40 40\nt a 14 10 12 20\nd B 28 0 40 40\nt b 42 10 12 20\nd C 56 0 40 40\nt c 71 10 10 20\nd More 84 0 40 40\nt more 93 10 22 20")
	add("how far things are", "stack(stack(row(n0, p0), stack(Fill0)), stack(row(n1, p1), stack(Fill1)), stack(row(n2, p2), stack(Fill2)))", "^n0.distribute=space-between; ^^n0.gap=8; ^Fill0.width=fill",
		"p Goals 0 0 360 192", each(3, func(i int) string {
			y := 20 + 56*i
			return f("t n%d 20 %d %d 20\nt p%d %d %d %d 20 %d%%\np Track%d 20 %d 320 8\np Fill%d 20 %d %d 8", i, y, 80+i*20, i, 340-30-i*2, y, 30+i*2, 40+i*20, i, y+28, i, y+28, 128+i*64)
		}))
	add("stars given", "stack(row(n5, S5, stack(F5), c5), row(n4, S4, stack(F4), c4), row(n3, S3, stack(F3), c3))", "^n5.align=center; ^n5.gap=8; ^^n5.gap=8",
		each(3, func(i int) string {
			k, y := 5-i, 28*i
			return f("t n%d 0 %d 8 20 %d\ni S%d 16 %d 16 16\np Track%d 40 %d 200 8\np F%d 40 %d %d 8\nt c%d 248 %d 20 20 %d", k, y, k, k, y+2, k, y+6, k, y+6, 150-i*45, k, y, 60-i*13)
		}))
	add("ways through the house", "stack(stack(head0, stack(row(I0, n0), row(I1, n1), row(I2, n2))), stack(head1, stack(row(I3, n3), row(I4, n4))))", "^I0.gap=12; ^^I0.gap=16; ^head0.gap=20",
		"p Side 0 0 220 340\nt head0 20 24 70 16", each(3, func(i int) string {
			return f("i I%d 20 %d 20 20\nt n%d 52 %d %d 20", i, 60+36*i, i, 60+36*i, 60+i*15)
		}), "t head1 20 192 60 16", each(2, func(i int) string {
			return f("i I%d 20 %d 20 20\nt n%d 52 %d %d 20", i+3, 228+36*i, i+3, 228+36*i, 80-i*15)
		}))
	add("bar with its name in the middle", "row(row(Menu, Lens), name, row(Bell, Bag))", "^name.distribute=space-between; ^name.align=center; ^Menu.gap=16",
		"p Bar 0 0 1000 64\ni Menu 24 20 24 24\ni Lens 64 20 24 24\nt name 450 18 100 28\ni Bell 912 20 24 24\ni Bag 952 20 24 24")
	add("from a day to a day", "row(stack(l0, row(v0, C0)), Arrow, stack(l1, row(v1, C1)))", "^l0.gap=6; ^v0.distribute=space-between; ^^l0.gap=16",
		"t l0 0 0 40 16\ns F0 0 22 200 40\nt v0 12 32 80 20\ni C0 168 32 20 20\ni Arrow 216 32 20 20\nt l1 252 0 24 16\ns F1 252 22 200 40\nt v1 264 32 80 20\ni C1 420 32 20 20")
	add("place to drop files", "stack(Cloud, drop, hint, stack(choose))", "^drop.align=center; ^drop.gap=12; ^choose.padding.left=16",
		"s Drop 0 0 480 232\ni Cloud 216 32 48 48\nt drop 150 92 180 24\nt hint 180 128 120 16\np Choose 184 156 112 40\nt choose 200 166 80 20")
	add("place to write", "row(Clip, stack(hint), stack(Arrow))", "^hint.width=fill; ^^hint.gap=12; ^Arrow.width=fixed",
		"p Write 0 0 600 64\ni Clip 16 20 24 24\np Field 52 12 480 40\nt hint 68 22 140 20\nd Send 544 12 40 40\ni Arrow 554 22 20 20")
	add("days in boxes", "grid(w0, w1, w2, w3, w4, w5, w6, stack(d0), stack(d1), stack(d2), stack(d3), stack(d4), stack(d5), stack(d6), stack(d7), stack(d8), stack(d9), stack(d10), stack(d11), stack(d12), stack(d13))", "^^d0.columns=7; ^^d0.gap=4",
		each(7, func(i int) string { return f("t w%d %d 0 20 16", i, 44*i+10) }), each(14, func(i int) string {
			x, y := 44*(i%7), 24+44*(i/7)
			return f("p Day%d %d %d 40 40\nt d%d %d %d %d 20 %d", i, x, y, i, x+20-4-i/9*4, y+10, 8+i/9*8, i+1)
		}))
	add("days of which one is picked", "grid(w0, w1, w2, w3, w4, w5, w6, d0, d1, d2, d3, stack(d4), d5, d6, d7, d8, d9, d10, d11, d12, d13)", "^d0.columns=7; ^d4.width=fixed; ^d4.align=center; ^d0.tracks=repeat(7, minmax(0, 1fr))",
		each(7, func(i int) string { return f("t w%d %d 0 14 16", i, 40*i+13) }), each(14, func(i int) string {
			l := f("t d%d %d %d %d 20 %d", i, 40*(i%7)+20-4-i/9*4, 32+36*(i/7), 8+i/9*8, i+1)
			if i == 4 {
				l = f("d Disc 164 26 32 32\n%s", l)
			}
			return l
		}))
	add("page as strokes are drawn, along the middle of edges", "stack(row(title, Face), stack(grid(stack(h0), stack(h1), stack(h2), stack(a0), stack(a1), stack(a2), stack(b0), stack(b1), stack(b2)), split(stack(t0, n0), stack(t1, n1))))",
		"^title.border=bottom; ^title.padding.left=24; ^a0.border=bottom; ^b0.border=; ^t0.padding.left=20; ^^t0.gap=16; ^^^t0.gap=40; ^^^t0.padding.left=40; ^a0.name=cell; ^^a0.name=table",
		"p Bar 0 0 800 64\nt title 24 20 60 24\nd Face 736 12 40 40\np Under 0 64 800 1",
		each(3, func(i int) string {
			r, y := []string{"h", "a", "b"}[i], 96+45*i
			l := f("t %s0 40 %d %d 20\nt %s1 300 %d %d 20\nt %s2 %d %d %d 20 %d kg", r, y, 60+i*23, r, y, 50-i*13, r, 760-40-i*9, y, 40+i*9, i*12)
			if i < 2 {
				l += f("\np L%d 40 %d 720 1", i, y+32)
			}
			return l
		}),
		"s Card0 39.5 245.5 353 101\nt t0 60 266 60 24\nt n0 60 298 160 20\ns Card1 407.5 245.5 353 101\nt t1 428 266 64 24\nt n1 428 298 80 20")
	add("what three say", "row(stack(q0, row(F0, stack(n0, r0))), stack(q1, row(F1, stack(n1, r1))), stack(q2, row(F2, stack(n2, r2))))", "^q0.padding.left=24; ^q0.gap=24; ^F0.gap=12; ^n0.gap=2; ^^q0.gap=24; ^q0.width=fill",
		each(3, func(i int) string {
			x := 344 * i
			return f("p Card%d %d 0 320 208\nt q%d %d 24 268 88\nd F%d %d 136 48 48\nt n%d %d 141 %d 20\nt r%d %d 163 %d 16", i, x, i, x+24, i, x+24, i, x+84, 90+i*11, i, x+84, 70+i*8)
		}))
	add("stories", "stack(row(P0, stack(t0, e0, row(w0, d0))), row(P1, stack(t1, e1, row(w1, d1))), row(P2, stack(t2, e2, row(w2, d2))))", "^P0.gap=24; ^t0.gap=8; ^w0.gap=8; ^^P0.gap=32",
		each(3, func(i int) string {
			y := 192 * i
			return f("i P%d 0 %d 240 160\nt t%d 264 %d %d 32\nt e%d 264 %d 400 48\nt w%d 264 %d %d 20\nt d%d %d %d 60 20", i, y, i, y+18, 260+i*30, i, y+58, i, y+114, 70+i*10, i, 264+78+i*10, y+114)
		}))
	add("sums at the end of a bill", "stack(stack(note, terms), stack(row(k0, v0), row(k1, v1), row(k2, v2)))", "^^k0.self=end; ^k0.distribute=space-between; ^note.gap=4",
		"p Bill 0 0 640 200\nt note 24 24 200 20\nt terms 24 48 260 16\nt k0 420 96 60 20\nt v0 556 96 60 20 120.00\nt k1 420 124 40 20\nt v1 572 124 44 20 9.60\nt k2 420 152 48 24\nt v2 550 152 66 24 129.60")
	return out
}

func TestDrawnScreensAreRead(t *testing.T) { allAreRead(t, drawnScreens()) }
