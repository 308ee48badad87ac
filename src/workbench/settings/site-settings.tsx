"use client";
import { displayName } from "@/core/messages/names";
import { t } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import TextField from "@mui/material/TextField";
import { currencyCodes, exponentOf } from "@/core/money/currency";
import { siteSchema, type Site } from "@/core/formats/ruleset";
import { languageName } from "@/core/rules/sentence";
import { useDesk } from "../parts/desk/desk";
import { Field } from "../parts/field";
import { worthProblem } from "../parts/goal-words";
import { zones } from "../parts/zones";
import { Section } from "./section";

/** Name, zone, currency, language, address. Changing one changes how rules are read, so it is part of the draft. */
export function SiteSettings() {
  const { ruleset, draft } = useDesk();
  const { site } = ruleset;
  const set = <K extends keyof Site>(key: K, value: Site[K], says: string) =>
    draft.edit(says, [{ do: "set", at: ["site", key], before: site[key], after: value }]);
  const problem = (key: keyof Site) => (text: string) => {
    const read = siteSchema.shape[key].safeParse(key === "popupGapMinutes" ? Number(text) : text);
    return read.success ? undefined : `It ${read.error.issues[0]?.message}`;
  };
  return (
    <Section title={t("The site")} says={t("Part of the draft: a change goes live with the next release.")}>
      <Field
        label={t("Name")}
        value={site.name}
        problem={(text) => (text.trim() === "" ? t("Give it a name") : undefined)}
        onCommit={(text) => set("name", text, t("Name of the site"))}
      />
      <Autocomplete
        disableClearable
        options={zones}
        value={site.zone}
        onChange={(_, zone) => set("zone", zone, t("Time zone of the site: {zone}", { zone }))}
        renderInput={(input) => (
          <TextField
            {...input}
            label={t("Time zone")}
            helperText={t("Schedules in “the site’s time”, dates of offers and markers")}
          />
        )}
      />
      <Autocomplete
        disableClearable
        options={currencyCodes as string[]}
        value={site.currency}
        getOptionLabel={(code) => `${code}, ${displayName("currency", code)}`}
        onChange={(_, code) => set("currency", code, t("Currency of the site: {code}", { code }))}
        renderInput={(input) => (
          <TextField
            {...input}
            label={t("Currency")}
            helperText={t("Amounts have {currency} decimals (ISO 4217)", {
              currency: exponentOf(site.currency) || t("no"),
            })}
          />
        )}
      />
      <Field
        label={t("Language of the site")}
        value={site.language}
        helperText={languageName(site.language)}
        problem={problem("language")}
        onCommit={(text) => set("language", text, t("Language of the site: {text}", { text }))}
      />
      <Field
        label={t("Address of the site")}
        value={site.origin}
        problem={problem("origin")}
        onCommit={(text) => set("origin", text, t("Address of the site"))}
      />
      <Field
        label={t("Minutes between two pop-ups, at least")}
        helperText={t("Across pages and visits; 0 is no gap")}
        value={String(site.popupGapMinutes)}
        problem={(text) =>
          text.trim() === "" || !Number.isFinite(Number(text)) ? t("Give a number") : problem("popupGapMinutes")(text)
        }
        onCommit={(text) => set("popupGapMinutes", Number(text), t("Gap between pop-ups"))}
      />
      <Field
        label={t("Holdout: of 100 visitors, so many see no variant and no pop-up")}
        placeholder={t("none")}
        helperText={t("Always the same ones. Results tell beside them what all of it together is worth")}
        value={site.holdout === undefined ? "" : String(site.holdout)}
        problem={(text) =>
          text.trim() === "" || siteSchema.shape.holdout.safeParse(Number(text)).success
            ? undefined
            : t("A number above 0, up to 50; nothing for none")
        }
        onCommit={(text) => {
          const holdout = text.trim() === "" ? undefined : Number(text);
          set(
            "holdout",
            holdout,
            holdout === undefined ? t("No holdout") : t("Holdout of {holdout} in 100", { holdout }),
          );
        }}
      />
      <Field
        label={t("Largest value of one goal that counts, {currency}", { currency: site.currency })}
        placeholder={t("none is too large")}
        helperText={t("What is told with a higher one, by mistake or made up, is counted apart")}
        value={site.largestValue ?? ""}
        problem={(text) => worthProblem(text, site.currency)}
        onCommit={(text) => set("largestValue", text.trim() || undefined, t("Largest value that counts"))}
      />
    </Section>
  );
}
