import type { Check } from "@/core/formats/check";
import type { Visit } from "@/core/formats/visit";
import { onPage } from "@/core/lens/pages";
import { factsByPath } from "@/core/lens/pages";
import { storePages } from "./shop/catalogue";
import { demoDays } from "./days";
import { agents, cartLine as line, demoPlaces as place } from "./visitors";

const facts = factsByPath(storePages);
const home = "https://brackenfold.example";

/** What Brackenfold's shop promises: its expectations, kept as checks. @param start epoch ms of the day it is filled in */
export function demoChecks(start: number): Check[] {
  const { at } = demoDays(start);
  const visit = (path: string, more: Partial<Visit>): Visit =>
    onPage({ at: at(0, "10:15"), url: `${home}${path}`, userAgent: agents.desktop, ...more }, facts);
  const pageOf = (path: string) => facts.get(path) as NonNullable<Visit["page"]>;
  const check = (
    id: string,
    name: string,
    seen: Visit,
    expect: Check["expect"],
    steps: Check["steps"] = [],
  ): Check => ({
    id,
    name,
    visit: seen,
    steps,
    expect,
  });
  return [
    check("clinic-open", "On Tuesday morning the clinic is announced", visit("/", { place: place.lisbon }), {
      slot: "home-hero",
      variant: "clinic",
    }),
    check("clinic-over", "At noon the clinic is over", visit("/", { at: at(0, "12:00"), place: place.lisbon }), {
      slot: "home-hero",
      variant: null,
    }),
    check(
      "letter-readers",
      "Readers of the letter get the winter collection first",
      visit("/?utm_source=mossmail&utm_medium=email&utm_campaign=winter-light", {
        at: at(2, "08:30"),
        place: place.berlin,
      }),
      { slot: "home-hero", variant: "winter-light" },
    ),
    check(
      "fern-weeks",
      "Ferns for €64.75 cost €58.27",
      visit("/cart", { cart: { lines: [line("fern-01", "ferns", 5, 1295)] } }),
      {
        total: 5827,
      },
    ),
    check(
      "old-catalogue",
      "Old catalogue links lead to the ferns, tags and all",
      visit("/catalogue/ferns?utm_source=quarry", {}),
      {
        redirect: `${home}/ferns?utm_source=quarry`,
      },
    ),
    check(
      "no-post",
      "Who can get no plants by post is told so",
      visit("/", { place: place.newYork, acceptLanguage: "en-US,en;q=0.9" }),
      { slot: "site-bar", variant: "bar-no-post" },
    ),
    check(
      "advice-line",
      "On a phone, while the advice line is open, it can be called",
      visit("/contact", { at: at(1, "17:59"), userAgent: agents.phone, hints: { mobile: true, platform: "Android" } }),
      { slot: "footer-help", text: "Call now" },
    ),
    check(
      "fern-friend",
      "Who comes back to the ferns is greeted",
      visit("/ferns", { consent: true, visitorId: "check", userAgent: agents.desktop }),
      { slot: "category-note", variant: "note-fern-friend" },
      [
        { path: "/ferns/maidenhair", after: 2, page: pageOf("/ferns/maidenhair") },
        { path: "/ferns", after: 4320, page: pageOf("/ferns") },
      ],
    ),
  ];
}
