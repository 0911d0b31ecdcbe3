// Package trial tries components on pages: a page is a written outline, a row a course, of layout primitives, elements and uses of
// components, filled with records of files. It becomes a contract of its own, so that it is emitted and run as components are.
package trial

import (
	"bytes"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"cobrik/core/contract"
	"cobrik/core/layout"
	"cobrik/core/problem"
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

var (
	bareSource = regexp.MustCompile(`^[\p{L}\p{N}_.-]+`)
	name       = regexp.MustCompile(`^[\p{L}_][\p{L}\p{M}\p{N}_-]*`)
	bare       = regexp.MustCompile(`^[^\s"{}\[\]]+`)
	number     = regexp.MustCompile(`^\d{1,5}(\.\d{1,3})?`)
)

// Parse reads an outline. What could not be read of a row is told by its line, and the row is left out with those inside of it.
func Parse(text string) ([]*Row, problem.List) {
	p := parser{}
	root := &Row{}
	open := []*Row{root} // the row at each depth
	lines := strings.Split(strings.ReplaceAll(text, "\r\n", "\n"), "\n")
	left := -1 // the depth of a row that is left out
	count := 0
	for i, line := range lines {
		body := strings.TrimLeft(line, " ")
		if strings.TrimSpace(body) == "" {
			continue
		}
		if count++; count > mostRows {
			p.errorf(i+1, 0, "row-count", "make two pages of it", "a page has %d rows at most", mostRows)
			break
		}
		indent := len(line) - len(body)
		depth := indent / indentWidth
		switch {
		case strings.ContainsRune(line[:len(line)-len(strings.TrimLeft(line, " \t"))], '\t'):
			p.errorf(i+1, 0, "row-indent", "indent by two spaces", "the row is indented by a tab")
			continue
		case left >= 0 && depth > left:
			continue
		case indent%indentWidth != 0 || depth >= len(open):
			p.errorf(i+1, 0, "row-indent", "indent by two spaces more than the row it stands in", "the row stands in no row")
			left = depth
			continue
		case depth > deepestRow:
			p.errorf(i+1, 0, "row-depth", "", "rows are nested %d deep at most", deepestRow)
			continue
		}
		left = -1
		r := p.row(i+1, indent, strings.TrimRightFunc(body, unicode.IsSpace))
		if r == nil {
			left = depth
			open = open[:depth+1]
			continue
		}
		parent := open[depth]
		parent.Children = append(parent.Children, r)
		open = append(open[:depth+1], r)
	}
	return root.Children, p.found
}

type parser struct {
	found problem.List
	line  int
	text  string // of the row
	at    int    // in the text
	from  int    // where the text begins in its line
}

func (p *parser) errorf(line, column int, rule, fix, format string, args ...any) {
	p.found = append(p.found, problem.Problem{Line: line, Column: column + 1, Rule: rule, Severity: problem.Error, Fix: fix, Message: fmt.Sprintf(format, args...)})
}

func (p *parser) fail(fix, format string, args ...any) {
	p.errorf(p.line, p.from+p.at, "row", fix, format, args...)
}

func (p *parser) rest() string { return p.text[p.at:] }

func (p *parser) space() {
	for p.at < len(p.text) && p.text[p.at] == ' ' {
		p.at++
	}
}

// take goes over a word, and the room behind it, where that is what comes.
func (p *parser) take(word string) bool {
	rest := p.rest()
	if !strings.HasPrefix(rest, word) || len(rest) > len(word) && rest[len(word)] != ' ' && rest[len(word)] != ',' {
		return false
	}
	p.at += len(word)
	p.space()
	return true
}

func (p *parser) match(e *regexp.Regexp) string {
	word := e.FindString(p.rest())
	p.at += len(word)
	return word
}

// row reads one row; nil where it cannot be read.
func (p *parser) row(line, from int, text string) *Row {
	p.line, p.text, p.at, p.from = line, text, 0, from
	if len(text) > longestRow || !utf8.ValidString(text) {
		p.fail("", "the row is longer than %d bytes, or no text", longestRow)
		return nil
	}
	r := &Row{Line: line}
	switch {
	case strings.HasPrefix(text, "--"):
		r.Kind, r.Head = NoteRow, strings.TrimSpace(text[2:])
		return r
	case p.take("each"):
		r.Kind = EachRow
		return p.records(r)
	case p.take("with"):
		r.Kind = WithRow
		return p.records(r)
	case p.take("to"):
		r.Kind, r.Head = SlotRow, p.match(name)
		if r.Head == "" {
			p.fail("name a slot, as in to foot", "the slot is not named")
			return nil
		}
		return p.end(r)
	case p.take("in"), strings.HasPrefix(text, "below "), strings.HasPrefix(text, "from "):
		return p.width(r)
	}
	at := p.at
	r.Head = p.match(name)
	switch first, _ := utf8.DecodeRuneInString(r.Head); {
	case r.Head == "":
		p.fail("begin with a primitive, an element or a component", "a row begins with a name")
		return nil
	case r.Head == "gap":
		r.Kind = GapRow
	case isPrimitive(r.Head):
		r.Kind = PrimitiveRow
	case r.Head == richHead || slices.Contains(contract.Elements, r.Head):
		r.Kind = ElementRow
	case unicode.IsUpper(first) || !unicode.IsLower(first):
		r.Kind = UseRow
	default:
		p.at = at
		p.fail("name a primitive ("+strings.Join(primitives, ", ")+"), an element of HTML, or a component", "there is no primitive and no element %q", r.Head)
		return nil
	}
	if !p.args(r) {
		return nil
	}
	return r
}

// primitives are the heads of rows that lay others out.
var primitives = func() (out []string) {
	for _, p := range layout.Primitives {
		out = append(out, p.Name)
	}
	return append(out, boxHead)
}()

func isPrimitive(head string) bool { return slices.Contains(primitives, head) }

// records reads what records a row is of.
func (p *parser) records(r *Row) *Row {
	r.Head = p.match(name)
	p.space()
	if r.Head == "" || !p.take("of") {
		p.fail("as in each plot of plots.csv", "what a record is called, and of what file it is, is not said")
		return nil
	}
	if strings.HasPrefix(p.rest(), `"`) {
		text, ok := p.quotes()
		if !ok {
			return nil
		}
		r.Source = text
	} else {
		r.Source = strings.TrimSuffix(p.match(bareSource), ",")
	}
	if r.Source == "" {
		p.fail("name a file of records", "the file is not named")
		return nil
	}
	p.space()
	if strings.HasPrefix(p.rest(), ",") {
		p.at++
		p.space()
	}
	switch {
	case r.Kind == EachRow && p.take("at most"):
		r.Most = p.whole()
	case r.Kind == WithRow && p.take("at"):
		r.At = p.whole()
	case r.Kind == WithRow:
		r.At = 1
	}
	if r.Most < 0 || r.At < 0 {
		return nil
	}
	return p.end(r)
}

// whole reads a number from 1; -1 for none.
func (p *parser) whole() int {
	n, err := strconv.Atoi(p.match(number))
	if err != nil || n < 1 {
		p.fail("give a number from 1", "how many, or which, is no number")
		return -1
	}
	return n
}

// width reads what widths a row is of, and what it says.
func (p *parser) width(r *Row) *Row {
	r.Kind = WidthRow
	if strings.HasPrefix(p.text, "in ") {
		if r.In = p.match(name); r.In == "" {
			p.fail("name the container, or say in container", "the container is not named")
			return nil
		}
		p.space()
	}
	for _, word := range []string{"from", "below"} {
		if !p.take(word) {
			continue
		}
		px, err := strconv.ParseFloat(p.match(number), 64)
		if err != nil {
			p.fail("give px, as in below 640", "the width is no number")
			return nil
		}
		p.at += len(strings.TrimSuffix(p.rest(), strings.TrimPrefix(p.rest(), "px")))
		p.space()
		if word == "from" {
			r.Range.From = px
		} else {
			r.Range.Below = px
		}
	}
	if r.Range == (contract.Range{}) || r.Range.Below > 0 && r.Range.From >= r.Range.Below {
		p.fail("as in from 640 below 1024", "that is no range of widths")
		return nil
	}
	if p.take("none") {
		r.None = true
		return p.end(r)
	}
	if word := name.FindString(p.rest()); isPrimitive(word) && !strings.HasPrefix(p.rest()[len(word):], "=") {
		r.Head = word
		p.at += len(word)
		p.space()
	}
	if !p.args(r) {
		return nil
	}
	return r
}

// end holds that nothing more comes.
func (p *parser) end(r *Row) *Row {
	if p.space(); p.rest() != "" {
		p.fail("end the row before it", "nothing can stand here: %s", p.rest())
		return nil
	}
	return r
}

// args reads what a row says and is given.
func (p *parser) args(r *Row) bool {
	seen := map[string]bool{}
	for {
		p.space()
		if p.rest() == "" {
			return true
		}
		a := Arg{At: p.from + p.at}
		first := p.rest()[0]
		if first == '"' || first == '{' {
			if r.Said != nil || len(r.Args) > 0 || r.Kind != ElementRow && r.Kind != GapRow {
				p.fail("put the name of a prop before it, as in title=…", "it is not said what this is given for")
				return false
			}
			if !p.value(&a) {
				return false
			}
			if a.Kind == JSONArg {
				p.fail("name a field between the braces", "no field is named")
				return false
			}
			r.Said = &a
			continue
		}
		if a.Name = p.match(name); a.Name == "" {
			p.fail("name a prop, as in gap=8px", "this is no prop: %s", p.rest())
			return false
		}
		if seen[a.Name] {
			p.at -= len(a.Name)
			p.fail("keep one of the two", "%s is given twice", a.Name)
			return false
		}
		seen[a.Name] = true
		if !strings.HasPrefix(p.rest(), "=") {
			if p.rest() != "" && p.rest()[0] != ' ' {
				p.fail("put = between name and value", "%s has no value that could be read", a.Name)
				return false
			}
			a.Kind = FlagArg
			r.Args = append(r.Args, a)
			continue
		}
		p.at++
		if !p.value(&a) {
			return false
		}
		r.Args = append(r.Args, a)
	}
}

// value reads a value.
func (p *parser) value(a *Arg) bool {
	rest := p.rest()
	switch {
	case strings.HasPrefix(rest, `"`):
		text, ok := p.quotes()
		a.Kind, a.Value = TextArg, text
		return ok
	case strings.HasPrefix(rest, "["), strings.HasPrefix(rest, `{"`), strings.HasPrefix(rest, "{}"):
		d := json.NewDecoder(strings.NewReader(rest))
		var raw json.RawMessage
		if err := d.Decode(&raw); err != nil {
			p.fail("write it as JSON", "the value cannot be read: %s", err)
			return false
		}
		p.at += int(d.InputOffset())
		var b bytes.Buffer
		if json.Compact(&b, raw) != nil {
			return false
		}
		a.Kind, a.Value = JSONArg, b.String()
		return true
	case strings.HasPrefix(rest, "{"):
		end := strings.IndexByte(rest, '}')
		if end < 0 {
			p.fail("close it with }", "the field has no end")
			return false
		}
		a.Kind, a.Value = FieldArg, strings.TrimSpace(rest[1:end])
		p.at += end + 1
		if a.Value == "" || strings.ContainsAny(a.Value, `{"`) {
			p.fail("name a field or a token between the braces", "no field is named")
			return false
		}
		return true
	}
	if a.Kind, a.Value = BareArg, p.match(bare); a.Value == "" {
		p.fail("give a word, a text in quotes, or a field in braces", "%s has no value", a.Name)
		return false
	}
	return true
}

// quotes reads a text in quotes.
func (p *parser) quotes() (string, bool) {
	var b strings.Builder
	rest := p.rest()
	for i := 1; i < len(rest); i++ {
		switch c := rest[i]; {
		case c == '"':
			p.at += i + 1
			return b.String(), true
		case c == '\\' && i+1 < len(rest):
			if i++; rest[i] == 'n' {
				b.WriteByte('\n')
			} else {
				b.WriteByte(rest[i])
			}
		default:
			b.WriteByte(c)
		}
	}
	p.fail(`close it with "`, "the text has no end")
	return "", false
}

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
