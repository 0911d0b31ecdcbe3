-- +goose Up
create table survey_readings ( -- what was read of long documents, and how far that is
  project  bigint not null,
  document text not null,
  revision int not null,
  job      bigint not null, -- of the queue
  state    text not null check (state in ('waiting', 'running', 'done', 'stopped', 'failed')),
  step     text not null default '',
  share    double precision not null default 0,
  trouble  text not null default '', -- why it failed
  heard    timestamptz not null default now(), -- of whoever reads
  wanted   text not null, -- names all that the reading depends on
  made     text not null default '', -- names what the kept reading depends on
  content  bytea, -- the kept reading, JSON packed with gzip
  primary key (project, document, revision),
  foreign key (project, document, revision) references revisions on delete cascade
);

-- +goose Down
drop table survey_readings;
