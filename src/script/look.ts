/**
 * The page script's lens mode: loaded in the workbench's frame alone. It takes a pass from the workbench by message, asks what that
 * lens gets, and shows it: again and again, without a reload.
 */
import { gather, type Source } from "@/core/collect/gather";
import { mirrorPaths } from "@/core/preview/mirror";
import { lookMark, previewVersion, type ToPage } from "@/core/preview/messages";
import { isFillable, locateAll, type Fillable, type Filling } from "./fill";
import { keepFilled, onOtherAddress, type Keeping } from "./keep";
import { lensMode, slotsHere } from "./lens-mode";
import { partsOf } from "./parts";
import { pointing } from "./pointing";
import { pageReader } from "./read-page";
import { placesHere, placesOf, roots } from "./places";
import { popUp, type PagePopup } from "./popup";
import lensStyle from "./lens.css";

interface LookAnswer extends Fillable {
  popup: PagePopup | null;
  opens: string | null;
  plain: boolean;
  /** Where the values of the site's pages stand. */
  sources?: Source[];
}
/** After so many milliseconds a page is taken to have drawn itself. */
const patience = 1000;
type Look = Extract<ToPage, { mirada: "look" }>;

const tag = document.currentScript as HTMLScriptElement | null;
const server = tag?.dataset.server ?? "";
const key = tag?.dataset.key ?? "";
/** A page that its own server has made for this look, with what it gets in it already. */
const made = tag?.dataset.made !== undefined;
/** In the mirror the look is asked of the mirror itself; what it says in a page's place comes with it. */
const mirrored = tag?.dataset.mirror !== undefined;
const saying = tag?.dataset.says;
/** The origin of the workbench: the server that serves this file puts it in. */
const workbench = "MIRADA_WORKBENCH_ORIGIN";

const here = (): string => `${location.pathname}${location.search}`;
let latest: Look | undefined;
let shown: Keeping | undefined;
let answered: LookAnswer | undefined;
let popup: ReturnType<typeof popUp>;

/** Another look of a page that its server makes: it is asked for anew, with the pass that the server hands on. */
function askServer({ path, pass, shared, turn }: Look): void {
  const wanted = new URL(path, location.origin);
  for (const [name, value] of Object.entries({ look: pass, shared, turn: String(turn) }))
    if (value !== undefined) wanted.searchParams.set(name, value);
  location.replace(`${wanted.pathname}${wanted.search}`);
}

async function take(look: Look): Promise<void> {
  if (made) return askServer(look);
  latest = look;
  const wanted = new URL(look.path, location.origin);
  // Another page: it says hello when it is there, and is given this look once more.
  if (wanted.pathname !== location.pathname || wanted.search !== location.search) {
    location.href = `${wanted.pathname}${wanted.search}${lookMark}`;
    return;
  }
  const { pass, shared, turn } = look;
  const answer: unknown = await fetch(mirrored ? mirrorPaths.look : `${server}/v1/look`, {
    method: "POST",
    headers: { "content-type": "text/plain" },
    credentials: "omit",
    body: JSON.stringify({
      ...(mirrored ? {} : { key }),
      path: here(),
      ...(pass ? { pass } : {}),
      ...(shared ? { shared } : {}),
    }),
  }).then(
    (response) => response.json(),
    () => undefined,
  );
  // Meanwhile another look was asked for: that one's answer counts, whichever comes first.
  if (look !== latest) return;
  if (!isFillable(answer)) {
    const { title, detail } = (answer ?? {}) as { title?: string; detail?: string };
    tell({ mirada: "trouble", says: `${title ?? "The delivery server could not be reached."} ${detail ?? ""}`.trim() });
    return;
  }
  const good = answer as LookAnswer;
  popup?.close();
  shown?.undo();
  answered = good;
  // Before anything is filled: what the page itself says.
  let values = tellValues(good);
  shown = keep(good, turn);
  popup = popUp(good.popup, good.kinds, () => undefined, good.popup !== null && good.opens === good.popup.id);
  draw();
  const { filling } = shown;
  // A page may still be drawing itself: what is not there yet is no news.
  setTimeout(() => {
    if (look !== latest) return;
    tellDrift(filling);
    values = tellValues(good, values);
  }, patience);
  tell({ mirada: "ready", slots: slotsHere(), path: here(), turn });
}

/** Tells what can be read from the page, unless it has been told. @returns what was told */
function tellValues({ sources = [] }: LookAnswer, before?: string): string {
  const values = Object.fromEntries(gather(sources, pageReader));
  const now = JSON.stringify(values);
  if (now !== before && sources.length > 0) tell({ mirada: "told", path: here(), values });
  return now;
}

/** Fills the page, and goes on while it is looked at: places may come late. */
function keep(good: LookAnswer, turn: number): Keeping {
  const kept = keepFilled(good, Infinity, () => {
    mark(good);
    draw();
    tell({ mirada: "ready", slots: slotsHere(), path: here(), turn });
  });
  mark(good);
  return kept;
}
/** Says at each place which variants stand there. */
function mark(good: LookAnswer): void {
  // What draws itself apart takes no style of the page's.
  for (const root of roots())
    if (!root.adoptedStyleSheets.includes(sheet)) root.adoptedStyleSheets = [...root.adoptedStyleSheets, sheet];
  for (const place of placesHere()) {
    const blocks = good.slots[place.dataset.miradaSlot as string];
    if (blocks) place.dataset.miradaVariants = blocks.map((item) => item.variant ?? "").join(" ");
    // A place that was made for a slot is there even while it is empty, so that it can be found and clicked.
    if (place.dataset.miradaMade !== undefined && place.childNodes.length === 0 && !good.plain)
      place.dataset.miradaEmpty = "";
    else delete place.dataset.miradaEmpty;
  }
}
function tellDrift({ drifted }: Filling): void {
  for (const { slot, why } of drifted) tell({ mirada: "drift", slot, why });
}

/** Tells the parts of a slot's place as the page itself has them: what fills it is out of the way for that moment. */
function tellParts(slot: string): void {
  shown?.undo();
  const bare = answered && locateAll(answered.places);
  const [place, ...like] = placesOf(slot, ":not([data-mirada-made])");
  const parts = place ? partsOf(place, answered?.places?.[slot]?.each ? like : []) : [];
  bare?.undo();
  if (answered && latest) shown = keep(answered, latest.turn);
  draw();
  tell({ mirada: "parts", slot, parts });
}

const sheet = new CSSStyleSheet();
sheet.replaceSync(lensStyle);
document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet];

const { tell, draw } = lensMode({
  workbench,
  onLook: (look) => void take(look),
  isPointing: () => pointer.isOn(),
  onPoint: (message) => {
    if (message.mirada === "parts") tellParts(message.slot);
    else if (message.mirada === "around") pointer.around(message.number);
    else pointer.go(message.to);
  },
});
const pointer = pointing(
  (at, chosen) => tell({ mirada: "pointed", chosen, ...(at ? { at } : {}) }),
  (says) => tell({ mirada: "trouble", says }),
);
const hello = () => {
  // What the server has made stands.
  const turn = Number(new URLSearchParams(location.search).get("turn") ?? 0);
  if (made) return tell({ mirada: "ready", slots: slotsHere(), path: here(), turn });
  tell({ mirada: "hello", version: previewVersion, path: here() });
  if (saying) tell({ mirada: "trouble", says: saying.slice(0, 500) });
};
if (document.readyState === "loading") document.addEventListener("DOMContentLoaded", hello, { once: true });
else hello();
// A page that leads itself on is looked at where it stands.
if (!made) onOtherAddress(hello);
