/**
 * How long results take of a site with 20 million events: they are made of daily sums, which the database makes here
 * as events would leave them. Needs PostgreSQL, which it starts by itself.
 */
import { withDatabase } from "./database";
import { line, median } from "./measure";

const site = "bench-results";
const million = 1_000_000;
const days = 60;
const slots = 8;

const sums = "slot, day, of, key, kind, variant, arm, name";
/** A part of them as they were told, summed up: so many, over 60 days and 8 slots, by power laws as traffic is. */
const part = `
  with told as (
    select timestamptz '2026-09-01T00:00Z' + interval '1 hour' * (random() * ($2 * 24 - 1))::int as hour,
      case when a < 0.9 then 'exposure' when a < 0.98 then 'click' else 'conversion' end as kind,
      's' || (power(random(), 2) * ($3 - 0.001))::int as slot, 'v' || (random() * 2.99)::int as variant,
      case when random() < 0.5 then 'a' else 'b' end as arm, 'C' || (power(random(), 4) * 40)::int as country,
      'source-' || (power(random(), 3) * 15)::int as source,
      case when random() < 0.6 then 'phone' else 'desktop' end as device, 'letter-' || (power(random(), 3) * 20)::int as campaign,
      'l' || (power(random(), 4) * 12)::int as language, 'system-' || (random() * 5)::int as system,
      case when random() < 0.4 then 'new' else 'back' end as visits, random() < 0.4 as first
    from (select random() as a from generate_series(1, $1)) one)
  insert into parts
  select slot, (hour at time zone 'Europe/Lisbon')::date as day, k.of, k.key, kind, variant, arm,
    case kind when 'conversion' then 'order' else '' end as name, count(*), count(*) filter (where first),
    sum(case kind when 'conversion' then 2500 else 0 end)
  from told cross join lateral event_keys(country, source, device, campaign, language, system, visits, '') k
  group by ${sums}`;

/** Makes the sums that so many millions of events leave. @returns how many rows they are */
async function fill(millions: number): Promise<number> {
  const { allSites, of } = await import("@/data/pool");
  const db = of(allSites);
  await db.query(
    `create unlogged table parts (slot text, day date, of text, key text, kind text, variant text, arm text, name text,
       count bigint, firsts bigint, value bigint)`,
  );
  let left = millions;
  const work = async () => {
    while (left-- > 0) await db.query(part, [million, days, slots]);
  };
  await Promise.all([work(), work()]);
  // Day after day, as they come.
  await db.query(
    `insert into event_days (site, ${sums}, count, firsts, value)
     select $1, ${sums}, sum(count), sum(firsts), sum(value) from parts group by ${sums} order by day`,
    [site],
  );
  await db.query("drop table parts");
  await db.query("analyze event_days");
  const { rows } = await db.query<{ count: number }>("select count(*)::int as count from event_days where site = $1", [
    site,
  ]);
  return rows[0]?.count ?? 0;
}

async function timed(work: () => Promise<unknown>, rounds = 5): Promise<number> {
  const all: number[] = [];
  for (let round = 0; round < rounds; round++) {
    const began = performance.now();
    await work();
    all.push(performance.now() - began);
  }
  return Math.round(median(all));
}

export const resultFigures = (): Promise<void> => withDatabase(figures);

async function figures(): Promise<void> {
  // Only once there is a database to speak with.
  const { countedApart, countedSlots, resultRows } = await import("@/data/results");
  const millions = Number(process.env.MILLIONS ?? 20);
  const rows = await fill(millions);
  const [from, until] = ["2026-09-01", "2026-10-30"];
  const asked = (first: string) =>
    timed(() =>
      Promise.all([
        resultRows(site, "s0", first, until, ["day", "source"]),
        countedApart(site, "s0", first, until),
        countedSlots(site, first, until),
      ]),
    );
  const [whole, month] = [await asked(from), await asked("2026-10-03")];
  line({
    figure: `results of the slot that is seen most, of ${millions} million events on 8 slots in 60 days`,
    sums: rows,
    milliseconds: { "60 days": whole, "28 days": month },
  });
}
