/** That a release went live: the how-manieth time anything did, and which release it was. */
export interface Went {
  number: number;
  release: number;
}

/** The release that was live before one last went live; undefined if it was the first. */
export function releaseBefore(wentLive: readonly Went[], release: number): number | undefined {
  const inOrder = [...wentLive].sort((a, b) => a.number - b.number);
  const last = inOrder.findLastIndex((one) => one.release === release);
  return inOrder.slice(0, Math.max(0, last)).findLast((one) => one.release !== release)?.release;
}
