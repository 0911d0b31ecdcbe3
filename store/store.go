// Package store keeps Cobrik's data in PostgreSQL. All SQL is in this room; a
// write of several rows is one transaction; an update of a shared row carries
// the revision it read and gives ErrStale when another came first.
package store

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io"
	"net"
	"strconv"
	"strings"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"github.com/riverqueue/river"
)

var (
	// ErrNotFound means that no such row is there.
	ErrNotFound = errors.New("not found")
	// ErrStale means that the row changed since it was read.
	ErrStale = errors.New("changed since it was read")
	// ErrTaken means that a row with that key is already there.
	ErrTaken = errors.New("already there")
	// ErrMoved means that what a write was checked with changed since it was read: the tokens of a contract, or the
	// contracts of tokens. It is to be checked again, and may then be written.
	ErrMoved = errors.New("what it was checked with changed")
)

// Down tells whether an error is of a database that is not there, or about to go: what was asked for may be asked for again
// (PostgreSQL, appendix A, classes 08, 53 and 57).
func Down(err error) bool {
	var pg *pgconn.PgError
	if errors.As(err, &pg) {
		switch pg.Code {
		case "57P01", "57P02", "57P03", "53300": // admin_shutdown, crash_shutdown, cannot_connect_now, too_many_connections
			return true
		}
		return strings.HasPrefix(pg.Code, "08")
	}
	var connect *pgconn.ConnectError
	var network *net.OpError
	return errors.As(err, &connect) || errors.As(err, &network) || pgconn.SafeToRetry(err) || errors.Is(err, io.ErrUnexpectedEOF)
}

// Unkeepable tells whether an error is of a text with characters that the database does not hold: NUL, or what is no UTF-8.
func Unkeepable(err error) bool {
	var pg *pgconn.PgError
	return errors.As(err, &pg) && (pg.Code == "22021" || pg.Code == "22P05") // character_not_in_repertoire, untranslatable_character
}

// Database is safe for use by many goroutines. Close it when done.
type Database struct {
	pool  *pgxpool.Pool
	queue *river.Client[pgx.Tx]
}

// Scope is where a query looks and who asks: a project, and a person.
type Scope struct{ Project, Actor int64 }

// Store is a database as one scope has it: it reads and writes rows of its project, and
// what it writes says who did it.
type Store struct {
	pool  *pgxpool.Pool
	queue *river.Client[pgx.Tx]
	Scope
}

// personKey is what a context keeps the person under who asks.
type personKey struct{}

// As gives a context in which what is written says that a person did it, instead of the scope's.
func As(ctx context.Context, person int64) context.Context {
	return context.WithValue(ctx, personKey{}, person)
}

func (s *Store) actor(ctx context.Context) int64 {
	if person, ok := ctx.Value(personKey{}).(int64); ok {
		return person
	}
	return s.Actor
}

// Person gives the person of a name; who was not known is from now on.
func (db *Database) Person(ctx context.Context, name string) (int64, error) {
	id, err := value[int64](ctx, db.pool, "select id from people where name = $1", name)
	if !errors.Is(err, ErrNotFound) {
		return id, err
	}
	return value[int64](ctx, db.pool, "insert into people (name) values ($1) on conflict (name) do update set name = excluded.name returning id", name)
}

// In gives the database as a scope has it.
func (db *Database) In(scope Scope) *Store { return &Store{db.pool, db.queue, scope} }

// First gives the scope an installation begins with: its oldest project and person.
func (db *Database) First(ctx context.Context) (Scope, error) {
	return one[Scope](ctx, db.pool, "select (select min(id) from projects), (select min(id) from people)")
}

// At gives the scope of the project that has an address; ErrNotFound when there is none.
func (db *Database) At(ctx context.Context, address string, actor int64) (Scope, error) {
	id, err := value[int64](ctx, db.pool, "select id from projects where address = $1", address)
	return Scope{Project: id, Actor: actor}, err
}

