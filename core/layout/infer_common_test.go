package layout

import (
	"cmp"
	"fmt"
	"math/rand/v2"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
)

// Drawings of common interfaces, with the structure a careful developer gives them, written down
// before any answer was looked at. In their names: Line… are thin boxes, Disc… round ones.

type interfaceDrawing struct {
	what, want string
	also       string // "layer.property=value; …" of a layer or, with ^, of the container around it
	tree       *Node
}

// letters is a text layer of a font size.
func letters(name string, w, h, size float64) *Node {
	n := sized(name, w, h)
	n.Style["font-size"] = fmt.Sprintf("%gpx", size)
	return n
}

// says gives a text layer its words.
func says(n *Node, words string) *Node {
	n.Label = words
	return n
}

func lineOf(name string) *Node {
	return with(&Node{Name: name, Style: Style{}}, "height:1px;flex:none;align-self:stretch")
}

func disc(name string, size float64, children ...*Node) *Node {
	return line(fmt.Sprintf("name:%s;width:%gpx;height:%gpx;justify-content:center;flex:none", name, size, size), children...)
}

func gridOf(css string, children ...*Node) *Node { return boxed("display:grid;"+css, children...) }

func flat(groups ...[]*Node) []*Node {
	var out []*Node
	for _, g := range groups {
		out = append(out, g...)
	}
	return out
}

