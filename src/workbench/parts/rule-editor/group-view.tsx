"use client";
import { said, t, text } from "@/core/messages/t";
import { useDraggable, useDroppable } from "@dnd-kit/core";
import { CSS } from "@dnd-kit/utilities";
import Button from "@mui/material/Button";
import Divider from "@mui/material/Divider";
import IconButton from "@mui/material/IconButton";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Select from "@mui/material/Select";
import { Ellipsis, GripVertical, Plus } from "lucide-react";
import { Fragment, useState } from "react";
import { groupOf, isCondition, makeGroup, type Condition, type Group, type Rule } from "@/core/formats/rule";
import { step, unwrap, wrap, type Way } from "@/core/rules/arrange";
import { signalsOf } from "@/core/rules/check";
import type { RuleTrace } from "@/core/rules/evaluate";
import { actualText } from "@/core/rules/explain";
import { ruleText } from "@/core/rules/sentence";
import { SentenceParts } from "../sentence-text";
import { VerdictMark } from "../verdict";
import { ConditionForm } from "./condition-form";
import { useEditing } from "./editing";

interface PartProps {
  rule: Rule;
  trace: RuleTrace | undefined;
  way: Way;
}

const groupWords: Record<Group, string> = said({
  all: text("All of these match"),
  any: text("Any of these matches"),
  none: text("None of these matches"),
});
const fresh: Condition = { signal: "", op: "is" };
const nameOf = (way: Way): string => way.join(" ");

/** A group with its members, between which others can be dropped. */
export function GroupView({ rule, trace, way }: PartProps) {
  const editing = useEditing();
  const [adding, setAdding] = useState<HTMLElement | null>(null);
  const members = groupOf(rule);
  if (!members) return null;
  const { group, rules } = members;
  const traces = trace && "rules" in trace ? trace.rules : undefined;
  const top = way.length === 0;
  const audiences = editing.ruleset.audiences.filter(
    (item) =>
      item.id !== editing.within &&
      (!editing.refused || ![...signalsOf({ audience: item.id }, editing.ruleset)].some(editing.refused)),
  );
  return (
    <div className={`group ${group}`} role="group" aria-label={groupWords[group]}>
      <div className="grouphead">
        {!top && <Grip way={way} name={t("the group “{groupWords}”", { groupWords: groupWords[group] })} />}
        <Select
          variant="standard"
          disableUnderline
          value={group}
          onChange={(event) => editing.replace(way, makeGroup(event.target.value as Group, rules))}
          sx={{ fontWeight: 600, fontSize: 13.5 }}
          inputProps={{ "aria-label": t("How the conditions go together") }}
        >
          {(Object.keys(groupWords) as Group[]).map((key) => (
            <MenuItem key={key} value={key}>
              {groupWords[key]}
            </MenuItem>
          ))}
        </Select>
        <span style={{ flex: 1 }} />
        {trace && <VerdictMark verdict={trace.verdict} />}
        <PartMenu rule={rule} way={way} name={top ? t("the whole rule") : t("this group")} />
      </div>
      <Notes way={way} />
      {rules.length === 0 && (
        <span className="error">{t("This group is empty: add a condition or remove the group.")}</span>
      )}
      <Gap way={way} index={0} />
      {rules.map((inner, index) => {
        const props = { rule: inner, trace: traces?.[index], way: [...way, index] };
        return (
          <Fragment key={index}>
            {inner !== null && groupOf(inner) ? <GroupView {...props} /> : <LeafView {...props} />}
            <Gap way={way} index={index + 1} />
          </Fragment>
        );
      })}
      <div className="row" style={{ flexWrap: "wrap" }}>
        <Button startIcon={<Plus size={14} />} onClick={() => editing.add(way, fresh)}>
          {t("Condition")}
        </Button>
        <Button onClick={(event) => setAdding(event.currentTarget)} aria-label={t("Add something else")}>
          {t("Add group or audience …")}
        </Button>
        <Menu open={adding !== null} anchorEl={adding} onClose={() => setAdding(null)} onClick={() => setAdding(null)}>
          {(Object.keys(groupWords) as Group[]).map((key) => (
            <MenuItem key={key} onClick={() => editing.add(way, makeGroup(key, [fresh]))}>
              {t("A group: {groupWords}", { groupWords: groupWords[key].toLowerCase() })}
            </MenuItem>
          ))}
          <MenuItem onClick={() => editing.ask("paste", way)}>{t("Paste a rule")}</MenuItem>
          {audiences.length > 0 && <Divider />}
          {audiences.map((item) => (
            <MenuItem key={item.id} onClick={() => editing.add(way, { audience: item.id })}>
              {t("Belongs to “{name}”", { name: item.name })}
            </MenuItem>
          ))}
        </Menu>
      </div>
    </div>
  );
}

/** What was noticed about a part while it is built. */
function Notes({ way }: { way: Way }) {
  const { notes } = useEditing();
  return notes
    .filter((note) => nameOf(note.way) === nameOf(way))
    .map((note) => (
      <span key={note.says} className={`rulenote ${note.kind}`} role="status">
        {note.says}
      </span>
    ));
}

