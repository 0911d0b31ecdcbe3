-- +goose Up
-- A component is drawn from a family or from a layer of a page; ids of a
-- document are unique.
alter table components rename column family to drawn;

-- +goose Down
alter table components rename column drawn to family;
