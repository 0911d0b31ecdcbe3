package layout

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
)

// keptDrawings were written with the others and kept apart until the rules stood.
func keptDrawings() []interfaceDrawing {
	n := func(format string, args ...any) string { return fmt.Sprintf(format, args...) }
	return []interfaceDrawing{
		{"board of cards in columns",
			"row(stack(h0, stack(a0, b0), stack(c0)), stack(h1, stack(a1), stack(b1, c1)), stack(h2, stack(a2, b2)))",
			"^h0.padding.left=12; ^^h0.gap=16; ^h0.gap=12; ^a0.padding.left=12; ^a0.width=fill",
			line("width:936px;gap:16px;align-items:flex-start", copies(3, func(i int) *Node {
				card := func(id string, parts ...*Node) *Node {
					return with(col(n("name:Card%s%d;padding:12px;gap:6px", id, i), parts...), "align-self:stretch")
				}
				a, b, c := letters(n("a%d", i), 150+float64(i*10), 20, 15), letters(n("b%d", i), 110, 18, 13), letters(n("c%d", i), 140, 18, 13)
				cards := [][]*Node{{card("A", a, b), card("B", c)}, {card("A", a), card("B", b, c)}, {card("A", a, b)}}[i]
				return with(col(n("name:Lane%d;padding:12px;gap:12px;width:301px", i), append([]*Node{letters(n("h%d", i), 90+float64(i*12), 24, 18)}, cards...)...), "flex:none")
			})...)},
		{"talk of two people",
			"stack(row(Disc0, stack(m0)), stack(m1), row(Disc2, stack(m2)))",
			"^m1.self=end; ^Disc0.gap=8; ^^Disc0.gap=16; ^m0.padding.left=14; ^m1.width=content",
			col("name:Talk;width:420px;padding:16px;gap:16px",
				line("gap:8px;align-items:flex-end", sized("Disc0", 32, 32), line("name:Bubble0;padding:10px 14px", sized("m0", 180, 20))),
				with(line("justify-content:flex-end", line("name:Bubble1;padding:10px 14px", sized("m1", 140, 20))), "align-self:stretch"),
				line("gap:8px;align-items:flex-end", sized("Disc2", 32, 32), line("name:Bubble2;padding:10px 14px", sized("m2", 210, 20))))},
		{"bill with a painted head",
			"stack(grid(h0, h1, h2), grid(a0, a1, a2), grid(b0, b1, b2), row(total, sum))",
			"^h0.columns=3; ^a0.columns=3; ^a0.border=bottom; ^total.distribute=space-between",
			col("name:Bill;width:640px;padding:24px", flat([]*Node{with(gridOf("name:Head;grid-template-columns:1fr 100px 100px;padding:10px 12px;gap:16px", sized("h0", 80, 18), with(sized("h1", 50, 18), "justify-self:end"), with(sized("h2", 54, 18), "justify-self:end")), "align-self:stretch")},
				copies(4, func(i int) *Node {
					if i%2 == 1 {
						return lineOf(n("Line%d", i))
					}
					r := []string{"a", "b"}[i/2]
					return with(gridOf("grid-template-columns:1fr 100px 100px;padding:12px;gap:16px", sized(r+"0", 150+float64(i*20), 20), with(says(sized(r+"1", 20+float64(i*4), 20), "2"), "justify-self:end"), with(says(sized(r+"2", 44+float64(i*5), 20), "18.00"), "justify-self:end")), "align-self:stretch")
				}),
				[]*Node{with(line("padding:16px 12px 0;justify-content:space-between", letters("total", 48, 24, 18), letters("sum", 66, 24, 18)), "align-self:stretch")})...)},
		{"week with hours",
			"grid(c, d0, d1, d2, d3, d4, t0, stack(E00), stack(E01), stack(E02), stack(E03), stack(E04), t1, stack(E10), stack(E11), stack(E12), stack(E13), stack(E14))",
			"^d0.columns=6; ^d0.gap=8; ^d0.across=8",
			gridOf("name:Week;width:760px;padding:16px;grid-template-columns:48px repeat(5, 1fr);gap:8px;align-items:center", func() []*Node {
				out := []*Node{sized("c", 30, 20)}
				for i := range 5 {
					out = append(out, with(sized(n("d%d", i), 36+float64(i*5), 20), "justify-self:center"))
				}
				for r := range 2 {
					out = append(out, says(sized(n("t%d", r), 40, 20), "09:00"))
					for i := range 5 {
						out = append(out, line(n("name:Slot%d%d;height:56px;padding:8px;justify-content:center", r, i), sized(n("E%d%d", r, i), 24, 24)))
					}
				}
				return out
			}()...)},
		{"files with their sizes",
			"grid(row(I0, f0), s0, d0, row(I1, f1), s1, d1, row(I2, f2), s2, d2, row(I3, f3), s3, d3)",
			"^s0.columns=3; ^I0.gap=8; ^s0.across=16; ^I0.align=center",
			gridOf("name:Files;width:560px;padding:16px;grid-template-columns:1fr 80px 120px;gap:16px;align-items:center", flat(copies(12, func(i int) *Node {
				r := i / 3
				switch i % 3 {
				case 0:
					return line("gap:8px", sized(n("I%d", r), 20, 20), sized(n("f%d", r), 90+float64(r*23), 20))
				case 1:
					return with(says(sized(n("s%d", r), 40+float64(r*7), 20), "12 KB"), "justify-self:end")
				}
				return sized(n("d%d", r), 70+float64(r%3*9), 20)
			}))...)},
		{"people to call",
			"stack(row(row(stack(i0), stack(p0, q0)), Call0), row(row(stack(i1), stack(p1, q1)), Call1), row(row(stack(i2), stack(p2, q2)), Call2))",
			"^i0.width=fixed; ^^i0.gap=12; ^Call0.distribute=space-between; ^^Call0.gap=16",
			col("name:People;width:380px;padding:16px;gap:16px", copies(3, func(i int) *Node {
				return with(line("justify-content:space-between", line("gap:12px", disc(n("Disc%d", i), 40, sized(n("i%d", i), 12+float64(i*3), 24)), col("gap:2px", letters(n("p%d", i), 110+float64(i*14), 20, 16), letters(n("q%d", i), 90-float64(i*9), 16, 13))), sized(n("Call%d", i), 24, 24)), "align-self:stretch")
			})...)},
		{"pictures of one size",
			"grid(A0, A1, A2, A3, A4, A5, A6, A7, A8)", "^A0.columns=3; ^A0.gap=12; ^A0.across=12",
			gridOf("width:624px;grid-template-columns:repeat(3, 1fr);gap:12px", copies(9, func(i int) *Node { return sized(n("A%d", i), 200, 200) })...)},
		{"player of songs",
			"stack(row(Cover, stack(song, band)), stack(overlay(Track, Knob), row(past, left)), row(Back, Play, Next))",
			"^Cover.gap=12; ^past.distribute=space-between; ^Back.gap=24; ^Play.align=center; ^^Play.gap=20",
			col("name:Player;width:340px;padding:20px;gap:20px;align-items:center", with(line("gap:12px", sized("Cover", 64, 64), col("gap:4px", letters("song", 140, 24, 18), letters("band", 90, 18, 14))), "align-self:stretch"),
				with(col("gap:8px", boxed("position:relative;display:block;width:300px;height:4px", sized("Track", 300, 4), with(sized("Knob", 12, 12), "position:absolute;left:110px;top:-4px")), with(line("justify-content:space-between", says(letters("past", 28, 16, 12), "1:12"), says(letters("left", 28, 16, 12), "3:40")), "align-self:stretch")), "align-self:stretch"),
				line("gap:24px", sized("Back", 24, 24), sized("Play", 48, 48), sized("Next", 24, 24)))},
		{"door of an account",
			"stack(title, stack(l0, stack(v0)), stack(l1, stack(v1)), row(row(Tick, keep), lost), stack(enter))",
			"^l0.gap=6; ^v0.width=fill; ^lost.distribute=space-between; ^Tick.gap=8; ^enter.width=fill; ^title.gap=20; ^title.padding.left=32",
			col("name:Door;width:384px;padding:32px;gap:20px", letters("title", 170, 32, 24),
				with(col("gap:6px", letters("l0", 44, 18, 14), with(line("name:Field0;padding:10px 12px", sized("v0", 120, 20)), "align-self:stretch")), "align-self:stretch"),
				with(col("gap:6px", letters("l1", 66, 18, 14), with(line("name:Field1;padding:10px 12px", sized("v1", 80, 20)), "align-self:stretch")), "align-self:stretch"),
				with(line("justify-content:space-between", line("gap:8px", sized("Tick", 16, 16), sized("keep", 90, 20)), sized("lost", 110, 20)), "align-self:stretch"),
				with(line("name:Enter;padding:12px;justify-content:center", sized("enter", 52, 20)), "align-self:stretch"))},
		{"side bar beside a page",
			"row(stack(Logo, stack(row(I0, n0), row(I1, n1), row(I2, n2))), stack(row(title, stack(new)), body))",
			"^I0.padding.left=12; ^I0.width=fill; ^I0.gap=12; ^^I0.gap=4; ^title.distribute=space-between; ^body.padding.left=32; ^body.width=fill",
			boxed("name:Page;width:1200px;height:700px;align-items:stretch", with(col("name:Side;width:240px;padding:20px 16px;gap:24px", sized("Logo", 100, 32), with(col("gap:4px", copies(3, func(i int) *Node {
				return with(line(n("name:Item%d;padding:8px 12px;gap:12px", i), sized(n("I%d", i), 20, 20), sized(n("n%d", i), 70+float64(i*12), 20)), "align-self:stretch")
			})...), "align-self:stretch")), "flex:none"), with(col("name:Main;padding:32px;gap:24px", with(line("justify-content:space-between", letters("title", 200, 36, 28), line("name:New;padding:8px 16px", sized("new", 60, 20))), "align-self:stretch"), sized("body", 896, 300)), "flex:1 1 0"))},
		{"article",
			"stack(title, row(Disc, who, when), Photo, p0, p1)", "^who.gap=8; ^who.align=center; ^title.gap=24; Photo.width=fill",
			col("name:Article;width:720px;padding:32px;gap:24px", letters("title", 560, 44, 36), line("gap:8px", sized("Disc", 32, 32), letters("who", 90, 20, 14), letters("when", 70, 20, 14)), sized("Photo", 656, 320), letters("p0", 656, 72, 16), letters("p1", 656, 96, 16))},
		{"answers that are set in",
			"stack(row(F0, stack(row(a0, b0), c0)), row(F1, stack(row(a1, b1), c1)), row(F2, stack(row(a2, b2), c2)))",
			"^F1.padding.left=52; ^F0.gap=12; ^^F0.gap=20; ^a0.gap=8",
			col("name:Answers;width:520px;padding:16px;gap:20px", copies(3, func(i int) *Node {
				in := 0.0
				if i > 0 {
					in = 52
				}
				return with(line(n("gap:12px;align-items:flex-start;padding-left:%gpx", in), sized(n("F%d", i), 40, 40), with(col("gap:4px", line("gap:8px", letters(n("a%d", i), 80+float64(i*8), 20, 15), letters(n("b%d", i), 40, 16, 12)), letters(n("c%d", i), 436-in, 40, 14)), "flex:1 1 0")), "align-self:stretch")
			})...)},
		{"note that passes",
			"row(row(Icon, stack(title, body)), Cross)", "^title.gap=2; ^Icon.gap=12; ^Cross.distribute=space-between; ^Cross.padding.left=16",
			line("name:Note;width:400px;padding:12px 16px;justify-content:space-between", line("gap:12px", sized("Icon", 24, 24), col("gap:2px", letters("title", 130, 20, 15), letters("body", 210, 18, 13))), sized("Cross", 16, 16))},
		{"steps to walk through",
			"row(stack(stack(n1), s1), stack(stack(n2), s2), stack(stack(n3), s3), stack(stack(n4), s4))", "^n1.width=fixed; ^s1.align=center; ^s1.gap=8",
			line("gap:56px;align-items:flex-start", copies(4, func(i int) *Node {
				return col("gap:8px;align-items:center", disc(n("Disc%d", i), 32, sized(n("n%d", i+1), 9, 20)), letters(n("s%d", i+1), []float64{60, 84, 70, 52}[i], 18, 13))
			})...)},
		{"three reasons",
			"split(stack(I0, t0, b0), stack(I1, t1, b1), stack(I2, t2, b2))", "^^I0.gap=32; ^^I0.shares=1 1 1; ^I0.gap=12; ^^I0.padding.left=48",
			gridOf("name:Reasons;width:1056px;padding:48px;grid-template-columns:repeat(3, 1fr);gap:32px", copies(3, func(i int) *Node {
				return col("gap:12px", sized(n("I%d", i), 40, 40), letters(n("t%d", i), 120+float64(i*18), 24, 20), letters(n("b%d", i), 298-float64(i*7), 60, 15))
			})...)},
		{"head of a page",
			"stack(row(home, S0, beds, S1, here), row(title, row(stack(share), stack(edit))))", "^home.gap=8; ^^share.gap=8; ^title.distribute=space-between; ^^home.gap=12; ^title.align=center",
			col("name:Head;width:960px;padding:24px 32px;gap:12px", line("gap:8px", letters("home", 40, 18, 13), sized("S0", 8, 8), letters("beds", 36, 18, 13), sized("S1", 8, 8), letters("here", 60, 18, 13)),
				with(line("justify-content:space-between", letters("title", 220, 36, 28), line("gap:8px", line("name:Share;padding:8px 16px", sized("share", 40, 20)), line("name:Edit;padding:8px 16px", sized("edit", 30, 20)))), "align-self:stretch"))},
		{"menu with keys and parts",
			"stack(stack(row(a, k0), row(b, k1)), stack(row(c, k2), row(d, k3)))", "^a.distribute=space-between; ^^a.border=bottom; ^^a.padding.bottom=8; ^^c.border=; ^^a.gap=8",
			col("name:Menu;width:240px;padding:8px 12px;gap:8px", flat(copies(5, func(i int) *Node {
				if i == 2 {
					return lineOf("Line")
				}
				k := []int{0, 1, 0, 2, 3}[i]
				return with(line("justify-content:space-between", sized([]string{"a", "b", "", "c", "d"}[i], 60+float64(i*12), 20), says(letters(n("k%d", k), 20+float64(k*5), 20, 13), "Ctrl")), "align-self:stretch")
			}))...)},
		{"sum of an order",
			"stack(stack(title, stack(row(a, x), row(b, y))), stack(row(total, z), stack(pay)))", "^^^a.border=bottom; ^^^a.padding.bottom=16; ^a.distribute=space-between; ^total.distribute=space-between; ^pay.width=fill; ^pay.align=center",
			col("name:Sum;width:360px;padding:24px;gap:16px", letters("title", 140, 28, 20), with(col("gap:8px", with(line("justify-content:space-between", sized("a", 70, 20), says(sized("x", 50, 20), "42.00")), "align-self:stretch"), with(line("justify-content:space-between", sized("b", 90, 20), says(sized("y", 40, 20), "4.50")), "align-self:stretch")), "align-self:stretch"), lineOf("Line"), with(line("justify-content:space-between", letters("total", 48, 24, 18), says(letters("z", 58, 24, 18), "46.50")), "align-self:stretch"), with(line("name:Pay;padding:12px;justify-content:center", sized("pay", 34, 20)), "align-self:stretch"))},
		{"keys for numbers",
			"grid(stack(k1), stack(k2), stack(k3), stack(k4), stack(k5), stack(k6), stack(k7), stack(k8), stack(k9))", "^k1.width=fixed; ^k1.height=fixed; ^^k1.columns=3; ^^k1.gap=20; ^^k1.across=16",
			gridOf("grid-template-columns:repeat(3, max-content);gap:16px 20px", copies(9, func(i int) *Node {
				return disc(n("Disc%d", i), 64, letters(n("k%d", i+1), 10+float64(i%4*2), 32, 26))
			})...)},
		{"what somebody says of it",
			"stack(row(S0, S1, S2, S3, S4), words, row(stack(j), stack(who, where)))", "^S0.gap=4; ^j.width=fixed; ^who.gap=2; ^^j.gap=12; ^words.gap=16",
			col("name:Review;width:360px;padding:24px;gap:16px", line("gap:4px", copies(5, func(i int) *Node { return sized(n("S%d", i), 20, 20) })...), letters("words", 312, 72, 16), line("gap:12px", disc("Disc", 40, sized("j", 10, 24)), col("gap:2px", letters("who", 100, 20, 15), letters("where", 80, 16, 13))))},
	}
}

// Drawings nobody looked at while the rules were made are read as well.
func TestKeptInterfacesAreRead(t *testing.T) {
	all := keptDrawings()
	right := score(t, all)
	t.Logf("%d of %d", right, len(all))
	assert.Equal(t, len(all), right, "of %d drawings", len(all))
}
