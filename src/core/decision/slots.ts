import type { Slot, Variant } from "../formats/ruleset";
import type { Memory } from "../memory/memory";
import { day as dayLength } from "../calendar/calendar";
import { keyOf, type Judge, type RuleCompiler } from "../rules/compile";
import { YES } from "../rules/truth";
import { Text } from "../text/text";
import type { Reading } from "../visit/reading";
import { getterOf } from "../visit/signals";

interface ReadyVariant {
  variant: Variant;
  judge: Judge;
}

/** A slot made ready: from how many variants on a table is worth its while. */
const indexFrom = 4;

/** A table over the signals that variants' rules hinge on: for each value, the variants it may let show. */
interface Index {
  /** Variants that no table can rule out, ascending. */
  open: number[];
  tables: { get: (r: Reading) => unknown; byValue: Map<string, number[]> }[];
}

export interface ReadySlot {
  readonly slot: Slot;
  readonly pages: Judge;
  /** The variants that are shown, first to last; empty: the fallback. `at` is the steady instant, memory needs consent. */
  choose(r: Reading, memory: Memory | undefined, at: number): Variant[];
}

/** Whether a variant was shown to this visitor lately enough to count as eligible. */
export function isRemembered(variant: Variant, memory: Memory | undefined, at: number): boolean {
  if (!memory || variant.rememberDays === undefined) return false;
  const found = memory.variants.get(variant.id);
  return found !== undefined && at - found.shown < variant.rememberDays * dayLength;
}

export function readySlot(slot: Slot, compiler: RuleCompiler): ReadySlot {
  const on = slot.variants.filter((variant) => variant.on);
  const ready: ReadyVariant[] = on.map((variant) => ({ variant, judge: compiler.compile(variant.rule) }));
  const index = on.length >= indexFrom ? indexOf(on, compiler) : undefined;
  const remembering = on.some((variant) => variant.rememberDays !== undefined);
  const position = new Map(on.map((variant, i) => [variant.id, i]));

  const eligible = (item: ReadyVariant, r: Reading, memory: Memory | undefined, at: number): boolean =>
    item.judge(r) === YES || (remembering && isRemembered(item.variant, memory, at));

  return {
    slot,
    pages: compiler.compile(slot.pages),
    choose(r, memory, at) {
      const shown: Variant[] = [];
      if (!index) {
        for (const item of ready)
          if (eligible(item, r, memory, at)) {
            shown.push(item.variant);
            if (shown.length >= slot.take) break;
          }
        return shown;
      }
      const hits = candidates(index, r);
      if (remembering && memory)
        for (const id of memory.variants.keys()) {
          const i = position.get(id);
          if (i !== undefined) hits.push(i);
        }
      if (hits.length > 1) hits.sort((a, b) => a - b);
      const { open } = index;
      for (let a = 0, b = 0, last = -1; a < hits.length || b < open.length;) {
        const next =
          a < hits.length && (b >= open.length || (hits[a] as number) < (open[b] as number)) ? hits[a++] : open[b++];
        if (next === last) continue;
        last = next as number;
        const item = ready[last] as ReadyVariant;
        if (!eligible(item, r, memory, at)) continue;
        shown.push(item.variant);
        if (shown.length >= slot.take) break;
      }
      return shown;
    },
  };
}

function indexOf(variants: Variant[], compiler: RuleCompiler): Index {
  const open: number[] = [];
  const tables = new Map<string, Map<string, number[]>>();
  variants.forEach((variant, i) => {
    const key = keyOf(variant.rule, compiler.context);
    if (!key) return void open.push(i);
    let table = tables.get(key.signal);
    if (!table) tables.set(key.signal, (table = new Map()));
    for (const value of key.values) {
      const list = table.get(value);
      if (list) list.push(i);
      else table.set(value, [i]);
    }
  });
  return {
    open,
    tables: [...tables].map(([signal, byValue]) => ({
      get: getterOf(signal, compiler.context.fields) as (r: Reading) => unknown,
      byValue,
    })),
  };
}

function candidates(index: Index, r: Reading): number[] {
  const out: number[] = [];
  const add = (byValue: Map<string, number[]>, value: unknown): void => {
    const list = value instanceof Text ? byValue.get(value.folded) : undefined;
    if (list) for (const i of list) out.push(i);
  };
  for (const { get, byValue } of index.tables) {
    const value = get(r);
    if (Array.isArray(value)) for (const item of value) add(byValue, item);
    else add(byValue, value);
  }
  return out;
}
