/**
 * Goals of the site on a page: those that the page view reaches, and those that a click or a form on it does. Sent to pages of sites
 * that have any, in front of the page script, and to no others.
 */
import type { PageGoal, Reach } from "./happened";
import { read, write } from "./store";

/** By this a tab knows which goals it has told. */
const toldKey = "mirada-goal-";

/** Whether what happened along a path is on the part that a goal names; of a form, it may be anything in it. */
function isOn({ at, way }: PageGoal, path: readonly Element[]): boolean {
  const isThere = (one: string) =>
    path.some((it) => it.matches(one)) || (way === "form" && path[0]?.querySelector(one) != null);
  try {
    return at !== undefined && [at.selector, ...(at.within ?? [])].every(isThere);
  } catch {
    // A selector that this browser does not take.
    return false;
  }
}

/** Watches a page for goals. @param reach tells one, for whatever was seen; false: nothing was @returns what ends watching */
export function watchGoals(goals: readonly PageGoal[], reach: Reach): () => void {
  // A page that is a goal is one once a visit, however often it is looked at; for whoever had seen nothing yet it is none.
  for (const { id, way, value, days } of goals)
    if (way === "page" && !read(toldKey + id) && reach(id, value, days)) write(toldKey + id, "1");
  const hear = (event: Event) => {
    const path = event.composedPath().filter((one) => one instanceof HTMLElement);
    for (const goal of goals)
      if (goal.way === (event.type === "click" ? "click" : "form") && isOn(goal, path))
        reach(goal.id, goal.value, goal.days);
  };
  const events = ["click", "submit"];
  for (const name of events) document.addEventListener(name, hear, true);
  return () => events.forEach((name) => document.removeEventListener(name, hear, true));
}

(globalThis as { miradaGoals?: typeof watchGoals }).miradaGoals = watchGoals;
