/**
 * The page script: asks once for what this visitor gets, fills the slots of the page that are marked with
 * `data-mirada-slot="ID"`, opens a pop-up, and tells what happened. Should no answer come within a short, set time, the page's
 * own content stands, and nothing else happens.
 */
import { isFillable, type Drifted, type Fillable } from "./fill";
import type { PageGoal } from "@/core/formats/goal";
import { holdoutSeen, watch, type Happened, type Reach, type Seen } from "./happened";
import { keepFilled, onOtherAddress } from "./keep";
import { popUp, type PagePopup } from "./popup";
import { lasting, read, readJson, write } from "./store";
import { hideKey } from "./tag";
import { now, nowText } from "../clock";

interface PageAnswer extends Fillable {
  popup: PagePopup | null;
  redirect: { location: string } | null;
  remember?: string | null;
  /** Told when the pop-up opens: without it nothing is counted. */
  openNote?: string;
  source: string;
  goals?: PageGoal[];
  holdout?: "in" | "out";
  receipts?: Record<string, string>;
}
/** What a page may set before the script: `window.mirada = { page, cart, data, consent, wait }`. */
interface Settings {
  page?: unknown;
  cart?: unknown;
  data?: unknown;
  consent?: boolean;
  wait?: number;
}

/** As in core/preview/messages.ts, which would bring its schemas along. */
const lookMark = "#mirada-look";
const tag = document.currentScript as HTMLScriptElement | null;
/** What the page tells: it may tell something else when it has become another. */
const said = (): Settings => (window as { mirada?: Settings }).mirada ?? {};
const root = document.documentElement;
const memoryKey = "mirada";

/** What the page says: in the script's own tag, or beforehand in `window.mirada`. */
const setting = (name: string): string | undefined => tag?.dataset[name];
const server = setting("server") ?? (tag?.src ? new URL(tag.src).origin : "");
const siteKey = setting("key") ?? "";
/** How many milliseconds are left until the page's own content is shown: counted from the tag, where it says so. */
const usualWait = Number(setting("wait") ?? said().wait ?? 400) || 400;
const wait = setting("until") === undefined ? usualWait : Number(setting("until")) - now();
/** For how long places that come late are waited for, in milliseconds. */
const watched = 30_000;
/** By when a page is taken to have drawn itself, in milliseconds after it was filled. */
const settled = 3000;
const driftKey = "mirada-drift";
/** A plain content type asks no permission beforehand: one way there and back. */
const plainPost = { method: "POST", credentials: "omit", headers: { "content-type": "text/plain" } } as const;

type Read = Pick<Settings, "page" | "cart" | "data">;
/** What is read from the page itself: by what the server puts before this script, for sites that say where their values stand. */
const { miradaTold } = window as { miradaTold?: (left: number, another: boolean) => Promise<Read> };
/** What watches for the site's goals: put before this script for sites that have any. */
const { miradaGoals } = window as { miradaGoals?: (goals: readonly PageGoal[], reach: Reach) => () => void };
/** What a page tells outright comes before what was read from it. */
const both = (told: unknown, read: unknown): unknown =>
  told && read ? { ...(read as object), ...(told as object) } : (told ?? read);

/** Consent: set outright, or found in a cookie of the page's own, named `data-consent-cookie="name=value"`. `Sec-GPC` is a no. */
function consent(told: Settings): boolean {
  if ((navigator as { globalPrivacyControl?: boolean }).globalPrivacyControl) return false;
  if (told.consent !== undefined) return told.consent === true;
  const cookie = setting("consentCookie");
  return cookie !== undefined && document.cookie.split("; ").includes(cookie);
}

/**
 * Parts that slots were pointed at wait for the answer as marked slots do: the server tells their selectors with this script. For
 * the pages to come in this tab the tag knows them before the script is there.
 */
function hidePointed(): void {
  const { miradaHide = [] } = window as { miradaHide?: readonly string[] };
  const rules = miradaHide.filter((selector) => CSS.supports(`selector(${selector})`));
  const style = rules.map((selector) => `[data-mirada-wait] :is(${selector}){visibility:hidden}`).join("");
  // Where the browser keeps nothing, they are hidden once this script is there.
  write(hideKey, style || null);
  if (style === "") return;
  const sheet = new CSSStyleSheet();
  sheet.replaceSync(style);
  document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet];
}

/** Unhides the slots: `data-mirada-wait` on the page hides them while the answer is awaited (see the tag). */
const reveal = (): void => root.removeAttribute("data-mirada-wait");

/** What was remembered, and may be: first-party storage of this page, with consent alone. */
function memory(agreed: boolean): string | undefined {
  if (!agreed) write(memoryKey, null, lasting);
  return (agreed && read(memoryKey, lasting)) || undefined;
}
function remember(agreed: boolean, value: string | null | undefined): void {
  if (!agreed || value !== undefined) write(memoryKey, (agreed && value) || null, lasting);
}

