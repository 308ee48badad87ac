import type { Examples } from "@/core/formats/examples";

/** What the demo's site comes with: the stand-ins from which its visitors arrive, and its made-up log. */
export const demoExamples = (standIn: (name: string) => string, partner: string): Examples => ({
  waysIn: [
    {
      id: "quarry",
      name: "Quarry",
      says: "A search engine: sponsored links above what it finds.",
      origin: standIn("quarry"),
      kind: "search",
      arrivals: [],
    },
    {
      id: "mossmail",
      name: "Mossmail",
      says: "A mailbox: a letter for each link whose source is mossmail.",
      origin: standIn("mossmail"),
      kind: "mail",
      arrivals: [],
    },
    {
      id: "stone-and-moss",
      name: "Stone & Moss",
      says: "A partner’s blog, whose pages are filled by the page script.",
      origin: partner,
      kind: "page",
      arrivals: [
        {
          id: "article",
          name: "Moss in winter: the link in the article",
          says: "",
          target: "/ferns?utm_source=stone-and-moss&utm_medium=partner&utm_campaign=winter-light",
        },
      ],
    },
    {
      id: "quiz",
      name: "The quiz",
      says: "A form that hands its answers over in the link.",
      origin: standIn("quiz"),
      kind: "page",
      arrivals: [
        {
          id: "answers",
          name: "Wren, a shady corner, three pots",
          says: "",
          target: "/?first_name=Wren&choice=a+shady+corner&pots=3&utm_source=quiz",
        },
      ],
    },
  ],
  log: { name: "the made-up log of 200,000 lines", path: "/access-log" },
});
