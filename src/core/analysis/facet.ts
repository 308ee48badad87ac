import type { Ruleset } from "../formats/ruleset";
import type { KnownPage, MadeVisit } from "./made-visit";

/** One way to set a facet. */
export type Setting = (made: MadeVisit) => void;
export interface Facet {
  name: string;
  settings: Setting[];
  /** Whether the settings meet every combination of outcomes that the conditions on this facet can have. */
  exact: boolean;
}
export interface Domain {
  ruleset: Ruleset;
  /** The pages of the site, if they are known: then only they are looked at. */
  pages?: readonly KnownPage[];
  /** Whether paths that are no page are looked at, too: redirects are for old addresses. */
  strayPaths?: boolean;
  /** From when on instants are sought, epoch ms. */
  from: number;
}
