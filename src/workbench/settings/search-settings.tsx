"use client";
import { t } from "@/core/messages/t";
import { rich } from "../parts/rich";
import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import TextField from "@mui/material/TextField";
import { Trash2 } from "lucide-react";
import * as z from "zod";
import { useDesk } from "../parts/desk/desk";
import { Form } from "../parts/form/form";
import { FormText } from "../parts/form/form-text";
import { saying, useForm } from "../parts/form/use-form";
import { Section } from "./section";

const hostShape = /^[a-z0-9-]+(\.[a-z0-9-]+)+$/i;

/** From which sites and parameters search words are read. */
export function SearchSettings() {
  const { ruleset, draft } = useDesk();
  const { wordParameters, searchSources } = ruleset;
  const shape = z.object({
    host: z
      .string()
      .trim()
      .toLowerCase()
      .regex(hostShape, { error: () => t("A host such as search.example") })
      .refine((host) => !searchSources.some((source) => source.host === host), {
        error: () => t("There is such a source already"),
      }),
    engine: z.string().trim(),
    parameter: saying(() => t("Say which parameter")),
  });
  const form = useForm(shape, { host: "", engine: "", parameter: "q" });
  const { control, reset } = form;
  return (
    <Section
      title={t("Search words")}
      says={t(
        "Search engines tell the words in the referrer’s address, ad systems in a parameter of the link. The referrer is asked first.",
      )}
    >
      {searchSources.map((source, index) => (
        <div key={source.host} className="row line">
          <code>{source.host}</code>
          <span className="quiet" style={{ flex: 1 }}>
            {rich("engine {engine}, words in {parameter}", {
              engine: source.engine,
              parameter: <code>{source.parameter}</code>,
            })}
          </span>
          <IconButton
            aria-label={t("Remove {host}", { host: source.host })}
            onClick={() =>
              draft.edit(t("Search source {host} removed", { host: source.host }), [
                {
                  do: "set",
                  at: ["searchSources"],
                  before: searchSources,
                  after: searchSources.filter((_, i) => i !== index),
                },
              ])
            }
          >
            <Trash2 size={14} />
          </IconButton>
        </div>
      ))}
      <Form
        className="row"
        style={{ alignItems: "flex-start" }}
        form={form}
        onSend={(fresh) => {
          const source = { ...fresh, engine: fresh.engine || (fresh.host.split(".").at(-2) ?? fresh.host) };
          draft.edit(t("Search source {host}", { host: source.host }), [
            { do: "set", at: ["searchSources"], before: searchSources, after: [...searchSources, source] },
          ]);
          reset();
        }}
      >
        <FormText control={control} name="host" label={t("Host")} />
        <FormText control={control} name="engine" label={t("Engine")} />
        <FormText control={control} name="parameter" label={t("Parameter")} />
        <Button type="submit" sx={{ py: 1.5 }}>
          {t("Add")}
        </Button>
      </Form>
      <Autocomplete
        multiple
        freeSolo
        options={["kw", "utm_term", "q", "keyword"]}
        value={wordParameters}
        onChange={(_, next) =>
          draft.edit(t("Parameters that carry search words"), [
            {
              do: "set",
              at: ["wordParameters"],
              before: wordParameters,
              after: [...new Set(next.map((item) => item.trim()).filter(Boolean))],
            },
          ])
        }
        renderInput={(input) => (
          <TextField
            {...input}
            label={t("Parameters of the link that carry search words")}
            helperText={t("Asked in this order; type one and press Enter")}
          />
        )}
      />
    </Section>
  );
}
