import type { Slot, Variant } from "../formats/ruleset";
import type { Memory } from "../memory/memory";
import { day as dayLength } from "../calendar/calendar";
import { keyOf, type Judge, type Key, type RuleCompiler } from "../rules/compile";
import { YES } from "../rules/truth";
import { Text } from "../text/text";
import type { Reading } from "../visit/reading";
import { getterOf } from "../visit/signals";

interface ReadyVariant {
  variant: Variant;
  /** Its rule, as far as no table has settled it. */
  rest: Judge;
  /** Its whole rule: where something is remembered, tables do not lead to all that may be shown. */
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
  choose(r: Reading, memory: Memory | undefined, at: number): readonly Variant[];
}

/** Whether a variant was shown to this visitor lately enough to count as eligible. */
export function isRemembered(variant: Variant, memory: Memory | undefined, at: number): boolean {
  if (!memory || variant.rememberDays === undefined) return false;
  const found = memory.variants.get(variant.id);
  return found !== undefined && at - found.shown < variant.rememberDays * dayLength;
}

const none: readonly never[] = [];

export function readySlot(slot: Slot, compiler: RuleCompiler): ReadySlot {
  const on = slot.variants.filter((variant) => variant.on);
  const keys = on.length >= indexFrom ? on.map((variant) => keyOf(variant.rule, compiler.context)) : [];
  const index = on.length >= indexFrom ? indexOf(keys, compiler) : undefined;
  const remembering = on.some((variant) => variant.rememberDays !== undefined);
  const ready: ReadyVariant[] = on.map((variant, i) => {
    const key = keys[i];
    const rest = compiler.compile(key ? key.rest : variant.rule);
    return { variant, rest, judge: key && remembering ? compiler.compile(variant.rule) : rest };
  });
  const position = new Map(on.map((variant, i) => [variant.id, i]));
  const all = ready.map((_, number) => number);
  const { take } = slot;

  /** Those of some numbers, in their order, that may be shown; as many as there are places. */
  function shownOf(numbers: readonly number[], may: (item: ReadyVariant) => boolean): readonly Variant[] {
    let shown: Variant[] | undefined;
    for (const number of numbers) {
      const item = ready[number] as ReadyVariant;
      if (!may(item)) continue;
      if (shown) shown.push(item.variant);
      else shown = [item.variant];
      if (shown.length >= take) break;
    }
    return shown ?? none;
  }
  /** The usual case, in as few steps as can be: nothing is remembered. */
  function chosenBy(index: Index, r: Reading): readonly Variant[] {
    const hits = candidates(index, r);
    const { open } = index;
    let shown: Variant[] | undefined;
    for (let a = 0, b = 0, last = -1; a < hits.length || b < open.length;) {
      const hit = a < hits.length ? (hits[a] as number) : Infinity;
      const other = b < open.length ? (open[b] as number) : Infinity;
      const next = Math.min(hit, other);
      if (hit < other) a += 1;
      else b += 1;
      if (next === last) continue;
      last = next;
      const item = ready[next] as ReadyVariant;
      if (item.rest(r) !== YES) continue;
      if (shown) shown.push(item.variant);
      else shown = [item.variant];
      if (shown.length >= take) break;
    }
    return shown ?? none;
  }

  return {
    slot,
    pages: compiler.compile(slot.pages),
    choose(r, memory, at) {
      const remembers = remembering && memory !== undefined && memory.variants.size > 0;
      if (!remembers) return index ? chosenBy(index, r) : shownOf(all, (item) => item.rest(r) === YES);
      const may = (item: ReadyVariant) => item.judge(r) === YES || isRemembered(item.variant, memory, at);
      if (!index) return shownOf(all, may);
      const numbers = new Set([...candidates(index, r), ...index.open]);
      for (const id of memory.variants.keys()) {
        const number = position.get(id);
        if (number !== undefined) numbers.add(number);
      }
      const inOrder = [...numbers].sort((a, b) => a - b);
      return shownOf(inOrder, may);
    },
  };
}

function indexOf(keys: readonly (Key | undefined)[], compiler: RuleCompiler): Index {
  const open: number[] = [];
  const tables = new Map<string, Map<string, number[]>>();
  keys.forEach((key, i) => {
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

/** The variants that the tables lead to, ascending; one may be there twice. */
function candidates({ tables }: Index, r: Reading): readonly number[] {
  let found: readonly number[] = none;
  for (const { get, byValue } of tables) {
    const value = get(r);
    if (value === undefined || value === null) continue;
    if (value instanceof Text) found = joined(found, byValue.get(value.folded));
    else if (Array.isArray(value))
      for (const item of value) if (item instanceof Text) found = joined(found, byValue.get(item.folded));
  }
  return found;
}
const joined = (found: readonly number[], more: readonly number[] | undefined): readonly number[] =>
  !more ? found : found === none ? more : [...found, ...more].sort((a, b) => a - b);
