"use client";
import { t } from "@/core/messages/t";
import { useSnackbar } from "notistack";
import { useCallback } from "react";
import { changeLines } from "@/core/cart/about";
import { play } from "@/core/lens/journey";
import { takePaste } from "@/core/lens/phrases";
import { useDesk } from "../desk/desk";

/** What happens to the lens when the framed page is used: links lead on, cart forms change its cart, redirects are followed. */
export function useSite() {
  const { look, ruleset, storefront, products, facts } = useDesk();
  const { visit, setVisit } = look;
  const { origin } = ruleset.site;
  const { enqueueSnackbar } = useSnackbar();
  const goTo = useCallback(
    (address: string, memory?: unknown) => {
      const taken = takePaste(address, visit, origin);
      if ("visit" in taken) setVisit(memory ? { ...taken.visit, memory } : taken.visit);
    },
    [visit, setVisit, origin],
  );
  /** Goes on to another page of the site as a link would: history, markers and the referrer move. `after`: minutes. */
  const walk = useCallback(
    (path: string, after = 0) => {
      const next = play(look.engine, visit, [{ path, after }], facts).find(({ step }) => step === 1);
      if (next) setVisit(next.visit);
    },
    [look.engine, visit, facts, setVisit],
  );
  const onGo = useCallback(
    (href: string) => {
      const url = URL.canParse(href) ? new URL(href) : undefined;
      if (!url) return;
      if (url.origin === storefront) walk(`${url.pathname}${url.search}`);
      else
        enqueueSnackbar(
          t("This link leads away from the site, to {href}.", {
            href: url.protocol === "mailto:" || url.protocol === "tel:" ? url.href : url.host,
          }),
        );
    },
    [storefront, walk, enqueueSnackbar],
  );
  const { decision } = look;
  const onFollow = useCallback(
    (location: string) => {
      if (new URL(location).origin === new URL(origin).origin) goTo(location, decision.memory ?? undefined);
      else
        enqueueSnackbar(
          t("It leads away from the site, to {host}: lenses look at this site only.", { host: new URL(location).host }),
        );
    },
    [origin, goTo, decision.memory, enqueueSnackbar],
  );
  const onForm = useCallback(
    (_action: string, fields: Record<string, string>) => {
      const lines = changeLines(visit.cart?.lines ?? [], fields, products);
      if (lines) setVisit({ ...visit, cart: { ...visit.cart, lines } });
      else enqueueSnackbar(t("Through a lens nothing is sent. On the site this form works."));
    },
    [visit, setVisit, products, enqueueSnackbar],
  );
  return { onGo, onFollow, onForm, walk };
}
