import { productBySku } from "./catalogue";

/** The shop's own cookies beside the cart: who is signed in (a stub: nobody is checked) and the wish list. */
export const memberCookie = "member";
export const wishCookie = "wishes";
const mostWishes = 30;

export const readWishes = (cookie: string | undefined): string[] =>
  [...new Set((cookie ?? "").slice(0, 1000).split("."))].filter((sku) => productBySku.has(sku)).slice(0, mostWishes);

/** A wish list with an item put on it, or taken off if it is there. Unknown items change nothing. */
export const changeWishes = (wishes: readonly string[], sku: string): string[] =>
  !productBySku.has(sku)
    ? [...wishes]
    : wishes.includes(sku)
      ? wishes.filter((item) => item !== sku)
      : [...wishes, sku].slice(-mostWishes);

/** What the shop tells of a visitor, as declared in the ruleset's data fields. */
export const accountData = (cookies: Record<string, string>): Record<string, unknown> => ({
  signedIn: cookies[memberCookie] === "yes",
  wishList: readWishes(cookies[wishCookie]),
});
