// @vitest-environment jsdom
import { act } from "react";
import { expect, it } from "vitest";
import type { SignalChoice } from "@/core/ruleset/choices";
import { mount } from "../testing";
import { SignalSelect } from "./signal-select";

const choices = (): SignalChoice[] => [
  {
    signal: "page.category",
    label: "the page category",
    name: "Page category",
    means: "A page’s category.",
    group: "Page",
  },
  { signal: "page.path", label: "the path", name: "Path", means: "A page’s path.", group: "Page" },
];

it("what is being typed stays while a save comes back, and gives way to another choice", async () => {
  // Each time the draft changes the choices are worked out anew: other objects, the same choices.
  const select = (chosen: number) => {
    const list = choices();
    return (
      <SignalSelect
        choices={list}
        chosen={list[chosen] ?? null}
        onChoose={() => undefined}
        label="What it depends on"
        autoFocus={false}
      />
    );
  };
  const { place, draw: drawn, end } = await mount(select(0));
  const draw = (chosen: number) => drawn(select(chosen));
  const input = place.querySelector("input") as HTMLInputElement;
  expect(input.value).toBe("Page category");
  await act(async () => input.focus());
  await act(async () => {
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")?.set?.call(input, "page.pa");
    input.dispatchEvent(new Event("input", { bubbles: true }));
  });
  await draw(0);
  expect(input.value).toBe("page.pa");
  await draw(1);
  expect(input.value).toBe("Path");
  await end();
});
