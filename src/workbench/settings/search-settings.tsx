"use client";
import { t } from "@/core/messages/t";
import { rich } from "../parts/rich";
import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import TextField from "@mui/material/TextField";
import { Trash2 } from "lucide-react";
import { useState } from "react";
import { useDesk } from "../parts/desk/desk";
import { Section } from "./section";

const hostShape = /^[a-z0-9-]+(\.[a-z0-9-]+)+$/i;

/** From which sites and parameters search words are read. */
export function SearchSettings() {
  const { ruleset, draft } = useDesk();
  const { wordParameters, searchSources } = ruleset;
  const [fresh, setFresh] = useState({ host: "", engine: "", parameter: "q" });
  const host = fresh.host.trim().toLowerCase();
  const problem =
    host === "" || hostShape.test(host)
      ? searchSources.some((source) => source.host === host)
        ? t("There is such a source already")
        : undefined
      : t("A host such as search.example");
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
      <form
        className="row"
        style={{ alignItems: "flex-start" }}
        onSubmit={(event) => {
          event.preventDefault();
          const engine = fresh.engine.trim() || (host.split(".").at(-2) ?? host);
          const parameter = fresh.parameter.trim();
          if (host === "" || problem || parameter === "") return;
          draft.edit(t("Search source {host}", { host }), [
            {
              do: "set",
              at: ["searchSources"],
              before: searchSources,
              after: [...searchSources, { host, engine, parameter }],
            },
          ]);
          setFresh({ host: "", engine: "", parameter: "q" });
        }}
      >
        <TextField
          label={t("Host")}
          value={fresh.host}
          error={problem !== undefined}
          helperText={problem}
          onChange={(event) => setFresh({ ...fresh, host: event.target.value })}
        />
        <TextField
          label={t("Engine")}
          value={fresh.engine}
          onChange={(event) => setFresh({ ...fresh, engine: event.target.value })}
        />
        <TextField
          label={t("Parameter")}
          value={fresh.parameter}
          onChange={(event) => setFresh({ ...fresh, parameter: event.target.value })}
        />
        <Button
          type="submit"
          disabled={host === "" || problem !== undefined || fresh.parameter.trim() === ""}
          sx={{ py: 1.5 }}
        >
          {t("Add")}
        </Button>
      </form>
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
