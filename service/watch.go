package service

import (
	"context"
	"errors"
	"log/slog"
	"time"

	"cobrik/store"
)

// WatchView is how often something outside is asked whether it moved.
type WatchView struct {
	Subject string     `json:"subject" enum:"design,code"`
	Every   int        `json:"every" doc:"Seconds; 0 for never"`
	Next    *time.Time `json:"next,omitempty" doc:"When it is asked again; none for never"`
	Asked   *time.Time `json:"asked,omitempty"`
	Running bool       `json:"running" doc:"It is being asked"`
	Failed  int        `json:"failed" doc:"How often in a row it did not answer"`
}

// Watches lists what is watched: the design host, and the repository, where there are such.
func (s *Service) Watches(ctx context.Context) ([]WatchView, error) {
	rows, err := s.store.Watches(ctx)
	out := []WatchView{}
	for _, w := range rows {
		if w.Subject == designSubject && s.host == nil {
			continue
		}
		one := WatchView{Subject: w.Subject, Every: w.Every, Asked: w.Asked, Running: w.Running != nil, Failed: w.Failed}
		if w.Every > 0 {
			one.Next = &w.Next
		}
		out = append(out, one)
	}
	return out, err
}

// What is watched.
const (
	designSubject = "design"
	codeSubject   = "code"
)

// SetWatch says how often something is asked, seconds; 0 for never.
func (s *Service) SetWatch(ctx context.Context, subject string, every int) error {
	if every != 0 && every < 5 {
		return invalid(nil, "Every five seconds is as often as it is asked.")
	}
	return s.store.SetWatch(ctx, subject, every)
}

// Noticed has the design host asked at once, for it said that it moved.
func (s *Service) Noticed(ctx context.Context) error { return s.store.Notice(ctx, designSubject) }

// watched asks what is watched, and notes how far all agree then.
func (s *Service) watched(ctx context.Context, subject string) error {
	var err error
	switch {
	case subject == designSubject && s.host != nil:
		_, err = s.Fetch(ctx)
	case subject == codeSubject:
		if _, none := s.store.Target(ctx); errors.Is(none, store.ErrNotFound) {
			break
		}
		var view TargetView
		if view, err = s.ReadTarget(ctx); err == nil && view.Problem != "" {
			err = errors.New(view.Problem)
		}
	}
	return errors.Join(err, s.NotePoint(ctx))
}

// Work does what is done in the background until it is stopped: long documents are read, what is watched is asked.
func (p *Projects) Work(ctx context.Context, log *slog.Logger) (stop func(), err error) {
	self, err := p.db.Person(ctx, "Cobrik")
	if err != nil {
		return nil, err
	}
	return p.db.Work(ctx, log,
		func(ctx context.Context, job store.ReadingJob) error {
			return p.of(store.Scope{Project: job.Project, Actor: job.Actor}).readInBackground(ctx, job)
		},
		func(ctx context.Context, job store.WatchJob) error {
			return p.of(store.Scope{Project: job.Project, Actor: p.actor}).watched(store.As(ctx, self), job.Subject)
		})
}
