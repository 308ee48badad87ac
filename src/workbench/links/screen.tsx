"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { Copy, Trash2 } from "lucide-react";
import { useSnackbar } from "notistack";
import { useSearchParams } from "next/navigation";
import { useCallback, useMemo, useState } from "react";
import { linkSources } from "@/core/campaigns/expected";
import { tagNotes, unfed } from "@/core/campaigns/judge";
import { inOrder, queryText, type CampaignLink, type Tag } from "@/core/campaigns/link";
import { linksFromCsv, linksToCsv } from "@/core/campaigns/sheet";
import { freshIdIn } from "@/core/draft/lists";
import { tableText } from "@/core/formats/table";
import type { Problem } from "@/core/formats/problem";
import { ruleText } from "@/core/rules/sentence";
import { useDesk, useNeeded } from "../parts/desk/desk";
import { Portion } from "../parts/lists/portion";
import { useSearch } from "../parts/lists/use-search";
import { addressOf, variantAddress } from "../parts/desk/screens";
import { useGo } from "../parts/desk/use-go";
import { useKeep } from "../parts/desk/use-keep";
import { chooseFiles, saveFile } from "../parts/files";
import { ProblemList } from "../parts/problem-list";
import { LinkEditor } from "./editor";
import { ListOrTable } from "../parts/table/list-or-table";
import { LinksTable } from "./table";

