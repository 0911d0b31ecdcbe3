// Package store keeps Cobrik's data in PostgreSQL. All SQL is in this room; a
// write of several rows is one transaction; an update of a shared row carries
// the revision it read and gives ErrStale when another came first.
package store

import (
	"context"
	"embed"
	"errors"
	"fmt"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
)

var (
	// ErrNotFound means that no such row is there.
	ErrNotFound = errors.New("not found")
	// ErrStale means that the row changed since it was read.
	ErrStale = errors.New("changed since it was read")
	// ErrTaken means that a row with that key is already there.
	ErrTaken = errors.New("already there")
)

// Store is safe for use by many goroutines. Close it when done.
type Store struct{ pool *pgxpool.Pool }

//go:embed migrations/*.sql
var migrations embed.FS

// Open connects to a database and brings its tables up to date.
func Open(ctx context.Context, url string) (*Store, error) {
	pool, err := pgxpool.New(ctx, url)
	if err != nil {
		return nil, fmt.Errorf("database: %w", err)
	}
	if err := migrate(ctx, pool); err != nil {
		pool.Close()
		return nil, err
	}
	return &Store{pool}, nil
}

// Close waits for queries under way and closes all connections.
func (s *Store) Close() { s.pool.Close() }

// migrationLock keeps two servers from migrating one database at once.
const migrationLock = 7180_2411

func migrate(ctx context.Context, pool *pgxpool.Pool) error {
	lock, err := pool.Acquire(ctx)
	if err != nil {
		return fmt.Errorf("database: %w", err)
	}
	defer lock.Release()
	if _, err := lock.Exec(ctx, "select pg_advisory_lock($1)", migrationLock); err != nil {
		return fmt.Errorf("database: %w", err)
	}
	defer func() {
		// The session's end would release it, too.
		_, _ = lock.Exec(context.WithoutCancel(ctx), "select pg_advisory_unlock($1)", migrationLock)
	}()
	db := stdlib.OpenDBFromPool(pool)
	defer db.Close()
	goose.SetBaseFS(migrations)
	goose.SetLogger(goose.NopLogger())
	if err := goose.SetDialect("postgres"); err != nil {
		return err
	}
	if err := goose.UpContext(ctx, db, "migrations"); err != nil {
		return fmt.Errorf("migrations: %w", err)
	}
	return nil
}

// inTx runs a function in one transaction and tells listeners of the change.
func (s *Store) inTx(ctx context.Context, subject string, do func(tx pgx.Tx) error) error {
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		if err := do(tx); err != nil {
			return err
		}
		_, err := tx.Exec(ctx, "select pg_notify($1, $2)", channel, subject)
		return err
	})
}

// one reads a single row; ErrNotFound when there is none.
func one[T any](ctx context.Context, q querier, sql string, args ...any) (T, error) {
	rows, err := q.Query(ctx, sql, args...)
	if err != nil {
		var none T
		return none, err
	}
	row, err := pgx.CollectExactlyOneRow(rows, pgx.RowToStructByPos[T])
	if errors.Is(err, pgx.ErrNoRows) {
		err = ErrNotFound
	}
	return row, err
}

// value reads a single column of a single row; ErrNotFound when there is none.
func value[T any](ctx context.Context, q querier, sql string, args ...any) (T, error) {
	rows, err := q.Query(ctx, sql, args...)
	if err != nil {
		var none T
		return none, err
	}
	v, err := pgx.CollectExactlyOneRow(rows, pgx.RowTo[T])
	if errors.Is(err, pgx.ErrNoRows) {
		err = ErrNotFound
	}
	return v, err
}

func many[T any](ctx context.Context, q querier, sql string, args ...any) ([]T, error) {
	rows, err := q.Query(ctx, sql, args...)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[T])
}

type querier interface {
	Query(ctx context.Context, sql string, args ...any) (pgx.Rows, error)
}

const channel = "cobrik"

// Listen calls back for every change any server makes, with its subject, until
// the context ends. It holds one connection.
func (s *Store) Listen(ctx context.Context, changed func(subject string)) error {
	conn, err := s.pool.Acquire(ctx)
	if err != nil {
		return err
	}
	defer conn.Release()
	if _, err := conn.Exec(ctx, "listen "+channel); err != nil {
		return err
	}
	for {
		n, err := conn.Conn().WaitForNotification(ctx)
		if err != nil {
			return err
		}
		changed(n.Payload)
	}
}
