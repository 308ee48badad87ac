"use client";
import { t } from "@/core/messages/t";
import { rich } from "../parts/rich";
import { Crosshair } from "lucide-react";
import Button from "@mui/material/Button";
import { useSearchParams } from "next/navigation";
import { useCallback, useEffect, useMemo, useState } from "react";
import { onPage as onPageOf } from "@/core/lens/pages";
import { useDesk, useNeeded } from "../parts/desk/desk";
import { variantAddress } from "../parts/desk/screens";
import { To } from "../parts/desk/site-address";
import { useGo } from "../parts/desk/use-go";
import { Panel } from "../parts/panel";
import { PageLineContext, useNewPageLine } from "../parts/page-frame/page-line";
import { PageFrame, type Pinned } from "../parts/page-frame/page-frame";
import { useSite } from "../parts/page-frame/use-site";
import { Ribbon } from "./ribbon";
import { KeepCheck } from "./keep-check";
import { PointingPanel, prepare, VariantEditor } from "./later";
import { NewPlaces } from "./new-places";
import { PopupLine } from "./popup-line";
import { SideEdge } from "./side-edge";
import { ToldLine, useTold } from "./told-line";
import { SlotPanel } from "./slot-panel";
import { usePointing, wantedFor } from "./use-pointing";
import { useAddress } from "./use-address";

