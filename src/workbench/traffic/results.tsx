"use client";
import { said, t, text } from "@/core/messages/t";
import { rich } from "../parts/rich";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import dynamic from "next/dynamic";
import { useMemo, useState } from "react";
import type { Ruleset, Slot } from "@/core/formats/ruleset";
import { notCarried } from "@/core/replay/carried";
import type { NotCarried } from "@/core/visit/signals";
import type { Counts, CountKey, Example, Tally } from "@/core/replay/tally";
import { instantPhrase } from "@/core/rules/phrases";
import { countryName } from "@/core/visit/countries";
import { visitPhrases } from "@/core/lens/phrases";
import { useDesk } from "../parts/desk/desk";
import { variantAddress } from "../parts/desk/screens";
import { useGo } from "../parts/desk/use-go";
import { percent, plain } from "../parts/numbers";
import { indexIn, Swatch } from "../parts/variants";
import { OverTime } from "./over-time";

/** The shapes of the world are large: they come when a map is drawn. */
const ShadedMap = dynamic(() => import("../parts/shaded-map").then((module) => module.ShadedMap), { ssr: false });

interface Props {
  tally: Tally;
  live: Ruleset;
  draft: Ruleset;
  consent: boolean;
  seconds: number;
}

const missingWords: Record<NotCarried, string> = said({
  cart: text("the cart"),
  consent: text("who gave consent, and so every visitor’s past"),
  language: text("the languages that browsers ask for"),
  cookies: text("cookies"),
  "site data": text("what the site knows of its visitors"),
  window: text("the width of windows"),
  "page text": text("the text of pages"),
  "visitor's clock": text("the visitor’s own time zone, where the place does not tell it"),
});

