/** The screens of the workbench, in the order of the work. */
export interface Screen {
  path: string;
  name: string;
}
export interface ScreenGroup {
  name: string;
  screens: readonly Screen[];
}
/** The groups of the line at the top; one with a single screen leads straight to it. */
export const screenGroups: readonly ScreenGroup[] = [
  { name: "Pages", screens: [{ path: "/pages", name: "Pages" }] },
  {
    name: "Content",
    screens: [
      { path: "/library", name: "Library" },
      { path: "/popups", name: "Pop-ups" },
      { path: "/redirects", name: "Redirects" },
      { path: "/offers", name: "Offers" },
    ],
  },
  {
    name: "Visitors",
    screens: [
      { path: "/lenses", name: "Lenses" },
      { path: "/audiences", name: "Audiences" },
      { path: "/places", name: "Places" },
      { path: "/markers", name: "Markers" },
    ],
  },
  {
    name: "Campaigns",
    screens: [
      { path: "/links", name: "Links" },
      { path: "/arrivals", name: "Arrivals" },
    ],
  },
  {
    name: "Proof",
    screens: [
      { path: "/sheet", name: "Contact sheet" },
      { path: "/checks", name: "Checks" },
      { path: "/findings", name: "Findings" },
      { path: "/traffic", name: "Traffic" },
    ],
  },
  {
    name: "Live",
    screens: [
      { path: "/releases", name: "Releases" },
      { path: "/results", name: "Results" },
      { path: "/caching", name: "Caching" },
    ],
  },
  {
    name: "Settings",
    screens: [
      { path: "/settings", name: "Site settings" },
      { path: "/connect", name: "Connect" },
      { path: "/people", name: "People" },
      { path: "/audit", name: "Audit trail" },
      { path: "/exchange", name: "In and out" },
    ],
  },
];
export const allScreens: readonly Screen[] = screenGroups.flatMap((group) => group.screens);

/** The address of a thing on its screen. */
export const addressOf = (path: string, id: string): string => `${path}?open=${encodeURIComponent(id)}`;
/** The address of a variant (or of the fallback) on the main screen. */
export const variantAddress = (slot: string, variant?: string): string =>
  `/pages?slot=${encodeURIComponent(slot)}${variant === undefined ? "" : `&variant=${encodeURIComponent(variant)}`}`;
