"use client";
import type { Collect } from "@/core/formats/collect";
import { useAsked } from "../asked";
import { useDesk } from "../desk/desk";
import { valueWords } from "./words";

/** What an entry reads on the pages of the site: its values, and where there is none. */
export function ReadOnPages({ entry }: { entry: Collect }) {
  const { ruleset, toldBy, pages } = useDesk();
  const { value: tried } = useAsked("tryCollect", [entry], { keepBy: 0 });
  if (!tried) return <span className="quiet">Reading the site’s pages …</span>;
  // What was read from pages that were opened is known here alone: of those that scripts draw the server knows nothing.
  const opened = pages.flatMap(({ path }) => {
    const value = tried.pages.some((page) => page.path === path) ? undefined : toldBy(path)?.[entry.signal];
    return value === undefined ? [] : [{ path, value }];
  });
  const found = [...tried.pages, ...opened].flatMap(({ path, value }) => (value === null ? [] : [{ path, value }]));
  const by = new Map<string, string[]>();
  for (const { path, value } of found) {
    const words = valueWords(entry.signal, value, ruleset.site);
    by.set(words, [...(by.get(words) ?? []), path]);
  }
  const unread = tried.unread - opened.length;
  const pageWords = (count: number) => (count === 1 ? "1 page" : `${count} pages`);
  return (
    <span className="stack" style={{ gap: 2 }} role="status">
      {found.length === 0 ? (
        <span className={unread > 0 ? "quiet" : "missing"}>
          {unread > 0 ? "Not read on any page yet" : "Not found on any page"}
        </span>
      ) : (
        <span>
          {[...by].slice(0, 3).map(([words, paths], index) => (
            <span key={words}>
              {index > 0 && ", "}
              <b>{words}</b> <span className="quiet">on {paths.length === 1 ? paths[0] : pageWords(paths.length)}</span>
            </span>
          ))}
          {by.size > 3 && <span className="quiet"> and {by.size - 3} other values</span>}
        </span>
      )}
      {unread > 0 && (
        <span className="quiet">
          {pageWords(unread)} {unread === 1 ? "shows" : "show"} it only when opened: scripts draw{" "}
          {unread === 1 ? "it" : "them"}, or {unread === 1 ? "it" : "they"} could not be read.
        </span>
      )}
    </span>
  );
}
