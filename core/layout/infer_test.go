package layout

import (
	"cmp"
	"fmt"
	"math/rand/v2"
	"strconv"
	"strings"
	"testing"
	"unicode"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
)

// Drawings are made by solving trees of boxes: names in capitals are boxes,
// names in lower case texts, containers with a name are painted.

func sized(name string, w, h float64) *Node {
	return &Node{Name: name, Style: Style{"width": fmt.Sprintf("%gpx", w), "height": fmt.Sprintf("%gpx", h), "flex": "none"}}
}

func texts(names string, w, h float64) []*Node {
	var out []*Node
	for i, n := range strings.Fields(names) {
		out = append(out, sized(n, w+float64(i*7), h))
	}
	return out
}

func boxed(css string, children ...*Node) *Node {
	n := &Node{Style: Style{"display": "flex", "box-sizing": "border-box"}, Children: children}
	for d := range strings.SplitSeq(css, ";") {
		property, value, ok := strings.Cut(d, ":")
		if property = strings.TrimSpace(property); property == "name" {
			n.Name = strings.TrimSpace(value)
		} else if ok {
			n.Style[property] = strings.TrimSpace(value)
		}
	}
	return n
}

func col(css string, children ...*Node) *Node {
	return boxed("flex-direction:column;"+css, children...)
}
func line(css string, children ...*Node) *Node { return boxed("align-items:center;"+css, children...) }

func with(n *Node, css string) *Node {
	for d := range strings.SplitSeq(css, ";") {
		property, value, _ := strings.Cut(d, ":")
		n.Style[property] = value
	}
	return n
}

func copies(count int, make func(i int) *Node) []*Node {
	var out []*Node
	for i := range count {
		out = append(out, make(i))
	}
	return out
}

