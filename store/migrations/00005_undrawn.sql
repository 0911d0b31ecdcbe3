-- +goose Up
alter table components -- one may begin without a drawing
  alter column document drop not null,
  alter column source drop not null;

-- +goose Down
delete from components where document is null;
alter table components
  alter column document set not null,
  alter column source set not null;
