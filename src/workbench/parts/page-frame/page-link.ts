import { lookMark, readFromPage, type FromPage, type ToPage } from "@/core/preview/messages";
import type { Way } from "@/server/types";

/** What a frame is to show. */
export interface WantedLook {
  pass?: string;
  shared?: string;
  /** The address of the page, on the site's own origin. */
  url: string;
  turn: number;
}

/** The line to a page in a frame. */
export interface PageLink {
  /** Asks for a look. @returns the address that the frame is to be opened at; undefined: the page is there, and was told */
  look: (wanted: WantedLook) => string | undefined;
  /** A message of this page; undefined: it is none of this page's, or does not fit. */
  read: (event: MessageEvent<unknown>) => FromPage | undefined;
  tell: (message: ToPage) => void;
}

/**
 * Speaks with a page in a frame by the preview protocol (core/preview): with one origin, one window, and by schemas.
 * @param origin that its pages are looked at on; @param by how
 */
export function pageLink(origin: string, by: Way["by"], target: () => Window | null | undefined): PageLink {
  let latest: WantedLook | undefined;
  /** The turn of the look that was sent last: a page that then comes anew has been led to where it stands. */
  let sent = -1;
  let isThere = false;
  /** The turn of the look whose address was given out last. */
  let opened = 0;
  /** Whether a page that is led by its own address has come anew and has not told yet which look it shows. */
  let isNew = false;
  const tell = (message: ToPage) => target()?.postMessage(message, origin);
  const pathOf = ({ url }: WantedLook): string => {
    const { pathname, search } = new URL(url);
    // An application that decides in its own process is given the visit by the pass; a static page may read its own address.
    return by === "process" ? pathname : `${pathname}${search}`;
  };
  const send = (wanted: WantedLook, path = pathOf(wanted)) => {
    sent = wanted.turn;
    const { pass, shared, turn } = wanted;
    tell({ mirada: "look", path, turn, ...(pass ? { pass } : {}), ...(shared ? { shared } : {}) });
  };
  /** What a page says that its own address has led; undefined: it is being left for a later look, and is heard no more. */
  const heard = (message: FromPage): FromPage | undefined => {
    if (message.mirada === "hello") isNew = true;
    if (message.mirada !== "ready" || latest?.shared) return message;
    if (message.turn < opened) return undefined;
    isThere = true;
    // What was told to the page that stood here before went with it.
    if (isNew && latest && message.turn < latest.turn) send(latest);
    isNew = false;
    return message;
  };
  return {
    tell,
    look(wanted) {
      latest = wanted;
      // An application in its own process is led through a shared lens by addresses: each page is opened anew.
      if (isThere && !(by === "process" && wanted.shared)) {
        send(wanted);
        return undefined;
      }
      opened = wanted.turn;
      const path = pathOf(wanted);
      if (by !== "process") return `${origin}${path}${lookMark}`;
      const query = new URLSearchParams(
        wanted.pass ? { look: wanted.pass, turn: String(wanted.turn) } : { shared: wanted.shared ?? "" },
      );
      return `${origin}${path}${path.includes("?") ? "&" : "?"}${query.toString()}`;
    },
    read(event) {
      if (event.origin !== origin || event.source !== target()) return undefined;
      const message = readFromPage(event.data);
      if (by === "process") return message && heard(message);
      if (message?.mirada === "hello" && latest) {
        isThere = true;
        // Where the site itself has led on (from /rooms to /rooms/, say), it is looked at where it stands.
        send(latest, sent === latest.turn ? message.path : undefined);
      }
      if (message?.mirada === "ready") isThere = true;
      return message;
    },
  };
}
