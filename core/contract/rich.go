package contract

import (
	"fmt"
	"slices"
	"strings"
)

// Block is one block of rich text. A RichValue is either blocks of a kind, or a single
// one without, which stands in a line.
type Block struct {
	Kind  string `json:"kind,omitempty"`  // one of BlockKinds; empty in a line
	Level int    `json:"level,omitempty"` // of a heading: 1 to 6
	Runs  []Run  `json:"runs"`
}

// Run is a piece of text of one look.
type Run struct {
	Text     string `json:"text"`
	Strong   bool   `json:"strong,omitempty"`
	Emphasis bool   `json:"emphasis,omitempty"`
	Code     bool   `json:"code,omitempty"`
	Link     string `json:"link,omitempty"` // where it leads
}

// BlockKinds are the kinds of blocks: what follows another item stands in its list.
var BlockKinds = []string{"paragraph", "heading", "item"}

func (b Block) text() string {
	var out strings.Builder
	for _, r := range b.Runs {
		out.WriteString(r.Text)
	}
	return out.String()
}

// Inline tells whether the text stands in a line, without blocks.
func (v RichValue) Inline() bool { return len(v) == 1 && v[0].Kind == "" }

// Plain makes rich text of plain text, in a line.
func Plain(text string) RichValue { return RichValue{{Runs: []Run{{Text: text}}}} }

// limits of rich text, over all its blocks
const (
	mostBlocks   = 500
	mostRuns     = 5000
	longestValue = 20_000 // bytes of a text
)

// flaw says what is wrong with rich text; nil for nothing.
func (v RichValue) flaw() error {
	runs, size := 0, 0
	for i, b := range v {
		switch {
		case b.Kind == "" && len(v) > 1:
			return fmt.Errorf("block %d has no kind; only a text of one block stands in a line", i+1)
		case b.Kind != "" && !slices.Contains(BlockKinds, b.Kind):
			return fmt.Errorf("block %d is of no known kind: %q; expected %s", i+1, b.Kind, strings.Join(BlockKinds, ", "))
		case (b.Kind == "heading") != (b.Level >= 1 && b.Level <= 6) || b.Kind != "heading" && b.Level != 0:
			return fmt.Errorf("block %d: a heading has a level from 1 to 6, and nothing else has one", i+1)
		}
		runs += len(b.Runs)
		for _, r := range b.Runs {
			size += len(r.Text)
			if r.Link == "" {
				continue
			}
			if err := checkAddress(r.Link); err != nil {
				return err
			}
		}
	}
	if len(v) > mostBlocks || runs > mostRuns || size > longestValue {
		return fmt.Errorf("the text is too long: up to %d blocks, %d runs and %d bytes", mostBlocks, mostRuns, longestValue)
	}
	return nil
}
