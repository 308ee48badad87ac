/** The guides that are read inside the product: the same files as in docs/. */
import { readFile } from "node:fs/promises";
import { join } from "node:path";

const guides = ["marketer", "signals", "glossary"] as const;
type GuideName = (typeof guides)[number];

/** The guides as Markdown, by name. */
export async function readGuides(): Promise<Record<GuideName, string>> {
  const read = async (name: GuideName) => [name, await readFile(join(process.cwd(), "docs", `${name}.md`), "utf8")];
  return Object.fromEntries(await Promise.all(guides.map(read))) as Record<GuideName, string>;
}
