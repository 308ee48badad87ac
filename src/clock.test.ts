import { afterEach, describe, expect, it } from "vitest";
import { now, nowText, setClock } from "./clock";

afterEach(() => setClock(undefined));

describe("the clock", () => {
  it("is the machine's, unless it is set; then it goes on from there", async () => {
    expect(Math.abs(now() - Date.now())).toBeLessThan(1000);
    setClock(Date.parse("2028-02-29T23:59:59.990Z"));
    expect(nowText()).toMatch(/^2028-02-29T23:59:59/);
    await new Promise((next) => setTimeout(next, 30));
    expect(nowText()).toMatch(/^2028-03-01T00:00:00/);
    setClock(undefined);
    expect(Math.abs(now() - Date.now())).toBeLessThan(1000);
  });
});
