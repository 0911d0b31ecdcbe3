-- +goose Up
alter table documents
  add column called  text not null default '', -- what people call it; as it names itself when empty
  add column removed timestamptz;              -- it is out of the project since; its revisions stay

-- +goose Down
alter table documents drop column called, drop column removed;