func commonDrawings() []interfaceDrawing {
	n := func(format string, args ...any) string { return fmt.Sprintf(format, args...) }
	return []interfaceDrawing{
		{"table with lines between its rows",
			"grid(stack(h0), stack(h1), stack(h2), stack(h3), stack(a0), stack(a1), stack(a2), stack(a3), stack(b0), stack(b1), stack(b2), stack(b3), stack(c0), stack(c1), stack(c2), stack(c3))",
			"^a0.border=bottom; ^a0.padding.top=12; ^a0.padding.bottom=12; ^c0.border=",
			col("name:Table;width:720px;padding:0 16px", func() []*Node {
				var rows []*Node
				for i, r := range []string{"h", "a", "b", "c"} {
					if i > 0 {
						rows = append(rows, lineOf(n("Line%d", i)))
					}
					rows = append(rows, gridOf("grid-template-columns:2fr 1fr 1fr 90px;padding:12px 0;align-self:stretch;gap:16px",
						sized(r+"0", 80+float64(i*31), 20), sized(r+"1", 60+float64(i*7), 20), sized(r+"2", 44+float64(i*9), 20), says(with(sized(r+"3", 38+float64(i*6), 20), "justify-self:end"), n("%d.50", i*40))))
				}
				return rows
			}()...)},
		{"table of texts without lines",
			"grid(h0, h1, h2, a0, a1, a2, b0, b1, b2, c0, c1, c2)", "^a0.columns=3; ^a0.across=16",
			gridOf("name:Table;width:640px;padding:20px;grid-template-columns:3fr 2fr 1fr;gap:16px", func() []*Node {
				var out []*Node
				for i, r := range []string{"h", "a", "b", "c"} {
					out = append(out, sized(r+"0", 120-float64(i*17), 20), sized(r+"1", 70+float64(i*21), 20), says(sized(r+"2", 40+float64(i*5), 20), n("%d kg", i*12)))
				}
				return out
			}()...)},
		{"month with blank days",
			"stack(row(month, row(Prev, Next)), grid(w0, w1, w2, w3, w4, w5, w6, d1, d2, d3, d4, d5, d6, d7, d8, d9, d10, d11, d12, d13, d14, d15, d16, d17, d18, d19, d20, d21, d22, d23, d24, d25, d26, d27, d28, d29, d30))",
			"^d9.columns=7; d1.column=3; ^^Prev.name=row; ^Prev.name=icons; ^d9.name=grid",
			col("name:Month;width:320px;padding:16px;gap:16px", with(line("justify-content:space-between;align-self:stretch", letters("month", 110, 24, 18), line("gap:8px", sized("Prev", 24, 24), sized("Next", 24, 24))), ""),
				with(gridOf("grid-template-columns:repeat(7, 1fr);justify-items:center;gap:12px 0", flat(
					copies(7, func(i int) *Node { return says(letters(n("w%d", i), 14+float64(i%3*4), 16, 12), "MTWTFSS"[i:i+1]) }),
					copies(30, func(i int) *Node {
						w := 9.0
						if i >= 9 {
							w = 18
						}
						d := says(sized(n("d%d", i+1), w, 20), fmt.Sprint(i+1))
						if i == 0 {
							d.Style["grid-column-start"] = "3"
						}
						return d
					}))...), "align-self:stretch"))},
		{"settings with switches",
			"stack(row(stack(l0, n0), S0), row(stack(l1, n1), S1), row(stack(l2, n2), S2))",
			"^S0.border=bottom; ^S0.distribute=space-between; ^S0.align=center; ^S1.padding.top=14; ^S1.padding.bottom=14; ^S2.border=; ^l0.name=text; ^^l0.name=row",
			col("name:Settings;width:480px;padding:2px 20px", func() []*Node {
				var out []*Node
				for i := range 3 {
					if i > 0 {
						out = append(out, lineOf(n("Line%d", i)))
					}
					out = append(out, line("justify-content:space-between;padding:14px 0;align-self:stretch", col("gap:4px", letters(n("l%d", i), 120+float64(i*22), 20, 16), letters(n("n%d", i), 220-float64(i*31), 16, 13)), sized(n("S%d", i), 40, 24)))
				}
				return out
			}()...)},
		{"messages",
			"stack(row(Disc0, stack(row(who0, when0), body0)), row(Disc1, stack(row(who1, when1), body1)), row(Disc2, stack(row(who2, when2), body2)))",
			"^Disc0.gap=12; ^who0.distribute=space-between; ^who0.name=row; ^^who0.name=stack",
			col("name:Messages;width:420px;padding:16px;gap:20px", copies(3, func(i int) *Node {
				return line("gap:12px;align-self:stretch", sized(n("Disc%d", i), 40, 40), with(col("gap:4px", with(line("justify-content:space-between", letters(n("who%d", i), 90+float64(i*13), 20, 15), letters(n("when%d", i), 40, 16, 12)), "align-self:stretch"), letters(n("body%d", i), 336, 18, 14)), "flex:1 1 0"))
			})...)},
		{"goods in a grid without paint",
			"grid(stack(Pic0, t0, p0), stack(Pic1, t1, p1), stack(Pic2, t2, p2), stack(Pic3, t3, p3), stack(Pic4, t4, p4), stack(Pic5, t5, p5), stack(Pic6, t6, p6), stack(Pic7, t7, p7))",
			"^^Pic0.columns=4; ^^Pic0.gap=16; ^^Pic0.across=32; ^Pic0.gap=8; ^^Pic0.name=items; ^Pic0.name=stack",
			gridOf("width:912px;grid-template-columns:repeat(4, 1fr);gap:32px 16px", copies(8, func(i int) *Node {
				return col("gap:8px", sized(n("Pic%d", i), 216, 160), letters(n("t%d", i), 90+float64(i*9), 20, 16), letters(n("p%d", i), 40+float64(i%3*4), 18, 14))
			})...)},
		{"goods in one row without paint",
			"split(stack(Pic0, t0, p0), stack(Pic1, t1, p1), stack(Pic2, t2, p2), stack(Pic3, t3, p3))", "^^Pic0.gap=16; ^Pic0.gap=12",
			line("width:912px;gap:16px;align-items:flex-start", copies(4, func(i int) *Node {
				return col("gap:12px", sized(n("Pic%d", i), 216, 160), letters(n("t%d", i), 90+float64(i*9), 20, 16), letters(n("p%d", i), 40+float64(i%3*4), 18, 14))
			})...)},
		{"footer of four equal columns",
			"split(stack(head0, a0, b0, c0), stack(head1, a1, b1, c1), stack(head2, a2, b2), stack(head3, a3, b3, c3))", "^^head0.gap=24; ^^head0.padding.left=40; ^head0.gap=12; ^^head0.shares=1 1 1 1",
			gridOf("name:Foot;width:1040px;padding:40px;grid-template-columns:repeat(4, 1fr);gap:24px", copies(4, func(i int) *Node {
				links := []*Node{letters(n("head%d", i), 70+float64(i*8), 20, 16)}
				for k, l := range []string{"a", "b", "c"} {
					if i != 2 || k < 2 {
						links = append(links, letters(n("%s%d", l, i), 60+float64(k*19+i*7), 18, 14))
					}
				}
				return col("gap:12px", links...)
			})...)},
		{"labels beside their fields",
			"stack(title, grid(l0, stack(v0), l1, stack(v1), l2, stack(v2)), row(stack(no), stack(yes)))", "^l0.align=center; ^l0.across=12; ^no.padding.left=16; ^^no.self=end; ^l0.name=fields; ^^no.name=actions",
			col("name:Form;width:520px;padding:24px;gap:24px", letters("title", 180, 28, 22),
				with(gridOf("grid-template-columns:120px 1fr;gap:12px 16px;align-items:center", flat(copies(6, func(i int) *Node {
					if i%2 == 0 {
						return sized(n("l%d", i/2), 60+float64(i*11), 20)
					}
					return line(n("name:Field%d;padding:10px 12px", i/2), sized(n("v%d", i/2), 80+float64(i*10), 20))
				}))...), "align-self:stretch"),
				with(line("gap:8px;justify-content:flex-end", line("name:No;padding:8px 16px", sized("no", 44, 20)), line("name:Yes;padding:8px 16px", sized("yes", 36, 20))), "align-self:stretch"))},
		{"tabs over a line",
			"stack(row(stack(one), two, three), body)", "^one.border=bottom; ^^one.border=bottom; ^^one.gap=24; ^body.gap=16",
			col("name:Panel;width:600px;padding:16px;gap:16px", with(col("", line("gap:24px;align-items:flex-start", col("", sized("one", 60, 20), with(lineOf("LineActive"), "margin-top:10px;height:2px")), sized("two", 72, 20), sized("three", 50, 20)), with(lineOf("LineBase"), "")), "align-self:stretch"), sized("body", 568, 80))},
		{"time line of marks and pieces of line",
			"stack(row(stack(Disc0, Line0), stack(t0, n0)), row(stack(Disc1, Line1), stack(t1, n1)), row(Disc2, stack(t2, n2)))", "^t0.gap=4; ^^t0.gap=12",
			col("name:Time;width:400px;padding:20px", copies(3, func(i int) *Node {
				mark := col("align-items:center;gap:4px;width:16px;align-self:stretch", sized(n("Disc%d", i), 16, 16))
				text := col("gap:4px;padding-bottom:24px", letters(n("t%d", i), 120+float64(i*10), 20, 16), letters(n("n%d", i), 200-float64(i*20), 18, 13))
				if i < 2 {
					mark.Children = append(mark.Children, with(&Node{Name: n("Line%d", i), Style: Style{}}, "width:2px;flex:1 1 0;margin-bottom:4px"))
				} else {
					text.Style["padding-bottom"] = "0px"
				}
				return boxed("gap:12px", mark, text)
			})...)},
		{"time line with one line behind its marks",
			"overlay(Line, stack(row(Disc0, stack(t0, n0)), row(Disc1, stack(t1, n1)), row(Disc2, stack(t2, n2))))", "Line.height=fill; ^^Disc0.gap=24",
			boxed("position:relative;display:block;width:360px", with(sized("Line", 2, 160), "position:absolute;left:7px;top:2px"), col("gap:24px", copies(3, func(i int) *Node {
				return line("gap:12px;align-items:flex-start", sized(n("Disc%d", i), 16, 16), col("gap:4px", letters(n("t%d", i), 120+float64(i*10), 20, 16), letters(n("n%d", i), 200-float64(i*20), 18, 13)))
			})...))},
		{"circle with a letter and a badge",
			"row(overlay(stack(w), Badge), stack(name, role))", "^w.width=fixed; ^w.height=fixed; ^w.align=center; Badge.pin=right bottom; ^name.name=text; ^Badge.name=layers",
			line("name:Person;width:300px;padding:12px;gap:12px", boxed("position:relative;display:block;width:48px;height:48px", disc("Disc", 48, sized("w", 14, 24)), with(sized("Badge", 12, 12), "position:absolute;right:0;bottom:0")), col("gap:2px", letters("name", 120, 20, 16), letters("role", 90, 16, 13)))},
		{"card whose picture reaches its edges",
			"stack(Pic, stack(title, note, row(price, stack(add))))", "^title.padding.left=16; ^title.padding.top=16; ^title.padding.bottom=16; ^title.gap=8; ^price.distribute=space-between; ^^title.padding.left=0; Pic.width=fill; ^title.name=body",
			col("name:Card;width:300px", sized("Pic", 300, 180), with(col("padding:16px;gap:8px", letters("title", 160, 24, 18), letters("note", 230, 20, 14), with(line("justify-content:space-between", letters("price", 50, 24, 18), line("name:Add;padding:6px 12px", sized("add", 30, 20))), "align-self:stretch")), "align-self:stretch"))},
		{"dialog with a cross in its corner",
			"overlay(stack(title, body, row(stack(no), stack(yes))), Cross)", "Cross.pin=right top; ^title.align=center; ^no.width=content; ^^no.gap=8",
			boxed("position:relative;display:block;width:400px", col("name:Dialog;width:400px;padding:40px 32px 24px;gap:16px;align-items:center", letters("title", 160, 28, 22), letters("body", 320, 40, 15), line("gap:8px", line("name:No;padding:8px 16px", sized("no", 40, 20)), line("name:Yes;padding:8px 16px", sized("yes", 52, 20)))), with(sized("Cross", 16, 16), "position:absolute;right:12px;top:12px"))},
		{"bar of five equal places",
			"split(stack(I0, l0), stack(I1, l1), stack(I2, l2), stack(I3, l3), stack(I4, l4))", "^I0.align=center; ^I0.gap=4; ^^I0.shares=1 1 1 1 1; ^^I0.gap=0",
			gridOf("name:Bar;width:400px;padding:8px 0;grid-template-columns:repeat(5, 1fr)", copies(5, func(i int) *Node {
				return col("gap:4px;align-items:center", sized(n("I%d", i), 24, 24), letters(n("l%d", i), []float64{30, 42, 26, 50, 36}[i], 14, 11))
			})...)},
		{"prices side by side",
			"row(stack(n0, p0, stack(row(C0, f0), row(D0, g0)), stack(b0)), stack(n1, p1, stack(row(C1, f1), row(D1, g1)), stack(b1)), stack(n2, p2, stack(row(C2, f2), row(D2, g2)), stack(b2)))",
			"^n0.padding.left=24; ^^n0.gap=24; ^n0.width=fill; ^b0.width=fill; ^C0.gap=8; ^C0.name=pair; ^^C0.name=pairs; ^^n0.name=cards",
			line("width:960px;gap:24px;align-items:stretch", copies(3, func(i int) *Node {
				feature := func(a, b string) *Node {
					return line("gap:8px", sized(n(a, i), 16, 16), letters(n(b, i), 130+float64(i*12), 20, 14))
				}
				return with(col(n("name:Plan%d;padding:24px;gap:20px", i), letters(n("n%d", i), 80+float64(i*9), 24, 18), letters(n("p%d", i), 100, 40, 32), col("gap:8px", feature("C%d", "f%d"), feature("D%d", "g%d")), with(line(n("name:Button%d;padding:10px;justify-content:center", i), sized(n("b%d", i), 60, 20)), "align-self:stretch")), "flex:1 1 0;min-width:0")
			})...)},
		{"four equal columns of figures",
			"split(stack(l0, v0), stack(l1, v1), stack(l2, v2), stack(l3, v3))", "^^l0.shares=1 1 1 1; ^^l0.gap=24; ^l0.gap=4; ^^l0.padding.left=24",
			gridOf("name:Figures;width:1120px;padding:24px;grid-template-columns:repeat(4, 1fr);gap:24px", copies(4, func(i int) *Node {
				return col("gap:4px", letters(n("l%d", i), 60+float64(i*13), 18, 13), letters(n("v%d", i), 90-float64(i*8), 32, 26))
			})...)},
		{"terms and what they say",
			"grid(k0, v0, k1, v1, k2, v2, k3, v3)", "^k0.across=12; ^k0.gap=24",
			gridOf("name:Facts;width:440px;padding:20px;grid-template-columns:max-content 1fr;gap:12px 24px", copies(8, func(i int) *Node {
				if i%2 == 0 {
					return sized(n("k%d", i/2), 50+float64(i*9), 20)
				}
				return sized(n("v%d", i/2), 160-float64(i*11), 20)
			})...)},
		{"bar with a search field that fills",
			"row(Logo, row(Lens, hint), row(Bell, stack(w)))", "^Lens.width=fill; ^w.width=fixed; ^^Lens.align=center",
			line("name:Bar;width:1000px;padding:12px 24px;gap:24px", sized("Logo", 96, 32), with(line("name:Field;padding:10px 12px;gap:8px", sized("Lens", 16, 16), sized("hint", 120, 20)), "flex:1 1 0"), line("gap:12px", sized("Bell", 24, 24), disc("Disc", 36, sized("w", 12, 20))))},
	}
}

