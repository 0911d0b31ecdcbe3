package store

import (
	"context"
	"slices"

	"github.com/jackc/pgx/v5"
)

// Doubted is a doubt of a document that somebody set aside, or put to the designer.
type Doubted struct {
	Document string
	Doubt    string
	Outcome  string // aside or asked
	Reason   string
}

// Doubted lists what was said of doubts, of all documents.
func (s *Store) Doubted(ctx context.Context) ([]Doubted, error) {
	return many[Doubted](ctx, s.pool, "select document, doubt, outcome, reason from survey_doubts where project = $1 order by document, doubt", s.Scope.Project)
}

// SayOfDoubt keeps what is said of a doubt; without an outcome it stands again.
func (s *Store) SayOfDoubt(ctx context.Context, d Doubted) error {
	return s.inTx(ctx, "survey", func(tx pgx.Tx) error {
		if d.Outcome == "" {
			_, err := tx.Exec(ctx, "delete from survey_doubts where project = $1 and document = $2 and doubt = $3", s.Scope.Project, d.Document, d.Doubt)
			return err
		}
		_, err := tx.Exec(ctx, `insert into survey_doubts (project, document, doubt, outcome, reason, actor) values ($1, $2, $3, $4, $5, $6)
			on conflict (project, document, doubt) do update set outcome = excluded.outcome, reason = excluded.reason, actor = excluded.actor, created = now()`,
			s.Scope.Project, d.Document, d.Doubt, d.Outcome, d.Reason, s.actor(ctx))
		return err
	})
}

type named struct{ Name string }

func names(list []named, err error) ([]string, error) {
	out := make([]string, len(list))
	for i, n := range list {
		out[i] = n.Name
	}
	return out, err
}

// RulesOff lists the rules of doubts that are not asked.
func (s *Store) RulesOff(ctx context.Context) ([]string, error) {
	return names(many[named](ctx, s.pool, "select rule as name from survey_rules where project = $1 order by rule", s.Scope.Project))
}

// SwitchRule switches a rule of doubts off, or on again.
func (s *Store) SwitchRule(ctx context.Context, rule string, off bool) error {
	return s.inTx(ctx, "survey", func(tx pgx.Tx) error {
		if !off {
			_, err := tx.Exec(ctx, "delete from survey_rules where project = $1 and rule = $2", s.Scope.Project, rule)
			return err
		}
		_, err := tx.Exec(ctx, "insert into survey_rules (project, rule, actor) values ($1, $2, $3) on conflict do nothing", s.Scope.Project, rule, s.actor(ctx))
		return err
	})
}

// Planned lists the components that are wanted before anything shows them.
func (s *Store) Planned(ctx context.Context) ([]string, error) {
	return names(many[named](ctx, s.pool, "select name from survey_planned where project = $1 order by name", s.Scope.Project))
}

// Plan adds a component to those that are wanted, or takes it off.
func (s *Store) Plan(ctx context.Context, name string, wanted bool) error {
	return s.inTx(ctx, "survey", func(tx pgx.Tx) error {
		if !wanted {
			_, err := tx.Exec(ctx, "delete from survey_planned where project = $1 and name = $2", s.Scope.Project, name)
			return err
		}
		_, err := tx.Exec(ctx, "insert into survey_planned (project, name, actor) values ($1, $2, $3) on conflict do nothing", s.Scope.Project, name, s.actor(ctx))
		return err
	})
}

type layers struct{ Layers []string }

// Marked lists the layers of a document that people said are one thing.
func (s *Store) Marked(ctx context.Context, document string) ([][]string, error) {
	list, err := many[layers](ctx, s.pool, "select array(select jsonb_array_elements_text(m.layers)) as layers from survey_marked m where project = $1 and document = $2 order by created, m.layers", s.Scope.Project, document)
	out := make([][]string, len(list))
	for i, l := range list {
		out[i] = l.Layers
	}
	return out, err
}

