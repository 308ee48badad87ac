declare module "murmurhash3js-revisited" {
  const murmurhash: { x86: { hash32(bytes: Uint8Array, seed?: number): number } };
  export default murmurhash;
}
declare module "whatwg-url" {
  const whatwg: { URL: typeof URL; URLSearchParams: typeof URLSearchParams };
  export default whatwg;
}
declare module "negotiator" {
  export default class Negotiator {
    constructor(request: { headers: Record<string, string> });
    languages(): string[];
  }
}
declare module "json-logic-js" {
  const logic: { apply(rule: never, data: unknown): unknown };
  export default logic;
}
/** Cephes, compiled to WebAssembly: the functions are there once `compiled` is. */
declare module "cephes" {
  const cephes: {
    compiled: Promise<void>;
    /** The normal distribution, its quantile, and the logarithm of the gamma function. */
    ndtr(z: number): number;
    ndtri(p: number): number;
    lgam(x: number): number;
  };
  export default cephes;
}
