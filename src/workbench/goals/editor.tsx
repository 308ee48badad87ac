"use client";
import { t, within } from "@/core/messages/t";
import Button from "@mui/material/Button";
import InputAdornment from "@mui/material/InputAdornment";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import type { Edit } from "@/core/draft/edit";
import { setItem } from "@/core/draft/lists";
import { goalWays, longestWindow, type Goal, type GoalWay } from "@/core/formats/goal";
import { selectorProblem } from "@/core/formats/selector";
import type { Rule } from "@/core/formats/rule";
import { checkRule } from "@/core/rules/check";
import { useDesk } from "../parts/desk/desk";
import { addressOf } from "../parts/desk/screens";
import { To } from "../parts/desk/site-address";
import { useRuleTrace } from "../parts/desk/use-rule-trace";
import { Field } from "../parts/field";
import { goalWayNames, worthProblem } from "../parts/goal-words";
import { NameRow } from "../parts/lists/name-row";
import { WorthOnPage } from "./worth";
import { RuleEditor } from "../parts/rule-editor/rule-editor";

/** A page whose path is still to be said. */
export const anyPath: Rule = { all: [{ signal: "page.path", op: "is" }] };

export interface GoalProps {
  goal: Goal;
  set: <K extends keyof Goal & string>(goal: Goal, key: K, value: Goal[K] | undefined, says: string) => void;
}

/** One goal: how it is reached, where, what it is worth, and for how long it counts for what was seen. */
export function GoalEditor({ goal, set }: GoalProps) {
  const { ruleset, draft, lookedBy, may } = useDesk();
  const trace = useRuleTrace();
  const { currency } = ruleset.site;
  const byPage = goal.way === "page";
  const setWay = (way: GoalWay) => {
    const edits: Edit[] = [setItem(["goals"], goal, "way", way)];
    // A page has no part, and must be said; a part may be on every page.
    if (way === "page" && goal.at) edits.push(setItem(["goals"], goal, "at", undefined));
    if (way === "page" && goal.pages === null) edits.push(setItem(["goals"], goal, "pages", anyPath));
    if (way !== "page" && checkRule(goal.pages, ruleset).length > 0)
      edits.push(setItem(["goals"], goal, "pages", null));
    draft.edit(t("Goal {goal}: {goalWayNames}", { goal: goal.name, goalWayNames: within(goalWayNames[way]) }), edits);
  };
  const users = [...ruleset.slots, ...ruleset.popups].filter((item) => item.goal === goal.id);
  return (
    <div className="form">
      <NameRow
        name={goal.name}
        onName={(name) => set(goal, "name", name, t("Goal {goal} renamed", { goal: goal.name }))}
      />
      <TextField
        select
        label={t("It is reached when")}
        value={goal.way}
        onChange={(event) => setWay(event.target.value as GoalWay)}
        fullWidth
      >
        {goalWays.map((way) => (
          <MenuItem key={way} value={way}>
            {goalWayNames[way]}
          </MenuItem>
        ))}
      </TextField>
      {!byPage && (
        <>
          <h3>{goal.way === "click" ? t("Which part") : t("Which form")}</h3>
          <div className="row" style={{ alignItems: "flex-start" }}>
            <Field
              label={t("How it is found, a CSS selector")}
              value={goal.at?.selector ?? ""}
              problem={(text) =>
                text.trim() === "" ? t("Point at it, or say how it is found") : selectorProblem(text)
              }
              helperText={
                goal.way === "form" ? t("The form, or anything in it") : t("The part, or what lies around it")
              }
              onCommit={(selector) =>
                set(goal, "at", { ...goal.at, selector }, t("Where {goal} is reached", { goal: goal.name }))
              }
              fullWidth
            />
            {lookedBy === "tag" && may("slots") && (
              <Button
                component={To}
                href={`/pages?point=goal&goal=${encodeURIComponent(goal.id)}`}
                sx={{ flex: "none" }}
              >
                {t("Point at it on the page")}
              </Button>
            )}
          </div>
          {goal.at?.within && (
            <span className="quiet">
              {t("It lies within {within}.", { within: goal.at.within.join(t(", then ")) })}
            </span>
          )}
        </>
      )}
      <h3>{byPage ? t("By page views of which") : t("On which pages")}</h3>
      <RuleEditor
        rule={goal.pages}
        at={["goals", goal.id, "pages"]}
        says={t("Pages of goal {goal}", { goal: goal.name })}
        trace={trace(goal.pages)}
        empty={
          byPage ? t("No page yet. Say which, by its path, category or words.") : t("On every page that has the part.")
        }
      />
      <h3>{t("What it is worth")}</h3>
      <WorthOnPage goal={goal} set={set} />
      <div className="row" style={{ alignItems: "flex-start" }}>
        <Field
          label={goal.worth ? t("Worth where the page does not say it") : t("What each is worth")}
          placeholder={t("nothing said")}
          value={goal.value ?? ""}
          problem={(text) => worthProblem(text, currency)}
          helperText={t("Results add it up")}
          onCommit={(text) =>
            set(goal, "value", text.trim() || undefined, t("What {goal} is worth", { goal: goal.name }))
          }
          slotProps={{ input: { startAdornment: <InputAdornment position="start">{currency}</InputAdornment> } }}
        />
        <Field
          label={t("Days after a variant was seen")}
          value={String(goal.days)}
          problem={(text) =>
            /^\d{1,2}$/.test(text) && Number(text) >= 1 && Number(text) <= longestWindow
              ? undefined
              : t("A whole number from 1 to {longestWindow}", { longestWindow })
          }
          helperText={t("Later it no longer counts for it")}
          onCommit={(text) => set(goal, "days", Number(text), t("Days of {goal}", { goal: goal.name }))}
        />
      </div>
      <span className="quiet">
        {t(
          "{byPage}Goals are told of visitors who gave consent: only of them is known what they had seen. They count from the next release on.",
          { byPage: byPage ? t("It counts once per visit. ") : "" },
        )}
      </span>
      {users.length > 0 && (
        <span className="quiet">
          {t("Tests of {users} are read by it first.", { users: users.map(({ name }) => name).join(", ") })}
        </span>
      )}
      <div className="row">
        <Button component={To} href={addressOf("/results", ruleset.slots[0]?.id ?? "")}>
          {t("See the results")}
        </Button>
      </div>
    </div>
  );
}
