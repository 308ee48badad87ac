/**
 * Goals of the site on a page: those that the page view reaches, and those that a click or a form on it does. Sent to pages of sites
 * that have any, in front of the page script, and to no others.
 */
import { valueOf } from "@/core/collect/gather";
import type { PageGoal } from "@/core/formats/goal";
import type { Reach } from "./happened";
import { pageReader } from "./read-page";
import { read, write } from "./store";

/** By this a tab knows which goals it has told. */
const toldKey = "mirada-goal-";
/** A page that is a goal has drawn what it is worth within so many milliseconds, or does not say it. */
const drawsWithin = 3000;
/** What an event may carry. */
const most = 1e12;

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

/** What the page says that a goal is worth, in minor units; undefined: it says nothing, or nothing yet: pages begin with 0. */
function saidWorth({ worth }: PageGoal): number | undefined {
  const said = worth && valueOf({ signal: "", kind: "money", ...worth }, pageReader);
  const minor = typeof said === "number" ? Math.round(said * 10 ** (worth?.digits ?? 0)) : 0;
  return minor > 0 && minor <= most ? minor : undefined;
}

/** Watches a page for goals. @param reach tells one, for whatever was seen; false: nothing was @returns what ends watching */
export function watchGoals(goals: readonly PageGoal[], reach: Reach): () => void {
  const tell = (goal: PageGoal, worth = saidWorth(goal)) => reach(goal.id, worth ?? goal.value, goal.days);
  /** Page views that reach a goal whose worth is not there yet. */
  let waiting: PageGoal[] = [];
  // A page that is a goal is one once a visit, however often it is looked at; for whoever had seen nothing yet it is none.
  const tellPage = (goal: PageGoal) => {
    if (tell(goal)) write(toldKey + goal.id, "1");
  };
  for (const goal of goals)
    if (goal.way === "page" && !read(toldKey + goal.id)) {
      if (goal.worth && saidWorth(goal) === undefined) waiting.push(goal);
      else tellPage(goal);
    }
  const drawn = new MutationObserver(() => {
    const there = waiting.filter((goal) => saidWorth(goal) !== undefined);
    waiting = waiting.filter((goal) => !there.includes(goal));
    there.forEach(tellPage);
  });
  /** Waits no longer: what the page has not said by now is worth what the goal says. */
  const end = () => {
    drawn.disconnect();
    waiting.splice(0).forEach(tellPage);
  };
  const timer = waiting.length > 0 ? setTimeout(end, drawsWithin) : undefined;
  if (timer) drawn.observe(document, { childList: true, subtree: true, characterData: true, attributes: true });
  const hear = (event: Event) => {
    const path = event.composedPath().filter((one) => one instanceof HTMLElement);
    for (const goal of goals)
      if (goal.way === (event.type === "click" ? "click" : "form") && isOn(goal, path)) tell(goal);
  };
  const events = ["click", "submit"];
  for (const name of events) document.addEventListener(name, hear, true);
  window.addEventListener("pagehide", end);
  return () => {
    for (const name of events) document.removeEventListener(name, hear, true);
    window.removeEventListener("pagehide", end);
    clearTimeout(timer);
    end();
  };
}

(globalThis as { miradaGoals?: typeof watchGoals }).miradaGoals = watchGoals;
