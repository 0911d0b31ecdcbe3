-- +goose Up
create table targets ( -- the repository that a project's code is in
  project  bigint primary key references projects on delete cascade,
  path     text not null,
  branch   text not null,
  folder   text not null, -- that the components are in, from the repository's root; empty for the root
  author   text not null, -- of the commits that are written
  email    text not null,
  revision int not null,
  read     text not null default '', -- the commit that was read last
  read_at  timestamptz,
  problem  text not null default '', -- why it could not be read
  actor    bigint not null references people,
  updated  timestamptz not null default now()
);
create table target_bases ( -- the commit at which a component's code was last in step with its contract
  component bigint primary key references components on delete cascade,
  hash      text not null, -- empty where it was never: then what would be written of a revision of the contract stands for it
  revision  int not null -- of the contract
);
create table code_decisions ( -- what was decided of moves of the code, beside taking them
  id        bigint generated always as identity primary key,
  component bigint not null references components on delete cascade,
  move      text not null, -- its key
  outcome   text not null check (outcome in ('back', 'left', 'asked')),
  said      text not null, -- what the code said then
  reason    text not null default '',
  actor     bigint not null references people,
  created   timestamptz not null default now(),
  unique (component, move)
);
create table target_writes ( -- branches that were written, or are about to be
  id         bigint generated always as identity primary key,
  project    bigint not null references projects on delete cascade,
  branch     text not null,
  started    text not null, -- where the branch led before; empty for a new one
  hash       text not null,
  components jsonb not null, -- slugs
  state      text not null check (state in ('pending', 'done', 'gone')),
  actor      bigint not null references people,
  created    timestamptz not null default now()
);
create index target_writes_of on target_writes (project, id desc);

-- +goose Down
drop table target_writes, code_decisions, target_bases, targets;
