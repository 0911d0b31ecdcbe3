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

create table token_files (
  name     text primary key,
  position int not null,
  revision int not null default 1,
  content  bytea not null,
  updated  timestamptz not null default now()
);

create table components (
  id         bigint generated always as identity primary key,
  slug       text not null unique,
  name       text not null,
  collection text not null default '',
  document   text not null references documents,
  family     text not null,
  revision   int not null,
  created    timestamptz not null default now(),
  updated    timestamptz not null default now(),
  unique (document, family)
);

-- Every state a contract had. Undo and redo make a new one of an older one's
-- content; undo_to and redo_to say which comes next in each direction.
create table contracts (
  component bigint not null references components on delete cascade,
  revision  int not null,
  contract  jsonb not null,
  note      text not null,
  undo_to   int,
  redo_to   int,
  created   timestamptz not null default now(),
  primary key (component, revision)
);

create table decisions (
  component bigint not null references components on delete cascade,
  move      text not null,
  kept      text not null,
  decided   timestamptz not null default now(),
  primary key (component, move)
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