// Mark keeps layers as one thing, or takes that back. They are kept in the order of their ids.
func (s *Store) Mark(ctx context.Context, document string, ids []string, one bool) error {
	return s.inTx(ctx, "survey", func(tx pgx.Tx) error { return s.mark(ctx, tx, document, ids, one) })
}

func (s *Store) mark(ctx context.Context, tx pgx.Tx, document string, ids []string, one bool) error {
	ids = slices.Sorted(slices.Values(ids))
	if !one {
		_, err := tx.Exec(ctx, "delete from survey_marked where project = $1 and document = $2 and layers = $3", s.Scope.Project, document, ids)
		return err
	}
	_, err := tx.Exec(ctx, "insert into survey_marked (project, document, layers, actor) values ($1, $2, $3, $4) on conflict do nothing", s.Scope.Project, document, ids, s.actor(ctx))
	return err
}

// Joined is a layer that people said is the same thing as another.
type Joined struct{ Layer, To string }

// Joined lists the layers of a document that people said are copies of something, the first said first.
func (s *Store) Joined(ctx context.Context, document string) ([]Joined, error) {
	return many[Joined](ctx, s.pool, "select layer, joined from survey_joined where project = $1 and document = $2 order by created, layer", s.Scope.Project, document)
}

// Join keeps layers as one thing that is the same as another, and gives the one that stands for them; without another that is taken back.
func (s *Store) Join(ctx context.Context, document string, layers []string, to string) (Joined, error) {
	j := Joined{Layer: slices.Min(layers), To: to}
	return j, s.inTx(ctx, "survey", func(tx pgx.Tx) error {
		if len(layers) > 1 {
			if err := s.mark(ctx, tx, document, layers, to != ""); err != nil {
				return err
			}
		}
		if to == "" {
			_, err := tx.Exec(ctx, "delete from survey_joined where project = $1 and document = $2 and layer = $3", s.Scope.Project, document, j.Layer)
			return err
		}
		_, err := tx.Exec(ctx, `insert into survey_joined (project, document, layer, joined, actor) values ($1, $2, $3, $4, $5)
			on conflict (project, document, layer) do update set joined = excluded.joined, actor = excluded.actor, created = now()`, s.Scope.Project, document, j.Layer, j.To, s.actor(ctx))
		return err
	})
}

// Copy is a drawing that is a use of a component without being one of a family.
type Copy struct {
	Layer  string // the first of its layers
	Layers []string
	Said   map[string]any // by the prop's name
}

// CopyOf is a copy with its component.
type CopyOf struct {
	Document string
	Slug     string
	Layer    string
	Layers   []string
	Said     map[string]any // by the prop's name
}

// Copies lists the copies of all components.
func (s *Store) Copies(ctx context.Context) ([]CopyOf, error) {
	return many[CopyOf](ctx, s.pool, `select coalesce(c.document, '') as document, c.slug, k.layer, array(select jsonb_array_elements_text(k.layers)) as layers, k.said
		from component_copies k join components c on c.id = k.component where c.project = $1 order by c.slug, k.layer`, s.Scope.Project)
}

// AddCopies keeps drawings as uses of a component; those that are known already are kept as they are said now.
func (s *Store) AddCopies(ctx context.Context, slug string, copies []Copy) error {
	return s.inTx(ctx, "survey", func(tx pgx.Tx) error {
		for _, k := range copies {
			tag, err := tx.Exec(ctx, `insert into component_copies (component, layer, layers, said, actor) select id, $3, $4, $5, $6 from components where project = $1 and slug = $2
				on conflict (component, layer) do update set layers = excluded.layers, said = excluded.said, actor = excluded.actor, created = now()`, s.Scope.Project, slug, k.Layer, k.Layers, k.Said, s.actor(ctx))
			if err != nil {
				return err
			}
			if tag.RowsAffected() == 0 {
				return ErrNotFound
			}
		}
		return nil
	})
}
