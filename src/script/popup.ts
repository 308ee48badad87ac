/** A pop-up of a page that carries the script. */
import { draw, type DrawnBlock, type Kinds } from "./draw";
import type { Seen } from "./happened";

export interface PagePopup {
  id: string;
  arm: string;
  opensAfter: Record<string, number | boolean>;
  size: { width: number; height: number };
  content: DrawnBlock | null;
}

const root = document.documentElement;

/**
 * Puts a pop-up on the page, to open when what it waits for has happened.
 * @param opened hears when it opens, and how events name it
 * @param now opens at once, and beside whoever works in another window: while it is looked at
 * @returns what takes it away; undefined: nothing was put there
 */
export function popUp(
  popup: PagePopup | null,
  kinds: Kinds,
  opened: (seen: Seen) => void,
  now = false,
): { close: () => void } | undefined {
  if (!popup?.content || document.querySelector("dialog[data-mirada-popup]")) return undefined;
  const dialog = document.createElement("dialog");
  dialog.dataset.miradaPopup = popup.id;
  dialog.style.maxWidth = `${popup.size.width}px`;
  const close = document.createElement("button");
  close.textContent = "×";
  close.setAttribute("aria-label", "Close");
  close.style.cssText = "float:right";
  close.onclick = () => dialog.close();
  dialog.append(close, draw(popup.content, kinds));
  document.body.append(dialog);
  const undo: (() => void)[] = [];
  const halt = () => undo.splice(0).forEach((stop) => stop());
  const open = () => {
    halt();
    if (document.querySelector("dialog[open]")) return;
    // In a frame that is only looked at, the focus stays with whoever is typing beside it.
    if (now) dialog.setAttribute("open", "");
    else dialog.showModal();
    opened({ slot: `popup:${popup.id}`, variant: popup.id, arm: popup.arm });
  };
  const on = (target: EventTarget, name: string, hear: (event: Event) => void) => {
    target.addEventListener(name, hear, { passive: true });
    undo.push(() => target.removeEventListener(name, hear));
  };
  const after = (milliseconds: number) => {
    const timer = setTimeout(open, milliseconds);
    undo.push(() => clearTimeout(timer));
  };
  const { seconds, scrollPercent, leaving, idleSeconds } = popup.opensAfter;
  if (now) open();
  else if (typeof seconds === "number") after(seconds * 1000);
  else if (typeof scrollPercent === "number")
    on(window, "scroll", () => {
      const room = root.scrollHeight - innerHeight;
      if (room <= 0 || (scrollY / room) * 100 >= scrollPercent) open();
    });
  else if (leaving) on(root, "mouseleave", (event) => (event as MouseEvent).clientY <= 0 && open());
  else if (typeof idleSeconds === "number") {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const rest = () => {
      clearTimeout(timer);
      timer = setTimeout(open, idleSeconds * 1000);
    };
    ["pointermove", "keydown", "scroll"].forEach((name) => on(window, name, rest));
    undo.push(() => clearTimeout(timer));
    rest();
  }
  return {
    close: () => {
      halt();
      dialog.remove();
    },
  };
}
