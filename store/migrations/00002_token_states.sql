-- +goose Up
-- Every state the token files had, whole. Texts are kept once, by their hash.
-- Undo and redo make a new state of an older one's files.
create table token_texts (
  hash    bytea primary key,
  content bytea not null
);

create table token_states (
  number  int primary key check (number >= 0),
  note    text not null,
  undo_to int references token_states,
  redo_to int references token_states,
  renames jsonb not null default '[]', -- tokens that got another name since undo_to: contracts follow
  created timestamptz not null default now()
);

create table token_state_files (
  state    int not null references token_states on delete cascade,
  position int not null,
  name     text not null,
  hash     bytea not null references token_texts,
  since    int not null, -- the state that gave it this text
  primary key (state, name)
);

insert into token_states (number, note) values (0, 'none yet');
insert into token_texts (hash, content) select distinct sha256(content), content from token_files;
insert into token_states (number, note, undo_to) select 1, 'taken over', 0 where exists (select from token_files);
insert into token_state_files (state, position, name, hash, since) select 1, position, name, sha256(content), 1 from token_files;
drop table token_files;

-- +goose Down
create table token_files (
  name     text primary key,
  position int not null,
  revision int not null default 1,
  content  bytea not null,
  updated  timestamptz not null default now()
);
insert into token_files (name, position, content)
  select f.name, f.position, t.content from token_state_files f join token_texts t using (hash) where f.state = (select max(number) from token_states);
drop table token_state_files, token_states, token_texts;
