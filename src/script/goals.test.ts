// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { PageGoal } from "@/core/formats/goal";
import { watchGoals } from "./goals";

const order: PageGoal = {
  id: "order",
  way: "page",
  value: 500,
  days: 30,
  worth: { from: { selector: "#total" }, decimal: ",", digits: 2 },
};
const call: PageGoal = { ...order, id: "call", way: "click", at: { selector: ".call" } };
const letter: PageGoal = { ...order, id: "letter", way: "form", at: { selector: "form" } };

let told: [id: string, value: number][];
let end: () => void;
/** Watches a page. `seen`: whether the visitor had seen anything. */
function watching(goals: PageGoal[], body: string, seen = true): void {
  document.body.innerHTML = body;
  end = watchGoals(goals, (id, value) => {
    if (seen) told.push([id, value]);
    return seen;
  });
}
/** What waits on changes of the page has had its turn. */
const turn = () => vi.advanceTimersByTimeAsync(1);

beforeEach(() => {
  vi.useFakeTimers();
  sessionStorage.clear();
  told = [];
});
afterEach(() => {
  end();
  vi.useRealTimers();
});

describe("what a goal is worth", () => {
  it("is read from the page when it is reached", () => {
    watching([order, call, letter], `<b id="total">1.024,50 €</b><button class="call"></button><form></form>`);
    expect(told).toEqual([["order", 102_450]]);
    (document.querySelector("#total") as HTMLElement).textContent = "7,00 €";
    (document.querySelector(".call") as HTMLElement).click();
    document.querySelector("form")?.dispatchEvent(new Event("submit", { bubbles: true }));
    expect(told.slice(1)).toEqual([
      ["call", 700],
      ["letter", 700],
    ]);
  });
  it("is waited for where a page draws it late, or begins with nothing", async () => {
    watching([order], `<b id="total">0,00 €</b>`);
    await turn();
    expect(told).toEqual([]);
    (document.querySelector("#total") as HTMLElement).firstChild!.nodeValue = "12,30 €";
    await turn();
    expect(told).toEqual([["order", 1230]]);
    await vi.advanceTimersByTimeAsync(10_000);
    expect(told).toHaveLength(1);
  });
  it("is what the goal says where the page does not say it: after a while, or when the page is left", async () => {
    watching([order], `<b id="total">free</b>`);
    await vi.advanceTimersByTimeAsync(2900);
    expect(told).toEqual([]);
    await vi.advanceTimersByTimeAsync(200);
    expect(told).toEqual([["order", 500]]);
    for (const leave of [() => window.dispatchEvent(new Event("pagehide")), () => end()]) {
      sessionStorage.clear();
      told = [];
      watching([order], "");
      leave();
      expect(told).toEqual([["order", 500]]);
    }
  });
  it("is never more than an event may carry, nor less than nothing", () => {
    for (const [said, value] of [
      ["99999999999999", 500],
      ["-5", 500],
      ["9.999.999.999,99", 999_999_999_999],
    ] as const) {
      told = [];
      watching([call], `<b id="total">${said}</b><button class="call"></button>`);
      (document.querySelector(".call") as HTMLElement).click();
      expect(told).toEqual([["call", value]]);
      end();
    }
  });
  it("a page counts once a visit, and not for whoever had seen nothing", () => {
    watching([order], `<b id="total">5,00 €</b>`, false);
    watching([order], `<b id="total">5,00 €</b>`);
    watching([order], `<b id="total">5,00 €</b>`);
    expect(told).toEqual([["order", 500]]);
  });
});
