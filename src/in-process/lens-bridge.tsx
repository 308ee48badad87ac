"use client";
import { useRouter } from "next/navigation";
import { useEffect } from "react";
import "./lens.css";

/** What the workbench tells the framed page, and what the page tells the workbench. */
export interface SlotMark {
  label: string;
  colour: string;
  selected: boolean;
}
export type ToPage =
  | { mirada: "look"; pass: string; path: string; turn: number }
  | { mirada: "marks"; marks: Record<string, SlotMark> | null }
  /** Asks for a picture of the page. */
  | { mirada: "picture"; width: number; height: number };
export type FromPage =
  | { mirada: "ready"; slots: string[]; path: string; turn: number }
  | { mirada: "slot"; id: string }
  | { mirada: "go"; href: string }
  /** A picture of the page, as a data address; undefined if none could be made. */
  | { mirada: "picture"; url: string | undefined }
  /** A form of the page was sent: where to, and with what. It changes the lens, never a real cart. */
  | { mirada: "form"; action: string; fields: Record<string, string> };

/**
 * Runs in a page that is looked at through a lens: draws the outlines of slots, tells clicks to the workbench, and takes up
 * a new look without a reload. Speaks only with the workbench's own origin.
 */
export function LensBridge({ workbench, path, turn }: { workbench: string; path: string; turn: number }) {
  const router = useRouter();
  const tell = (message: FromPage) => window.parent.postMessage(message, workbench);

  useEffect(() => {
    let marks: Record<string, SlotMark> | null = null;
    const places = () => [...document.querySelectorAll<HTMLElement>("[data-mirada-slot]")];
    const draw = () => {
      for (const place of places()) {
        const mark = marks?.[place.dataset.miradaSlot as string];
        if (mark) {
          if (place.dataset.miradaMark !== mark.label) place.dataset.miradaMark = mark.label;
          place.style.setProperty("--mirada-colour", mark.colour);
          if (mark.selected) place.dataset.miradaSelected = "";
          else delete place.dataset.miradaSelected;
        } else delete place.dataset.miradaMark;
      }
    };
    const hear = (event: MessageEvent<ToPage>) => {
      if (event.origin !== workbench || event.source !== window.parent) return;
      const message = event.data;
      if (message?.mirada === "marks") {
        marks = message.marks;
        draw();
      } else if (message?.mirada === "picture") {
        const { width, height } = message;
        void import("modern-screenshot")
          .then(({ domToPng }) => domToPng(document.documentElement, { width, height, backgroundColor: "#ffffff" }))
          .then(
            (url) => tell({ mirada: "picture", url }),
            () => tell({ mirada: "picture", url: undefined }),
          );
      } else if (message?.mirada === "look")
        router.replace(`${message.path}?look=${encodeURIComponent(message.pass)}&turn=${message.turn}`, {
          scroll: false,
        });
    };
    const click = (event: MouseEvent) => {
      const target = event.target as Element;
      const place = target.closest<HTMLElement>("[data-mirada-slot]");
      const link = target.closest<HTMLAnchorElement>("a[href]");
      if (place && marks) {
        event.preventDefault();
        tell({ mirada: "slot", id: place.dataset.miradaSlot as string });
      } else if (link) {
        event.preventDefault();
        tell({ mirada: "go", href: link.href });
      }
    };
    const submit = (event: SubmitEvent) => {
      // A pop-up's own way to close is no form of the page.
      if ((event.target as HTMLFormElement).method === "dialog") return;
      event.preventDefault();
      const form = event.target as HTMLFormElement;
      const fields = Object.fromEntries(
        [...new FormData(form, event.submitter)].filter(
          (entry): entry is [string, string] => typeof entry[1] === "string",
        ),
      );
      tell({ mirada: "form", action: new URL(form.action).pathname, fields });
    };
    const watch = new MutationObserver(draw);
    watch.observe(document.body, { childList: true, subtree: true });
    window.addEventListener("message", hear);
    document.addEventListener("click", click, true);
    document.addEventListener("submit", submit, true);
    return () => {
      watch.disconnect();
      window.removeEventListener("message", hear);
      document.removeEventListener("click", click, true);
      document.removeEventListener("submit", submit, true);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the router and the origin stay the same for the page's life
  }, []);

  useEffect(() => {
    const slots = [...document.querySelectorAll<HTMLElement>("[data-mirada-slot]")].map(
      (place) => place.dataset.miradaSlot as string,
    );
    tell({ mirada: "ready", slots, path, turn });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- told anew whenever another look has been rendered
  }, [path, turn]);

  return null;
}
