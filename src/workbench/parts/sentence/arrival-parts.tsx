"use client";
import { said, t, text } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { valuesInUse } from "@/core/ruleset/choices";
import { useDesk } from "../desk/desk";
import { Field } from "../field";
import { told, type PartProps } from "./parts";

/** Where the visitor comes from: directly, from a search, or from another page. */
export function ArrivalPart({ visit, setVisit }: PartProps) {
  const { ruleset } = useDesk();
  const source = ruleset.searchSources[0];
  const from = visit.referrer && URL.canParse(visit.referrer) ? new URL(visit.referrer) : undefined;
  const searched =
    source && from?.hostname.endsWith(source.host) ? (from.searchParams.get(source.parameter) ?? "") : "";
  const set = (referrer: string | undefined) => setVisit(told(visit, "referrer", referrer));
  return (
    <div className="stack">
      <Button onClick={() => set(undefined)} variant={visit.referrer ? "outlined" : "contained"} autoFocus>
        {t("Directly: typed, bookmarked or without a referrer")}
      </Button>
      {source && (
        <Field
          label={t("From a search on {host}", { host: source.host })}
          placeholder={t("shade fern")}
          value={searched}
          onCommit={(words) =>
            set(
              words ? `https://${source.host}/search?${new URLSearchParams({ [source.parameter]: words })}` : undefined,
            )
          }
        />
      )}
      <Field
        label={t("From this page (referrer)")}
        placeholder="https://partner.example/article"
        value={visit.referrer ?? ""}
        problem={(text) =>
          text === "" || URL.canParse(text) ? undefined : t("This is no address: write it with https:// before it")
        }
        onCommit={(text) => set(text || undefined)}
      />
    </div>
  );
}

const tags = said([
  ["utm_source", text("Source"), "campaign.source"],
  ["utm_medium", text("Medium"), "campaign.medium"],
  ["utm_campaign", text("Campaign"), "campaign.name"],
  ["utm_term", text("Term"), "campaign.term"],
  ["utm_content", text("Content"), "campaign.content"],
]);

/** The link that was followed: its campaign tags, with what rules expect offered first, and the whole of it. */
export function LinkPart({ visit, setVisit }: PartProps) {
  const { ruleset } = useDesk();
  const url = new URL(visit.url);
  const set = (name: string, value: string | null) => {
    const next = new URL(visit.url);
    if (value) next.searchParams.set(name, value);
    else next.searchParams.delete(name);
    setVisit({ ...visit, url: next.href });
  };
  return (
    <div className="stack">
      {tags.map(([name, label, signal], index) => (
        <Autocomplete
          key={name}
          freeSolo
          autoSelect
          options={valuesInUse(signal, ruleset)}
          value={url.searchParams.get(name) ?? ""}
          onChange={(_, value) => set(name, value)}
          renderInput={(input) => <TextField {...input} label={label} autoFocus={index === 0} />}
        />
      ))}
      <Field
        label={t("The whole link")}
        multiline
        maxRows={4}
        value={visit.url}
        problem={(text) =>
          /^https?:\/\/[^/]/.test(text) && URL.canParse(text)
            ? undefined
            : t("This is no address: it must begin with https:// and a host")
        }
        onCommit={(text) => setVisit({ ...visit, url: text })}
      />
    </div>
  );
}
