"use client";
import { said, t, text } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import Chip from "@mui/material/Chip";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import { useSnackbar } from "notistack";
import { To } from "../parts/desk/site-address";
import { useMemo, useState } from "react";
import { someoneWhoIsSent } from "@/core/analysis/reach";
import { redirectTimeline } from "@/core/analysis/timeline";
import { redirectExamples } from "@/core/decision/examples";
import { targetProblem, templateVariables } from "@/core/content/template";
import type { Redirect } from "@/core/formats/ruleset";
import { parseInstant, type Visit } from "@/core/formats/visit";
import { onPage } from "@/core/lens/pages";
import { parseBlock } from "@/core/visit/address";
import { pathOf } from "../parts/desk/use-look";
import { useDesk } from "../parts/desk/desk";
import { useRuleTrace } from "../parts/desk/use-rule-trace";
import { Field } from "../parts/field";
import { PauseButton } from "../parts/pause-button";
import { NameRow } from "../parts/lists/name-row";
import { OnRibbon } from "../parts/on-ribbon";
import { RuleEditor } from "../parts/rule-editor/rule-editor";

interface Props {
  redirect: Redirect;
  set: <K extends keyof Redirect & string>(
    redirect: Redirect,
    key: K,
    value: Redirect[K] | undefined,
    says: string,
  ) => void;
}

const statuses = said({
  301: "301 (permanent)",
  302: "302 (temporary)",
  307: text("307 (temporary, same method)"),
  308: text("308 (permanent, same method)"),
});
const frequencies = said({
  always: text("every time"),
  visit: text("once per visit"),
  once: text("once per visitor"),
});

