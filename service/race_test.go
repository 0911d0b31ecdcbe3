package service_test

import (
	"encoding/json"
	"errors"
	"net/http"
	"net/http/httptest"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/sheet"
	"cobrik/core/token/output"
	"cobrik/demo/story"
	"cobrik/service"
	"cobrik/store"
)

func contractOf(t *testing.T, s *service.Service) *contract.Contract {
	t.Helper()
	text, err := s.ContractJSON(t.Context(), "crop-tag")
	require.NoError(t, err)
	c := new(contract.Contract)
	require.NoError(t, json.Unmarshal(text, c))
	return c
}

// A write that names a revision which is not there yet would come true the moment somebody else makes it, and undo theirs.
func TestARevisionThatIsNotThereYetIsStale(t *testing.T) {
	s := withTag(t)
	bench, err := s.Bench(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	ahead, tokens := bench.Revision+1, number(t, s)+1
	root := contractOf(t, s).Root.ID
	for name, write := range map[string]func() error{
		"edit": func() error {
			_, err := s.Edit(t.Context(), "crop-tag", ahead, []service.ValueEdit{{Part: root, Property: "opacity", Value: "0.5"}})
			return err
		},
		"amend": func() error {
			_, err := s.Amend(t.Context(), "crop-tag", ahead, sheet.Edit{Do: "set", On: "name", Text: "Other"})
			return err
		},
		"undo":    func() error { _, err := s.Undo(t.Context(), "crop-tag", ahead, store.Backward); return err },
		"release": func() error { return story.Release(t.Context(), s, "crop-tag", ahead, "Small", "", "known") },
		"decide": func() error {
			_, err := s.Decide(t.Context(), "crop-tag", service.Decision{Revision: ahead, Design: 1})
			return err
		},
		"tokens": func() error {
			_, err := s.EditTokens(t.Context(), tokens, []service.TokenEdit{{Kind: "set", Path: "leaf.700", Text: "#123456"}})
			return err
		},
		"undo tokens": func() error { _, err := s.UndoTokens(t.Context(), tokens, store.Backward); return err },
		"output": func() error {
			_, err := s.SaveOutput(t.Context(), tokens, "", output.Output{File: "x.css", Language: "css"})
			return err
		},
		"remove file": func() error { _, err := s.RemoveTokenFile(t.Context(), tokens, "dusk.tokens.json"); return err },
		"rename file": func() error {
			_, err := s.RenameTokenFile(t.Context(), tokens, "dusk.tokens.json", "night.tokens.json")
			return err
		},
	} {
		err := write()
		var f *service.Failure
		if assert.True(t, errors.As(err, &f), "%s: %v", name, err) {
			assert.Equal(t, service.Conflict, f.Kind, "%s: %v", name, err)
		}
	}
}

// Whoever guesses the next revision while another writes does not write over what the other wrote meanwhile.
func TestAGuessedRevisionLosesNothing(t *testing.T) {
	s := withTag(t)
	root := contractOf(t, s).Root.ID
	var both sync.WaitGroup
	both.Add(2)
	done := make(chan struct{})
	go func() {
		defer both.Done()
		defer close(done)
		last := ""
		for n := range 60 {
			if last != "" {
				assert.Equal(t, last, contractOf(t, s).Root.Style["opacity"], "an edit that was kept is gone")
			}
			bench, err := s.Bench(t.Context(), "crop-tag", "")
			if !assert.NoError(t, err) {
				return
			}
			value := "0." + string(rune('1'+n%8))
			if _, err = s.Edit(t.Context(), "crop-tag", bench.Revision, []service.ValueEdit{{Part: root, Property: "opacity", Value: value}}); err == nil {
				last = value
			}
		}
		assert.NotEmpty(t, last)
	}()
	go func() {
		defer both.Done()
		for n := 0; ; n++ {
			select {
			case <-done:
				return
			default:
			}
			now, err := s.Bench(t.Context(), "crop-tag", "")
			if !assert.NoError(t, err) {
				return
			}
			_, err = s.Edit(t.Context(), "crop-tag", now.Revision+1, []service.ValueEdit{{Part: root, Property: "rotate", Value: string(rune('1'+n%8)) + "deg"}})
			var f *service.Failure
			assert.True(t, err == nil || errors.As(err, &f) && f.Kind == service.Conflict, "%v", err)
		}
	}()
	both.Wait()
}

// Whoever renames a token while another edits a contract, again and again: no contract ever names a token that is not there.
func TestTokensAreRenamedWhileContractsAreEdited(t *testing.T) {
	s := withTag(t)
	names := [2]string{"leaf.700", "leaf.seven"}
	root := contractOf(t, s).Root.ID
	const rounds = 40
	var both sync.WaitGroup
	both.Add(2)
	kept, renames := 0, 0
	go func() {
		defer both.Done()
		for n := range rounds {
			if _, err := s.EditTokens(t.Context(), number(t, s), []service.TokenEdit{{Kind: "rename", Path: names[n%2], To: names[1-n%2]}}); assert.NoError(t, err) {
				renames++
			}
		}
	}()
	go func() {
		defer both.Done()
		for n := range rounds {
			bench, err := s.Bench(t.Context(), "crop-tag", "")
			if !assert.NoError(t, err) {
				return
			}
			value := "{" + names[n%2] + "}"
			if n%3 == 2 {
				value = "#ffffff" // so that not every rename finds it there
			}
			_, err = s.Edit(t.Context(), "crop-tag", bench.Revision, []service.ValueEdit{{Part: root, Property: "border-color", Value: value}})
			var f *service.Failure
			switch {
			case err == nil:
				kept++
			case errors.As(err, &f) && (f.Kind == service.Conflict || f.Kind == service.Invalid): // the other came first
			default:
				assert.NoError(t, err)
			}
		}
	}()
	both.Wait()
	assert.Equal(t, rounds, renames, "renames give way to edits")
	assert.Positive(t, kept)
	if value := contractOf(t, s).Root.Style["border-color"]; value == "{"+names[0]+"}" || value == "{"+names[1]+"}" {
		_, err := s.Token(t.Context(), value[1:len(value)-1])
		assert.NoError(t, err, "the contract says %s, which is gone", value)
	}
	bench, err := s.Bench(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	_, err = s.Edit(t.Context(), "crop-tag", bench.Revision, []service.ValueEdit{{Part: root, Property: "opacity", Value: "0.9"}})
	assert.NoError(t, err, "the contract is not valid any more")
}

// A host that sends elsewhere could have what only this machine reaches fetched for it.
func TestAHostThatSendsElsewhereIsNotFollowed(t *testing.T) {
	asked := false
	private := httptest.NewServer(http.HandlerFunc(func(http.ResponseWriter, *http.Request) { asked = true }))
	defer private.Close()
	to := ""
	host := http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if to != "" {
			http.Redirect(w, r, to+r.URL.Path, http.StatusFound)
			return
		}
		demoHost(t).ServeHTTP(w, r)
	})
	s := seeded(t, host)
	to = private.URL
	_, err := s.Fetch(t.Context())
	assert.False(t, asked, "an address elsewhere was asked")
	assert.ErrorContains(t, err, "is not followed")
}
