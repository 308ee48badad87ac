/** The hash of an empty style element: making a picture of a page (the lens bridge) needs one to read rules with. */
export const emptyStyle = "'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU='";

/**
 * A strict Content-Security-Policy with a nonce of its own for this request, which the page's scripts and styles are given: what
 * was injected has none and does not run. Style attributes are allowed, style elements are not. It is put into the request's
 * headers, for the framework to find.
 */
export function policy(headers: Headers, more: Record<string, string>, pictured = false): string {
  const nonce = Buffer.from(crypto.getRandomValues(new Uint8Array(16))).toString("base64");
  const rules: Record<string, string> = {
    "default-src": "'none'",
    "script-src": `'self' 'nonce-${nonce}' 'strict-dynamic'`,
    "style-src": `'self' 'nonce-${nonce}'${pictured ? ` ${emptyStyle}` : ""}`,
    "style-src-attr": "'unsafe-inline'",
    "img-src": "'self' data: https:",
    "font-src": "'self'",
    "connect-src": "'self'",
    "form-action": "'self'",
    "base-uri": "'none'",
    "object-src": "'none'",
    "frame-src": "'none'",
    ...more,
  };
  const text = Object.entries(rules)
    .map(([name, value]) => `${name} ${value}`)
    .join("; ");
  headers.set("x-nonce", nonce);
  headers.set("content-security-policy", text);
  return text;
}
