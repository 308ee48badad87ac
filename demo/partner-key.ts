/** The public key that stands in the partner's page. Whoever looks at the page sees it; it is good from allowed origins alone. */
export const partnerKey = "page_brackenfold_5701e0a4d0055b10900dfe11";
