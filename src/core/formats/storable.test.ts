import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { storable, unstorable } from "./storable";

describe("what can be kept", () => {
  it("is any text but NUL and halves of surrogate pairs, wherever it stands", () => {
    expect(unstorable({ a: [1, null, true, "é😀\n"], b: { c: "" } })).toBeUndefined();
    expect(unstorable({ a: [{ "b/c": "x\0" }] })).toBe("/a/0/b~1c");
    expect(unstorable(["\ud800"])).toBe("/0");
    expect(unstorable({ "k\0": 1 })).toBe("/k");
    expect(unstorable("\udc00x")).toBe("");
  });
  it("is found in what JSON says of any value, and only there", () => {
    // Whether it is in there, told by the text of it: escapes of NUL and of lone halves are all that JSON.stringify writes so.
    const odd = (value: unknown) => /(?<!\\)(?:\\\\)*\\u(?:0000|d[89a-f])/.test(JSON.stringify(value));
    fc.assert(
      fc.property(fc.jsonValue({ stringUnit: "binary" }), (value) => {
        expect(unstorable(value) !== undefined).toBe(odd(value));
      }),
    );
  });
  it("is left of any text", () => {
    fc.assert(
      fc.property(fc.string({ unit: "binary" }), (text) => {
        expect(unstorable(storable(text))).toBeUndefined();
      }),
    );
    expect(storable("a\0b\ud800c")).toBe("ab\ufffdc");
  });
});
