"use client";
import { t } from "@/core/messages/t";
import { useSearchParams } from "next/navigation";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { useGo } from "../parts/desk/use-go";
import { addressOf } from "../parts/desk/screens";
import { DraftView } from "./draft-view";
import { ReleaseView } from "./release-view";
import { ReviewView } from "./review-view";
import { timeWords } from "../parts/times";

/** Everything that went live or was asked to, and the draft: on the left a list, on the right the one that is looked at. */
export function ReleasesScreen() {
  const { live, changed, review, ruleset, nameOf } = useDesk();
  // Anew whenever something went live or a review came to another state.
  const { value: now, again: load } = useAsked("releases", [], { since: [live?.number, review] });
  const wanted = useSearchParams().get("open");
  const go = useGo();
  const zone = ruleset.site.zone;
  const open =
    wanted ?? (review ? `review-${review.number}` : changed.length > 0 ? "draft" : `release-${live?.number}`);
  const [kind, number] = [open.split("-")[0], Number(open.split("-")[1])];
  const item = (id: string, name: string, says: string, state: string, tone = "") => (
    <li key={id}>
      <button
        type="button"
        aria-current={open === id}
        onClick={() => go(addressOf("/releases", id), { replace: true })}
      >
        <b>{name}</b> {state && <span className={`pill ${tone}`}>{state}</span>}
        <span className="quiet">{says}</span>
      </button>
    </li>
  );
  const pending = now?.reviews.filter((one) => one.state === "open" || one.state === "approved") ?? [];
  const past = now?.reviews.filter((one) => one.state === "sent back" || one.state === "outdated") ?? [];
  const chosen = now?.reviews.find((one) => one.number === number);
  return (
    <main className="twopart releases">
      <nav aria-label={t("Releases")}>
        <h1>{t("Releases")}</h1>
        <ul>
          {item(
            "draft",
            t("The draft"),
            changed.length === 0
              ? t("Nothing differs from what is live")
              : t("{changed} {changed, plural, one {change} other {changes}} not live yet", {
                  changed: changed.length,
                }),
            "",
          )}
          {pending.map((one) =>
            item(
              `review-${one.number}`,
              t("Review {number}", { number: one.number }),
              t("asked by {askedBy}, {timeWords}", {
                askedBy: nameOf(one.askedBy),
                timeWords: timeWords(one.askedAt, zone),
              }),
              one.state === "open" ? "open" : t("live {timeWords}", { timeWords: timeWords(one.liveAt ?? "", zone) }),
              "draft",
            ),
          )}
          {past.slice(0, 3).map((one) =>
            item(
              `review-${one.number}`,
              t("Review {number}", { number: one.number }),
              t("by {askedBy}, {timeWords}", {
                askedBy: nameOf(one.askedBy),
                timeWords: timeWords(one.askedAt, zone),
              }),
              one.state,
            ),
          )}
          {now?.releases.map((one) =>
            item(
              `release-${one.number}`,
              t("Release {number}", { number: one.number }),
              [one.note, `${nameOf(one.person)}, ${timeWords(one.madeAt, zone)}`].filter(Boolean).join(" · "),
              one.number === live?.number ? "live" : "",
              "live",
            ),
          )}
        </ul>
      </nav>
      <div className="detail">
        {kind === "draft" && <DraftView />}
        {kind === "review" && chosen && <ReviewView key={chosen.number} review={chosen} onChange={load} />}
        {kind === "release" && now && <ReleaseView key={number} number={number} now={now} onChange={load} />}
      </div>
    </main>
  );
}
