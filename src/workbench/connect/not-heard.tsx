"use client";
import { t } from "@/core/messages/t";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { To } from "../parts/desk/site-address";

/** For whoever puts something live on a site whose tag nobody has heard from: visitors get it once the tag is in. */
export function NotHeard() {
  const { lookedBy } = useDesk();
  const { value: heard } = useAsked("heard", [], { when: lookedBy === "tag" });
  if (!heard || heard.last || heard.served) return null;
  return (
    <span className="unsure" role="status">
      {t("Nothing was heard from the tag on this site’s pages yet: visitors get this once it is in.")}{" "}
      <To href="/connect">{t("Connect")}</To>
    </span>
  );
}
