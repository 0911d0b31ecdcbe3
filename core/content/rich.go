package content

import (
	"regexp"
	"slices"
	"strings"

	"github.com/microcosm-cc/bluemonday"
	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"

	"cobrik/core/contract"
)

// tags is what a text is taken for HTML by: a start or an end tag of an element.
var tags = regexp.MustCompile(`</?[a-zA-Z][a-zA-Z0-9-]*(\s[^<>]*)?/?>`)

// hasMarks tells whether a text is more than plain: HTML, or CommonMark with something in it that is not a single paragraph
// of one look.
func hasMarks(s string) bool {
	if tags.MatchString(s) {
		return true
	}
	if !strings.ContainsAny(s, "*_`#[-+\n0123456789") {
		return false
	}
	v, err := contract.ReadRich(s)
	if err != nil || len(v) == 0 {
		return false
	}
	return len(v) > 1 || v[0].Kind != "paragraph" || slices.ContainsFunc(v[0].Runs, func(r contract.Run) bool { return marksOf(r) != nil })
}

// marksOf lists the marks of a run.
func marksOf(r contract.Run) (out []string) {
	for _, m := range []struct {
		on   bool
		name string
	}{{r.Strong, "strong"}, {r.Emphasis, "emphasis"}, {r.Code, "code"}, {r.Link != "", "link"}} {
		if m.on {
			out = append(out, m.name)
		}
	}
	return out
}

// allowed lets nothing of HTML pass but what rich text has: everything else is taken away, and what runs or styles with all
// that is in it.
var allowed = func() *bluemonday.Policy {
	p := bluemonday.NewPolicy()
	p.AllowElements("p", "div", "br", "h1", "h2", "h3", "h4", "h5", "h6", "ul", "ol", "li", "strong", "b", "em", "i", "code", "pre", "blockquote", "section", "article")
	p.AllowAttrs("href").OnElements("a")
	p.AllowURLSchemes("http", "https", "mailto", "tel", "sms")
	p.AllowRelativeURLs(true)
	p.RequireParseableURLs(true)
	return p
}()

// Rich reads what a field says as rich text: HTML by an allow-list, or CommonMark. Lost names what of it cannot be kept, each
// once: elements, and links that lead nowhere safe.
func Rich(text string) (v contract.RichValue, lost []string, err error) {
	if !tags.MatchString(text) {
		v, err = contract.ReadRich(text)
		return v, nil, err
	}
	lost = elementsLost(text)
	doc, err := html.Parse(strings.NewReader(allowed.Sanitize(text)))
	if err != nil {
		return nil, lost, err
	}
	r := htmlReader{}
	r.read(doc, contract.Run{})
	r.end()
	_, err = contract.Rich{}.Decode(mustJSON(r.out))
	if len(r.out) == 0 {
		err = nil
	}
	return r.out, lost, err
}

// kept are the elements that rich text has a word for, or that only group it.
var kept = []atom.Atom{atom.Html, atom.Head, atom.Body, atom.P, atom.Div, atom.Br, atom.H1, atom.H2, atom.H3, atom.H4, atom.H5, atom.H6, atom.Ul, atom.Ol, atom.Li, atom.Strong, atom.B, atom.Em, atom.I, atom.Code, atom.Pre, atom.A,
	atom.Blockquote, atom.Section, atom.Article, atom.Span}

// elementsLost names the elements of a text that are not kept, in their order.
func elementsLost(text string) (out []string) {
	doc, err := html.Parse(strings.NewReader(text))
	if err != nil {
		return nil
	}
	for n := range doc.Descendants() {
		if n.Type == html.ElementNode && (n.DataAtom == 0 || !slices.Contains(kept, n.DataAtom)) && !slices.Contains(out, n.Data) {
			out = append(out, n.Data)
		}
		if n.DataAtom != atom.A {
			continue
		}
		for _, a := range n.Attr {
			if a.Key == "href" && !leads(a.Val) && !slices.Contains(out, "a link to "+scheme(a.Val)) {
				out = append(out, "a link to "+scheme(a.Val))
			}
		}
	}
	return out
}

// leads tells whether a link may lead to an address.
func leads(address string) bool {
	_, err := contract.Link{}.Decode(mustJSON(address))
	return err == nil
}

func scheme(address string) string {
	before, _, ok := strings.Cut(strings.TrimSpace(address), ":")
	if !ok || len(before) > 40 {
		return "nowhere"
	}
	return strings.ToLower(before) + ":"
}

type htmlReader struct {
	out  contract.RichValue
	kind contract.Block // of the block that is read
	runs []contract.Run
}

// end closes the block that is read; one without words is none.
func (r *htmlReader) end() {
	for i := range r.runs { // blanks at the edges of a block are of the file
		if i == 0 {
			r.runs[i].Text = strings.TrimLeft(r.runs[i].Text, " ")
		}
	}
	if n := len(r.runs); n > 0 {
		r.runs[n-1].Text = strings.TrimRight(r.runs[n-1].Text, " ")
	}
	runs := slices.DeleteFunc(r.runs, func(run contract.Run) bool { return run.Text == "" })
	if len(runs) > 0 {
		b := r.kind
		if b.Kind == "" {
			b.Kind = "paragraph"
		}
		b.Runs = runs
		r.out = append(r.out, b)
	}
	r.runs, r.kind = nil, contract.Block{}
}

func (r *htmlReader) read(n *html.Node, look contract.Run) {
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		switch c.Type {
		case html.TextNode:
			r.add(spaces.ReplaceAllString(c.Data, " "), look)
		case html.ElementNode:
			r.element(c, look)
		default:
			r.read(c, look)
		}
	}
}

var spaces = regexp.MustCompile(`[ \t\r\n\f]+`)

func (r *htmlReader) add(words string, look contract.Run) {
	last := len(r.runs) - 1
	if strings.HasPrefix(words, " ") && (last < 0 || strings.HasSuffix(r.runs[last].Text, " ")) { // white space collapses (CSS Text 3, 4.1.1)
		words = words[1:]
	}
	if words == "" {
		return
	}
	if look.Text = words; last >= 0 {
		before := r.runs[last]
		if before.Text = words; before == look {
			r.runs[last].Text += words
			return
		}
	}
	r.runs = append(r.runs, look)
}

func (r *htmlReader) element(n *html.Node, look contract.Run) {
	begin := func(b contract.Block) {
		r.end()
		r.kind = b
		r.read(n, look)
		r.end()
	}
	switch n.DataAtom {
	case atom.P, atom.Div, atom.Blockquote, atom.Section, atom.Article, atom.Pre:
		kind := r.kind
		if kind.Kind == "item" && len(r.runs) == 0 { // a paragraph in an item is the item
			begin(kind)
			return
		}
		begin(contract.Block{})
	case atom.H1, atom.H2, atom.H3, atom.H4, atom.H5, atom.H6:
		begin(contract.Block{Kind: "heading", Level: int(n.Data[1] - '0')})
	case atom.Li:
		begin(contract.Block{Kind: "item"})
	case atom.Ul, atom.Ol:
		r.end()
		r.read(n, look)
		r.end()
	case atom.Br:
		r.add(" ", look)
	case atom.Strong, atom.B:
		look.Strong = true
		r.read(n, look)
	case atom.Em, atom.I:
		look.Emphasis = true
		r.read(n, look)
	case atom.Code:
		look.Code = true
		r.read(n, look)
	case atom.A:
		for _, a := range n.Attr {
			if a.Key == "href" && leads(a.Val) {
				look.Link = strings.TrimSpace(a.Val)
			}
		}
		r.read(n, look)
	default:
		r.read(n, look)
	}
}
