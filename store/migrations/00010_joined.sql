-- +goose Up
create table survey_joined ( -- layers that people said are copies of what another is a copy of
  project  bigint not null references projects on delete cascade,
  document text not null,
  layer    text not null,
  joined   text not null, -- the other
  actor    bigint not null references people,
  created  timestamptz not null default now(),
  primary key (project, document, layer),
  foreign key (project, document) references documents on delete cascade
);

-- +goose Down
drop table survey_joined;
