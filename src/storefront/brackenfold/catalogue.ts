/** What Brackenfold, the made-up plant nursery, sells. Prices in cents of euro. */

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

/** Every page that has slots, with what the site tells of it. */
export interface StorePage {
  path: string;
  title: string;
  facts: { id: string; category?: string; tags?: string[]; language: string };
}

export const storePages: readonly StorePage[] = [
  { path: "/", title: "the home page", facts: { id: "home", language: "en" } },
  ...categories.map((category) => ({
    path: `/${category.id}`,
    title: category.name,
    facts: { id: category.id, category: category.id, language: "en" },
  })),
  ...products.map((item) => ({
    path: item.path,
    title: item.name,
    facts: { id: item.sku, category: item.category, tags: item.tags, language: "en" },
  })),
  { path: "/cart", title: "the cart", facts: { id: "cart", language: "en" } },
];

/** Prices as the shop writes them. */
export const price = (cents: number): string => `€${(cents / 100).toFixed(2)}`;
