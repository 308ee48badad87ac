import type { Engine } from "@/core/decision/engine";
import type { Visit } from "@/core/formats/visit";
import { comparable } from "@/core/text/fold";
import { referrerKind } from "@/core/visit/referrer";

/** Where a visitor came from, in a word that groups: the campaign's source, else the kind of referrer. Internal: "". */
export function sourceOf(engine: Engine, visit: Visit): string {
  const source = new URL(visit.url).searchParams.getAll("utm_source").find((value) => value !== "");
  if (source) return comparable(source).slice(0, 60);
  const reading = engine.read(visit);
  const kind = referrerKind(reading.referrer, new URL(visit.url));
  return kind === "internal" ? "" : kind;
}
