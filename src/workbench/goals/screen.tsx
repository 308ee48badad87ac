"use client";
import { t } from "@/core/messages/t";
import { useDesk } from "../parts/desk/desk";
import { ListScreen } from "../parts/lists/list-screen";
import { useList } from "../parts/lists/use-list";
import { RuleSentence } from "../parts/sentence-text";
import { anyPath, GoalEditor } from "./editor";

/** What visitors are hoped to do, and what the page at hand has of it. */
export function GoalsScreen() {
  const { ruleset, look } = useDesk();
  const list = useList("goals", t("Goal"), () => undefined);
  const here = new Set(look.engine.goals(look.visit).map(({ id }) => id));
  const finished = new Set(look.engine.ruleset.goals.map(({ id }) => id));
  return (
    <ListScreen
      title={t("Goals")}
      teaches={t(
        "A goal is what you hope visitors do: reach a page, click a part of one, send a form. Results tell, for each variant, how many who saw it did.",
      )}
      adding={t("New goal")}
      list={list}
      row={(item) => ({
        says:
          item.way === "page" ? (
            <>
              {t("a page is reached,")} <RuleSentence rule={item.pages} names={ruleset} everyone={t("(say which)")} />
            </>
          ) : (
            <>
              {item.way === "click" ? t("a click in ") : t("sending ")}
              {item.at ? <code>{item.at.selector}</code> : t("(point at it)")}
              {item.pages !== null && (
                <>
                  , <RuleSentence rule={item.pages} names={ruleset} />
                </>
              )}
            </>
          ),
        verdict: !finished.has(item.id) ? (
          <span className="verdict unsure">{t("Not finished")}</span>
        ) : here.has(item.id) ? (
          <span className="verdict yes">{item.way === "page" ? t("Reached here") : t("Can be reached here")}</span>
        ) : (
          <span className="verdict">{t("Not on this page")}</span>
        ),
      })}
      fresh={() => ({
        name: t("New goal"),
        way: "page" as const,
        pages: anyPath,
        days: 30,
      })}
    >
      {(item) => <GoalEditor goal={item} set={list.set} />}
    </ListScreen>
  );
}
