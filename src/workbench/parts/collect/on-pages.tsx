"use client";
import { t } from "@/core/messages/t";
import type { Collect } from "@/core/formats/collect";
import { useAsked } from "../asked";
import { useDesk } from "../desk/desk";
import { valueWords } from "./words";

/** What an entry reads on the pages of the site: its values, and where there is none. */
export function ReadOnPages({ entry }: { entry: Collect }) {
  const { ruleset, toldBy, pages } = useDesk();
  const { value: tried } = useAsked("tryCollect", [entry], { keepBy: 0 });
  if (!tried) return <span className="quiet">{t("Reading the site’s pages …")}</span>;
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
  const pageWords = (count: number) => t("{count, plural, one {# page} other {# pages}}", { count });
  return (
    <span className="stack" style={{ gap: 2 }} role="status">
      {found.length === 0 ? (
        <span className={unread > 0 ? "quiet" : "missing"}>
          {unread > 0 ? t("Not read on any page yet") : t("Not found on any page")}
        </span>
      ) : (
        <span>
          {[...by].slice(0, 3).map(([words, paths], index) => (
            <span key={words}>
              {index > 0 && ", "}
              <b>{words}</b>{" "}
              <span className="quiet">
                {t("on {paths}", { paths: paths.length === 1 ? paths[0] : pageWords(paths.length) })}
              </span>
            </span>
          ))}
          {by.size > 3 && <span className="quiet"> {t("and {size} other values", { size: by.size - 3 })}</span>}
        </span>
      )}
      {unread > 0 && (
        <span className="quiet">
          {t(
            "{unread} {unread2, plural, one {shows} other {show}} it only when opened: scripts draw {unread2, plural, one {it} other {them}}, or {unread2, plural, one {it} other {they}} could not be read.",
            { unread: pageWords(unread), unread2: unread },
          )}
        </span>
      )}
    </span>
  );
}
