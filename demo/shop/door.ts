import { answerPage, type Door } from "@/in-process/open-page";
import { workbench } from "../web/places";
import { accountData } from "./account";
import { cartCookie, readCart, visitCart } from "./cart";
import { storePages } from "./catalogue";

/** The id of the shop's site. */
export const shopSite = "brackenfold";

/** How the shop's pages are decided: what it tells of a page, a cart and a visitor. */
export const shopDoor: Door = {
  site: shopSite,
  workbench: workbench(),
  target: (path) => `/sites/brackenfold${path}`,
  tell: (path, cookies) => ({
    page: storePages.find((item) => item.path === path)?.facts,
    cart: visitCart(readCart(cookies[cartCookie])),
    data: accountData(cookies),
  }),
};

/** Decides what a page of the shop shows to whoever asks for it. */
export const answerShop = (request: Parameters<typeof answerPage>[1]) => answerPage(shopDoor, request);
