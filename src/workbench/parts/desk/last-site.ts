import { keepHere } from "../kept-here";

/** The cookie that keeps at which site a browser was last. No secret: what one may see there is asked anew each time. */
export const lastSiteCookie = "mirada-site";

export const rememberSite = (site: string): void => keepHere(lastSiteCookie, site);
