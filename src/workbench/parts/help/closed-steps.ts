import { keepHere, keptHere } from "../kept-here";

/** The cookie that keeps at which sites a browser closed the first steps, so that pages come without them. */
export const closedStepsCookie = "mirada-steps-closed";
/** So many sites are kept, the latest first. */
const most = 40;

/** @param value the cookie's value, if there is one @returns the ids of the sites */
export function closedSteps(value: string | undefined): string[] {
  return (value ?? "").split(".").filter((site) => site !== "");
}

/** @returns the cookie's next value, after the steps at a site were closed or asked for again */
export function closedStepsAfter(value: string | undefined, site: string, closed: boolean): string {
  const others = closedSteps(value).filter((other) => other !== site);
  return (closed ? [site, ...others] : others).slice(0, most).join(".");
}

/** Keeps that somebody closed the first steps on a site, or asked for them again. */
export const keepClosedSteps = (site: string, closed: boolean): void =>
  keepHere(closedStepsCookie, closedStepsAfter(keptHere(closedStepsCookie), site, closed));
