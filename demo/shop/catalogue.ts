/** What Brackenfold, the made-up plant nursery, sells. Prices in cents of euro. */
import type { Visit } from "@/core/formats/visit";

export interface Category {
  id: string;
  name: string;
  words: string;
}
export interface Product {
  sku: string;
  path: string;
  name: string;
  category: string;
  price: number;
  tags: string[];
  words: string;
  picture: string;
}

export const categories: readonly Category[] = [
  { id: "ferns", name: "Ferns", words: "For the corner where nothing else grows." },
  { id: "succulents", name: "Succulents", words: "They forgive a forgotten watering can." },
  { id: "seed-boxes", name: "Seed boxes", words: "A season in a box, with a sowing calendar." },
  { id: "tools", name: "Tools", words: "Few, plain, and made to be repaired." },
];

const product = (
  sku: string,
  slug: string,
  name: string,
  category: string,
  price: number,
  tags: string[],
  words: string,
): Product => ({
  sku,
  path: `/${category}/${slug}`,
  name,
  category,
  price,
  tags,
  words,
  picture: `/brackenfold/${slug}.svg`,
});

export const products: readonly Product[] = [
  product(
    "fern-01",
    "harts-tongue",
    "Hart’s-tongue fern",
    "ferns",
    1295,
    ["shade", "evergreen"],
    "Glossy straps that stay green through the winter. Happy in deep shade and on old walls.",
  ),
  product(
    "fern-02",
    "maidenhair",
    "Maidenhair",
    "ferns",
    950,
    ["shade", "indoor"],
    "Black stems, a green cloud. Keep it moist and out of the draught.",
  ),
  product(
    "fern-03",
    "lady-fern",
    "Lady fern",
    "ferns",
    1150,
    ["shade", "garden"],
    "Lacy fronds to the knee, new every spring.",
  ),
  product(
    "fern-04",
    "sword-fern",
    "Sword fern",
    "ferns",
    1495,
    ["shade", "evergreen"],
    "Upright and tough; a hedge of its own for dark corners.",
  ),
  product(
    "succ-01",
    "echeveria",
    "Echeveria",
    "succulents",
    690,
    ["sun", "indoor"],
    "A rosette the colour of sea glass.",
  ),
  product("succ-02", "haworthia", "Haworthia", "succulents", 590, ["indoor"], "For the desk with a north window."),
  product(
    "succ-03",
    "houseleek",
    "Houseleek trio",
    "succulents",
    1150,
    ["sun", "hardy"],
    "Three hardy rosettes that spread over any stone.",
  ),
  product(
    "seed-01",
    "box-first-frost",
    "Seed box “First frost”",
    "seed-boxes",
    1600,
    ["winter"],
    "Broad beans, winter lettuce, garlic: sow before the cold.",
  ),
  product(
    "seed-02",
    "box-kitchen",
    "Seed box “Kitchen”",
    "seed-boxes",
    1850,
    ["herbs"],
    "Eight herbs for a window sill.",
  ),
  product(
    "seed-03",
    "box-meadow",
    "Seed box “Meadow”",
    "seed-boxes",
    1400,
    ["bees"],
    "Twenty native flowers for two square metres.",
  ),
  product(
    "tool-01",
    "trowel",
    "Ash trowel",
    "tools",
    1950,
    ["hand tool"],
    "Forged blade, ash handle, a new one if it breaks.",
  ),
  product(
    "tool-02",
    "watering-can",
    "Watering can, 5 litres",
    "tools",
    3450,
    ["watering"],
    "A long neck and a fine brass rose.",
  ),
  product(
    "tool-03",
    "secateurs",
    "Secateurs",
    "tools",
    4200,
    ["hand tool"],
    "Every part can be replaced, the spring too.",
  ),
];

export const productBySku = new Map(products.map((item) => [item.sku, item]));

/** Plain pages of words: care guides, contact. */
export interface Article {
  path: string;
  id: string;
  category?: string;
  tags: string[];
  title: string;
  paragraphs: string[];
}
export const articles: readonly Article[] = [
  {
    path: "/care/water-ferns",
    id: "care-water",
    category: "care",
    tags: ["watering", "shade"],
    title: "How to water a fern",
    paragraphs: [
      "Stand the pot in a bowl of rain water for ten minutes, then let it drain. Once a week in winter, twice in summer.",
      "Brown tips are thirst; yellow fronds are too much. A fern in deep shade drinks half of what one in the light does.",
    ],
  },
  {
    path: "/care/first-frost",
    id: "care-frost",
    category: "care",
    tags: ["frost", "winter"],
    title: "The first frost",
    paragraphs: [
      "Bring potted succulents in before the first night below three degrees. Hardy ferns stay outside under a hand of leaves.",
      "Seedlings go under glass in the evening and come out at noon.",
    ],
  },
  {
    path: "/contact",
    id: "contact",
    tags: [],
    title: "Write, call or come by",
    paragraphs: [
      "The advice line, +351 555 010 101, is open on working days from 9:00 to 18:00, Lisbon time.",
      "The nursery lies behind Monchique. Visits on Saturdays, by appointment.",
    ],
  },
];

/** The tabs of the advice page: which one is open is chosen by the query parameter `topic`. */
export const adviceTopics = [
  { id: "light", name: "Light" },
  { id: "water", name: "Water" },
  { id: "repotting", name: "Repotting" },
] as const;

/** Every page that has slots, with what the site tells of it. */
export interface StorePage {
  path: string;
  title: string;
  facts: NonNullable<Visit["page"]>;
}

/** Sold well just now: told as page data. */
const inSeason = new Set(["fern-01", "fern-02", "seed-01", "succ-01"]);

export const storePages: readonly StorePage[] = [
  { path: "/", title: "the home page", facts: { id: "home", language: "en" } },
  ...categories.map((category) => ({
    path: `/${category.id}`,
    title: category.name,
    facts: { id: category.id, category: category.id, language: "en", text: category.words },
  })),
  ...products.map((item) => ({
    path: item.path,
    title: item.name,
    facts: {
      id: item.sku,
      category: item.category,
      tags: item.tags,
      language: "en",
      text: `${item.name}. ${item.words}`,
      data: { inSeason: inSeason.has(item.sku) },
    },
  })),
  ...articles.map(({ path, id, category, tags, title, paragraphs }) => ({
    path,
    title,
    facts: {
      id,
      language: "en",
      text: [title, ...paragraphs].join(" "),
      ...(category === undefined ? {} : { category }),
      ...(tags.length === 0 ? {} : { tags }),
    },
  })),
  { path: "/advice", title: "the advice page", facts: { id: "advice", category: "care", language: "en" } },
  { path: "/letter", title: "the winter letter", facts: { id: "letter", language: "en" } },
  { path: "/cart", title: "the cart", facts: { id: "cart", language: "en" } },
  { path: "/checkout", title: "the checkout", facts: { id: "checkout", language: "en" } },
];

/** Prices as the shop writes them. */
export const price = (cents: number): string => `€${(cents / 100).toFixed(2)}`;
