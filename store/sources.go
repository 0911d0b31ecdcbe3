package store

import (
	"context"
	"time"

	"github.com/jackc/pgx/v5"
)

// Project is what is known of a project itself.
type Project struct {
	Name        string
	Address     string     // its part of the application's addresses
	HostChecked *time.Time // last time the design host was asked
	HostError   string     // why it did not answer; empty when it did
}

// Project reads the project.
func (s *Store) Project(ctx context.Context) (Project, error) {
	return one[Project](ctx, s.pool, "select name, address, host_checked, host_error from projects where id = $1", s.Scope.Project)
}

// NameProject gives the project a name and an address.
func (s *Store) NameProject(ctx context.Context, name, address string) error {
	_, err := s.pool.Exec(ctx, "update projects set name = $2, address = $3 where id = $1", s.Scope.Project, name, address)
	return err
}

// NoteHost records how asking the design host went.
func (s *Store) NoteHost(ctx context.Context, failure string) error {
	return s.inTx(ctx, "sources", func(tx pgx.Tx) error {
		_, err := tx.Exec(ctx, "update projects set host_checked = now(), host_error = $2 where id = $1", s.Scope.Project, failure)
		return err
	})
}

// Where a document comes from.
const (
	FromUpload = "upload"
	FromHost   = "host"
)

// Document is a design document without its content.
type Document struct {
	ID      string
	Name    string // what people call it, else as it names itself
	Source  string
	Created time.Time
	Removed *time.Time
	Latest  int // newest revision
}

const documents = `select d.id, coalesce(nullif(d.called, ''), d.name), d.source, d.created, d.removed, max(r.number)
	from documents d join revisions r on r.project = d.project and r.document = d.id
	where d.project = $1 `

// Documents lists the design documents by name.
func (s *Store) Documents(ctx context.Context) ([]Document, error) {
	return many[Document](ctx, s.pool, documents+"and d.removed is null group by d.project, d.id order by 2, d.id", s.Scope.Project)
}

// RemovedDocuments lists those that were removed, last first.
func (s *Store) RemovedDocuments(ctx context.Context) ([]Document, error) {
	return many[Document](ctx, s.pool, documents+"and d.removed is not null group by d.project, d.id order by d.removed desc, d.id", s.Scope.Project)
}

// Document reads a design document, removed or not; ErrNotFound when there is none.
func (s *Store) Document(ctx context.Context, id string) (Document, error) {
	return one[Document](ctx, s.pool, documents+"and d.id = $2 group by d.project, d.id", s.Scope.Project, id)
}

// CallDocument gives a document another name; with none it is called as it names itself.
// ErrNotFound when there is no such document.
func (s *Store) CallDocument(ctx context.Context, id, name string) error {
	return s.changeDocument(ctx, "update documents set called = $3 where project = $1 and id = $2", id, name)
}

// RemoveDocument takes a document out of the project, and RestoreDocument puts it back.
// Its revisions stay. ErrNotFound when there is no such document.
func (s *Store) RemoveDocument(ctx context.Context, id string) error {
	return s.changeDocument(ctx, "update documents set removed = now() where project = $1 and id = $2 and removed is null", id)
}

// RestoreDocument puts a removed document back.
func (s *Store) RestoreDocument(ctx context.Context, id string) error {
	return s.changeDocument(ctx, "update documents set removed = null where project = $1 and id = $2 and removed is not null", id)
}

func (s *Store) changeDocument(ctx context.Context, update, id string, more ...any) error {
	return s.inTx(ctx, "sources", func(tx pgx.Tx) error {
		return touched(tx.Exec(ctx, update, append([]any{s.Scope.Project, id}, more...)...))
	})
}

// Revision is one revision of a document, without its content.
type Revision struct {
	Document string
	Number   int
	Note     string
	Author   string
	ETag     string
	Bytes    int
	Created  time.Time
}

// Revisions lists a document's revisions, oldest first.
func (s *Store) Revisions(ctx context.Context, document string) ([]Revision, error) {
	return many[Revision](ctx, s.pool, `select document, number, note, author, etag, length(content), created
		from revisions where project = $1 and document = $2 order by number`, s.Scope.Project, document)
}

// RevisionContent reads a revision's text.
func (s *Store) RevisionContent(ctx context.Context, document string, number int) ([]byte, error) {
	return value[[]byte](ctx, s.pool, "select content from revisions where project = $1 and document = $2 and number = $3", s.Scope.Project, document, number)
}

// NewRevision is a design document's text to be kept.
type NewRevision struct {
	Document, Name, Source, Note, Author, ETag string
	Content                                    []byte
}

// AddRevision keeps a text as its document's next revision, and the document
// when it is new or was removed. A text equal to the newest revision's is not kept again; the
// number is that revision's then and added is false.
func (s *Store) AddRevision(ctx context.Context, r NewRevision) (number int, added bool, err error) {
	err = s.inTx(ctx, "sources", func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, `insert into documents (project, id, name, source) values ($1, $2, $3, $4)
			on conflict (project, id) do update set name = excluded.name, removed = null`, s.Scope.Project, r.Document, r.Name, r.Source); err != nil {
			return err
		}
		// The row lock makes two fetches at once take turns.
		if _, err := tx.Exec(ctx, "select 1 from documents where project = $1 and id = $2 for update", s.Scope.Project, r.Document); err != nil {
			return err
		}
		type last struct {
			Number int
			Same   bool
		}
		l, err := one[last](ctx, tx, `select number, content = $3 from revisions where project = $1 and document = $2 order by number desc limit 1`,
			s.Scope.Project, r.Document, r.Content)
		if err != nil && err != ErrNotFound {
			return err
		}
		if number = l.Number; l.Same {
			return nil
		}
		number, added = l.Number+1, true
		_, err = tx.Exec(ctx, `insert into revisions (project, document, number, note, author, etag, content, actor) values ($1, $2, $3, $4, $5, $6, $7, $8)`,
			s.Scope.Project, r.Document, number, r.Note, r.Author, r.ETag, r.Content, s.actor(ctx))
		return err
	})
	return number, added, err
}
