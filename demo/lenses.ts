import { makeMemory, noPast, type Past } from "@/core/memory/made";
import type { Lens } from "@/core/formats/lens";
import { demoDays } from "./days";
import { agents, cartLine as line, demoPlaces as place } from "./visitors";

const home = "https://brackenfold.example/";
/** Consent given. */
const known = { consent: true, visitorId: "lens" } as const;
/** The past of a visitor, as seen at an instant. */
const past = (at: string, more: Partial<Past>) =>
  makeMemory({ ...noPast, visits: 1, daysSinceLast: 3, ...more }, Date.parse(at), new Map([["fern-friend", 30]]));

/**
 * The demo's made-up visitors, in the week of the coming clinic: the first is there while it is on, and has agreed to nothing.
 * @param start epoch ms of the day it is filled in
 */
export function demoLenses(start: number): Lens[] {
  const { at } = demoDays(start);
  const lenses: (Omit<Lens, "steps"> & Partial<Pick<Lens, "steps">>)[] = [
    {
      id: "lisbon-desk",
      name: "Lisbon, at a desk",
      visit: {
        at: at(0, "10:15"),
        url: home,
        place: place.lisbon,
        userAgent: agents.desktop,
        acceptLanguage: "pt-PT,pt;q=0.9,en;q=0.5",
        cart: { lines: [line("fern-01", "ferns", 2, 1295), line("seed-02", "seed-boxes", 1, 1850)] },
        data: { signedIn: false },
      },
    },
    {
      id: "berlin-search",
      name: "Berlin, searching for shade",
      visit: {
        at: at(1, "18:40"),
        url: `${home}?utm_source=quarry&utm_medium=cpc&utm_term=shade+fern`,
        referrer: "https://quarry.example/search?q=shade+fern",
        place: place.berlin,
        userAgent: agents.phone,
        hints: { mobile: true, platform: "Android", width: 390 },
        acceptLanguage: "de-DE,de;q=0.9,en;q=0.6",
      },
    },
    {
      id: "oslo-letter",
      name: "Oslo, from the newsletter",
      visit: {
        at: at(2, "07:30"),
        url: `${home}?utm_source=mossmail&utm_medium=email&utm_campaign=winter-light`,
        place: place.oslo,
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
        at: at(2, "19:05"),
        url: `${home}?first_name=Wren&choice=a+shady+corner&pots=3&utm_source=quiz`,
        referrer: "https://quiz.example/",
        place: place.bristol,
        userAgent: agents.phone,
        hints: { mobile: true, platform: "Android", width: 390 },
        acceptLanguage: "en-GB,en;q=0.9",
      },
    },
    {
      id: "new-york-partner",
      name: "New York, from a partner’s blog",
      visit: {
        at: at(4, "15:00"),
        url: home,
        referrer: "https://stone-and-moss.example/shade-garden",
        place: place.newYork,
        userAgent: agents.desktop,
        acceptLanguage: "en-US,en;q=0.9",
      },
    },
    {
      id: "porto-returns",
      name: "Porto, keeps returning to ferns",
      visit: {
        at: at(3, "16:20"),
        url: `${home}ferns`,
        place: place.porto,
        userAgent: agents.phone,
        hints: { mobile: true, platform: "Android", width: 390 },
        acceptLanguage: "pt-PT,pt;q=0.9,en;q=0.5",
        ...known,
        memory: past(at(3, "16:20"), {
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
  return lenses.map((lens) => ({ steps: [], ...lens }));
}
