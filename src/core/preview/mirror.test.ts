import { describe, expect, it } from "vitest";
import { mirrorMap, mirrorOrigin, readMirrorHost } from "./mirror";

const id = "abcdefghijklmnopqrstuvwx";
const pattern = "https://*.mirror.example.com";

describe("the hosts of mirrors", () => {
  it("are read as they are made, with or without a port, and no other is one", () => {
    for (const [where, number] of [
      [pattern, 0],
      [pattern, 3],
      ["http://*.mirror.localhost:4303", 1],
    ] as const)
      expect(readMirrorHost(where, new URL(mirrorOrigin(where, id, number)).host)).toEqual({ id, number });
    for (const host of [
      "mirror.example.com",
      `${id}.other.example`,
      `x${id}.mirror.example.com`,
      `${id}-0.mirror.example.com`,
      `${id}.mirror.example.com.evil.example`,
      "",
    ])
      expect(readMirrorHost(pattern, host)).toBeUndefined();
  });
});

describe("addresses of a site and of its mirror", () => {
  const map = mirrorMap(pattern, id, ["https://www.shop.example", "https://blog.shop.example:8443"]);
  it("lead to each other, with path, query and fragment", () => {
    for (const url of ["https://www.shop.example/a?b=c#d", "https://blog.shop.example:8443/"]) {
      const there = map.toMirror(new URL(url)) as string;
      expect(new URL(there).host).toMatch(/^abcdefghijklmnopqrstuvwx(-1)?\.mirror\.example\.com$/);
      expect(map.toSite(new URL(there))).toBe(url);
    }
    // A page links to itself by http, too.
    expect(map.toMirror(new URL("http://www.shop.example/"))).toBe(`https://${id}.mirror.example.com/`);
  });
  it("of others stay as they are", () => {
    expect(map.toMirror(new URL("https://shop.example/"))).toBeUndefined();
    expect(map.toMirror(new URL("mailto:a@www.shop.example"))).toBeUndefined();
    expect(map.toSite(new URL("https://www.shop.example/"))).toBeUndefined();
  });
});
