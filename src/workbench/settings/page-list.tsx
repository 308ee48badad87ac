"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import { Trash2 } from "lucide-react";
import { useRef, useState } from "react";
import { whyNot } from "../parts/actions";
import { useDesk } from "../parts/desk/desk";
import type { SitePage } from "../parts/desk/use-look";
import { DataTable } from "../parts/table/data-table";
import type { Column } from "../parts/table/table-view";
import { Section } from "./section";

/** So many are taken off the list in one request. */
const atOnce = 1000;

/** The pages that can be looked at, read from the site's sitemap. */
export function PageList() {
  const { pages, lists, actions } = useDesk();
  const [busy, setBusy] = useState(false);
  const [says, setSays] = useState<string>();
  const [problems, setProblems] = useState<readonly string[]>([]);
  const input = useRef<HTMLInputElement>(null);
  const read = async (file?: File) => {
    setBusy(true);
    setSays(undefined);
    setProblems([]);
    const answer = await (async () => actions.readPageList((await file?.text()) ?? null))().catch(() => ({
      ok: false as const,
      problem: t("The server could not be reached, or the file is too large. Nothing was changed."),
    }));
    setBusy(false);
    if (input.current) input.current.value = "";
    if (!answer.ok) return setProblems([answer.problem]);
    lists.again("pages");
    setProblems(answer.problems);
    setSays(
      [
        t("{added, plural, one {# page is new} other {# pages are new}}", { added: answer.added }),
        t("{known} were known", { known: answer.known }),
        answer.elsewhere > 0 && t("{elsewhere} are of another site and were left out", { elsewhere: answer.elsewhere }),
      ]
        .filter(Boolean)
        .join(", ") + ".",
    );
  };
  const drop = async (paths: readonly string[]) => {
    try {
      for (let from = 0; from < paths.length; from += atOnce) {
        const some = paths.slice(from, from + atOnce);
        lists.changed("pages", await actions.dropPages(some), ...some);
      }
    } catch (error) {
      setProblems([whyNot(error)]);
    }
  };
  const columns: Column<SitePage>[] = [
    {
      id: "path",
      name: t("Path"),
      share: 1.4,
      value: ({ path }) => path,
      cell: ({ path }) => <code>{path}</code>,
    },
    { id: "title", name: t("Title"), share: 1.6, value: ({ title }) => title },
    { id: "category", name: t("Category"), few: true, value: ({ facts }) => facts.category ?? "" },
    { id: "tags", name: t("Tags"), value: ({ facts }) => facts.tags?.join(", ") ?? "" },
    { id: "language", name: t("Language"), share: 0.7, few: true, value: ({ facts }) => facts.language ?? "" },
    {
      id: "remove",
      name: t("Remove"),
      share: 0.5,
      value: () => "",
      cell: ({ path }) => (
        <IconButton size="small" aria-label={t("Remove {path}", { path })} onClick={() => void drop([path])}>
          <Trash2 size={14} />
        </IconButton>
      ),
    },
  ];
  return (
    <Section
      wide
      title={t("Pages")}
      says={t(
        "The pages that lenses can look at. They are read from the site’s sitemap.xml; title, language and what the site tells of a page come from the page itself.",
      )}
    >
      <div className="row">
        <Button disabled={busy} onClick={() => void read()}>
          {busy ? t("Reading …") : t("Import sitemap")}
        </Button>
        <Button component="label" disabled={busy}>
          {t("Import sitemap file")}
          <input
            ref={input}
            type="file"
            accept=".xml,text/xml,application/xml"
            hidden
            aria-label={t("Sitemap file")}
            onChange={(event) => event.target.files?.[0] && void read(event.target.files[0])}
          />
        </Button>
        <span className="quiet">{t("{pages, plural, one {# page} other {# pages}}", { pages: pages.length })}</span>
      </div>
      {says && <span role="status">{says}</span>}
      {problems.map((problem) => (
        <span key={problem} className="error" role="alert">
          {problem}
        </span>
      ))}
      {pages.length === 0 ? (
        <span className="quiet">{t("There are none yet.")}</span>
      ) : (
        <div className="tablebox">
          <DataTable
            of="page-"
            name={t("Pages")}
            noun={[t("page"), t("pages")]}
            rows={pages}
            columns={columns}
            idOf={({ path }) => path}
            nameOf={({ path }) => path}
            teaches=""
            several={(chosen, done) => (
              <Button
                onClick={() => {
                  done();
                  void drop(chosen.map(({ path }) => path));
                }}
              >
                {t("Remove from the list")}
              </Button>
            )}
          />
        </div>
      )}
    </Section>
  );
}
