import type { z } from "zod";
import type { Rule } from "@/core/formats/rule";
import type { rulesetSchema } from "@/core/formats/ruleset";
import { demoDays } from "./days";

/** What Brackenfold's marketing has set up: the demo's first draft, and its first release. */

type Fields = Record<string, unknown>;
const block = (type: string, fields: Fields, tokens = {}) => ({ type, fields, tokens });
const picture = (name: string, alt: string) => ({ src: `/brackenfold/hero-${name}.svg`, alt });
type Content = ReturnType<typeof block> | null;
const variant = (id: string, name: string, rule: Rule, content: Content) => ({
  id,
  name,
  on: true,
  rule,
  arms: [{ id: "a", weight: 100, content }],
});
const when = (signal: string, op: string, value?: unknown) =>
  ({ signal, op, ...(value === undefined ? {} : { value }) }) as Rule;
const hours = (days: string[], start: string, end: string) =>
  when("time", "within", { zone: "Europe/Lisbon", days, windows: [{ start, end }] });
const workdays = ["MO", "TU", "WE", "TH", "FR"];

/** The words of the shop's header, in the order of its block type. */
const headerWords = ["ferns", "succulents", "seed-boxes", "tools", "advice", "cart", "sign-in", "sign-out"];
const header = (...words: string[]) =>
  block("header", Object.fromEntries(headerWords.map((id, index) => [id, words[index]])));
const advice = (headline: string, body: string) => block("article", { headline, body });
const popup = (id: string, name: string, more: object, content: unknown) =>
  ({ id, name, arms: [{ id: "a", weight: 100, content }], ...more }) as never;
const popupFields = [
  { id: "headline", name: "Headline", kind: "line" },
  { id: "text", name: "Text", kind: "html" },
  { id: "picture", name: "Picture", kind: "image" },
  { id: "button", name: "Button", kind: "line" },
  { id: "link", name: "Button leads to", kind: "link" },
  { id: "ask", name: "Ask for an e-mail address: word on the button", kind: "line" },
  { id: "frame", name: "Page of another site to show in it", kind: "link" },
] as const;

const hero = (headline: string, text: string, button: string, link: string, image: unknown) =>
  block("hero", { headline, text, button, link, picture: image });

