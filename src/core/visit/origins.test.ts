import { describe, expect, it } from "vitest";
import { isLoopback, reachableFrom } from "./origins";

describe("an origin on this machine", () => {
  // RFC 6761, section 6.3: localhost and all names under it are loopback; RFC 1122, 3.2.1.3: 127/8.
  it.each([
    ["localhost", true],
    ["shop.localhost", true],
    ["127.0.0.1", true],
    ["127.1.2.3", true],
    ["[::1]", true],
    ["localhost.example", false],
    ["notlocalhost", false],
    ["192.168.1.5", false],
  ])("%s is one: %s", (name, is) => expect(isLoopback(name)).toBe(is));

  it("is reached from a phone by the machine's own name, at its own port", () => {
    expect(reachableFrom("http://shop.localhost:4310", "192.168.1.5")).toBe("http://192.168.1.5:4310");
    expect(reachableFrom("http://shop.localhost:4310", "localhost")).toBe("http://shop.localhost:4310");
    expect(reachableFrom("https://www.shop.example", "192.168.1.5")).toBe("https://www.shop.example");
  });
});
