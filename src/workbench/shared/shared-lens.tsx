"use client";
import { useEffect, useRef, useState } from "react";

interface Props {
  id: string;
  title: string;
  source: "draft" | "live";
  simulated: string[];
  expiresAt: string;
  origin: string;
  start: string;
}

/**
 * The site as a shared lens sees it, within a frame that says what is made up. Links lead on with the same visitor; nothing can
 * be sent or changed.
 */
export function SharedLens({ id, title, source, simulated, expiresAt, origin, start }: Props) {
  const frame = useRef<HTMLIFrameElement>(null);
  const [path, setPath] = useState(start);
  const [open, setOpen] = useState(false);
  const [said, setSaid] = useState<string>();
  useEffect(() => {
    const hear = (event: MessageEvent<{ mirada?: string; href?: string }>) => {
      if (event.origin !== origin || event.source !== frame.current?.contentWindow) return;
      if (event.data.mirada === "form") setSaid("Nothing is sent from here: it is only looked at.");
      if (event.data.mirada !== "go" || !event.data.href) return;
      const url = new URL(event.data.href);
      if (url.origin === origin) {
        setSaid(undefined);
        setPath(`${url.pathname}${url.search}`);
      } else setSaid(`This link leads away from the site, to ${url.host || url.href}.`);
    };
    window.addEventListener("message", hear);
    return () => window.removeEventListener("message", hear);
  }, [origin]);
  const until = new Date(expiresAt).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" });
  return (
    <div className="shared">
      <header>
        <div>
          <b>{title}</b>
          <span>
            {source === "draft" ? "A draft: not live yet." : "As it is live."} Until {until}.
          </span>
        </div>
        <button type="button" aria-expanded={open} onClick={() => setOpen(!open)}>
          What is made up
        </button>
      </header>
      {open && (
        <p className="made-up">
          You look as {simulated.slice(0, -1).join(", ")} and {simulated.at(-1)}. None of it is you: place, time, device
          and cart are simulated, and nothing you do is kept.
        </p>
      )}
      {said && (
        <p className="made-up" role="status">
          {said}
        </p>
      )}
      <iframe
        ref={frame}
        src={`${origin}${path}${path.includes("?") ? "&" : "?"}shared=${id}`}
        title="The site as this visitor sees it"
        sandbox="allow-scripts allow-same-origin allow-forms"
      />
    </div>
  );
}
