package syntax

import (
	"bytes"
	"strings"

	parse "github.com/tdewolff/parse/v2"
	"github.com/tdewolff/parse/v2/css"

	"cobrik/core/problem"
)

// Kinds of a style sheet's nodes.
const (
	Sheet       = "sheet"
	Rule        = "rule"        // its fields: prelude, block
	AtRule      = "at-rule"     // its fields: name, prelude, block; no block for one that ends with a semicolon
	Declaration = "declaration" // its fields: property, value
	Block       = "block"
	Comment     = "comment"
)

// CSS reads a style sheet as CSS Syntax 3, 5.4 consumes it: rules with what stands before their blocks, declarations, rules in each other (CSS Nesting 1).
// Nothing of a selector or value is understood, so that no syntax is too new to be read. The
// first place that is no style sheet is an error; the tree holds the rest.
func CSS(name string, text []byte) (*Tree, problem.List) {
	if bad := readable(name, text); bad != nil {
		return nil, problem.List{*bad}
	}
	t := &Tree{Name: name, Text: text}
	s := sheetReader{tree: t}
	s.tokens(text)
	t.Root = &Node{Kind: Sheet, Named: true, To: len(text), Tree: t}
	s.rules(t.Root, 0)
	if s.tooMuch {
		return nil, problem.List{{File: name, Rule: "source-file", Severity: problem.Error, Message: "the file is nested too deeply, or holds too much, and was not read", Fix: "split it"}}
	}
	if s.wrong != nil {
		return t, problem.List{s.wrong.Problem(problem.Error, "source-syntax", "this is no valid style sheet", "correct it; the rest of the file was read")}
	}
	return t, nil
}

type sheetToken struct {
	kind     css.TokenType
	from, to int
}

type sheetReader struct {
	tree    *Tree
	list    []sheetToken
	at      int
	tooMuch bool
	wrong   *Node
}

func (s *sheetReader) tokens(text []byte) {
	lexer := css.NewLexer(parse.NewInput(bytes.NewReader(text)))
	for from := 0; ; {
		kind, data := lexer.Next()
		if kind == css.ErrorToken {
			return
		}
		s.list = append(s.list, sheetToken{kind, from, from + len(data)})
		if from += len(data); len(s.list) > MaxNodes {
			s.tooMuch = true
			return
		}
	}
}

func (s *sheetReader) next() (sheetToken, bool) {
	if s.at >= len(s.list) || s.tooMuch {
		return sheetToken{}, false
	}
	return s.list[s.at], true
}

func (s *sheetReader) add(parent *Node, kind, field string, from, to int) *Node {
	n := &Node{Kind: kind, Field: field, Named: true, From: from, To: to, Parent: parent, Tree: s.tree}
	parent.Children = append(parent.Children, n)
	return n
}

func (s *sheetReader) bad(parent *Node, from, to int) {
	if s.wrong == nil {
		s.wrong = &Node{Kind: "ERROR", From: from, To: max(from, to), Parent: parent, Tree: s.tree}
	}
}

// rules reads what stands in a sheet or a block, up to its closing brace.
func (s *sheetReader) rules(parent *Node, depth int) {
	if depth > MaxDepth {
		s.tooMuch = true
	}
	for {
		t, ok := s.next()
		if !ok {
			return
		}
		switch t.kind {
		case css.RightBraceToken:
			if parent.Kind == Block {
				return
			}
			s.bad(parent, t.from, t.to)
			s.at++
		case css.CommentToken:
			s.add(parent, Comment, "", t.from, t.to)
			s.at++
		case css.WhitespaceToken, css.SemicolonToken, css.CDOToken, css.CDCToken:
			s.at++
		case css.AtKeywordToken:
			s.atRule(parent, depth)
		default:
			s.ruleOrDeclaration(parent, depth)
		}
	}
}

