"use client";
import { useEffect, useRef } from "react";
import type { Decision } from "@/core/decision/decision";
import { watch, type Seen } from "@/script/happened";
import { sendHappened } from "./watch";

interface Props {
  popup: Omit<NonNullable<Decision["popup"]>, "content">;
  /** Where it stands: in a box over the page, in a corner, or as a bar at the foot. */
  place: "box" | "corner" | "bar";
  /** Opens at once, whatever it waits for: while it is looked at. */
  now: boolean;
  label: string;
  /** How it is told that it has opened, and to count it; undefined through a lens, where nothing is told. */
  telling:
    | { consent: boolean; source: string; note: string | undefined; receipts: Readonly<Record<string, string>> }
    | undefined;
  children: React.ReactNode;
}

/** Tells that a pop-up has opened, and has it counted. @returns what ends watching for clicks in it */
function tell(seen: Seen, { note, ...telling }: NonNullable<Props["telling"]>): () => void {
  if (note !== undefined) void fetch("/opened", { method: "POST", body: note, keepalive: true }).catch(() => undefined);
  return watch([seen], { ...telling, send: sendHappened });
}

/**
 * A pop-up: opens when what it waits for has happened, never on top of another. A box holds the focus and gives it back when
 * it closes; a corner and a bar leave the page usable. Escape closes all of them. In a frame beside which somebody works it
 * takes no focus.
 */
export function Popup({ popup, place, now, label, telling, children }: Props) {
  const dialog = useRef<HTMLDialogElement>(null);
  const { opensAfter, size } = popup;
  const waits = JSON.stringify(opensAfter);
  const seen = JSON.stringify({ slot: `popup:${popup.id}`, variant: popup.id, arm: popup.arm });
  const told = JSON.stringify(telling);

  useEffect(() => {
    const element = dialog.current;
    if (!element) return;
    const before = document.activeElement;
    let opened = false;
    let leave: (() => void) | undefined;
    const stop: (() => void)[] = [];
    const halt = () => stop.splice(0).forEach((undo) => undo());
    const open = () => {
      if (opened || document.querySelector("dialog[open]")) return;
      opened = true;
      halt();
      // In a frame that is only looked at, the focus stays with whoever is typing beside it.
      if (window.parent !== window && !document.hasFocus()) element.setAttribute("open", "");
      else if (place === "box") element.showModal();
      else element.show();
      if (told !== undefined) leave = tell(JSON.parse(seen) as Seen, JSON.parse(told) as NonNullable<Props["telling"]>);
    };
    const listen = (target: EventTarget, names: string[], work: (event: Event) => void) => {
      for (const name of names) target.addEventListener(name, work, { passive: true });
      stop.push(() => names.forEach((name) => target.removeEventListener(name, work)));
    };
    const after = (seconds: number) => {
      const timer = setTimeout(open, seconds * 1000);
      stop.push(() => clearTimeout(timer));
    };
    const wait = JSON.parse(waits) as Props["popup"]["opensAfter"];
    if (now) open();
    else if ("seconds" in wait) after(wait.seconds);
    else if ("scrollPercent" in wait) {
      const measure = () => {
        const room = document.documentElement.scrollHeight - window.innerHeight;
        if (room <= 0 || (window.scrollY / room) * 100 >= wait.scrollPercent) open();
      };
      listen(window, ["scroll", "resize"], measure);
      if (wait.scrollPercent === 0) open();
    } else if ("leaving" in wait)
      // The pointer goes out over the upper edge, to the tabs or the address.
      listen(document.documentElement, ["mouseleave"], (event) => (event as MouseEvent).clientY <= 0 && open());
    else {
      let timer: ReturnType<typeof setTimeout> | undefined;
      const rest = () => {
        clearTimeout(timer);
        timer = setTimeout(open, wait.idleSeconds * 1000);
      };
      listen(window, ["pointermove", "pointerdown", "keydown", "scroll", "touchstart"], rest);
      stop.push(() => clearTimeout(timer));
      rest();
    }
    const escape = (event: KeyboardEvent) => {
      if (event.key === "Escape" && element.open && !element.matches(":modal")) element.close();
    };
    // A corner or a bar that had the focus gives it back; a box does so by itself.
    const closed = () => {
      if (place !== "box" && before instanceof HTMLElement && element.contains(document.activeElement)) before.focus();
    };
    document.addEventListener("keydown", escape);
    element.addEventListener("close", closed);
    return () => {
      halt();
      leave?.();
      document.removeEventListener("keydown", escape);
      element.removeEventListener("close", closed);
      element.close();
    };
  }, [waits, place, now, seen, told]);

  return (
    <dialog
      ref={dialog}
      className={`popup ${place}`}
      aria-label={label}
      data-mirada-popup={popup.id}
      style={{ "--width": `${size.width}px`, "--height": `${size.height}px` } as React.CSSProperties}
    >
      <form method="dialog">
        <button className="popup-close" aria-label="Close">
          ×
        </button>
      </form>
      {children}
    </dialog>
  );
}
