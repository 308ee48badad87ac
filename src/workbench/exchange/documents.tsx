"use client";
import { t, within } from "@/core/messages/t";
import { rich } from "../parts/rich";
import Button from "@mui/material/Button";
import { useSnackbar } from "notistack";
import { useState } from "react";
import * as z from "zod";
import { linkSchema } from "@/core/campaigns/link";
import { linksFromCsv, linksToCsv } from "@/core/campaigns/sheet";
import { replaceDraft } from "@/core/draft/replace";
import { lensSchema } from "@/core/formats/lens";
import { toJsonLogic, type LogicExport } from "@/core/exchange/json-logic";
import { placeListsFromCsv, placeListsToCsv } from "@/core/exchange/place-lists";
import { tableText } from "@/core/formats/table";
import { readChecks } from "@/core/formats/check";
import type { Problem } from "@/core/formats/problem";
import { readBy, type Read } from "@/core/formats/read";
import { siteDraftSchema, type SiteDraft } from "@/core/formats/site-draft";
import { rulesetOf } from "@/core/draft/picks";
import { checkRuleset } from "@/core/ruleset/check";
import { whyNot } from "../parts/actions";
import { useDesk, useNeeded } from "../parts/desk/desk";
import { chooseFiles, saveFile } from "../parts/files";
import { ProblemList } from "../parts/problem-list";

const json = (value: unknown): string => `${JSON.stringify(value, null, 2)}\n`;

/** What a file said that was read: how much, or what is wrong with it. */
type Reading<T> = { value: T } | { problems: Problem[] };

function readJson<T>(text: string, by: z.ZodType<T> | ((input: unknown) => Read<T>)): Reading<T> {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return {
      problems: [
        { path: "", code: "file", problem: t("this is no JSON: {message}", { message: (error as Error).message }) },
      ],
    };
  }
  const read = typeof by === "function" ? by(value) : readBy(by, value);
  return read.ok ? { value: read.value } : { problems: read.problems };
}

