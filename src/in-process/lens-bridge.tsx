"use client";
import { useRouter } from "next/navigation";
import { useEffect, useRef } from "react";
import { lensMode, slotsHere, type LensMode } from "@/script/lens-mode";
import "@/script/lens.css";

/** Runs in a page that is rendered for a lens: its lens mode, and another look without a reload. */
export function LensBridge({ workbench, path, turn }: { workbench: string; path: string; turn: number }) {
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
    return () => {
      mode.current = undefined;
      made.stop();
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the router and the origin stay the same for the page's life
  }, []);

  useEffect(() => {
    mode.current?.tell({ mirada: "ready", slots: slotsHere(), path, turn });
    // Told anew whenever another look has been rendered.
  }, [path, turn]);

  return null;
}
