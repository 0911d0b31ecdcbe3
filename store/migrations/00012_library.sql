-- +goose Up
create table library_releases ( -- all that was released, together, as one version
  project  bigint not null references projects on delete cascade,
  version  text not null,
  tokens   int not null, -- the state of the tokens
  level    text not null,
  changes  jsonb not null,
  note     text not null,
  actor    bigint not null references people,
  released timestamptz not null default now(),
  primary key (project, version),
  foreign key (project, tokens) references token_revisions
);
create table library_components ( -- what is in a version of the library
  project   bigint not null,
  library   text not null,
  component bigint not null,
  version   text not null,
  shelf     text not null,
  primary key (project, library, component),
  foreign key (project, library) references library_releases on delete cascade,
  foreign key (component, version) references releases on delete cascade
);

-- +goose Down
drop table library_components, library_releases;