// drawings are what people draw: the tree they are made of, at its width, and
// the containers to be found. What fills a row without paint cannot be seen: it
// is read as space between. A container of one child is called a stack.
func drawings() []struct {
	what, want string
	tree       *Node
} {
	type d = struct {
		what, want string
		tree       *Node
	}
	name := func(prefix string, i int) string { return fmt.Sprintf("%s%d", prefix, i) }
	return []d{
		{"nav bar", "row(Logo, row(plots, swap, rota))", line("name:Bar;width:900px;padding:12px 24px;justify-content:space-between", sized("Logo", 40, 40), line("gap:24px", texts("plots swap rota", 50, 20)...))},
		{"nav bar with a button", "row(row(Logo, title), row(links, help, stack(join)))", line("name:Bar;width:960px;padding:10px 20px;justify-content:space-between", line("gap:12px", sized("Logo", 36, 36), sized("title", 120, 24)), line("gap:20px", append(texts("links help", 50, 20), line("name:Button;padding:8px 16px", sized("join", 40, 20)))...))},
		{"card", "stack(Picture, stack(title, note))", col("name:Card;width:240px;padding:16px;gap:16px", sized("Picture", 208, 117), col("gap:4px", sized("title", 150, 24), sized("note", 120, 20)))},
		{"card with a tag", "stack(Picture, row(title, stack(ripe)))", col("name:Card;width:280px;padding:12px;gap:12px", sized("Picture", 256, 144), line("justify-content:space-between", sized("title", 120, 24), line("name:Tag;padding:2px 8px", sized("ripe", 30, 16))))},
		{"list row", "row(row(Icon, stack(name, due)), count)", line("name:Row;width:400px;padding:8px 12px;gap:12px", sized("Icon", 32, 32), with(col("gap:2px", sized("name", 140, 20), sized("due", 90, 16)), "flex:1 1 0"), sized("count", 20, 20))},
		{"list", "stack(row(I0, t0), row(I1, t1), row(I2, t2))", col("name:List;width:300px;padding:8px;gap:8px", copies(3, func(i int) *Node {
			return line("name:"+name("Row", i)+";padding:8px;gap:8px", sized(name("I", i), 24, 24), sized(name("t", i), 100+float64(i*30), 20))
		})...)},
		{"form split", "split(stack(heading, note), stack(Field0, Field1, Field2))", boxed("name:Form;width:920px;padding:24px;gap:32px;align-items:flex-start;display:grid;grid-template-columns:1fr 2fr", col("gap:8px", sized("heading", 280, 32), sized("note", 200, 40)), col("gap:12px", sized("Field0", 560, 40), sized("Field1", 560, 40), sized("Field2", 560, 40)))},
		{"label and field pairs", "stack(stack(l0, F0), stack(l1, F1), stack(l2, F2))", col("name:Form;width:360px;padding:20px;gap:20px", copies(3, func(i int) *Node {
			return col("gap:4px", sized(name("l", i), 80+float64(i*9), 18), sized(name("F", i), 320, 40))
		})...)},
		{"panel set", "row(stack(a, b), stack(c, d), stack(e, f))", line("name:Panels;width:720px;padding:12px;gap:12px;align-items:stretch", copies(3, func(i int) *Node {
			letters := [][2]string{{"a", "b"}, {"c", "d"}, {"e", "f"}}[i]
			return with(col("name:"+name("Panel", i)+";padding:16px;gap:8px", sized(letters[0], 120, 24), sized(letters[1], 150+float64(i), 60)), "flex:1 1 0;min-width:0")
		})...)},
		{"profile", "stack(Face, stack(name, plot), stack(follow))", col("name:Profile;width:260px;padding:24px;gap:16px;align-items:center", sized("Face", 80, 80), col("gap:4px;align-items:center", sized("name", 120, 24), sized("plot", 90, 18)), line("name:Button;padding:8px 20px", sized("follow", 60, 20)))},
		{"tag", "stack(label)", line("name:Tag;padding:4px 8px", sized("label", 40, 16))},
		{"tag with an icon", "row(Icon, label)", line("name:Tag;padding:4px 8px;gap:4px", sized("Icon", 12, 12), sized("label", 40, 16))},
		{"button pair", "row(stack(cancel), stack(save))", line("width:100%;gap:8px;justify-content:end", line("name:Cancel;padding:8px 16px", sized("cancel", 44, 20)), line("name:Save;padding:8px 16px", sized("save", 36, 20)))},
		{"dialog", "stack(title, body, row(stack(no), stack(yes)))", col("name:Dialog;width:420px;padding:24px;gap:20px", sized("title", 200, 28), sized("body", 372, 60), line("gap:8px;justify-content:flex-end", line("name:No;padding:8px 16px", sized("no", 40, 20)), line("name:Yes;padding:8px 16px", sized("yes", 48, 20))))},
		{"gauge", "overlay(stack(Fill), Marker)", boxed("position:relative;display:block;width:200px;height:8px", with(sized("Track", 200, 8), ""), with(sized("Fill", 90, 8), "position:absolute;left:0;top:0"), with(sized("Marker", 16, 24), "position:absolute;left:82px;top:-8px"))},
		{"cluster", "row(F0, F1, F2)", line("", sized("F0", 40, 40), with(sized("F1", 40, 40), "margin-left:-12px"), with(sized("F2", 40, 40), "margin-left:-12px"))},
		{"cluster with initials", "row(stack(i0), stack(i1), stack(i2), stack(more))", line("", copies(4, func(i int) *Node {
			n := line("name:"+name("Disc", i)+";width:40px;height:40px;justify-content:center", sized([]string{"i0", "i1", "i2", "more"}[i], 16, 16))
			n.Style["flex"] = "none"
			if i > 0 {
				n.Style["margin-left"] = "-10px"
			}
			return n
		})...)},
		{"table", "grid(h0, h1, h2, a0, a1, a2, b0, b1, b2)", boxed("name:Table;width:600px;padding:12px;display:grid;grid-template-columns:repeat(3, max-content);gap:12px 40px", append(texts("h0 h1 h2", 80, 20), append(texts("a0 a1 a2", 100, 20), texts("b0 b1 b2", 90, 20)...)...)...)},
		{"cards in a grid", "grid(stack(P0, t0), stack(P1, t1), stack(P2, t2), stack(P3, t3), stack(P4, t4), stack(P5, t5))", boxed("width:720px;display:grid;grid-template-columns:repeat(3, 1fr);gap:24px", copies(6, func(i int) *Node {
			return col("name:"+name("Card", i)+";padding:12px;gap:8px", sized(name("P", i), 200, 100), sized(name("t", i), 90+float64(i*11), 20))
		})...)},
		{"wrapping tags", "wrapping row(stack(a), stack(bb), stack(ccc), stack(dddd), stack(eeeee), stack(f))", boxed("width:300px;flex-wrap:wrap;gap:8px", copies(6, func(i int) *Node {
			t := []string{"a", "bb", "ccc", "dddd", "eeeee", "f"}[i]
			return line("name:"+name("Tag", i)+";padding:4px 8px", sized(t, []float64{60, 90, 70, 110, 50, 80}[i], 16))
		})...)},
		{"badge over a card", "overlay(stack(title, note), Badge)", boxed("position:relative;display:block;width:200px", col("name:Card;width:200px;padding:16px;gap:8px", sized("title", 120, 24), sized("note", 100, 20)), with(sized("Badge", 20, 20), "position:absolute;right:-10px;top:-10px"))},
		{"badge over an icon", "overlay(Icon, Dot)", boxed("position:relative;display:block;width:24px;height:24px", sized("Icon", 24, 24), with(sized("Dot", 8, 8), "position:absolute;right:-3px;top:-3px"))},
		{"picture with a caption over it", "overlay(Photo, caption)", boxed("position:relative;display:block;width:320px;height:180px", sized("Photo", 320, 180), with(sized("caption", 120, 20), "position:absolute;left:12px;bottom:12px"))},
		{"media object", "row(Picture, stack(title, body))", line("name:Media;width:500px;padding:16px;gap:16px;align-items:flex-start", sized("Picture", 120, 90), with(col("gap:8px", sized("title", 180, 24), sized("body", 332, 60)), "flex:1 1 0"))},
		{"page header", "row(stack(title, sub), stack(new))", line("width:800px;justify-content:space-between", col("gap:4px", sized("title", 200, 32), sized("sub", 140, 18)), boxed("", line("name:New;padding:8px 16px", sized("new", 60, 20))))},
		{"stat row", "row(stack(n0, l0), stack(n1, l1), stack(n2, l2))", line("name:Stats;width:600px;padding:20px;justify-content:space-between", copies(3, func(i int) *Node {
			return col("gap:2px", sized(name("n", i), 60, 32), sized(name("l", i), 80, 16))
		})...)},
		{"footer columns", "row(stack(a, b, c), stack(d, e, f), stack(g, h, i))", line("name:Foot;width:800px;padding:32px;gap:64px;align-items:flex-start", col("gap:8px", texts("a b c", 90, 18)...), col("gap:8px", texts("d e f", 70, 18)...), col("gap:8px", texts("g h i", 100, 18)...))},
		{"steps", "row(stack(one), stack(two), stack(three))", line("gap:16px", line("name:S1;padding:6px 12px", sized("one", 30, 16)), line("name:S2;padding:6px 12px", sized("two", 34, 16)), line("name:S3;padding:6px 12px", sized("three", 44, 16)))},
		{"search field", "row(Lens, hint)", line("name:Field;width:320px;padding:10px 12px;gap:8px", sized("Lens", 16, 16), sized("hint", 120, 18))},
		{"alert", "row(Icon, stack(title, body))", line("name:Alert;width:480px;padding:12px 16px;gap:12px;align-items:flex-start", sized("Icon", 20, 20), with(col("gap:4px", sized("title", 160, 20), sized("body", 416, 36)), "flex:1 1 0"))},
		{"menu", "stack(plots, swap, rota, leave)", col("name:Menu;width:180px;padding:8px 12px;gap:12px", texts("plots swap rota leave", 60, 20)...)},
		{"season panels", "row(P0, P1, P2, P3)", line("width:800px;gap:8px", copies(4, func(i int) *Node { return with(sized(name("P", i), 194, 300), "") })...)},
		{"pager", "row(Prev, one, two, three, Next)", line("gap:8px", sized("Prev", 32, 32), sized("one", 20, 20), sized("two", 20, 20), sized("three", 20, 20), sized("Next", 32, 32))},
		{"notice", "stack(heading, body, link)", col("name:Notice;width:400px;padding:20px;gap:12px", sized("heading", 240, 28), sized("body", 360, 80), sized("link", 90, 20))},
		{"empty state", "stack(Art, title, hint)", col("name:Empty;width:400px;padding:40px;gap:16px;align-items:center", sized("Art", 120, 96), sized("title", 180, 28), sized("hint", 240, 20))},
		{"toolbar", "row(row(B0, B1, B2), row(B3, B4))", line("name:Tools;width:500px;padding:8px;justify-content:space-between", line("gap:4px", sized("B0", 32, 32), sized("B1", 32, 32), sized("B2", 32, 32)), line("gap:4px", sized("B3", 32, 32), sized("B4", 32, 32)))},
		{"price row", "row(item, price)", line("name:Row;width:320px;padding:8px 16px;justify-content:space-between", sized("item", 140, 20), sized("price", 50, 20))},
		{"comment", "row(Face, stack(row(who, when), body))", line("name:Comment;width:520px;padding:12px;gap:12px;align-items:flex-start", sized("Face", 40, 40), with(col("gap:6px", line("gap:8px", sized("who", 80, 20), sized("when", 60, 16)), sized("body", 444, 50)), "flex:1 1 0"))},
		{"half and half", "split(stack(a, b), stack(c, d))", boxed("width:640px;display:grid;grid-template-columns:1fr 1fr;gap:24px", col("name:L;padding:16px;gap:8px", sized("a", 100, 24), sized("b", 200, 40)), col("name:R;padding:16px;gap:8px", sized("c", 140, 24), sized("d", 180, 40)))},
		{"sidebar and main", "split(stack(a, b, c), stack(Head, body))", boxed("width:960px;display:grid;grid-template-columns:1fr 3fr;gap:32px;align-items:start", col("name:Side;padding:16px;gap:12px", texts("a b c", 90, 20)...), col("name:Main;padding:24px;gap:16px", sized("Head", 640, 40), sized("body", 600, 200)))},
		{"breadcrumb", "row(home, S0, plots, S1, here)", line("gap:6px", sized("home", 40, 18), sized("S0", 8, 8), sized("plots", 44, 18), sized("S1", 8, 8), sized("here", 60, 18))},
		{"card of cards", "stack(title, split(stack(a), stack(b)))", col("name:Outer;width:400px;padding:20px;gap:16px", sized("title", 150, 28), line("gap:12px;align-items:stretch", with(col("name:A;padding:12px", sized("a", 100, 40)), "flex:1 1 0;min-width:0"), with(col("name:B;padding:12px", sized("b", 120, 40)), "flex:1 1 0;min-width:0")))},
	}
}

