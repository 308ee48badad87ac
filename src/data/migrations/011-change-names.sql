-- A change that is sent again because its answer was lost is the same change: it bears the name that its maker's browser gave it.
alter table edits add column change_name text;
create unique index edits_by_name on edits (site, change_name) where change_name is not null;
