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
	return out
}

func TestLastScreensAreRead(t *testing.T) { allAreRead(t, lastScreens()) }