// draw turns a solved tree into loose layers in any order that keeps what is
// below below. untidy moves edges by up to so many px.
func draw(t testing.TB, n *Node, r *rand.Rand, untidy float64) *design.Layer {
	t.Helper()
	return drawAt(t, n, 1440, r, untidy)
}

func drawAt(t testing.TB, n *Node, width float64, r *rand.Rand, untidy float64) *design.Layer {
	t.Helper()
	solved, found := Solve(n, Options{Width: width})
	require.NotNil(t, solved, found.Error())
	root := &design.Layer{ID: "root", Name: "Group 1", Kind: design.Group, Bounds: design.Rect{Width: solved.Box.Width, Height: solved.Box.Height}}
	jitter := func() float64 {
		if untidy == 0 {
			return 0
		}
		return (r.Float64()*2 - 1) * untidy
	}
	var painted, leaves []*design.Layer
	var walk func(n *Node)
	walk = func(n *Node) {
		if n.Name != "" {
			l := &design.Layer{ID: n.Name, Name: n.Name, Kind: design.Box, Fill: "#ffffff"}
			b := n.Box
			x, y, right, bottom := b.X+jitter(), b.Y+jitter(), b.X+b.Width+jitter(), b.Y+b.Height+jitter()
			l.Bounds = design.Rect{X: x, Y: y, Width: max(1, right-x), Height: max(1, bottom-y)}
			box := func(prefix string) bool { return strings.HasPrefix(n.Name, prefix) }
			if box("Disc") {
				l.Radius = []float64{l.Bounds.Height / 2}
			}
			if len(n.Children) > 0 {
				painted = append(painted, l)
			} else {
				if unicode.IsLower([]rune(n.Name)[0]) {
					size, err := strconv.ParseFloat(strings.TrimSuffix(n.Style["font-size"], "px"), 64)
					if err != nil {
						size = 16
					}
					l.Kind, l.Fill, l.Text = design.Text, "", &design.TextContent{Content: cmp.Or(n.Label, n.Name), FontSize: size}
				} else if !box("Track") && !box("Fill") && !box("Line") && !box("Disc") {
					l.Kind = design.Image
				}
				leaves = append(leaves, l)
			}
		}
		for _, c := range n.Children {
			walk(c)
		}
	}
	walk(solved)
	if !strings.HasPrefix(leaves[0].Name, "Track") && !hasPinned(n) {
		r.Shuffle(len(leaves), func(i, j int) { leaves[i], leaves[j] = leaves[j], leaves[i] })
	}
	root.Children = append(painted, leaves...)
	return root
}

