package syntax

import (
	"context"

	sitter "github.com/smacker/go-tree-sitter"
	"github.com/smacker/go-tree-sitter/typescript/tsx"

	"cobrik/core/problem"
)

// TSX reads TypeScript or JavaScript, with JSX. Where it is no valid program, the first place that is not is an error; the tree holds the rest.
func TSX(name string, text []byte) (*Tree, problem.List) {
	if bad := readable(name, text); bad != nil {
		return nil, problem.List{*bad}
	}
	parser := sitter.NewParser()
	defer parser.Close()
	parser.SetLanguage(tsx.GetLanguage())
	parsed, err := parser.ParseCtx(context.Background(), nil, text)
	if err != nil {
		return nil, problem.List{{File: name, Rule: "source-syntax", Severity: problem.Error, Message: "the file could not be read: " + err.Error()}}
	}
	defer parsed.Close()
	t := &Tree{Name: name, Text: text}
	c := converter{tree: t, cursor: sitter.NewTreeCursor(parsed.RootNode())}
	defer c.cursor.Close()
	t.Root = c.node(nil, 0)
	if c.tooMuch {
		return nil, problem.List{{File: name, Rule: "source-file", Severity: problem.Error, Message: "the file is nested too deeply, or holds too much, and was not read", Fix: "split it"}}
	}
	if c.wrong != nil {
		return t, problem.List{c.wrong.Problem(problem.Error, "source-syntax", "a piece of the file is no TypeScript that is known here", "look whether it is valid; the rest of the file was read")}
	}
	return t, nil
}

// converter makes nodes of the parser's, once, so that nothing of it has to be kept.
type converter struct {
	tree    *Tree
	cursor  *sitter.TreeCursor
	count   int
	tooMuch bool
	wrong   *Node // the first that is no valid syntax
}

func (c *converter) node(parent *Node, depth int) *Node {
	from := c.cursor.CurrentNode()
	n := &Node{Kind: from.Type(), Field: c.cursor.CurrentFieldName(), Named: from.IsNamed(), From: int(from.StartByte()), To: int(from.EndByte()), Parent: parent, Tree: c.tree}
	if c.count++; c.count > MaxNodes || depth > MaxDepth {
		c.tooMuch = true
		return n
	}
	if (from.IsMissing() || n.Kind == "ERROR") && c.wrong == nil {
		c.wrong = n
	}
	if !c.cursor.GoToFirstChild() {
		return n
	}
	for ok := true; ok && !c.tooMuch; ok = c.cursor.GoToNextSibling() {
		n.Children = append(n.Children, c.node(n, depth+1))
	}
	c.cursor.GoToParent()
	return n
}
