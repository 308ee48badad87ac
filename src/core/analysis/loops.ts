import { t } from "../messages/t";
import { createEngine, type Engine } from "../decision/engine";
import type { Visit } from "../formats/visit";
import type { Domain } from "./facet";
import type { Finding } from "./findings";
import { mostHops, play } from "../lens/journey";
import { factsByPath, type PageFacts } from "../lens/pages";
import { withVariables } from "./reach";
import { Space } from "./solve";
import { holds } from "./conditions";

/** The redirects that a visit is sent through, one after the other, each with where it leads. */
function follow(engine: Engine, start: Visit, facts: PageFacts): { id: string; location: string }[] {
  return play(engine, start, [], facts).flatMap(({ decision }) => decision.redirect ?? []);
}

/** Redirects that send a visitor round in a circle, or through several; by a visit that meets each one's rule. */
export function* loops(domain: Domain): Generator<Finding> {
  const { redirects } = domain.ruleset;
  const space = new Space({ ...domain, strayPaths: true });
  const engine = createEngine(domain.ruleset);
  const facts = factsByPath(domain.pages ?? []);
  const name = (id: string) => `“${redirects.find((item) => item.id === id)?.name ?? id}”`;
  for (const redirect of redirects) {
    if (!redirect.on) continue;
    const solved = space.solve([holds(redirect.rule)]);
    if (!solved.found) continue;
    // Told all that templates name, or else as it was found, should that change who is sent.
    const told = withVariables(solved.visit, redirects);
    const found = [told, solved.visit]
      .map((visit) => ({ visit, hops: follow(engine, visit, facts) }))
      .find(({ hops }) => hops[0]?.id === redirect.id && hops.length >= 2);
    if (!found) {
      const stuck = [told, solved.visit].find((visit) =>
        engine
          .decide(visit, { trace: true })
          .trace?.redirects.some((item) => item.id === redirect.id && item.verdict === "would loop"),
      );
      if (stuck)
        yield {
          finding: "loop",
          about: { kind: "redirect", id: redirect.id },
          other: redirect.id,
          proof: "searched",
          witness: stuck,
          says: t("The redirect {redirect} leads to the page on which its visitors are: for them it does nothing.", {
            redirect: name(redirect.id),
          }),
        };
      continue;
    }
    const { visit, hops } = found;
    const seen = new Set([visit.url.replace(/#.*/, "")]);
    const circle =
      hops.length > mostHops ||
      hops.some(({ location }) => {
        const bare = location.replace(/#.*/, "");
        if (seen.has(bare)) return true;
        seen.add(bare);
        return false;
      });
    yield {
      finding: "loop",
      about: { kind: "redirect", id: redirect.id },
      ...(hops[1] ? { other: hops[1].id } : {}),
      proof: "searched",
      witness: visit,
      says: circle
        ? t("The redirect {redirect} goes round in a circle: {hops} …", {
            redirect: name(redirect.id),
            hops: hops
              .slice(0, 3)
              .map((hop) => t("{hop} leads to {location}", { hop: name(hop.id), location: hop.location }))
              .join(", "),
          })
        : t("The redirect {redirect} leads to another one, {hops}: a chain of {hops2}.", {
            redirect: name(redirect.id),
            hops: name(hops[1]?.id ?? ""),
            hops2: hops.length,
          }),
    };
  }
}
