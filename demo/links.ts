import type { CampaignLink } from "@/core/campaigns/link";

const utm = (source: string, medium: string, campaign: string, more: Record<string, string> = {}) =>
  Object.entries({ utm_source: source, utm_medium: medium, utm_campaign: campaign, ...more }).map(([name, value]) => ({
    name,
    value,
  }));

/** The links that Brackenfold's marketing sends people with. The last one is spelled as links are spelled in a hurry. */
export const demoLinks: CampaignLink[] = [
  {
    id: "winter-letter",
    name: "Winter light, the letter’s picture",
    path: "/",
    tags: utm("mossmail", "email", "winter-light", { utm_content: "picture" }),
    part: "",
    note: "Sent on Tuesdays at 8:00",
    usedBy: "Mossmail",
  },
  {
    id: "growers-letter",
    name: "Winter light, for growers",
    path: "/",
    tags: utm("mossmail", "email", "winter-light", { utm_content: "growers" }),
    part: "",
    note: "Only to those who buy trays",
    usedBy: "Mossmail",
  },
  {
    id: "shade-ad",
    name: "Search ad: shade ferns",
    path: "/",
    tags: utm("quarry", "cpc", "shade", { utm_term: "{keyword}" }),
    part: "",
    note: "The ad system fills in what was searched for",
    usedBy: "Quarry ads",
  },
  {
    id: "partner-article",
    name: "Shade garden article",
    path: "/ferns",
    tags: utm("stone-and-moss", "partner", "winter-light"),
    part: "",
    note: "In the article about shade gardens",
    usedBy: "Stone & Moss",
  },
  {
    id: "quiz",
    name: "From the quiz",
    path: "/",
    tags: [
      { name: "first_name", value: "{first_name}" },
      { name: "choice", value: "{choice}" },
      { name: "pots", value: "{pots}" },
      { name: "utm_source", value: "quiz" },
    ],
    part: "",
    note: "",
    usedBy: "The quiz",
  },
  {
    id: "letter-reminder",
    name: "Winter light, the reminder",
    path: "/",
    tags: utm("Mossmail", "Email", "winter_light"),
    part: "",
    note: "To those who did not open the first",
    usedBy: "Mossmail",
  },
];
