"use client";
import { displayName } from "@/core/messages/names";
import { t } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { currencyCodes } from "@/core/money/currency";
import { idOfName } from "@/core/draft/new-site";
import { languageName } from "@/core/rules/sentence";
import type { NewSite, NewSiteField } from "@/server/types";
import { zones } from "../parts/zones";

/** A site that has still to be described: in this browser's time zone. */
export const emptySite = (): NewSite => ({
  name: "",
  id: "",
  origin: "",
  zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  currency: "EUR",
  language: navigator.language.split("-")[0] ?? "en",
  copyOf: "",
});

interface Props {
  value: NewSite;
  onChange: (site: NewSite) => void;
  /** What is wrong, and at which field. */
  wrong: { field: NewSiteField; problem: string } | undefined;
  autoFocus?: boolean;
}

/** What a site is: name, address, and what its rules are read by. */
export function SiteForm({ value, onChange, wrong, autoFocus = false }: Props) {
  const [more, setMore] = useState(false);
  const at = (field: NewSiteField, help?: string) => ({
    error: wrong?.field === field,
    helperText: wrong?.field === field ? wrong.problem : help,
  });
  const set = (field: NewSiteField) => (event: { target: { value: string } }) =>
    onChange({ ...value, [field]: event.target.value });
  const open = more || wrong?.field === "id" || wrong?.field === "zone" || wrong?.field === "currency";
  return (
    <>
      <TextField
        label={t("Name of the site")}
        required
        autoFocus={autoFocus}
        value={value.name}
        onChange={set("name")}
        {...at("name")}
        slotProps={{ htmlInput: { maxLength: 80 } }}
      />
      <TextField
        label={t("Address of the site")}
        required
        placeholder="https://www.example.com"
        value={value.origin}
        onChange={set("origin")}
        {...at("origin", t("Without a page: as it stands before the first single slash"))}
      />
      <TextField
        label={t("Language")}
        value={value.language}
        onChange={set("language")}
        {...at("language", languageName(value.language))}
      />
      {open ? (
        <>
          <TextField
            label={t("Short name in addresses")}
            placeholder={idOfName(value.name)}
            value={value.id}
            onChange={set("id")}
            {...at("id", t("It stays as it is; the name may change"))}
          />
          <Autocomplete
            disableClearable
            options={zones}
            value={value.zone}
            onChange={(_, zone) => onChange({ ...value, zone })}
            renderInput={(input) => <TextField {...input} label={t("Time zone")} {...at("zone")} />}
          />
          <Autocomplete
            disableClearable
            options={currencyCodes as string[]}
            value={value.currency}
            getOptionLabel={(code) => `${code}, ${displayName("currency", code)}`}
            onChange={(_, currency) => onChange({ ...value, currency })}
            renderInput={(input) => <TextField {...input} label={t("Currency")} {...at("currency")} />}
          />
        </>
      ) : (
        <button type="button" className="link" onClick={() => setMore(true)}>
          {t("{zone}, {currency}, address …/s/{id}: change", {
            zone: value.zone,
            currency: value.currency,
            id: value.id || idOfName(value.name) || "…",
          })}
        </button>
      )}
    </>
  );
}
