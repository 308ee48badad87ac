"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { freshThingId, insertItem, setItem } from "@/core/draft/lists";
import type { Goal } from "@/core/formats/goal";
import { useDesk } from "../parts/desk/desk";
import { addressOf } from "../parts/desk/screens";
import { useGo } from "../parts/desk/use-go";
import { goalWayNames, worthProblem } from "../parts/goal-words";
import { WhichPages, type Where } from "./which-pages";

interface Props {
  /** Where the part is found. */
  at: NonNullable<Goal["at"]>;
  /** What is suggested as a name. */
  name: string;
  /** The goal whose part it becomes; undefined: a new one's. */
  goal: Goal | undefined;
  onDone: () => void;
}

/** A part that was pointed at becomes that of a goal: by a click in it, or as a form that is sent. */
export function GoalForm({ at, name: suggested, goal, onDone }: Props) {
  const { ruleset, draft, look } = useDesk();
  const go = useGo();
  const [name, setName] = useState(suggested.slice(0, 80));
  const [way, setWay] = useState<"click" | "form">(goal?.way === "form" ? "form" : "click");
  const [where, setWhere] = useState<Where>("every");
  const [worth, setWorth] = useState("");
  const { currency } = ruleset.site;
  const unnamed = !goal && name.trim() === "";
  const wrong = worthProblem(worth, currency);
  const apart = way === "form" && at.within !== undefined;
  const save = () => {
    const id = goal?.id ?? freshThingId(name, "goals", ruleset);
    if (goal)
      draft.edit(t("Where {goal} is reached", { goal: goal.name }), [
        setItem(["goals"], goal, "at", at),
        ...(goal.way === way ? [] : [setItem(["goals"], goal, "way", way)]),
      ]);
    else {
      const value = worth.trim() === "" ? {} : { value: worth.trim() };
      const pages = where === "this" ? { signal: "page.path", op: "is" as const, value: look.path } : null;
      draft.edit(t("Goal {name} is new", { name: name.trim() }), [
        insertItem(["goals"], { id, name: name.trim(), way, at, pages, days: 30, ...value }, ruleset.goals.length),
      ]);
    }
    onDone();
    go(addressOf("/goals", id));
  };
  return (
    <>
      <TextField
        select
        label={t("It is reached when")}
        value={way}
        onChange={(event) => setWay(event.target.value as "click" | "form")}
        error={apart}
        helperText={
          apart ? t("A form in a shadow root does not report that it is sent: use a click on its button") : undefined
        }
        fullWidth
      >
        <MenuItem value="click">{goalWayNames.click}</MenuItem>
        <MenuItem value="form">{goalWayNames.form}</MenuItem>
      </TextField>
      {!goal && (
        <>
          <TextField
            label={t("Name of the goal")}
            autoFocus
            value={name}
            onChange={(event) => setName(event.target.value)}
            error={unnamed}
            helperText={unnamed ? t("Give it a name") : undefined}
            slotProps={{ htmlInput: { maxLength: 200 } }}
            fullWidth
          />
          <WhichPages where={where} here={look.path} onWhere={setWhere} />
          <TextField
            label={t("What each is worth, {currency}", { currency })}
            placeholder={t("nothing said")}
            value={worth}
            onChange={(event) => setWorth(event.target.value)}
            error={wrong !== undefined}
            helperText={wrong}
            slotProps={{ inputLabel: { shrink: true } }}
            fullWidth
          />
        </>
      )}
      <div className="row">
        <Button variant="contained" disabled={unnamed || wrong !== undefined || apart} onClick={save}>
          {goal ? t("Use it for “{goal}”", { goal: goal.name }) : t("Make the goal")}
        </Button>
      </div>
    </>
  );
}
