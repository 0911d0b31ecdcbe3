package layout

import (
	"math"

	"cobrik/core/font"
)

// normalLine is the line height "normal" gives, px: the font's ascent and
// descent are rounded, as Chromium does.
func (s *style) normalLine() float64 {
	if s.lineHeight >= 0 {
		return s.lineHeight
	}
	if s.face == nil {
		return 0
	}
	up, down := s.metrics()
	return up + down + s.face.Gap*s.fontSize
}

// metrics gives the font's ascent and descent, px.
func (s *style) metrics() (up, down float64) {
	if s.face == nil {
		return 0, 0
	}
	return math.Round(s.face.Ascent * s.fontSize), math.Round(s.face.Descent * s.fontSize)
}

// width of a piece without and with its trailing white space.
func (n *node) pieceWidth(p *font.Piece) (bare, spaced float64) {
	bare = p.Width*n.fontSize + float64(p.Count)*n.letter
	return bare, bare + p.Space*n.fontSize + float64(p.SpaceCount)*(n.letter+n.word)
}

// textFlow breaks text into lines (CSS Text 3, 5).
func (s *solver) textFlow(n *node, inner [2]float64, full bool) flow {
	lines, longest := n.breakLines(inner[n.inline], nil)
	line := n.normalLine()
	up, down := n.metrics()
	f := flow{natural: float64(lines) * line, first: nan, last: nan}
	if lines > 0 {
		// Half the leading is above the text (CSS Inline 3, 4.3); in vertical
		// text the middle line is what boxes are aligned by.
		f.first = math.Floor((line-up-down)/2) + up
		if n.inline == vertical {
			f.first = math.Floor((line-up-down)/2) + math.Ceil((up+down)/2)
		}
		f.last = f.first + float64(lines-1)*line
	}
	if !full {
		return f
	}
	n.lines, n.textSize = lines, longest
	for _, c := range n.children { // only boxes out of flow are beside text
		c.hypo[n.inline], c.hypoSize[n.inline], c.hypoAlign[n.inline] = 0, inner[n.inline], 0
		c.hypo[n.block()], c.hypoSize[n.block()], c.hypoAlign[n.block()] = f.natural, 0, 0
	}
	if n.alignContent != alignNormal && inner[n.block()] > f.natural {
		s.shiftBlocks(n, &f, inner[n.block()]-f.natural)
	}
	return f
}

// slack forgives rounding when a width that was made to fit is broken again.
const slack = 1.0 / 64

// breakLines breaks text at a width; ended, when given, is told the character
// after each line but the last.
func (n *node) breakLines(width float64, ended func(at int)) (lines int, longest float64) {
	width += slack
	indent := n.indent.orZero(width)
	used, start := indent, true // with the white space so far
	end := func(bare float64, at int) {
		lines++
		longest = max(longest, bare)
		if ended != nil && at >= 0 {
			ended(at)
		}
	}
	last := indent
	for i := range n.text.Pieces {
		p := &n.text.Pieces[i]
		bare, spaced := n.pieceWidth(p)
		if n.wraps() {
			if !start && used+bare > width && !n.breakAll && !(n.keepW && i > 0 && n.text.Pieces[i-1].Space == 0) {
				end(last, p.Start)
				used, start = 0, true
			}
			if (n.breakWord && start || n.breakAll) && used+bare > width {
				used = n.breakInside(p, used, start, width, end)
				last = used
				used += spaced - bare
				start = false
				if p.Forced {
					end(last, p.End)
					used, start, last = 0, true, 0
				}
				continue
			}
		}
		last = used + bare
		used += spaced
		start = false
		if p.Forced {
			end(last, p.End)
			used, start, last = 0, true, 0
		}
	}
	if !start {
		end(last, -1)
	}
	return lines, longest
}

// breakInside breaks between any two characters of a piece.
func (n *node) breakInside(p *font.Piece, used float64, start bool, width float64, end func(float64, int)) float64 {
	for i := p.Start; i < p.Last; {
		// Kerning joins a character to the next one, unless a line ends there.
		j, w, last := i+1, n.text.Advance[i], n.text.Alone[i]-n.text.Advance[i]
		count := 1.0
		for j < p.Last && (!n.text.Starts[j] || !n.breakWord && n.sticks(j)) {
			if n.text.Starts[j] {
				count++
			}
			w += n.text.Advance[j]
			last = n.text.Alone[j] - n.text.Advance[j]
			j++
		}
		size := w*n.fontSize + count*n.letter
		if !start && used+size+max(0, last)*n.fontSize > width {
			end(used, i)
			used = 0
		}
		used += size
		start = false
		i = j
	}
	return used
}

// sticks tells whether a character stays with the one before it where words are
// broken but not their punctuation.
func (n *node) sticks(at int) bool {
	return !n.text.Starts[at] || n.breakAll && !n.anywhere && n.text.Joined[at]
}

func (s *solver) textIntrinsic(n *node) (low, high float64) {
	line := n.indent.orZero(nan)
	last := line
	for i := range n.text.Pieces {
		p := &n.text.Pieces[i]
		bare, spaced := n.pieceWidth(p)
		last = line + bare
		line += spaced
		high = max(high, last)
		if p.Forced {
			line = 0
		}
		switch {
		case !n.wraps():
		case n.anywhere || n.breakAll:
			unit := 0.0
			for at := p.Start; at < p.Last; at++ {
				if at == p.Start || !n.sticks(at) {
					unit = 0
				}
				if n.text.Starts[at] {
					unit += n.letter
				}
				low = max(low, unit+max(n.text.Alone[at], n.text.Advance[at])*n.fontSize)
				unit += n.text.Advance[at] * n.fontSize
			}
		default:
			low = max(low, bare)
		}
	}
	if !n.wraps() {
		low = high
	}
	return low, high
}
