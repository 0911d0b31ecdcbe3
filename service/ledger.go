package service

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"sync"

	"cobrik/core/draft"
	"cobrik/core/ledger"
	"cobrik/store"
)

// LedgerView is the ledger of all cases.
type LedgerView struct {
	Build    string        `json:"build"`
	Theme    string        `json:"theme"`
	Measured bool          `json:"measured" doc:"The built side is measured from this build"`
	Cases    []CaseLedger  `json:"cases"`
	Facts    int           `json:"facts"`
	Differs  int           `json:"differs"`
	Themes   []ThemeLedger `json:"themes" doc:"What all themes come to, in their order"`
}

// ThemeLedger is what the ledger of a theme comes to.
type ThemeLedger struct {
	Name     string `json:"name"`
	Measured bool   `json:"measured"`
	Facts    int    `json:"facts"`
	Differs  int    `json:"differs"`
}

// CaseLedger is the ledger of one case.
type CaseLedger struct {
	Key      string         `json:"key"`
	Verdict  ledger.Verdict `json:"verdict" enum:"agree,design moved,contract moved,code moved,several moved,missing" doc:"The gravest of its facts"`
	Measured bool           `json:"measured" doc:"False for a case that did not run, though others did"`
	Differs  int            `json:"differs"`
	Facts    []ledger.Fact  `json:"facts"`
}

// Ledger compares all cases in a theme, with what the browser last measured of this build.
func (s *Service) Ledger(ctx context.Context, slug, theme string) (LedgerView, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return LedgerView{}, err
	}
	in, err := w.library.theme(theme)
	if err != nil {
		return LedgerView{}, err
	}
	m, err := s.store.Measurement(ctx, w.row.ID)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return LedgerView{}, err
	}
	var measured []ledger.Measurement
	if err == nil && m.Build == w.build {
		if err := json.Unmarshal(m.Measured, &measured); err != nil {
			return LedgerView{}, err
		}
	}
	return w.ledgerView(measured, in), nil
}

// Measured takes what the browser measured in all themes, keeps it and compares it in one. What
// was measured of another build is refused: the contract changed meanwhile.
func (s *Service) Measured(ctx context.Context, slug, build, theme string, measured []ledger.Measurement) (LedgerView, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return LedgerView{}, err
	}
	if build != w.build {
		return LedgerView{}, &Failure{Kind: Conflict, Message: "The contract or the tokens changed while this was measured."}
	}
	in, err := w.library.theme(theme)
	if err != nil {
		return LedgerView{}, err
	}
	known := map[string]bool{}
	for _, k := range append(slices.Clone(w.cases()), w.savedCases()...) {
		known[w.keyOf(k)] = true
	}
	measured = slices.DeleteFunc(measured, func(m ledger.Measurement) bool { return !known[m.Case] })
	view := w.ledgerView(measured, in)
	facts, differing := 0, 0
	for _, t := range view.Themes {
		facts, differing = facts+t.Facts, differing+t.Differs
	}
	text, err := json.Marshal(measured)
	if err != nil {
		return LedgerView{}, err
	}
	return view, s.store.PutMeasurement(ctx, w.row.ID, store.Measurement{Build: build, Measured: text, Facts: facts, Differing: differing})
}

// gravity orders verdicts for a case's own.
var gravity = []ledger.Verdict{ledger.Agree, ledger.ContractMoved, ledger.DesignMoved, ledger.CodeMoved, ledger.Missing, ledger.SeveralMoved}

func (w *component) ledgerView(measured []ledger.Measurement, theme int) LedgerView {
	out := LedgerView{Build: w.build, Theme: themeName(w.library.themes[theme]), Cases: []CaseLedger{}, Themes: []ThemeLedger{}}
	cases, saved := w.cases(), w.savedCases()
	lists := make([][]CaseLedger, len(w.library.themes))
	var each sync.WaitGroup // themes have nothing to do with each other
	for i, t := range w.library.themes {
		each.Go(func() {
			byCase := measuredIn(measured, themeName(t), i == 0)
			lists[i] = w.caseLedgers(w.ledgerIn(w.contract, w.kept, w.library.ledgerTheme(i)), cases, byCase)
			lists[i] = append(lists[i], w.caseLedgers(w.savedLedger(w.library.ledgerTheme(i)), saved, byCase)...)
		})
	}
	each.Wait()
	for i, t := range w.library.themes {
		list, byCase := lists[i], measuredIn(measured, themeName(t), i == 0)
		one := ThemeLedger{Name: themeName(t), Measured: len(byCase) > 0}
		for _, k := range list {
			one.Facts, one.Differs = one.Facts+len(k.Facts), one.Differs+k.Differs
		}
		out.Themes = append(out.Themes, one)
		if i == theme {
			out.Cases, out.Measured, out.Facts, out.Differs = list, one.Measured, one.Facts, one.Differs
		}
	}
	return out
}

// caseLedgers compares every case.
func (w *component) caseLedgers(l *ledger.Ledger, cases []draft.Case, measured map[string]*ledger.Measurement) []CaseLedger {
	out := []CaseLedger{}
	for _, k := range cases {
		one := CaseLedger{Key: w.keyOf(k), Verdict: ledger.Agree, Facts: []ledger.Fact{}}
		one.Measured = measured[one.Key] != nil
		if len(k.New) > 0 {
			one.Verdict = ledger.DesignMoved
			one.Differs = 1
		} else {
			one.Facts = l.Facts(k, measured[one.Key])
		}
		for _, f := range one.Facts {
			if f.Verdict != ledger.Agree {
				one.Differs++
			}
			if slices.Index(gravity, f.Verdict) > slices.Index(gravity, one.Verdict) {
				one.Verdict = f.Verdict
			}
		}
		out = append(out, one)
	}
	return out
}