// hasPinned tells whether layers lie over one another, whose order counts.
func hasPinned(n *Node) bool {
	if n.Style["position"] == "absolute" || strings.HasPrefix(n.Style["margin-left"], "-") {
		return true
	}
	for _, c := range n.Children {
		if hasPinned(c) {
			return true
		}
	}
	return false
}

// A tree that is not the one drawn is code somebody has to write again.
func TestContainersAreFound(t *testing.T) {
	all := drawings()
	require.GreaterOrEqual(t, len(all), 40)
	for _, d := range all {
		r := rand.New(rand.NewPCG(1, 2))
		in, found := Infer(draw(t, d.tree, r, 0), InferOptions{})
		require.NotNil(t, in, found.Error())
		assert.Equal(t, d.want, in.Root.String(), d.what)
		assert.Less(t, in.Residual, 0.5, "%s: %v", d.what, in.Untidy)
	}
}

// A container is named by what it holds, never as one of the things in it: those change.
func TestContainersAreNamedByWhatTheyHold(t *testing.T) {
	for _, d := range drawings() {
		in, _ := Infer(draw(t, d.tree, rand.New(rand.NewPCG(1, 2)), 0), InferOptions{})
		in.Root.walk(func(p *Part) {
			if p.Kind != Leaf && p.Layer == "" && p != in.Root {
				assert.True(t, NamedByReading(p.Name), "%s: %s is named %q", d.what, p, p.Name)
			}
		})
	}
	group := &design.Layer{ID: "g", Name: "Side by side", Kind: design.Group, Bounds: design.Rect{Width: 90, Height: 20}, Children: []*design.Layer{
		{ID: "a", Name: "a", Kind: design.Image, Bounds: design.Rect{Width: 20, Height: 20}}, {ID: "b", Name: "b", Kind: design.Image, Bounds: design.Rect{X: 40, Width: 20, Height: 20}}}}
	root := &design.Layer{ID: "r", Name: "R", Kind: design.Box, Fill: "#fff", Bounds: design.Rect{Width: 200, Height: 200}, Children: []*design.Layer{group, {ID: "c", Name: "c", Kind: design.Text, Text: &design.TextContent{Content: "c", FontSize: 16}, Bounds: design.Rect{Y: 100, Width: 80, Height: 20}}}}
	in, _ := Infer(root, InferOptions{})
	assert.Equal(t, "Side by side", in.Root.Children[0].Name, "what people called a group stays")
}