// score counts the drawings that are read as written down, and says what the others are read as.
func score(t *testing.T, drawings []interfaceDrawing) (right int) {
	t.Helper()
	for _, d := range drawings {
		if scoreOf(t, d.what, draw(t, d.tree, rand.New(rand.NewPCG(1, 2)), 0), d.want, d.also) {
			right++
		}
	}
	return right
}

func scoreOf(t *testing.T, what string, root *design.Layer, want, also string) bool {
	t.Helper()
	in, found := Infer(root, InferOptions{})
	require.NotNil(t, in, found.Error())
	var wrong []string
	if got := in.Root.String(); got != want {
		wrong = append(wrong, "is   "+got, "want "+want)
	}
	for check := range strings.SplitSeq(also, ";") {
		part, is, ok := strings.Cut(strings.TrimSpace(check), "=")
		if !ok {
			continue
		}
		if got := in.Root.said(part); got != is {
			wrong = append(wrong, fmt.Sprintf("%s is %q, not %q", part, got, is))
		}
	}
	if in.Residual > 1 {
		wrong = append(wrong, fmt.Sprintf("%g px off: %s", in.Residual, in.Untidy))
	}
	if len(wrong) > 0 {
		t.Logf("%s:\n\t%s", what, strings.Join(wrong, "\n\t"))
	}
	return len(wrong) == 0
}

