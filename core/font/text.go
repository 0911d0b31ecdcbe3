package font

import (
	"strings"
	"unicode"

	"github.com/go-text/typesetting/segmenter"
)

// Text is shaped text with its break opportunities. It is not changed once made.
type Text struct {
	Pieces  []Piece
	Advance []float64 // em a character; a cluster's width is with its first
	Alone   []float64 // em a character that nothing follows: without kerning
	Starts  []bool    // whether a character begins a grapheme cluster
	Joined  []bool    // whether no line breaks before a character even between letters
}

// Piece is what stays together on a line: characters up to a break opportunity
// (Unicode Standard Annex 14), with the white space that hangs at a line's end.
type Piece struct {
	Start, End int     // characters, white space included
	Last       int     // end of what is not trailing white space
	Width      float64 // em, without the trailing white space
	Space      float64 // em, the trailing white space
	Count      int     // characters letter-spacing applies to, without the trailing white space
	SpaceCount int
	Forced     bool // a line ends after it
}

// remembered bounds how many texts a face keeps shaped.
const remembered = 4096

// Text shapes text and finds where its lines may break. White space is taken
// as it is, a line feed forces a break.
func (f *Face) Text(text string) *Text {
	f.mu.Lock()
	defer f.mu.Unlock()
	if t := f.texts[text]; t != nil {
		return t
	}
	if len(f.texts) >= remembered {
		clear(f.texts)
	}
	t := f.read([]rune(strings.ToValidUTF8(text, "\uFFFD")))
	f.texts[strings.Clone(text)] = t
	return t
}

func (f *Face) read(text []rune) *Text {
	t := &Text{Advance: f.advances(text), Alone: f.alone(text), Starts: make([]bool, len(text)), Joined: make([]bool, len(text))}
	var seg segmenter.Segmenter
	seg.Init(text)
	for it := seg.GraphemeIterator(); it.Next(); {
		t.Starts[it.Grapheme().Offset] = true
	}
	for i := range text {
		t.Joined[i] = i > 0 && (unicode.IsPunct(text[i]) && text[i] != '-' || opens(text[i-1]))
	}
	for it := seg.LineIterator(); it.Next(); {
		line := it.Line()
		p := Piece{Start: line.Offset, End: line.Offset + len(line.Text)}
		p.Forced = line.IsMandatoryBreak && p.End > 0 && isLineEnd(text[p.End-1])
		last := p.End
		for last > p.Start && hangs(text[last-1]) {
			last--
		}
		p.Last = last
		for i := p.Start; i < p.End; i++ {
			count := 0
			if t.Starts[i] && !isLineEnd(text[i]) {
				count = 1
			}
			advance := t.Advance[i]
			if isLineEnd(text[i]) {
				advance = 0
			}
			if i < last {
				p.Width += advance
				p.Count += count
			} else {
				p.Space += advance
				p.SpaceCount += count
			}
		}
		t.Pieces = append(t.Pieces, p)
	}
	return t
}

// opens tells whether a line does not break after a character, whatever
// word-break says (CSS Text 3, 5.2: only letters are taken apart).
func opens(r rune) bool {
	return unicode.In(r, unicode.Ps, unicode.Pi, unicode.Pf) || r == '"' || r == '\''
}

func isLineEnd(r rune) bool { return r == '\n' || r == '\u2028' || r == '\u2029' }

// hangs tells whether a character's room is not counted at a line's end (CSS
// Text 3, 4.1.2).
func hangs(r rune) bool { return r == ' ' || r == '\t' || isLineEnd(r) }

// Collapse prepares text for a value of CSS's white-space (CSS Text 3, 4.1.1):
// what collapses becomes one space, and none at the start and the end.
func Collapse(text, whiteSpace string) string {
	switch whiteSpace {
	case "pre", "pre-wrap", "break-spaces":
		return text
	case "pre-line":
		lines := strings.Split(text, "\n")
		for i, l := range lines {
			lines[i] = collapse(l)
		}
		return strings.Join(lines, "\n")
	}
	return collapse(text)
}

func collapse(text string) string {
	var b strings.Builder
	space := false
	for _, r := range text {
		if r == ' ' || r == '\t' || r == '\n' || r == '\r' || r == '\f' {
			space = b.Len() > 0
			continue
		}
		if space {
			b.WriteByte(' ')
			space = false
		}
		b.WriteRune(r)
	}
	return b.String()
}