/** One redirect: who is sent on, where to, and what becomes of each lens. */
export function RedirectEditor({ redirect, set }: Props) {
  const { ruleset, look, lenses, pages, facts, otherHosts, findings, pickLens } = useDesk();
  const trace = useRuleTrace();
  const { enqueueSnackbar } = useSnackbar();
  const [typing, setTyping] = useState(redirect.to);
  const judged = look.runnable.ruleset;
  const at = parseInstant(look.visit.at) as number;
  const mayLeadTo = useMemo(() => (host: string) => otherHosts.includes(host), [otherHosts]);
  const toProblem = (text: string) => targetProblem(text, ruleset.site.origin, otherHosts);
  const finished = judged.redirects.some((item) => item.id === redirect.id);
  // A lens or two seldom stands just where it applies, so somebody whom it sends on comes first.
  const witness = useMemo(() => {
    const mine = judged.redirects.find((item) => item.id === redirect.id);
    const solved = mine && someoneWhoIsSent({ ruleset: judged, pages, from: at }, mine);
    return solved?.found ? solved.visit : undefined;
    // eslint-disable-next-line react-hooks/exhaustive-deps -- somebody else is found only under other rules
  }, [judged, redirect.id, pages]);
  const examples = useMemo(() => {
    const visits: { name: string; visit: Visit; look?: () => void }[] = [
      ...(witness ? [{ name: t("A visitor it redirects"), visit: witness, look: () => look.setVisit(witness) }] : []),
      { name: t("Current visitor"), visit: look.visit },
      ...lenses.map((lens) => ({ name: lens.name, visit: lens.visit, look: () => pickLens(lens) })),
    ];
    const asked = visits.map(({ visit }) => onPage(visit, facts));
    const found = finished ? redirectExamples(redirect, judged, asked, { lookup: () => look.placed, mayLeadTo }) : [];
    return visits.map((item, index) => ({ ...item, ...found[index] }));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the ways to look are made anew with every answer
  }, [finished, redirect, judged, look.visit, look.placed, lenses, facts, mayLeadTo, witness]);
  const loop = findings.list.find((item) => item.finding === "loop" && item.about?.id === redirect.id);
  return (
    <div className="form wide">
      <NameRow
        name={redirect.name}
        onName={(name) => set(redirect, "name", name, t("Redirect {redirect} renamed", { redirect: redirect.name }))}
        on={redirect.on}
        onSwitch={(on) =>
          set(
            redirect,
            "on",
            on,
            t("Redirect {redirect} switched {on}", { redirect: redirect.name, on: on ? t("on") : t("off") }),
          )
        }
      />
      <div className="row">
        <PauseButton kind="redirect" id={redirect.id} />
      </div>
      {loop && (
        <p className="error" role="alert" style={{ margin: 0 }}>
          {loop.says} <To href="/findings">{t("See the findings")}</To>
        </p>
      )}
      <h3>{t("Redirect when")}</h3>
      <RuleEditor
        rule={redirect.rule}
        at={["redirects", redirect.id, "rule"]}
        says={t("Rule of redirect {redirect}", { redirect: redirect.name })}
        trace={trace(redirect.rule)}
        empty={t("Everyone, on every page. Add a condition first: the page, a place, a language.")}
      />
      <h3>{t("Destination")}</h3>
      <Field
        key={`${redirect.id} ${typing}`}
        label={t("Address")}
        value={redirect.to}
        problem={toProblem}
        helperText={t("A page of the site (/ferns) or a whole address, with values of the visit in braces (RFC 6570)")}
        onCommit={(to) => set(redirect, "to", to, t("Where {redirect} leads", { redirect: redirect.name }))}
        slotProps={{ htmlInput: { style: { fontFamily: "var(--code)" } } }}
      />
      <div className="row" style={{ flexWrap: "wrap" }}>
        {templateVariables.map((name) => {
          const written = ["host", "path", "query"].includes(name) ? `{+${name}}` : `{${name}}`;
          return (
            <Chip
              key={name}
              label={written}
              size="small"
              variant="outlined"
              title={t("Put {written} at the end of the address", { written })}
              onClick={() => {
                const to = `${redirect.to}${written}`;
                if (toProblem(to)) return enqueueSnackbar(toProblem(to), { variant: "warning" });
                set(redirect, "to", to, t("Where {redirect} leads", { redirect: redirect.name }));
                setTyping(to);
              }}
            />
          );
        })}
      </div>
      <div className="row" style={{ alignItems: "flex-start" }}>
        <TextField
          select
          label={t("Status")}
          value={redirect.status}
          onChange={(event) =>
            set(
              redirect,
              "status",
              Number(event.target.value) as Redirect["status"],
              t("Status of {redirect}", { redirect: redirect.name }),
            )
          }
        >
          {Object.entries(statuses).map(([status, says]) => (
            <MenuItem key={status} value={Number(status)}>
              {says}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label={t("Frequency per visitor")}
          value={redirect.frequency}
          helperText={
            redirect.frequency === "always"
              ? undefined
              : t("Counted only with consent; without it, no visitor is redirected")
          }
          onChange={(event) =>
            set(
              redirect,
              "frequency",
              event.target.value as Redirect["frequency"],
              t("How often {redirect} applies", { redirect: redirect.name }),
            )
          }
        >
          {Object.entries(frequencies).map(([value, says]) => (
            <MenuItem key={value} value={value}>
              {says}
            </MenuItem>
          ))}
        </TextField>
      </div>
      <FormControlLabel
        sx={{ my: -1.5 }}
        control={
          <Switch
            checked={redirect.keepQuery}
            onChange={(event) =>
              set(redirect, "keepQuery", event.target.checked, t("Query of {redirect}", { redirect: redirect.name }))
            }
          />
        }
        label={t("Keep query parameters, such as campaign tags")}
      />
      <FormControlLabel
        sx={{ my: -1.5 }}
        control={
          <Switch
            checked={redirect.skipBots}
            onChange={(event) =>
              set(redirect, "skipBots", event.target.checked, t("Crawlers and {redirect}", { redirect: redirect.name }))
            }
          />
        }
        label={t("Skip search engine crawlers")}
      />
      <Autocomplete
        multiple
        freeSolo
        autoSelect
        options={[]}
        value={redirect.exemptAddresses}
        onChange={(_, addresses) => {
          for (const text of addresses) {
            const block = parseBlock(text.trim());
            if ("problem" in block) return enqueueSnackbar(`${text} ${block.problem}`, { variant: "error" });
          }
          set(
            redirect,
            "exemptAddresses",
            addresses.map((text) => text.trim()),
            t("Exempt addresses of {redirect}", { redirect: redirect.name }),
          );
        }}
        renderInput={(input) => (
          <TextField
            {...input}
            label={t("Excluded IP addresses")}
            helperText={t("Such as the office: 203.0.113.7 or 2001:db8::/32")}
          />
        )}
      />
      <h3>{t("Examples")}</h3>
      {!finished && (
        <span className="unsure">{t("Its rule or address is not finished, so there are no examples yet.")}</span>
      )}
      {finished && (
        <table className="lines examples" aria-label={t("Examples")}>
          <thead>
            <tr>
              <th>{t("This visitor")}</th>
              <th>{t("on this page")}</th>
              <th>{t("lands on")}</th>
            </tr>
          </thead>
          <tbody>
            {examples.map((item) => (
              <tr key={item.name}>
                <td>
                  {item.look ? (
                    <button type="button" className="link" title={t("View as this visitor")} onClick={item.look}>
                      {item.name}
                    </button>
                  ) : (
                    <b>{item.name}</b>
                  )}
                </td>
                <td>
                  <code>{pathOf(item.visit)}</code>
                </td>
                <td>
                  {item.location ? (
                    <code className="yes">{item.location}</code>
                  ) : (
                    <span className="quiet">{t("stays: {reason}", { reason: item.reason })}</span>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {finished && (
        <OnRibbon
          label={t("Sends this visitor on")}
          ask={(from, until) => redirectTimeline(look.engine, redirect.id, look.visit, from, until)}
          zone={ruleset.site.zone}
          at={at}
          onTravel={look.travel}
        />
      )}
    </div>
  );
}
