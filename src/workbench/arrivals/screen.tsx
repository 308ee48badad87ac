"use client";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { ExternalLink } from "lucide-react";
import { useRouter, useSearchParams } from "next/navigation";
import { useEffect, useMemo, useRef, useState } from "react";
import { found, mailed, sponsored, type Arrival } from "@/core/campaigns/arrivals";
import { localPath } from "@/core/visit/url";
import { onPage } from "@/core/visit/pages";
import { useDesk } from "../parts/desk/desk";
import { addressOf } from "../parts/desk/screens";
import { useGo } from "../parts/desk/use-go";
import { indexIn, Swatch } from "../parts/variants";

/** A stand-in for somebody else's site, from which one can walk into the shop. */
interface StandIn {
  id: string;
  name: string;
  says: string;
  /** Where it opens. */
  path: string;
  arrivals: Arrival[];
}

/** Where visitors come from: the stand-ins, each of their links as a way in, and each arrival through a lens. */
export function ArrivalsScreen() {
  const { links, pages, storefront, look, ruleset } = useDesk();
  const router = useRouter();
  const go = useGo();
  const query = useSearchParams();
  const [search, setSearch] = useState("shade fern");
  const at = (name: string) => storefront.replace(/^http:\/\/[^.]+/, `http://${name}`);
  const origin = new URL(ruleset.site.origin).origin;

  const through = ({ target, referrer }: Pick<Arrival, "target" | "referrer">) => {
    const { referrer: _before, ...visit } = look.visit;
    look.setVisit({ ...visit, url: `${origin}${localPath(target)}`, ...(referrer ? { referrer } : {}) });
    router.push("/");
  };
  // A stand-in sends its visitor here to be looked at: `target` on the shop, `from` where they come from.
  const [target, from] = [query.get("target"), query.get("from")];
  const taken = useRef(false);
  useEffect(() => {
    if (target === null || taken.current) return;
    taken.current = true;
    through({ target, referrer: from && URL.canParse(from) ? from : "" });
  });

  const standIns = useMemo((): StandIn[] => {
    const asked = search.trim();
    const here = `${at("quarry")}/search?${new URLSearchParams({ q: asked }).toString()}`;
    return [
      {
        id: "quarry",
        name: "Quarry",
        says: "A search engine: sponsored links above what it finds.",
        path: `/search?${new URLSearchParams({ q: asked }).toString()}`,
        arrivals: asked ? [...sponsored(links, "quarry", asked, here), ...found(pages, asked, here).slice(0, 4)] : [],
      },
      {
        id: "mossmail",
        name: "Mossmail",
        says: "A mailbox: a letter for each link whose source is mossmail.",
        path: "/",
        arrivals: mailed(links, "mossmail", `${at("mossmail")}/`),
      },
      {
        id: "stone-and-moss",
        name: "Stone & Moss",
        says: "A partner’s blog, whose page is filled by the page script.",
        path: "/",
        arrivals: [
          {
            id: "article",
            name: "Moss in winter: the link in the article",
            says: "",
            target: "/ferns?utm_source=stone-and-moss&utm_medium=partner&utm_campaign=winter-light",
            referrer: `${at("stone-and-moss")}/`,
          },
        ],
      },
      {
        id: "quiz",
        name: "The quiz",
        says: "A form that hands its answers over in the link.",
        path: "/",
        arrivals: [
          {
            id: "answers",
            name: "Wren, a shady corner, three pots",
            says: "",
            target: "/?first_name=Wren&choice=a+shady+corner&pots=3&utm_source=quiz",
            referrer: `${at("quiz")}/`,
          },
        ],
      },
    ];
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `at` follows from the storefront
  }, [links, pages, search, storefront]);

  return (
    <main className="settings arrivals">
      <h1>Arrivals</h1>
      <p className="quiet">
        Where your visitors come from. Walk in as they do, with the same link and referrer, or look at an arrival
        through a lens: what the visitor of the sentence above would get.
      </p>
      {standIns.map((item) => (
        <section key={item.id} className="stack" aria-label={item.name}>
          <div className="row">
            <h2>{item.name}</h2>
            <span className="quiet" style={{ flex: 1 }}>
              {item.says}
            </span>
            {item.id === "quarry" && (
              <TextField
                label="Search for"
                value={search}
                onChange={(event) => setSearch(event.target.value)}
                sx={{ width: 220 }}
              />
            )}
            <Button
              component="a"
              href={`${at(item.id)}${item.path}`}
              target="_blank"
              rel="noreferrer"
              endIcon={<ExternalLink size={13} />}
            >
              Walk in from there
            </Button>
          </div>
          {item.arrivals.length === 0 ? (
            <span className="quiet">
              No link leads in from here.{" "}
              <button type="button" className="link" onClick={() => go("/links")}>
                Make one
              </button>
            </span>
          ) : (
            <ul className="linkshows">
              {item.arrivals.map((arrival) => (
                <ArrivalLine
                  key={arrival.id}
                  arrival={arrival}
                  onThrough={() => through(arrival)}
                  onLink={
                    links.some((link) => link.id === arrival.id) ? () => go(addressOf("/links", arrival.id)) : undefined
                  }
                />
              ))}
            </ul>
          )}
        </section>
      ))}
    </main>
  );
}

/** One way in, with what its first slots show the lens at hand. */
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
    const arriving = {
      ...visit,
      url: `${new URL(ruleset.site.origin).origin}${arrival.target}`,
      ...(arrival.referrer ? { referrer: arrival.referrer } : {}),
    };
    const { slots } = engine.decide(onPage(arriving, facts));
    return ruleset.slots.flatMap((slot) => {
      const first = slots[slot.id]?.[0];
      // The frame of the site is the same from everywhere.
      return first && first.variant !== null && slot.pages !== null ? [{ slot, variant: first.variant }] : [];
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
        {shown.length === 0 && <span className="quiet">what everybody gets</span>}
        {shown.slice(0, 3).map(({ slot, variant }) => (
          <span key={slot.id} className="shownvariant" title={slot.name}>
            <Swatch index={indexIn(slot, variant)} />
            {slot.variants.find((item) => item.id === variant)?.name}
          </span>
        ))}
      </span>
      <Button variant="text" color="secondary" onClick={onThrough}>
        Look at this arrival through a lens
      </Button>
    </li>
  );
}