/** The links that bring visitors, built from what rules expect, and what the two do not know of each other. */
export function LinksScreen() {
  const whole = useNeeded("links");
  const { links, look } = useDesk();
  const { keep, drop } = useKeep("links");
  const { ruleset } = look.runnable;
  const { enqueueSnackbar } = useSnackbar();
  const go = useGo();
  const query = useSearchParams();
  const asked = query.get("open");
  const asTable = query.get("show") === "table";
  const [problems, setProblems] = useState<{ file: string; problems: Problem[] }>();
  const open = links.find((link) => link.id === asked) ?? links[0];
  const waiting = useMemo(() => unfed(links, ruleset), [links, ruleset]);
  const sources = useMemo(() => linkSources(ruleset), [ruleset]);
  const search = useSearch(
    links,
    t("links"),
    (link) => `${link.name} ${link.usedBy} ${link.note} ${link.path} ${queryText(link.tags)}`,
  );
  const isOdd = useCallback(
    (link: CampaignLink) =>
      tagNotes(
        link.tags,
        ruleset,
        links.filter((item) => item !== link).flatMap((item) => item.tags),
      ).some((note) => note.like !== undefined || note.says === "twice"),
    [links, ruleset],
  );

  const make = async (name: string, tags: readonly Tag[], more: Partial<CampaignLink> = {}) => {
    const id = freshIdIn(name, new Set(links.map((link) => link.id)), "link");
    if (await keep([{ id, name, path: "/", part: "", note: "", usedBy: "", ...more, tags: inOrder(tags) }]))
      go(addressOf("/links", id));
  };
  const readCsv = async () => {
    const [file] = await chooseFiles(".csv,text/csv");
    if (!file) return;
    const text = tableText(new Uint8Array(await file.arrayBuffer()));
    const read = "problems" in text ? text : linksFromCsv(text.text);
    if ("problems" in read) return setProblems({ file: file.name, problems: read.problems });
    setProblems(undefined);
    if (read.links.length === 0) return enqueueSnackbar(t("There is no link in this file."), { variant: "warning" });
    if (await keep(read.links))
      enqueueSnackbar(t("{links} {links, plural, one {link is} other {links are}} read", { links: read.links.length }));
  };
  const views = <ListOrTable name={t("How links are shown")} screen="/links" table={asTable} />;
  if (asTable)
    return (
      <main className="tablescreen">
        <div className="row">
          <h1>{t("Campaign links")}</h1>
          {views}
        </div>
        <LinksTable isOdd={isOdd} />
      </main>
    );
  return (
    <main className="twopart links">
      <nav aria-label={t("Links")}>
        <div className="row">
          <h1>{t("Campaign links")}</h1>
          {views}
        </div>
        <div className="navtools">
          <div className="row">
            <Button variant="contained" disabled={!whole} onClick={() => void make(t("New link"), [])}>
              {t("New link")}
            </Button>
            <TextField
              select
              label={t("From a rule")}
              disabled={!whole}
              value=""
              sx={{ flex: 1, minWidth: 0 }}
              onChange={(event) => {
                const source = sources[Number(event.target.value)];
                if (source) void make(source.owner.name, source.tags);
              }}
            >
              {sources.map(({ owner, tags }, index) => (
                <MenuItem key={`${owner.kind} ${owner.id}`} value={index}>
                  {owner.name}
                  <span className="quiet">&ensp;{queryText(tags)}</span>
                </MenuItem>
              ))}
            </TextField>
          </div>
          {search.field}
        </div>
        {!whole && <p className="quiet note">{t("Reading the links …")}</p>}
        {whole && links.length === 0 && (
          <p className="teaches">
            {t("A link carries what rules ask for: make one from a rule, and it is spelled as the rule spells it.")}
          </p>
        )}
        <ul>
          <Portion items={search.found} at={open} row="li">
            {(link) => {
              return (
                <li key={link.id} className="linkrow" data-row={link.id}>
                  <button type="button" aria-current={link === open} onClick={() => go(addressOf("/links", link.id))}>
                    <b>{link.name}</b> {isOdd(link) && <span className="pill problem">{t("spelling")}</span>}
                    <span className="quiet">
                      {[link.usedBy, link.path, ...link.tags.map((tag) => tag.value)].filter(Boolean).join(" · ")}
                    </span>
                  </button>
                  <span className="acts">
                    <IconButton
                      size="small"
                      aria-label={t("Copy {link}", { link: link.name })}
                      title={t("Copy")}
                      onClick={() =>
                        void make(t("{name}, copy", { name: link.name }).slice(0, 120), link.tags, {
                          path: link.path,
                          part: link.part,
                          note: link.note,
                          usedBy: link.usedBy,
                        })
                      }
                    >
                      <Copy size={14} />
                    </IconButton>
                    <IconButton
                      size="small"
                      aria-label={t("Delete {link}", { link: link.name })}
                      title={t("Delete")}
                      onClick={() => void drop(link, t("The link “{link}” is deleted", { link: link.name }))}
                    >
                      <Trash2 size={14} />
                    </IconButton>
                  </span>
                </li>
              );
            }}
          </Portion>
        </ul>
        <div className="navtools row wrap">
          <Button disabled={!whole} onClick={() => void readCsv()}>
            {t("Import CSV")}
          </Button>
          <Button
            disabled={!whole}
            onClick={() => saveFile("links.csv", linksToCsv(links, ruleset.site.origin), "text/csv")}
          >
            {t("Export CSV")}
          </Button>
        </div>
        {problems && (
          <div className="navtools">
            <b>{t("{file} is not right. Nothing was read.", { file: problems.file })}</b>
            <ProblemList problems={problems.problems} />
          </div>
        )}
      </nav>
      <div className="detail">
        {open ? (
          <LinkEditor key={open.id} link={open} onChange={(link) => void keep([link])} />
        ) : (
          whole && <p className="teaches">{t("“New link” makes the first one.")}</p>
        )}
        <section className="stack" aria-label={t("Rules that no link feeds")}>
          <h2>{t("Rules that no link feeds")}</h2>
          {waiting.length === 0 && (
            <span className="quiet">{t("None: every rule that waits for a link has one.")}</span>
          )}
          {waiting.map(({ owner, condition, tag, like }) => (
            <div className="row line" key={`${owner.kind} ${owner.id} ${tag} ${JSON.stringify(condition.value)}`}>
              <button
                type="button"
                className="link"
                style={{ width: 230 }}
                onClick={() =>
                  go(owner.slot ? variantAddress(owner.slot, owner.id) : addressOf(`/${owner.kind}s`, owner.id))
                }
              >
                {owner.name}
              </button>
              <span style={{ flex: 1 }}>
                {t("waits for {ruleText}", { ruleText: ruleText(condition, ruleset) })}
                {like !== undefined && <span className="error"> {t("A link says “{like}”.", { like })}</span>}
              </span>
              <Button
                onClick={() =>
                  void make(
                    owner.name,
                    sources.find((source) => source.owner.id === owner.id && source.owner.kind === owner.kind)
                      ?.tags ?? [{ name: tag, value: String([condition.value].flat()[0] ?? "yes") }],
                  )
                }
              >
                {t("Make its link")}
              </Button>
            </div>
          ))}
        </section>
      </div>
    </main>
  );
}
