import type { Apart } from "@/core/formats/event";
import type { HourRow } from "@/core/results/hours";
import { dimensions, type ResultRow } from "@/core/results/results";
import { of } from "./pool";

/** What is counted of a slot (or of a pop-up: `popup:ID`) on the days from one until another, both whole days of a zone: by day, and by country, source and device. */
export async function resultRows(
  site: string,
  slot: string,
  from: string,
  until: string,
  zone: string,
): Promise<ResultRow[]> {
  const found = await of(site).query<
    Omit<ResultRow, "of" | "count" | "firsts" | "value"> & Record<"of" | "count" | "firsts" | "value", string>
  >(
    `select grouping(day, country, source, device) as of, coalesce(day, country, source, device, '') as key, kind, variant, arm, name,
       sum(count) as count, sum(firsts) as firsts, sum(value) as value
     from (select to_char(hour at time zone $5, 'YYYY-MM-DD') as day, kind, variant, arm,
         case kind when 'conversion' then name else '' end as name, country, source, device, count, firsts, value
       from event_hours where site = $1 and slot = $2 and apart = ''
         and hour >= $3::date::timestamp at time zone $5 and hour < ($4::date + 1)::timestamp at time zone $5) as counted
     group by kind, variant, arm, name, grouping sets ((day), (country), (source), (device))
     order by 1, 2, 3, 4, 5, 6`,
    [site, slot, from, until, zone],
  );
  // A bit of `grouping` is 0 for what a row is grouped by, the first the highest.
  const ofBits: Record<string, ResultRow["of"]> = Object.fromEntries(
    dimensions.map((name, index) => [String(15 - (8 >> index)), name]),
  );
  return found.rows.map((row) => ({
    ...row,
    of: ofBits[row.of] as ResultRow["of"],
    count: Number(row.count),
    firsts: Number(row.firsts),
    value: Number(row.value),
  }));
}

/** The same by hour, as it is kept. */
export async function hourRows(
  site: string,
  slot: string,
  from: string,
  until: string,
  zone: string,
): Promise<HourRow[]> {
  const found = await of(site).query<
    Omit<HourRow, "hour" | "count" | "firsts" | "value"> & Record<"count" | "firsts" | "value", string> & { hour: Date }
  >(
    `select hour, kind, variant, arm, name, country, source, device, count, firsts, value from event_hours
     where site = $1 and slot = $2 and apart = ''
       and hour >= $3::date::timestamp at time zone $5 and hour < ($4::date + 1)::timestamp at time zone $5
     order by 1, 2, 3, 4, 5, 6, 7, 8`,
    [site, slot, from, until, zone],
  );
  return found.rows.map((row) => ({
    ...row,
    hour: row.hour.toISOString().replace(".000Z", "Z"),
    count: Number(row.count),
    firsts: Number(row.firsts),
    value: Number(row.value),
  }));
}

/** Slots (and pop-ups) of which anything is counted in [from, until), with how often they were seen. */
export async function countedSlots(
  site: string,
  from: Date,
  until: Date,
): Promise<{ slot: string; exposures: number }[]> {
  const found = await of(site).query<{ slot: string; exposures: string }>(
    `select slot, coalesce(sum(count) filter (where kind = 'exposure'), 0) as exposures from event_hours
     where site = $1 and hour >= $2 and hour < $3 and apart = '' group by slot order by slot`,
    [site, from, until],
  );
  return found.rows.map((row) => ({ slot: row.slot, exposures: Number(row.exposures) }));
}

/** What was told of a slot and counts apart from its results, by why and kind. */
export async function countedApart(
  site: string,
  slot: string,
  from: string,
  until: string,
  zone: string,
): Promise<{ apart: Apart; kind: ResultRow["kind"]; count: number }[]> {
  const found = await of(site).query<{ apart: Apart; kind: ResultRow["kind"]; count: string }>(
    `select apart, kind, sum(count) as count from event_hours
     where site = $1 and slot = $2 and apart <> ''
       and hour >= $3::date::timestamp at time zone $5 and hour < ($4::date + 1)::timestamp at time zone $5
     group by apart, kind order by 1, 2`,
    [site, slot, from, until, zone],
  );
  return found.rows.map((row) => ({ ...row, count: Number(row.count) }));
}
