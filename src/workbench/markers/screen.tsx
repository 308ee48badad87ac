"use client";
import { t } from "@/core/messages/t";
import { ruleText } from "@/core/rules/sentence";
import { markerForbidden } from "@/core/ruleset/check";
import { usesOf } from "@/core/ruleset/uses";
import { useDesk } from "../parts/desk/desk";
import { useRuleTrace } from "../parts/desk/use-rule-trace";
import { Field } from "../parts/field";
import { ListScreen } from "../parts/lists/list-screen";
import { NameRow } from "../parts/lists/name-row";
import { UsedBy } from "../parts/lists/used-by";
import { useList } from "../parts/lists/use-list";
import { LocalField } from "../parts/dates/date-field";
import { RuleEditor } from "../parts/rule-editor/rule-editor";
import { RuleSentence } from "../parts/sentence-text";
import { Verdict } from "../parts/verdict";

const refused = (signal: string): boolean => markerForbidden(signal) !== undefined;

/** Something remembered about a visitor's browsing. */
export function MarkersScreen() {
  const { ruleset, look } = useDesk();
  const list = useList("markers", t("Marker"), (marker) => ({ marker }));
  const trace = useRuleTrace();
  const found = new Map(look.decision.trace?.markers.map((item) => [item.id as string, item]));
  return (
    <ListScreen
      title={t("Markers")}
      teaches={t(
        "A marker remembers that a visitor did something, such as looking at ferns twice, for as many days as you say. Rules can then ask for it, on any page. Nothing is kept without the visitor’s consent.",
      )}
      adding={t("New marker")}
      list={list}
      row={(item) => {
        const step = found.get(item.id);
        return {
          says: (
            <>
              {t("set{gainViews}", {
                gainViews: item.gainViews > 1 ? t(" after {gainViews} page views", { gainViews: item.gainViews }) : "",
              })}{" "}
              <RuleSentence rule={item.gain ?? null} names={ruleset} everyone={t("(say when)")} />
              {item.lose !== null && <>{t(", cleared when {ruleText}", { ruleText: ruleText(item.lose, ruleset) })}</>}
            </>
          ),
          verdict: step && (
            <Verdict kind="marker" verdict={step.verdict}>
              {step.verdict === "counting" &&
                t(": {count} of {gainViews}", { count: step.count, gainViews: item.gainViews })}
            </Verdict>
          ),
        };
      }}
      fresh={() => ({
        name: t("New marker"),
        gain: { all: [{ signal: "page.category", op: "is" as const }] },
        gainViews: 1,
        lose: null,
        days: 30,
      })}
    >
      {(item) => {
        const whole = (least: number) => (text: string) =>
          /^\d{1,5}$/.test(text) && Number(text) >= least
            ? undefined
            : t("A whole number of at least {least}", { least });
        return (
          <div className="form">
            <NameRow name={item.name} onName={(name) => list.set(item, "name", name, `Marker ${item.name} renamed`)} />
            <h3>{t("Set when a page view matches")}</h3>
            <RuleEditor
              rule={item.gain ?? null}
              at={["markers", item.id, "gain"]}
              says={t("What gains {name}", { name: item.name })}
              trace={trace(item.gain ?? null)}
              refused={refused}
              empty={t("Nothing sets it yet. Say which page views do.")}
            />
            <div className="row" style={{ alignItems: "flex-start" }}>
              <Field
                label={t("Page views needed")}
                value={String(item.gainViews)}
                problem={whole(1)}
                onCommit={(text) => list.set(item, "gainViews", Number(text), `Page views that gain ${item.name}`)}
              />
              <Field
                label={t("Lasts (days)")}
                helperText={t("Counted from the last such page view")}
                value={String(item.days)}
                problem={(text) => (Number(text) > 0 && Number(text) < 10_000 ? undefined : t("A number above 0"))}
                onCommit={(text) => list.set(item, "days", Number(text), t("Days of {name}", { name: item.name }))}
              />
            </div>
            <div className="row" style={{ alignItems: "flex-start" }}>
              <LocalField
                label={t("Set only from")}
                value={item.setFrom}
                before={item.setUntil}
                onCommit={(value) => list.set(item, "setFrom", value, t("Dates of {name}", { name: item.name }))}
              />
              <LocalField
                label={t("Set only until")}
                value={item.setUntil}
                after={item.setFrom}
                onCommit={(value) => list.set(item, "setUntil", value, t("Dates of {name}", { name: item.name }))}
              />
            </div>
            <h3>{t("Cleared when a page view matches")}</h3>
            <RuleEditor
              rule={item.lose}
              at={["markers", item.id, "lose"]}
              says={t("What loses {name}", { name: item.name })}
              trace={item.lose === null ? undefined : trace(item.lose)}
              refused={refused}
              empty={t("Nothing clears it before its days are over.")}
            />
            <UsedBy uses={usesOf({ marker: item.id }, ruleset)} />
          </div>
        );
      }}
    </ListScreen>
  );
}
