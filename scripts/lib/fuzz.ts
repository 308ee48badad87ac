/** Hostile requests: whatever a visitor can send, made up at random, decided by the demo's rules. */
import { createEngine } from "@/core/decision/engine";
import { readRuleset } from "@/core/ruleset/check";
import { readCookies } from "@/core/visit/cookies";
import { clientAddress, readBlocks } from "@/delivery/client-address";
import { readMemoryCookie, writeMemoryCookie } from "@/delivery/memory-cookie";
import { visitOf } from "@/delivery/visit";
import { demoRuleset } from "../../demo/ruleset";
import { oddTexts } from "./odd-texts";

export interface FuzzReport {
  inputs: number;
  /** Inputs on which something was thrown: there must be none. */
  failures: { input: unknown; error: string }[];
  /** The longest that one answer took, in milliseconds of wall-clock time, and the 99.99th percentile. */
  longest: number;
  nearlyLongest: number;
}

/** Decides `count` made-up requests; the same `seed` makes the same ones. */
export function fuzz(count: number, seed = 1, progress?: (done: number) => void): FuzzReport {
  let state = seed;
  const random = (n: number): number => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) >>> 8) % n;
  const pick = <T>(list: readonly T[]): T => list[random(list.length)] as T;
  const read = readRuleset(demoRuleset(0));
  if (!read.ok) throw new Error("the demo's ruleset is wrong");
  const engine = createEngine(read.value);
  const secret = Buffer.alloc(32, 7);
  const trusted = readBlocks(["10.0.0.0/8"]);

  const odd = [
    ...oddTexts,
    "",
    "\u0000",
    "\ud800",
    "\u202e",
    "é",
    "e\u0301",
    "🌿",
    "toString",
    "٣",
    "ß",
    "İ",
    "\r\n",
    "\t",
    "a".repeat(50),
  ];
  const text = (most: number): string => {
    let out = "";
    for (let i = random(most); i > 0; i--) out += random(3) === 0 ? pick(odd) : String.fromCharCode(33 + random(94));
    return out;
  };
  const many = (make: () => string, joint: string, most: number): string =>
    Array.from({ length: random(random(200) === 0 ? most * 20 : most) }, make).join(joint);
  const pair = () => `${pick(["utm_source", "utm_campaign", "kw", "q", "look", text(6)])}=${text(12)}`;
  const good = writeMemoryCookie(
    "v-AAAAAAAAAAAAAAAA",
    { v: 1, h: [3, 1, 1, 1, 1, 1], l: "/", c: [["ferns", 9, 1]] },
    secret,
  );
  const memory = () =>
    pick([
      () => good,
      () => good.slice(0, random(good.length)),
      () => good.replace(pick([...good]), pick(odd)),
      () => writeMemoryCookie("v-AAAAAAAAAAAAAAAA", hostileMemory(), secret),
      () => text(80),
    ])();
  const number = () => pick([0, -1, 1, 1e308, NaN, 253402300799999, 253402300800000, 0.5, "x", null, [], {}]);
  const hostileMemory = () => ({
    v: pick([1, 1, 1, 2, "1"]),
    h: pick([Array.from({ length: random(9) }, number), "x", null]),
    l: pick(["/", text(40), 7, null]),
    c: pick([[["ferns", number(), number()]], [[text(5)]], "x", [null, [1]]]),
    m: pick([[["fern-friend", number(), number(), number()]], [["forged", 99, 9e15, 1]], 5]),
    s: pick([[["clinic", number()]], {}]),
    p: [[text(4), number(), number(), number(), number(), number(), number()]],
    r: [[text(4), number(), number()]],
  });
  const agents = [
    "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36",
    "Mozilla/5.0 (iPhone; CPU iPhone OS 18_7 like Mac OS X) AppleWebKit/605.1.15",
    "curl/8",
    "Googlebot/2.1",
  ];

  const failures: FuzzReport["failures"] = [];
  const times: number[] = [];
  let longest = 0;
  for (let i = 0; i < count; i++) {
    const headers: Record<string, string> = {
      host: pick(["shop.localhost", text(10)]),
      referer: pick(["", `https://quarry.example/search?q=${text(20)}`, text(30), `https://${text(8)}/${text(20)}`]),
      "user-agent": pick([pick(agents), text(60), pick(agents) + text(200)]),
      "accept-language": pick([
        "pt-PT,pt;q=0.9",
        many(() => `${text(4)};q=${text(3)}`, ",", 8),
        many(() => "en;q=0.5", ",", 300),
      ]),
      cookie:
        many(() => `${pick(["cart", "member", "wishes", text(5)])}=${text(15)}`, "; ", 8) + `; mirada=${memory()}`,
      "sec-ch-ua-platform": pick(['"Android"', text(8)]),
      "sec-ch-ua-mobile": pick(["?1", "?0", text(3)]),
      "sec-ch-viewport-width": pick(["390", "-1", "1e999", text(5)]),
    };
    const target = `/${text(10)}?${many(pair, "&", 6)}`;
    const forwarded = many(() => pick(["203.0.113.9", "10.1.1.1", text(10), "[::1]:80"]), ",", 6);
    const address = pick(["10.0.0.1", "192.0.2.7", text(8)]);
    const consent = random(2) === 0;
    const answer = (): number => {
      const started = performance.now();
      const cookies = readCookies(headers.cookie);
      const remembered = readMemoryCookie(cookies.mirada, secret);
      const visit = visitOf(
        {
          site: "brackenfold",
          target,
          headers: { get: (name) => headers[name] ?? null },
          cookies,
          page: { id: "ferns", category: "ferns" },
          cart: undefined,
        },
        "https://brackenfold.example",
        {
          address: clientAddress(address, forwarded, trusted),
          consent,
          visitorId: remembered?.visitorId,
          memory: remembered?.memory,
        },
      );
      const decision = engine.decide(visit);
      if (!decision.redirect && !decision.slots["site-bar"]) throw new Error("a slot did not answer");
      return performance.now() - started;
    };
    let took = 0;
    try {
      took = answer();
      // A pause of the machine is no fault of the input: what seemed slow is timed twice more, and the least counts.
      if (took > 2) took = Math.min(took, answer(), answer());
    } catch (error) {
      if (failures.length < 20) failures.push({ input: { target, headers, forwarded }, error: String(error) });
    }
    if (took > longest) longest = took;
    if (times.length < 200_000 || took > 1) times.push(took);
    if (progress && i % 100_000 === 99_999) progress(i + 1);
  }
  times.sort((a, b) => a - b);
  return { inputs: count, failures, longest, nearlyLongest: times[Math.floor(times.length * 0.9999)] ?? 0 };
}
