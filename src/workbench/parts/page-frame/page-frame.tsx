"use client";
import { t } from "@/core/messages/t";
import { rich } from "../rich";
import Button from "@mui/material/Button";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import { useEffect, useLayoutEffect, useRef, useState } from "react";
import type { Slot } from "@/core/formats/ruleset";
import type { SlotMark } from "@/core/preview/messages";
import type { Actions } from "../actions";
import { onDevice, widthOf, widths, type Width } from "../devices";
import { hexOf, indexIn, letterOf } from "../variants";
import { To } from "../desk/site-address";
import type { Look } from "../desk/use-look";
import { usePageLine } from "./page-line";
import { onSite, useWay } from "./use-way";
import { pageLink, type PageLink, type WantedLook } from "./page-link";

/** A variant that is shown whatever its rule says; null is the fallback. */
export interface Pinned {
  slot: string;
  variant: string | null;
  /** Which of its arms; the one that is drawn, without it. */
  arm?: string;
}
interface Props {
  look: Look;
  site: string;
  /** Grows whenever the saved draft has changed. */
  version: number;
  /** The slots of this page, in the order of their numbers. */
  slots: readonly Slot[];
  selected: string | undefined;
  pin: Pinned | undefined;
  /** A pop-up that is shown at once, whatever its rule says; null: none opens, while something else is at hand. */
  popup?: string | null | undefined;
  width: Width;
  onWidth: (width: Width) => void;
  onSlot: (id: string) => void;
  onGo: (href: string) => void;
  /** A form of the page was sent: a cart form changes the lens's cart. */
  onForm: (action: string, fields: Record<string, string>) => void;
  onUnpin: () => void;
  /** Goes where a redirect leads. */
  onFollow: (location: string) => void;
  /** Points at another place for a slot that does not fit the page any more. */
  onPoint?: ((slot: string) => void) | undefined;
  /** What else stands in the bar above the page. */
  tools?: React.ReactNode;
  actions: Pick<Actions, "pass">;
}

/** How long a page may take until it answers, in milliseconds. */
const patience = 8000;
const silent = (): string =>
  t(
    "The page has not answered. It may not carry the tag yet, may refuse to stand in a frame, or cannot be reached from here.",
  );

/** What it means that a site answers so for an address. */
const statusWords = (status: number): string =>
  status === 404 || status === 410
    ? t("there is no such page")
    : status === 401 || status === 403
      ? t("it is not shown to everybody")
      : status >= 500
        ? t("something failed there")
        : t("it is no page of the site");
const pinsOf = (pin: Pinned | undefined): Record<string, string | null> =>
  pin ? { [pin.slot]: pin.variant && pin.arm ? `${pin.variant}/${pin.arm}` : pin.variant } : {};

/** A page that is not at rest may still draw its places within so many milliseconds. */
const drawsWithin = 1500;

