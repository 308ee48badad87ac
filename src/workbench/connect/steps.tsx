"use client";
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
    <section className="steps" aria-label="Connecting">
      <div className="row">
        <h2 style={{ flex: 1 }}>
          {heard?.last && ruleset.slots.length > 0 ? "How the site is connected" : "From here to the first part"}
        </h2>
        <Button disabled={busy} onClick={() => void look()}>
          {busy ? "Looking …" : "Run again"}
        </Button>
      </div>
      {problem && (
        <p className="error" role="alert">
          {problem}
        </p>
      )}
      <ol>
        <Step name="Address" state={!address ? "open" : address.ok ? "done" : "amiss"}>
          {!address && <p className="quiet">Looking at the site …</p>}
          {address?.ok === true && (
            <p>
              <b>{address.title || "A page without a title"}</b> <span className="quiet">{address.origin}</span>
              <br />
              {address.language ? `Written in ${languageName(address.language)}. ` : ""}
              {address.framed
                ? "It may stand in this workbench’s frame."
                : "It refuses to stand in frames: its pages are shown by the mirror, and visitors are served as usual."}
            </p>
          )}
          {address?.ok === false && (
            <p>
              <b>{address.origin}</b> cannot be read: {address.problem} <To href="/settings">Addresses</To>
            </p>
          )}
        </Step>
        <Step name="Pages" state={pages.length > 1 ? "done" : "open"}>
          <p>
            {pages.length === 0
              ? "None is known yet."
              : pages.length === 1
                ? "1 page is known."
                : `${pages.length} pages are known.`}{" "}
            {may("build") && (
              <Button size="small" disabled={busy} onClick={() => void readSitemap()}>
                Import sitemap
              </Button>
            )}
          </p>
        </Step>
        <Step name="Tag" state={tagState}>
          {!found && !problem && <p className="quiet">Looking for it on the pages …</p>}
          {carrying.length > 0 && (
            <p>
              {carrying.length === 1 ? "1 page carries" : `${carrying.length} pages carry`} it
              {tried.length > carrying.length ? `, of ${tried.length} that were looked at` : ""}.
            </p>
          )}
          {found && carrying.length === 0 && (
            <p>
              Put it into the head of every page, or ask the person who runs the site to do it. Until then pages are
              shown by the mirror: you can go on.
            </p>
          )}
          <Pages
            of={byScript}
            one="is served without it and was heard from today: a script puts it in, or it was just taken out"
            many="are served without it and were heard from today: a script puts it in, or it was just taken out"
          />
          <Pages of={lost} one="no longer carries it" many="no longer carry it" />
          {carrying.length > 0 && <Pages of={without} one="does not carry it" many="do not carry it" />}
          <Pages of={another} one="carries the tag of another site" many="carry the tag of another site" />
          <Pages of={unread} one="could not be read" many="could not be read" />
          {blocked.length > 0 && (
            <p className="error">
              The page’s own policy keeps the tag from working on {listed(blocked)}. The person who runs the site adds
              to <code>Content-Security-Policy</code>:
              {[...new Set(blocked.flatMap((page) => page.keptOut ?? []))].map((missing) => (
                <code key={missing} style={{ display: "block", overflowWrap: "anywhere" }}>
                  {missing}
                </code>
              ))}
            </p>
          )}
          {carrying.length > 0 ? (
            <details>
              <summary>The tag</summary>
              {tag}
            </details>
          ) : (
            tag
          )}
        </Step>
        <Step name="Seen" state={heard?.refused.length ? "amiss" : heard?.last ? "done" : "open"}>
          <p role="status">
            {heard?.last
              ? `Last heard from ${timeWords(heard.last.at, zone)} on ${heard.last.path}; ${heard.pages === 1 ? "1 page" : `${heard.pages} pages`} in all, the first ${timeWords(heard.first?.at ?? "", zone)}.`
              : "Nothing was heard from the tag yet. Open a page of the site in another window: this line says so at once."}
          </p>
          {heard?.refused.map(({ origin, lastAt }) => (
            <p key={origin} className="error">
              Pages of {origin} carry this site’s tag and may not ask (last {timeWords(lastAt, zone)}).{" "}
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
                  Allow this origin
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
            {ruleset.slots.length === 0 ? "Point at a first part" : "Point at another part"}
          </Button>
          <span className="quiet">Then change it, say who sees it, and publish it.</span>
        </div>
      )}
    </section>
  );
}

function Step({ name, state, children }: { name: string; state: State; children: React.ReactNode }) {
  const [Sign, says] = {
    done: [Check, "done"] as const,
    open: [Circle, "still open"] as const,
    amiss: [TriangleAlert, "needs a look"] as const,
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
    .join(", ") + (pages.length > named ? ` and ${pages.length - named} more` : "");

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
