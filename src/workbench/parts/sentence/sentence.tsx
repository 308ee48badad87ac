"use client";
import { t } from "@/core/messages/t";
import { rich } from "../rich";
import Popover from "@mui/material/Popover";
import dynamic from "next/dynamic";
import { useState } from "react";
import { visitPhrases } from "@/core/lens/phrases";
import { To } from "../desk/site-address";
import { useDesk } from "../desk/desk";
import { addressOf } from "../desk/screens";
import { LensPicker } from "./lens-picker";
import type { Part } from "./part-editor";
import { PasteField } from "./paste-field";

const load = () => import("./part-editor").then((module) => module.PartEditor);
const PartEditor = dynamic(load, { ssr: false, loading: () => <div className="parteditor" aria-busy /> });
/** Loads the editors of the parts beforehand. */
export const prepareParts = (): Promise<unknown> => load();

/** The lens written out: every underlined part opens a small editor in place. */
export function VisitSentence() {
  const { look, ruleset, pages } = useDesk();
  const [open, setOpen] = useState<{ part: Part; at: HTMLElement } | null>(null);
  const phrases = visitPhrases(look.visit, ruleset, new Map(pages.map((page) => [page.path, page.title])));
  const { redirect } = look.decision;
  const part = (name: Part) => (
    // A button of its own kind would not break across lines, and a long part would leave the line before it half empty.
    <span
      role="button"
      tabIndex={0}
      data-part={name}
      aria-haspopup="dialog"
      onClick={(event) => setOpen({ part: name, at: event.currentTarget })}
      onKeyDown={(event) => {
        if (event.key !== "Enter" && event.key !== " ") return;
        event.preventDefault();
        setOpen({ part: name, at: event.currentTarget });
      }}
    >
      {name === "next" ? t("then another page") : phrases[name]}
    </span>
  );
  const close = () => setOpen(null);
  return (
    <section className="sentence" aria-label={t("The visit looked at")}>
      <LensPicker />
      <p>
        {rich(
          redirect
            ? "Looking at {page} as {visitor} on {device} in {place}, reading {language}, arriving {arrival} by {link} on {time} with {cart} and {told} and would be {redirect}."
            : "Looking at {page} as {visitor} on {device} in {place}, reading {language}, arriving {arrival} by {link} on {time} with {cart} and {told}, {next}.",
          {
            page: part("page"),
            visitor: part("visitor"),
            device: part("device"),
            place: part("place"),
            language: part("language"),
            arrival: part("arrival"),
            link: part("link"),
            time: part("time"),
            cart: part("cart"),
            told: part("told"),
            next: part("next"),
            redirect: redirect && (
              <To href={addressOf("/redirects", redirect.id)} className="senton-words">
                {t("sent to {location}", { location: redirect.location })}
              </To>
            ),
          },
        )}
      </p>
      <PasteField />
      <Popover
        open={open !== null}
        anchorEl={open?.at ?? null}
        onClose={close}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
        slotProps={{
          paper: { sx: { p: 4, width: open?.part === "cart" || open?.part === "visitor" ? 460 : 380, mt: 1 } },
        }}
      >
        {open && <PartEditor part={open.part} visit={look.visit} setVisit={look.setVisit} close={close} />}
      </Popover>
    </section>
  );
}
