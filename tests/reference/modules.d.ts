declare module "murmurhash3js-revisited" {
  const murmurhash: { x86: { hash32(bytes: Uint8Array, seed?: number): number } };
  export default murmurhash;
}
declare module "whatwg-url" {
  const whatwg: { URL: typeof URL; URLSearchParams: typeof URLSearchParams };
  export default whatwg;
}
