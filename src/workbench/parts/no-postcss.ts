/**
 * Stands in the browser for postcss, which sanitize-html reads `style` attributes with: it is told not to (core/content/clean.ts), so
 * that nothing of it would ever run there.
 */
export function parse(): never {
  throw new Error("style attributes are not read");
}
