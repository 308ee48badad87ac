"use client";
import { useSnackbar } from "notistack";
import { useCallback } from "react";
import { changeLines } from "@/core/cart/about";
import { takePaste } from "@/core/visit/phrases";
import { useDesk } from "../desk/desk";

/** What happens to the lens when the framed page is used: links lead on, cart forms change its cart, redirects are followed. */
export function useSite() {
  const { look, ruleset, storefront, products } = useDesk();
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
  const onGo = useCallback(
    (href: string) => {
      const url = URL.canParse(href) ? new URL(href) : undefined;
      if (!url) return;
      if (url.origin === storefront) goTo(`${origin}${url.pathname}${url.search}`);
      else
        enqueueSnackbar(
          `This link leads away from the site, to ${url.protocol === "mailto:" || url.protocol === "tel:" ? url.href : url.host}.`,
        );
    },
    [storefront, origin, goTo, enqueueSnackbar],
  );
  const { decision } = look;
  const onFollow = useCallback(
    (location: string) => {
      if (new URL(location).origin === new URL(origin).origin) goTo(location, decision.memory ?? undefined);
      else enqueueSnackbar(`It leads away from the site, to ${new URL(location).host}: lenses look at this site only.`);
    },
    [origin, goTo, decision.memory, enqueueSnackbar],
  );
  const onForm = useCallback(
    (_action: string, fields: Record<string, string>) => {
      const lines = changeLines(visit.cart?.lines ?? [], fields, products);
      if (lines) setVisit({ ...visit, cart: { ...visit.cart, lines } });
      else enqueueSnackbar("Through a lens nothing is sent. On the site this form works.");
    },
    [visit, setVisit, products, enqueueSnackbar],
  );
  return { onGo, onFollow, onForm };
}