// Nobody draws to the pixel.
func TestContainersAreFoundInUntidyDrawings(t *testing.T) {
	for _, level := range []struct{ px, share float64 }{{0.5, 0.95}, {1, 0.9}} {
		right, count := 0, 0
		for _, d := range drawings() {
			for seed := range 10 {
				r := rand.New(rand.NewPCG(uint64(seed), 9))
				in, found := Infer(draw(t, d.tree, r, level.px), InferOptions{})
				require.NotNil(t, in, found.Error())
				count++
				if in.Root.String() == d.want {
					right++
				} else if seed == 0 {
					t.Logf("%s at ±%g: %s", d.what, level.px, in.Root)
				}
			}
		}
		share := float64(right) / float64(count)
		t.Logf("at ±%g px: %d of %d, %.1f%%", level.px, right, count, 100*share)
		assert.GreaterOrEqual(t, share, level.share, "at ±%g px", level.px)
	}
}

// page draws rows of cards: about count layers.
func page(count int) *design.Layer {
	root := &design.Layer{ID: "page", Name: "Plots", Kind: design.Group, Bounds: design.Rect{Width: 1440}}
	add := func(kind design.Kind, x, y, w, h float64) {
		l := &design.Layer{ID: fmt.Sprintf("l%d", len(root.Children)), Name: fmt.Sprintf("Layer %d", len(root.Children)), Kind: kind, Bounds: design.Rect{X: x, Y: y, Width: w, Height: h}}
		if kind == design.Text {
			l.Text = &design.TextContent{Content: l.Name, FontSize: 16}
		}
		root.Children = append(root.Children, l)
	}
	y := 24.0
	for len(root.Children) < count {
		height := 240.0
		for column := range 4 {
			x := 24 + float64(column)*352
			add(design.Box, x, y, 336, height)
			add(design.Image, x+12, y+12, 312, 140)
			add(design.Text, x+12, y+164, 150+float64(column), 24)
			add(design.Box, x+270, y+164, 54, 24)
			add(design.Text, x+278, y+168, 38, 16)
			add(design.Text, x+12, y+200, 120, 20)
		}
		y += height + 24
	}
	root.Bounds.Height = y
	return root
}

