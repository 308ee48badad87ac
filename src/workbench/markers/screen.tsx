"use client";
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
import { LocalField } from "../parts/local-field";
import { RuleEditor } from "../parts/rule-editor/rule-editor";
import { RuleSentence } from "../parts/sentence-text";
import { Verdict } from "../parts/verdict";

const refused = (signal: string): boolean => markerForbidden(signal) !== undefined;

/** Something remembered about a visitor's browsing. */
export function MarkersScreen() {
  const { ruleset, look } = useDesk();
  const list = useList("markers", "Marker", (marker) => ({ marker }));
  const trace = useRuleTrace();
  const found = new Map(look.decision.trace?.markers.map((item) => [item.id as string, item]));
  return (
    <ListScreen
      title="Markers"
      teaches="A marker remembers that a visitor did something, such as looking at ferns twice, for as many days as you say. Rules can then ask for it, on any page. Nothing is kept without the visitor’s consent."
      adding="New marker"
      list={list}
      row={(item) => {
        const step = found.get(item.id);
        return {
          says: (
            <>
              set{item.gainViews > 1 ? ` after ${item.gainViews} page views` : ""}{" "}
              <RuleSentence rule={item.gain ?? null} names={ruleset} everyone="(say when)" />
              {item.lose !== null && <>, cleared when {ruleText(item.lose, ruleset)}</>}
            </>
          ),
          verdict: step && (
            <Verdict kind="marker" verdict={step.verdict}>
              {step.verdict === "counting" && `: ${step.count} of ${item.gainViews}`}
            </Verdict>
          ),
        };
      }}
      fresh={() => ({
        name: "New marker",
        gain: { all: [{ signal: "page.category", op: "is" as const }] },
        gainViews: 1,
        lose: null,
        days: 30,
      })}
    >
      {(item) => {
        const whole = (least: number) => (text: string) =>
          /^\d{1,5}$/.test(text) && Number(text) >= least ? undefined : `A whole number of at least ${least}`;
        return (
          <div className="form">
            <NameRow name={item.name} onName={(name) => list.set(item, "name", name, `Marker ${item.name} renamed`)} />
            <h3>Set when a page view matches</h3>
            <RuleEditor
              rule={item.gain ?? null}
              at={["markers", item.id, "gain"]}
              says={`What gains ${item.name}`}
              trace={trace(item.gain ?? null)}
              refused={refused}
              empty="Nothing sets it yet. Say which page views do."
            />
            <div className="row" style={{ alignItems: "flex-start" }}>
              <Field
                label="Page views needed"
                value={String(item.gainViews)}
                problem={whole(1)}
                onCommit={(text) => list.set(item, "gainViews", Number(text), `Page views that gain ${item.name}`)}
              />
              <Field
                label="Lasts (days)"
                helperText="Counted from the last such page view"
                value={String(item.days)}
                problem={(text) => (Number(text) > 0 && Number(text) < 10_000 ? undefined : "A number above 0")}
                onCommit={(text) => list.set(item, "days", Number(text), `Days of ${item.name}`)}
              />
            </div>
            <div className="row" style={{ alignItems: "flex-start" }}>
              <LocalField
                label="Set only from"
                value={item.setFrom}
                before={item.setUntil}
                onCommit={(value) => list.set(item, "setFrom", value, `Dates of ${item.name}`)}
              />
              <LocalField
                label="Set only until"
                value={item.setUntil}
                after={item.setFrom}
                onCommit={(value) => list.set(item, "setUntil", value, `Dates of ${item.name}`)}
              />
            </div>
            <h3>Cleared when a page view matches</h3>
            <RuleEditor
              rule={item.lose}
              at={["markers", item.id, "lose"]}
              says={`What loses ${item.name}`}
              trace={item.lose === null ? undefined : trace(item.lose)}
              refused={refused}
              empty="Nothing clears it before its days are over."
            />
            <UsedBy uses={usesOf({ marker: item.id }, ruleset)} />
          </div>
        );
      }}
    </ListScreen>
  );
}
