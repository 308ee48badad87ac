/** Public keys, as they stand in pages. Whoever looks at a page sees them; they are good from the sites' own origins alone. */

/** The shop's, in the first page of its partner. */
export const partnerKey = "page_brackenfold_5701e0a4d0055b10900dfe11";
/** That of Stone & Moss itself, in its other pages. */
export const stoneAndMossKey = "page_stone-and-moss_8d2f6c1b7e3a4590b6c2d1e8";
