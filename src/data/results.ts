import type { SlotSum } from "@/core/results/sums";
import type { Apart } from "@/core/formats/event";
import type { HourRow } from "@/core/results/hours";
import { dimensions, type Dimension, type ResultRow } from "@/core/results/results";
import type { ValueRow } from "@/core/results/worth";
import { of, type Queryable } from "./pool";

/** What is counted of a slot (or of a pop-up: `popup:ID`) from a day of the site's calendar until another: by day, and by groups of visitors. */
export async function resultRows(
  site: string,
  slot: string,
  from: string,
  until: string,
  by: readonly Dimension[] = dimensions,
): Promise<ResultRow[]> {
  const found = await of(site).query<
    Omit<ResultRow, "count" | "firsts" | "value"> & Record<"count" | "firsts" | "value", string>
  >(
    `select of, case of when 'day' then to_char(day, 'YYYY-MM-DD') else key end as key, kind, variant, arm, name,
       sum(count) as count, sum(firsts) as firsts, sum(value) as value
     from event_days where site = $1 and slot = $2 and of = any($5) and day between $3::date and $4::date
     group by 1, 2, 3, 4, 5, 6 order by 1, 2, 3, 4, 5, 6`,
    [site, slot, from, until, by],
  );
  return found.rows.map((row) => ({
    ...row,
    count: Number(row.count),
    firsts: Number(row.firsts),
    value: Number(row.value),
  }));
}

/** What visitors of a slot were worth when each reached a goal for the first time, by bands of values, of the same days. */
export async function valueRows(site: string, slot: string, from: string, until: string): Promise<ValueRow[]> {
  const found = await of(site).query<Omit<ValueRow, "count" | "sum"> & Record<"count" | "sum", string>>(
    `select variant, arm, name, band, sum(count) as count, sum(sum) as sum, sum(squares) as squares
     from event_values where site = $1 and slot = $2 and day between $3::date and $4::date
     group by 1, 2, 3, 4 order by 1, 2, 3, 4`,
    [site, slot, from, until],
  );
  return found.rows.map((row) => ({ ...row, count: Number(row.count), sum: Number(row.sum) }));
}

/** What was told of a slot and counts apart from its results, by why and kind. */
export async function countedApart(
  site: string,
  slot: string,
  from: string,
  until: string,
): Promise<{ apart: Apart; kind: ResultRow["kind"]; count: number }[]> {
  const found = await of(site).query<{ apart: Apart; kind: ResultRow["kind"]; count: string }>(
    `select key as apart, kind, sum(count) as count from event_days
     where site = $1 and slot = $2 and day between $3::date and $4::date and of = 'apart'
     group by 1, 2 order by 1, 2`,
    [site, slot, from, until],
  );
  return found.rows.map((row) => ({ ...row, count: Number(row.count) }));
}

/** The same as it is kept by hour, of the same days. */
export async function hourRows(site: string, slot: string, from: string, until: string): Promise<HourRow[]> {
  const found = await of(site).query<
    Omit<HourRow, "hour" | "count" | "firsts" | "value"> & Record<"count" | "firsts" | "value", string> & { hour: Date }
  >(
    `select hour, kind, variant, arm, name, country, source, device, count, firsts, value
     from event_hours, (select site_zone($1) as zone) as its
     where site = $1 and slot = $2 and apart = ''
       and hour >= $3::date::timestamp at time zone zone and hour < ($4::date + 1)::timestamp at time zone zone
     order by 1, 2, 3, 4, 5, 6, 7, 8`,
    [site, slot, from, until],
  );
  return found.rows.map((row) => ({
    ...row,
    hour: row.hour.toISOString().replace(".000Z", "Z"),
    count: Number(row.count),
    firsts: Number(row.firsts),
    value: Number(row.value),
  }));
}

/** Slots (and pop-ups) of which anything is counted from a day of the site's calendar until another. */
export async function countedSlots(site: string, from: string, until: string): Promise<SlotSum[]> {
  const found = await of(site).query<{ slot: string; kind: string; name: string; count: string; firsts: string }>(
    // From one slot to the next: of each its days alone are read.
    `with recursive seen as (
       (select site, slot from event_days where site = $1 order by slot limit 1)
       union all
       select site, (select next.slot from event_days next where next.site = $1 and next.slot > seen.slot order by next.slot limit 1)
       from seen where seen.slot is not null)
     select seen.slot, kind, name, sum(count) as count, sum(firsts) as firsts
     from seen join event_days d on d.site = seen.site and d.slot = seen.slot
     where d.of = 'day' and d.day between $2::date and $3::date group by 1, 2, 3 order by 1, 2, 3`,
    [site, from, until],
  );
  const out = new Map<string, { -readonly [K in keyof SlotSum]: SlotSum[K] } & { converted: Record<string, number> }>();
  for (const { slot, kind, name, count, firsts } of found.rows) {
    const sum = out.get(slot) ?? { slot, exposures: 0, visitors: 0, clicked: 0, converted: {} };
    out.set(slot, sum);
    if (kind === "exposure") {
      sum.exposures += Number(count);
      sum.visitors += Number(firsts);
    } else if (kind === "click") sum.clicked += Number(firsts);
    else sum.converted[name] = Number(firsts);
  }
  return [...out.values()];
}

/** Deletes all that was counted of a slot from a day of the site's calendar until another. @returns how many exposures those were */
export async function forgetCounts(
  site: string,
  slot: string,
  from: string,
  until: string,
  db: Queryable,
): Promise<number> {
  const gone = await db.query<{ exposures: string }>(
    `with gone as (
       delete from event_days where site = $1 and slot = $2 and day between $3::date and $4::date returning of, kind, count)
     select coalesce(sum(count), 0) as exposures from gone where of = 'day' and kind = 'exposure'`,
    [site, slot, from, until],
  );
  const where = [site, slot, from, until];
  await db.query("delete from event_values where site = $1 and slot = $2 and day between $3::date and $4::date", where);
  const within = (at: string) =>
    `${at} >= $3::date::timestamp at time zone site_zone($1) and ${at} < ($4::date + 1)::timestamp at time zone site_zone($1)`;
  await db.query(`delete from event_hours where site = $1 and slot = $2 and ${within("hour")}`, where);
  await db.query(`delete from events where site = $1 and slot = $2 and ${within("at")}`, where);
  return Number(gone.rows[0]?.exposures ?? 0);
}
