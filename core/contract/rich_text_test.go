package contract_test

import (
	"encoding/json"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
)

// The forms are of CommonMark 0.31: headings 4.2, emphasis 6.2, links 6.3, lists 5.3, raw HTML 6.6, autolinks 6.5.
func TestRichTextIsTyped(t *testing.T) {
	for typed, want := range map[string]string{
		"":                            `null`,
		"Mind the **canal**":          `[{"kind":"paragraph","runs":[{"text":"Mind the "},{"text":"canal","strong":true}]}]`,
		"# Water\n\nOn *Tuesdays*":    `[{"kind":"heading","level":1,"runs":[{"text":"Water"}]},{"kind":"paragraph","runs":[{"text":"On "},{"text":"Tuesdays","emphasis":true}]}]`,
		"- one\n- **two**\n  - three": `[{"kind":"item","runs":[{"text":"one"}]},{"kind":"item","runs":[{"text":"two","strong":true}]},{"kind":"item","runs":[{"text":"three"}]}]`,
		"[rota](/rota) and `code`":    `[{"kind":"paragraph","runs":[{"text":"rota","link":"/rota"},{"text":" and "},{"text":"code","code":true}]}]`,
		"***both***":                  `[{"kind":"paragraph","runs":[{"text":"both","strong":true,"emphasis":true}]}]`,
		"a\nb":                        `[{"kind":"paragraph","runs":[{"text":"a b"}]}]`,
		"a  \nb":                      `[{"kind":"paragraph","runs":[{"text":"a b"}]}]`,
		"<b>x</b>":                    `[{"kind":"paragraph","runs":[{"text":"\u003cb\u003ex\u003c/b\u003e"}]}]`,
		"<script>alert(1)</script>":   `[{"kind":"paragraph","runs":[{"text":"\u003cscript\u003ealert(1)\u003c/script\u003e"}]}]`,
		"> quoted":                    `[{"kind":"paragraph","runs":[{"text":"quoted"}]}]`,
		"<https://example.org/a>":     `[{"kind":"paragraph","runs":[{"text":"https://example.org/a","link":"https://example.org/a"}]}]`,
		"- a\n\n  b":                  `[{"kind":"item","runs":[{"text":"a"}]},{"kind":"paragraph","runs":[{"text":"b"}]}]`,
		"![a bed](bed.png)":           `[{"kind":"paragraph","runs":[{"text":"a bed"}]}]`,
		"***":                         `null`,
		"\\*not\\* &amp; so":          `[{"kind":"paragraph","runs":[{"text":"*not* \u0026 so"}]}]`,
	} {
		v, err := contract.ReadRich(typed)
		require.NoError(t, err)
		text, err := json.Marshal(v)
		require.NoError(t, err)
		assert.Equal(t, want, string(text), "%q is kept otherwise than it was typed", typed)
	}
	_, err := contract.ReadRich("[a](javascript:alert(1))")
	assert.ErrorContains(t, err, "may not lead to javascript:")
	_, err = contract.ReadRich(strings.Repeat("a", 20_001))
	assert.ErrorContains(t, err, "too long")
}

// What is written to be typed over is read as what it was.
func TestTypedRichTextIsReadAgain(t *testing.T) {
	r := rand.New(rand.NewPCG(17, 5))
	words := []string{"bed", "#1 plot", "1. first", "- dash", "a*b_c", "`tick`", "<b>", "[x]", "\\", "&amp;", "Straße", "+ more", "12) twelve", "!", "=", "~~~", "豆"}
	for range 3000 {
		var v contract.RichValue
		for range 1 + r.IntN(4) {
			b := contract.Block{Kind: contract.BlockKinds[r.IntN(3)]}
			if b.Kind == "heading" {
				b.Level = 1 + r.IntN(6)
			}
			for k := range 1 + r.IntN(4) {
				run := contract.Run{Text: words[r.IntN(len(words))]}
				if k%2 == 1 { // runs of one look are one, and marks that touch mean something else
					run.Strong, run.Emphasis, run.Code = r.IntN(2) == 0, r.IntN(3) == 0, r.IntN(3) == 0
					if r.IntN(3) == 0 {
						run.Link = "/a(b)<c>"
					}
					if run == (contract.Run{Text: run.Text}) {
						run.Strong = true
					}
				} else if k > 0 {
					run.Text = " " + run.Text
				}
				if k%2 == 0 {
					run.Text += " "
				}
				b.Runs = append(b.Runs, run)
			}
			last := &b.Runs[len(b.Runs)-1]
			if last.Text = strings.TrimRight(last.Text, " "); len(b.Runs)%2 == 1 && b.Kind == "heading" {
				last.Text += "." // a heading's end is closed by #
			}
			v = append(v, b)
		}
		got, err := contract.ReadRich(v.Typed())
		require.NoError(t, err)
		require.Equal(t, v, got, "%q", v.Typed())
	}
}

// Whatever is typed is kept, or refused: what is kept is rich text that a contract may hold.
func FuzzReadRich(f *testing.F) {
	for _, seed := range []string{"# a\n\n- b **c**", "[x](<y>)", "***a** b*", "<script>", "&#0;", "\\", "- - - a", "`` ` ``", strings.Repeat("> ", 50) + "a"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, typed string) {
		v, err := contract.ReadRich(typed)
		if err != nil || v == nil {
			return
		}
		text, err := json.Marshal(v)
		require.NoError(t, err)
		_, err = contract.Rich{}.Decode(text)
		require.NoError(t, err, "%q becomes what no contract may hold", typed)
	})
}
