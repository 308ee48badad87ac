/** A free loopback port. */
export function freePort(): Promise<number>;
