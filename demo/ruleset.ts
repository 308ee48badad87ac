import type { z } from "zod";
import type { rulesetSchema } from "@/core/formats/ruleset";

/** What Brackenfold's marketing has set up: the demo's first draft, and its first release. */

type Fields = Record<string, unknown>;
const block = (type: string, fields: Fields, tokens = {}) => ({ type, fields, tokens });
const picture = (name: string, alt: string) => ({ src: `/brackenfold/hero-${name}.svg`, alt });
const variant = (id: string, name: string, rule: unknown, content: unknown) =>
  ({ id, name, on: true, rule, arms: [{ id: "a", weight: 100, content }] }) as never;
const when = (signal: string, op: string, value?: unknown) => ({
  signal,
  op,
  ...(value === undefined ? {} : { value }),
});
const hours = (days: string[], start: string, end: string) =>
  when("time", "within", { zone: "Europe/Lisbon", days, windows: [{ start, end }] });
const workdays = ["MO", "TU", "WE", "TH", "FR"];

const hero = (headline: string, text: string, button: string, link: string, image: unknown) =>
  block("hero", { headline, text, button, link, picture: image });

export const demoRuleset: z.input<typeof rulesetSchema> = {
  format: "mirada-ruleset/1",
  site: {
    id: "brackenfold",
    name: "Brackenfold",
    zone: "Europe/Lisbon",
    currency: "EUR",
    language: "en",
    origin: "https://brackenfold.example",
    popupGapMinutes: 0,
  },
  dataFields: [
    { signal: "data", name: "signedIn", kind: "flag" },
    { signal: "data", name: "wishList", kind: "texts" },
    { signal: "page.data", name: "inSeason", kind: "flag" },
  ],
  wordParameters: ["kw", "utm_term"],
  searchSources: [
    { host: "quarry.example", engine: "quarry", parameter: "q" },
    { host: "quarry.localhost", engine: "quarry", parameter: "q" },
  ],
  placeLists: [
    {
      id: "eu-post",
      name: "Where plants can be posted",
      places: ["AT", "BE", "DE", "DK", "ES", "FR", "IE", "IT", "LU", "NL", "PT"].map((country) => ({ country })),
    },
    {
      id: "north",
      name: "Northern Europe",
      places: ["DK", "EE", "FI", "IE", "IS", "LT", "LV", "NO", "SE", "GB"].map((country) => ({ country })),
    },
  ],
  audiences: [
    { id: "newsletter", name: "Newsletter readers", rule: when("campaign.source", "is", "mossmail") as never },
    {
      id: "iberian-phones",
      name: "On phones in Iberia",
      rule: {
        all: [
          when("device.kind", "is", "phone"),
          when("place", "isIn", [{ country: "ES" }, { country: "PT" }]),
          when("language", "accepts", ["es", "pt"]),
        ],
      } as never,
    },
    {
      id: "shade-seekers",
      name: "Looking for shade",
      rule: {
        any: [when("search.words", "hasAnyWord", "shade shadow dark"), when("campaign.name", "is", "winter-light")],
      } as never,
    },
  ],
  markers: [
    {
      id: "fern-friend",
      name: "Fern friend",
      gain: when("page.category", "is", "ferns") as never,
      gainViews: 2,
      lose: null,
      days: 30,
    },
    {
      id: "clinic-guest",
      name: "Came for the clinic",
      gain: when("campaign.content", "is", "clinic") as never,
      gainViews: 1,
      lose: when("page.path", "is", "/checkout") as never,
      days: 7,
    },
  ],
  offers: [
    {
      id: "ferns-10",
      name: "Fern weeks",
      threshold: "60.00",
      scope: { categories: ["ferns"] },
      reward: { percent: 10 },
      label: "10 % off ferns",
    },
    {
      id: "seed-box",
      name: "Free seed box",
      rule: when("cart.skus", "isOneOf", ["seed-01"]) as never,
      threshold: "75.00",
      reward: { amount: "16.00" },
      label: "Seed box “First frost” on us",
    },
    {
      id: "delivery",
      name: "Free delivery, mainland Portugal",
      rule: when("place", "isIn", [{ country: "PT" }]) as never,
      threshold: "45.00",
      reward: { freeDelivery: true },
      label: "Delivered free in mainland Portugal",
    },
  ],
  blockTypes: [
    {
      id: "bar",
      name: "Bar",
      fields: [
        { id: "text", name: "Text", kind: "line" },
        { id: "link", name: "Link", kind: "link" },
      ],
    },
    {
      id: "hero",
      name: "Hero",
      fields: [
        { id: "headline", name: "Headline", kind: "line" },
        { id: "text", name: "Text", kind: "text" },
        { id: "button", name: "Button", kind: "line" },
        { id: "link", name: "Button leads to", kind: "link" },
        { id: "picture", name: "Picture", kind: "image" },
      ],
    },
    {
      id: "note",
      name: "Note",
      fields: [
        { id: "headline", name: "Headline", kind: "line" },
        { id: "text", name: "Text", kind: "text" },
      ],
    },
    {
      id: "help",
      name: "Help",
      fields: [
        { id: "headline", name: "Headline", kind: "line" },
        { id: "text", name: "Text", kind: "text" },
        { id: "button", name: "Button", kind: "line" },
        { id: "link", name: "Button leads to", kind: "link" },
      ],
    },
  ],
  slots: [
    {
      id: "site-bar",
      name: "Site bar",
      pages: null,
      variants: [
        variant(
          "bar-portugal",
          "Portugal",
          { all: [when("place", "isIn", [{ country: "PT" }]), when("language", "prefers", ["pt"])] },
          block("bar", { text: "Portes grátis para Portugal continental a partir de €45", link: "/cart" }),
        ),
        variant(
          "bar-spain",
          "Spain",
          { all: [when("place", "isIn", [{ country: "ES" }]), when("language", "prefers", ["es"])] },
          block("bar", { text: "Envío a toda la península en 48 horas", link: "/ferns" }),
        ),
        variant(
          "bar-no-post",
          "No plants by post",
          when("place", "isNotIn", [{ list: "eu-post" }]),
          block("bar", { text: "We can’t post plants to you, but seeds and tools travel well", link: "/seed-boxes" }),
        ),
      ],
      fallback: block("bar", { text: "Plants packed by hand in Portugal, posted on Mondays and Wednesdays", link: "" }),
    },
    {
      id: "home-hero",
      name: "Home hero",
      pages: when("page.id", "is", "home") as never,
      variants: [
        variant(
          "clinic",
          "Repotting clinic",
          hours(["TU"], "10:00", "12:00"),
          hero(
            "The repotting clinic is open now",
            "Bring your tired plant. We answer live until noon, Lisbon time.",
            "Join the stream",
            "/tools",
            picture("clinic", "A fern and a succulent waiting to be repotted"),
          ),
        ),
        variant(
          "winter-light",
          "Winter light, newsletter",
          { all: [{ audience: "newsletter" }, when("campaign.name", "is", "winter-light")] },
          hero(
            "Hello again: here is your winter light",
            "Readers of our letter get the shade collection first, while the days are short.",
            "See the collection",
            "/ferns",
            picture("light", "A potted fern in low winter sun"),
          ),
        ),
        variant(
          "shade-search",
          "Shade ferns",
          when("search.words", "hasAnyWord", "shade shadow dark"),
          hero(
            "Ferns that love the dark",
            "Four kinds that thrive where the sun never comes.",
            "Ferns for shade",
            "/ferns",
            picture("shade", "Ferns in deep shade"),
          ),
        ),
        variant(
          "frost",
          "Frost warning",
          when("place", "isIn", [{ list: "north" }]),
          hero(
            "Frost on the way?",
            "How to bring ferns and seedlings through the first cold nights.",
            "Seed box “First frost”",
            "/seed-boxes/box-first-frost",
            picture("frost", "A fern under a glass cloche in the snow"),
          ),
        ),
        variant(
          "partner",
          "From Stone & Moss",
          when("referrer.host", "isOneOf", ["stone-and-moss.example", "stone-and-moss.localhost"]),
          hero(
            "Welcome, reader of Stone & Moss",
            "The plants from the article are all here, and in season.",
            "See them",
            "/ferns",
            picture("visit", "A small glasshouse with ferns"),
          ),
        ),
      ],
      fallback: hero(
        "Ferns for every corner",
        "Grown slowly in the hills behind Monchique, and posted to your door.",
        "See the ferns",
        "/ferns",
        picture("ferns", "A bank of ferns"),
      ),
    },
    {
      id: "category-note",
      name: "Category note",
      pages: when("page.category", "isPresent") as never,
      variants: [
        variant(
          "note-fern-friend",
          "Keeps coming back to ferns",
          { all: [when("page.category", "is", "ferns"), when("marker.fern-friend", "isTrue")] },
          block("note", {
            headline: "You again? Good.",
            text: "Take three ferns, and we pack a handful of leaf mould with them.",
          }),
        ),
        variant(
          "note-ferns-phone",
          "Ferns on a phone",
          { all: [when("page.category", "is", "ferns"), when("device.kind", "is", "phone")] },
          block("note", {
            headline: "Standing in the garden centre?",
            text: "Take a picture of the label and ask us: we answer on working days.",
          }),
        ),
        variant(
          "note-ferns",
          "Ferns",
          when("page.category", "is", "ferns"),
          block("note", {
            headline: "Water from below",
            text: "Stand the pot in a bowl for ten minutes. Ferns drink best that way.",
          }),
        ),
        variant(
          "note-weekend",
          "Weekend",
          hours(["SA", "SU"], "00:00", "24:00"),
          block("note", {
            headline: "Ordered at the weekend, posted on Monday",
            text: "Nothing spends a weekend in a parcel.",
          }),
        ),
      ],
      fallback: null,
    },
    {
      id: "cart-note",
      name: "Cart note",
      pages: {
        any: [when("page.id", "isOneOf", ["cart", "checkout"]), when("page.path", "matches", "/*/*")],
      } as never,
      variants: [
        variant(
          "offer-ferns-10-reached",
          "Fern weeks: reached",
          { all: [when("cart.subtotal", "gt", "0"), when("cart.toGo.ferns-10", "eq", "0")] },
          block("note", { headline: "10 % off ferns: it is yours", text: "It is taken off in the cart." }),
        ),
        variant(
          "offer-ferns-10-nearly",
          "Fern weeks: nearly",
          { all: [when("cart.subtotal", "gt", "0"), when("cart.toGo.ferns-10", "between", ["0.01", "30.00"])] },
          block(
            "note",
            {
              headline: "Only {togo, number, ::currency/EUR} to go: 10 % off ferns",
              text: "You are nearly there.",
            },
            { togo: { signal: "cart.toGo.ferns-10" } },
          ),
        ),
      ],
      fallback: null,
    },
    {
      id: "footer-help",
      name: "Footer help",
      pages: null,
      variants: [
        variant(
          "help-call",
          "Call us, on a phone",
          { all: [hours(workdays, "09:00", "18:00"), when("device.kind", "is", "phone")] },
          block("help", {
            headline: "The advice line is open",
            text: "Until 18:00, Lisbon time.",
            button: "Call now",
            link: "tel:+351555010101",
          }),
        ),
        variant(
          "help-open",
          "Advice line open",
          hours(workdays, "09:00", "18:00"),
          block("help", {
            headline: "The advice line is open",
            text: "Call +351 555 010 101 until 18:00, Lisbon time.",
            button: "Write instead",
            link: "mailto:advice@brackenfold.example",
          }),
        ),
      ],
      fallback: block("help", {
        headline: "Ask us anything that grows",
        text: "The advice line opens on working days from 9:00 to 18:00, Lisbon time.",
        button: "Write to us",
        link: "mailto:advice@brackenfold.example",
      }),
    },
  ],
};
