/**
 * What a page does while it is looked at through a lens, whichever way it gets its versions: it outlines slots, tells clicks, links
 * and forms to the workbench, and makes pictures of itself. It speaks with the workbench's own origin alone.
 */
import { readToPage, type FromPage, type SlotMark, type ToPage } from "@/core/preview/messages";
import { outermost } from "./apart";
import { placesHere, roots } from "./places";

interface Options {
  /** The origin of the workbench. */
  workbench: string;
  /** Takes up another look. */
  onLook: (look: Extract<ToPage, { mirada: "look" }>) => void;
  /** What only some pages do: whose parts can be pointed at. */
  onPoint?: (message: Extract<ToPage, { mirada: "point" | "around" | "parts" }>) => void;
  /** Whether clicks are somebody else's just now. */
  isPointing?: () => boolean;
}

export interface LensMode {
  tell: (message: FromPage) => void;
  /** Outlines anew what is on the page now. */
  draw: () => void;
  stop: () => void;
}

/** The places of the page in their order there: what draws itself apart stands where it is drawn. */
const slotPlaces = (): HTMLElement[] =>
  placesHere().sort((a, b) =>
    outermost(a).compareDocumentPosition(outermost(b)) & Node.DOCUMENT_POSITION_FOLLOWING ? -1 : 1,
  );
/** The slots of the page, in the order of their first places. */
export const slotsHere = (): string[] => [...new Set(slotPlaces().map((place) => place.dataset.miradaSlot as string))];

export function lensMode({ workbench, onLook, onPoint, isPointing }: Options): LensMode {
  let marks: Record<string, SlotMark> | null = null;
  const tell = (message: FromPage) => window.parent.postMessage(message, workbench);
  const draw = () => {
    for (const root of roots()) watch.observe(root, { childList: true, subtree: true });
    for (const place of placesHere()) {
      const mark = marks?.[place.dataset.miradaSlot as string];
      if (mark) {
        if (place.dataset.miradaMark !== mark.label) place.dataset.miradaMark = mark.label;
        place.style.setProperty("--mirada-colour", mark.colour);
        if (mark.selected) place.dataset.miradaSelected = "";
        else delete place.dataset.miradaSelected;
      } else delete place.dataset.miradaMark;
    }
  };
  const picture = async (width: number, height: number): Promise<string | undefined> => {
    const { domToPng } = await import("modern-screenshot");
    return domToPng(document.documentElement, { width, height, backgroundColor: "#ffffff" });
  };
  const hear = (event: MessageEvent<unknown>) => {
    if (event.origin !== workbench || event.source !== window.parent) return;
    const message = readToPage(event.data);
    if (message?.mirada === "marks") {
      marks = message.marks;
      draw();
    } else if (message?.mirada === "picture")
      void picture(message.width, message.height).then(
        (url) => tell({ mirada: "picture", ...(url ? { url } : {}) }),
        () => tell({ mirada: "picture" }),
      );
    else if (message?.mirada === "look") onLook(message);
    else if (message?.mirada === "show") show(message.slot);
    else if (message) onPoint?.(message);
  };
  const show = (slot: string) => {
    const place = slotPlaces().find((one) => one.dataset.miradaSlot === slot);
    const { top = 0, bottom = 0 } = place?.getBoundingClientRect() ?? {};
    if (place && (top < 0 || bottom > window.innerHeight))
      place.scrollIntoView({ block: bottom - top > window.innerHeight ? "start" : "center" });
  };
  const click = (event: MouseEvent) => {
    if (isPointing?.()) return;
    const path = event.composedPath().filter((one) => one instanceof HTMLElement);
    const place = path.find((one) => one.dataset.miradaSlot !== undefined);
    const link = path.find((one) => one instanceof HTMLAnchorElement && one.hasAttribute("href"));
    if (place && marks) {
      event.preventDefault();
      event.stopPropagation();
      tell({ mirada: "slot", id: place.dataset.miradaSlot as string });
    } else if (link) {
      event.preventDefault();
      event.stopPropagation();
      tell({ mirada: "go", href: (link as HTMLAnchorElement).href });
    }
  };
  const submit = (event: SubmitEvent) => {
    const form = event.target as HTMLFormElement;
    // A pop-up's own way to close is no form of the page.
    if (form.getAttribute("method")?.toLowerCase() === "dialog") return;
    event.preventDefault();
    event.stopPropagation();
    const fields = Object.fromEntries(
      [...new FormData(form, event.submitter)].filter(
        (entry): entry is [string, string] => typeof entry[1] === "string",
      ),
    );
    // By the attribute: a field may be named "action" as well.
    const action = form.getAttribute("action") ?? "";
    if (URL.canParse(action, location.href))
      tell({ mirada: "form", action: new URL(action, location.href).pathname, fields });
  };
  const watch = new MutationObserver(draw);
  watch.observe(document, { childList: true, subtree: true });
  window.addEventListener("message", hear);
  // Before the page's own: what is clicked through a lens does nothing on the page.
  window.addEventListener("click", click, true);
  window.addEventListener("submit", submit, true);
  return {
    tell,
    draw,
    stop() {
      watch.disconnect();
      window.removeEventListener("message", hear);
      window.removeEventListener("click", click, true);
      window.removeEventListener("submit", submit, true);
    },
  };
}
