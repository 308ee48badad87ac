"use client";
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

const currencyName = new Intl.DisplayNames("en", { type: "currency" });

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
    <Section title="The site" says="Part of the draft: a change goes live with the next release.">
      <Field
        label="Name"
        value={site.name}
        problem={(text) => (text.trim() === "" ? "Give it a name" : undefined)}
        onCommit={(text) => set("name", text, "Name of the site")}
      />
      <Autocomplete
        disableClearable
        options={zones}
        value={site.zone}
        onChange={(_, zone) => set("zone", zone, `Time zone of the site: ${zone}`)}
        renderInput={(input) => (
          <TextField
            {...input}
            label="Time zone"
            helperText="Schedules in “the site’s time”, dates of offers and markers"
          />
        )}
      />
      <Autocomplete
        disableClearable
        options={currencyCodes as string[]}
        value={site.currency}
        getOptionLabel={(code) => `${code}, ${currencyName.of(code)}`}
        onChange={(_, code) => set("currency", code, `Currency of the site: ${code}`)}
        renderInput={(input) => (
          <TextField
            {...input}
            label="Currency"
            helperText={`Amounts have ${exponentOf(site.currency) || "no"} decimals (ISO 4217)`}
          />
        )}
      />
      <Field
        label="Language of the site"
        value={site.language}
        helperText={languageName(site.language)}
        problem={problem("language")}
        onCommit={(text) => set("language", text, `Language of the site: ${text}`)}
      />
      <Field
        label="Address of the site"
        value={site.origin}
        problem={problem("origin")}
        onCommit={(text) => set("origin", text, "Address of the site")}
      />
      <Field
        label="Minutes between two pop-ups, at least"
        helperText="Across pages and visits; 0 is no gap"
        value={String(site.popupGapMinutes)}
        problem={(text) =>
          text.trim() === "" || !Number.isFinite(Number(text)) ? "Give a number" : problem("popupGapMinutes")(text)
        }
        onCommit={(text) => set("popupGapMinutes", Number(text), "Gap between pop-ups")}
      />
      <Field
        label="Holdout: of 100 visitors, so many see no variant and no pop-up"
        placeholder="none"
        helperText="Always the same ones. Results tell beside them what all of it together is worth"
        value={site.holdout === undefined ? "" : String(site.holdout)}
        problem={(text) =>
          text.trim() === "" || siteSchema.shape.holdout.safeParse(Number(text)).success
            ? undefined
            : "A number above 0, up to 50; nothing for none"
        }
        onCommit={(text) => {
          const holdout = text.trim() === "" ? undefined : Number(text);
          set("holdout", holdout, holdout === undefined ? "No holdout" : `Holdout of ${holdout} in 100`);
        }}
      />
      <Field
        label={`Largest value of one goal that counts, ${site.currency}`}
        placeholder="none is too large"
        helperText="What is told with a higher one, by mistake or made up, is counted apart"
        value={site.largestValue ?? ""}
        problem={(text) => worthProblem(text, site.currency)}
        onCommit={(text) => set("largestValue", text.trim() || undefined, "Largest value that counts")}
      />
    </Section>
  );
}
