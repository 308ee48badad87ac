import { assert, property, record, uniqueArray, constantFrom, jsonValue } from "fast-check";
import { describe, expect, it } from "vitest";
import { ruleset, variant } from "@/core/testing";
import { besides, restored } from "./besides";

/** Through JSON, as it goes to the browser. */
const there = (known: unknown, value: unknown): unknown =>
  restored(known, JSON.parse(JSON.stringify(besides(known, value))) as ReturnType<typeof besides>);

describe("a value told beside another", () => {
  const things = uniqueArray(record({ id: constantFrom("a", "b", "c", "d"), said: jsonValue({ maxDepth: 1 }) }), {
    selector: (thing) => thing.id,
  });
  const values = record(
    { things, more: jsonValue(), nested: record({ things, x: jsonValue() }) },
    { requiredKeys: [] },
  );

  it("is the same again, whatever the two are", () => {
    const isSame = (known: unknown, value: unknown) => {
      expect(there(known, value)).toEqual(JSON.parse(JSON.stringify(value)));
    };
    assert(property(values, values, isSame), { numRuns: 2000 });
    assert(property(jsonValue(), jsonValue(), isSame));
  });

  it("keeps the order of things, what is gone, and what is new", () => {
    const known = { list: [{ id: "a", x: 1 }, { id: "b" }, { id: "c" }], gone: 1, kept: { deep: [1, 2] } };
    const value = { kept: { deep: [1, 2, 3] }, list: [{ id: "c" }, { id: "d" }, { id: "a", x: 2 }], fresh: null };
    expect(there(known, value)).toEqual(value);
    expect(besides({ a: 1, b: { c: 2, d: 3 } }, { b: { d: 3, c: 2 }, a: 1 })).toEqual({ same: true });
    expect(besides([{ id: "a" }, { id: "b" }], [{ id: "b" }, { id: "a" }])).not.toEqual({ same: true });
  });

  it("takes no inherited name for a key, nor a list in which an id stands twice for a list of things", () => {
    const value = { constructor: 1, list: [{ id: "a" }, { id: "a", x: 1 }] };
    expect(there({}, value)).toEqual(value);
    expect(there({ list: [{ id: "a" }] }, value)).toEqual(value);
  });

  it("is short where one word differs", () => {
    const many = (last: string) =>
      ruleset({
        slots: [
          {
            id: "s",
            name: "S",
            variants: Array.from({ length: 200 }, (_, i) =>
              variant(i ? `v${i}` : "v", null, { name: i ? `V ${i}` : last }),
            ),
          },
        ],
      });
    const [known, value] = [many("One"), many("Other")];
    expect(there(known, value)).toEqual(value);
    expect(JSON.stringify(besides(known, value)).length).toBeLessThan(JSON.stringify(value).length / 10);
    expect(besides(known, structuredClone(known))).toEqual({ same: true });
  });
});
