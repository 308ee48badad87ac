/** Pointing at parts of a page that is looked at: under the pointer and by keyboard, wider and narrower, until one is taken. */
import type { Pointed, ToPage } from "@/core/preview/messages";
import { likeOf, spotOf, type Like } from "./alike";
import { allIn, childrenOf, elementAt, isClosed, liesIn, parentOf } from "./apart";
import { heldBy, isPart, nameOf } from "./parts";
import { findThere } from "./places";
import { pageReader } from "./read-page";

type Way = Extract<ToPage, { mirada: "point" }>["to"];

export interface Pointing {
  /** Whether parts are pointed at just now: then a click takes one, and does nothing else. */
  isOn: () => boolean;
  go: (to: Way) => void;
  /** Takes what lies around the part at hand, by its number from the widest on. */
  around: (number: number) => void;
}

const asWhole = "it can be hidden, or have a place beside it, as a whole.";
/** Why nothing within a part can be pointed at, in words; undefined: it can. */
const outOfReach = (element: Element): string | undefined =>
  element.localName === "iframe"
    ? `This part is a page of its own in a frame, and out of reach from here: ${asWhole}`
    : isClosed(element)
      ? `This part draws itself apart from the page and lets nobody in: ${asWhole}`
      : undefined;
const colour = "#c2410c";
const framing = {
  position: "fixed",
  "z-index": "2147483647",
  "pointer-events": "none",
  "box-sizing": "border-box",
  background: `${colour}1a`,
  "border-radius": "2px",
  margin: "0",
};
/** So many parts like the one at hand are framed: more are on no window. */
const mostFramed = 200;

