// @vitest-environment jsdom
import { act } from "react";
import { expect, it } from "vitest";
import { mount } from "../../testing";
import { useSearch } from "./use-search";

const names = ["Ábaco", "Lisbon, at a desk", "Lisbon, on a phone", "Porto, at a desk", "Rome", "Oslo", "Paris"];
function List({ items }: { items: readonly string[] }) {
  const { found, field } = useSearch(items, "lenses", (name) => name);
  return (
    <div>
      {field}
      <ol>
        {found.map((name) => (
          <li key={name}>{name}</li>
        ))}
      </ol>
    </div>
  );
}

it("finds by all the words, whatever their order and letters; a short list has no field, and nothing of it is hidden", async () => {
  const { place, draw, end } = await mount(<List items={names} />);
  const shown = () => [...place.querySelectorAll("li")].map((item) => item.textContent);
  const type = (text: string) =>
    act(async () => {
      const input = place.querySelector("input") as HTMLInputElement;
      Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")?.set?.call(input, text);
      input.dispatchEvent(new Event("input", { bubbles: true }));
    });
  expect(shown()).toEqual(names);
  await type("DESK lisbon");
  expect(shown()).toEqual(["Lisbon, at a desk"]);
  await type("nowhere");
  expect(shown()).toEqual([]);
  expect(place.querySelector("[role=status]")?.textContent).toBe("No lenses have these words.");
  await draw(<List items={names.slice(0, 3)} />);
  expect(place.querySelector("input")).toBeNull();
  expect(shown()).toEqual(names.slice(0, 3));
  await end();
});
