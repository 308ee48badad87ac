/**
 * The page script: asks once for what this visitor gets, fills the slots of the page that are marked with
 * `data-mirada-slot="ID"`, opens a pop-up, and tells what happened. Should no answer come within a short, set time, the page's
 * own content stands, and nothing else happens.
 */
import { draw, type DrawnBlock, type Kinds } from "./draw";
import { watch, type Happened, type Seen } from "./happened";
import { now, nowText } from "../clock";

interface Shown {
  variant: string | null;
  arm: string | null;
  content: DrawnBlock | null;
}
interface PageAnswer {
  slots: Record<string, Shown[]>;
  popup: {
    id: string;
    arm: string;
    opensAfter: Record<string, number | boolean>;
    size: { width: number; height: number };
    content: DrawnBlock | null;
  } | null;
  redirect: { location: string } | null;
  remember?: string | null;
  source: string;
  kinds: Kinds;
}
/** What a page may set before the script: `window.mirada = { page, cart, data, consent, wait }`. */
interface Settings {
  page?: unknown;
  cart?: unknown;
  data?: unknown;
  consent?: boolean;
  wait?: number;
}

const tag = document.currentScript as HTMLScriptElement | null;
const told = (window as { mirada?: Settings }).mirada ?? {};
const root = document.documentElement;
const memoryKey = "mirada";

/** What the page says: in the script's own tag, or beforehand in `window.mirada`. */
const setting = (name: string): string | undefined => tag?.dataset[name];
const server = setting("server") ?? (tag?.src ? new URL(tag.src).origin : "");
const siteKey = setting("key") ?? "";
/** How many milliseconds are left until the page's own content is shown: counted from the tag, where it says so. */
const wait =
  setting("until") === undefined
    ? Number(setting("wait") ?? told.wait ?? 400) || 400
    : Number(setting("until")) - now();

/** Consent: set outright, or found in a cookie of the page's own, named `data-consent-cookie="name=value"`. `Sec-GPC` is a no. */
function consent(): boolean {
  if ((navigator as { globalPrivacyControl?: boolean }).globalPrivacyControl) return false;
  if (told.consent !== undefined) return told.consent === true;
  const cookie = setting("consentCookie");
  return cookie !== undefined && document.cookie.split("; ").includes(cookie);
}

/** Unhides the slots: `data-mirada-wait` on the page hides them while the answer is awaited (see the tag). */
const reveal = (): void => root.removeAttribute("data-mirada-wait");

/** What was remembered, and may be: first-party storage of this page, with consent alone. */
function memory(agreed: boolean): string | undefined {
  try {
    if (!agreed) localStorage.removeItem(memoryKey);
    return (agreed && localStorage.getItem(memoryKey)) || undefined;
  } catch {
    return undefined;
  }
}
function remember(agreed: boolean, value: string | null | undefined): void {
  try {
    if (!agreed || value === null) localStorage.removeItem(memoryKey);
    else if (typeof value === "string") localStorage.setItem(memoryKey, value);
  } catch {
    // The browser keeps nothing: then every page is a first one.
  }
}

/** Whether an answer is one: whatever else comes is as none at all. */
const isAnswer = (answer: unknown): answer is PageAnswer =>
  typeof answer === "object" &&
  answer !== null &&
  typeof (answer as PageAnswer).slots === "object" &&
  (answer as PageAnswer).slots !== null &&
  typeof (answer as PageAnswer).kinds === "object" &&
  (answer as PageAnswer).kinds !== null &&
  Object.values((answer as PageAnswer).slots).every((shown) => Array.isArray(shown));

/** The height of an element as its `min-height` would count it. */
function innerHeightOf(element: HTMLElement): number {
  const { height } = element.getBoundingClientRect();
  const style = getComputedStyle(element);
  if (style.boxSizing === "border-box") return height;
  const edges = [style.paddingTop, style.paddingBottom, style.borderTopWidth, style.borderBottomWidth];
  return edges.reduce((left, edge) => left - (parseFloat(edge) || 0), height);
}

