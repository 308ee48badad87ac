/** Which pages of a site carry its tag, as they are served and as the tag was heard from. */

/** Whose tag a page carries as it is served. */
export type TagState = "here" | "another" | "none";

/** A page as it was found just now. */
export interface TriedPage {
  path: string;
  /** The server cannot read it: why. */
  problem?: string;
  state?: TagState;
  /** When its tag was last heard from, ISO 8601. */
  heardAt?: string;
  /** What the page's policy keeps out: a directive each, with what to add. */
  keptOut?: string[];
}

/** A tag that was heard from within so many milliseconds is taken to be there, though the page is served without it: scripts put it in. */
export const heardStands = 86_400_000;

export interface TagStanding {
  /** They have it: they carry it as they are served, or it was heard from within a day. */
  carrying: TriedPage[];
  /** Of these: served without it. Scripts put it in, or it was taken out since it was heard from. */
  byScript: TriedPage[];
  /** Served without it, never heard from. */
  without: TriedPage[];
  /** Served without it, once heard from, silent for a day. */
  lost: TriedPage[];
  another: TriedPage[];
  unread: TriedPage[];
  /** They carry it, and their own policy keeps it from working. */
  blocked: TriedPage[];
}

/** @param now in milliseconds since 1970 */
export function tagStanding(pages: readonly TriedPage[], now: number): TagStanding {
  const standing: TagStanding = {
    carrying: [],
    byScript: [],
    without: [],
    lost: [],
    another: [],
    unread: [],
    blocked: [],
  };
  for (const page of pages) {
    if (page.keptOut) standing.blocked.push(page);
    if (page.problem !== undefined) standing.unread.push(page);
    else if (page.state === "another") standing.another.push(page);
    else if (page.state === "here") standing.carrying.push(page);
    else if (page.heardAt === undefined) standing.without.push(page);
    else if (isSilent(page.heardAt, now)) standing.lost.push(page);
    else {
      standing.carrying.push(page);
      standing.byScript.push(page);
    }
  }
  return standing;
}

/** Whether a tag that was heard from has been silent for so long that it may be gone. */
export const isSilent = (heardAt: string, now: number): boolean => Date.parse(heardAt) <= now - heardStands;
