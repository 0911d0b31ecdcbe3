-- +goose Up
create table survey_doubts ( -- doubts that people set aside, or put to the designer
  project  bigint not null references projects on delete cascade,
  document text not null,
  doubt    text not null,
  outcome  text not null check (outcome in ('aside', 'asked')),
  reason   text not null,
  actor    bigint not null references people,
  created  timestamptz not null default now(),
  primary key (project, document, doubt),
  foreign key (project, document) references documents on delete cascade
);
create table survey_rules ( -- rules of doubts that a project does not ask
  project bigint not null references projects on delete cascade,
  rule    text not null,
  actor   bigint not null references people,
  created timestamptz not null default now(),
  primary key (project, rule)
);
create table survey_planned ( -- components that no drawing shows yet
  project bigint not null references projects on delete cascade,
  name    text not null,
  actor   bigint not null references people,
  created timestamptz not null default now(),
  primary key (project, name)
);
create table survey_marked ( -- layers that people said are one thing
  project  bigint not null references projects on delete cascade,
  document text not null,
  layers   jsonb not null,
  actor    bigint not null references people,
  created  timestamptz not null default now(),
  primary key (project, document, layers),
  foreign key (project, document) references documents on delete cascade
);
create table component_copies ( -- drawings that are uses of a component, without being uses of a family
  component bigint not null references components on delete cascade,
  layer     text not null, -- the first of its layers
  layers    jsonb not null,
  said      jsonb not null, -- what it says of each prop, by the prop's name
  actor     bigint not null references people,
  created   timestamptz not null default now(),
  primary key (component, layer)
);

-- +goose Down
drop table component_copies, survey_marked, survey_planned, survey_rules, survey_doubts;
