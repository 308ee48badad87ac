import type { z } from "zod";
import type { Decision } from "@/core/decision/decision";
import { sourceText } from "@/core/formats/event";
import type { Ruleset } from "@/core/formats/ruleset";
import { readVisit, type Visit } from "@/core/formats/visit";
import { countingOf, sideOf } from "./counting";
import { shownBy, writeReceipts } from "./receipts";
import { decideOrFallBack } from "./decide";
import { groupsOf } from "./groups";
import type { Live } from "./live";
import type { pageAnswerSchema, pageSchema, Shown } from "./http/formats";
import { newVisitorId, readMemoryCookie, writeMemoryCookie } from "./memory-cookie";
import { openNoteOf } from "./opened";
import { now, nowText } from "@/clock";

/** What is known of whoever asks, from the request itself. */
export interface Asker {
  address: string | undefined;
  userAgent: string | undefined;
  acceptLanguage: string | undefined;
  /** `Sec-GPC: 1`: a no, whatever the page says. */
  refused: boolean;
}

/** What a page gets that asks by script: decided as pages are that ask in this process, with memory kept by the page. */
export function decidePage(
  live: Live,
  told: z.output<typeof pageSchema>,
  asker: Asker,
): z.input<typeof pageAnswerSchema> {
  const consent = told.consent && !asker.refused;
  const remembered = consent ? readMemoryCookie(told.remember ?? undefined, live.secret) : undefined;
  const visitorId = consent ? (remembered?.visitorId ?? newVisitorId()) : undefined;
  const raw = {
    at: nowText(),
    url: told.url,
    referrer: told.referrer,
    ip: asker.address,
    userAgent: asker.userAgent,
    hints: told.width === undefined ? undefined : { width: told.width },
    acceptLanguage: asker.acceptLanguage,
    zone: told.zone,
    consent,
    visitorId,
    page: told.page,
    cart: told.cart,
    data: told.data,
    memory: remembered?.memory,
  };
  const read = readVisit(raw);
  const visit = read.ok ? read.value : { at: raw.at, url: told.url };
  const decision = decideOrFallBack(live.engine, visit, { countPopups: "opened", holdout: true });
  const openNote = openNoteOf(decision, visitorId, visit.at, live.secret);
  const remember =
    visitorId !== undefined && decision.memory !== null
      ? writeMemoryCookie(visitorId, decision.memory, live.secret)
      : null;
  return {
    release: live.release,
    ...shownOn(live.engine.ruleset, decision),
    ...(remember !== null || told.remember ? { remember } : {}),
    ...(openNote === undefined ? {} : { openNote }),
    source: sourceText(groupsOf(live.engine, visit, decision.memory)),
    ...countingOf(live.engine, visit),
    receipts: receiptsFor(live, decision, visit),
  };
}

/** The receipts of what a visit is shown, whose answer is for that visitor alone. */
export function receiptsFor({ engine, secret }: Live, decision: Decision, visit: Visit): Record<string, string> {
  const { id, holdout } = engine.ruleset.site;
  const kind = visit.consent === true && visit.visitorId ? "v" : "n";
  return writeReceipts(id, shownBy(decision, sideOf(holdout, visit)), { kind, at: now(), secret });
}

/** A decision as a page draws it: with the fields of the kinds of blocks in it, and where slots are that no mark in the page names. */
export function shownOn(ruleset: Ruleset, decision: Decision): Shown {
  const { slots, popup, redirect } = decision;
  const used = new Set(
    [...Object.values(slots).flat(), popup].flatMap((item) => (item?.content ? [item.content.type] : [])),
  );
  const kinds = Object.fromEntries(
    ruleset.blockTypes
      .filter((type) => used.has(type.id))
      .map((type) => [type.id, type.fields.map(({ id, name, kind }) => ({ id, name, kind }))]),
  );
  const places = Object.fromEntries(
    ruleset.slots.flatMap(({ id, at, pages }) =>
      // A slot of no pages in particular is on those that have its place.
      at && id in slots ? [[id, pages === null ? { ...at, ifThere: true as const } : at]] : [],
    ),
  );
  // A decision is what the schema of decisions makes of it: it is written, not read, here.
  return { slots: slots as never, popup: popup as never, redirect, kinds, places };
}
