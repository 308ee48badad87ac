/** In which language a request is answered: the one that was chosen in its browser, or the first that it asks for. */
import { AsyncLocalStorage } from "node:async_hooks";
import type { IncomingHttpHeaders } from "node:http";
import { isLanguage, languageCookie, locales, type Language } from "@/core/messages/languages";
import { speakBy, type Speech } from "@/core/messages/t";
import { languageChoices } from "@/core/visit/language";
import german from "@/messages/de.json";
import portuguese from "@/messages/pt.json";

const catalogues: Readonly<Record<Language, Speech["catalogue"]>> = { en: {}, de: german, pt: portuguese };
/** Several bundles of the process hold this module: who is spoken to is known to all of them. */
const shared = globalThis as { miradaHeard?: AsyncLocalStorage<Speech> };
const heard = (shared.miradaHeard ??= new AsyncLocalStorage<Speech>());

/** @param cookies the Cookie header @param accepted the Accept-Language header (RFC 9110, 12.5.4) */
export function languageOf(cookies: string | undefined, accepted: string | undefined): Language {
  const chosen = new RegExp(`(?:^|; )${languageCookie}=([a-z]+)`).exec(cookies ?? "")?.[1];
  if (chosen !== undefined && isLanguage(chosen)) return chosen;
  for (const tag of languageChoices(accepted)) {
    const language = tag.toLowerCase().split("-")[0] as string;
    if (isLanguage(language)) return language;
  }
  return "en";
}

/** Whatever is said while a request is answered is said in its language. */
export function speakTo<T>(headers: IncomingHttpHeaders, answer: () => T): T {
  const language = languageOf(headers.cookie, headers["accept-language"]);
  return heard.run({ locale: locales[language], catalogue: catalogues[language] }, answer);
}

speakBy(() => heard.getStore());
