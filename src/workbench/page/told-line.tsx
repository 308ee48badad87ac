"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { useEffect } from "react";
import { asTold } from "@/core/collect/gather";
import { nameOfSignal, sourcesOf } from "@/core/collect/sources";
import { same } from "@/core/draft/edit";
import { readablePath } from "@/core/visit/url";
import { valueWords } from "../parts/collect/words";
import { useDesk } from "../parts/desk/desk";
import type { PageLine } from "../parts/page-frame/page-line";

/** Takes up what is read from the page in the frame. */
export function useTold(line: PageLine): void {
  const { takeTold } = useDesk();
  useEffect(
    () =>
      line.listen((message) => {
        if (message.mirada === "told")
          takeTold(readablePath(new URL(message.path, "http://here").pathname), message.values);
      }),
    [line, takeTold],
  );
}

/** What was read from the page that is looked at; its cart and data can be taken up as this visitor's. */
export function ToldLine() {
  const { ruleset, look, toldBy } = useDesk();
  const values = Object.entries(toldBy(look.path) ?? {}).filter(([signal]) =>
    ruleset.collect.some((entry) => entry.signal === signal),
  );
  if (values.length === 0) return null;
  const { cart, data } = asTold(new Map(values), sourcesOf(ruleset));
  const { visit } = look;
  const differs =
    (cart !== undefined && !same(cart.lines, visit.cart?.lines)) ||
    Object.entries(data ?? {}).some(([name, value]) => !same(visit.data?.[name], value));
  return (
    <div className="popupline" role="status" aria-label={t("From the page")}>
      <span>
        <b>{t("From the page:")}</b>{" "}
        {values
          .map(([signal, value]) => `${nameOfSignal(signal, ruleset)} ${valueWords(signal, value, ruleset.site)}`)
          .join(" · ")}
      </span>
      {differs && (
        <Button
          onClick={() =>
            look.setVisit({
              ...visit,
              ...(cart ? { cart: { ...visit.cart, lines: cart.lines } } : {}),
              ...(data ? { data: { ...visit.data, ...data } } : {}),
            })
          }
        >
          {t("Use for this visitor")}
        </Button>
      )}
    </div>
  );
}
