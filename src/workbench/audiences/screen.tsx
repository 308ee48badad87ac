"use client";
import { useDesk } from "../parts/desk/desk";
import { Field } from "../parts/field";
import { ListScreen } from "../parts/lists/list-screen";
import { UsedBy } from "../parts/lists/used-by";
import { useList } from "../parts/lists/use-list";
import { useRuleTrace } from "../parts/desk/use-rule-trace";
import { RuleEditor } from "../parts/rule-editor/rule-editor";
import { RuleSentence } from "../parts/sentence-text";
import { VerdictMark } from "../parts/verdict";
import { usesOf } from "@/core/ruleset/uses";

const belongs = { true: "belongs", false: "does not", unknown: "cannot tell" } as const;

/** Named rules, used in rules. */
export function AudiencesScreen() {
  const { ruleset } = useDesk();
  const list = useList("audiences", "Audience", (audience) => ({ audience }));
  const trace = useRuleTrace();
  return (
    <ListScreen
      title="Audiences"
      teaches="An audience is a rule with a name, such as “newsletter readers”. Make it once, use it in any rule, and change it in one place."
      adding="New audience"
      rows={list.items.map((item) => ({
        id: item.id,
        name: item.name,
        says: <RuleSentence rule={item.rule} names={ruleset} everyone="everyone" />,
        verdict: <VerdictMark verdict={trace(item.rule)?.verdict ?? "unknown"} words={belongs} />,
      }))}
      onAdd={() => list.add({ name: "New audience", rule: null })}
      onCopy={list.copy}
      onRemove={list.remove}
    >
      {(id) => {
        const item = list.items.find((one) => one.id === id);
        if (!item) return null;
        const uses = usesOf({ audience: id }, ruleset);
        return (
          <div className="form">
            <Field
              label="Name"
              value={item.name}
              problem={(name) => (name.trim() === "" ? "Give it a name" : undefined)}
              onCommit={(name) => list.set(item, "name", name, `Audience ${item.name} renamed`)}
            />
            <div className="rule large">
              <RuleSentence rule={item.rule} names={ruleset} everyone="everyone" />
            </div>
            <h3>Who belongs to it</h3>
            <RuleEditor
              rule={item.rule}
              at={["audiences", id, "rule"]}
              says={`Rule of audience ${item.name}`}
              trace={trace(item.rule)}
              within={id}
              empty="Everyone belongs to it, until you add a condition."
            />
            <UsedBy uses={uses} />
          </div>
        );
      }}
    </ListScreen>
  );
}
