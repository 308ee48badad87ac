"use client";
import { said, t, text } from "@/core/messages/t";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { keepPreviousData, useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { placeName, valueText } from "@/core/draft/words";
import type { AuditLine } from "@/server/types";
import { useDesk } from "../parts/desk/desk";
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

/** Who changed what and when, in words, with what stood there before and after. */
export function AuditScreen() {
  const { site, ruleset, nameOf, draft, live, review, actions } = useDesk();
  const [kind, setKind] = useState("");
  const [person, setPerson] = useState("");
  const { zone } = ruleset.site;
  const { data, hasNextPage, fetchNextPage } = useInfiniteQuery({
    queryKey: [site, "audit", kind, person, draft.version, live?.number, review],
    queryFn: ({ pageParam: below }) =>
      actions.audit({
        ...(below === undefined ? {} : { below }),
        ...(kind ? { kind } : {}),
        ...(person ? { person } : {}),
      }),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (last) => (last.length === atOnce ? last.at(-1)?.number : undefined),
    placeholderData: keepPreviousData,
  });
  const lines = data?.pages.flat();
  const people = [...new Set(lines?.map((line) => line.person))];
  return (
    <main className="settings audit">
      <div className="row">
        <h1 style={{ flex: 1 }}>{t("Audit trail")}</h1>
        <TextField
          select
          label={t("Of")}
          value={kind}
          onChange={(event) => setKind(event.target.value)}
          sx={{ width: 150 }}
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        >
          <MenuItem value="">{t("Everything")}</MenuItem>
          {Object.entries(kinds).map(([id, name]) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label={t("By")}
          value={person}
          onChange={(event) => setPerson(event.target.value)}
          sx={{ width: 150 }}
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        >
          <MenuItem value="">{t("Everyone")}</MenuItem>
          {people.map((id) => (
            <MenuItem key={id} value={id}>
              {nameOf(id)}
            </MenuItem>
          ))}
        </TextField>
      </div>
      <p className="quiet">{t("Nothing is ever taken out of it. Times are of {zone}.", { zone })}</p>
      <ol className="trail">
        {lines?.map((line) => (
          <li key={line.number}>
            <time dateTime={line.at}>{timeWords(line.at, zone)}</time>
            <b>{nameOf(line.person)}</b>
            <div>
              {line.says}
              <Values line={line} />
            </div>
          </li>
        ))}
      </ol>
      {lines?.length === 0 && <p className="quiet">{t("Nothing of this kind was done yet.")}</p>}
      {hasNextPage && <Button onClick={() => void fetchNextPage()}>{t("Earlier lines")}</Button>}
    </main>
  );
}

/** What stood at each place before and after. */
function Values({ line }: { line: AuditLine }) {
  const { ruleset } = useDesk();
  const { before, after } = line;
  const places = [...new Set([...Object.keys(before ?? {}), ...Object.keys(after ?? {})])];
  if (places.length === 0) return null;
  const text = (place: string, value: unknown) => valueText(place, value, ruleset).slice(0, 400);
  return (
    <div className="diff">
      {places.slice(0, 8).map((place) => (
        <div key={place}>
          <span className="quiet">{line.kind === "draft" ? placeName(place, ruleset) : place}</span>
          <div className="texts">
            {before?.[place] !== undefined && before[place] !== null && <del>{text(place, before[place])}</del>}
            {after?.[place] !== undefined && after[place] !== null && <ins>{text(place, after[place])}</ins>}
          </div>
        </div>
      ))}
    </div>
  );
}
