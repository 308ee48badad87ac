/** A site on a database of its own, served by delivery servers as they are built: for tests of what breaks under them. */
import { spawn, type ChildProcess } from "node:child_process";
import pg from "pg";
import { rulesetOf } from "@/core/draft/picks";
import { siteDraftSchema } from "@/core/formats/site-draft";
import { ruleset, site as plain, variant } from "@/core/testing";
import { freePorts } from "../../scripts/lib/steps.mjs";

export interface DeliveryProcess {
  port: number;
  child: ChildProcess;
}

const visit = { at: "2026-11-24T10:15:00Z", url: "https://shop.example/" };

/** Two slots that every release changes together: were a release taken up by halves, they would differ. */
export const draftOf = (site: string, text: string) =>
  siteDraftSchema.parse({
    ...ruleset({
      site: { ...plain, id: site },
      blockTypes: [{ id: "n", name: "Note", fields: [{ id: "text", name: "Text", kind: "line" }] }],
      slots: ["a", "b"].map((id) => ({
        id,
        name: id,
        variants: [
          variant(`${id}-v`, null, {
            arms: [{ id: "x", weight: 100, content: { type: "n", fields: { text } } }],
          }),
        ],
      })),
    }),
  });

/** @param site its id; @param url of the database, which must be up, and which this process uses from now on */
export async function serve(site: string, url: string) {
  process.env.DATABASE_URL = url;
  const [{ migrate }, { createSite }, { makeKey }, { tendPartitions }, { allSites, transaction, pool }, releases] =
    await Promise.all([
      import("@/data/migrate"),
      import("@/data/draft"),
      import("@/data/keys"),
      import("@/data/events"),
      import("@/data/pool"),
      import("@/data/releases"),
    ]);
  pool().on("error", () => undefined);
  await migrate();
  const secret = await transaction(allSites, async (db) => {
    await createSite(draftOf(site, "first"), db);
    await tendPartitions(db);
    return makeKey(site, "secret", "test", "test", db);
  });
  const children: ChildProcess[] = [];

  /** A connection beside the product's own, which sees every site. @param to another address of the database */
  const everySite = (to = url) => new pg.Client({ connectionString: to, options: "-c mirada.site=*" });
  const post = (port: number, path: string, body: object) =>
    fetch(`http://127.0.0.1:${port}${path}`, {
      method: "POST",
      headers: { authorization: `Bearer ${secret}`, "content-type": "application/json" },
      body: JSON.stringify(body),
    });

  return {
    secret,
    everySite,
    async startDelivery(more: Record<string, string> = {}): Promise<DeliveryProcess> {
      const port = await freePorts([1, 2, 3]);
      const child = spawn("node", [".next/mirada/delivery.mjs"], {
        env: {
          ...process.env,
          PORT: String(port),
          DATABASE_URL: url,
          MIRADA_LOG: "off",
          MIRADA_PER_MINUTE: "1000000",
          ...more,
        },
        stdio: ["ignore", "pipe", "inherit"],
      });
      children.push(child);
      await new Promise<void>((resolve, reject) => {
        child.stdout?.on("data", (text) => String(text).includes("delivery ready") && resolve());
        child.once("exit", () => reject(new Error("the delivery server ended before it was ready: is it built?")));
      });
      return { port, child };
    },
    /** What a visitor gets: the text of both slots, if it is one. */
    async shown(port: number): Promise<{ status: number; text?: string }> {
      const answer = await post(port, "/v1/decide", { visit });
      if (answer.status !== 200) return { status: answer.status };
      const { decision } = (await answer.json()) as {
        decision: { slots: Record<string, { content: { fields: { text: string } } }[]> };
      };
      const [a, b] = ["a", "b"].map((slot) => decision.slots[slot]?.[0]?.content.fields.text);
      return { status: 200, text: a === b ? String(a) : `${a} beside ${b}` };
    },
    /** Sends events. @returns the status */
    tell: async (port: number, events: readonly object[]): Promise<number> =>
      (await post(port, "/v1/events", { events })).status,
    /** Puts a release live in one transaction, as the server does, from a connection of its own. */
    async putLive(text: string, to = url): Promise<void> {
      const client = everySite(to);
      await client.connect();
      try {
        await client.query("begin");
        const made = rulesetOf(draftOf(site, text));
        const release = { site, person: "test", note: text, ruleset: made, sha256: text, draftVersion: 1 };
        await releases.putLive(release, client as never);
        await client.query("commit");
      } finally {
        await client.end();
      }
    },
    async end(): Promise<void> {
      for (const child of children) child.kill("SIGKILL");
      await pool().end();
    },
  };
}
export type Served = Awaited<ReturnType<typeof serve>>;

/** Visitors who look, and pages that tell, for as long as they are let. */
export function visitors({ shown, tell }: Served, port: number, wanted: string) {
  const ids = new Set<string>();
  const bad: unknown[] = [];
  let answers = 0;
  let slowest = 0;
  let going = true;
  const ask = async () => {
    while (going) {
      const began = performance.now();
      const found = await shown(port).catch((error: Error) => ({ status: 0, text: error.message }));
      slowest = Math.max(slowest, performance.now() - began);
      if (found.status !== 200 || found.text !== wanted) bad.push(found);
      answers += 1;
    }
  };
  const telling = async () => {
    while (going) {
      const what = {
        kind: "exposure",
        slot: "a",
        variant: "a-v",
        arm: "x",
        first: false,
        country: "PT",
        device: "phone",
      };
      const events = Array.from({ length: 20 }, () => ({ id: crypto.randomUUID(), ...what }));
      const sent = await tell(port, events).catch(() => undefined);
      if (sent === 202) for (const event of events) ids.add(event.id);
      // Whoever is unsure sends the same again.
      if (Math.random() < 0.3) await tell(port, events).catch(() => undefined);
      await new Promise((next) => setTimeout(next, 20));
    }
  };
  const work = [ask(), ask(), ask(), ask(), telling(), telling()];
  return {
    /** The events that were taken. */
    ids,
    /** Answers that were not as wanted. */
    bad,
    answers: () => answers,
    /** The slowest answer since it was last asked for, in milliseconds. */
    slowest() {
      const found = slowest;
      slowest = 0;
      return found;
    },
    async end() {
      going = false;
      await Promise.all(work);
    },
  };
}