/** What the rules would have done: for whom, where, when, with examples; and what a log cannot tell. */
export function TrafficResults({ tally, live, draft, consent, seconds }: Props) {
  const { look, facts } = useDesk();
  const go = useGo();
  const find = (test: (key: CountKey) => boolean): Counts =>
    tally.counts.find((item) => test(item.key)) ?? { views: 0, visits: 0 };
  const changed = find((key) => key.of === "changed");
  const moves = useMemo(
    () =>
      tally.counts
        .flatMap((item) =>
          item.key.of === "move" && item.views > 0 ? [{ ...item.key, views: item.views, visits: item.visits }] : [],
        )
        .sort((a, b) => b.views - a.views),
    [tally],
  );
  // All slots of both, the draft's first; what is gone from it stands at the end.
  const slots = useMemo(
    () => [...draft.slots, ...live.slots.filter((slot) => !draft.slots.some((item) => item.id === slot.id))],
    [draft, live],
  );
  const movedIn = (slot: string) =>
    moves.filter((move) => move.slot === slot).reduce((sum, move) => sum + move.views, 0);
  const seen = (slot: string) =>
    tally.counts.some(({ key }) => (key.of === "shown" || key.of === "other") && key.slot === slot);
  const first = [...slots].sort((a, b) => movedIn(b.id) - movedIn(a.id)).find((slot) => seen(slot.id)) ?? slots[0];
  const [chosen, setChosen] = useState(first?.id ?? "");
  const slot = slots.find((item) => item.id === chosen);
  const missing = useMemo(() => notCarried([live, draft], consent), [live, draft, consent]);
  const through = (example: Example) => {
    look.setVisit(example.visit);
    go(
      example.slot.startsWith("*")
        ? "/pages"
        : variantAddress(
            example.slot,
            example.after === "fallback" || example.after === "" ? undefined : example.after.split("+")[0],
          ),
    );
  };
  const nameOf = (slotId: string, ids: string) =>
    ids === ""
      ? t("nothing")
      : ids
          .split("+")
          .map((id) =>
            id === "fallback"
              ? t("the fallback")
              : (slots.find((item) => item.id === slotId)?.variants.find((item) => item.id === id)?.name ??
                live.slots.find((item) => item.id === slotId)?.variants.find((item) => item.id === id)?.name ??
                [...draft.popups, ...draft.redirects].find((item) => item.id === id)?.name ??
                id),
          )
          .join(", ");
  const placeOf = (id: string) =>
    id === "*popup"
      ? "Pop-ups"
      : id === "*redirect"
        ? t("Redirects")
        : (slots.find((item) => item.id === id)?.name ?? id);
  const countries = Object.entries(tally.countries).filter(([, counts]) => counts.views > 0);
  const anyChange = changed.views > 0;
  const figures: [string, string][] = [
    ["lines", plain(tally.lines)],
    [t("page views"), plain(tally.views)],
    ["visits", plain(tally.visits)],
    ["visitors", plain(tally.visitors)],
    [t("page views of bots, set apart"), plain(tally.bots)],
    [t("broken lines"), plain(tally.broken)],
  ];
  return (
    <>
      <section className="stack" aria-label={t("What would change")}>
        <p className="serif big">
          {anyChange ? (
            <>
              {rich(
                "The draft would show something else on {views} of {views2} page views ({percent}), in {visits} of {visits2} visits.",
                {
                  views: <b>{plain(changed.views)}</b>,
                  views2: plain(tally.views),
                  percent: percent(changed.views, tally.views),
                  visits: <b>{plain(changed.visits)}</b>,
                  visits2: plain(tally.visits),
                },
              )}
            </>
          ) : (
            <>
              {t("The draft would show all of these {views} page views just what they get now.", {
                views: plain(tally.views),
              })}
            </>
          )}
        </p>
        <dl className="figures">
          {figures.map(([name, value]) => (
            <div key={name}>
              <dd>{value}</dd>
              <dt>{name}</dt>
            </div>
          ))}
        </dl>
        <span className="quiet">
          {t("{instantPhrase} to {instantPhrase2}, {zone}. Read and decided in {seconds} s, {lines} lines a second.", {
            instantPhrase: instantPhrase(tally.from, draft.site.zone),
            instantPhrase2: instantPhrase(tally.until, draft.site.zone),
            zone: draft.site.zone,
            seconds: seconds.toFixed(1),
            lines: plain(Math.round(tally.lines / Math.max(seconds, 0.01))),
          })}
        </span>
      </section>
      {moves.length > 0 && (
        <section className="stack" aria-label={t("From what to what")}>
          <h2>{t("From what to what")}</h2>
          <table className="grid">
            <thead>
              <tr>
                <th>{t("Where")}</th>
                <th>{t("Live shows")}</th>
                <th>{t("The draft shows")}</th>
                <th className="num">{t("Page views")}</th>
                <th className="num">{t("Visits")}</th>
                <th>{t("View as this visitor")}</th>
              </tr>
            </thead>
            <tbody>
              {moves.slice(0, 30).map((move) => (
                <tr key={`${move.slot} ${move.before} ${move.after}`}>
                  <td>{placeOf(move.slot)}</td>
                  <td>{nameOf(move.slot, move.before)}</td>
                  <td>
                    {move.before === move.after ? t("the same, with another text") : nameOf(move.slot, move.after)}
                  </td>
                  <td className="num">{plain(move.views)}</td>
                  <td className="num">{plain(move.visits)}</td>
                  <td>
                    {tally.examples
                      .filter(
                        (item) => item.slot === move.slot && item.before === move.before && item.after === move.after,
                      )
                      .slice(0, 3)
                      .map((item, index) => {
                        const phrases = visitPhrases(
                          item.visit,
                          draft,
                          new Map([...facts].map(([path]) => [path, path])),
                        );
                        return (
                          <Button
                            key={index}
                            size="small"
                            color="secondary"
                            title={t("{page}, {visitor} on {device} in {place}, {arrival}, {time}", {
                              page: phrases.page,
                              visitor: phrases.visitor,
                              device: phrases.device,
                              place: phrases.place,
                              arrival: phrases.arrival,
                              time: phrases.time,
                            })}
                            onClick={() => through(item)}
                          >
                            {t("Visit {index}", { index: index + 1 })}
                          </Button>
                        );
                      })}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {moves.length > 30 && (
            <span className="quiet">{t("… and {moves} smaller ones.", { moves: moves.length - 30 })}</span>
          )}
        </section>
      )}
      {slot && (
        <section className="stack" aria-label={t("Who would see what")}>
          <div className="row">
            <h2 style={{ flex: 1 }}>{t("Who would see what")}</h2>
            <TextField
              select
              label={t("Slot")}
              value={chosen}
              onChange={(event) => setChosen(event.target.value)}
              sx={{ width: 240 }}
            >
              {slots.map((item) => (
                <MenuItem key={item.id} value={item.id}>
                  {item.name}
                  {movedIn(item.id) > 0 && (
                    <span className="quiet">&ensp;{t("{id} changed", { id: plain(movedIn(item.id)) })}</span>
                  )}
                </MenuItem>
              ))}
            </TextField>
          </div>
          <SlotTable tally={tally} slot={slot} live={live} />
          <OverTime tally={tally} slot={slot} of="other" zone={draft.site.zone} />
        </section>
      )}
      <section className="stack" aria-label={t("Where they were")}>
        <h2>{anyChange ? t("Where it changes") : t("Where they were")}</h2>
        <div className="mapside">
          <ShadedMap
            title={anyChange ? t("Share of page views that change, by country") : t("Page views by country")}
            shares={
              new Map(
                countries
                  .filter(([code]) => code)
                  .map(([code, counts]) => [
                    code,
                    anyChange ? counts.changedViews / counts.views : counts.views / tally.views,
                  ]),
              )
            }
            says={(code) => {
              const counts = tally.countries[code];
              return counts
                ? t("{changedViews} of {views} page views change", {
                    changedViews: plain(counts.changedViews),
                    views: plain(counts.views),
                  })
                : "";
            }}
          />
          <table className="grid">
            <thead>
              <tr>
                <th>{t("Country")}</th>
                <th className="num">{t("Page views")}</th>
                <th className="num">{t("Changed")}</th>
              </tr>
            </thead>
            <tbody>
              {countries
                .sort(([, a], [, b]) => b.views - a.views)
                .slice(0, 10)
                .map(([code, counts]) => (
                  <tr key={code}>
                    <td>{code ? countryName(code) : t("not known")}</td>
                    <td className="num">{plain(counts.views)}</td>
                    <td className="num">{percent(counts.changedViews, counts.views)}</td>
                  </tr>
                ))}
            </tbody>
          </table>
        </div>
      </section>
      <section className="stack" aria-label={t("What a log cannot tell")}>
        <h2>{t("What a log cannot tell")}</h2>
        {missing.length === 0 && <span className="quiet">{t("Nothing that your rules ask for.")}</span>}
        <ul className="plain">
          {missing.map((item) => (
            <li key={item.what} className="line">
              <b>{missingWords[item.what]}</b>:{" "}
              {item.judged === "unknown"
                ? t("not known, so nothing that needs it was shown")
                : t("judged as not there")}
              .{" "}
              <span className="quiet">
                {t("Asked for by")}{" "}
                {item.owners
                  .slice(0, 6)
                  .map((owner) => owner.name)
                  .join("; ")}
                {item.owners.length > 6 && t(" and {owners} more", { owners: item.owners.length - 6 })}.
              </span>
            </li>
          ))}
        </ul>
      </section>
      {tally.brokenLines.length > 0 && (
        <section className="stack" aria-label={t("Broken lines")}>
          <h2>{t("Broken lines: {broken}", { broken: plain(tally.broken) })}</h2>
          <ul className="problems">
            {tally.brokenLines.map((item) => (
              <li key={item.line}>
                <code>line {plain(item.line)}</code> {item.text || t("(empty)")}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

function SlotTable({ tally, slot, live }: { tally: Tally; slot: Slot; live: Ruleset }) {
  const of = (kind: "shown" | "other" | "unknown", variant: string): Counts =>
    tally.counts.find(({ key }) => key.of === kind && key.slot === slot.id && key.variant === variant) ?? {
      views: 0,
      visits: 0,
    };
  const before = live.slots.find((item) => item.id === slot.id);
  const ids = [
    ...slot.variants.map((item) => item.id),
    ...(before?.variants ?? []).map((item) => item.id).filter((id) => !slot.variants.some((item) => item.id === id)),
    "fallback",
  ];
  const total = (kind: "shown" | "other") => ids.reduce((sum, id) => sum + of(kind, id).views, 0);
  return (
    <table className="grid">
      <thead>
        <tr>
          <th>{t("Variant")}</th>
          <th className="num">{t("Live: views")}</th>
          <th className="num">{t("visits")}</th>
          <th className="num">{t("Draft: views")}</th>
          <th className="num">{t("visits")}</th>
          <th className="num">{t("Share")}</th>
          <th className="num">{t("Could not tell")}</th>
        </tr>
      </thead>
      <tbody>
        {ids.map((id) => {
          const [a, b, unknown] = [of("shown", id), of("other", id), of("unknown", id)];
          const item = slot.variants.find((one) => one.id === id) ?? before?.variants.find((one) => one.id === id);
          return (
            <tr key={id} className={a.views === b.views ? "" : "moved"}>
              <td>
                <span className="shownvariant">
                  <Swatch index={id === "fallback" ? -1 : indexIn(slot, id)} />
                  {item?.name ?? t("Fallback")}
                </span>
              </td>
              <td className="num">{plain(a.views)}</td>
              <td className="num">{plain(a.visits)}</td>
              <td className="num">{plain(b.views)}</td>
              <td className="num">{plain(b.visits)}</td>
              <td className="num">{percent(b.views, total("other"))}</td>
              <td className="num">{unknown.views > 0 ? plain(unknown.views) : "–"}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
