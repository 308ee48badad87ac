import { policiesOf, sourceNames } from "./policy";

/**
 * Whether a page lets itself be shown in a frame of another origin, by the headers that it came with (Content Security Policy
 * Level 3, frame-ancestors; HTML, “The X-Frame-Options header”, which counts only without frame-ancestors).
 */
export function mayBeFramed(
  headers: { "content-security-policy"?: string | undefined; "x-frame-options"?: string | undefined },
  by: string,
): boolean {
  const ancestors = policiesOf([headers["content-security-policy"] ?? ""]).flatMap((policy) => {
    const found = policy.get("frame-ancestors");
    return found ? [found] : [];
  });
  // 'self' is the page's own origin, which the workbench never is.
  if (ancestors.length > 0)
    return ancestors.every((sources) => sources.some((source) => sourceNames(source, new URL(by), false)));
  const options = (headers["x-frame-options"] ?? "")
    .toLowerCase()
    .split(",")
    .map((option) => option.trim());
  return !options.some((option) => option === "deny" || option === "sameorigin");
}
