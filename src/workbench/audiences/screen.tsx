"use client";
import { said, t, text } from "@/core/messages/t";
import { useDesk } from "../parts/desk/desk";
import { ListScreen } from "../parts/lists/list-screen";
import { NameRow } from "../parts/lists/name-row";
import { UsedBy } from "../parts/lists/used-by";
import { useList } from "../parts/lists/use-list";
import { useRuleTrace } from "../parts/desk/use-rule-trace";
import { RuleEditor } from "../parts/rule-editor/rule-editor";
import { RuleSentence } from "../parts/sentence-text";
import { VerdictMark } from "../parts/verdict";
import { renameAudience } from "@/core/draft/picks";
import { usesOf } from "@/core/ruleset/uses";

const belongs = said({ true: "belongs", false: text("not in it"), unknown: text("cannot tell") });

/** Named rules, used in rules. */
export function AudiencesScreen() {
  const { draft, ruleset } = useDesk();
  const list = useList("audiences", t("Audience"), (audience) => ({ audience }));
  const trace = useRuleTrace();
  return (
    <ListScreen
      title={t("Audiences")}
      teaches={t(
        "An audience is a rule with a name, such as “newsletter readers”. Make it once, use it in any rule, and change it in one place.",
      )}
      adding={t("New audience")}
      list={list}
      row={(item) => ({
        says: <RuleSentence rule={item.rule} names={ruleset} everyone="everyone" />,
        verdict: <VerdictMark verdict={trace(item.rule)?.verdict ?? "unknown"} words={belongs} />,
      })}
      fresh={() => ({ name: t("New audience"), rule: null })}
    >
      {(item) => {
        const uses = usesOf({ audience: item.id }, ruleset);
        return (
          <div className="form">
            <NameRow
              name={item.name}
              onName={(name) =>
                draft.edit(t("Audience {name} renamed", { name: item.name }), renameAudience(ruleset, item, name))
              }
            />
            <div className="rule large">
              <RuleSentence rule={item.rule} names={ruleset} everyone="everyone" />
            </div>
            <h3>{t("Who belongs to it")}</h3>
            <RuleEditor
              rule={item.rule}
              at={["audiences", item.id, "rule"]}
              says={t("Rule of audience {name}", { name: item.name })}
              trace={trace(item.rule)}
              within={item.id}
              empty={t("Everyone belongs to it, until you add a condition.")}
            />
            <UsedBy uses={uses} />
          </div>
        );
      }}
    </ListScreen>
  );
}
