// @vitest-environment jsdom
import { QueryClientProvider } from "@tanstack/react-query";
import { act, useEffect } from "react";
import { beforeEach, expect, it, vi } from "vitest";
import { mount, settled, type Mounted } from "../testing";
import { ActionError } from "./actions";
import { useAsked, type Asked } from "./asked";
import { makeAsker } from "./asker";

let asked: { args: unknown[]; answer: (value: unknown) => void; refuse: (error: Error) => void }[];
const desk = {
  site: "shop",
  actions: {
    results: (...args: unknown[]) => new Promise((answer, refuse) => asked.push({ args, answer, refuse })),
  },
};
vi.mock("./desk/desk", () => ({ useDesk: () => desk }));

let told: Asked<unknown>;
let client: ReturnType<typeof makeAsker>;
function Probe({ args, since, keepBy }: { args: unknown[]; since?: unknown[]; keepBy?: number }) {
  const now = useAsked("results", args as never, {
    ...(since ? { since } : {}),
    ...(keepBy === undefined ? {} : { keepBy }),
  });
  useEffect(() => {
    told = now as Asked<unknown>;
  });
  return null;
}
const draw = (props: React.ComponentProps<typeof Probe>) => (
  <QueryClientProvider client={client}>
    <Probe {...props} />
  </QueryClientProvider>
);
const answer = async (index: number, value: unknown) => {
  await act(async () => asked[index]?.answer(value));
  await settled();
};
let page: Mounted | undefined;
beforeEach(async () => {
  await page?.end();
  asked = [];
  client = makeAsker();
});

it("is asked for when it is needed, once for all who need it", async () => {
  page = await mount(
    <QueryClientProvider client={client}>
      <Probe args={["s"]} />
      <Probe args={["s"]} />
    </QueryClientProvider>,
  );
  expect([asked.length, told.value, told.asking]).toEqual([1, undefined, true]);
  await answer(0, "counted");
  expect([told.value, told.asking, told.problem]).toEqual(["counted", false, undefined]);
});
it("says what was refused, at once, and keeps what it had", async () => {
  page = await mount(draw({ args: ["s"] }));
  await answer(0, "counted");
  await act(async () => void told.again());
  await act(async () => asked[1]?.refuse(new ActionError(422, "Too many days.")));
  await settled();
  expect([told.value, told.problem, asked.length]).toEqual(["counted", "Too many days.", 2]);
});
it("shows nothing of other arguments, but for those that say so", async () => {
  page = await mount(draw({ args: ["s", "by source"], keepBy: 1 }));
  await answer(0, "by source");
  await page.draw(draw({ args: ["s", "by country"], keepBy: 1 }));
  expect(told.value).toBe("by source");
  await page.draw(draw({ args: ["t", "by country"], keepBy: 1 }));
  expect(told.value).toBeUndefined();
});
it("stays while it is asked anew because something else has changed", async () => {
  page = await mount(draw({ args: ["s"], since: [1] }));
  await answer(0, "first");
  await page.draw(draw({ args: ["s"], since: [2] }));
  expect([told.value, asked.length]).toEqual(["first", 2]);
  await answer(1, "second");
  expect(told.value).toBe("second");
});
it("takes what another answer told of it, and no older answer that is on its way", async () => {
  page = await mount(draw({ args: ["s"] }));
  await answer(0, "first");
  await act(async () => void told.again());
  await act(async () => told.set("mine"));
  await answer(1, "older");
  expect(told.value).toBe("mine");
});
it("is shown at once when a screen is opened again, and asked anew", async () => {
  page = await mount(draw({ args: ["s"] }));
  await answer(0, "first");
  await page.end();
  page = await mount(draw({ args: ["s"] }));
  expect([told.value, asked.length]).toEqual(["first", 2]);
});