// AddProject makes a project of a name, at an address that no other has: one segment of a
// path.
func (db *Database) AddProject(ctx context.Context, name, address string, actor int64) (Scope, error) {
	scope := Scope{Actor: actor}
	err := pgx.BeginFunc(ctx, db.pool, func(tx pgx.Tx) error {
		if err := tx.QueryRow(ctx, "insert into projects (name, address) values ($1, $2) returning id", name, address).Scan(&scope.Project); err != nil {
			return err
		}
		if _, err := tx.Exec(ctx, "insert into token_revisions (project, number, note, actor) values ($1, 0, 'none yet', $2)", scope.Project, actor); err != nil {
			return err
		}
		_, err := tx.Exec(ctx, "insert into watches (project, subject, every) values ($1, 'design', 300), ($1, 'code', 10)", scope.Project)
		return err
	})
	return scope, err
}

// ErrOlder means that a database was laid out by a Cobrik of before, whose data is not
// read.
var ErrOlder = errors.New("the data was laid out by an older Cobrik, and is not read by this one")

//go:embed migrations/*.sql
var migrations embed.FS

// Open connects to a database and brings its tables up to date; ErrOlder when they are of
// an older layout.
func Open(ctx context.Context, url string) (*Database, error) {
	config, err := pgxpool.ParseConfig(url)
	if err != nil {
		return nil, fmt.Errorf("database: %w", err)
	}
	config.MaxConns = max(config.MaxConns, leastConnections)
	pool, err := pgxpool.NewWithConfig(ctx, config)
	if err != nil {
		return nil, fmt.Errorf("database: %w", err)
	}
	if err := migrate(ctx, pool); err != nil {
		pool.Close()
		return nil, err
	}
	queue, err := newQueue(pool)
	if err != nil {
		pool.Close()
		return nil, fmt.Errorf("queue: %w", err)
	}
	return &Database{pool, queue}, nil
}

// leastConnections leaves some beside those that live events and the queue hold.
const leastConnections = 8

// Close waits for queries under way and closes all connections.
func (db *Database) Close() { db.pool.Close() }

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
	older, err := value[bool](ctx, lock, "select to_regclass('components') is not null and to_regclass('people') is null")
	if err != nil {
		return fmt.Errorf("database: %w", err)
	}
	if older {
		return ErrOlder
	}
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
	if err := layOutQueue(ctx, pool); err != nil {
		return fmt.Errorf("migrations of the queue: %w", err)
	}
	return nil
}

// inTx runs a function in one transaction and tells listeners of the change. One that got in another's way is run again.
func (s *Store) inTx(ctx context.Context, subject string, do func(tx pgx.Tx) error) (err error) {
	for range 5 {
		err = pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
			if err := do(tx); err != nil {
				return err
			}
			return s.tell(ctx, tx, subject)
		})
		var pg *pgconn.PgError
		if !errors.As(err, &pg) || pg.Code != "40P01" { // deadlock_detected
			break
		}
	}
	return err
}

// Tell tells listeners something that nothing is kept of.
func (s *Store) Tell(ctx context.Context, subject string) error {
	_, err := s.pool.Exec(ctx, "select pg_notify($1, $2)", channel, fmt.Sprintf("%d %s", s.Scope.Project, subject))
	return err
}

// windowKey is what a context keeps the window under that a change comes from.
type windowKey struct{}

// By gives a context whose changes are told as those of a window: it reads again by itself what it changed.
func By(ctx context.Context, window string) context.Context {
	return context.WithValue(ctx, windowKey{}, window)
}

// tell tells listeners of a change once the transaction is through: "component bed-card", or "component bed-card by
// 6f2c" of a window.
func (s *Store) tell(ctx context.Context, tx pgx.Tx, subject string) error {
	if subject == "" { // nothing that anybody sees
		return nil
	}
	if window, _ := ctx.Value(windowKey{}).(string); window != "" {
		subject += " by " + window
	}
	_, err := tx.Exec(ctx, "select pg_notify($1, $2)", channel, fmt.Sprintf("%d %s", s.Scope.Project, subject))
	return err
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

// Listen calls back for every change any server makes, with its project and subject, until
// the context ends. It holds one connection.
func (db *Database) Listen(ctx context.Context, changed func(project int64, subject string)) error {
	conn, err := db.pool.Acquire(ctx)
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
		number, subject, _ := strings.Cut(n.Payload, " ")
		if project, err := strconv.ParseInt(number, 10, 64); err == nil {
			changed(project, subject)
		}
	}
}
