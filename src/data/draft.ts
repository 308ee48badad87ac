import { readBy } from "@/core/formats/read";
import { siteDraftSchema, type SiteDraft } from "@/core/formats/site-draft";
import type { Ruleset } from "@/core/formats/ruleset";
import { same } from "@/core/draft/edit";
import { of, type Queryable } from "./pool";
import { holdSite } from "./sites";

/** The draft of a site, with the version that the whole of it has. */
export interface Draft {
  ruleset: SiteDraft;
  version: number;
}

/** Subjects kept a row each, by their key in a ruleset. Slots and their variants have tables of their own. */
const tables = {
  placeLists: "place_lists",
  audiences: "audiences",
  markers: "markers",
  blockTypes: "block_types",
  popups: "popups",
  offers: "offers",
  redirects: "redirects",
  goals: "goals",
  library: "library_blocks",
  picks: "picks",
} as const;
type Subject = keyof typeof tables;
const subjects = Object.keys(tables) as Subject[];

interface Row {
  id: string;
  body: { id: string };
  slot?: string;
}

/** Every list of a draft in one statement: what is saved meanwhile is in all of them, or in none. */
const listOf = (table: string): string =>
  `(select coalesce(json_agg(one order by one.position), '[]') from ${table} one where site = $1) as ${table}`;
const wholeDraft = `select settings, version, ${["slots", "variants", ...Object.values(tables)].map(listOf).join(", ")}
  from sites where site = $1`;

/** Loads a draft. `lock` holds it for the transaction, so that two saves never cross. */
export async function loadDraft(site: string, db: Queryable = of(site), lock = false): Promise<Draft | undefined> {
  if (lock) await holdSite(site, db);
  const found = await db.query<{ settings: object; version: string } & Record<string, Row[]>>(wholeDraft, [site]);
  const row = found.rows[0];
  if (!row) return undefined;
  const list = (table: string): Row[] => row[table] ?? [];
  const raw: Record<string, unknown> = { format: "mirada-ruleset/1", ...row.settings };
  for (const subject of subjects) raw[subject] = list(tables[subject]).map((item) => item.body);
  const variants = new Map<string | undefined, Row["body"][]>();
  for (const { slot, body } of list("variants")) {
    const there = variants.get(slot) ?? [];
    there.push(body);
    variants.set(slot, there);
  }
  raw.slots = list("slots").map((slot) => ({ ...slot.body, variants: variants.get(slot.id) ?? [] }));
  const read = readBy(siteDraftSchema, raw);
  if (!read.ok)
    throw new Error(
      `the stored draft of ${site} is damaged at ${read.problems[0]?.path}: ${read.problems[0]?.problem}`,
    );
  return { ruleset: read.value, version: Number(row.version) };
}

/** Something of a draft with its place in its list; a variant also with its slot. */
interface Placed {
  item: { id: string };
  index: number;
  slot?: string;
}
const placed = (items: readonly { id: string }[], slot?: string): Placed[] =>
  items.map((item, index) => ({ item, index, ...(slot === undefined ? {} : { slot }) }));

/** Writes the rows in which a draft differs from what is stored, each with a version one higher. Returns the new version. */
export async function saveDraft(site: string, before: SiteDraft, after: SiteDraft, db: Queryable): Promise<number> {
  for (const subject of subjects) await write(tables[subject], placed(before[subject]), placed(after[subject]));
  const bare = ({ slots }: Ruleset) => placed(slots.map((slot) => ({ ...slot, variants: undefined })));
  await write("slots", bare(before), bare(after));
  // Of all slots together: a variant that moved from one to another is neither deleted nor new.
  const variants = ({ slots }: Ruleset) => slots.flatMap((slot) => placed(slot.variants, slot.id));
  await write("variants", variants(before), variants(after));

  /** What is gone is deleted before anything is written. */
  async function write(table: string, old: readonly Placed[], now: readonly Placed[]): Promise<void> {
    const left = new Set(now.map(({ item }) => item.id));
    const were = new Map(old.map((row) => [row.item.id, row]));
    for (const id of were.keys())
      if (!left.has(id)) await db.query(`delete from ${table} where site = $1 and id = $2`, [site, id]);
    for (const { item, index, slot } of now) {
      const was = were.get(item.id);
      if (was && was.index === index && was.slot === slot && same(was.item, item)) continue;
      const inSlot = slot !== undefined;
      await db.query(
        `insert into ${table} (site, id, position, body${inSlot ? ", slot" : ""}) values ($1, $2, $3, $4${inSlot ? ", $5" : ""})
         on conflict (site, id) do update set position = excluded.position, body = excluded.body,
           ${inSlot ? "slot = excluded.slot," : ""} version = ${table}.version + 1`,
        [site, item.id, index, JSON.stringify(item), ...(inSlot ? [slot] : [])],
      );
    }
  }
  const result = await db.query<{ version: string }>(
    "update sites set settings = $2, name = $3, version = version + 1 where site = $1 returning version",
    [site, JSON.stringify(settingsOf(after)), after.site.name],
  );
  return Number(result.rows[0]?.version);
}

const settingsOf = ({ site, dataFields, collect, wordParameters, searchSources }: Ruleset) => ({
  site,
  dataFields,
  collect,
  wordParameters,
  searchSources,
});

/** Makes a site with its first draft. */
export async function createSite(ruleset: SiteDraft, db: Queryable): Promise<void> {
  const { id, name } = ruleset.site;
  await db.query("insert into sites (site, name, settings) values ($1, $2, $3)", [
    id,
    name,
    JSON.stringify(settingsOf(ruleset)),
  ]);
  const empty = siteDraftSchema.parse({ format: "mirada-ruleset/1", site: ruleset.site });
  await saveDraft(id, empty, ruleset, db);
}

/** The version of a site's draft, without the draft. */
export async function draftVersion(site: string): Promise<number> {
  const found = await of(site).query<{ version: string }>("select version from sites where site = $1", [site]);
  return Number(found.rows[0]?.version);
}
