/**
 * The one place from which the product takes the time of day. Code that decides takes an instant as an argument; what stands at
 * the edge (a request, a button, a script) asks here. In the browser the server's clock is followed, whatever the computer's own
 * says; a test sets what it needs.
 */

let ahead = 0;

/** Epoch milliseconds. */
export const now = (): number => Date.now() + ahead;
/** The same as RFC 3339 text, in UTC. */
export const nowText = (): string => new Date(now()).toISOString();

/** Sets the clock: from now on it is `at` (epoch ms), and goes on from there. Undefined: the machine's own again. */
export function setClock(at: number | undefined): void {
  ahead = at === undefined ? 0 : at - Date.now();
}
