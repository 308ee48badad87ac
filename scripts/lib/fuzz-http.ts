/** Hostile requests over HTTP: whatever a stranger can send to the ports of the built product, one after the other. */
import http from "node:http";
import { oddTexts } from "./odd-texts";

interface Amiss {
  port: string;
  request: string;
  why: string;
}
export interface HttpFuzzReport {
  requests: number;
  /** By port's name and status. */
  answered: Record<string, number>;
  /** Answered 500, or not at all. */
  failures: Amiss[];
  /** Slower than a request may be, however often it was asked again: on a busy machine any may be. */
  slow: Amiss[];
  /** The longest that one answer took at the quickest of its tries, in milliseconds. */
  longest: number;
}

/** So long an answer may take, at the quickest of three tries: an upper bound of the processor's time for it. */
export const longestAnswer = 50;

interface Port {
  name: string;
  port: number;
  /** Paths that something answers, and whether they are posted to. */
  paths: readonly (readonly [method: "GET" | "POST", path: string])[];
}

/** @param keys a public and a secret key, and an origin that may ask */
export async function fuzzHttp(
  ports: readonly Port[],
  keys: { open: string; secret: string; origin: string },
  count: number,
  seed = 1,
  progress?: (done: number) => void,
): Promise<HttpFuzzReport> {
  let state = seed;
  const random = (n: number): number => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) >>> 8) % n;
  const pick = <T>(list: readonly T[]): T => list[random(list.length)] as T;
  // Signs that may stand in a header and in a target; everything may stand in a body.
  const odd = [
    ...oddTexts,
    "%00",
    "%ed%a0%80",
    "..%2f",
    "a".repeat(60),
    "'",
    "`",
    "$&",
    "(((",
    "*".repeat(40),
    "?",
    "#",
  ];
  const wild = [...odd, "\u0000", "\ud800", "\u202e", "é", "🌿", "\r\n", "\t", "٣", "İ"];
  const text = (most: number, from: readonly string[] = odd): string => {
    let out = "";
    for (let left = random(most); left > 0; left--)
      out += random(3) === 0 ? pick(from) : String.fromCharCode(33 + random(94));
    return out;
  };
  const query = () =>
    Array.from(
      { length: random(random(50) === 0 ? 480 : 8) },
      () => `${pick(["utm_source", "look", "key", "q", text(5)])}=${text(12)}`,
    ).join("&");
  /** Any JSON, with more or less of what is expected in it. */
  const value = (depth = 0): unknown =>
    pick([
      () => text(30, wild),
      () => pick([0, -1, 1e308, 0.5, null, true, [], {}]),
      () => (depth > 3 ? 1 : Array.from({ length: random(random(100) === 0 ? 2000 : 5) }, () => value(depth + 1))),
      () =>
        depth > 3 ? "" : Object.fromEntries(Array.from({ length: random(5) }, () => [text(6, wild), value(depth + 1)])),
      () => `https://shop.example/${text(20)}?${query()}`,
    ])();
  const maybe = (good: () => unknown): unknown => (random(4) === 0 ? value() : good());
  const url = () => maybe(() => `https://shop.example/${text(10)}?${query()}`);
  const body = (path: string): string => {
    const made: Record<string, unknown> = {
      key: maybe(() => keys.open),
      ...(path === "/v1/decide" ? {} : { url: url(), consent: maybe(() => random(2) === 0) }),
    };
    if (path === "/v1/decide") {
      delete made.key;
      made.visit = maybe(() => ({
        at: maybe(() => "2026-11-24T10:15:00Z"),
        url: url(),
        referrer: value(),
        userAgent: maybe(() => text(300, wild)),
        acceptLanguage: maybe(() => Array.from({ length: random(300) }, () => text(4)).join(",")),
        cookies: value(),
        data: value(),
        memory: value(),
        cart: value(),
      }));
    } else if (path === "/v1/events") {
      delete made.url;
      delete made.consent;
      const event = () => ({
        kind: "exposure",
        slot: maybe(() => "a"),
        variant: "a-v",
        arm: "x",
        receipt: maybe(() => text(50)),
      });
      made.events = maybe(() => Array.from({ length: 1 + random(random(20) === 0 ? 300 : 3) }, () => maybe(event)));
    } else if (path === "/v1/page")
      Object.assign(made, { remember: maybe(() => text(200)), cart: value(), data: value() });
    if (random(6) === 0) made[text(6, wild)] = value();
    const told = random(20) === 0 ? text(400, wild) : JSON.stringify(made);
    return told.slice(0, random(15) === 0 ? random(told.length + 1) : 60_000);
  };
  const header = (good: string): string => (random(3) === 0 ? text(200).replace(/[^\x21-\x7e]/g, "") : good);

  const agents = new Map(ports.map(({ name }) => [name, new http.Agent({ keepAlive: true, maxSockets: 1 })]));
  const ask = (to: Port, options: http.RequestOptions, sent: Buffer | undefined) =>
    new Promise<{ status: number | string; took: number }>((done) => {
      const began = performance.now();
      const told = (status: number | string) => done({ status, took: performance.now() - began });
      const request = http.request(
        { ...options, host: "127.0.0.1", port: to.port, agent: agents.get(to.name)! },
        (response) => {
          response
            .on("error", () => told("cut off"))
            .on("end", () => told(response.statusCode ?? 0))
            .resume();
        },
      );
      request.setTimeout(20_000, () => request.destroy());
      request.on("error", (error: NodeJS.ErrnoException) => told(error.code ?? error.message));
      request.end(sent);
    });

  const report: HttpFuzzReport = { requests: count, answered: {}, failures: [], slow: [], longest: 0 };
  for (let number = 0; number < count; number++) {
    const to = pick(ports);
    const [method, path] = random(5) === 0 ? (["GET", `/${text(40)}`] as const) : pick(to.paths);
    const sent = method === "POST" ? Buffer.from(body(path)) : undefined;
    // A target is one by the rules of HTTP: what is none, Node's own parser refuses.
    const target = `${path}${random(2) === 0 ? `?${query()}` : ""}`.replace(/[^\x21-\x7e]/g, "").slice(0, 8000);
    const options: http.RequestOptions = {
      method,
      path: target.startsWith("/") ? target : `/${target}`,
      headers: {
        host: header(`localhost:${to.port}`),
        origin: header(keys.origin),
        authorization: header(`Bearer ${keys.secret}`),
        "user-agent": header(
          "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 Chrome/142.0.0.0 Safari/537.36",
        ),
        "accept-language": header("pt-PT,pt;q=0.9"),
        cookie: header("mirada-consent=yes; mirada=x"),
        "x-forwarded-for": header("203.0.113.9"),
        "if-none-match": header("*"),
        ...(sent
          ? {
              "content-type": pick(["application/json", "text/plain", header("text/html")]),
              "content-length": sent.length,
            }
          : {}),
      },
    };
    let { status, took } = await ask(to, options, sent);
    // A pause of the machine is no fault of the request: the quickest of three counts.
    for (let again = 0; again < 2 && took > longestAnswer; again++) {
      const next = await ask(to, options, sent);
      took = Math.min(took, next.took);
      status = next.status;
    }
    const name = `${to.name} ${status}`;
    report.answered[name] = (report.answered[name] ?? 0) + 1;
    report.longest = Math.max(report.longest, took);
    const note = (list: Amiss[], why: string) =>
      list.length < 20 &&
      list.push({ port: to.name, request: `${method} ${target} ${sent?.toString().slice(0, 2000) ?? ""}`, why });
    if (status === 500 || status === "cut off") note(report.failures, `answered ${status}`);
    if (took > longestAnswer) note(report.slow, `took ${took.toFixed(0)} ms`);
    if (progress && number % 20_000 === 19_999) progress(number + 1);
  }
  for (const agent of agents.values()) agent.destroy();
  return report;
}
