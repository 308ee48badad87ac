"use client";
import { useRouter } from "next/navigation";
import { useEffect, useRef } from "react";
import { previewVersion } from "@/core/preview/messages";
import { earlyScript, endEarly } from "@/script/early";
import { lensMode, slotsHere, type LensMode } from "@/script/lens-mode";
import "@/script/lens.css";

interface Props {
  /** The origin of the workbench. */
  workbench: string;
  path: string;
  /** The number of the look that is rendered. */
  turn: number;
  /** That of the page's policy, by which its scripts may run. */
  nonce: string;
}

/**
 * Runs in a page that is rendered for a lens: its lens mode, and another look without a reload. Pressed before it runs, a link would
 * lead to the page as everybody sees it, which nobody may have in a frame: it waits.
 */
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
    endEarly();
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

  return <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: earlyScript }} />;
}