// The cost grows hardly faster than the drawing: ns a layer.
func BenchmarkInfer(b *testing.B) {
	for _, count := range []int{1_000, 10_000, 100_000} {
		root := page(count)
		b.Run(fmt.Sprintf("%d layers", count), func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				if in, found := Infer(root, InferOptions{}); in == nil {
					b.Fatal(found)
				}
			}
			b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/float64(len(root.Children)), "ns/layer")
		})
	}
}

// Layers strewn at random, or all in one place, end as soon.
func BenchmarkInferTangles(b *testing.B) {
	for _, count := range []int{1_000, 10_000, 100_000} {
		r := rand.New(rand.NewPCG(3, 4))
		strewn, heaped := page(1), page(1)
		strewn.Children, heaped.Children = nil, nil
		for i := range count {
			l := design.Layer{ID: fmt.Sprint(i), Name: fmt.Sprint(i), Kind: design.Image}
			l.Bounds = design.Rect{X: r.Float64() * 1400, Y: r.Float64() * float64(count), Width: 40 * r.Float64(), Height: 40 * r.Float64()}
			a, h := l, l
			h.Bounds = design.Rect{X: 10 * r.Float64(), Y: 10 * r.Float64(), Width: 1000 + float64(i%7), Height: 900}
			strewn.Children, heaped.Children = append(strewn.Children, &a), append(heaped.Children, &h)
		}
		for name, root := range map[string]*design.Layer{"strewn": strewn, "heaped": heaped} {
			b.Run(fmt.Sprintf("%d %s", count, name), func(b *testing.B) {
				for b.Loop() {
					Infer(root, InferOptions{})
				}
				b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/float64(count), "ns/layer")
			})
		}
	}
}

