package layout

import (
	"cobrik/core/font"
)

type display uint8

const (
	displayBlock display = iota
	displayFlex
	displayGrid
)

type position uint8

const (
	static position = iota
	relative
	absolute
)

// align is a value of the alignment properties (CSS Box Alignment 3, 4).
type align uint8

const (
	alignAuto align = iota
	alignNormal
	alignStretch
	alignStart
	alignEnd
	alignCenter
	alignFlexStart
	alignFlexEnd
	alignSelfStart
	alignSelfEnd
	alignLeft
	alignRight
	alignBaseline
	alignLastBaseline
	alignBetween
	alignAround
	alignEvenly
)

var alignments = map[string]align{
	"auto": alignAuto, "normal": alignNormal, "stretch": alignStretch, "start": alignStart, "end": alignEnd, "center": alignCenter,
	"flex-start": alignFlexStart, "flex-end": alignFlexEnd, "self-start": alignSelfStart, "self-end": alignSelfEnd,
	"left": alignLeft, "right": alignRight, "baseline": alignBaseline, "first baseline": alignBaseline,
	"last baseline": alignLastBaseline, "space-between": alignBetween, "space-around": alignAround, "space-evenly": alignEvenly,
}

// The two axes of the page. In arrays with an edge, the first is the left or
// top one.
const (
	horizontal = 0
	vertical   = 1
)

// style is a box's computed style: everything layout needs, in px where it can
// be said without knowing the containing block.
type style struct {
	display                              display
	position                             position
	inline                               uint8   // the axis text runs along (CSS Writing Modes 4, 6)
	reversed                             [2]bool // by axis: the flow starts at the right or bottom edge
	borderBox                            bool
	clips                                [2]bool // by axis: overflow is not visible
	scrolls                              [2]bool // by axis: a scroll container, whose automatic minimum size is 0
	contains                             bool    // establishes a formatting context of its own
	container                            [2]bool // by logical axis: a size container
	flexColumn                           bool
	flexBack                             bool // row-reverse, column-reverse
	wrap                                 bool
	wrapBack                             bool
	justifyContent, alignContent         align
	justifyItems, alignItems             align
	justifySelf, alignSelf               align
	safeJustify, safeAlign, safeSelf     bool // "safe": overflow falls back to start
	safeJustifySelf                      bool
	safeItems                            [2]bool // of justify-items, align-items
	breakWord, anywhere, breakAll, keepW bool
	order                                int
	grow                                 float64
	shrink                               float64
	aspect                               float64 // width ÷ height; 0 for none
	basis                                length
	preferred                            [2]length // width and height
	min, max                             [2]length
	margin                               [2][2]length
	gap                                  [2]length // between columns, between rows; by logical axis, inline first
	border                               [2][2]float64
	padding                              [2][2]length
	inset                                [2][2]length
	grid                                 *gridStyle
	place                                [2]placement // column, row
	face                                 *font.Face
	fontSize, lineHeight, letter, word   float64 // px; a lineHeight below 0 is normal
	indent                               length
	whiteSpace                           string
}

// block is the axis boxes stack along.
func (s *style) block() uint8 { return 1 - s.inline }

// axis gives the physical axis of a logical one: 0 inline, 1 block.
func (s *style) axis(logical int) int {
	if logical == 0 {
		return int(s.inline)
	}
	return 1 - int(s.inline)
}

func (s *style) wraps() bool { return s.whiteSpace != "nowrap" && s.whiteSpace != "pre" }

// gridStyle is what only grid containers have.
type gridStyle struct {
	tracks [2]trackList // columns, rows
	autos  [2][]track   // sizes of implicit tracks, repeated
	byCol  bool         // auto placement fills columns first
	dense  bool
}

// track is a track sizing function; min and max of minmax().
type track struct{ min, max length }

// trackList is a template: the tracks before, within and after an auto-repeat.
type trackList struct {
	before, repeat, after []track
	fit                   bool // auto-fit: empty repeated tracks collapse
}

// placement is where an item goes in one axis of a grid: lines counted from 1,
// negative from the end, 0 for auto; spans from 1.
type placement struct {
	start, end         int
	startSpan, endSpan int
}