/** Tells that the pop-up has opened, so that it counts. Was something else remembered meanwhile, it is told with that once more. */
async function tellOpened(note: string, tries = 3): Promise<void> {
  const before = memory(true);
  if (before === undefined) return;
  const response = await fetch(`${server}/v1/opened`, {
    ...plainPost,
    keepalive: true,
    body: JSON.stringify({ key: siteKey, note, remember: before }),
  });
  const { remember: after } = (await response.json()) as { remember?: string };
  if (after === undefined) return;
  if (memory(true) === before) remember(true, after);
  else if (tries > 1) await tellOpened(note, tries - 1);
}

/** Loads what lenses need; visitors never load a byte of it. */
function look(): void {
  const script = document.createElement("script");
  script.src = `${server}/v1/look.js`;
  script.dataset.key = siteKey;
  script.dataset.server = server;
  document.head.append(script);
  reveal();
}

/** What stands of the page view at hand: taken back when the page becomes another without loading. */
let view: { leave: () => void } | undefined;
/** Counts page views: an answer that comes after its view has been left is dropped. */
let views = 0;

/**
 * One page view: asks what this visitor gets, and shows it.
 * @param left milliseconds until the page's own content is shown; @param referrer the address before
 */
async function show(left: number, referrer: string): Promise<void> {
  const mine = ++views;
  view?.leave();
  view = undefined;
  // The script itself came too late: the visitor is reading already.
  if (!(left > 0)) return reveal();
  const stop = new AbortController();
  const timer = setTimeout(() => stop.abort(), left);
  const read = (await miradaTold?.(left / 2, mine > 1).catch(() => undefined)) ?? {};
  if (mine !== views) return clearTimeout(timer);
  const told = said();
  const agreed = consent(told);
  let answer: unknown;
  try {
    const response = await fetch(`${server}/v1/page`, {
      ...plainPost,
      signal: stop.signal,
      body: JSON.stringify({
        key: siteKey,
        url: location.href,
        ...(referrer ? { referrer } : {}),
        page: both(told.page, read.page),
        cart: told.cart ?? read.cart,
        data: both(told.data, read.data),
        width: innerWidth,
        zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
        consent: agreed,
        remember: memory(agreed),
      }),
    });
    if (response.ok) answer = await response.json();
  } catch {
    // Away, too slow, or no JSON: the page's own content stands.
  }
  clearTimeout(timer);
  if (mine !== views) return;
  if (!isFillable(answer)) return reveal();
  const good = answer as PageAnswer;
  remember(agreed, good.remember);
  // Sent on before anything is revealed; to where one is already nobody is sent.
  const to = good.redirect?.location;
  if (to !== undefined && /^https?:/.test(to) && to !== location.href) return location.replace(to);
  const here = () => {
    if (mine !== views) return;
    const telling = { consent: agreed, source: good.source, send, receipts: good.receipts };
    const ends: (() => void)[] = [];
    const later = (seen: readonly Seen[]) => ends.push(watch(seen, telling));
    const kept = keepFilled(good, watched, (more) => later(more.seen));
    reveal();
    ends.push(
      watch([...kept.filling.seen, ...holdoutSeen(good.holdout)], {
        ...telling,
        goals: (reach) => miradaGoals?.(good.goals ?? [], reach),
      }),
    );
    const popup = popUp(good.popup, good.kinds, (seen) => {
      later([seen]);
      if (good.openNote !== undefined) void tellOpened(good.openNote).catch(() => undefined);
    });
    // By then a page has drawn itself; what does not fit now is told once.
    const late = setTimeout(() => tellDrift(kept.filling.drifted), settled);
    view = {
      leave() {
        clearTimeout(late);
        for (const end of ends) end();
        popup?.close();
        kept.undo();
      },
    };
  };
  if (document.readyState === "loading") document.addEventListener("DOMContentLoaded", here, { once: true });
  else here();
}

/** Tells where the page no longer fits its slots: each place once a session. */
function tellDrift(drifted: readonly Drifted[]): void {
  const path = location.pathname;
  const told = readJson<string[]>(driftKey, []);
  const nameOf = ({ slot, variant }: Drifted) => `${path} ${slot} ${variant}`;
  const fresh = drifted.filter((one) => !told.includes(nameOf(one)));
  if (fresh.length === 0) return;
  write(driftKey, JSON.stringify([...told, ...fresh.map(nameOf)].slice(-50)));
  post("/v1/drift", { key: siteKey, path: path.slice(0, 1000), drifts: fresh.slice(0, 50) });
}

/** Sends events in the background, also while the page is being left. */
const send = (events: Happened[]): void => post("/v1/events", { key: siteKey, sent: nowText(), events });

function post(path: string, what: object): void {
  const body = JSON.stringify(what);
  const sent = navigator.sendBeacon?.(`${server}${path}`, new Blob([body], { type: "text/plain" }));
  if (!sent)
    void fetch(`${server}${path}`, {
      ...plainPost,
      body,
      keepalive: true,
    }).catch(() => undefined);
}

// Looked at through a lens, in the workbench's frame: nobody is asked for a decision, and nothing is told.
if (location.hash === lookMark && window.parent !== window) look();
else {
  try {
    hidePointed();
  } catch {
    // A browser without constructed style sheets: pointed parts are seen until the answer comes.
  }
  void show(wait, document.referrer).catch(reveal);
  onOtherAddress((before) => void show(usualWait, before).catch(reveal));
}
