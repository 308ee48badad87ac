import { readBy } from "@/core/formats/read";
import { siteDraftSchema, type SiteDraft } from "@/core/formats/site-draft";
import type { Ruleset } from "@/core/formats/ruleset";
import { same } from "@/core/draft/edit";
import { pool, type Queryable } from "./pool";

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

/** Loads a draft. `lock` holds it for the transaction, so that two saves never cross. */
export async function loadDraft(site: string, db: Queryable = pool(), lock = false): Promise<Draft | undefined> {
  const found = await db.query<{ settings: object; version: string }>(
    `select settings, version from sites where site = $1${lock ? " for update" : ""}`,
    [site],
  );
  const row = found.rows[0];
  if (!row) return undefined;
  const list = async (table: string): Promise<Row[]> =>
    (await db.query<Row>(`select * from ${table} where site = $1 order by position`, [site])).rows;
  const variants = await list("variants");
  const raw: Record<string, unknown> = { format: "mirada-ruleset/1", ...row.settings };
  for (const subject of subjects) raw[subject] = (await list(tables[subject])).map((item) => item.body);
  raw.slots = (await list("slots")).map((slot) => ({
    ...slot.body,
    variants: variants.filter((variant) => variant.slot === slot.id).map((variant) => variant.body),
  }));
  const read = readBy(siteDraftSchema, raw);
  if (!read.ok)
    throw new Error(
      `the stored draft of ${site} is damaged at ${read.problems[0]?.path}: ${read.problems[0]?.problem}`,
    );
  return { ruleset: read.value, version: Number(row.version) };
}

/** Writes the rows in which a draft differs from what is stored, each with a version one higher. Returns the new version. */
export async function saveDraft(site: string, before: SiteDraft, after: SiteDraft, db: Queryable): Promise<number> {
  const write = async (
    table: string,
    old: readonly { id: string }[],
    now: readonly { id: string }[],
    slot?: Map<string, string>,
  ) => {
    const places = new Map(old.map((item, index) => [item.id, { item, index }]));
    for (const item of old)
      if (!now.some((other) => other.id === item.id))
        await db.query(`delete from ${table} where site = $1 and id = $2`, [site, item.id]);
    for (const [index, item] of now.entries()) {
      const was = places.get(item.id);
      if (was && was.index === index && same(was.item, item)) continue;
      const columns = slot ? ", slot" : "";
      await db.query(
        `insert into ${table} (site, id, position, body${columns}) values ($1, $2, $3, $4${slot ? ", $5" : ""})
         on conflict (site, id) do update set position = excluded.position, body = excluded.body,
           ${slot ? "slot = excluded.slot," : ""} version = ${table}.version + 1`,
        [site, item.id, index, JSON.stringify(item), ...(slot ? [slot.get(item.id)] : [])],
      );
    }
  };
  for (const subject of subjects) await write(tables[subject], before[subject], after[subject]);
  const bare = (ruleset: Ruleset) => ruleset.slots.map((slot) => ({ ...slot, variants: undefined }));
  await write("slots", bare(before), bare(after));
  for (const slot of after.slots) {
    const old = before.slots.find((item) => item.id === slot.id);
    await write(
      "variants",
      old?.variants ?? [],
      slot.variants,
      new Map(slot.variants.map((variant) => [variant.id, slot.id])),
    );
  }
  const result = await db.query<{ version: string }>(
    "update sites set settings = $2, name = $3, version = version + 1 where site = $1 returning version",
    [site, JSON.stringify(settingsOf(after)), after.site.name],
  );
  return Number(result.rows[0]?.version);
}

const settingsOf = ({ site, dataFields, wordParameters, searchSources }: Ruleset) => ({
  site,
  dataFields,
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
  const found = await pool().query<{ version: string }>("select version from sites where site = $1", [site]);
  return Number(found.rows[0]?.version);
}

export async function siteExists(site: string): Promise<boolean> {
  return (await pool().query("select 1 from sites where site = $1", [site])).rows.length > 0;
}
