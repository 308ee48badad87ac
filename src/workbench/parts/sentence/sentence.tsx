"use client";
import Popover from "@mui/material/Popover";
import { useState } from "react";
import { visitPhrases, type VisitPhrases } from "@/core/lens/phrases";
import { To } from "../desk/site-address";
import { useDesk } from "../desk/desk";
import { addressOf } from "../desk/screens";
import { ArrivalPart, LinkPart } from "./arrival-parts";
import { CartPart } from "./cart-part";
import { LensPicker } from "./lens-picker";
import { DevicePart, LanguagePart, NextPart, PagePart, PlacePart, TimePart } from "./plain-parts";
import type { PartProps } from "./parts";
import { PasteField } from "./paste-field";
import { ToldPart } from "./told-part";
import { VisitorPart } from "./visitor-part";

type Part = keyof VisitPhrases | "next";

const editors: Record<Part, (props: PartProps) => React.ReactNode> = {
  page: PagePart,
  visitor: VisitorPart,
  device: DevicePart,
  place: PlacePart,
  language: LanguagePart,
  arrival: ArrivalPart,
  link: LinkPart,
  time: TimePart,
  cart: CartPart,
  told: ToldPart,
  next: NextPart,
};

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
      {name === "next" ? "then another page" : phrases[name]}
    </span>
  );
  const Editor = open && editors[open.part];
  const close = () => setOpen(null);
  return (
    <section className="sentence" aria-label="The visit looked at">
      <LensPicker />
      <p>
        Looking at {part("page")} as {part("visitor")} on {part("device")} in {part("place")}, reading{" "}
        {part("language")}, arriving {part("arrival")} by {part("link")} on {part("time")} with {part("cart")} and{" "}
        {part("told")}
        {redirect ? (
          <>
            {" "}
            and would be{" "}
            <To href={addressOf("/redirects", redirect.id)} className="senton-words">
              sent to {redirect.location}
            </To>
          </>
        ) : (
          <>, {part("next")}</>
        )}
        .
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
        {Editor && <Editor visit={look.visit} setVisit={look.setVisit} close={close} />}
      </Popover>
    </section>
  );
}
