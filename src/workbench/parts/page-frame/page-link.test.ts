import { expect, test } from "vitest";
import type { FromPage } from "@/core/preview/messages";
import type { Way } from "@/server/types";
import { pageLink } from "./page-link";

const origin = "https://shop.example.com";

/** A link whose frame notes what it is told. */
function linked(by: Way["by"]) {
  const told: unknown[] = [];
  const frame = { postMessage: (message: unknown) => told.push(message) } as unknown as Window;
  const link = pageLink(origin, by, () => frame);
  const says = (data: FromPage) => link.read({ origin, source: frame, data } as unknown as MessageEvent<unknown>);
  const look = (turn: number, path = "/") => link.look({ pass: `pass-${turn}`, url: `${origin}${path}`, turn });
  return { link, frame, told, says, look };
}
const hello: FromPage = { mirada: "hello", version: 1, path: "/" };
const ready = (turn: number): FromPage => ({ mirada: "ready", slots: [], path: "/", turn });
const looks = (told: unknown[]) => told.map((one) => (one as { turn: number }).turn);

test("a page in its own process is opened by an address, and told of later looks", () => {
  const { told, says, look } = linked("process");
  expect(look(1)).toBe(`${origin}/?look=pass-1&turn=1`);
  says(hello);
  expect(says(ready(1))).toEqual(ready(1));
  expect(look(2)).toBeUndefined();
  expect(told).toEqual([{ mirada: "look", path: "/", turn: 2, pass: "pass-2" }]);
});

test("what a page says that is being left for a later look is not heard, and no look is given to it", () => {
  const { told, says, look } = linked("process");
  look(1);
  expect(look(2)).toContain("turn=2");
  says(hello);
  expect(says(ready(1))).toBeUndefined();
  // The frame is opened for the second look already: the third would be lost with the page of the first.
  expect(look(3)).toContain("turn=3");
  says(hello);
  says(ready(3));
  expect(told).toEqual([]);
});

test("a page that comes anew with an earlier look is told the latest once", () => {
  const { told, says, look } = linked("process");
  look(1);
  says(hello);
  says(ready(1));
  look(2);
  look(3);
  // The page takes the second up while the third is on its way: nothing is sent twice.
  says(ready(2));
  expect(looks(told)).toEqual([2, 3]);
  // It has opened itself again, at the address of the second.
  says(hello);
  says(ready(2));
  expect(looks(told)).toEqual([2, 3, 3]);
  says(ready(3));
  expect(looks(told)).toEqual([2, 3, 3]);
});

test("a page with the tag waits for its look, and is told it again where the site has led on", () => {
  const { told, says, look } = linked("tag");
  expect(look(1, "/rooms?view=sea")).toBe(`${origin}/rooms?view=sea#mirada-look`);
  says({ ...hello, path: "/rooms" });
  says({ ...hello, path: "/rooms/" });
  expect(told).toMatchObject([
    { path: "/rooms?view=sea", turn: 1 },
    { path: "/rooms/", turn: 1 },
  ]);
});

test("what another origin or another window says is not heard, nor what is no message", () => {
  const { link, frame } = linked("tag");
  const hears = (event: object) => link.read({ origin, source: frame, data: hello, ...event } as MessageEvent<unknown>);
  expect(hears({})).toEqual(hello);
  expect(hears({ origin: "https://shop.example.com.evil.example" })).toBeUndefined();
  expect(hears({ source: {} as Window })).toBeUndefined();
  expect(hears({ data: { mirada: "hello" } })).toBeUndefined();
});
