import { expect, it } from "vitest";
import { createEngine } from "../decision/engine";
import { ruleset, variant, visit } from "../testing";
import { answerSays } from "./answer";
import { answerDiffers, differenceExplained, lensHeader } from "./site";

const engine = createEngine(
  ruleset({
    slots: [{ id: "s", name: "S", variants: [variant("a", { signal: "campaign.source", op: "is", value: "x" })] }],
  }),
);
const asked = visit({ url: "https://shop.example/?utm_source=x" });
const decision = engine.decide(asked);
const check = (expect: object, of = asked) => ({ id: "c", name: "C", visit: of, expect }) as never;
const page = (variants: string, words = "Hello &amp; welcome") =>
  `<style>x</style><div data-mirada-slot="s" data-mirada-variants="${variants}"><p>${words}</p></div>`;
const told = (what: object) => ({ [lensHeader]: encodeURIComponent(JSON.stringify(what)) });

it("reads what stands in a page, and where the door would send", () => {
  const answer = answerSays(
    200,
    { age: "30", ...told({ redirect: "https://shop.example/n", total: 120 }) },
    page("a b"),
  );
  expect(answer).toMatchObject({ slots: { s: ["a", "b"] }, redirect: "https://shop.example/n", total: 120, age: 30 });
  expect(answer.words).toBe("Hello & welcome");
  expect(answerSays(200, { [lensHeader]: "%7Bbroken" }, "").redirect).toBeNull();
});
it("reads pages as browsers do, not by how they are written", () => {
  const odd = `<!-- data-mirada-slot="no" data-mirada-variants="x" -->
    <DIV data-mirada-variants='b' class=x data-mirada-slot=s>Fr<b>ost</b>proof<br>pots &mdash; 5&nbsp;&euro;</DIV>
    <p title="<data-mirada-slot">a &lt; b</p><script>"<p>not said</p>"</script><template>nor this</template>`;
  const answer = answerSays(200, {}, odd);
  expect([answer.slots, answer.words]).toEqual([{ s: ["b"] }, "Frostproof pots — 5 € a < b"]);
  expect(answerSays(200, {}, '<i data-mirada-slot="__proto__" data-mirada-variants="a"></i>').slots).toEqual(
    Object.fromEntries([["__proto__", ["a"]]]),
  );
});
it("tells differences of every kind of check", () => {
  const same = answerSays(200, {}, page("a"));
  expect(answerDiffers(check({ slot: "s", variant: "a" }), decision, same)).toBeUndefined();
  expect(answerDiffers(check({ slot: "s", text: "Hello & welcome" }), decision, same)).toBeUndefined();
  expect(answerDiffers(check({ slot: "s", text: "Bye" }), decision, same)).toContain("does not say “Bye”");
  expect(answerDiffers(check({ total: 5 }), decision, answerSays(200, told({ total: 7 }), page("a")))).toContain(
    "another total",
  );
  expect(answerDiffers(check({ slot: "s", variant: "a" }), decision, answerSays(200, {}, page("")))).toContain(
    "shows the fallback",
  );
  expect(answerDiffers(check({ slot: "s", variant: "a" }), decision, answerSays(404, {}, ""))).toContain("404");
  expect(
    answerDiffers(
      check({ redirect: "x" }),
      decision,
      answerSays(200, told({ redirect: "https://shop.example/x" }), ""),
    ),
  ).toContain("sends to");
});
it("explains them by a cache, the pass, or consent", () => {
  const agreed = check({ slot: "s", variant: "a" }, visit({ consent: true }));
  expect(differenceExplained(agreed, answerSays(200, { age: "9" }, page("a")))).toContain("9 seconds old");
  expect(differenceExplained(agreed, answerSays(200, { "x-cache": "HIT" }, page("a")))).toContain("A cache in between");
  expect(differenceExplained(agreed, answerSays(200, { "cache-status": "ExampleCache; hit" }, page("a")))).toContain(
    "A cache",
  );
  const plain = answerSays(200, {}, '<div data-mirada-slot="s">x</div>');
  expect(differenceExplained(agreed, plain)).toContain("plain visitor");
  expect(differenceExplained(check({ slot: "s", variant: "a" }), answerSays(200, {}, page("a")))).toContain(
    "not given consent",
  );
  expect(differenceExplained(agreed, answerSays(200, {}, page("a")))).toBeUndefined();
});
