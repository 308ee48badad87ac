"use client";
import { useRouter } from "next/navigation";
import { useEffect, useRef } from "react";
import { previewVersion } from "@/core/preview/messages";
import { lensMode, slotsHere, type LensMode } from "@/script/lens-mode";
import "@/script/lens.css";

declare global {
  interface Window {
    /** Ends the keeping of what is pressed before the page's scripts are there, and does the last of it. */
    miradaEarly?: () => void;
  }
}

/** By itself a link leads to the page as everybody sees it, which nobody may have in a frame: what is pressed early waits. */
const early = `(() => {
  let last;
  const keep = (event) => {
    event.preventDefault();
    event.stopPropagation();
    last = event;
  };
  for (const kind of ["click", "submit"]) addEventListener(kind, keep, true);
  window.miradaEarly = () => {
    for (const kind of ["click", "submit"]) removeEventListener(kind, keep, true);
    delete window.miradaEarly;
    if (!last?.target.isConnected) return;
    if (last.type === "click") last.target.click();
    else last.target.requestSubmit(last.submitter);
  };
})()`;

interface Props {
  /** The origin of the workbench. */
  workbench: string;
  path: string;
  /** The number of the look that is rendered. */
  turn: number;
  /** That of the page's policy, by which its scripts may run. */
  nonce: string;
}

/** Runs in a page that is rendered for a lens: its lens mode, and another look without a reload. */
export function LensBridge({ workbench, path, turn, nonce }: Props) {
  const router = useRouter();
  const mode = useRef<LensMode>(undefined);

  useEffect(() => {
    const made = lensMode({
      workbench,
      onLook: ({ pass, path: wanted, turn: next }) => {
        if (pass)
          router.replace(`${wanted}?look=${encodeURIComponent(pass)}&turn=${next}`, {
            scroll: false,
          });
      },
    });
    mode.current = made;
    made.tell({ mirada: "hello", version: previewVersion, path });
    window.miradaEarly?.();
    return () => {
      mode.current = undefined;
      made.stop();
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the router and the origin stay the same, the first path is told
  }, []);

  useEffect(() => {
    mode.current?.tell({ mirada: "ready", slots: slotsHere(), path, turn });
    // Told anew whenever another look has been rendered.
  }, [path, turn]);

  return <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: early }} />;
}
