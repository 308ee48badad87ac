"use client";
import { useEffect } from "react";

/** Parts of the screen that can hold the keyboard in the place of something in them that is gone. */
const places = "aside, section, main:not(.pages), form, [role=dialog], ol, ul, nav, header";
const remembered = 6;

/**
 * Keeps the keyboard where it was: when what it was on is gone – a row that was opened or deleted, an editor that was closed, a
 * menu – it goes to what that stood in, and not to the top of the page.
 */
export function useKeptFocus(): void {
  useEffect(() => {
    /** What had the keyboard last, each with all that it stood in, the latest first. */
    let last: Element[][] = [];
    const remember = ({ target }: FocusEvent) => {
      const chain: Element[] = [];
      for (let here = target as Element | null; here; here = here.parentElement) chain.push(here);
      last = [chain, ...last.filter(([element]) => element !== target)].slice(0, remembered);
    };
    const look = () => {
      const [latest] = last;
      if (document.activeElement !== document.body || !latest?.[0] || latest[0].isConnected) return;
      const left = last.flatMap((chain) => chain.filter((element) => element.isConnected));
      const there = left.find(
        (element): element is HTMLElement => element instanceof HTMLElement && element.matches(places),
      );
      last = [];
      if (!there) return;
      if (!there.hasAttribute("tabindex")) there.tabIndex = -1;
      there.focus({ preventScroll: true });
    };
    const watch = new MutationObserver(look);
    watch.observe(document.body, { childList: true, subtree: true });
    document.addEventListener("focusin", remember);
    return () => {
      watch.disconnect();
      document.removeEventListener("focusin", remember);
    };
  }, []);
}
