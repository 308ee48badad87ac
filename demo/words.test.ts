/** What is said of changes, tried on everything that the demo's ruleset has. */
import { describe, expect, it } from "vitest";
import { differences } from "@/core/draft/difference";
import { placeName, valueText } from "@/core/draft/words";
import type { Ruleset } from "@/core/formats/ruleset";
import { ruleset } from "@/core/testing";
import { demoRuleset } from "./ruleset";

describe("words for changes", () => {
  it("leave nothing out: whatever is changed anywhere in a ruleset is said", () => {
    const whole = ruleset(demoRuleset(0) as Record<string, unknown>);
    /** Every place in a document at which something could be changed. */
    const places = (value: unknown, path: (string | number)[] = []): (string | number)[][] =>
      typeof value !== "object" || value === null
        ? [path]
        : [
            ...(Array.isArray(value) && value.length > 1 ? [path] : []),
            ...Object.entries(value).flatMap(([key, inner]) =>
              places(inner, [...path, Array.isArray(value) ? Number(key) : key]),
            ),
          ];
    const all = places(whole).filter(([first]) => first !== "format");
    const changed = (path: (string | number)[]): Ruleset => {
      const copy = structuredClone(whole);
      const last = path.at(-1) as string;
      const parent = path
        .slice(0, -1)
        .reduce((at, key) => (at as Record<string, unknown>)[key] as object, copy as object) as Record<string, unknown>;
      const value = parent[last];
      // Lists are put in another order, of everything else another is put in its place.
      parent[last] = Array.isArray(value)
        ? [...(value as unknown[])].reverse()
        : typeof value === "string"
          ? `${value} else`
          : typeof value === "number"
            ? value + 1
            : typeof value === "boolean"
              ? !value
              : { signal: "campaign.source", op: "isPresent" };
      return copy;
    };
    expect(all.length).toBeGreaterThan(500);
    expect(all.filter((path) => differences(whole, changed(path)).length === 0).map((path) => path.join("/"))).toEqual(
      [],
    );
  });
  it("name every part of everything in the demo without a key of its format", () => {
    const whole = { ...ruleset(demoRuleset(0) as Record<string, unknown>), library: [], picks: [] };
    const lists = [
      "audiences",
      "placeLists",
      "markers",
      "blockTypes",
      "slots",
      "popups",
      "offers",
      "redirects",
    ] as const;
    const paths = [
      ...Object.keys(whole.site).map((key) => `site/${key}`),
      ...lists.flatMap((list) =>
        whole[list].flatMap((item) => Object.keys(item).map((key) => `${list}/${item.id}/${key}`)),
      ),
    ];
    expect(paths.length).toBeGreaterThan(150);
    expect(paths.map((path) => placeName(path, whole)).filter((name) => /[a-z][A-Z]|[/_{}]/.test(name))).toEqual([]);
    const value = (path: string) =>
      path
        .split("/")
        .reduce<unknown>(
          (at, key) =>
            Array.isArray(at)
              ? at.find((item: { id: string }) => item.id === key)
              : (at as Record<string, unknown>)[key],
          whole,
        );
    expect(paths.filter((path) => valueText(path, value(path), whole).startsWith("{"))).toEqual([]);
  });
});
