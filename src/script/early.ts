/**
 * What is pressed on a page before its scripts are there waits for them: otherwise it would be lost, or a link would lead on as if
 * nobody watched. Part of a page's own HTML as a script of its own.
 */
declare global {
  interface Window {
    /** Ends the waiting, and does what was pressed last. */
    miradaEarly?: () => void;
  }
}

export const earlyScript = `(() => {
  let last;
  const keep = (event) => {
    if (event.button || event.ctrlKey || event.metaKey || event.shiftKey || event.altKey) return;
    event.preventDefault();
    event.stopPropagation();
    last = event;
  };
  for (const kind of ["click", "submit"]) addEventListener(kind, keep, true);
  window.miradaEarly = () => {
    for (const kind of ["click", "submit"]) removeEventListener(kind, keep, true);
    delete window.miradaEarly;
    if (!last?.target.isConnected) return;
    if (last.type === "submit") last.target.requestSubmit(last.submitter);
    else if (last.target.click) last.target.click();
    else last.target.dispatchEvent(new MouseEvent("click", { bubbles: true, cancelable: true }));
  };
})();`;

/** The page's scripts are there: what was pressed is done now. */
export const endEarly = (): void => window.miradaEarly?.();
