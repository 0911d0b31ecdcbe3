package service

import (
	"bytes"
	"compress/gzip"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"time"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/start"
	"cobrik/core/survey"
	"cobrik/store"
)

// longDocument is how many layers a document has that is read in the background: a third of a second's work. What is shorter is
// read when it is asked for.
const longDocument = 20_000

// UnderWay is how far the reading of a long document is.
type UnderWay struct {
	Document string  `json:"document"`
	Name     string  `json:"name" doc:"Of the document"`
	Revision int     `json:"revision"`
	State    string  `json:"state" enum:"waiting,running,stopped,failed"`
	Step     string  `json:"step" doc:"What is done now"`
	Share    float64 `json:"share" doc:"Of all that there is to do, 0 to 1"`
	Trouble  string  `json:"trouble" doc:"Why it failed"`
	Earlier  bool    `json:"earlier" doc:"What is shown meanwhile was read before the last changes"`
}

func underWay(r store.Reading) *UnderWay {
	return &UnderWay{Document: r.Document, Name: r.Name, Revision: r.Revision, State: r.State, Step: r.Step, Share: r.Share, Trouble: r.Trouble}
}

// inputs are what a reading depends on.
type inputs struct {
	rows    []store.Component
	off     []string
	name    string // of all of it
	options survey.Options
}

// readingInputs says what a revision is held against now.
func (s *Service) readingInputs(ctx context.Context, doc *design.Document, number int) (out inputs, err error) {
	if out.rows, err = s.store.Components(ctx); err != nil {
		return out, err
	}
	if out.off, err = s.store.RulesOff(ctx); err != nil {
		return out, err
	}
	o := &out.options
	if o.Planned, err = s.store.Planned(ctx); err != nil {
		return out, err
	}
	if o.Marked, err = s.store.Marked(ctx, doc.ID); err != nil {
		return out, err
	}
	joined, err := s.store.Joined(ctx, doc.ID)
	if err != nil {
		return out, err
	}
	for _, j := range joined {
		o.Joined = append(o.Joined, survey.Joined(j))
	}
	l, err := s.library(ctx)
	if err != nil {
		return out, err
	}
	o.Tokens, o.Off = l.tokens(), map[string]bool{}
	for _, rule := range out.off {
		o.Off[rule] = true
	}
	for _, row := range out.rows {
		c, err := recalled(&s.memo, fmt.Sprint("contract ", row.ID, " ", row.Revision), func() (*contract.Contract, error) { return contractOf(row) })
		if err != nil {
			return out, err
		}
		o.Known.Contracts = append(o.Known.Contracts, c)
	}
	for _, one := range start.All(l.tokens()) {
		o.Known.Starts = append(o.Known.Starts, one.Contract)
	}
	sum := sha256.Sum256(fmt.Appendf(nil, "%s\n%d\n%d\n%q\n%q\n%q\n%q\n%s", doc.Name, number, l.state.Number, out.off, o.Planned, o.Marked, o.Joined, o.Known.Key()))
	out.name = hex.EncodeToString(sum[:])
	return out, nil
}

