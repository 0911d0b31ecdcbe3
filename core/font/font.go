// Package font measures text with the fonts Cobrik ships: it shapes runs,
// finds where lines may break, and knows a font's vertical metrics. Lengths are
// in em unless said otherwise.
package font

import (
	"bytes"
	"fmt"
	"strings"
	"sync"

	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/font/opentype"
	"github.com/go-text/typesetting/harfbuzz"
	"github.com/go-text/typesetting/language"
)

// Library holds font families. It may be used by several goroutines once all
// families are added.
type Library struct {
	names    []string
	families map[string]*family
}

type family struct {
	files []*font.Font // asked in order for each character
	mu    sync.Mutex
	faces map[float64]*Face
}

// Face is a family at one weight.
type Face struct {
	Ascent, Descent, Gap float64 // em: above the baseline, below it (positive), between lines
	Zero                 float64 // advance of "0", CSS's ch (CSS Values 4, 6.1.1.3)

	mu    sync.Mutex
	fonts []*harfbuzz.Font
	cmaps []*font.Font
	texts map[string]*Text
}

// Add adds a WOFF2 or OpenType file to a family. A family of several files,
// each with its own characters, is added one file after another.
func (l *Library) Add(name string, file []byte) error {
	if bytes.HasPrefix(file, []byte("wOF2")) {
		plain, err := unpack(file)
		if err != nil {
			return fmt.Errorf("font %s: %w", name, err)
		}
		file = plain
	}
	loader, err := opentype.NewLoader(bytes.NewReader(file))
	if err != nil {
		return fmt.Errorf("font %s: %w", name, err)
	}
	f, err := font.NewFont(loader)
	if err != nil {
		return fmt.Errorf("font %s: %w", name, err)
	}
	key := strings.ToLower(name)
	if l.families == nil {
		l.families = map[string]*family{}
	}
	if l.families[key] == nil {
		l.families[key] = &family{faces: map[float64]*Face{}}
		l.names = append(l.names, name)
	}
	l.families[key].files = append(l.families[key].files, f)
	return nil
}

// Names lists the families in the order they were added.
func (l *Library) Names() []string { return l.names }

// Face gives a family at a weight of 1 to 1000; nil when there is no such family.
func (l *Library) Face(name string, weight float64) *Face {
	if l == nil {
		return nil
	}
	f := l.families[strings.ToLower(name)]
	if f == nil {
		return nil
	}
	f.mu.Lock()
	defer f.mu.Unlock()
	if face := f.faces[weight]; face != nil {
		return face
	}
	face := &Face{texts: map[string]*Text{}}
	for i, file := range f.files {
		shaped := font.NewFace(file)
		shaped.SetVariations([]font.Variation{{Tag: opentype.MustNewTag("wght"), Value: float32(weight)}})
		upem := float64(shaped.Upem())
		if i == 0 {
			if e, ok := shaped.FontHExtents(); ok {
				face.Ascent, face.Descent, face.Gap = float64(e.Ascender)/upem, -float64(e.Descender)/upem, float64(e.LineGap)/upem
			}
			face.Zero = 0.5 // CSS Values 4, 6.1.1.3: when it cannot be measured
			if zero, ok := shaped.NominalGlyph('0'); ok {
				face.Zero = float64(shaped.HorizontalAdvance(zero)) / upem
			}
		}
		face.fonts = append(face.fonts, harfbuzz.NewFont(shaped))
		face.cmaps = append(face.cmaps, file)
	}
	f.faces[weight] = face
	return face
}

// advances gives each character's share of the run's width: a cluster's width
// is with its first character.
func (f *Face) advances(text []rune) []float64 {
	out := make([]float64, len(text))
	for start := 0; start < len(text); {
		which := f.fileOf(text[start])
		end := start + 1
		for end < len(text) && (f.fileOf(text[end]) == which || text[end] == ' ') {
			end++
		}
		f.shape(f.fonts[which], text, start, end, out)
		start = end
	}
	return out
}

// alone gives each character's advance by itself.
func (f *Face) alone(text []rune) []float64 {
	out := make([]float64, len(text))
	for i, r := range text {
		with := f.fonts[f.fileOf(r)]
		if g, ok := with.Face().NominalGlyph(r); ok {
			out[i] = float64(with.Face().HorizontalAdvance(g)) / float64(with.XScale)
		}
	}
	return out
}

func (f *Face) fileOf(r rune) int {
	for i, c := range f.cmaps {
		if _, ok := c.NominalGlyph(r); ok {
			return i
		}
	}
	return 0
}

func (f *Face) shape(with *harfbuzz.Font, text []rune, start, end int, out []float64) {
	buffer := harfbuzz.NewBuffer()
	buffer.AddRunes(text, start, end-start)
	buffer.Props.Direction = harfbuzz.LeftToRight
	buffer.Props.Script = scriptOf(text[start:end])
	buffer.Props.Language = language.NewLanguage("en")
	buffer.Shape(with, nil)
	upem := float64(with.XScale)
	for i, g := range buffer.Info {
		out[g.Cluster] += float64(buffer.Pos[i].XAdvance) / upem
	}
}

func scriptOf(text []rune) language.Script {
	for _, r := range text {
		if s := language.LookupScript(r); s != language.Common && s != language.Inherited && s != language.Unknown {
			return s
		}
	}
	return language.Latin
}
