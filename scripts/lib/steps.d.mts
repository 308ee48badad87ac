/** A free loopback port. */
export function freePort(): Promise<number>;
export function ensureBuild(): Promise<void>;
export function freePorts(above: readonly number[]): Promise<number>;
export function ensureDebian(packages: readonly string[], isThere: () => boolean): Promise<void>;
export function isFile(path: string): boolean;
