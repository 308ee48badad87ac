/** What the page script is sent with, by what is live of the site of its key. */
import { sourcesOf } from "@/core/collect/sources";
import type { Ruleset } from "@/core/formats/ruleset";

/**
 * What the page script is told beforehand about the site of its key: which parts wait for the answer, because slots were pointed at
 * there. Marked slots are hidden by the tag itself.
 */
export function hiding({ slots }: Ruleset): string {
  const hide = slots.flatMap(({ at }) => (at?.how === "replace" && !at.within ? [at.selector] : []));
  return hide.length > 0 ? `window.miradaHide=${asScript(hide)};` : "";
}
/** Where the values of its pages stand, with what reads them: sent to the pages of sites that say so, and to no others. */
export function sources(ruleset: Ruleset, collecting: string): string {
  const all = sourcesOf(ruleset);
  return all.length > 0 ? `window.miradaSources=${asScript(all)};${collecting}` : "";
}
const asScript = (value: unknown): string => JSON.stringify(value).replaceAll("<", "\\u003c");