/** The ruleset as JSON, in and out, and as JsonLogic; checks, lenses, links and place lists as JSON or CSV. */
export function Documents() {
  const whole = useNeeded("checks", "lenses", "links");
  const { draft, ruleset, look, live, checks, lenses, links, lists, actions } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const [problems, setProblems] = useState<{ file: string; problems: Problem[] }>();
  const [logic, setLogic] = useState<LogicExport>();
  const { origin } = ruleset.site;

  /** Lets one choose a file and reads it; what is wrong is shown, and nothing is changed. */
  const take = async <T,>(
    accept: string,
    read: (text: string) => Reading<T>,
    keep: (value: T, file: string) => Promise<string> | string,
  ) => {
    const [file] = await chooseFiles(accept);
    if (!file) return;
    const text = tableText(new Uint8Array(await file.arrayBuffer()));
    const found: Reading<T> = "problems" in text ? text : read(text.text.replace(/^\uFEFF/, ""));
    if ("problems" in found) return setProblems({ file: file.name, problems: found.problems });
    setProblems(undefined);
    try {
      enqueueSnackbar(await keep(found.value, file.name));
    } catch (error) {
      enqueueSnackbar(t("Nothing was changed: {error}", { error: whyNot(error) }), { variant: "error" });
    }
  };
  const readRuleset = (text: string): Reading<SiteDraft> => {
    const read = readJson(text, siteDraftSchema);
    if ("problems" in read) return read;
    const wrong = checkRuleset(rulesetOf(read.value));
    return wrong.length > 0 ? { problems: wrong } : read;
  };
  const keepRuleset = (value: SiteDraft, file: string): string => {
    // A ruleset that is not a draft has no library: the one that is there stays, and its picks go with what picked.
    const edits = replaceDraft(
      ruleset,
      value.library.length === 0 && value.picks.length === 0 ? { ...value, library: ruleset.library } : value,
    );
    if (edits.length === 0) return t("The draft is the same already: nothing was changed");
    draft.edit(t("The ruleset of {file} was imported", { file }), edits);
    return t("The draft is now the ruleset of this file. Undo takes it back.");
  };
  const list =
    <T extends { id: string }>(
      value: readonly T[],
      file: string,
      what: string,
      before: readonly { id: string }[],
      keep: (items: T[]) => Promise<void>,
    ) =>
    async () => {
      if (value.length === 0) return t("There are no {what} in {file}", { what, file });
      await keep([...value]);
      const fresh = value.filter((item) => !before.some((old) => old.id === item.id)).length;
      return t("{value} {what} imported, {fresh} of them new", { value: value.length, what, fresh });
    };
  const csv = ".csv,text/csv";
  const file = ".json,application/json";
  const rows = [
    {
      name: t("Checks"),
      count: checks.length,
      out: [{ name: "JSON", save: () => saveFile("checks.json", json(checks), "application/json") }],
      in: [
        {
          name: "JSON",
          read: () =>
            take(
              file,
              (text) => readJson(text, readChecks),
              (value, from) =>
                list(value, from, "checks", checks, async (items) =>
                  lists.changed("checks", await actions.keepChecks(items)),
                )(),
            ),
        },
      ],
    },
    {
      name: t("Lenses"),
      count: lenses.length,
      out: [{ name: "JSON", save: () => saveFile("lenses.json", json(lenses), "application/json") }],
      in: [
        {
          name: "JSON",
          read: () =>
            take(
              file,
              (text) => readJson(text, z.array(lensSchema).max(500)),
              (value, from) =>
                list(value, from, "lenses", lenses, async (items) =>
                  lists.changed("lenses", await actions.keepLenses(items)),
                )(),
            ),
        },
      ],
    },
    {
      name: t("Campaign links"),
      count: links.length,
      out: [
        { name: "CSV", save: () => saveFile("links.csv", linksToCsv(links, origin), "text/csv") },
        { name: "JSON", save: () => saveFile("links.json", json(links), "application/json") },
      ],
      in: [
        {
          name: "CSV",
          read: () =>
            take(
              csv,
              (text) => {
                const read = linksFromCsv(text);
                return "problems" in read ? read : { value: read.links };
              },
              (value, from) =>
                list(value, from, "links", links, async (items) =>
                  lists.changed("links", await actions.keepLinks(items)),
                )(),
            ),
        },
        {
          name: "JSON",
          read: () =>
            take(
              file,
              (text) => readJson(text, z.array(linkSchema).max(2000)),
              (value, from) =>
                list(value, from, "links", links, async (items) =>
                  lists.changed("links", await actions.keepLinks(items)),
                )(),
            ),
        },
      ],
    },
    {
      name: t("Place lists"),
      count: ruleset.placeLists.length,
      out: [
        { name: "CSV", save: () => saveFile("place-lists.csv", placeListsToCsv(ruleset.placeLists), "text/csv") },
        { name: "JSON", save: () => saveFile("place-lists.json", json(ruleset.placeLists), "application/json") },
      ],
      in: [
        {
          name: "CSV",
          read: () =>
            take(
              csv,
              (text) => {
                const read = placeListsFromCsv(text);
                return "problems" in read ? read : { value: read.lists };
              },
              keepPlaceLists,
            ),
        },
        {
          name: "JSON",
          read: () => take(file, (text) => readJson(text, siteDraftSchema.shape.placeLists), keepPlaceLists),
        },
      ],
    },
  ];
  function keepPlaceLists(value: SiteDraft["placeLists"], from: string): string {
    if (value.length === 0) return t("There is no place list in {from}", { from });
    const after = [
      ...ruleset.placeLists.map((old) => value.find((item) => item.id === old.id) ?? old),
      ...value.filter((item) => !ruleset.placeLists.some((old) => old.id === item.id)),
    ];
    const wrong = checkRuleset({ ...look.runnable.ruleset, placeLists: after }).filter((problem) =>
      problem.path.startsWith("/placeLists"),
    );
    if (wrong.length > 0) {
      setProblems({ file: from, problems: wrong });
      return t("Nothing was changed");
    }
    draft.edit(t("Place lists of {from} were imported", { from }), [
      { do: "set", at: ["placeLists"], before: ruleset.placeLists, after },
    ]);
    return t("{value, plural, one {# place list} other {# place lists}} imported. Undo takes it back.", {
      value: value.length,
    });
  }
  return (
    <>
      <section className="stack" aria-label={t("Ruleset")}>
        <h2>{t("The ruleset, as JSON and as JsonLogic")}</h2>
        <span className="quiet">
          {rich(
            "Everything that is decided by, as a document of its own. Its JSON Schema ships with the product, {code}. JsonLogic is for programs that decide by themselves: what it cannot carry is named.",
            { code: <code>schemas/ruleset.json</code> },
          )}
        </span>
        <div className="row wrap">
          <Button onClick={() => saveFile("draft.json", json(ruleset), "application/json")}>{t("Export draft")}</Button>
          {live && (
            <Button onClick={() => saveFile(`release-${live.number}.json`, json(live.ruleset), "application/json")}>
              {t("Export live")}
            </Button>
          )}
          <Button onClick={() => void take(file, readRuleset, keepRuleset)}>{t("Import ruleset into draft")}</Button>
          <Button onClick={() => setLogic(toJsonLogic(look.runnable.ruleset))}>{t("Show as JsonLogic")}</Button>
        </div>
        {logic && (
          <div className="stack logic">
            <div className="row">
              <b style={{ flex: 1 }}>
                {t("As JsonLogic: slots {slots}, audiences {audiences}", {
                  slots: Object.keys(logic.slots).length,
                  audiences: Object.keys(logic.audiences).length,
                })}
              </b>
              <Button variant="contained" onClick={() => saveFile("jsonlogic.json", json(logic), "application/json")}>
                {t("Export JsonLogic")}
              </Button>
            </div>
            {logic.conditions.length > 0 && (
              <>
                <span>
                  {rich("The program that evaluates it supplies these conditions, as {code}:", {
                    code: <code>conditions.N</code>,
                  })}
                </span>
                <ol start={0} className="logiclist">
                  {logic.conditions.map((item) => (
                    <li key={item.name} className="rule">
                      {item.says}
                    </li>
                  ))}
                </ol>
              </>
            )}
            <span>{t("Left out:")}</span>
            <ul className="logiclist">
              {logic.leftOut.map((item) => (
                <li key={item}>{item}</li>
              ))}
            </ul>
          </div>
        )}
      </section>
      <section className="stack" aria-label={t("Lists")}>
        <h2>{t("Checks, lenses, links and place lists")}</h2>
        <table className="grid" style={{ maxWidth: 720 }}>
          <thead>
            <tr>
              <th>{t("What")}</th>
              <th className="num">{t("Count")}</th>
              <th>{t("Export")}</th>
              <th>{t("Import")}</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.name}>
                <td>
                  <b>{row.name}</b>
                </td>
                <td className="num">{whole ? row.count : "…"}</td>
                <td>
                  {row.out.map((item) => (
                    <Button
                      key={item.name}
                      size="small"
                      disabled={!whole}
                      aria-label={t("Export {row} as {name}", { row: within(row.name), name: item.name })}
                      onClick={item.save}
                    >
                      {t("Export {name}", { name: item.name })}
                    </Button>
                  ))}
                </td>
                <td>
                  {row.in.map((item) => (
                    <Button
                      key={item.name}
                      size="small"
                      disabled={!whole}
                      aria-label={t("Import {row} from {name}", { row: within(row.name), name: item.name })}
                      onClick={() => void item.read()}
                    >
                      {t("Import {name}", { name: item.name })}
                    </Button>
                  ))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <span className="quiet">
          {t("What has the same id is replaced, the rest is added. A file with something wrong in it changes nothing.")}
        </span>
      </section>
      {problems && (
        <section className="stack" aria-label={t("What is wrong")}>
          <b>{t("{file} is not right. Nothing was changed.", { file: problems.file })}</b>
          <ProblemList problems={problems.problems} />
        </section>
      )}
    </>
  );
}
