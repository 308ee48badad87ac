import { t } from "../messages/t";
import { isUrl, urlOf } from "../text/is-url";
/** Hosts and origins as people write them in settings. */

/** What is wrong with the name of another host, in lower case and with its port if it has one; undefined if nothing is. */
export function hostProblem(host: string): string | undefined {
  const url = urlOf(`https://${host}/`);
  return url && url.host === host && url.pathname === "/" && url.username === "" && /[a-z0-9]/.test(host)
    ? undefined
    : t("“{host}” is no host: write it as shop.example or shop.example:8080, in small letters", {
        host: host.slice(0, 60),
      });
}

/** What is wrong with an origin, as browsers write it: `https://partner.example`, with a port if it is not the usual one. */
export const originProblem = (text: string): string | undefined => {
  if (!isUrl(text)) return t("An origin is written https://partner.example");
  const url = new URL(text);
  if (!/^https?:$/.test(url.protocol)) return t("An origin begins with https:// or http://");
  return url.origin === text ? undefined : t("Only the origin, without a path: {origin}", { origin: url.origin });
};
