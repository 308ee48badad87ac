import { describe, expect, test } from "vitest";
import { meantBy } from "./meant";

const places = [
  "Porto, Portugal",
  "Portugal",
  "Portofino, Italy",
  "Paris, France",
  "Paris, United States",
  "São Paulo",
];
const meant = (text: string) => meantBy(text, places, (place) => place);

describe("what a typed text means of what is offered", () => {
  test("a whole name, whatever else begins with it", () => {
    expect(meantBy("sea", ["sea shells", "sea"], (one) => one)).toBe("sea");
  });
  test("the only one that begins with its words", () => {
    expect(meant("Porto")).toBe("Porto, Portugal");
    expect(meant(" portug ")).toBe("Portugal");
    expect(meant("sao paulo")).toBe("São Paulo");
  });
  test("nothing where several could be meant, or none", () => {
    expect(meant("Paris")).toBeUndefined();
    expect(meant("Por")).toBeUndefined();
    expect(meant("Ghent")).toBeUndefined();
    expect(meant("  ")).toBeUndefined();
  });
});
