/**
 * Brackenfold's made-up visitors: who comes, from where, when, and what they look at. The demo's access log and its four weeks of
 * results are made of them. Everything follows from a number: the same day has the same visitors each time.
 */
import { products } from "./shop/catalogue";
import { randomBy } from "@/core/statistics/random";

export interface MadeView {
  /** Epoch ms. */
  at: number;
  /** Path and query. */
  target: string;
  referrer: string;
}
export interface MadeVisitor {
  id: string;
  address: string;
  userAgent: string;
  acceptLanguage: string;
  consent: boolean;
}
export interface MadeVisit {
  visitor: MadeVisitor;
  views: MadeView[];
  /** From 0 to 1, evenly: the lower, the readier to buy. */
  mood: number;
}

type Weighted<T> = readonly (readonly [weight: number, item: T])[];
function pick<T>(random: () => number, list: Weighted<T>): T {
  let left = random() * list.reduce((sum, [weight]) => sum + weight, 0);
  for (const [weight, item] of list) if ((left -= weight) < 0) return item;
  return (list.at(-1) as readonly [number, T])[1];
}

const home = "https://brackenfold.example";
/** Networks of the demo's place service, the hours that they are ahead of UTC, and what is read there. */
const places: Weighted<{ network: string; ahead: number; languages: Weighted<string> }> = [
  [
    30,
    {
      network: "192.0.2.",
      ahead: 0,
      languages: [
        [7, "pt-PT,pt;q=0.9,en;q=0.5"],
        [2, "en-GB,en;q=0.9"],
      ],
    },
  ],
  [
    9,
    {
      network: "203.0.113.",
      ahead: 0,
      languages: [
        [6, "pt-PT,pt;q=0.9"],
        [2, "pt-BR,pt;q=0.9,en;q=0.4"],
        [1, "en"],
      ],
    },
  ],
  [
    14,
    {
      network: "198.51.100.",
      ahead: 1,
      languages: [
        [4, "de-DE,de;q=0.9,en;q=0.6"],
        [3, "en-GB,en;q=0.9"],
        [2, "nb-NO,nb;q=0.9,en;q=0.7"],
      ],
    },
  ],
  [
    12,
    {
      network: "2001:db8:0::",
      ahead: 0,
      languages: [
        [6, "pt-PT,pt;q=0.9,en;q=0.5"],
        [1, "es-ES,es;q=0.9"],
      ],
    },
  ],
  [
    10,
    {
      network: "2001:db8:1::",
      ahead: 1,
      languages: [
        [8, "de-DE,de;q=0.9"],
        [1, "en"],
      ],
    },
  ],
  [2, { network: "2001:db8:2::", ahead: 9, languages: [[3, "ja,en;q=0.5"]] }],
];
const mobile = (system: string, rest: string) => `Mozilla/5.0 (${system}) ${rest}`;
const agents: Weighted<string> = [
  [
    26,
    mobile(
      "Linux; Android 16; Pixel 9",
      "AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Mobile Safari/537.36",
    ),
  ],
  [
    24,
    mobile(
      "iPhone; CPU iPhone OS 18_7 like Mac OS X",
      "AppleWebKit/605.1.15 (KHTML, like Gecko) Version/26.1 Mobile/15E148 Safari/604.1",
    ),
  ],
  [
    5,
    mobile(
      "iPad; CPU OS 18_7 like Mac OS X",
      "AppleWebKit/605.1.15 (KHTML, like Gecko) Version/26.1 Mobile/15E148 Safari/604.1",
    ),
  ],
  [22, mobile("Windows NT 10.0; Win64; x64", "AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36")],
  [
    10,
    mobile(
      "Macintosh; Intel Mac OS X 10_15_7",
      "AppleWebKit/605.1.15 (KHTML, like Gecko) Version/26.1 Safari/605.1.15",
    ),
  ],
  [7, mobile("X11; Linux x86_64; rv:145.0", "Gecko/20100101 Firefox/145.0")],
  [
    6,
    mobile(
      "Windows NT 10.0; Win64; x64",
      "AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36 Edg/142.0.0.0",
    ),
  ],
];
const arrivals: Weighted<{ target: string; referrer: string; mood: number }> = [
  [22, { target: "/", referrer: "", mood: 1 }],
  [8, { target: "/ferns", referrer: "", mood: 1.1 }],
  [13, { target: "/?utm_source=mossmail&utm_medium=email&utm_campaign=winter-light", referrer: "", mood: 0.6 }],
  [
    5,
    {
      target: "/ferns?utm_source=mossmail&utm_medium=email&utm_campaign=winter-light&utm_content=growers",
      referrer: "",
      mood: 0.6,
    },
  ],
  [
    9,
    {
      target: "/?utm_source=quarry&utm_medium=cpc&utm_campaign=shade&utm_term=shade+fern",
      referrer: "https://quarry.example/search?q=shade+fern",
      mood: 1.2,
    },
  ],
  [12, { target: "/ferns/maidenhair", referrer: "https://quarry.example/search?q=maidenhair+fern", mood: 1.1 }],
  [8, { target: "/", referrer: "https://quarry.example/search?q=plants+for+a+dark+room", mood: 1.4 }],
  [7, { target: "/advice?topic=water", referrer: "https://quarry.example/search?q=how+often+water+ferns", mood: 2.2 }],
  [8, { target: "/", referrer: "https://stone-and-moss.example/shade-garden", mood: 0.9 }],
  [4, { target: "/?choice=a+shady+corner&pots=3&utm_source=quiz", referrer: "https://quiz.example/", mood: 0.8 }],
  [2, { target: "/catalogue/ferns", referrer: "", mood: 1.2 }],
];
const pages: Weighted<string> = [
  [6, "/"],
  [9, "/ferns"],
  [5, "/succulents"],
  [5, "/seed-boxes"],
  [4, "/tools"],
  [3, "/advice"],
  [2, "/advice?topic=repotting"],
  [2, "/care/first-frost"],
  [3, "/cart"],
  [1, "/contact"],
  ...products.map((product) => [product.category === "ferns" ? 3 : 1.5, product.path] as const),
];
/** How busy the hours of a day are, by the visitor's own clock. */
const hours: Weighted<number> = [
  3, 2, 1, 1, 1, 2, 5, 9, 12, 13, 13, 12, 12, 12, 11, 11, 12, 14, 17, 20, 22, 19, 12, 6,
].map((weight, hour) => [weight, hour]);

