// Package jsontree holds a JSON text as a tree that keeps what a map loses: the
// order of members, numbers as written, and where each value stands.
package jsontree

import (
	"bytes"
	"strconv"
	"strings"

	"github.com/go-json-experiment/json/jsontext"

	"cobrik/core/problem"
)

// Kind is a JSON value's kind (RFC 8259, section 3).
type Kind uint8

const (
	Null Kind = iota
	Bool
	Number
	String
	Array
	Object
)

var kindNames = [...]string{"null", "a boolean", "a number", "a string", "a list", "an object"}

// String names the kind for a message: "a number".
func (k Kind) String() string { return kindNames[k] }

// Node is one value. A tree that was read may be shared: change a Clone.
type Node struct {
	Kind     Kind
	Name     string  // its name in the object that holds it
	Text     string  // a string's content; a number, boolean or null as written
	Children []*Node // an object's members or a list's items, in order
	Offset   int     // byte at which the value begins; 0 when it was made here
}

// Get gives an object's member; nil when it is not there.
func (n *Node) Get(name string) *Node {
	if n == nil || n.Kind != Object {
		return nil
	}
	for _, c := range n.Children {
		if c.Name == name {
			return c
		}
	}
	return nil
}

// Float gives a number's value; false when it is not a finite number.
func (n *Node) Float() (float64, bool) {
	if n == nil || n.Kind != Number {
		return 0, false
	}
	f, err := strconv.ParseFloat(n.Text, 64)
	return f, err == nil
}

// At follows a JSON Pointer (RFC 6901); nil when it leads nowhere.
func (n *Node) At(pointer string) *Node {
	for _, step := range Steps(pointer) {
		n = n.Step(step)
	}
	return n
}

// Step goes to one member or item; nil when it is not there.
func (n *Node) Step(step string) *Node {
	if n != nil && n.Kind == Array {
		i, err := strconv.ParseUint(step, 10, 31)
		if err != nil || int(i) >= len(n.Children) || step != strconv.FormatUint(i, 10) {
			return nil
		}
		return n.Children[i]
	}
	return n.Get(step)
}

var unescape = strings.NewReplacer("~1", "/", "~0", "~")

// Steps parts a JSON Pointer into its unescaped reference tokens.
func Steps(pointer string) []string {
	if pointer == "" {
		return nil
	}
	steps := strings.Split(strings.TrimPrefix(pointer, "/"), "/")
	if strings.Contains(pointer, "~") {
		for i, s := range steps {
			steps[i] = unescape.Replace(s)
		}
	}
	return steps
}

// Short gives the value's text for a message, cut when long.
func (n *Node) Short() string {
	s := string(n.Append(nil, nil))
	if len(s) > 60 {
		return strings.ToValidUTF8(s[:60], "") + "…"
	}
	return s
}

// Clone copies a tree.
func (n *Node) Clone() *Node {
	c := *n
	c.Children = make([]*Node, len(n.Children))
	for i, child := range n.Children {
		c.Children[i] = child.Clone()
	}
	return &c
}

// Set puts a member into an object: in place of one of that name, else last.
func (n *Node) Set(name string, value *Node) {
	value.Name = name
	for i, c := range n.Children {
		if c.Name == name {
			n.Children[i] = value
			return
		}
	}
	n.Children = append(n.Children, value)
}

// Remove takes a member out of an object.
func (n *Node) Remove(name string) {
	for i, c := range n.Children {
		if c.Name == name {
			n.Children = append(n.Children[:i:i], n.Children[i+1:]...)
			return
		}
	}
}

// NewString makes a string.
func NewString(s string) *Node { return &Node{Kind: String, Text: s} }

// NewNumber makes a number, written the shortest way that reads back equal.
func NewNumber(f float64) *Node {
	if f == 0 {
		f = 0 // no negative zero
	}
	return &Node{Kind: Number, Text: strconv.FormatFloat(f, 'f', -1, 64)}
}

// NewBool makes a boolean.
func NewBool(b bool) *Node { return &Node{Kind: Bool, Text: strconv.FormatBool(b)} }

