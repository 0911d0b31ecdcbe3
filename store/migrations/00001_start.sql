-- +goose Up
-- Every row belongs to a project, and those that somebody writes say who did.
create table people (
  id   bigint generated always as identity primary key,
  name text not null
);
insert into people (name) values ('Somebody');

create table projects (
  id           bigint generated always as identity primary key,
  name         text not null,
  address      text not null unique check (address ~ '^[^/?#%\s]+$'), -- its part of the application's addresses
  host_checked timestamptz,
  host_error   text not null default '',
  created      timestamptz not null default now()
);
insert into projects (name, address) values ('Untitled', 'untitled');

create table documents (
  project bigint not null references projects on delete cascade,
  id      text not null,
  name    text not null,
  source  text not null check (source in ('upload', 'host')),
  created timestamptz not null default now(),
  primary key (project, id)
);

create table revisions (
  project  bigint not null,
  document text not null,
  number   int not null check (number > 0),
  note     text not null,
  author   text not null, -- as the document names them
  etag     text not null,
  content  bytea not null,
  actor    bigint not null references people,
  created  timestamptz not null default now(),
  primary key (project, document, number),
  foreign key (project, document) references documents on delete cascade
);

-- Texts of token files are kept once, by their hash, whoever has them.
create table token_texts (
  hash    bytea primary key,
  content bytea not null
);

-- Every revision the token files had, whole. Undo and redo make a new one of an older
-- one's files.
create table token_revisions (
  project bigint not null references projects on delete cascade,
  number  int not null check (number >= 0),
  note    text not null,
  undo_to int,
  redo_to int,
  renames jsonb not null default '[]', -- tokens that got another name since undo_to: contracts follow
  actor   bigint not null references people,
  created timestamptz not null default now(),
  primary key (project, number)
);
insert into token_revisions (project, number, note, actor) select p.id, 0, 'none yet', a.id from projects p, people a;

create table token_revision_files (
  project  bigint not null,
  revision int not null,
  position int not null,
  name     text not null,
  hash     bytea not null references token_texts,
  since    int not null, -- the revision that gave it this text
  primary key (project, revision, name),
  foreign key (project, revision) references token_revisions on delete cascade
);

create table components (
  id         bigint generated always as identity primary key,
  project    bigint not null references projects on delete cascade,
  slug       text not null,
  name       text not null,
  collection text not null default '',
  document   text not null,
  source     text not null, -- id of the family or layer it is drawn from; ids of a document are unique
  revision   int not null,
  created    timestamptz not null default now(),
  updated    timestamptz not null default now(),
  unique (project, slug),
  unique (project, document, source),
  foreign key (project, document) references documents
);

-- Every state a contract had. Undo and redo make a new one of an older one's
-- content; undo_to and redo_to say which comes next in each direction.
create table contracts (
  component bigint not null references components on delete cascade,
  revision  int not null,
  contract  jsonb not null,
  uses      jsonb not null generated always as (jsonb_path_query_array(contract, 'strict $.**.use.component')) stored, -- names of the components it is made of
  agreed    jsonb, -- what was agreed while parts of the contract wait; null for the contract itself
  note      text not null,
  undo_to   int,
  redo_to   int,
  actor     bigint not null references people,
  created   timestamptz not null default now(),
  primary key (component, revision)
);

create table decisions (
  component bigint not null references components on delete cascade,
  outcome   text not null check (outcome in ('kept', 'asked')),
  move      text not null,
  condition text not null, -- under which it was decided
  said      text not null, -- what the design said when it was kept, or the contract when it was asked
  reason    text not null default '',
  actor     bigint not null references people,
  decided   timestamptz not null default now(),
  primary key (component, outcome, move, condition)
);

create table releases (
  component bigint not null references components on delete cascade,
  version   text not null,
  revision  int not null,
  contract  jsonb not null,
  level     text not null,
  changes   jsonb not null,
  note      text not null default '',
  actor     bigint not null references people,
  released  timestamptz not null default now(),
  primary key (component, version)
);

create table measurements (
  component bigint primary key references components on delete cascade,
  build     text not null,
  measured  jsonb not null,
  facts     int not null,
  differing int not null,
  actor     bigint not null references people,
  taken     timestamptz not null default now()
);

-- +goose Down
drop table measurements, releases, decisions, contracts, components, token_revision_files, token_revisions, token_texts, revisions, documents, projects, people;