const hour = 3_600_000;
const day = 24 * hour;

/**
 * The visits of a day, by the instant at which it begins (UTC), in the order of their beginning.
 * @param known visitors of days before, who may come back; those who are new are added
 * @param number of the day: by it people are made up, so that what they do is the same whatever day the first one is
 */
export function visitsOn(date: number, count: number, known: MadeVisitor[], number: number): MadeVisit[] {
  const random = randomBy(number * 1009 + count);
  const weekday = new Date(date).getUTCDay();
  // The letter goes out on Tuesdays; weekends are for looking around.
  const busy = count * (weekday === 2 ? 1.25 : weekday === 0 || weekday === 6 ? 1.1 : 0.95);
  const out: MadeVisit[] = [];
  for (let index = 0; index < busy; index++) {
    const place = pick(random, places);
    const back = known.length > 20 && random() < 0.28;
    const visitor: MadeVisitor = back
      ? (known[Math.floor(random() * known.length)] as MadeVisitor)
      : {
          id: `m-${number.toString(36)}-${index.toString(36)}`,
          address: place.network.includes(":")
            ? `${place.network}${(1 + Math.floor(random() * 65_000)).toString(16)}`
            : `${place.network}${1 + Math.floor(random() * 254)}`,
          userAgent: pick(random, agents),
          acceptLanguage: pick(random, place.languages),
          consent: random() < 0.62,
        };
    if (!back && visitor.consent) known.push(visitor);
    const arrival = pick(random, arrivals);
    let at = date + (pick(random, hours) - place.ahead) * hour + Math.floor(random() * hour);
    const views: MadeView[] = [{ at, target: arrival.target, referrer: arrival.referrer }];
    while (random() < 0.68 && views.length < 14) {
      const last = views.at(-1) as MadeView;
      at += 8_000 + Math.floor(-Math.log(1 - random()) * 70_000);
      views.push({ at, target: pick(random, pages), referrer: home + last.target });
    }
    out.push({ visitor, views, mood: random() * arrival.mood });
  }
  return out.sort((a, b) => (a.views[0] as MadeView).at - (b.views[0] as MadeView).at);
}

