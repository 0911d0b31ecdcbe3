-- +goose Up
alter table components rename column collection to shelf;

-- +goose Down
alter table components rename column shelf to collection;
