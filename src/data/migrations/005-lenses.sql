-- A lens may go on: the pages looked at after its first, and how long after.
alter table lenses add column steps jsonb not null default '[]';

-- A lens that was shared by link: seen by whoever has it, until it expires.
alter table preview_passes add column title text;
