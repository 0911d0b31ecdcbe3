-- +goose Up
create table icons ( -- small drawings of the library, which components pick among
  project bigint not null references projects on delete cascade,
  name    text not null,
  words   text not null default '', -- to be found by
  file    text not null,
  drawing jsonb not null,
  cleaned jsonb not null default '[]', -- what of the file was changed
  lost    jsonb not null default '[]', -- and what is not as it was
  removed timestamptz,
  actor   bigint not null references people,
  created timestamptz not null default now(),
  primary key (project, name)
);

-- +goose Down
drop table icons;