// NewObject makes an object of members made with Named.
func NewObject(members ...*Node) *Node { return &Node{Kind: Object, Children: members} }

// NewArray makes a list.
func NewArray(items ...*Node) *Node { return &Node{Kind: Array, Children: items} }

// Named gives a value its name in an object.
func (n *Node) Named(name string) *Node {
	n.Name = name
	return n
}

// Read reads a text as one JSON value. What is not JSON, a name that stands
// twice in an object, and what is past the limits is an error with its place.
func Read(file string, text []byte, limits problem.Limits) (*Node, problem.List) {
	r := reader{source: string(text), d: jsontext.NewDecoder(bytes.NewReader(text)), depth: limits.Depth}
	if len(text) <= limits.Bytes {
		if root, ok := r.value(1); ok && r.atEnd() {
			return root, nil
		}
	}
	// Said in words by the one place that words it.
	return nil, problem.CheckJSON(file, text, limits)
}

type reader struct {
	source string
	d      *jsontext.Decoder
	depth  int
	slab   []Node  // nodes are made many at a time
	links  []*Node // and so are lists of children
	open   []*Node // children of containers not yet closed
}

func (r *reader) atEnd() bool {
	return strings.TrimLeft(r.source[r.d.InputOffset():], " \t\r\n") == ""
}

func (r *reader) make() *Node {
	if len(r.slab) == 0 {
		r.slab = make([]Node, 256)
	}
	n := &r.slab[0]
	r.slab = r.slab[1:]
	return n
}

func (r *reader) take(from int) []*Node {
	count := len(r.open) - from
	if count == 0 {
		return nil
	}
	if len(r.links) < count {
		r.links = make([]*Node, max(256, count))
	}
	list := r.links[:count:count]
	r.links = r.links[count:]
	copy(list, r.open[from:])
	r.open = r.open[:from]
	return list
}

func (r *reader) value(depth int) (*Node, bool) {
	n := r.make()
	kind := r.d.PeekKind()
	if kind != '{' && kind != '[' {
		raw, err := r.d.ReadValue()
		if err != nil {
			return nil, false
		}
		return n, r.scalar(n, raw)
	}
	if _, err := r.d.ReadToken(); err != nil || depth > r.depth {
		return nil, false
	}
	n.Offset = int(r.d.InputOffset()) - 1
	from := len(r.open)
	if kind == '[' {
		n.Kind = Array
		for r.d.PeekKind() != ']' {
			item, ok := r.value(depth + 1)
			if !ok {
				return nil, false
			}
			r.open = append(r.open, item)
		}
	} else {
		n.Kind = Object
		for r.d.PeekKind() != '}' {
			name, ok := r.text()
			if !ok {
				return nil, false
			}
			member, ok := r.value(depth + 1)
			if !ok {
				return nil, false
			}
			member.Name = name
			r.open = append(r.open, member)
		}
	}
	if _, err := r.d.ReadToken(); err != nil {
		return nil, false
	}
	n.Children = r.take(from)
	return n, true
}

// text reads a string; one without escapes shares the source's memory.
func (r *reader) text() (string, bool) {
	raw, err := r.d.ReadValue()
	if err != nil || raw.Kind() != '"' {
		return "", false
	}
	end := int(r.d.InputOffset())
	if bytes.IndexByte(raw, '\\') < 0 {
		return r.source[end-len(raw)+1 : end-1], true
	}
	s, err := jsontext.AppendUnquote(nil, raw)
	return string(s), err == nil
}

func (r *reader) scalar(n *Node, raw jsontext.Value) bool {
	end := int(r.d.InputOffset())
	n.Offset = end - len(raw)
	n.Text = r.source[n.Offset:end]
	switch raw.Kind() {
	case '"':
		n.Kind = String
		if strings.IndexByte(n.Text, '\\') < 0 {
			n.Text = n.Text[1 : len(n.Text)-1]
			return true
		}
		s, err := jsontext.AppendUnquote(nil, raw)
		n.Text = string(s)
		return err == nil
	case '0':
		n.Kind = Number
	case 't', 'f':
		n.Kind = Bool
	}
	return true
}
