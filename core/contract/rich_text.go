package contract

import (
	"strings"

	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/ast"
	"github.com/yuin/goldmark/text"
	"github.com/yuin/goldmark/util"
)

// ReadRich reads rich text as it is typed, in CommonMark 0.31: paragraphs, headings, items of lists, strong, emphasis, code
// and links. What it has no word for (quotes, pictures, HTML) is read as the text in it; items of lists inside of others
// follow them. Nothing for no text. The error says what cannot be kept.
func ReadRich(typed string) (RichValue, error) {
	source := []byte(typed)
	r := richReader{source: source}
	r.blocks(goldmark.DefaultParser().Parse(text.NewReader(source)), "paragraph")
	return r.out, r.out.flaw()
}

type richReader struct {
	source []byte
	out    RichValue
}

// blocks reads what a block holds; texts in it are blocks of a kind.
func (r *richReader) blocks(of ast.Node, kind string) {
	for n := of.FirstChild(); n != nil; n = n.NextSibling() {
		switch n := n.(type) {
		case *ast.Heading:
			r.add(Block{Kind: "heading", Level: n.Level, Runs: r.runs(n, Run{})})
		case *ast.Paragraph, *ast.TextBlock:
			r.add(Block{Kind: kind, Runs: r.runs(n, Run{})})
			if kind == "item" { // what follows in the item is no item of its own
				kind = "paragraph"
			}
		case *ast.CodeBlock, *ast.FencedCodeBlock:
			r.add(Block{Kind: kind, Runs: []Run{{Text: strings.TrimRight(string(n.Lines().Value(r.source)), "\n"), Code: true}}})
		case *ast.HTMLBlock:
			r.add(Block{Kind: kind, Runs: []Run{{Text: strings.TrimSpace(string(n.Lines().Value(r.source)))}}})
		case *ast.List:
			for item := n.FirstChild(); item != nil; item = item.NextSibling() {
				r.blocks(item, "item")
			}
		default: // a quote; a thematic break holds nothing
			r.blocks(n, kind)
		}
	}
}

func (r *richReader) add(b Block) {
	if b.text() != "" {
		r.out = append(r.out, b)
	}
}

// runs reads the pieces of a text, each as the look around it says; neighbours of one look are one.
func (r *richReader) runs(of ast.Node, look Run) (out []Run) {
	add := func(words string, as Run) {
		if words == "" {
			return
		}
		as.Text = words
		if last := len(out) - 1; last >= 0 {
			before := out[last]
			if before.Text = words; before == as {
				out[last].Text += words
				return
			}
		}
		out = append(out, as)
	}
	for n := of.FirstChild(); n != nil; n = n.NextSibling() {
		as := look
		switch n := n.(type) {
		case *ast.Text:
			words := string(n.Value(r.source))
			if !n.IsRaw() && !look.Code {
				words = plainly(n.Value(r.source))
			}
			if n.SoftLineBreak() || n.HardLineBreak() {
				words += " "
			}
			add(words, as)
			continue
		case *ast.String:
			add(string(n.Value), as)
			continue
		case *ast.RawHTML:
			add(string(n.Segments.Value(r.source)), as)
			continue
		case *ast.AutoLink:
			as.Link = string(n.URL(r.source))
			add(string(n.Label(r.source)), as)
			continue
		case *ast.Emphasis:
			as.Strong, as.Emphasis = as.Strong || n.Level == 2, as.Emphasis || n.Level == 1
		case *ast.CodeSpan:
			as.Code = true
		case *ast.Link:
			as.Link = plainly(n.Destination)
		}
		for _, run := range r.runs(n, as) {
			add(run.Text, run)
		}
	}
	return out
}

// plainly gives what escapes and character references stand for (CommonMark, 2.4 and 2.5); an escaped & begins none.
func plainly(text []byte) string {
	var out strings.Builder
	from := 0
	flush := func(to int) {
		out.Write(util.ResolveEntityNames(util.ResolveNumericReferences(text[from:to])))
	}
	for i := 0; i+1 < len(text); i++ {
		if text[i] == '\\' && util.IsPunct(text[i+1]) {
			flush(i)
			out.WriteByte(text[i+1])
			i++
			from = i + 1
		}
	}
	flush(len(text))
	return out.String()
}

// Typed writes rich text as it is typed, so that ReadRich gives it again. A text in a line is a paragraph.
func (v RichValue) Typed() string {
	var out strings.Builder
	for i, b := range v {
		switch {
		case i == 0:
		case b.Kind == "item" && v[i-1].Kind == "item":
			out.WriteString("\n")
		default:
			out.WriteString("\n\n")
		}
		switch b.Kind {
		case "heading":
			out.WriteString(strings.Repeat("#", b.Level) + " ")
		case "item":
			out.WriteString("- ")
		}
		for k, run := range b.Runs {
			out.WriteString(run.typed(k == 0))
		}
	}
	return out.String()
}

// marked are the letters that mean something in CommonMark wherever they stand, and at the beginning of a block.
const marked = "\\`*_[]<>&!"

func (r Run) typed(first bool) string {
	words := r.Text
	if r.Code {
		fence := "`"
		for strings.Contains(words, fence) {
			fence += "`"
		}
		if strings.HasPrefix(words, "`") || strings.HasSuffix(words, "`") || strings.TrimSpace(words) != "" && strings.HasPrefix(words, " ") && strings.HasSuffix(words, " ") {
			words = " " + words + " "
		}
		words = fence + words + fence
	} else {
		var b strings.Builder
		for i, letter := range words {
			if strings.ContainsRune(marked, letter) || i == 0 && first && strings.ContainsRune("#+-=~", letter) {
				b.WriteByte('\\')
			}
			b.WriteRune(letter)
		}
		words = b.String()
		if digits := strings.TrimLeft(words, "0123456789"); first && digits != words && (strings.HasPrefix(digits, ".") || strings.HasPrefix(digits, ")")) {
			words = words[:len(words)-len(digits)] + "\\" + digits
		}
	}
	if r.Emphasis {
		words = "*" + words + "*"
	}
	if r.Strong {
		words = "**" + words + "**"
	}
	if r.Link != "" {
		words = "[" + words + "](<" + strings.NewReplacer("\\", "\\\\", "<", "\\<", ">", "\\>").Replace(r.Link) + ">)"
	}
	return words
}