// until skips to a token of one of the kinds outside of all brackets, and gives the bytes of what is skipped, without the space around it.
func (s *sheetReader) until(kinds ...css.TokenType) (from, to int, end css.TokenType) {
	from, to = -1, -1
	depth := 0
	for {
		t, ok := s.next()
		if !ok {
			return from, to, css.ErrorToken
		}
		if depth == 0 {
			for _, k := range kinds {
				if t.kind == k {
					return from, to, t.kind
				}
			}
		}
		switch t.kind {
		case css.FunctionToken, css.LeftParenthesisToken, css.LeftBracketToken, css.LeftBraceToken:
			depth++
		case css.RightParenthesisToken, css.RightBracketToken, css.RightBraceToken:
			depth = max(0, depth-1)
		}
		if t.kind != css.WhitespaceToken && t.kind != css.CommentToken {
			if from < 0 {
				from = t.from
			}
			to = t.to
		}
		s.at++
	}
}

func (s *sheetReader) atRule(parent *Node, depth int) {
	name := s.list[s.at]
	s.at++
	n := s.add(parent, AtRule, "", name.from, name.to)
	s.add(n, "name", "name", name.from, name.to)
	from, to, end := s.until(css.LeftBraceToken, css.SemicolonToken, css.RightBraceToken)
	if from >= 0 {
		s.add(n, "prelude", "prelude", from, to)
		n.To = to
	}
	switch end {
	case css.LeftBraceToken:
		s.block(n, depth)
	case css.SemicolonToken:
		n.To = s.list[s.at].to
		s.at++
	}
}

func (s *sheetReader) block(n *Node, depth int) {
	open := s.list[s.at]
	s.at++
	block := s.add(n, Block, "block", open.from, open.to)
	s.rules(block, depth+1)
	if t, ok := s.next(); ok {
		block.To = t.to
		s.at++
	} else {
		block.To = len(s.tree.Text)
		s.bad(n, n.From, n.To)
	}
	n.To = block.To
}

// ruleOrDeclaration tells them apart as CSS Syntax 3 does in a block: it is a declaration where a name and a colon begin it, unless what follows ends in a block of its
// own before a semicolon does.
func (s *sheetReader) ruleOrDeclaration(parent *Node, depth int) {
	start := s.at
	from, to, end := s.until(css.LeftBraceToken, css.SemicolonToken, css.RightBraceToken)
	if end == css.LeftBraceToken && !s.custom(start) {
		n := s.add(parent, Rule, "", max(from, 0), max(to, 0))
		if from >= 0 {
			s.add(n, "prelude", "prelude", from, to)
		} else {
			n.From, n.To = s.list[s.at].from, s.list[s.at].to
		}
		s.block(n, depth)
		return
	}
	s.at = start
	from, to, end = s.until(css.SemicolonToken, css.RightBraceToken)
	if s.at == start { // nothing that can be passed
		s.at++
		return
	}
	colon := -1
	for i := start; i < s.at; i++ {
		if s.list[i].kind == css.ColonToken {
			colon = i
			break
		}
	}
	kind := s.list[start].kind
	if colon < 0 || parent.Kind != Block || kind != css.IdentToken && kind != css.CustomPropertyNameToken {
		s.bad(parent, max(from, 0), to)
	} else {
		n := s.add(parent, Declaration, "", from, to)
		s.add(n, "property", "property", s.list[start].from, s.list[start].to)
		first := s.list[colon].to
		value := strings.TrimSpace(string(s.tree.Text[first:max(first, to)]))
		if value != "" {
			first += strings.Index(string(s.tree.Text[first:to]), value)
		}
		s.add(n, "value", "value", first, first+len(value))
	}
	if end == css.SemicolonToken {
		s.at++
	}
}

// custom tells whether a custom property begins there: it may hold blocks (CSS Variables 1, 2).
func (s *sheetReader) custom(at int) bool {
	return strings.HasPrefix(string(s.tree.Text[s.list[at].from:s.list[at].to]), "--")
}
