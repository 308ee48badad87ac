import { describe, expect, it } from "vitest";
import { namesInUse, opChoices, signalChoices, valuesInUse } from "./choices";
import { readPlaceEntry } from "../rules/place-text";
import { ruleset, variant } from "../testing";
import { usesOf } from "./uses";

const rules = ruleset({
  dataFields: [{ signal: "data", name: "member", kind: "flag" }],
  placeLists: [{ id: "eu", name: "EU", places: [{ country: "PT" }] }],
  audiences: [{ id: "mail", name: "Mail", rule: { signal: "campaign.source", op: "is", value: "postbox" } }],
  markers: [{ id: "m", name: "M", gain: { signal: "cookie.seen", op: "isPresent" }, days: 1 }],
  offers: [{ id: "o", name: "O", label: "O", reward: { percent: 5 }, threshold: "10" }],
  blockTypes: [{ id: "t", name: "T", fields: [{ id: "x", name: "X", kind: "line" }] }],
  slots: [
    {
      id: "s",
      name: "Hero",
      variants: [
        variant("a", { all: [{ audience: "mail" }, { signal: "place", op: "isIn", value: [{ list: "eu" }] }] }),
        variant(
          "b",
          {
            any: [
              { signal: "marker.m", op: "isTrue" },
              { signal: "data.member", op: "isTrue" },
            ],
          },
          {
            arms: [
              {
                id: "a",
                weight: 100,
                content: { type: "t", fields: { x: "{n}" }, tokens: { n: { signal: "cart.toGo.o" } } },
              },
            ],
          },
        ),
      ],
    },
  ],
});

describe("where things are used", () => {
  it("in rules, in place conditions, in tokens", () => {
    const names = (used: Parameters<typeof usesOf>[0]) => usesOf(used, rules).map((owner) => owner.name);
    expect(names({ audience: "mail" })).toEqual(["Hero, a"]);
    expect(names({ placeList: "eu" })).toEqual(["Hero, a"]);
    expect(names({ marker: "m" })).toEqual(["Hero, b"]);
    expect(names({ dataField: "data.member" })).toEqual(["Hero, b"]);
    expect(names({ offer: "o" })).toEqual(["Hero, b"]);
    expect(names({ blockType: "t" })).toEqual(["Hero, b"]);
    expect(names({ audience: "other" })).toEqual([]);
  });
});

describe("what is offered to build rules from", () => {
  it("every signal, declared ones too, but for those refused; only ops that fit", () => {
    const signals = signalChoices(rules).map((choice) => choice.signal);
    expect(signals).toEqual(
      expect.arrayContaining([
        "time",
        "query.",
        "cookie.",
        "history.category.",
        "marker.m",
        "cart.toGo.o",
        "data.member",
        "ip",
      ]),
    );
    expect(signalChoices(rules, (signal) => signal.startsWith("marker.")).map((item) => item.signal)).not.toContain(
      "marker.m",
    );
    expect(opChoices("data.member", rules)).toEqual(expect.arrayContaining(["isTrue", "isFalse", "isPresent"]));
    expect(opChoices("data.member", rules)).not.toContain("contains");
    expect(opChoices("nothing", rules)).toEqual([]);
  });
  it("values and names that the site has or rules use already", () => {
    const facts = {
      pages: [{ path: "/ferns", facts: { category: "ferns" } }],
      products: [{ sku: "f", name: "F", category: "ferns" }],
    };
    expect(valuesInUse("campaign.source", rules)).toEqual(["postbox"]);
    expect(valuesInUse("page.category", rules, facts)).toEqual(["ferns"]);
    expect(namesInUse("cookie.", rules)).toEqual(["seen"]);
    expect(namesInUse("history.category.", rules, facts)).toEqual(["ferns"]);
  });
  it("places as they are typed", () => {
    expect(readPlaceEntry("pt")).toEqual({ country: "PT" });
    expect(readPlaceEntry("Portugal")).toEqual({ country: "PT" });
    expect(readPlaceEntry("europe")).toEqual({ continent: "EU" });
    expect(readPlaceEntry("pt-11")).toEqual({ country: "PT", region: "PT-11" });
    expect(readPlaceEntry("Lisbon, PT")).toEqual({ country: "PT", city: "Lisbon" });
    expect(readPlaceEntry("38.72 -9.14 50 km")).toEqual({ lat: 38.72, lon: -9.14, km: 50 });
    for (const wrong of ["", "Narnia", "XX", "99 0 5", "38 -9", "38 -9 0"])
      expect(readPlaceEntry(wrong)).toBeUndefined();
  });
});
