package store

import (
	"context"
	"errors"
	"time"

	"github.com/jackc/pgx/v5"
)

// Review is a component that is put up for review.
type Review struct {
	Note     string // what is to be looked at
	By       string
	Asked    time.Time
	Approver *string
	Approved *int // the revision that was approved
}

// Review reads a component's open review; ErrNotFound when it is not put up for one.
func (s *Store) Review(ctx context.Context, component int64) (Review, error) {
	return one[Review](ctx, s.pool, `select v.note, p.name, v.asked, a.name, v.approved
		from reviews v join people p on p.id = v.actor left join people a on a.id = v.approver where v.component = $1 and v.closed is null`, component)
}

// AskReview puts a component up for review; ErrTaken when it is already.
func (s *Store) AskReview(ctx context.Context, slug string, component int64, note string) error {
	return taken(s.inTx(ctx, "component "+slug, func(tx pgx.Tx) error {
		_, err := tx.Exec(ctx, "insert into reviews (component, note, actor) values ($1, $2, $3)", component, note, s.actor(ctx))
		return err
	}))
}

// EndReview takes a component out of review; ErrNotFound when it is not put up for one.
func (s *Store) EndReview(ctx context.Context, slug string, component int64) error {
	return s.updateOne(ctx, slug, "update reviews set closed = now() where component = $1 and closed is null", component)
}

// Approve notes that somebody approves a component as a revision of its contract has it. ErrOwn when it is who asked, ErrNotFound
// when it is not put up for review, ErrStale when it is not at that revision.
func (s *Store) Approve(ctx context.Context, slug string, component int64, revision int) error {
	return s.inTx(ctx, "component "+slug, func(tx pgx.Tx) error {
		if _, err := s.lock(ctx, tx, slug, revision); err != nil {
			return err
		}
		own, err := value[bool](ctx, tx, "select actor = $2 from reviews where component = $1 and closed is null for update", component, s.actor(ctx))
		if err != nil {
			return err
		}
		if own {
			return ErrOwn
		}
		_, err = tx.Exec(ctx, "update reviews set approver = $2, approved = $3 where component = $1 and closed is null", component, s.actor(ctx), revision)
		return err
	})
}

// ErrUnapproved means that nobody approved the revision that is to be released, and the project asks for it.
var ErrUnapproved = errors.New("not approved")

// ErrOwn means that somebody approves what they asked others to look at.
var ErrOwn = errors.New("asked by the same person")

// updateOne runs an update of a component that has to reach a row; ErrNotFound when it reaches none.
func (s *Store) updateOne(ctx context.Context, slug, sql string, args ...any) error {
	return s.inTx(ctx, "component "+slug, func(tx pgx.Tx) error {
		tag, err := tx.Exec(ctx, sql, args...)
		if err == nil && tag.RowsAffected() == 0 {
			err = ErrNotFound
		}
		return err
	})
}

// AsksApproval tells whether a release waits for somebody else to approve it.
func (s *Store) AsksApproval(ctx context.Context) (bool, error) {
	return value[bool](ctx, s.pool, "select approval from projects where id = $1", s.Scope.Project)
}

// AskApproval says whether a release waits for somebody else to approve it.
func (s *Store) AskApproval(ctx context.Context, on bool) error {
	return s.inTx(ctx, "project", func(tx pgx.Tx) error {
		_, err := tx.Exec(ctx, "update projects set approval = $2 where id = $1", s.Scope.Project, on)
		return err
	})
}

// Comment is what somebody said of a component, or of a fact, a part or a case of it.
type Comment struct {
	ID       int64
	Place    string // component, fact, part or case
	Key      string
	Words    string // the place in words
	Body     string
	By       string
	Created  time.Time
	Resolver *string
	Resolved *time.Time
}

// Comments lists what was said of a component, oldest first.
func (s *Store) Comments(ctx context.Context, component int64) ([]Comment, error) {
	return many[Comment](ctx, s.pool, `select k.id, k.place, k.key, k.words, k.body, p.name, k.created, r.name, k.resolved
		from comments k join people p on p.id = k.actor left join people r on r.id = k.resolver where k.component = $1 order by k.created, k.id`, component)
}

// AddComment keeps what somebody says.
func (s *Store) AddComment(ctx context.Context, slug string, component int64, c Comment) error {
	return s.inTx(ctx, "component "+slug, func(tx pgx.Tx) error {
		_, err := tx.Exec(ctx, "insert into comments (component, place, key, words, body, actor) values ($1, $2, $3, $4, $5, $6)", component, c.Place, c.Key, c.Words, c.Body, s.actor(ctx))
		return err
	})
}

// ResolveComment notes that what somebody said is dealt with, or not after all; ErrNotFound when nobody said it.
func (s *Store) ResolveComment(ctx context.Context, slug string, component, id int64, resolved bool) error {
	return s.updateOne(ctx, slug, `update comments set resolver = case when $3 then $4::bigint end, resolved = case when $3 then now() end where component = $1 and id = $2`,
		component, id, resolved, s.actor(ctx))
}
