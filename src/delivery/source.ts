import type { Engine } from "@/core/decision/engine";
import type { Ruleset } from "@/core/formats/ruleset";
import type { Visit } from "@/core/formats/visit";
import { comparable } from "@/core/text/fold";
import { readReferrer, referrerKind, sourceTable } from "@/core/visit/referrer";

const tables = new WeakMap<Ruleset, ReturnType<typeof sourceTable>>();

/** Where a visitor came from, in a word that groups: the campaign's source, else the kind of referrer. Internal: "". */
export function sourceOf({ ruleset }: Engine, visit: Visit): string {
  const url = new URL(visit.url);
  const source = url.searchParams.getAll("utm_source").find((value) => value !== "");
  if (source) return comparable(source).slice(0, 60);
  let table = tables.get(ruleset);
  if (!table) tables.set(ruleset, (table = sourceTable(ruleset.searchSources)));
  const kind = referrerKind(readReferrer(visit.referrer, table), url);
  return kind === "internal" ? "" : kind;
}
