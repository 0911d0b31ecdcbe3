-- +goose Up
alter table contracts add column step text not null default ''; -- the last thing done that is not undone: what undo takes back
update contracts set step = note;

-- +goose Down
alter table contracts drop column step;