function LeafView({ rule, trace, way }: PartProps) {
  const { ruleset, open, setOpen } = useEditing();
  const condition = rule !== null && isCondition(rule) ? rule : undefined;
  const isOpen = open === nameOf(way);
  const text = ruleText(rule, ruleset);
  return (
    <div
      className={`cond ${isOpen ? "open" : ""}`}
      role="group"
      aria-label={condition?.signal === "" ? t("A new condition") : text}
    >
      <div className="condhead">
        <Grip way={way} name={text} />
        {trace && condition?.signal !== "" ? <VerdictMark verdict={trace.verdict} /> : <b className="quiet">·</b>}
        <button
          type="button"
          className="says"
          aria-expanded={isOpen}
          onClick={() => setOpen(isOpen ? undefined : nameOf(way))}
        >
          <SentenceParts rule={rule} names={ruleset} />
        </button>
        <PartMenu rule={rule} way={way} name={t("this condition")} />
      </div>
      <Notes way={way} />
      {isOpen && condition && <ConditionForm condition={condition} way={way} />}
      {isOpen && !condition && <AudienceChoice rule={rule} way={way} />}
      {trace && "condition" in trace && condition?.signal !== "" && (
        <span className="found">{t("This lens: {actualText}", { actualText: actualText(trace, ruleset) })}</span>
      )}
    </div>
  );
}

function AudienceChoice({ rule, way }: { rule: Rule; way: Way }) {
  const { ruleset, replace, within } = useEditing();
  return (
    <Select
      fullWidth
      value={rule && "audience" in rule ? rule.audience : ""}
      onChange={(event) => replace(way, { audience: event.target.value })}
      inputProps={{ "aria-label": t("Audience") }}
    >
      {ruleset.audiences
        .filter((item) => item.id !== within)
        .map((audience) => (
          <MenuItem key={audience.id} value={audience.id}>
            {audience.name}
          </MenuItem>
        ))}
    </Select>
  );
}

/** Drags a part; with the keyboard the arrow keys move it, also into and out of groups. */
function Grip({ way, name }: { way: Way; name: string }) {
  const { whole, rearrange, setOpen } = useEditing();
  const { attributes, listeners, setNodeRef, transform, isDragging } = useDraggable({
    id: `part ${nameOf(way)}`,
    data: { way },
  });
  const press = (event: React.KeyboardEvent<HTMLButtonElement>) => {
    const by = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" ? 1 : undefined;
    if (by === undefined) return;
    event.preventDefault();
    const moved = step(whole, way, by);
    if (moved.rule === whole) return;
    setOpen(undefined);
    rearrange(moved.rule);
    // The grip of the part at its new place keeps the focus.
    const editor = event.currentTarget.closest(".group:not(.group .group)");
    const wanted = nameOf(moved.way);
    requestAnimationFrame(() =>
      requestAnimationFrame(() => editor?.querySelector<HTMLElement>(`[data-way="${wanted}"]`)?.focus()),
    );
  };
  return (
    <button
      type="button"
      ref={setNodeRef}
      className="grip"
      data-way={nameOf(way)}
      {...attributes}
      {...listeners}
      onKeyDown={press}
      aria-label={t("Move {name}: arrow keys, or drag", { name })}
      style={{ transform: CSS.Translate.toString(transform), zIndex: isDragging ? 5 : undefined, position: "relative" }}
    >
      <GripVertical size={14} />
    </button>
  );
}

function Gap({ way, index }: { way: Way; index: number }) {
  const { setNodeRef, isOver } = useDroppable({ id: `gap ${nameOf(way)} ${index}`, data: { way, index } });
  return <div ref={setNodeRef} className={`dropgap${isOver ? " over" : ""}`} aria-hidden />;
}

/** What can be done to a part besides editing it. */
function PartMenu({ rule, way, name }: { rule: Rule; way: Way; name: string }) {
  const editing = useEditing();
  const [at, setAt] = useState<HTMLElement | null>(null);
  const top = way.length === 0;
  const members = rule === null ? undefined : groupOf(rule);
  const act = (what: () => void) => () => {
    setAt(null);
    what();
  };
  const remove = act(() => editing.remove(way));
  return (
    <>
      <IconButton
        size="small"
        aria-label={t("More about {name}", { name })}
        onClick={(event) => setAt(event.currentTarget)}
      >
        <Ellipsis size={15} />
      </IconButton>
      <Menu open={at !== null} anchorEl={at} onClose={() => setAt(null)}>
        <MenuItem onClick={act(() => editing.ask("audience", way))}>{t("Save as an audience …")}</MenuItem>
        <MenuItem onClick={act(() => editing.ask("copy", way))}>{t("Copy as JSON text")}</MenuItem>
        {!members && (
          <MenuItem onClick={act(() => editing.rearrange(wrap(editing.whole, way, "any")))}>
            {t("Move to its own group")}
          </MenuItem>
        )}
        {members && !top && (
          <MenuItem onClick={act(() => editing.rearrange(unwrap(editing.whole, way)))}>{t("Ungroup")}</MenuItem>
        )}
        <MenuItem onClick={remove}>{top ? t("Remove rule") : t("Remove {name}", { name })}</MenuItem>
      </Menu>
    </>
  );
}
