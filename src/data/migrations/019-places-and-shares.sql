-- Place data in the form that is ready as soon as it is read (src/core/visit/place-table.ts); empty: its bytes are.
alter table place_files add column packed bytea;
-- Who shared a look by link: it ends when they are none of the site's people any more.
alter table preview_passes add column made_by text;
