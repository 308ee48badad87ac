"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { useSearchParams } from "next/navigation";
import { useSnackbar } from "notistack";
import { useMemo, useState } from "react";
import { countedThings, type Counted } from "@/core/results/counted";
import { formatDate } from "@/core/calendar/calendar";
import { zoneOf } from "@/core/calendar/zone";
import { whyNot } from "../parts/actions";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { addressOf } from "../parts/desk/screens";
import { useGo } from "../parts/desk/use-go";
import { saveFile } from "../parts/files";
import { useSearch } from "../parts/lists/use-search";
import { goalName } from "../parts/goal-words";
import { AnnotationList, NoteForm } from "./annotations";
import { ForgetCounts } from "./forget-counts";
import { ShareResults } from "./share-results";
import { SlotResults } from "./slot-results";
import { daysOf, SpanFields } from "./span-fields";
import { ListOrTable } from "../parts/table/list-or-table";
import { ResultsTable } from "./table";
import { firstView, groupOf } from "./view";

const day = 86_400_000;

/** What came of what was shown: by variant and arm, over time, with how sure one may be. */
export function ResultsScreen() {
  const { ruleset, live, actions, now, draft, may } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const go = useGo();
  const query = useSearchParams();
  const asked = query.get("open");
  const asTable = query.get("show") === "table";
  const { zone } = ruleset.site;
  const today = Math.floor(zoneOf(zone).toLocal(Date.parse(now)) / day);
  const [from, setFrom] = useState(formatDate(today - 28));
  const [until, setUntil] = useState(formatDate(today));
  const [view, setView] = useState(firstView);
  const [sharing, setSharing] = useState<{ goal: string }>();
  const [forgetting, setForgetting] = useState(false);

  const known = useMemo(() => countedThings(ruleset, live?.ruleset), [ruleset, live]);
  const tested = [...known.values()].find((item) => item.variants.some((variant) => variant.arms.length > 1));
  const open = asked ?? tested?.id ?? ruleset.slots[0]?.id ?? "";
  const days = useMemo(() => daysOf(from, until), [from, until]);
  const by = groupOf(view);
  // While others are counted, other groups come behind those that are shown; another slot or other days do not.
  const {
    value: result,
    problem,
    again,
  } = useAsked("results", [open, from, until, by], { when: days !== undefined && open !== "", keepBy: 3 });
  const slot: Counted = known.get(open) ?? { id: open, name: open, variants: [] };
  /** Asks the server for something, and counts anew; whether it was done. */
  const ask = async (work: () => Promise<unknown>): Promise<boolean> => {
    try {
      await work();
      await again();
      return true;
    } catch (error) {
      enqueueSnackbar(whyNot(error), { variant: "error" });
      return false;
    }
  };
  const [list, id] = open.startsWith("popup:") ? (["popups", open.slice(6)] as const) : (["slots", open] as const);
  const owner = may(list === "slots" ? "slots" : "rules") ? ruleset[list].find((item) => item.id === id) : undefined;
  const mainOf =
    owner &&
    ((goal: string) =>
      draft.edit(t("{owner} is read by {goalName}", { owner: owner.name, goalName: goalName(goal, ruleset.goals) }), [
        { do: "set", at: [list, id, "goal"], before: owner.goal, after: goal },
      ]));
  const counted = useMemo(() => [...known.values()], [known]);
  const search = useSearch(counted, t("slots and pop-ups"), (item) => item.name);
  const [listed, setListed] = useState(result?.slots ?? []);
  if (result && result.slots !== listed) setListed(result.slots);
  const name = (id: string) => known.get(id)?.name ?? id;
  const span = <SpanFields from={from} until={until} today={today} onFrom={setFrom} onUntil={setUntil} />;
  const views = <ListOrTable name={t("How results are shown")} screen="/results" table={asTable} />;
  if (asTable)
    return (
      <main className="tablescreen">
        <div className="row">
          <h1>{t("Results")}</h1>
          {views}
        </div>
        <div className="navtools besides">{span}</div>
        {problem && (
          <p className="error" role="alert">
            {problem}
          </p>
        )}
        <ResultsTable known={known} sums={listed} goals={ruleset.goals} />
      </main>
    );
  return (
    <main className="twopart links">
      <nav aria-label={t("What was counted")}>
        <div className="row">
          <h1>{t("Results")}</h1>
          {views}
        </div>
        <div className="navtools">
          {span}
          {search.field}
        </div>
        <ul>
          {search.found.map((item) => {
            const count = listed.find((one) => one.slot === item.id)?.exposures ?? 0;
            const arms = item.variants.some((variant) => variant.arms.length > 1);
            return (
              <li key={item.id}>
                <button
                  type="button"
                  aria-current={item.id === open}
                  onClick={() => go(addressOf("/results", item.id))}
                >
                  <b>{item.name}</b> {arms && <span className="pill">{t("test")}</span>}
                  <span className="quiet">
                    {count === 0
                      ? t("not seen in this time")
                      : t("{count, plural, one {seen once} other {seen # times}}", { count })}
                  </span>
                </button>
              </li>
            );
          })}
        </ul>
      </nav>
      <div className="detail">
        {problem && (
          <p className="error" role="alert">
            {problem}
          </p>
        )}
        {!result ? (
          <p className="quiet">{problem ? "" : t("Counting …")}</p>
        ) : result.rows.length === 0 ? (
          <p className="teaches wide">
            {t(
              "{open} was not seen in this time. What visitors see is counted by itself once it is live: by the page script, and by the site’s own application where it decides in its process.",
              { open: name(open) },
            )}
          </p>
        ) : (
          <SlotResults
            key={open}
            slot={slot}
            counts={result}
            days={days ?? []}
            goals={ruleset.goals}
            site={ruleset.site}
            today={formatDate(today)}
            view={view}
            onView={setView}
            onSave={(goal) =>
              void ask(async () => {
                const csv = await actions.resultTable(open, from, until, goal ?? "");
                saveFile(`results-${open.replaceAll(":", "-")}.csv`, csv, "text/csv");
              })
            }
            onMain={mainOf}
            tools={(goal) => (
              <>
                <Button className="noprint" onClick={() => setSharing({ goal: goal ?? "" })}>
                  {t("Share …")}
                </Button>
                {may("build") && (
                  <Button className="noprint" color="error" onClick={() => setForgetting(true)}>
                    {t("Delete …")}
                  </Button>
                )}
              </>
            )}
            overTime={
              <Button
                className="noprint"
                title={t("Every hour, variant, arm, goal, country, source and device: the open format of results")}
                onClick={() =>
                  void ask(async () => {
                    const csv = await actions.resultHours(open, from, until);
                    saveFile(`results-by-hour-${open.replaceAll(":", "-")}.csv`, csv, "text/csv");
                  })
                }
              >
                {t("Export by hour")}
              </Button>
            }
            notes={
              <>
                <AnnotationList
                  annotations={result.annotations}
                  onDrop={(item) =>
                    void ask(async () => {
                      await actions.dropAnnotation(item.id);
                      enqueueSnackbar(t("The note is deleted"));
                    })
                  }
                />
                <NoteForm
                  days={days ?? []}
                  today={formatDate(today)}
                  onAdd={(on, says) => ask(() => actions.annotate(on, says))}
                />
              </>
            }
          />
        )}
      </div>
      {forgetting && result && (
        <ForgetCounts
          name={slot.name}
          from={from}
          until={until}
          exposures={result.slots.find((one) => one.slot === open)?.exposures ?? 0}
          onForget={() => {
            setForgetting(false);
            void ask(async () => {
              await actions.forgetCounts(open, from, until);
              enqueueSnackbar(t("What was counted is deleted"));
            });
          }}
          onClose={() => setForgetting(false)}
        />
      )}
      {sharing && (
        <ShareResults
          slot={slot}
          goal={sharing.goal}
          from={from}
          until={until}
          today={formatDate(today)}
          nameOf={name}
          onClose={() => setSharing(undefined)}
        />
      )}
    </main>
  );
}
