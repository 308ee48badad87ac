-- What results are made of: sums by day of the site's own calendar, and by country, source and device of each day. Hours remain for
-- whoever takes them out. Days that were counted stay those of the zone that the site had then.
create table event_days (
  site text not null,
  slot text not null,
  day date not null,
  of text not null check (of in ('day', 'country', 'source', 'device', 'apart')),
  key text not null,                    -- the country, source or device; why it counts apart; empty: of the day
  kind text not null,
  variant text not null,
  arm text not null,
  name text not null,                   -- the goal that was reached
  count bigint not null,
  firsts bigint not null,
  value bigint not null,
  primary key (site, slot, day, of, key, kind, variant, arm, name)
);
alter table event_days enable row level security;
alter table event_days force row level security;
create policy one_site on event_days using (one_site(site));

-- By what an event, or an hour of them, is summed up in its day.
create function event_keys(country text, source text, device text, apart text)
returns table (of text, key text) language sql immutable as $$
  select 'apart', apart where apart <> ''
  union all
  select kind, value from (values ('day', ''), ('country', country), ('source', source), ('device', device)) k (kind, value)
  where apart = ''
$$;
-- The zone of a site's days.
create function site_zone(wanted text) returns text language sql stable as $$
  select coalesce((select settings->'site'->>'zone' from sites where site = wanted), 'UTC')
$$;

insert into event_days (site, slot, day, of, key, kind, variant, arm, name, count, firsts, value)
select e.site, e.slot, (e.hour at time zone site_zone(e.site))::date, k.of, k.key, e.kind, e.variant, e.arm,
  case e.kind when 'conversion' then e.name else '' end, sum(e.count), sum(e.firsts), sum(e.value)
from event_hours e cross join lateral event_keys(e.country, e.source, e.device, e.apart) k
group by 1, 2, 3, 4, 5, 6, 7, 8, 9;
