import { makeMemory, noPast, type Past } from "@/core/memory/made";
import type { Lens } from "@/data/lenses";

const agents = {
  phone:
    "Mozilla/5.0 (Linux; Android 16; Pixel 9) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Mobile Safari/537.36",
  desktop:
    "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36",
};
const home = "https://brackenfold.example/";
const line = (sku: string, category: string, quantity: number, unitPrice: number) => ({
  sku,
  category,
  quantity,
  unitPrice,
});
/** Agreed to be remembered. */
const known = { consent: true, visitorId: "lens" } as const;
/** The past of a visitor, as seen at an instant. */
const past = (at: string, more: Partial<Past>) =>
  makeMemory({ ...noPast, visits: 1, daysSinceLast: 3, ...more }, Date.parse(at), new Map([["fern-friend", 30]]));

/** The demo's made-up visitors. Their time is set to now when they are first looked through. */
type Demo = Omit<Lens, "steps"> & Partial<Pick<Lens, "steps">>;

export const demoLenses: Demo[] = [
  {
    id: "lisbon-desk",
    name: "Lisbon, at a desk",
    visit: {
      at: "2026-11-24T10:15:00Z",
      url: home,
      place: { country: "PT", region: "PT-11", city: "Lisbon", zone: "Europe/Lisbon", lat: 38.72, lon: -9.14 },
      userAgent: agents.desktop,
      acceptLanguage: "pt-PT,pt;q=0.9,en;q=0.5",
      ...known,
      cart: { lines: [line("fern-01", "ferns", 2, 1295), line("seed-02", "seed-boxes", 1, 1850)] },
      data: { signedIn: false },
    },
  },
  {
    id: "berlin-search",
    name: "Berlin, searching for shade",
    visit: {
      at: "2026-11-25T18:40:00Z",
      url: `${home}?utm_source=quarry&utm_medium=cpc&utm_term=shade+fern`,
      referrer: "https://quarry.example/search?q=shade+fern",
      place: { country: "DE", region: "DE-BE", city: "Berlin", zone: "Europe/Berlin", lat: 52.52, lon: 13.4 },
      userAgent: agents.phone,
      hints: { mobile: true, platform: "Android", width: 390 },
      acceptLanguage: "de-DE,de;q=0.9,en;q=0.6",
    },
  },
  {
    id: "oslo-letter",
    name: "Oslo, from the newsletter",
    visit: {
      at: "2026-11-26T07:30:00Z",
      url: `${home}?utm_source=mossmail&utm_medium=email&utm_campaign=winter-light`,
      place: { country: "NO", region: "NO-03", city: "Oslo", zone: "Europe/Oslo", lat: 59.91, lon: 10.75 },
      userAgent: agents.phone,
      hints: { mobile: true, platform: "Android", width: 390 },
      acceptLanguage: "nb-NO,nb;q=0.9,en;q=0.7",
      ...known,
      cart: { lines: [] },
      data: { signedIn: false },
    },
  },
  {
    id: "bristol-quiz",
    name: "Bristol, from the quiz",
    visit: {
      at: "2026-11-26T19:05:00Z",
      url: `${home}?first_name=Wren&choice=a+shady+corner&pots=3&utm_source=quiz`,
      referrer: "https://quiz.example/",
      place: { country: "GB", region: "GB-BST", city: "Bristol", zone: "Europe/London", lat: 51.45, lon: -2.59 },
      userAgent: agents.phone,
      hints: { mobile: true, platform: "Android", width: 390 },
      acceptLanguage: "en-GB,en;q=0.9",
    },
  },
  {
    id: "new-york-partner",
    name: "New York, from a partner’s blog",
    visit: {
      at: "2026-11-28T15:00:00Z",
      url: home,
      referrer: "https://stone-and-moss.example/shade-garden",
      place: { country: "US", region: "US-NY", city: "New York", zone: "America/New_York", lat: 40.71, lon: -74.01 },
      userAgent: agents.desktop,
      acceptLanguage: "en-US,en;q=0.9",
    },
  },
  {
    id: "porto-returns",
    name: "Porto, keeps returning to ferns",
    visit: {
      at: "2026-11-27T16:20:00Z",
      url: `${home}ferns`,
      place: { country: "PT", region: "PT-13", city: "Porto", zone: "Europe/Lisbon", lat: 41.15, lon: -8.61 },
      userAgent: agents.phone,
      hints: { mobile: true, platform: "Android", width: 390 },
      acceptLanguage: "pt-PT,pt;q=0.9,en;q=0.5",
      ...known,
      memory: past("2026-11-27T16:20:00Z", {
        visits: 3,
        categories: { ferns: 4, succulents: 1 },
        markers: { "fern-friend": { held: true, count: 2 } },
      }),
      cart: { lines: [line("fern-02", "ferns", 3, 950)] },
      data: { signedIn: true, wishList: ["fern-04"] },
    },
    steps: [
      { path: "/ferns/maidenhair", after: 2 },
      { path: "/", after: 4320 },
    ],
  },
];
