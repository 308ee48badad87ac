/** The encoding of a page by its bytes (WHATWG, “Determining the character encoding”): the package has no types of its own. */
declare module "html-encoding-sniffer" {
  export default function sniff(bytes: Uint8Array, options?: { transportLayerEncodingLabel?: string }): string;
}
