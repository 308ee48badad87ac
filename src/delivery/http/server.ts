import rateLimit from "@fastify/rate-limit";
import fastify, { type FastifyInstance, type FastifyReply, type FastifyRequest } from "fastify";
import { readFileSync } from "node:fs";
import type { z } from "zod";
import { countOpened } from "@/core/decision/popups";
import { problemsOf } from "@/core/formats/problem";
import type { Ruleset } from "@/core/formats/ruleset";
import { parseInstant, readVisit } from "@/core/formats/visit";
import { countDrift } from "@/data/drift";
import { goodKeys } from "@/data/keys";
import { isTargetTooLong, longestBody as bodyLimit } from "@/front/limits";
import { clientAddress } from "../client-address";
import { decideOrFallBack } from "../decide";
import { completed, completingOf, eventQueue } from "../events";
import { tellerGroups } from "../groups";
import { liveRulesets, type Live } from "../live";
import { readiness } from "../ready";
import { answerPass } from "../answer";
import { lookAnswer } from "../look";
import { countOpening } from "../opened";
import { heardFrom } from "../heard";
import { decidePage, receiptsFor } from "../page";
import { driftSchema, eventsSchema, lookSchema, openedSchema, pageSchema, type decidedSchema } from "./formats";
import { hiding, sources } from "./beforehand";
import { byPublicKey, byServerKey, claimOf, siteByPublicKey, siteOfPublicKey } from "./keys";
import { makeMetrics, measure } from "./metrics";
import { openApi } from "./openapi";
import { packed } from "./packed";
import { problem } from "./problem";
import { now } from "@/clock";

export interface ServerOptions {
  /** The address under which it is reached, for its description. */
  address: string;
  /** The page script's file. */
  script?: string;
  /** The file that reads values from pages, for sites that say where they stand. */
  collect?: string;
  /** The file that watches for goals, for sites that have any. */
  goals?: string;
  /** The file of its lens mode. */
  look?: string;
  /** The origin of the workbench, with which alone pages in lens mode speak. */
  workbench?: string;
  /** How many requests a minute one address may send by script. */
  perMinute?: number;
  /** Where lines are logged to; undefined: nowhere. */
  log?: boolean;
}

