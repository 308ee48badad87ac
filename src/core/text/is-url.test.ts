import { expect, it } from "vitest";
import { isUrl, urlOf } from "./is-url";

it("says the same however often it is asked", () => {
  // What is asked often is compiled in another way, in which Node.js 20 takes Latin-1 for something else.
  const asked = (text: string, base?: string) => {
    const answers = new Set<boolean>();
    for (let turn = 0; turn < 20_000; turn++) answers.add(isUrl(text, base));
    return [...answers];
  };
  expect(asked("https://bücher.example/")).toEqual([true]);
  expect(asked("https://shop.example/café?x=é")).toEqual([true]);
  expect(asked("//bücher.example/", "https://shop.example")).toEqual([true]);
  expect(asked("/x", "https://bücher.example")).toEqual([true]);
  expect(asked("https://ü ber.example/")).toEqual([false]);
  expect(asked("nonsense")).toEqual([false]);
});
it("reads a URL, or nothing", () => {
  expect(urlOf("https://bücher.example/")?.hostname).toBe("xn--bcher-kva.example");
  expect(urlOf("nonsense")).toBeUndefined();
});
