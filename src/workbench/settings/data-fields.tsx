"use client";
import { said, t, text } from "@/core/messages/t";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { Trash2 } from "lucide-react";
import * as z from "zod";
import { dataKinds, type DataField, type DataKind } from "@/core/formats/ruleset";
import { usesOf } from "@/core/ruleset/uses";
import { useDesk } from "../parts/desk/desk";
import { Form } from "../parts/form/form";
import { FormText } from "../parts/form/form-text";
import { named, useForm } from "../parts/form/use-form";
import { Section } from "./section";

const kindWords: Record<DataKind, string> = said({
  text: text("text"),
  texts: text("several texts"),
  number: text("number"),
  flag: text("on or off"),
  date: text("date"),
});
const sourceWords = said({ data: text("of the visitor"), "page.data": text("of the page") });

/** What the site itself tells, with its kinds: then rules and tokens can use it. */
export function DataFields() {
  const { ruleset, draft } = useDesk();
  const { dataFields } = ruleset;
  const shape = z
    .object({ name: named(), signal: z.enum(["data", "page.data"]), kind: z.enum(dataKinds) })
    .refine(({ name, signal }) => !dataFields.some((field) => field.signal === signal && field.name === name), {
      path: ["name"],
      error: () => t("There is such a field already"),
    });
  const form = useForm(shape, {
    name: "",
    signal: "data",
    kind: "text",
  });
  const { control, reset } = form;
  const set = (next: DataField[], says: string) =>
    draft.edit(says, [{ do: "set", at: ["dataFields"], before: dataFields, after: next }]);
  return (
    <Section
      title={t("Data of the site")}
      says={t(
        "What the site tells besides the usual: who is signed in, the wish list, whether a plant is in season. The developer sends it; here it is declared, so that rules can ask for it.",
      )}
    >
      {dataFields.map((field, index) => {
        const uses = usesOf({ dataField: `${field.signal}.${field.name}` }, ruleset);
        return (
          <div key={`${field.signal}.${field.name}`} className="row line">
            <code>{field.name}</code>
            <span className="quiet" style={{ flex: 1 }}>
              {kindWords[field.kind]}, {sourceWords[field.signal]}
              {uses.length > 0 &&
                t(" · used by {uses}{uses2}", {
                  uses: uses
                    .map((owner) => owner.name)
                    .slice(0, 2)
                    .join("; "),
                  uses2: uses.length > 2 ? " …" : "",
                })}
            </span>
            <TextField
              select
              value={field.kind}
              disabled={uses.length > 0}
              onChange={(event) =>
                set(
                  dataFields.map((item, i) => (i === index ? { ...item, kind: event.target.value as DataKind } : item)),
                  t("Kind of the data field {field}", { field: field.name }),
                )
              }
              sx={{ width: 140 }}
              slotProps={{ htmlInput: { "aria-label": t("Kind of {field}", { field: field.name }) } }}
            >
              {dataKinds.map((item) => (
                <MenuItem key={item} value={item}>
                  {kindWords[item]}
                </MenuItem>
              ))}
            </TextField>
            <IconButton
              aria-label={t("Remove {field}", { field: field.name })}
              disabled={uses.length > 0}
              onClick={() =>
                set(
                  dataFields.filter((_, i) => i !== index),
                  t("Data field {field} removed", { field: field.name }),
                )
              }
            >
              <Trash2 size={14} />
            </IconButton>
          </div>
        );
      })}
      <Form
        className="row"
        style={{ alignItems: "flex-start" }}
        form={form}
        onSend={(field) => {
          set([...dataFields, field], t("Data field {wanted}", { wanted: field.name }));
          reset({ ...field, name: "" });
        }}
      >
        <FormText control={control} name="name" label={t("Name of a new field")} />
        <FormText control={control} name="signal" select label={t("Told")} sx={{ width: 220 }}>
          <MenuItem value="data">{t("of the visitor")}</MenuItem>
          <MenuItem value="page.data">{t("of the page")}</MenuItem>
        </FormText>
        <FormText control={control} name="kind" select label={t("Kind")} sx={{ width: 200 }}>
          {dataKinds.map((item) => (
            <MenuItem key={item} value={item}>
              {kindWords[item]}
            </MenuItem>
          ))}
        </FormText>
        <Button type="submit" sx={{ py: 1.5 }}>
          {t("Add")}
        </Button>
      </Form>
    </Section>
  );
}