/** A server that answers what visits get. It holds no state that another beside it would need. */
export async function deliveryServer({
  address,
  script,
  collect,
  goals,
  look,
  workbench = "http://localhost:4300",
  perMinute = 1200,
  log = false,
}: ServerOptions): Promise<FastifyInstance> {
  const app = fastify({
    bodyLimit,
    // Neither addresses, nor queries, nor bodies: a line says which route, how it ended, and how long it took.
    logger: log
      ? {
          level: "warn",
          serializers: {
            req: (request: FastifyRequest) => ({ method: request.method, route: request.routeOptions?.url }),
          },
        }
      : false,
    routerOptions: { maxParamLength: 100 },
    requestTimeout: 10_000,
    keepAliveTimeout: 30_000,
    trustProxy: false,
  });
  const metrics = makeMetrics();
  measure(app, metrics, log);
  // Browsers send text/plain without asking first; what is in it is JSON all the same.
  app.addContentTypeParser("text/plain", { parseAs: "string" }, (_request, body, done) => {
    try {
      done(null, JSON.parse(body as string));
    } catch {
      done(Object.assign(new Error("The body is no JSON."), { statusCode: 400 }));
    }
  });
  app.setErrorHandler((error: Error & { statusCode?: number }, _request, reply) => {
    const status = error.statusCode ?? 500;
    if (status >= 500) app.log.error({ error: error.message });
    const titles: Record<number, string> = {
      400: "The body could not be understood",
      413: `The body is longer than ${bodyLimit / 1024} kB`,
      415: "The body must be JSON",
      429: "Too many requests",
    };
    return problem(
      reply,
      status,
      titles[status] ?? (status >= 500 ? "Something went wrong here" : error.message),
      status === 429 ? error.message : undefined,
    );
  });
  app.setNotFoundHandler((request, reply) =>
    problem(reply, 404, "There is no such address", `${request.method} ${request.url.split("?")[0]}`),
  );
  app.addHook("onRequest", async (request, reply) => {
    if (isTargetTooLong(request.raw.url ?? "")) return problem(reply, 414, "The address is too long");
  });
  app.addHook("onSend", async (_request, reply) => {
    reply.header("x-content-type-options", "nosniff");
    reply.header("content-security-policy", "default-src 'none'; frame-ancestors 'none'");
    if (!reply.hasHeader("cache-control")) reply.header("cache-control", "no-store");
  });

  app.get("/health", () => ({ ok: true }));
  app.get("/ready", async (_request, reply) => {
    const found = await readiness();
    return reply.code(found.ready ? 200 : 503).send(found);
  });
  app.get("/metrics", async (_request, reply) =>
    reply.type(metrics.registry.contentType).send(await metrics.registry.metrics()),
  );
  const description = openApi(address);
  app.get("/openapi.json", () => description);

  // For the benchmark: takes the same body, and does nothing with it.
  if (process.env.MIRADA_BENCH) app.post("/empty", () => ({ ok: true }));

  app.post("/v1/decide", async (request, reply) => {
    const body = request.body as {
      visit?: unknown;
      trace?: unknown;
      look?: unknown;
      countPopups?: unknown;
      receipts?: unknown;
    } | null;
    // A parameter that names no pass is what anybody may write into an address: then it is a visit like others.
    const looked = typeof body?.look === "string" ? await lookedAt(request, body.look) : undefined;
    if (looked) return looked;
    const live = await byServerKey(request, reply);
    if (!live) return reply;
    if (typeof body !== "object" || body === null)
      return problem(reply, 400, "The body could not be understood", "It must be an object with a visit.");
    const odd = Object.keys(body).find((key) => !["visit", "trace", "look", "countPopups", "receipts"].includes(key));
    if (odd !== undefined)
      return problem(reply, 400, "The body could not be understood", `There is no key ${odd}.`, {
        problems: [{ path: `/${odd}`, code: "unknown-key", problem: "is not known" }],
      });
    const { countPopups = "decided" } = body;
    if (countPopups !== "decided" && countPopups !== "opened")
      return problem(reply, 400, "The body could not be understood", "countPopups is decided or opened.", {
        problems: [{ path: "/countPopups", code: "choice", problem: "must be decided or opened" }],
      });
    const read = readVisit(body.visit);
    if (!read.ok)
      return problem(
        reply,
        400,
        "The visit could not be understood",
        read.problems[0] && `${read.problems[0].path}: ${read.problems[0].problem}`,
        {
          problems: read.problems.map((item) => ({ ...item, path: `/visit${item.path}` })),
        },
      );
    const decision = decideOrFallBack(live.engine, read.value, {
      ...(body.trace === true ? { trace: true } : {}),
      countPopups,
      holdout: true,
    });
    reply.header("content-type", "application/json; charset=utf-8");
    // Asked for by servers whose pages tell by themselves what happened.
    const receipts = body.receipts === true ? receiptsFor(live, decision, read.value) : undefined;
    return JSON.stringify({ release: live.release, decision, receipts });
  });

  app.get("/v1/ruleset", async (request, reply) => {
    const live = await byServerKey(request, reply);
    if (!live) return reply;
    reply.header("etag", live.etag).header("cache-control", "private, max-age=0, must-revalidate");
    const known = (request.headers["if-none-match"] ?? "").split(",").map((tag) => tag.trim().replace(/^W\//, ""));
    if (known.includes(live.etag) || known.includes("*")) return reply.code(304).send();
    return live.engine.ruleset;
  });

  await app.register(async (pages) => {
    await pages.register(rateLimit, {
      max: perMinute,
      timeWindow: 60_000,
      errorResponseBuilder: (_request, context) =>
        Object.assign(new Error(`At most ${context.max} a minute from one address. Try again in ${context.after}.`), {
          statusCode: 429,
        }),
    });
    pages.addHook("onRequest", async (request, reply) => {
      reply.header("vary", "Origin");
      const { origin } = request.headers;
      // Which origins may ask is known only with the key, which is in the body: whoever may not gets no answer that it could read.
      if (request.method === "OPTIONS" && origin)
        reply
          .header("access-control-allow-origin", origin)
          .header("access-control-allow-methods", "POST")
          .header("access-control-allow-headers", "content-type")
          .header("access-control-max-age", "600");
    });
    pages.options("/v1/*", async (_request, reply) => reply.code(204).send());

    pages.post("/v1/page", async (request, reply) => {
      const read = pageSchema.safeParse(request.body);
      if (!read.success) return refused(reply, read.error);
      const site = await siteByPublicKey(read.data.key, request, reply);
      if (site === undefined) return reply;
      heardFrom(site, read.data.url);
      const live = await liveRulesets().get(site);
      if (!live) return problem(reply, 404, "Nothing is live yet", "The page’s own content stands.");
      return decidePage(live, read.data, {
        address: addressOf(request, live),
        userAgent: request.headers["user-agent"],
        acceptLanguage: request.headers["accept-language"],
        refused: request.headers["sec-gpc"] === "1",
      });
    });

    pages.post("/v1/opened", async (request, reply) => {
      const read = openedSchema.safeParse(request.body);
      if (!read.success) return refused(reply, read.error);
      const told = read.data;
      const live = "key" in told ? await byPublicKey(told.key, request, reply) : await byServerKey(request, reply);
      if (!live) return reply;
      if ("key" in told) return { remember: countOpening(live, told.remember, told.note) };
      const { popup, decided, memory } = told;
      return { memory: countOpened(live.engine.ruleset, memory, popup, parseInstant(decided) ?? now(), now()) };
    });

    pages.post("/v1/look", async (request, reply) => {
      const read = lookSchema.safeParse(request.body);
      if (!read.success) return refused(reply, read.error);
      const site = await siteByPublicKey(read.data.key, request, reply);
      if (site === undefined) return reply;
      const found = await lookAnswer(site, read.data);
      return found ?? problem(reply, 404, "This look has ended", "Open the page once more in the workbench.");
    });

    pages.post("/v1/drift", async (request, reply) => {
      const read = driftSchema.safeParse(request.body);
      if (!read.success) return refused(reply, read.error);
      const live = await byPublicKey(read.data.key, request, reply);
      if (!live) return reply;
      // Only of what there is: nobody fills the list with names of their own.
      const { slots, site } = live.engine.ruleset;
      const known = read.data.drifts.filter(({ slot, variant }) =>
        slots.some((one) => one.id === slot && (variant === "" || one.variants.some(({ id }) => id === variant))),
      );
      if (known.length > 0)
        await countDrift(
          site.id,
          known.map((one) => ({ ...one, path: read.data.path })),
        );
      return reply.code(202).send({ taken: known.length });
    });

    pages.post("/v1/events", async (request, reply) => {
      const read = eventsSchema.safeParse(request.body);
      if (!read.success) return refused(reply, read.error);
      const { key, sent, events } = read.data;
      const live = key === undefined ? await byServerKey(request, reply) : await byPublicKey(key, request, reply);
      if (!live) return reply;
      const { "user-agent": userAgent, "accept-language": acceptLanguage } = request.headers;
      const here =
        key !== undefined &&
        tellerGroups({ address: addressOf(request, live), userAgent, acceptLanguage }, live.lookup);
      const completing = completingOf(live, sent, key !== undefined);
      const kept = events.flatMap(({ country = "", device = "", language = "", system = "", ...event }) => {
        // Only a server knows better than the request where and with what it was.
        return completed(event, here || { country, device, language, system }, completing) ?? [];
      });
      if (!eventQueue().take(completing.site, kept)) {
        reply.header("retry-after", "5");
        return problem(reply, 503, "Too many events are waiting", "Send them again in a few seconds.");
      }
      return reply.code(202).send({ taken: kept.length, late: events.length - kept.length });
    });
  });

  /** A file for pages of any origin. */
  const give = (path: string, textFor: (key: string | undefined) => string | Promise<string>) => {
    app.get(path, async (request, reply) => {
      const { key } = request.query as { key?: unknown };
      const text = await textFor(typeof key === "string" ? key : undefined);
      const accepted = request.headers["accept-encoding"];
      const { etag, encoding, body } = packed(text, Array.isArray(accepted) ? accepted.join() : accepted);
      reply.headers({
        etag,
        vary: "Accept-Encoding",
        "cache-control": "public, max-age=300",
        "access-control-allow-origin": "*",
        "cross-origin-resource-policy": "cross-origin",
      });
      if (request.headers["if-none-match"] === etag) return reply.code(304).send();
      if (encoding) reply.header("content-encoding", encoding);
      return reply.type("text/javascript; charset=utf-8").send(body);
    });
  };
  if (script !== undefined) {
    const text = readFileSync(script, "utf8");
    const collecting = collect === undefined ? "" : readFileSync(collect, "utf8");
    const watching = goals === undefined ? "" : readFileSync(goals, "utf8");
    give("/v1/page.js", async (key) => {
      const ruleset = await rulesetOfKey(key);
      if (!ruleset) return text;
      return `${hiding(ruleset)}${ruleset.goals.length > 0 ? watching : ""}${collecting === "" ? "" : sources(ruleset, collecting)}${text}`;
    });
  }
  if (look !== undefined) {
    const text = readFileSync(look, "utf8").replace("MIRADA_WORKBENCH_ORIGIN", () => new URL(workbench).origin);
    give("/v1/look.js", () => text);
  }
  return app;
}

const addressOf = (request: FastifyRequest, live: Live): string | undefined => {
  const forwarded = request.headers["x-forwarded-for"];
  return clientAddress(
    request.socket.remoteAddress,
    Array.isArray(forwarded) ? forwarded.join(",") : forwarded,
    live.trustedProxies,
  );
};

/** What is live of the site of a public key. */
async function rulesetOfKey(key: string | undefined): Promise<Ruleset | undefined> {
  const site = key === undefined ? undefined : siteOfPublicKey(key);
  return site === undefined ? undefined : (await liveRulesets().get(site))?.engine.ruleset;
}

/** What a lens gets on a page that the customer's server makes, also while nothing is live; undefined: it is no lens's. */
async function lookedAt(request: FastifyRequest, pass: string): Promise<z.input<typeof decidedSchema> | undefined> {
  const claim = claimOf(request.headers.authorization ?? "");
  if (!claim || (await goodKeys(claim.site)).get(claim.digest) !== "secret") return undefined;
  const [answer, live] = await Promise.all([answerPass(claim.site, pass), liveRulesets().get(claim.site)]);
  // A decision is what the schema of decisions makes of it: it is written, not read, here.
  return answer?.look && { release: live?.release ?? 0, decision: answer.decision as never, look: true };
}

function refused(reply: FastifyReply, error: z.ZodError) {
  const problems = problemsOf(error.issues);
  return problem(reply, 400, "The body could not be understood", `${problems[0]?.path}: ${problems[0]?.problem}`, {
    problems,
  });
}
