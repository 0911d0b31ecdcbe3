-- +goose Up
create table content_sources ( -- files of records that pages are filled with
  project bigint not null references projects on delete cascade,
  name    text not null,
  content bytea not null,
  schema  bytea not null default '', -- JSON Schema of it; empty for none
  host    text not null default '', -- the collection of the content host that it is read from; empty for a file
  fetched timestamptz,
  actor   bigint not null references people,
  updated timestamptz not null default now(),
  primary key (project, name)
);
create table trial_pages (
  id       bigint generated always as identity primary key,
  project  bigint not null references projects on delete cascade,
  slug     text not null,
  name     text not null,
  document text, -- of the design that it was taken over from; null for none
  drawn    jsonb not null default '[]', -- ids of the pages that draw it
  widths   jsonb not null default '[]', -- px that it is looked at
  revision int not null,
  updated  timestamptz not null default now(),
  unique (project, slug)
);
create table trial_states ( -- what a page was, edit by edit
  page     bigint not null references trial_pages on delete cascade,
  revision int not null,
  outline  text not null,
  pins     jsonb not null default '{}', -- released versions by the slugs of components
  pictures jsonb not null default '{}',
  needs    jsonb not null default '[]',
  step     text not null, -- what was done
  undo_to  int,
  redo_to  int,
  actor    bigint not null references people,
  created  timestamptz not null default now(),
  primary key (page, revision)
);

-- +goose Down
drop table trial_states, trial_pages, content_sources;
