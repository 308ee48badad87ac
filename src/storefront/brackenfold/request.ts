import { answer, type Answer } from "@/delivery/answer";
import { cartCookie, readCart, visitCart } from "./cart";
import { storePages } from "./catalogue";

interface Incoming {
  headers: Headers;
  cookies: { name: string; value: string }[];
  path: string;
  /** The query as it was sent, with its "?". */
  search: string;
}

/** What a page of the shop shows to whoever asks for it. */
export function answerShop({ headers, cookies, path, search }: Incoming): Promise<Answer | undefined> {
  const page = storePages.find((item) => item.path === path);
  const pass = new URLSearchParams(search).get("look") ?? undefined;
  return answer({
    site: "brackenfold",
    target: `${path}${search}`,
    headers,
    address: headers.get("x-mirada-peer") ?? undefined,
    cookies: Object.fromEntries(cookies.map(({ name, value }) => [name, value])),
    page: page?.facts,
    cart: visitCart(readCart(cookies.find((cookie) => cookie.name === cartCookie)?.value)),
    pass,
  });
}
