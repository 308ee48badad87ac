"use client";
import { t } from "@/core/messages/t";
import IconButton from "@mui/material/IconButton";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { Trash2 } from "lucide-react";
import { useState } from "react";
import { originProblem } from "@/core/formats/origin";
import type { LookedBy } from "@/server/types";
import { whyNot } from "../parts/actions";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { AddLine } from "./add-line";
import { Section } from "./section";

/** Under which addresses the site is found, and at which of them its pages are looked at. */
export function SiteHosts() {
  const { actions, may, ruleset } = useDesk();
  const [problem, setProblem] = useState<string>();
  const builds = may("build");
  const canonical = ruleset.site.origin;
  const { value: hosts, set: setHosts } = useAsked("hosts", [], { since: [canonical] });
  if (!hosts) return null;
  const [, ...others] = hosts.origins;
  const save = async (
    next: string[],
    lookedAt: string | null,
    lookedBy = hosts.lookedBy,
  ): Promise<string | undefined> => {
    const wrong = await actions.setHosts({ others: next, lookedAt, lookedBy }).catch(whyNot);
    setProblem(wrong);
    if (!wrong) setHosts({ origins: [canonical, ...next], lookedAt, lookedBy });
    return wrong;
  };
  return (
    <Section
      title={t("Addresses")}
      says={t(
        "Where else the site is found: with and without www, in another language, for trying out. Their pages may ask by the tag. Holds at once.",
      )}
    >
      <div className="row line">
        <code style={{ flex: 1 }}>{canonical}</code>
        <span className="quiet">{t("the site’s own")}</span>
      </div>
      {others.map((origin) => (
        <div key={origin} className="row line">
          <code style={{ flex: 1 }}>{origin}</code>
          {builds && (
            <IconButton
              aria-label={t("Remove {origin}", { origin })}
              onClick={() =>
                void save(
                  others.filter((item) => item !== origin),
                  hosts.lookedAt === origin ? null : hosts.lookedAt,
                )
              }
            >
              <Trash2 size={14} />
            </IconButton>
          )}
        </div>
      ))}
      {builds && (
        <AddLine
          label={t("Another address")}
          placeholder="https://staging.example.com"
          problem={(text) => (hosts.origins.includes(text) ? t("It is in the list already") : originProblem(text))}
          onAdd={(text) => save([...others, text], hosts.lookedAt)}
        />
      )}
      <TextField
        select
        label={t("Pages are looked at on")}
        value={hosts.lookedAt ?? canonical}
        disabled={!builds || others.length === 0}
        error={problem !== undefined}
        helperText={problem}
        onChange={(event) => void save(others, event.target.value === canonical ? null : event.target.value)}
      >
        {hosts.origins.map((origin) => (
          <MenuItem key={origin} value={origin}>
            {origin}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        label={t("What shows them to lenses")}
        value={hosts.lookedBy}
        disabled={!builds}
        onChange={(event) => void save(others, hosts.lookedAt, event.target.value as LookedBy)}
        helperText={
          hosts.lookedBy === "tag"
            ? t("The page script, in the workbench’s frame alone: visitors never load it")
            : t("The site’s own server or application, which is handed the lens with each address (docs/connect.md)")
        }
      >
        <MenuItem value="tag">{t("The tag in the page")}</MenuItem>
        <MenuItem value="process">{t("The site’s own server")}</MenuItem>
      </TextField>
    </Section>
  );
}
