import { createEngine } from "../decision/engine";
import type { Slot, Variant } from "../formats/ruleset";
import type { Visit } from "../formats/visit";
import { factsByPath, onPage } from "../lens/pages";
import type { Domain } from "./facet";
import { someoneWho } from "./reach";

/** A link at which a variant is seen. */
export interface VariantLink {
  url: string;
  /** Whether the link alone is enough: a visitor of whom nothing else is known sees the variant. */
  enough: boolean;
}

/** A link to a page and with the parameters at which a variant is shown; undefined if nobody was found who sees it. */
export function linkTo(domain: Domain, slot: Slot, variant: Variant): VariantLink | undefined {
  const found = someoneWho(domain, slot, variant);
  if (!found.found) return undefined;
  const { url } = found.visit;
  const engine = createEngine(domain.ruleset);
  const bare = onPage({ at: found.visit.at, url }, factsByPath(domain.pages ?? []));
  const shows = (visit: Visit) => engine.decide(visit).slots[slot.id]?.some((item) => item.variant === variant.id);
  return { url, enough: shows(bare) === true };
}
