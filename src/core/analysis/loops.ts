import { createEngine } from "../decision/engine";
import type { Visit } from "../formats/visit";
import type { Domain } from "./facet";
import type { Finding } from "./findings";
import { withVariables } from "./reach";
import { Space } from "./solve";

/** How many redirects are followed before it is said to have no end: what browsers bear, common practice. */
const mostHops = 10;

/** The redirects that a visit is sent through, one after the other, each with where it leads. */
export function follow(domain: Domain, start: Visit): { id: string; location: string }[] {
  const engine = createEngine(domain.ruleset);
  const hops: { id: string; location: string }[] = [];
  let visit = start;
  while (hops.length < mostHops) {
    const decision = engine.decide(visit);
    if (!decision.redirect) break;
    const { id, location } = decision.redirect;
    hops.push({ id, location });
    const next = new URL(location);
    if (next.origin !== new URL(domain.ruleset.site.origin).origin) break;
    const page = domain.pages?.find((item) => item.path === next.pathname)?.facts;
    const { page: _page, ...rest } = visit;
    visit = {
      ...rest,
      url: location,
      ...(page ? { page } : {}),
      ...(decision.memory ? { memory: decision.memory } : {}),
    };
  }
  return hops;
}

/** Redirects that send a visitor round in a circle, or through several; by a visit that meets each one's rule. */
export function* loops(domain: Domain): Generator<Finding> {
  const { redirects } = domain.ruleset;
  const space = new Space({ ...domain, strayPaths: true });
  const name = (id: string) => `“${redirects.find((item) => item.id === id)?.name ?? id}”`;
  for (const redirect of redirects) {
    if (!redirect.on) continue;
    const solved = space.solve([[{ rule: redirect.rule, holds: true }]]);
    if (!solved.found) continue;
    // Told all that templates name, or else as it was found, should that change who is sent.
    const told = withVariables(solved.visit, redirects);
    const found = [told, solved.visit]
      .map((visit) => ({ visit, hops: follow(domain, visit) }))
      .find(({ hops }) => hops[0]?.id === redirect.id && hops.length >= 2);
    if (!found) continue;
    const { visit, hops } = found;
    const seen = new Set([visit.url.replace(/#.*/, "")]);
    const circle = hops.length >= mostHops || hops.some(({ location }) => {
      const bare = location.replace(/#.*/, "");
      if (seen.has(bare)) return true;
      seen.add(bare);
      return false;
    }); // prettier-ignore
    yield {
      finding: "loop",
      about: { kind: "redirect", id: redirect.id },
      ...(hops[1] ? { other: hops[1].id } : {}),
      proof: "searched",
      witness: visit,
      says: circle
        ? `The redirect ${name(redirect.id)} goes round in a circle: ${hops.slice(0, 3).map((hop) => `${name(hop.id)} leads to ${hop.location}`).join(", ")} …`
        : `The redirect ${name(redirect.id)} leads to another one, ${name(hops[1]?.id ?? "")}: a chain of ${hops.length}.`,
    }; // prettier-ignore
  }
}
