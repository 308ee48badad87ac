"use client";
import { said, t, text } from "@/core/messages/t";
import { keepPreviousData, useInfiniteQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState } from "react";
import { placeName, valueText } from "@/core/draft/words";
import type { AuditLine } from "@/server/types";
import { whyNot } from "../parts/actions";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { ServedTable } from "../parts/table/data-table";
import type { Column } from "../parts/table/table-view";
import { useTableView } from "../parts/table/use-table-view";
import { timeWords } from "../parts/times";

const kinds: Record<AuditLine["kind"], string> = said({
  draft: text("The draft"),
  release: text("Releases"),
  pause: text("Pauses"),
  people: text("People"),
  settings: text("Settings"),
  keys: text("Keys"),
  lenses: text("Lenses"),
  checks: text("Checks"),
  links: text("Links"),
  results: text("Results"),
  session: text("Signing in"),
});

/** So many lines the server tells at once. */
const atOnce = 100;
/** The server is asked so long after the last key, in milliseconds; and for so many words, none longer than so many characters. */
const pause = 200;
const [mostWords, longestWord] = [20, 100];

const columnsOf = (zone: string, nameOf: (person: string) => string): Column<AuditLine>[] => [
  { id: "what", name: t("What was done"), share: 3, value: ({ says }) => says, cell: (line) => <What line={line} /> },
  {
    id: "when",
    name: t("When"),
    share: 0.8,
    value: ({ at }) => at,
    cell: ({ at }) => <time dateTime={at}>{timeWords(at, zone)}</time>,
  },
  { id: "person", name: t("By"), share: 0.7, few: true, value: ({ person }) => nameOf(person) },
  { id: "kind", name: t("Kind"), share: 0.6, few: true, value: ({ kind }) => kinds[kind] },
];

/** Who changed what and when, in words, with what stood there before and after. */
export function AuditScreen() {
  const { site, ruleset, nameOf, draft, live, review, actions } = useDesk();
  const { zone } = ruleset.site;
  // eslint-disable-next-line react-hooks/exhaustive-deps -- names are looked up by a new function each time
  const columns = useMemo(() => columnsOf(zone, nameOf), [zone]);
  const [view, setView] = useTableView(columns);
  const { value: members } = useAsked("people", []);
  // The server is asked a moment after the last key.
  const [asked, setAsked] = useState(view);
  useEffect(() => {
    const waiting = setTimeout(() => setAsked(view), pause);
    return () => clearTimeout(waiting);
  }, [view]);
  const { kind, person } = asked.only;
  const words = asked.find
    .split(/\s+/)
    .filter((word) => word !== "")
    .slice(0, mostWords)
    .map((word) => word.slice(0, longestWord));
  const { data, error, hasNextPage, isFetchingNextPage, fetchNextPage } = useInfiniteQuery({
    queryKey: [site, "audit", kind, person, words.join(" "), draft.version, live?.number, review],
    queryFn: ({ pageParam: below }) =>
      actions.audit({
        ...(below === undefined ? {} : { below }),
        ...(kind ? { kind } : {}),
        ...(person ? { person } : {}),
        ...(words.length > 0 ? { words } : {}),
      }),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (last) => (last.length === atOnce ? last.at(-1)?.number : undefined),
    placeholderData: keepPreviousData,
  });
  const lines = useMemo(() => data?.pages.flat(), [data]);
  const more = useCallback(() => void fetchNextPage(), [fetchNextPage]);
  return (
    <main className="tablescreen">
      <div className="row">
        <h1>{t("Audit trail")}</h1>
        <span className="quiet">{t("Nothing is ever taken out of it. Times are of {zone}.", { zone })}</span>
      </div>
      {error && (
        <p className="error" role="alert">
          {whyNot(error)}
        </p>
      )}
      {lines && (
        <ServedTable
          name={t("Audit trail")}
          noun={[t("line"), t("lines")]}
          rows={lines}
          columns={columns}
          idOf={(line) => String(line.number)}
          nameOf={(line) => line.says}
          view={view}
          setView={setView}
          choices={(column) =>
            column.id === "kind"
              ? Object.entries(kinds).map(([value, name]) => ({ value, name }))
              : [...(members?.people ?? []), { id: "mirada", name: nameOf("mirada") }].map(({ id, name }) => ({
                  value: id,
                  name,
                }))
          }
          more={hasNextPage && !isFetchingNextPage ? more : undefined}
          teaches={t("Nothing was done yet.")}
        />
      )}
    </main>
  );
}

/** What a line says, and what stood at each place before and after. */
function What({ line }: { line: AuditLine }) {
  const { ruleset } = useDesk();
  const { before, after } = line;
  const places = [...new Set([...Object.keys(before ?? {}), ...Object.keys(after ?? {})])];
  const words = (place: string, value: unknown) => valueText(place, value, ruleset).slice(0, 400);
  return (
    <>
      {line.says}
      {places.length > 0 && (
        <div className="diff">
          {places.slice(0, 8).map((place) => (
            <div key={place}>
              <span className="quiet">{line.kind === "draft" ? placeName(place, ruleset) : place}</span>
              <div className="texts">
                {before?.[place] !== undefined && before[place] !== null && <del>{words(place, before[place])}</del>}
                {after?.[place] !== undefined && after[place] !== null && <ins>{words(place, after[place])}</ins>}
              </div>
            </div>
          ))}
        </div>
      )}
    </>
  );
}
