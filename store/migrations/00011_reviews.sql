-- +goose Up
alter table people add constraint people_name unique (name);
alter table projects add column approval boolean not null default false; -- a release waits for somebody else to approve it
create table reviews ( -- a component that was put up for review, once at a time
  id        bigint generated always as identity primary key,
  component bigint not null references components on delete cascade,
  note      text not null default '', -- what is to be looked at
  actor     bigint not null references people,
  asked     timestamptz not null default now(),
  closed    timestamptz,
  approver  bigint references people,
  approved  int -- the revision of the contract that was approved
);
create unique index reviews_open on reviews (component) where closed is null;
create table comments (
  id        bigint generated always as identity primary key,
  component bigint not null references components on delete cascade,
  place     text not null check (place in ('component', 'fact', 'part', 'case')),
  key       text not null, -- of the fact or the case, id of the part; empty for the component
  words     text not null, -- the place in words, as it was called then
  body      text not null,
  actor     bigint not null references people,
  created   timestamptz not null default now(),
  resolver  bigint references people,
  resolved  timestamptz
);
create index comments_component on comments (component, created);

-- +goose Down
drop table comments, reviews;
alter table projects drop column approval;
alter table people drop constraint people_name;