// readRevision reads a revision: a short one now; of a long one what was read in the background, which is begun where that is not
// of what it is held against now.
func (s *Service) readRevision(ctx context.Context, doc *design.Document, number int) (*surveyed, error) {
	in, err := s.readingInputs(ctx, doc, number)
	if err != nil {
		return nil, err
	}
	out := &surveyed{doc: doc, number: number, rows: in.rows, off: in.off}
	memo := func(name string) string { return fmt.Sprint("survey ", s.store.Scope.Project, " ", doc.ID, " ", name) }
	if number == 0 || doc.Count() < longDocument {
		out.reading, err = recalled(&s.memo, memo(in.name), func() (survey.Reading, error) { return survey.Read(doc, in.options), nil })
		return out, err
	}
	kept := func(name string) (survey.Reading, error) {
		return recalled(&s.memo, memo(name), func() (out survey.Reading, err error) {
			content, err := s.store.ReadingContent(ctx, doc.ID, number, name)
			if err != nil {
				return out, err
			}
			return out, unpack(content, &out)
		})
	}
	if out.reading, err = kept(in.name); !errors.Is(err, store.ErrNotFound) {
		return out, err
	}
	row, err := s.store.WantReading(ctx, doc.ID, number, in.name, false)
	if err != nil {
		return nil, err
	}
	out.under = underWay(row)
	if row.Made != "" {
		if out.reading, err = kept(row.Made); err == nil {
			out.under.Earlier = true
			return out, nil
		}
		if !errors.Is(err, store.ErrNotFound) { // another came meanwhile
			return nil, err
		}
	}
	out.reading = survey.Reading{Families: make([]survey.FamilyUses, len(doc.Families)), Plan: survey.Plan{Cycles: [][]string{}}, Widths: []survey.PageWidths{}}
	return out, nil
}

func pack(v any) ([]byte, error) {
	var b bytes.Buffer
	w, err := gzip.NewWriterLevel(&b, gzip.BestSpeed)
	if err != nil {
		return nil, err
	}
	if err := json.NewEncoder(w).Encode(v); err != nil {
		return nil, err
	}
	if err := w.Close(); err != nil {
		return nil, err
	}
	return b.Bytes(), nil
}

func unpack(content []byte, to any) error {
	r, err := gzip.NewReader(bytes.NewReader(content))
	if err != nil {
		return err
	}
	text, err := io.ReadAll(r)
	if err != nil {
		return err
	}
	return json.Unmarshal(text, to)
}

// tellEvery is how often it is said how far a reading is.
const tellEvery = 250 * time.Millisecond

// readInBackground carries out a job: reads a revision against what there is now, and keeps what was read.
func (s *Service) readInBackground(ctx context.Context, job store.ReadingJob) error {
	text, err := s.store.RevisionContent(ctx, job.Document, job.Revision)
	if errors.Is(err, store.ErrNotFound) {
		return nil // gone
	}
	if err != nil {
		return err
	}
	doc, err := design.Decode(text)
	if err != nil {
		return err
	}
	if d, err := s.store.Document(ctx, job.Document); err == nil {
		doc.Name = d.Name
	}
	in, err := s.readingInputs(ctx, doc, job.Revision)
	if err != nil {
		return err
	}
	var told time.Time
	in.options.Reached = func(step survey.Step) bool {
		if time.Since(told) < tellEvery {
			return true
		}
		told = time.Now()
		wanted, failed := s.store.Reached(ctx, job, in.name, step.Name, step.Share)
		err = failed
		return wanted && failed == nil
	}
	reading, all := survey.ReadOn(doc, in.options)
	if !all || err != nil {
		return err
	}
	content, err := pack(reading)
	if err != nil {
		return err
	}
	return s.store.KeepReading(ctx, job, content)
}

// Readings lists the readings that are under way.
func (s *Service) Readings(ctx context.Context) ([]UnderWay, error) {
	list, err := s.store.Readings(ctx)
	out := []UnderWay{}
	for _, r := range list {
		out = append(out, *underWay(r))
	}
	return out, err
}

// StopReading ends the reading of a revision, or begins it again.
func (s *Service) StopReading(ctx context.Context, document string, revision int, stop bool) error {
	if stop {
		return s.store.StopReading(ctx, document, revision)
	}
	doc, number, err := s.document(ctx, document)
	if err != nil {
		return err
	}
	if revision != number {
		return &Failure{Kind: Conflict, Message: fmt.Sprintf("%s is at revision %d by now.", doc.Name, number)}
	}
	in, err := s.readingInputs(ctx, doc, number)
	if err != nil {
		return err
	}
	_, err = s.store.WantReading(ctx, document, number, in.name, true)
	return err
}
