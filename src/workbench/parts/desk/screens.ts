import { said, text } from "@/core/messages/t";
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
export const screenGroups: readonly ScreenGroup[] = said([
  { name: text("Pages"), screens: [{ path: "/pages", name: text("Pages") }] },
  {
    name: text("Content"),
    screens: [
      { path: "/slots", name: text("Slots"), sameForAll: true },
      { path: "/library", name: text("Library") },
      { path: "/popups", name: "Pop-ups" },
      { path: "/redirects", name: text("Redirects") },
      { path: "/offers", name: text("Offers"), lists: ["products"] },
    ],
  },
  {
    name: text("Visitors"),
    screens: [
      { path: "/lenses", name: text("Lenses") },
      { path: "/audiences", name: text("Audiences") },
      { path: "/places", name: text("Places") },
      { path: "/markers", name: text("Markers") },
    ],
  },
  {
    name: text("Campaigns"),
    screens: [
      { path: "/links", name: text("Links"), lists: ["links"] },
      { path: "/arrivals", name: text("Arrivals"), lists: ["links"] },
    ],
  },
  {
    name: text("Proof"),
    screens: [
      { path: "/sheet", name: text("Contact sheet") },
      { path: "/checks", name: text("Checks") },
      { path: "/findings", name: text("Findings") },
      { path: "/traffic", name: text("Traffic") },
    ],
  },
  {
    name: text("Live"),
    screens: [
      { path: "/releases", name: text("Releases") },
      { path: "/results", name: text("Results"), sameForAll: true },
      { path: "/goals", name: text("Goals") },
      { path: "/caching", name: text("Caching"), sameForAll: true },
    ],
  },
  {
    name: text("Settings"),
    screens: [
      { path: "/settings", name: text("Site settings"), sameForAll: true },
      { path: "/connect", name: text("Connect"), sameForAll: true },
      { path: "/people", name: text("People"), sameForAll: true },
      { path: "/audit", name: text("Audit trail"), sameForAll: true },
      { path: "/health", name: text("Health"), sameForAll: true },
      { path: "/exchange", name: text("Import and export"), sameForAll: true, lists: ["links"] },
    ],
  },
]);
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
