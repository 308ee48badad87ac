/** Campaign links as a CSV (RFC 4180), in and out. */
import { t } from "../messages/t";
import { freshIdIn } from "../draft/lists";
import { problemsOf, type Problem } from "../formats/problem";
import { readTable, writeTable } from "../formats/table";
import { campaignTags, inOrder, linkSchema, linkText, queryText, readLink, type CampaignLink, type Tag } from "./link";

const own = campaignTags.map((tag) => tag.name);
/** The columns: a name, the page, the campaign's parameters, all others as a query, a note, who uses it, and the whole link. */
const linkColumns = ["id", "name", "page", ...own, "more", "part", "note", "used_by", "link"] as const;

export function linksToCsv(links: readonly CampaignLink[], origin: string): string {
  return writeTable(
    linkColumns,
    links.map((link) => [
      link.id,
      link.name,
      link.path,
      ...own.map((name) => link.tags.find((tag) => tag.name === name)?.value ?? ""),
      queryText(link.tags.filter((tag) => !(own as readonly string[]).includes(tag.name))),
      link.part,
      link.note,
      link.usedBy,
      linkText(link, origin),
    ]),
  );
}

/**
 * Reads links from a CSV: a heading with `name` and either `page` or `link`; the other columns may be missing and stand in any
 * order. Columns that are not known are refused, so that nothing is lost unseen. Every wrong row is named by line and column;
 * then nothing is read.
 */
export function linksFromCsv(text: string): { links: CampaignLink[] } | { problems: Problem[] } {
  const table = readTable(text, { columns: linkColumns, needed: ["name"], oneOf: ["page", "link"] });
  if ("problems" in table) return table;
  const problems: Problem[] = [];
  const taken = new Set<string>();
  const links: CampaignLink[] = [];
  for (const row of table.rows) {
    const cell = row.cell;
    const told = cell("link") === "" ? undefined : readLink(cell("link"));
    if (cell("link") !== "" && !told)
      problems.push({
        path: row.at("link"),
        code: "form",
        problem: t("“{cell}” is no link", { cell: cell("link").slice(0, 60) }),
      });
    const more = cell("more") === "" ? [] : (readLink(cell("more").replace(/^\??/, "?"))?.tags ?? []);
    const columns = own.flatMap((name): Tag[] => (cell(name) === "" ? [] : [{ name, value: cell(name) }]));
    // What stands in its own column comes before what the link or the rest say.
    const tags = inOrder([...columns, ...more, ...(told?.tags ?? [])]).filter(
      (tag, index, all) => all.findIndex((item) => item.name === tag.name) === index,
    );
    const id = cell("id") || freshIdIn(cell("name"), taken, "link");
    if (taken.has(id))
      problems.push({ path: row.at("id"), code: "twice", problem: t("there is another “{id}” above", { id }) });
    taken.add(id);
    const read = linkSchema.safeParse({
      id,
      name: cell("name"),
      path: cell("page") || told?.path || "",
      tags,
      part: cell("part") || told?.part || "",
      note: cell("note"),
      usedBy: cell("used_by"),
    });
    if (read.success) links.push(read.data);
    else
      for (const { path, ...fault } of problemsOf(read.error.issues)) {
        const [, key = ""] = path.split("/");
        problems.push({ path: row.at({ path: "page", usedBy: "used_by", tags: "more" }[key] ?? key), ...fault });
      }
  }
  return problems.length > 0 ? { problems } : { links };
}