// said gives what a part says of "name.property", of the container around it with ^.
func (p *Part) said(what string) string {
	name, property, _ := strings.Cut(what, ".")
	up := len(name) - len(strings.TrimLeft(name, "^"))
	name = name[up:]
	var path []*Part
	var find func(q *Part, way []*Part) bool
	find = func(q *Part, way []*Part) bool {
		way = append(way, q)
		if q.layer != nil && q.Layer == name {
			path = append([]*Part{}, way...)
			return true
		}
		for _, c := range q.Children {
			if find(c, way) {
				return true
			}
		}
		return false
	}
	if !find(p, nil) || len(path) <= up {
		return "nowhere"
	}
	q := path[len(path)-1-up]
	switch property {
	case "gap":
		return fmt.Sprint(q.Gap)
	case "across":
		return fmt.Sprint(q.Across)
	case "tracks":
		return q.Tracks()
	case "columns":
		return fmt.Sprint(q.Columns)
	case "shares":
		return q.Shares
	case "align":
		return q.Align
	case "distribute":
		return q.Distribute
	case "width":
		return q.Width
	case "height":
		return q.Height
	case "self":
		return q.Self
	case "column":
		return fmt.Sprint(q.Column)
	case "name":
		return q.Name
	case "pin":
		if q.Pin == nil {
			return ""
		}
		return q.Pin.Horizontal + " " + q.Pin.Vertical
	case "padding.top":
		return fmt.Sprint(q.Padding.Top - q.edge().Top)
	case "padding.bottom":
		return fmt.Sprint(q.Padding.Bottom - q.edge().Bottom)
	case "padding.right":
		return fmt.Sprint(q.Padding.Right)
	case "padding.left":
		return fmt.Sprint(q.Padding.Left)
	case "border":
		e := q.edge()
		var out []string
		for _, s := range []struct {
			side  string
			width float64
		}{{"top", e.Top}, {"right", e.Right}, {"bottom", e.Bottom}, {"left", e.Left}} {
			if s.width > 0 {
				out = append(out, s.side)
			}
		}
		return strings.Join(out, " ")
	}
	return "no property " + property
}

