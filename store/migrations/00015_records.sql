-- +goose Up
create sequence sync_presses; -- what was decided at once of several components has one number
create table sync_records ( -- what was decided, and why
  id        bigint generated always as identity primary key,
  component bigint not null references components on delete cascade,
  press     bigint not null,
  lane      text not null check (lane in ('design', 'code')),
  read      text not null, -- what was read: a revision of the design, or a commit
  reason    text not null,
  decided   jsonb not null, -- what became of each move
  version   text not null, -- released with it; empty for none
  before    int not null, -- the contract's revision
  after     int not null,
  stood     jsonb not null, -- what stood decided before
  undone    timestamptz,
  actor     bigint not null references people,
  created   timestamptz not null default now()
);
create index sync_records_of on sync_records (component, id desc);
create table precedences ( -- who wins where a facet moved
  project bigint not null references projects on delete cascade,
  facet   text not null,
  wins    text not null check (wins in ('design', 'contract', 'code')),
  actor   bigint not null references people,
  created timestamptz not null default now(),
  primary key (project, facet)
);
create table drift_points ( -- how far design, contract and code agreed at a time
  id         bigint generated always as identity primary key,
  project    bigint not null references projects on delete cascade,
  at         timestamptz not null default now(),
  why        text not null,
  design     text not null,
  code       text not null,
  components jsonb not null
);
create index drift_points_of on drift_points (project, at);
alter table targets add tokens text not null default ''; -- the folder that token files are in, from the repository's root; empty where none are read
create table token_bases ( -- a token file as the project and its repository both had it last, token by token
  project bigint not null references projects on delete cascade,
  file    text not null,
  content bytea not null,
  primary key (project, file)
);
create table token_decisions ( -- tokens that are to be put back in the repository
  project bigint not null references projects on delete cascade,
  file    text not null,
  place   text not null, -- a JSON Pointer
  said    text not null, -- what the repository said then
  actor   bigint not null references people,
  created timestamptz not null default now(),
  primary key (project, file, place)
);
create table watches ( -- how often the design host, or the repository, is asked
  project bigint not null references projects on delete cascade,
  subject text not null check (subject in ('design', 'code')),
  every   int not null check (every >= 0), -- seconds; 0 for never
  next    timestamptz not null default now(),
  asked   timestamptz, -- when it answered, or did not, last
  running timestamptz, -- since when it is being asked
  noticed boolean not null default false, -- it said that it moved, and is about to be asked
  failed  int not null default 0, -- how often in a row
  primary key (project, subject)
);
insert into watches (project, subject, every) select p.id, s.subject, s.every from projects p, (values ('design', 300), ('code', 10)) s (subject, every);

-- +goose Down
alter table targets drop tokens;
drop table token_bases, token_decisions, watches, drift_points, precedences, sync_records;
drop sequence sync_presses;
