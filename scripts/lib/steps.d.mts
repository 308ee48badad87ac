/** A free loopback port. */
export function freePort(): Promise<number>;
export function ensureBuild(): Promise<void>;