const months = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const two = (n: number): string => String(n).padStart(2, "0");
const stampOf = (at: number): string => {
  const d = new Date(at);
  return `${two(d.getUTCDate())}/${months[d.getUTCMonth()]}/${d.getUTCFullYear()}:${two(d.getUTCHours())}:${two(d.getUTCMinutes())}:${two(d.getUTCSeconds())} +0000`;
};
const crawlers = [
  "Mozilla/5.0 (compatible; Mosscrawler/1.2; +https://quarry.example/bot)",
  "QuarryBot/2.0 (+https://quarry.example/bot.html)",
];
const assets = ["/brackenfold/hero-ferns.svg", "/brackenfold/shop.css", "/brackenfold/shop.js", "/icon.svg"];

/** An access log of Brackenfold in the Combined Log Format: so many lines, in order of time, ending at an instant. Day by day. */
export function* accessLog(lines: number, until: number, days = 7): Generator<string> {
  const known: MadeVisitor[] = [];
  // A page view brings what belongs to it; together about 3.6 lines.
  const perDay = Math.ceil(lines / days / 3.6 / 3.05);
  const first = Math.floor(until / day) * day - days * day;
  let left = lines;
  for (let date = first; left > 0; date += day) {
    const random = randomBy(date);
    const out: [number, string][] = [];
    const add = (
      at: number,
      who: Pick<MadeVisitor, "address" | "userAgent">,
      request: string,
      status: number,
      size: number,
      referrer: string,
    ) =>
      out.push([
        at,
        `${who.address} - - [${stampOf(at)}] "${request} HTTP/1.1" ${status} ${size} "${referrer || "-"}" "${who.userAgent}"`,
      ]);
    for (const { visitor, views } of visitsOn(date, perDay, known, (date - first) / day))
      for (const view of views) {
        const moved = view.target.startsWith("/catalogue");
        add(
          view.at,
          visitor,
          `GET ${view.target}`,
          moved ? 301 : random() < 0.02 ? 404 : 200,
          9_000 + Math.floor(random() * 14_000),
          view.referrer,
        );
        for (const asset of moved ? [] : assets)
          if (random() < 0.62)
            add(
              view.at + 200 + Math.floor(random() * 900),
              visitor,
              `GET ${asset}`,
              random() < 0.4 ? 304 : 200,
              1_200 + Math.floor(random() * 40_000),
              `https://brackenfold.example${view.target}`,
            );
        if (random() < 0.05)
          add(view.at + 4_000, visitor, "POST /happened", 204, 0, `https://brackenfold.example${view.target}`);
      }
    for (let count = 0; count < perDay / 12; count++) {
      const at = date + Math.floor(random() * day);
      const userAgent = crawlers[Math.floor(random() * crawlers.length)] as string;
      add(at, { address: "203.0.113.250", userAgent }, `GET ${pick(random, pages)}`, 200, 11_000, "");
    }
    out.sort((a, b) => a[0] - b[0]);
    // A disk that was full for a moment: two lines of the log are cut short.
    if (date === first + 2 * day)
      for (const index of [400, 401]) if (out[index]) out[index][1] = out[index][1].slice(0, 60);
    for (const [, line] of out) {
      if (left-- <= 0) return;
      yield line;
    }
  }
}
