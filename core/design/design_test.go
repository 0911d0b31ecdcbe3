package design_test

import (
	"bytes"
	"encoding/json"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
)

func furrow(t testing.TB) []byte {
	t.Helper()
	return furrowRevision(t, 2)
}

func furrowRevision(t testing.TB, number int) []byte {
	t.Helper()
	text, err := os.ReadFile(fmt.Sprintf("../../demo/furrow/furrow-%d.design.json", number))
	require.NoError(t, err)
	return text
}

func TestReadKeepsEverything(t *testing.T) {
	doc, found := design.Read("furrow", furrow(t))
	require.Empty(t, found)
	again, err := json.Marshal(doc)
	require.NoError(t, err)
	assert.JSONEq(t, string(furrow(t)), string(again), "reading and writing lost something")
}

const small = `{"format":"cobrik.design/1","id":"d","name":"D","pages":[%s],"families":[%s]}`

func layer(id string, more string) string {
	return fmt.Sprintf(`{"id":%q,"name":"L","kind":"box","bounds":{"x":0,"y":0,"width":1,"height":1}%s}`, id, more)
}

func page(layers ...string) string {
	return fmt.Sprintf(`{"id":"p","name":"P","width":1,"height":1,"layers":[%s]}`, strings.Join(layers, ","))
}

func TestBadDocumentsAreRefusedWithPlaceAndFix(t *testing.T) {
	variant := func(id, choices string) string {
		return fmt.Sprintf(`{"id":%q,"choices":%s,"root":%s}`, id, choices, layer(id+"r", ""))
	}
	family := func(axes string, variants ...string) string {
		return fmt.Sprintf(`{"id":"f","name":"F","axes":[%s],"variants":[%s]}`, axes, strings.Join(variants, ","))
	}
	size := `{"name":"Size","values":["s","m"],"default":"m"}`
	for name, c := range map[string]struct{ text, rule, says, pointer string }{
		"truncated":       {fmt.Sprintf(small, page(), "")[:60], "json-syntax", "ends in the middle", "/pages/0"},
		"empty":           {"", "json-syntax", "empty", ""},
		"not a document":  {`[]`, "schema", "array", ""},
		"wrong version":   {strings.Replace(fmt.Sprintf(small, "", ""), "design/1", "design/2", 1), "schema", "cobrik.design/2", "/format"},
		"unknown member":  {fmt.Sprintf(small, page(layer("a", `,"colour":"red"`)), ""), "schema", "unknown colour", "/pages/0/layers/0"},
		"duplicate id":    {fmt.Sprintf(small, page(layer("a", ""), layer("a", "")), ""), "id-unique", "already used at /pages/0/layers/0", "/pages/0/layers/1/id"},
		"duplicate name":  {`{"format":"cobrik.design/1","format":"cobrik.design/1"}`, "json-syntax", "stands twice", "/format"},
		"bad colour":      {fmt.Sprintf(small, page(layer("a", `,"fill":"reddish"`)), ""), "color", "reddish", "/pages/0/layers/0/fill"},
		"no such picture": {fmt.Sprintf(small, page(strings.Replace(layer("a", `,"instance":{"family":"zz","overrides":[{"layer":"L","asset":"can"}]}`), `"box"`, `"instance"`, 1)), ""), "image-asset", "can", "/pages/0/layers/0/instance/overrides/0/asset"},
		"unknown family":  {fmt.Sprintf(small, page(strings.Replace(layer("a", `,"instance":{"family":"zz"}`), `"box"`, `"instance"`, 1)), ""), "instance-family", "zz", "/pages/0/layers/0/instance/family"},
		"no default":      {fmt.Sprintf(small, "", family(size, variant("v", `{"Size":"s"}`))), "variant-default", "is not drawn", "/families/0/variants"},
		"unknown value":   {fmt.Sprintf(small, "", family(size, variant("v", `{"Size":"xl"}`))), "variant-choices", `"xl"`, "/families/0/variants/0/choices/Size"},
		"missing choice":  {fmt.Sprintf(small, "", family(size, variant("v", `{}`))), "variant-choices", "no value for the axis", "/families/0/variants/0/choices"},
		"unknown axis":    {fmt.Sprintf(small, "", family("", variant("v", `{"Hue":"a"}`))), "variant-choices", `no axis "Hue"`, "/families/0/variants/0/choices/Hue"},
		"drawn twice":     {fmt.Sprintf(small, "", family(size, variant("v", `{"Size":"m"}`), variant("w", `{"Size":"m"}`))), "variant-twice", "v and w", "/families/0/variants/1"},
		"default unknown": {fmt.Sprintf(small, "", family(`{"name":"Size","values":["s"],"default":"q"}`, variant("v", `{"Size":"s"}`))), "axis-default", `"q"`, "/families/0/axes/0/default"},
		"text without":    {fmt.Sprintf(small, page(strings.Replace(layer("a", ""), `"box"`, `"text"`, 1)), ""), "schema", "missing text", "/pages/0/layers/0"},
		"script in path":  {fmt.Sprintf(small, page(strings.Replace(layer("a", `,"vector":{"viewBox":[0,0,1,1],"paths":[{"d":"\"><script>"}]}`), `"box"`, `"vector"`, 1)), ""), "schema", "script", "/pages/0/layers/0/vector/paths/0/d"},
		"pins nowhere":    {fmt.Sprintf(small, page(layer("a", `,"place":{"pins":{"horizontal":"up","vertical":"top"}}`)), ""), "schema", `"up"`, "/pages/0/layers/0/place/pins/horizontal"},
		"half a pin":      {fmt.Sprintf(small, page(layer("a", `,"place":{"pins":{"horizontal":"left"}}`)), ""), "schema", "missing vertical", "/pages/0/layers/0/place/pins"},
		"columns of css":  {fmt.Sprintf(small, page(layer("a", `,"flow":{"direction":"grid","columns":"1fr;color:red"}`)), ""), "schema", "1fr;color:red", "/pages/0/layers/0/flow/columns"},
		"negative across": {fmt.Sprintf(small, page(layer("a", `,"flow":{"direction":"grid","across":-4}`)), ""), "schema", "-4", "/pages/0/layers/0/flow/across"},
		"line of no colour": {fmt.Sprintf(small, page(strings.Replace(layer("a", `,"vector":{"viewBox":[0,0,1,1],"paths":[{"d":"M0 0h1","fill":"none","stroke":{"color":"inky","width":1}}]}`), `"box"`, `"vector"`, 1)), ""),
			"color", "inky", "/pages/0/layers/0/vector/paths/0/stroke/color"},
		"children of text": {fmt.Sprintf(small, page(strings.Replace(layer("a", `,"text":{"content":"","fontFamily":"F","fontSize":1,"fontWeight":400,"lineHeight":1},"children":[`+layer("b", "")+`]`), `"box"`, `"text"`, 1)), ""),
			"layer-children", "text layer has no children", "/pages/0/layers/0/children"},
	} {
		t.Run(name, func(t *testing.T) {
			doc, found := design.Read("mine.json", []byte(c.text))
			assert.Nil(t, doc, "a bad document was taken")
			require.NotEmpty(t, found)
			assert.Equal(t, c.rule, found[0].Rule)
			assert.Contains(t, found[0].Message, c.says)
			assert.Equal(t, c.pointer, found[0].Pointer)
			assert.Equal(t, "mine.json", found[0].File)
			assert.Positive(t, found[0].Line)
		})
	}
}

