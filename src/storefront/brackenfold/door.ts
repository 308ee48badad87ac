import { answer, answerShare, type Answer } from "@/delivery/answer";
import { cartCookie, readCart, visitCart } from "./cart";
import { storePages } from "./catalogue";
import { accountData } from "./account";

interface Incoming {
  headers: Headers;
  cookies: Record<string, string>;
  path: string;
  /** The query as it was sent, with its "?". */
  search: string;
}

/**
 * Decides what a page of the shop shows to whoever asks for it. Where there is no such page only a redirect counts: nobody has
 * seen a page there. Undefined: neither, or nothing is live.
 */
export async function answerShop({ headers, cookies, path, search }: Incoming): Promise<Answer | undefined> {
  const page = storePages.find((item) => item.path === path);
  const answered = await answer({
    site: "brackenfold",
    target: `${path}${search}`,
    headers,
    peer: headers.get("x-mirada-peer") ?? undefined,
    forwarded: headers.get("x-mirada-forwarded") ?? undefined,
    cookies,
    page: page?.facts,
    cart: visitCart(readCart(cookies[cartCookie])),
    data: accountData(cookies),
    pass: new URLSearchParams(search).get("look") ?? undefined,
  });
  return page || answered?.decision.redirect ? answered : undefined;
}

/** What a page shows to whoever has the link to a shared lens: its visitor goes on to the page asked for. */
export const answerShared = (share: string, path: string, search: string): Promise<Answer | undefined> =>
  answerShare("brackenfold", share, path, search, storePages.find((item) => item.path === path)?.facts);
