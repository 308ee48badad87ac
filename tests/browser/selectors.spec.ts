/**
 * Parts of whole pages by others are pointed at, then the pages are edited in the ways that pages are, and the selectors that were
 * made before are asked again, beside selectors that only count positions.
 */
import { expect } from "@playwright/test";
import { build } from "esbuild";
import { wholePages } from "../generated/whole-pages";
import { test } from "./support";

test("parts are found again after a page was edited, or it is noticed that they are not", async ({ page }) => {
  const bundled = await build({
    stdin: {
      contents: `
        export { selectorOf } from "./src/script/selectors";
        export { kindOf, isPart } from "./src/script/parts";
        export { seenText } from "./src/script/own";`,
      resolveDir: ".",
      loader: "ts",
    },
    bundle: true,
    write: false,
    format: "iife",
    globalName: "script",
    target: "es2022",
    alias: { "@": "./src" },
  });
  await page.goto("about:blank");
  await page.evaluate(`${bundled.outputFiles[0]!.text}; window.script = script;`);
  const pages = wholePages();
  expect(pages.length).toBeGreaterThanOrEqual(40);
  const told = await page.evaluate((pages) => {
    interface Found {
      selector: string;
      byPosition: boolean;
    }
    const { selectorOf, kindOf, isPart, seenText } = (
      window as unknown as {
        script: {
          selectorOf: (element: Element, root: ParentNode) => Found | undefined;
          kindOf: (element: Element) => string;
          isPart: (element: Element) => boolean;
          seenText: (element: Element) => string;
        };
      }
    ).script;
    let seed = 27;
    const random = (below: number) => {
      seed = (seed * 1103515245 + 12345) & 0x7fffffff;
      return Math.floor((seed / 0x80000000) * below);
    };
    const all = (root: ParentNode) => [...root.querySelectorAll<HTMLElement>("body *")];
    const letters = () => Array.from({ length: 6 }, () => "abcdefghijkmnopqrstuvwxyz0123456789"[random(35)]).join("");
    const around = (element: Element, document: Document) => {
      const steps = random(3);
      let out = element;
      for (let step = 0; step < steps && out.parentElement && out.parentElement !== document.body; step++)
        out = out.parentElement;
      return out;
    };
    /** What is done to pages between two days, near the part or anywhere. */
    const edits: Record<string, (element: Element, document: Document) => void> = {
      "another before it": (element, document) => {
        const one = around(element, document);
        const made = document.createElement(one.localName);
        made.textContent = "New here";
        one.before(made);
      },
      "another after it": (element, document) => {
        const made = document.createElement(element.localName);
        made.textContent = "New here";
        around(element, document).after(made);
      },
      "a like of what it is in": (element, document) => {
        const one = around(element, document);
        one.after(one.cloneNode(true));
      },
      "a section before all": (_, document) => {
        const made = document.createElement("section");
        made.innerHTML = "<h1>Sale</h1><p>Only today</p><a href='/sale' class='btn'>See it</a>";
        (document.querySelector("main") ?? document.body).prepend(made);
      },
      "classes hashed anew": (_, document) => {
        for (const one of all(document))
          if (one.classList.length > 0)
            one.className = [...one.classList].map((name) => (/\d/.test(name) ? `c-${letters()}` : name)).join(" ");
      },
      "every class another": (_, document) => {
        for (const one of all(document)) if (one.classList.length > 0) one.className = `css-${letters()}`;
      },
      "a wrapper around it": (element, document) => {
        const made = document.createElement("div");
        element.replaceWith(made);
        made.append(element);
      },
      "wrappers around all": (_, document) => {
        const made = document.createElement("div");
        made.id = "app";
        made.append(...document.body.childNodes);
        document.body.append(made);
      },
      "another order": (element, document) => {
        const parent = around(element, document).parentElement!;
        const children = [...parent.children];
        for (let at = children.length - 1; at > 0; at--) {
          const other = random(at + 1);
          [children[at], children[other]] = [children[other]!, children[at]!];
        }
        parent.append(...children);
      },
      "other words in it": (element) => {
        element.textContent = "Something else is said here";
      },
      "other words elsewhere": (element, document) => {
        for (const one of all(document))
          if (one.children.length === 0 && one !== element && random(3) === 0 && one.textContent)
            one.textContent = `${one.textContent} now`;
      },
      "one beside it gone": (element, document) => {
        const one = around(element, document);
        const beside = [...(one.parentElement?.children ?? [])].filter((other) => !other.contains(element));
        beside[random(beside.length)]?.remove();
      },
      "ids gone": (_, document) => {
        for (const one of all(document)) one.removeAttribute("id");
      },
      "blocks of another kind": (_, document) => {
        for (const one of [...document.querySelectorAll("div")].slice(0, 40)) {
          const made = document.createElement("section");
          for (const { name, value } of one.attributes) made.setAttribute(name, value);
          made.append(...one.childNodes);
          one.replaceWith(made);
        }
      },
    };
    const positions = (element: Element): string => {
      const steps: string[] = [];
      for (let here: Element = element; here.parentElement; here = here.parentElement)
        steps.unshift(`${here.localName}:nth-child(${[...here.parentElement.children].indexOf(here) + 1})`);
      return steps.join(" > ");
    };
    const outcome = (document: Document, selector: string, element: Element, was: string) => {
      const found = [...document.querySelectorAll(selector)];
      if (found.length !== 1) return "noticed";
      if (found[0] === element) return "right";
      return seenText(found[0]!) !== was ? "noticed" : "wrong";
    };
    const count = () => ({ right: 0, noticed: 0, wrong: 0 });
    const sum = { ours: count(), byPosition: count(), positions: count() };
    const wrong: string[] = [];
    let parts = 0;
    let none = 0;
    for (const { path, html } of pages)
      for (const [name, edit] of Object.entries(edits)) {
        for (let tries = 0; tries < 4; tries++) {
          const document = new DOMParser().parseFromString(html, "text/html");
          const here = all(document).filter(
            (one) => isPart(one) && ["heading", "text", "button", "link"].includes(kindOf(one)) && seenText(one) !== "",
          );
          const element = here[random(here.length)];
          if (!element) break;
          const was = seenText(element);
          const found = selectorOf(element, document);
          parts += 1;
          if (!found) {
            none += 1;
            continue;
          }
          const counted = positions(element);
          edit(element, document);
          const got = outcome(document, found.selector, element, was);
          sum[found.byPosition ? "byPosition" : "ours"][got] += 1;
          sum.positions[outcome(document, counted, element, was)] += 1;
          if (got === "wrong" && !found.byPosition) wrong.push(`${path}, ${name}: ${found.selector} (“${was}”)`);
        }
      }
    // Within any part of a page each of its texts is told from the others, and by that alone.
    let within = 0;
    const unfound: string[] = [];
    for (const { path, html } of pages) {
      const document = new DOMParser().parseFromString(html, "text/html");
      const places = all(document).filter((one) => one.children.length > 1 && isPart(one));
      for (let tries = 0; tries < 4 && places.length > 0; tries++) {
        const place = places[random(places.length)]!;
        for (const element of [...place.querySelectorAll("*")].filter((one) => kindOf(one) === "text").slice(0, 20)) {
          const selector = selectorOf(element, place)?.selector;
          within += 1;
          const found = selector === undefined ? [] : [...place.querySelectorAll(selector)];
          if (found.length !== 1 || found[0] !== element) unfound.push(`${path}: ${selector} (“${seenText(element)}”)`);
        }
      }
    }
    return {
      within,
      unfound: unfound.slice(0, 5),
      sum,
      wrong: wrong.slice(0, 8),
      wrongs: wrong.length,
      parts,
      none,
      kinds: Object.keys(edits).length,
    };
  }, pages);
  const share = (of: { right: number; noticed: number; wrong: number }) => {
    const whole = of.right + of.noticed + of.wrong;
    const percent = (part: number) => `${((100 * part) / Math.max(1, whole)).toFixed(1)} %`;
    return `of ${whole}: right ${percent(of.right)}, noticed ${percent(of.noticed)}, wrong ${percent(of.wrong)}`;
  };
  console.log(
    `${told.parts} parts of ${pages.length} pages, ${told.kinds} kinds of edits, ${told.none} without a selector`,
  );
  console.log(`  without positions ${share(told.sum.ours)}`);
  console.log(`  told apart by position alone, which is said when pointing: ${share(told.sum.byPosition)}`);
  console.log(`  positions only ${share(told.sum.positions)}`);
  expect(told.kinds).toBeGreaterThanOrEqual(12);
  expect(told.wrong).toEqual([]);
  expect(told.within).toBeGreaterThan(300);
  expect(told.unfound).toEqual([]);
});