func TestEveryProblemIsListedAtOnce(t *testing.T) {
	_, found := design.Read("m", []byte(fmt.Sprintf(small, page(layer("a", `,"fill":"x"`), layer("a", `,"fill":"y"`), layer("b", `,"stroke":{"color":"z","width":1}`)), "")))
	assert.Len(t, found, 4, "the person would have to mend and try again and again")
}

// A document with 50,000 layers nested 2,000 deep: a clear answer, soon.
func TestHugeAndDeepDocuments(t *testing.T) {
	deep := strings.Repeat(`{"id":"x","name":"L","kind":"group","bounds":{"x":0,"y":0,"width":1,"height":1},"children":[`, 2000)
	_, found := design.Read("deep", []byte(fmt.Sprintf(small, page(deep+strings.Repeat("]}", 2000)), "")))
	require.Len(t, found, 1)
	assert.Contains(t, found[0].Message, "nested deeper than 512 levels")

	var layers []string
	for i := range 50_000 {
		layers = append(layers, layer(fmt.Sprint("l", i), ""))
	}
	doc, found := design.Read("wide", []byte(fmt.Sprintf(small, page(layers...), "")))
	require.Empty(t, found)
	assert.Len(t, doc.Pages[0].Layers, 50_000)

	_, found = design.Read("large", make([]byte, design.Limits.Bytes+1))
	require.Len(t, found, 1)
	assert.Contains(t, found[0].Message, "at most")
}

// What is drawn must be well-formed XML (XML 1.0) with nothing that runs.
func TestPicturesAreWellFormedAndCarryNoScript(t *testing.T) {
	doc, _ := design.Read("furrow", furrow(t))
	evil := `"><script>alert(1)</script>&` + "\x00\x0b"
	for _, f := range doc.Families {
		for _, v := range f.Variants {
			v.Root.Walk(func(l *design.Layer, _, _ float64) {
				l.ID += evil
				l.Fill = "red" + evil
				l.Alt = evil
				if l.Text != nil {
					l.Text.Content, l.Text.FontFamily = evil, evil
				}
			})
			assertSafe(t, doc.Draw(v.Root))
		}
	}
	for _, p := range doc.Pages {
		p.Background = evil
		assertSafe(t, doc.DrawPage(p))
	}
}

func assertSafe(t *testing.T, svg string) {
	t.Helper()
	d := xml.NewDecoder(strings.NewReader(svg))
	for {
		tok, err := d.Token()
		if errors.Is(err, io.EOF) {
			return
		}
		require.NoError(t, err, svg)
		if start, ok := tok.(xml.StartElement); ok {
			require.NotEqual(t, "script", start.Name.Local)
			for _, a := range start.Attr {
				require.False(t, strings.HasPrefix(a.Name.Local, "on"), "an event handler in a picture")
			}
		}
	}
}