/** The main screen: the page, the slot and the ribbon, under the visit sentence. The address says which slot and variant are open. */
export function PageScreen() {
  const { draft, ruleset, look, width, setWidth, lookedBy, actions, pages, facts, may } = useDesk();
  const go = useGo();
  useAddress();
  const query = useSearchParams();
  const addressed = query.get("slot") ?? undefined;
  /** The slot that was chosen just now: the address follows a moment later, and nobody works on another slot meanwhile. */
  const [chosen, setChosen] = useState<{ slot: string; from: string | undefined }>();
  if (chosen && addressed !== chosen.from) setChosen(undefined);
  const wanted = chosen?.slot ?? addressed;
  const asked = chosen ? null : query.get("variant");
  const [pin, setPin] = useState<Pinned>();
  const [popup, setPopup] = useState<string>();
  /** The slot whose settings were opened, and the slot that the address named then: it follows a moment later. */
  const [settings, setSettings] = useState<{ slot: string; from: string | undefined }>();
  const setting = settings && (wanted === settings.slot || wanted === settings.from) ? settings.slot : undefined;

  const onPage = useMemo(() => {
    const there = new Set(Object.keys(look.decision.slots));
    return ruleset.slots.filter((slot) => there.has(slot.id));
  }, [ruleset.slots, look.decision]);
  // What is being edited stays open until it is closed, also while it is not on this page (any more).
  const edited = asked === null ? setting : wanted;
  const slot =
    onPage.find((item) => item.id === (edited ?? wanted)) ??
    ruleset.slots.find((item) => item.id === edited) ??
    // The slot that is this page's own comes before those that are on every page.
    onPage.find((item) => item.pages !== null) ??
    onPage[0];
  const fallbackOpen = asked === "" && slot?.id === wanted;
  const variant = asked ? slot?.variants.find((item) => item.id === asked) : undefined;
  const opened = variant !== undefined || fallbackOpen;

  // A variant is pinned on the page as soon as it is opened, however it was reached; unpinning holds until another is.
  const key = opened ? `${slot?.id} ${asked}` : "";
  const [lastKey, setLastKey] = useState("");
  if (key !== lastKey) {
    setLastKey(key);
    setPin(opened && slot ? { slot: slot.id, variant: variant?.id ?? null } : undefined);
  }
  const allPages = useNeeded("pages");
  // A link to a slot of another page leads to a page that has it; whoever then goes to another page stays there.
  useEffect(() => {
    if (wanted === undefined || onPage.some((item) => item.id === wanted)) return;
    const at = (path: string) => onPageOf({ ...look.visit, url: new URL(path, look.visit.url).href }, facts);
    const page = pages.find(({ path }) => wanted in look.engine.decide(at(path)).slots);
    if (page) look.setVisit(at(page.path));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only another address is followed, not another page
  }, [wanted, allPages]);
  const elsewhere =
    ruleset.slots.find((item) => item.id === wanted && item.id !== slot?.id) ??
    (slot && !onPage.includes(slot) ? slot : undefined);

  const openVariant = useCallback((slotId: string, id: string | null) => go(variantAddress(slotId, id ?? "")), [go]);
  const chooseSlot = useCallback(
    (id: string) => {
      setPin(undefined);
      setSettings(undefined);
      setChosen(id === addressed ? undefined : { slot: id, from: addressed });
      go(variantAddress(id), { replace: true });
    },
    [go, addressed],
  );
  // Once the page is there and nothing else is to do.
  useEffect(prepare, []);
  const { onGo, onForm, onFollow } = useSite();
  const line = useNewPageLine();
  useTold(line);
  const pointing = usePointing(line);
  const mayPoint = lookedBy === "tag" && may("slots");
  // Sent here to point at a value or a goal's part: once, then the address forgets it.
  const pointsAt = query.get("point");
  const pointsFor = query.get("goal");
  const { start } = pointing;
  useEffect(() => {
    if (pointsAt === null) return;
    if (mayPoint)
      start(
        null,
        wantedFor.find((what) => what === pointsAt),
        pointsFor ?? undefined,
      );
    go("/pages", { replace: true });
  }, [pointsAt, pointsFor, mayPoint, start, go]);
  // The slot at hand comes into view; what somebody looks at just now is left where it is.
  const slotId = slot?.id;
  useEffect(() => {
    if (!slotId) return;
    const show = () => line.tell({ mirada: "show", slot: slotId });
    show();
    let first = true;
    return line.listen((message) => {
      if (message.mirada === "hello") first = true;
      if (message.mirada === "ready" && first) show();
      if (message.mirada === "ready") first = false;
    });
  }, [line, slotId]);
  const point = (
    <Button startIcon={<Crosshair size={15} />} onClick={() => pointing.start(null)}>
      {t("Add a slot")}
    </Button>
  );

  return (
    <PageLineContext value={line}>
      <main className="pages">
        <h1 className="visuallyhidden">{t("Pages")}</h1>
        <Panel name={t("The page")} of={[look.decision]}>
          <PageFrame
            look={look}
            site={ruleset.site.id}
            version={draft.version}
            slots={onPage}
            selected={slot?.id}
            pin={pin}
            // While something else is worked on nothing opens over it.
            popup={popup ?? (opened || setting !== undefined || pointing.for !== undefined ? null : undefined)}
            width={width}
            onWidth={setWidth}
            onSlot={chooseSlot}
            onGo={onGo}
            onForm={onForm}
            onFollow={onFollow}
            onUnpin={() => setPin(undefined)}
            onPoint={mayPoint ? (id) => pointing.start(id) : undefined}
            tools={
              <>
                {mayPoint && point}
                <KeepCheck slot={slot} />
              </>
            }
            actions={actions}
          />
        </Panel>
        <aside className="slotside" aria-label={t("The slot")}>
          <SideEdge />
          <Panel name={t("The slot")} of={[key, ruleset, look.decision]}>
            {pointing.for !== undefined ? (
              <PointingPanel
                pointing={pointing}
                onOpen={(id, made) => (made === undefined ? chooseSlot(id) : openVariant(id, made))}
              />
            ) : (
              <>
                {onPage.length > 1 && !opened && (
                  <div
                    className="row"
                    style={{
                      padding: "8px 16px",
                      borderBottom: "1px solid var(--hair)",
                      gap: "2px 4px",
                      flexWrap: "wrap",
                    }}
                    role="tablist"
                    aria-label={t("Slots on this page")}
                  >
                    {onPage.map((item, index) => (
                      <Button
                        key={item.id}
                        role="tab"
                        aria-selected={item.id === slot?.id}
                        variant={item.id === slot?.id ? "contained" : "text"}
                        onClick={() => chooseSlot(item.id)}
                        sx={{ px: 1.75, py: 1, fontSize: 12.5, lineHeight: 1.4, whiteSpace: "nowrap" }}
                      >
                        {index + 1} {item.name}
                      </Button>
                    ))}
                  </div>
                )}
                {!opened && <NewPlaces line={line} onOpen={chooseSlot} />}
                {!opened && <ToldLine />}
                {!opened && <PopupLine shown={popup} onShow={setPopup} />}
                {elsewhere && (
                  <p
                    className="quiet"
                    style={{ padding: "10px 16px", margin: 0, borderBottom: "1px solid var(--hair)" }}
                  >
                    {t(
                      "The slot “{elsewhere}” is not on this page. Choose a page that has it in the sentence above{elsewhere2}",
                      {
                        elsewhere: elsewhere.name,
                        elsewhere2: elsewhere === slot ? t(", or say in its settings on which pages it is.") : ".",
                      },
                    )}
                  </p>
                )}
                {slot && opened ? (
                  <VariantEditor
                    key={key}
                    slot={slot}
                    variant={variant ?? null}
                    look={look}
                    draft={draft}
                    pin={pin}
                    onPin={setPin}
                    onClose={() => go(variantAddress(slot.id))}
                  />
                ) : slot ? (
                  <SlotPanel
                    slot={slot}
                    number={onPage.indexOf(slot) + 1}
                    look={look}
                    draft={draft}
                    pin={pin}
                    onPin={setPin}
                    onOpen={(id) => openVariant(slot.id, id)}
                    onPoint={mayPoint ? () => pointing.start(slot.id) : undefined}
                    setting={setting === slot.id}
                    onSetting={(open) => {
                      setSettings(open ? { slot: slot.id, from: wanted } : undefined);
                      go(variantAddress(slot.id), { replace: true });
                    }}
                  />
                ) : (
                  <p className="quiet" style={{ padding: 16 }}>
                    {ruleset.slots.length > 0
                      ? t("This page has no slots. ")
                      : t("This site has no slots yet. A slot is a part of a page that has versions. ")}
                    {mayPoint ? (
                      <>{rich("Point at a part of the page to make one. {point}", { point })}</>
                    ) : ruleset.slots.length > 0 ? (
                      t("Choose another page in the sentence above.")
                    ) : may("slots") ? (
                      <To href="/settings">{t("Make the first one, under Settings, Slots")}</To>
                    ) : (
                      t("An editor makes the first one.")
                    )}
                  </p>
                )}
              </>
            )}
          </Panel>
        </aside>
        <Panel name={t("The ribbon")} of={[ruleset, look.decision]}>
          <Ribbon look={look} ruleset={ruleset} slot={slot} slots={onPage} onSlot={chooseSlot} />
        </Panel>
      </main>
    </PageLineContext>
  );
}
