import type { KeptEvent } from "@/core/formats/event";
import { allSites, transaction, type Queryable } from "./pool";

/** An event with the site it belongs to. */
export interface SiteKept extends KeptEvent {
  site: string;
}

/**
 * Writes events and adds those that are new to their hours, all or none. One that is there already (its id and day) changes
 * nothing: so a batch may be sent again whenever it is not certain that it arrived.
 * @returns how many were new
 */
export const keepEvents = (events: readonly SiteKept[]): Promise<number> =>
  transaction(allSites, (db) => keepEventsIn(events, db));

/** The same within a transaction that is under way. */
export async function keepEventsIn(events: readonly SiteKept[], db: Queryable): Promise<number> {
  // In one order everywhere, so that two writers never wait for each other.
  const rows = [...events].sort((a, b) => (a.site + a.at + a.id < b.site + b.at + b.id ? -1 : 1));
  const days = [...new Set(rows.map(({ day, at }) => day ?? new Date(at).toISOString().slice(0, 10)))].sort();
  // A day that has no room yet (or no longer, since events were to be kept for less long) gets it at once.
  await db.query(
    `select make_event_partitions(day, 1) from unnest($1::date[]) as day
     where to_regclass('events_' || to_char(day, 'YYYYMMDD')) is null`,
    [days],
  );
  const done = await db.query<{ count: string }>(
    `with fresh as (
         insert into events (site, day, id, at, kind, slot, variant, arm, first, name, value, country, source, device,
           campaign, language, system, visits, apart)
         select site, coalesce(day, (at at time zone 'UTC')::date), id, at, kind, slot, variant, arm, first, name, value, country,
           source, device, coalesce(campaign, ''), coalesce(language, ''), coalesce(system, ''), coalesce(visits, ''), coalesce(apart, '')
         from jsonb_to_recordset($1::jsonb) as e (site text, id uuid, at timestamptz, kind text, slot text, variant text,
           arm text, first boolean, name text, value bigint, country text, source text, device text, campaign text, language text,
           system text, visits text, day date, apart text)
         on conflict (site, day, id) do nothing
         returning *),
       hours as (
         select site, date_trunc('hour', at, 'UTC') as hour, kind, slot, variant, arm, name, country, source, device, apart,
           count(*) as count, count(*) filter (where first) as firsts, sum(value) as value
         from fresh group by 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11),
       added as (
         insert into event_hours (site, hour, kind, slot, variant, arm, name, country, source, device, apart, count, firsts, value)
         select * from hours order by site, hour, kind, slot, variant, arm, name, country, source, device, apart
         on conflict (site, hour, kind, slot, variant, arm, name, country, source, device, apart) do update set
           count = event_hours.count + excluded.count, firsts = event_hours.firsts + excluded.firsts,
           value = event_hours.value + excluded.value),
       zones as materialized (select site, site_zone(site) as zone from (select distinct site from fresh) as sites),
       days as (
         select f.site, f.slot, (f.at at time zone z.zone)::date as day, k.of, k.key, f.kind, f.variant, f.arm,
           case f.kind when 'conversion' then f.name else '' end as name,
           count(*) as count, count(*) filter (where f.first) as firsts, sum(f.value) as value
         from fresh f join zones z on z.site = f.site
           cross join lateral event_keys(f.country, f.source, f.device, f.campaign, f.language, f.system, f.visits, f.apart) k
         group by 1, 2, 3, 4, 5, 6, 7, 8, 9),
       summed as (
         insert into event_days (site, slot, day, of, key, kind, variant, arm, name, count, firsts, value)
         select * from days order by site, slot, day, of, key, kind, variant, arm, name
         on conflict (site, slot, day, of, key, kind, variant, arm, name) do update set
           count = event_days.count + excluded.count, firsts = event_days.firsts + excluded.firsts,
           value = event_days.value + excluded.value),
       worth as (
         select f.site, f.slot, (f.at at time zone z.zone)::date as day, f.variant, f.arm, f.name, value_band(f.value) as band,
           count(*) as count, sum(f.value) as sum, sum(f.value::float8 * f.value::float8) as squares
         from fresh f join zones z on z.site = f.site
         where f.kind = 'conversion' and f.first and f.value > 0 and f.apart = ''
         group by 1, 2, 3, 4, 5, 6, 7),
       banded as (
         insert into event_values (site, slot, day, variant, arm, name, band, count, sum, squares)
         select * from worth order by site, slot, day, variant, arm, name, band
         on conflict (site, slot, day, variant, arm, name, band) do update set
           count = event_values.count + excluded.count, sum = event_values.sum + excluded.sum,
           squares = event_values.squares + excluded.squares)
       select count(*) as count from fresh`,
    [JSON.stringify(rows)],
  );
  return Number(done.rows[0]?.count);
}

/** How far back and ahead events are taken, in days: what lies outside was made by a wrong clock. */
export const daysBack = 3;

/** Makes the partitions of the coming days, and drops those whose lifetime is over for every site. */
export async function tendPartitions(db: Queryable): Promise<void> {
  await db.query(
    `select make_event_partitions((now() at time zone 'UTC')::date - $1::int, $1::int + 4),
       drop_event_partitions((now() at time zone 'UTC')::date - (select coalesce(max(event_days), 35) from site_delivery))`,
    [daysBack],
  );
}

/** Makes the partitions of so many days, from one (YYYY-MM-DD) on. */
export async function makePartitions(first: string, days: number, db: Queryable): Promise<void> {
  await db.query("select make_event_partitions($1::date, $2)", [first, days]);
}

/** Deletes what is older than a site keeps events; partitions are dropped only when no site keeps them any more. */
export async function forgetOldEvents(db: Queryable): Promise<void> {
  await db.query(
    `delete from events e using site_delivery d
     where e.site = d.site and e.day < (now() at time zone 'UTC')::date - d.event_days`,
  );
}
