-- Steps of set-up that are done once. One that was begun and not done was interrupted: none of it is there, and it is done anew.
create table setup_steps (
  name text primary key,
  began_at timestamptz not null default now(),
  done_at timestamptz
);

-- Drops no partitions any more: making room for one site's days must not take another's away.
drop function event_partitions(date, integer, date);
create function make_event_partitions(first_day date, days integer) returns void language plpgsql as $$
declare
  day date;
  part text;
begin
  perform pg_advisory_xact_lock(4301);
  for day in select first_day + n from generate_series(0, days - 1) n loop
    part := 'events_' || to_char(day, 'YYYYMMDD');
    if to_regclass(part) is null then
      execute format('create table %I partition of events for values from (%L) to (%L)', part, day, day + 1);
    end if;
  end loop;
end $$;

create function drop_event_partitions(oldest date) returns void language plpgsql as $$
declare
  part text;
begin
  perform pg_advisory_xact_lock(4301);
  for part in select c.relname from pg_inherits i join pg_class c on c.oid = i.inhrelid
              where i.inhparent = 'events'::regclass and c.relname < 'events_' || to_char(oldest, 'YYYYMMDD') loop
    execute format('drop table %I', part);
  end loop;
end $$;
