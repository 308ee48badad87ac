"use client";
import { said, t, text } from "@/core/messages/t";
import { rich } from "../rich";
import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { To } from "../desk/site-address";
import { blocksFor, followed, labelsOf } from "@/core/draft/picks";
import type { Edit } from "@/core/draft/edit";
import type { Variant } from "@/core/formats/ruleset";
import { pickOps, type Pick } from "@/core/formats/site-draft";
import { audiencesIn } from "@/core/ruleset/check";
import { addressOf } from "../desk/screens";
import { useDesk } from "../desk/desk";
import { Field } from "../field";

interface Props {
  pick: Pick;
  variant: Variant;
  /** Gives the variant a text of its own again. */
  onOwn: () => void;
}

const opWords = said({ is: "is", contains: "contains", above: text("is above"), below: text("is below") });
const ordinals = ["first", "second", "third", "fourth", "fifth", "sixth"];

/** Which block of the library an arm shows: by labels, narrowed and ordered by a field. */
export function PickForm({ pick, variant, onOwn }: Props) {
  const { ruleset, draft } = useDesk();
  const found = blocksFor(pick, ruleset, variant);
  const chosen = found[pick.nth - 1];
  const set = (change: Partial<Pick>) => {
    const next: Record<string, unknown> = { ...pick, ...change };
    for (const key of Object.keys(next)) if (next[key] === undefined) delete next[key];
    const edits: Edit[] = [{ do: "set", at: ["picks", pick.id], before: pick, after: next }];
    draft.edit(t("What {variant} picks", { variant: variant.name }), edits);
  };
  const types = new Set(ruleset.library.map((block) => block.content.type));
  const fields = ruleset.blockTypes
    .filter((type) => types.has(type.id))
    .flatMap((type) => type.fields)
    .filter((field, index, all) => all.findIndex((item) => item.id === field.id) === index)
    .filter((field) => field.kind !== "image");
  const follows = followed(pick, variant) ?? "";
  const named = audiencesIn(variant.rule);
  // Those of its rule come first; what it follows stays to be chosen, whatever became of it.
  const audiences = [...new Set([...named, ...ruleset.audiences.map(({ id }) => id), ...(follows ? [follows] : [])])];
  const audienceName = (id: string) => ruleset.audiences.find((item) => item.id === id)?.name ?? id;
  const fieldSelect = (label: string, value: string, onChange: (field: string) => void, none: string) => (
    <TextField select label={label} value={value} onChange={(event) => onChange(event.target.value)}>
      <MenuItem value="">{none}</MenuItem>
      {fields.map((field) => (
        <MenuItem key={field.id} value={field.id}>
          {field.name}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <section className="pick stack" aria-label={t("Picked from the library")}>
      <span>
        {chosen ? (
          <>
            {rich("Shows {to}, {ordinals} of {found} that", {
              to: (
                <To href={addressOf("/library", chosen.id)}>
                  <b>{chosen.name}</b>
                </To>
              ),
              ordinals: ordinals[pick.nth - 1] ?? t("number {nth}", { nth: pick.nth }),
              found: found.length,
            })}{" "}
            {found.length === 1 ? "fits" : "fit"}.
          </>
        ) : (
          <span className="error">
            {found.length === 0
              ? t("No block of the library fits, so this variant is left out.")
              : t(
                  "Only {found} of the library {found, plural, one {fits} other {fit}}, so there is no number {nth}: this variant is left out.",
                  { found: found.length, nth: pick.nth },
                )}
          </span>
        )}
      </span>
      <Autocomplete
        multiple
        freeSolo
        autoSelect
        options={labelsOf(ruleset).map((item) => item.label)}
        value={pick.labels}
        onChange={(_, labels) => {
          const kept = labels.map((label) => label.trim()).filter(Boolean);
          if (kept.length > 0) set({ labels: kept });
        }}
        renderInput={(input) => (
          <TextField {...input} label={t("Required labels")} helperText={t("All of them; at least one is needed")} />
        )}
      />
      <TextField
        select
        label={t("and the label of an audience")}
        value={follows}
        helperText={
          follows !== "" && !named.includes(follows)
            ? t("Its rule does not name {follows}: blocks for that audience are shown anyway", {
                follows: audienceName(follows),
              })
            : undefined
        }
        onChange={(event) => set({ audience: event.target.value || undefined, forAudience: false })}
      >
        <MenuItem value="">{t("none")}</MenuItem>
        {audiences.map((id) => (
          <MenuItem key={id} value={id}>
            {audienceName(id)}
            {named.includes(id) && t(" (in its rule)")}
          </MenuItem>
        ))}
      </TextField>
      <div className="row">
        {fieldSelect(
          t("Only where"),
          pick.where?.field ?? "",
          (field) => set({ where: field === "" ? undefined : { op: "is", value: "", ...pick.where, field } }),
          t("any field"),
        )}
        {pick.where && (
          <>
            <TextField
              select
              value={pick.where.op}
              onChange={(event) =>
                pick.where && set({ where: { ...pick.where, op: event.target.value as (typeof pickOps)[number] } })
              }
              slotProps={{ htmlInput: { "aria-label": t("How it is compared") } }}
            >
              {pickOps.map((op) => (
                <MenuItem key={op} value={op}>
                  {opWords[op]}
                </MenuItem>
              ))}
            </TextField>
            <Field
              label={t("Value")}
              value={pick.where.value}
              onCommit={(value) => pick.where && set({ where: { ...pick.where, value } })}
            />
          </>
        )}
      </div>
      <div className="row">
        {fieldSelect(
          t("Order by"),
          pick.sort?.field ?? "",
          (field) => set({ sort: field === "" ? undefined : { descending: pick.sort?.descending ?? false, field } }),
          t("the library"),
        )}
        {pick.sort && (
          <TextField
            select
            value={pick.sort.descending ? "down" : "up"}
            onChange={(event) =>
              pick.sort && set({ sort: { ...pick.sort, descending: event.target.value === "down" } })
            }
            slotProps={{ htmlInput: { "aria-label": t("Direction") } }}
          >
            <MenuItem value="up">{t("smallest first")}</MenuItem>
            <MenuItem value="down">{t("largest first")}</MenuItem>
          </TextField>
        )}
        <Field
          label={t("Position")}
          value={String(pick.nth)}
          problem={(text) => (/^[1-9]\d?$/.test(text) ? undefined : t("A number from 1 to 99"))}
          onCommit={(text) => set({ nth: Number(text) })}
        />
      </div>
      <div className="row">
        <Button onClick={onOwn}>{t("Write separate text")}</Button>
      </div>
    </section>
  );
}
