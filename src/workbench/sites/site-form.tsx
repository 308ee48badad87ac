"use client";
import { displayName } from "@/core/messages/names";
import { t } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { Controller, useFormContext } from "react-hook-form";
import * as z from "zod";
import { currencyCodes } from "@/core/money/currency";
import { idOfName } from "@/core/draft/new-site";
import { languageName } from "@/core/rules/sentence";
import type { NewSite } from "@/server/types";
import { FormText } from "../parts/form/form-text";
import { named, saying } from "../parts/form/use-form";
import { zones } from "../parts/zones";

/** What a form for a site must say; the server judges the rest. */
export const newSite = z.object({
  name: named(),
  id: z.string().trim(),
  origin: saying(() => t("Say where the site is")),
  zone: z.string(),
  currency: z.string(),
  language: z.string().trim(),
  copyOf: z.string(),
}) satisfies z.ZodType<NewSite, NewSite>;

/** A site that has still to be described: in this browser's time zone. */
export const emptySite = (): NewSite => ({
  name: "",
  id: "",
  origin: "",
  zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  currency: "EUR",
  language: globalThis.navigator?.language?.split("-")[0] ?? "en",
  copyOf: "",
});

/** What a site is: name, address, and what its rules are read by; a part of a form whose `site` it is. */
export function SiteForm({ autoFocus = false }: { autoFocus?: boolean }) {
  const { control, watch, formState } = useFormContext<{ site: NewSite }>();
  const [more, setMore] = useState(false);
  const { name, id, zone, currency, language } = watch("site");
  const wrong = formState.errors.site;
  const open = more || wrong?.id !== undefined || wrong?.zone !== undefined || wrong?.currency !== undefined;
  return (
    <>
      <FormText
        control={control}
        name="site.name"
        label={t("Name of the site")}
        required
        autoFocus={autoFocus}
        slotProps={{ htmlInput: { maxLength: 80 } }}
      />
      <FormText
        control={control}
        name="site.origin"
        label={t("Address of the site")}
        required
        placeholder="https://www.example.com"
        helperText={t("Without a page: as it stands before the first single slash")}
      />
      <FormText control={control} name="site.language" label={t("Language")} helperText={languageName(language)} />
      {open ? (
        <>
          <FormText
            control={control}
            name="site.id"
            label={t("Short name in addresses")}
            placeholder={idOfName(name)}
            helperText={t("It stays as it is; the name may change")}
          />
          <Choice name="site.zone" label={t("Time zone")} options={zones} />
          <Choice
            name="site.currency"
            label={t("Currency")}
            options={currencyCodes}
            words={(code) => `${code}, ${displayName("currency", code)}`}
          />
        </>
      ) : (
        <button type="button" className="link" onClick={() => setMore(true)}>
          {t("{zone}, {currency}, address …/s/{id}: change", {
            zone,
            currency,
            id: id || idOfName(name) || "…",
          })}
        </button>
      )}
    </>
  );
}

/** One of many, searched by typing. */
function Choice({
  name,
  label,
  options,
  words = (option) => option,
}: {
  name: "site.zone" | "site.currency";
  label: string;
  options: readonly string[];
  words?: (option: string) => string;
}) {
  const { control } = useFormContext<{ site: NewSite }>();
  return (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => (
        <Autocomplete
          disableClearable
          options={options}
          value={field.value}
          getOptionLabel={words}
          onChange={(_, value) => field.onChange(value)}
          onBlur={field.onBlur}
          renderInput={(input) => (
            <TextField
              {...input}
              label={label}
              inputRef={field.ref}
              error={fieldState.invalid}
              helperText={fieldState.error?.message}
            />
          )}
        />
      )}
    />
  );
}