/** The real site in a frame of the lens's width, rendered by the engine that serves visitors, with its slots outlined. */
export function PageFrame(props: Props) {
  const {
    look,
    site,
    version,
    slots,
    selected,
    pin,
    popup,
    width,
    onWidth,
    onSlot,
    onGo,
    onForm,
    onUnpin,
    onFollow,
    onPoint,
    tools,
    actions,
  } = props;
  const [outlines, setOutlines] = useState(true);
  const frame = useRef<HTMLIFrameElement>(null);
  const stage = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 800, height: 500 });
  const [src, setSrc] = useState<string>();
  const [trouble, setTrouble] = useState(false);
  const [amiss, setAmiss] = useState<string>();
  const [answered, setAnswered] = useState(false);
  const [drift, setDrift] = useState<readonly { slot: string; why: string }[]>([]);
  /** The slots that have a place on the page, as it told last. */
  const [placed, setPlaced] = useState<readonly string[]>();
  const ready = useRef(false);
  const turn = useRef(0);
  const link = useRef<PageLink & { origin: string }>(undefined);
  const line = usePageLine();
  useEffect(() => {
    line?.attach((message) => link.current?.tell(message));
    return () => line?.attach(undefined);
  }, [line]);

  useLayoutEffect(() => {
    const watch = new ResizeObserver(
      ([entry]) => entry && setSize({ width: entry.contentRect.width, height: entry.contentRect.height }),
    );
    if (stage.current) watch.observe(stage.current);
    return () => watch.disconnect();
  }, []);

  // Another visit, pin or saved draft: a new pass, taken up by the page without a reload.
  const { pathname, search } = new URL(look.visit.url);
  const { way, takeMirror } = useWay(`${pathname}${search}`);
  const { by, origin } = way ?? {};
  const key = JSON.stringify([look.visit, pin, popup, version]);
  useEffect(() => {
    if (!by || !origin || by === "none") return;
    let stale = false;
    const timer = setTimeout(async () => {
      const mine = ++turn.current;
      const pass = await actions
        .pass({ visit: look.visit, source: "draft", pins: pinsOf(pin), ...(popup === undefined ? {} : { popup }) })
        .catch(() => undefined);
      if (stale) return;
      setTrouble(pass === undefined);
      if (pass === undefined) return;
      const wanted: WantedLook = { pass, url: look.visit.url, turn: mine };
      // By another way it is another page, of another origin.
      if (link.current?.origin !== origin) {
        link.current = { origin, ...pageLink(origin, by, () => frame.current?.contentWindow) };
        setAnswered(false);
      }
      setAmiss(undefined);
      setDrift([]);
      setPlaced(undefined);
      const address = link.current.look(wanted);
      if (address) setSrc(address);
    }, 90);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `key` stands for what a pass depends on
  }, [key, site, by, origin, actions]);
  // A page that never answers is said to: nobody waits before an empty frame.
  useEffect(() => {
    if (!src || answered) return;
    const timer = setTimeout(() => setAmiss(silent()), patience);
    return () => clearTimeout(timer);
  }, [src, answered]);

  const marks: Record<string, SlotMark> | null = outlines ? {} : null;
  if (marks)
    slots.forEach((slot, number) => {
      const shown = look.decision.slots[slot.id]?.[0]?.variant ?? null;
      const pinned = pin?.slot === slot.id;
      const index = indexIn(slot, pinned ? pin.variant : shown);
      marks[slot.id] = {
        label: `${number + 1} · ${index >= 0 ? letterOf(index) : slot.fallback || by === "process" ? t("fallback") : t("the page’s own")}${pinned ? t(" · pinned") : ""}`,
        colour: hexOf(index),
        selected: slot.id === selected,
      };
    });
  const told = JSON.stringify(marks);
  useEffect(() => {
    const tell = () => link.current?.tell({ mirada: "marks", marks: JSON.parse(told) as typeof marks });
    const hear = (event: MessageEvent<unknown>) => {
      const message = link.current?.read(event);
      if (!message) return;
      line?.heard(message);
      if (message.mirada === "hello" || message.mirada === "ready") setAnswered(true);
      if (message.mirada === "ready") {
        ready.current = true;
        setPlaced(message.slots);
        setAmiss((old) => (old === silent() ? undefined : old));
        tell();
      } else if (message.mirada === "trouble") setAmiss(message.says);
      // What was said of the part before is over.
      else if (message.mirada === "pointed") setAmiss((old) => (old === silent() ? old : undefined));
      else if (message.mirada === "drift") {
        const { slot, why } = message;
        setDrift((old) => [...old.filter((item) => item.slot !== slot), { slot, why }]);
      } else if (message.mirada === "slot") onSlot(message.id);
      else if (message.mirada === "go") onGo(way ? onSite(message.href, way) : message.href);
      else if (message.mirada === "form") onForm(message.action, message.fields);
    };
    if (ready.current) tell();
    window.addEventListener("message", hear);
    return () => window.removeEventListener("message", hear);
  }, [told, way, onSlot, onGo, onForm, line]);

  const { redirect } = look.decision;
  const device = widthOf(look.visit);
  const scale = Math.min(1, size.width / widths[width]);
  const homeless =
    !redirect && placed && !drift.some(({ slot }) => slot === selected)
      ? slots.find(({ id }) => id === selected && id in look.decision.slots && !placed.includes(id))
      : undefined;
  const pinnedSlot = pin && slots.find((slot) => slot.id === pin.slot);
  return (
    <section className="pageside" aria-label={t("The page")}>
      <div className="pagebar">
        <span className="where" title={look.visit.url}>
          {look.visit.url.replace(/^https?:\/\//, "")}
        </span>
        {pinnedSlot && (
          <span className="pinned">
            {t("{find} is pinned", {
              find:
                pin.variant === null
                  ? t("The fallback")
                  : (pinnedSlot.variants.find((item) => item.id === pin.variant)?.name ?? t("A variant")),
            })}
            <Button onClick={onUnpin} sx={{ py: 0 }}>
              {t("Unpin")}
            </Button>
          </span>
        )}
        <ToggleButtonGroup
          exclusive
          size="small"
          value={width}
          onChange={(_, next: Width | null) => next && onWidth(next)}
          aria-label={t("Width")}
        >
          <ToggleButton value="desktop">{t("Desktop")}</ToggleButton>
          <ToggleButton value="tablet">{t("Tablet")}</ToggleButton>
          <ToggleButton value="phone">{t("Phone")}</ToggleButton>
        </ToggleButtonGroup>
        {width !== device && (
          <Button onClick={() => look.setVisit(onDevice(look.visit, width))}>
            {t("And as a visitor on {width}", {
              width: width === "desktop" ? t("a computer") : width === "tablet" ? t("a tablet") : t("a phone"),
            })}
          </Button>
        )}
        <ToggleButton value="outlines" selected={outlines} onChange={() => setOutlines(!outlines)} size="small">
          {t("Outlines")}
        </ToggleButton>
        {tools}
      </div>
      {trouble && (
        <span className="error">
          {t(
            "The page cannot be shown just now: the server could not be reached. It is tried again with the next change.",
          )}
        </span>
      )}
      {way?.by === "mirror" && (
        <div className="byway" role="note">
          <b>{t("The mirror")}</b>
          <span>
            {t("{why}Forms, sign-in and what scripts load from elsewhere may differ.", {
              why: way.why
                ? t("Shown as Mirada fetches it, since {why}. ", { why: way.why })
                : t("Shown as Mirada fetches it. "),
            })}
          </span>
        </div>
      )}
      {way?.status !== undefined && (
        <div className="senton" role="status">
          <span>
            {t("The site itself answers {status} for this address: {status2}.", {
              status: way.status,
              status2: statusWords(way.status),
            })}
          </span>
        </div>
      )}
      {way?.by === "none" && (
        <div className="senton" role="status">
          <span>
            {way.why} {way.help}
          </span>
          <To href="/connect" className="senton-words">
            {t("How to connect it")}
          </To>
        </div>
      )}
      {amiss && (
        <div className="senton" role="status">
          <span>{amiss}</span>
          {amiss === silent() && (
            <>
              {by === "tag" && <Button onClick={takeMirror}>{t("Look at it in the mirror")}</Button>}
              <To href="/connect" className="senton-words">
                {t("How to connect it")}
              </To>
            </>
          )}
        </div>
      )}
      {drift.map(({ slot, why }) => (
        <div key={slot} className="senton" role="status">
          <span>
            {t("The page’s own content stands in “{find}”: {why}.", {
              find: slots.find((item) => item.id === slot)?.name ?? slot,
              why,
            })}
          </span>
          {onPoint && <Button onClick={() => onPoint(slot)}>{t("Point at it anew")}</Button>}
        </div>
      ))}
      {homeless && <Homeless key={`${homeless.id} ${pathname}`} slot={homeless} onPoint={onPoint} />}
      {redirect && (
        <div className="senton" role="status">
          <span>
            {rich("This visitor is not shown this page, but sent on ({status}) to {location}", {
              status: redirect.status,
              location: <code>{redirect.location}</code>,
            })}
          </span>
          <Button onClick={() => onFollow(redirect.location)}>{t("Follow")}</Button>
        </div>
      )}
      <div className="stage" ref={stage}>
        <div
          className="sheet"
          style={{
            width: widths[width],
            height: size.height / scale,
            transform: `scale(${scale})`,
            left: Math.max(0, (size.width - widths[width] * scale) / 2),
          }}
        >
          {src && (
            <iframe
              ref={frame}
              src={src}
              title={t("The page as this visitor sees it")}
              sandbox="allow-scripts allow-same-origin allow-forms"
            />
          )}
        </div>
      </div>
    </section>
  );
}

/** Says that the page has no place for a slot that is looked at; not at once, since pages may draw their places late. */
function Homeless({ slot, onPoint }: { slot: Slot; onPoint: Props["onPoint"] }) {
  const [late, setLate] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLate(true), drawsWithin);
    return () => clearTimeout(timer);
  }, []);
  if (!late) return null;
  return (
    <div className="senton" role="status">
      <span>
        {t("“{slot}” has no place on this page: what is decided for it is not seen here.", { slot: slot.name })}
      </span>
      {onPoint && slot.at && <Button onClick={() => onPoint(slot.id)}>{t("Point at it anew")}</Button>}
    </div>
  );
}
