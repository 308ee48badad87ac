/**
 * How long results take of a site with 20 million events: they are made of the hourly roll-ups, which are made here by the database
 * as events would leave them. Needs PostgreSQL, which it starts by itself.
 */
import { withDatabase } from "./database";
import { line, median } from "./measure";

const site = "bench-results";
const million = 1_000_000;
const days = 60;
const slots = 8;

/** Events of so many millions over 60 days and 8 slots: countries, sources and slots by a power law, as traffic is. */
async function fill(millions: number): Promise<number> {
  const { allSites, of } = await import("@/data/pool");
  const db = of(allSites);
  await db.query("delete from event_hours where site = $1", [site]);
  for (let part = 0; part < millions; part++)
    await db.query(
      `insert into event_hours (site, hour, kind, slot, variant, arm, name, country, source, device, apart, count, firsts, value)
       select $1, hour, kind, slot, variant, arm, case kind when 'conversion' then 'order' when 'click' then '/p' || link else '' end,
         country, source, device, '', count(*), sum(first), sum(case kind when 'conversion' then 2500 else 0 end)
       from (select timestamptz '2026-09-01T00:00Z' + interval '1 hour' * (random() * ($3 * 24 - 1))::int as hour,
           case when a < 0.9 then 'exposure' when a < 0.98 then 'click' else 'conversion' end as kind,
           's' || (power(random(), 2) * ($4 - 0.001))::int as slot, 'v' || (random() * 2.99)::int as variant,
           case when random() < 0.5 then 'a' else 'b' end as arm, (random() * 4)::int as link,
           'C' || (power(random(), 4) * 40)::int as country, 'source-' || (power(random(), 3) * 15)::int as source,
           case when random() < 0.6 then 'phone' else 'desktop' end as device, (random() < 0.4)::int as first
         from (select random() as a from generate_series(1, $2)) one) event
       group by hour, kind, slot, variant, arm, link, country, source, device
       on conflict (site, hour, kind, slot, variant, arm, name, country, source, device, apart) do update set
         count = event_hours.count + excluded.count, firsts = event_hours.firsts + excluded.firsts,
         value = event_hours.value + excluded.value`,
      [site, million, days, slots],
    );
  await db.query("analyze event_hours");
  const { rows } = await db.query<{ count: number }>("select count(*)::int as count from event_hours where site = $1", [
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
  const whole = await timed(() =>
    Promise.all([
      resultRows(site, "s0", from, until, "Europe/Lisbon"),
      countedApart(site, "s0", from, until, "Europe/Lisbon"),
      countedSlots(site, new Date(from), new Date(until)),
    ]),
  );
  const month = await timed(() =>
    Promise.all([
      resultRows(site, "s0", "2026-10-03", until, "Europe/Lisbon"),
      countedApart(site, "s0", "2026-10-03", until, "Europe/Lisbon"),
      countedSlots(site, new Date("2026-10-03"), new Date(until)),
    ]),
  );
  line({
    figure: `results of the slot that is seen most, of ${millions} million events on 8 slots in 60 days`,
    rollUpRows: rows,
    milliseconds: { "60 days": whole, "28 days": month },
  });
}
