-- +goose Up
create table project (
  id          int primary key default 1 check (id = 1),
  name        text not null,
  host_checked timestamptz,
  host_error  text not null default ''
);
insert into project (name) values ('Untitled');

create table documents (
  id      text primary key,
  name    text not null,
  source  text not null check (source in ('upload', 'host')),
  created timestamptz not null default now()
);

create table revisions (
  document text not null references documents on delete cascade,
  number   int not null check (number > 0),
  note     text not null,
  author   text not null,
  etag     text not null,
  content  bytea not null,
  created  timestamptz not null default now(),
  primary key (document, number)
);

-- Every state the token files had, whole. Texts are kept once, by their hash.
-- Undo and redo make a new state of an older one's files.
create table token_texts (
  hash    bytea primary key,
  content bytea not null
);

create table token_states (
  number  int primary key check (number >= 0),
  note    text not null,
  undo_to int references token_states,
  redo_to int references token_states,
  renames jsonb not null default '[]', -- tokens that got another name since undo_to: contracts follow
  created timestamptz not null default now()
);
insert into token_states (number, note) values (0, 'none yet');

create table token_state_files (
  state    int not null references token_states on delete cascade,
  position int not null,
  name     text not null,
  hash     bytea not null references token_texts,
  since    int not null, -- the state that gave it this text
  primary key (state, name)
);

create table components (
  id         bigint generated always as identity primary key,
  slug       text not null unique,
  name       text not null,
  collection text not null default '',
  document   text not null references documents,
  source     text not null, -- id of the family or layer it is drawn from; ids of a document are unique
  revision   int not null,
  created    timestamptz not null default now(),
  updated    timestamptz not null default now(),
  unique (document, source)
);

-- Every state a contract had. Undo and redo make a new one of an older one's
-- content; undo_to and redo_to say which comes next in each direction.
create table contracts (
  component bigint not null references components on delete cascade,
  revision  int not null,
  contract  jsonb not null,
  agreed    jsonb, -- what was agreed while parts of the contract wait; null for the contract itself
  note      text not null,
  undo_to   int,
  redo_to   int,
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
  released  timestamptz not null default now(),
  primary key (component, version)
);

create table measurements (
  component bigint primary key references components on delete cascade,
  build     text not null,
  measured  jsonb not null,
  facts     int not null,
  differing int not null,
  taken     timestamptz not null default now()
);

-- +goose Down
drop table measurements, releases, decisions, contracts, components, token_files, revisions, documents, project;
