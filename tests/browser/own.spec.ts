/**
 * What the page script makes of a page's own content, beside a plain application of the same changes written for this test alone
 * (with the DOM as a browser has it), on generated fragments and changes.
 */
import { expect } from "@playwright/test";
import { build } from "esbuild";
import { test } from "./support";

test("changes of a page’s own content are applied all or not at all, as a plain reading says, and are taken back whole", async ({
  page,
}) => {
  const bundled = await build({
    stdin: { contents: 'export { applyOwn } from "./src/script/own";', resolveDir: ".", loader: "ts" },
    bundle: true,
    write: false,
    format: "iife",
    globalName: "script",
    target: "es2022",
  });
  await page.goto("about:blank");
  await page.evaluate(bundled.outputFiles[0]!.text + ";window.applyOwn = script.applyOwn;");
  const told = await page.evaluate(() => {
    type Change = {
      part: string;
      was?: string;
      text?: string;
      link?: string;
      image?: { src: string; alt?: string };
      hidden?: true;
    };
    const apply = (
      window as unknown as { applyOwn: (place: HTMLElement, changes: Change[]) => (() => void) | undefined }
    ).applyOwn;
    let seed = 20261127;
    const random = (below: number) => {
      seed = (seed * 1103515245 + 12345) & 0x7fffffff;
      return Math.floor((seed / 0x7fffffff) * below);
    };
    const pick = <T>(list: readonly T[]): T => list[random(list.length)]!;
    const words = ["Rooms", "with a view", "Book now", "from €88", "<b>bold</b>", "  spaced   out "];
    const part = (): string => {
      const text = pick(words).replaceAll("<", "&lt;");
      return pick([
        `<h1>${text}</h1>`,
        `<p class="${pick(["lead", "note"])}">${text} <em>${pick(words).replaceAll("<", "&lt;")}</em></p>`,
        `<a class="cta" href="/old">${text}</a>`,
        `<img src="/old.svg" srcset="/old-2x.svg 2x" alt="Old">`,
        `<span class="badge">${text}</span>`,
        `<div><h1>${text}</h1></div>`,
      ]);
    };
    const change = (): Change => {
      const at = pick(["h1", ".lead", "a.cta", "img", ".badge", "", "p em", "no-such", "div > h1"]);
      return pick<() => Change>([
        () => ({ part: at, text: pick(words) }),
        () => ({ part: at, text: pick(words), was: pick(words) }),
        () => ({ part: at, link: pick(["/new", "https://x.example/", "javascript:alert(1)", "//evil.example"]) }),
        () => ({
          part: at,
          image: { src: pick(["/new.svg", "data:text/html,x"]), ...(random(2) ? { alt: "New" } : {}) },
        }),
        () => ({ part: at, hidden: true }),
      ])();
    };
    const flat = (text: string | null) => (text ?? "").replace(/\s+/g, " ").trim();
    const leads = (link: string) => /^(https?:\/\/|mailto:|tel:|\/(?!\/)|#)/i.test(link);
    /** The same, written down plainly: whether it may be, then what becomes of the fragment. */
    const plainly = (html: string, changes: Change[]): string | undefined => {
      const place = document.createElement("section");
      place.innerHTML = html;
      const targets = changes.map((one) =>
        one.part === "" ? [place] : [...place.querySelectorAll<HTMLElement>(one.part)],
      );
      for (const [index, one] of changes.entries()) {
        const found = targets[index]!;
        if (found.length !== 1) return undefined;
        const element = found[0]!;
        if (one.was !== undefined && flat(element.textContent) !== flat(one.was)) return undefined;
        if (one.link !== undefined && (element.tagName !== "A" || !leads(one.link))) return undefined;
        if (one.image !== undefined && (element.tagName !== "IMG" || !leads(one.image.src))) return undefined;
      }
      for (const [index, one] of changes.entries()) {
        const element = targets[index]![0]!;
        if (one.text !== undefined) {
          while (element.firstChild) element.firstChild.remove();
          element.append(document.createTextNode(one.text));
        } else if (one.link !== undefined) element.setAttribute("href", one.link);
        else if (one.image !== undefined) {
          element.setAttribute("src", one.image.src);
          element.removeAttribute("srcset");
          if (one.image.alt !== undefined) element.setAttribute("alt", one.image.alt);
        } else element.style.setProperty("display", "none", "important");
      }
      return place.outerHTML;
    };
    const wrong: string[] = [];
    let applied = 0;
    let refused = 0;
    for (let round = 0; round < 20_000; round++) {
      const html = Array.from({ length: 1 + random(4) }, part).join("");
      const changes = Array.from({ length: 1 + random(3) }, change);
      const place = document.createElement("section");
      place.innerHTML = html;
      const before = place.cloneNode(true);
      const expected = plainly(html, changes);
      const undo = apply(place, changes);
      const got = undo ? place.outerHTML : undefined;
      if (undo) applied += 1;
      else refused += 1;
      if (got !== expected) wrong.push(`${html} ${JSON.stringify(changes)}: ${got} instead of ${expected}`);
      undo?.();
      if (!place.isEqualNode(before)) wrong.push(`not taken back: ${html} ${JSON.stringify(changes)}`);
    }
    return { wrong: wrong.slice(0, 3), applied, refused };
  });
  expect(told.wrong).toEqual([]);
  expect(told.applied).toBeGreaterThan(500);
  expect(told.refused).toBeGreaterThan(500);
});