// randomDrawing makes nested stacks and rows with paint, gaps and paddings on
// whole px.
func randomDrawing(r *rand.Rand, depth int, count *int) *Node {
	*count++
	if depth == 0 || r.IntN(4) == 0 {
		name := fmt.Sprintf("%c%d", "tB"[r.IntN(2)], *count)
		return sized(name, float64(20+r.IntN(100)), float64(12+r.IntN(60)))
	}
	css := fmt.Sprintf("gap:%dpx;flex:none", 4+4*r.IntN(8))
	if r.IntN(3) > 0 {
		css += fmt.Sprintf(";name:P%d;padding:%dpx %dpx", *count, 4*(1+r.IntN(5)), 4*(1+r.IntN(6)))
	}
	css += ";align-items:" + []string{"start", "center", "end", "stretch"}[r.IntN(4)]
	children := copies(1+r.IntN(4), func(int) *Node { return randomDrawing(r, depth-1, count) })
	if r.IntN(2) == 0 {
		return col(css, children...)
	}
	return boxed(css, children...)
}

// Whatever the reading, solved back it is the drawing.
func TestEveryReadingOfATidyDrawingIsProved(t *testing.T) {
	wrong, worst := 0, 0.0
	for seed := range 500 {
		r := rand.New(rand.NewPCG(uint64(seed), 77))
		count := 0
		n := col("name:Root;width:max-content;padding:8px", randomDrawing(r, 3, &count))
		in, found := Infer(draw(t, n, r, 0), InferOptions{})
		require.NotNil(t, in, found.Error())
		worst = max(worst, in.Residual)
		if in.Residual >= 0.5 {
			if wrong++; wrong <= 3 {
				t.Logf("seed %d: %s: %g px: %s", seed, in.Root, in.Residual, in.Untidy[:min(2, len(in.Untidy))])
			}
		}
	}
	t.Logf("%d of 500 are not proved, the furthest by %g px", wrong, worst)
	// What lies a pixel or two beside a simpler place is read as there, and said to be untidy.
	assert.LessOrEqual(t, wrong, 20, "the residual says so, but the tree has to be mended by hand")
	assert.LessOrEqual(t, worst, tolerance+even/2, "further off than untidiness explains")
}

// What is computed of places has noise behind its thousandths; nobody should find 13.332999999999998 px in a style sheet.
func TestWhatIsReadHasNoNoise(t *testing.T) {
	r := rand.New(rand.NewPCG(14, 2))
	for range 40 {
		root := &design.Layer{ID: "root", Name: "Table", Kind: design.Box, Fill: "#ffffff", Bounds: design.Rect{Width: 640, Height: 400}}
		y := 8 + 12*r.Float64()
		for row := range 4 {
			x := 8 + 12*r.Float64()
			for column := range 3 {
				id := fmt.Sprintf("c%d-%d", row, column)
				root.Children = append(root.Children, &design.Layer{ID: id, Name: id, Kind: design.Box, Fill: "#aabbcc", Bounds: design.Rect{X: x, Y: y, Width: 40 + 50*r.Float64(), Height: 20}})
				x += 100 + 30*r.Float64()
			}
			y += 30 + 5*r.Float64()
		}
		got, found := Infer(root, InferOptions{})
		require.NotNil(t, got, found)
		got.Root.walk(func(p *Part) {
			for _, v := range []float64{p.Gap, p.Across, p.Padding.Top, p.Padding.Right, p.Padding.Bottom, p.Padding.Left, p.Bounds.X, p.Bounds.Y, p.Bounds.Width, p.Bounds.Height} {
				assert.Equal(t, round(v), v, "%s of %s", p.Kind, p.Name)
			}
		})
		got.Drawing().Walk(func(l *design.Layer, _, _ float64) {
			for _, v := range []float64{l.Bounds.X, l.Bounds.Y, l.Bounds.Width, l.Bounds.Height} {
				assert.Equal(t, round(v), v, "%s", l.Name)
			}
		})
	}
}