/** @param start epoch ms of the day it is filled in */
export function demoRuleset(start: number): z.input<typeof rulesetSchema> {
  const { firstPosting, lastPosting } = demoDays(start);
  return {
    format: "mirada-ruleset/1",
    site: {
      id: "brackenfold",
      name: "Brackenfold",
      zone: "Europe/Lisbon",
      currency: "EUR",
      language: "en",
      origin: "https://brackenfold.example",
      popupGapMinutes: 30,
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
      { id: "newsletter", name: "Newsletter readers", rule: when("campaign.source", "is", "mossmail") },
      {
        id: "iberian-phones",
        name: "On phones in Iberia",
        rule: {
          all: [
            when("device.kind", "is", "phone"),
            when("place", "isIn", [{ country: "ES" }, { country: "PT" }]),
            when("language", "accepts", ["es", "pt"]),
          ],
        },
      },
      { id: "growers", name: "Growers", rule: when("campaign.content", "is", "growers") },
      {
        id: "shade-seekers",
        name: "Looking for shade",
        rule: {
          any: [when("search.words", "hasAnyWord", "shade shadow dark"), when("campaign.name", "is", "winter-light")],
        },
      },
    ],
    markers: [
      {
        id: "fern-friend",
        name: "Fern friend",
        gain: when("page.category", "is", "ferns"),
        gainViews: 2,
        lose: null,
        days: 30,
      },
      {
        id: "clinic-guest",
        name: "Came for the clinic",
        gain: when("campaign.content", "is", "clinic"),
        gainViews: 1,
        lose: when("page.path", "is", "/checkout"),
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
        rule: when("cart.skus", "isOneOf", ["seed-01"]),
        threshold: "75.00",
        reward: { amount: "16.00" },
        label: "Seed box “First frost” on us",
      },
      {
        id: "delivery",
        name: "Free delivery, mainland Portugal",
        rule: when("place", "isIn", [{ country: "PT" }]),
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
        id: "header",
        name: "Header",
        fields: headerWords.map((id) => ({
          id,
          name: `Word for ${id.replace("-", " ")}`,
          kind: "line" as const,
        })),
      },
      {
        id: "article",
        name: "Article",
        fields: [
          { id: "headline", name: "Headline", kind: "line" },
          { id: "body", name: "Text", kind: "html" },
        ],
      },
      {
        id: "offer",
        name: "Offer card",
        fields: [
          { id: "headline", name: "Headline", kind: "line" },
          { id: "text", name: "Text", kind: "text" },
          { id: "price", name: "Price", kind: "number" },
          { id: "button", name: "Button", kind: "line" },
          { id: "link", name: "Button leads to", kind: "link" },
        ],
      },
      { id: "popup-box", name: "Pop-up in a box", fields: [...popupFields] },
      { id: "popup-corner", name: "Pop-up in a corner", fields: [...popupFields] },
      { id: "popup-bar", name: "Pop-up as a bar", fields: [...popupFields] },
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
    goals: [{ id: "cart", name: "Looked into the cart", way: "page", pages: when("page.path", "is", "/cart") }],
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
        fallback: block("bar", {
          text: "Plants packed by hand in Portugal, posted on Mondays and Wednesdays",
          link: "",
        }),
      },
      {
        id: "site-header",
        name: "Header",
        pages: null,
        variants: [
          variant(
            "header-pt",
            "Português",
            when("language", "prefers", ["pt"]),
            header(
              "Fetos",
              "Suculentas",
              "Caixas de sementes",
              "Ferramentas",
              "Conselhos",
              "Carrinho",
              "Entrar",
              "Sair",
            ),
          ),
          variant(
            "header-es",
            "Español",
            when("language", "prefers", ["es"]),
            header(
              "Helechos",
              "Suculentas",
              "Cajas de semillas",
              "Herramientas",
              "Consejos",
              "Cesta",
              "Entrar",
              "Salir",
            ),
          ),
          variant(
            "header-de",
            "Deutsch",
            when("language", "prefers", ["de"]),
            header("Farne", "Sukkulenten", "Saatkisten", "Werkzeug", "Rat", "Korb", "Anmelden", "Abmelden"),
          ),
        ],
        fallback: header("Ferns", "Succulents", "Seed boxes", "Tools", "Advice", "Cart", "Sign in", "Sign out"),
      },
      {
        id: "home-hero",
        name: "Home hero",
        pages: when("page.id", "is", "home"),
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
        id: "home-quiz",
        name: "Quiz answer",
        pages: when("page.id", "is", "home"),
        variants: [
          variant(
            "quiz-answer",
            "Came from the quiz",
            when("query.choice", "isPresent"),
            block(
              "note",
              {
                headline: "Hello {first_name}, a plant for {choice}:",
                text: "We thought of {pots, plural, one {one fern} other {# ferns}} that would be happy there.",
              },
              {
                first_name: { signal: "query.first_name", fallback: "there" },
                choice: { signal: "query.choice" },
                pots: { signal: "query.pots", fallback: "2" },
              },
            ),
          ),
        ],
        fallback: null,
      },
      {
        id: "home-strip",
        name: "Offer strip",
        pages: when("page.id", "is", "home"),
        take: 3,
        variants: [
          variant("strip-growers", "For growers", { audience: "growers" }, block("offer", {})),
          variant("strip-one", "First by price", null, block("offer", {})),
          variant("strip-two", "Second by price", null, block("offer", {})),
          variant("strip-three", "Third by price", null, block("offer", {})),
        ],
        fallback: null,
      },
      {
        id: "product-promise",
        name: "Promise",
        goal: "order",
        pages: { all: [when("page.path", "matches", "/*/*"), when("page.category", "isNot", "care")] },
        variants: [
          {
            ...variant("promise", "Promise on products", null, null),
            rememberDays: 14,
            arms: [
              {
                id: "a",
                weight: 40,
                content: block("note", { headline: "It arrives alive.", text: "If it does not, we send another." }),
              },
              {
                id: "b",
                weight: 40,
                content: block("note", {
                  headline: "Packed by hand.",
                  text: "In moss and paper, by people you can call.",
                }),
              },
              { id: "control", weight: 20, content: null },
            ],
          },
        ],
        fallback: null,
      },
      {
        id: "advice-topic",
        name: "Advice by topic",
        pages: when("page.id", "is", "advice"),
        variants: [
          variant(
            "topic-water",
            "Water",
            when("query.topic", "is", "water"),
            advice(
              "Water",
              "<p>From below, with rain water, and never on a timetable.</p><ul><li>Ferns: a bowl, ten minutes</li><li>Succulents: when the leaves give</li></ul>",
            ),
          ),
          variant(
            "topic-repotting",
            "Repotting",
            when("query.topic", "is", "repotting"),
            advice(
              "Repotting",
              "<p>In spring, one size up, and on <strong>Tuesdays</strong> with us in the clinic.</p>",
            ),
          ),
        ],
        fallback: advice("Light", "<p>Which plant for which window: north for ferns, south for succulents.</p>"),
      },
      {
        id: "category-note",
        name: "Category note",
        pages: when("page.category", "isPresent"),
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
        },
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
    popups: [
      popup(
        "winter-letter",
        "Winter letter",
        {
          pages: when("page.category", "isOneOf", ["ferns", "succulents"]),
          rule: { none: [{ audience: "newsletter" }] },
          opensAfter: { leaving: true },
          size: { width: 460, height: 300 },
          cap: { times: 1, per: "ever" },
        },
        block("popup-box", {
          headline: "Before you go: the winter letter",
          text: "<p>Four letters a year, each with one plant for the dark months.</p>",
          ask: "Send me the letter",
        }),
      ),
      popup(
        "clinic-corner",
        "Clinic this week",
        {
          pages: when("page.category", "is", "care"),
          opensAfter: { scrollPercent: 40 },
          size: { width: 320, height: 140 },
          cap: { times: 1, per: "day" },
        },
        block("popup-corner", {
          headline: "Bring it to the clinic",
          text: "<p>Tuesdays, 10 to 12, live from the potting bench.</p>",
          button: "What to bring",
          link: "/advice?topic=repotting",
        }),
      ),
      popup(
        "posting-bar",
        "Last posting day",
        {
          pages: when("page.id", "isOneOf", ["cart", "checkout"]),
          rule: when("time", "within", {
            zone: "Europe/Lisbon",
            from: firstPosting,
            until: lastPosting,
          }),
          opensAfter: { seconds: 3 },
          size: { width: 900, height: 60 },
          cap: { times: 1, per: "visit" },
        },
        block("popup-bar", {
          headline: "Last posting day: 18 December",
          text: "<p>What is ordered by noon is there before the holidays.</p>",
        }),
      ),
    ],
    redirects: [
      {
        id: "old-catalogue",
        name: "The old catalogue",
        rule: when("page.path", "startsWith", "/catalogue"),
        to: "/ferns",
        status: 301,
        keepQuery: true,
      },
      {
        id: "seeds-overseas",
        name: "Seed shop for overseas",
        on: false,
        rule: {
          all: [when("place", "isIn", [{ continent: "NA" }]), when("page.category", "is", "seed-boxes")],
        },
        to: "https://seeds.brackenfold.example/{country}{+path}",
        status: 302,
        keepQuery: true,
        frequency: "visit",
        skipBots: true,
        exemptAddresses: ["203.0.113.0/24"],
      },
    ],
  };
}
