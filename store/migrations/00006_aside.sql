-- +goose Up
create table aside ( -- findings of a review that people set aside
  component bigint not null references components on delete cascade,
  finding   text not null,
  reason    text not null,
  actor     bigint not null references people,
  created   timestamptz not null default now(),
  primary key (component, finding)
);

-- +goose Down
drop table aside;
