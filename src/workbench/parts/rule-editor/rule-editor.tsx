"use client";
import { t } from "@/core/messages/t";
import { DndContext, PointerSensor, pointerWithin, useSensor, useSensors, type DragEndEvent } from "@dnd-kit/core";
import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { Plus } from "lucide-react";
import { useMemo, useState } from "react";
import type { Edit, EditPath } from "@/core/draft/edit";
import { groupOf, makeGroup, type Condition, type Rule } from "@/core/formats/rule";
import { languagesIn } from "@/core/rules/languages";
import { ruleNotes } from "@/core/analysis/notes";
import { firstUnfinished, insertAt, moveTo, partAt, removeAt, replaceAt, type Way } from "@/core/rules/arrange";
import type { RuleTrace } from "@/core/rules/evaluate";
import { useDesk } from "../desk/desk";
import { AudienceDialog, JsonDialog } from "./dialogs";
import { GroupView } from "./group-view";
import { RuleContext, type Editing } from "./editing";

interface Props {
  rule: Rule;
  /** Where the rule stands in the draft. */
  at: EditPath;
  /** What it is, for the words of a change: "Rule of Repotting clinic". */
  says: string;
  /** The rule with every part's verdict for the lens at hand; undefined while it cannot be judged. */
  trace: RuleTrace | undefined;
  /** Signals that may not be used here. */
  refused?: (signal: string) => boolean;
  /** The audience whose rule this is: it may not name itself. */
  within?: string;
  /** What an empty rule means here. */
  empty?: string;
}

const fresh: Condition = { signal: "", op: "is" };

/** Builds a rule from conditions, groups and audiences; each part reads as a sentence, with its verdict for the lens at hand. */
export function RuleEditor(props: Props) {
  const {
    rule,
    at,
    says,
    trace,
    refused,
    within,
    empty = t("For everyone. Say when it is shown by adding a condition."),
  } = props;
  const { draft, ruleset, look } = useDesk();
  const [asking, setAsking] = useState<{ what: "paste" | "copy" | "audience"; way: Way }>();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));

  // A single condition or audience stands in a group of one, so that another can be added beside it.
  const members = rule === null ? undefined : groupOf(rule);
  const whole: Rule = rule === null || members ? rule : { all: [rule] };
  // What is not finished is what there is to do.
  const [open, setOpen] = useState(() => firstUnfinished(whole, ruleset)?.join(" "));
  const wholeTrace: RuleTrace | undefined =
    members || !trace || rule === null ? trace : { verdict: trace.verdict, group: "all", rules: [trace] };
  // Judged over what is finished: another rule that is being written must not stand in the way.
  const sound = look.runnable.ruleset;
  const notes = useMemo(() => ruleNotes(rule, sound), [rule, sound]);

  const owner = at[2] === "variants" ? ruleset.slots.find(({ id }) => id === at[1]) : undefined;
  const others = (owner?.variants ?? []).filter(({ id }) => id !== at[3]);

  const change = (next: Rule, more: Edit[] = []) =>
    draft.edit(says, [...more, { do: "set", at, before: rule, after: next }]);
  const editing: Editing = {
    ruleset,
    refused,
    within,
    open,
    setOpen,
    otherLanguages: languagesIn(others.map((variant) => variant.rule)),
    notes: members ? notes : notes.map((note) => ({ ...note, way: [0, ...note.way] })),
    replace: (way, part) => change(replaceAt(whole, way, part)),
    remove(way) {
      setOpen(undefined);
      change(removeAt(whole, way));
    },
    rearrange: (next) => change(next),
    add(way, part) {
      const size = groupOf(partAt(whole, way) ?? null)?.rules.length ?? 0;
      // In a new group its first condition is what there is to fill in.
      setOpen([...way, size, ...(part !== null && groupOf(part) ? [0] : [])].join(" "));
      change(insertAt(whole, way, size, part));
    },
    ask: (what, way) => setAsking({ what, way }),
    whole,
  };
  const dropped = ({ active, over }: DragEndEvent) => {
    const gap = over?.data.current as { way: Way; index: number } | undefined;
    const from = active.data.current as { way: Way } | undefined;
    if (!gap || !from) return;
    const moved = moveTo(whole, from.way, gap.way, gap.index);
    setOpen(undefined);
    if (moved.rule !== whole) change(moved.rule);
  };

  return (
    <RuleContext value={editing}>
      {whole === null ? (
        <div className="stack">
          <span className="quiet">{empty}</span>
          <div className="row">
            <Button className="addcondition" startIcon={<Plus size={14} />} onClick={() => editing.add([], fresh)}>
              {t("Add a condition")}
            </Button>
            <Button onClick={(event) => setMenu(event.currentTarget)}>{t("More")}</Button>
            <Menu open={menu !== null} anchorEl={menu} onClose={() => setMenu(null)}>
              <MenuItem
                onClick={() => {
                  setMenu(null);
                  setAsking({ what: "paste", way: [] });
                }}
              >
                {t("Paste a rule")}
              </MenuItem>
              {ruleset.audiences
                .filter((item) => item.id !== within)
                .map((item) => (
                  <MenuItem
                    key={item.id}
                    onClick={() => {
                      setMenu(null);
                      change({ all: [{ audience: item.id }] });
                    }}
                  >
                    {t("Everyone in “{name}”", { name: item.name })}
                  </MenuItem>
                ))}
            </Menu>
          </div>
        </div>
      ) : (
        <DndContext sensors={sensors} collisionDetection={pointerWithin} onDragEnd={dropped}>
          <GroupView rule={whole} trace={wholeTrace} way={[]} />
        </DndContext>
      )}
      {asking?.what === "audience" && (
        <AudienceDialog
          rule={partAt(whole, asking.way) ?? null}
          onClose={() => setAsking(undefined)}
          onMade={(edit, id) => {
            setAsking(undefined);
            const part: Rule = { audience: id };
            change(asking.way.length === 0 ? makeGroup("all", [part]) : replaceAt(whole, asking.way, part), [edit]);
          }}
        />
      )}
      {asking && asking.what !== "audience" && (
        <JsonDialog
          rule={asking.what === "copy" ? (partAt(whole, asking.way) ?? null) : undefined}
          onClose={() => setAsking(undefined)}
          onTaken={(pasted) => {
            setAsking(undefined);
            if (whole === null) change(pasted !== null && groupOf(pasted) ? pasted : { all: [pasted] });
            else editing.add(asking.way, pasted);
          }}
        />
      )}
    </RuleContext>
  );
}
