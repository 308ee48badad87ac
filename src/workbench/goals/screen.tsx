"use client";
import { useDesk } from "../parts/desk/desk";
import { ListScreen } from "../parts/lists/list-screen";
import { useList } from "../parts/lists/use-list";
import { RuleSentence } from "../parts/sentence-text";
import { anyPath, GoalEditor } from "./editor";

/** What visitors are hoped to do, and what the page at hand has of it. */
export function GoalsScreen() {
  const { ruleset, look } = useDesk();
  const list = useList("goals", "Goal", () => undefined);
  const here = new Set(look.engine.goals(look.visit).map(({ id }) => id));
  const finished = new Set(look.engine.ruleset.goals.map(({ id }) => id));
  return (
    <ListScreen
      title="Goals"
      teaches="A goal is what you hope visitors do: reach a page, click a part of one, send a form. Results tell, for each variant, how many who saw it did."
      adding="New goal"
      list={list}
      row={(item) => ({
        says:
          item.way === "page" ? (
            <>
              a page is reached, <RuleSentence rule={item.pages} names={ruleset} everyone="(say which)" />
            </>
          ) : (
            <>
              {item.way === "click" ? "a click in " : "sending "}
              {item.at ? <code>{item.at.selector}</code> : "(point at it)"}
              {item.pages !== null && (
                <>
                  , <RuleSentence rule={item.pages} names={ruleset} />
                </>
              )}
            </>
          ),
        verdict: !finished.has(item.id) ? (
          <span className="verdict unsure">Not finished</span>
        ) : here.has(item.id) ? (
          <span className="verdict yes">{item.way === "page" ? "Reached here" : "Can be reached here"}</span>
        ) : (
          <span className="verdict">Not on this page</span>
        ),
      })}
      fresh={() => ({
        name: "New goal",
        way: "page" as const,
        pages: anyPath,
        days: 30,
      })}
    >
      {(item) => <GoalEditor goal={item} set={list.set} />}
    </ListScreen>
  );
}
