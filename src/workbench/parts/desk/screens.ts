/** The screens of the workbench, in the order of the work. */
export interface Screen {
  path: string;
  name: string;
}
export const screens: readonly Screen[] = [
  { path: "/", name: "Pages" },
  { path: "/audiences", name: "Audiences" },
  { path: "/places", name: "Places" },
  { path: "/markers", name: "Markers" },
  { path: "/offers", name: "Offers" },
  { path: "/checks", name: "Checks" },
  { path: "/findings", name: "Findings" },
];
/** Those behind "More". */
export const moreScreens: readonly Screen[] = [{ path: "/settings", name: "Settings" }];

/** The address of a thing on its screen. */
export const addressOf = (path: string, id: string): string => `${path}?open=${encodeURIComponent(id)}`;
/** The address of a variant (or of the fallback) on the main screen. */
export const variantAddress = (slot: string, variant?: string): string =>
  `/?slot=${encodeURIComponent(slot)}${variant === undefined ? "" : `&variant=${encodeURIComponent(variant)}`}`;
