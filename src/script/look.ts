/**
 * The page script's lens mode: loaded in the workbench's frame alone. It takes a pass from the workbench by message, asks what that
 * lens gets, and shows it: again and again, without a reload.
 */
import { lookMark, previewVersion, type ToPage } from "@/core/preview/messages";
import { fill, isFillable, type Fillable, type Filling } from "./fill";
import { lensMode, slotsHere } from "./lens-mode";
import { popUp, type PagePopup } from "./popup";
import lensStyle from "./lens.css";

interface LookAnswer extends Fillable {
  popup: PagePopup | null;
  opens: string | null;
  plain: boolean;
}
type Look = Extract<ToPage, { mirada: "look" }>;

const tag = document.currentScript as HTMLScriptElement | null;
const server = tag?.dataset.server ?? "";
const key = tag?.dataset.key ?? "";
/** The origin of the workbench: the server that serves this file puts it in. */
const workbench = "MIRADA_WORKBENCH_ORIGIN";

const here = (): string => `${location.pathname}${location.search}`;
let latest: Look | undefined;
let shown: Filling | undefined;
let popup: ReturnType<typeof popUp>;

async function take(look: Look): Promise<void> {
  latest = look;
  const wanted = new URL(look.path, location.origin);
  // Another page: it says hello when it is there, and is given this look once more.
  if (wanted.pathname !== location.pathname || wanted.search !== location.search) {
    location.href = `${wanted.pathname}${wanted.search}${lookMark}`;
    return;
  }
  const { pass, shared, turn } = look;
  const answer: unknown = await fetch(`${server}/v1/look`, {
    method: "POST",
    headers: { "content-type": "text/plain" },
    credentials: "omit",
    body: JSON.stringify({ key, path: here(), ...(pass ? { pass } : {}), ...(shared ? { shared } : {}) }),
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
  shown = fill(good);
  for (const place of document.querySelectorAll<HTMLElement>("[data-mirada-slot]")) {
    const blocks = good.slots[place.dataset.miradaSlot as string];
    if (blocks) place.dataset.miradaVariants = blocks.map((item) => item.variant ?? "").join(" ");
    // A place that was made for a slot is there even while it is empty, so that it can be found and clicked.
    if (place.dataset.miradaMade !== undefined && place.childNodes.length === 0 && !good.plain)
      place.dataset.miradaEmpty = "";
    else delete place.dataset.miradaEmpty;
  }
  popup = popUp(good.popup, good.kinds, good.popup !== null && good.opens === good.popup.id);
  draw();
  for (const { slot, why } of shown.drifted) tell({ mirada: "trouble", says: `${slot}: ${why}` });
  tell({ mirada: "ready", slots: slotsHere(), path: here(), turn });
}

const { tell, draw } = lensMode({ workbench, onLook: (look) => void take(look) });
const sheet = new CSSStyleSheet();
sheet.replaceSync(lensStyle);
document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet];
const hello = () => tell({ mirada: "hello", version: previewVersion, path: here() });
if (document.readyState === "loading") document.addEventListener("DOMContentLoaded", hello, { once: true });
else hello();
