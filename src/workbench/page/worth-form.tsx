"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { worthSignal } from "@/core/collect/sources";
import { likelyDecimal, readValue } from "@/core/collect/values";
import { setItem } from "@/core/draft/lists";
import type { Goal } from "@/core/formats/goal";
import type { Pointed } from "@/core/preview/messages";
import { DecimalSign } from "../parts/collect/fields";
import { ReadOnPages } from "../parts/collect/on-pages";
import { useDesk } from "../parts/desk/desk";
import { addressOf } from "../parts/desk/screens";
import { useGo } from "../parts/desk/use-go";
import { ReadAs } from "./read-as";

interface Props {
  at: Pointed;
  /** The goal that was asked for; undefined: it is chosen here. */
  goal: Goal | undefined;
  onDone: () => void;
}

/** A part that was pointed at says what a goal is worth: which goal, how it is read, and what it reads on the site's pages. */
export function WorthForm({ at, goal: asked, onDone }: Props) {
  const { ruleset, draft } = useDesk();
  const go = useGo();
  const [chosen, setChosen] = useState(asked?.id ?? ruleset.goals[0]?.id ?? "");
  const says = at.says ?? at.text ?? "";
  const [decimal, setDecimal] = useState<"." | ",">(likelyDecimal(says) ?? ".");
  const goal = ruleset.goals.find(({ id }) => id === chosen);
  if (!goal) return null;
  const value = readValue(says, "money", decimal);
  const worth: Goal["worth"] = { from: { selector: at.selector }, decimal };
  const save = () => {
    draft.edit(t("{goal} is worth what the page says", { goal: goal.name }), [
      setItem(["goals"], goal, "worth", worth),
    ]);
    onDone();
    go(addressOf("/goals", goal.id));
  };
  return (
    <>
      <TextField
        select
        label={t("What it is the worth of")}
        value={goal.id}
        onChange={(event) => setChosen(event.target.value)}
        fullWidth
      >
        {ruleset.goals.map(({ id, name }) => (
          <MenuItem key={id} value={id}>
            {name}
          </MenuItem>
        ))}
      </TextField>
      <DecimalSign value={decimal} onChange={setDecimal} />
      <ReadAs says={says} kind="money" signal={worthSignal(goal.id)} value={value} />
      <ReadOnPages entry={{ signal: worthSignal(goal.id), ...worth }} />
      <div className="row">
        <Button variant="contained" disabled={value === undefined} onClick={save}>
          {t("Use it for “{goal}”", { goal: goal.name })}
        </Button>
      </div>
    </>
  );
}
