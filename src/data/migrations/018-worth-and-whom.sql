-- What visitors were worth when each reached a goal for the first time: in bands, eight to a doubling, with sums, so that very large
-- values can be bounded afterwards.
create table event_values (
  site text not null,
  slot text not null,
  day date not null,                    -- of the site's own calendar, as in event_days
  variant text not null,
  arm text not null,
  name text not null,                   -- the goal
  band integer not null,
  count bigint not null,
  sum bigint not null,
  squares double precision not null,
  primary key (site, slot, day, variant, arm, name, band)
);
alter table event_values enable row level security;
alter table event_values force row level security;
create policy one_site on event_values using (one_site(site));

-- The band of a value of at least 1 (src/core/results/worth.ts).
create function value_band(value bigint) returns integer language sql immutable as $$
  select floor(8 * ln(value::float8) / ln(2::float8))::integer
$$;

insert into event_values (site, slot, day, variant, arm, name, band, count, sum, squares)
select site, slot, (at at time zone site_zone(site))::date, variant, arm, name, value_band(value), count(*), sum(value),
  sum(value::float8 * value::float8)
from events where kind = 'conversion' and first and value > 0 and apart = ''
group by 1, 2, 3, 4, 5, 6, 7;

-- Results are read by campaign, language, operating system and whether somebody was there before, too.
alter table events add column campaign text not null default '';
alter table events add column language text not null default '';
alter table events add column system text not null default '';
alter table events add column visits text not null default '';
alter table event_days drop constraint event_days_of_check;
alter table event_days add constraint event_days_of_check
  check (of in ('day', 'country', 'source', 'device', 'campaign', 'language', 'system', 'visits', 'apart'));
drop function event_keys(text, text, text, text);
create function event_keys(country text, source text, device text, campaign text, language text, system text, visits text, apart text)
returns table (of text, key text) language sql immutable as $$
  select 'apart', apart where apart <> ''
  union all
  select kind, value from (values ('day', ''), ('country', country), ('source', source), ('device', device),
    ('campaign', campaign), ('language', language), ('system', system), ('visits', visits)) k (kind, value)
  where apart = ''
$$;
