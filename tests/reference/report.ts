import { mkdirSync, writeFileSync } from "node:fs";

/** Says the share that agrees with a reference, and keeps it in .data/references/ for docs/references.md. */
export function report(name: string, agree: number, of: number): number {
  const share = agree / of;
  mkdirSync(".data/references", { recursive: true });
  writeFileSync(`.data/references/${name.replaceAll(/\W+/g, "-")}.json`, JSON.stringify({ name, agree, of, share }));
  console.log(`${name}: ${agree} of ${of} agree (${(share * 100).toFixed(2)} %)`);
  return share;
}
