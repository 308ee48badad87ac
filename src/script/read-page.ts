/** A page in the browser, as what is collected reads it. */
import { saidBy, type PageReader } from "@/core/collect/gather";
import { seenText } from "./own";

export const pageReader: PageReader = {
  texts(selector, attribute) {
    let found: Element[] = [];
    try {
      found = [...document.querySelectorAll(selector)];
    } catch {
      // The browser takes no such selector: then nothing is found by it.
    }
    return found.flatMap((element) => {
      if (attribute !== undefined) return element.getAttribute(attribute) ?? [];
      const typed = element.matches("input,select,textarea") ? (element as HTMLInputElement).value : undefined;
      return saidBy({
        get: (name) => element.getAttribute(name),
        ...(typed === undefined ? {} : { typed }),
        text: () => seenText(element),
      });
    });
  },
  jsonLd: () =>
    [...document.querySelectorAll('script[type="application/ld+json"]')].flatMap((script) => {
      try {
        return [JSON.parse(script.textContent ?? "") as unknown];
      } catch {
        // It is no JSON: then it tells nothing.
        return [];
      }
    }),
  objects(name) {
    // Whatever the page calls its list.
    const list = (window as unknown as Record<string, unknown>)[name];
    return Array.isArray(list) ? list.slice(-500) : undefined;
  },
};
