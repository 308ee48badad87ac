"use client";
import { t } from "@/core/messages/t";
import { rich } from "../parts/rich";
import Button from "@mui/material/Button";
import { Check, Circle, Crosshair, TriangleAlert } from "lucide-react";
import { useState } from "react";
import { now } from "@/clock";
import { tagStanding, type TriedPage } from "@/core/preview/tag-standing";
import { languageName } from "@/core/rules/sentence";
import { whyNot } from "../parts/actions";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { To } from "../parts/desk/site-address";
import { timeWords } from "../parts/times";

/** How often it is asked whether the tag was heard from, while somebody waits for it, in milliseconds. */
const listens = 3000;
/** So many pages are named at most. */
const named = 6;

type State = "done" | "open" | "amiss";

interface Props {
  /** The tag, or how it is made. */
  tag: React.ReactNode;
  /** Lets pages of an origin ask; undefined: not this person. */
  allowOrigin: ((origin: string) => Promise<string | undefined>) | undefined;
}

/** From an address to a first part, in four steps; afterwards, how the tag is. */
export function Steps({ tag, allowOrigin }: Props) {
  const { actions, may, pages, ruleset, lists } = useDesk();
  const { zone } = ruleset.site;
  const { value: found, problem: notFound, asking, again: look } = useAsked("connection", []);
  const { value: heard, again: listen } = useAsked("heard", [], { every: listens });
  const [refused, setRefused] = useState<string>();
  const [reading, setReading] = useState(false);
  const busy = reading || asking;
  const problem = refused ?? notFound;
  const readSitemap = async () => {
    setReading(true);
    setRefused(undefined);
    const answer = await actions
      .readPageList(null)
      .catch((error: unknown) => ({ ok: false as const, problem: whyNot(error) }));
    if (answer.ok) lists.again("pages");
    else setRefused(answer.problem);
    await look();
    setReading(false);
  };

  const { address, tried = [] } = found ?? {};
  const { another, blocked, byScript, carrying, lost, unread, without } = tagStanding(tried, now());
  const amiss = another.length + blocked.length + lost.length > 0;
  const tagState: State = amiss ? "amiss" : carrying.length > 0 ? "done" : "open";
  return (
    <section className="steps" aria-label={t("Connecting")}>
      <div className="row">
        <h2 style={{ flex: 1 }}>
          {heard?.last && ruleset.slots.length > 0 ? t("How the site is connected") : t("From here to the first part")}
        </h2>
        <Button disabled={busy} onClick={() => void look()}>
          {busy ? t("Looking …") : t("Run again")}
        </Button>
      </div>
      {problem && (
        <p className="error" role="alert">
          {problem}
        </p>
      )}
      <ol>
        <Step name={t("Address")} state={!address ? "open" : address.ok ? "done" : "amiss"}>
          {!address && <p className="quiet">{t("Looking at the site …")}</p>}
          {address?.ok === true && (
            <p>
              <b>{address.title || t("A page without a title")}</b> <span className="quiet">{address.origin}</span>
              <br />
              {address.language ? t("Written in {language}. ", { language: languageName(address.language) }) : ""}
              {address.framed
                ? t("It may stand in this workbench’s frame.")
                : t(
                    "It refuses to stand in frames: its pages are shown by the mirror, and visitors are served as usual.",
                  )}
            </p>
          )}
          {address?.ok === false && (
            <p>
              {rich("{origin} cannot be read: {problem}", {
                origin: <b>{address.origin}</b>,
                problem: address.problem,
              })}{" "}
              <To href="/settings">{t("Addresses")}</To>
            </p>
          )}
        </Step>
        <Step name={t("Pages")} state={pages.length > 1 ? "done" : "open"}>
          <p>
            {pages.length === 0
              ? t("None is known yet.")
              : t("{pages, plural, one {# page is known.} other {# pages are known.}}", { pages: pages.length })}{" "}
            {may("build") && (
              <Button size="small" disabled={busy} onClick={() => void readSitemap()}>
                {t("Import sitemap")}
              </Button>
            )}
          </p>
        </Step>
        <Step name={t("Tag")} state={tagState}>
          {!found && !problem && <p className="quiet">{t("Looking for it on the pages …")}</p>}
          {carrying.length > 0 && (
            <p>
              {t("{carrying, plural, one {# page carries} other {# pages carry}} it{tried}.", {
                carrying: carrying.length,
                tried:
                  tried.length > carrying.length ? t(", of {tried} that were looked at", { tried: tried.length }) : "",
              })}
            </p>
          )}
          {found && carrying.length === 0 && (
            <p>
              {t(
                "Put it into the head of every page, or ask the person who runs the site to do it. Until then pages are shown by the mirror: you can go on.",
              )}
            </p>
          )}
          <Pages
            of={byScript}
            one={t("is served without it and was heard from today: a script puts it in, or it was just taken out")}
            many={t("are served without it and were heard from today: a script puts it in, or it was just taken out")}
          />
          <Pages of={lost} one={t("no longer carries it")} many={t("no longer carry it")} />
          {carrying.length > 0 && <Pages of={without} one={t("does not carry it")} many={t("do not carry it")} />}
          <Pages of={another} one={t("carries the tag of another site")} many={t("carry the tag of another site")} />
          <Pages of={unread} one={t("could not be read")} many={t("could not be read")} />
          {blocked.length > 0 && (
            <p className="error">
              {rich(
                "The page’s own policy keeps the tag from working on {blocked}. The person who runs the site adds to {code}:{value}",
                {
                  blocked: listed(blocked),
                  code: <code>Content-Security-Policy</code>,
                  value: [...new Set(blocked.flatMap((page) => page.keptOut ?? []))].map((missing) => (
                    <code key={missing} style={{ display: "block", overflowWrap: "anywhere" }}>
                      {missing}
                    </code>
                  )),
                },
              )}
            </p>
          )}
          {carrying.length > 0 ? (
            <details>
              <summary>{t("The tag")}</summary>
              {tag}
            </details>
          ) : (
            tag
          )}
        </Step>
        <Step name={t("Seen")} state={heard?.refused.length ? "amiss" : heard?.last ? "done" : "open"}>
          <p role="status">
            {heard?.last
              ? t(
                  "Last heard from {timeWords} on {path}; {pages, plural, one {# page} other {# pages}} in all, the first {timeWords2}.",
                  {
                    timeWords: timeWords(heard.last.at, zone),
                    path: heard.last.path,
                    pages: heard.pages,
                    timeWords2: timeWords(heard.first?.at ?? "", zone),
                  },
                )
              : t(
                  "Nothing was heard from the tag yet. Open a page of the site in another window: this line says so at once.",
                )}
          </p>
          {heard?.refused.map(({ origin, lastAt }) => (
            <p key={origin} className="error">
              {t("Pages of {origin} carry this site’s tag and may not ask (last {timeWords}).", {
                origin,
                timeWords: timeWords(lastAt, zone),
              })}{" "}
              {allowOrigin && (
                <Button
                  size="small"
                  onClick={() =>
                    void allowOrigin(origin).then(async (wrong) => {
                      if (wrong) setRefused(wrong);
                      else await listen();
                    })
                  }
                >
                  {t("Allow this origin")}
                </Button>
              )}
            </p>
          ))}
        </Step>
      </ol>
      {may("slots") && (
        <div className="row">
          <Button
            variant={carrying.length > 0 && ruleset.slots.length === 0 ? "contained" : "outlined"}
            startIcon={<Crosshair size={15} />}
            component={To}
            href="/pages?point=slot"
          >
            {ruleset.slots.length === 0 ? t("Point at a first part") : t("Point at another part")}
          </Button>
          <span className="quiet">{t("Then change it, say who sees it, and publish it.")}</span>
        </div>
      )}
    </section>
  );
}

function Step({ name, state, children }: { name: string; state: State; children: React.ReactNode }) {
  const [Sign, says] = {
    done: [Check, "done"] as const,
    open: [Circle, t("still open")] as const,
    amiss: [TriangleAlert, t("needs a look")] as const,
  }[state];
  return (
    <li data-state={state}>
      <span className="sign">
        <Sign size={16} aria-hidden />
      </span>
      <h3>
        {name}
        <span className="visuallyhidden">, {says}</span>
      </h3>
      <div>{children}</div>
    </li>
  );
}

const listed = (pages: readonly TriedPage[]): string =>
  pages
    .slice(0, named)
    .map(({ path }) => path)
    .join(", ") + (pages.length > named ? t(" and {pages} more", { pages: pages.length - named }) : "");

function Pages({ of, one, many }: { of: readonly TriedPage[]; one: string; many: string }) {
  const [first] = of;
  if (!first) return null;
  return (
    <p className="unsure">
      {listed(of)} {of.length === 1 ? one : many}
      {first.problem ? `: ${first.problem}` : "."}
    </p>
  );
}
