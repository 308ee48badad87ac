/** The guides in sections, as they are listed, searched and opened. */
import { finder } from "@/core/text/find";

export interface Section {
  /** Of which guide: "For marketers". */
  guide: string;
  title: string;
  /** Markdown, without the heading. */
  text: string;
}

/** Parts a guide at its headings of the second level, and at those of the third, which bear both. */
export function sectionsOf(markdown: string): Section[] {
  const guide = /^# (.+)$/m.exec(markdown)?.[1] ?? "";
  const out: Section[] = [];
  for (const chapter of markdown.split(/^## /m).slice(1)) {
    const [head = "", ...parts] = chapter.split(/^### /m);
    const of = (text: string, before: string): Section => {
      const end = text.indexOf("\n");
      const title = (end < 0 ? text : text.slice(0, end)).trim();
      return { guide, title: before ? `${before}: ${title}` : title, text: end < 0 ? "" : text.slice(end).trim() };
    };
    const first = of(head, "");
    if (first.text !== "") out.push(first);
    out.push(...parts.map((part) => of(part, first.title)));
  }
  return out;
}

/** The sections that have all the words: those that have them in their title first. */
export function searchSections(sections: readonly Section[], asked: string): Section[] {
  const has = finder(asked);
  const titled = sections.filter(({ title }) => has(title));
  return [...titled, ...sections.filter((one) => !titled.includes(one) && has(`${one.title} ${one.text}`))];
}
