import type { ListName } from "@/server/types";

/** The screens of the workbench, in the order of the work. */
export interface Screen {
  path: string;
  name: string;
  /** It is the same whoever is looked as: the visit sentence says nothing there. */
  sameForAll?: true;
  /** Lists that it shows, beside those that every screen leans on. */
  lists?: readonly ListName[];
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
      { path: "/slots", name: "Slots", sameForAll: true },
      { path: "/library", name: "Library" },
      { path: "/popups", name: "Pop-ups" },
      { path: "/redirects", name: "Redirects" },
      { path: "/offers", name: "Offers", lists: ["products"] },
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
      { path: "/links", name: "Links", lists: ["links"] },
      { path: "/arrivals", name: "Arrivals", lists: ["links"] },
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
      { path: "/results", name: "Results", sameForAll: true },
      { path: "/goals", name: "Goals" },
      { path: "/caching", name: "Caching", sameForAll: true },
    ],
  },
  {
    name: "Settings",
    screens: [
      { path: "/settings", name: "Site settings", sameForAll: true },
      { path: "/connect", name: "Connect", sameForAll: true },
      { path: "/people", name: "People", sameForAll: true },
      { path: "/audit", name: "Audit trail", sameForAll: true },
      { path: "/health", name: "Health", sameForAll: true },
      { path: "/exchange", name: "Import and export", sameForAll: true, lists: ["links"] },
    ],
  },
];
export const allScreens: readonly Screen[] = screenGroups.flatMap((group) => group.screens);

const screenOf = (path: string): Screen | undefined => allScreens.find((screen) => screen.path === path);
/** What a screen is called in the browser's tabs and history. */
export const titleOf = (path: string): { title: string } => ({ title: screenOf(path)?.name ?? "Mirada" });
/** Whether what a screen shows depends on the visitor who is looked as. */
export const isByVisitor = (path: string): boolean => screenOf(path)?.sameForAll !== true;

/** The lists of which a screen is opened with the first part. */
export const listsOf = (path: string): ListName[] => ["pages", "lenses", "checks", ...(screenOf(path)?.lists ?? [])];

/** The address of a thing on its screen. */
export const addressOf = (path: string, id: string): string => `${path}?open=${encodeURIComponent(id)}`;
/** The address of a variant (or of the fallback) on the main screen. */
export const variantAddress = (slot: string, variant?: string): string =>
  `/pages?slot=${encodeURIComponent(slot)}${variant === undefined ? "" : `&variant=${encodeURIComponent(variant)}`}`;
