"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import { Trash2 } from "lucide-react";
import { useSnackbar } from "notistack";
import { useMemo, useState } from "react";
import { checksForAll } from "@/core/checks/make";
import { expectationText, lastView, runCheck, type CheckResult } from "@/core/checks/run";
import { answerDiffers, differenceExplained } from "@/core/checks/site";
import { createEngine } from "@/core/decision/engine";
import type { Check } from "@/core/formats/check";
import { parseInstant } from "@/core/formats/visit";
import { afterWords } from "@/core/lens/journey";
import { visitPhrases } from "@/core/lens/phrases";
import { freshName } from "../parts/fresh";
import { useDesk, useNeeded } from "../parts/desk/desk";
import { DataTable } from "../parts/table/data-table";
import type { Column } from "../parts/table/table-view";
import { variantAddress } from "../parts/desk/screens";
import { useGo } from "../parts/desk/use-go";
import { useKeep } from "../parts/desk/use-keep";

/** What the running site answered, beside what the engine says. */
type Proof = "same" | { differs: string; why?: string };

/** Saved expectations, run on the draft and on what is live after every change; and asked of the running site itself. */
export function ChecksScreen() {
  const whole = useNeeded("checks");
  const { checks, look, live, ruleset, pages, actions, changed } = useDesk();
  const { keep, drop, dropAll } = useKeep("checks");
  const [proofs, setProofs] = useState<ReadonlyMap<string, Proof>>(new Map());
  const [asking, setAsking] = useState<{ index: number; of: number }>();
  const go = useGo();
  const { enqueueSnackbar } = useSnackbar();
  const liveEngine = useMemo(() => live && createEngine(live.ruleset), [live]);
  const draft = useMemo(
    () => new Map(checks.map((check) => [check.id, runCheck(check, look.engine)])),
    [checks, look.engine],
  );
  const onLive = useMemo(
    () => new Map(liveEngine ? checks.map((check) => [check.id, runCheck(check, liveEngine)]) : []),
    [checks, liveEngine],
  );
  const failing = checks.filter((check) => !draft.get(check.id)?.passed).length;
  const titles = useMemo(() => new Map(pages.map((page) => [page.path, page.title])), [pages]);

  const ask = async (asked: readonly Check[]) => {
    if (!liveEngine) return;
    const found = new Map(proofs);
    for (const [index, check] of asked.entries()) {
      setAsking({ index, of: asked.length });
      // Of a visitor of several steps the last page view is asked for, with all that is remembered by then.
      const visit = lastView(check, liveEngine).visit;
      const answer = await actions.askSite({ ...check, visit, steps: [] }, "live").catch(() => undefined);
      found.set(check.id, compare(check, answer));
      setProofs(new Map(found));
    }
    setAsking(undefined);
  };
  const compare = (check: Check, answer: Awaited<ReturnType<typeof actions.askSite>>): Proof => {
    if (!answer) return { differs: t("the site could not be reached") };
    const decision = liveEngine && lastView(check, liveEngine).decision;
    const differs = decision && answerDiffers(check, decision, answer);
    if (differs === undefined) return "same";
    const why = differenceExplained(check, answer);
    return { differs, ...(why ? { why } : {}) };
  };
  const forAll = async () => {
    const made = checksForAll(
      { ruleset: look.runnable.ruleset, pages, from: parseInstant(look.visit.at) as number },
      freshName("check"),
    );
    if (await keep(made))
      enqueueSnackbar(
        t("{made} checks made, one for each variant and fallback that someone can see", { made: made.length }),
      );
  };
  /** What was changed in the draft that may have made a check fail: in its slot, or in what rules lean on. */
  const changes = ({ expect, id }: Check) =>
    onLive.get(id)?.passed
      ? changed.filter((item) => item.slot === undefined || !("slot" in expect) || item.slot === expect.slot)
      : [];
  const open = (check: Check) => {
    look.setVisit(lastView(check, look.engine).visit);
    const { expect } = check;
    go("slot" in expect ? variantAddress(expect.slot) : "/pages");
  };
  const columns: Column<Check>[] = [
    {
      id: "result",
      name: t("Result"),
      few: true,
      value: ({ id }) => {
        const proof = proofs.get(id);
        if (proof !== undefined && proof !== "same") return t("Fails on the site");
        return draft.get(id)?.passed ? t("Passes on the draft") : t("Fails on the draft");
      },
      cell: ({ id }) => {
        const proof = proofs.get(id);
        return (
          <>
            <Verdict name={t("Draft")} result={draft.get(id)} />
            <Verdict name={t("Live")} result={onLive.get(id)} />
            {proof && (
              <b className={proof === "same" ? "yes" : "no"} title={t("What the running site answered")}>
                {proof === "same" ? "✓ Site" : "✗ Site"}
              </b>
            )}
          </>
        );
      },
    },
    {
      id: "check",
      name: t("Check"),
      share: 4,
      value: ({ name, expect }) => `${name} ${expectationText(expect, ruleset)}`,
      cell: (check) => {
        const result = draft.get(check.id);
        const phrases = visitPhrases(check.visit, ruleset, titles);
        const proof = proofs.get(check.id);
        return (
          <>
            <b>{check.name}</b>
            <div>{t("Expected: {expectationText}", { expectationText: expectationText(check.expect, ruleset) })}</div>
            <div className="rule">
              {t("{page}, as {visitor} on {device} in {place}, {time}, by", {
                page: phrases.page,
                visitor: phrases.visitor,
                device: phrases.device,
                place: phrases.place,
                time: phrases.time,
              })}{" "}
              {phrases.link}
              {check.steps.map(({ path, after }) => `; ${afterWords(after)} ${path}`).join("")}
            </div>
            {result && !result.passed && <div className="error">{t("Draft: {found}", { found: result.found })}</div>}
            {proof !== undefined && proof !== "same" && (
              <div className="error">{t("Site: {differs}. {why}", { differs: proof.differs, why: proof.why })}</div>
            )}
            {result && !result.passed && changes(check).length > 0 && (
              <div className="whatchanged">
                {t("Changed since it was live:")}{" "}
                {changes(check)
                  .slice(0, 3)
                  .map((item) => `${item.where}, ${item.what} ${item.says}`)
                  .join("; ")}
              </div>
            )}
          </>
        );
      },
    },
    {
      id: "where",
      name: t("Where"),
      few: true,
      value: ({ expect }) =>
        "slot" in expect
          ? (ruleset.slots.find(({ id }) => id === expect.slot)?.name ?? expect.slot)
          : t("The whole page"),
    },
    {
      id: "ways",
      name: t("Look"),
      share: 1.3,
      value: () => "",
      cell: (check) => (
        <span className="row">
          <Button color="secondary" onClick={() => open(check)}>
            {t("View as this visitor")}
          </Button>
          <IconButton
            aria-label={t("Delete the check {check}", { check: check.name })}
            onClick={() => void drop(check, t("The check is deleted"))}
          >
            <Trash2 size={14} />
          </IconButton>
        </span>
      ),
    },
  ];
  return (
    <main className="tablescreen">
      <div className="row">
        <h1>{t("Checks")}</h1>
        <span className="quiet" role="status">
          {asking !== undefined
            ? t("Asking the site: {index} of {of}", { index: asking.index + 1, of: asking.of })
            : checks.length === 0
              ? ""
              : t("{checks} of {checks2} pass on the draft", {
                  checks: checks.length - failing,
                  checks2: checks.length,
                })}
        </span>
        <Button onClick={() => void forAll()}>{t("Create for every variant")}</Button>
        <Button disabled={!whole || checks.length === 0 || asking !== undefined} onClick={() => void ask(checks)}>
          {t("Test live site")}
        </Button>
      </div>
      <DataTable
        name={t("Checks")}
        noun={[t("check"), t("checks")]}
        rows={checks}
        columns={columns}
        idOf={({ id }) => id}
        nameOf={({ name }) => name}
        teaches={
          whole
            ? t(
                "A check is a saved expectation: this visitor, on this page, at this time, sees this variant. Keep one from the slot’s list on the page screen, or make one for every variant here. They run by themselves after every change.",
              )
            : t("Reading the checks …")
        }
        several={(chosen, done) => (
          <>
            <Button disabled={asking !== undefined} onClick={() => void ask(chosen)}>
              {t("Test these on the live site")}
            </Button>
            <Button
              onClick={() => {
                done();
                void dropAll(
                  chosen,
                  t("{chosen, plural, one {The check is deleted} other {# checks are deleted}}", {
                    chosen: chosen.length,
                  }),
                );
              }}
            >
              {t("Delete")}
            </Button>
          </>
        )}
      />
    </main>
  );
}

function Verdict({ name, result }: { name: string; result: CheckResult | undefined }) {
  if (!result) return null;
  return (
    <b
      className={result.passed ? "yes" : "no"}
      title={result.passed ? t("As expected") : result.found}
      style={{ marginRight: 10 }}
    >
      {result.passed ? "✓" : "✗"} {name}
    </b>
  );
}
