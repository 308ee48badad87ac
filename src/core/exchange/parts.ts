/** Slots and variants taken to another place: another slot, another site, or out of a file and in again. */
import { t } from "../messages/t";
import * as z from "zod";
import { insertItem, freshIdIn, freshThingId } from "../draft/lists";
import { applyEdits, type Edit } from "../draft/edit";
import { freshId, newSlot } from "../draft/variants";
import type { Problem, ProblemCode } from "../formats/problem";
import { readBy } from "../formats/read";
import {
  blockTypeSchema,
  placeWays,
  slotSchema,
  variantSchema,
  type Ruleset,
  type Slot,
  type Variant,
} from "../formats/ruleset";
import { selectorProblem } from "../formats/selector";
import type { SiteDraft } from "../formats/site-draft";
import { readTable } from "../formats/table";

export const partsFormat = "mirada-parts/1";
const partsSchema = z.strictObject({
  format: z.literal(partsFormat),
  slots: z.array(slotSchema).max(500).default([]),
  variants: z.array(variantSchema).max(500).default([]),
  /** The kinds of blocks that they are written in. */
  blockTypes: z.array(blockTypeSchema).max(500).default([]),
});
export type Parts = z.output<typeof partsSchema>;

/** Slots or variants with the kinds of blocks that they need elsewhere. */
export function takeParts(parts: { slots?: readonly Slot[]; variants?: readonly Variant[] }, ruleset: Ruleset): Parts {
  const { slots = [], variants = [] } = parts;
  const arms = [...variants, ...slots.flatMap((slot) => slot.variants)].flatMap((variant) => variant.arms);
  const contents = [...arms.map((arm) => arm.content), ...slots.map((slot) => slot.fallback)];
  const types = new Set(contents.flatMap((content) => content?.type ?? []));
  const blockTypes = ruleset.blockTypes.filter((type) => types.has(type.id));
  return structuredClone({ format: partsFormat, slots: [...slots], variants: [...variants], blockTypes });
}

/** Reads parts from JSON text. */
export function readParts(text: string): { parts: Parts } | { problems: Problem[] } {
  let input: unknown;
  try {
    input = JSON.parse(text);
  } catch {
    return { problems: [{ path: "", code: "file", problem: t("this is no JSON") }] };
  }
  const read = readBy(partsSchema, input);
  return read.ok ? { parts: read.value } : { problems: read.problems };
}

const columns = ["id", "name", "selector", "how", "path"] as const;
/** Reads slots from a CSV (RFC 4180), a row each: every wrong one is named by line and column, and then nothing is read. */
export function slotsFromCsv(text: string): { parts: Parts } | { problems: Problem[] } {
  const table = readTable(text, { columns, needed: ["name"] });
  if ("problems" in table) return table;
  const problems: Problem[] = [];
  const slots: Slot[] = [];
  for (const row of table.rows) {
    const [id, name, selector, how, path] = columns.map(row.cell) as [string, string, string, string, string];
    const wrong = (column: string, code: ProblemCode, problem: string) =>
      problems.push({ path: row.at(column), code, problem });
    if (name === "") wrong("name", "missing", t("a slot needs a name"));
    if (id !== "" && !/^[A-Za-z0-9_-]{1,64}$/.test(id))
      wrong("id", "form", t("must be 1 to 64 of A–Z, a–z, 0–9, _ and -"));
    if (id !== "" && slots.some((slot) => slot.id === id)) wrong("id", "twice", t("“{id}” is there twice", { id }));
    const odd = selector === "" ? undefined : selectorProblem(selector);
    if (odd) wrong("selector", "form", odd);
    const way = placeWays.find((one) => one === (how || "replace"));
    if (!way) wrong("how", "choice", t("must be one of {placeWays}", { placeWays: placeWays.join(", ") }));
    if (how !== "" && selector === "") wrong("how", "not-here", t("says nothing without a selector"));
    if (path !== "" && !path.startsWith("/")) wrong("path", "form", t("must begin with /"));
    slots.push({
      ...newSlot(id || freshIdIn(name, new Set(slots.map((slot) => slot.id)), "slot"), name),
      pages: path === "" ? null : { signal: "page.path", op: path.includes("*") ? "matches" : "is", value: path },
      ...(selector !== "" && way ? { at: { selector, how: way } } : {}),
    });
  }
  return problems.length > 0 ? { problems } : { parts: { format: partsFormat, slots, variants: [], blockTypes: [] } };
}

/** What pasting comes to. */
export interface Pasted {
  edits: Edit[];
  /** The ids of what is new: slots, or variants of the slot that they were pasted into. */
  ids: string[];
}

/**
 * Edits that put parts into a draft. Ids that are taken are made anew; a slot with the very id that a page marks keeps it where it is
 * free. Variants come switched off: what they say is for another place.
 * @param into the slot that variants are pasted into; undefined: slots are pasted
 */
export function pasteParts(parts: Parts, draft: SiteDraft, into?: Slot): Pasted {
  let here: SiteDraft = draft;
  const edits: Edit[] = [];
  const ids: string[] = [];
  const add = (edit: Edit) => {
    edits.push(edit);
    const applied = applyEdits(here, [edit]);
    if (applied.ok) here = applied.value;
  };
  for (const type of parts.blockTypes)
    if (!here.blockTypes.some((one) => one.id === type.id))
      add(insertItem(["blockTypes"], structuredClone(type), here.blockTypes.length));
  if (into)
    for (const [index, variant] of parts.variants.entries()) {
      const id = freshId(variant.name, here);
      const item: Variant = { ...structuredClone(variant), id, on: false };
      add(insertItem(["slots", into.id, "variants"], item, index));
      ids.push(id);
    }
  else
    for (const slot of parts.slots) {
      const taken = here.slots.some((one) => one.id === slot.id);
      const id = taken ? freshThingId(slot.name, "slots", here) : slot.id;
      const made: Slot = { ...structuredClone(slot), id, variants: [] };
      for (const variant of slot.variants) {
        const around = { slots: [...here.slots, made] };
        const own = around.slots.some((one) => one.variants.some((other) => other.id === variant.id));
        made.variants.push({ ...structuredClone(variant), id: own ? freshId(variant.name, around) : variant.id });
      }
      add(insertItem(["slots"], made, here.slots.length));
      ids.push(id);
    }
  return { edits, ids };
}
