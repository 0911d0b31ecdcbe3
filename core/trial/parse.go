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
	"cobrik/core/problem"
)

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
