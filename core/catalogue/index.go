// Package catalogue is what a published library says of its components: what they are found by, and what differs between
// their versions for those who use them.
package catalogue

import (
	"cmp"
	"maps"
	"slices"
	"strings"
	"unicode"

	"cobrik/core/contract"
)

// Field is what of a component a word stands in.
type Field string

const (
	InName    Field = "name"
	InSynonym Field = "synonym" // another word of the trade for what it is
	InShelf   Field = "shelf"
	InProp    Field = "prop"
	InOption  Field = "option"
	InState   Field = "state"
	InPurpose Field = "purpose"
	InPart    Field = "part"
	InToken   Field = "token"
	InText    Field = "text"
)

// Fields lists the fields, what says most of a component first.
var Fields = []Field{InName, InSynonym, InShelf, InProp, InOption, InPurpose, InState, InPart, InToken, InText}

// weights say how much a word in a field counts: common practice, no source.
var weights = map[Field]float64{InName: 100, InSynonym: 60, InShelf: 45, InProp: 40, InOption: 36, InPurpose: 30, InState: 24, InPart: 18, InToken: 16, InText: 14}

// Weights gives how much a word counts in each field, in the order of Fields.
func Weights() (out []float64) {
	for _, f := range Fields {
		out = append(out, weights[f])
	}
	return out
}

// Term is a word that a component is found by: in lower case, the field it stands in and what stands there.
type Term struct {
	Word  string `json:"word"`
	Field Field  `json:"field"`
	Said  string `json:"said"`
}

// longestSaid bounds what of a text is told as the reason of a hit, in letters.
const longestSaid = 60

// ShelfTerms lists what all of a shelf are found by.
func ShelfTerms(shelf string) []Term {
	t := terms{seen: map[Term]bool{}}
	t.add(InShelf, shelf, shelf)
	return t.list
}

// Terms lists what a component is found by, each word once a field.
func Terms(c *contract.Contract) []Term {
	t := terms{seen: map[Term]bool{}}
	t.add(InName, c.Name, c.Name)
	t.synonyms(c)
	c.EachProp(func(_ string, p *contract.Prop) {
		t.add(InProp, p.Name, p.Name)
		for _, o := range p.Options() {
			t.add(InOption, o, p.Name+" "+o)
		}
		if icon, ok := p.Type.(contract.Icon); ok {
			for _, name := range icon.Names() {
				t.add(InOption, name, p.Name+" "+name)
			}
		}
		t.add(InPurpose, p.Purpose, p.Purpose)
		for _, v := range []contract.Value{p.Type.Default(), p.Example} {
			switch v.(type) {
			case contract.TextValue, contract.RichValue:
				t.add(InText, v.String(), v.String())
			}
		}
	})
	t.add(InPurpose, c.Purpose, c.Purpose)
	for _, note := range append(slices.Concat(c.Do, c.Dont), c.Notes.String()) {
		t.add(InPurpose, note, note)
	}
	for _, state := range c.AskedStates() {
		t.add(InState, state, state)
	}
	c.Walk(func(p, parent *contract.Part) {
		if parent != nil {
			t.add(InPart, p.Name, p.Name)
		}
		switch content := p.Content.(type) {
		case contract.FixedText:
			t.add(InText, content.Text, content.Text)
		case *contract.Use:
			t.add(InPart, content.Component, content.Component)
		}
	})
	for _, path := range c.Tokens() {
		t.add(InToken, path, path)
	}
	return t.list
}

type terms struct {
	list []Term
	seen map[Term]bool
}

// add takes every word of a text, and a name of several words as it is typed: plotcard, space.2.
func (t *terms) add(field Field, text, said string) {
	if letters := []rune(said); len(letters) > longestSaid {
		said = strings.TrimSpace(string(letters[:longestSaid-1])) + "…"
	}
	words := contract.Words(text)
	if whole := strings.ToLower(text); len(words) > 1 && !strings.ContainsFunc(whole, unicode.IsSpace) {
		words = append(words, whole)
	}
	for _, word := range words {
		once := Term{Word: word, Field: field}
		if !t.seen[once] {
			t.seen[once] = true
			t.list = append(t.list, Term{word, field, said})
		}
	}
}

// Index finds components by words.
type Index struct {
	Names []string             `json:"names"` // of the components, as they are ranked when nothing else tells them apart
	Words map[string][]Posting `json:"words"`
	list  []string             // the words in order
}

// Posting says that a word stands in a component: by the places of the component in Names and of the field in Fields.
type Posting struct {
	Component int    `json:"c"`
	Field     int    `json:"f"`
	Said      string `json:"s"`
}

// NewIndex makes an index of components' terms.
func NewIndex(names []string, terms [][]Term) *Index {
	x := &Index{Names: names, Words: map[string][]Posting{}}
	for i, list := range terms {
		for _, t := range list {
			x.Words[t.Word] = append(x.Words[t.Word], Posting{i, slices.Index(Fields, t.Field), t.Said})
		}
	}
	x.list = slices.Sorted(maps.Keys(x.Words))
	return x
}

// Hit is a component that has every word asked for.
type Hit struct {
	Component int      `json:"component"` // its place among the names of the index
	Score     float64  `json:"score"`
	Why       []Reason `json:"why"` // for each word asked for
}

// Reason says where a word asked for stands.
type Reason struct {
	Word  string `json:"word"`
	Field Field  `json:"field"`
	Said  string `json:"said"`
}

// How well a word asked for fits one that stands there.
const (
	fitsWhole  = 1.0
	fitsBegins = 0.8
	fitsInside = 0.4
	// leastInside is how many letters a word has at least that is looked for inside of others.
	leastInside = 3
)

// fit tells how well a word fits another; of an English plural the singular does, too.
func fit(asked, word string) float64 {
	best := 0.0
	for _, a := range []string{asked, singular(asked)} {
		switch {
		case a == word:
			best = max(best, fitsWhole)
		case strings.HasPrefix(word, a):
			best = max(best, fitsBegins)
		case len(a) >= leastInside && strings.Contains(word, a):
			best = max(best, fitsInside)
		}
	}
	return best
}

func singular(word string) string {
	if len(word) > 3 && strings.HasSuffix(word, "s") && !strings.HasSuffix(word, "ss") {
		return strings.TrimSuffix(word, "s")
	}
	return word
}

// Find ranks the components that have every word of a text, the best first; all of them, by name, for none.
func (x *Index) Find(text string) []Hit {
	asked := strings.Fields(strings.ToLower(text)) // a token's name is one word
	hits := make([]Hit, len(x.Names))
	for i := range hits {
		hits[i] = Hit{Component: i, Why: []Reason{}}
	}
	for _, a := range asked {
		best := map[int]Posting{}
		scores := map[int]float64{}
		for _, word := range x.list {
			f := fit(a, word)
			if f == 0 {
				continue
			}
			for _, p := range x.Words[word] {
				if score := f * weights[Fields[p.Field]]; score > scores[p.Component] {
					best[p.Component], scores[p.Component] = p, score
				}
			}
		}
		hits = slices.DeleteFunc(hits, func(h Hit) bool { return scores[h.Component] == 0 })
		for i := range hits {
			p := best[hits[i].Component]
			hits[i].Score += scores[hits[i].Component]
			hits[i].Why = append(hits[i].Why, Reason{a, Fields[p.Field], p.Said})
		}
	}
	slices.SortStableFunc(hits, func(a, b Hit) int { return cmp.Compare(b.Score, a.Score) })
	return hits
}
