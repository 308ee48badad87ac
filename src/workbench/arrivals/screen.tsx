"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { ExternalLink } from "lucide-react";
import { useSearchParams } from "next/navigation";
import { useEffect, useMemo, useRef, useState } from "react";
import { arrivalOf, bySource, found, mailed, sponsored, type Arrival } from "@/core/campaigns/arrivals";
import { localPath } from "@/core/visit/url";
import { onPage } from "@/core/lens/pages";
import type { Visit } from "@/core/formats/visit";
import { useDesk, useNeeded } from "../parts/desk/desk";
import { addressOf } from "../parts/desk/screens";
import { useGo } from "../parts/desk/use-go";
import { Portion } from "../parts/lists/portion";
import { indexIn, Swatch } from "../parts/variants";

/** Where visitors come from, as the screen shows it. */
interface Source {
  id: string;
  name: string;
  says: string;
  /** Where it opens; undefined: it is no page that one could walk in from here. */
  address?: string;
  searches?: boolean;
  arrivals: Arrival[];
}

/** Where visitors come from: each link as a way in, and each arrival through a lens. */
export function ArrivalsScreen() {
  const whole = useNeeded("links");
  const { links, pages, examples, look, ruleset } = useDesk();
  const go = useGo();
  const query = useSearchParams();
  const [search, setSearch] = useState(t("shade fern"));
  const origin = new URL(ruleset.site.origin).origin;

  const through = ({ target, referrer }: Pick<Arrival, "target" | "referrer">) => {
    const { referrer: _before, ...visit } = look.visit;
    look.setVisit({ ...visit, url: `${origin}${localPath(target)}`, ...(referrer ? { referrer } : {}) });
    go("/pages");
  };
  // Another page may send its visitor here to be looked at: `target` on the site, `from` where they come from.
  const [target, from] = [query.get("target"), query.get("from")];
  const taken = useRef(false);
  useEffect(() => {
    if (target === null || taken.current) return;
    taken.current = true;
    through({ target, referrer: from && URL.canParse(from) ? from : "" });
  });

  const { waysIn } = examples;
  const sources = useMemo((): Source[] => {
    const words = search.trim();
    const query = `/search?${new URLSearchParams({ q: words }).toString()}`;
    const known = waysIn.map(({ id, name, says, origin: there, kind, arrivals: own }): Source => {
      const address = `${there}${kind === "search" ? query : "/"}`;
      const arrivals =
        kind === "page"
          ? own.map((arrival) => ({ ...arrival, referrer: address }))
          : kind === "mail"
            ? mailed(links, id, address)
            : words
              ? [...sponsored(links, id, words, address), ...found(pages, words, address).slice(0, 4)]
              : [];
      return { id, name, says, address, searches: kind === "search", arrivals };
    });
    const others = [
      ...bySource(
        links,
        waysIn.map(({ id }) => id),
      ),
    ].map(([id, of]): Source => ({
      id: `source ${id}`,
      name: id === "" ? t("Links without a source") : t("Links from {id}", { id }),
      says: "",
      arrivals: of.map(arrivalOf),
    }));
    return [...known, ...others];
  }, [links, pages, search, waysIn]);

  return (
    <main className="settings arrivals">
      <h1>{t("Arrivals")}</h1>
      <p className="quiet">
        {t(
          "Where your visitors come from. Walk in as they do, with the same link and referrer, or look at an arrival through a lens: what the visitor of the sentence above would get.",
        )}
      </p>
      {whole && sources.length === 0 && (
        <span className="quiet">
          {t("Links that you keep are ways in: each stands here, with what its visitors get.")}{" "}
          <button type="button" className="link" onClick={() => go("/links")}>
            {t("Make one")}
          </button>
        </span>
      )}
      {sources.map((item) => (
        <section key={item.id} className="stack" aria-label={item.name}>
          <div className="row">
            <h2>{item.name}</h2>
            <span className="quiet" style={{ flex: 1 }}>
              {item.says}
            </span>
            {item.searches && (
              <TextField
                label={t("Search for")}
                value={search}
                onChange={(event) => setSearch(event.target.value)}
                sx={{ width: 220 }}
              />
            )}
            {item.address && (
              <Button
                component="a"
                href={item.address}
                target="_blank"
                rel="noreferrer"
                endIcon={<ExternalLink size={13} />}
              >
                {t("Visit from here")}
              </Button>
            )}
          </div>
          {item.arrivals.length === 0 ? (
            <span className="quiet">
              {t("No link leads in from here.")}{" "}
              <button type="button" className="link" onClick={() => go("/links")}>
                {t("Make one")}
              </button>
            </span>
          ) : (
            <ul className="linkshows">
              <Portion items={item.arrivals} step={20} row="li">
                {(arrival) => (
                  <ArrivalLine
                    key={arrival.id}
                    arrival={arrival}
                    onThrough={() => through(arrival)}
                    onLink={
                      links.some((link) => link.id === arrival.id)
                        ? () => go(addressOf("/links", arrival.id))
                        : undefined
                    }
                  />
                )}
              </Portion>
            </ul>
          )}
        </section>
      ))}
    </main>
  );
}

/** One way in, with what it shows the lens at hand otherwise than the bare address of its page does. */
function ArrivalLine({
  arrival,
  onThrough,
  onLink,
}: {
  arrival: Arrival;
  onThrough: () => void;
  onLink: (() => void) | undefined;
}) {
  const { look, ruleset, facts } = useDesk();
  const { engine } = look;
  const shown = useMemo(() => {
    const { referrer: _before, ...visit } = look.visit;
    const origin = new URL(ruleset.site.origin).origin;
    const slotsAt = (target: string, more: Pick<Visit, "referrer"> = {}) =>
      engine.decide(onPage({ ...visit, url: `${origin}${target}`, ...more }, facts)).slots;
    const arriving = slotsAt(arrival.target, arrival.referrer ? { referrer: arrival.referrer } : {});
    const [path = "/"] = arrival.target.split(/[?#]/);
    const plain = slotsAt(path);
    return ruleset.slots.flatMap((slot) => {
      const variant = arriving[slot.id]?.[0]?.variant ?? null;
      return variant === null || variant === plain[slot.id]?.[0]?.variant ? [] : [{ slot, variant }];
    });
  }, [engine, look.visit, arrival, facts, ruleset]);
  return (
    <li className="arrival">
      <span>
        {onLink ? (
          <button type="button" className="link" onClick={onLink}>
            {arrival.name}
          </button>
        ) : (
          <b>{arrival.name}</b>
        )}
        <code className="target">{arrival.target}</code>
      </span>
      <span>
        {shown.length === 0 && <span className="quiet">{t("what the page’s bare address shows")}</span>}
        {shown.slice(0, 3).map(({ slot, variant }) => (
          <span key={slot.id} className="shownvariant" title={slot.name}>
            <Swatch index={indexIn(slot, variant)} />
            {slot.variants.find((item) => item.id === variant)?.name}
          </span>
        ))}
      </span>
      <Button variant="text" color="secondary" onClick={onThrough}>
        {t("View as this visitor")}
      </Button>
    </li>
  );
}