// What people draw most has to come out as they would write it.
func TestCommonInterfacesAreRead(t *testing.T) {
	all := commonDrawings()
	right := score(t, all)
	assert.Equal(t, len(all), right, "of %d drawings", len(all))
}

// Nobody draws to the pixel: the structure is found all the same, and nothing is far from where it was drawn.
func TestUntidyInterfacesAreRead(t *testing.T) {
	for _, level := range []struct{ px, share, furthest float64 }{{0.3, 0.98, 3}, {0.5, 0.98, 6}, {1, 0.92, 35}} {
		right, count := 0, 0
		for _, d := range append(commonDrawings(), keptDrawings()...) {
			for seed := range 5 {
				in, found := Infer(draw(t, d.tree, rand.New(rand.NewPCG(uint64(seed), 2)), level.px), InferOptions{})
				require.NotNil(t, in, found)
				if count++; in.Root.String() == d.want {
					right++
				}
				assert.LessOrEqual(t, in.Residual, level.furthest, "%s at ±%g px: %s", d.what, level.px, in.Untidy)
			}
		}
		t.Logf("at ±%g px: %d of %d", level.px, right, count)
		assert.GreaterOrEqual(t, float64(right)/float64(count), level.share, "at ±%g px", level.px)
	}
}

// Blocks stay what they are when they stand on a page with others.
func TestInterfacesOnAPageAreRead(t *testing.T) {
	all := append(commonDrawings(), keptDrawings()...)
	right, count, worst := 0, 0, 0.0
	for seed := range 150 {
		r := rand.New(rand.NewPCG(uint64(seed), 5))
		page := col("name:Paper;width:1300px;padding:48px;gap:64px")
		var want []string
		prefix := 0
		for range 2 + r.IntN(2) {
			d := all[r.IntN(len(all))]
			prefix++
			page.Children = append(page.Children, renamed(d.tree, prefix))
			want = append(want, d.want)
		}
		root := draw(t, page, r, 0)
		in, found := Infer(root, InferOptions{})
		require.NotNil(t, in, found)
		got := in.Root.String()
		for _, w := range want {
			if strings.HasPrefix(w, "split(") && !strings.Contains(withoutMarks(got), w) {
				w = "row" + strings.TrimPrefix(w, "split")
			}
			if count++; strings.Contains(withoutMarks(got), w) {
				right++
			} else if count-right < 12 {
				t.Logf("seed %d: no %s in\n\t%s", seed, w, withoutMarks(got))
			}
		}
		if in.Residual > tolerance {
			t.Logf("seed %d: %g px: %s", seed, in.Residual, in.Untidy[:min(3, len(in.Untidy))])
		}
		worst = max(worst, in.Residual)
	}
	t.Logf("%d of %d, %g px off at most", right, count, worst)
	// A row that does not fill the page is no split: its columns are as wide as what is in them.
	assert.GreaterOrEqual(t, float64(right)/float64(count), 0.99)
	assert.LessOrEqual(t, worst, tolerance)
}

// renamed copies a tree with a mark after every name, so that names stay one of a kind on a page.
func renamed(n *Node, mark int) *Node {
	out := *n
	if out.Name != "" {
		out.Label = cmp.Or(out.Label, out.Name)
		out.Name = fmt.Sprintf("%s'%d", out.Name, mark)
	}
	out.Children = nil
	for _, c := range n.Children {
		out.Children = append(out.Children, renamed(c, mark))
	}
	return &out
}

var marks = regexp.MustCompile(`'\d+`)

func withoutMarks(s string) string { return marks.ReplaceAllString(s, "") }
