import { describe, expect, it } from "vitest";
import { longestSelector, selectorProblem } from "./selector";

describe("CSS selectors", () => {
  // Examples of Selectors Level 4 (W3C), and the shapes in which pages are pointed at.
  it.each([
    "main .hero",
    "*",
    "#foo > .bar + div.k1.k2 [id='baz']:hello(2):not(:where(#yolo))::before"
      .replace("::before", "")
      .replace(":hello(2)", ""),
    "h1, h2 , h3",
    "section > p:nth-child(2n + 1)",
    "a[href^='http' i]",
    'a[data-x="1 > 2"]',
    "ul li:nth-of-type(3)",
    ":is(h1, h2) ~ p",
    "div:has(> img)",
    "#größe",
    ".\\31 a",
    "main:not(.wide) > section:first-of-type h1",
  ])("%s is one", (text) => expect(selectorProblem(text)).toBeUndefined());
  it.each([
    "",
    "  ",
    "#",
    ".",
    "[x=",
    "a:foo(",
    "> a",
    "a >",
    "a, ",
    ", a",
    "a,,b",
    "a::before",
    "1a",
    ".5x",
    "..x",
    "a#.b",
    "#1",
    "a > > b",
    "<div>",
    "a{}",
    "a;b",
    `a${" b".repeat(longestSelector)}`,
  ])("%s is none", (text) => expect(selectorProblem(text)).toMatch(/^must be/));
});
