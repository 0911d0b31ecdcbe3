package layout

import (
	"fmt"
	"testing"
)

// lastScreens were put down when all rules stood, and looked at once.
func lastScreens() []drawn {
	var out drawnList
	add, f := out.add, fmt.Sprintf
	add("letters of a day", "stack(row(row(C0, S0, t0), d0), row(row(C1, S1, t1), d1), row(row(C2, S2, t2), d2))", "^d0.distribute=space-between; ^d0.border=bottom; ^C0.gap=12; ^d1.padding.top=12; ^d2.border=",
		each(3, func(i int) string {
			y := 45 * i
			w := []int{36, 44, 52}[i]
			l := f("i C%d 16 %d 20 20\ni S%d 48 %d 20 20\nt t%d 80 %d %d 20\nt d%d %d %d %d 20", i, y+12, i, y+12, i, y+12, 240-i*33, i, 784-w, y+12, w)
			if i < 2 {
				l += f("\np L%d 16 %d 768 1", i, y+44)
			}
			return l
		}))
	add("menu of a person", "stack(row(stack(w), stack(name, mail)), stack(row(I0, l0), row(I1, l1), row(I2, l2)), row(I3, l3))", "^w.width=fixed; ^name.gap=2; ^I0.gap=12; ^^I0.gap=16; ^^w.border=bottom; ^^I0.border=bottom",
		"p Menu 0 0 260 278\nd Disc 16 16 40 40\nt w 30 26 12 20\nt name 68 16 120 20\nt mail 68 38 150 16\np L0 16 72 228 1", each(3, func(i int) string {
			return f("i I%d 16 %d 20 20\nt l%d 48 %d %d 20", i, 89+36*i, i, 89+36*i, 80+i*18)
		}), "p L1 16 197 228 1\ni I3 16 214 20 20\nt l3 48 214 60 20")
	add("from one price to another", "stack(head, row(low, high), overlay(Track, From, To))", "^low.distribute=space-between; ^head.gap=12; From.width=fixed",
		"t head 0 0 60 20\nt low 0 32 30 20 4.00\nt high 242 32 38 20 90.00\np Track 0 72 280 4\nd From 40 64 20 20\nd To 200 64 20 20")
	add("strip over a bar", "stack(row(news, row(help, enter)), row(Logo, row(a, b, c)))", "^news.distribute=space-between; ^news.padding.left=32; ^help.gap=16; ^a.gap=32; ^Logo.padding.left=32",
		"p Strip 0 0 1200 36\nt news 32 8 240 20\nt help 1068 8 36 20\nt enter 1120 8 48 20\np Bar 0 36 1200 72\ni Logo 32 56 120 32\nt a 936 62 50 20\nt b 1018 62 60 20\nt c 1110 62 58 20")
	add("file on its way", "row(Icon, stack(row(name, part), stack(Fill)), Cross)", "^name.distribute=space-between; ^^name.gap=8; ^Icon.align=center; ^Icon.gap=16",
		"s Row 0 0 480 72\ni Icon 16 20 32 32\nt name 64 18 140 20\nt part 388 18 32 20 64%\np Track 64 46 356 8\np Fill 64 46 228 8\ni Cross 436 26 20 20")
	add("words with a bar beside", "stack(words, who)", "^words.border=left; ^words.gap=8; ^who.padding.left=24",
		"p Quote 0 0 560 120\np Edge 0 0 4 120\nt words 24 20 500 48\nt who 24 76 120 20")
	add("what was found", "stack(stack(t0, u0, e0), stack(t1, u1, e1), stack(t2, u2, e2))", "^t0.gap=4; ^^t0.gap=28",
		each(3, func(i int) string {
			y := 128 * i
			return f("t t%d 0 %d %d 28\nt u%d 0 %d %d 16\nt e%d 0 %d 600 48", i, y, 240+i*40, i, y+32, 180-i*12, i, y+52)
		}))
	add("tools over a table", "row(title, row(row(Lens, hint), stack(filter), stack(add)))", "^title.distribute=space-between; ^Lens.padding.left=12; ^^Lens.gap=12; ^title.align=center",
		"t title 0 4 120 32\ns Field 620 0 220 40\ni Lens 632 12 16 16\nt hint 656 10 80 20\ns Filter 852 0 76 40\nt filter 868 10 44 20\np Add 940 0 84 40\nt add 956 10 52 20")
	add("letters of a code", "row(stack(c0), stack(c1), stack(c2), stack(c3), stack(c4), stack(c5))", "^c0.width=fixed; ^^c0.gap=12; ^c0.align=center",
		each(6, func(i int) string { return f("s Box%d %d 0 48 48\nt c%d %d 12 12 24 %d", i, 60*i, i, 60*i+18, i) }))
	add("asking for leave", "row(words, row(stack(no), stack(yes)))", "^words.distribute=space-between; ^^no.gap=8; ^words.padding.left=32; ^words.align=center",
		"p Ask 0 0 1280 80\nt words 32 20 620 40\np No 1056 20 88 40\nt no 1080 30 40 20\np Yes 1152 20 96 40\nt yes 1176 30 48 20")
	add("where it is", "stack(overlay(Map, Pin), stack(name, row(I0, a0), row(I1, a1), row(I2, a2)))", "^name.padding.left=16; ^I0.gap=8; ^name.gap=12; ^^name.padding.left=0; Pin.width=fixed",
		"p Card 0 0 320 336\ni Map 0 0 320 180\ni Pin 148 66 24 32\nt name 16 196 160 28", each(3, func(i int) string {
			return f("i I%d 16 %d 20 20\nt a%d 44 %d %d 20", i, 236+32*i, i, 236+32*i, 180-i*26)
		}))
	add("where to send it", "stack(stack(l0, stack(v0)), row(stack(l1, stack(v1)), stack(l2, stack(v2))), row(Tick, same))", "^l0.gap=4; ^v0.width=fill; ^^l1.gap=16; ^^l0.gap=20; ^Tick.gap=8",
		"t l0 0 0 48 16\ns F0 0 20 480 40\nt v0 12 30 120 20\nt l1 0 80 28 16\ns F1 0 100 120 40\nt v1 12 110 44 20\nt l2 136 80 30 16\ns F2 136 100 344 40\nt v2 148 110 90 20\ni Tick 0 160 20 20\nt same 28 160 160 20")
	add("week in figures", "stack(row(title, row(stack(day), stack(week))), row(stack(k0, v0, c0), stack(k1, v1, c1), stack(k2, v2, c2)))", "^title.distribute=space-between; ^k0.padding.left=20; ^^k0.gap=16; ^k0.gap=8; ^k0.width=fill; ^^day.gap=8",
		"t title 0 6 140 28\np Day 742 0 56 40\nt day 754 10 32 20\np Week 806 0 72 40\nt week 822 10 40 20", each(3, func(i int) string {
			x := 298 * i
			return f("s Tile%d %d 64 282 128\nt k%d %d 84 %d 16\nt v%d %d 108 %d 36\nt c%d %d 152 %d 16", i, x, i, x+20, 70+i*11, i, x+20, 90-i*14, i, x+20, 50+i*8)
		}))
	add("rules to agree to", "stack(title, row(T0, w0), row(T1, w1), row(T2, w2), row(stack(no), stack(yes)))", "^T0.gap=12; ^T0.align=start; ^title.gap=16; ^^no.gap=12",
		"p Rules 0 0 480 300\nt title 24 24 180 28", each(3, func(i int) string {
			y := []int{68, 124, 180}[i]
			return f("i T%d 24 %d 20 20\nt w%d 56 %d 400 40", i, y, i, y)
		}), "p No 24 236 100 40\nt no 54 246 40 20\np Yes 136 236 120 40\nt yes 170 246 52 20")
	add("pictures around a large one", "row(Large, grid(A, B, C, D))", "^A.columns=2; ^A.gap=8; ^A.across=8; ^Large.gap=8",
		"i Large 0 0 400 400\ni A 408 0 196 196\ni B 612 0 196 196\ni C 408 204 196 196\ni D 612 204 196 196")
	add("table of doings", "grid(h0, h1, h2, a0, stack(a1), a2, b0, stack(b1), b2, c0, stack(c1), c2)", "^a0.columns=3; ^a0.align=center; ^a0.across=16",
		"t h0 0 0 50 16\nt h1 240 0 40 16\nt h2 400 0 36 16", each(3, func(i int) string {
			r, y := []string{"a", "b", "c"}[i], 32+40*i
			w := 60 + i*14
			return f("t %s0 0 %d %d 20\np Tag%s 240 %d %d 24\nt %s1 250 %d %d 16\nt %s2 400 %d %d 20", r, y+2, 150-i*33, r, y, w, r, y+4, w-20, r, y+2, 70+i*5)
		}))
	add("way to a bed", "row(row(home, S0, beds, S1, here), row(Prev, Next))", "^home.gap=8; ^^home.distribute=space-between; ^Prev.gap=4; ^home.align=center",
		"t home 0 6 40 20\ni S0 48 8 16 16\nt beds 72 6 36 20\ni S1 116 8 16 16\nt here 140 6 60 20\ni Prev 732 0 32 32\ni Next 768 0 32 32")
	add("newsletter", "stack(title, lead, row(stack(hint), stack(join)))", "^title.align=center; ^title.gap=16; ^^hint.gap=8; ^title.padding.top=48",
		"p News 0 0 900 252\nt title 300 48 300 40\nt lead 250 104 400 24\np Field 250 144 292 48\nt hint 266 158 120 20\np Join 550 144 100 48\nt join 580 158 40 20")
	add("lesson in a list", "stack(row(row(P0, stack(t0, row(I0, d0))), L0), row(row(P1, stack(t1, row(I1, d1))), L1))", "^P0.gap=16; ^I0.gap=4; ^L0.distribute=space-between; ^t0.gap=8; ^^L0.gap=16",
		each(2, func(i int) string {
			y := 96 * i
			return f("i P%d 0 %d 120 80\nt t%d 136 %d %d 24\ni I%d 136 %d 16 16\nt d%d 156 %d %d 16\ni L%d 616 %d 24 24", i, y, i, y+16, 180+i*50, i, y+48, i, y+48, 50+i*8, i, y+28)
		}))
	add("hours of a shop", "stack(head, grid(d0, h0, d1, h1, d2, h2, d3, h3))", "^d0.across=8; ^head.gap=12",
		"t head 0 0 100 24", each(4, func(i int) string {
			return f("t d%d 0 %d %d 20\nt h%d 120 %d %d 20", i, 36+28*i, 60+i*8, i, 36+28*i, 90-i%2*30)
		}))
	add("sizes and a number to buy", "stack(name, price, row(stack(s), stack(m), stack(l)), row(row(Less, n, More), stack(buy)))", "^s.width=fixed; ^^s.gap=8; ^Less.gap=12; ^name.gap=16; ^s.align=center",
		"t name 0 0 220 36\nt price 0 52 80 28\np S 0 96 40 40\nt s 16 106 8 20\np M 48 96 40 40\nt m 61 106 14 20\np L 96 96 40 40\nt l 112 106 8 20\ni Less 0 162 24 24\nt n 36 164 10 20 1\ni More 58 162 24 24\np Buy 200 152 160 44\nt buy 256 164 48 20")
	add("quiet end of a page", "stack(row(Logo, row(a, b, c, d)), row(right, row(X, Y)))", "^Logo.distribute=space-between; ^Logo.border=bottom; ^a.gap=24; ^right.distribute=space-between; ^X.gap=16",
		"i Logo 0 0 100 32\nt a 620 6 60 20\nt b 704 6 48 20\nt c 776 6 70 20\nt d 870 6 30 20\np Line 0 56 900 1\nt right 0 83 200 16\ni X 836 79 24 24\ni Y 876 79 24 24")
	add("what somebody wrote", "stack(row(row(stack(w), stack(who, when)), Dots), words, Photo, row(row(I0, n0), row(I1, n1), row(I2, n2)))", "^^w.gap=12; ^I0.gap=6; ^^I0.gap=24; ^Dots.distribute=space-between; Photo.width=fill; ^words.gap=16",
		"p Post 0 0 480 460\nd Disc 20 20 40 40\nt w 34 30 12 20\nt who 72 21 110 20\nt when 72 43 60 16\ni Dots 436 28 24 24\nt words 20 76 440 60\ni Photo 20 152 440 252\ni I0 20 420 20 20\nt n0 46 420 18 20 12\ni I1 88 420 20 20\nt n1 114 420 10 20 3\ni I2 148 420 20 20\nt n2 174 420 28 20 Share")
	add("side with somebody at its foot", "row(stack(stack(Logo, stack(row(I0, n0), row(I1, n1))), row(Face, name)), stack(title, text))", "^^I0.gap=12; ^Face.gap=8; ^title.padding.left=40",
		"p Page 0 0 1000 600\np Side 0 0 220 600\ni Logo 20 20 100 32\ni I0 20 84 20 20\nt n0 52 84 70 20\ni I1 20 116 20 20\nt n1 52 116 90 20\ni Face 20 548 32 32\nt name 60 554 90 20\nt title 260 40 300 40\nt text 260 96 700 120")
	add("head of a bill", "row(Logo, stack(no, day, due))", "^no.align=end; ^Logo.distribute=space-between; ^no.gap=4; ^Logo.align=start",
		"p Bill 0 0 640 132\ni Logo 24 24 120 40\nt no 496 24 120 28\nt day 536 56 80 20\nt due 516 80 100 20")
	add("how it goes", "stack(row(stack(n1), stack(t1, d1)), row(stack(n2), stack(t2, d2)), row(stack(n3), stack(t3, d3)))", "^n1.width=fixed; ^t1.gap=4; ^^n1.gap=16; ^^t1.align=start",
		each(3, func(i int) string {
			y := 88 * i
			return f("d Disc%d 0 %d 32 32\nt n%d 11 %d 10 20 %d\nt t%d 48 %d %d 24\nt d%d 48 %d 320 36", i+1, y, i+1, y+6, i+1, i+1, y, 120+i*20, i+1, y+28)
		}))
	add("who we are", "stack(title, split(stack(F0, n0), stack(F1, n1), stack(F2, n2), stack(F3, n3)))", "^title.align=center; ^F0.align=center; ^F0.gap=12",
		"p Who 0 0 1000 304\nt title 400 40 200 40", each(4, func(i int) string {
			c := 40 + 115 + 230*i
			w := []int{70, 96, 60, 84}[i]
			return f("d F%d %d 112 100 100\nt n%d %d 224 %d 24", i, c-50, i, c-w/2, w)
		}))
	add("picture with small ones below", "stack(Large, row(A, B, C, D))", "^A.gap=8; ^Large.gap=8",
		"i Large 0 0 424 300\ni A 0 308 100 72\ni B 108 308 100 72\ni C 216 308 100 72\ni D 324 308 100 72")
	add("talks not read", "stack(row(row(stack(a), stack(n0, l0)), stack(t0, stack(c0))), row(row(stack(b), stack(n1, l1)), stack(t1, stack(c1))))", "^a.width=fixed; ^t0.align=end; ^^^a.distribute=space-between; ^c0.width=fixed",
		each(2, func(i int) string {
			y := 16 + 68*i
			l := []string{"a", "b"}[i]
			return f("d Disc%d 16 %d 48 48\nt %s 34 %d 12 24\nt n%d 76 %d %d 20\nt l%d 76 %d %d 18\nt t%d %d %d %d 16\nd Count%d 340 %d 20 20\nt c%d 346 %d 8 16 %d", i, y, l, y+12, i, y+3, 100+i*20, i, y+27, 180-i*40, i, 360-36-i*6, y+2, 36+i*6, i, y+26, i, y+28, i+1)
		}))
	add("for and against", "split(stack(h0, row(C0, a0), row(C1, a1), row(C2, a2)), stack(h1, row(D0, b0), row(D1, b1), row(D2, b2)))", "^C0.gap=8; ^h0.gap=16; ^^h0.gap=32; ^^h0.padding.left=24",
		"p Both 0 0 720 204\nt h0 24 24 60 28\nt h1 376 24 90 28", each(3, func(i int) string {
			y := 68 + 36*i
			return f("i C%d 24 %d 20 20\nt a%d 52 %d %d 20\ni D%d 376 %d 20 20\nt b%d 404 %d %d 20", i, y, i, y, 200-i*30, i, y, i, y, 150+i*24)
		}))
	add("bar with places that open", "row(row(Logo, row(row(a, Va), row(b, Vb), c)), stack(join))", "^a.gap=4; ^^a.gap=24; ^join.padding.left=16; ^^^Va.gap=40",
		"p Bar 0 0 1100 64\ni Logo 24 16 100 32\nt a 164 22 60 20\ni Va 228 24 16 16\nt b 268 22 48 20\ni Vb 320 24 16 16\nt c 360 22 52 20\np Join 996 12 80 40\nt join 1012 22 48 20")
	add("beds in a list with a picture at the right", "stack(row(stack(t0, n0), P0), row(stack(t1, n1), P1), row(stack(t2, n2), P2))", "^P0.distribute=space-between; ^P0.border=bottom; ^t0.gap=4; ^P1.padding.top=16",
		each(3, func(i int) string {
			y := 97 * i
			l := f("t t%d 0 %d %d 24\nt n%d 0 %d %d 20\ni P%d 440 %d 64 64", i, y+24, 160+i*30, i, y+52, 240-i*50, i, y+16)
			if i < 2 {
				l += f("\np L%d 0 %d 504 1", i, y+96)
			}
			return l
		}))
	add("weather in one line", "row(row(Sun, warm, stack(place, sky)), row(stack(High, a), stack(Low, b)))", "^warm.gap=16; ^place.gap=2; ^warm.align=center; ^High.gap=4; ^^High.gap=16",
		"i Sun 0 0 48 48\nt warm 64 4 60 40\nt place 140 3 90 22\nt sky 140 27 70 18\ni High 330 4 20 20\nt a 330 28 20 16 9°\ni Low 366 4 20 20\nt b 366 28 20 16 2°")
	add("two ways to pay", "stack(title, split(stack(Card, c), stack(Bank, k)), stack(l0, stack(v0)), split(stack(l1, stack(v1)), stack(l2, stack(v2))), stack(pay))", "^Card.gap=8; ^Card.align=center; ^^Card.gap=16; ^pay.width=fill; ^v1.width=fill; ^title.gap=24",
		"p Pay 0 0 400 460\nt title 32 32 160 32\ns A 32 88 160 84\ni Card 96 104 32 24\nt c 92 136 40 20\ns B 208 88 160 84\ni Bank 272 104 32 24\nt k 268 136 40 20\nt l0 32 196 80 16\ns F0 32 218 336 44\nt v0 44 230 140 20\nt l1 32 286 50 16\ns F1 32 308 160 44\nt v1 44 320 60 20\nt l2 208 286 30 16\ns F2 208 308 160 44\nt v2 220 320 30 20\np Go 32 376 336 48\nt pay 180 390 40 20")
	add("one of many questions", "stack(stack(row(n, left), stack(Fill)), q, stack(row(R0, a0), row(R1, a1), row(R2, a2)), row(stack(back), stack(next)))", "^R0.gap=12; ^^R0.gap=12; ^^^R0.gap=32; ^^back.distribute=space-between; ^n.distribute=space-between",
		"t n 0 0 80 20\nt left 440 0 60 20\np Track 0 32 500 4\np Fill 0 32 200 4\nt q 0 68 420 36", each(3, func(i int) string {
			y := 136 + 60*i
			return f("s Way%d 0 %d 500 48\ni R%d 16 %d 20 20\nt a%d 48 %d %d 20", i, y, i, y+14, i, y+14, 180-i*40)
		}), "p Back 0 336 90 40\nt back 24 346 42 20\np Next 410 336 90 40\nt next 434 346 42 20")
	add("people in a table with lines", "grid(stack(row(A0, n0)), stack(m0), stack(stack(s0)), stack(row(A1, n1)), stack(m1), stack(stack(s1)), stack(row(A2, n2)), stack(m2), stack(stack(s2)))", "^A0.gap=12; ^m0.border=bottom; ^m1.padding.top=16; ^^m0.columns=3",
		each(3, func(i int) string {
			y := 65 * i
			w := 64 + 12*i
			l := f("d A%d 0 %d 32 32\nt n%d 44 %d %d 20\nt m%d 280 %d %d 20\np Tag%d 560 %d %d 24\nt s%d 572 %d %d 16", i, y+16, i, y+22, 90+i*20, i, y+22, 170-i*20, i, y+20, w, i, y+24, w-24)
			if i < 2 {
				l += f("\np L%d 0 %d 720 1", i, y+64)
			}
			return l
		}))
	add("card with a number in its corner", "stack(overlay(stack(Icon, title, note), stack(n)))", "^n.pin=right top; ^n.width=fixed; ^Icon.gap=12; ^Icon.padding.left=24",
		"p Card 0 0 240 172\ni Icon 24 24 40 40\nt title 24 76 120 24\nt note 24 112 160 36\nd Count 224 -12 28 28\nt n 234 -8 8 20 3")
	add("plain words in two columns", "stack(title, split(p0, p1))", "^title.gap=24; ^p0.gap=40; p0.width=fill",
		"t title 0 0 300 44\nt p0 0 68 380 200\nt p1 420 68 380 180")
	add("hours beside a map", "split(stack(title, place, grid(d0, h0, d1, h1, d2, h2), stack(go)), Map)", "^d0.across=8; ^title.gap=16; ^title.padding.left=32; ^go.width=content; Map.height=fixed",
		"p Both 0 0 960 360\nt title 32 32 200 36\nt place 32 84 240 24\nt d0 32 124 70 20\nt h0 142 124 90 20\nt d1 32 152 60 20\nt h1 142 152 70 20\nt d2 32 180 84 20\nt h2 142 180 90 20\np Go 32 216 140 44\nt go 56 228 92 20\ni Map 480 0 480 360")
	return out
}

func TestLastScreensAreRead(t *testing.T) { allAreRead(t, lastScreens()) }