func TestAFamilyThatHoldsItselfIsDrawnWithAnEnd(t *testing.T) {
	self := strings.Replace(layer("i", `,"instance":{"family":"f"}`), `"box"`, `"instance"`, 1)
	text := fmt.Sprintf(small, "", fmt.Sprintf(`{"id":"f","name":"F","axes":[],"variants":[{"id":"v","choices":{},"root":%s}]}`, layer("r", `,"children":[`+self+`]`)))
	doc, found := design.Read("self", []byte(text))
	require.Empty(t, found)
	assert.Less(t, len(doc.Draw(doc.Families[0].Variants[0].Root)), 10_000)
}

func TestHiddenLayersAndOverridesAreDrawn(t *testing.T) {
	doc, _ := design.Read("furrow", furrow(t))
	f := doc.FamilyNamed("CropTag")
	assert.NotContains(t, doc.Draw(f.Variant(map[string]string{"Size": "s"}).Root), sproutStart, "a hidden icon is drawn")
	assert.Contains(t, doc.Draw(f.Default().Root), sproutStart)
	assert.Contains(t, doc.DrawPage(doc.Pages[2]), "Garden rake", "an instance shows the family's text instead of its own")
	for _, p := range doc.Pages {
		if p.ID == "seed-swap" {
			drawn := doc.DrawPage(p)
			assert.Contains(t, drawn, "<title>A watering can</title>", "an instance shows the family's picture instead of its own")
			assert.Contains(t, drawn, doc.Asset("asset-can").Source[:60])
		}
	}
}

// A picture fills its box as object-fit says (CSS Images 3, 5.5), whatever size it brings itself.
func TestPicturesFillTheirBoxes(t *testing.T) {
	doc := &design.Document{Assets: []design.Asset{{ID: "bed", Source: "data:image/png;base64,AA", Width: 40, Height: 20}}}
	for fit, want := range map[string]string{
		"": `x="-10" y="0" width="40" height="20"`, "cover": `x="-10" y="0" width="40" height="20"`, "contain": `x="0" y="5" width="20" height="10"`, "fill": `x="0" y="0" width="20" height="20"`,
	} {
		l := &design.Layer{ID: "l", Kind: design.Image, Bounds: design.Rect{Width: 20, Height: 20}, Image: &design.ImageContent{Asset: "bed", Fit: fit}}
		assert.Contains(t, doc.Draw(l), want+` preserveAspectRatio="none"`, "%q", fit)
	}
}

const sproutStart = `d="M7.4 15V9.6`

func TestDefaultNames(t *testing.T) {
	for name, want := range map[string]bool{"Group 14": true, "Rectangle": true, "Frame 2": true, "Ellipse copy 3": true, "Top bar": false, "Grouped list": false, "Label": false} {
		l := design.Layer{Name: name}
		assert.Equal(t, want, l.HasDefaultName(), name)
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(fmt.Sprintf(small, page(layer("a", "")), "")))
	f.Add(bytes.TrimSpace(furrow(f)[:4000]))
	f.Fuzz(func(t *testing.T, text []byte) {
		doc, found := design.Read("f", text)
		if doc == nil {
			require.True(t, found.Failed())
			return
		}
		for _, p := range doc.Pages {
			assertSafe(t, doc.DrawPage(p))
		}
	})
}

// manyLayers writes a document of n layers, a hundred a group.
func manyLayers(n int) []byte {
	var groups []string
	for i := 0; i < n; i += 100 {
		var layers []string
		for j := range 99 {
			layers = append(layers, layer(fmt.Sprintf("l%d-%d", i, j), `,"fill":"#4a7c59","radius":[4],"tokens":{"background-color":"leaf.700"}`))
		}
		groups = append(groups, layer(fmt.Sprint("g", i), `,"children":[`+strings.Join(layers, ",")+`]`))
	}
	return []byte(fmt.Sprintf(small, page(groups...), ""))
}

const benchLayers = 20_000

func BenchmarkRead20000Layers(b *testing.B) {
	text := manyLayers(benchLayers)
	b.SetBytes(int64(len(text)))
	b.ReportAllocs()
	for b.Loop() {
		if _, found := design.Read("b", text); found != nil {
			b.Fatal(found)
		}
	}
	each := float64(b.Elapsed().Nanoseconds()) / float64(b.N)
	// The same bytes through encoding/json alone, in the same run.
	const plainRuns = 5
	start := time.Now()
	for range plainRuns {
		var doc design.Document
		if err := json.Unmarshal(text, &doc); err != nil {
			b.Fatal(err)
		}
	}
	plain := float64(time.Since(start).Nanoseconds()) / plainRuns
	b.ReportMetric(each/benchLayers, "ns/layer")
	b.ReportMetric(each/plain, "x-encoding/json")
}
