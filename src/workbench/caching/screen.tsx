"use client";
import { said, t, text } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { Copy } from "lucide-react";
import { useSnackbar } from "notistack";
import { useMemo, useState } from "react";
import {
  cacheAdvice,
  cacheHeaders,
  longestShared,
  withScript,
  type PageAdvice,
  type PartLeaning,
} from "@/core/analysis/cache";
import { signalInfo, type Leaning } from "@/core/visit/signals";
import { useDesk } from "../parts/desk/desk";
import { addressOf, variantAddress } from "../parts/desk/screens";
import { useGo } from "../parts/desk/use-go";
import { Portion } from "../parts/lists/portion";
import { useSearch } from "../parts/lists/use-search";

/** The shop’s own part of a page (its cart, the question for consent) goes by its cookies. */
const ownPart: readonly Leaning[] = ["visitor"];
const words: Record<Leaning, string> = said({
  time: text("the time"),
  link: text("the link’s parameters"),
  language: text("the language"),
  device: text("the device"),
  visitor: text("what is known of the visitor"),
  place: text("the place"),
  arrival: text("where they came from"),
  measured: text("what only the browser or the connection tells"),
});
const listed = (items: readonly string[]): string =>
  items.length < 2
    ? (items[0] ?? "")
    : t("{items} and {items2}", { items: items.slice(0, -1).join(", "), items2: items.at(-1) });

/** What each page depends on, by its rules, and so how it may be cached: in words and as headers. */
export function CachingScreen() {
  const { look, pages } = useDesk();
  const { ruleset } = look.runnable;
  const advice = useMemo(() => cacheAdvice(ruleset, pages, ownPart), [ruleset, pages]);
  const [open, setOpen] = useState<string>();
  const chosen = advice.find((page) => page.path === open) ?? advice[0];
  const titles = useMemo(() => new Map(pages.map((page) => [page.path, page.title])), [pages]);
  const search = useSearch(
    advice,
    t("pages"),
    (page) => `${page.path} ${titles.get(page.path) ?? ""} ${page.shared ? t("Cacheable") : t("Not cacheable")}`,
  );
  const shared = advice.filter((page) => page.shared).length;
  return (
    <main className="twopart">
      <nav aria-label={t("Pages")}>
        <h1>{t("Caching")}</h1>
        {search.field}
        <ul>
          <Portion items={search.found} row="li">
            {(page) => (
              <li key={page.path}>
                <button type="button" aria-current={page === chosen} onClick={() => setOpen(page.path)}>
                  <b>{titles.get(page.path) ?? page.path}</b>{" "}
                  <span className={`pill ${page.shared ? "live" : "draft"}`}>
                    {page.shared ? t("Cacheable") : t("Not cacheable")}
                  </span>
                  <span className="quiet">
                    {page.leans.length === 0
                      ? t("The same for everyone")
                      : t("Depends on {leans}", { leans: listed(page.leans.map((leaning) => words[leaning])) })}
                  </span>
                </button>
              </li>
            )}
          </Portion>
        </ul>
      </nav>
      <div className="detail">
        <p className="serif">
          {t(
            "{shared} of {advice} pages are cacheable: for visitors without a cookie of the site, until the next release reaches it ({longestShared} minutes at most) or a schedule begins or ends. A site’s own application that decides in its process sends these headers by itself; other pages get them from their developer. Worked out from the draft.",
            { shared, advice: advice.length, longestShared: longestShared / 60 },
          )}
        </p>
        {chosen && <PageView key={chosen.path} page={chosen} />}
      </div>
    </main>
  );
}

function PageView({ page }: { page: PageAdvice }) {
  const { look, pages, now } = useDesk();
  const { ruleset } = look.runnable;
  const { enqueueSnackbar } = useSnackbar();
  const headers = cacheHeaders(ruleset, page, Date.parse(now));
  const text = Object.entries(headers)
    .map(([name, value]) => `${name}: ${value}`)
    .join("\n");
  const nameOf = (id: string) => ruleset.slots.find((slot) => slot.id === id)?.name ?? id;
  const known = pages.find((item) => item.path === page.path);
  const without = useMemo(() => known && withScript(ruleset, known, page, ownPart), [ruleset, known, page]);
  return (
    <>
      <header>
        <h1>
          {known?.title} <code>{page.path}</code>
        </h1>
      </header>
      <section className="stack" aria-label={t("Headers")}>
        <div className="row">
          <h2 style={{ flex: 1 }}>{t("Headers of its response, now")}</h2>
          <Button
            startIcon={<Copy size={14} />}
            onClick={() =>
              void navigator.clipboard.writeText(text).then(() => enqueueSnackbar(t("The headers are copied")))
            }
          >
            {t("Copy")}
          </Button>
        </div>
        <pre className="code">{text}</pre>
        {page.shared && page.leans.includes("time") && (
          <span className="quiet">
            {t("Something on this page goes by the time: it is kept until the next schedule begins or ends.")}
          </span>
        )}
        {page.shared && page.leans.includes("link") && (
          <span className="quiet">
            {t("Its parameters are part of the address, and so of the cache’s key: leave them in.")}
          </span>
        )}
        {page.edgeKey.length > 0 && (
          <span className="quiet">
            {t("A cache that knows its visitors’ places could share it, with {edgeKey} in its key.", {
              edgeKey: listed(page.edgeKey),
            })}
          </span>
        )}
        {without && (
          <p>
            {t("Were {byScript} filled by the page script,", { byScript: listed(page.byScript.map(nameOf)) })}{" "}
            {without.shared
              ? t("the rest of the page could lie in a shared cache.")
              : t("the page would still depend on {leans}.", {
                  leans: listed(without.leans.map((leaning) => words[leaning])),
                })}
          </p>
        )}
      </section>
      <section className="stack" aria-label={t("What it depends on")}>
        <h2>{t("What it depends on")}</h2>
        {page.parts.length === 0 && <span className="quiet">{t("No slot, pop-up or redirect is on this page.")}</span>}
        {page.parts.map((part) => (
          <PartLine key={`${part.kind} ${part.id}`} part={part} />
        ))}
      </section>
    </>
  );
}

function PartLine({ part }: { part: PartLeaning }) {
  const { ruleset } = useDesk();
  const go = useGo();
  const address =
    part.kind === "slot"
      ? variantAddress(part.id)
      : addressOf(part.kind === "popup" ? "/popups" : "/redirects", part.id);
  const labels = part.signals.map((signal) => signalInfo(signal, ruleset)?.label ?? signal);
  return (
    <div className="row line">
      <button type="button" className="link" style={{ width: 190 }} onClick={() => go(address)}>
        {part.name}
      </button>
      <span style={{ flex: 1 }}>
        {part.leans.length === 0 ? t("the same for everybody") : listed(part.leans.map((leaning) => words[leaning]))}
        {labels.length > 0 && <span className="quiet">: {[...new Set(labels)].join(", ")}</span>}
      </span>
      <span className="quiet">{part.kind === "popup" ? "pop-up" : part.kind}</span>
    </div>
  );
}