function fill(answer: PageAnswer): Seen[] {
  const seen: Seen[] = [];
  for (const place of document.querySelectorAll<HTMLElement>("[data-mirada-slot]")) {
    const slot = place.dataset.miradaSlot as string;
    const shown = answer.slots[slot];
    if (!shown || place.dataset.miradaFilled !== undefined) continue;
    const blocks = shown.filter((item) => item.content !== null);
    // An empty answer leaves the page's own content: it is the fallback of whoever made the page.
    if (blocks.length > 0) {
      // The room that the slot has stays its room, so that nothing below it moves.
      place.style.minHeight = `${innerHeightOf(place)}px`;
      place.replaceChildren(...blocks.map((item) => draw(item.content as DrawnBlock, answer.kinds)));
    }
    place.dataset.miradaFilled = "";
    for (const item of shown) seen.push({ slot, variant: item.variant ?? "", arm: item.arm ?? "" });
  }
  return seen;
}

function popUp(answer: PageAnswer): Seen | undefined {
  const { popup } = answer;
  if (!popup?.content || document.querySelector("dialog[data-mirada-popup]")) return undefined;
  const dialog = document.createElement("dialog");
  dialog.dataset.miradaPopup = popup.id;
  dialog.style.maxWidth = `${popup.size.width}px`;
  const close = document.createElement("button");
  close.textContent = "×";
  close.setAttribute("aria-label", "Close");
  close.style.cssText = "float:right";
  close.onclick = () => dialog.close();
  dialog.append(close, draw(popup.content, answer.kinds));
  document.body.append(dialog);
  const undo: (() => void)[] = [];
  const open = () => {
    undo.splice(0).forEach((stop) => stop());
    if (!document.querySelector("dialog[open]")) dialog.showModal();
  };
  const on = (target: EventTarget, name: string, hear: (event: Event) => void) => {
    target.addEventListener(name, hear, { passive: true });
    undo.push(() => target.removeEventListener(name, hear));
  };
  const { seconds, scrollPercent, leaving, idleSeconds } = popup.opensAfter;
  if (typeof seconds === "number") setTimeout(open, seconds * 1000);
  else if (typeof scrollPercent === "number")
    on(window, "scroll", () => {
      const room = root.scrollHeight - innerHeight;
      if (room <= 0 || (scrollY / room) * 100 >= scrollPercent) open();
    });
  else if (leaving) on(root, "mouseleave", (event) => (event as MouseEvent).clientY <= 0 && open());
  else if (typeof idleSeconds === "number") {
    let timer: number | undefined;
    const rest = () => {
      clearTimeout(timer);
      timer = setTimeout(open, idleSeconds * 1000) as unknown as number;
    };
    ["pointermove", "keydown", "scroll"].forEach((name) => on(window, name, rest));
    undo.push(() => clearTimeout(timer));
    rest();
  }
  return { slot: `popup:${popup.id}`, variant: popup.id, arm: popup.arm };
}

async function run(): Promise<void> {
  // The script itself came too late: the visitor is reading already.
  if (!(wait > 0)) return reveal();
  const agreed = consent();
  const stop = new AbortController();
  const timer = setTimeout(() => stop.abort(), wait);
  let answer: unknown;
  try {
    const response = await fetch(`${server}/v1/page`, {
      method: "POST",
      // A plain content type asks no permission beforehand: one way there and back.
      headers: { "content-type": "text/plain" },
      credentials: "omit",
      signal: stop.signal,
      body: JSON.stringify({
        key: siteKey,
        url: location.href,
        ...(document.referrer ? { referrer: document.referrer } : {}),
        page: told.page,
        cart: told.cart,
        data: told.data,
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
  if (!isAnswer(answer)) return reveal();
  const good = answer;
  remember(agreed, good.remember);
  const here = () => {
    const seen = fill(good);
    reveal();
    const popup = popUp(good);
    watch(popup ? [...seen, popup] : seen, { consent: agreed, source: good.source, send });
  };
  if (document.readyState === "loading") document.addEventListener("DOMContentLoaded", here, { once: true });
  else here();
}

/** Sends events in the background, also while the page is being left. */
function send(events: Happened[]): void {
  const body = JSON.stringify({ key: siteKey, sent: nowText(), events });
  const sent = navigator.sendBeacon?.(`${server}/v1/events`, new Blob([body], { type: "text/plain" }));
  if (!sent)
    void fetch(`${server}/v1/events`, {
      method: "POST",
      body,
      keepalive: true,
      credentials: "omit",
      headers: { "content-type": "text/plain" },
    }).catch(() => undefined);
}

void run().catch(reveal);