/** @param tell what is pointed at, each time it changes; @param say what cannot be pointed at, in words */
export function pointing(
  tell: (at: Pointed | undefined, chosen: boolean) => void,
  say: (words: string) => void,
): Pointing {
  let on = false;
  let chosen = false;
  let at: HTMLElement | undefined;
  /** What is like the part that was taken, and whether each of them is wanted. */
  let like: Like | undefined;
  let each = false;
  const frame = document.createElement("div");
  const label = document.createElement("div");
  frame.append(label);
  frame.dataset.miradaPointer = "";
  // By single properties: a page's policy may refuse style attributes, not these.
  const put = (element: HTMLElement, style: Record<string, string>) => {
    for (const [name, value] of Object.entries(style)) element.style.setProperty(name, value, "important");
  };
  put(frame, { ...framing, border: `2px solid ${colour}` });
  put(label, { position: "absolute", left: "-2px", bottom: "100%", background: colour, color: "#fff" });
  put(label, { font: "600 12px/1.2 system-ui, sans-serif", padding: "4px 7px", "white-space": "nowrap" });
  put(label, { "max-width": "70vw", overflow: "hidden", "text-overflow": "ellipsis" });

  const others = document.createElement("div");
  others.dataset.miradaPointer = "";
  const fit = (box: HTMLElement, element: Element) => {
    const { left, top, width, height } = element.getBoundingClientRect();
    put(box, { left: `${left}px`, top: `${top}px`, width: `${width}px`, height: `${height}px` });
    return top;
  };
  /** Frames what is like the part at hand, where each of them is wanted. */
  const drawOthers = () => {
    const found = each && like ? findThere(like.selector, like.within).filter((one) => one !== at) : [];
    const frames = found.slice(0, mostFramed).map((element) => {
      const box = document.createElement("div");
      put(box, framing);
      put(box, { border: `2px dashed ${colour}` });
      fit(box, element);
      return box;
    });
    others.replaceChildren(...frames);
    if (frames.length === 0) others.remove();
    else if (!others.isConnected) document.documentElement.append(others);
  };
  const draw = () => {
    if (!on || !at?.isConnected) {
      frame.remove();
      others.remove();
      return;
    }
    drawOthers();
    const top = fit(frame, at);
    put(frame, { "border-style": chosen ? "solid" : "dashed" });
    // A frame would keep the pointer to itself: what marks it takes the click for it.
    put(frame, { "pointer-events": !chosen && at.localName === "iframe" ? "auto" : "none" });
    // At the upper edge the name stands within the part.
    put(label, top < 24 ? { bottom: "auto", top: "0" } : { bottom: "100%", top: "auto" });
    label.textContent = nameOf(at);
    if (!frame.isConnected) document.documentElement.append(frame);
  };
  const around = (element: Element): HTMLElement[] => {
    const out: HTMLElement[] = [];
    for (let next = parentOf(element); next && next !== document.body; next = parentOf(next))
      if (isPart(next)) out.unshift(next);
    return out.slice(-40);
  };
  const pointed = (element: HTMLElement): Pointed | undefined => {
    // While parts only pass under the pointer, no selector is looked for.
    const found = chosen ? spotOf(element) : { selector: "", byPosition: false };
    if (!found) return undefined;
    like = chosen ? likeOf(element) : undefined;
    const slot = element.dataset.miradaSlot;
    return {
      ...found,
      ...heldBy(element),
      around: around(element).map((one) => nameOf(one).slice(0, 300)),
      ...(slot ? { slot } : {}),
      ...(like ? { like } : {}),
      ...(chosen && found.selector && !found.within
        ? { says: (pageReader.texts(found.selector, undefined)[0] ?? "").slice(0, 500) }
        : {}),
    };
  };
  const aim = (element: Element | undefined | null, take = false) => {
    if (!element || !isPart(element) || (element === at && take === chosen)) return;
    at = element;
    chosen = take;
    each = false;
    draw();
    const told = pointed(at);
    if (told) {
      tell(told, chosen);
      const why = chosen ? outOfReach(at) : undefined;
      if (why) say(why);
    } else {
      chosen = false;
      draw();
      say("Nothing tells this part from others on the page. Choose a wider one, or have it marked in the page.");
    }
  };
  /** The next part in the order of the page, the one before it, the first within: whatever has something to see. */
  const walk = (by: "next" | "previous") => {
    const all = allIn(document.body).filter((one) => isPart(one) && one.offsetParent !== null && one.offsetHeight > 0);
    const from = at ? all.indexOf(at) : -1;
    const ahead = by === "next" ? all.slice(from + 1) : all.slice(0, Math.max(from, 0)).reverse();
    // Past what lies within the part at hand: that is what "narrower" is for.
    aimAt(ahead.find((one) => !at || (!liesIn(one, at) && !liesIn(at, one))));
  };
  const aimAt = (element: Element | null | undefined) => {
    if (!element) return;
    element.scrollIntoView({ block: "nearest" });
    aim(element);
  };
  const start = () => {
    on = true;
    chosen = false;
    at = undefined;
    window.focus();
    const first = ["main h1", "h1", "main", "h2"].map((one) => document.querySelector(one)).find(Boolean);
    aim(first ?? document.body.firstElementChild);
  };
  const ways: Record<Way, () => void> = {
    start,
    wider: () => {
      const around = at && parentOf(at);
      if (around && around !== document.body) aimAt(around);
    },
    narrower: () => aimAt(at && childrenOf(at).find(isPart)),
    next: () => walk("next"),
    previous: () => walk("previous"),
    choose: () => aim(at, true),
    each: () => {
      each = true;
      draw();
    },
    alone: () => {
      each = false;
      draw();
    },
    again: () => {
      // Whoever points by keyboard goes on where they were.
      window.focus();
      chosen = false;
      each = false;
      draw();
      tell(at && pointed(at), false);
    },
    stop: () => {
      on = false;
      at = undefined;
      draw();
      tell(undefined, false);
    },
  };
  const keys: Record<string, Way> = {
    ArrowUp: "wider",
    ArrowDown: "narrower",
    ArrowRight: "next",
    ArrowLeft: "previous",
    Enter: "choose",
    Escape: "stop",
  };
  const go = (to: Way) => {
    if (on || to === "start") ways[to]();
  };
  const partAt = (event: MouseEvent): Element | null => {
    const found = elementAt(event.clientX, event.clientY);
    if (found && frame.contains(found)) return at ?? null;
    return found?.closest("svg")?.parentElement ?? found;
  };
  // Of the pointer within a frame nothing is heard, only that it goes in.
  const overFrame = (event: MouseEvent) => {
    const part = on && !chosen ? partAt(event) : null;
    if (part?.localName === "iframe") aim(part);
  };
  window.addEventListener("mouseover", overFrame, true);
  window.addEventListener("mousemove", (event) => on && !chosen && aim(partAt(event)), true);
  window.addEventListener("scroll", draw, { capture: true, passive: true });
  window.addEventListener("resize", draw);
  window.addEventListener(
    "click",
    (event) => {
      if (!on) return;
      event.preventDefault();
      event.stopPropagation();
      aim(partAt(event), true);
    },
    true,
  );
  window.addEventListener(
    "keydown",
    (event) => {
      const way = on ? keys[event.key] : undefined;
      if (!way || event.ctrlKey || event.metaKey || event.altKey) return;
      event.preventDefault();
      event.stopPropagation();
      go(way);
    },
    true,
  );
  return {
    isOn: () => on,
    go,
    around: (number) => {
      const wider = at && around(at)[number];
      if (wider) aim(wider, true);
    },
  };
}
