/** What is remembered of earlier visits and of this one. */
import type { Condition } from "../../formats/rule";
import type { Facet, Setting } from "../facet";
import { textCandidates } from "../texts";
import { numberCandidates } from "./numbers";

export function histories(conditions: readonly Condition[]): Facet {
  const on = (signal: string) => conditions.filter((condition) => condition.signal === signal);
  const visits = numberCandidates(on("history.visits"), true).filter((n) => n >= 1);
  if (!visits.includes(2)) visits.push(2);
  const views = numberCandidates(on("history.views"), true).filter((n) => n >= 1);
  if (!views.includes(2)) views.push(2);
  const minutes = on("history.minutes").length > 0 ? numberCandidates(on("history.minutes"), true) : [0, 1];
  const days = on("history.daysSinceLast").length > 0 ? numberCandidates(on("history.daysSinceLast"), true) : [1];
  const landing = textCandidates(on("history.landing"));
  const landings =
    on("history.landing").length > 0
      ? [...new Set(landing.texts.flatMap((text) => (text.startsWith("/") ? [text] : [`/${text}`])))]
      : [];
  const settings: Setting[] = [];
  for (const v of visits)
    for (const d of v === 1 ? [undefined] : days)
      for (const n of views)
        for (const m of n === 1 ? [0] : minutes.length > 0 ? minutes : [1])
          for (const l of n === 1 ? [undefined] : [undefined, ...landings])
            settings.push((made) => {
              made.history = { visits: v, views: n, minutes: m, daysSinceLast: d, landing: l };
            });
  return { name: "history", settings, exact: on("history.landing").length === 0 };
}
