// Package trial tries components on pages: a page is a written outline, a row a course, of layout primitives, elements and uses of
// components, filled with records of files. It becomes a contract of its own, so that it is emitted and run as components are.
package trial

import (
	"slices"
	"strconv"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/layout"
)

// The outline of a page, a row a line, what stands inside of a row two spaces further in:
//
//	container maximum=1120px padding={space.6}   a layout primitive, with its props and CSS properties
//	  h1 "Plots"                                 an element of HTML, and what it says
//	  grid columns=3 gap={space.4}
//	    below 768 columns=1                      what is otherwise at some widths of the viewport
//	    in aside below 400 gap=8px               or of the container around it that is named aside
//	    each plot of plots.csv, at most 6        what is below is there for each record
//	      PlotCard title="Plot {plot.number}"    a use of a component, its props given; {…} is a field
//	        to foot                              what is below stands in that slot
//	          p {plot.holder}
//	  with offer of offers.json at 2             what is below shows that record
//	    SeedOffer offer={offer.name}
//	  stack
//	    below 640                                a version of what is here, for those widths; from 640 none: nothing
//	      Notice
//	    from 640
//	      NoticeBoard
//	  gap "Top bar" height=56px like=PageShell   something that was drawn, and that nothing is there for yet
//	  -- what people want to remember            shows nothing

// Limits of an outline.
const (
	mostRows    = 4_000
	longestRow  = 100_000 // bytes: a list that is given as it is written in JSON
	deepestRow  = 48
	indentWidth = 2
)

// RowKind tells what a row is.
type RowKind string

const (
	PrimitiveRow RowKind = "primitive" // one of layout's, or box
	ElementRow   RowKind = "element"
	UseRow       RowKind = "use"
	EachRow      RowKind = "each"
	WithRow      RowKind = "with"
	SlotRow      RowKind = "slot"
	WidthRow     RowKind = "width"
	GapRow       RowKind = "gap"
	NoteRow      RowKind = "note"
)

// boxHead is the row of an element that lays nothing out.
const boxHead = "box"

// richHead is the row of rich text: its blocks are the elements.
const richHead = "rich"

// Row is one row of an outline, with those inside of it.
type Row struct {
	Line     int // from 1
	Kind     RowKind
	Head     string // the primitive, element, component, record's name, slot; what a note says
	Said     *Arg   // what an element says, or a gap is called; nil for nothing
	Args     []Arg
	Source   string         // of each and with: the file of records
	Most     int            // of each: at most so many; 0 for all
	At       int            // of with: which record, from 1
	In       string         // of a width: the name of the container; "container" for the nearest, empty for the viewport
	Range    contract.Range // of a width
	None     bool           // of a width: nothing is there
	Children []*Row
}

// nearest is what a width row asks the nearest container by.
const nearest = "container"

// ArgKind tells how a value is written.
type ArgKind string

const (
	BareArg  ArgKind = "bare"  // a word
	TextArg  ArgKind = "text"  // in quotes, with fields in it
	FieldArg ArgKind = "field" // in braces: a field, or a token
	JSONArg  ArgKind = "json"
	FlagArg  ArgKind = "flag" // a name alone: it is so
)

// Arg is a name with a value. The value is without its quotes or braces.
type Arg struct {
	Name  string
	Kind  ArgKind
	Value string
	At    int // byte of the row's line that it begins at
}

// String writes it as it is read.
func (a Arg) String() string {
	switch a.Kind {
	case FlagArg:
		return a.Name
	case TextArg:
		return named(a.Name, quoted(a.Value))
	case FieldArg:
		return named(a.Name, "{"+a.Value+"}")
	}
	return named(a.Name, a.Value)
}

func named(name, value string) string {
	if name == "" {
		return value
	}
	return name + "=" + value
}

// quoted writes a text in quotes; a quote and a backslash in it stand behind a backslash, a new line is \n.
func quoted(text string) string {
	return `"` + strings.NewReplacer(`\`, `\\`, `"`, `\"`, "\n", `\n`, "\r", "", "\t", " ").Replace(text) + `"`
}

// Text writes rows as an outline. What Parse reads of it is the same rows.
func Text(rows []*Row) string {
	var b strings.Builder
	var write func(list []*Row, depth int)
	write = func(list []*Row, depth int) {
		for _, r := range list {
			b.WriteString(strings.Repeat(" ", indentWidth*depth))
			b.WriteString(r.String())
			b.WriteByte('\n')
			write(r.Children, depth+1)
		}
	}
	write(rows, 0)
	return b.String()
}

// String writes a row without those inside of it.
func (r *Row) String() string {
	var words []string
	switch r.Kind {
	case NoteRow:
		return strings.TrimRight("-- "+r.Head, " ")
	case EachRow:
		text := "each " + r.Head + " of " + sourceWord(r.Source)
		if r.Most > 0 {
			text += ", at most " + strconv.Itoa(r.Most)
		}
		return text
	case WithRow:
		text := "with " + r.Head + " of " + sourceWord(r.Source)
		if r.At > 1 {
			text += " at " + strconv.Itoa(r.At)
		}
		return text
	case SlotRow:
		words = append(words, "to "+r.Head)
	case WidthRow:
		if r.In != "" {
			words = append(words, "in "+r.In)
		}
		words = append(words, r.widths())
		if r.None {
			words = append(words, "none")
		}
		if r.Head != "" {
			words = append(words, r.Head)
		}
	default:
		words = append(words, r.Head)
	}
	if r.Said != nil {
		words = append(words, r.Said.String())
	}
	for _, a := range r.Args {
		words = append(words, a.String())
	}
	return strings.Join(words, " ")
}

func (r *Row) widths() string {
	var words []string
	if r.Range.From > 0 {
		words = append(words, "from "+strconv.FormatFloat(r.Range.From, 'f', -1, 64))
	}
	if r.Range.Below > 0 {
		words = append(words, "below "+strconv.FormatFloat(r.Range.Below, 'f', -1, 64))
	}
	return strings.Join(words, " ")
}

// sourceWord writes the name of a source: in quotes where it is no word.
func sourceWord(name string) string {
	if bareSource.FindString(name) == name && name != "" {
		return name
	}
	return quoted(name)
}

// primitives are the heads of rows that lay others out.
var primitives = func() (out []string) {
	for _, p := range layout.Primitives {
		out = append(out, p.Name)
	}
	return append(out, boxHead)
}()

func isPrimitive(head string) bool { return slices.Contains(primitives, head) }

// Walk visits rows, those around first, with the row each stands in; nil at the top.
func Walk(rows []*Row, visit func(r, in *Row)) {
	var walk func(list []*Row, in *Row)
	walk = func(list []*Row, in *Row) {
		for _, r := range list {
			visit(r, in)
			walk(r.Children, r)
		}
	}
	walk(rows, nil)
}

// arg finds what is given by a name; nil for nothing.
func (r *Row) arg(name string) *Arg {
	for i := range r.Args {
		if r.Args[i].Name == name {
			return &r.Args[i]
		}
	}
	return nil
}

// Components lists the names of the components that rows use, each once, in their order.
func Components(rows []*Row) (out []string) {
	Walk(rows, func(r, _ *Row) {
		if r.Kind == UseRow && !slices.Contains(out, r.Head) {
			out = append(out, r.Head)
		}
	})
	return out
}

// Sources lists the names of the sources that rows show, each once.
func Sources(rows []*Row) (out []string) {
	Walk(rows, func(r, _ *Row) {
		if r.Source != "" && !slices.Contains(out, r.Source) {
			out = append(out, r.Source)
		}
	})
	return out
}
