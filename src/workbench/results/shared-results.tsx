"use client";
import { t } from "@/core/messages/t";
import dynamic from "next/dynamic";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { formatDate, parseDate } from "@/core/calendar/calendar";
import type { SharedResultsNow } from "@/server/types";
import { dayLabel } from "../parts/charts";
import { AnnotationList } from "./annotations";
import type { Split } from "./by-whom";
import { firstView, groupOf } from "./view";

// In the browser alone: its charts take their colours from the page.
const SlotResults = dynamic(() => import("./slot-results").then((file) => file.SlotResults), {
  ssr: false,
  loading: () => <p className="quiet">{t("Counting …")}</p>,
});

interface Props extends SharedResultsNow {
  /** The link's. */
  name: string;
}

/** The results of one slot, for whoever has a link to them: to be read, and nothing else. */
export function SharedResults(props: Props) {
  const { name, counts, slot, goals, goal, from, until, today, endsAt, site } = props;
  const router = useRouter();
  const [view, setView] = useState({ ...firstView, split: counts.by as Split, goal: goal || undefined });
  const [first, last] = [parseDate(from) ?? 0, parseDate(until) ?? 0];
  const days = Array.from({ length: Math.max(0, last - first) + 1 }, (_, index) => formatDate(first + index));
  return (
    <main className="sharedresults detail stack">
      <header className="stack">
        <h1>{t("Results of {slot}, {site}", { slot: slot.name, site: site.name })}</h1>
        <span className="quiet">
          {t("{from} to {until}. This link is good until {endsAt}.", {
            from: dayLabel(from),
            until: dayLabel(until),
            endsAt: dayLabel(endsAt.slice(0, 10)),
          })}
        </span>
      </header>
      {counts.rows.length === 0 ? (
        <p className="teaches wide">{t("It was not seen in this time.")}</p>
      ) : (
        <SlotResults
          slot={slot}
          counts={counts}
          days={days}
          goals={goals}
          site={site}
          today={today}
          view={view}
          onView={(next) => {
            setView({ ...next, goal: next.goal });
            if (groupOf(next) !== counts.by) router.replace(`?by=${groupOf(next)}`, { scroll: false });
          }}
          onSave={(by) => window.location.assign(`/shared-results/${name}/table?goal=${encodeURIComponent(by ?? "")}`)}
          notes={<AnnotationList annotations={counts.annotations} />}
        />
      )}
    </main>
  );
}
