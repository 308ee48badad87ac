// @vitest-environment jsdom
import { act } from "react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { mount, type Mounted } from "../../testing";
import { useNews } from "./use-news";

/** The line of notices: it says that something has changed, never what. */
class Line extends EventTarget {
  static open: Line | undefined;
  closed = false;
  constructor(readonly address: string) {
    super();
    Line.open = this;
  }
  close() {
    this.closed = true;
  }
}
let asked: [number, string][];
let answer: (news: object | undefined) => void;
let heard: object[];
let own: number;
const actions = {
  news: (version: number, mark: string) => {
    asked.push([version, mark]);
    return new Promise((done, fail) => (answer = (news) => (news ? done(news) : fail(new Error("away")))));
  },
};
function Probe({ version }: { version: number }) {
  useNews("shop", actions as never, { version, mark: "live", own: () => own }, (news) => heard.push(news));
  return null;
}
const notice = (kind = "news") => act(async () => void Line.open?.dispatchEvent(new Event(kind)));
const wait = (milliseconds: number) => act(() => vi.advanceTimersByTimeAsync(milliseconds));
const told = (news: object | undefined) => act(async () => answer(news));

let page: Mounted;
beforeEach(async () => {
  vi.useFakeTimers();
  vi.stubGlobal("EventSource", Line);
  asked = [];
  heard = [];
  own = 0;
  page = await mount(<Probe version={3} />);
});
afterEach(async () => {
  await page.end();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it("asks once for many notices, with what is known now", async () => {
  await notice();
  await page.draw(<Probe version={4} />);
  await notice();
  await wait(300);
  expect([Line.open?.address, asked]).toEqual(["/s/shop/news", [[4, "live"]]]);
  await told({ draft: 5 });
  expect(heard).toEqual([{ draft: 5 }]);
});
it("asks once more for what was noticed while it asked", async () => {
  await notice();
  await wait(300);
  await notice();
  await told({ a: 1 });
  await wait(300);
  expect(asked).toHaveLength(2);
  await told({ a: 2 });
  expect(heard).toEqual([{ a: 1 }, { a: 2 }]);
});
it("does not take news that were asked for before one's own last change was answered", async () => {
  await notice();
  await wait(300);
  own += 1;
  await told({ older: true });
  await wait(300);
  expect([heard, asked.length]).toEqual([[], 2]);
  await told({ newer: true });
  expect(heard).toEqual([{ newer: true }]);
});
it("asks anyway every half minute, after a break, and goes on when an answer is lost", async () => {
  await wait(30_300);
  expect(asked).toHaveLength(1);
  await told(undefined);
  await notice("open");
  await wait(300);
  expect(asked).toHaveLength(2);
  await told({ back: true });
  expect(heard).toEqual([{ back: true }]);
  await page.end();
  expect(Line.open?.closed).toBe(true);
  await wait(60_000);
  expect(asked).toHaveLength(2);
});
