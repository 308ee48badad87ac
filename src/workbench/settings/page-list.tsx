"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import TextField from "@mui/material/TextField";
import { Trash2 } from "lucide-react";
import { useRef, useState } from "react";
import { fold } from "@/core/text/fold";
import { Portion } from "../parts/lists/portion";
import { useDesk } from "../parts/desk/desk";
import { Section } from "./section";

/** The pages that can be looked at, read from the site's sitemap. */
export function PageList() {
  const { pages, lists, actions } = useDesk();
  const [text, setText] = useState("");
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
  const found = pages.filter((page) => fold(`${page.path} ${page.title}`).includes(fold(text.trim())));
  return (
    <Section
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
      {pages.length > 8 && (
        <TextField
          placeholder={t("Search {pages} pages", { pages: pages.length })}
          value={text}
          onChange={(event) => setText(event.target.value)}
          slotProps={{ htmlInput: { "aria-label": t("Search pages") } }}
        />
      )}
      <div className="pagelist">
        <Portion items={found}>
          {(page) => (
            <div key={page.path} className="row line">
              <code>{page.path}</code>
              <span className="quiet" style={{ flex: 1 }}>
                {[page.title, page.facts.category, page.facts.tags?.join(", "), page.facts.language]
                  .filter(Boolean)
                  .join(" · ")}
              </span>
              <IconButton
                size="small"
                aria-label={t("Remove {path}", { path: page.path })}
                onClick={async () => lists.changed("pages", await actions.dropPage(page.path), page.path)}
              >
                <Trash2 size={14} />
              </IconButton>
            </div>
          )}
        </Portion>
        {found.length === 0 && (
          <span className="quiet">{pages.length === 0 ? t("There are none yet.") : t("None is called so.")}</span>
        )}
      </div>
    </Section>
  );
}
