"use client";
import { locale, t } from "@/core/messages/t";
import { useEffect, useRef, useState } from "react";
import type { SharedWords } from "@/server/types";
import { pageLink, type PageLink } from "../parts/page-frame/page-link";

interface Props extends SharedWords {
  id: string;
}

/**
 * The site as a shared lens sees it, within a frame that says what is made up. Links lead on with the same visitor; nothing can
 * be sent or changed.
 */
export function SharedLens({ id, title, source, simulated, expiresAt, origin, lookedBy, start }: Props) {
  const frame = useRef<HTMLIFrameElement>(null);
  const link = useRef<PageLink>(undefined);
  const turn = useRef(0);
  const [src, setSrc] = useState<string>();
  const [open, setOpen] = useState(false);
  const [said, setSaid] = useState<string>();
  useEffect(() => {
    const page = (link.current ??= pageLink(origin, lookedBy, () => frame.current?.contentWindow));
    const go = (path: string) => {
      const address = page.look({ shared: id, url: `${origin}${path}`, turn: ++turn.current });
      if (address) setSrc(address);
    };
    const hear = (event: MessageEvent<unknown>) => {
      const message = page.read(event);
      if (message?.mirada === "form") setSaid(t("Nothing is sent from here: it is only looked at."));
      if (message?.mirada === "trouble") setSaid(message.says);
      if (message?.mirada !== "go") return;
      const url = URL.canParse(message.href) ? new URL(message.href) : undefined;
      if (url?.origin !== origin)
        return setSaid(t("This link leads away from the site, to {host}.", { host: url?.host || message.href }));
      setSaid(undefined);
      go(`${url.pathname}${url.search}`);
    };
    window.addEventListener("message", hear);
    go(start);
    return () => window.removeEventListener("message", hear);
  }, [id, origin, lookedBy, start]);
  const until = new Date(expiresAt).toLocaleString(locale(), { dateStyle: "medium", timeStyle: "short" });
  return (
    <div className="shared">
      <header>
        <div>
          <b>{title}</b>
          <span>
            {t("{source} Until {until}.", {
              source: source === "draft" ? t("A draft: not live yet.") : t("As it is live."),
              until,
            })}
          </span>
        </div>
        <button type="button" aria-expanded={open} onClick={() => setOpen(!open)}>
          {t("About this preview")}
        </button>
      </header>
      {open && (
        <p className="made-up">
          {t(
            "You look as {simulated} and {simulated2}. None of it is you: place, time, device and cart are simulated, and nothing you do is kept.",
            { simulated: simulated.slice(0, -1).join(", "), simulated2: simulated.at(-1) },
          )}
        </p>
      )}
      {said && (
        <p className="made-up" role="status">
          {said}
        </p>
      )}
      <iframe
        ref={frame}
        src={src}
        title={t("The site as this visitor sees it")}
        sandbox="allow-scripts allow-same-origin allow-forms"
      />
    </div>
  );
}
