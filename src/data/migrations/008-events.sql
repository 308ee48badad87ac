-- Pages of other origins that may ask for decisions by script, and how long events are kept.
alter table site_delivery add column origins text[] not null default '{}';
alter table site_delivery add column event_days integer not null default 35 check (event_days between 1 and 400);

-- Keys by which pages and servers ask. A public key stands in a page; of a secret one only its SHA-256 is kept.
create table site_keys (
  site text not null references sites,
  id text not null,
  kind text not null check (kind in ('public', 'secret')),
  name text not null,
  key text not null,                    -- a public key itself; the SHA-256 of a secret one
  made_at timestamptz not null default now(),
  made_by text not null,
  ended_at timestamptz,
  primary key (site, id)
);
create unique index site_keys_by_key on site_keys (site, key);

-- What happened on a site: never who. An event has a random name, so that one sent twice counts once.
create table events (
  site text not null,
  day date not null,
  id uuid not null,
  at timestamptz not null,
  kind text not null check (kind in ('exposure', 'click', 'conversion')),
  slot text not null,
  variant text not null,                -- empty: the fallback
  arm text not null,
  first boolean not null,               -- the first of its kind for a visitor who is remembered
  name text not null,                   -- what was clicked, or which goal was reached
  value bigint not null,                -- minor units of the site's currency
  country text not null,
  source text not null,
  device text not null,
  primary key (site, day, id)
) partition by range (day);

create table event_hours (
  site text not null,
  hour timestamptz not null,
  kind text not null,
  slot text not null,
  variant text not null,
  arm text not null,
  name text not null,
  country text not null,
  source text not null,
  device text not null,
  count bigint not null,
  firsts bigint not null,
  value bigint not null,
  primary key (site, hour, kind, slot, variant, arm, name, country, source, device)
);

-- Makes the partitions from a day on for so many days, and drops those that end before another.
create function event_partitions(first_day date, days integer, oldest date) returns void language plpgsql as $$
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
  for part in select c.relname from pg_inherits i join pg_class c on c.oid = i.inhrelid
              where i.inhparent = 'events'::regclass and c.relname < 'events_' || to_char(oldest, 'YYYYMMDD') loop
    execute format('drop table %I', part);
  end loop;
end $$;
